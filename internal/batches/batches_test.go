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
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/trade"
)

func TestDemandProposesLotsAndExtrasForPlainPieces(t *testing.T) {
	b := newBench(t)
	b.Order(b.Plain, 40)
	demand, err := b.Fulfilment.Demand(b.Ctx)
	require.NoError(t, err)
	for _, d := range demand {
		if d.ProductID != b.Plain.ID {
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
	b.Order(b.Lettered, 2, "Ash", "Elm")
	wants := b.OpenWants(b.Lettered.ID)
	b.MakeUp(b.Lettered, 0, 2)
	_, err := b.Batches.Make(b.Ctx, batches.NewBatch{ProductID: b.Lettered.ID, WantIDs: wants, Lots: []int{2}})
	housetest.RefusedAs(t, err, problem.Moved, "the same pieces are not made twice")
	for field, in := range map[string]batches.NewBatch{
		"body.productId": {ProductID: 99, Lots: []int{1}},
		"body.lots":      {ProductID: b.Plain.ID, Extras: 3, Lots: []int{2}},
		"body.lots[0]":   {ProductID: b.Plain.ID, Extras: 400, Lots: []int{400}},
		"body.lots[1]":   {ProductID: b.Plain.ID, Extras: 2, Lots: []int{2, 0}},
		"body.extras":    {ProductID: b.Lettered.ID, Extras: 1, Lots: []int{1}},
	} {
		_, err := b.Batches.Make(b.Ctx, in)
		p := housetest.Refused(t, err)
		require.NotEmpty(t, p.Errors, field)
		assert.Equal(t, field, p.Errors[0].Location)
	}
	assert.Empty(t, housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Batch) error {
		return tx.Where("product_id = ?", b.Plain.ID).Find(into).Error
	}))
}

func TestTheFloorIsKeptUnlessTheRiskIsAccepted(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 4, 4)
	b.Through(lots[0], 0, 1)
	run := b.TakeUp(lots[0].ID, 2)
	b.Later(10 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	print := b.TakeUp(lots[0].ID, 3) // done while the base dries
	b.Later(40 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, print.ID, batches.Done{}))
	_, err := b.Batches.TakeUp(b.Ctx, lots[0].ID, batches.TakeUp{PersonID: b.Person, Step: 4})
	p := housetest.Refused(t, err)
	assert.Equal(t, problem.UnderFloor, p.Type)
	assert.Contains(t, p.Detail, "1 h, and 20 min of it are still to go")
	run, err = b.Batches.TakeUp(b.Ctx, lots[0].ID, batches.TakeUp{PersonID: b.Person, Step: 4, AcceptRisk: true})
	require.NoError(t, err)
	require.NotNil(t, run.RiskMinutes)
	assert.Equal(t, 20, *run.RiskMinutes)
}

func TestPiecesThatGoAgainAreALotOfTheirOwnUntilUndone(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 5, 5)
	b.Through(lots[0], 0, 4)
	run := b.TakeUp(lots[0].ID, 5)
	pieces := b.Pieces(batch.ID)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Again: []uint64{pieces[0].ID, pieces[1].ID}}}))
	after := b.Lots(batch.ID)
	require.Len(t, after, 2)
	assert.Equal(t, []int{6, 5}, []int{after[0].NextStep, after[1].NextStep})
	assert.True(t, b.Pieces(batch.ID)[0].In(after[1].ID))

	_, err := b.Batches.TakeUp(b.Ctx, after[1].ID, batches.TakeUp{PersonID: b.Person, Step: 5})
	housetest.RefusedAs(t, err, problem.UnderFloor, "they rest from the round that sent them back")

	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	assert.Len(t, b.Lots(batch.ID), 1)
	for _, p := range b.Pieces(batch.ID) {
		assert.True(t, p.In(lots[0].ID))
	}
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Again: idsOf(pieces)}}), "all of them may go again")
	assert.Len(t, b.Lots(batch.ID), 1)
	assert.Equal(t, 5, b.Lots(batch.ID)[0].NextStep)
}

func idsOf(pieces []batches.Piece) (ids []uint64) {
	for _, p := range pieces {
		ids = append(ids, p.ID)
	}
	return ids
}

