package desk_test

import (
	"testing"

	"tidykiln/internal/desk"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func needOf(t *testing.T, n desk.Needs, name string) desk.Need {
	t.Helper()
	for _, m := range n.Materials {
		if m.Name == name {
			return m
		}
	}
	require.Fail(t, "nothing is needed of "+name)
	return desk.Need{}
}

func TestThePlanSaysWhenAMaterialRunsOutAndWhatToBuy(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-20", 20)
	b.Buy("Reed & Rush", "plain-blank", "box of 12", "18.00")
	b.Buy("Weir Packaging", "card-box", "pack of 50", "12.00")
	b.Buy("Weir Packaging", "cord", "roll of 2 m", "0.50")
	b.Buy("Towpath", "cord", "roll of 20 m", "3.10")
	n, err := b.Desk.Needs(b.Ctx)
	require.NoError(t, err)

	blanks := needOf(t, n, "Plain wooden blank")
	assert.Equal(t, "12", blanks.OnHand.String())
	assert.True(t, blanks.Missing.Equal(blanks.Needed.Sub(blanks.OnHand)), "%s of %s", blanks.Missing, blanks.Needed)
	require.NotNil(t, blanks.RunsOutAt)
	assert.Contains(t, blanks.RunsOutFor, "Sand and wipe", "where it enters the work")
	assert.EqualValues(t, "2027-03-01", blanks.OrderBy, "its five days before that are over: today")
	assert.Equal(t, blanks.Missing.Neg().String(), blanks.Levels[len(blanks.Levels)-1].Left.String())

	boxes := needOf(t, n, "Card sleeve")
	assert.Nil(t, boxes.RunsOutAt)
	assert.Empty(t, boxes.OrderBy)
	varnish := needOf(t, n, "Water-based varnish")
	assert.False(t, varnish.Counted)
	assert.True(t, varnish.Needed.IsPositive())
	assert.Empty(t, varnish.Levels)

	bySupplier := map[string]desk.ShoppingList{}
	for _, l := range n.Shopping {
		bySupplier[l.Supplier] = l
	}
	reed := bySupplier["Reed & Rush"]
	require.Len(t, reed.Lines, 1)
	assert.Equal(t, "box of 12", reed.Lines[0].Pack)
	assert.Equal(t, 1, reed.Lines[0].Packs, "twelve more are rounded up to one box: %s missing", blanks.Missing)
	assert.Equal(t, "18", reed.Total.String())
	assert.NotContains(t, bySupplier, "", "all that is missing has been bought before")
}

func TestPrintsThatRideFreeAreSuggested(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-20", 6)
	n, err := b.Desk.Needs(b.Ctx)
	require.NoError(t, err)
	require.Len(t, n.Riders, 1)
	r := n.Riders[0]
	assert.Equal(t, "Copy paper, 80 g", r.Sheet)
	assert.Equal(t, []int{7, 5}, []int{r.Pieces, r.Free}, "90 mm prints lie six to a sheet")
}
