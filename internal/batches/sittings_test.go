package batches_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
)

// sit takes up the first step of lots in one sitting, and gives its runs.
func (b *bench) sit(lots ...batches.Lot) (batches.Sitting, []batches.Run) {
	in := batches.Together{PersonID: b.Person}
	for _, l := range lots {
		in.Lots = append(in.Lots, batches.NextStep{LotID: l.ID, Step: l.NextStep})
	}
	sitting, err := b.Batches.TakeUpTogether(b.Ctx, in)
	require.NoError(b, err)
	return sitting, b.runs(sitting)
}

func (b *bench) runs(of batches.Sitting) []batches.Run {
	return housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error {
		return tx.Where("sitting_id = ?", of.ID).Order("id").Find(into).Error
	})
}

func (b *bench) run(id uint64) batches.Run {
	return housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Find(into, id).Error })[0]
}

// One timer runs for all lots of a sitting or for none: what was done of it comes back put
// down, and so does what was still being worked.
func TestTakingBackWhatWasDoneOfASittingPutsAllOfItDown(t *testing.T) {
	b := newBench(t)
	_, one := b.MakeUp(b.Plain, 2, 2)
	_, other := b.MakeUp(b.Plain, 6, 6)
	sitting, runs := b.sit(one[0], other[0])
	b.Later(20 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, runs[0].ID, batches.Done{}))
	b.Later(10 * time.Minute)
	require.NotNil(t, b.run(runs[1].ID).RunningSince, "the other goes on")
	require.NoError(t, b.Batches.UndoTogether(b.Ctx, sitting.ID))
	first, second := b.run(runs[0].ID), b.run(runs[1].ID)
	assert.Nil(t, first.EndedAt)
	assert.Nil(t, first.RunningSince)
	assert.Nil(t, second.RunningSince)
	assert.Equal(t, 30*60, first.WorkedSeconds+second.WorkedSeconds, "what was worked is kept")
	assert.InDelta(t, 1, first.Share+second.Share, 1e-9)
	require.NoError(t, b.Batches.ResumeTogether(b.Ctx, sitting.ID))
	assert.Equal(t, b.run(runs[0].ID).RunningSince, b.run(runs[1].ID).RunningSince)
}

func TestLikeStepsAreDoneInOneSitting(t *testing.T) {
	b := newBench(t)
	small, smallLots := b.MakeUp(b.Plain, 2, 2)
	large, largeLots := b.MakeUp(b.Plain, 6, 6)
	sitting, runs := b.sit(smallLots[0], largeLots[0])
	require.Len(t, runs, 2)
	assert.InDelta(t, 1, runs[0].Share+runs[1].Share, 1e-9)
	step := small.Recipe.Steps[0]
	assert.InDelta(t, step.NeedTogether(2, 2)/(step.NeedTogether(2, 2)+step.NeedTogether(6, 2)), runs[0].Share, 1e-9, "by what each lot needs")

	b.Later(40 * time.Minute)
	spoil := batches.LotCameOut{RunID: runs[1].ID, CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: b.Pieces(large.ID)[0].ID, Reason: "cracked"}}}}
	require.NoError(t, b.Batches.FinishTogether(b.Ctx, sitting.ID, batches.DoneTogether{Lots: []batches.LotCameOut{spoil}}))
	runs = b.runs(sitting)
	assert.Equal(t, 40*60, runs[0].WorkedSeconds+runs[1].WorkedSeconds, "one timer, shared out to the second")
	assert.Greater(t, runs[1].WorkedSeconds, runs[0].WorkedSeconds)
	assert.Equal(t, runs[0].EndedAt, runs[1].EndedAt)
	assert.Equal(t, batches.PieceSpoiled, b.Pieces(large.ID)[0].State)
	assert.Equal(t, 1, b.Lots(large.ID)[0].NextStep)
	assert.Equal(t, 1, b.Lots(small.ID)[0].NextStep)

	acc := b.account(large.ID)
	assert.InDelta(t, step.NeedTogether(6, 2), acc.Steps[0].Planned, 0.06, "its part of the set-up, not a whole one")

	require.NoError(t, b.Batches.UndoTogether(b.Ctx, sitting.ID))
	assert.Equal(t, batches.PieceWorking, b.Pieces(large.ID)[0].State)
	assert.Equal(t, 0, b.Lots(small.ID)[0].NextStep)
	for _, r := range b.runs(sitting) {
		assert.Nil(t, r.EndedAt)
		assert.Nil(t, r.RunningSince, "in hand again, put down")
	}
	require.NoError(t, b.Batches.ResumeTogether(b.Ctx, sitting.ID))
	b.Later(20 * time.Minute)
	require.NoError(t, b.Batches.PutDownTogether(b.Ctx, sitting.ID))
	require.NoError(t, b.Batches.FinishTogether(b.Ctx, sitting.ID, batches.DoneTogether{}))
	runs = b.runs(sitting)
	assert.Equal(t, 60*60, runs[0].WorkedSeconds+runs[1].WorkedSeconds)
}

