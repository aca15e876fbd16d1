package planning

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/chance"
	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
)

// Odds say how sure it is that an order is ready in time, were the plan played
// many times as things really go: minutes as logged, rounds more, spoils, illness.
type Odds struct {
	// InTime is the chance, from 0 to 1, of being ready by the due; 1 where none is named.
	InTime float64 `json:"inTime"`
	// SureOn is the day by which it is ready nine times in ten; empty when that is not known.
	SureOn calendar.Date `json:"sureOn,omitempty" format:"date"`
	SureAt *time.Time    `json:"sureAt,omitempty"`
	Runs   int           `json:"runs"`
}

const (
	// playings is how often a plan is played for an answer.
	playings = 1000
	// sureShare is how often a day that is called sure is held.
	sureShare = 0.9
	// illShare is the chance that somebody does not come on a day: three or four days a year.
	illShare = 0.015
	// playedDays is how far ahead it is played.
	playedDays = 60
	// oneSeed: the same question has the same answer.
	oneSeed = 20270301
)

// odds plays a schedule for one order.
func (a *Area) odds(ctx context.Context, s *Schedule, o orders.Order, due *time.Time) (odds *Odds, err error) {
	var pace batches.Pace
	if err := a.db.Read(ctx, func(tx *gorm.DB) (err error) { pace, err = batches.LoadPace(tx); return err }); err != nil {
		return nil, err
	}
	var group []int
	for i, j := range s.Jobs {
		if s.serve(j, o) {
			group = append(group, i)
		}
	}
	done, err := chance.Play(ctx, s.played(pace), [][]int{group}, playings, oneSeed)
	if err != nil {
		return nil, fmt.Errorf("playing the plan: %w", err)
	}
	odds = &Odds{InTime: 1, Runs: playings}
	if due != nil {
		odds.InTime = chance.Chance(done[0], int(due.Sub(s.from())/time.Minute))
	}
	if by := chance.By(done[0], sureShare); by < chance.Never {
		at := s.from().Add(time.Duration(by) * time.Minute)
		odds.SureAt, odds.SureOn = &at, s.handedOverOn(at)
	}
	return odds, nil
}

// handedOverOn is the first day whose hand-over is not before a moment.
func (s Snapshot) handedOverOn(at time.Time) calendar.Date {
	day := calendar.DateOf(at, s.Location())
	if s.Basis.Workshop.DueAt(day).Before(at) {
		day = day.Add(1)
	}
	return day
}

// played is the schedule as it is played.
func (s *Schedule) played(pace batches.Pace) chance.Studio {
	studio := chance.Studio{Rack: s.Basis.Workshop.RackPlaces(), Ill: illShare}
	for _, p := range s.Basis.Workshop.People {
		hand := chance.Hand{Slow: s.paceOf(p.ID)}
		for _, o := range p.Times().Open(s.from(), s.from().AddDate(0, 0, playedDays), s.Location()) {
			day := calendar.DateOf(o[0], s.Location())
			hand.Open = append(hand.Open, chance.Stretch{From: s.minute(o[0]), To: s.minute(o[1]), Day: int(day.At(0, time.UTC).Unix() / 86400)})
		}
		studio.Hands = append(studio.Hands, hand)
	}
	for _, j := range s.Jobs {
		studio.Jobs = append(studio.Jobs, s.playedJob(j, pace))
	}
	return studio
}

func (s *Schedule) minute(t time.Time) int { return int(t.Sub(s.from()) / time.Minute) }

// playedJob is a job as it is played: what the plan placed of it, in its order.
func (s *Schedule) playedJob(j Job, pace batches.Pace) chance.Job {
	job := chance.Job{Pieces: j.Pieces, Need: min(j.Pieces, len(j.Wants)), Remake: s.remadeBy(j.Recipe, pace)}
	if j.Lot != nil {
		if last := s.Bench.LastRun(*j.Lot); last != nil && j.Recipe.Steps[last.Step].Rest != nil {
			rest := s.slowed(j.Recipe.Steps[last.Step]).Rest
			job.Held = rest.Places(j.Pieces)
			job.Rested = s.minute(last.EndedAt.Add(time.Duration(rest.Usual) * time.Minute))
			if len(j.Placed) > 0 {
				job.Rested = min(job.Rested, s.minute(j.Placed[0].Start))
			}
		}
	}
	placed := slices.Clone(j.Placed)
	slices.SortStableFunc(placed, func(x, y plan.PlannedStep) int { return StepIndex(x) - StepIndex(y) })
	for _, p := range placed {
		job.Steps = append(job.Steps, s.playedStep(j, p, pace))
	}
	return job
}

// playedStep is a placed step as it is played. It rests as long as usual, or as
// the plan has it where that is shorter.
func (s *Schedule) playedStep(j Job, p plan.PlannedStep, pace batches.Pace) chance.Step {
	i := StepIndex(p)
	step := j.Recipe.Steps[i]
	start := p.Start
	if start.Before(s.from()) {
		start = s.from()
	}
	c := s.stepAsPlayed(j.Recipe, i, pace)
	c.Planned = s.minute(start)
	by, _ := s.personOf(p.By)
	c.Setup, c.Each = max(1, p.End.Sub(start).Minutes()/s.paceOf(by)), 0
	if over := j.restEnds(i); step.Rest != nil && over != nil {
		c.Rest = min(c.Rest, max(s.slowed(step).Rest.Floor, int(over.Sub(p.End)/time.Minute)))
	}
	if j.held != nil && j.held.step == p.Step || j.Held && i == j.Lay() {
		c.NotBefore = c.Planned
	}
	c.Back = min(c.Back, i-j.First)
	return c
}

// stepAsPlayed is a step of a recipe as it goes by what was seen.
func (s *Schedule) stepAsPlayed(r craft.Recipe, i int, pace batches.Pace) chance.Step {
	step := r.Steps[i]
	c := chance.Step{Setup: step.SetupMinutes, Each: step.MinutesPerPiece, Pace: pace.Of(step.Do), Inside: step.Inside != "", Yield: step.Yield}
	if step.Rest != nil {
		c.Rest, c.Rack = s.slowed(step).Rest.Usual, step.Rest.Places(1)
	}
	for k, p := range s.Basis.Workshop.People {
		if !p.Does(step) {
			c.Not = append(c.Not, k)
		}
	}
	if slices.Contains(r.OutcomesAt(i), craft.Again) {
		c.Again, c.Back = pace.Again(step.Do), i-r.AgainFrom(i)
	}
	return c
}

// remadeBy are the steps by which a lost piece is made again; it goes first.
func (s *Schedule) remadeBy(r craft.Recipe, pace batches.Pace) (steps []chance.Step) {
	for i := range r.Steps {
		steps = append(steps, s.stepAsPlayed(r, i, pace))
	}
	return steps
}
