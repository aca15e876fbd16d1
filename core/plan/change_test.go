package plan_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/plan"
)

// solved is a problem with its answer.
func solved(t require.TestingT, p plan.Problem, standing *plan.Answer) plan.Answer {
	a, err := plan.Solve(context.Background(), p, standing)
	require.NoError(t, err)
	return a
}

// What eases a studio never makes its plan worse, the plan before being the one that stands.
func TestEaseNeverMakesAPlanWorse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := roomyProblem(t)
		before := solved(t, p, nil)
		eased := p
		eased.Resources = append([]plan.Resource(nil), p.Resources...)
		eased.Jobs = append([]plan.Job(nil), p.Jobs...)
		switch rapid.SampledFrom([]string{"rack", "hours", "due"}).Draw(t, "ease") {
		case "rack":
			eased.Resources[0].Capacity += rapid.IntRange(1, 20).Draw(t, "more places")
		case "hours":
			ana := &eased.Resources[1]
			day := rapid.IntRange(0, len(ana.Open)-1).Draw(t, "day")
			ana.Open = append([][2]time.Time(nil), ana.Open...)
			ana.Open[day][1] = ana.Open[day][1].Add(minutes(rapid.IntRange(1, 300).Draw(t, "longer")))
		case "due":
			j := &eased.Jobs[rapid.IntRange(0, len(eased.Jobs)-1).Draw(t, "job")]
			j.Due = new(j.Due.Add(minutes(rapid.IntRange(1, 3000).Draw(t, "later"))))
		}
		after := solved(t, eased, &before)
		assert.Empty(t, brokenRules(eased, after))
		assert.LessOrEqual(t, worse(after, before), 0.0)
	})
}

func TestAWeekLaterThePlanIsAWeekLater(t *testing.T) {
	const week = 7 * 24 * time.Hour
	rapid.Check(t, func(t *rapid.T) {
		p := roomyProblem(t)
		later := p
		later.From = p.From.Add(week)
		later.Resources, later.Jobs = nil, nil
		for _, r := range p.Resources {
			open := r.Open
			r.Open = nil
			for _, o := range open {
				r.Open = append(r.Open, [2]time.Time{o[0].Add(week), o[1].Add(week)})
			}
			later.Resources = append(later.Resources, r)
		}
		for _, j := range p.Jobs {
			j.Due = new(j.Due.Add(week))
			later.Jobs = append(later.Jobs, j)
		}
		a, b := solved(t, p, nil), solved(t, later, nil)
		require.Len(t, b.Steps, len(a.Steps))
		for i, s := range a.Steps {
			assert.Equal(t, s.Start.Add(week), b.Steps[i].Start)
			assert.Equal(t, s.By, b.Steps[i].By)
		}
		assert.Equal(t, a.Objective, b.Objective)
	})
}

// A day on which the clock is put on has 23 hours, one on which it is put back 25:
// hours and rests are reckoned in time that passes.
func TestDaysOfTwentyThreeAndOfTwentyFiveHours(t *testing.T) {
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	for day, hoursBetween := range map[time.Time]time.Duration{
		time.Date(2027, 3, 27, 0, 0, 0, 0, berlin):  23 * time.Hour,
		time.Date(2027, 10, 30, 0, 0, 0, 0, berlin): 25 * time.Hour,
	} {
		var open [][2]time.Time
		for d := range 3 {
			open = append(open, [2]time.Time{day.AddDate(0, 0, d).Add(9 * time.Hour), day.AddDate(0, 0, d).Add(15 * time.Hour)})
			// Nine o'clock on the wall, whatever the night before was like.
			open[d][0] = time.Date(day.Year(), day.Month(), day.Day()+d, 9, 0, 0, 0, berlin)
			open[d][1] = time.Date(day.Year(), day.Month(), day.Day()+d, 15, 0, 0, 0, berlin)
		}
		p := plan.Problem{Format: plan.ProblemFormat, From: day, Iterations: new(5), Resources: []plan.Resource{{ID: "hands", Capacity: 1, Open: open}},
			Jobs: []plan.Job{{ID: "A", Steps: []plan.Step{
				{ID: "lay", Minutes: 60, Uses: map[string]int{"hands": 1}, Rest: &plan.Rest{Min: 20 * 60}},
				{ID: "clear", Minutes: 60, Uses: map[string]int{"hands": 1}},
			}}}}
		a := solved(t, p, nil)
		assert.Empty(t, brokenRules(p, a))
		assert.Equal(t, "09:00", a.Steps[0].Start.Format("15:04"))
		assert.Equal(t, "09:00", a.Steps[1].Start.Format("15:04"))
		assert.Equal(t, hoursBetween, a.Steps[1].Start.Sub(a.Steps[0].Start))
	}
}

