package trade_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/trade"
)

// handsOver finishes the pieces of an order, and hands it over.
func (b *till) handsOver(o orders.Order) orders.Order {
	b.Helper()
	require.NoError(b, b.DB.Write(b.Ctx, database.Batches, func(tx *gorm.DB) error {
		return tx.Model(&batches.Piece{}).Where("want_id IN ?", o.WantIDs()).Updates(map[string]any{"state": batches.PieceFinished, "finished_at": b.Now}).Error
	}))
	require.NoError(b, b.Fulfilment.HandOver(b.Ctx, o.ID, b.OrderNow(o.ID).Version))
	return b.OrderNow(o.ID)
}

// lampsOut are two lamps that were handed over, at 32.00.
func (b *till) lampsOut() orders.Order {
	o := b.takes()
	b.MakeUp(b.lamp, 0, 2)
	return b.handsOver(o)
}

func (b *till) returns(o orders.Order, form trade.ReturnForm) (trade.OrderMoney, error) {
	form.Version = b.OrderNow(o.ID).Version
	return b.Trade.Return(b.Ctx, o.ID, form)
}

func (b *till) shelf() int {
	rows, err := b.Fulfilment.Shelf(b.Ctx)
	require.NoError(b, err)
	for _, r := range rows {
		if r.ProductID == b.lamp.ID {
			return r.Spare
		}
	}
	return 0
}

func one(o orders.Order, i int, goes fulfilment.Goes) []fulfilment.Returned {
	return []fulfilment.Returned{{WantID: o.WantIDs()[i], Goes: goes}}
}

func TestWhatComesBackIsLetOffAndLiesOnTheShelf(t *testing.T) {
	b := newTill(t, "0", "spent")
	o := b.lampsOut()
	b.mustPay(o.ID, "32.00")
	c, err := b.returns(o, trade.ReturnForm{Pieces: one(o, 0, fulfilment.GoesShelf), Amount: money("16.00"), Note: "one too many"})
	require.NoError(t, err)
	assert.Equal(t, []string{"16.00", "-16.00"}, []string{c.LetOff.StringFixed(2), c.Open.StringFixed(2)})
	assert.True(t, c.Returns[0].Cost.IsZero(), "the shelf has it")
	assert.Equal(t, 1, b.shelf())
	assert.Equal(t, []string{o.Customer.Name + " back 16.00"}, b.owed())
	assert.Contains(t, b.HappenedTo(o.ID), "1 piece came back")
	err = b.Fulfilment.TakeBack(b.Ctx, o.ID, b.OrderNow(o.ID).Version)
	housetest.RefusedAs(t, err, problem.InUse, "it was handed over, or nothing could have come back")

	next := b.Order(b.lamp, 1)
	assert.Contains(t, b.HappenedTo(next.ID), "1 piece taken from the shelf")
	_, err = b.Trade.TakeBackReturn(b.Ctx, c.Returns[0].ID)
	housetest.RefusedAs(t, err, problem.Moved)
}

func TestAReturnNotedByMistakeIsStruckOut(t *testing.T) {
	b := newTill(t, "0", "spent")
	o := b.lampsOut()
	c, err := b.returns(o, trade.ReturnForm{Pieces: append(one(o, 0, fulfilment.GoesSpoiled), one(o, 1, fulfilment.GoesShelf)...), Cause: "lifted", Amount: money("20")})
	require.NoError(t, err)
	assert.Equal(t, o.Lines[0].UnitCost.Round(2).StringFixed(2), c.Returns[0].Cost.StringFixed(2), "of the spoiled one")
	c, err = b.Trade.TakeBackReturn(b.Ctx, c.Returns[0].ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"0.00", "32.00"}, []string{c.LetOff.StringFixed(2), c.Open.StringFixed(2)})
	assert.NotNil(t, c.Returns[0].TakenBackAt, "it stays to be seen")
	assert.Zero(t, b.shelf())
	assert.False(t, b.OrderNow(o.ID).CameBack())
	_, err = b.Trade.TakeBackReturn(b.Ctx, c.Returns[0].ID)
	housetest.RefusedAs(t, err, problem.TakenBack)
	_, err = b.Trade.TakeBackReturn(b.Ctx, 999)
	housetest.Missing(t, err)
	_, err = b.returns(o, trade.ReturnForm{Pieces: one(o, 0, fulfilment.GoesShelf)})
	require.NoError(t, err, "it can come back after all")
}

