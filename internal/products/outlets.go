package products

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/internal/problem"
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
	Ending      *int            `json:"ending,omitempty" minimum:"0" maximum:"99" doc:"cents that tags end on; left out: as they come"`
	Target      Target          `json:"target" enum:"margin,wage,share"`
	TargetValue decimal.Decimal `json:"targetValue" pattern:"^\\d{1,4}(\\.\\d{1,4})?$" patternDescription:"a number such as 30"`
}

// Target is what an outlet's prices are set for.
type Target string

const (
	ForMargin Target = "margin" // per cent of the price
	ForWage   Target = "wage"   // money per hands-on hour
	ForShare  Target = "share"  // per cent of the main price
)

// OutletChange is an edit of an outlet as it was read at a version.
type OutletChange struct {
	OutletForm
	Version int `json:"version" minimum:"1"`
}

// Way is the outlet as the core knows it.
func (o OutletForm) Way() cost.Way {
	return cost.Way{FeePercent: cost.Quantity{Decimal: o.FeePercent}, FeeFixed: cost.MoneyOf(o.FeeFixed), CardPercent: cost.Quantity{Decimal: o.CardPercent},
		CardFixed: cost.MoneyOf(o.CardFixed), TaxPercent: cost.Quantity{Decimal: o.TaxPercent}, TaxInPrice: o.TaxInPrice, Ending: o.Ending}
}

// check refuses what no outlet can be. It tidies the name.
func (o *OutletForm) check(main bool) error {
	o.Name = strings.TrimSpace(o.Name)
	if o.Name == "" {
		return problem.Invalid("name", "give this way of selling a name")
	}
	if err := o.Way().Validate(); err != nil {
		return problem.InvalidPath("", err)
	}
	switch o.Target {
	case ForMargin:
		if _, err := o.Way().TagForMargin(cost.Piece{}, o.TargetValue); err != nil {
			return problem.Invalid("targetValue", "fees and margin together must stay under 100 per cent")
		}
	case ForShare:
		if main {
			return problem.Invalid("target", "the main price cannot be a share of itself")
		}
		if o.TargetValue.IsZero() || o.TargetValue.GreaterThan(decimal.NewFromInt(200)) {
			return problem.Invalid("targetValue", "over 0 and at most 200 per cent of the main price")
		}
	}
	return nil
}

// proposal is the tag that an outlet's target comes to; mainPrice is the product's own.
func (o Outlet) proposal(p cost.Piece, mainPrice decimal.Decimal) (decimal.Decimal, error) {
	w := o.Way()
	switch o.Target {
	case ForWage:
		return w.TagForWage(p, o.TargetValue), nil
	case ForShare:
		return w.Ended(mainPrice.Mul(o.TargetValue).Shift(-2).RoundCeil(2)), nil
	}
	return w.TagForMargin(p, o.TargetValue)
}

// Outlets lists the ways of selling, the main one first.
func (a *Area) Outlets(ctx context.Context) (list []Outlet, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		list, err = LoadOutlets(tx)
		return err
	})
	return list, err
}

// LoadOutlets reads the ways of selling, the main one first.
func LoadOutlets(tx *gorm.DB) (list []Outlet, err error) {
	if err := tx.Where("archived_at IS NULL").Order("main DESC, id").Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the ways of selling: %w", err)
	}
	return list, nil
}

// mostOutlets bounds how many ways of selling there are.
const mostOutlets = 20

// AddOutlet adds a way of selling.
func (a *Area) AddOutlet(ctx context.Context, in OutletForm) (o Outlet, err error) {
	err = a.db.Answer(ctx, &o, func(tx *gorm.DB) error {
		if err := in.check(false); err != nil {
			return err
		}
		list, err := LoadOutlets(tx)
		if err != nil {
			return err
		}
		if len(list) >= mostOutlets {
			return problem.Invalid("name", "at most %d ways of selling", mostOutlets)
		}
		o = Outlet{OutletForm: in, Version: 1}
		if err := tx.Create(&o).Error; err != nil {
			return fmt.Errorf("adding a way of selling: %w", err)
		}
		return nil
	})
	return o, err
}

// ChangeOutlet changes a way of selling.
func (a *Area) ChangeOutlet(ctx context.Context, id uint64, c OutletChange) (o Outlet, err error) {
	err = a.db.Answer(ctx, &o, func(tx *gorm.DB) error {
		if o, err = loadOutlet(tx, id, c.Version); err != nil {
			return err
		}
		if err := c.check(o.Main); err != nil {
			return err
		}
		o.OutletForm = c.OutletForm
		return saveOutlet(tx, &o)
	})
	return o, err
}

