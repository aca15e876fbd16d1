package plan

import (
	"fmt"
	"slices"
	"time"

	"tidykiln/core/fault"
)

// Bounds that keep every sum of minutes far inside an int.
const (
	mostMinutes  = 10 * 366 * 24 * 60
	mostCapacity = 1_000_000
)

func (p Problem) validate() error {
	if p.Format != ProblemFormat {
		return fault.At("format", "must be %q", ProblemFormat)
	}
	if p.From.IsZero() {
		return fault.At("from", "must be a time")
	}
	if p.BudgetMs != nil && *p.BudgetMs < 0 {
		return fault.At("budgetMs", "must not be negative")
	}
	if p.Iterations != nil && *p.Iterations < 0 {
		return fault.At("iterations", "must not be negative")
	}
	if p.JoinWithin != nil && (*p.JoinWithin < 0 || *p.JoinWithin > mostMinutes) {
		return fault.At("joinWithin", "must be from 0 to %d", mostMinutes)
	}
	known := make(map[string]bool, len(p.Resources))
	for i, r := range p.Resources {
		if err := r.validate(fmt.Sprintf("resources[%d]", i), known, p.From); err != nil {
			return err
		}
		known[r.ID] = true
	}
	jobs := make(map[string]bool, len(p.Jobs))
	for i, j := range p.Jobs {
		at := fmt.Sprintf("jobs[%d]", i)
		if j.ID == "" {
			return fault.At(at+".id", "must not be empty")
		}
		if jobs[j.ID] {
			return fault.At(at+".id", "%q is there twice", j.ID)
		}
		jobs[j.ID] = true
		if err := j.validate(at, known, p.From); err != nil {
			return err
		}
	}
	return nil
}

func (r Resource) validate(at string, known map[string]bool, from time.Time) error {
	if r.ID == "" {
		return fault.At(at+".id", "must not be empty")
	}
	if known[r.ID] {
		return fault.At(at+".id", "%q is there twice", r.ID)
	}
	if r.Capacity < 0 || r.Capacity > mostCapacity {
		return fault.At(at+".capacity", "must be from 0 to %d", mostCapacity)
	}
	for i, open := range r.Open {
		field := fmt.Sprintf("%s.open[%d]", at, i)
		if open[1].Before(open[0]) {
			return fault.At(field, "must not end before it begins")
		}
		if !near(from, open[0]) || !near(from, open[1]) {
			return fault.At(field, "must lie within ten years of from")
		}
	}
	return nil
}

func (j Job) validate(at string, known map[string]bool, from time.Time) error {
	if j.Weight != nil && !(*j.Weight >= 0 && *j.Weight <= 1e6) {
		return fault.At(at+".weight", "must be from 0 to 1000000")
	}
	if j.Release != nil && !near(from, *j.Release) {
		return fault.At(at+".release", "must lie within ten years of from")
	}
	if j.Due != nil && !near(from, *j.Due) {
		return fault.At(at+".due", "must lie within ten years of from")
	}
	if len(j.Steps) == 0 {
		return fault.At(at+".steps", "must hold at least one step")
	}
	main := false
	outer := make(map[string]bool, len(j.Steps))
	ids := make(map[string]bool, len(j.Steps))
	for i, s := range j.Steps {
		at := fmt.Sprintf("%s.steps[%d]", at, i)
		if s.ID == "" {
			return fault.At(at+".id", "must not be empty")
		}
		if ids[s.ID] {
			return fault.At(at+".id", "%q is there twice", s.ID)
		}
		ids[s.ID] = true
		if s.Inside != "" {
			if !outer[s.Inside] {
				return fault.At(at+".inside", "%q is not an earlier step with a rest of its own", s.Inside)
			}
			if s.Rest != nil {
				return fault.At(at+".rest", "a step inside another's rest has none of its own")
			}
		} else {
			main, outer[s.ID] = true, true
		}
		if err := s.validate(at, known, from); err != nil {
			return err
		}
	}
	if !main {
		return fault.At(at+".steps", "must hold at least one step that is not inside another's rest")
	}
	return nil
}

