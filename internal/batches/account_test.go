package batches_test

import (
	"slices"
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

func (b *bench) account(id uint64) batches.Account {
	b.Helper()
	acc, err := b.Batches.Account(b.Ctx, id)
	require.NoError(b, err)
	return acc
}

func usedOf(t *testing.T, acc batches.Account, key string) batches.AccountMaterial {
	t.Helper()
	for _, m := range acc.Materials {
		if m.MaterialKey == key {
			return m
		}
	}
	require.Fail(t, "nothing of "+key)
	return batches.AccountMaterial{}
}

func TestABatchIsSetAgainstItsPlan(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "gel-medium", "480 ml", "24.00")
	batch, lots := b.MakeUp(b.Plain, 5, 5)
	lay := b.stepAt(batch, "lay")
	b.Through(lots[0], 0, lay)
	acc := b.account(batch.ID)
	assert.Equal(t, []any{5, 0, 0}, []any{acc.Started, acc.Good, acc.Lost})
	assert.Empty(t, acc.RealCost, "none is good yet")
	last := acc.Steps[len(acc.Steps)-1]
	assert.Equal(t, 20.0, last.Real)
	assert.Equal(t, batch.Recipe.Steps[lay].SetupMinutes+5*batch.Recipe.Steps[lay].MinutesPerPiece, last.Planned)
	gel := usedOf(t, acc, "gel-medium")
	assert.Equal(t, []string{"8.15", "8.15"}, []string{gel.PerPiece, gel.RealPerPiece})
	assert.False(t, gel.Typed)

	// less was used than planned, and what was not used is back in its jar
	id := b.Material("gel-medium").ID
	acc, err := b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: id, Quantity: "33 ml"})
	require.NoError(t, err)
	gel = usedOf(t, acc, "gel-medium")
	assert.Equal(t, []any{"33", "6.6", true}, []any{gel.Real.String(), gel.RealPerPiece, gel.Typed})
	assert.Equal(t, "447", b.Material("gel-medium").OnHand.String())
	acc, err = b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: id, Quantity: "50 ml"})
	require.NoError(t, err)
	assert.Equal(t, "50", usedOf(t, acc, "gel-medium").Real.String())
	assert.Equal(t, "430", b.Material("gel-medium").OnHand.String())

	b.Through(lots[0], lay+1, len(batch.Recipe.Steps)-1)
	acc = b.account(batch.ID)
	assert.Equal(t, 5, acc.Good)
	assert.NotEmpty(t, acc.RealCost)
	assert.NotEmpty(t, acc.Moved)
	for where, in := range map[string]batches.ReallyUsed{
		"body.materialId": {MaterialID: 9999, Quantity: "1 ml"},
		"body.quantity":   {MaterialID: id, Quantity: "a bit"},
	} {
		_, err := b.Batches.SayUsed(b.Ctx, batch.ID, in)
		assert.Equal(t, where, housetest.Refused(t, err).Errors[0].Location)
	}
	_, err = b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: b.Material("resin").ID, Quantity: "1 ml"})
	assert.Equal(t, "materialId", housetest.AtFault(t, err))
	_, err = b.Batches.Account(b.Ctx, 999)
	housetest.Missing(t, err)
}

func TestAnHourCostsWhatItCostsOfWhoWorkedIt(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 5, 5)
	b.Through(lots[0], 0, len(batch.Recipe.Steps)-1)
	before := decimal.RequireFromString(b.account(batch.ID).RealCost)
	planned := b.account(batch.ID).PlannedCost
	shop := b.Workshop
	w, err := shop.Get(b.Ctx)
	require.NoError(t, err)
	dearer := w.LabourPerHour.Add(decimal.NewFromInt(12))
	w.People[0].HourCosts = &dearer
	_, err = shop.Save(b.Ctx, w)
	require.NoError(t, err)
	seconds := 0
	for _, r := range housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Find(into).Error }) {
		seconds += r.WorkedSeconds
	}
	acc := b.account(batch.ID)
	more := decimal.RequireFromString(acc.RealCost).Sub(before)
	assert.InDelta(t, float64(seconds)/3600*12/float64(acc.Good), more.InexactFloat64(), 0.011)
	assert.Equal(t, planned, acc.PlannedCost, "who will do it is not known when it is planned")
}

