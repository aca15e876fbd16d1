package server_test

import (
	"bufio"
	"context"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

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
