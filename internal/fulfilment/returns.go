package fulfilment

import (
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

// Goes is where a piece goes that was wrong, or that its customer does not want.
type Goes string

// To the shelf, among what is spoiled, or nowhere: the customer keeps it.
const (
	GoesShelf   Goes = "shelf"
	GoesSpoiled Goes = "spoiled"
	GoesStays   Goes = "stays"
)

// Returned is a piece that came back, or of which somebody complains.
type Returned struct {
	WantID uint64 `json:"wantId"`
	Goes   Goes   `json:"goes" enum:"shelf,spoiled,stays"`
}

// Back is a piece that came back, with what it is and had cost.
type Back struct {
	Returned
	ProductName string
	PieceID     *uint64
	Cost        decimal.Decimal
	Line        int
	Want        orders.Want
}

// Return takes pieces of an order back that had been handed over.
func (a *Area) Return(tx *gorm.DB, o orders.Order, returned []Returned) ([]Back, error) {
	byWant, err := batches.PiecesByWant(tx, o.WantIDs())
	if err != nil {
		return nil, err
	}
	var all []Back
	seen, touched := map[uint64]bool{}, map[uint64]bool{}
	for i, r := range returned {
		at := fmt.Sprintf("pieces[%d].wantId", i)
		b, line, ok := wantOf(o, r)
		switch {
		case !ok:
			return nil, problem.Invalid(at, "this order has no such piece")
		case seen[r.WantID]:
			return nil, problem.Invalid(at, "this piece is named twice")
		case b.Want.ReturnedAt != nil:
			return nil, problem.Invalid(at, "this piece came back already")
		}
		seen[r.WantID] = true
		piece, made := byWant[r.WantID]
		if made {
			b.PieceID = &piece.ID
			if piece.UnitCost != nil {
				b.Cost = *piece.UnitCost
			}
		}
		all = append(all, b)
		if r.Goes == GoesStays {
			continue
		}
		if made {
			piece.WantID, piece.State = nil, map[Goes]batches.PieceState{GoesShelf: batches.PieceFinished, GoesSpoiled: batches.PieceGone}[r.Goes]
			if err := batches.SavePieces(tx, []batches.Piece{piece}); err != nil {
				return nil, err
			}
		}
		if err := orders.SetReturned(tx, r.WantID, new(a.now())); err != nil {
			return nil, err
		}
		touched[line.ProductID] = true
	}
	for _, id := range slices.Sorted(maps.Keys(touched)) {
		if err := Fill(tx, id, a.now()); err != nil {
			return nil, err
		}
	}
	return all, nil
}

func wantOf(o orders.Order, r Returned) (Back, orders.Line, bool) {
	for i, l := range o.Lines {
		for _, w := range l.Wants {
			if w.ID == r.WantID {
				return Back{Returned: r, ProductName: l.ProductName, Cost: l.UnitCost, Line: i, Want: w}, l, true
			}
		}
	}
	return Back{}, orders.Line{}, false
}

// Unreturn gives a piece back to whom it had been handed over: it was noted by mistake.
// One that went to another order, or broke, since stays where it is.
func Unreturn(tx *gorm.DB, want uint64, piece *uint64, goes Goes) error {
	if goes == GoesStays {
		return nil
	}
	if piece != nil {
		found, err := batches.PiecesByID(tx, []uint64{*piece})
		if err != nil {
			return err
		}
		left := map[Goes]batches.PieceState{GoesShelf: batches.PieceFinished, GoesSpoiled: batches.PieceGone}[goes]
		if len(found) != 1 || found[0].WantID != nil || found[0].State != left {
			return problem.Conflict(problem.Moved, "A piece that came back serves another order by now, or has left the shelf: this cannot be struck out any more.")
		}
		found[0].WantID, found[0].State = &want, batches.PieceHandedOver
		if err := batches.SavePieces(tx, found); err != nil {
			return err
		}
	}
	return orders.SetReturned(tx, want, (*time.Time)(nil))
}