func TestWhatIsComplainedOfIsMadeAgainForNothing(t *testing.T) {
	b := newTill(t, "0", "spent")
	o := b.Order(b.crew, 2, "Ada", "Bea")
	b.MakeUp(b.crew, 0, 2)
	o = b.handsOver(o)
	c, err := b.returns(o, trade.ReturnForm{Pieces: one(o, 1, fulfilment.GoesStays), Cause: "lifted", RemakeBy: calendar.Date("2027-03-20")})
	require.NoError(t, err)
	r := c.Returns[0]
	again := b.OrderNow(*r.RemadeOrderID)
	assert.Equal(t, o.Customer, again.Customer)
	assert.Equal(t, "Bea", again.Lines[0].Wants[0].Lettering)
	assert.Len(t, again.Lines[0].Wants, 1)
	assert.True(t, again.Lines[0].UnitPrice.IsZero())
	assert.Equal(t, o.Lines[0].UnitCost.Round(2).StringFixed(2), r.Cost.StringFixed(2), "booked to why")
	assert.True(t, c.LetOff.IsZero())
	assert.True(t, b.account(again.ID).Open.IsZero())
	assert.False(t, b.OrderNow(o.ID).CameBack(), "they keep the bad one")
	_, err = b.Trade.TakeBackReturn(b.Ctx, r.ID)
	housetest.RefusedAs(t, err, problem.InUse)
	require.NoError(t, b.Trade.Cancel(b.Ctx, again.ID, trade.Cancelling{Version: again.Version}))
	_, err = b.Trade.TakeBackReturn(b.Ctx, r.ID)
	require.NoError(t, err)
}

func TestWhatCannotHaveComeBackIsRefused(t *testing.T) {
	b := newTill(t, "0", "spent")
	open := b.takes()
	_, err := b.returns(open, trade.ReturnForm{Pieces: one(open, 0, fulfilment.GoesShelf)})
	housetest.RefusedAs(t, err, problem.Unfinished)
	b.MakeUp(b.lamp, 0, 2)
	o := b.handsOver(open)
	other := b.Order(b.lamp, 1)
	for field, form := range map[string]trade.ReturnForm{
		"amount":           {Pieces: one(o, 0, fulfilment.GoesShelf), Amount: money("32.01")},
		"cause":            {Pieces: one(o, 0, fulfilment.GoesShelf), Cause: "moonlight"},
		"pieces[0].wantId": {Pieces: one(other, 0, fulfilment.GoesShelf)},
		"pieces[1].wantId": {Pieces: append(one(o, 0, fulfilment.GoesShelf), one(o, 0, fulfilment.GoesShelf)...)},
		"remakeBy":         {Pieces: one(o, 0, fulfilment.GoesShelf), RemakeBy: calendar.Date("2020-01-01")},
	} {
		_, err := b.returns(o, form)
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	_, err = b.returns(o, trade.ReturnForm{Pieces: one(other, 0, fulfilment.GoesShelf), RemakeBy: calendar.Date("2027-03-20")})
	assert.Equal(t, "pieces[0].wantId", housetest.AtFault(t, err))
	assert.Empty(t, b.account(o.ID).Returns)

	_, err = b.returns(o, trade.ReturnForm{Pieces: one(o, 0, fulfilment.GoesShelf)})
	require.NoError(t, err)
	_, err = b.Trade.Return(b.Ctx, o.ID, trade.ReturnForm{Pieces: one(o, 1, fulfilment.GoesShelf), Version: o.Version})
	housetest.RefusedAs(t, err, problem.Stale)
	_, err = b.returns(o, trade.ReturnForm{Pieces: one(o, 0, fulfilment.GoesStays)})
	assert.Equal(t, "pieces[0].wantId", housetest.AtFault(t, err), "it came back already")
}
