package trade

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Return is what came back after it was handed over, or was complained of, and what was
// done about it.
type Return struct {
	ID      uint64 `json:"id"`
	OrderID uint64 `json:"-"`
	// Cause is a sign of the guide to troubles; empty where nothing was wrong with it.
	Cause string `json:"cause,omitempty"`
	// Amount is what was let off, Cost what the pieces had cost that were spoiled or made again.
	Amount        decimal.Decimal `json:"amount"`
	Cost          decimal.Decimal `json:"cost"`
	RemadeOrderID *uint64         `json:"remadeOrderId,omitempty"`
	Note          string          `json:"note,omitempty"`
	NotedAt       time.Time       `json:"notedAt"`
	// TakenBackAt is set where it was noted by mistake; it counts for nothing then.
	TakenBackAt *time.Time    `json:"takenBackAt,omitempty"`
	Pieces      []ReturnPiece `json:"pieces" nullable:"false"`
}

// ReturnPiece is a piece of it.
type ReturnPiece struct {
	ID          uint64          `json:"-"`
	ReturnID    uint64          `json:"-"`
	WantID      uint64          `json:"wantId"`
	ProductName string          `json:"productName"`
	Goes        fulfilment.Goes `json:"goes" enum:"shelf,spoiled,stays"`
	PieceID     *uint64         `json:"-"`
}

// ReturnForm is what is noted of it.
type ReturnForm struct {
	Pieces []fulfilment.Returned `json:"pieces" minItems:"1" maxItems:"500" nullable:"false"`
	Cause  string                `json:"cause,omitempty" maxLength:"40" doc:"key of a sign in the guide to troubles; left out where nothing is wrong with it"`
	Amount decimal.Decimal       `json:"amount" pattern:"^\\d{1,9}(\\.\\d{1,2})?$" patternDescription:"an amount such as 15.50" doc:"that is let off"`
	// RemakeBy is when the pieces are to be there that are made again for nothing.
	RemakeBy calendar.Date `json:"remakeBy,omitempty" format:"date" doc:"left out where nothing is made again"`
	Note     string        `json:"note,omitempty" maxLength:"400"`
	Version  int           `json:"version" minimum:"1"`
	planning.Agreed
}

// Return notes what came back, or was complained of. What is made again for it is an order
// of its own, at no price.
func (a *Area) Return(ctx context.Context, id uint64, in ReturnForm) (OrderMoney, error) {
	if in.Cause != "" {
		if _, known := craft.TroubleByKey(in.Cause); !known {
			return OrderMoney{}, problem.Invalid("cause", "choose a sign of the guide")
		}
	}
	if in.RemakeBy == "" {
		return database.Answer(ctx, a.db, database.Orders|database.Batches, func(tx *gorm.DB) (OrderMoney, error) {
			return a.takeReturn(tx, id, in, nil)
		})
	}
	o, err := database.Look(ctx, a.db, func(tx *gorm.DB) (orders.Order, error) { return orders.Load(tx, id) })
	if err != nil {
		return OrderMoney{}, err
	}
	again, pictures, err := remake(o, in)
	if err != nil {
		return OrderMoney{}, err
	}
	_, err = a.planning.TakeOrderAnd(ctx, planning.NewOrder{NewOrder: again, Agreed: in.Agreed}, func(tx *gorm.DB, made orders.Order) error {
		if err := givePictures(tx, made, pictures); err != nil {
			return err
		}
		if err := orders.AddEvent(tx, made.ID, a.now(), "Made again for order %d", o.Number); err != nil {
			return err
		}
		_, err := a.takeReturn(tx, id, in, &made)
		return err
	})
	if err != nil {
		return OrderMoney{}, asOfRemake(err)
	}
	return a.Money(ctx, id)
}

// asOfRemake names the field of the form where the order made again has a wrong day.
func asOfRemake(err error) error {
	var p *problem.Problem
	if errors.As(err, &p) && len(p.Errors) > 0 && p.Errors[0].Location == "body.dueOn" {
		return problem.Invalid("remakeBy", "%s", p.Errors[0].Message)
	}
	return err
}

// remake is an order of the same pieces at no price, and the pictures that go on them.
func remake(o orders.Order, in ReturnForm) (again orders.NewOrder, pictures [][]*uint64, err error) {
	named := map[uint64]bool{}
	for _, p := range in.Pieces {
		named[p.WantID] = true
	}
	again = orders.NewOrder{Customer: o.Customer.Name, DueOn: in.RemakeBy, DaysOnTheWay: o.DaysOnTheWay, Note: fmt.Sprintf("Made again for order %d.", o.Number),
		Quoted: &orders.Quoted{OutletName: o.OutletName, TaxPercent: o.TaxPercent, TaxInPrice: o.TaxInPrice, TaxNote: o.TaxNote}}
	for _, l := range o.Lines {
		line, own := orders.NewLine{ProductID: l.ProductID}, []*uint64{}
		for _, w := range l.Wants {
			if !named[w.ID] {
				continue
			}
			line.Quantity++
			own = append(own, w.ArtworkID)
			if w.Lettering != "" {
				line.Lettering = append(line.Lettering, w.Lettering)
			}
		}
		if line.Quantity > 0 {
			again.Lines, pictures = append(again.Lines, line), append(pictures, own)
			again.Quoted.Prices = append(again.Quoted.Prices, decimal.Zero)
		}
	}
	if len(again.Lines) == 0 {
		return again, nil, problem.Invalid("pieces[0].wantId", "this order has no such piece")
	}
	return again, pictures, nil
}

