package planning_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/planning"
)

// loaded is the demo studio, as it stands on a Tuesday morning.
func loaded(t *testing.T) *house.House {
	t.Helper()
	return roomsOf(demotest.New(t, busyMorning, "Etc/UTC"))
}

func TestPlannedHandsKeepToTheHoursAndTheRackIsNeverOverfull(t *testing.T) {
	rooms := loaded(t)
	plan, err := rooms.Planning.Days(context.Background(), "", 14)
	require.NoError(t, err)
	w, err := rooms.Workshop.Get(context.Background())
	require.NoError(t, err)
	open := map[string]func(start, end time.Time) bool{}
	for _, p := range w.People {
		open[p.Name] = func(start, end time.Time) bool {
			o := p.Times().Open(start, end, time.UTC)
			return len(o) == 1 && o[0][0].Equal(start) && o[0][1].Equal(end)
		}
	}
	planned := 0
	for _, h := range plan.Hands {
		if h.State != planning.BarPlanned && h.State != planning.BarTentative {
			continue
		}
		planned++
		assert.True(t, open[h.Person](h.Start, h.End), "%s by %s at %s", h.Name, h.Person, h.Start)
		for _, other := range plan.Hands {
			overlaps := other.Start.Before(h.End) && h.Start.Before(other.End)
			assert.False(t, overlaps && !(other.LotID == h.LotID && other.Step == h.Step && other.Start.Equal(h.Start)) && other.Person == h.Person && other.State != planning.BarDone, "%s has %s and %s at once", h.Person, h.Name, other.Name)
		}
	}
	assert.Greater(t, planned, 20)
	for _, r := range plan.Rests {
		used := 0
		for _, other := range plan.Rests {
			if !r.Start.Before(other.Start) && r.Start.Before(other.End) {
				used += other.Pieces
			}
		}
		assert.LessOrEqual(t, used, w.RackPlaces(), "the rack at %s", r.Start)
		if r.State == planning.BarPlanned {
			assert.False(t, r.End.Before(r.Ready), "%s is not cut under its floor", r.Name)
		}
	}
}

func TestAPromiseMovesNothingAndSaysWhatHoldsItUp(t *testing.T) {
	rooms := loaded(t)
	ctx := context.Background()
	before, err := rooms.Desk.Ledger(ctx)
	require.NoError(t, err)
	ask := planning.Ask{DueOn: "2027-05-05", Lines: []planning.AskLine{{ProductID: 1, Quantity: 12}}}
	p, err := rooms.Planning.Promise(ctx, ask)
	require.NoError(t, err)
	require.NotNil(t, p.ReadyAt)
	assert.Equal(t, planning.ReadyLate, p.State, "the rests alone take over two days")
	assert.Negative(t, p.SpareMinutes)
	assert.False(t, p.ReadyAtFloor.After(*p.ReadyAt), "floors are no slower than usual rests")
	assert.Equal(t, "186.00", p.Total.StringFixed(2))
	assert.InDelta(t, 0.59, p.RemakeChance, 0.05)

	ask.OutletID = 3
	trade, err := rooms.Planning.Promise(ctx, ask)
	require.NoError(t, err)
	assert.Equal(t, "111.60", trade.Total.StringFixed(2), "twelve at three fifths of 15.50")
	assert.Equal(t, p.TotalCost, trade.TotalCost)
	assert.NotEqual(t, p.EarnedPerHour, trade.EarnedPerHour)
	ask.OutletID = 77
	_, err = rooms.Planning.Promise(ctx, ask)
	assert.Equal(t, "outletId", housetest.AtFault(t, err))
	ask.OutletID = 0

	ask.Lines[0].Quantity = 300
	many, err := rooms.Planning.Promise(ctx, ask)
	require.NoError(t, err)
	assert.True(t, many.ReadyAt.After(*p.ReadyAt))
	assert.NotEmpty(t, many.HoldUp, "the rack or the hours hold three hundred up")
	after, err := rooms.Desk.Ledger(ctx)
	require.NoError(t, err)
	assert.Equal(t, before, after)

	_, err = rooms.Planning.Promise(ctx, planning.Ask{Lines: []planning.AskLine{{ProductID: 99, Quantity: 1}}})
	assert.Equal(t, "lines[0].productId", housetest.AtFault(t, err))
}

func TestThePlanFollowsAChangeAtOnce(t *testing.T) {
	rooms := loaded(t)
	ctx := context.Background()
	before, err := rooms.Planning.Days(ctx, "", 7)
	require.NoError(t, err)
	w, err := rooms.Workshop.Get(ctx)
	require.NoError(t, err)
	for i := range w.People {
		w.People[i].DaysOff = []calendar.DaysOff{{FirstDay: "2027-05-04", LastDay: "2027-05-10"}}
	}
	_, err = rooms.Workshop.Save(ctx, w)
	require.NoError(t, err)
	after, err := rooms.Planning.Days(ctx, "", 7)
	require.NoError(t, err)
	assert.NotEqual(t, before.Hands, after.Hands)
	for _, h := range after.Hands {
		assert.NotEqual(t, planning.BarPlanned, h.State, "nobody works this week")
	}
	_, err = rooms.Planning.Days(ctx, "9999-01-01", 7)
	assert.Equal(t, "from", housetest.AtFault(t, err))
}

func TestALotSaysWhyItsNextStepIsWhenItIs(t *testing.T) {
	rooms := loaded(t)
	ctx := context.Background()
	today, err := rooms.Desk.Today(ctx)
	require.NoError(t, err)
	for _, r := range today.Resting {
		lot, err := rooms.Desk.Lot(ctx, r.LotID)
		require.NoError(t, err)
		assert.True(t, lot.Open)
		assert.NotNil(t, lot.ReadyAt)
		next := lot.Steps[len(lot.Steps)-1]
		for _, s := range lot.Steps {
			if s.State == planning.BarPlanned {
				next = s
				break
			}
		}
		assert.NotEmpty(t, next.Because)
		assert.NotRegexp(t, `\bs\d`, next.Because, "steps are named, not numbered")
	}
	_, err = rooms.Desk.Lot(ctx, 999)
	housetest.Missing(t, err)
}

func TestFindReadsNamesNumbersAndCustomersAsTheyAreTyped(t *testing.T) {
	rooms := loaded(t)
	for text, want := range map[string]string{"marit": "Withy Rowing Club, order 1004", "1007": "Regatta office, order 1007", "ferry k": "Ferry kiosk, order 1003", "slipway": "Slipway sign", "batch 3": "Batch 3, lot 1"} {
		found, err := rooms.Desk.Find(context.Background(), text)
		require.NoError(t, err)
		var titles []string
		for _, f := range found {
			titles = append(titles, f.Title)
		}
		assert.Contains(t, titles, want, text)
	}
	for _, text := range []string{"", "%", "_", `\`, "'; DROP TABLE orders; --"} {
		found, err := rooms.Desk.Find(context.Background(), text)
		require.NoError(t, err, text)
		assert.Empty(t, found, text)
	}
}
