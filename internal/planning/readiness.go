package planning

import (
	"cmp"
	"slices"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
)

// ReadyState says how an order stands to its due.
type ReadyState string

const (
	ReadyNow    ReadyState = "ready"
	ReadySpare  ReadyState = "spare"
	ReadyTight  ReadyState = "tight"
	ReadyLate   ReadyState = "late"
	ReadyNot    ReadyState = "unplanned" // finds no place in the plan
	ReadyComing ReadyState = "planning"  // the plan that knows of it is being made
	ReadyClosed ReadyState = "closed"
)

// tight is the time to spare under which a promise is called tight.
const tight = 6 * time.Hour

// Readiness is when an order will be ready, against when it is due.
type Readiness struct {
	State        ReadyState `json:"state" enum:"ready,spare,tight,late,unplanned,planning,closed"`
	At           *time.Time `json:"at,omitempty"`
	Due          time.Time  `json:"due"`
	SpareMinutes int        `json:"spareMinutes" doc:"negative when late"`
	// Unstarted counts wanted pieces not yet in any batch.
	Unstarted int `json:"unstarted"`
}

// Readiness is when the last piece of an order is done, against its due.
func (s *Schedule) Readiness(o orders.Order) Readiness {
	r := Readiness{State: ReadyNow, Due: s.Basis.Workshop.DueAt(o.DueOn)}
	if o.State != orders.Open {
		r.State = ReadyClosed
		return r
	}
	for _, l := range o.Lines {
		for _, w := range l.Wants {
			p, made := s.ByWant[w.ID]
			if !made {
				r.Unstarted++
			}
			if made && p.State == batches.PieceFinished {
				continue
			}
			done := s.doneAt[w.ID]
			if done == nil {
				if r.State = ReadyNot; s.Making && !s.noPlaceFor(w.ID) {
					r.State = ReadyComing
				}
				return r
			}
			if r.At == nil || done.After(*r.At) {
				r.At = done
			}
		}
	}
	if r.At != nil {
		spare := r.Due.Sub(*r.At)
		r.SpareMinutes = int(spare / time.Minute)
		r.State = stateOf(spare)
	}
	return r
}

// noPlaceFor tells that the plan knows of a want and found no place for it.
func (s *Schedule) noPlaceFor(want uint64) bool {
	return slices.ContainsFunc(s.Jobs, func(j Job) bool { _, none := s.unplanned[j.ID]; return none && slices.Contains(j.Wants, want) })
}

func stateOf(spare time.Duration) ReadyState {
	switch {
	case spare < 0:
		return ReadyLate
	case spare < tight:
		return ReadyTight
	}
	return ReadySpare
}

// Served is an order that a lot works for.
type Served struct {
	OrderID  uint64        `json:"orderId"`
	Number   int           `json:"number"`
	Customer string        `json:"customer" seen:"makers" required:"false"`
	Pieces   int           `json:"pieces"`
	DueOn    calendar.Date `json:"dueOn" format:"date"`
}

// Serves lists the orders that wants belong to, soonest due first.
func (s *Schedule) Serves(wants []uint64) []Served {
	pieces := map[*orders.Order]int{}
	for _, id := range wants {
		if o := s.orderOf[id]; o != nil {
			pieces[o]++
		}
	}
	served := []Served{}
	for o, n := range pieces {
		served = append(served, Served{o.ID, o.Number, o.Customer.Name, n, o.DueOn})
	}
	slices.SortFunc(served, func(a, b Served) int { return cmp.Or(cmp.Compare(a.DueOn, b.DueOn), cmp.Compare(a.Number, b.Number)) })
	return served
}