func TestALotOfASittingIsPutDownDoneOrGivenBackAlone(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 8, 2, 2, 2, 2)
	sitting, runs := b.sit(lots...)
	b.Later(40 * time.Minute)
	require.NoError(t, b.Batches.PutDown(b.Ctx, runs[0].ID))
	down := b.run(runs[0].ID)
	assert.Nil(t, down.SittingID, "it left the sitting")
	assert.Equal(t, 10*60, down.WorkedSeconds, "with its part of the time so far")
	require.Len(t, b.runs(sitting), 3)
	for _, r := range b.runs(sitting) {
		assert.NotNil(t, r.RunningSince, "the others go on")
	}

	require.NoError(t, b.Batches.GiveBack(b.Ctx, runs[1].ID))
	b.Later(30 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, runs[2].ID, batches.Done{}))
	b.Later(30 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, runs[3].ID, batches.Done{}))
	third, fourth := b.run(runs[2].ID), b.run(runs[3].ID)
	assert.Equal(t, 90*60, third.WorkedSeconds+fourth.WorkedSeconds, "all the sitting's time but what was put down with the first")
	assert.Equal(t, third.WorkedSeconds, fourth.WorkedSeconds, "alike lots had alike parts of it in the end, though one was done later")

	housetest.RefusedAs(t, b.Batches.FinishTogether(b.Ctx, sitting.ID, batches.DoneTogether{}), problem.StepDone)
	require.NoError(t, b.Batches.Undo(b.Ctx, runs[2].ID))
	assert.Nil(t, b.run(runs[2].ID).SittingID, "taken back, it is in hand alone")
}

func TestASittingIsTakenUpWholeOrNotAtAll(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 6, 2, 2, 2)
	b.Step(lots[1].ID, 0, 20)
	later := b.Lots(lots[1].BatchID)[1]
	next := func(l batches.Lot, step int) batches.NextStep { return batches.NextStep{LotID: l.ID, Step: step} }
	refused := func(in ...batches.NextStep) error {
		_, err := b.Batches.TakeUpTogether(b.Ctx, batches.Together{PersonID: b.Person, Lots: in, AcceptRisk: true})
		return err
	}
	assert.Equal(t, "lots[1].step", housetest.AtFault(t, refused(next(lots[0], 0), next(later, later.NextStep))), "other work has a sitting of its own")
	housetest.RefusedAs(t, refused(next(lots[0], 0), next(later, 0)), problem.Moved)
	housetest.RefusedAs(t, refused(next(lots[0], 0), next(lots[0], 0)), problem.InHand, "the same lot twice")
	assert.Empty(t, housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Where("ended_at IS NULL").Find(into).Error }), "nothing was taken up")

	sitting, runs := b.sit(lots[0], lots[2])
	came := func(id uint64, spoiled ...batches.SpoiledPiece) batches.LotCameOut {
		return batches.LotCameOut{RunID: id, CameOut: batches.CameOut{Spoiled: spoiled}}
	}
	done := func(lots ...batches.LotCameOut) error {
		return b.Batches.FinishTogether(b.Ctx, sitting.ID, batches.DoneTogether{Lots: lots})
	}
	assert.Equal(t, "lots[0].runId", housetest.AtFault(t, done(came(999))))
	assert.Equal(t, "lots[1].runId", housetest.AtFault(t, done(came(runs[0].ID), came(runs[0].ID))))
	assert.Equal(t, "lots[1].spoiled[0].reason", housetest.AtFault(t, done(came(runs[0].ID), came(runs[1].ID, batches.SpoiledPiece{PieceID: b.Pieces(lots[2].BatchID)[4].ID}))))
	assert.True(t, problem.IsNotFound(b.Batches.PutDownTogether(b.Ctx, 999)))
	require.NoError(t, b.Batches.GiveBackTogether(b.Ctx, sitting.ID))
	housetest.RefusedAs(t, b.Batches.UndoTogether(b.Ctx, sitting.ID), problem.TakenBack)
}

func TestOneChecklistForASitting(t *testing.T) {
	assert.Equal(t, []string{"air", "damp", "pulp"}, batches.Checklist([][]string{{"air", "damp"}, {"damp", "pulp"}, {}}))
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 4, 2, 2)
	sitting, runs := b.sit(lots[0], lots[1])
	require.NoError(t, b.Batches.TickTogether(b.Ctx, sitting.ID, batches.Ticked{Ticked: []int{0}}))
	assert.Equal(t, []int{0}, b.run(runs[0].ID).Ticked)
	assert.Equal(t, []int{0}, b.run(runs[1].ID).Ticked)
	assert.Equal(t, "ticked", housetest.AtFault(t, b.Batches.TickTogether(b.Ctx, sitting.ID, batches.Ticked{Ticked: []int{99}})))
}

func TestASittingTakenUpAfterItWasDone(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 4, 2, 2)
	b.Later(3 * time.Hour)
	sitting, _ := b.sit(lots[0], lots[1])
	b.Later(5 * time.Minute)
	began, ended := b.Now.Add(-2*time.Hour), b.Now.Add(-90*time.Minute)
	require.NoError(t, b.Batches.FinishTogether(b.Ctx, sitting.ID, batches.DoneTogether{StartedAt: &began, EndedAt: &ended}))
	worked := 0
	for _, r := range b.runs(sitting) {
		assert.Equal(t, began, r.StartedAt)
		worked += r.WorkedSeconds
	}
	assert.Equal(t, 30*60, worked, "the timer at the wrong time counts for nothing")
}
