package batches

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/products"
)

// ShelfRow is what lies finished of a product.
type ShelfRow struct {
	ProductID   uint64 `json:"productId"`
	ProductName string `json:"productName"`
	// Spare are the finished pieces that no order has, SetAside those of orders not yet handed over.
	Spare    int `json:"spare"`
	SetAside int `json:"setAside"`
	// Price is what one sells for at the main outlet.
	Price decimal.Decimal `json:"price"`
	// Worth is what the spare ones cost together, as far as that is known.
	Worth  decimal.Decimal `json:"worth"`
	Groups []ShelfGroup    `json:"groups" nullable:"false" doc:"the spare pieces, the oldest first"`
}

// ShelfGroup is the spare pieces that came from the same place.
type ShelfGroup struct {
	BatchID uint64 `json:"batchId" doc:"0 for what was found at a count"`
	Batch   int    `json:"batch" doc:"the batch's number; 0 for what was found at a count"`
	// Lettering is the name on a piece whose order was cancelled; empty on plain ones.
	Lettering  string           `json:"lettering"`
	Pieces     int              `json:"pieces"`
	FinishedAt time.Time        `json:"finishedAt"`
	UnitCost   *decimal.Decimal `json:"unitCost,omitempty" doc:"left out while the batch is open"`
}

// ShelfCard is a product's shelf with what was found and what is gone.
type ShelfCard struct {
	ShelfRow
	Movements []ShelfMovement `json:"movements" nullable:"false" doc:"the latest first"`
	// TakenBack are the movements that others have taken back.
	TakenBack []uint64 `json:"takenBack" nullable:"false"`
}

// Shelf lists what lies finished of every product.
func (a *Area) Shelf(ctx context.Context) (rows []ShelfRow, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		made, err := products.LoadAll(tx)
		if err != nil {
			return err
		}
		finished, err := finishedPieces(tx, 0)
		if err != nil {
			return err
		}
		rows = make([]ShelfRow, len(made))
		for i, p := range made {
			rows[i] = shelfRow(p, finished)
		}
		return nil
	})
	return rows, err
}

// ShelfOf reads what lies finished of one product.
func (a *Area) ShelfOf(ctx context.Context, productID uint64) (c ShelfCard, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		c, err = shelfCard(tx, productID)
		return err
	})
	return c, err
}

// shownMovements is how many of its latest movements a card shows.
const shownMovements = 60

func shelfCard(tx *gorm.DB, productID uint64) (c ShelfCard, err error) {
	p, err := products.Load(tx, productID)
	if err != nil {
		return c, err
	}
	finished, err := finishedPieces(tx, productID)
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

// finishedGroup is finished pieces that came from the same place, of an order or of none.
type finishedGroup struct {
	ProductID uint64
	ShelfGroup
	SetAside bool
}

// finishedPieces counts the finished pieces of a product, or of all, by where they came from.
func finishedPieces(tx *gorm.DB, productID uint64) (groups []finishedGroup, err error) {
	q := tx.Table("pieces").
		Select(`pieces.product_id, COALESCE(batches.id, 0) AS batch_id, COALESCE(batches.number, 0) AS batch, pieces.lettering, pieces.want_id IS NOT NULL AS set_aside,
			COUNT(*) AS pieces, MAX(pieces.finished_at) AS finished_at, pieces.unit_cost`).
		Joins("LEFT JOIN batches ON batches.id = pieces.batch_id").Where("pieces.state = ?", PieceFinished)
	if productID != 0 {
		q = q.Where("pieces.product_id = ?", productID)
	}
	err = q.Group("pieces.product_id, batches.id, pieces.lettering, pieces.want_id IS NOT NULL, pieces.unit_cost").Order("finished_at, batch, pieces.lettering").Scan(&groups).Error
	if err != nil {
		return nil, fmt.Errorf("reading the shelf: %w", err)
	}
	return groups, nil
}

func shelfRow(p products.Product, finished []finishedGroup) ShelfRow {
	r := ShelfRow{ProductID: p.ID, ProductName: p.Name, Price: p.Price, Groups: []ShelfGroup{}}
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
	finished, err := finishedPieces(tx, 0)
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

// spare reads the finished pieces of a product that no order has, the oldest first.
func spare(tx *gorm.DB, productID uint64) (pieces []Piece, err error) {
	err = tx.Where("product_id = ? AND state = ? AND want_id IS NULL", productID, PieceFinished).Order("finished_at, id").Find(&pieces).Error
	if err != nil {
		return nil, fmt.Errorf("reading the shelf: %w", err)
	}
	return pieces, nil
}

// SpareLike reads the spare pieces of a product that bear this lettering; plain ones bear none.
func SpareLike(tx *gorm.DB, productID uint64, lettering string) (pieces []Piece, err error) {
	all, err := spare(tx, productID)
	for _, p := range all {
		if p.Lettering == lettering {
			pieces = append(pieces, p)
		}
	}
	return pieces, err
}

// fillFromShelf gives spare finished pieces to open wants of the same product and
// lettering, oldest piece to soonest due, and notes it with the orders.
func fillFromShelf(tx *gorm.DB, productID uint64, now time.Time) error {
	pieces, err := spare(tx, productID)
	if err != nil || len(pieces) == 0 {
		return err
	}
	wants, err := OpenWants(tx)
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
		if err := savePieces(tx, pieces[i:i+1]); err != nil {
			return err
		}
		filled[want.OrderID]++
	}
	return noteFilled(tx, filled, now)
}

// fitting finds a piece that nobody has for a want; -1 without one.
func fitting(pieces []Piece, want OpenWant) int {
	for i, p := range pieces {
		if p.WantID == nil && p.ProductID == want.ProductID && p.Lettering == want.Lettering {
			return i
		}
	}
	return -1
}
