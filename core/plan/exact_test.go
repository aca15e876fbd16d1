package plan_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/plan"
)

// smallCase is a studio of one person with a tight rack: three to five jobs of
// three or four steps, some with ceilings.
func smallCase(seed uint64) plan.Problem {
	r := rand.New(rand.NewPCG(seed, 7))
	from := time.Date(2027, 3, 1, 8, 0, 0, 0, time.UTC)
	hands := plan.Resource{ID: "hands", Capacity: 1}
	for day := range 21 {
		opens := from.AddDate(0, 0, day).Add(minutes(60))
		hands.Open = append(hands.Open, [2]time.Time{opens, opens.Add(minutes(240 + 30*r.IntN(5)))})
	}
	p := plan.Problem{Format: plan.ProblemFormat, From: from, Resources: []plan.Resource{hands, {ID: "rack", Capacity: 12 + r.IntN(9)}}}
	for n := range 3 + r.IntN(3) {
		j := plan.Job{ID: fmt.Sprint("B-", n), Weight: new(float64(1 + r.IntN(3)))}
		pieces, total := 3+r.IntN(8), 0
		for i := range 3 + r.IntN(2) {
			low := 60 + 5*r.IntN(120)
			s := plan.Step{ID: fmt.Sprint("s", i), Minutes: 15 + 5*r.IntN(16), Uses: map[string]int{"hands": 1},
				Rest: &plan.Rest{Min: low, Ideal: new(low + 5*r.IntN(60)), Uses: map[string]int{"rack": pieces}}}
			if r.IntN(3) == 0 {
				s.Rest.Max = new(*s.Rest.Ideal + 600 + 5*r.IntN(300))
			}
			total += s.Minutes + low
			j.Steps = append(j.Steps, s)
		}
		j.Due = new(from.Add(minutes(total + r.IntN(2400))))
		p.Jobs = append(p.Jobs, j)
	}
	return p
}

// exact finds the least weighted lateness of a small case by trying every order
// of the steps on the one hand, leaving out what cannot be better than best. For
// an order all that is asked is that starts be no earlier than others let them,
// so the earliest times are found by moving on whatever lies too early.
type exact struct {
	open     [][2]int
	capacity int
	jobs     []exactJob
	order    []exactStep
	next     []int // by job
	best     float64
}

type exactJob struct {
	due    int
	weight float64
	pieces int
	steps  []exactStep
}

type exactStep struct{ job, at, length, min, max int }

func newExact(p plan.Problem, best float64) *exact {
	e := &exact{capacity: p.Resources[1].Capacity, best: best, next: make([]int, len(p.Jobs))}
	for _, o := range p.Resources[0].Open {
		e.open = append(e.open, [2]int{int(o[0].Sub(p.From).Minutes()), int(o[1].Sub(p.From).Minutes())})
	}
	for n, j := range p.Jobs {
		job := exactJob{due: int(j.Due.Sub(p.From).Minutes()), weight: *j.Weight, pieces: j.Steps[0].Rest.Uses["rack"]}
		for i, s := range j.Steps {
			most := math.MaxInt32
			if s.Rest.Max != nil {
				most = *s.Rest.Max
			}
			job.steps = append(job.steps, exactStep{n, i, s.Minutes, s.Rest.Min, most})
		}
		e.jobs = append(e.jobs, job)
	}
	return e
}

const exactHorizon = 60 * 24 * 60

// opens is the first moment from m on at which so long fits.
func (e *exact) opens(m, length int) int {
	for _, o := range e.open {
		if start := max(m, o[0]); start+length <= o[1] {
			return start
		}
	}
	return exactHorizon
}

