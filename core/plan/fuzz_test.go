package plan_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/plan"
)

// Whatever problem is posed, the plan is refused or breaks no rule.
func FuzzMake(f *testing.F) {
	f.Add([]byte(example))
	f.Add([]byte(problem(`{"id":"h","capacity":1}`, `{"id":"a","steps":[{"id":"s","minutes":5,"uses":{"h":1}}]}`)))
	f.Fuzz(func(t *testing.T, text []byte) {
		var p plan.Problem
		if json.Unmarshal(text, &p) != nil || len(text) > 20_000 {
			return
		}
		p.BudgetMs = new(50)
		a, err := plan.Solve(context.Background(), p, nil)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		assert.Empty(t, brokenRules(p, a), "%s", text)
	})
}
