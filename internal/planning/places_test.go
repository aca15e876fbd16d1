package planning_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/weather"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/planning"
	"tidykiln/internal/workshop"
)

// pair is a small studio of two, with three lots to make.
func pair(t *testing.T) (s *housetest.Small, lots []uint64) {
	s = housetest.NewSmall(t)
	s.Change(func(w *workshop.Workshop) {
		second := w.People[0]
		second.ID, second.Name = 0, "Odo"
		w.People = append(w.People, second)
	})
	s.At(1, "08:00")
	for range 3 {
		lots = append(lots, s.MakeLot(4))
	}
	return s, lots
}

// barsOf are the bars of a kind of work.
func barsOf(p planning.Plan, work string) (bars []planning.Hands) {
	for _, h := range p.Hands {
		if h.Work == work {
			bars = append(bars, h)
		}
	}
	return bars
}

func TestWhoLeavesWorkToOthersIsNotPlannedForIt(t *testing.T) {
	s, lots := pair(t)
	s.Change(func(w *workshop.Workshop) { w.People[0].Leaves = []craft.Stage{craft.Laying, craft.Sealing} })
	p := s.Days()
	require.NotEmpty(t, barsOf(p, "Lay"))
	for _, h := range append(barsOf(p, "Lay"), barsOf(p, "Seal")...) {
		assert.Equal(t, "Odo", h.Person)
	}
	assert.Empty(t, p.Unplanned)

	s.Change(func(w *workshop.Workshop) { w.People[1].Leaves = []craft.Stage{craft.Sealing} })
	p = s.Days()
	require.Len(t, p.Unplanned, len(lots))
	assert.Regexp(t, "^nobody here does “.*”; Workshop says who leaves what to others$", p.Unplanned[0].Reason)
}

func TestAPersonsPaceIsPlannedWith(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	lot := s.MakeLot(4)
	usual := firstOf(t, s.Days(), lot)
	s.Change(func(w *workshop.Workshop) { w.People[0].PacePercent = 200 })
	slow := firstOf(t, s.Days(), lot)
	setup := 5 * time.Minute
	assert.Equal(t, 2*(usual.End.Sub(usual.Start)-setup), slow.End.Sub(slow.Start)-setup, "the work, and not what is got out for it")
	s.At(1, "09:00")
	s.TakeUp(lot, 0)
	inHand := time.Time{}
	for _, h := range s.Days().Hands {
		if h.State == planning.BarInHand {
			inHand = h.End
		}
	}
	assert.InDelta(t, float64(2*(usual.End.Sub(usual.Start))), float64(inHand.Sub(s.Now)), float64(2*time.Minute), "what is in hand goes at the same pace")
}

func TestMachinesHaveTheirNumberAndHours(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	pressed := s.Make(housetest.Lamp("60"))
	s.Reshape(pressed, func(steps []craft.Step) []craft.Step {
		steps = housetest.ShortRecipe(steps)
		steps[0].Holds = []craft.Holding{craft.HeatPress}
		return steps
	})
	_, lots := s.MakeUp(pressed, 4, 4)
	lot := lots[0].ID
	assert.Equal(t, "1 09:00", firstOf(t, s.Days(), lot).Start.Format("2 15:04"))
	s.Change(func(w *workshop.Workshop) {
		w.Machines[0].Hours = []calendar.Hours{{Weekday: 3, FromMinute: 660, ToMinute: 720}}
	})
	bar := firstOf(t, s.Days(), lot)
	assert.Equal(t, "3 11:00", bar.Start.Format("2 15:04"))
	assert.Equal(t, "the press’s hours begin then", bar.Because)
	s.Change(func(w *workshop.Workshop) { w.Machines[0].Count = 0 })
	p := s.Days()
	require.Len(t, p.Unplanned, 1)
	assert.Regexp(t, "needs 1 of the press, which has 0$", p.Unplanned[0].Reason)
}

func TestSprayingAndLayingAtTheTimesTheyAreLiked(t *testing.T) {
	s, lots := pair(t)
	s.Change(func(w *workshop.Workshop) {
		w.Preferences = []workshop.Preference{{Stage: craft.Laying, LastMinutes: 120, ToMinute: 1440}, {Stage: craft.Sealing, FromMinute: 540, ToMinute: 660}}
	})
	p := s.Days()
	require.Len(t, barsOf(p, "Lay"), len(lots))
	for _, h := range barsOf(p, "Lay") {
		assert.GreaterOrEqual(t, h.Start.Hour(), 13, "lays last: hands are over at 15:00")
	}
	for _, h := range barsOf(p, "Seal") {
		assert.LessOrEqual(t, h.End.Hour()*60+h.End.Minute(), 660)
	}
	assert.Empty(t, p.Warnings)
	told := map[string]bool{}
	for _, h := range barsOf(p, "Lay") {
		told[h.Because] = true
	}
	assert.Contains(t, told, "the time you like for laying and pressing begins then")

	s.Change(func(w *workshop.Workshop) {
		w.Preferences = []workshop.Preference{{Stage: craft.Laying, FromMinute: 0, ToMinute: 60}}
	})
	p = s.Days()
	assert.Empty(t, p.Unplanned, "where that is never, it is worked all the same")
	require.Len(t, p.Warnings, 1)
	assert.Contains(t, p.Warnings[0], "are not kept for")
}

