package httpapi_test

import (
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/teaching"
	"brightchalk/test/testdb"
)

// docs/security.md promises four hours. A computer in a classroom is left open over lunch, not over night.
func TestASessionThatRestsForMoreThanFourHoursEnds(t *testing.T) {
	now := time.Now()
	options := app.Options{Hashing: testdb.Hashing, Now: func() time.Time { return now }}
	p := open(t, app.New(testdb.With(t, "demo", func(ctx context.Context, pool *pgxpool.Pool) error {
		_, err := demo.Load(ctx, app.New(pool, app.Options{Hashing: testdb.Hashing}))
		return err
	}), options))
	status := func(c client) int {
		got, _ := c.call("GET", "/api/session", "")
		return got
	}
	busy, idle := p.signIn(t, 0), p.signIn(t, 1)
	for range 3 {
		now = now.Add(3 * time.Hour)
		assert.Equal(t, http.StatusOK, status(busy), "used every three hours")
	}
	assert.Equal(t, http.StatusUnauthorized, status(idle), "not used for nine hours")
	rested := p.signIn(t, 1)
	now = now.Add(3*time.Hour + 50*time.Minute)
	assert.Equal(t, http.StatusOK, status(rested))
	now = now.Add(4*time.Hour + 11*time.Minute)
	assert.Equal(t, http.StatusUnauthorized, status(rested))
}

// A phone that joined is the desk of that lesson for four hours, as the page says that shows the code; the database
// ends its session by its own clock.
func TestAPhoneIsTheDeskForFourHours(t *testing.T) {
	p := demoPlace(t)
	laptop, phone := p.signIn(t, 1), p.phone(t)
	lesson := laptop.anyLesson()
	_, body := laptop.call("POST", "/api/lessons/"+lesson+"/desks", "")
	var code teaching.DeskCode
	require.NoError(t, json.Unmarshal([]byte(body), &code), body)
	status, body := phone.call("POST", "/api/desk", `{"code":"`+code.Code+`"}`)
	require.Equal(t, http.StatusOK, status, body)
	db := testdb.Owner(t, p.Pool)
	var left time.Duration
	require.NoError(t, db.QueryRow(t.Context(), "SELECT min(expiry) - now() FROM sessions").Scan(&left))
	assert.InDelta(t, 4*time.Hour, left, float64(2*time.Minute), "before the laptop's")
	_, err := db.Exec(t.Context(), "UPDATE sessions SET expiry = expiry - interval '4 hours 1 minute'")
	require.NoError(t, err)
	status, _ = phone.call("GET", "/api/lessons/"+lesson+"/run", "")
	assert.Equal(t, http.StatusUnauthorized, status)
	status, _ = laptop.call("GET", "/api/lessons/"+lesson+"/run", "")
	assert.Equal(t, http.StatusOK, status)
}

// What went wrong says whom and what it was about: no proxy and no browser keeps it.
func TestAProblemIsKeptByNobody(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	for path, status := range map[string]int{
		"/api/cards/00000000-0000-0000-0000-000000000000": http.StatusNotFound,
		"/api/cards/DROP": http.StatusUnprocessableEntity,
		"/api/no-such":    http.StatusNotFound,
	} {
		answer, err := lead.http.Get(p.server.URL + path)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		assert.Equal(t, status, answer.StatusCode, path)
		assert.Equal(t, "no-store", answer.Header.Get("Cache-Control"), path)
	}
}

// Anybody can send the header; only its last entry is written by the school's own proxy.
func TestTheAddressOfAClientIsTheLastHopOfTheProxy(t *testing.T) {
	options := app.Options{Hashing: testdb.Hashing}
	pool := testdb.With(t, "demo", func(ctx context.Context, pool *pgxpool.Pool) error {
		_, err := demo.Load(ctx, app.New(pool, options))
		return err
	})
	address := func(behindProxy bool, header string) string {
		t.Helper()
		s := httptest.NewServer(httpapi.New(app.New(pool, options), httpapi.Options{
			PlainCookies: true, BehindProxy: behindProxy,
		}))
		defer s.Close()
		body := `{"email":"` + demo.SignIns[0].Email + `","password":"wrong"}`
		r, err := http.NewRequest(http.MethodPost, s.URL+"/api/session", strings.NewReader(body))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("X-Forwarded-For", header)
		answer, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		var out string
		require.NoError(t, testdb.Owner(t, pool).QueryRow(context.Background(),
			"SELECT address FROM account_event ORDER BY event_id DESC LIMIT 1").Scan(&out))
		return out
	}
	assert.Equal(t, "203.0.113.9", address(true, "198.51.100.7, 203.0.113.9"))
	assert.Equal(t, "203.0.113.9", address(true, "203.0.113.9"))
	assert.Equal(t, "127.0.0.1", address(true, ""), "a request from the proxy's own machine")
	assert.Equal(t, "127.0.0.1", address(false, "198.51.100.7, 203.0.113.9"), "without a proxy the header says nothing")
}
