package batches_test

import (
	"testing"

	"tidykiln/internal/house/housetest"
)

// bench is a studio of one person with a plain and a lettered product, and a clock.
type bench struct{ *housetest.Bench }

func newBench(t *testing.T) *bench { return &bench{housetest.NewBench(t)} }
