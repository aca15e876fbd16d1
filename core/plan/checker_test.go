package plan_test

import (
	"fmt"
	"math"
	"time"

	"tidykiln/core/plan"
)

// brokenRules is written from the documented rules alone and shares nothing
// with the planner: it takes each rule in turn and lists what a plan breaks.
// What is pinned is not judged, but what follows from it is.
func brokenRules(p plan.Problem, a plan.Answer) []string {
	c := checker{problem: p, answer: a, at: map[string]plan.PlannedStep{}}
	for _, s := range a.Steps {
		c.at[s.Job+"/"+s.Step] = s
	}
	c.everyJobOnce()
	for _, j := range p.Jobs {
		if c.planned(j.ID) {
			c.job(j)
		}
	}
	c.capacities()
	c.sittings()
	c.objective()
	return c.broken
}

type checker struct {
	problem plan.Problem
	answer  plan.Answer
	at      map[string]plan.PlannedStep
	holds   []hold
	broken  []string
}

type hold struct {
	resource   string
	start, end time.Time
	amount     int
	job        string
	rest       bool
}

func (c *checker) say(format string, args ...any) {
	c.broken = append(c.broken, fmt.Sprintf(format, args...))
}

func (c *checker) planned(job string) bool {
	for _, j := range c.answer.Jobs {
		if j.Job == job {
			return true
		}
	}
	return false
}

func (c *checker) everyJobOnce() {
	seen := map[string]int{}
	for _, j := range c.answer.Jobs {
		seen[j.Job]++
	}
	for _, j := range c.answer.Unplanned {
		seen[j.Job]++
		if j.Reason.String() == "" {
			c.say("%s is unplanned for no reason", j.Job)
		}
	}
	steps := 0
	for _, j := range c.problem.Jobs {
		if seen[j.ID] != 1 {
			c.say("%s is answered %d times", j.ID, seen[j.ID])
		}
		if c.planned(j.ID) {
			steps += len(j.Steps)
		}
	}
	if len(c.at) != steps || len(c.answer.Steps) != steps {
		c.say("%d steps answered, %d asked", len(c.answer.Steps), steps)
	}
	for i := 1; i < len(c.answer.Steps); i++ {
		if c.answer.Steps[i].Start.Before(c.answer.Steps[i-1].Start) {
			c.say("steps are not sorted by start")
		}
	}
}

func minutes(n int) time.Duration { return time.Duration(n) * time.Minute }

func (c *checker) job(j plan.Job) {
	release := c.problem.From
	if j.Release != nil && j.Release.After(release) {
		release = *j.Release
	}
	var main []plan.Step
	for _, s := range j.Steps {
		at := c.at[j.ID+"/"+s.ID]
		if s.StartedAt == nil && at.Start.Before(release) {
			c.say("%s/%s starts before the release", j.ID, s.ID)
		}
		if (s.StartedAt == nil || s.MinutesLeft != nil) && at.End.Sub(at.Start) != minutes(lasts(s, at)) {
			c.say("%s/%s lasts %s", j.ID, s.ID, at.End.Sub(at.Start))
		}
		c.uses(j.ID, s, at)
		if s.Inside == "" {
			main = append(main, s)
		}
	}
	var done time.Time
	for i, s := range main {
		end := c.at[j.ID+"/"+s.ID].End
		floor := time.Duration(0)
		if s.Rest != nil {
			floor = minutes(s.Rest.Min)
		}
		over := end.Add(floor)
		if i+1 < len(main) {
			next := c.at[j.ID+"/"+main[i+1].ID]
			over = next.Start
			if main[i+1].StartedAt == nil && next.Start.Before(end.Add(floor)) {
				c.say("%s/%s starts under the floor", j.ID, main[i+1].ID)
			}
			if s.Rest != nil && s.Rest.Max != nil && main[i+1].StartedAt == nil && next.Start.After(end.Add(minutes(*s.Rest.Max))) && !c.lost(j, s, main[i+1], end) {
				c.say("%s/%s starts over the ceiling", j.ID, main[i+1].ID)
			}
		}
		if s.Rest != nil {
			for id, n := range s.Rest.Uses {
				c.holds = append(c.holds, hold{id, end, over, n, j.ID, true})
			}
		}
		for _, inner := range j.Steps {
			in := c.at[j.ID+"/"+inner.ID]
			if inner.Inside == s.ID && inner.StartedAt == nil && (in.Start.Before(end) || in.End.After(over)) {
				c.say("%s/%s is not inside the rest after %s", j.ID, inner.ID, s.ID)
			}
		}
		done = over
	}
	c.done(j, done)
}

// lasts is how long a planned step takes, with its set-up unless it is joined.
func lasts(s plan.Step, at plan.PlannedStep) int {
	n := s.Minutes
	if s.MinutesLeft != nil {
		n = *s.MinutesLeft
	}
	if own, known := s.MinutesBy[at.By]; known {
		n = own
	}
	if s.Setup != nil && !at.Joined {
		n += s.Setup.Minutes
	}
	return n
}

func (c *checker) done(j plan.Job, done time.Time) {
	for _, answered := range c.answer.Jobs {
		if answered.Job != j.ID {
			continue
		}
		if !answered.Done.Equal(done) {
			c.say("%s is done %s, not %s", j.ID, done, answered.Done)
		}
		late := 0
		if j.Due != nil && done.After(*j.Due) {
			late = int(done.Sub(*j.Due) / time.Minute)
		}
		if answered.LateMinutes != late {
			c.say("%s is %d min late, not %d", j.ID, late, answered.LateMinutes)
		}
	}
}

