// Package planning answers what happens when: it turns the bench, the demand
// and the hours into a plan, and the plan into the pages' answers.
package planning

import (
	"context"
	"fmt"
	"sync"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Area answers for plans. The last schedule is kept until the revision or the
// minute moves on.
type Area struct {
	db  *database.DB
	now func() time.Time

	mu   sync.Mutex
	kept *Schedule
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time) *Area { return &Area{db: db, now: now} }

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
	Wants    []batches.OpenWant
	ByWant   map[uint64]batches.Piece
	// dues maps the wants of open orders to their due moment.
	dues map[uint64]time.Time
}

// keptFor is how long closed orders and batches stay in sight.
const keptFor = 10 * 24 * time.Hour

func loadSnapshot(tx *gorm.DB, now time.Time) (s Snapshot, err error) {
	s.Now = now
	if s.Revision, err = database.Revision(tx); err != nil {
		return s, err
	}
	if s.Basis, err = products.LoadBasis(tx, now); err != nil {
		return s, err
	}
	if s.Names, err = workshop.PersonNames(tx); err != nil {
		return s, err
	}
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
	if s.Wants, err = batches.OpenWants(tx); err != nil {
		return s, err
	}
	var ids []uint64
	s.dues = map[uint64]time.Time{}
	for _, o := range s.Orders {
		due := s.Basis.Workshop.DueAt(o.DueOn)
		for _, l := range o.Lines {
			for _, w := range l.Wants {
				ids = append(ids, w.ID)
				if o.State == orders.Open {
					s.dues[w.ID] = due
				}
			}
		}
	}
	s.ByWant, err = batches.PiecesByWant(tx, ids)
	return s, err
}

func (s Snapshot) location() *time.Location { return s.Basis.Workshop.Location() }

// Current is the schedule of this minute and revision.
func (a *Area) Current(ctx context.Context) (*Schedule, error) {
	now := a.now()
	var snapshot Snapshot
	var kept *Schedule
	err := a.db.Read(ctx, func(tx *gorm.DB) (err error) {
		revision, err := database.Revision(tx)
		if err != nil {
			return err
		}
		if kept = a.reuse(revision, now); kept != nil {
			return nil
		}
		snapshot, err = loadSnapshot(tx, now)
		return err
	})
	if err != nil || kept != nil {
		return kept, err
	}
	schedule, err := makeSchedule(snapshot, nil)
	if err != nil {
		return nil, fmt.Errorf("planning: %w", err)
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.kept == nil || a.kept.Revision <= schedule.Revision {
		a.kept = schedule
	}
	return schedule, nil
}

// reuse is the kept schedule if nothing was written and no minute has passed since.
func (a *Area) reuse(revision uint64, now time.Time) *Schedule {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.kept == nil || a.kept.Revision != revision || !a.kept.Now.Truncate(time.Minute).Equal(now.Truncate(time.Minute)) {
		return nil
	}
	// The plan is the same; what is shown of it moves with the clock.
	fresh := *a.kept
	fresh.Now = now
	return &fresh
}
