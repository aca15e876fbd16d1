package planning_test

import (
	"fmt"
	"math/rand/v2"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/trade"
	"tidykiln/internal/workshop"
)

func lamps(b *bench, n int) []planning.AskLine {
	return []planning.AskLine{{ProductID: b.Product, Quantity: n}}
}

func newOrder(b *bench, due calendar.Date, n int, agreed ...planning.AgreedMove) planning.NewOrder {
	return planning.NewOrder{NewOrder: orders.NewOrder{Customer: "Reed Club", DueOn: due, Lines: []orders.NewLine{{ProductID: b.Product, Quantity: n}}}, Agreed: planning.Agreed{Agreed: agreed}}
}

func TestTheQuestionAndTheTakingAreOneComputation(t *testing.T) {
	b := newBench(t)
	random := rand.New(rand.NewPCG(12, 3))
	for range 25 {
		ask := planning.Ask{DueOn: calendar.Date("2027-03-02").Add(random.IntN(25)), KeepRests: random.IntN(2) == 0, Lines: lamps(b, 1+random.IntN(14))}
		p, err := b.Planning.Promise(b.Ctx, ask)
		require.NoError(t, err)
		before, err := b.Desk.Ledger(b.Ctx)
		require.NoError(t, err)
		in := newOrder(b, ask.DueOn, ask.Lines[0].Quantity)
		in.KeepRests = ask.KeepRests
		broken := 0
		for _, m := range p.Moves {
			if m.Breaks {
				broken++
				in.Agreed.Agreed = append(in.Agreed.Agreed, planning.AgreedMove{OrderID: m.OrderID, ToOn: m.ToOn, ToLate: m.ToLate})
			}
		}
		if broken > 0 {
			unasked, nearer := in, in
			unasked.Agreed.Agreed = in.Agreed.Agreed[1:]
			dayLess := in.Agreed.Agreed[0]
			dayLess.ToOn = dayLess.ToOn.Add(-1)
			nearer.Agreed.Agreed = append([]planning.AgreedMove{dayLess}, in.Agreed.Agreed[1:]...)
			for what, in := range map[string]planning.NewOrder{"not at all": unasked, "less far": nearer} {
				_, err := b.Planning.TakeOrder(b.Ctx, in)
				var refused *problem.Problem
				require.ErrorAs(t, err, &refused, what)
				assert.Equal(t, problem.BreaksPromises, refused.Type)
				require.Len(t, refused.Errors, 1, "it names whose promise nobody agreed to break")
				assert.Equal(t, p.Moves[0].OrderID, refused.Errors[0].Value.(planning.AgreedMove).OrderID, "and what to agree to")
			}
		}
		o, err := b.Planning.TakeOrder(b.Ctx, in)
		require.NoError(t, err)
		assert.Equal(t, p.ReadyAt, b.Row(o.ID).Readiness.At, "what was said is what is planned")
		moved := map[uint64]calendar.Date{}
		for _, m := range p.Moves {
			moved[m.OrderID] = m.ToOn
		}
		for _, row := range before {
			now := b.Row(row.ID).Readiness
			if on, said := moved[row.ID]; said {
				assert.Equal(t, on, calendar.DateOf(*now.At, time.UTC), "moved to where it was said")
				continue
			}
			assert.Equal(t, calendar.DateOf(*row.Readiness.At, time.UTC), calendar.DateOf(*now.At, time.UTC), "nothing moves that was not named")
			assert.Equal(t, row.Readiness.State == planning.ReadyLate, now.State == planning.ReadyLate)
		}
		if random.IntN(3) == 0 {
			b.makeLots()
		}
	}
}

// makeLots makes up all that is open, in the lots that are proposed.
func (b *bench) makeLots() {
	b.Helper()
	demand, err := b.Fulfilment.Demand(b.Ctx)
	require.NoError(b, err)
	in := batches.NewBatch{ProductID: b.Product, Extras: demand[0].Extras, Lots: demand[0].Lots}
	for _, w := range demand[0].Wants {
		in.WantIDs = append(in.WantIDs, w.WantID)
	}
	if len(in.WantIDs) == 0 || len(in.WantIDs)+in.Extras > 500 {
		return
	}
	if in.Pilot = demand[0].Pilot != ""; in.Pilot {
		in.Lots = demand[0].Lots
	}
	_, err = b.Batches.Make(b.Ctx, in)
	require.NoError(b, err)
}

