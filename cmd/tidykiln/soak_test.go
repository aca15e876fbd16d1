//go:build soak

package main

import (
	"bytes"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database/dbtest"
)

// kills is how often the soak kills something: TIDYKILN_SOAK, or 200.
func kills(t *testing.T) int {
	text := os.Getenv("TIDYKILN_SOAK")
	if text == "" {
		return 200
	}
	n, err := strconv.Atoi(text)
	require.NoError(t, err)
	return n
}

// change is a write as it is sent: the same key and body however often.
type change struct {
	method, path, body, key string
}

// soak works at a studio that is killed again and again, and remembers what was acknowledged.
type soak struct {
	*studio
	random *rand.Rand
	sent   int
	// latest is the order that was taken last.
	latest uint64
	// tally counts acknowledged writes by what they did.
	tally map[string]int
	// checks are queries, each of which must find one row.
	checks []string
}

// TestEveryAcknowledgedWriteOutlivesAKill does a day's work over and over while
// server, database or both are killed at random moments. A write that was not
// acknowledged is sent again under its key until it is.
func TestEveryAcknowledgedWriteOutlivesAKill(t *testing.T) {
	seed := uint64(time.Now().UnixNano())
	t.Logf("seed %d", seed)
	s := &soak{studio: newStudio(t), random: rand.New(rand.NewPCG(seed, 1)), tally: map[string]int{}, latest: 50}
	s.start("demo")
	began, resent, killed := time.Now(), 0, map[string]int{}
	for i := range kills(t) {
		what := []string{"server", "database", "both"}[s.random.IntN(3)]
		killed[what]++
		// Some kills meet a studio that is just coming up, others one that is well at work.
		within := time.Duration(s.random.IntN([]int{400, 2000, 2000}[i%3])) * time.Millisecond
		done := make(chan struct{})
		go func() {
			defer close(done)
			<-time.After(within)
			s.kill(what)
		}()
		unanswered := s.workUntil(done)
		<-done
		if what != "database" {
			_ = s.cmd.Wait() // killed, so it does not end well
			s.start("demo")
		}
		s.awaitReady()
		if unanswered != nil {
			resent++
			s.acknowledged(*unanswered, s.insist(*unanswered))
		}
		if recent := max(0, len(s.checks)-recently); i%wholeEvery == 0 {
			s.verify(s.checks)
		} else {
			s.verify(s.checks[recent:])
		}
	}
	s.verify(s.checks)
	s.stop()
	t.Logf("%v kills %v, %d writes acknowledged %v, %d sent again, 0 lost, %s", kills(t), killed, s.sent, s.tally, resent, time.Since(began).Round(time.Second))
}

// After every kill the latest acknowledged writes are asked for, after some, and at the end, all.
const (
	recently   = 60
	wholeEvery = 50
)

func (s *soak) kill(what string) {
	if what != "database" {
		assert.NoError(s, s.cmd.Process.Kill())
	}
	if what != "server" {
		assert.NoError(s, syscall.Kill(s.databasePID(), syscall.SIGKILL))
	}
}

// workUntil makes changes one after the other until the kill, and gives back the one
// that got no good answer, if there was one: the studio may be back before the next is sent.
func (s *soak) workUntil(killed <-chan struct{}) *change {
	for {
		c := s.next()
		answer, status := s.send(c)
		if status >= 500 || status == 0 {
			return &c
		}
		require.Less(s, status, 300, "%s %s: %s", c.path, c.body, answer)
		s.acknowledged(c, answer)
		select {
		case <-killed:
			return nil
		default:
		}
	}
}

// accepted finishes a step though the stores ran out long ago, and the day has been one of many hours.
const accepted = `{"acceptShort":true,"acceptLong":true}`

// ready is a lot as Today shows it, and as it is taken up with others.
type ready struct {
	LotID uint64 `json:"lotId"`
	Step  int    `json:"step"`
	Joins bool   `json:"-"`
}

// UnmarshalJSON reads what is not sent back too.
func (r *ready) UnmarshalJSON(text []byte) error {
	var shown struct {
		LotID uint64
		Step  int
		Joins bool
	}
	err := json.Unmarshal(text, &shown)
	*r = ready(shown)
	return err
}

func inJSON(v any) string {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // the values of this test can be written
	}
	return string(text)
}

