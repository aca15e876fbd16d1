package batches_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/batches"
	"tidykiln/internal/products"
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

func TestTheFilmIsRecalibratedFromWhatWasUsed(t *testing.T) {
	b := newBench(t)
	area := products.New(b.db, func() time.Time { return b.now })
	d, err := area.Recalibrate(b.ctx, b.plain.ID, products.Recalibration{Material: "gel-medium", Planned: 7.2, Used: 6.6, Version: b.plain.Version})
	require.NoError(t, err)
	assert.Equal(t, 2, d.RecipeNumber)
	for _, s := range d.Draft.Steps {
		for _, u := range s.Uses {
			if u.Material == "gel-medium" {
				assert.InDelta(t, 0.6417, float64(u.Film), 1e-9, "0.7 × 6.6 ÷ 7.2")
			}
		}
	}
	_, err = area.Recalibrate(b.ctx, b.plain.ID, products.Recalibration{Material: "resin", Planned: 7.2, Used: 6.6, Version: d.Version})
	assert.Equal(t, "body.material", problemOf(t, err).Errors[0].Location)
	_, err = area.Recalibrate(b.ctx, b.plain.ID, products.Recalibration{Material: "gel-medium", Planned: 1, Used: 900, Version: d.Version})
	assert.Error(t, err, "no film is that thick")
}