func TestUndoTakesBackWhatWasSaidOfTheStepToo(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "gel-medium", "480 ml", "24.00")
	batch, lots := b.MakeUp(b.Plain, 5, 5)
	lay := b.stepAt(batch, "lay")
	b.Through(lots[0], 0, lay-1)
	run := b.TakeUp(lots[0].ID, lay)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	id := b.Material("gel-medium").ID
	for _, said := range []string{"30 ml", "60 ml"} {
		_, err := b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: id, Quantity: said})
		require.NoError(t, err)
	}
	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	assert.Equal(t, "480", b.Material("gel-medium").OnHand.String())
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	assert.Equal(t, "40.77", b.account(batch.ID).Materials[len(b.account(batch.ID).Materials)-2].Real.Round(2).String())
}

func TestTheFilmIsRecalibratedFromWhatWasUsedOnce(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "gel-medium", "480 ml", "21.00")
	batch, lots := b.MakeUp(b.Plain, 5, 5)
	b.Through(lots[0], 0, b.stepAt(batch, "lay"))
	_, err := b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: b.Material("gel-medium").ID, Quantity: "37.5 ml"})
	require.NoError(t, err)
	version := b.account(batch.ID).ProductVersion
	d, err := b.Batches.Recalibrate(b.Ctx, batch.ID, batches.Recalibration{Material: "gel-medium", Version: version})
	require.NoError(t, err)
	assert.Equal(t, 2, d.RecipeNumber)
	film := func() (mm float64) {
		d, err := b.Products.Get(b.Ctx, b.Plain.ID)
		require.NoError(t, err)
		for _, s := range d.Draft.Steps {
			for _, u := range s.Uses {
				if u.Material == "gel-medium" {
					mm = float64(u.Film)
				}
			}
		}
		return mm
	}
	// a disc of 120 mm under 0.7 mm and 3 % takes 8.1543 ml, five of them 40.7716
	assert.InDelta(t, 0.7*37.5/40.7716, film(), 0.00006, "from figures that are not rounded")
	_, err = b.Batches.Recalibrate(b.Ctx, batch.ID, batches.Recalibration{Material: "gel-medium", Version: d.Version})
	housetest.RefusedAs(t, err, problem.Unfit, "pressed twice it does not compound")
	_, err = b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: b.Material("gel-medium").ID, Quantity: "30 ml"})
	require.NoError(t, err)
	_, err = b.Batches.Recalibrate(b.Ctx, batch.ID, batches.Recalibration{Material: "gel-medium", Version: version})
	housetest.RefusedAs(t, err, problem.Stale, "somebody has saved since the account was read")
	_, err = b.Batches.Recalibrate(b.Ctx, batch.ID, batches.Recalibration{Material: "resin", Version: d.Version})
	assert.Equal(t, "material", housetest.AtFault(t, err))
}

