package batches_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/batches"
	"tidykiln/internal/workshop"
)

func TestAProductSaysWhatItReallyCostAndWhichFiguresAreOff(t *testing.T) {
	b := newBench(t)
	learnt, err := b.Batches.Learnt(b.Ctx, b.Plain.ID)
	require.NoError(t, err)
	assert.Equal(t, batches.Learnt{Batches: []batches.LearntBatch{}, Steps: []batches.LearntStep{}}, learnt)
	_, err = b.Batches.Learnt(b.Ctx, 999)
	assert.Error(t, err)

	var costs []string
	for range 2 {
		batch, lots := b.MakeUp(b.Plain, 12, 12)
		b.Through(lots[0], 0, len(batch.Recipe.Steps)-2)
		run := b.TakeUp(lots[0].ID, len(batch.Recipe.Steps)-1)
		b.Later(3 * time.Hour)
		require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: b.Pieces(batch.ID)[0].ID, Reason: "dropped"}, {PieceID: b.Pieces(batch.ID)[1].ID, Reason: "dropped"}}}}))
		costs = append(costs, b.account(batch.ID).RealCost)
		b.Later(time.Hour)
	}
	learnt, err = b.Batches.Learnt(b.Ctx, b.Plain.ID)
	require.NoError(t, err)
	require.Len(t, learnt.Batches, 2)
	assert.Equal(t, []string{costs[1], costs[0]}, []string{learnt.Batches[0].RealCost, learnt.Batches[1].RealCost})
	assert.Equal(t, 10, learnt.Batches[0].Good)
	assert.NotEmpty(t, learnt.RealCost)

	packed := learnt.Steps[len(learnt.Steps)-1]
	steps := b.Plain.Draft.Steps
	last := steps[len(steps)-1]
	assert.Equal(t, last.ID, packed.StepID)
	assert.Equal(t, 24, packed.Pieces)
	require.NotNil(t, packed.RealMinutesPerPiece)
	assert.InDelta(t, (360-2*last.SetupMinutes)/24, *packed.RealMinutesPerPiece, 0.05)
	require.NotNil(t, packed.RealYield)
	assert.InDelta(t, 20.5/25, *packed.RealYield, 0.0005)
	b.Change(func(w *workshop.Workshop) { w.People[0].PacePercent = 200 })
	learnt, err = b.Batches.Learnt(b.Ctx, b.Plain.ID)
	require.NoError(t, err)
	packed = learnt.Steps[len(learnt.Steps)-1]
	assert.InDelta(t, (180-2*last.SetupMinutes)/24, *packed.RealMinutesPerPiece, 0.05, "what somebody needs twice the time for says half as much of the recipe")
}
