package fulfilment

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
)

// ShelfRow is what lies finished of a product.
type ShelfRow struct {
	ProductID   uint64 `json:"productId"`
	ProductName string `json:"productName"`
	// Spare are the finished pieces that no order has, SetAside those of orders not yet handed over.
	Spare    int `json:"spare"`
	SetAside int `json:"setAside"`
	// GoalPieces are to lie ready by GoalOn; nil where there is no goal.
	GoalPieces int            `json:"goalPieces"`
	GoalOn     *calendar.Date `json:"goalOn,omitempty" format:"date"`
	Distinct   bool           `json:"distinct" doc:"each piece is somebody's own, so none can lie ready"`
	// Price is what one sells for at the main outlet.
	Price decimal.Decimal `json:"price" seen:"makers"`
	// Worth is what the spare ones cost together, as far as that is known.
	Worth  decimal.Decimal      `json:"worth" seen:"makers"`
	Groups []batches.ShelfGroup `json:"groups" nullable:"false" doc:"the spare pieces, the oldest first"`
}

// ShelfCard is a product's shelf with what was found and what is gone.
type ShelfCard struct {
	ShelfRow
	Movements []ShelfMovement `json:"movements" nullable:"false" doc:"the latest first"`
	// TakenBack are the movements that others have taken back.
	TakenBack []uint64 `json:"takenBack" nullable:"false"`
}

// Shelf lists what lies finished of every product.
func (a *Area) Shelf(ctx context.Context) ([]ShelfRow, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]ShelfRow, error) {
		made, err := products.LoadAll(tx)
		if err != nil {
			return nil, err
		}
		finished, err := batches.FinishedPieces(tx, 0)
		if err != nil {
			return nil, err
		}
		rows := make([]ShelfRow, len(made))
		for i, p := range made {
			rows[i] = shelfRow(p, finished)
		}
		return rows, nil
	})
}

// ShelfOf reads what lies finished of one product.
func (a *Area) ShelfOf(ctx context.Context, productID uint64) (ShelfCard, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (ShelfCard, error) { return shelfCard(tx, productID) })
}

// shownMovements is how many of its latest movements a card shows.
const shownMovements = 60

func shelfCard(tx *gorm.DB, productID uint64) (c ShelfCard, err error) {
	p, err := products.Load(tx, productID)
	if err != nil {
		return c, err
	}
	finished, err := batches.FinishedPieces(tx, productID)
	if err != nil {
		return c, err
	}
	c = ShelfCard{ShelfRow: shelfRow(p, finished), Movements: []ShelfMovement{}, TakenBack: []uint64{}}
	if err := tx.Where("product_id = ?", productID).Order("id DESC").Limit(shownMovements).Find(&c.Movements).Error; err != nil {
		return c, fmt.Errorf("reading the shelf's movements: %w", err)
	}
	for _, m := range c.Movements {
		if m.Reverses != nil {
			c.TakenBack = append(c.TakenBack, *m.Reverses)
		}
	}
	return c, nil
}

func shelfRow(p products.Product, finished []batches.FinishedGroup) ShelfRow {
	r := ShelfRow{ProductID: p.ID, ProductName: p.Name, Price: p.Price, GoalPieces: p.GoalPieces, GoalOn: p.GoalOn, Distinct: p.Distinct(), Groups: []batches.ShelfGroup{}}
	for _, g := range finished {
		switch {
		case g.ProductID != p.ID:
		case g.SetAside:
			r.SetAside += g.Pieces
		default:
			r.Spare += g.Pieces
			r.Groups = append(r.Groups, g.ShelfGroup)
			if g.UnitCost != nil {
				r.Worth = r.Worth.Add(g.UnitCost.Mul(decimal.NewFromInt(int64(g.Pieces))))
			}
		}
	}
	return r
}

// shelfCounts maps products to their spare plain pieces.
func shelfCounts(tx *gorm.DB) (map[uint64]int, error) {
	finished, err := batches.FinishedPieces(tx, 0)
	if err != nil {
		return nil, err
	}
	counts := map[uint64]int{}
	for _, g := range finished {
		if !g.SetAside && g.Lettering == "" {
			counts[g.ProductID] += g.Pieces
		}
	}
	return counts, nil
}

// Fill gives spare finished pieces to open wants of the same product and
// lettering, oldest piece to soonest due, and notes it with the orders.
func Fill(tx *gorm.DB, productID uint64, now time.Time) error {
	pieces, err := batches.Spare(tx, productID)
	if err != nil || len(pieces) == 0 {
		return err
	}
	wants, err := batches.Unserved(tx)
	if err != nil {
		return err
	}
	filled := map[uint64]int{}
	for _, want := range wants {
		i := fitting(pieces, want)
		if i < 0 {
			continue
		}
		pieces[i].WantID = &want.WantID
		if err := batches.SavePieces(tx, pieces[i:i+1]); err != nil {
			return err
		}
		filled[want.OrderID]++
	}
	return noteFilled(tx, filled, now)
}

// fitting finds a piece that nobody has for a want; -1 without one.
func fitting(pieces []batches.Piece, want orders.OpenWant) int {
	for i, p := range pieces {
		if p.WantID == nil && p.ProductID == want.ProductID && p.Lettering == want.Lettering && database.Same(p.ArtworkID, want.ArtworkID) {
			return i
		}
	}
	return -1
}
