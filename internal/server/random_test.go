package server_test

import (
	"math/rand/v2"
	"net/http"
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/wire"
)

// Several things wrong at once, at random, by anybody, on every route; make fuzz asks
// longer. What is not for a role is let through to it never.
func TestRandomlySpoiltRequestsOfEveryRoleAreAnsweredOrRefused(t *testing.T) {
	t.Parallel()
	seed := uint64(time.Now().UnixNano())
	t.Logf("seed %d", seed)
	random := rand.New(rand.NewPCG(seed, 2))
	as, db := peopled(t)
	w := &witness{T: t, studio: studio{readDocument(t), t, as[wire.RoleOwner]}, db: db}
	operations := w.operations()
	refused, begun := 0, time.Now()
	for i := range requests(t) {
		if i%10_000 == 9_999 {
			t.Logf("%d requests so far", i+1)
		}
		op, role := operations[random.IntN(len(operations))], askers[random.IntN(len(askers))]
		if op.May == string(wire.Anyone) { // or it would be somebody else from then on
			role = wire.Nobody
		}
		if role == wire.Nobody { // and one that signed in has become somebody
			as[role] = &browser{Handler: as[role].(*browser).Handler, kept: map[string]*http.Cookie{}}
		}
		address, body := w.randomly(random, op)
		asked := *w
		asked.h = as[role]
		answer := asked.asks(op.method, address, body)
		if !wire.May(op.May).Allows(role, op.method != http.MethodGet && op.Reads == nil) {
			refused++
			assert.Contains(t, []int{http.StatusUnauthorized, http.StatusForbidden}, answer.Code, "%s as %s", op.ID, called(role))
		}
	}
	t.Logf("%d requests in %s, %d of them by whom they are not for", requests(t), time.Since(begun).Round(time.Second), refused)
	w.pagesStand("all of it")
}

// randomly is a request for an operation, with some of what it brings spoilt, or its address.
func (w *witness) randomly(random *rand.Rand, op operation) (address, body string) {
	address = w.address(op)
	if random.IntN(8) == 0 {
		address = pathParameter.ReplaceAllString(op.path, odd[random.IntN(len(odd))])
	}
	for _, p := range op.Parameters {
		if p.In == "query" && random.IntN(2) == 0 {
			address += map[bool]string{true: "&", false: "?"}[strings.Contains(address, "?")] + p.Name + "=" + oddAsked[random.IntN(len(oddAsked))]
		}
	}
	if _, takes := op.body(w.document); !takes {
		return address, ""
	}
	sound := w.sound(op)
	for range 1 + random.IntN(3) {
		if choices := spoil(sound); len(choices) > 0 {
			sound = choices[random.IntN(len(choices))].body
		}
	}
	return address, inJSON(sound)
}

// requests is how many random ones are made: TIDYKILN_FUZZ, or 300.
func requests(t *testing.T) int {
	text := os.Getenv("TIDYKILN_FUZZ")
	if text == "" {
		return 300
	}
	n, err := strconv.Atoi(text)
	require.NoError(t, err)
	return n
}
