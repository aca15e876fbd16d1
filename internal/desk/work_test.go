package desk_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/desk"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

func TestACeilingThatBindsIsSaidInHours(t *testing.T) {
	b := newBench(t)
	lot := b.MakeLot(2)
	b.Change(func(w *workshop.Workshop) {
		w.People[0].DaysOff = []calendar.DaysOff{{FirstDay: "2027-03-03", LastDay: "2027-03-05"}}
	})
	page, err := b.Desk.Lot(b.Ctx, lot)
	require.NoError(t, err)
	var texts []string
	for _, s := range page.Steps {
		texts = append(texts, s.Because)
	}
	assert.Contains(t, strings.Join(texts, "\n"), "“Seal, second coat” must start within 47 h")
	assert.NotRegexp(t, `within \d{3}`, strings.Join(texts, "\n"))
	assert.Contains(t, texts, "the usual rest after “Base coat” is over then", "what follows its rest says so, and no other time")
}

func TestALotGoesFromReadyToInHandToRestingToReady(t *testing.T) {
	b := newBench(t)
	lot := b.MakeLot(6)
	today := b.Today()
	require.Len(t, today.Ready, 1)
	assert.Equal(t, "Sand and wipe", today.Ready[0].StepName)
	assert.Len(t, today.Ready[0].Lots[0].Pieces, 6)

	b.Step(lot, 0, 15)
	run := b.TakeUp(lot, 1)
	b.At(1, "09:30")
	today = b.Today()
	require.Len(t, today.InHand, 1)
	assert.Empty(t, today.Ready)
	assert.Equal(t, "Maren", today.InHand[0].Person)
	assert.NotEmpty(t, today.InHand[0].Checklist)

	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	today = b.Today()
	require.Len(t, today.Resting, 1)
	resting := today.Resting[0]
	assert.Equal(t, "Base coat", resting.After)
	assert.Equal(t, "10:30", resting.Ready.Format("15:04"))
	assert.Equal(t, "11:30", resting.Best.Format("15:04"))

	b.At(1, "10:29")
	assert.Len(t, b.Today().Resting, 1)
	b.At(1, "10:30")
	today = b.Today()
	require.Len(t, today.Ready, 1)
	assert.NotNil(t, today.Ready[0].Lots[0].BestFrom, "safe, though not yet best")
	b.At(1, "11:30")
	assert.Nil(t, b.Ready()[0].BestFrom)
}

func TestRestsFollowAnEndThatIsEnteredLate(t *testing.T) {
	b := newBench(t)
	lot := b.MakeLot(6)
	b.Step(lot, 0, 15)
	run := b.TakeUp(lot, 1)
	b.At(1, "12:00")
	early := housetest.Monday.Add(30 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{EndedAt: &early}))
	assert.Len(t, b.Ready(), 1, "its hour was over at 10:30")
	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	require.Len(t, b.Today().InHand, 1)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	assert.Len(t, b.Today().Resting, 1, "undone and done again now, it rests from now")
}

func TestAClosingWindowIsSaidAndPutsTheLotFirst(t *testing.T) {
	b := newBench(t)
	closing := b.MakeLot(4)
	for step, when := range []string{"1 09:00", "1 09:20", "1 12:00", "1 12:20", "2 09:00", "2 10:30", "2 12:00", "2 12:30"} {
		at, err := time.Parse("2 15:04", when)
		require.NoError(t, err)
		b.At(at.Day(), at.Format("15:04"))
		b.Step(closing, step, 15)
	}
	b.MakeLot(4)
	b.At(3, "09:00")
	ready := b.Ready()
	require.Len(t, ready, 2)
	assert.Equal(t, closing, ready[0].LotID)
	require.NotNil(t, ready[0].MustStartBy)
	assert.Equal(t, "4 12:42", ready[0].MustStartBy.Format("2 15:04"), "48 hours after the first piece of the first seal coat")
}

func TestAWindowThatClosesOutsideHoursIsPlannedAllTheSameAndSaid(t *testing.T) {
	b := newBench(t)
	lot := b.MakeLot(4)
	for step, when := range []string{"1 09:00", "1 09:20", "1 12:00", "1 12:20", "2 09:00", "2 10:30", "5 14:00", "5 14:30"} {
		at, err := time.Parse("2 15:04", when)
		require.NoError(t, err)
		b.At(at.Day(), at.Format("15:04"))
		b.Step(lot, step, 15)
	}
	page, err := b.Desk.Lot(b.Ctx, lot)
	require.NoError(t, err)
	assert.True(t, page.Pressed, "Friday afternoon and 48 hours end on a Sunday")
	assert.Empty(t, page.Unplanned)
	require.NotNil(t, page.ReadyAt)
	next := page.Steps[len(page.Steps)-5]
	assert.Equal(t, "Seal, second coat", next.Name)
	assert.Equal(t, time.Monday, next.Start.Weekday())
}

