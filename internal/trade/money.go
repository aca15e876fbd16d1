package trade

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/bill"
	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Kind of a payment.
type Kind string

const (
	Paid   Kind = "payment"
	Refund Kind = "refund"
)

// Payment is money that came for an order, or went back.
type Payment struct {
	ID      uint64 `json:"id"`
	OrderID uint64 `json:"-"`
	PaymentForm
	NotedAt time.Time `json:"notedAt"`
	// TakenBackAt is set where it was noted by mistake; it counts for nothing then.
	TakenBackAt *time.Time `json:"takenBackAt,omitempty"`
}

// PaymentForm is what is noted of a payment.
type PaymentForm struct {
	Kind   Kind            `json:"kind" enum:"payment,refund"`
	Amount decimal.Decimal `json:"amount" pattern:"^\\d{1,9}(\\.\\d{1,2})?$" patternDescription:"an amount such as 15.50"`
	PaidOn calendar.Date   `json:"paidOn" format:"date"`
	Way    string          `json:"way" enum:"cash,card,transfer,voucher,other"`
	Note   string          `json:"note,omitempty" maxLength:"200"`
}

// Settlement is what became of the money of an order that was cancelled, or would.
type Settlement struct {
	// Spent is what was spent on pieces that serve nobody else.
	Spent decimal.Decimal `json:"spent"`
	// Kept is what is kept of what was paid.
	Kept decimal.Decimal `json:"kept"`
}

// OrderMoney is what an order asks and what came of it.
type OrderMoney struct {
	Number int          `json:"number"`
	State  orders.State `json:"state" enum:"open,handed_over,cancelled"`
	// Net and Tax together are Gross, which is to be paid.
	Net        decimal.Decimal `json:"net"`
	Tax        decimal.Decimal `json:"tax"`
	Gross      decimal.Decimal `json:"gross"`
	TaxPercent decimal.Decimal `json:"taxPercent"`
	TaxInPrice bool            `json:"taxInPrice"`
	// Deposit is what is asked ahead.
	Deposit decimal.Decimal `json:"deposit"`
	// Paid is what came, less what went back.
	Paid decimal.Decimal `json:"paid"`
	// LetOff is what is not asked any more, since something came back or was complained of.
	LetOff decimal.Decimal `json:"letOff"`
	// Open is what is still to come; under 0, what is to go back.
	Open decimal.Decimal `json:"open"`
	// Settled tells of an order that was cancelled; WouldBe of what cancelling it came to now.
	Settled  *Settlement `json:"settled,omitempty"`
	WouldBe  *Settlement `json:"wouldBe,omitempty"`
	Payments []Payment   `json:"payments" nullable:"false"`
	Returns  []Return    `json:"returns" nullable:"false"`
}

// Money is what an order asks and what came of it.
func (a *Area) Money(ctx context.Context, id uint64) (OrderMoney, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (OrderMoney, error) {
		o, err := orders.Load(tx, id)
		if err != nil {
			return OrderMoney{}, err
		}
		return a.MoneyOf(tx, o)
	})
}

// MoneyOf is what an order that was read asks, and what came of it.
func (a *Area) MoneyOf(tx *gorm.DB, o orders.Order) (c OrderMoney, err error) {
	sum, err := sumOf(o)
	if err != nil {
		return c, err
	}
	terms, err := loadTerms(tx)
	if err != nil {
		return c, err
	}
	c = OrderMoney{Number: o.Number, State: o.State, Net: sum.Net, Tax: sum.Tax, Gross: sum.Gross, TaxPercent: o.TaxPercent, TaxInPrice: o.TaxInPrice}
	if c.Deposit, err = bill.Deposit(sum.Gross, terms.DepositPercent); err != nil {
		return c, err
	}
	if c.Payments, err = paymentsOf(tx, o.ID); err != nil {
		return c, err
	}
	for _, p := range c.Payments {
		c.Paid = c.Paid.Add(p.Counts())
	}
	if c.Returns, err = returnsOf(tx, o.ID); err != nil {
		return c, err
	}
	for _, r := range c.Returns {
		if r.TakenBackAt == nil {
			c.LetOff = c.LetOff.Add(r.Amount)
		}
	}
	c.Open = c.Gross.Sub(c.LetOff).Sub(c.Paid)
	switch o.State {
	case orders.Cancelled:
		if c.Settled, err = settlementOf(tx, o.ID); err != nil {
			return c, err
		}
		c.Open = c.Settled.Kept.Sub(c.Paid)
	case orders.Open:
		c.WouldBe, err = a.settle(tx, o, terms, c.Paid)
	}
	return c, err
}

// Counts is what a payment adds to what was paid.
func (p Payment) Counts() decimal.Decimal {
	switch {
	case p.TakenBackAt != nil:
		return decimal.Zero
	case p.Kind == Refund:
		return p.Amount.Neg()
	}
	return p.Amount
}

// sumOf adds an order up with the tax it was taken with.
func sumOf(o orders.Order) (bill.Sum, error) {
	var lines []bill.Line
	for _, l := range o.Lines {
		lines = append(lines, bill.Line{Quantity: l.Quantity, Each: l.UnitPrice})
	}
	sum, err := bill.Add(lines, decimal.Zero, bill.Tax{Percent: o.TaxPercent, InPrice: o.TaxInPrice})
	if err != nil {
		return sum, fmt.Errorf("adding order %d up: %w", o.Number, err)
	}
	return sum, nil
}

