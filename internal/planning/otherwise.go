package planning

import (
	"context"
	"errors"
	"slices"
	"sync"
	"time"

	"tidykiln/internal/orders"
)

// Sooner is an order put before others that still hold their promises.
type Sooner struct {
	ReadyAt time.Time     `json:"readyAt"`
	Moves   []PromiseMove `json:"moves" nullable:"false" doc:"what that moves; nobody is late for it who was not"`
}

// more works out how sure a promise is and what else could be promised, side by side.
func (a *Area) more(ctx context.Context, p *Promise, s, plan *Schedule, then Snapshot, o orders.Order) error {
	if p.ReadyAt == nil {
		return nil
	}
	var side sync.WaitGroup
	var odds *Odds
	var unsure error
	side.Go(func() { odds, unsure = a.odds(ctx, plan, o, p.Due) })
	err := p.otherwise(ctx, s, then, o)
	side.Wait()
	p.Odds = odds
	return errors.Join(err, unsure)
}

// mostJobs is how many lots there are at most where it is worked out what would
// be sooner were others put off: in larger studios that takes too long for an
// answer while typing.
const mostJobs = 120

// worthMoving is the least gain for which others are moved.
const worthMoving = 4 * time.Hour

// otherwise works out what else could be promised: where the order breaks
// somebody's promise, when it is ready without that; where it breaks none, how
// much sooner it is when others move that still hold theirs.
func (p *Promise) otherwise(ctx context.Context, s *Schedule, then Snapshot, o orders.Order) error {
	if slices.ContainsFunc(p.Moves, PromiseMove.breaks) {
		quiet, err := makeSchedule(ctx, then.changed(o.ID, func(o *orders.Order) { o.DueOn = "" }), s)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(s.moves(quiet), PromiseMove.breaks) {
			p.KeepsAll = quiet.Readiness(o).At
		}
		return nil
	}
	if len(s.Jobs) > mostJobs {
		return nil
	}
	first, err := makeScheduleWith(ctx, then, s, func(made *Schedule) { made.putBefore(o) })
	if err != nil {
		return err
	}
	at, moves := first.Readiness(o).At, s.moves(first)
	if at != nil && p.ReadyAt.Sub(*at) >= worthMoving && !slices.ContainsFunc(moves, PromiseMove.breaks) {
		p.Sooner = &Sooner{*at, moves}
	}
	return nil
}

// breaks tells that an order is late by a move that was not.
func (m PromiseMove) breaks() bool { return m.ToLate && !m.FromLate }

// little is how much the lateness of others outweighs how soon an order is ready.
const little = 0.01

// putBefore lets the jobs of an order go before all that is in time all the
// same, at their usual rests.
func (s *Schedule) putBefore(o orders.Order) {
	for i := range s.Jobs {
		if j := &s.Jobs[i]; s.serve(*j, o) {
			at := s.from()
			j.hurry, j.weight = &at, new(float64(little))
			keepRests(j.steps)
		}
	}
}