func TestASpoiledNameIsWantedAgainAndUndoGivesItBack(t *testing.T) {
	b := newBench(t)
	b.Order(b.Lettered, 3, "Ash", "Elm", "Oak")
	batch, lots := b.MakeUp(b.Lettered, 0, 3)
	run := b.TakeUp(lots[0].ID, 0)
	pieces := b.Pieces(batch.ID)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[1].ID, Reason: "cracked"}}}}))
	assert.Len(t, b.OpenWants(b.Lettered.ID), 1)
	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	assert.Empty(t, b.OpenWants(b.Lettered.ID))

	// Undone after the name was given to another batch, the piece comes back as nobody's.
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[1].ID, Reason: "cracked"}}}}))
	b.MakeUp(b.Lettered, 0, 1)
	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	back := b.Pieces(batch.ID)[1]
	assert.Equal(t, batches.PieceWorking, back.State)
	assert.Nil(t, back.WantID)
}

func TestASparePlainPieceTakesOverFromASpoiledOne(t *testing.T) {
	b := newBench(t)
	b.Order(b.Plain, 2)
	batch, lots := b.MakeUp(b.Plain, 1, 3)
	run := b.TakeUp(lots[0].ID, 0)
	pieces := b.Pieces(batch.ID)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: pieces[0].ID, Reason: "bark"}}}}))
	assert.Empty(t, b.OpenWants(b.Plain.ID))
	after := b.Pieces(batch.ID)
	assert.Equal(t, pieces[0].WantID, after[2].WantID)
}

func TestSparesGoToTheShelfAndFillTheNextOrder(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 3, 3)
	b.Through(lots[0], 0, 14)
	onShelf := func() int {
		demand, err := b.Fulfilment.Demand(b.Ctx)
		require.NoError(t, err)
		for _, d := range demand {
			if d.ProductID == b.Plain.ID {
				return d.OnShelf
			}
		}
		return -1
	}
	assert.Equal(t, 3, onShelf())
	o := b.Order(b.Plain, 2)
	assert.Equal(t, 1, onShelf())
	assert.Empty(t, b.OpenWants(b.Plain.ID))
	require.NoError(t, b.Fulfilment.HandOver(b.Ctx, o.ID, 1))
	assert.Equal(t, orders.HandedOver, b.OrderNow(o.ID).State)
	require.NoError(t, b.Fulfilment.TakeBack(b.Ctx, o.ID, 2))
	require.NoError(t, b.Trade.Cancel(b.Ctx, o.ID, trade.Cancelling{Version: 3}))
	second := b.Order(b.Plain, 4)
	assert.Len(t, b.OpenWants(b.Plain.ID), 1, "three from the shelf, one to make")
	err := b.Fulfilment.HandOver(b.Ctx, second.ID, 1)
	housetest.RefusedAs(t, err, problem.Unfinished)
}

func TestALotFinishedClosesItsBatchAndUndoOpensItAgain(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Lettered, 1, "Ash")
	batch, lots := b.MakeUp(b.Lettered, 0, 1)
	b.Through(lots[0], 0, 13)
	run := b.TakeUp(lots[0].ID, 14)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	state := func() batches.State {
		return housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Batch) error { return tx.Where("id = ?", batch.ID).Find(into).Error })[0].State
	}
	assert.Equal(t, batches.Finished, state())
	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	assert.Equal(t, batches.Open, state())
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	require.NoError(t, b.Fulfilment.HandOver(b.Ctx, o.ID, 1))
	housetest.RefusedAs(t, b.Batches.Undo(b.Ctx, run.ID), problem.Used)
}

func TestAStepTakenUpByMistakeIsDoneAtItsTrueTimes(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 2, 2)
	b.Later(24 * time.Hour)
	run := b.TakeUp(lots[0].ID, 0)
	b.Later(10 * time.Minute)
	at := func(d time.Duration) time.Time { return b.Now.Add(d) }
	end := at(-20 * time.Hour)
	assert.Equal(t, "endedAt", housetest.AtFault(t, b.Batches.FinishBefore(b.Ctx, run.ID, batches.DoneBefore{StartedAt: at(-21 * time.Hour)})))
	assert.Equal(t, "endedAt", housetest.AtFault(t, b.Batches.FinishBefore(b.Ctx, run.ID, batches.DoneBefore{StartedAt: at(-19 * time.Hour), Done: batches.Done{EndedAt: &end}})))
	require.NoError(t, b.Batches.FinishBefore(b.Ctx, run.ID, batches.DoneBefore{StartedAt: at(-21 * time.Hour), Done: batches.Done{EndedAt: &end}}))
	saved := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Find(into).Error })[0]
	assert.Equal(t, 3600, saved.WorkedSeconds, "of the work, not of the timer")
	assert.WithinDuration(t, at(-21*time.Hour), saved.StartedAt, time.Second)
	housetest.RefusedAs(t, b.Batches.FinishBefore(b.Ctx, run.ID, batches.DoneBefore{StartedAt: at(-21 * time.Hour), Done: batches.Done{EndedAt: &end}}), problem.StepDone)

	// The step before it, and the floor of its rest, hold as ever.
	next := b.TakeUp(lots[0].ID, 1)
	end = at(-19 * time.Hour)
	assert.Equal(t, "startedAt", housetest.AtFault(t, b.Batches.FinishBefore(b.Ctx, next.ID, batches.DoneBefore{StartedAt: at(-20*time.Hour - time.Minute), Done: batches.Done{EndedAt: &end}})))
}