// settle says what cancelling an order comes to.
func (a *Area) settle(tx *gorm.DB, o orders.Order, terms Terms, paid decimal.Decimal) (*Settlement, error) {
	spent, err := a.fulfilment.Spent(tx, o)
	if err != nil {
		return nil, err
	}
	kept, err := bill.Keeping{Rule: terms.Keeping, Percent: terms.KeepingPercent}.Keep(decimal.Max(paid, decimal.Zero), spent)
	if err != nil {
		return nil, fmt.Errorf("working out what is kept: %w", err)
	}
	return &Settlement{spent, kept}, nil
}

// Note notes money that came for an order, or went back.
func (a *Area) Note(ctx context.Context, id uint64, in PaymentForm) (OrderMoney, error) {
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (c OrderMoney, err error) {
		o, err := orders.LoadAlone(tx, id)
		if err != nil {
			return c, err
		}
		if c, err = a.MoneyOf(tx, o); err != nil {
			return c, err
		}
		w, err := workshop.LoadAlone(tx)
		if err != nil {
			return c, err
		}
		if err := c.takes(in, w, calendar.DateOf(a.now(), w.Location())); err != nil {
			return c, err
		}
		if err := tx.Create(&Payment{OrderID: id, PaymentForm: in, NotedAt: a.now()}).Error; err != nil {
			return c, fmt.Errorf("noting a payment: %w", err)
		}
		text := map[Kind]string{Paid: "Payment noted", Refund: "Money given back"}[in.Kind]
		if err := orders.AddEvent(tx, id, a.now(), "%s", text); err != nil {
			return c, err
		}
		return a.MoneyOf(tx, o)
	})
}

// longestAgo is how many days ago a payment can have come that is noted now.
const longestAgo = 3 * 366

// takes refuses what cannot have been paid.
func (c OrderMoney) takes(in PaymentForm, w workshop.Workshop, today calendar.Date) error {
	switch {
	case !in.Amount.IsPositive() || !in.Amount.Equal(in.Amount.Round(2)):
		return problem.Invalid("amount", "an amount over 0, in whole cents")
	case in.PaidOn > today:
		return problem.Invalid("paidOn", "this day is still to come; note it when it is paid")
	case in.PaidOn < today.Add(-longestAgo):
		return problem.Invalid("paidOn", "this is more than three years ago")
	case in.Kind == Refund && in.Amount.GreaterThan(c.Paid):
		return problem.Invalid("amount", "only %s was paid; no more can go back", w.Money(c.Paid))
	case in.Kind == Paid && !c.Open.IsPositive():
		return problem.Invalid("amount", "nothing is open of this order")
	case in.Kind == Paid && in.Amount.GreaterThan(c.Open):
		return problem.Invalid("amount", "only %s is open; note that, and the rest with what it was for", w.Money(c.Open))
	}
	return nil
}

// TakeBack strikes a payment out that was noted by mistake. It stays to be seen.
func (a *Area) TakeBack(ctx context.Context, id uint64) (OrderMoney, error) {
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (c OrderMoney, err error) {
		var p Payment
		if err := tx.First(&p, id).Error; err != nil {
			return c, problem.OrNotFound(err, "payment")
		}
		o, err := orders.LoadAlone(tx, p.OrderID)
		if err != nil {
			return c, err
		}
		struck := tx.Model(&Payment{}).Where("id = ? AND taken_back_at IS NULL", id).Update("taken_back_at", a.now())
		if struck.Error != nil {
			return c, fmt.Errorf("striking a payment out: %w", struck.Error)
		}
		if struck.RowsAffected == 0 {
			return c, problem.Conflict(problem.TakenBack, "It was struck out already.")
		}
		if err := orders.AddEvent(tx, o.ID, a.now(), "A payment struck out: it was noted by mistake"); err != nil {
			return c, err
		}
		if c, err = a.MoneyOf(tx, o); err != nil {
			return c, err
		}
		if c.Paid.IsNegative() {
			return c, problem.Conflict(problem.InUse, "More was given back than would be left. Strike that out first.")
		}
		return c, nil
	})
}

// Cancelling is an order being cancelled as it was read at a version.
type Cancelling struct {
	Version int `json:"version" minimum:"1"`
	// Kept is what is kept of what was paid, where it is other than by the terms.
	Kept string `json:"kept,omitempty" pattern:"^(\\d{1,9}(\\.\\d{1,2})?)?$" patternDescription:"an amount such as 15.50"`
}

// Cancel ends an order: what was spent on it and what is kept of what was paid is settled
// by the terms as they are now, or as was agreed with the customer.
func (a *Area) Cancel(ctx context.Context, id uint64, in Cancelling) error {
	return a.db.Write(ctx, database.Orders|database.Batches, func(tx *gorm.DB) error {
		o, err := orders.ToChange(tx, id, in.Version)
		if err != nil {
			return err
		}
		c, err := a.MoneyOf(tx, o)
		if err != nil {
			return err
		}
		settled := *c.WouldBe
		if in.Kept != "" {
			if settled.Kept, err = c.keeps(tx, in.Kept); err != nil {
				return err
			}
		}
		if err := a.fulfilment.Cancel(tx, id, in.Version); err != nil {
			return err
		}
		return keepSettlement(tx, id, settled, a.now())
	})
}

// keeps is what is kept of what was paid, as somebody says; no more than was paid.
func (c OrderMoney) keeps(tx *gorm.DB, amount string) (decimal.Decimal, error) {
	kept, err := decimal.NewFromString(amount)
	if err == nil && !kept.IsNegative() && kept.Equal(kept.Round(2)) && !kept.GreaterThan(decimal.Max(c.Paid, decimal.Zero)) {
		return kept, nil
	}
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return kept, err
	}
	return kept, problem.Invalid("kept", "from 0 to %s, which was paid", w.Money(decimal.Max(c.Paid, decimal.Zero)))
}
