package server

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"tidykiln/internal/database"
)

// Metrics count what the server does, for a program that watches it. They name
// routes, and nothing of what was asked or who asked.
type Metrics struct {
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
	streams  prometheus.Gauge
}

// answerBounds are those that answers are counted under, in seconds.
var answerBounds = []float64{.005, .01, .025, .05, .1, .15, .25, .5, 1, 2.5, 5, 15}

// NewMetrics begins to count.
func NewMetrics(db *database.DB) *Metrics {
	m := &Metrics{
		registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "tidykiln_request_seconds", Help: "How long answers took, by route and status.", Buckets: answerBounds}, []string{"method", "route", "status"}),
		streams:  prometheus.NewGauge(prometheus.GaugeOpts{Name: "tidykiln_streams", Help: "Windows that listen to what changes."}),
	}
	ready := prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "tidykiln_ready", Help: "1 while the database is reached and its schema is the one known, else 0."}, func() float64 {
		ctx, cancel := context.WithTimeout(context.Background(), 3*time.Second)
		defer cancel()
		if db.Ready(ctx) != nil {
			return 0
		}
		return 1
	})
	m.registry.MustRegister(m.requests, m.streams, ready, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}), collectors.NewDBStatsCollector(db.Pool(), "studio"))
	return m
}

// Handler answers with all that was counted.
func (m *Metrics) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.Handle("GET /metrics", promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{}))
	return mux
}

// OpenMetrics opens the address that metrics are served on, a port of their own.
func OpenMetrics(address string) (net.Listener, error) {
	l, err := net.Listen("tcp", address)
	if err != nil {
		return nil, fmt.Errorf("TIDYKILN_METRICS: %s cannot be used, it must be an address and a free port, such as 127.0.0.1:9420: %w", address, err)
	}
	return l, nil
}

// measured counts an answer. A stream is counted while it is open instead.
func (m *Metrics) measured(c *gin.Context) {
	if c.FullPath() == changesPath {
		m.streams.Inc()
		defer m.streams.Dec()
		c.Next()
		return
	}
	begun := time.Now()
	c.Next()
	route := c.FullPath()
	if route == "" {
		route = "pages"
	}
	m.requests.WithLabelValues(methodOf(c.Request), route, strconv.Itoa(c.Writer.Status())).Observe(time.Since(begun).Seconds())
}

// methodOf is a method that there is; others are one, so that nobody makes up series.
func methodOf(r *http.Request) string {
	switch r.Method {
	case http.MethodGet, http.MethodHead, http.MethodPost, http.MethodPut:
		return r.Method
	}
	return "other"
}
