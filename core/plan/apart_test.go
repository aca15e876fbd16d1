package plan_test

import (
	"context"
	"testing"
	"time"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/plan"
)

// sprayAndHeat has two people, a place to spray and a hot-air tool that keep an hour apart.
func sprayAndHeat(jobs ...plan.Job) plan.Problem {
	from := time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)
	return plan.Problem{Format: plan.ProblemFormat, From: from, Jobs: jobs,
		Resources: []plan.Resource{{ID: "hands", Capacity: 2}, {ID: "spray", Capacity: 2}, {ID: "heat", Capacity: 2}}}
}

func spray(id string, minutes int) plan.Job {
	return plan.Job{ID: id, Steps: []plan.Step{{ID: "s", Minutes: minutes, Uses: map[string]int{"hands": 1, "spray": 1}, Apart: map[string]int{"heat": 60}}}}
}

func heat(id string, minutes int) plan.Job {
	return plan.Job{ID: id, Steps: []plan.Step{{ID: "h", Minutes: minutes, Uses: map[string]int{"hands": 1, "heat": 1}, Apart: map[string]int{"spray": 60}}}}
}

func TestSprayAndHeatKeepAnHourApartAndTheirOwnKindDoesNot(t *testing.T) {
	a, err := plan.Solve(context.Background(), sprayAndHeat(spray("A", 30), heat("B", 20), spray("C", 15)), nil)
	require.NoError(t, err)
	at := map[string]plan.PlannedStep{}
	for _, s := range a.Steps {
		at[s.Job] = s
	}
	assert.Equal(t, "09:00", at["A"].Start.Format("15:04"))
	assert.Equal(t, "10:30", at["B"].Start.Format("15:04"))
	assert.Equal(t, "kept apart from spray", at["B"].Because.String())
	assert.Equal(t, "09:00", at["C"].Start.Format("15:04"), "two may spray at once")
}

func TestApartFromNothingKnownIsRefused(t *testing.T) {
	p := sprayAndHeat(heat("A", 5))
	p.Jobs[0].Steps[0].Apart = map[string]int{"moon": 60}
	_, err := plan.Solve(context.Background(), p, nil)
	assert.Equal(t, "jobs[0].steps[0].apart", fault.Of(err).Path)
}

func TestWhateverTheJobsTheyKeepApart(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var jobs []plan.Job
		for i := range rapid.IntRange(2, 8).Draw(t, "jobs") {
			minutes := rapid.IntRange(1, 90).Draw(t, "minutes")
			if rapid.Bool().Draw(t, "spray") {
				jobs = append(jobs, spray(string(rune('A'+i)), minutes))
			} else {
				jobs = append(jobs, heat(string(rune('A'+i)), minutes))
			}
		}
		a, err := plan.Solve(context.Background(), sprayAndHeat(jobs...), nil)
		require.NoError(t, err)
		require.Len(t, a.Steps, len(jobs))
		for _, s := range a.Steps {
			for _, h := range a.Steps {
				if s.Step == "s" && h.Step == "h" {
					apart := max(h.Start.Sub(s.End), s.Start.Sub(h.End))
					assert.GreaterOrEqual(t, apart, time.Hour, "%s and %s", s.Job, h.Job)
				}
			}
		}
	})
}