// next decides what to do from what the studio shows; a studio that is away
// shows nothing, and then an order is taken.
func (s *soak) next() change {
	s.sent++
	key := fmt.Sprintf("soak-%08d", s.sent)
	var today struct {
		InHand []struct {
			SittingID uint64
			Lots      []struct{ RunID uint64 }
		}
		Ready []struct{ Lots []ready }
	}
	var demand []struct {
		ProductID uint64
		Lots      []int
		Extras    int
		Wants     []struct{ WantID uint64 }
	}
	n := s.random.IntN(12)
	if n <= 8 {
		s.try("/api/today", &today)
	}
	switch {
	case n < 5 && len(today.InHand) > 0:
		if in := today.InHand[0]; in.SittingID > 0 {
			return change{"POST", fmt.Sprintf("/api/sittings/%d/done", in.SittingID), accepted, key}
		}
		return change{"POST", fmt.Sprintf("/api/runs/%d/done", today.InHand[0].Lots[0].RunID), accepted, key}
	case n < 8 && len(today.Ready) > 0:
		lots := today.Ready[s.random.IntN(len(today.Ready))].Lots
		if joining := slices.DeleteFunc(slices.Clone(lots), func(r ready) bool { return !r.Joins }); len(joining) > 1 {
			return change{"POST", "/api/sittings", inJSON(map[string]any{"personId": 1, "lots": joining, "acceptRisk": true}), key}
		}
		return change{"POST", fmt.Sprintf("/api/lots/%d/runs", lots[0].LotID), fmt.Sprintf(`{"personId":1,"step":%d,"acceptRisk":true}`, lots[0].Step), key}
	case n == 8 && len(today.Ready) < enoughToDo:
		s.try("/api/demand", &demand)
		for _, d := range demand {
			if len(d.Wants) == 0 || len(d.Lots) == 0 {
				continue
			}
			var ids []string
			for _, w := range d.Wants {
				ids = append(ids, strconv.FormatUint(w.WantID, 10))
			}
			return change{"POST", "/api/batches", fmt.Sprintf(`{"productId":%d,"wantIds":[%s],"extras":%d,"lots":%s}`, d.ProductID, strings.Join(ids, ","), d.Extras, inJSON(d.Lots)), key}
		}
	}
	return s.order(key)
}

// A studio has so many sittings to choose from, and so many open orders, and no more.
const (
	enoughToDo = 12
	fullyTaken = 40
	manyAgreed = 450
)

// order takes one, whatever that moves, or sees to one of those there are.
func (s *soak) order(key string) change {
	var open []struct {
		ID        uint64
		Customer  string
		State     string
		Version   int
		Readiness struct{ State string }
	}
	s.try("/api/orders", &open)
	theirs := open[:0]
	for _, o := range open {
		if o.State != "open" {
			continue
		}
		if strings.HasPrefix(o.Customer, "Soak") {
			theirs = append(theirs, o)
		}
	}
	for _, o := range theirs {
		if o.Readiness.State == "ready" {
			return change{"POST", fmt.Sprintf("/api/orders/%d/hand-over", o.ID), inJSON(map[string]int{"version": o.Version}), key}
		}
	}
	if len(theirs) >= fullyTaken {
		o := theirs[s.random.IntN(len(theirs))]
		return change{"POST", fmt.Sprintf("/api/orders/%d/cancel", o.ID), inJSON(map[string]int{"version": o.Version}), key}
	}
	agreed := []map[string]any{} // to whatever moves, also of orders that a studio that is away did not show
	for id := max(1, int(s.latest)-manyAgreed); id <= int(s.latest)+1; id++ {
		agreed = append(agreed, map[string]any{"orderId": id, "toLate": true})
	}
	due := time.Now().AddDate(0, 0, 60+s.random.IntN(200)).Format(time.DateOnly)
	lines := []map[string]int{{"productId": 3, "quantity": 1 + s.random.IntN(4)}}
	return change{"POST", "/api/orders", inJSON(map[string]any{"customer": fmt.Sprintf("Soak %08d", s.sent), "dueOn": due, "lines": lines, "agreed": agreed}), key}
}

// try reads what there is; a studio that is away leaves into as it was.
func (s *soak) try(path string, into any) {
	r, err := http.Get("http://" + s.address + path)
	if err != nil {
		return
	}
	defer r.Body.Close()
	if r.StatusCode == http.StatusOK {
		_ = json.NewDecoder(r.Body).Decode(into) // an answer cut short counts as none
	}
}

// send gives the answer and its status, 0 when there is none or it is not whole.
func (s *soak) send(c change) (answer []byte, status int) {
	r, err := http.NewRequest(c.method, "http://"+s.address+c.path, bytes.NewReader([]byte(c.body)))
	require.NoError(s, err)
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("Idempotency-Key", c.key)
	got, err := http.DefaultClient.Do(r)
	if err != nil {
		return nil, 0
	}
	defer got.Body.Close()
	if answer, err = io.ReadAll(got.Body); err != nil {
		return nil, 0
	}
	return answer, got.StatusCode
}

