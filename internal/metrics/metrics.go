// Package metrics counts what a server does, for Prometheus.
package metrics

import (
	"net/http"
	"strconv"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// Metrics of one server.
type Metrics struct {
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
	schema   prometheus.Gauge
}

// buckets of a request's time in seconds: from what is kept in memory to the longest statement.
var buckets = []float64{0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 15, 60}

// New counts for a server that was built from a state of the sources. streams tells how many event streams are open.
func New(build string, pool *pgxpool.Pool, streams func() int) *Metrics {
	m := &Metrics{
		registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "bright_chalk_request_seconds", Help: "Time of requests by operation and class of status.", Buckets: buckets,
		}, []string{"operation", "status"}),
		schema: prometheus.NewGauge(prometheus.GaugeOpts{
			Name: "bright_chalk_schema_version", Help: "Newest migration that the database has.",
		}),
	}
	info := prometheus.NewGauge(prometheus.GaugeOpts{
		Name: "bright_chalk_build_info", Help: "From which state of the sources the program was built.",
		ConstLabels: prometheus.Labels{"build": build},
	})
	info.Set(1)
	m.registry.MustRegister(
		collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		m.requests, m.schema, info, poolStats{pool},
		prometheus.NewGaugeFunc(prometheus.GaugeOpts{
			Name: "bright_chalk_streams", Help: "Event streams that are open.",
		}, func() float64 { return float64(streams()) }),
	)
	return m
}

// Observe counts a request.
func (m *Metrics) Observe(operation string, status int, took time.Duration) {
	m.requests.WithLabelValues(operation, strconv.Itoa(status/100)+"xx").Observe(took.Seconds())
}

// Schema notes which migration the database has.
func (m *Metrics) Schema(version int64) { m.schema.Set(float64(version)) }

// Handler answers with all of it.
func (m *Metrics) Handler() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{Registry: m.registry})
}

// poolStats are the connections of the database, read when they are asked for.
type poolStats struct{ pool *pgxpool.Pool }

var (
	connections = prometheus.NewDesc("bright_chalk_db_connections", "Connections of the database.", []string{"state"}, nil)
	maxOpen     = prometheus.NewDesc("bright_chalk_db_connections_max", "Most connections of the database.", nil, nil)
	waits       = prometheus.NewDesc("bright_chalk_db_waits_total", "Times that a connection was waited for.", nil, nil)
	waited      = prometheus.NewDesc(
		"bright_chalk_db_wait_seconds_total",
		"Time that connections were waited for.",
		nil,
		nil,
	)
)

// Describe is for Prometheus.
func (p poolStats) Describe(to chan<- *prometheus.Desc) {
	for _, d := range []*prometheus.Desc{connections, maxOpen, waits, waited} {
		to <- d
	}
}

// Collect is for Prometheus.
func (p poolStats) Collect(to chan<- prometheus.Metric) {
	s := p.pool.Stat()
	gauge := func(d *prometheus.Desc, v float64, labels ...string) {
		to <- prometheus.MustNewConstMetric(d, prometheus.GaugeValue, v, labels...)
	}
	gauge(connections, float64(s.AcquiredConns()), "used")
	gauge(connections, float64(s.IdleConns()), "idle")
	gauge(maxOpen, float64(s.MaxConns()))
	to <- prometheus.MustNewConstMetric(waits, prometheus.CounterValue, float64(s.EmptyAcquireCount()))
	to <- prometheus.MustNewConstMetric(waited, prometheus.CounterValue, s.EmptyAcquireWaitTime().Seconds())
}