func TestLateEntriesKeepTheirTrueTimes(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 2, 2)
	run := b.TakeUp(lots[0].ID, 0)
	b.Later(3 * time.Hour)
	at := func(d time.Duration) *time.Time { m := b.Now.Add(d); return &m }
	for _, end := range []time.Duration{time.Minute, -4 * time.Hour} {
		assert.Equal(t, "endedAt", housetest.AtFault(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{EndedAt: at(end)})), "still to come, or before it was begun")
	}
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{EndedAt: at(-2 * time.Hour)}))
	saved := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Find(into).Error })[0]
	assert.Equal(t, 3600, saved.WorkedSeconds, "the timer counts to the true end")

	log := batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.Person, Step: 1, StartedAt: at(-90 * time.Minute)}, Done: batches.Done{EndedAt: at(-70 * time.Minute)}}
	require.NoError(t, b.Batches.Log(b.Ctx, lots[0].ID, log))
	_, err := b.Batches.TakeUp(b.Ctx, lots[0].ID, batches.TakeUp{PersonID: b.Person, Step: 2})
	assert.NoError(t, err, "the hour of rest counts from the true end")

	before := batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: b.Person, Step: 0, StartedAt: at(-4 * time.Hour)}, Done: batches.Done{EndedAt: at(-3 * time.Hour)}}
	housetest.RefusedAs(t, b.Batches.Log(b.Ctx, lots[0].ID, before), problem.Moved)
}

func TestPuttingDownStopsTheTimerAndTakingUpPutsDownTheOther(t *testing.T) {
	b := newBench(t)
	_, first := b.MakeUp(b.Plain, 2, 2)
	_, second := b.MakeUp(b.Plain, 2, 2)
	run := b.TakeUp(first[0].ID, 0)
	b.Later(10 * time.Minute)
	require.NoError(t, b.Batches.PutDown(b.Ctx, run.ID))
	b.Later(time.Hour)
	require.NoError(t, b.Batches.Resume(b.Ctx, run.ID))
	b.Later(5 * time.Minute)
	b.TakeUp(second[0].ID, 0)
	saved := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Where("id = ?", run.ID).Find(into).Error })[0]
	assert.Nil(t, saved.RunningSince)
	assert.Equal(t, 15*60, saved.WorkedSeconds)
	require.NoError(t, b.Batches.Tick(b.Ctx, run.ID, batches.Ticked{Ticked: []int{2, 0, 2}}))
	assert.Equal(t, "ticked", housetest.AtFault(t, b.Batches.Tick(b.Ctx, run.ID, batches.Ticked{Ticked: []int{9}})))
	require.NoError(t, b.Batches.GiveBack(b.Ctx, run.ID))
	housetest.Missing(t, b.Batches.Resume(b.Ctx, run.ID))
}

func TestOfTwoWhoTakeUpTheSameStepOneWins(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 2, 2)
	var won, told atomic.Int32
	var all sync.WaitGroup
	for range 8 {
		all.Add(1)
		go func() {
			defer all.Done()
			_, err := b.Batches.TakeUp(b.Ctx, lots[0].ID, batches.TakeUp{PersonID: b.Person, Step: 0})
			var refused *problem.Problem
			if err == nil {
				won.Add(1)
			} else if assert.ErrorAs(t, err, &refused) && assert.Equal(t, problem.InHand, refused.Type) {
				told.Add(1)
			}
		}()
	}
	all.Wait()
	assert.Equal(t, []int32{1, 7}, []int32{won.Load(), told.Load()})
}

func TestDoneTwiceCountsOnce(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 2, 2)
	run := b.TakeUp(lots[0].ID, 0)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	housetest.RefusedAs(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}), problem.StepDone)
}

