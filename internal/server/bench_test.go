package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/server"
)

// BenchmarkAChangeIsTold times from the beginning of a change on one device
// until another, over the stream, has been told of it.
func BenchmarkAChangeIsTold(b *testing.B) {
	db := demotest.New(b, now, "Etc/UTC")
	var handler http.Handler
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { handler.ServeHTTP(w, r) }))
	defer s.Close()
	handler = server.Handler(server.Options{DB: db, Now: clock, House: housed(b, db), Pages: built, Address: at(b, s.Listener.Addr().String())})
	answer, err := http.Get(s.URL + "/api/changes")
	require.NoError(b, err)
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	told := func() {
		for lines.Scan() {
			if strings.HasPrefix(lines.Text(), "id:") {
				return
			}
		}
		b.Fatal("the stream ended")
	}
	told()
	for b.Loop() {
		r, err := http.NewRequest(http.MethodPost, s.URL+"/api/orders", strings.NewReader(anOrder))
		require.NoError(b, err)
		r.Header.Set("Content-Type", "application/json")
		changed, err := http.DefaultClient.Do(r)
		require.NoError(b, err)
		require.Equal(b, http.StatusCreated, changed.StatusCode)
		require.NoError(b, changed.Body.Close())
		told()
	}
}

// BenchmarkAnswers times each answer that can be read on the demo studio, right
// after a change, when no plan is kept, and again while it is.
func BenchmarkAnswers(b *testing.B) {
	db := demotest.New(b, now, "Etc/UTC")
	s := studio{readDocument(b), b, handler(b, db)}
	for _, op := range s.operations() {
		if op.method != http.MethodGet {
			continue
		}
		address := s.address(op)
		b.Run(op.ID+"/after-a-change", func(b *testing.B) {
			for range b.N {
				b.StopTimer()
				require.NoError(b, db.Write(context.Background(), database.Everything, func(*gorm.DB) error { return nil }))
				b.StartTimer()
				ask(s.h, "GET", address, "")
			}
		})
		b.Run(op.ID+"/again", func(b *testing.B) {
			for b.Loop() {
				ask(s.h, "GET", address, "")
			}
		})
	}
}

// BenchmarkWhoDidWhat times a small write and a small read without and with the audit trail,
// and by whoever is at the machine and by an owner who has signed in.
func BenchmarkWhoDidWhat(b *testing.B) {
	for _, trail := range []struct {
		name string
		made func(testing.TB, time.Time, string) *database.DB
	}{{"untrailed", demotest.New}, {"trailed", demotest.Trailed}} {
		h := handler(b, trail.made(b, now, "Etc/UTC"))
		var today struct {
			InHand []struct{ Lots []struct{ RunID uint64 } }
		}
		require.NoError(b, json.Unmarshal(ask(h, "GET", "/api/today", "").Body.Bytes(), &today))
		tick := fmt.Sprintf("/api/runs/%d/ticked", today.InHand[0].Lots[0].RunID)
		for _, who := range []string{"at-the-machine", "signed-in"} {
			if who == "signed-in" {
				require.Equal(b, http.StatusOK, ask(h, "POST", "/api/owner", `{"name":"Maren","password":"reeds by the slow water"}`).Code)
			}
			b.Run(trail.name+"/"+who+"/write", func(b *testing.B) {
				for i := 0; b.Loop(); i++ {
					require.Equal(b, http.StatusNoContent, ask(h, "POST", tick, []string{`{"ticked":[]}`, `{"ticked":[0]}`}[i%2]).Code)
				}
			})
			b.Run(trail.name+"/"+who+"/read", func(b *testing.B) {
				for b.Loop() {
					require.Equal(b, http.StatusOK, ask(h, "GET", "/api/customers", "").Code)
				}
			})
		}
	}
}
