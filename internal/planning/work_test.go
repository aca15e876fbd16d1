package planning_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

func TestACeilingThatBindsIsSaidInHours(t *testing.T) {
	b := newBench(t)
	lot := b.make(2)
	b.change(func(w *workshop.Workshop) {
		w.People[0].DaysOff = []calendar.DaysOff{{FirstDay: "2027-03-03", LastDay: "2027-03-05"}}
	})
	page, err := b.planning.Lot(b.ctx, lot)
	require.NoError(t, err)
	var texts []string
	for _, s := range page.Steps {
		texts = append(texts, s.Because)
	}
	assert.Contains(t, strings.Join(texts, "\n"), "“Seal, second coat” must start within 47 h")
	assert.NotRegexp(t, `within \d{3}`, strings.Join(texts, "\n"))
}

func TestALotGoesFromReadyToInHandToRestingToReady(t *testing.T) {
	b := newBench(t)
	lot := b.make(6)
	today := b.today()
	require.Len(t, today.Ready, 1)
	assert.Equal(t, "Sand and wipe", today.Ready[0].StepName)
	assert.Len(t, today.Ready[0].Pieces, 6)

	b.step(lot, 0)
	run := b.takeUp(lot, 1)
	b.at(1, "09:30")
	today = b.today()
	require.Len(t, today.InHand, 1)
	assert.Empty(t, today.Ready)
	assert.Equal(t, "Maren", today.InHand[0].Person)
	assert.NotEmpty(t, today.InHand[0].Checklist)

	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	today = b.today()
	require.Len(t, today.Resting, 1)
	resting := today.Resting[0]
	assert.Equal(t, "Base coat", resting.After)
	assert.Equal(t, "10:30", resting.Ready.Format("15:04"))
	assert.Equal(t, "11:30", resting.Best.Format("15:04"))

	b.at(1, "10:29")
	assert.Len(t, b.today().Resting, 1)
	b.at(1, "10:30")
	today = b.today()
	require.Len(t, today.Ready, 1)
	assert.NotNil(t, today.Ready[0].BestFrom, "safe, though not yet best")
	b.at(1, "11:30")
	assert.Nil(t, b.today().Ready[0].BestFrom)
}

func TestRestsFollowAnEndThatIsEnteredLate(t *testing.T) {
	b := newBench(t)
	lot := b.make(6)
	b.step(lot, 0)
	run := b.takeUp(lot, 1)
	b.at(1, "12:00")
	early := monday.Add(30 * time.Minute)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{EndedAt: &early}))
	assert.Len(t, b.today().Ready, 1, "its hour was over at 10:30")
	require.NoError(t, b.batches.Undo(b.ctx, run.ID))
	require.Len(t, b.today().InHand, 1)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	assert.Len(t, b.today().Resting, 1, "undone and done again now, it rests from now")
}

func TestAClosingWindowIsSaidAndPutsTheLotFirst(t *testing.T) {
	b := newBench(t)
	closing := b.make(4)
	for step, when := range []string{"1 09:00", "1 09:20", "1 12:00", "1 12:20", "2 09:00", "2 10:30", "2 12:00", "2 12:30"} {
		at, err := time.Parse("2 15:04", when)
		require.NoError(t, err)
		b.at(at.Day(), at.Format("15:04"))
		b.step(closing, step)
	}
	b.make(4)
	b.at(3, "09:00")
	ready := b.today().Ready
	require.Len(t, ready, 2)
	assert.Equal(t, closing, ready[0].LotID)
	require.NotNil(t, ready[0].MustStartBy)
	assert.Equal(t, "4 12:42", ready[0].MustStartBy.Format("2 15:04"), "48 hours after the first piece of the first seal coat")
}

