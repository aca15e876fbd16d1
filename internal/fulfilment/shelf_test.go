package fulfilment_test

import (
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/batches"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
	"tidykiln/internal/trade"
)

func (b *bench) shelf(p products.Detail) fulfilment.ShelfCard {
	b.Helper()
	c, err := b.Fulfilment.ShelfOf(b.Ctx, p.ID)
	require.NoError(b, err)
	return c
}

// stocked makes spare plain pieces, all the way, and says which batch they are of.
func (b *bench) stocked(pieces int) batches.Batch {
	b.Helper()
	batch, lots := b.MakeUp(b.Plain, pieces, pieces)
	b.Through(lots[0], 0, 14)
	return batch
}

func TestAPieceOnTheShelfCostsWhatItsBatchReallyCost(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 5, 3, 2)
	b.Through(lots[0], 0, 14)
	shelf := b.shelf(b.Plain)
	require.Len(t, shelf.Groups, 1)
	assert.Equal(t, 3, shelf.Spare)
	assert.Nil(t, shelf.Groups[0].UnitCost, "the batch is still open")
	b.Through(lots[1], 0, 13)
	last := b.TakeUp(b.Lots(batch.ID)[1].ID, 14)
	require.NoError(t, b.Batches.Finish(b.Ctx, last.ID, batches.Done{}))
	shelf = b.shelf(b.Plain)
	require.Len(t, shelf.Groups, 1)
	require.NotNil(t, shelf.Groups[0].UnitCost)
	assert.Equal(t, b.account(batch.ID).RealCost, shelf.Groups[0].UnitCost.StringFixed(2))
	assert.Equal(t, batch.Number, shelf.Groups[0].Batch)
	assert.True(t, shelf.Worth.Equal(shelf.Groups[0].UnitCost.Mul(decimal.NewFromInt(5))), "five pieces at that")

	// What was really used, said afterwards, is what they cost.
	before := *shelf.Groups[0].UnitCost
	_, err := b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: b.Material("gel-medium").ID, Quantity: "300 ml"})
	require.NoError(t, err)
	shelf = b.shelf(b.Plain)
	assert.True(t, shelf.Groups[0].UnitCost.GreaterThan(before))
	assert.Equal(t, b.account(batch.ID).RealCost, shelf.Groups[0].UnitCost.StringFixed(2))

	require.NoError(t, b.Batches.Undo(b.Ctx, last.ID))
	shelf = b.shelf(b.Plain)
	assert.Equal(t, 3, shelf.Spare)
	assert.Nil(t, shelf.Groups[0].UnitCost, "the batch is open again")
}

func TestACountPutsTheShelfRightAndCanBeTakenBack(t *testing.T) {
	b := newBench(t)
	b.stocked(3)
	cost := *b.shelf(b.Plain).Groups[0].UnitCost
	c, err := b.Fulfilment.CountShelf(b.Ctx, b.Plain.ID, fulfilment.ShelfCount{Pieces: 5, Note: " behind the rack "})
	require.NoError(t, err)
	assert.Equal(t, 5, c.Spare)
	require.Len(t, c.Groups, 2)
	assert.Equal(t, batches.ShelfGroup{Pieces: 2, FinishedAt: b.Now, UnitCost: &cost}, c.Groups[1], "found, at what the others cost")
	require.Len(t, c.Movements, 1)
	assert.Equal(t, 2, c.Movements[0].Pieces)
	assert.Equal(t, "behind the rack", c.Movements[0].Note)

	b.Later(time.Hour)
	c, err = b.Fulfilment.CountShelf(b.Ctx, b.Plain.ID, fulfilment.ShelfCount{Pieces: 1})
	require.NoError(t, err)
	assert.Equal(t, 1, c.Spare)
	assert.Equal(t, -4, c.Movements[0].Pieces)
	assert.Equal(t, 1, c.Groups[0].Pieces)
	assert.Zero(t, c.Groups[0].Batch, "the oldest are the missing ones")

	_, err = b.Fulfilment.ReverseShelf(b.Ctx, c.Movements[1].ID)
	housetest.RefusedAs(t, err, problem.Used, "some of what was found is gone again")
	c, err = b.Fulfilment.ReverseShelf(b.Ctx, c.Movements[0].ID)
	require.NoError(t, err)
	assert.Equal(t, 5, c.Spare)
	_, err = b.Fulfilment.ReverseShelf(b.Ctx, c.Movements[0].ID)
	housetest.RefusedAs(t, err, problem.TakenBack, "a reversal stays")
	_, err = b.Fulfilment.ReverseShelf(b.Ctx, c.Movements[1].ID)
	housetest.RefusedAs(t, err, problem.TakenBack, "it is taken back once")
	c, err = b.Fulfilment.ReverseShelf(b.Ctx, c.Movements[2].ID)
	require.NoError(t, err)
	assert.Equal(t, 3, c.Spare)
	assert.ElementsMatch(t, []uint64{c.Movements[2].ID, c.Movements[3].ID}, c.TakenBack)
}

