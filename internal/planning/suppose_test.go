package planning_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// suppose asks what would be.
func suppose(s *housetest.Small, in planning.Suppositions) planning.Supposed {
	s.Helper()
	answer, err := s.Planning.Suppose(s.Ctx, planning.Supposition{Suppositions: in, Days: 7})
	require.NoError(s, err)
	return answer
}

// firstOf is the first planned bar of a lot in a plan.
func firstOf(t *testing.T, p planning.Plan, lot uint64) planning.Hands {
	for _, h := range p.Hands {
		if h.LotID == lot && h.State == planning.BarPlanned {
			return h
		}
	}
	require.Fail(t, "the lot has no planned step", "%d", lot)
	return planning.Hands{}
}

func TestAStepIsHeldWhereItIsWanted(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	lot := s.MakeLot(4)
	at := time.Date(2027, 3, 2, 11, 30, 0, 0, time.UTC)
	assert.Equal(t, "09:00", firstOf(t, s.Days(), lot).Start.Format("15:04"))

	require.NoError(t, s.Batches.Hold(s.Ctx, lot, batches.Hold{Step: 0, At: at, PersonID: &s.Person}))
	held := firstOf(t, s.Days(), lot)
	assert.Equal(t, at, held.Start)
	assert.Equal(t, "it is held there", held.Because)
	assert.True(t, held.Held)

	later := at.Add(20 * time.Hour)
	require.NoError(t, s.Batches.Hold(s.Ctx, lot, batches.Hold{Step: 0, At: later}))
	page, err := s.Desk.Lot(s.Ctx, lot)
	require.NoError(t, err)
	assert.True(t, page.HoldBroken, "nobody works at 07:30")
	assert.Equal(t, "09:00", firstOf(t, s.Days(), lot).Start.Format("15:04"), "planned all the same")

	require.NoError(t, s.Batches.LetGo(s.Ctx, lot))
	page, err = s.Desk.Lot(s.Ctx, lot)
	require.NoError(t, err)
	assert.False(t, page.HoldBroken)
	assert.Nil(t, page.Hold)

	for at, in := range map[string]batches.Hold{
		"step":     {Step: 99, At: later},
		"at":       {Step: 0, At: s.Now.Add(-time.Hour)},
		"personId": {Step: 0, At: later, PersonID: new(uint64(99))},
	} {
		assert.Equal(t, at, housetest.AtFault(t, s.Batches.Hold(s.Ctx, lot, in)))
	}
}

func TestAHeldStepWaitsForHandsWhenItsTimeHasPassed(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	lot := s.MakeLot(4)
	require.NoError(t, s.Batches.Hold(s.Ctx, lot, batches.Hold{Step: 0, At: time.Date(2027, 3, 1, 10, 0, 0, 0, time.UTC)}))
	s.At(1, "10:20")
	assert.Equal(t, "10:21", firstOf(t, s.Days(), lot).Start.Format("15:04"), "it goes along with the clock")
	s.Step(lot, 0, 10)
	assert.False(t, firstOf(t, s.Days(), lot).Held, "what was held is done")
}

func TestWhatWouldBeIsSaidAndChangesNothing(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	order := s.OrderFor("2027-03-05", 2)
	lot := s.MakeLot(0)
	before := s.Days()

	away := suppose(s, planning.Suppositions{Away: []planning.AwayOn{{PersonID: s.Person, DaysOff: calendar.DaysOff{FirstDay: "2027-03-01", LastDay: "2027-03-04"}}}})
	require.Len(t, away.Moves, 1)
	assert.Equal(t, order.ID, away.Moves[0].OrderID)
	assert.True(t, away.Moves[0].Breaks)
	assert.Equal(t, 0, away.LateNow)
	assert.Equal(t, 1, away.LateThen)
	assert.Equal(t, "Friday", firstOf(t, away.Plan, lot).Start.Weekday().String())
	assert.Equal(t, before.Hands, s.Days().Hands, "nothing was changed by thinking of it")

	helped := suppose(s, planning.Suppositions{
		Away:  []planning.AwayOn{{PersonID: s.Person, DaysOff: calendar.DaysOff{FirstDay: "2027-03-01", LastDay: "2027-03-04"}}},
		Comes: []planning.ComesIn{{ExtraHours: calendar.ExtraHours{Day: "2027-03-02", FromMinute: 8 * 60, ToMinute: 20 * 60}}}})
	assert.Equal(t, "Helper", firstOf(t, helped.Plan, lot).Person)

	at := time.Date(2027, 3, 3, 9, 0, 0, 0, time.UTC)
	held := suppose(s, planning.Suppositions{Holds: []planning.HoldLot{{LotID: lot, Hold: batches.Hold{Step: 0, At: at}}}})
	assert.Equal(t, at, firstOf(t, held.Plan, lot).Start)
	early := suppose(s, planning.Suppositions{Holds: []planning.HoldLot{{LotID: lot, Hold: batches.Hold{Step: 0, At: time.Date(2027, 3, 3, 3, 0, 0, 0, time.UTC)}}}})
	assert.Equal(t, []uint64{lot}, early.Broken)

	another := suppose(s, planning.Suppositions{Order: &planning.Ask{DueOn: "2027-03-12", Lines: []planning.AskLine{{ProductID: s.Product, Quantity: 3}}}})
	require.NotNil(t, another.Order)
	assert.Equal(t, planning.ReadySpare, another.Order.State)
	without := suppose(s, planning.Suppositions{Without: []uint64{order.ID}})
	assert.Empty(t, without.Plan.Days[4].Dues)
}