func TestAWindowThatClosesOutsideHoursIsPlannedAllTheSameAndSaid(t *testing.T) {
	b := newBench(t)
	lot := b.make(4)
	for step, when := range []string{"1 09:00", "1 09:20", "1 12:00", "1 12:20", "2 09:00", "2 10:30", "5 14:00", "5 14:30"} {
		at, err := time.Parse("2 15:04", when)
		require.NoError(t, err)
		b.at(at.Day(), at.Format("15:04"))
		b.step(lot, step)
	}
	page, err := b.planning.Lot(b.ctx, lot)
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
	o := b.order("2027-03-09", 3)
	row := b.row(o.ID)
	assert.Equal(t, []planning.PieceMark{planning.MarkNotStarted, planning.MarkNotStarted, planning.MarkNotStarted}, row.Marks)
	assert.Equal(t, 3, row.Readiness.Unstarted)
	assert.Equal(t, planning.ReadySpare, row.Readiness.State, "what is not begun is planned as if it were begun now")

	lot := b.make(0)
	run := b.takeUp(lot, 0)
	assert.Equal(t, planning.MarkInHand, b.row(o.ID).Marks[0])
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	assert.Equal(t, planning.MarkReady, b.row(o.ID).Marks[0])
	b.step(lot, 1)
	assert.Equal(t, planning.MarkResting, b.row(o.ID).Marks[0])

	b.at(8, "14:00")
	assert.Equal(t, planning.ReadyLate, b.row(o.ID).Readiness.State)
	assert.Negative(t, b.row(o.ID).Readiness.SpareMinutes)
	for step := 2; step <= 12; step++ {
		b.step(lot, step)
	}
	row = b.row(o.ID)
	assert.Equal(t, planning.ReadyNow, row.Readiness.State)
	assert.Equal(t, planning.MarkFinished, row.Marks[0])
	assert.Len(t, b.today().HandOver, 1)
	require.NoError(t, b.batches.HandOver(b.ctx, o.ID, row.Version))
	assert.Equal(t, planning.MarkHandedOver, b.row(o.ID).Marks[0])
	assert.Empty(t, b.today().HandOver)
}

func TestWhatIsDueSoonerIsPlannedSooner(t *testing.T) {
	b := newBench(t)
	b.order("2027-03-19", 4)
	later := b.make(0)
	b.order("2027-03-05", 4)
	sooner := b.make(0)
	first := map[uint64]time.Time{}
	for _, h := range b.hands() {
		if _, seen := first[h.LotID]; !seen {
			first[h.LotID] = h.Start
		}
	}
	assert.True(t, first[sooner].Before(first[later]))
}

func TestAFullRackHoldsTheNextLotBack(t *testing.T) {
	b := newBench(t)
	b.change(func(w *workshop.Workshop) { w.RackPlaces = 10 })
	lot := b.make(10)
	for step := range 4 {
		b.step(lot, step)
	}
	p, err := b.planning.Promise(b.ctx, planning.Ask{DueOn: "2027-03-03", Lines: []planning.AskLine{{ProductID: b.product, Quantity: 6}}})
	require.NoError(t, err)
	assert.Equal(t, planning.ReadyLate, p.State)
	assert.Regexp(t, "^the rack is full until [A-Z][a-z]+day [0-9:]+$", p.HoldUp)
	require.NotNil(t, p.HoldUpUntil)
	assert.True(t, p.HoldUpUntil.After(monday.AddDate(0, 0, 1)))
}

func TestDemandOfWhichNotOnePieceFitsIsListedWithoutAPlace(t *testing.T) {
	b := newBench(t)
	b.order("2027-03-12", 7)
	b.change(func(w *workshop.Workshop) {
		w.People[0].Hours = w.People[0].Hours[:1]
		w.People[0].Hours[0].ToMinute = w.People[0].Hours[0].FromMinute + 10
	})
	p := b.days()
	require.Len(t, p.Unplanned, 1)
	assert.Equal(t, planning.Unplanned{Product: "Lamp", Pieces: 7, Reason: "not even one piece fits a sitting and the rack; look at the hours and the rack in Workshop"}, p.Unplanned[0])
	b.change(func(w *workshop.Workshop) { w.People[0].Hours[0].ToMinute += 180 })
	assert.Empty(t, b.days().Unplanned)
}

func TestWhatFindsNoPlaceSaysWhy(t *testing.T) {
	b := newBench(t)
	b.make(20)
	b.change(func(w *workshop.Workshop) {
		for i := range w.People[0].Hours {
			w.People[0].Hours[i].ToMinute = w.People[0].Hours[i].FromMinute + 20
		}
	})
	p, err := b.planning.Days(b.ctx, "", 7)
	require.NoError(t, err)
	require.Len(t, p.Unplanned, 1)
	assert.Contains(t, p.Unplanned[0].Reason, "in one go; the longest open interval is 20 min")
	assert.NotContains(t, p.Unplanned[0].Reason, "step s", "the step is named")
	assert.Contains(t, p.Unplanned[0].Reason, "Maren")
	promise, err := b.planning.Promise(b.ctx, planning.Ask{Lines: []planning.AskLine{{ProductID: b.product, Quantity: 1}}})
	require.NoError(t, err)
	assert.NotNil(t, promise.ReadyAt, "a single one still fits")
}

