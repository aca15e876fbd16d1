package sheet_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/sheet"
)

// Whatever problem is posed, the layout is refused or breaks no rule.
func FuzzSolve(f *testing.F) {
	f.Add([]byte(`{"format":"tidykiln/sheet-problem@1","sheet":{"widthMm":215.9,"heightMm":279.4,"marginMm":6,"gapMm":3},
 "items":[{"id":"crest","shape":"rect","widthMm":95,"heightMm":60,"count":14,"mayTurn":true},{"id":"round","shape":"circle","diameterMm":76,"count":9}]}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		var p sheet.Problem
		if json.Unmarshal(text, &p) != nil || len(text) > 20_000 {
			return
		}
		prints := 0
		for _, it := range p.Items {
			prints += max(it.Count, 0)
		}
		if prints > 2000 && prints <= sheet.MostPrints {
			return // The checker holds every print against every other.
		}
		p.BudgetMs = new(50)
		a, err := sheet.Solve(context.Background(), p)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		assert.Empty(t, faultsOf(p, a), "%s", text)
	})
}
