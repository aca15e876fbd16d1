package fulfilment_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"tidykiln/internal/batches"
	"tidykiln/internal/house/housetest"
)

// bench is a studio of one person with a plain and a lettered product, and a clock.
type bench struct{ *housetest.Bench }

func newBench(t *testing.T) *bench { return &bench{housetest.NewBench(t)} }

// account is what a batch came to.
func (b *bench) account(id uint64) batches.Account {
	b.Helper()
	acc, err := b.Batches.Account(b.Ctx, id)
	require.NoError(b, err)
	return acc
}