// times are the earliest starts of the steps in their order, from those of the
// order less its last; nil when there are none.
func (e *exact) times(before []int) []int {
	starts := append(append(make([]int, 0, len(before)+1), before...), 0)
	for changed := true; changed; {
		changed = false
		raise := func(i, to int) bool {
			if to = e.opens(to, e.order[i].length); to > starts[i] {
				starts[i], changed = to, true
			}
			return starts[i] < exactHorizon
		}
		last := make([]int, len(e.jobs)) // position of the job's step before, plus one
		for i, s := range e.order {
			low := starts[i]
			if i > 0 {
				low = max(low, starts[i-1]+e.order[i-1].length)
			}
			if b := last[s.job] - 1; b >= 0 {
				prev := e.order[b]
				low = max(low, starts[b]+prev.length+prev.min)
				if prev.max < math.MaxInt32 && !raise(b, max(starts[b], starts[i]-prev.max-prev.length)) {
					return nil
				}
			}
			last[s.job] = i + 1
			if !raise(i, low) || !e.room(i, last, starts, raise) {
				return nil
			}
		}
	}
	return starts
}

// room moves the step at i on until the rack holds what rests when it ends.
func (e *exact) room(i int, last, starts []int, raise func(i, to int) bool) bool {
	end := starts[i] + e.order[i].length
	held, over := 0, []int{}
	for n, j := range e.jobs {
		b := last[n] - 1
		if b < 0 {
			continue
		}
		s := e.order[b]
		if s.at == len(j.steps)-1 && n != e.order[i].job {
			if until := starts[b] + s.length + s.min; until > end {
				held += j.pieces
				over = append(over, n)
			}
			continue
		}
		held += j.pieces
	}
	if held <= e.capacity {
		return true
	}
	// Where the next step begins as this one ends, what its job held is free.
	if i+1 < len(e.order) && e.order[i+1].job != e.order[i].job && last[e.order[i+1].job] > 0 && held-e.jobs[e.order[i+1].job].pieces <= e.capacity {
		return raise(i, starts[i+1]-e.order[i].length)
	}
	if i+1 == len(e.order) {
		// Something may still follow at once.
		least := math.MaxInt
		for n, at := range last {
			if at > 0 && n != e.order[i].job && e.order[at-1].at < len(e.jobs[n].steps)-1 {
				least = min(least, held-e.jobs[n].pieces)
			}
		}
		if least <= e.capacity {
			return true
		}
	}
	if len(over) == 0 {
		return false
	}
	soonest := math.MaxInt
	for _, n := range over {
		s := e.order[last[n]-1]
		soonest = min(soonest, starts[last[n]-1]+s.length+s.min)
	}
	return raise(i, soonest-e.order[i].length)
}

// bound is the least lateness that an order so far can come to.
func (e *exact) bound(starts []int) float64 {
	now := 0
	if n := len(starts); n > 0 {
		now = starts[n-1] + e.order[n-1].length
	}
	sum := 0.0
	ends := make([]int, len(e.jobs))
	for i, s := range e.order {
		ends[s.job] = starts[i] + s.length + s.min
	}
	for n, j := range e.jobs {
		at := ends[n]
		for _, s := range j.steps[e.next[n]:] {
			at = e.opens(max(at, now), s.length) + s.length + s.min
		}
		sum += j.weight * float64(max(0, at-j.due))
	}
	return sum
}

func (e *exact) search(starts []int) {
	if e.bound(starts) >= e.best-1e-9 {
		return
	}
	if len(e.order) > 0 && allDone(e) {
		e.best = e.bound(starts)
		return
	}
	for n, j := range e.jobs {
		if e.next[n] == len(j.steps) {
			continue
		}
		e.order = append(e.order, j.steps[e.next[n]])
		e.next[n]++
		if with := e.times(starts); with != nil {
			e.search(with)
		}
		e.next[n]--
		e.order = e.order[:len(e.order)-1]
	}
}

func allDone(e *exact) bool {
	for n, j := range e.jobs {
		if e.next[n] < len(j.steps) {
			return false
		}
	}
	return true
}

// provenCases is how many small cases the tests prove; the benchmarks take 200.
const provenCases = 30

func TestSmallCasesComeToTheLeastLatenessThereIs(t *testing.T) {
	for seed := range uint64(provenCases) {
		p := smallCase(seed)
		p.Iterations = new(3000)
		a, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		require.Empty(t, brokenRules(p, a))
		if len(a.Unplanned) > 0 {
			continue
		}
		e := newExact(p, a.Objective.WeightedLateMinutes)
		e.search(nil)
		assert.InDelta(t, e.best, a.Objective.WeightedLateMinutes, 1e-6, "case %d", seed)
	}
}
