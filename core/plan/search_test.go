package plan_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/plan"
)

// twoLate are jobs that are late whichever goes first: A has less to spare, B is
// due sooner. By weight 1 it comes to the same, by more B should go first.
func twoLate(weight string) string {
	return problem(hours("hands", 9, 20, 1), job("A", `"due":"2027-03-01T10:00:00Z",`, step("lay", 60, `{"min":300}`))+","+
		job("B", `"weight":`+weight+`,"due":"2027-03-01T09:30:00Z",`, step("cut", 60, "")))
}

func TestTheSearchGoesOnForItsBudgetAndNoLonger(t *testing.T) {
	p := read(t, twoLate("2"))
	first := func(a plan.Answer, err error) string {
		require.NoError(t, err)
		return a.Steps[0].Job
	}
	ctx := context.Background()
	assert.Equal(t, "B", first(plan.Solve(ctx, p, nil)), "the second plan that is tried is the better one")
	p.Iterations = new(1)
	assert.Equal(t, "B", first(plan.Solve(ctx, p, nil)))
	p.Iterations = new(0)
	assert.Equal(t, "A", first(plan.Solve(ctx, p, nil)), "one plan is always made")
	p.Iterations, p.BudgetMs = nil, new(0)
	assert.Equal(t, "A", first(plan.Solve(ctx, p, nil)))
}

func TestOfEqualPlansTheOneThatMovesLessIsKept(t *testing.T) {
	p := read(t, twoLate("1"))
	ctx := context.Background()
	fresh, err := plan.Solve(ctx, p, nil)
	require.NoError(t, err)
	assert.Equal(t, "A", fresh.Steps[0].Job)
	preferred, err := plan.Solve(ctx, read(t, twoLate("2")), nil)
	require.NoError(t, err)
	again, err := plan.Solve(ctx, p, &preferred)
	require.NoError(t, err)
	assert.Equal(t, "B", again.Steps[0].Job)
	assert.Equal(t, fresh.Objective.WeightedLateMinutes, again.Objective.WeightedLateMinutes)
}

func TestAReasonIsAValueAndItsShortWordsAreMadeFromIt(t *testing.T) {
	week := hours("hands", 9, 15, 1, 2, 3, 4, 5)
	a := solve(t, problem(week, job("A", "", step("cut", 60, `{"min":30}`), step("seal", 45, ""))+","+job("B", `"release":"2027-03-01T09:30:00Z",`, step("cut", 30, ""))))
	because := map[string]plan.Reason{}
	for _, s := range a.Steps {
		because[s.Job+"/"+s.Step] = s.Because
	}
	assert.Equal(t, plan.Reason{Kind: plan.OpeningHours, Resource: "hands"}, because["A/cut"])
	assert.Equal(t, plan.Reason{Kind: plan.FloorOfRest, After: "cut"}, because["A/seal"])
	assert.Equal(t, plan.Reason{Kind: plan.Busy, Resource: "hands", Job: "A"}, because["B/cut"], "who has the hands until then is named")
	text, err := json.Marshal(because["A/seal"])
	require.NoError(t, err)
	assert.Equal(t, `"rest after cut"`, string(text))
}
