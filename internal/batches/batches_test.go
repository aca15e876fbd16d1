package batches_test

import (
	"fmt"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

func TestDemandProposesLotsAndExtrasForPlainPieces(t *testing.T) {
	b := newBench(t)
	b.order(b.plain, 40)
	demand, err := b.batches.Demand(b.ctx)
	require.NoError(t, err)
	for _, d := range demand {
		if d.ProductID != b.plain.ID {
			assert.Empty(t, d.Wants)
			continue
		}
		assert.Len(t, d.Wants, 40)
		assert.Equal(t, 5, d.Extras, "eight in a hundred are lost: of 44 started 40 come through 7 times in 10, of 45 more than 8")
		sum := 0
		for _, n := range d.Lots {
			sum += n
			assert.LessOrEqual(t, n, d.LotSize)
		}
		assert.Equal(t, 45, sum)
	}
}

func TestABatchTakesOnlyWhatIsOpen(t *testing.T) {
	b := newBench(t)
	b.order(b.lettered, 2, "Ash", "Elm")
	wants := b.openWants(b.lettered)
	b.make(b.lettered, 0, 2)
	_, err := b.batches.Make(b.ctx, batches.NewBatch{ProductID: b.lettered.ID, WantIDs: wants, Lots: []int{2}})
	assert.Equal(t, problem.Moved, problemOf(t, err).Type, "the same pieces are not made twice")
	for field, in := range map[string]batches.NewBatch{
		"body.productId": {ProductID: 99, Lots: []int{1}},
		"body.lots":      {ProductID: b.plain.ID, Extras: 3, Lots: []int{2}},
		"body.lots[0]":   {ProductID: b.plain.ID, Extras: 400, Lots: []int{400}},
		"body.lots[1]":   {ProductID: b.plain.ID, Extras: 2, Lots: []int{2, 0}},
		"body.extras":    {ProductID: b.lettered.ID, Extras: 1, Lots: []int{1}},
	} {
		_, err := b.batches.Make(b.ctx, in)
		p := problemOf(t, err)
		require.NotEmpty(t, p.Errors, field)
		assert.Equal(t, field, p.Errors[0].Location)
	}
	assert.Empty(t, read(b, func(tx *gorm.DB, into *[]batches.Batch) error {
		return tx.Where("product_id = ?", b.plain.ID).Find(into).Error
	}))
}

func TestTheFloorIsKeptUnlessTheRiskIsAccepted(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 4, 4)
	b.through(lots[0], 0, 1)
	run := b.takeUp(lots[0], 2)
	b.later(10 * time.Minute)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	print := b.takeUp(lots[0], 3) // done while the base dries
	b.later(40 * time.Minute)
	require.NoError(t, b.batches.Finish(b.ctx, print.ID, batches.Done{}))
	_, err := b.batches.TakeUp(b.ctx, lots[0].ID, batches.TakeUp{PersonID: b.person, Step: 4})
	p := problemOf(t, err)
	assert.Equal(t, problem.UnderFloor, p.Type)
	assert.Contains(t, p.Detail, "1 h, and 20 min of it are still to go")
	run, err = b.batches.TakeUp(b.ctx, lots[0].ID, batches.TakeUp{PersonID: b.person, Step: 4, AcceptRisk: true})
	require.NoError(t, err)
	require.NotNil(t, run.RiskMinutes)
	assert.Equal(t, 20, *run.RiskMinutes)
}

func TestPiecesThatGoAgainAreALotOfTheirOwnUntilUndone(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 5, 5)
	b.through(lots[0], 0, 4)
	run := b.takeUp(lots[0], 5)
	pieces := b.pieces(batch.ID)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{Again: []uint64{pieces[0].ID, pieces[1].ID}}))
	after := b.lots(batch.ID)
	require.Len(t, after, 2)
	assert.Equal(t, []int{6, 5}, []int{after[0].NextStep, after[1].NextStep})
	assert.True(t, b.pieces(batch.ID)[0].In(after[1].ID))

	_, err := b.batches.TakeUp(b.ctx, after[1].ID, batches.TakeUp{PersonID: b.person, Step: 5})
	assert.Equal(t, problem.UnderFloor, problemOf(t, err).Type, "they rest from the round that sent them back")

	require.NoError(t, b.batches.Undo(b.ctx, run.ID))
	assert.Len(t, b.lots(batch.ID), 1)
	for _, p := range b.pieces(batch.ID) {
		assert.True(t, p.In(lots[0].ID))
	}
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{Again: idsOf(pieces)}), "all of them may go again")
	assert.Len(t, b.lots(batch.ID), 1)
	assert.Equal(t, 5, b.lots(batch.ID)[0].NextStep)
}

