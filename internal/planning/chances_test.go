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
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

func TestAPromiseSaysHowSureItIs(t *testing.T) {
	rooms := loaded(t)
	promise := func(due calendar.Date) planning.Promise {
		p, err := rooms.Planning.Promise(context.Background(), planning.Ask{DueOn: due, Lines: []planning.AskLine{{ProductID: 1, Quantity: 12}}})
		require.NoError(t, err)
		return p
	}
	whenever := promise("")
	require.NotNil(t, whenever.Odds)
	assert.Equal(t, 1.0, whenever.Odds.InTime, "no day is named")
	assert.Equal(t, 1000, whenever.Odds.Runs)
	require.NotNil(t, whenever.Odds.SureAt)
	assert.True(t, whenever.Odds.SureAt.After(whenever.ReadyAt.Add(-12*time.Hour)), "nine times in ten is hardly sooner than planned")

	sure := promise(whenever.Odds.SureOn.Add(2))
	assert.GreaterOrEqual(t, sure.Odds.InTime, 0.85)
	assert.Equal(t, sure.Odds, promise(whenever.Odds.SureOn.Add(2)).Odds, "asked again it is the same")
	soon := promise("2027-05-06")
	assert.Less(t, soon.Odds.InTime, 0.5)
}

func TestAPromiseIsWorkedOutOtherwiseToo(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	ask := func(due calendar.Date) planning.Promise {
		p, err := s.Planning.Promise(s.Ctx, planning.Ask{DueOn: due, Lines: []planning.AskLine{{ProductID: s.Product, Quantity: 40}}})
		require.NoError(t, err)
		return p
	}
	alone := ask("")
	assert.Empty(t, alone.Sooner, "nobody could wait")
	var taken []uint64
	for _, due := range []calendar.Date{"2027-04-20", "2027-04-22", "2027-04-26"} {
		o := s.OrderFor(due, 40)
		s.MakeUp(products.Detail{Card: products.Card{Product: products.Product{ID: s.Product}}}, 0, 20, 20)
		taken = append(taken, o.ID)
	}
	p := ask("2027-05-20")
	assert.Nil(t, p.KeepsAll, "nobody's promise breaks")
	require.Len(t, p.Sooner, 2)
	for i, sooner := range p.Sooner {
		assert.True(t, sooner.ReadyAt.Before(p.ReadyAt.Add(-4*time.Hour)))
		worse := 0
		for _, m := range sooner.Moves {
			assert.False(t, m.ToLate && !m.FromLate, "whoever waits still gets theirs in time")
			if m.Later {
				worse++
			}
		}
		assert.Equal(t, []int{1, 3}[i], worse, "one customer to think of, or three: %v", sooner.Moves)
	}
	assert.True(t, p.Sooner[1].ReadyAt.Before(p.Sooner[0].ReadyAt))

	due := calendar.DateOf(*alone.ReadyAt, time.UTC).Add(1)
	for i, id := range taken {
		require.NoError(t, s.Planning.ChangeOrder(s.Ctx, id, planning.OrderChange{OrderChange: orders.OrderChange{DueOn: calendar.DateOf(*s.Row(id).Readiness.At, time.UTC).Add(i % 2), Version: 1}}))
	}
	pressing := ask(due)
	require.Contains(t, breaks(pressing), true)
	require.NotNil(t, pressing.KeepsAll)
	assert.True(t, pressing.KeepsAll.After(*pressing.ReadyAt))
}

// breaks tells of each move of a promise whether it breaks somebody's.
func breaks(p planning.Promise) (all []bool) {
	for _, m := range p.Moves {
		all = append(all, m.Breaks)
	}
	return all
}

func TestDaysOnTheWayAreCountedFromTheHandOver(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	made, err := s.Planning.TakeOrder(s.Ctx, planning.NewOrder{NewOrder: orders.NewOrder{Customer: "Heron Club", DueOn: "2027-03-10", DaysOnTheWay: 2, Lines: []orders.NewLine{{ProductID: s.Product, Quantity: 3}}}})
	require.NoError(t, err)
	assert.Contains(t, s.HappenedTo(made.ID), "Order taken, due 2027-03-10, to be at the customer’s by 2027-03-12")
	change := orders.OrderChange{DueOn: "2027-03-11", Version: 1}
	require.NoError(t, s.Planning.ChangeOrder(s.Ctx, made.ID, planning.OrderChange{OrderChange: change}))
	assert.Equal(t, 2, s.OrderNow(made.ID).DaysOnTheWay, "left out they stay")
	change.DaysOnTheWay, change.Version = new(1), 2
	require.NoError(t, s.Planning.ChangeOrder(s.Ctx, made.ID, planning.OrderChange{OrderChange: change}))
	assert.Equal(t, 1, s.OrderNow(made.ID).DaysOnTheWay)
	assert.Contains(t, s.HappenedTo(made.ID), "1 day on the way now, not 2")
	page, err := s.Desk.Order(s.Ctx, made.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, page.DaysOnTheWay)
}

