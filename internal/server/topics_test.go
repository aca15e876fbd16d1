package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/server"
)

func TestEveryRouteSaysWhoMayCallItAndWhatItsAnswerIsMadeFrom(t *testing.T) {
	for _, op := range readDocument(t).operations() {
		assert.NotEmpty(t, op.May, op.ID)
		if op.method == http.MethodGet && op.answersJSON() {
			assert.NotEmpty(t, op.Reads, op.ID)
		}
	}
}

// answersJSON tells an answer that pages read from a file.
func (o operation) answersJSON() bool { return o.Reads != nil }

// Whatever is written, each answer that is another one afterwards is made from
// something that the write has named; so a page that reads again what is named
// never shows anything old.
func TestAnAnswerThatChangesIsMadeFromWhatWasTouched(t *testing.T) {
	t.Parallel()
	db := demotest.New(t, now, "Etc/UTC")
	s := studio{readDocument(t), t, handler(t, db)}
	reads := map[string][]string{}
	answers := func() map[string]string {
		all := map[string]string{}
		for _, op := range s.operations() {
			if op.method == http.MethodGet && op.answersJSON() && op.ID != "get-revision" {
				address := s.address(op)
				reads[address] = op.Reads
				all[address] = ask(s.h, "GET", address, "").Body.String()
			}
		}
		return all
	}
	before := answers()
	changed := 0
	since := s.standing(0).Revision
	writes := slices.DeleteFunc(s.operations(), func(op operation) bool { return op.method == http.MethodGet })
	for i, op := range writes {
		address, body := s.request(op)
		if code := ask(s.h, op.method, address, body).Code; code >= 300 {
			continue // it is not possible in this state; other tests hold that against it
		}
		// What says of itself that it is about nothing but who may come in is looked at with
		// the next that is about something else: there is much of it, and every look takes a second.
		if i+1 < len(writes) && slices.Equal(s.standing(since).Touched, []string{"access"}) {
			continue
		}
		mark := s.standing(0).Revision
		after := answers()
		// With what the new plan has noted of promises that moved: a write of its own.
		touched := s.standing(since).Touched
		for at, was := range before {
			if is, still := after[at]; still && is != was {
				changed++
				assert.True(t, slices.ContainsFunc(reads[at], func(topic string) bool { return slices.Contains(touched, topic) }),
					"%s has touched %v, and %s, made from %v, is another", op.ID, touched, at, reads[at])
			}
		}
		before, since = after, mark
	}
	assert.Greater(t, changed, 100)
}

func (s studio) standing(since uint64) (r server.Revision) {
	require.NoError(s, json.Unmarshal(ask(s.h, "GET", fmt.Sprint("/api/revision?since=", since), "").Body.Bytes(), &r))
	return r
}
