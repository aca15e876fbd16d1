package plan_test

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"testing"
	"time"

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

// midSize is a studio with more work than it can do in time.
func midSize(seed uint64) plan.Problem {
	r := rand.New(rand.NewPCG(seed, 50))
	p := busyStudio(20+r.IntN(25), 5)
	for i := range p.Jobs {
		p.Jobs[i].Due = new(p.From.Add(time.Duration(24+r.IntN(24*8)) * time.Hour))
		p.Jobs[i].Weight = new(float64(1 + r.IntN(5)))
	}
	p.Resources[0].Capacity = 25 + r.IntN(40)
	return p
}

func TestNoPlanIsWorseThanAPlainRules(t *testing.T) {
	better := 0
	for seed := range uint64(50) {
		p := midSize(seed)
		p.Iterations = new(40)
		a, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		rules, err := plan.ByPlainRules(context.Background(), p)
		require.NoError(t, err)
		require.Greater(t, len(rules), 5)
		best := rules[0]
		for i, rule := range rules {
			require.Empty(t, brokenRules(p, rule))
			assert.LessOrEqual(t, worse(a, rule), 0.0, "case %d, rule %d", seed, i)
			if worse(rule, best) < 0 {
				best = rule
			}
		}
		if worse(a, best) < 0 {
			better++
		}
	}
	assert.Greater(t, better, 45, "and hardly ever no better than the best of them")
}