// insist sends a change until it is answered.
func (s *soak) insist(c change) []byte {
	for range 600 {
		answer, status := s.send(c)
		if status > 0 && status < 500 {
			require.Less(s, status, 300, "%s %s: %s", c.path, c.body, answer)
			return answer
		}
		<-time.After(50 * time.Millisecond)
	}
	s.Fatalf("%s was never answered", c.path)
	return nil
}

func (s *soak) awaitReady() {
	for range 1200 {
		if r, err := http.Get("http://" + s.address + "/readyz"); err == nil {
			_ = r.Body.Close()
			if r.StatusCode == http.StatusOK {
				return
			}
		}
		<-time.After(50 * time.Millisecond)
	}
	s.Fatal("the studio did not come back")
}

// acknowledged remembers what must be there from now on.
func (s *soak) acknowledged(c change, answer []byte) {
	var made struct{ ID uint64 }
	if len(answer) > 0 {
		require.NoError(s, json.Unmarshal(answer, &made), string(answer))
		require.NotZero(s, made.ID, "%s %s: %s", c.path, c.key, answer)
	}
	var id uint64
	done := func(runs string) {
		s.tally["done"]++
		s.checks = append(s.checks, fmt.Sprintf("SELECT COUNT(*) > 0 AND COUNT(*) = COUNT(ended_at) AND SUM(pieces) = SUM((SELECT COUNT(*) FROM outcomes WHERE run_id = r.id)) FROM runs r WHERE %s = %d", runs, id))
	}
	switch {
	case c.path == "/api/orders":
		s.tally["orders"]++
		s.latest = max(s.latest, made.ID)
		s.checks = append(s.checks, fmt.Sprintf("SELECT COUNT(*) FROM orders o JOIN customers c ON c.id = o.customer_id WHERE o.id = %d AND (SELECT COUNT(*) FROM orders p WHERE p.customer_id = o.customer_id) = 1", made.ID))
	case strings.HasSuffix(c.path, "/hand-over"), strings.HasSuffix(c.path, "/cancel"):
		var act string
		_, err := fmt.Sscanf(c.path, "/api/orders/%d/%s", &id, &act)
		require.NoError(s, err)
		state := map[string]string{"hand-over": "handed_over", "cancel": "cancelled"}[act]
		s.tally["orders "+strings.ReplaceAll(state, "_", " ")]++
		s.checks = append(s.checks, fmt.Sprintf("SELECT COUNT(*) FROM orders WHERE id = %d AND state = '%s' AND closed_at IS NOT NULL", id, state))
	case c.path == "/api/batches":
		s.tally["batches"]++
		s.checks = append(s.checks, fmt.Sprintf("SELECT COUNT(*) FROM batches WHERE id = %d", made.ID))
	case strings.HasSuffix(c.path, "/runs"):
		s.tally["taken up"]++
		s.checks = append(s.checks, fmt.Sprintf("SELECT COUNT(*) FROM runs WHERE id = %d", made.ID))
	case c.path == "/api/sittings":
		s.tally["taken up together"]++
		s.checks = append(s.checks, fmt.Sprintf("SELECT COUNT(*) = %d FROM runs WHERE sitting_id = %d", strings.Count(c.body, "lotId"), made.ID))
	case strings.HasPrefix(c.path, "/api/sittings/"):
		_, err := fmt.Sscanf(c.path, "/api/sittings/%d/done", &id)
		require.NoError(s, err)
		done("sitting_id")
	default:
		_, err := fmt.Sscanf(c.path, "/api/runs/%d/done", &id)
		require.NoError(s, err)
		done("id")
	}
}

// database opens the studio's own database, as nobody but a test does.
func (s *studio) database() *sql.DB {
	s.Helper()
	secret, err := os.ReadFile(filepath.Join(s.folder, "mariadb", "secret"))
	require.NoError(s, err)
	text, err := os.ReadFile(filepath.Join(s.folder, "mariadb", "server.json"))
	require.NoError(s, err)
	var state struct{ Port int }
	require.NoError(s, json.Unmarshal(text, &state))
	config := mysql.NewConfig()
	config.User, config.Passwd, config.Net, config.DBName = "tidykiln", strings.TrimSpace(string(secret)), "tcp", "tidykiln_demo"
	config.Addr = fmt.Sprintf("127.0.0.1:%d", state.Port)
	db, err := sql.Open("mysql", config.FormatDSN())
	require.NoError(s, err)
	return db
}

// verify asks the database itself for acknowledged writes and for what must never be.
func (s *soak) verify(checks []string) {
	db := s.database()
	defer db.Close()
	count := func(query string) (n int) {
		require.NoError(s, db.QueryRow(query).Scan(&n), query)
		return n
	}
	for _, query := range checks {
		require.Equal(s, 1, count(query), query)
	}
	for never, query := range dbtest.Never {
		assert.Zero(s, count(query), never)
	}
}