func idsOf(pieces []batches.Piece) (ids []uint64) {
	for _, p := range pieces {
		ids = append(ids, p.ID)
	}
	return ids
}

func TestASpoiledNameIsWantedAgainAndUndoGivesItBack(t *testing.T) {
	b := newBench(t)
	b.order(b.lettered, 3, "Ash", "Elm", "Oak")
	batch, lots := b.make(b.lettered, 0, 3)
	run := b.takeUp(lots[0], 0)
	pieces := b.pieces(batch.ID)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[1].ID, Reason: "cracked"}}}))
	assert.Len(t, b.openWants(b.lettered), 1)
	require.NoError(t, b.batches.Undo(b.ctx, run.ID))
	assert.Empty(t, b.openWants(b.lettered))

	// Undone after the name was given to another batch, the piece comes back as nobody's.
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[1].ID, Reason: "cracked"}}}))
	b.make(b.lettered, 0, 1)
	require.NoError(t, b.batches.Undo(b.ctx, run.ID))
	back := b.pieces(batch.ID)[1]
	assert.Equal(t, batches.PieceWorking, back.State)
	assert.Nil(t, back.WantID)
}

func TestASparePlainPieceTakesOverFromASpoiledOne(t *testing.T) {
	b := newBench(t)
	b.order(b.plain, 2)
	batch, lots := b.make(b.plain, 1, 3)
	run := b.takeUp(lots[0], 0)
	pieces := b.pieces(batch.ID)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[0].ID, Reason: "bark"}}}))
	assert.Empty(t, b.openWants(b.plain))
	after := b.pieces(batch.ID)
	assert.Equal(t, pieces[0].WantID, after[2].WantID)
}

func TestSparesGoToTheShelfAndFillTheNextOrder(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 3, 3)
	b.through(lots[0], 0, 14)
	onShelf := func() int {
		demand, err := b.batches.Demand(b.ctx)
		require.NoError(t, err)
		for _, d := range demand {
			if d.ProductID == b.plain.ID {
				return d.OnShelf
			}
		}
		return -1
	}
	assert.Equal(t, 3, onShelf())
	o := b.order(b.plain, 2)
	assert.Equal(t, 1, onShelf())
	assert.Empty(t, b.openWants(b.plain))
	require.NoError(t, b.batches.HandOver(b.ctx, o.ID, 1))
	assert.Equal(t, orders.HandedOver, b.orderNow(o.ID).State)
	require.NoError(t, b.batches.TakeBack(b.ctx, o.ID, 2))
	require.NoError(t, b.batches.CancelOrder(b.ctx, o.ID, 3))
	second := b.order(b.plain, 4)
	assert.Len(t, b.openWants(b.plain), 1, "three from the shelf, one to make")
	err := b.batches.HandOver(b.ctx, second.ID, 1)
	assert.ErrorContains(t, err, "3 of the 4 pieces")
}

func TestALotFinishedClosesItsBatchAndUndoOpensItAgain(t *testing.T) {
	b := newBench(t)
	o := b.order(b.lettered, 1, "Ash")
	batch, lots := b.make(b.lettered, 0, 1)
	b.through(lots[0], 0, 13)
	run := b.takeUp(lots[0], 14)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	state := func() batches.State {
		return read(b, func(tx *gorm.DB, into *[]batches.Batch) error { return tx.Where("id = ?", batch.ID).Find(into).Error })[0].State
	}
	assert.Equal(t, batches.Finished, state())
	require.NoError(t, b.batches.Undo(b.ctx, run.ID))
	assert.Equal(t, batches.Open, state())
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	require.NoError(t, b.batches.HandOver(b.ctx, o.ID, 1))
	assert.ErrorContains(t, b.batches.Undo(b.ctx, run.ID), "handed over")
}

