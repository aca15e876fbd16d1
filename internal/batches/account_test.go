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
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/standin"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

func (b *bench) account(id uint64) batches.Account {
	b.Helper()
	acc, err := b.batches.Account(b.ctx, id)
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
	b.buy("gel-medium", "480 ml", "24.00")
	batch, lots := b.make(b.plain, 5, 5)
	lay := b.stepAt(batch, "lay")
	b.through(lots[0], 0, lay)
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
	id := b.material("gel-medium").ID
	acc, err := b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: id, Quantity: "33 ml"})
	require.NoError(t, err)
	gel = usedOf(t, acc, "gel-medium")
	assert.Equal(t, []any{"33", "6.6", true}, []any{gel.Real.String(), gel.RealPerPiece, gel.Typed})
	assert.Equal(t, "447", b.material("gel-medium").OnHand.String())
	acc, err = b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: id, Quantity: "50 ml"})
	require.NoError(t, err)
	assert.Equal(t, "50", usedOf(t, acc, "gel-medium").Real.String())
	assert.Equal(t, "430", b.material("gel-medium").OnHand.String())

	b.through(lots[0], lay+1, len(batch.Recipe.Steps)-1)
	acc = b.account(batch.ID)
	assert.Equal(t, 5, acc.Good)
	assert.NotEmpty(t, acc.RealCost)
	assert.NotEmpty(t, acc.Moved)
	for where, in := range map[string]batches.ReallyUsed{
		"body.materialId": {MaterialID: 9999, Quantity: "1 ml"},
		"body.quantity":   {MaterialID: id, Quantity: "a bit"},
	} {
		_, err := b.batches.SayUsed(b.ctx, batch.ID, in)
		assert.Equal(t, where, problemOf(t, err).Errors[0].Location)
	}
	_, err = b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: b.material("resin").ID, Quantity: "1 ml"})
	assert.ErrorContains(t, err, "has taken nothing of Clear two-part resin yet")
	_, err = b.batches.Account(b.ctx, 999)
	assert.ErrorContains(t, err, "no such batch")
}

func TestAnHourCostsWhatItCostsOfWhoWorkedIt(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 5, 5)
	b.through(lots[0], 0, len(batch.Recipe.Steps)-1)
	before := decimal.RequireFromString(b.account(batch.ID).RealCost)
	planned := b.account(batch.ID).PlannedCost
	shop := workshop.New(b.db, func() time.Time { return b.now }, &standin.Hygrometer{})
	w, err := shop.Get(b.ctx)
	require.NoError(t, err)
	dearer := w.LabourPerHour.Add(decimal.NewFromInt(12))
	w.People[0].HourCosts = &dearer
	_, err = shop.Save(b.ctx, w)
	require.NoError(t, err)
	seconds := 0
	for _, r := range read(b, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Find(into).Error }) {
		seconds += r.WorkedSeconds
	}
	acc := b.account(batch.ID)
	more := decimal.RequireFromString(acc.RealCost).Sub(before)
	assert.InDelta(t, float64(seconds)/3600*12/float64(acc.Good), more.InexactFloat64(), 0.011)
	assert.Equal(t, planned, acc.PlannedCost, "who will do it is not known when it is planned")
}

func TestUndoTakesBackWhatWasSaidOfTheStepToo(t *testing.T) {
	b := newBench(t)
	b.buy("gel-medium", "480 ml", "24.00")
	batch, lots := b.make(b.plain, 5, 5)
	lay := b.stepAt(batch, "lay")
	b.through(lots[0], 0, lay-1)
	run := b.takeUp(lots[0], lay)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	id := b.material("gel-medium").ID
	for _, said := range []string{"30 ml", "60 ml"} {
		_, err := b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: id, Quantity: said})
		require.NoError(t, err)
	}
	require.NoError(t, b.batches.Undo(b.ctx, run.ID))
	assert.Equal(t, "480", b.material("gel-medium").OnHand.String())
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	assert.Equal(t, "40.77", b.account(batch.ID).Materials[len(b.account(batch.ID).Materials)-2].Real.Round(2).String())
}

func TestTheFilmIsRecalibratedFromWhatWasUsedOnce(t *testing.T) {
	b := newBench(t)
	b.buy("gel-medium", "480 ml", "21.00")
	batch, lots := b.make(b.plain, 5, 5)
	b.through(lots[0], 0, b.stepAt(batch, "lay"))
	_, err := b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: b.material("gel-medium").ID, Quantity: "37.5 ml"})
	require.NoError(t, err)
	version := b.account(batch.ID).ProductVersion
	d, err := b.batches.Recalibrate(b.ctx, batch.ID, batches.Recalibration{Material: "gel-medium", Version: version})
	require.NoError(t, err)
	assert.Equal(t, 2, d.RecipeNumber)
	film := func() (mm float64) {
		d, err := products.New(b.db, func() time.Time { return b.now }).Get(b.ctx, b.plain.ID)
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
	_, err = b.batches.Recalibrate(b.ctx, batch.ID, batches.Recalibration{Material: "gel-medium", Version: d.Version})
	assert.Equal(t, problem.Moved, problemOf(t, err).Type, "pressed twice it does not compound")
	_, err = b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: b.material("gel-medium").ID, Quantity: "30 ml"})
	require.NoError(t, err)
	_, err = b.batches.Recalibrate(b.ctx, batch.ID, batches.Recalibration{Material: "gel-medium", Version: version})
	assert.Equal(t, problem.Stale, problemOf(t, err).Type, "somebody has saved since the account was read")
	_, err = b.batches.Recalibrate(b.ctx, batch.ID, batches.Recalibration{Material: "resin", Version: d.Version})
	assert.Equal(t, "body.material", problemOf(t, err).Errors[0].Location)
}

