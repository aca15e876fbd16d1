package batches_test

import (
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
)

func (b *bench) shelf(p products.Detail) batches.ShelfCard {
	b.Helper()
	c, err := b.batches.ShelfOf(b.ctx, p.ID)
	require.NoError(b, err)
	return c
}

// stocked makes spare plain pieces, all the way, and says which batch they are of.
func (b *bench) stocked(pieces int) batches.Batch {
	b.Helper()
	batch, lots := b.make(b.plain, pieces, pieces)
	b.through(lots[0], 0, 14)
	return batch
}

func TestAPieceOnTheShelfCostsWhatItsBatchReallyCost(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 5, 3, 2)
	b.through(lots[0], 0, 14)
	shelf := b.shelf(b.plain)
	require.Len(t, shelf.Groups, 1)
	assert.Equal(t, 3, shelf.Spare)
	assert.Nil(t, shelf.Groups[0].UnitCost, "the batch is still open")
	b.through(lots[1], 0, 13)
	last := b.takeUp(b.lots(batch.ID)[1], 14)
	require.NoError(t, b.batches.Finish(b.ctx, last.ID, batches.Done{}))
	shelf = b.shelf(b.plain)
	require.Len(t, shelf.Groups, 1)
	require.NotNil(t, shelf.Groups[0].UnitCost)
	assert.Equal(t, b.account(batch.ID).RealCost, shelf.Groups[0].UnitCost.StringFixed(2))
	assert.Equal(t, batch.Number, shelf.Groups[0].Batch)
	assert.True(t, shelf.Worth.Equal(shelf.Groups[0].UnitCost.Mul(decimal.NewFromInt(5))), "five pieces at that")

	// What was really used, said afterwards, is what they cost.
	before := *shelf.Groups[0].UnitCost
	_, err := b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: b.material("gel-medium").ID, Quantity: "300 ml"})
	require.NoError(t, err)
	shelf = b.shelf(b.plain)
	assert.True(t, shelf.Groups[0].UnitCost.GreaterThan(before))
	assert.Equal(t, b.account(batch.ID).RealCost, shelf.Groups[0].UnitCost.StringFixed(2))

	require.NoError(t, b.batches.Undo(b.ctx, last.ID))
	shelf = b.shelf(b.plain)
	assert.Equal(t, 3, shelf.Spare)
	assert.Nil(t, shelf.Groups[0].UnitCost, "the batch is open again")
}

func TestACountPutsTheShelfRightAndCanBeTakenBack(t *testing.T) {
	b := newBench(t)
	b.stocked(3)
	cost := *b.shelf(b.plain).Groups[0].UnitCost
	c, err := b.batches.CountShelf(b.ctx, b.plain.ID, batches.ShelfCount{Pieces: 5, Note: " behind the rack "})
	require.NoError(t, err)
	assert.Equal(t, 5, c.Spare)
	require.Len(t, c.Groups, 2)
	assert.Equal(t, batches.ShelfGroup{Pieces: 2, FinishedAt: b.now, UnitCost: &cost}, c.Groups[1], "found, at what the others cost")
	require.Len(t, c.Movements, 1)
	assert.Equal(t, 2, c.Movements[0].Pieces)
	assert.Equal(t, "behind the rack", c.Movements[0].Note)

	b.later(time.Hour)
	c, err = b.batches.CountShelf(b.ctx, b.plain.ID, batches.ShelfCount{Pieces: 1})
	require.NoError(t, err)
	assert.Equal(t, 1, c.Spare)
	assert.Equal(t, -4, c.Movements[0].Pieces)
	assert.Equal(t, 1, c.Groups[0].Pieces)
	assert.Zero(t, c.Groups[0].Batch, "the oldest are the missing ones")

	_, err = b.batches.ReverseShelf(b.ctx, c.Movements[1].ID)
	assert.Equal(t, problem.Moved, problemOf(t, err).Type, "some of what was found is gone again")
	c, err = b.batches.ReverseShelf(b.ctx, c.Movements[0].ID)
	require.NoError(t, err)
	assert.Equal(t, 5, c.Spare)
	_, err = b.batches.ReverseShelf(b.ctx, c.Movements[0].ID)
	assert.Equal(t, problem.Moved, problemOf(t, err).Type, "a reversal stays")
	_, err = b.batches.ReverseShelf(b.ctx, c.Movements[1].ID)
	assert.Equal(t, problem.Moved, problemOf(t, err).Type, "it is taken back once")
	c, err = b.batches.ReverseShelf(b.ctx, c.Movements[2].ID)
	require.NoError(t, err)
	assert.Equal(t, 3, c.Spare)
	assert.ElementsMatch(t, []uint64{c.Movements[2].ID, c.Movements[3].ID}, c.TakenBack)
}

