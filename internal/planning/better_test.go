package planning_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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