func TestTheLedgerSaysWhereEachPieceIsAndHowThePromiseStands(t *testing.T) {
	b := newBench(t)
	o := b.OrderFor("2027-03-09", 3)
	row := b.Row(o.ID)
	assert.Equal(t, []desk.PieceMark{desk.MarkNotStarted, desk.MarkNotStarted, desk.MarkNotStarted}, row.Marks)
	assert.Equal(t, 3, row.Readiness.Unstarted)
	assert.Equal(t, planning.ReadySpare, row.Readiness.State, "what is not begun is planned as if it were begun now")

	lot := b.MakeLot(0)
	run := b.TakeUp(lot, 0)
	assert.Equal(t, desk.MarkInHand, b.Row(o.ID).Marks[0])
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	assert.Equal(t, desk.MarkReady, b.Row(o.ID).Marks[0])
	b.Step(lot, 1, 15)
	assert.Equal(t, desk.MarkResting, b.Row(o.ID).Marks[0])

	b.At(8, "14:00")
	assert.Equal(t, planning.ReadyLate, b.Row(o.ID).Readiness.State)
	assert.Negative(t, b.Row(o.ID).Readiness.SpareMinutes)
	for step := 2; step <= 12; step++ {
		b.Step(lot, step, 15)
	}
	row = b.Row(o.ID)
	assert.Equal(t, planning.ReadyNow, row.Readiness.State)
	assert.Equal(t, desk.MarkFinished, row.Marks[0])
	assert.Len(t, b.Today().HandOver, 1)
	require.NoError(t, b.Fulfilment.HandOver(b.Ctx, o.ID, row.Version))
	assert.Equal(t, desk.MarkHandedOver, b.Row(o.ID).Marks[0])
	assert.Empty(t, b.Today().HandOver)
}

func TestWhatIsDueSoonerIsPlannedSooner(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-19", 4)
	later := b.MakeLot(0)
	b.OrderFor("2027-03-05", 4)
	sooner := b.MakeLot(0)
	first := map[uint64]time.Time{}
	for _, h := range b.Days().Hands {
		if _, seen := first[h.LotID]; !seen {
			first[h.LotID] = h.Start
		}
	}
	assert.True(t, first[sooner].Before(first[later]))
}

func TestAFullRackHoldsTheNextLotBack(t *testing.T) {
	b := newBench(t)
	b.Change(func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: "Rack", Places: 10}} })
	lot := b.MakeLot(10)
	for step := range 4 {
		b.Step(lot, step, 15)
	}
	p, err := b.Planning.Promise(b.Ctx, planning.Ask{DueOn: "2027-03-03", Lines: []planning.AskLine{{ProductID: b.Product, Quantity: 6}}})
	require.NoError(t, err)
	assert.Equal(t, planning.ReadyLate, p.State)
	assert.Regexp(t, "^the rack is full until [A-Z][a-z]+day [0-9:]+$", p.HoldUp)
	require.NotNil(t, p.HoldUpUntil)
	assert.True(t, p.HoldUpUntil.After(housetest.Monday.AddDate(0, 0, 1)))
}

func TestDemandOfWhichNotOnePieceFitsIsListedWithoutAPlace(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-12", 7)
	b.Change(func(w *workshop.Workshop) {
		w.People[0].Hours = w.People[0].Hours[:1]
		w.People[0].Hours[0].ToMinute = w.People[0].Hours[0].FromMinute + 10
	})
	p := b.Days()
	require.Len(t, p.Unplanned, 1)
	assert.Equal(t, planning.Unplanned{Product: "Lamp", Pieces: 7, Reason: "not even one piece fits a sitting and its racks; look at the hours, the racks and the turner in Workshop"}, p.Unplanned[0])
	b.Change(func(w *workshop.Workshop) { w.People[0].Hours[0].ToMinute += 180 })
	assert.Empty(t, b.Days().Unplanned)
}

func TestWhatFindsNoPlaceSaysWhy(t *testing.T) {
	b := newBench(t)
	b.MakeLot(20)
	b.Change(func(w *workshop.Workshop) {
		for i := range w.People[0].Hours {
			w.People[0].Hours[i].ToMinute = w.People[0].Hours[i].FromMinute + 20
		}
	})
	p, err := b.Planning.Days(b.Ctx, "", 7)
	require.NoError(t, err)
	require.Len(t, p.Unplanned, 1)
	assert.Contains(t, p.Unplanned[0].Reason, "in one go; the longest open interval is 20 min")
	assert.NotContains(t, p.Unplanned[0].Reason, "step s", "the step is named")
	assert.Contains(t, p.Unplanned[0].Reason, "Maren")
	promise, err := b.Planning.Promise(b.Ctx, planning.Ask{Lines: []planning.AskLine{{ProductID: b.Product, Quantity: 1}}})
	require.NoError(t, err)
	assert.NotNil(t, promise.ReadyAt, "a single one still fits")
}

