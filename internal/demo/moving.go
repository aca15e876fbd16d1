package demo

import (
	"context"
	"fmt"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/desk"
	"tidykiln/internal/house"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Time is the demo's time, which can be moved on; without a clock of its own it
// is everybody's, and cannot.
type Time struct {
	db    *database.DB
	clock *Clock
	rooms *house.House
	one   sync.Mutex
}

// NewTime is the time that rooms go by; clock is nil outside the demo.
func NewTime(db *database.DB, clock *Clock, rooms *house.House) *Time {
	return &Time{db: db, clock: clock, rooms: rooms}
}

// Where says how far the clock is moved.
type Where string

// Where the clock can be moved to.
const (
	Quarter Where = "quarter" // a quarter of an hour on
	Ready   Where = "ready"   // to the next thing that is ready
	Closing Where = "closing" // to the end of the day's hours
	Opening Where = "opening" // to the next working morning
)

// Move asks for the clock to be moved. Since is what it showed to whoever
// pressed: the same press does not move it twice.
type Move struct {
	To    Where     `json:"to" enum:"quarter,ready,closing,opening"`
	Since time.Time `json:"since"`
}

// PutDown is a step that was put down at closing, on the way.
type PutDown struct {
	At       time.Time `json:"at"`
	Person   string    `json:"person"`
	StepName string    `json:"stepName"`
	Product  string    `json:"product"`
	Pieces   int       `json:"pieces"`
}

// Moved is where the clock stands then, and what was put down on the way.
type Moved struct {
	Now     time.Time `json:"now"`
	PutDown []PutDown `json:"putDown" nullable:"false"`
}

// Stands says whether the time here is the demo's own, and what it is.
type Stands struct {
	Demo bool `json:"demo"`
}

// Mount adds the routes of the demo's clock; outside the demo it is not moved.
func (t *Time) Mount(api huma.API) {
	wire.Get(api, "get-demo-clock", "/api/demo-clock", "Whether time here goes by the demo's own clock", wire.AtTheBench, database.Workshop,
		func(context.Context, *struct{}) (Stands, error) { return Stands{t.clock != nil}, nil })
	wire.Post(api, "move-demo-clock", "/api/demo-clock/move", "Move the demo's clock on", wire.Makers, wire.With(t.Move))
}

// pressed is how much later a press may come than what it was made on.
const pressed = 5 * time.Minute

// Move moves the clock on. What is in hand when its person's hours end on the
// way is put down then, and the room's air is read all along.
func (t *Time) Move(ctx context.Context, in Move) (m Moved, err error) {
	if t.clock == nil {
		return m, problem.Conflict(problem.Unfit, "Time goes by itself here. Only the demo's clock can be moved.")
	}
	t.one.Lock()
	defer t.one.Unlock()
	now := t.clock.Now()
	if now.Sub(in.Since).Abs() > pressed {
		return m, problem.Conflict(problem.Stale, "The clock has been moved since: it is %s now.", t.inWords(ctx, now))
	}
	to, err := t.target(ctx, in.To, now)
	if err != nil {
		return m, err
	}
	// Each step of the way is a use case of its own, not this request's one write.
	way := wire.Acting(context.Background(), wire.Acts(ctx))
	m.PutDown, err = t.goTo(way, to)
	if err != nil {
		return m, err
	}
	if err := t.clock.keep(way); err != nil {
		return m, err
	}
	m.Now = t.clock.Now()
	return m, t.db.Write(ctx, database.Everything, func(*gorm.DB) error { return nil })
}

func (t *Time) inWords(ctx context.Context, at time.Time) string {
	w, err := t.rooms.Workshop.Get(ctx)
	if err != nil {
		w = workshop.Workshop{TimeZone: "Etc/UTC"}
	}
	at = at.In(w.Location())
	return at.Format("Monday ") + w.Habit.Time(at)
}

// target is the moment that is meant.
func (t *Time) target(ctx context.Context, to Where, now time.Time) (time.Time, error) {
	if to == Quarter {
		return now.Add(15 * time.Minute), nil
	}
	today, err := t.rooms.Desk.Today(ctx)
	if err != nil {
		return now, err
	}
	switch {
	case to == Ready && len(today.Resting) == 0:
		return now, problem.Conflict(problem.Unfit, "Nothing is resting, so nothing will be ready.")
	case to == Ready:
		return today.Resting[0].Ready, nil
	case to == Closing && today.Closes == nil:
		return now, problem.Conflict(problem.Unfit, "Hands are over for today already.")
	case to == Closing:
		return *today.Closes, nil
	}
	w, err := t.rooms.Workshop.Get(ctx)
	if err != nil {
		return now, err
	}
	return opening(w, now)
}

// opening is when somebody's hours begin next, on a later day than that of now.
func opening(w workshop.Workshop, now time.Time) (next time.Time, err error) {
	day := calendar.DateOf(now.Add(-planning.DayBegins*time.Minute), w.Location())
	over := day.Add(1).At(planning.DayBegins, w.Location())
	for _, p := range w.People {
		for _, o := range p.Times().Open(over, over.AddDate(0, 2, 0), w.Location()) {
			if next.IsZero() || o[0].Before(next) {
				next = o[0]
			}
		}
	}
	if next.IsZero() {
		return now, problem.Conflict(problem.Unfit, "Nobody has hours in the next two months.")
	}
	return next, nil
}

// air is how often the room's sensor is read on the way, and mostReadings how
// many times at most.
const (
	air          = 10 * time.Minute
	mostReadings = 300
)

// goTo moves the clock on to a moment, stopping wherever somebody's hours end
// who has something in hand.
func (t *Time) goTo(ctx context.Context, to time.Time) ([]PutDown, error) {
	down := []PutDown{}
	for {
		work, at, err := t.firstToStop(ctx, t.clock.Now())
		if err != nil {
			return down, err
		}
		if work == nil || at.After(to) {
			return down, t.walk(ctx, to)
		}
		if err := t.walk(ctx, at); err != nil {
			return down, err
		}
		if err := t.putDown(ctx, *work); err != nil {
			return down, err
		}
		for _, lot := range work.Lots {
			down = append(down, PutDown{t.clock.Now(), work.Person, lot.StepName, lot.Product, len(lot.Pieces)})
		}
	}
}

func (t *Time) putDown(ctx context.Context, work desk.InHand) error {
	if work.SittingID != nil {
		return t.rooms.Batches.PutDownTogether(ctx, *work.SittingID)
	}
	return t.rooms.Batches.PutDown(ctx, work.Lots[0].RunID)
}

// walk moves the clock on to a moment, reading the room on the way; what is past stays.
func (t *Time) walk(ctx context.Context, to time.Time) error {
	step := max(air, to.Sub(t.clock.Now())/mostReadings)
	for now := t.clock.Now(); now.Before(to); now = t.clock.Now() {
		t.clock.set(now.Add(min(step, to.Sub(now))))
		if err := t.rooms.Workshop.KeepReading(ctx); err != nil {
			return fmt.Errorf("reading the room on the way: %w", err)
		}
	}
	return nil
}

// firstToStop is the work in hand whose person's hours end first, and when; nil
// when no timer runs. Outside their hours it is put down at once.
func (t *Time) firstToStop(ctx context.Context, now time.Time) (first *desk.InHand, at time.Time, err error) {
	today, err := t.rooms.Desk.Today(ctx)
	if err != nil {
		return nil, at, err
	}
	w, err := t.rooms.Workshop.Get(ctx)
	if err != nil {
		return nil, at, err
	}
	for i, h := range today.InHand {
		if h.RunningSince == nil {
			continue
		}
		end := now
		for _, p := range w.People {
			if open := p.Times().Open(now, now.Add(24*time.Hour), w.Location()); p.ID == h.PersonID && len(open) > 0 && !open[0][0].After(now) {
				end = open[0][1]
			}
		}
		if first == nil || end.Before(at) {
			first, at = &today.InHand[i], end
		}
	}
	return first, at, nil
}
