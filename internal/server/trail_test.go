package server_test

import (
	"encoding/json"
	"fmt"
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

// Whoever holds a shared device is believed, but for who has a PIN to say it by.
func TestWhoIsSaidToHoldASharedDeviceIsInTheTrailUnlessTheyHaveAPIN(t *testing.T) {
	t.Parallel()
	as, _ := peopled(t)
	s := studio{readDocument(t), t, as[wire.RoleOwner]}
	sent := func(h http.Handler, path, body string) (answer map[string]any) {
		got := ask(h, "POST", path, body)
		require.Less(t, got.Code, 300, got.Body)
		_ = json.Unmarshal(got.Body.Bytes(), &answer) // some answer nothing
		return answer
	}
	me := fmt.Sprintf("/api/members/%v", s.read("/api/me", "memberId"))
	sent(s.h, me, `{"name":"Maren","role":"owner","personId":1,"version":1}`)
	code := sent(s.h, "/api/pairings", `{"role":"helper","device":"phone"}`)["code"]
	phone := as[wire.Nobody]
	sent(phone, "/api/sign-in/pairing", fmt.Sprintf(`{"code":"%v"}`, code))
	whoTookOut := func() []string {
		sent(phone, "/api/materials/1/take-out", `{"quantity":"1","cause":"loss","note":"dropped"}`)
		var page trail.Trail
		require.NoError(t, json.Unmarshal(ask(s.h, "GET", "/api/trail", "").Body.Bytes(), &page))
		return []string{page.Entries[0].Doing, page.Entries[0].Person, page.Entries[0].Member, page.Entries[0].Device}
	}
	doing := whoTookOut()[0]
	assert.Equal(t, []string{doing, "Isolde", "", "phone"}, whoTookOut())
	sent(s.h, "/api/pin", `{"pin":"4711"}`)
	assert.Equal(t, []string{doing, "", "", "phone"}, whoTookOut())
}
