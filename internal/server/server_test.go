package server_test

import (
	"context"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/server"
	"tidykiln/internal/standin"
)

var now = time.Date(2027, 5, 4, 10, 26, 0, 0, time.UTC)

func clock() time.Time { return now }

var built = fstest.MapFS{
	"index.html":       {Data: []byte("<!doctype html><title>Tidy Kiln</title>")},
	"assets/app-1a.js": {Data: []byte("export {}")},
}

func handler(t testing.TB, db *database.DB) http.Handler {
	return handlerAt(t, db, "127.0.0.1:8420")
}

// browser keeps the cookies that it is given, as a browser does.
type browser struct {
	http.Handler
	mu   sync.Mutex
	kept map[string]*http.Cookie
}

func (b *browser) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	b.mu.Lock()
	for _, c := range b.kept {
		r.AddCookie(c)
	}
	b.mu.Unlock()
	b.Handler.ServeHTTP(w, r)
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, text := range w.Header().Values("Set-Cookie") {
		c, err := http.ParseSetCookie(text)
		if err != nil {
			panic(err) // the server writes cookies that can be read
		}
		b.kept[c.Name] = c
		if c.MaxAge < 0 {
			delete(b.kept, c.Name)
		}
	}
}

func demoHandler(t *testing.T) (http.Handler, *database.DB) {
	db := demotest.Trailed(t, now, "Etc/UTC")
	return handler(t, db), db
}

func ask(h http.Handler, method, path, body string, change ...func(*http.Request)) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, "http://127.0.0.1:8420"+path, strings.NewReader(body))
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	r.Header.Set(server.PersonHeader, "1")
	r.RemoteAddr = "127.0.0.1:50000"
	for _, c := range change {
		c(r)
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	return w
}

func TestEveryAnswerTellsWhatTimeItIsHere(t *testing.T) {
	h := handler(t, dbtest.New(t))
	for _, path := range []string{"/api/workshop", "/api/orders/77", "/", "/healthz"} {
		assert.Equal(t, "Tue, 04 May 2027 10:26:00 GMT", ask(h, "GET", path, "").Header().Get("Date"), path)
	}
}

func TestHealthAndReadiness(t *testing.T) {
	db := dbtest.New(t)
	h := handler(t, db)
	assert.Equal(t, http.StatusOK, ask(h, "GET", "/healthz", "").Code)
	assert.Equal(t, http.StatusOK, ask(h, "GET", "/readyz", "").Code)
}

func TestPagesAreServedWithTheirHeaders(t *testing.T) {
	h := handler(t, dbtest.New(t))
	page := ask(h, "GET", "/orders", "")
	assert.Equal(t, http.StatusOK, page.Code)
	assert.Contains(t, page.Body.String(), "Tidy Kiln")
	assert.Equal(t, "no-cache", page.Header().Get("Cache-Control"))
	policy := page.Header().Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'none'")
	assert.Contains(t, policy, "script-src 'self'")
	assert.NotContains(t, policy, "unsafe")
	assert.NotEmpty(t, page.Header().Get("X-Request-Id"))
	assert.Contains(t, ask(h, "GET", "/assets/app-1a.js", "").Header().Get("Cache-Control"), "immutable")
	for _, missing := range []string{"/assets/gone.js", "/api/nothing", "/api"} {
		answer := ask(h, "GET", missing, "")
		assert.Equal(t, http.StatusNotFound, answer.Code, missing)
		assert.Equal(t, "application/problem+json", answer.Header().Get("Content-Type"), missing)
	}
	assert.Equal(t, http.StatusMethodNotAllowed, ask(h, "DELETE", "/api/today", "").Code)
}

func TestOtherHostsAndOriginsAreRefused(t *testing.T) {
	h, _ := demoHandler(t)
	host := func(name string) func(*http.Request) { return func(r *http.Request) { r.Host = name } }
	origin := func(name string) func(*http.Request) { return func(r *http.Request) { r.Header.Set("Origin", name) } }
	for _, name := range []string{"evil.example:8420", "127.0.0.1:9999", "", "192.168.1.4:8420"} {
		assert.Equal(t, http.StatusMisdirectedRequest, ask(h, "GET", "/api/today", "", host(name)).Code, name)
	}
	for _, name := range []string{"localhost:8420", "[::1]:8420", "127.0.0.1:8420"} {
		assert.Equal(t, http.StatusOK, ask(h, "GET", "/api/today", "", host(name)).Code, name)
	}
	for _, from := range []string{"http://evil.example", "null", "http://127.0.0.1:8421"} {
		assert.Equal(t, http.StatusForbidden, ask(h, "POST", "/api/runs/1/put-down", "", origin(from)).Code, from)
	}
	assert.NotEqual(t, http.StatusForbidden, ask(h, "POST", "/api/runs/1/put-down", "", origin("http://127.0.0.1:8420")).Code)
}

func TestStoppingLetsTheRequestUnderWayFinish(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	begun, goOn := make(chan struct{}), make(chan struct{})
	slow := http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		close(begun)
		<-goOn
		_, _ = w.Write([]byte("whole"))
	})
	ctx, stop := context.WithCancel(context.Background())
	served, answered := make(chan error, 1), make(chan string, 1)
	go func() { served <- server.Serve(ctx, slow, l) }()
	go func() {
		r, err := http.Get("http://" + l.Addr().String())
		if err != nil {
			answered <- err.Error()
			return
		}
		defer r.Body.Close()
		text, _ := io.ReadAll(r.Body)
		answered <- string(text)
	}()
	<-begun
	stop()
	close(goOn)
	assert.Equal(t, "whole", <-answered)
	assert.NoError(t, <-served)
}

func TestAFaultStandsBesideItsField(t *testing.T) {
	h, _ := demoHandler(t)
	answer := ask(h, "POST", "/api/orders", `{"customer":"","dueOn":"soon","lines":[]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, answer.Code)
	var p struct {
		Errors []struct{ Location, Message string }
	}
	require.NoError(t, json.Unmarshal(answer.Body.Bytes(), &p))
	said := map[string]string{}
	for _, e := range p.Errors {
		said[e.Location] = e.Message
	}
	assert.Equal(t, map[string]string{"body.customer": "this cannot be empty", "body.dueOn": "this is not a date", "body.lines": "at least one is needed"}, said)

	missing := ask(h, "POST", "/api/products/1/recipe/try", `{"look":"crisp","steps":[{"id":"a"}]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, missing.Code)
	assert.Contains(t, missing.Body.String(), `{"location":"body.steps[0].yield","message":"this is missing"}`)
}

// housed are the rooms of a demo studio with its pictures.
func housed(t testing.TB, db *database.DB) *house.House {
	rooms := house.New(db, clock, &standin.Hygrometer{}, standin.NewPrinter(clock))
	rooms.Artwork.KeepIn(demotest.Files(t, db))
	return rooms
}

func at(t testing.TB, address string) server.Address {
	a, err := server.ParseAddress(address)
	require.NoError(t, err)
	return a
}

// handlerAt answers under an address.
func handlerAt(t testing.TB, db *database.DB, address string) http.Handler {
	return &browser{Handler: server.Handler(server.Options{DB: db, Now: clock, House: housed(t, db), Pages: built, Address: at(t, address)}), kept: map[string]*http.Cookie{}}
}