func givePictures(tx *gorm.DB, made orders.Order, pictures [][]*uint64) error {
	for i, l := range made.Lines {
		for k, w := range l.Wants {
			if pictures[i][k] == nil {
				continue
			}
			if err := orders.SetPicture(tx, w.ID, pictures[i][k]); err != nil {
				return err
			}
		}
	}
	return nil
}

func (a *Area) takeReturn(tx *gorm.DB, id uint64, in ReturnForm, made *orders.Order) (c OrderMoney, err error) {
	o, err := orders.LoadAlone(tx, id)
	if err != nil {
		return c, err
	}
	if o.State != orders.HandedOver {
		return c, problem.Conflict(problem.Unfinished, "Order %d was not handed over: change or cancel it instead.", o.Number)
	}
	if err := problem.IfStale(in.Version, o.Version, "Order %d was changed by someone since you opened it.", o.Number); err != nil {
		return c, err
	}
	if c, err = a.MoneyOf(tx, o); err != nil {
		return c, err
	}
	if err := c.letsOff(tx, in.Amount); err != nil {
		return c, err
	}
	back, err := a.fulfilment.Return(tx, o, in.Pieces)
	if err != nil {
		return c, err
	}
	r := Return{OrderID: id, Cause: in.Cause, Amount: in.Amount, Note: in.Note, NotedAt: a.now()}
	if made != nil {
		r.RemadeOrderID = &made.ID
	}
	for _, b := range back {
		r.Pieces = append(r.Pieces, ReturnPiece{WantID: b.WantID, ProductName: b.ProductName, Goes: b.Goes, PieceID: b.PieceID})
		if made != nil || b.Goes == fulfilment.GoesSpoiled {
			r.Cost = r.Cost.Add(b.Cost)
		}
	}
	r.Cost = r.Cost.Round(2)
	if err := createReturn(tx, &r); err != nil {
		return c, err
	}
	if err := orders.AddEvent(tx, id, a.now(), "%s", r.inWords(made)); err != nil {
		return c, err
	}
	if err := orders.MoveOn(tx, o); err != nil {
		return c, err
	}
	return a.MoneyOf(tx, o)
}

// letsOff refuses to let more off than is asked.
func (c OrderMoney) letsOff(tx *gorm.DB, amount decimal.Decimal) error {
	left := c.Gross.Sub(c.LetOff)
	if !amount.IsNegative() && amount.Equal(amount.Round(2)) && !amount.GreaterThan(left) {
		return nil
	}
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return err
	}
	return problem.Invalid("amount", "from 0 to %s, which is what it asks", w.Money(left))
}

func (r Return) inWords(made *orders.Order) string {
	came := 0
	for _, p := range r.Pieces {
		if p.Goes != fulfilment.GoesStays {
			came++
		}
	}
	text := fmt.Sprintf("%s complained of", measure.Count(len(r.Pieces), "piece"))
	if came > 0 {
		text = fmt.Sprintf("%s came back", measure.Count(came, "piece"))
	}
	if made != nil {
		text += fmt.Sprintf("; made again as order %d", made.Number)
	}
	return text
}

// TakeBackReturn strikes a return out that was noted by mistake.
func (a *Area) TakeBackReturn(ctx context.Context, id uint64) (OrderMoney, error) {
	return database.Answer(ctx, a.db, database.Orders|database.Batches, func(tx *gorm.DB) (c OrderMoney, err error) {
		r, err := loadReturn(tx, id)
		if err != nil {
			return c, err
		}
		o, err := orders.LoadAlone(tx, r.OrderID)
		if err != nil {
			return c, err
		}
		if err := a.mayBeStruck(tx, r); err != nil {
			return c, err
		}
		for _, p := range r.Pieces {
			if err := fulfilment.Unreturn(tx, p.WantID, p.PieceID, p.Goes); err != nil {
				return c, err
			}
		}
		struck := tx.Model(&Return{}).Where("id = ? AND taken_back_at IS NULL", id).Update("taken_back_at", a.now())
		if struck.Error != nil {
			return c, fmt.Errorf("striking a return out: %w", struck.Error)
		}
		if struck.RowsAffected == 0 {
			return c, problem.Conflict(problem.TakenBack, "It was struck out already.")
		}
		if err := orders.AddEvent(tx, o.ID, a.now(), "A return struck out: it was noted by mistake"); err != nil {
			return c, err
		}
		if err := orders.MoveOn(tx, o); err != nil {
			return c, err
		}
		return a.MoneyOf(tx, o)
	})
}

func (a *Area) mayBeStruck(tx *gorm.DB, r Return) error {
	if r.TakenBackAt != nil {
		return problem.Conflict(problem.TakenBack, "It was struck out already.")
	}
	if r.RemadeOrderID != nil {
		made, err := orders.Load(tx, *r.RemadeOrderID)
		if err != nil {
			return err
		}
		if made.State != orders.Cancelled {
			return problem.Conflict(problem.InUse, "Order %d makes it again: cancel that first.", made.Number)
		}
	}
	credited, err := a.credited(tx, r.OrderID)
	if err != nil {
		return err
	}
	others, err := letOff(tx, []uint64{r.OrderID})
	if err != nil {
		return err
	}
	if credited.GreaterThan(others[r.OrderID].Sub(r.Amount)) {
		return problem.Conflict(problem.InUse, "A credit note was issued for it: it stays as it is.")
	}
	return nil
}
