package planning_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
)

func TestWhatWouldGoBetterIsSaidWithItsGain(t *testing.T) {
	rooms := loaded(t)
	cards, err := rooms.Products.Gallery(t.Context())
	require.NoError(t, err)
	ids := map[string]uint64{}
	for _, c := range cards {
		ids[c.Name] = c.ID
	}
	better := func(product string, quantity int) []planning.Better {
		t.Helper()
		p, err := rooms.Planning.Promise(t.Context(), planning.Ask{Lines: []planning.AskLine{{ProductID: ids[product], Quantity: quantity}}})
		require.NoError(t, err)
		return p.Better
	}
	assert.Empty(t, better("Night-race tumbler", 6), "the shelf has six")
	dark := better("Night-race tumbler", 12)
	require.NotEmpty(t, dark)
	light := dark[len(dark)-1]
	assert.Contains(t, light.Text, "On a light base Night-race tumbler would need no spray and no solvent")
	assert.Zero(t, light.Quantity, "the maker asks first")
	assert.Empty(t, better("Regatta tumbler", 6), "it is light already, and its sheets are full")

	demand, err := rooms.Fulfilment.Demand(t.Context())
	require.NoError(t, err)
	var every int
	for _, d := range demand {
		if d.ProductID == ids["Lamp-night ornament"] {
			every = int(d.OnSheet)
		}
	}
	require.Greater(t, every, 2)
	full := better("Lamp-night ornament", every-1)
	require.Len(t, full, 1)
	assert.Equal(t, every, full[0].Quantity)
	assert.True(t, full[0].Gain.IsPositive())
	assert.Empty(t, better("Lamp-night ornament", every), "the sheet is full")
	assert.Empty(t, better("Lamp-night ornament", every+1), "a whole sheet more is not a few more")
	assert.Empty(t, better("Crew ornament", every-1), "a name cannot be added to fill a sheet")
}

func TestALaterDayIsOfferedWhereItSparesASetUp(t *testing.T) {
	s := housetest.New(t)
	s.Hire(9, 17, 1, 2, 3, 4, 5)
	lamp, crew := s.Make(housetest.Lamp("120")), s.Make(housetest.Crew())
	today := calendar.DateOf(s.Now, s.Now.Location())
	_, err := s.Take(orders.NewOrder{Customer: "Reed Club", DueOn: today.Add(25), Lines: []orders.NewLine{{ProductID: crew.ID, Quantity: 2, Lettering: []string{"Ada", "Bea"}}}})
	require.NoError(t, err)
	later := func(due calendar.Date) []planning.Better {
		t.Helper()
		p, err := s.Planning.Promise(s.Ctx, planning.Ask{DueOn: due, Lines: []planning.AskLine{{ProductID: lamp.ID, Quantity: 2}}})
		require.NoError(t, err)
		return slices.DeleteFunc(p.Better, func(b planning.Better) bool { return b.DueOn == "" })
	}
	offered := later(today.Add(10))
	require.Len(t, offered, 1)
	assert.Equal(t, today.Add(11), offered[0].DueOn, "fourteen days before the crew's")
	assert.Contains(t, offered[0].Text, "made together with "+crew.Name)
	assert.True(t, offered[0].Gain.IsPositive())
	assert.Empty(t, later(today.Add(11)), "it goes together as it is")
	assert.Empty(t, later(today.Add(7)), "four days are more than a few")
	assert.Empty(t, later(""), "no day is asked for")
}
