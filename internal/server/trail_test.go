package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/trail"
	"tidykiln/internal/wire"
)

// Whatever somebody changes stands in the trail with who it was, and what is secret of it does not.
func TestEveryChangeOverTheWireIsInTheTrailAndNoSecretIs(t *testing.T) {
	t.Parallel()
	as, db := peopled(t)
	s := studio{readDocument(t), t, as[wire.RoleOwner]}
	newest := func() trail.TrailEntry {
		var page trail.Trail
		require.NoError(t, json.Unmarshal(ask(s.h, "GET", "/api/trail", "").Body.Bytes(), &page))
		return page.Entries[0]
	}
	secrets := map[string]bool{"reeds by the slow water": true}
	changed := 0
	for _, op := range s.operations() {
		if op.method == http.MethodGet {
			continue
		}
		address, body := s.request(op)
		before, err := db.Stands(t.Context())
		require.NoError(t, err)
		answer := ask(s.h, op.method, address, body)
		if op.Secret {
			var said any
			require.NoError(t, json.Unmarshal(append(answer.Body.Bytes(), ' '), &said), op.ID)
			secretsIn("", said, secrets)
		}
		after, err := db.Stands(t.Context())
		require.NoError(t, err)
		if answer.Code >= 300 || after.Number == before.Number {
			continue
		}
		// Some say that something is as it was already, which is no change.
		if e := newest(); e.Revision > before.Number && e.Request == answer.Header().Get("X-Request-Id") {
			changed++
			assert.Equal(t, "Maren", e.Member, op.ID)
			assert.NotEmpty(t, e.Doing, op.ID)
			assert.NotEmpty(t, e.Changes, op.ID)
			assert.False(t, e.Itself, op.ID)
		}
	}
	assert.Greater(t, changed, 60)
	assert.Greater(t, len(secrets), 10)
	table := ask(s.h, "GET", "/api/trail/table", "").Body.String()
	assert.Greater(t, strings.Count(table, "kept secret"), 5)
	for secret := range secrets {
		assert.NotContains(t, table, secret)
	}
}

// secretsIn gathers the values of an answer that open something.
func secretsIn(key string, v any, into map[string]bool) {
	switch v := v.(type) {
	case map[string]any:
		for k, one := range v {
			secretsIn(k, one, into)
		}
	case []any:
		for _, one := range v {
			secretsIn(key, one, into)
		}
	case string:
		if (key == "code" || key == "codes" || key == "path" || key == "password") && len(v) >= 8 {
			into[v] = true
		}
	}
}