func TestNobodyAtWorkIsSaidRatherThanPlanned(t *testing.T) {
	db := dbtest.New(t)
	clock := func() time.Time { return monday }
	made, err := products.New(db, clock).Make(context.Background(), products.NewProduct{Name: "Lamp", Method: "gel-lift", Blank: products.BlankForm{Surface: "wood-bare", Shape: "disc", Width: "90", Thickness: "10", Hangs: true}, Look: "crisp", Price: "16"})
	require.NoError(t, err)
	p, err := planning.New(db, clock).Promise(context.Background(), planning.Ask{Lines: []planning.AskLine{{ProductID: made.ID, Quantity: 2}}})
	require.NoError(t, err)
	assert.Equal(t, planning.ReadyNot, p.State)
	assert.Contains(t, p.HoldUp, "look at the hours")
	assert.Equal(t, "32.00", p.Total.StringFixed(2), "what it costs is known all the same")
}

func TestBeforeYouStopNamesLaysThatFitTheTimeLeft(t *testing.T) {
	b := newBench(t)
	lot := b.make(6)
	b.step(lot, 0)
	b.step(lot, 1)
	b.at(1, "12:00")
	b.step(lot, 2)
	today := b.today()
	require.Len(t, today.BeforeYouStop, 1)
	assert.Equal(t, "Lay", today.BeforeYouStop[0].StepName)
	require.NotNil(t, today.BeforeYouStop[0].RestReady)
	assert.Equal(t, 165, today.HandsLeft)
	b.at(1, "14:50")
	assert.Empty(t, b.today().BeforeYouStop, "ten minutes are too few")
	b.at(1, "16:00")
	assert.Zero(t, b.today().HandsLeft)
}

func TestTheDayRunsFromFiveToFive(t *testing.T) {
	b := newBench(t)
	b.order("2027-03-02", 1)
	b.at(2, "03:00")
	p, err := b.planning.Days(b.ctx, "", 2)
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
	b.change(func(w *workshop.Workshop) { w.TimeZone = "Europe/Berlin" })
	b.at(27, "12:00")
	p, err := b.planning.Days(b.ctx, "", 1)
	require.NoError(t, err)
	assert.Equal(t, 23*time.Hour, p.Days[0].End.Sub(p.Days[0].Start))
}

func TestAnOrderTellsWhatHappenedInOrder(t *testing.T) {
	b := newBench(t)
	o := b.order("2027-03-09", 2)
	lot := b.make(0)
	b.step(lot, 0)
	page, err := b.planning.Order(b.ctx, o.ID)
	require.NoError(t, err)
	var texts []string
	for _, e := range page.Events {
		texts = append(texts, e.Text)
	}
	assert.Equal(t, []string{"Order taken, due 2027-03-09", "Batch 1 made up: 2 pieces", "Sand and wipe begun, lot 1, 2 pieces", "Sand and wipe done, lot 1: 2 good"}, texts)
	assert.Equal(t, "32.00", page.Total.StringFixed(2))
	assert.Equal(t, lot, page.Lines[0].Pieces[0].LotID)
	_, err = b.planning.Order(b.ctx, 999)
	var p *problem.Problem
	assert.ErrorAs(t, err, &p)
}

func TestAPromiseIsKeptWhenTheOrderIsTakenAndMadeUp(t *testing.T) {
	b := newBench(t)
	promise, err := b.planning.Promise(b.ctx, planning.Ask{DueOn: "2027-03-05", Lines: []planning.AskLine{{ProductID: b.product, Quantity: 8}}})
	require.NoError(t, err)
	o := b.order("2027-03-05", 8)
	assert.Equal(t, promise.ReadyAt, b.row(o.ID).Readiness.At, "what was said is what is planned")
	demand, err := b.batches.Demand(b.ctx)
	require.NoError(t, err)
	b.make(demand[0].Extras)
	assert.Equal(t, promise.ReadyAt, b.row(o.ID).Readiness.At)
}
