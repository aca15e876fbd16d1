// Package trade holds what is offered and what is owed: quotes, deposits, payments, what is
// kept of an order that is cancelled, what came back.
package trade

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/bill"
	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
)

// Terms are the studio's own: what is asked ahead, and what is kept of it.
type Terms struct {
	TermsForm
	KeptSince time.Time `json:"-"`
	Version   int       `json:"version"`
}

func (Terms) TableName() string { return "trade_terms" }

// TermsForm is what the owner says of them.
type TermsForm struct {
	DepositPercent decimal.Decimal `json:"depositPercent" pattern:"^\\d{1,3}(\\.\\d{1,3})?$" patternDescription:"a percentage up to 100" doc:"of an order, asked ahead; 0 for none"`
	// Keeping says what is kept of what was paid when an order is cancelled.
	Keeping        bill.Rule       `json:"keeping" enum:"nothing,all,spent,share"`
	KeepingPercent decimal.Decimal `json:"keepingPercent" pattern:"^\\d{1,3}(\\.\\d{1,3})?$" patternDescription:"a percentage up to 100" doc:"for a share"`
	// QuoteDays is how many days a quote stands.
	QuoteDays int `json:"quoteDays" minimum:"1" maximum:"366"`
}

// TermsChange is an edit of the terms as they were read at a version.
type TermsChange struct {
	TermsForm
	Version int `json:"version" minimum:"1"`
}

var hundred = decimal.NewFromInt(100)

func (f TermsForm) check() error {
	for field, percent := range map[string]decimal.Decimal{"depositPercent": f.DepositPercent, "keepingPercent": f.KeepingPercent} {
		if percent.IsNegative() || percent.GreaterThan(hundred) {
			return problem.Invalid(field, "from 0 to 100 per cent")
		}
	}
	if f.QuoteDays < 1 || f.QuoteDays > 366 {
		return problem.Invalid("quoteDays", "from 1 to 366 days")
	}
	return nil
}

// Area answers for what is offered and owed.
type Area struct {
	db         *database.DB
	now        func() time.Time
	selling    *selling.Area
	products   *products.Area
	artwork    *artwork.Area
	fulfilment *fulfilment.Area
	planning   *planning.Area
	// credited is what credit notes were issued for, of an order.
	credited func(tx *gorm.DB, order uint64) (decimal.Decimal, error)
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, selling *selling.Area, products *products.Area, artwork *artwork.Area, fulfilment *fulfilment.Area, planning *planning.Area, credited func(tx *gorm.DB, order uint64) (decimal.Decimal, error)) *Area {
	return &Area{db, now, selling, products, artwork, fulfilment, planning, credited}
}

// Terms are the studio's terms.
func (a *Area) Terms(ctx context.Context) (Terms, error) {
	return database.Look(ctx, a.db, loadTerms)
}

// ChangeTerms changes the studio's terms; orders that were cancelled stay as they were settled.
func (a *Area) ChangeTerms(ctx context.Context, in TermsChange) error {
	if err := in.check(); err != nil {
		return err
	}
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		t, err := loadTerms(tx)
		if err != nil {
			return err
		}
		if err := problem.IfStale(in.Version, t.Version, "The terms were changed by someone since you opened them."); err != nil {
			return err
		}
		t.TermsForm, t.Version = in.TermsForm, t.Version+1
		if err := tx.Where("id = 1").Select("*").Updates(&t).Error; err != nil {
			return fmt.Errorf("saving the terms: %w", err)
		}
		return nil
	})
}
