package batches_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

// aPastBatch is the lettered product's open wants made from the 4th of January on, as it is proposed.
func (b *bench) aPastBatch(pieces int) batches.PastBatch {
	b.Helper()
	in := batches.PastBatch{ProductID: b.Lettered.ID, WantIDs: b.OpenWants(b.Lettered.ID), PersonID: b.Person}
	begun := time.Date(2027, 1, 4, 9, 0, 0, 0, time.UTC)
	p, err := b.Batches.ProposePast(b.Ctx, batches.PastTimes{ProductID: b.Lettered.ID, Pieces: pieces, BegunAt: begun})
	require.NoError(b, err)
	assert.Equal(b, begun, p.Steps[0].StartedAt)
	for _, s := range p.Steps {
		assert.True(b, s.Past)
		assert.Equal(b, time.Monday, s.StartedAt.Weekday(), "Maren works on Mondays")
		in.Steps = append(in.Steps, batches.PastStep{StartedAt: s.StartedAt, Minutes: s.Minutes})
	}
	return in
}

func TestAWholePastBatchIsEnteredAtOnce(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Lettered, 2, "Ash", "Elm")
	in := b.aPastBatch(2)
	lay := 4
	require.Equal(t, "Lay", b.Lettered.Draft.Steps[lay].Name)
	in.Steps[lay].Lost, in.Steps[lay].Reason = []int{2}, "shifted"
	batch, err := b.Batches.EnterPast(b.Ctx, in)
	require.NoError(t, err)
	assert.Equal(t, batches.Finished, batch.State)
	last := in.Steps[len(in.Steps)-1]
	assert.WithinDuration(t, last.StartedAt.Add(time.Duration(last.Minutes)*time.Minute), *batch.ClosedAt, 0)

	pieces := b.Pieces(batch.ID)
	assert.Equal(t, []batches.PieceState{batches.PieceFinished, batches.PieceSpoiled}, []batches.PieceState{pieces[0].State, pieces[1].State})
	assert.Equal(t, "Elm", pieces[1].Lettering)
	require.NotNil(t, pieces[0].UnitCost, "what it cost is frozen")
	assert.Equal(t, o.Lines[0].Wants[1].ID, b.OpenWants(b.Lettered.ID)[0], "the lost one is wanted again")
	acc, err := b.Batches.Account(b.Ctx, batch.ID)
	require.NoError(t, err)
	assert.NotEmpty(t, acc.Materials)
}

func TestABatchBegunBeforeItWasEnteredGoesOnAtTheBench(t *testing.T) {
	b := newBench(t)
	b.Order(b.Lettered, 2, "Ash", "Elm")
	in := b.aPastBatch(2)
	in.Steps = in.Steps[:3]
	batch, err := b.Batches.EnterPast(b.Ctx, in)
	require.NoError(t, err)
	assert.Equal(t, batches.Open, batch.State)
	lot := b.Lots(batch.ID)[0]
	assert.Equal(t, 3, lot.NextStep)
	b.TakeUp(lot.ID, 3)
}

func TestWhatWasCountedSinceAPastStepIsNotTakenAgain(t *testing.T) {
	b := newBench(t)
	b.Order(b.Lettered, 2, "Ash", "Elm")
	in := b.aPastBatch(2)
	shop := b.Stores
	held := func(key string) stores.Material {
		all := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]stores.Material) error {
			return tx.Where("material_key = ?", key).Find(into).Error
		})
		return all[0]
	}
	_, err := shop.Count(b.Ctx, held("gel-medium").ID, stores.Counting{Quantity: "200 ml"})
	require.NoError(t, err)
	today := b.Now
	b.Now = time.Date(2027, 1, 1, 9, 0, 0, 0, time.UTC)
	_, err = shop.Count(b.Ctx, held("copy-paper").ID, stores.Counting{Quantity: "20"})
	require.NoError(t, err)
	b.Now = today

	batch, err := b.Batches.EnterPast(b.Ctx, in)
	require.NoError(t, err)
	assert.Equal(t, "200", held("gel-medium").OnHand.String(), "it was counted when the batch had taken it")
	assert.True(t, held("copy-paper").OnHand.LessThan(held("gel-medium").OnHand) && held("copy-paper").OnHand.String() != "20", "this was counted before")
	acc, err := b.Batches.Account(b.Ctx, batch.ID)
	require.NoError(t, err)
	assert.True(t, acc.Materials[0].Real.IsPositive(), "what it took is known all the same")
}

func TestAPastBatchThatCannotHaveBeenIsRefusedAndLeavesNothing(t *testing.T) {
	b := newBench(t)
	b.Order(b.Lettered, 2, "Ash", "Elm")
	for field, spoil := range map[string]func(*batches.PastBatch){
		"body.productId":          func(in *batches.PastBatch) { in.ProductID = 99 },
		"body.personId":           func(in *batches.PastBatch) { in.PersonID = 99 },
		"body.extras":             func(in *batches.PastBatch) { in.Extras = 1 },
		"body.steps[0].startedAt": func(in *batches.PastBatch) { in.Steps[0].StartedAt = b.Now.AddDate(-4, 0, 0) },
		"body.steps[1].startedAt": func(in *batches.PastBatch) { in.Steps[1].StartedAt = in.Steps[0].StartedAt },
		"body.steps[2].minutes": func(in *batches.PastBatch) {
			in.Steps = in.Steps[:3]
			in.Steps[2].StartedAt, in.Steps[2].Minutes = b.Now.Add(-time.Minute), 5
		},
		"body.steps[3].startedAt": func(in *batches.PastBatch) { in.Steps[3].StartedAt = b.Now.Add(time.Hour) },
		"body.steps[4].reason":    func(in *batches.PastBatch) { in.Steps[4].Lost = []int{1} },
		"body.steps[4].lost[1]": func(in *batches.PastBatch) {
			in.Steps[4].Lost, in.Steps[4].Reason = []int{1, 1}, "torn"
		},
		"body.steps[5].startedAt": func(in *batches.PastBatch) {
			in.Steps[4].Lost, in.Steps[4].Reason = []int{1, 2}, "torn"
		},
		"body.steps": func(in *batches.PastBatch) { in.Steps = append(in.Steps, in.Steps...) },
	} {
		in := b.aPastBatch(2)
		spoil(&in)
		_, err := b.Batches.EnterPast(b.Ctx, in)
		p := housetest.Refused(t, err)
		require.NotEmpty(t, p.Errors, fmt.Sprint(field, p))
		assert.Equal(t, field, p.Errors[0].Location)
	}
	in := b.aPastBatch(2)
	in.Steps[5].StartedAt = in.Steps[4].StartedAt.Add(time.Duration(in.Steps[4].Minutes+30) * time.Minute)
	_, err := b.Batches.EnterPast(b.Ctx, in)
	housetest.RefusedAs(t, err, problem.UnderFloor)
	assert.Empty(t, housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Batch) error { return tx.Find(into).Error }))
	in.AcceptRisk = true
	_, err = b.Batches.EnterPast(b.Ctx, in)
	require.NoError(t, err)
}