func TestWhatIsSupposedCannotBeAnything(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	lot := s.MakeLot(2)
	off := func(first, last calendar.Date) planning.Suppositions {
		return planning.Suppositions{Away: []planning.AwayOn{{PersonID: s.Person, DaysOff: calendar.DaysOff{FirstDay: first, LastDay: last}}}}
	}
	come := func(person uint64, day calendar.Date, to int) planning.Suppositions {
		return planning.Suppositions{Comes: []planning.ComesIn{{PersonID: person, ExtraHours: calendar.ExtraHours{Day: day, FromMinute: 600, ToMinute: to}}}}
	}
	for at, in := range map[string]planning.Suppositions{
		"away[0].lastDay":          off("2027-03-04", "2027-03-02"),
		"away[0].personId":         {Away: []planning.AwayOn{{PersonID: 9, DaysOff: calendar.DaysOff{FirstDay: "2027-03-04", LastDay: "2027-03-04"}}}},
		"comes[0].toMinute":        come(0, "2027-03-04", 600),
		"comes[0].day":             come(0, "2027-02-04", 660),
		"comes[0].personId":        come(9, "2027-03-04", 660),
		"holds[0].lotId":           {Holds: []planning.HoldLot{{LotID: 99}}},
		"holds[0].at":              {Holds: []planning.HoldLot{{LotID: lot}}},
		"first[0]":                 {First: []uint64{99}},
		"without[0]":               {Without: []uint64{99}},
		"order.lines[0].productId": {Order: &planning.Ask{Lines: []planning.AskLine{{ProductID: 99, Quantity: 1}}}},
	} {
		_, err := s.Planning.Suppose(s.Ctx, planning.Supposition{Suppositions: in})
		assert.Equal(t, at, housetest.AtFault(t, err))
	}
	assert.Equal(t, "order", housetest.AtFault(t, s.Planning.Accept(s.Ctx, planning.Suppositions{Order: &planning.Ask{}})))
}

func TestWhatWasSupposedIsMadeSo(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	s.OrderFor("2027-03-20", 2)
	lot := s.MakeLot(0)
	in := planning.Suppositions{
		Away:   []planning.AwayOn{{PersonID: s.Person, DaysOff: calendar.DaysOff{FirstDay: "2027-03-02", LastDay: "2027-03-02"}}},
		Comes:  []planning.ComesIn{{ExtraHours: calendar.ExtraHours{Day: "2027-03-02", FromMinute: 600, ToMinute: 720}}, {PersonID: s.Person, ExtraHours: calendar.ExtraHours{Day: "2027-03-03", FromMinute: 900, ToMinute: 960}}},
		Places: 6,
		First:  []uint64{lot},
	}
	then := suppose(s, in)
	places := s.Days().RackPlaces
	require.NoError(t, s.Planning.Accept(s.Ctx, in))
	w, err := s.Workshop.Get(s.Ctx)
	require.NoError(t, err)
	require.Len(t, w.People, 2)
	assert.Equal(t, "Helper", w.People[1].Name)
	assert.Equal(t, in.Comes[0].ExtraHours, w.People[1].ExtraHours[0])
	assert.Empty(t, w.People[1].Hours)
	assert.Equal(t, in.Away[0].DaysOff, w.People[0].DaysOff[0])
	assert.Equal(t, places+6, w.RackPlaces())
	page, err := s.Desk.Lot(s.Ctx, lot)
	require.NoError(t, err)
	require.NotNil(t, page.Hold, "what went first is held there")
	assert.Equal(t, firstOf(t, then.Plan, lot).Start, page.Hold.At)
}

func TestWhatWouldMakeALotEarlierIsWorkedOut(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "13:30")
	s.Change(func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: "Rack", Places: 40}} })
	s.OrderFor("2027-03-26", 8)
	lot := s.MakeLot(0)
	e, err := s.Planning.Earlier(s.Ctx, lot)
	require.NoError(t, err)
	require.NotEmpty(t, e.Ways)
	for i, w := range e.Ways {
		assert.NotEmpty(t, w.Says)
		assert.Equal(t, w.GainMinutes, int(e.ReadyAt.Sub(w.ReadyAt)/time.Minute), "%s", w.Says)
		if i > 0 {
			assert.LessOrEqual(t, w.GainMinutes, e.Ways[i-1].GainMinutes, "the most gained first")
		}
		then := suppose(s, w.Suppose)
		assert.LessOrEqual(t, then.LateThen, then.LateNow+w.Breaks)
	}
	_, err = s.Planning.Earlier(s.Ctx, 99)
	assert.True(t, problem.IsNotFound(err))
}
