package plan_test

import (
	"context"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/plan"
)

// reasons takes what a plan says of why its steps start no sooner, and holds it
// against the plan itself: what is said to have been in the way was.
type reasons struct {
	checker
	lies []string
}

func liesIn(p plan.Problem, a plan.Answer) []string {
	r := reasons{checker: checker{problem: p, answer: a, at: map[string]plan.PlannedStep{}}}
	for _, s := range a.Steps {
		r.at[s.Job+"/"+s.Step] = s
	}
	for _, j := range p.Jobs {
		if r.planned(j.ID) {
			r.job(j)
		}
	}
	for _, j := range p.Jobs {
		for _, s := range j.Steps {
			if r.planned(j.ID) && s.StartedAt == nil {
				r.step(j, s, r.at[j.ID+"/"+s.ID])
			}
		}
	}
	return r.lies
}

func (r *reasons) says(ok bool, at plan.PlannedStep, format string, args ...any) {
	if !ok {
		r.lies = append(r.lies, fmt.Sprintf("%s/%s at %s because %q: %s", at.Job, at.Step, at.Start.Format("2 15:04"), at.Because, fmt.Sprintf(format, args...)))
	}
}

func (r *reasons) step(j plan.Job, s plan.Step, at plan.PlannedStep) {
	why := at.Because
	before, rest := r.before(j, s)
	switch why.Kind {
	case plan.Release:
		r.says(at.Start.Equal(r.release(j)), at, "the release is %s", r.release(j))
	case plan.EndOfStep:
		r.says(at.Start.Equal(before.End), at, "%s ends at %s", before.Step, before.End)
	case plan.FloorOfRest:
		r.says(at.Start.Equal(before.End.Add(minutes(rest.Min))), at, "%s ends at %s and rests %d", before.Step, before.End, rest.Min)
	case plan.UsualRest:
		r.says(at.Start.Equal(before.End.Add(minutes(*rest.Ideal))), at, "%s ends at %s and rests %d", before.Step, before.End, *rest.Ideal)
	case plan.Hours, plan.OpeningHours:
		r.says(why.Kind == plan.OpeningHours || why.Resource == at.By, at, "it is done by %s", at.By)
		r.says(r.opensAt(why.Resource, at), at, "it is open as long before")
	case plan.Busy, plan.Full:
		r.says(!at.Until.After(at.Start) || s.Rest != nil && s.Rest.Uses[why.Resource] > 0 && !at.Until.After(r.endsWith(j, s, at)), at, "until %s", at.Until)
		r.says(r.inTheWay(why.Resource, s, at), at, "there was room before %s", at.Until)
	case plan.Together:
		r.says(r.together(at), at, "nothing like it is beside it")
	case plan.Ceiling:
		r.says(rest != nil || s.Rest != nil && s.Rest.Max != nil, at, "no ceiling follows")
	}
}

func (r *reasons) release(j plan.Job) time.Time {
	if j.Release != nil && j.Release.After(r.problem.From) {
		return *j.Release
	}
	return r.problem.From
}

// endsWith is when a step ends, and those that follow it at once: what it rests
// on afterwards may be full until then.
func (r *reasons) endsWith(j plan.Job, s plan.Step, at plan.PlannedStep) time.Time {
	end, after := at.End, false
	for _, other := range j.Steps {
		next := r.at[j.ID+"/"+other.ID]
		if after && other.Inside == "" && next.Start.Equal(end) {
			end = next.End
		}
		after = after || other.ID == s.ID
	}
	return end
}

// before is the step before one that counts for the list order, and the rest after it.
func (r *reasons) before(j plan.Job, s plan.Step) (before plan.PlannedStep, rest *plan.Rest) {
	for _, other := range j.Steps {
		if other.ID == s.ID {
			break
		}
		if other.Inside == "" {
			before, rest = r.at[j.ID+"/"+other.ID], other.Rest
		}
	}
	return before, rest
}

// opensAt tells that a step could not have begun a minute sooner for the hours of
// something alone.
func (r *reasons) opensAt(id string, at plan.PlannedStep) bool {
	sooner := at
	sooner.Start, sooner.End = at.Start.Add(-time.Minute), at.End.Add(-time.Minute)
	return r.open(id, at) && !r.open(id, sooner)
}

// inTheWay tells that right before a moment others held so much of something that
// the step found no room, for itself or for the rest after it.
func (r *reasons) inTheWay(id string, s plan.Step, at plan.PlannedStep) bool {
	need := s.Uses[id]
	if at.By == id {
		need++
	}
	if s.Rest != nil {
		need = max(need, s.Rest.Uses[id])
	}
	for _, j := range r.problem.Jobs {
		if before, rest := r.before(j, s); j.ID == at.Job && rest != nil && before.Job != "" {
			need = max(need, rest.Uses[id])
		}
	}
	held := 0
	for _, h := range r.holds {
		mine := h.job == at.Job && (!h.rest || s.Inside == "")
		if h.resource == id && !mine && h.start.Before(at.Until) && !h.end.Before(at.Until) {
			held += h.amount
		}
	}
	i := slices.IndexFunc(r.problem.Resources, func(of plan.Resource) bool { return of.ID == id })
	return held+need > r.problem.Resources[i].Capacity || r.ownInTheWay(id, at)
}

// ownInTheWay tells that another step of the same job had it until then: work
// inside a rest goes beside other steps of its job.
func (r *reasons) ownInTheWay(id string, at plan.PlannedStep) bool {
	return slices.ContainsFunc(r.holds, func(h hold) bool {
		return h.resource == id && h.job == at.Job && h.end.Equal(at.Until)
	})
}

// together tells that like work ends or begins where a step begins or ends, give
// or take what still counts as one sitting.
func (r *reasons) together(at plan.PlannedStep) bool {
	within := minutes(15)
	if r.problem.JoinWithin != nil {
		within = minutes(*r.problem.JoinWithin)
	}
	for _, other := range r.answer.Steps {
		if other.Job == at.Job && other.Step == at.Step {
			continue
		}
		if at.Joined && !other.End.After(at.Start) && !other.End.Before(at.Start.Add(-within)) ||
			other.Joined && !at.End.After(other.Start) && !at.End.Before(other.Start.Add(-within)) {
			return true
		}
	}
	return false
}

func TestWhatAPlanSaysOfItselfIsTrue(t *testing.T) {
	said := map[plan.Kind]int{}
	rapid.Check(t, func(t *rapid.T) {
		p := roomyProblem(t)
		if rapid.Bool().Draw(t, "crowded") {
			p = randomProblem(t)
			p.Iterations = new(20)
		}
		a, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		assert.Empty(t, liesIn(p, a))
		for _, s := range a.Steps {
			said[s.Because.Kind]++
		}
	})
	for _, kind := range []plan.Kind{plan.EndOfStep, plan.FloorOfRest, plan.UsualRest, plan.Hours, plan.Busy, plan.Full, plan.Together} {
		assert.Positive(t, said[kind], "%d is said", kind)
	}
}