func TestAStepTakenUpByMistakeIsDoneAtItsTrueTimes(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 2, 2)
	b.later(24 * time.Hour)
	run := b.takeUp(lots[0], 0)
	b.later(10 * time.Minute)
	at := func(d time.Duration) time.Time { return b.now.Add(d) }
	end := at(-20 * time.Hour)
	assert.ErrorContains(t, b.batches.FinishBefore(b.ctx, run.ID, batches.DoneBefore{StartedAt: at(-21 * time.Hour)}), "when it was done")
	assert.ErrorContains(t, b.batches.FinishBefore(b.ctx, run.ID, batches.DoneBefore{StartedAt: at(-19 * time.Hour), Done: batches.Done{EndedAt: &end}}), "begun after that")
	require.NoError(t, b.batches.FinishBefore(b.ctx, run.ID, batches.DoneBefore{StartedAt: at(-21 * time.Hour), Done: batches.Done{EndedAt: &end}}))
	saved := read(b, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Find(into).Error })[0]
	assert.Equal(t, 3600, saved.WorkedSeconds, "of the work, not of the timer")
	assert.WithinDuration(t, at(-21*time.Hour), saved.StartedAt, time.Second)
	assert.ErrorContains(t, b.batches.FinishBefore(b.ctx, run.ID, batches.DoneBefore{StartedAt: at(-21 * time.Hour), Done: batches.Done{EndedAt: &end}}), "already done")

	// The step before it, and the floor of its rest, hold as ever.
	next := b.takeUp(lots[0], 1)
	end = at(-19 * time.Hour)
	assert.ErrorContains(t, b.batches.FinishBefore(b.ctx, next.ID, batches.DoneBefore{StartedAt: at(-20*time.Hour - time.Minute), Done: batches.Done{EndedAt: &end}}), "ended after that")
}

func TestLateEntriesKeepTheirTrueTimes(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 2, 2)
	run := b.takeUp(lots[0], 0)
	b.later(3 * time.Hour)
	at := func(d time.Duration) *time.Time { m := b.now.Add(d); return &m }
	for field, in := range map[string]batches.Done{"still to come": {EndedAt: at(time.Minute)}, "begun after that": {EndedAt: at(-4 * time.Hour)}} {
		assert.ErrorContains(t, b.batches.Finish(b.ctx, run.ID, in), field)
	}
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{EndedAt: at(-2 * time.Hour)}))
	saved := read(b, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Find(into).Error })[0]
	assert.Equal(t, 3600, saved.WorkedSeconds, "the timer counts to the true end")

	log := batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.person, Step: 1, StartedAt: at(-90 * time.Minute)}, Done: batches.Done{EndedAt: at(-70 * time.Minute)}}
	require.NoError(t, b.batches.Log(b.ctx, lots[0].ID, log))
	_, err := b.batches.TakeUp(b.ctx, lots[0].ID, batches.TakeUp{PersonID: b.person, Step: 2})
	assert.NoError(t, err, "the hour of rest counts from the true end")

	before := batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.person, Step: 0, StartedAt: at(-4 * time.Hour)}, Done: batches.Done{EndedAt: at(-3 * time.Hour)}}
	assert.ErrorContains(t, b.batches.Log(b.ctx, lots[0].ID, before), "moved on")
}

func TestPuttingDownStopsTheTimerAndTakingUpPutsDownTheOther(t *testing.T) {
	b := newBench(t)
	_, first := b.make(b.plain, 2, 2)
	_, second := b.make(b.plain, 2, 2)
	run := b.takeUp(first[0], 0)
	b.later(10 * time.Minute)
	require.NoError(t, b.batches.PutDown(b.ctx, run.ID))
	b.later(time.Hour)
	require.NoError(t, b.batches.Resume(b.ctx, run.ID))
	b.later(5 * time.Minute)
	b.takeUp(second[0], 0)
	saved := read(b, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Where("id = ?", run.ID).Find(into).Error })[0]
	assert.Nil(t, saved.RunningSince)
	assert.Equal(t, 15*60, saved.WorkedSeconds)
	require.NoError(t, b.batches.Tick(b.ctx, run.ID, []int{2, 0, 2}))
	assert.ErrorContains(t, b.batches.Tick(b.ctx, run.ID, []int{9}), "no point 10")
	require.NoError(t, b.batches.GiveBack(b.ctx, run.ID))
	assert.ErrorContains(t, b.batches.Resume(b.ctx, run.ID), "no such step")
}

