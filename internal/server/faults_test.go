package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/database/mariadb"
	"tidykiln/internal/demo"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/server"
)

func keyed(key string) func(*http.Request) {
	return func(r *http.Request) { r.Header.Set(server.KeyHeader, key) }
}

func typeOf(t *testing.T, answer *httptest.ResponseRecorder) string {
	var p refusal
	require.NoError(t, json.Unmarshal(answer.Body.Bytes(), &p), answer.Body.String())
	return p.Type
}

func TestADatabaseThatIsGoneIsSaidPlainlyAndFoundAgain(t *testing.T) {
	db, cable := throughCable(t)
	h := handler(t, db)
	require.Equal(t, http.StatusOK, ask(h, "GET", "/api/today", "").Code)
	cable.cut()
	assert.Equal(t, http.StatusServiceUnavailable, ask(h, "GET", "/readyz", "").Code)
	for _, path := range []string{"/api/today", "/api/orders", "/api/changes"} {
		answer := ask(h, "GET", path, "")
		assert.Equal(t, http.StatusServiceUnavailable, answer.Code)
		assert.Equal(t, "/problems/database-away", typeOf(t, answer), path)
		assert.NotContains(t, answer.Body.String(), "tcp", "what went wrong inside is not told")
	}
	assert.Equal(t, http.StatusOK, ask(h, "GET", "/healthz", "").Code)
	cable.mend()
	assert.Equal(t, http.StatusOK, ask(h, "GET", "/api/today", "").Code)
	assert.Equal(t, http.StatusOK, ask(h, "GET", "/readyz", "").Code)
}

// Whatever is asked and whenever the connection breaks while it is worked on,
// that is what is said, and nothing is half saved.
func TestABreakAtAnyStatementIsSaidAndNothingIsHalfSaved(t *testing.T) {
	t.Parallel()
	db, cable := throughCable(t)
	w := &witness{T: t, studio: studio{readDocument(t), t, handler(t, db)}, db: db}
	breaks := 0
	for _, op := range w.operations() {
		address, body := w.request(op)
		for n := int64(0); ; n++ {
			before := w.revision()
			cable.breakAfter(n)
			answer := ask(w.h, op.method, address, body)
			if !cable.broke() {
				break
			}
			breaks++
			if strings.Contains(lastLine(answer), `"problem":`) { // an answer that comes line by line had begun
				assert.Contains(t, lastLine(answer), "/problems/database-away", "%s broken after %d statements", op.ID, n)
				assert.Empty(t, w.savedSince(before).Names(), "%s broken after %d statements", op.ID, n)
				continue
			}
			if answer.Code < 300 { // the driver opened another connection before anything was asked on the broken one
				continue
			}
			if answer.Code < 500 { // refused anyway, and it was the taking back, or the end of the look, that broke
				assert.Equal(t, ask(w.h, op.method, address, body).Body.String(), answer.Body.String(), "%s broken after %d statements", op.ID, n)
				continue
			}
			assert.Equal(t, http.StatusServiceUnavailable, answer.Code, "%s broken after %d statements: %s", op.ID, n, answer.Body)
			assert.Empty(t, w.savedSince(before).Names(), "%s broken after %d statements", op.ID, n)
		}
	}
	assert.Greater(t, breaks, 300)
}

func TestASlowDatabaseIsSaidPlainly(t *testing.T) {
	db, cable := throughCable(t)
	h := server.Handler(server.Options{DB: db, Now: clock, House: housed(t, db), Pages: built, Address: at(t, "127.0.0.1:8420"), Patience: 200 * time.Millisecond})
	cable.hold()
	answer := ask(h, "GET", "/api/today", "")
	cable.release()
	assert.Equal(t, http.StatusServiceUnavailable, answer.Code)
	assert.Equal(t, "/problems/database-slow", typeOf(t, answer))
}

var anOrder = `{"agreed":[` + everybody() + `],"customer":"Sedge Scouts","dueOn":"2027-05-20","lines":[{"productId":3,"quantity":2}]}`

func orderCount(t *testing.T, h http.Handler) int {
	return strings.Count(ask(h, "GET", "/api/orders", "").Body.String(), "Sedge Scouts")
}

