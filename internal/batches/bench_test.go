package batches_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

// bench is a studio of one person with a plain and a lettered product, and a clock.
type bench struct {
	*testing.T
	ctx             context.Context
	db              *database.DB
	now             time.Time
	batches         *batches.Area
	person          uint64
	plain, lettered products.Detail
}

func newBench(t *testing.T) *bench {
	b := &bench{T: t, ctx: context.Background(), db: dbtest.New(t), now: time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)}
	clock := func() time.Time { return b.now }
	b.batches = batches.New(b.db, clock)
	shop := workshop.New(b.db, clock, &standin.Hygrometer{})
	w, err := shop.Get(b.ctx)
	require.NoError(t, err)
	w.People = []workshop.Person{{Name: "Maren", Hours: []calendar.Hours{{Weekday: 1, FromMinute: 540, ToMinute: 900}}}}
	w, err = shop.Save(b.ctx, w)
	require.NoError(t, err)
	b.person = w.People[0].ID
	made := products.New(b.db, clock)
	b.plain, err = made.Make(b.ctx, products.NewProduct{Name: "Lamp", Method: "gel-lift", Blank: products.BlankForm{Surface: "wood-bare", Shape: "disc", Width: "120", Thickness: "10", Hangs: true}, Look: "crisp"})
	require.NoError(t, err)
	b.lettered, err = made.Make(b.ctx, products.NewProduct{Name: "Crew", Method: "gel-lift", Blank: products.BlankForm{Surface: "wood-bare", Shape: "disc", Width: "90", Thickness: "10", Hangs: true}, Look: "crisp", Lettered: true})
	require.NoError(t, err)
	return b
}

func (b *bench) later(d time.Duration) { b.now = b.now.Add(d) }

func (b *bench) order(product products.Detail, quantity int, lettering ...string) orders.Order {
	b.Helper()
	due := calendar.Date(b.now.AddDate(0, 0, 31).Format(time.DateOnly))
	o, err := b.take(orders.NewOrder{Customer: "Reed Club", DueOn: due, Lines: []orders.NewLine{{ProductID: product.ID, Quantity: quantity, Lettering: lettering}}})
	require.NoError(b, err)
	return o
}

func (b *bench) openWants(product products.Detail) (ids []uint64) {
	b.Helper()
	demand, err := b.batches.Demand(b.ctx)
	require.NoError(b, err)
	for _, d := range demand {
		if d.ProductID == product.ID {
			for _, w := range d.Wants {
				ids = append(ids, w.WantID)
			}
		}
	}
	return ids
}

func (b *bench) make(product products.Detail, extras int, lots ...int) (batches.Batch, []batches.Lot) {
	b.Helper()
	batch, err := b.batches.Make(b.ctx, batches.NewBatch{ProductID: product.ID, WantIDs: b.openWants(product), Extras: extras, Lots: lots})
	require.NoError(b, err)
	return batch, b.lots(batch.ID)
}

func read[T any](b *bench, query func(tx *gorm.DB, into *[]T) error) (rows []T) {
	b.Helper()
	require.NoError(b, b.db.Read(b.ctx, func(tx *gorm.DB) error { return query(tx, &rows) }))
	return rows
}

func (b *bench) lots(batch uint64) []batches.Lot {
	return read(b, func(tx *gorm.DB, into *[]batches.Lot) error {
		return tx.Where("batch_id = ?", batch).Order("number").Find(into).Error
	})
}

func (b *bench) pieces(batch uint64) []batches.Piece {
	return read(b, func(tx *gorm.DB, into *[]batches.Piece) error {
		return tx.Where("batch_id = ?", batch).Order("number").Find(into).Error
	})
}

func (b *bench) orderNow(id uint64) (o orders.Order) {
	b.Helper()
	require.NoError(b, b.db.Read(b.ctx, func(tx *gorm.DB) (err error) {
		o, err = orders.Load(tx, id)
		return err
	}))
	return o
}

func (b *bench) takeUp(lot batches.Lot, step int) batches.Run {
	b.Helper()
	run, err := b.batches.TakeUp(b.ctx, lot.ID, batches.TakeUp{PersonID: b.person, Step: step})
	require.NoError(b, err)
	return run
}

// through works a lot through the steps from first up to last, resting fully after each.
func (b *bench) through(lot batches.Lot, first, last int) {
	b.Helper()
	for step := first; step <= last; step++ {
		run := b.takeUp(lot, step)
		b.later(20 * time.Minute)
		require.NoError(b, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
		b.later(24 * time.Hour)
	}
}

func problemOf(t *testing.T, err error) *problem.Problem {
	t.Helper()
	var p *problem.Problem
	require.ErrorAs(t, err, &p)
	return p
}

// take takes an order without asking whom it moves.
func (b *bench) take(in orders.NewOrder) (o orders.Order, err error) {
	err = b.db.Write(b.ctx, func(tx *gorm.DB) error {
		o, err = batches.TakeOrder(tx, in, b.now)
		return err
	})
	return o, err
}