func TestOfTwoWhoTakeUpTheSameStepOneWins(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 2, 2)
	var won, told atomic.Int32
	var all sync.WaitGroup
	for range 8 {
		all.Add(1)
		go func() {
			defer all.Done()
			_, err := b.batches.TakeUp(b.ctx, lots[0].ID, batches.TakeUp{PersonID: b.person, Step: 0})
			if err == nil {
				won.Add(1)
			} else if assert.ErrorContains(t, err, "already has this step in hand") {
				told.Add(1)
			}
		}()
	}
	all.Wait()
	assert.Equal(t, []int32{1, 7}, []int32{won.Load(), told.Load()})
}

func TestDoneTwiceCountsOnce(t *testing.T) {
	b := newBench(t)
	_, lots := b.make(b.plain, 2, 2)
	run := b.takeUp(lots[0], 0)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	assert.ErrorContains(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}), "already done")
}

func TestOutcomesNameTheirOwnPiecesOnce(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 2, 2)
	run := b.takeUp(lots[0], 0)
	piece := b.pieces(batch.ID)[0].ID
	spoil := func(id uint64, reason string) []batches.SpoiledPiece {
		return []batches.SpoiledPiece{{PieceID: id, Reason: reason}}
	}
	for says, in := range map[string]batches.Done{
		"not in this lot":     {Spoiled: spoil(999, "x")},
		"named twice":         {Spoiled: append(spoil(piece, "x"), spoil(piece, "y")...)},
		"what happened":       {Spoiled: spoil(piece, "  ")},
		"not done twice on a": {Again: []uint64{piece}},
	} {
		assert.ErrorContains(t, b.batches.Finish(b.ctx, run.ID, in), says)
	}
}

func TestAnAbandonedBatchGivesItsWantsBack(t *testing.T) {
	b := newBench(t)
	b.order(b.lettered, 2, "Ash", "Elm")
	batch, lots := b.make(b.lettered, 0, 1, 1)
	run := b.takeUp(lots[1], 0)
	assert.ErrorContains(t, b.batches.Abandon(b.ctx, batch.ID, 1), "in hand")
	require.NoError(t, b.batches.GiveBack(b.ctx, run.ID))
	require.NoError(t, b.batches.Abandon(b.ctx, batch.ID, 1))
	assert.Len(t, b.openWants(b.lettered), 2)
	assert.Error(t, b.batches.Abandon(b.ctx, batch.ID, 1))
}

func TestABadOrderNamesTheFieldAndLeavesNothing(t *testing.T) {
	b := newBench(t)
	for field, in := range map[string]orders.NewOrder{
		"body.customer":              {Customer: " ", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.plain.ID, Quantity: 1}}},
		"body.dueOn":                 {Customer: "X", DueOn: "2027-02-28", Lines: []orders.NewLine{{ProductID: b.plain.ID, Quantity: 1}}},
		"body.lines[0].productId":    {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: 99, Quantity: 1}}},
		"body.lines[0].quantity":     {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.plain.ID, Quantity: 1_000_000_000}}},
		"body.lines[0].lettering":    {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.lettered.ID, Quantity: 2, Lettering: []string{"Ash"}}}},
		"body.lines[0].lettering[0]": {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.lettered.ID, Quantity: 1, Lettering: []string{" "}}}},
	} {
		_, err := b.take(in)
		p := problemOf(t, err)
		require.NotEmpty(t, p.Errors, field)
		assert.Equal(t, field, p.Errors[0].Location)
	}
	for _, table := range []string{"orders", "order_lines", "wants", "customers", "order_events"} {
		rows := read(b, func(tx *gorm.DB, into *[]int) error {
			return tx.Raw(fmt.Sprintf("SELECT COUNT(*) FROM %s", table)).Scan(into).Error
		})
		assert.Equal(t, []int{0}, rows, table)
	}
}

func TestWhatAnAbandonedBatchWasForIsFilledFromTheShelf(t *testing.T) {
	b := newBench(t)
	o := b.order(b.plain, 1)
	abandoned, _ := b.make(b.plain, 0, 1)
	_, lots := b.make(b.plain, 1, 1)
	b.through(lots[0], 0, 14)
	require.NoError(t, b.batches.Abandon(b.ctx, abandoned.ID, abandoned.Version))
	assert.NoError(t, b.batches.HandOver(b.ctx, o.ID, o.Version), "the spare piece serves the order")
}
