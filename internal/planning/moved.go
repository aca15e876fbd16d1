package planning

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/habit"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/workshop"
)

// promise is a row: where an open order's promise stands.
type promise struct {
	OrderID uint64 `gorm:"primaryKey"`
	ReadyOn *calendar.Date
	Late    bool
}

// PromiseOf is the day on which an open order is ready by the plan that was made last, and
// whether that is too late for it; no day where it finds no place.
func PromiseOf(tx *gorm.DB, order uint64) (readyOn *calendar.Date, late bool, err error) {
	var p promise
	if err := tx.Where("order_id = ?", order).Limit(1).Find(&p).Error; err != nil {
		return nil, false, fmt.Errorf("reading where a promise stands: %w", err)
	}
	return p.ReadyOn, p.Late, nil
}

// promiseMove is a row: a promise that has moved since it was told.
type promiseMove struct {
	ID       uint64
	OrderID  uint64
	MovedAt  time.Time
	FromOn   *calendar.Date
	FromLate bool
	ToOn     *calendar.Date
	ToLate   bool
	Because  string
	ToldAt   *time.Time
}

// longestBecause is what the column holds.
const longestBecause = 300

func (p promise) standing() standing { return standing{onOf(p.ReadyOn), p.Late} }

func onOf(d *calendar.Date) calendar.Date {
	if d == nil {
		return ""
	}
	return *d
}

func orNull(d calendar.Date) *calendar.Date {
	if d == "" {
		return nil
	}
	return &d
}

