package planning

import (
	"cmp"
	"context"
	"maps"
	"math"
	"slices"
	"strings"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
)

// with is the snapshot as it would be had an order been taken, and that order.
func (s Snapshot) with(ask Ask, found asked) (Snapshot, orders.Order) {
	o := orders.Order{ID: math.MaxUint64, Number: math.MaxInt, State: orders.Open, DueOn: ask.DueOn, KeepRests: ask.KeepRests}
	then := s
	then.Wants, then.ByWant = slices.Clone(s.Wants), maps.Clone(s.ByWant)
	want := uint64(math.MaxUint64)
	for i, l := range ask.Lines {
		line := orders.Line{ProductID: l.ProductID, ProductName: found.products[i].Name, Quantity: l.Quantity}
		for k := range l.Quantity {
			line.Wants = append(line.Wants, orders.Want{ID: want, Position: k})
			if k < found.shelf[i] {
				then.ByWant[want] = batches.Piece{ProductID: l.ProductID, State: batches.PieceFinished}
			} else {
				then.Wants = append(then.Wants, orders.OpenWant{WantID: want, OrderID: o.ID, DueOn: o.DueOn, ProductID: l.ProductID})
			}
			want--
		}
		o.Lines = append(o.Lines, line)
	}
	then.Orders = append(slices.Clone(s.Orders), o)
	then.settle()
	return then, o
}

// changed is the snapshot as it would be had an order been changed.
func (s Snapshot) changed(id uint64, change func(*orders.Order)) Snapshot {
	then := s
	then.Orders, then.Wants = slices.Clone(s.Orders), slices.Clone(s.Wants)
	for i := range then.Orders {
		if o := &then.Orders[i]; o.ID == id {
			change(o)
			for k := range then.Wants {
				if then.Wants[k].OrderID == id {
					then.Wants[k].DueOn = o.DueOn
				}
			}
		}
	}
	then.settle()
	return then
}

// edited is the snapshot with other pieces wanted of an order. Those that are
// not saved yet have numbers that no want reaches.
func (s Snapshot) edited(id uint64, edits []orders.LineEdit) Snapshot {
	i := slices.IndexFunc(s.Orders, func(o orders.Order) bool { return o.ID == id })
	if i < 0 || len(edits) == 0 {
		return s
	}
	o := &s.Orders[i]
	o.Lines = slices.Clone(o.Lines)
	unsaved := uint64(1) << 60
	for _, e := range edits {
		for k := range o.Lines {
			if o.Lines[k].ID == e.Line.ID {
				o.Lines[k] = e.Line
				o.Lines[k].Wants = slices.Clone(e.Line.Wants)
				for n := range o.Lines[k].Wants {
					if w := &o.Lines[k].Wants[n]; w.ID == 0 {
						unsaved++
						w.ID = unsaved
						s.Wants = append(s.Wants, orders.OpenWant{WantID: w.ID, OrderID: o.ID, OrderNumber: o.Number, Customer: o.Customer.Name, DueOn: o.DueOn, Lettering: w.Lettering, ProductID: e.Line.ProductID})
					}
				}
			}
		}
		s.Wants = slices.DeleteFunc(s.Wants, func(w orders.OpenWant) bool {
			return slices.ContainsFunc(e.Removed, func(gone orders.Want) bool { return gone.ID == w.WantID })
		})
	}
	s.settle()
	return s
}

// settle puts orders and wants in the order in which they are read: by due
// date, then as they were taken. What names no day comes last.
func (s *Snapshot) settle() {
	numbers := map[uint64]int{}
	for _, o := range s.Orders {
		numbers[o.ID] = o.Number
	}
	slices.SortStableFunc(s.Orders, func(a, b orders.Order) int {
		return cmp.Or(cmp.Compare(OrLast(a.DueOn), OrLast(b.DueOn)), cmp.Compare(a.Number, b.Number))
	})
	slices.SortStableFunc(s.Wants, func(a, b orders.OpenWant) int {
		return cmp.Or(cmp.Compare(OrLast(a.DueOn), OrLast(b.DueOn)), cmp.Compare(numbers[a.OrderID], numbers[b.OrderID]))
	})
	s.indexWants()
}

// makeScheduleAtFloors plans the snapshot with every rest of one order's jobs the shortest safe one.
func makeScheduleAtFloors(ctx context.Context, s Snapshot, standing *Schedule, o orders.Order) (*Schedule, error) {
	return makeScheduleWith(ctx, s, standing, func(schedule *Schedule) {
		for _, j := range schedule.Jobs {
			if !schedule.serve(j, o) {
				continue
			}
			for i := range j.steps {
				if j.steps[i].Rest != nil {
					j.steps[i].Rest.Ideal = nil
				}
			}
		}
	})
}

// PromiseMove is an order that moves: the day on which it is ready by the plan
// changes, or it crosses its due. What is promised is the due; on which day it is
// ready before that is nobody's business but the studio's.
type PromiseMove struct {
	OrderID  uint64        `json:"orderId"`
	Number   int           `json:"number"`
	Customer string        `json:"customer" seen:"makers" required:"false"`
	DueOn    calendar.Date `json:"dueOn" format:"date"`
	// FromOn and ToOn are the days on which it is ready; empty when it finds no place.
	FromOn   calendar.Date `json:"fromOn"`
	FromLate bool          `json:"fromLate"`
	ToOn     calendar.Date `json:"toOn"`
	ToLate   bool          `json:"toLate"`
	// Later tells that it is ready later than it was, or late and was not.
	Later bool `json:"later"`
	// Breaks tells that its promise is broken by that, or by more than before;
	// Mends, that it is kept again, or broken by less.
	Breaks bool `json:"breaks"`
	Mends  bool `json:"mends"`
}

