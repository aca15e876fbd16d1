// Package planning answers what happens when: it turns the bench, the demand
// and the hours into a plan, and the plan into the pages' answers.
package planning

import (
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
)

// Area answers for plans.
type Area struct {
	db         *database.DB
	now        func() time.Time
	products   *products.Area
	selling    *selling.Area
	batches    *batches.Area
	fulfilment *fulfilment.Area
	// Patience is how long an answer waits for a new plan before it is given by
	// the plan that stands; 0 waits for it.
	Patience time.Duration
	keeper   keeper
	// questions bounds how many promises are worked out at once.
	questions chan struct{}
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, products *products.Area, selling *selling.Area, batches *batches.Area, fulfilment *fulfilment.Area) *Area {
	return &Area{db: db, now: now, products: products, selling: selling, batches: batches, fulfilment: fulfilment, questions: make(chan struct{}, mostQuestions)}
}

// mostQuestions keeps a core free for everything else on a small machine.
const mostQuestions = 2

// Snapshot is all that a plan is made from, read at one moment.
type Snapshot struct {
	Revision uint64
	Now      time.Time
	Basis    products.Basis
	Names    map[uint64]string
	Products []products.Product
	Bench    batches.Bench
	Logbook  batches.Logbook
	Orders   []orders.Order
	Wants    []orders.OpenWant
	ByWant   map[uint64]batches.Piece
	// Spare counts the plain finished pieces of each product that no order has.
	Spare map[uint64]int
	// promises are where those of orders stood when it was read.
	promises map[uint64]promise
	// orderOf maps wants to their orders above.
	orderOf map[uint64]*orders.Order
}

// keptFor is how long closed orders and batches stay in sight.
const keptFor = 10 * 24 * time.Hour

func (a *Area) loadSnapshot(tx *gorm.DB, now time.Time) (s Snapshot, err error) {
	s.Now = now
	if s.Revision, err = database.PlanRevision(tx); err != nil {
		return s, err
	}
	if s.Basis, err = a.products.Basis(tx, now); err != nil {
		return s, err
	}
	s.Names = s.Basis.Workshop.Names()
	if s.Products, err = products.LoadAll(tx); err != nil {
		return s, err
	}
	if s.Bench, err = batches.LoadBench(tx, now.Add(-keptFor)); err != nil {
		return s, err
	}
	if s.Logbook, err = batches.LoadLogbook(tx); err != nil {
		return s, err
	}
	if s.Orders, err = orders.LoadOpen(tx, now.Add(-keptFor)); err != nil {
		return s, err
	}
	if s.promises, err = loadPromises(tx); err != nil {
		return s, err
	}
	if s.ByWant, s.Spare, err = batches.PiecesServing(tx, s.indexWants()); err != nil {
		return s, err
	}
	s.Wants = s.unserved()
	return s, nil
}

// unserved are the wants of open orders for which there is no piece, soonest due first.
func (s Snapshot) unserved() (wants []orders.OpenWant) {
	for _, o := range s.Orders {
		if o.State != orders.Open {
			continue
		}
		for _, l := range o.Lines {
			for _, w := range l.Wants {
				if _, made := s.ByWant[w.ID]; !made {
					wants = append(wants, orders.OpenWant{WantID: w.ID, OrderID: o.ID, OrderNumber: o.Number, Customer: o.Customer.Name, DueOn: o.DueOn, Lettering: w.Lettering, ProductID: l.ProductID})
				}
			}
		}
	}
	return wants
}

// indexWants notes whose each want is, and lists them.
func (s *Snapshot) indexWants() (ids []uint64) {
	s.orderOf = map[uint64]*orders.Order{}
	for i := range s.Orders {
		wants := s.Orders[i].WantIDs()
		for _, id := range wants {
			s.orderOf[id] = &s.Orders[i]
		}
		ids = append(ids, wants...)
	}
	return ids
}

// dueOfWant is by when a want of an open order must be ready; not open when
// its order is closed, or names no day.
func (s Snapshot) dueOfWant(id uint64) (due time.Time, open bool) {
	o := s.orderOf[id]
	if o == nil || o.State != orders.Open || o.DueOn == "" {
		return due, false
	}
	return s.Basis.Workshop.DueAt(o.DueOn), true
}

// keepsRests tells whether any of the wants belongs to an order that keeps its usual rests.
func (s Snapshot) keepsRests(wants []uint64) bool {
	return slices.ContainsFunc(wants, func(id uint64) bool { return s.orderOf[id] != nil && s.orderOf[id].KeepRests })
}

func (s Snapshot) Location() *time.Location { return s.Basis.Workshop.Location() }
