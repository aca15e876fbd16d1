package trail_test

import (
	"context"
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/trail"
	"tidykiln/internal/wire"
)

func TestTry(t *testing.T) {
	h := housetest.New(t)
	tr := trail.New(h.DB)
	_ = context.Background
	_ = csv.NewReader
	_ = strings.TrimSpace
	ctx := wire.Acting(t.Context(), wire.Actor{Role: wire.RoleOwner})
	got, err := tr.Read(ctx, trail.Wanted{})
	require.NoError(t, err)
	t.Log(len(got.Entries))
	for _, e := range got.Entries {
		t.Log(e.Revision, e.At, e.Doing, e.Device, e.Itself, e.More)
		for _, c := range e.Changes {
			t.Logf("   %+v", c)
		}
	}
	assert.NotNil(t, database.Trail)
}
