package planning

import (
	"context"
	"errors"
	"slices"
	"sync"
	"time"

	"tidykiln/core/plan"
	"tidykiln/internal/orders"
)

// Sooner is an order put before others, or before one, that still hold their promises.
type Sooner struct {
	ReadyAt time.Time     `json:"readyAt"`
	Moves   []PromiseMove `json:"moves" nullable:"false" doc:"what that moves; nobody is late for it who was not"`
}

// more works out how sure a promise is and what else could be promised, side by side.
func (a *Area) more(ctx context.Context, p *Promise, s, taken *Schedule, then Snapshot, o orders.Order) error {
	if p.ReadyAt == nil {
		return nil
	}
	var side sync.WaitGroup
	var odds *Odds
	var unsure error
	side.Go(func() { odds, unsure = a.odds(ctx, taken, o, p.Due) })
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
	if slices.ContainsFunc(p.Moves, breaks) {
		quiet, err := makeSchedule(ctx, then.changed(o.ID, func(o *orders.Order) { o.DueOn = "" }), s)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(s.moves(quiet), breaks) {
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
	all := p.sooner(s, first, o)
	if all == nil {
		return nil
	}
	p.Sooner = []Sooner{*all}
	return p.soonerByOne(ctx, s, then, o)
}

// sooner is what a schedule in which an order goes first comes to; nil where that
// gains too little, or breaks somebody's promise.
func (p *Promise) sooner(s, first *Schedule, o orders.Order) *Sooner {
	at, moves := first.Readiness(o).At, s.moves(first)
	if at == nil || p.ReadyAt.Sub(*at) < worthMoving || slices.ContainsFunc(moves, breaks) {
		return nil
	}
	return &Sooner{*at, moves}
}

// mostAsked is how many customers are thought of, one after the other, as the
// one whose order waits.
const mostAsked = 4

// soonerByOne looks for one order that need wait alone, which is one customer to
// think of; where all that wait together gain little more, only that is told.
func (p *Promise) soonerByOne(ctx context.Context, s *Schedule, then Snapshot, o orders.Order) error {
	all := p.Sooner[0]
	waiting := slices.DeleteFunc(slices.Clone(all.Moves), func(m PromiseMove) bool { return !m.Later })
	if len(waiting) < 2 {
		return nil
	}
	var best *Sooner
	for _, m := range waiting[:min(len(waiting), mostAsked)] {
		alone, err := makeScheduleWith(ctx, then, s.without(m.OrderID), func(made *Schedule) {
			made.putBefore(o)
			made.rounds = new(0) // what stands is not searched anew, so that no other moves
		})
		if err != nil {
			return err
		}
		one := p.sooner(s, alone, o)
		if one == nil || best != nil && !one.ReadyAt.Before(best.ReadyAt) {
			continue
		}
		if !slices.ContainsFunc(one.Moves, func(moved PromiseMove) bool { return moved.Later && moved.OrderID != m.OrderID }) {
			best = one
		}
	}
	switch {
	case best == nil:
	case best.ReadyAt.Sub(all.ReadyAt) < worthMoving:
		p.Sooner = []Sooner{*best}
	default:
		p.Sooner = []Sooner{*best, all}
	}
	return nil
}

// without is the plan with the lots that only an order waits for taken off it.
func (s *Schedule) without(order uint64) *Schedule {
	off := map[string]bool{}
	for _, j := range s.Jobs {
		if served := s.ordersOf(j.Wants); len(served) == 1 && served[0] == order {
			off[j.ID] = true
		}
	}
	rest := *s
	rest.answer.Steps = slices.DeleteFunc(slices.Clone(s.answer.Steps), func(p plan.PlannedStep) bool { return off[p.Job] })
	return &rest
}

func breaks(m PromiseMove) bool { return m.Breaks }

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