// A day under way is found as it was left: a step that takes longer pushes on
// those behind it, and nobody's work changes hands or order.
func TestALateStepPushesTheOthersOnInTheirOrder(t *testing.T) {
	p := busyStudio(30, 5)
	// With room enough on the racks, and so little late that the day still holds
	// its work, nothing has to be moved.
	p.Resources[0].Capacity, p.Resources[1].Capacity = 300, 300
	p.Iterations = new(40)
	before := solved(t, p, nil)
	now := p.From.Add(26 * time.Hour)
	late := pinned(p, before, now)
	slow := 0
	for i := range late.Jobs {
		for k := range late.Jobs[i].Steps {
			if s := &late.Jobs[i].Steps[k]; s.StartedAt != nil && s.EndedAt == nil {
				s.EndedAt = new(now.Add(minutes(5)))
				slow++
			}
		}
	}
	require.Positive(t, slow)
	after := solved(t, late, &before)
	assert.Empty(t, brokenRules(late, after))
	assert.LessOrEqual(t, movedShare(before, after, now), 0.05)
}

// Work that nobody took up for days slides, and still rests as usual where there is time.
func TestWhatSlidesForLongStillRestsAsUsual(t *testing.T) {
	from := time.Date(2027, 3, 1, 8, 0, 0, 0, time.UTC)
	var open [][2]time.Time
	for d := range 12 {
		open = append(open, [2]time.Time{from.AddDate(0, 0, d).Add(time.Hour), from.AddDate(0, 0, d).Add(7 * time.Hour)})
	}
	rest := &plan.Rest{Min: 30, Ideal: new(100)}
	p := plan.Problem{Format: plan.ProblemFormat, From: from, Iterations: new(8), Resources: []plan.Resource{{ID: "hands", Capacity: 1, Open: open}}}
	for _, id := range []string{"A", "B"} {
		var steps []plan.Step
		for _, step := range []string{"one", "two", "three"} {
			steps = append(steps, plan.Step{ID: step, Minutes: 20, Uses: map[string]int{"hands": 1}, Rest: rest})
		}
		p.Jobs = append(p.Jobs, plan.Job{ID: id, Due: new(from.AddDate(0, 0, 10)), Steps: steps})
	}
	before := solved(t, p, nil)
	for days := range 4 {
		p.From = from.AddDate(0, 0, days).Add(3 * time.Hour)
		after := solved(t, p, &before)
		assert.Empty(t, brokenRules(p, after))
		assert.Zero(t, after.Objective.RestShortfallMinutes, "after %d days", days)
		before = after
	}
}

// movedShare is the share of the coming day's steps that are given to somebody
// else, or to another place in their order; starts that slide do not count.
func movedShare(before, after plan.Answer, now time.Time) float64 {
	coming := func(s plan.PlannedStep) bool { return !s.Start.Before(now) && s.Start.Before(now.Add(24*time.Hour)) }
	order := map[string][]string{}
	by := map[string]string{}
	for _, s := range before.Steps {
		if coming(s) {
			order[s.By] = append(order[s.By], s.Job+"/"+s.Step)
			by[s.Job+"/"+s.Step] = s.By
		}
	}
	at := map[string]int{}
	for i, s := range after.Steps {
		id := s.Job + "/" + s.Step
		if at[id] = i; by[id] != s.By {
			at[id] = -1
		}
	}
	moved, total := 0, 0
	for _, ids := range order {
		total += len(ids)
		last := -1
		for _, id := range ids {
			if at[id] < last || at[id] < 0 {
				moved++
				continue
			}
			last = at[id]
		}
	}
	if total == 0 {
		return 0
	}
	return float64(moved) / float64(total)
}
