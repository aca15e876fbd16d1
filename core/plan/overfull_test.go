package plan_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/plan"
)

const rackOf30 = `,{"id":"rack","capacity":30}`

// resting is a lot of n pieces that was laid the evening before and still has removal and a seal before it.
func resting(id string, n int) string {
	rack := fmt.Sprintf(`{"min":600,"uses":{"rack":%d}}`, n)
	return job(id, "", `{"id":"lay","minutes":30,"startedAt":"2027-02-28T20:00:00Z","endedAt":"2027-02-28T20:30:00Z","rest":`+rack+`}`,
		step("remove", 60, fmt.Sprintf(`{"min":60,"uses":{"rack":%d}}`, n)), step("seal", 30, ""))
}

func TestAnOverfullRackEmptiesNoPlan(t *testing.T) {
	week := hours("hands", 9, 15, 1, 2, 3, 4, 5)
	fresh := job("C", `"due":"2027-03-01T12:00:00Z",`, `{"id":"lay","minutes":30,"uses":{"ben":1},"rest":{"min":60,"uses":{"rack":5}}}`, step("remove", 30, ""))
	a := solve(t, problem(week+","+hours("ben", 9, 15, 1)+rackOf30, resting("A", 18)+","+resting("B", 14)+","+fresh+","+job("D", "", `{"id":"cut","minutes":60,"uses":{"ben":1}}`)))
	require.Empty(t, a.Unplanned)
	at := starts(a)
	assert.Equal(t, "1 09:00", at["A/remove"], "what is under way keeps its places and goes on")
	assert.Equal(t, "1 10:00", at["B/remove"])
	assert.Equal(t, "1 11:00", at["A/seal"])
	assert.Equal(t, "1 11:00", at["C/lay"], "what is new rests once the rack is no longer overfull")
	for _, s := range a.Steps {
		if s.Job == "C" && s.Step == "lay" {
			assert.Equal(t, "rack overfull", s.Because.String())
			assert.Equal(t, "11:30", s.Until.Format("15:04"))
		}
	}
	require.Len(t, a.Overfull, 1)
	assert.Equal(t, "rack", a.Overfull[0].Resource)
	assert.Equal(t, 2, a.Overfull[0].By)
	assert.Equal(t, "11:30", a.Overfull[0].Until.Format("15:04"))
	assert.Contains(t, strings.Join(a.Warnings, "; "), "rack is overfull by 2 (32 where 30 fit) until 2027-03-01T11:30:00Z")
}

func TestWhatStandsOnAnOverfullRackGivesWayToWhatIsUrgentAndNeedsNone(t *testing.T) {
	underWay := resting("A", 18) + "," + resting("B", 14)
	coasters := job("C", `"due":"2027-03-01T12:00:00Z",`, step("cut", 120, ""))
	a := solve(t, problem(hours("hands", 9, 15, 1, 2)+rackOf30, underWay+","+coasters))
	require.Empty(t, a.Unplanned)
	assert.Equal(t, "1 09:00", starts(a)["C/cut"])
	assert.Zero(t, a.Objective.WeightedLateMinutes)
	onto := job("C", `"due":"2027-03-01T18:30:00Z",`, step("lay", 30, `{"min":180,"uses":{"rack":2}}`), step("remove", 30, ""))
	longer := job("D", `"due":"2027-03-01T18:00:00Z",`, step("cut", 300, ""))
	a = solve(t, problem(hours("hands", 9, 20, 1, 2)+rackOf30, longer+","+onto+","+underWay))
	require.Empty(t, a.Unplanned)
	assert.Zero(t, a.Objective.WeightedLateMinutes, "the rack is cleared first where that lets another onto it in time: %v", a.Steps)
}

func TestAJobOnAnOverfullRackHoldsNoMoreThanItDoes(t *testing.T) {
	grows := job("B", "", `{"id":"lay","minutes":30,"startedAt":"2027-02-28T20:00:00Z","endedAt":"2027-02-28T20:30:00Z","rest":{"min":600,"uses":{"rack":14}}}`,
		step("remove", 30, `{"min":60,"uses":{"rack":15}}`), step("seal", 30, ""))
	a := solve(t, problem(hours("hands", 9, 15, 1, 2)+rackOf30, grows+","+resting("A", 18)))
	require.Empty(t, a.Unplanned)
	assert.Equal(t, "1 09:00", starts(a)["A/remove"])
	assert.Equal(t, "1 11:30", starts(a)["B/remove"], "its rest begins only once the rack is no longer overfull: %v", a.Steps)
}

// Each waits for the other to be done before it may hold more: neither can go
// on, also where the plan that stands was made before the rack was overfull.
func TestTwoThatOutgrowAnOverfullRackFindNoPlaceBeforeEachOther(t *testing.T) {
	grows := func(id string) string {
		return job(id, "", `{"id":"lay","minutes":30,"startedAt":"2027-02-28T20:00:00Z","endedAt":"2027-02-28T20:30:00Z","rest":{"min":600,"uses":{"rack":16}}}`,
			step("remove", 30, `{"min":60,"uses":{"rack":17}}`), step("seal", 30, ""))
	}
	week := hours("hands", 9, 15, 1, 2)
	roomy := solve(t, problem(week+`,{"id":"rack","capacity":40}`, grows("A")+","+grows("B")))
	require.Empty(t, roomy.Unplanned)
	p := read(t, problem(week+rackOf30, grows("A")+","+grows("B")))
	for _, standing := range []*plan.Answer{nil, &roomy} {
		a := solved(t, p, standing)
		assert.Len(t, a.Unplanned, 2)
		assert.Empty(t, brokenRules(p, a))
	}
}

func TestACeilingThatNoHoursCanKeepIsDropped(t *testing.T) {
	laid := func(id, ceiling string) string {
		return job(id, "", `{"id":"lay","minutes":30,"startedAt":"2027-03-01T14:00:00Z","endedAt":"2027-03-01T14:30:00Z","rest":{"min":60,"ideal":90,"max":`+ceiling+`}}`, step("seal", 30, ""))
	}
	from := func(text string) string { return strings.Replace(text, "T00:00:00Z", "T14:30:00Z", 1) }
	a := solve(t, from(problem(hours("hands", 9, 15, 1, 3), laid("A", "240"))))
	assert.Equal(t, "3 09:00", starts(a)["A/seal"])
	assert.Equal(t, []string{"A: no hours are open before the rest after step lay reaches its ceiling of 240 min"}, a.Warnings)
	a = solve(t, from(problem(hours("hands", 9, 16, 1, 3), laid("A", "90"))))
	assert.Equal(t, "1 15:30", starts(a)["A/seal"], "what can be kept is kept, at the floor")
}