func TestPromisesThatMoveAreToldUntilSomebodyHasToldThem(t *testing.T) {
	b := newBench(t)
	o := b.OrderFor("2027-03-05", 6)
	before := b.Row(o.ID).Readiness
	require.Equal(t, planning.ReadySpare, before.State)
	moves := func() []planning.MovedPromise {
		b.Row(o.ID) // the plan follows
		moves, err := b.Planning.MovedPromises(b.Ctx)
		require.NoError(t, err)
		return moves
	}
	require.Empty(t, moves(), "what stands for the first time has not moved")
	sick := func(off ...calendar.DaysOff) {
		b.Change(func(w *workshop.Workshop) { w.People[0].DaysOff = off })
	}
	sick(calendar.DaysOff{FirstDay: "2027-03-02", LastDay: "2027-03-02"})
	require.True(t, b.Row(o.ID).Readiness.At.After(before.At.Add(12*time.Hour)))
	require.Empty(t, moves(), "ready on a later day, in time all the same")
	sick(calendar.DaysOff{FirstDay: "2027-03-02", LastDay: "2027-03-05"})
	told := moves()
	require.Len(t, told, 1)
	assert.Equal(t, o.ID, told[0].OrderID)
	assert.Equal(t, "Reed Club", told[0].Customer)
	assert.False(t, told[0].FromLate)
	assert.True(t, told[0].ToLate)
	assert.True(t, told[0].Breaks)
	assert.NotEmpty(t, told[0].Because)
	sick()
	assert.Empty(t, moves(), "back where the customer knows it")
	sick(calendar.DaysOff{FirstDay: "2027-03-02", LastDay: "2027-03-05"})
	sick(calendar.DaysOff{FirstDay: "2027-03-02", LastDay: "2027-03-09"})
	again := moves()
	require.Len(t, again, 1)
	assert.Equal(t, calendar.DateOf(*before.At, time.UTC), again[0].FromOn, "from where it was told, not from the move between")
	require.NoError(t, b.Planning.Told(b.Ctx, planning.Told{IDs: []uint64{again[0].ID}}))
	assert.Empty(t, moves())
	page, err := b.Desk.Order(b.Ctx, o.ID)
	require.NoError(t, err)
	assert.Contains(t, page.Events[len(page.Events)-1].Text, "Told: ready ")
	sick(calendar.DaysOff{FirstDay: "2027-03-02", LastDay: "2027-03-11"})
	require.Len(t, moves(), 1)
	require.NoError(t, b.Planning.ChangeOrder(b.Ctx, o.ID, planning.OrderChange{OrderChange: orders.OrderChange{DueOn: "2027-03-25", Version: b.Row(o.ID).Version}}))
	assert.Empty(t, moves(), "another due is a new promise")
	sick(calendar.DaysOff{FirstDay: "2027-03-02", LastDay: "2027-03-26"})
	require.Len(t, moves(), 1)
	require.NoError(t, b.Trade.Cancel(b.Ctx, o.ID, trade.Cancelling{Version: b.Row(o.ID).Version}))
	assert.Empty(t, moves())
}

func TestShortRestsAreSaidAndCanBeKept(t *testing.T) {
	b := newBench(t)
	ask := planning.Ask{DueOn: "2027-03-03", Lines: lamps(b, 4)}
	p, err := b.Planning.Promise(b.Ctx, ask)
	require.NoError(t, err)
	require.NotEmpty(t, p.ShortRests, "late, so rests are the shortest safe ones")
	o := b.OrderFor(ask.DueOn, 4)
	page, err := b.Desk.Order(b.Ctx, o.ID)
	require.NoError(t, err)
	assert.Equal(t, p.ShortRests, page.ShortRests)
	require.NoError(t, b.Planning.ChangeOrder(b.Ctx, o.ID, planning.OrderChange{OrderChange: orders.OrderChange{DueOn: ask.DueOn, KeepRests: true, Version: 1}}))
	kept, err := b.Desk.Order(b.Ctx, o.ID)
	require.NoError(t, err)
	assert.Empty(t, kept.ShortRests)
	assert.True(t, kept.KeepRests)
	assert.True(t, kept.Readiness.At.After(*page.Readiness.At))

	require.NoError(t, b.Planning.ChangeOrder(b.Ctx, o.ID, planning.OrderChange{OrderChange: orders.OrderChange{DueOn: ask.DueOn, Version: 2}}))
	lot := b.MakeLot(0)
	before, err := b.Desk.Lot(b.Ctx, lot)
	require.NoError(t, err)
	require.NotEmpty(t, before.ShortRests)
	require.NoError(t, b.Batches.KeepRests(b.Ctx, lot, batches.Keep{Keep: true}))
	after, err := b.Desk.Lot(b.Ctx, lot)
	require.NoError(t, err)
	assert.Empty(t, after.ShortRests)
	assert.True(t, after.KeepRests)
}