func TestLikeDemandIsSuggestedTogether(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	lamp := housetest.Lamp("60")
	lamp.Name = "Small lamp"
	other := s.Reshape(s.Make(lamp), housetest.ShortRecipe)
	s.OrderFor("2027-03-12", 4)
	_, err := s.Take(orders.NewOrder{Customer: "Heron Club", DueOn: "2027-03-15", Lines: []orders.NewLine{{ProductID: other.ID, Quantity: 3}}})
	require.NoError(t, err)
	list, err := s.Planning.Suggestions(s.Ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	one := list[0]
	require.Len(t, one.Batches, 2, "made alike, they go together")
	assert.Positive(t, one.SavesMinutes)
	assert.NotNil(t, one.StartAt)
	assert.NotEmpty(t, one.Reasons)
	assert.Len(t, one.Key, 32)

	require.NoError(t, s.Planning.Dismiss(s.Ctx, planning.Dismissed{Key: one.Key}))
	require.NoError(t, s.Planning.Dismiss(s.Ctx, planning.Dismissed{Key: one.Key}), "twice is as good as once")
	list, err = s.Planning.Suggestions(s.Ctx)
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, s.Planning.Recall(s.Ctx, planning.Dismissed{Key: one.Key}))

	broken := one.Batches[1].NewBatch
	broken.Lots = []int{999}
	_, err = s.Planning.AcceptSuggestion(s.Ctx, planning.Accepted{Batches: []batches.NewBatch{one.Batches[0].NewBatch, broken}})
	assert.Equal(t, "batches[1].lots[0]", housetest.AtFault(t, err))
	assert.NotEmpty(t, s.OpenWants(s.Product), "all or none")
	up, err := s.Planning.AcceptSuggestion(s.Ctx, planning.Accepted{Batches: []batches.NewBatch{one.Batches[0].NewBatch, one.Batches[1].NewBatch}})
	require.NoError(t, err)
	assert.Len(t, up.Numbers, 2)
	assert.Empty(t, s.OpenWants(s.Product))
	assert.Empty(t, s.OpenWants(other.ID))
}

func TestStepsOfTheComingDayThatMoveAreListedAndTakenBack(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	lot := s.MakeLot(2)
	was := firstOf(t, s.Days(), lot).Start
	moves := func() []planning.StepMove {
		list, err := s.Planning.StepMoves(s.Ctx)
		require.NoError(t, err)
		return list
	}
	assert.Empty(t, moves())
	at := was.Add(2 * time.Hour)
	s.Change(func(w *workshop.Workshop) {
		w.People[0].Hours[0].FromMinute = 11 * 60
	})
	s.Days()
	list := moves()
	require.NotEmpty(t, list)
	assert.Equal(t, lot, list[0].LotID)
	assert.Equal(t, was, list[0].From)
	assert.False(t, list[0].To.Before(at))
	assert.NotEmpty(t, list[0].Because)

	s.Change(func(w *workshop.Workshop) { w.People[0].Hours[0].FromMinute = 9 * 60 })
	s.Days()
	assert.Empty(t, moves(), "what is where it was has not moved")

	require.NoError(t, s.Batches.Hold(s.Ctx, lot, batches.Hold{Step: 0, At: at}))
	s.Days()
	for _, m := range moves() {
		assert.NotEqual(t, 0, m.Step, "what is held is no news")
	}
	_, err := s.Planning.SeenMoves(s.Ctx)
	require.NoError(t, err)
	assert.Empty(t, moves())
}

func TestAGoalForTheShelfIsPlannedInTheGaps(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	order := s.OrderFor("2027-03-05", 6)
	before := s.Row(order.ID).Readiness.At
	require.NoError(t, s.Products.SetGoal(s.Ctx, s.Product, products.Goal{Pieces: 5, On: "2027-03-19"}))
	assert.Equal(t, before, s.Row(order.ID).Readiness.At, "orders go first")
	tentative := 0
	for _, h := range s.Days().Hands {
		if h.State == planning.BarTentative && len(h.Orders) == 0 {
			tentative++
		}
	}
	assert.Positive(t, tentative, "it stands on the plan")
	list, err := s.Planning.Suggestions(s.Ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.GreaterOrEqual(t, list[0].Batches[0].Extras, 5)
	assert.Contains(t, strings.Join(list[0].Reasons, " "), "lie ready by")

	_, err = s.Fulfilment.CountShelf(s.Ctx, s.Product, fulfilment.ShelfCount{Pieces: 11})
	require.NoError(t, err)
	list, err = s.Planning.Suggestions(s.Ctx)
	require.NoError(t, err)
	assert.Empty(t, list, "six filled the order, and five lie ready")
	for at, in := range map[string]products.Goal{"on": {Pieces: 3, On: "2027-02-01"}} {
		assert.Equal(t, at, housetest.AtFault(t, s.Products.SetGoal(s.Ctx, s.Product, in)))
	}
	crew := s.Make(housetest.Crew())
	assert.Equal(t, "pieces", housetest.AtFault(t, s.Products.SetGoal(s.Ctx, crew.ID, products.Goal{Pieces: 3, On: "2027-03-19"})))
	require.NoError(t, s.Products.SetGoal(s.Ctx, s.Product, products.Goal{}))
}
