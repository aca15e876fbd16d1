package housetest

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/desk"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
)

// Small is a small studio: one person on weekdays from nine to three, and one
// plain product with a short recipe.
type Small struct {
	*Studio
	Product uint64
}

// NewSmall sets one up.
func NewSmall(t *testing.T) *Small { return New(t).Small() }

// Small makes a studio one of those.
func (studio *Studio) Small() *Small {
	s := &Small{Studio: studio}
	s.Hire(9, 15, 1, 2, 3, 4, 5)
	lamp := Lamp("90")
	lamp.Price = "16"
	made := s.Make(lamp)
	s.Product = made.ID
	s.Reshape(made, ShortRecipe)
	return s
}

// Reshape saves a product's recipe with its steps changed.
func (s *Studio) Reshape(d products.Detail, edit func([]craft.Step) []craft.Step) products.Detail {
	s.Helper()
	form := d.Draft.RecipeForm
	form.Steps = edit(form.Steps)
	d, err := s.Products.ChangeRecipe(s.Ctx, d.ID, products.RecipeChange{RecipeForm: form, Version: d.Version})
	require.NoError(s, err)
	return d
}

// ShortRecipe is the lamp's own: one base coat, nothing done inside its rest,
// no touching up, and a string as soon as there is a hole.
func ShortRecipe(steps []craft.Step) (short []craft.Step) {
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

// At sets the clock to a time of a day of March.
func (s *Studio) At(day int, clock string) {
	s.Helper()
	c, err := time.Parse("15:04", clock)
	require.NoError(s, err)
	s.Now = time.Date(2027, 3, day, c.Hour(), c.Minute(), 0, 0, time.UTC)
}

// OrderFor takes an order of the product, due on a day.
func (s *Small) OrderFor(due calendar.Date, pieces int) orders.Order {
	s.Helper()
	o, err := s.Take(orders.NewOrder{Customer: "Reed Club", DueOn: due, Lines: []orders.NewLine{{ProductID: s.Product, Quantity: pieces}}})
	require.NoError(s, err)
	return o
}

// MakeLot makes up a batch of all that is open, plus extras, in one lot.
func (s *Small) MakeLot(extras int) (lot uint64) {
	s.Helper()
	_, lots := s.MakeUp(products.Detail{Card: products.Card{Product: products.Product{ID: s.Product}}}, extras, len(s.OpenWants(s.Product))+extras)
	return lots[0].ID
}

// Today is the bench as it is now.
func (s *Studio) Today() desk.Today {
	s.Helper()
	t, err := s.Desk.Today(s.Ctx)
	require.NoError(s, err)
	return t
}

// Ready are the lots that wait for hands, sitting by sitting.
func (s *Studio) Ready() (lots []desk.ReadyLot) {
	for _, sitting := range s.Today().Ready {
		lots = append(lots, sitting.Lots...)
	}
	return lots
}

// Row is an order in the ledger.
func (s *Studio) Row(id uint64) desk.LedgerRow {
	s.Helper()
	rows, err := s.Desk.Ledger(s.Ctx)
	require.NoError(s, err)
	for _, r := range rows {
		if r.ID == id {
			return r
		}
	}
	s.Fatalf("order %d is not in the ledger", id)
	return desk.LedgerRow{}
}

// Days is the plan of two weeks, from today on.
func (s *Studio) Days() planning.Plan {
	s.Helper()
	p, err := s.Planning.Days(s.Ctx, "", 14)
	require.NoError(s, err)
	return p
}