func TestACorrectionIsAtWhatItCostAndTakenBackInTurn(t *testing.T) {
	b := newBench(t)
	b.buy("gel-medium", "480 ml", "21.00")
	batch, lots := b.make(b.plain, 5, 5)
	b.through(lots[0], 0, 14)
	say := func(quantity string) {
		_, err := b.batches.SayUsed(b.ctx, batch.ID, batches.ReallyUsed{MaterialID: b.material("gel-medium").ID, Quantity: quantity})
		require.NoError(t, err)
	}
	b.buy("gel-medium", "480 ml", "9000.00") // a price that went up
	say("1 ml")
	after := b.account(batch.ID)
	assert.NotContains(t, after.PlannedCost, "-", "what goes back goes at what it cost")
	say("60 ml")
	say("20 ml")
	var corrections []stores.Movement
	require.NoError(t, b.db.Read(b.ctx, func(tx *gorm.DB) error {
		return tx.Where("batch_id = ? AND run_id IS NULL AND material_id = ?", batch.ID, b.material("gel-medium").ID).Order("id").Find(&corrections).Error
	}))
	require.Len(t, corrections, 3)
	_, err := b.batches.ReverseMovement(b.ctx, corrections[0].ID)
	assert.Equal(t, problem.Moved, problemOf(t, err).Type, "a later correction stands on it")
	frozen := func() *decimal.Decimal { return b.pieces(batch.ID)[0].UnitCost }
	before := *frozen()
	for i := 2; i >= 0; i-- {
		_, err := b.batches.ReverseMovement(b.ctx, corrections[i].ID)
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
	b.buy("plain-blank", "20", "30.00")
	batch, lots := b.make(b.plain, 2, 2)
	look := b.stepAt(batch, "inspect")
	b.through(lots[0], 0, look-1)
	run := b.takeUp(lots[0], look)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{Rework: []uint64{b.pieces(batch.ID)[0].ID}}))
	b.later(24 * time.Hour)
	again := b.lots(batch.ID)[1]
	b.through(again, again.NextStep, look)
	for _, m := range b.account(batch.ID).Materials {
		if m.MaterialKey == "plain-blank" {
			assert.Equal(t, m.Planned.String(), m.Real.String())
			assert.Equal(t, "2", m.Real.String())
		}
	}
}

func TestCountingMoreThanTheBooksHoldIsRefusedByItsField(t *testing.T) {
	b := newBench(t)
	b.buy("plain-blank", "1", "999999.00")
	_, err := b.stores().Count(b.ctx, b.material("plain-blank").ID, stores.Counting{Quantity: "9999999"})
	assert.Equal(t, "body.quantity", problemOf(t, err).Errors[0].Location)
}

func TestAStepOfDaysIsAskedAbout(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 2, 2)
	b.later(59 * 24 * time.Hour)
	at := func(before time.Duration) *time.Time { return new(b.now.Add(-before)) }
	log := batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.person, Step: 0, StartedAt: at(58 * 24 * time.Hour)}, Done: batches.Done{EndedAt: at(time.Hour)}}
	p := problemOf(t, b.batches.Log(b.ctx, lots[0].ID, log))
	assert.Equal(t, problem.Long, p.Type)
	assert.Contains(t, p.Detail, "57 days")
	log.AcceptLong = true
	require.NoError(t, b.batches.Log(b.ctx, lots[0].ID, log))
}

func TestOfTwoStepsLoggedAtOneInstantOnlyTheLaterIsUndoneFirst(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 2, 2)
	b.later(time.Hour)
	moment := b.now.Add(-30 * time.Minute)
	for step := range 2 {
		require.NoError(t, b.batches.Log(b.ctx, lots[0].ID, batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.person, Step: step, StartedAt: &moment}, Done: batches.Done{EndedAt: &moment}}))
	}
	var runs []batches.Run
	require.NoError(t, b.db.Read(b.ctx, func(tx *gorm.DB) error { return tx.Where("lot_id = ?", lots[0].ID).Order("id").Find(&runs).Error }))
	assert.Equal(t, problem.Moved, problemOf(t, b.batches.Undo(b.ctx, runs[0].ID)).Type)
	require.NoError(t, b.batches.Undo(b.ctx, runs[1].ID))
}
