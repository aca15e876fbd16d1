package trade

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/bill"
	"tidykiln/core/calendar"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/workshop"
)

// Owed is an order of which money is to come, or to go back.
type Owed struct {
	OrderID  uint64          `json:"orderId"`
	Number   int             `json:"number"`
	Customer customers.Named `json:"customer"`
	State    orders.State    `json:"state" enum:"open,handed_over,cancelled"`
	// Why it stands here: a deposit that has not come, an order handed over and not paid, or
	// money that is the customer's.
	Why string `json:"why" enum:"deposit,unpaid,back"`
	// Since is the day from which on it is owed.
	Since calendar.Date `json:"since" format:"date"`
	// Amount is what is owed now, Open all that is open.
	Amount decimal.Decimal `json:"amount"`
	Open   decimal.Decimal `json:"open"`
}

// Owed lists what is to come and to go back, the longest owed first. Nothing of it is
// sent to anybody.
func (a *Area) Owed(ctx context.Context) ([]Owed, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Owed, error) {
		terms, err := loadTerms(tx)
		if err != nil {
			return nil, err
		}
		asked, err := orders.LoadOpen(tx, terms.KeptSince)
		if err != nil {
			return nil, err
		}
		ids := database.IDs(asked, func(o orders.Order) uint64 { return o.ID })
		paid, err := paidBy(tx, ids)
		if err != nil {
			return nil, err
		}
		off, err := letOff(tx, ids)
		if err != nil {
			return nil, err
		}
		kept, err := keptOf(tx, ids)
		if err != nil {
			return nil, err
		}
		w, err := workshop.LoadAlone(tx)
		if err != nil {
			return nil, err
		}
		list := []Owed{}
		for _, o := range asked {
			owed, err := owedBy(o, terms, paid[o.ID].Add(off[o.ID]), kept[o.ID], w.Location())
			if err != nil {
				return nil, err
			}
			if owed != nil {
				list = append(list, *owed)
			}
		}
		slices.SortStableFunc(list, func(a, b Owed) int { return strings.Compare(string(a.Since), string(b.Since)) })
		return list, nil
	})
}

// Standing is what an order asks, what of it is open, and what is asked ahead and has not come.
type Standing struct{ Asked, Open, Ahead decimal.Decimal }

// StandingOf is how an order's money stands.
func StandingOf(tx *gorm.DB, o orders.Order) (s Standing, err error) {
	sum, err := sumOf(o)
	if err != nil {
		return s, err
	}
	terms, err := loadTerms(tx)
	if err != nil {
		return s, err
	}
	deposit, err := bill.Deposit(sum.Gross, terms.DepositPercent)
	if err != nil {
		return s, err
	}
	paid, err := paidBy(tx, []uint64{o.ID})
	if err != nil {
		return s, err
	}
	off, err := letOff(tx, []uint64{o.ID})
	if err != nil {
		return s, err
	}
	asked := sum.Gross.Sub(off[o.ID])
	return Standing{Asked: asked, Open: asked.Sub(paid[o.ID]), Ahead: deposit.Sub(paid[o.ID])}, nil
}

// owedBy is what an order owes that so much was paid for, or let off; nil where it owes
// nothing now.
func owedBy(o orders.Order, terms Terms, paid, kept decimal.Decimal, in *time.Location) (*Owed, error) {
	sum, err := sumOf(o)
	if err != nil {
		return nil, err
	}
	owed := Owed{OrderID: o.ID, Number: o.Number, Customer: o.Customer, State: o.State, Since: calendar.DateOf(o.TakenAt, in)}
	owed.Open = sum.Gross.Sub(paid)
	if o.State == orders.Cancelled {
		owed.Open = kept.Sub(paid)
	}
	if o.ClosedAt != nil {
		owed.Since = calendar.DateOf(*o.ClosedAt, in)
	}
	switch {
	case owed.Open.IsNegative():
		owed.Why, owed.Amount = "back", owed.Open.Neg()
	case o.State == orders.HandedOver && owed.Open.IsPositive():
		owed.Why, owed.Amount = "unpaid", owed.Open
	case o.State == orders.Open:
		deposit, err := bill.Deposit(sum.Gross, terms.DepositPercent)
		if err != nil {
			return nil, err
		}
		owed.Why, owed.Amount = "deposit", deposit.Sub(paid)
	}
	if !owed.Amount.IsPositive() {
		return nil, nil
	}
	return &owed, nil
}