// The order is saved and the answer lost on its way: sent again, it is the same order.
func TestAnOrderWhoseAnswerWasLostIsNotTakenTwice(t *testing.T) {
	db, cable := throughCable(t)
	h := handler(t, db)
	cable.lose("COMMIT")
	assert.Equal(t, http.StatusServiceUnavailable, ask(h, "POST", "/api/orders", anOrder, keyed("sedge-order-1")).Code)
	first := ask(h, "POST", "/api/orders", anOrder, keyed("sedge-order-1"))
	again := ask(h, "POST", "/api/orders", anOrder, keyed("sedge-order-1"))
	assert.Equal(t, http.StatusCreated, first.Code)
	assert.JSONEq(t, first.Body.String(), again.Body.String())
	assert.Equal(t, 1, orderCount(t, h))
	assert.Equal(t, http.StatusCreated, ask(h, "POST", "/api/orders", anOrder, keyed("sedge-order-2")).Code, "another key is another order")

	other := ask(h, "POST", "/api/orders", strings.Replace(anOrder, `"quantity":2`, `"quantity":3`, 1), keyed("sedge-order-1"))
	assert.Equal(t, http.StatusConflict, other.Code)
	assert.Equal(t, "/problems/already-done", typeOf(t, other))
}

// Every change answers a second sending under its key as it did the first.
func TestEveryChangeSentTwiceIsDoneOnce(t *testing.T) {
	t.Parallel()
	w := newWitness(t)
	done := 0
	for i, op := range w.operations() {
		if op.method == http.MethodGet || op.Secret { // what is secret is not kept to be answered again
			continue
		}
		before := w.revision()
		address, body := w.request(op)
		key := keyed(fmt.Sprintf("change-%04d", i))
		first := ask(w.h, op.method, address, body, key)
		if first.Code >= 300 || w.revision() == before {
			continue
		}
		done++
		rows := w.rows()
		again := ask(w.h, op.method, address, body, key)
		assert.Equal(t, first.Code, again.Code, "%s: %s", op.ID, again.Body)
		assert.Equal(t, rows, w.rows(), op.ID)
		assert.Equal(t, lastLine(first), lastLine(again), op.ID)
	}
	assert.Greater(t, done, 15)
}

// lastLine is what came of a request whose answer comes line by line; the whole answer of others.
func lastLine(answer *httptest.ResponseRecorder) string {
	text := strings.TrimSpace(answer.Body.String())
	return text[strings.LastIndex(text, "\n")+1:]
}

// rows counts what the studio holds, table by table.
func (w *witness) rows() map[string]int64 {
	counts := map[string]int64{}
	require.NoError(w.T, w.db.Read(context.Background(), func(tx *gorm.DB) error {
		for _, table := range []string{"orders", "wants", "order_events", "products", "recipes", "methods", "overrides", "batches", "lots", "pieces", "sittings", "runs", "outcomes", "batch_events", "people", "requests", "materials", "receipts", "purchases", "movements", "shelf_movements"} {
			var n int64
			if err := tx.Table(table).Count(&n).Error; err != nil {
				return err
			}
			counts[table] = n
		}
		return nil
	}))
	return counts
}

