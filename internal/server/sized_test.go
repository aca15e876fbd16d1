package server_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/problem"
)

// faultsOf reads a refusal.
func faultsOf(t *testing.T, answer *httptest.ResponseRecorder) (p problem.Problem) {
	require.NoError(t, json.Unmarshal(answer.Body.Bytes(), &p), answer.Body.String())
	return p
}

func TestWhatHoldsTooMuchIsRefusedBeforeItsFaultsAreTold(t *testing.T) {
	h := handler(t, dbtest.New(t))
	empties := strings.Repeat("{},", 300_000) + "{}"
	answer := ask(h, "POST", "/api/orders", `{"customer":"X","dueOn":"2027-05-20","lines":[`+empties+`]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, answer.Code)
	assert.Less(t, answer.Body.Len(), 1000)
	assert.Equal(t, "body.lines", faultsOf(t, answer).Errors[0].Location)

	nested := ask(h, "POST", "/api/orders", `{"customer":"X","dueOn":"2027-05-20","lines":[{"productId":1,"quantity":1,"lettering":[`+strings.Repeat(`"",`, 2000)+`""]}]}`)
	assert.Equal(t, "body.lines.0.lettering", faultsOf(t, nested).Errors[0].Location)

	many := ask(h, "POST", "/api/orders", `{"customer":"X","dueOn":"2027-05-20","lines":[`+strings.Repeat("{},", 199)+`{}]}`)
	p := faultsOf(t, many)
	assert.Equal(t, http.StatusUnprocessableEntity, many.Code)
	assert.Len(t, p.Errors, 50, "no more are told")
	assert.Regexp(t, `and \d+ more faults like it$`, p.Detail)

	wide := `{` + strings.Repeat(`"k":1,`, 5000) + `"customer":"X"}`
	assert.Equal(t, http.StatusUnprocessableEntity, ask(h, "POST", "/api/orders", wide).Code)
	assert.GreaterOrEqual(t, ask(h, "POST", "/api/orders", `{"lines":[`).Code, 400, "what is cut off is the route's to refuse")
	assert.GreaterOrEqual(t, ask(h, "POST", "/api/orders", strings.Repeat("[", 1000)).Code, 400)
}

// Thirty-two of the largest bodies at once, each with as many faults as fit.
func TestManyHugeRequestsAtOnceTakeLittleMemory(t *testing.T) {
	h := handler(t, dbtest.New(t))
	body := `{"customer":"X","dueOn":"2027-05-20","lines":[` + strings.Repeat("{},", 345_000) + `{}]}`
	runtime.GC()
	stop, peaked := make(chan struct{}), make(chan uint64)
	go func() {
		var most uint64
		var now runtime.MemStats
		for {
			select {
			case <-stop:
				peaked <- most
				return
			default:
				runtime.ReadMemStats(&now)
				most = max(most, now.HeapAlloc)
				runtime.Gosched()
			}
		}
	}()
	var asking sync.WaitGroup
	for range 32 {
		asking.Go(func() { assert.GreaterOrEqual(t, ask(h, "POST", "/api/orders", body).Code, 400) })
	}
	asking.Wait()
	close(stop)
	assert.Less(t, <-peaked, uint64(300<<20), "bytes in use")
}

func TestChangesFromElsewhereAreRefusedWhateverElseIsSaid(t *testing.T) {
	h := handler(t, dbtest.New(t))
	with := func(name string, values ...string) func(*http.Request) {
		return func(r *http.Request) {
			for _, v := range values {
				r.Header.Add(name, v)
			}
		}
	}
	ours := "http://127.0.0.1:8420"
	for _, c := range []struct {
		says    string
		headers []func(*http.Request)
	}{
		{"another scheme", []func(*http.Request){with("Origin", "https://127.0.0.1:8420")}},
		{"a second origin", []func(*http.Request){with("Origin", ours, "http://evil.example")}},
		{"the same twice", []func(*http.Request){with("Origin", ours, ours)}},
		{"cross-site with our origin", []func(*http.Request){with("Origin", ours), with("Sec-Fetch-Site", "cross-site")}},
		{"cross-site without one", []func(*http.Request){with("Sec-Fetch-Site", "cross-site")}},
	} {
		assert.Equal(t, http.StatusForbidden, ask(h, "POST", "/api/runs/1/put-down", "", c.headers...).Code, c.says)
	}
	assert.NotEqual(t, http.StatusForbidden, ask(h, "POST", "/api/runs/1/put-down", "", with("Origin", ours), with("Sec-Fetch-Site", "same-origin")).Code)
}

func TestASlowUploadIsToldAsSuch(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	s := httptest.NewUnstartedServer(handlerAt(t, dbtest.New(t), l.Addr().String()))
	require.NoError(t, s.Listener.Close())
	s.Listener = l
	s.Config.ReadTimeout = 300 * time.Millisecond
	s.Start()
	t.Cleanup(s.Close)
	line, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	t.Cleanup(func() { _ = line.Close() })
	_, err = fmt.Fprintf(line, "POST /api/orders HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: 1000\r\n\r\n{\"customer\":", l.Addr())
	require.NoError(t, err)
	answer, err := http.ReadResponse(bufio.NewReader(line), nil)
	require.NoError(t, err)
	defer answer.Body.Close()
	assert.Equal(t, http.StatusRequestTimeout, answer.StatusCode)
}