// standing is where an order's promise is by a plan.
type standing struct {
	On   calendar.Date
	Late bool
}

// brokenBy tells that a promise is broken where it comes to stand, and was not, or by less.
func (at standing) brokenBy(to standing) bool {
	return to.Late && (!at.Late || OrLast(to.On) > OrLast(at.On))
}

// standsAt is where an open order's promise is; known is false for one that is
// closed, all ready, or not planned yet.
func (s *Schedule) standsAt(o orders.Order) (at standing, known bool) {
	switch r := s.Readiness(o); r.State {
	case ReadyClosed, ReadyNow, ReadyComing:
		return at, false
	case ReadyNot:
		return standing{Late: true}, true
	default:
		at = standing{calendar.DateOf(*r.At, s.Location()), r.State == ReadyLate}
		return at, true
	}
}

// moved compares where a promise was with where it is.
func moved(o orders.Order, from, to standing) (PromiseMove, bool) {
	m := PromiseMove{OrderID: o.ID, Number: o.Number, Customer: o.Customer.Name, DueOn: o.DueOn, FromOn: from.On, FromLate: from.Late, ToOn: to.On, ToLate: to.Late,
		Later: OrLast(to.On) > OrLast(from.On) || to.Late && !from.Late, Breaks: from.brokenBy(to), Mends: to.brokenBy(from)}
	return m, from != to
}

// moves are the orders that stand otherwise in another plan, the worst first.
func (s *Schedule) moves(then *Schedule) []PromiseMove {
	moves := []PromiseMove{}
	for _, o := range s.Orders {
		from, known := s.standsAt(o)
		to, still := then.standsAt(then.asPlanned(o))
		if !known || !still {
			continue
		}
		if m, is := moved(then.asPlanned(o), from, to); is {
			moves = append(moves, m)
		}
	}
	slices.SortStableFunc(moves, func(a, b PromiseMove) int {
		return cmp.Or(cmp.Compare(a.rank(), b.rank()), strings.Compare(string(a.DueOn), string(b.DueOn)))
	})
	return moves
}

// asPlanned is an order as this schedule's snapshot has it.
func (s *Schedule) asPlanned(o orders.Order) orders.Order {
	if i := slices.IndexFunc(s.Orders, func(p orders.Order) bool { return p.ID == o.ID }); i >= 0 {
		return s.Orders[i]
	}
	return o
}

// concerns tells that the customer is to be told.
func (m PromiseMove) concerns() bool { return m.Breaks || m.Mends }

// rank puts broken promises first, then those kept again, then what is only ready later.
func (m PromiseMove) rank() int {
	switch {
	case m.Breaks:
		return 0
	case m.Mends:
		return 1
	case m.Later:
		return 2
	}
	return 3
}

// ShortRest is a rest that the plan cuts under its usual length.
type ShortRest struct {
	After   string `json:"after" doc:"the step it follows"`
	Planned int    `json:"planned" doc:"minutes"`
	Usual   int    `json:"usual" doc:"minutes"`
}

// ShortRestsOf are the rests of an order's jobs that are cut short, each step once, at its shortest.
func (s *Schedule) ShortRestsOf(o orders.Order) []ShortRest {
	all := []ShortRest{}
	for _, j := range s.Jobs {
		if s.serve(j, o) {
			all = append(all, s.CutShort(j)...)
		}
	}
	slices.SortStableFunc(all, func(a, b ShortRest) int { return cmp.Compare(a.Planned, b.Planned) })
	seen := map[string]bool{}
	return slices.DeleteFunc(all, func(r ShortRest) bool {
		before := seen[r.After]
		seen[r.After] = true
		return before
	})
}

// hardlyCut is by how many minutes a rest may be shorter than usual without being told.
const hardlyCut = 5

// CutShort are the rests of one job that the plan cuts under their usual length.
func (s *Schedule) CutShort(j Job) []ShortRest {
	short := []ShortRest{}
	for i := range j.Recipe.Steps {
		step := j.Recipe.Steps[i]
		next := j.restEnds(i)
		if step.Rest == nil || next == nil {
			continue
		}
		at := j.At(i)
		var end = s.Now
		switch {
		case at != nil:
			end = at.End
		case j.Lot == nil || s.Bench.LastRun(*j.Lot) == nil || s.Bench.LastRun(*j.Lot).Step != i:
			continue
		default:
			end = *s.Bench.LastRun(*j.Lot).EndedAt
		}
		if planned := int(next.Sub(end).Minutes()); planned < step.Rest.Usual-hardlyCut {
			short = append(short, ShortRest{step.Name, planned, step.Rest.Usual})
		}
	}
	return short
}

// OrLast puts no day after every day.
func OrLast(d calendar.Date) calendar.Date { return cmp.Or(d, "9999-12-31") }
