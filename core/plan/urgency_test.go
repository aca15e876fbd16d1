package plan_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/plan"
)

func TestBeingUnderWayGivesNoRightOfWayBeyondItsCeiling(t *testing.T) {
	week := hours("hands", 9, 15, 1, 2, 3, 4, 5)
	primed := func(ceiling string) string {
		return job("A", `"due":"2027-03-22T15:00:00Z",`,
			`{"id":"prime","minutes":30,"startedAt":"2027-02-28T14:00:00Z","endedAt":"2027-02-28T14:30:00Z","rest":{"min":60`+ceiling+`,"uses":{"rack":20}}}`,
			step("paint", 300, `{"min":60,"uses":{"rack":20}}`), step("seal", 300, ""))
	}
	coasters := job("B", `"due":"2027-03-02T12:00:00Z",`, step("lay", 240, `{"min":720,"uses":{"rack":10}}`), step("seal", 60, ""))
	a := solve(t, problem(week+rackOf30, primed("")+","+coasters))
	assert.Equal(t, "1 09:00", starts(a)["B/lay"], "due sooner, so it goes first")
	assert.Zero(t, a.Objective.WeightedLateMinutes)
	a = solve(t, problem(week+rackOf30, primed(`,"max":1300`)+","+coasters))
	assert.Equal(t, "1 09:00", starts(a)["A/paint"], "its ceiling is at 12:10")
	// Where the rack is held by what is under way, that goes on first, and only that.
	a = solve(t, problem(week+`,{"id":"rack","capacity":25}`, primed("")+","+coasters))
	require.Empty(t, a.Unplanned)
	assert.Equal(t, "1 09:00", starts(a)["A/paint"])
	assert.Equal(t, "3 09:00", starts(a)["B/lay"])
}

func TestTheReasonNamesWhatBoundLongest(t *testing.T) {
	week := hours("hands", 9, 15, 1, 2, 3, 4, 5)
	full := job("A", "", `{"id":"lay","minutes":30,"startedAt":"2027-02-28T14:00:00Z","endedAt":"2027-02-28T14:30:00Z","rest":{"min":4700,"uses":{"rack":28}}}`, step("clear", 60, ""))
	short := job("C", `"due":"2027-03-04T00:00:00Z","weight":0.1,"release":"2027-03-04T09:00:00Z",`, step("cut", 36, ""))
	a := solve(t, problem(week+rackOf30, full+","+short+","+job("B", `"due":"2027-03-02T00:00:00Z",`, step("lay", 30, `{"min":60,"uses":{"rack":10}}`))))
	for _, s := range a.Steps {
		if s.Job == "B" {
			assert.Equal(t, "4 09:00", s.Start.Format("2 15:04"), "its rest begins as what holds the places goes on")
			assert.Equal(t, "rack full", s.Because.String())
			assert.Equal(t, starts(a)["A/clear"], s.Until.Format("2 15:04"), "which gives the places back")
		}
	}
}

func TestPlanningStopsWhenNobodyWaitsForIt(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := plan.Solve(ctx, read(t, example), nil)
	assert.ErrorIs(t, err, context.Canceled)
}
