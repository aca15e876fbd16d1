package batches_test

import (
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

// moved sums up what moved of a material, by cause.
func (b *bench) moved(key string) map[stores.Cause]string {
	b.Helper()
	sums := map[stores.Cause]string{}
	rows := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]stores.Movement) error {
		return tx.Where("material_id = ?", b.Material(key).ID).Find(into).Error
	})
	for _, m := range rows {
		sum := m.Quantity
		if before, is := sums[m.Cause]; is {
			sum = sum.Add(decimal.RequireFromString(before))
		}
		sums[m.Cause] = sum.String()
	}
	return sums
}

func TestAStepTakesItsMaterialsAndUndoGivesThemBack(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "plain-blank", "20", "30.00")
	b.Buy("Reed & Rush", "gel-medium", "480 ml", "21.00")
	batch, lots := b.MakeUp(b.Plain, 4, 4)
	lay := b.stepAt(batch, "lay")
	first := b.TakeUp(lots[0].ID, 0)
	pieces := b.Pieces(batch.ID)
	require.NoError(t, b.Batches.Finish(b.Ctx, first.ID, batches.Done{CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[0].ID, Reason: "cracked"}}}}))
	assert.Equal(t, "16", b.Material("plain-blank").OnHand.String(), "blanks are taken where they enter the work")
	assert.Equal(t, map[stores.Cause]string{stores.CausePurchase: "20", stores.CauseBatch: "-3", stores.CauseSpoil: "-1"}, b.moved("plain-blank"), "what is spoiled before the lay is charged")
	require.NoError(t, b.Batches.Undo(b.Ctx, first.ID))
	assert.Equal(t, "20", b.Material("plain-blank").OnHand.String())
	require.NoError(t, b.Batches.Finish(b.Ctx, first.ID, batches.Done{}))
	b.Through(lots[0], 1, lay-1)
	run := b.TakeUp(lots[0].ID, lay)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[0].ID, Reason: "dropped"}}}}))
	assert.Equal(t, "16", b.Material("plain-blank").OnHand.String(), "and not again at the lay")
	// a disc of 120 mm under 0.7 mm and 3 % takes 8.154 ml, four of them 32.617
	assert.InDelta(t, 480-32.617, b.Material("gel-medium").OnHand.InexactFloat64(), 0.001)
	assert.Equal(t, map[stores.Cause]string{stores.CauseBatch: "-0.75", stores.CauseSpoil: "-0.25"}, b.moved("foam-brush"), "what is not kept count of is noted all the same")
	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	assert.Equal(t, "480", b.Material("gel-medium").OnHand.String())
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	assert.Equal(t, "16", b.Material("plain-blank").OnHand.String())
	assert.Equal(t, map[stores.Cause]string{stores.CausePurchase: "20", stores.CauseBatch: "-4", stores.CauseSpoil: "0"}, b.moved("plain-blank"))
}

func TestABatchTakesItsBrushOnceAndAReworkedPieceNoSecondBlank(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "plain-blank", "20", "30.00")
	batch, lots := b.MakeUp(b.Plain, 6, 3, 3)
	lay, look := b.stepAt(batch, "lay"), b.stepAt(batch, "inspect")
	b.Through(lots[0], 0, lay)
	b.Through(lots[1], 0, lay)
	assert.Equal(t, "-1", b.moved("foam-brush")[stores.CauseBatch], "one brush for both lots")
	assert.Equal(t, "14", b.Material("plain-blank").OnHand.String())
	b.Through(lots[0], lay+1, look-1)
	run := b.TakeUp(lots[0].ID, look)
	piece := b.Pieces(batch.ID)[0]
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Rework: []uint64{piece.ID}}}))
	b.Later(24 * time.Hour)
	again := b.Lots(batch.ID)[2]
	b.Through(again, again.NextStep, lay)
	assert.Equal(t, "14", b.Material("plain-blank").OnHand.String(), "its blank was saved")
}

func TestAStepAsksWhenTheStoresHoldTooLittle(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "plain-blank", "2", "3.00")
	_, lots := b.MakeUp(b.Plain, 4, 4)
	run := b.TakeUp(lots[0].ID, 0)
	p := housetest.Refused(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	assert.Equal(t, problem.Short, p.Type)
	assert.Contains(t, p.Detail, "Plain wooden blank: 2 pieces are there, and this took 4 pieces")
	assert.Equal(t, "2", b.Material("plain-blank").OnHand.String())
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{AcceptShort: true}))
	assert.True(t, b.Material("plain-blank").OnHand.IsZero())
	assert.Equal(t, map[stores.Cause]string{stores.CausePurchase: "2", stores.CauseCount: "2", stores.CauseBatch: "-4"}, b.moved("plain-blank"))
}

func TestTheLogbookSaysHowManyToStart(t *testing.T) {
	b := newBench(t)
	o, err := b.Batches.Overage(b.Ctx, b.Plain.ID, 24, 0.95)
	require.NoError(t, err)
	assert.Contains(t, o.From, "from the yields written in the recipe")
	byRecipe := o.Start
	// 22 go through, and every eighth is lost at the look
	for range 2 {
		batch, lots := b.MakeUp(b.Plain, 11, 11)
		look := b.stepAt(batch, "inspect")
		b.Through(lots[0], 0, look-1)
		run := b.TakeUp(lots[0].ID, look)
		var spoiled []batches.SpoiledPiece
		for _, p := range b.Pieces(batch.ID)[:3] {
			spoiled = append(spoiled, batches.SpoiledPiece{PieceID: p.ID, Reason: "lifted"})
		}
		require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Spoiled: spoiled}}))
		b.Later(24 * time.Hour)
		b.Through(lots[0], look+1, len(batch.Recipe.Steps)-1)
	}
	o, err = b.Batches.Overage(b.Ctx, b.Plain.ID, 24, 0.95)
	require.NoError(t, err)
	assert.Equal(t, "from your logbook: of 22 pieces that went through, 6 were lost", o.From)
	assert.Greater(t, o.Start, byRecipe)
	more, short := decimal.RequireFromString(o.OneMore), decimal.RequireFromString(o.OneShort)
	assert.True(t, more.IsPositive() && short.GreaterThan(more), "one more %s, one short %s", more, short)
	assert.InDelta(t, short.Div(short.Add(more)).InexactFloat64(), o.Pays, 0.001)

	names, err := b.Batches.Overage(b.Ctx, b.Lettered.ID, 24, 0)
	require.NoError(t, err)
	assert.Equal(t, 24, names.Start)
	require.NotNil(t, names.SpareBlanks)
	assert.Positive(t, *names.SpareBlanks)
	assert.InDelta(t, 0.8, names.Confidence, 1e-9, "the workshop's own")
	_, err = b.Batches.Overage(b.Ctx, b.Plain.ID, 0, 0.9)
	assert.Equal(t, "good", housetest.AtFault(t, err))
	_, err = b.Batches.Overage(b.Ctx, 999, 5, 0.9)
	housetest.Missing(t, err)
}
