// Package selling holds the ways of selling, what is asked at each, and what
// that earns: prices, price lists, fairs.
package selling

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// Outlet is a way of selling: a stall, a shop page, trade. The main one's price
// is the product's own.
type Outlet struct {
	ID   uint64 `json:"id"`
	Main bool   `json:"main"`
	OutletForm
	ArchivedAt *time.Time `json:"-"`
	Version    int        `json:"version"`
}

// OutletForm is what the owner says of an outlet.
type OutletForm struct {
	Name        string          `json:"name" minLength:"1" maxLength:"80"`
	FeePercent  decimal.Decimal `json:"feePercent" pattern:"^\\d{1,2}(\\.\\d{1,3})?$" patternDescription:"a percentage under 100" doc:"of the price before tax"`
	FeeFixed    decimal.Decimal `json:"feeFixed" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 0.30"`
	CardPercent decimal.Decimal `json:"cardPercent" pattern:"^\\d{1,2}(\\.\\d{1,3})?$" patternDescription:"a percentage under 100" doc:"of all that the customer pays"`
	CardFixed   decimal.Decimal `json:"cardFixed" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 0.10"`
	TaxPercent  decimal.Decimal `json:"taxPercent" pattern:"^\\d{1,2}(\\.\\d{1,3})?$" patternDescription:"a percentage under 100" doc:"sales tax on the price"`
	TaxInPrice  bool            `json:"taxInPrice" doc:"the tag holds the tax already"`
	TaxNote     string          `json:"taxNote,omitempty" maxLength:"200" doc:"what papers say of the tax, such as that a small business charges none"`
	Ending      *int            `json:"ending,omitempty" minimum:"0" maximum:"99" doc:"cents that tags end on; left out: as they come"`
	Target      cost.Target     `json:"target" enum:"margin,wage,share"`
	TargetValue decimal.Decimal `json:"targetValue" pattern:"^\\d{1,4}(\\.\\d{1,4})?$" patternDescription:"a number such as 30"`
}

// OutletChange is an edit of an outlet as it was read at a version.
type OutletChange struct {
	OutletForm
	Version int `json:"version" minimum:"1"`
}

// Terms are the outlet as the core knows it.
func (o OutletForm) Terms() cost.Terms {
	return cost.Terms{Way: cost.Way{FeePercent: cost.Quantity{Decimal: o.FeePercent}, FeeFixed: cost.MoneyOf(o.FeeFixed), CardPercent: cost.Quantity{Decimal: o.CardPercent},
		CardFixed: cost.MoneyOf(o.CardFixed), TaxPercent: cost.Quantity{Decimal: o.TaxPercent}, TaxInPrice: o.TaxInPrice, Ending: o.Ending}, Target: o.Target, Value: o.TargetValue}
}

// check refuses what no outlet can be. It tidies what was typed.
func (o *OutletForm) check(main bool) error {
	o.Name, o.TaxNote = strings.TrimSpace(o.Name), strings.TrimSpace(o.TaxNote)
	if o.Name == "" {
		return problem.Invalid("name", "give this way of selling a name")
	}
	if err := o.Terms().Validate(); err != nil {
		return problem.Faulty("", err)
	}
	switch o.Target {
	case cost.ForMargin:
		if _, err := o.Terms().TagForMargin(cost.Piece{}, o.TargetValue); err != nil {
			return problem.Invalid("targetValue", "fees and margin together must stay under 100 per cent")
		}
	case cost.ForShare:
		if main {
			return problem.Invalid("target", "the main price cannot be a share of itself")
		}
		if o.TargetValue.IsZero() || o.TargetValue.GreaterThan(decimal.NewFromInt(200)) {
			return problem.Invalid("targetValue", "over 0 and at most 200 per cent of the main price")
		}
	}
	return nil
}

// Area answers for what is asked and earned.
type Area struct {
	db       *database.DB
	now      func() time.Time
	products *products.Area
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, products *products.Area) *Area {
	return &Area{db, now, products}
}

// Outlets lists the ways of selling, the main one first.
func (a *Area) Outlets(ctx context.Context) ([]Outlet, error) {
	return database.Look(ctx, a.db, LoadOutlets)
}

// LoadOutlets reads the ways of selling, the main one first.
func LoadOutlets(tx *gorm.DB) (list []Outlet, err error) {
	if err := tx.Where("archived_at IS NULL").Order("main DESC, id").Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the ways of selling: %w", err)
	}
	return list, nil
}

// MainTerms reads the terms of the main way of selling, at which the products'
// own prices are asked.
func MainTerms(tx *gorm.DB) (cost.Terms, error) {
	var o Outlet
	if err := tx.Where("main").Take(&o).Error; err != nil {
		return cost.Terms{}, fmt.Errorf("reading the main way of selling: %w", err)
	}
	return o.Terms(), nil
}

// mostOutlets bounds how many ways of selling there are.
const mostOutlets = 20

// AddOutlet adds a way of selling.
func (a *Area) AddOutlet(ctx context.Context, in OutletForm) (o Outlet, err error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (o Outlet, err error) {
		if err := in.check(false); err != nil {
			return o, err
		}
		list, err := LoadOutlets(tx)
		if err != nil {
			return o, err
		}
		if len(list) >= mostOutlets {
			return o, problem.Invalid("name", "at most %d ways of selling", mostOutlets)
		}
		o = Outlet{OutletForm: in, Version: 1}
		if err := tx.Create(&o).Error; err != nil {
			return o, fmt.Errorf("adding a way of selling: %w", err)
		}
		return o, nil
	})
}

// ChangeOutlet changes a way of selling.
func (a *Area) ChangeOutlet(ctx context.Context, id uint64, c OutletChange) (o Outlet, err error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (o Outlet, err error) {
		if o, err = loadOutlet(tx, id, c.Version); err != nil {
			return o, err
		}
		if err := c.check(o.Main); err != nil {
			return o, err
		}
		o.OutletForm = c.OutletForm
		return o, saveOutlet(tx, &o)
	})
}

// ArchiveOutlet ends a way of selling; the main one stays.
func (a *Area) ArchiveOutlet(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, database.Products, func(tx *gorm.DB) error {
		o, err := loadOutlet(tx, id, version)
		if err != nil {
			return err
		}
		if o.Main {
			return problem.Conflict(problem.BuiltIn, "%s is the main way of selling: the products' own prices are asked there.", o.Name)
		}
		o.ArchivedAt = new(a.now())
		return saveOutlet(tx, &o)
	})
}

func loadOutlet(tx *gorm.DB, id uint64, version int) (o Outlet, err error) {
	if err := tx.Where("archived_at IS NULL").First(&o, id).Error; err != nil {
		return o, problem.OrNotFound(err, "way of selling")
	}
	if err := problem.IfStale(version, o.Version, "%s was changed by someone since you opened it.", o.Name); err != nil {
		return o, err
	}
	return o, nil
}

func saveOutlet(tx *gorm.DB, o *Outlet) error {
	o.Version++
	if err := tx.Model(&Outlet{}).Where("id = ?", o.ID).Select("*").Updates(o).Error; err != nil {
		return fmt.Errorf("saving a way of selling: %w", err)
	}
	return nil
}
