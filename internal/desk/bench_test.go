package desk_test

import (
	"testing"

	"tidykiln/internal/house/housetest"
)

// bench is a small studio with a clock.
type bench struct{ *housetest.Small }

func newBench(t *testing.T) *bench { return &bench{housetest.NewSmall(t)} }