func (c *checker) uses(job string, s plan.Step, at plan.PlannedStep) {
	need := map[string]int{}
	for id, n := range s.Uses {
		need[id] += n
	}
	if len(s.OneOf) > 0 {
		named := false
		for _, id := range s.OneOf {
			named = named || id == at.By
		}
		if !named {
			c.say("%s/%s is done by %q", job, s.ID, at.By)
		}
		need[at.By]++
	}
	for id, n := range need {
		if n == 0 {
			continue
		}
		c.holds = append(c.holds, hold{id, at.Start, at.End, n, job, false})
		if s.StartedAt == nil && !c.open(id, at) {
			c.say("%s/%s runs while %s is closed", job, s.ID, id)
		}
	}
}

// open holds if every minute of the step lies in some interval, so that
// touching and overlapping intervals count as one.
func (c *checker) open(id string, at plan.PlannedStep) bool {
	for _, r := range c.problem.Resources {
		if r.ID != id || r.Open == nil {
			continue
		}
		for m := at.Start; m.Before(at.End); m = m.Add(time.Minute) {
			inside := false
			for _, o := range r.Open {
				inside = inside || (!m.Before(o[0]) && m.Before(o[1]))
			}
			if !inside {
				return false
			}
		}
	}
	return true
}

// lost tells whether the ceiling of a pinned step's rest cannot be met any
// more: no minute from the floor on begins a stretch in which all is open.
func (c *checker) lost(j plan.Job, before, next plan.Step, end time.Time) bool {
	if before.StartedAt == nil {
		return false
	}
	for start := end.Add(minutes(before.Rest.Min)); !start.After(end.Add(minutes(*before.Rest.Max))); start = start.Add(time.Minute) {
		if start.Before(c.problem.From) || j.Release != nil && start.Before(*j.Release) {
			continue
		}
		hands := next.OneOf
		if len(hands) == 0 {
			hands = []string{""}
		}
		for _, by := range hands {
			at := plan.PlannedStep{Start: start, By: by}
			at.End = start.Add(minutes(lasts(next, plan.PlannedStep{By: by, Joined: true})))
			open := by == "" || c.open(by, at)
			for id, n := range next.Uses {
				open = open && (n == 0 || c.open(id, at))
			}
			if open {
				return false
			}
		}
	}
	return true
}

// underWay maps the jobs that have begun and are not done at a moment to what
// the rest after the last pinned step holds of a resource.
func (c *checker) underWay(resource string, at time.Time) (holds map[string]int, sum int) {
	holds = map[string]int{}
	for _, j := range c.problem.Jobs {
		begun, n := false, 0
		for _, s := range j.Steps {
			if s.Inside == "" && s.StartedAt != nil {
				begun, n = true, 0
				if s.Rest != nil {
					n = s.Rest.Uses[resource]
				}
			}
		}
		done := false
		for _, answered := range c.answer.Jobs {
			done = done || answered.Job == j.ID && !answered.Done.After(at)
		}
		if begun && !done {
			holds[j.ID], sum = n, sum+n
		}
	}
	return holds, sum
}

// capacities holds what formats say of each moment from now on: while the jobs
// under way hold more than there is, each holds no more than it does and no
// other rest holds any; else no more is held than there is.
func (c *checker) capacities() {
	for _, r := range c.problem.Resources {
		for _, moment := range c.holds {
			if moment.start.Before(c.problem.From) || moment.resource != r.ID {
				continue
			}
			allowed, sum := c.underWay(r.ID, moment.start)
			used, resting := 0, map[string]int{}
			for _, h := range c.holds {
				if h.resource == r.ID && !moment.start.Before(h.start) && moment.start.Before(h.end) {
					used += h.amount
					if h.rest {
						resting[h.job] += h.amount
					}
				}
			}
			if sum <= r.Capacity {
				if used > r.Capacity {
					c.say("%d of %s is held at %s", used, r.ID, moment.start)
				}
				continue
			}
			for job, n := range resting {
				if n > allowed[job] {
					c.say("%s holds %d of the overfull %s at %s, and may hold %d", job, n, r.ID, moment.start, allowed[job])
				}
			}
		}
	}
}

// objective adds up what the plan says it comes to.
func (c *checker) objective() {
	late, short, completion, setup := 0.0, 0, 0, 0
	for _, j := range c.problem.Jobs {
		if !c.planned(j.ID) {
			continue
		}
		var before *plan.Step
		var ended time.Time
		for i, s := range j.Steps {
			at := c.at[j.ID+"/"+s.ID]
			if s.Setup != nil && !at.Joined && (s.StartedAt == nil || s.MinutesLeft != nil) {
				setup += s.Setup.Minutes
			}
			if s.Inside != "" {
				continue
			}
			if before != nil && before.Rest != nil && s.MinutesLeft == nil {
				ideal := before.Rest.Min
				if before.Rest.Ideal != nil {
					ideal = *before.Rest.Ideal
				}
				short += max(0, int((minutes(ideal) - at.Start.Sub(ended)).Minutes()))
			}
			before, ended = &j.Steps[i], at.End
		}
		for _, answered := range c.answer.Jobs {
			if answered.Job == j.ID {
				weight := 1.0
				if j.Weight != nil {
					weight = *j.Weight
				}
				late += weight * float64(answered.LateMinutes)
				completion += int(answered.Done.Sub(c.problem.From).Minutes())
			}
		}
	}
	o := c.answer.Objective
	if math.Abs(o.WeightedLateMinutes-late) > 1e-6*(1+late) || o.RestShortfallMinutes != short || o.CompletionMinutes != completion {
		c.say("the objective is %v, not %v, %d, %d", o, late, short, completion)
	}
	if o.SetupMinutes != nil && *o.SetupMinutes != setup {
		c.say("%d min of set-up, not %d", *o.SetupMinutes, setup)
	}
}
