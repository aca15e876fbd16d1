// Package fulfilment holds what orders do to pieces: taking, changing,
// cancelling and handing over, what is wanted and not yet made, and the shelf.
package fulfilment

import (
	"context"
	"maps"
	"slices"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/measure"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// Area answers for what orders do to pieces.
type Area struct {
	db       *database.DB
	now      func() time.Time
	products *products.Area
	orders   *orders.Area
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, products *products.Area, orders *orders.Area) *Area {
	return &Area{db, now, products, orders}
}

// Take records an order and fills what it can from the shelf.
func (a *Area) Take(tx *gorm.DB, in orders.NewOrder, now time.Time) (o orders.Order, err error) {
	if o, err = a.orders.Take(tx, in, now); err != nil {
		return o, err
	}
	for _, l := range o.Lines {
		if err := Fill(tx, l.ProductID, now); err != nil {
			return o, err
		}
	}
	return o, nil
}

// Change changes an order that is open. What is begun of it is protected: a
// name that is being made stays, and so does a piece that is.
func Change(tx *gorm.DB, id uint64, c orders.OrderChange, now time.Time) error {
	o, err := orders.ToChange(tx, id, c.Version)
	if err != nil {
		return err
	}
	edits, err := o.Edits(c.Lines)
	if err != nil {
		return err
	}
	for _, e := range edits {
		if err := freePieces(tx, e); err != nil {
			return err
		}
	}
	if err := orders.Change(tx, o, c, edits, now); err != nil {
		return err
	}
	for _, e := range edits {
		if err := Fill(tx, e.Line.ProductID, now); err != nil {
			return err
		}
	}
	return nil
}

// freePieces lets the pieces of a line that nobody has begun follow a change:
// with the new name, or serving nobody.
func freePieces(tx *gorm.DB, e orders.LineEdit) error {
	field := map[uint64]string{}
	name := map[uint64]string{}
	var ids []uint64
	for _, w := range e.Renamed {
		ids, field[w.ID], name[w.ID] = append(ids, w.ID), e.At[w.ID], w.Lettering
	}
	for _, w := range e.Removed {
		ids, field[w.ID] = append(ids, w.ID), e.WantsAt
	}
	pieces, err := batches.PiecesByWant(tx, ids)
	if err != nil {
		return err
	}
	for _, id := range ids {
		p, made := pieces[id]
		if !made {
			continue
		}
		begun, err := batches.Begun(tx, p)
		if err != nil {
			return err
		}
		if begun {
			return problem.Invalid(field[id], "%s is begun already, and stays as it is", p.Called())
		}
		if to, renamed := name[id]; renamed {
			p.Lettering = to
		} else {
			p.WantID = nil
		}
		if err := batches.SavePieces(tx, []batches.Piece{p}); err != nil {
			return err
		}
	}
	if len(e.Removed) > 0 {
		return batches.ForgetWants(tx, ids[len(e.Renamed):])
	}
	return nil
}

// HandOver gives an order's pieces to the customer; all of them must be finished.
func (a *Area) HandOver(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, database.Orders|database.Batches, func(tx *gorm.DB) error {
		o, pieces, err := a.openOrder(tx, id, version)
		if err != nil {
			return err
		}
		wanted, ready := o.Pieces(), 0
		for i := range pieces {
			if pieces[i].State == batches.PieceFinished {
				ready++
				pieces[i].State = batches.PieceHandedOver
			}
		}
		if ready < wanted {
			return problem.Conflict(problem.Unfinished, "%d of the %d pieces of order %d are finished. Hand over when all are.", ready, wanted, o.Number)
		}
		if err := batches.SavePieces(tx, pieces); err != nil {
			return err
		}
		if err := orders.AddEvent(tx, id, a.now(), "Handed over to %s", o.Customer.Name); err != nil {
			return err
		}
		return orders.Close(tx, o, orders.HandedOver, a.now())
	})
}

// TakeBack undoes a hand-over.
func (a *Area) TakeBack(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, database.Orders|database.Batches, func(tx *gorm.DB) error {
		o, err := orders.Load(tx, id)
		if err != nil {
			return err
		}
		if o.State != orders.HandedOver || o.Version != version {
			return problem.Conflict(problem.Moved, "Order %d is not as it was when you opened it.", o.Number)
		}
		if o.CameBack() {
			return problem.Conflict(problem.InUse, "Pieces of order %d came back: it was handed over.", o.Number)
		}
		pieces, err := piecesFor(tx, o)
		if err != nil {
			return err
		}
		for i := range pieces {
			pieces[i].State = batches.PieceFinished
		}
		if err := batches.SavePieces(tx, pieces); err != nil {
			return err
		}
		if err := orders.AddEvent(tx, id, a.now(), "Hand-over undone"); err != nil {
			return err
		}
		return orders.Reopen(tx, o)
	})
}

// Cancel ends an order. Pieces made for it become spare; a lettered one
// stays in its batch but serves nobody.
func (a *Area) Cancel(tx *gorm.DB, id uint64, version int) error {
	o, pieces, err := a.openOrder(tx, id, version)
	if err != nil {
		return err
	}
	for i := range pieces {
		pieces[i].WantID = nil
	}
	if err := batches.SavePieces(tx, pieces); err != nil {
		return err
	}
	if err := orders.AddEvent(tx, id, a.now(), "Order cancelled"); err != nil {
		return err
	}
	if err := orders.Close(tx, o, orders.Cancelled, a.now()); err != nil {
		return err
	}
	for _, l := range o.Lines {
		if err := Fill(tx, l.ProductID, a.now()); err != nil {
			return err
		}
	}
	return nil
}

// Spent is what an order's pieces have cost that are begun and would serve nobody else:
// those with a name or a customer's picture. Plain ones go to the shelf.
func (a *Area) Spent(tx *gorm.DB, o orders.Order) (decimal.Decimal, error) {
	spent := decimal.Zero
	byWant, err := batches.PiecesByWant(tx, o.WantIDs())
	if err != nil {
		return spent, err
	}
	for _, l := range o.Lines {
		for _, w := range l.Wants {
			p, made := byWant[w.ID]
			if !made || p.Lettering == "" && p.ArtworkID == nil {
				continue
			}
			begun, err := batches.Begun(tx, p)
			if err != nil {
				return spent, err
			}
			if begun {
				spent = spent.Add(l.UnitCost)
			}
		}
	}
	return spent.Round(2), nil
}

func (a *Area) openOrder(tx *gorm.DB, id uint64, version int) (o orders.Order, pieces []batches.Piece, err error) {
	if o, err = orders.ToChange(tx, id, version); err != nil {
		return o, nil, err
	}
	pieces, err = piecesFor(tx, o)
	return o, pieces, err
}

// piecesFor are the pieces made for an order.
func piecesFor(tx *gorm.DB, o orders.Order) ([]batches.Piece, error) {
	byWant, err := batches.PiecesByWant(tx, o.WantIDs())
	return slices.Collect(maps.Values(byWant)), err
}

func noteFilled(tx *gorm.DB, filled map[uint64]int, now time.Time) error {
	for _, id := range slices.Sorted(maps.Keys(filled)) {
		if err := orders.AddEvent(tx, id, now, "%s taken from the shelf", measure.Count(filled[id], "piece")); err != nil {
			return err
		}
	}
	return nil
}