func TestWhatIsFoundOnTheShelfGoesToWhoeverWaits(t *testing.T) {
	b := newBench(t)
	o := b.order(b.plain, 2)
	_, err := b.batches.CountShelf(b.ctx, b.plain.ID, batches.ShelfCount{Pieces: 3})
	require.NoError(t, err)
	assert.Empty(t, b.openWants(b.plain))
	shelf := b.shelf(b.plain)
	assert.Equal(t, 1, shelf.Spare)
	assert.Equal(t, 2, shelf.SetAside)
	require.NotNil(t, shelf.Groups[0].UnitCost, "never made here: what the recipe should cost")
	assert.True(t, shelf.Groups[0].UnitCost.IsPositive())
	require.NoError(t, b.batches.HandOver(b.ctx, o.ID, 1))
	assert.Equal(t, orders.HandedOver, b.orderNow(o.ID).State)
}

func TestWhatIsGoneFromTheShelfIsNotGivenToOrders(t *testing.T) {
	b := newBench(t)
	b.stocked(3)
	for field, in := range map[string]batches.ShelfLoss{
		"more than there are": {Pieces: 4, Cause: stores.CauseLoss},
		"none":                {Pieces: 0, Cause: stores.CauseLoss},
		"of another name":     {Pieces: 1, Cause: stores.CauseLoss, Lettering: "Ash"},
	} {
		_, err := b.batches.TakeOffShelf(b.ctx, b.plain.ID, in)
		assert.Equal(t, "body.pieces", problemOf(t, err).Errors[0].Location, field)
	}
	c, err := b.batches.TakeOffShelf(b.ctx, b.plain.ID, batches.ShelfLoss{Pieces: 2, Cause: stores.CauseSpoil, Note: "dropped"})
	require.NoError(t, err)
	assert.Equal(t, 1, c.Spare)
	b.order(b.plain, 3)
	assert.Len(t, b.openWants(b.plain), 2)
	c, err = b.batches.ReverseShelf(b.ctx, c.Movements[0].ID)
	require.NoError(t, err)
	assert.Equal(t, 0, c.Spare, "the order waits for them")
	assert.Equal(t, 3, c.SetAside)
}

func TestANameWhoseOrderWasCancelledServesAnOrderOfTheSameName(t *testing.T) {
	b := newBench(t)
	o := b.order(b.lettered, 2, "Ash", "Elm")
	_, lots := b.make(b.lettered, 0, 2)
	b.through(lots[0], 0, 14)
	require.NoError(t, b.batches.CancelOrder(b.ctx, o.ID, 1))
	shelf := b.shelf(b.lettered)
	require.Len(t, shelf.Groups, 2)
	assert.Equal(t, "Ash", shelf.Groups[0].Lettering)
	b.order(b.lettered, 2, "Elm", "Oak")
	assert.Len(t, b.openWants(b.lettered), 1, "Elm is there, Oak is to be made")
	c, err := b.batches.TakeOffShelf(b.ctx, b.lettered.ID, batches.ShelfLoss{Pieces: 1, Cause: stores.CauseLoss, Lettering: "Ash"})
	require.NoError(t, err)
	assert.Equal(t, 0, c.Spare)
}

func TestDoneIsNotTakenBackOnceAPieceIsGoneFromTheShelf(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 2, 2)
	b.through(lots[0], 0, 13)
	run := b.takeUp(lots[0], 14)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	_, err := b.batches.TakeOffShelf(b.ctx, b.plain.ID, batches.ShelfLoss{Pieces: 1, Cause: stores.CauseSpoil})
	require.NoError(t, err)
	assert.Equal(t, problem.Moved, problemOf(t, b.batches.Undo(b.ctx, run.ID)).Type)
}
