package planning

import (
	"slices"
	"strings"
	"time"

	"tidykiln/core/plan"
	"tidykiln/internal/batches"
	"tidykiln/internal/workshop"
)

// held is a step that is held in its place. In the plan it has a place of its
// own, which is open for just as long as it takes.
type held struct {
	step     string
	from, to time.Time
	// oneOf is who could do it if it were not held.
	oneOf []string
}

const heldPrefix = "held-"

func (j Job) heldID() string { return heldPrefix + j.ID }

// hold holds a step of a job where it is wanted; what is in hand is not held.
func (j *Job) hold(h *batches.Hold, s Snapshot) {
	if h == nil {
		return
	}
	i := slices.IndexFunc(j.steps, func(step plan.Step) bool { return step.ID == stepID(h.Step) && step.StartedAt == nil })
	if i < 0 {
		return
	}
	step := &j.steps[i]
	from := h.At
	if from.Before(s.from()) {
		from = s.from()
	}
	length := time.Duration(step.Minutes+step.Setup.Minutes) * time.Minute
	j.held = &held{step: step.ID, from: from, to: from.Add(length), oneOf: step.OneOf}
	step.Uses[j.heldID()] = 1
	if h.PersonID != nil && slices.ContainsFunc(s.Basis.Workshop.People, func(p workshop.Person) bool { return p.ID == *h.PersonID }) {
		step.OneOf = []string{personID(*h.PersonID)}
	}
}

// letGo frees steps that cannot be where they are held, so that their lots are
// planned all the same, and says so.
func (s *Schedule) letGo(a plan.Answer) bool {
	freed := false
	for _, u := range a.Unplanned {
		for i := range s.Jobs {
			j := &s.Jobs[i]
			if j.ID != u.Job || j.held == nil {
				continue
			}
			k := slices.IndexFunc(j.steps, func(step plan.Step) bool { return step.ID == j.held.step })
			delete(j.steps[k].Uses, j.heldID())
			j.steps[k].OneOf = j.held.oneOf
			j.held, j.HoldBroken, freed = nil, true, true
		}
	}
	return freed
}

// heldPlaces are the places of what is held.
func (s *Schedule) heldPlaces() (places []plan.Resource) {
	for _, j := range s.Jobs {
		if j.held != nil {
			places = append(places, plan.Resource{ID: j.heldID(), Capacity: 1, Open: [][2]time.Time{{j.held.from, j.held.to}}})
		}
	}
	return places
}

// isHeld tells whether a reason speaks of a place that is held.
func isHeld(r plan.Reason) bool { return strings.HasPrefix(r.Resource, heldPrefix) }
