package metrics_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/app"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/metrics"
	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

// Requests are counted by the name of their operation, never by their address, and the answer is one that Prometheus
// reads: its own library wrote it.
func TestRequestsAreCounted(t *testing.T) {
	pool := testdb.New(t)
	version, err := store.SchemaVersion(t.Context(), pool)
	require.NoError(t, err)
	require.GreaterOrEqual(t, version, int64(20))
	m := metrics.New("a build", pool, func() int { return 3 })
	m.Schema(version)
	s := httptest.NewServer(httpapi.New(app.New(pool, app.Options{}), httpapi.Options{
		PlainCookies: true, Observe: m.Observe,
	}))
	defer s.Close()
	for _, path := range []string{"/healthz", "/api/session", "/api/demo", "/api/cards/secret-id", "/nowhere"} {
		resp, err := http.Get(s.URL + path) //nolint:noctx // a test
		require.NoError(t, err)
		require.NoError(t, resp.Body.Close())
	}
	m.Observe("sound", 200, 700*time.Millisecond)
	seen := httptest.NewRecorder()
	m.Handler().ServeHTTP(seen, httptest.NewRequest(http.MethodGet, "/metrics", nil))
	text, err := io.ReadAll(seen.Body)
	require.NoError(t, err)
	for _, want := range []string{
		`bright_chalk_request_seconds_count{operation="health",status="2xx"} 1`,
		`bright_chalk_request_seconds_count{operation="demo-sign-ins",status="2xx"} 1`,
		`bright_chalk_request_seconds_bucket{operation="sound",status="2xx",le="1"} 1`,
		`bright_chalk_request_seconds_bucket{operation="sound",status="2xx",le="0.5"} 0`,
		`bright_chalk_streams 3`, `bright_chalk_build_info{build="a build"} 1`, `bright_chalk_db_connections{state="idle"}`,
		`bright_chalk_schema_version 2`, "go_goroutines", "process_resident_memory_bytes",
	} {
		assert.Contains(t, string(text), want)
	}
	assert.NotContains(t, string(text), "secret-id")
}