func TestALotWouldBeEarlierWithoutTheTimesThatAreLiked(t *testing.T) {
	s, lots := pair(t)
	s.Change(func(w *workshop.Workshop) {
		w.Preferences = []workshop.Preference{{Stage: craft.Sealing, FromMinute: 540, ToMinute: 600}}
	})
	earlier := func() planning.Earlier {
		e, err := s.Planning.Earlier(s.Ctx, lots[0])
		require.NoError(t, err)
		return e
	}
	e := earlier()
	freed := slices.IndexFunc(e.Ways, func(w planning.Way) bool { return w.Says == "sealing and staining may be done at any time" })
	require.GreaterOrEqual(t, freed, 0, "%v", e.Ways)
	require.NoError(t, s.Planning.Accept(s.Ctx, e.Ways[freed].Suppose))
	assert.Equal(t, e.Ways[freed].ReadyAt, *earlier().ReadyAt, "and so it is")
}

func TestATimeThatIsLikedMakesNothingLate(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	early := []workshop.Preference{{Stage: craft.Sealing, FromMinute: 540, ToMinute: 600}}
	easy := s.OrderFor("2027-03-26", 4)
	s.MakeLot(0)
	quick := s.Row(easy.ID).Readiness.At
	s.Change(func(w *workshop.Workshop) { w.Preferences = early })
	slow := s.Row(easy.ID).Readiness.At
	assert.True(t, slow.After(*quick), "with days to spare it waits for the morning")
	assert.Empty(t, s.Days().Warnings)

	s = housetest.NewSmall(t)
	s.At(1, "08:00")
	s.Change(func(w *workshop.Workshop) { w.Preferences = early })
	tight := s.OrderFor(calendar.DateOf(*quick, time.UTC), 4)
	s.MakeLot(0)
	assert.NotEqual(t, planning.ReadyLate, s.Row(tight.ID).Readiness.State)
	assert.Len(t, s.Days().Warnings, 1, "and it is said")
}

func reasons(p planning.Plan) (all []string) {
	for _, h := range p.Hands {
		all = append(all, h.Because)
	}
	return all
}

func TestPiecesRestOnRacksOfTheirSize(t *testing.T) {
	s, lots := pair(t)
	ready := func() (last time.Time) {
		for _, lot := range lots {
			page, err := s.Desk.Lot(s.Ctx, lot)
			require.NoError(t, err)
			if page.ReadyAt != nil && page.ReadyAt.After(last) {
				last = *page.ReadyAt
			}
		}
		return last
	}
	large := []workshop.Rack{{Name: "Shelf", Places: 40, LongestMm: new(measure.Length(80))}, {Name: "Floor", Places: 4}}
	s.Change(func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: "Floor", Places: 44}} })
	soon := ready()
	s.Change(func(w *workshop.Workshop) { w.Racks = large })
	assert.True(t, ready().After(soon), "lamps of 90 mm have four places, one lot after the other")
	p := s.Days()
	assert.Contains(t, strings.Join(reasons(p), "; "), "the rack for pieces over 80 mm is full")
	s.Change(func(w *workshop.Workshop) { w.Racks[0].LongestMm = new(measure.Length(90)) })
	assert.WithinDuration(t, soon, ready(), 26*time.Hour, "with room enough on a shelf for up to 90 mm, all but the coming day comes forward again")
}

// night is a room that is cold between midnight and six.
type night struct{}

func (night) Read(at time.Time) (weather.Air, error) {
	if at.Hour() < 6 {
		return weather.Air{Celsius: 9, Humidity: 0.7}, nil
	}
	return weather.Air{Celsius: 21, Humidity: 0.5}, nil
}

func TestRestsThroughAColdNightAreLongerWhereThatIsWanted(t *testing.T) {
	b := housetest.NewBenchWith(t, night{})
	b.Change(func(w *workshop.Workshop) {
		w.People[0].Hours = nil
		for day := range 7 {
			w.People[0].Hours = append(w.People[0].Hours, calendar.Hours{Weekday: day, FromMinute: 0, ToMinute: 1440})
		}
	})
	b.At(1, "00:30")
	for range 9 {
		require.NoError(t, b.Workshop.KeepReading(b.Ctx))
		b.Later(time.Hour)
	}
	_, lots := b.MakeUp(b.Plain, 4, 4)
	restAfter := func(work string) (rest time.Duration) {
		for _, r := range b.Days().Rests {
			if r.LotID == lots[0].ID && strings.Contains(r.Name, work) {
				return r.Best.Sub(r.Start)
			}
		}
		require.Fail(t, "no rest after "+work)
		return 0
	}
	lay, base := restAfter("Lay"), restAfter("Base coat")
	b.Change(func(w *workshop.Workshop) { w.ColdNights = true })
	assert.Greater(t, restAfter("Lay"), lay, "it lies through the night")
	assert.Zero(t, restAfter("Lay")%(15*time.Minute))
	assert.Equal(t, base, restAfter("Base coat"), "an hour or two by day goes by the air as it is now")
}
