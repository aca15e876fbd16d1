package planning_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/planning"
	"tidykiln/internal/stores"
)

func (b *bench) buy(supplier, key, pack, price string) {
	b.Helper()
	area := stores.New(b.db, func() time.Time { return b.now })
	var m stores.Material
	require.NoError(b, b.db.Read(b.ctx, func(tx *gorm.DB) error { return tx.Where("material_key = ?", key).First(&m).Error }))
	_, err := area.Buy(b.ctx, stores.NewReceipt{Supplier: supplier, ReceivedOn: "2027-02-01", Lines: []stores.NewPurchase{{MaterialID: m.ID, Packs: 1, Pack: pack, Price: price}}})
	require.NoError(b, err)
}

func needOf(t *testing.T, n planning.Needs, name string) planning.Need {
	t.Helper()
	for _, m := range n.Materials {
		if m.Name == name {
			return m
		}
	}
	require.Fail(t, "nothing is needed of "+name)
	return planning.Need{}
}

func TestThePlanSaysWhenAMaterialRunsOutAndWhatToBuy(t *testing.T) {
	b := newBench(t)
	b.order("2027-03-20", 20)
	b.buy("Reed & Rush", "plain-blank", "box of 12", "18.00")
	b.buy("Weir Packaging", "card-box", "pack of 50", "12.00")
	b.buy("Weir Packaging", "cord", "roll of 2 m", "0.50")
	b.buy("Towpath", "cord", "roll of 20 m", "3.10")
	n, err := b.planning.Needs(b.ctx)
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

	bySupplier := map[string]planning.ShoppingList{}
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
	b.order("2027-03-20", 6)
	n, err := b.planning.Needs(b.ctx)
	require.NoError(t, err)
	require.Len(t, n.Riders, 1)
	r := n.Riders[0]
	assert.Equal(t, "Copy paper, 80 g", r.Sheet)
	assert.Equal(t, []int{7, 5}, []int{r.Pieces, r.Free}, "90 mm prints lie six to a sheet")
}