func TestARackLaidOverItsPlacesStopsNoPlan(t *testing.T) {
	b := newBench(t)
	b.Change(func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: "Rack", Places: 10}} })
	first, second := b.MakeLot(6), b.MakeLot(6)
	for step := range 4 {
		b.Step(first, step, 15)
	}
	for step := range 3 {
		b.Step(second, step, 15)
	}
	_, err := b.Batches.TakeUp(b.Ctx, second, batches.TakeUp{PersonID: b.Person, Step: 3})
	var refused *problem.Problem
	require.ErrorAs(t, err, &refused)
	assert.Equal(t, problem.Risk, refused.Type)
	assert.Contains(t, refused.Detail, "2 places too few")
	b.Step(second, 3, 15)
	o := b.OrderFor("2027-03-19", 3)
	p, err := b.Planning.Days(b.Ctx, "", 14)
	require.NoError(t, err)
	assert.Empty(t, p.Unplanned)
	require.Len(t, p.Warnings, 1)
	assert.Regexp(t, "^The rack is overfull: 2 more rest on it than its 10 places hold, until .*[0-9]", p.Warnings[0])
	assert.NotNil(t, b.Row(o.ID).Readiness.At)
}

func TestAStepPutDownQueuesIntoOpenHoursAndOnlyTheRunningOneHasThePerson(t *testing.T) {
	b := newBench(t)
	var lots []uint64
	for range 3 {
		lots = append(lots, b.MakeLot(4))
	}
	for _, lot := range lots {
		b.TakeUp(lot, 0)
		b.Now = b.Now.Add(2 * time.Minute)
	}
	b.At(1, "22:00")
	hands := map[uint64]planning.Hands{}
	for _, h := range b.Days().Hands {
		if h.Step == 0 {
			hands[h.LotID] = h
		}
	}
	assert.True(t, hands[lots[2]].End.Before(b.Now.Add(time.Hour)), "the running one is in hand now")
	for _, lot := range lots[:2] {
		assert.Equal(t, 9, hands[lot].Start.Hour(), "what was put down waits for the morning")
	}
	assert.NotEqual(t, hands[lots[0]].Start, hands[lots[1]].Start)
}

// Sixteen pages that ask at once after a write share one plan, and answer by
// the plan that stands while it is made.
func TestOnePlanIsMadeHoweverManyAsk(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-12", 6)
	standing := b.Days()
	b.OrderFor("2027-03-12", 3)
	b.Planning.Patience = time.Nanosecond
	var pages sync.WaitGroup
	answers := make([]planning.Plan, 16)
	for i := range answers {
		pages.Go(func() { answers[i] = b.Days() })
	}
	pages.Wait()
	for _, p := range answers {
		if p.Making {
			assert.Equal(t, standing.PlannedAt, p.PlannedAt)
		}
	}
	b.Planning.Patience = 0
	assert.False(t, b.Days().Making)
	rows, err := b.Desk.Ledger(b.Ctx)
	require.NoError(t, err)
	assert.Len(t, rows, 2)
}

func TestAnOrderOfThousandsIsPlannedByLots(t *testing.T) {
	b := newBench(t)
	in := newOrder(b, "2028-03-12", 500)
	for range 9 {
		in.Lines = append(in.Lines, in.Lines[0])
	}
	o, err := b.Planning.TakeOrder(b.Ctx, in)
	require.NoError(t, err)
	assert.NotEqual(t, planning.ReadyComing, b.Row(o.ID).Readiness.State, fmt.Sprint(b.Row(o.ID).Readiness))
}