func TestACorrectionIsAtWhatItCostAndTakenBackInTurn(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "gel-medium", "480 ml", "21.00")
	batch, lots := b.MakeUp(b.Plain, 5, 5)
	b.Through(lots[0], 0, 14)
	say := func(quantity string) {
		_, err := b.Batches.SayUsed(b.Ctx, batch.ID, batches.ReallyUsed{MaterialID: b.Material("gel-medium").ID, Quantity: quantity})
		require.NoError(t, err)
	}
	b.Buy("Reed & Rush", "gel-medium", "480 ml", "9000.00") // a price that went up
	say("1 ml")
	after := b.account(batch.ID)
	assert.NotContains(t, after.PlannedCost, "-", "what goes back goes at what it cost")
	say("60 ml")
	say("20 ml")
	var corrections []stores.Movement
	require.NoError(t, b.DB.Read(b.Ctx, func(tx *gorm.DB) error {
		return tx.Where("batch_id = ? AND run_id IS NULL AND material_id = ?", batch.ID, b.Material("gel-medium").ID).Order("id").Find(&corrections).Error
	}))
	require.Len(t, corrections, 3)
	_, err := b.Batches.ReverseMovement(b.Ctx, corrections[0].ID)
	housetest.RefusedAs(t, err, problem.Elsewhere, "a later correction stands on it")
	frozen := func() *decimal.Decimal { return b.Pieces(batch.ID)[0].UnitCost }
	before := *frozen()
	for i := 2; i >= 0; i-- {
		_, err := b.Batches.ReverseMovement(b.Ctx, corrections[i].ID)
		require.NoError(t, err)
	}
	assert.NotEqual(t, before.String(), frozen().String(), "what the closed batch's pieces cost follows")
	assert.Equal(t, "40.77", b.account(batch.ID).Materials[gelOf(b.account(batch.ID))].Real.Round(2).String())
}

func gelOf(acc batches.Account) int {
	return slices.IndexFunc(acc.Materials, func(m batches.AccountMaterial) bool { return m.MaterialKey == "gel-medium" })
}

func TestAReworkedPieceIsPlannedOneBlank(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "plain-blank", "20", "30.00")
	batch, lots := b.MakeUp(b.Plain, 2, 2)
	look := b.stepAt(batch, "inspect")
	b.Through(lots[0], 0, look-1)
	run := b.TakeUp(lots[0].ID, look)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Rework: []uint64{b.Pieces(batch.ID)[0].ID}}}))
	b.Later(24 * time.Hour)
	again := b.Lots(batch.ID)[1]
	b.Through(again, again.NextStep, look)
	for _, m := range b.account(batch.ID).Materials {
		if m.MaterialKey == "plain-blank" {
			assert.Equal(t, m.Planned.String(), m.Real.String())
			assert.Equal(t, "2", m.Real.String())
		}
	}
}

func TestCountingMoreThanTheBooksHoldIsRefusedByItsField(t *testing.T) {
	b := newBench(t)
	b.Buy("Reed & Rush", "plain-blank", "1", "999999.00")
	_, err := b.Stores.Count(b.Ctx, b.Material("plain-blank").ID, stores.Counting{Quantity: "9999999"})
	assert.Equal(t, "quantity", housetest.AtFault(t, err))
}

func TestAStepOfDaysIsAskedAbout(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 2, 2)
	b.Later(59 * 24 * time.Hour)
	at := func(before time.Duration) *time.Time { return new(b.Now.Add(-before)) }
	log := batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.Person, Step: 0, StartedAt: at(58 * 24 * time.Hour)}, Done: batches.Done{EndedAt: at(time.Hour)}}
	p := housetest.Refused(t, b.Batches.Log(b.Ctx, lots[0].ID, log))
	assert.Equal(t, problem.Long, p.Type)
	assert.Contains(t, p.Detail, "57 d")
	log.AcceptLong = true
	require.NoError(t, b.Batches.Log(b.Ctx, lots[0].ID, log))
}

func TestOfTwoStepsLoggedAtOneInstantOnlyTheLaterIsUndoneFirst(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 2, 2)
	b.Later(time.Hour)
	moment := b.Now.Add(-30 * time.Minute)
	for step := range 2 {
		require.NoError(t, b.Batches.Log(b.Ctx, lots[0].ID, batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.Person, Step: step, StartedAt: &moment}, Done: batches.Done{EndedAt: &moment}}))
	}
	var runs []batches.Run
	require.NoError(t, b.DB.Read(b.Ctx, func(tx *gorm.DB) error { return tx.Where("lot_id = ?", lots[0].ID).Order("id").Find(&runs).Error }))
	housetest.RefusedAs(t, b.Batches.Undo(b.Ctx, runs[0].ID), problem.Elsewhere)
	require.NoError(t, b.Batches.Undo(b.Ctx, runs[1].ID))
}