func TestWhatIsFoundOnTheShelfGoesToWhoeverWaits(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Plain, 2)
	_, err := b.Fulfilment.CountShelf(b.Ctx, b.Plain.ID, fulfilment.ShelfCount{Pieces: 3})
	require.NoError(t, err)
	assert.Empty(t, b.OpenWants(b.Plain.ID))
	shelf := b.shelf(b.Plain)
	assert.Equal(t, 1, shelf.Spare)
	assert.Equal(t, 2, shelf.SetAside)
	require.NotNil(t, shelf.Groups[0].UnitCost, "never made here: what the recipe should cost")
	assert.True(t, shelf.Groups[0].UnitCost.IsPositive())
	require.NoError(t, b.Fulfilment.HandOver(b.Ctx, o.ID, 1))
	assert.Equal(t, orders.HandedOver, b.OrderNow(o.ID).State)
}

func TestWhatIsGoneFromTheShelfIsNotGivenToOrders(t *testing.T) {
	b := newBench(t)
	b.stocked(3)
	for field, in := range map[string]fulfilment.ShelfLoss{
		"more than there are": {Pieces: 4, Cause: stores.CauseLoss},
		"none":                {Pieces: 0, Cause: stores.CauseLoss},
		"of another name":     {Pieces: 1, Cause: stores.CauseLoss, Lettering: "Ash"},
	} {
		_, err := b.Fulfilment.TakeOffShelf(b.Ctx, b.Plain.ID, in)
		assert.Equal(t, "body.pieces", housetest.Refused(t, err).Errors[0].Location, field)
	}
	c, err := b.Fulfilment.TakeOffShelf(b.Ctx, b.Plain.ID, fulfilment.ShelfLoss{Pieces: 2, Cause: stores.CauseSpoil, Note: "dropped"})
	require.NoError(t, err)
	assert.Equal(t, 1, c.Spare)
	b.Order(b.Plain, 3)
	assert.Len(t, b.OpenWants(b.Plain.ID), 2)
	c, err = b.Fulfilment.ReverseShelf(b.Ctx, c.Movements[0].ID)
	require.NoError(t, err)
	assert.Equal(t, 0, c.Spare, "the order waits for them")
	assert.Equal(t, 3, c.SetAside)
}

func TestANameWhoseOrderWasCancelledServesAnOrderOfTheSameName(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Lettered, 2, "Ash", "Elm")
	_, lots := b.MakeUp(b.Lettered, 0, 2)
	b.Through(lots[0], 0, 14)
	require.NoError(t, b.Trade.Cancel(b.Ctx, o.ID, trade.Cancelling{Version: 1}))
	shelf := b.shelf(b.Lettered)
	require.Len(t, shelf.Groups, 2)
	assert.Equal(t, "Ash", shelf.Groups[0].Lettering)
	b.Order(b.Lettered, 2, "Elm", "Oak")
	assert.Len(t, b.OpenWants(b.Lettered.ID), 1, "Elm is there, Oak is to be made")
	c, err := b.Fulfilment.TakeOffShelf(b.Ctx, b.Lettered.ID, fulfilment.ShelfLoss{Pieces: 1, Cause: stores.CauseLoss, Lettering: "Ash"})
	require.NoError(t, err)
	assert.Equal(t, 0, c.Spare)
}

func TestDoneIsNotTakenBackOnceAPieceIsGoneFromTheShelf(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 2, 2)
	b.Through(lots[0], 0, 13)
	run := b.TakeUp(lots[0].ID, 14)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	_, err := b.Fulfilment.TakeOffShelf(b.Ctx, b.Plain.ID, fulfilment.ShelfLoss{Pieces: 1, Cause: stores.CauseSpoil})
	require.NoError(t, err)
	housetest.RefusedAs(t, b.Batches.Undo(b.Ctx, run.ID), problem.Used)
}
