package cost_test

import (
	"encoding/json"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"

	"tidykiln/core/cost"
)

// Whatever is asked, the costs are refused or add up, and none is under zero.
func FuzzCompute(f *testing.F) {
	f.Add([]byte(example))
	f.Fuzz(func(t *testing.T, text []byte) {
		var p cost.Problem
		if json.Unmarshal(text, &p) != nil || len(text) > 20_000 {
			return
		}
		a, err := cost.Compute(p)
		if err != nil {
			return
		}
		total, err := decimal.NewFromString(a.PerPiece.Total)
		assert.NoError(t, err)
		assert.False(t, total.IsNegative(), "%s", text)
	})
}