func TestOutcomesNameTheirOwnPiecesOnce(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 2, 2)
	run := b.TakeUp(lots[0].ID, 0)
	piece := b.Pieces(batch.ID)[0].ID
	spoil := func(id uint64, reason string) []batches.SpoiledPiece {
		return []batches.SpoiledPiece{{PieceID: id, Reason: reason}}
	}
	for at, in := range map[string]batches.Done{
		"spoiled[0].pieceId": {CameOut: batches.CameOut{Spoiled: spoil(999, "x")}},
		"spoiled[1].pieceId": {CameOut: batches.CameOut{Spoiled: append(spoil(piece, "x"), spoil(piece, "y")...)}},
		"spoiled[0].reason":  {CameOut: batches.CameOut{Spoiled: spoil(piece, "  ")}},
		"again":              {CameOut: batches.CameOut{Again: []uint64{piece}}},
	} {
		assert.Equal(t, at, housetest.AtFault(t, b.Batches.Finish(b.Ctx, run.ID, in)))
	}
}

func TestAnAbandonedBatchGivesItsWantsBack(t *testing.T) {
	b := newBench(t)
	b.Order(b.Lettered, 2, "Ash", "Elm")
	batch, lots := b.MakeUp(b.Lettered, 0, 1, 1)
	run := b.TakeUp(lots[1].ID, 0)
	housetest.RefusedAs(t, b.Batches.Abandon(b.Ctx, batch.ID, 1), problem.InHand)
	require.NoError(t, b.Batches.GiveBack(b.Ctx, run.ID))
	require.NoError(t, b.Batches.Abandon(b.Ctx, batch.ID, 1))
	assert.Len(t, b.OpenWants(b.Lettered.ID), 2)
	assert.Error(t, b.Batches.Abandon(b.Ctx, batch.ID, 1))
}

func TestABadOrderNamesTheFieldAndLeavesNothing(t *testing.T) {
	b := newBench(t)
	for field, in := range map[string]orders.NewOrder{
		"body.customer":              {Customer: " ", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.Plain.ID, Quantity: 1}}},
		"body.dueOn":                 {Customer: "X", DueOn: "2027-02-28", Lines: []orders.NewLine{{ProductID: b.Plain.ID, Quantity: 1}}},
		"body.lines[0].productId":    {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: 99, Quantity: 1}}},
		"body.lines[0].quantity":     {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.Plain.ID, Quantity: 1_000_000_000}}},
		"body.lines[0].lettering":    {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.Lettered.ID, Quantity: 2, Lettering: []string{"Ash"}}}},
		"body.lines[0].lettering[0]": {Customer: "X", DueOn: "2027-04-01", Lines: []orders.NewLine{{ProductID: b.Lettered.ID, Quantity: 1, Lettering: []string{" "}}}},
	} {
		_, err := b.Take(in)
		p := housetest.Refused(t, err)
		require.NotEmpty(t, p.Errors, field)
		assert.Equal(t, field, p.Errors[0].Location)
	}
	for _, table := range []string{"orders", "order_lines", "wants", "customers", "order_events"} {
		rows := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]int) error {
			return tx.Raw(fmt.Sprintf("SELECT COUNT(*) FROM %s", table)).Scan(into).Error
		})
		assert.Equal(t, []int{0}, rows, table)
	}
}

func TestWhatAnAbandonedBatchWasForIsFilledFromTheShelf(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Plain, 1)
	abandoned, _ := b.MakeUp(b.Plain, 0, 1)
	_, lots := b.MakeUp(b.Plain, 1, 1)
	b.Through(lots[0], 0, 14)
	require.NoError(t, b.Batches.Abandon(b.Ctx, abandoned.ID, abandoned.Version))
	assert.NoError(t, b.Fulfilment.HandOver(b.Ctx, o.ID, o.Version), "the spare piece serves the order")
}

// A machine's clock may be set back while somebody works.
func TestAClockThatWasSetBackEndsNothingBeforeItBegan(t *testing.T) {
	b := newBench(t)
	_, lots := b.MakeUp(b.Plain, 4, 4)
	step := b.TakeUp(lots[0].ID, 0)
	b.Later(-time.Hour)
	require.NoError(t, b.Batches.Finish(b.Ctx, step.ID, batches.Done{}))
	done := b.run(step.ID)
	assert.Equal(t, step.StartedAt, *done.EndedAt)
	next := b.TakeUp(lots[0].ID, 1)
	assert.Equal(t, step.StartedAt, next.StartedAt, "the step before it has ended")
	require.NoError(t, b.Batches.Finish(b.Ctx, next.ID, batches.Done{}))
	assert.NotEmpty(t, b.Days().Days, "and the plan is made")
}
