package plan_test

import (
	"time"

	"tidykiln/core/plan"
)

// turn is a step on a hand, in the order of the problem.
type turn struct {
	step plan.Step
	at   plan.PlannedStep
}

func latest(a, b time.Time) time.Time {
	if a.After(b) {
		return a
	}
	return b
}

// handOf is whose sittings count for a step; empty when nobody's do.
func (c *checker) handOf(s plan.Step, at plan.PlannedStep) string {
	capacity, hours := map[string]int{}, map[string]bool{}
	for _, r := range c.problem.Resources {
		capacity[r.ID], hours[r.ID] = r.Capacity, r.Open != nil
	}
	hand := at.By
	if len(s.OneOf) == 0 {
		hand = ""
	}
	if hand == "" && s.Setup != nil {
		hand = s.Setup.Hand
	}
	if hand == "" {
		for id, n := range s.Uses {
			if n > 0 && hours[id] && capacity[id] == 1 {
				if hand != "" {
					return ""
				}
				hand = id
			}
		}
	}
	if capacity[hand] > 1 {
		return ""
	}
	return hand
}

// sittings holds that what is joined follows like work on the same hand.
func (c *checker) sittings() {
	within := 15
	if c.problem.JoinWithin != nil {
		within = *c.problem.JoinWithin
	}
	turns := map[string][]turn{}
	for _, j := range c.problem.Jobs {
		for _, s := range j.Steps {
			at, planned := c.at[j.ID+"/"+s.ID]
			if !planned && s.EndedAt != nil {
				// What was done counts, though its job has no place.
				at = plan.PlannedStep{Job: j.ID, Step: s.ID, Start: *s.StartedAt, End: *s.EndedAt, By: s.By}
				if s.By == "" && len(s.OneOf) > 0 {
					at.By = s.OneOf[0]
				}
			} else if !planned && s.StartedAt != nil {
				// In hand, of a job without a place: it goes on now, or after what else is in hand.
				at = plan.PlannedStep{Job: j.ID, Step: s.ID, Start: *s.StartedAt, By: s.By, Joined: true}
				if s.By == "" && len(s.OneOf) > 0 {
					at.By = s.OneOf[0]
				}
				at.End = latest(s.StartedAt.Add(minutes(lasts(s, at))), c.problem.From)
			} else if !planned {
				continue
			}
			takes := map[string]bool{at.By: true}
			for id, n := range s.Uses {
				takes[id] = takes[id] || n > 0
			}
			for id := range takes {
				turns[id] = append(turns[id], turn{s, at})
			}
		}
	}
	for _, j := range c.problem.Jobs {
		for _, s := range j.Steps {
			at, planned := c.at[j.ID+"/"+s.ID]
			if !planned || !at.Joined {
				continue
			}
			c.joined(j.ID, s, at, turns[c.handOf(s, at)], within)
		}
	}
}

func (c *checker) joined(job string, s plan.Step, at plan.PlannedStep, turns []turn, within int) {
	var before *turn
	for i := range turns {
		t := &turns[i]
		if t.at.Job == job && t.at.Step == s.ID || t.at.End.After(at.Start) {
			continue
		}
		if before == nil || t.at.End.After(before.at.End) || t.at.End.Equal(before.at.End) && !t.at.Start.Before(before.at.Start) {
			before = t
		}
	}
	switch {
	case before == nil || s.Setup == nil || before.step.Setup == nil || before.step.Setup.Kin != s.Setup.Kin:
		c.say("%s/%s is joined to no like work", job, s.ID)
	case at.Start.Sub(before.at.End) > minutes(within):
		c.say("%s/%s is joined %s after", job, s.ID, at.Start.Sub(before.at.End))
	case !c.open(c.handOf(s, at), plan.PlannedStep{Start: before.at.Start, End: at.End}):
		c.say("%s/%s is joined over closed hours", job, s.ID)
	}
}