// notePromises compares a new plan with where the promises stood, and notes
// those that have moved. Nothing is written when none has.
func (a *Area) notePromises(ctx context.Context, s *Schedule) error {
	if len(s.changes(s.promises)) == 0 {
		return nil
	}
	err := a.db.Write(ctx, database.Promises, func(tx *gorm.DB) error {
		revision, err := database.PlanRevision(tx)
		if err != nil || revision != s.Revision {
			return err // a newer plan will say
		}
		before, err := loadPromises(tx)
		if err != nil {
			return err
		}
		for _, c := range s.changes(before) {
			if err := s.note(tx, c); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return fmt.Errorf("noting the promises that have moved: %w", err)
	}
	return nil
}

func loadPromises(tx *gorm.DB) (map[uint64]promise, error) {
	var rows []promise
	if err := tx.Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading where the promises stand: %w", err)
	}
	byOrder := make(map[uint64]promise, len(rows))
	for _, r := range rows {
		byOrder[r.OrderID] = r
	}
	return byOrder, nil
}

// change is a promise that stands otherwise than before; gone when it needs
// no watching any more, and first when it stands for the first time.
type change struct {
	order       orders.Order
	from, to    standing
	first, gone bool
}

func (s *Schedule) changes(before map[uint64]promise) (list []change) {
	watched := map[uint64]bool{}
	for _, o := range s.Orders {
		to, known := s.standsAt(o)
		if !known {
			continue
		}
		watched[o.ID] = true
		old, stood := before[o.ID]
		if !stood || old.standing() != to {
			list = append(list, change{order: o, from: old.standing(), to: to, first: !stood})
		}
	}
	for id := range before {
		if !watched[id] {
			list = append(list, change{order: orders.Order{ID: id}, gone: true})
		}
	}
	return list
}

// note writes one change, and what the customer is to be told of it: that the
// promise is broken, or kept again. A move that was not told yet goes on from
// where the customer last knew the promise; one that comes back there is none.
func (s *Schedule) note(tx *gorm.DB, c change) error {
	if c.gone {
		return forget(tx, c.order.ID)
	}
	untold := func() *gorm.DB { return tx.Where("order_id = ? AND told_at IS NULL", c.order.ID) }
	if err := tx.Save(&promise{c.order.ID, orNull(c.to.On), c.to.Late}).Error; err != nil || c.first {
		return err
	}
	move := promiseMove{OrderID: c.order.ID, MovedAt: s.Now, FromOn: orNull(c.from.On), FromLate: c.from.Late}
	if err := untold().Limit(1).Find(&move).Error; err != nil {
		return err
	}
	if m, _ := moved(c.order, standing{onOf(move.FromOn), move.FromLate}, c.to); !m.concerns() {
		return untold().Delete(&promiseMove{}).Error
	}
	move.MovedAt, move.ToOn, move.ToLate = s.Now, orNull(c.to.On), c.to.Late
	if last := s.lastJobFor(c.order); last != nil && last.Done != nil {
		move.Because, _ = s.holdUp(*last)
	} else if last != nil {
		move.Because = s.NoPlace(*last)
	}
	text := []rune(move.Because)
	move.Because = string(text[:min(len(text), longestBecause)])
	return tx.Save(&move).Error
}

// forget ends the watch over an order's promise, and what its customer was to be told.
func forget(tx *gorm.DB, orderID uint64) error {
	return errors.Join(
		tx.Where("order_id = ?", orderID).Delete(&promise{}).Error,
		tx.Where("order_id = ? AND told_at IS NULL", orderID).Delete(&promiseMove{}).Error,
	)
}

// MovedPromise is a promise that has moved and of which nobody has said yet that it was told.
type MovedPromise struct {
	PromiseMove
	ID      uint64    `json:"id"`
	MovedAt time.Time `json:"movedAt"`
	Because string    `json:"because" doc:"what holds the order up now; empty when nothing much does"`
}

// MovedPromises lists the promises that have moved and were not told, soonest due first.
func (a *Area) MovedPromises(ctx context.Context) ([]MovedPromise, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]MovedPromise, error) {
		moves := []MovedPromise{}
		var rows []promiseMove
		if err := tx.Where("told_at IS NULL").Order("id").Limit(mostMoves).Find(&rows).Error; err != nil {
			return moves, fmt.Errorf("reading the promises that have moved: %w", err)
		}
		byOrder := make(map[uint64]promiseMove, len(rows))
		for _, r := range rows {
			byOrder[r.OrderID] = r
		}
		heads, err := orders.Heads(tx, slices.Collect(maps.Keys(byOrder)))
		for _, o := range heads {
			r := byOrder[o.ID]
			if m, _ := moved(o, standing{onOf(r.FromOn), r.FromLate}, standing{onOf(r.ToOn), r.ToLate}); o.State == orders.Open && m.concerns() {
				moves = append(moves, MovedPromise{m, r.ID, r.MovedAt, r.Because})
			}
		}
		return moves, err
	})
}

// mostMoves bounds how many moves are shown at once.
const mostMoves = 200

// Told notes that customers know of the moves.
func (a *Area) Told(ctx context.Context, in Told) error {
	return a.db.Write(ctx, database.Promises, func(tx *gorm.DB) error {
		var rows []promiseMove
		if err := tx.Where("id IN ?", in.IDs).Where("told_at IS NULL").Find(&rows).Error; err != nil {
			return fmt.Errorf("reading the promises that have moved: %w", err)
		}
		for _, r := range rows {
			if err := noteTold(tx, r, a.now()); err != nil {
				return err
			}
		}
		return nil
	})
}

func noteTold(tx *gorm.DB, r promiseMove, now time.Time) error {
	r.ToldAt = &now
	if err := tx.Save(&r).Error; err != nil {
		return fmt.Errorf("noting that a promise's move was told: %w", err)
	}
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return err
	}
	return orders.AddEvent(tx, r.OrderID, now, "Told: ready %s, before it was %s", dayInWords(onOf(r.ToOn), w.Habit), dayInWords(onOf(r.FromOn), w.Habit))
}

func dayInWords(d calendar.Date, h habit.Habit) string {
	if d == "" {
		return "no day yet"
	}
	return h.Date(d.At(0, time.UTC))
}
