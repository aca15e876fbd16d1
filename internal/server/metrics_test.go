package server_test

import (
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/server"
)

func TestMetricsCountAnswersByRouteAndNameNobody(t *testing.T) {
	db, cable := throughCable(t)
	metrics := server.NewMetrics(db)
	h := server.Handler(server.Options{DB: db, Now: clock, House: housed(t, db), Pages: built, Address: at(t, "127.0.0.1:8420"), Metrics: metrics})
	for range 3 {
		require.Equal(t, http.StatusOK, ask(h, "GET", "/api/orders/1", "").Code)
	}
	ask(h, "GET", "/api/find?text=Heron", "")
	ask(h, "GET", "/orders", "")
	ask(h, "BREW", "/secret-"+"page", "")
	read := func() string {
		w := httptest.NewRecorder()
		metrics.Handler().ServeHTTP(w, httptest.NewRequest("GET", "/metrics", nil))
		require.Equal(t, http.StatusOK, w.Code)
		return w.Body.String()
	}
	said := read()
	assert.Contains(t, said, `tidykiln_request_seconds_count{method="GET",route="/api/orders/:id",status="200"} 3`)
	assert.Contains(t, said, `tidykiln_request_seconds_count{method="GET",route="pages",status="200"} 1`)
	assert.Contains(t, said, "tidykiln_ready 1")
	assert.Contains(t, said, `go_sql_open_connections{db_name="studio"}`)
	assert.NotContains(t, said, "Heron")
	assert.NotContains(t, said, "secret-page")
	assert.NotContains(t, said, "BREW", "what anybody can make up makes no series of its own")
	cable.cut()
	assert.Contains(t, read(), "tidykiln_ready 0")
	cable.mend()
}

func TestMetricsAreNotAmongTheStudiosOwnAddresses(t *testing.T) {
	h := handler(t, dbtest.New(t))
	assert.NotContains(t, ask(h, "GET", "/metrics", "").Body.String(), "tidykiln_request_seconds")
}
