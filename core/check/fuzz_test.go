package check_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/check"
)

// Whatever is asked, the checks refuse it or answer with findings that say why and what to do.
func FuzzCompute(f *testing.F) {
	f.Add([]byte(example))
	f.Fuzz(func(t *testing.T, text []byte) {
		var p check.Problem
		if json.Unmarshal(text, &p) != nil {
			return
		}
		a, err := check.Compute(p)
		if err != nil {
			return
		}
		for _, found := range a.Findings {
			assert.NotEmpty(t, found.Why, "%s", text)
			assert.NotEmpty(t, found.Fix, "%s", text)
		}
	})
}
