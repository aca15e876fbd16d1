package planning

import (
	"context"
	"fmt"
	"slices"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/habit"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Agreed are the moves of other orders' promises that somebody has agreed to.
type Agreed struct {
	Agreed []AgreedMove `json:"agreed,omitempty" maxItems:"500" nullable:"false" doc:"moves of other promises that may come of it"`
}

// AgreedMove is how far an order's promise may move. Moving it less is agreed to with it.
type AgreedMove struct {
	OrderID uint64        `json:"orderId"`
	ToOn    calendar.Date `json:"toOn,omitempty" format:"date" doc:"the day on which it is ready then; left out when it finds no place"`
	ToLate  bool          `json:"toLate,omitempty"`
}

// covers tells whether a move goes no further than was agreed to.
func (a AgreedMove) covers(m PromiseMove) bool {
	return a.OrderID == m.OrderID && OrLast(m.ToOn) <= OrLast(a.ToOn) && (a.ToLate || !m.ToLate)
}

// refusal is the answer to what would break promises, or by more, that nobody agreed
// to, with each of the moves to agree to; nil when there are none.
func (in Agreed) refusal(moves []PromiseMove, h habit.Habit) error {
	broken := slices.DeleteFunc(slices.Clone(moves), func(m PromiseMove) bool {
		return !m.Breaks || slices.ContainsFunc(in.Agreed, func(a AgreedMove) bool { return a.covers(m) })
	})
	if len(broken) == 0 {
		return nil
	}
	p := problem.Conflict(problem.BreaksPromises, "This would break %s, which nobody has agreed to: %s.", measure.Count(len(broken), "promise"), broken[0].inWords(h))
	for _, m := range broken {
		p.Errors = append(p.Errors, problem.Field{Location: fmt.Sprintf("order.%d", m.OrderID), Message: m.inWords(h), Value: AgreedMove{m.OrderID, m.ToOn, m.ToLate}})
	}
	return p
}

func (m PromiseMove) inWords(h habit.Habit) string {
	to := "ready " + dayInWords(m.ToOn, h)
	if !m.FromLate {
		to += ", late"
	}
	return fmt.Sprintf("%s, order %d, from %s to %s", m.Customer, m.Number, dayInWords(m.FromOn, h), to)
}

// NewOrder is an order being taken, with the moves that were agreed to.
type NewOrder struct {
	orders.NewOrder
	Agreed
}

// TakeOrder takes an order as it was promised: when it would make worse what
// is promised to others, only if that was agreed to.
func (a *Area) TakeOrder(ctx context.Context, in NewOrder) (wire.Made, error) {
	return a.TakeOrderAnd(ctx, in, func(*gorm.DB, orders.Order) error { return nil })
}

// TakeOrderAnd is TakeOrder with what else is done in the same transaction.
func (a *Area) TakeOrderAnd(ctx context.Context, in NewOrder, do func(*gorm.DB, orders.Order) error) (wire.Made, error) {
	// What is wrong with the order itself is said before whom it would move.
	if err := orders.CheckCustomer(in.Customer); err != nil {
		return wire.Made{}, err
	}
	ask := Ask{OutletID: in.OutletID, DueOn: in.DueOn, KeepRests: in.KeepRests}
	for _, l := range in.Lines {
		ask.Lines = append(ask.Lines, AskLine{l.ProductID, l.Quantity, l.Lettering})
	}
	work := func(ctx context.Context, s *Schedule) ([]PromiseMove, error) {
		_, then, _, err := a.wouldBe(ctx, s, ask)
		if err != nil || then == nil {
			return nil, err
		}
		return s.moves(then), nil
	}
	return a.agreed(ctx, in.Agreed, work, func(tx *gorm.DB) (wire.Made, error) {
		o, err := a.fulfilment.Take(tx, in.NewOrder, a.now())
		if err != nil {
			return wire.Made{}, err
		}
		return wire.Made{ID: o.ID, Number: o.Number}, do(tx, o)
	})
}

// OrderChange is a change of an order, with the moves that were agreed to.
type OrderChange struct {
	orders.OrderChange
	Agreed
}

// ChangeOrder changes an order; what that makes worse for others must have been agreed to.
// Another due is a new promise, made with the customer.
func (a *Area) ChangeOrder(ctx context.Context, id uint64, in OrderChange) error {
	anew := false
	work := func(ctx context.Context, s *Schedule) ([]PromiseMove, error) {
		var edits []orders.LineEdit
		if i := slices.IndexFunc(s.Orders, func(o orders.Order) bool { return o.ID == id }); i >= 0 {
			var err error
			if edits, err = s.Orders[i].Edits(in.Lines); err != nil {
				return nil, err
			}
			if anew = s.Orders[i].DueOn != in.DueOn; anew {
				if err := orders.CheckDue("dueOn", in.DueOn, s.Basis.Workshop, s.Now); err != nil {
					return nil, err
				}
			}
		}
		then, err := makeSchedule(ctx, s.changed(id, func(o *orders.Order) { o.DueOn, o.KeepRests = in.DueOn, in.KeepRests }).edited(id, edits), s)
		if err != nil {
			return nil, planned(ctx, err)
		}
		moves := s.moves(then)
		return slices.DeleteFunc(moves, func(m PromiseMove) bool { return m.OrderID == id }), nil
	}
	_, err := a.agreed(ctx, in.Agreed, work, func(tx *gorm.DB) (wire.Made, error) {
		if anew {
			if err := forget(tx, id); err != nil {
				return wire.Made{}, fmt.Errorf("forgetting the promise before: %w", err)
			}
		}
		return wire.Made{ID: id}, fulfilment.Change(tx, id, in.OrderChange, a.now())
	})
	return err
}

// mostTries bounds how often a change is planned anew because others wrote meanwhile.
const mostTries = 4

// agreed carries a change out on the state that its moves were worked out for.
// A request sent again is answered as the first time, whatever it would move now.
func (a *Area) agreed(ctx context.Context, in Agreed, work func(context.Context, *Schedule) ([]PromiseMove, error), write func(*gorm.DB) (wire.Made, error)) (made wire.Made, err error) {
	release, err := a.question(ctx)
	if err != nil {
		return made, err
	}
	defer release()
	for range mostTries {
		s, err := a.fresh(ctx)
		if err != nil {
			return made, err
		}
		moves, trouble := work(ctx, s)
		if trouble == nil {
			trouble = in.refusal(moves, s.Basis.Workshop.Habit)
		}
		again := false
		made, err = database.Answer(ctx, a.db, database.Orders|database.Batches|database.Promises, func(tx *gorm.DB) (made wire.Made, err error) {
			revision, err := database.PlanRevision(tx)
			if err != nil {
				return made, err
			}
			if again = revision != s.Revision+1; again {
				return made, errPassedOver
			}
			if trouble != nil {
				return made, trouble
			}
			if made, err = write(tx); err != nil {
				return made, err
			}
			return made, s.noteAgreed(tx, moves)
		})
		if !again {
			return made, err
		}
	}
	return made, problem.Conflict(problem.Stale, "Others are saving just now. Try again.")
}

// noteAgreed lets the promises stand where it was agreed that they move.
func (s *Schedule) noteAgreed(tx *gorm.DB, moves []PromiseMove) error {
	for _, m := range moves {
		if !m.Breaks {
			continue
		}
		c := change{order: orders.Order{ID: m.OrderID}, from: standing{m.FromOn, m.FromLate}, to: standing{m.ToOn, m.ToLate}}
		if err := s.note(tx, c); err != nil {
			return fmt.Errorf("noting what was agreed to: %w", err)
		}
	}
	return nil
}
