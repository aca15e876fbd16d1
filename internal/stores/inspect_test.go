package stores_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

func TestBlanksThatTurnOutNoGoodAreCountedAgainstTheirSupplier(t *testing.T) {
	s := open(t)
	receipt := s.buy(stores.NewReceipt{Lines: []stores.NewPurchase{s.line("slice-90", "50", "46.00")}})
	bought := s.card("slice-90").Left[0].PurchaseID
	m, err := s.Inspect(ctx, bought, stores.Inspection{NoGood: 3, Note: "split bark"})
	require.NoError(t, err)
	assert.Equal(t, "47", m.OnHand.String())
	m, err = s.Inspect(ctx, bought, stores.Inspection{NoGood: 1})
	require.NoError(t, err)
	assert.Equal(t, "1", m.UnitCost.String(), "46.00 for 46 good ones")
	assert.Equal(t, "1", m.LatestCost.String())
	suppliers, err := s.Suppliers(ctx)
	require.NoError(t, err)
	assert.Equal(t, "4", suppliers[0].Rejects.String())
	assert.Equal(t, "50", suppliers[0].Blanks.String())
	card := s.card("slice-90")
	assert.Equal(t, "no good on arrival. split bark", card.Movements[1].Note)
	s.sound()

	back, err := s.reverse(card.Movements[1].ID)
	require.NoError(t, err)
	assert.Equal(t, "49", back.OnHand.String())
	_, err = s.reverse(card.Movements[2].ID)
	housetest.RefusedAs(t, err, problem.Elsewhere)
	s.sound()
	require.NoError(t, s.TakeBack(ctx, receipt), "also with some found no good")
	assert.True(t, s.card("slice-90").OnHand.IsZero())
	s.sound()
}

func TestWhatCannotBeLookedOverIsRefused(t *testing.T) {
	s := open(t)
	s.buy(stores.NewReceipt{Lines: []stores.NewPurchase{s.line("slice-90", "50", "46.00"), s.line("gel-medium", "473 ml", "18.90")}})
	slices := s.card("slice-90").Left[0].PurchaseID
	for _, n := range []int{0, -1, 50, 51} {
		_, err := s.Inspect(ctx, slices, stores.Inspection{NoGood: n})
		assert.Equal(t, "noGood", housetest.AtFault(t, err), n)
	}
	_, err := s.Inspect(ctx, s.card("gel-medium").Left[0].PurchaseID, stores.Inspection{NoGood: 1})
	housetest.RefusedAs(t, err, problem.Unfit)
	_, err = s.Count(ctx, s.id("slice-90"), stores.Counting{Quantity: "60"})
	require.NoError(t, err)
	found := s.card("slice-90").Left
	_, err = s.Inspect(ctx, found[0].PurchaseID, stores.Inspection{NoGood: 1})
	housetest.RefusedAs(t, err, problem.Unfit, "what a count found came from nobody")
	_, err = s.Inspect(ctx, 9999, stores.Inspection{NoGood: 1})
	housetest.Missing(t, err)
}
