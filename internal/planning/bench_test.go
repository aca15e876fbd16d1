package planning_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

// bench is a small studio with a clock: one person, weekdays nine to three, one plain product.
type bench struct {
	*testing.T
	ctx      context.Context
	db       *database.DB
	now      time.Time
	shop     *workshop.Area
	batches  *batches.Area
	planning *planning.Area
	person   uint64
	product  uint64
}

// monday is when the tests begin: 09:00 in the morning.
var monday = time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)

func newBench(t *testing.T) *bench {
	b := &bench{T: t, ctx: context.Background(), db: dbtest.New(t), now: monday}
	clock := func() time.Time { return b.now }
	b.shop, b.batches, b.planning = workshop.New(b.db, clock, &standin.Hygrometer{}), batches.New(b.db, clock), planning.New(b.db, clock)
	b.change(func(w *workshop.Workshop) {
		p := workshop.Person{Name: "Maren"}
		for d := 1; d <= 5; d++ {
			p.Hours = append(p.Hours, calendar.Hours{Weekday: d, FromMinute: 540, ToMinute: 900})
		}
		w.People = []workshop.Person{p}
	})
	made, err := products.New(b.db, clock).Make(b.ctx, products.NewProduct{Name: "Lamp", Method: "gel-lift", Blank: products.BlankForm{Surface: "wood-bare", Shape: "disc", Width: "90", Thickness: "10", Hangs: true}, Look: "crisp", Price: "16"})
	require.NoError(t, err)
	b.product = made.ID
	b.reshape(made, shortRecipe)
	return b
}

// reshape saves a product's recipe with its steps changed.
func (b *bench) reshape(d products.Detail, edit func([]craft.Step) []craft.Step) {
	b.Helper()
	form := d.Draft.RecipeForm
	form.Steps = edit(form.Steps)
	_, err := b.products().ChangeRecipe(b.ctx, d.ID, products.RecipeChange{RecipeForm: form, Version: d.Version})
	require.NoError(b, err)
}

// shortRecipe is the lamp's own: one base coat, nothing done inside its rest,
// no touching up, and a string as soon as there is a hole.
func shortRecipe(steps []craft.Step) (short []craft.Step) {
	for _, s := range steps {
		switch s.ID {
		case "base-2", "touch-up":
			continue
		case "base":
			s.Rest = &craft.Rest{Kind: craft.Dry, Floor: 60, Usual: 120, Rack: 1}
		case "print":
			s.Inside = ""
		case "drill":
			s.Rest = nil
		}
		short = append(short, s)
	}
	return short
}

func (b *bench) change(edit func(*workshop.Workshop)) {
	b.Helper()
	w, err := b.shop.Get(b.ctx)
	require.NoError(b, err)
	edit(&w)
	w, err = b.shop.Save(b.ctx, w)
	require.NoError(b, err)
	b.person = w.People[0].ID
}

func (b *bench) at(day int, clock string) {
	b.Helper()
	c, err := time.Parse("15:04", clock)
	require.NoError(b, err)
	b.now = time.Date(2027, 3, day, c.Hour(), c.Minute(), 0, 0, time.UTC)
}

func (b *bench) order(due calendar.Date, pieces int) orders.Order {
	b.Helper()
	o, err := b.take(orders.NewOrder{Customer: "Reed Club", DueOn: due, Lines: []orders.NewLine{{ProductID: b.product, Quantity: pieces}}})
	require.NoError(b, err)
	return o
}

// make makes up a batch of all that is open, plus extras, in one lot.
func (b *bench) make(extras int) uint64 {
	b.Helper()
	demand, err := b.batches.Demand(b.ctx)
	require.NoError(b, err)
	var wants []uint64
	for _, w := range demand[0].Wants {
		wants = append(wants, w.WantID)
	}
	made, err := b.batches.Make(b.ctx, batches.NewBatch{ProductID: b.product, WantIDs: wants, Extras: extras, Lots: []int{len(wants) + extras}})
	require.NoError(b, err)
	var lot batches.Lot
	require.NoError(b, b.db.Read(b.ctx, func(tx *gorm.DB) error { return tx.Where("batch_id = ?", made.ID).First(&lot).Error }))
	return lot.ID
}

func (b *bench) takeUp(lot uint64, step int) batches.Run {
	b.Helper()
	run, err := b.batches.TakeUp(b.ctx, lot, batches.TakeUp{PersonID: b.person, Step: step, AcceptRisk: true})
	require.NoError(b, err)
	return run
}

// step does a whole step that begins now.
func (b *bench) step(lot uint64, step int) {
	b.Helper()
	run := b.takeUp(lot, step)
	b.now = b.now.Add(15 * time.Minute)
	require.NoError(b, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
}

func (b *bench) today() planning.Today {
	b.Helper()
	t, err := b.planning.Today(b.ctx)
	require.NoError(b, err)
	return t
}

func (b *bench) row(id uint64) planning.LedgerRow {
	b.Helper()
	rows, err := b.planning.Ledger(b.ctx)
	require.NoError(b, err)
	for _, r := range rows {
		if r.ID == id {
			return r
		}
	}
	b.Fatalf("order %d is not in the ledger", id)
	return planning.LedgerRow{}
}

func (b *bench) hands() []planning.Hands {
	b.Helper()
	p, err := b.planning.Days(b.ctx, "", 14)
	require.NoError(b, err)
	return p.Hands
}

// take takes an order without asking whom it moves.
func (b *bench) take(in orders.NewOrder) (o orders.Order, err error) {
	err = b.db.Write(b.ctx, func(tx *gorm.DB) error {
		o, err = batches.TakeOrder(tx, in, b.now)
		return err
	})
	return o, err
}
