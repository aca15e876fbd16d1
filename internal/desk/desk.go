// Package desk answers what reads across areas: Today, the ledger, an order, a
// lot, a batch, what to buy for the work, which method to choose, what to find
// and how far a new owner has come. It owns no tables and writes nothing.
package desk

import (
	"context"
	"time"

	"tidykiln/internal/access"
	"tidykiln/internal/database"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
)

// Area answers for what lies on the desk.
type Area struct {
	db       *database.DB
	now      func() time.Time
	access   *access.Area
	products *products.Area
	plans    *planning.Area
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, access *access.Area, products *products.Area, plans *planning.Area) *Area {
	return &Area{db, now, access, products, plans}
}

// view is a schedule as the pages look at it.
type view struct{ *planning.Schedule }

// current is the plan as it stands now.
func (a *Area) current(ctx context.Context) (view, error) {
	s, err := a.plans.Current(ctx)
	return view{s}, err
}
