package planning_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/core/chance"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// withPress is a lamp whose first step takes the press.
func withPress(s *housetest.Small) products.Detail {
	return s.Reshape(s.Make(housetest.Lamp("60")), func(steps []craft.Step) []craft.Step {
		steps = housetest.ShortRecipe(steps)
		steps[0].Holds = []craft.Holding{craft.HeatPress}
		return steps
	})
}

func TestHowSureItIsKnowsMachinesRacksAndLikedTimes(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	ask := func(product uint64) planning.Promise {
		p, err := s.Planning.Promise(s.Ctx, planning.Ask{Lines: []planning.AskLine{{ProductID: product, Quantity: 8}}})
		require.NoError(t, err)
		require.NotNil(t, p.Odds)
		require.NotNil(t, p.Odds.SureAt)
		return p
	}
	usual := ask(s.Product)

	pressed := withPress(s)
	free := ask(pressed.ID)
	s.Change(func(w *workshop.Workshop) {
		w.Machines[0].Hours = []calendar.Hours{{Weekday: 5, FromMinute: 660, ToMinute: 780}}
	})
	assert.GreaterOrEqual(t, ask(pressed.ID).Odds.SureAt.Sub(*free.Odds.SureAt), 3*24*time.Hour, "the press has no hours from Monday to Friday at eleven")
	assert.Equal(t, usual.Odds, ask(s.Product).Odds, "what needs no press is as sure as it was")

	s.Change(func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: "Window", Places: 2}} })
	tight := ask(s.Product)
	assert.True(t, tight.Odds.SureAt.After(*usual.Odds.SureAt))
	s.Change(func(w *workshop.Workshop) {
		w.Racks = append(w.Racks, workshop.Rack{Name: "Cups", Places: 90, LongestMm: new(measure.Length(20))})
	})
	assert.Equal(t, tight.Odds, ask(s.Product).Odds, "a rack for small pieces takes none of these")
	s.Change(func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: "Window", Places: 100}} })
	assert.Equal(t, usual.Odds, ask(s.Product).Odds)

	s.Change(func(w *workshop.Workshop) {
		w.Preferences = []workshop.Preference{{Stage: craft.Sealing, FromMinute: 540, ToMinute: 570}}
	})
	liked := ask(s.Product)
	assert.True(t, liked.Odds.SureAt.After(*usual.Odds.SureAt), "sealing waits for its half hour")
	assert.GreaterOrEqual(t, liked.Odds.SureAt.Sub(*liked.ReadyAt), -12*time.Hour, "nine times in ten is hardly sooner than planned")
}

func TestWhatIsInHandIsPlayedOnWhateverTheHours(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "09:00")
	_, lots := s.MakeUp(withPress(s), 8, 4, 4)
	first := func() (steps []chance.Step) {
		snapshot, err := s.Planning.SnapshotNow(s.Ctx)
		require.NoError(t, err)
		schedule, err := planning.MakeSchedule(s.Ctx, snapshot)
		require.NoError(t, err)
		for _, j := range schedule.Played().Jobs {
			require.NotEmpty(t, j.Steps)
			steps = append(steps, j.Steps[0])
		}
		require.Len(t, steps, 2)
		return steps
	}
	press := func(s chance.Step) int { return len(s.Uses) }
	require.Equal(t, []int{1, 1}, []int{press(first()[0]), press(first()[1])}, "one of them is planned for now")

	run := s.TakeUp(lots[0].ID, 0)
	s.Change(func(w *workshop.Workshop) {
		w.Machines[0].Hours = []calendar.Hours{{Weekday: 5, FromMinute: 660, ToMinute: 780}}
	})
	assert.Equal(t, []int{0, 1}, []int{press(first()[0]), press(first()[1])}, "what is in hand has the press")
	require.NoError(t, s.Batches.PutDown(s.Ctx, run.ID))
	assert.Equal(t, 1, press(first()[0]), "put down it waits for its hours like the other")
}
