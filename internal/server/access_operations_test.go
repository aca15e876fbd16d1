package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"sync/atomic"

	"github.com/stretchr/testify/require"
)

// soundOfAccess is a body that an operation about who may come in takes; nil for the others.
func soundOfAccess(o operation) any {
	switch o.ID {
	case "set-up-owner":
		return map[string]any{"name": "Maren", "password": "reeds by the slow water", "personId": 1}
	case "sign-in":
		return map[string]any{"name": "Maren", "password": "reeds by the slow water"}
	case "add-member":
		return map[string]any{"name": fmt.Sprint("words ", memberCount.Add(1)), "role": "helper", "password": "reeds by the slow water"}
	case "change-member":
		return map[string]any{"name": fmt.Sprint("words ", memberCount.Add(1)), "role": "helper", "version": 1}
	case "add-pairing":
		return map[string]any{"role": "helper", "device": "words"}
	case "hold-device":
		return map[string]any{"memberId": 0}
	case "change-password":
		return map[string]any{"old": "reeds by the slow water", "new": "reeds by the slow water"}
	case "renew-recovery-codes":
		return map[string]any{"password": "reeds by the slow water"}
	case "set-pin":
		return map[string]any{"pin": "4711"}
	case "recover":
		return map[string]any{"name": "Maren", "code": "aaaa-bbbb-cccc-dddd", "password": "reeds by the slow water"}
	}
	return nil
}

// thingOfAccess is who or what may come in that an operation speaks of; nil for the others.
func (s studio) thingOfAccess(o operation) any {
	switch {
	case strings.HasPrefix(o.path, "/api/sessions/"):
		return s.otherSession()
	case strings.HasPrefix(o.path, "/api/pairings/"):
		return s.made("/api/pairings", `{"role":"helper","device":"phone"}`)
	case strings.HasPrefix(o.path, "/api/members/"):
		return s.made("/api/members", fmt.Sprintf(`{"name":"member %d","role":"helper"}`, memberCount.Add(1)))
	}
	return nil
}

// token opens the calendar or a proof.
func (s studio) token(o operation) string {
	address := "/api/plan/calendar-address"
	if strings.HasPrefix(o.path, "/api/proofs/") {
		address = s.shownOrder() + "/proof-address"
	}
	if strings.HasPrefix(o.path, "/api/shown-quotes/") {
		address = fmt.Sprintf("/api/quotes/%v/address", s.anOpenQuote())
	}
	ask(s.h, "POST", address, "")
	path, _ := s.read(address, "path").(string)
	return path[strings.LastIndex(path, "/")+1:]
}

// shownOrder is an open order whose pieces are lettered and have a picture.
func (s studio) shownOrder() string { return "/api/orders/4" }

func (s studio) pictureOfProof(part string) any {
	piece := s.read(s.shownOrder()+"/proof", "pieces", 0)
	if part == "{look}" {
		return within(piece, "look")
	}
	return within(piece, "artwork", "id")
}

// otherSession is a session that is not the one that asks; a number of none where there is no other.
func (s studio) otherSession() any {
	sessions := s.read("/api/sessions")
	for i := range 9 {
		if within(sessions, i, "here") == false {
			return within(sessions, i, "id")
		}
	}
	return 999_999
}

// memberCount numbers those that are made, since no two have one name.
var memberCount atomic.Int64

// made is the number of what a request makes; nil where it makes nothing.
func (s studio) made(address, body string) any {
	var made any
	require.NoError(s, json.Unmarshal(ask(s.h, "POST", address, body).Body.Bytes(), &made))
	return within(made, "id")
}
