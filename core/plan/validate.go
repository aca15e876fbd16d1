package plan

import (
	"fmt"
	"slices"
	"time"
)

// Bounds that keep every sum of minutes far inside an int.
const (
	mostMinutes  = 10 * 366 * 24 * 60
	mostCapacity = 1_000_000
)

func (p Problem) validate() error {
	if p.Format != ProblemFormat {
		return fmt.Errorf("format: must be %q", ProblemFormat)
	}
	if p.From.IsZero() {
		return fmt.Errorf("from: must be a time")
	}
	if p.BudgetMs != nil && *p.BudgetMs < 0 {
		return fmt.Errorf("budgetMs: must not be negative")
	}
	if p.Iterations != nil && *p.Iterations < 0 {
		return fmt.Errorf("iterations: must not be negative")
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
			return fmt.Errorf("%s.id: must not be empty", at)
		}
		if jobs[j.ID] {
			return fmt.Errorf("%s.id: %q is there twice", at, j.ID)
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
		return fmt.Errorf("%s.id: must not be empty", at)
	}
	if known[r.ID] {
		return fmt.Errorf("%s.id: %q is there twice", at, r.ID)
	}
	if r.Capacity < 0 || r.Capacity > mostCapacity {
		return fmt.Errorf("%s.capacity: must be from 0 to %d", at, mostCapacity)
	}
	for i, open := range r.Open {
		field := fmt.Sprintf("%s.open[%d]", at, i)
		if open[1].Before(open[0]) {
			return fmt.Errorf("%s: must not end before it begins", field)
		}
		if !near(from, open[0]) || !near(from, open[1]) {
			return fmt.Errorf("%s: must lie within ten years of from", field)
		}
	}
	return nil
}

func (j Job) validate(at string, known map[string]bool, from time.Time) error {
	if j.Weight != nil && !(*j.Weight >= 0 && *j.Weight <= 1e6) {
		return fmt.Errorf("%s.weight: must be from 0 to 1000000", at)
	}
	if j.Release != nil && !near(from, *j.Release) {
		return fmt.Errorf("%s.release: must lie within ten years of from", at)
	}
	if j.Due != nil && !near(from, *j.Due) {
		return fmt.Errorf("%s.due: must lie within ten years of from", at)
	}
	if len(j.Steps) == 0 {
		return fmt.Errorf("%s.steps: must hold at least one step", at)
	}
	main := false
	outer := make(map[string]bool, len(j.Steps))
	ids := make(map[string]bool, len(j.Steps))
	for i, s := range j.Steps {
		at := fmt.Sprintf("%s.steps[%d]", at, i)
		if s.ID == "" {
			return fmt.Errorf("%s.id: must not be empty", at)
		}
		if ids[s.ID] {
			return fmt.Errorf("%s.id: %q is there twice", at, s.ID)
		}
		ids[s.ID] = true
		if s.Inside != "" {
			if !outer[s.Inside] {
				return fmt.Errorf("%s.inside: %q is not an earlier step with a rest of its own", at, s.Inside)
			}
			if s.Rest != nil {
				return fmt.Errorf("%s.rest: a step inside another's rest has none of its own", at)
			}
		} else {
			main, outer[s.ID] = true, true
		}
		if err := s.validate(at, known, from); err != nil {
			return err
		}
	}
	if !main {
		return fmt.Errorf("%s.steps: must hold at least one step that is not inside another's rest", at)
	}
	return nil
}

func (s Step) validate(at string, known map[string]bool, from time.Time) error {
	if s.Minutes < 1 || s.Minutes > mostMinutes {
		return fmt.Errorf("%s.minutes: must be a whole number from 1 to %d", at, mostMinutes)
	}
	if err := validateUses(at+".uses", s.Uses, known); err != nil {
		return err
	}
	for i, id := range s.OneOf {
		if !known[id] {
			return fmt.Errorf("%s.oneOf[%d]: %q is not among the resources", at, i, id)
		}
		if slices.Contains(s.OneOf[:i], id) {
			return fmt.Errorf("%s.oneOf[%d]: %q is there twice", at, i, id)
		}
	}
	if s.OneOf != nil && len(s.OneOf) == 0 {
		return fmt.Errorf("%s.oneOf: must name at least one resource", at)
	}
	if err := s.validatePin(at, from, known); err != nil {
		return err
	}
	for id := range s.Apart {
		if !known[id] {
			return fmt.Errorf("%s.apart: there is no resource %q", at, id)
		}
	}
	return s.Rest.validate(at+".rest", known)
}

func (s Step) validatePin(at string, from time.Time, known map[string]bool) error {
	if s.StartedAt == nil {
		switch {
		case s.EndedAt != nil:
			return fmt.Errorf("%s.endedAt: needs startedAt", at)
		case s.MinutesLeft != nil:
			return fmt.Errorf("%s.minutesLeft: needs startedAt", at)
		case s.By != "":
			return fmt.Errorf("%s.by: needs startedAt", at)
		}
		return nil
	}
	if s.By != "" && !known[s.By] {
		return fmt.Errorf("%s.by: %q is not among the resources", at, s.By)
	}
	if left := s.MinutesLeft; left != nil {
		if s.EndedAt != nil {
			return fmt.Errorf("%s.minutesLeft: a step that has ended has nothing left", at)
		}
		if *left < 0 || *left > mostMinutes {
			return fmt.Errorf("%s.minutesLeft: must be a whole number from 0 to %d", at, mostMinutes)
		}
	}
	if !near(from, *s.StartedAt) {
		return fmt.Errorf("%s.startedAt: must lie within ten years of from", at)
	}
	if s.EndedAt != nil && (s.EndedAt.Before(*s.StartedAt) || !near(from, *s.EndedAt)) {
		return fmt.Errorf("%s.endedAt: must not be before startedAt", at)
	}
	return nil
}

func (r *Rest) validate(at string, known map[string]bool) error {
	if r == nil {
		return nil
	}
	if r.Min < 0 || r.Min > mostMinutes {
		return fmt.Errorf("%s.min: must be from 0 to %d", at, mostMinutes)
	}
	if r.Ideal != nil && (*r.Ideal < r.Min || *r.Ideal > mostMinutes) {
		return fmt.Errorf("%s.ideal: must not be under min", at)
	}
	if r.Max != nil && (*r.Max < r.Min || *r.Max > mostMinutes) {
		return fmt.Errorf("%s.max: must not be under min", at)
	}
	if r.Max != nil && r.ideal() > *r.Max {
		return fmt.Errorf("%s.ideal: must not be over max", at)
	}
	return validateUses(at+".uses", r.Uses, known)
}

func validateUses(at string, uses map[string]int, known map[string]bool) error {
	for _, id := range sortedIDs(uses) {
		if !known[id] {
			return fmt.Errorf("%s.%s: is not among the resources", at, id)
		}
		if n := uses[id]; n < 0 || n > mostCapacity {
			return fmt.Errorf("%s.%s: must be from 0 to %d", at, id, mostCapacity)
		}
	}
	return nil
}

func near(a, b time.Time) bool {
	gap := a.Sub(b)
	return gap > -mostMinutes*time.Minute && gap < mostMinutes*time.Minute
}
