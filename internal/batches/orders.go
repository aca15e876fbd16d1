package batches

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

// TakeOrder records an order and fills what it can from the shelf.
func TakeOrder(tx *gorm.DB, in orders.NewOrder, now time.Time) (o orders.Order, err error) {
	if o, err = orders.Take(tx, in, now); err != nil {
		return o, err
	}
	for _, l := range o.Lines {
		if err := fillFromShelf(tx, l.ProductID, now); err != nil {
			return o, err
		}
	}
	return o, nil
}

// ChangeOrder changes an order that is open. What is begun of it is protected:
// a name that is being made stays, and so does a piece that is.
func ChangeOrder(tx *gorm.DB, id uint64, c orders.OrderChange, now time.Time) error {
	o, err := orders.Load(tx, id)
	if err != nil {
		return err
	}
	if err := o.MustBeOpen(c.Version); err != nil {
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
		if err := fillFromShelf(tx, e.Line.ProductID, now); err != nil {
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
		ids, field[w.ID] = append(ids, w.ID), "lines.wants"
	}
	pieces, err := PiecesByWant(tx, ids)
	if err != nil {
		return err
	}
	for _, id := range ids {
		p, made := pieces[id]
		if !made {
			continue
		}
		begun, err := isBegun(tx, p)
		if err != nil {
			return err
		}
		if begun {
			return problem.Invalid(field[id], "%s is begun already, and stays as it is", pieceName(p))
		}
		if to, renamed := name[id]; renamed {
			p.Lettering = to
		} else {
			p.WantID = nil
		}
		if err := savePieces(tx, []Piece{p}); err != nil {
			return err
		}
	}
	if len(e.Removed) > 0 {
		if err := tx.Model(&Outcome{}).Where("want_id IN ?", ids[len(e.Renamed):]).Update("want_id", nil).Error; err != nil {
			return fmt.Errorf("freeing what was done for a piece: %w", err)
		}
	}
	return nil
}

// isBegun tells whether work has been done on a piece, or is being done.
func isBegun(tx *gorm.DB, p Piece) (bool, error) {
	if p.State != PieceWorking || p.LotID == nil {
		return true, nil
	}
	var runs int64
	if err := tx.Model(&Run{}).Where("lot_id = ?", *p.LotID).Count(&runs).Error; err != nil {
		return false, fmt.Errorf("looking for work on a piece: %w", err)
	}
	var l Lot
	if err := tx.First(&l, *p.LotID).Error; err != nil {
		return false, fmt.Errorf("reading a piece's lot: %w", err)
	}
	return runs > 0 || l.SplitFromRun != nil, nil
}

// HandOver gives an order's pieces to the customer; all of them must be finished.
func (a *Area) HandOver(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, func(tx *gorm.DB) error {
		o, pieces, err := a.openOrder(tx, id, version)
		if err != nil {
			return err
		}
		wanted, ready := 0, 0
		for _, l := range o.Lines {
			wanted += l.Quantity
		}
		for i := range pieces {
			if pieces[i].State == PieceFinished {
				ready++
				pieces[i].State = PieceHandedOver
			}
		}
		if ready < wanted {
			return problem.Conflict(problem.Moved, "%d of the %d pieces of order %d are finished. Hand over when all are.", ready, wanted, o.Number)
		}
		if err := savePieces(tx, pieces); err != nil {
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
	return a.db.Write(ctx, func(tx *gorm.DB) error {
		o, err := orders.Load(tx, id)
		if err != nil {
			return err
		}
		if o.State != orders.HandedOver || o.Version != version {
			return problem.Conflict(problem.Moved, "Order %d is not as it was when you opened it.", o.Number)
		}
		pieces, err := piecesFor(tx, id)
		if err != nil {
			return err
		}
		for i := range pieces {
			pieces[i].State = PieceFinished
		}
		if err := savePieces(tx, pieces); err != nil {
			return err
		}
		if err := orders.AddEvent(tx, id, a.now(), "Hand-over undone"); err != nil {
			return err
		}
		return orders.Reopen(tx, o)
	})
}

// CancelOrder ends an order. Pieces made for it become spare; a lettered one
// stays in its batch but serves nobody.
func (a *Area) CancelOrder(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, func(tx *gorm.DB) error {
		o, pieces, err := a.openOrder(tx, id, version)
		if err != nil {
			return err
		}
		for i := range pieces {
			pieces[i].WantID = nil
		}
		if err := savePieces(tx, pieces); err != nil {
			return err
		}
		if err := orders.AddEvent(tx, id, a.now(), "Order cancelled"); err != nil {
			return err
		}
		if err := orders.Close(tx, o, orders.Cancelled, a.now()); err != nil {
			return err
		}
		for _, l := range o.Lines {
			if err := fillFromShelf(tx, l.ProductID, a.now()); err != nil {
				return err
			}
		}
		return nil
	})
}

func (a *Area) openOrder(tx *gorm.DB, id uint64, version int) (o orders.Order, pieces []Piece, err error) {
	if o, err = orders.Load(tx, id); err != nil {
		return o, nil, err
	}
	if err := o.MustBeOpen(version); err != nil {
		return o, nil, err
	}
	pieces, err = piecesFor(tx, id)
	return o, pieces, err
}

func piecesFor(tx *gorm.DB, orderID uint64) (pieces []Piece, err error) {
	wants := tx.Table("wants").Select("wants.id").Joins("JOIN order_lines ON order_lines.id = wants.order_line_id").Where("order_lines.order_id = ?", orderID)
	if err := tx.Where("want_id IN (?)", wants).Find(&pieces).Error; err != nil {
		return nil, fmt.Errorf("reading the pieces of an order: %w", err)
	}
	return pieces, nil
}

// PiecesByWant maps the pieces made for open and lately closed wants.
func PiecesByWant(tx *gorm.DB, wants []uint64) (map[uint64]Piece, error) {
	var pieces []Piece
	if err := tx.Where("want_id IN ?", append(wants, 0)).Find(&pieces).Error; err != nil {
		return nil, fmt.Errorf("reading the pieces of orders: %w", err)
	}
	byWant := make(map[uint64]Piece, len(pieces))
	for _, p := range pieces {
		byWant[*p.WantID] = p
	}
	return byWant, nil
}

func noteFilled(tx *gorm.DB, filled map[uint64]int, now time.Time) error {
	for _, id := range slices.Sorted(maps.Keys(filled)) {
		if err := orders.AddEvent(tx, id, now, "%s taken from the shelf", count(filled[id], "piece")); err != nil {
			return err
		}
	}
	return nil
}

// count writes "1 piece" and "2 pieces".
func count(n int, of string) string {
	if n == 1 {
		return "1 " + of
	}
	return fmt.Sprintf("%d %ss", n, of)
}
