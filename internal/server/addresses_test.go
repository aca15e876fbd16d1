package server_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/wire"
)

// What a secret address opens is open to whoever knows it, and to nobody once there is another.
func TestASecretAddressOpensOneThingUntilItIsRenewed(t *testing.T) {
	t.Parallel()
	as, _ := peopled(t)
	s := studio{readDocument(t), t, as[wire.RoleOwner]}
	renewed := func(address string) string {
		answer := ask(s.h, "POST", address, "", keyed("renewed-"+strings.ReplaceAll(address, "/", "-")+fmt.Sprint(memberCount.Add(1))))
		require.Equal(t, http.StatusOK, answer.Code, answer.Body)
		path, _ := s.read(address, "path").(string)
		require.NotEmpty(t, path)
		return path
	}
	nobody := func(method, path, body string) int { return ask(as[wire.Nobody], method, path, body).Code }

	assert.Empty(t, s.read("/api/plan/calendar-address", "path"))
	first := renewed("/api/plan/calendar-address")
	feed := ask(as[wire.Nobody], "GET", first, "")
	assert.Equal(t, http.StatusOK, feed.Code)
	assert.Contains(t, feed.Body.String(), "BEGIN:VCALENDAR")
	second := renewed("/api/plan/calendar-address")
	assert.Equal(t, http.StatusNotFound, nobody("GET", first, ""))
	assert.Equal(t, http.StatusOK, nobody("GET", second, ""))
	token := strings.TrimPrefix(second, "/api/calendars/")
	assert.Equal(t, http.StatusNotFound, nobody("GET", "/api/calendars/"+strings.ToLower(token), ""), "letters are told apart by case")
	require.Equal(t, http.StatusNoContent, ask(s.h, "POST", "/api/plan/calendar-address/close", "").Code)
	assert.Equal(t, http.StatusNotFound, nobody("GET", second, ""))

	order := s.openRow("/api/orders")
	page := renewed(fmt.Sprintf("/api/orders/%v/proof-address", order))
	at := "/api/proofs/" + strings.TrimPrefix(page, "/proof/")
	proof := ask(as[wire.Nobody], "GET", at, "")
	require.Equal(t, http.StatusOK, proof.Code, proof.Body)
	for _, private := range []string{`"rightsNote"`, `"fileName"`, `"notes"`} {
		assert.NotContains(t, proof.Body.String(), private)
	}
	shown := studio{s.document, t, as[wire.Nobody]}
	for i := range 9 {
		if id := shown.read(at, "pieces", i, "artwork", "id"); id != nil {
			picture := ask(as[wire.Nobody], "GET", fmt.Sprintf("%s/looks/%v/pictures/%v", at, shown.read(at, "pieces", i, "look"), id), "")
			assert.Equal(t, http.StatusOK, picture.Code)
			assert.Contains(t, picture.Header().Get("Content-Type"), "image/")
			assert.Equal(t, http.StatusUnauthorized, nobody("GET", "/api/artworks", ""), "the picture itself, and no other")
			assert.Equal(t, http.StatusNotFound, nobody("GET", fmt.Sprintf("%s/looks/77/pictures/%v", at, id), ""))
		}
	}
	want := shown.read(at, "pieces", 0, "wantId")
	say := func(state string) int {
		return nobody("POST", at, fmt.Sprintf(`{"answers":[{"wantId":%v,"state":%q,"note":""}]}`, want, state))
	}
	assert.Equal(t, http.StatusUnprocessableEntity, say("shown"), "that is the studio's to say")
	assert.Equal(t, http.StatusNoContent, say("approved"))
	assert.Equal(t, "approved", s.read(fmt.Sprintf("/api/orders/%v/proof", order), "pieces", 0, "state"))
	assert.Equal(t, "Say whether pieces are right", s.read("/api/trail", "entries", 0, "doing"))
	assert.Empty(t, s.read("/api/trail", "entries", 0, "person"), "whoever has not signed in is nobody, whatever they say")
	other := s.read(fmt.Sprintf("/api/orders/%v/proof", s.read("/api/orders", 5, "id")), "pieces", 0, "wantId")
	assert.Equal(t, http.StatusConflict, nobody("POST", at, fmt.Sprintf(`{"answers":[{"wantId":%v,"state":"approved","note":""}]}`, other)), "of another order it says nothing")
	renewed(fmt.Sprintf("/api/orders/%v/proof-address", order))
	assert.Equal(t, http.StatusNotFound, nobody("GET", at, ""))
	assert.Equal(t, http.StatusNotFound, say("approved"))
}