func TestNobodyAtWorkIsSaidRatherThanPlanned(t *testing.T) {
	b := housetest.New(t)
	lamp := housetest.Lamp("90")
	lamp.Price = "16"
	p, err := b.Planning.Promise(b.Ctx, planning.Ask{Lines: []planning.AskLine{{ProductID: b.Make(lamp).ID, Quantity: 2}}})
	require.NoError(t, err)
	assert.Equal(t, planning.ReadyNot, p.State)
	assert.Contains(t, p.HoldUp, "look at the hours")
	assert.Equal(t, "32.00", p.Total.StringFixed(2), "what it costs is known all the same")
}

func TestBeforeYouStopNamesLaysThatFitTheTimeLeft(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-12", 4)
	lot := b.MakeLot(2)
	b.Step(lot, 0, 15)
	b.Step(lot, 1, 15)
	b.At(1, "12:00")
	b.Step(lot, 2, 15)
	assert.Equal(t, 165, b.Today().HandsLeft)
	stop, err := b.Planning.BeforeStop(b.Ctx)
	require.NoError(t, err)
	require.Len(t, stop.Lots, 1)
	assert.Equal(t, "Lay", stop.Lots[0].StepName)
	assert.True(t, stop.Lots[0].Next)
	assert.Equal(t, "09:00", stop.Opens.Format("15:04"))
	assert.GreaterOrEqual(t, stop.LaterMinutes, 24*60, "a night's rest is a day")
	require.Len(t, stop.Loses, 1)
	assert.Equal(t, "Reed Club", stop.Loses[0].Customer)
	b.At(1, "14:50")
	stop, err = b.Planning.BeforeStop(b.Ctx)
	require.NoError(t, err)
	assert.Empty(t, stop.Lots, "ten minutes are too few")
	b.At(1, "16:00")
	assert.Zero(t, b.Today().HandsLeft)
}

func TestTheDayRunsFromFiveToFive(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-02", 1)
	b.At(2, "03:00")
	p, err := b.Planning.Days(b.Ctx, "", 2)
	require.NoError(t, err)
	assert.Equal(t, calendar.Date("2027-03-01"), p.Days[0].Date, "before five it is still yesterday")
	assert.Equal(t, "1 05:00", p.Days[0].Start.Format("2 15:04"))
	assert.Equal(t, p.Days[0].End, p.Days[1].Start)
	assert.Empty(t, p.Days[0].Dues)
	require.Len(t, p.Days[1].Dues, 1)
	assert.Equal(t, planning.ReadyLate, p.Days[1].Dues[0].Readiness.State)
}

func TestADayOfDaylightSavingIsAnHourShort(t *testing.T) {
	b := newBench(t)
	b.Change(func(w *workshop.Workshop) { w.TimeZone = "Europe/Berlin" })
	b.At(27, "12:00")
	p, err := b.Planning.Days(b.Ctx, "", 1)
	require.NoError(t, err)
	assert.Equal(t, 23*time.Hour, p.Days[0].End.Sub(p.Days[0].Start))
}

func TestAnOrderTellsWhatHappenedInOrder(t *testing.T) {
	b := newBench(t)
	o := b.OrderFor("2027-03-09", 2)
	lot := b.MakeLot(0)
	b.Step(lot, 0, 15)
	page, err := b.Desk.Order(b.Ctx, o.ID)
	require.NoError(t, err)
	var texts []string
	for _, e := range page.Events {
		texts = append(texts, e.Text)
	}
	assert.Equal(t, []string{"Order taken, due Tuesday 9 March", "Batch 1 made up: 2 pieces", "Sand and wipe begun, lot 1, 2 pieces", "Sand and wipe done, lot 1: 2 good"}, texts)
	assert.Equal(t, "32.00", page.Total.StringFixed(2))
	assert.Equal(t, lot, page.Lines[0].Pieces[0].LotID)
	_, err = b.Desk.Order(b.Ctx, 999)
	var p *problem.Problem
	assert.ErrorAs(t, err, &p)
}

func TestAPromiseIsKeptWhenTheOrderIsTakenAndMadeUp(t *testing.T) {
	b := newBench(t)
	promise, err := b.Planning.Promise(b.Ctx, planning.Ask{DueOn: "2027-03-05", Lines: []planning.AskLine{{ProductID: b.Product, Quantity: 8}}})
	require.NoError(t, err)
	o := b.OrderFor("2027-03-05", 8)
	assert.Equal(t, promise.ReadyAt, b.Row(o.ID).Readiness.At, "what was said is what is planned")
	demand, err := b.Fulfilment.Demand(b.Ctx)
	require.NoError(t, err)
	b.MakeLot(demand[0].Extras)
	assert.Equal(t, promise.ReadyAt, b.Row(o.ID).Readiness.At)
}
