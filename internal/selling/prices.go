package selling

import (
	"context"
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// PriceChange sets what is asked for a product at an outlet; empty is what the
// outlet's target comes to. The main outlet's price is never empty.
type PriceChange struct {
	OutletID uint64 `json:"outletId"`
	Price    string `json:"price,omitempty" pattern:"^(\\d{1,6}(\\.\\d{1,2})?)?$" patternDescription:"an amount such as 10.50"`
	Version  int    `json:"version" minimum:"1" doc:"of the product"`
}

// SetPrice sets what is asked for a product at an outlet.
func (a *Area) SetPrice(ctx context.Context, id uint64, c PriceChange) (products.Detail, error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (d products.Detail, err error) {
		if _, err := products.Load(tx, id); err != nil {
			return d, err
		}
		var o Outlet
		if err := tx.Where("archived_at IS NULL").First(&o, c.OutletID).Error; err != nil {
			return d, problem.OrInvalid(problem.OrNotFound(err, "way of selling"), "outletId", "this way of selling is not there")
		}
		if !o.Main {
			if err := setPrice(tx, id, o.ID, c.Price); err != nil {
				return d, err
			}
			return a.products.Reprice(tx, id, c.Version, nil)
		}
		if c.Price == "" {
			return d, problem.Invalid("price", "the main price is always yours to say")
		}
		price, err := readPrice(c.Price)
		if err != nil {
			return d, err
		}
		return a.products.Reprice(tx, id, c.Version, &price)
	})
}

func readPrice(text string) (decimal.Decimal, error) {
	price, err := decimal.NewFromString(text)
	if err != nil {
		return price, problem.Invalid("price", "an amount such as 10.50")
	}
	return price, nil
}

// setPrice sets a price at an outlet; empty takes it back.
func setPrice(tx *gorm.DB, productID, outletID uint64, text string) error {
	if text == "" {
		if err := tx.Exec("DELETE FROM prices WHERE product_id = ? AND outlet_id = ?", productID, outletID).Error; err != nil {
			return fmt.Errorf("taking a price back: %w", err)
		}
		return nil
	}
	price, err := readPrice(text)
	if err != nil {
		return err
	}
	err = tx.Exec("INSERT INTO prices (product_id, outlet_id, price) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE price = VALUES(price)", productID, outletID, price).Error
	if err != nil {
		return fmt.Errorf("setting a price: %w", err)
	}
	return nil
}

// at is a product at an outlet, by their IDs.
type at struct{ productID, outletID uint64 }

// loadPrices reads the prices that were set.
func loadPrices(tx *gorm.DB) (map[at]decimal.Decimal, error) {
	var rows []struct {
		ProductID, OutletID uint64
		Price               decimal.Decimal
	}
	if err := tx.Table("prices").Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the prices: %w", err)
	}
	prices := make(map[at]decimal.Decimal, len(rows))
	for _, r := range rows {
		prices[at{r.ProductID, r.OutletID}] = r.Price
	}
	return prices, nil
}

// Counter is what prices rest on: costs, the ways of selling, and what was set.
type Counter struct {
	products.Basis
	// outlets are the ways of selling, the main one first; there is always one.
	outlets []Outlet
	prices  map[at]decimal.Decimal
}

// Counter reads it, on a basis that costs are worked out from.
func (a *Area) Counter(tx *gorm.DB, basis products.Basis) (c Counter, err error) {
	c.Basis = basis
	if c.outlets, err = LoadOutlets(tx); err != nil {
		return c, err
	}
	c.prices, err = loadPrices(tx)
	return c, err
}

// counter is Counter as of now.
func (a *Area) counter(tx *gorm.DB) (c Counter, err error) {
	basis, err := a.products.Basis(tx, a.now())
	if err != nil {
		return c, err
	}
	return a.Counter(tx, basis)
}

// Outlet finds a way of selling; 0 is the main one.
func (c Counter) Outlet(id uint64) (Outlet, error) {
	for _, o := range c.outlets {
		if o.ID == id || id == 0 && o.Main {
			return o, nil
		}
	}
	return Outlet{}, problem.Invalid("outletId", "this way of selling is not there")
}

// Asked is what is asked for a product at a way of selling: as it is set, or as its target comes to.
func (c Counter) Asked(p products.Product, o Outlet) (decimal.Decimal, error) {
	tag, set := c.prices[at{p.ID, o.ID}]
	switch {
	case o.Main:
		return p.Price, nil
	case set:
		return tag, nil
	}
	costing, err := c.Usual(p)
	if err != nil {
		return tag, err
	}
	if tag, err = o.Terms().Proposal(costing.Piece(), p.Price); err != nil {
		return tag, fmt.Errorf("pricing %s at %s: %w", p.Name, o.Name, err)
	}
	return tag, nil
}