// A private server whose data may not grow stands for a disk that is full.
func TestAFullDiskIsSaidPlainlyAndNothingIsHalfSaved(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	started, err := mariadb.Start(context.Background(), folder, "--innodb-file-per-table=0", "--innodb-data-file-path=ibdata1:12M:autoextend:max:30M")
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, started.Stop()) })
	db, err := database.Open(context.Background(), started.DSN("full"))
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, db.Close()) })
	_, err = demo.Load(context.Background(), db, demotest.Files(t, db), now, "Etc/UTC")
	require.NoError(t, err)
	h := handler(t, db)
	body := strings.Replace(anOrder, `"lines"`, `"note":"`+strings.Repeat("x", 2000)+`","lines"`, 1)
	body = strings.Replace(body, `"quantity":2`, `"quantity":500`, 1)
	// The disk is filled with what no answer is made from: many orders would make the planning slow.
	fill := func() error {
		return db.Write(context.Background(), database.Orders, func(tx *gorm.DB) error {
			return tx.Exec("INSERT INTO requests VALUES (UUID(), REPEAT('x', 32), REPEAT('x', 20000), ?)", now).Error
		})
	}
	taken := 0
	for ; taken < 2; taken++ {
		require.Equal(t, http.StatusCreated, ask(h, "POST", "/api/orders", anOrder).Code)
	}
	for err = nil; err == nil; err = fill() {
	}
	require.True(t, database.Full(err), "%v", err)
	// What was undone leaves room for a few more.
	answer := ask(h, "POST", "/api/orders", body)
	for ; answer.Code == http.StatusCreated; answer = ask(h, "POST", "/api/orders", body) {
		taken++
	}
	require.Equal(t, http.StatusInsufficientStorage, answer.Code, answer.Body.String())
	assert.Equal(t, "/problems/disk-full", typeOf(t, answer))
	var there int64
	require.NoError(t, db.Read(context.Background(), func(tx *gorm.DB) error {
		return tx.Table("orders").Joins("JOIN customers ON customers.id = customer_id AND customers.name = 'Sedge Scouts'").Count(&there).Error
	}))
	assert.EqualValues(t, taken, there, "each order that was acknowledged is there, and no other")
}

// listenTo follows the stream of changes and gives each revision it tells.
func listenTo(t *testing.T, url string, change ...func(*http.Request)) <-chan uint64 {
	ctx, stop := context.WithCancel(context.Background())
	t.Cleanup(stop)
	request, err := http.NewRequestWithContext(ctx, "GET", url+"/api/changes", nil)
	require.NoError(t, err)
	for _, c := range change {
		c(request)
	}
	answer, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	require.Equal(t, "text/event-stream", answer.Header.Get("Content-Type"))
	told := make(chan uint64, 100)
	go func() {
		defer close(told)
		defer answer.Body.Close()
		lines := bufio.NewScanner(answer.Body)
		for lines.Scan() {
			if id, is := strings.CutPrefix(lines.Text(), "id: "); is {
				n, _ := strconv.ParseUint(id, 10, 64)
				told <- n
			}
		}
	}()
	return told
}

// served runs the whole server on a port of its own.
func served(t *testing.T, db *database.DB) (url string, stop func()) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	h := server.Handler(server.Options{DB: db, Now: clock, House: housed(t, db), Pages: built, Address: at(t, l.Addr().String()), Stopping: ctx.Done()})
	ended := make(chan error, 1)
	go func() { ended <- server.Serve(ctx, h, l) }()
	stop = func() {
		cancel()
		assert.NoError(t, <-ended)
		ended <- nil
	}
	t.Cleanup(stop)
	return "http://" + l.Addr().String(), stop
}

func TestEveryListenerIsToldOfAChange(t *testing.T) {
	db := dbtest.New(t)
	url, stop := served(t, db)
	phone, laptop := listenTo(t, url), listenTo(t, url)
	at := <-phone
	assert.Equal(t, at, <-laptop, "each is told where things stand")
	require.NoError(t, db.Write(context.Background(), database.Everything, func(*gorm.DB) error { return nil }))
	assert.Equal(t, at+1, <-phone)
	assert.Equal(t, at+1, <-laptop)

	t.Run("who missed something is told at once", func(t *testing.T) {
		late := listenTo(t, url, func(r *http.Request) { r.Header.Set("Last-Event-ID", fmt.Sprint(at)) })
		assert.Equal(t, at+1, <-late)
	})
	t.Run("who missed nothing waits for the next, of another process too", func(t *testing.T) {
		upToDate := listenTo(t, url, func(r *http.Request) { r.URL.RawQuery = fmt.Sprintf("since=%d", at+1) })
		other := dbtest.Another(t, db)
		require.NoError(t, other.Write(context.Background(), database.Room, func(*gorm.DB) error { return nil }))
		assert.Equal(t, at+2, <-upToDate)
	})
	stop()
	for range phone { // the stream ends with the server, which does not wait for it
	}
}

// everybody agrees to whatever an order moves.
func everybody() string {
	orders := make([]string, 500)
	for i := range orders {
		orders[i] = fmt.Sprintf(`{"orderId":%d,"toLate":true}`, i+1)
	}
	return strings.Join(orders, ",")
}
