package planning

import (
	"slices"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/chance"
	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
)

// playing is a schedule on its way to being played: at the pace that was seen, its
// places by number.
type playing struct {
	*Schedule
	pace   batches.Pace
	number map[string]int
}

// played is the schedule as it is played.
func (s *Schedule) played(pace batches.Pace) chance.Studio {
	studio, in := chance.Studio{Ill: illShare}, playing{s, pace, map[string]int{}}
	from, until := s.from(), s.from().AddDate(0, 0, playedDays)
	for _, p := range s.Basis.Workshop.People {
		studio.Hands = append(studio.Hands, chance.Hand{Slow: s.paceOf(p.ID), Open: s.stretches(p.Times().Open(from, until, s.Location()))})
	}
	for i, r := range placesFor(s.Basis.Workshop, from, until) {
		in.number[r.ID] = i
		studio.Places = append(studio.Places, chance.Place{Capacity: r.Capacity, Open: s.stretches(r.Open)})
	}
	for _, j := range s.Jobs {
		studio.Jobs = append(studio.Jobs, in.job(j))
	}
	return studio
}

// stretches are open hours as they are played; nil stays nil.
func (s *Schedule) stretches(open [][2]time.Time) (list []chance.Stretch) {
	if open != nil {
		list = []chance.Stretch{}
	}
	for _, o := range open {
		day := calendar.DateOf(o[0], s.Location())
		list = append(list, chance.Stretch{From: s.minute(o[0]), To: s.minute(o[1]), Day: int(day.At(0, time.UTC).Unix() / 86400)})
	}
	return list
}

func (s *Schedule) minute(t time.Time) int { return int(t.Sub(s.from()) / time.Minute) }

// job is a job as it is played: what the plan placed of it, in its order.
func (in playing) job(j Job) chance.Job {
	job := chance.Job{Pieces: j.Pieces, Need: min(j.Pieces, len(j.Wants)), Remake: in.remade(j)}
	if j.Lot != nil {
		if last := in.Bench.LastRun(*j.Lot); last != nil && j.Recipe.Steps[last.Step].Rest != nil {
			ended := j.Recipe.Steps[last.Step]
			job.Held = in.uses(in.planRest(ended, j.Pieces, j.Blank).Uses)
			job.Rested = in.minute(last.EndedAt.Add(time.Duration(in.slowed(ended).Rest.Usual) * time.Minute))
			if len(j.Placed) > 0 {
				job.Rested = min(job.Rested, in.minute(j.Placed[0].Start))
			}
		}
	}
	placed := slices.Clone(j.Placed)
	slices.SortStableFunc(placed, func(x, y plan.PlannedStep) int { return StepIndex(x) - StepIndex(y) })
	for _, p := range placed {
		job.Steps = append(job.Steps, in.placed(j, p))
	}
	return job
}

// placed is a placed step as it is played. It rests as long as usual, or as the
// plan has it where that is shorter.
func (in playing) placed(j Job, p plan.PlannedStep) chance.Step {
	i := StepIndex(p)
	step := j.Recipe.Steps[i]
	start := p.Start
	if start.Before(in.from()) {
		start = in.from()
	}
	c := in.step(j, i)
	if in.inHand(j, i) {
		c.Uses = nil // it has what it takes, whatever the hours
	}
	c.Planned = in.minute(start)
	by, _ := in.personOf(p.By)
	c.Setup, c.Each = max(1, p.End.Sub(start).Minutes()/in.paceOf(by)), 0
	if over := j.restEnds(i); step.Rest != nil && over != nil {
		c.Rest = min(c.Rest, max(in.slowed(step).Rest.Floor, int(over.Sub(p.End)/time.Minute)))
	}
	if j.held != nil && j.held.step == p.Step || j.Held && i == j.Lay() {
		c.NotBefore = c.Planned
	}
	c.Back = min(c.Back, i-j.First)
	return c
}

// inHand tells that somebody has a step of a job in hand.
func (in playing) inHand(j Job, i int) bool {
	if j.Lot == nil {
		return false
	}
	open := in.Bench.OpenRun(j.Lot.ID)
	return open != nil && open.Step == i && open.RunningSince != nil
}

// step is a step of a job's recipe as it goes by what was seen.
func (in playing) step(j Job, i int) chance.Step {
	step := j.Recipe.Steps[i]
	c := chance.Step{Setup: step.SetupMinutes, Each: step.MinutesPerPiece, Pace: in.pace.Of(step.Do), Inside: step.Inside != "", Yield: step.Yield}
	if step.Rest != nil {
		c.Rest, c.Keeps = in.slowed(step).Rest.Usual, in.uses(in.planRest(step, 1, j.Blank).Uses)
	}
	for k, p := range in.Basis.Workshop.People {
		if !p.Does(step) {
			c.Not = append(c.Not, k)
		}
	}
	taken, _ := places(in.Basis.Workshop, step)
	if j.AnyTime {
		dropTimes(taken)
	}
	c.Uses = in.uses(taken)
	if slices.Contains(j.Recipe.OutcomesAt(i), craft.Again) {
		c.Again, c.Back = in.pace.Again(step.Do), i-j.Recipe.AgainFrom(i)
	}
	return c
}

// uses are what something takes of the places, by number.
func (in playing) uses(of map[string]int) (uses []chance.Use) {
	for id, n := range of {
		if n > 0 {
			uses = append(uses, chance.Use{Place: in.number[id], N: n})
		}
	}
	slices.SortFunc(uses, func(a, b chance.Use) int { return a.Place - b.Place })
	return uses
}

// remade are the steps by which a lost piece is made again; it goes first.
func (in playing) remade(j Job) (steps []chance.Step) {
	for i := range j.Recipe.Steps {
		steps = append(steps, in.step(j, i))
	}
	return steps
}
