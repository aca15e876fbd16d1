package planning

import (
	"time"

	"tidykiln/core/plan"
)

// latestStart is by when a job must be begun to be done by its due at usual
// rests, were hands free whenever it needs them: reckoned back from the due, step
// by step, in hours that somebody who does the step has. Nil where even now is too late.
func (s *Schedule) latestStart(j Job) *time.Time {
	hours := map[string][][2]time.Time{}
	for _, p := range s.Basis.Workshop.People {
		hours[personID(p.ID)] = p.Times().Open(s.from(), *j.Due, s.Location())
	}
	latest := *j.Due
	for i := len(j.steps) - 1; i >= 0; i-- {
		step := j.steps[i]
		if step.Inside != "" {
			continue
		}
		latest = latest.Add(-restAfter(step, i == len(j.steps)-1))
		start := time.Time{}
		for _, by := range step.OneOf {
			if at := lastIn(hours[by], latest, minutesBy(step, by)); at.After(start) {
				start = at
			}
		}
		if start.IsZero() {
			return nil
		}
		latest = start
	}
	return &latest
}

// restAfter is the usual rest after a step; after the last one the shortest that counts as done.
func restAfter(step plan.Step, last bool) time.Duration {
	if step.Rest == nil {
		return 0
	}
	minutes := step.Rest.Min
	if step.Rest.Ideal != nil && !last {
		minutes = *step.Rest.Ideal
	}
	return time.Duration(minutes) * time.Minute
}

// minutesBy is how long a step takes somebody by itself, set-up and all.
func minutesBy(step plan.Step, by string) time.Duration {
	minutes := step.Minutes
	if own, paced := step.MinutesBy[by]; paced {
		minutes = own
	}
	if step.Setup != nil {
		minutes += step.Setup.Minutes
	}
	return time.Duration(minutes) * time.Minute
}

// lastIn is the last moment from which so long is open until another; zero where there is none.
func lastIn(open [][2]time.Time, until time.Time, long time.Duration) time.Time {
	for i := len(open) - 1; i >= 0; i-- {
		end := open[i][1]
		if until.Before(end) {
			end = until
		}
		if start := end.Add(-long); !start.Before(open[i][0]) {
			return start
		}
	}
	return time.Time{}
}