// ArchiveOutlet ends a way of selling; the main one stays.
func (a *Area) ArchiveOutlet(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, func(tx *gorm.DB) error {
		o, err := loadOutlet(tx, id, version)
		if err != nil {
			return err
		}
		if o.Main {
			return problem.Conflict(problem.Moved, "%s is the main way of selling: the products' own prices are asked there.", o.Name)
		}
		o.ArchivedAt = new(a.now())
		return saveOutlet(tx, &o)
	})
}

func loadOutlet(tx *gorm.DB, id uint64, version int) (o Outlet, err error) {
	if err := tx.Where("archived_at IS NULL").First(&o, id).Error; err != nil {
		return o, problem.OrNotFound(err, "way of selling")
	}
	if o.Version != version {
		return o, problem.Conflict(problem.Stale, "%s was changed by someone since you opened it.", o.Name)
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

// PriceChange sets what is asked for a product at an outlet; empty is what the
// outlet's target comes to. The main outlet's price is never empty.
type PriceChange struct {
	OutletID uint64 `json:"outletId"`
	Price    string `json:"price,omitempty" pattern:"^(\\d{1,6}(\\.\\d{1,2})?)?$" patternDescription:"an amount such as 10.50"`
	Version  int    `json:"version" minimum:"1" doc:"of the product"`
}

// SetPrice sets what is asked for a product at an outlet.
func (a *Area) SetPrice(ctx context.Context, id uint64, c PriceChange) (d Detail, err error) {
	err = a.db.Answer(ctx, &d, func(tx *gorm.DB) error {
		p, err := Load(tx, id)
		if err != nil {
			return err
		}
		var o Outlet
		if err := tx.Where("archived_at IS NULL").First(&o, c.OutletID).Error; err != nil {
			return problem.OrInvalid(problem.OrNotFound(err, "way of selling"), "outletId", "this way of selling is not there")
		}
		columns, err := setPrice(tx, p, o, c.Price)
		if err != nil {
			return err
		}
		if err := update(tx, p, c.Version, columns); err != nil {
			return err
		}
		d, err = a.detail(tx, id)
		return err
	})
	return d, err
}

// setPrice writes a price at an outlet; what it says of the product itself is answered as columns.
func setPrice(tx *gorm.DB, p Product, o Outlet, text string) (map[string]any, error) {
	if text == "" {
		if o.Main {
			return nil, problem.Invalid("price", "the main price is always yours to say")
		}
		if err := tx.Exec("DELETE FROM prices WHERE product_id = ? AND outlet_id = ?", p.ID, o.ID).Error; err != nil {
			return nil, fmt.Errorf("taking a price back: %w", err)
		}
		return map[string]any{}, nil
	}
	price, err := decimal.NewFromString(text)
	if err != nil {
		return nil, problem.Invalid("price", "an amount such as 10.50")
	}
	if o.Main {
		return map[string]any{"price": price}, nil
	}
	err = tx.Exec("INSERT INTO prices (product_id, outlet_id, price) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE price = VALUES(price)", p.ID, o.ID, price).Error
	if err != nil {
		return nil, fmt.Errorf("setting a price: %w", err)
	}
	return map[string]any{}, nil
}

// priced is a price that was set for a product at an outlet.
type priced struct {
	ProductID, OutletID uint64
	Price               decimal.Decimal
}

// Outlet finds a way of selling; 0 is the main one.
func (b Basis) Outlet(id uint64) (Outlet, bool) {
	if id == 0 {
		return b.Main(), true
	}
	for _, o := range b.Outlets {
		if o.ID == id {
			return o, true
		}
	}
	return Outlet{}, false
}

// Asked is what is asked for a product at a way of selling: as it is set, or as its target comes to.
func (b Basis) Asked(p Product, o Outlet, prices Prices) (decimal.Decimal, error) {
	tag, set := prices[[2]uint64{p.ID, o.ID}]
	switch {
	case o.Main:
		return p.Price, nil
	case set:
		return tag, nil
	}
	costing, err := b.Usual(p)
	if err != nil {
		return tag, err
	}
	if tag, err = o.proposal(costing.Piece(), p.Price); err != nil {
		return tag, fmt.Errorf("pricing %s at %s: %w", p.Name, o.Name, err)
	}
	return tag, nil
}

// Prices are what was set for a product and an outlet, by their IDs.
type Prices map[[2]uint64]decimal.Decimal

// LoadPrices reads the prices that were set.
func LoadPrices(tx *gorm.DB) (Prices, error) {
	var rows []priced
	if err := tx.Table("prices").Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the prices: %w", err)
	}
	prices := make(Prices, len(rows))
	for _, r := range rows {
		prices[[2]uint64{r.ProductID, r.OutletID}] = r.Price
	}
	return prices, nil
}