func (s Step) validate(at string, known map[string]bool, from time.Time) error {
	if s.Minutes < 1 || s.Minutes > mostMinutes {
		return fault.At(at+".minutes", "must be a whole number from 1 to %d", mostMinutes)
	}
	if err := validateUses(at+".uses", s.Uses, known); err != nil {
		return err
	}
	for i, id := range s.OneOf {
		if !known[id] {
			return fault.At(fmt.Sprintf("%s.oneOf[%d]", at, i), "%q is not among the resources", id)
		}
		if slices.Contains(s.OneOf[:i], id) {
			return fault.At(fmt.Sprintf("%s.oneOf[%d]", at, i), "%q is there twice", id)
		}
	}
	if s.OneOf != nil && len(s.OneOf) == 0 {
		return fault.At(at+".oneOf", "must name at least one resource")
	}
	for _, id := range sortedIDs(s.MinutesBy) {
		if m := s.MinutesBy[id]; !known[id] || m < 1 || m > mostMinutes {
			return fault.At(fmt.Sprintf("%s.minutesBy.%s", at, id), "must be of one of the resources, and from 1 to %d", mostMinutes)
		}
	}
	if err := s.validateSetup(at + ".setup"); err != nil {
		return err
	}
	if err := s.validatePin(at, from, known); err != nil {
		return err
	}
	for id := range s.Apart {
		if !known[id] {
			return fault.At(at+".apart", "there is no resource %q", id)
		}
	}
	return s.Rest.validate(at+".rest", known)
}

func (s Step) validateSetup(at string) error {
	switch {
	case s.Setup == nil:
		return nil
	case s.Setup.Kin == "":
		return fault.At(at+".kin", "must not be empty")
	case s.Setup.Minutes < 0 || s.Setup.Minutes > mostMinutes:
		return fault.At(at+".minutes", "must be from 0 to %d", mostMinutes)
	case s.Setup.Hand != "" && s.Uses[s.Setup.Hand] == 0:
		return fault.At(at+".hand", "%q is not among its uses", s.Setup.Hand)
	}
	return nil
}

func (s Step) validatePin(at string, from time.Time, known map[string]bool) error {
	if s.StartedAt == nil {
		switch {
		case s.EndedAt != nil:
			return fault.At(at+".endedAt", "needs startedAt")
		case s.MinutesLeft != nil:
			return fault.At(at+".minutesLeft", "needs startedAt")
		case s.By != "":
			return fault.At(at+".by", "needs startedAt")
		}
		return nil
	}
	if s.By != "" && !known[s.By] {
		return fault.At(at+".by", "%q is not among the resources", s.By)
	}
	if left := s.MinutesLeft; left != nil {
		if s.EndedAt != nil {
			return fault.At(at+".minutesLeft", "a step that has ended has nothing left")
		}
		if *left < 0 || *left > mostMinutes {
			return fault.At(at+".minutesLeft", "must be a whole number from 0 to %d", mostMinutes)
		}
	}
	if !near(from, *s.StartedAt) {
		return fault.At(at+".startedAt", "must lie within ten years of from")
	}
	if s.EndedAt != nil && (s.EndedAt.Before(*s.StartedAt) || !near(from, *s.EndedAt)) {
		return fault.At(at+".endedAt", "must not be before startedAt")
	}
	return nil
}

func (r *Rest) validate(at string, known map[string]bool) error {
	if r == nil {
		return nil
	}
	if r.Min < 0 || r.Min > mostMinutes {
		return fault.At(at+".min", "must be from 0 to %d", mostMinutes)
	}
	if r.Ideal != nil && (*r.Ideal < r.Min || *r.Ideal > mostMinutes) {
		return fault.At(at+".ideal", "must not be under min")
	}
	if r.Max != nil && (*r.Max < r.Min || *r.Max > mostMinutes) {
		return fault.At(at+".max", "must not be under min")
	}
	if r.Max != nil && r.ideal() > *r.Max {
		return fault.At(at+".ideal", "must not be over max")
	}
	return validateUses(at+".uses", r.Uses, known)
}

func validateUses(at string, uses map[string]int, known map[string]bool) error {
	for _, id := range sortedIDs(uses) {
		if !known[id] {
			return fault.At(fmt.Sprintf("%s.%s", at, id), "is not among the resources")
		}
		if n := uses[id]; n < 0 || n > mostCapacity {
			return fault.At(fmt.Sprintf("%s.%s", at, id), "must be from 0 to %d", mostCapacity)
		}
	}
	return nil
}

func near(a, b time.Time) bool {
	gap := a.Sub(b)
	return gap > -mostMinutes*time.Minute && gap < mostMinutes*time.Minute
}
