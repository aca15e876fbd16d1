package planning

import (
	"context"
	"slices"
	"time"

	"tidykiln/core/craft"
)

// BeforeStop is what to do before hands are over for today, so that the night
// does the resting, and what is lost when it is left.
type BeforeStop struct {
	Opens *time.Time `json:"opens,omitempty" doc:"when hands begin again"`
	Lots  []StopLot  `json:"lots" nullable:"false" doc:"in the order they are planned"`
	// Minutes are of all of them, like work in one sitting.
	Minutes int `json:"minutes"`
	// Loses are the promises that move for the worse when they are left till hands begin again.
	Loses []PromiseMove `json:"loses" nullable:"false"`
	// LaterMinutes is how much later, at most, one of these lots is ready then.
	LaterMinutes int `json:"laterMinutes"`
}

// StopLot is a lot whose step rests through the night when it is done today.
type StopLot struct {
	LotID    uint64 `json:"lotId"`
	Batch    int    `json:"batch"`
	Lot      int    `json:"lot"`
	Step     int    `json:"step"`
	StepName string `json:"stepName"`
	Work     string `json:"work"`
	Product  string `json:"product"`
	Pieces   int    `json:"pieces"`
	// Next says that it is the lot's next step: it can be taken up once it is ready.
	Next    bool      `json:"next"`
	At      time.Time `json:"at" doc:"when it is planned"`
	RestEnd time.Time `json:"restEnd" doc:"when the shortest safe rest after it is over"`
}

// overnight is from how many usual minutes on a rest is one for the night.
const overnight = 6 * 60

// BeforeStop works out what to do before hands are over.
func (a *Area) BeforeStop(ctx context.Context) (b BeforeStop, err error) {
	s, err := a.Current(ctx)
	if err != nil {
		return b, err
	}
	b = s.stop()
	if len(b.Lots) == 0 || b.Opens == nil {
		return b, nil
	}
	release, err := a.question(ctx)
	if err != nil {
		return b, err
	}
	defer release()
	then, err := makeScheduleWith(ctx, s.Snapshot, s, func(made *Schedule) { made.leave(b.Lots, *b.Opens) })
	if err != nil {
		return b, planned(ctx, err)
	}
	b.Loses = slices.DeleteFunc(s.moves(then), func(m PromiseMove) bool { return !m.Later })
	for _, l := range b.Lots {
		now, left := s.jobOf(l.LotID), then.jobOf(l.LotID)
		if now != nil && left != nil && now.Done != nil && left.Done != nil {
			b.LaterMinutes = max(b.LaterMinutes, int(left.Done.Sub(*now.Done)/time.Minute))
		}
	}
	return b, nil
}

// stop is what is planned before hands are over today and then rests for long.
func (s *Schedule) stop() BeforeStop {
	b := BeforeStop{Lots: []StopLot{}, Loses: []PromiseMove{}, Opens: s.opensOn(s.today().Add(1))}
	_, closes := s.HandsLeft()
	if closes == nil {
		return b
	}
	var work sittingMinutes
	for _, j := range s.Jobs {
		for _, p := range j.Placed {
			i := StepIndex(p)
			step := j.Recipe.Steps[i]
			rests := step.Rest != nil && step.Rest.Usual >= overnight
			if j.Lot == nil || !rests || p.Start.Before(s.from()) || !p.Start.Before(*closes) {
				continue
			}
			b.Lots = append(b.Lots, StopLot{LotID: j.Lot.ID, Batch: j.Batch.Number, Lot: j.Lot.Number, Step: i, StepName: step.Name, Work: WorkOf(step), Product: j.Name, Pieces: j.Pieces,
				Next: i == j.First, At: p.Start, RestEnd: p.End.Add(time.Duration(s.slowed(step).Rest.Floor) * time.Minute)})
			work.add(j.Recipe.Kin(i), step, j.Pieces)
		}
	}
	b.Minutes = work.total()
	slices.SortStableFunc(b.Lots, func(x, y StopLot) int { return x.At.Compare(y.At) })
	return b
}

// HandsLeft is the open minutes left today, of whoever works longest, and when
// the last hands are over; nil when they are already.
func (s Snapshot) HandsLeft() (minutes int, closes *time.Time) {
	end := s.today().Add(1).At(DayBegins, s.Location())
	for _, p := range s.Basis.Workshop.People {
		left := 0
		for _, o := range p.Times().Open(s.Now, end, s.Location()) {
			left += int(o[1].Sub(o[0]) / time.Minute)
			if closes == nil || o[1].After(*closes) {
				closes = &o[1]
			}
		}
		minutes = max(minutes, left)
	}
	return minutes, closes
}

// leave holds steps back until hands begin again.
func (s *Schedule) leave(lots []StopLot, until time.Time) {
	for _, l := range lots {
		j := s.jobOf(l.LotID)
		for i := range j.steps {
			if j.steps[i].ID == stepID(l.Step) && j.steps[i].StartedAt == nil {
				j.steps[i].NotBefore = &until
			}
		}
	}
}

// sittingMinutes adds steps up, those of one kin with one set-up.
type sittingMinutes struct {
	steps  map[string][]craft.Step
	pieces map[string][]int
}

func (m *sittingMinutes) add(kin string, step craft.Step, pieces int) {
	if m.steps == nil {
		m.steps, m.pieces = map[string][]craft.Step{}, map[string][]int{}
	}
	m.steps[kin] = append(m.steps[kin], step)
	m.pieces[kin] = append(m.pieces[kin], pieces)
}

func (m *sittingMinutes) total() (minutes int) {
	for kin, steps := range m.steps {
		minutes += craft.MinutesTogether(steps, m.pieces[kin])
	}
	return minutes
}
