package planning

import (
	"maps"
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
	// oneOf and uses are who could do it, and with what, if it were not held.
	oneOf []string
	uses  map[string]int
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
	j.held = &held{step: step.ID, from: from, oneOf: step.OneOf, uses: step.Uses}
	// Whoever holds it somewhere wants it there, whatever time they like else.
	step.Uses = maps.Clone(step.Uses)
	maps.DeleteFunc(step.Uses, func(id string, _ int) bool { return strings.HasPrefix(id, timesOf) })
	step.Uses[j.heldID()] = 1
	if h.PersonID != nil && slices.ContainsFunc(s.Basis.Workshop.People, func(p workshop.Person) bool { return p.ID == *h.PersonID }) {
		step.OneOf = []string{personID(*h.PersonID)}
	}
	length := 0
	for _, id := range step.OneOf {
		own, paced := step.MinutesBy[id]
		if !paced {
			own = step.Minutes
		}
		length = max(length, own)
	}
	j.held.to = from.Add(time.Duration(length+step.Setup.Minutes) * time.Minute)
}

// letGo frees steps that cannot be where they are held, or at the times that
// their work is liked at, so that their lots are planned all the same.
func (s *Schedule) letGo(a plan.Answer) bool {
	freed := false
	for _, u := range a.Unplanned {
		for i := range s.Jobs {
			if j := &s.Jobs[i]; j.ID == u.Job && (j.unhold() || j.anyTime()) {
				freed = true
			}
		}
	}
	return freed
}

// unhold frees the step that is held; false when none is.
func (j *Job) unhold() bool {
	if j.held == nil {
		return false
	}
	j.steps = slices.Clone(j.steps)
	k := slices.IndexFunc(j.steps, func(step plan.Step) bool { return step.ID == j.held.step })
	j.steps[k].Uses, j.steps[k].OneOf = j.held.uses, j.held.oneOf
	j.held, j.HoldBroken = nil, true
	return true
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
