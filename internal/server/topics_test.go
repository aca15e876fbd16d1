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
	// answers gives all of them, and the revision from before they were worked out: a new plan
	// notes which promises it has moved, which is a write of its own.
	answers := func() (all map[string]string, mark uint64) {
		var addresses []string
		for _, op := range s.operations() {
			if op.method == http.MethodGet && op.answersJSON() && op.ID != "get-revision" {
				address := s.address(op) // some are of things made for it
				reads[address] = op.Reads
				addresses = append(addresses, address)
			}
		}
		all, mark = map[string]string{}, s.standing(0).Revision
		for _, address := range addresses {
			all[address] = ask(s.h, "GET", address, "").Body.String()
		}
		return all, mark
	}
	writes := slices.DeleteFunc(s.operations(), func(op operation) bool { return op.method == http.MethodGet })
	touching := touchedBy(t, writes)
	slices.SortStableFunc(writes, func(a, b operation) int { return slices.Compare(touching[a.ID], touching[b.ID]) })
	before, since := answers()
	changed, looks, done := 0, 0, 0
	for i, op := range writes {
		address, body := s.request(op)
		if code := ask(s.h, op.method, address, body).Code; code >= 300 {
			continue // it is not possible in this state; other tests hold that against it
		}
		done++
		// Every look takes a second: writes about the same are looked at together.
		if i+1 < len(writes) && slices.Equal(s.standing(since).Touched, touching[writes[i+1].ID]) {
			continue
		}
		after, mark := answers()
		looks++
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
	t.Logf("%d of %d writes, %d looks, %d other answers", done, len(writes), looks, changed)
	assert.Greater(t, done, 90)
	assert.Greater(t, changed, 100)
}

// touchedBy finds what each of some writes touches, in a studio of its own, where it is possible.
func touchedBy(t *testing.T, writes []operation) map[string][]string {
	s := studio{readDocument(t), t, handler(t, demotest.New(t, now, "Etc/UTC"))}
	touching := map[string][]string{}
	for _, op := range writes {
		mark := s.standing(0).Revision
		address, body := s.request(op)
		if ask(s.h, op.method, address, body).Code < 300 {
			touching[op.ID] = s.standing(mark).Touched
		}
	}
	return touching
}

func (s studio) standing(since uint64) (r server.Revision) {
	require.NoError(s, json.Unmarshal(ask(s.h, "GET", fmt.Sprint("/api/revision?since=", since), "").Body.Bytes(), &r))
	return r
}
