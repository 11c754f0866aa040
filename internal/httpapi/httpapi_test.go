package httpapi_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/library"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

type place struct {
	*app.App
	server *httptest.Server
	log    *bytes.Buffer
}

// open starts a server over a demo database; more servers can be opened over the same one.
func open(t *testing.T, a *app.App) place {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	var log bytes.Buffer
	logger := slog.New(slog.NewJSONHandler(&log, nil))
	hub := store.NewHub()
	listening := make(chan struct{})
	go func() {
		close(listening)
		hub.Run(ctx, a.Pool, logger)
	}()
	<-listening
	pages := fstest.MapFS{
		"index.html":  {Data: []byte(`<meta name="csp-nonce" content="NONCE-OF-THIS-ANSWER">`)},
		"assets/x.js": {Data: []byte("1")},
	}
	s := httptest.NewServer(held(t, httpapi.New(a, httpapi.Options{
		Log: logger, Hub: hub, Pages: pages, PlainCookies: true,
	})))
	t.Cleanup(func() {
		hub.Close()
		cancel()
		s.Close()
	})
	return place{a, s, &log}
}

func demoPlace(t *testing.T) place {
	options := app.Options{Hashing: testdb.Hashing}
	return open(t, app.New(testdb.With(t, "demo", func(ctx context.Context, pool *pgxpool.Pool) error {
		_, err := demo.Load(ctx, app.New(pool, options))
		return err
	}), options))
}

type client struct {
	t    *testing.T
	base string
	http *http.Client
	work func(ctx context.Context, jobID string) error // as a server that has time
}

func (p place) signIn(t *testing.T, role int) client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	c := client{t, p.server.URL, &http.Client{Jar: jar}, func(ctx context.Context, jobID string) error {
		by, _, err := p.Accounts.AsOperator(ctx, demo.SignIns[role].Email)
		if err != nil {
			return err
		}
		return p.Jobs.Run(ctx, by.TeamID, jobID)
	}}
	status, body := c.call(
		"POST",
		"/api/session",
		`{"email":"`+demo.SignIns[role].Email+`","password":"`+demo.SignIns[role].Password+`"}`,
	)
	require.Equal(t, 200, status, body)
	return c
}

func (c client) call(method, path, body string) (int, string) {
	c.t.Helper()
	r, err := http.NewRequest(method, c.base+path, strings.NewReader(body))
	require.NoError(c.t, err)
	r.Header.Set("Content-Type", "application/json")
	a, err := c.http.Do(r)
	require.NoError(c.t, err)
	defer func() { _ = a.Body.Close() }()
	data, err := io.ReadAll(a.Body)
	require.NoError(c.t, err)
	return a.StatusCode, string(data)
}

func (c client) cardID(grapheme string) string {
	_, body := c.call("GET", "/api/cards", "")
	var cards []library.WallCard
	require.NoError(c.t, json.Unmarshal([]byte(body), &cards))
	for _, card := range cards {
		if card.Pair.Grapheme == grapheme {
			return card.CardID
		}
	}
	require.Fail(c.t, "no card "+grapheme)
	return ""
}

func TestSignInAndSessions(t *testing.T) {
	p := demoPlace(t)
	stranger := client{t: t, base: p.server.URL, http: http.DefaultClient}
	for _, path := range []string{
		"/api/cards", "/api/session", "/api/events", "/api/cards.pdf?cards=all",
		"/api/pictures/00", "/api/word-pictures/dog",
	} {
		status, _ := stranger.call("GET", path, "")
		assert.Equal(t, 401, status, path)
	}
	status, body := stranger.call("POST", "/api/session", `{"email":"lead@lockhouse.example","password":"wrong"}`)
	assert.Equal(t, 422, status)
	_, unknown := stranger.call("POST", "/api/session", `{"email":"nobody@x.example","password":"wrong"}`)
	assert.Equal(t, body, unknown, "an unknown address and a wrong password look alike")
	lead := p.signIn(t, 0)
	status, body = lead.call("GET", "/api/session", "")
	assert.Equal(t, 200, status)
	assert.Contains(t, body, "Lockhouse Lane School")
	status, _ = lead.call("DELETE", "/api/session", "")
	assert.Equal(t, 200, status)
	status, _ = lead.call("GET", "/api/session", "")
	assert.Equal(t, 401, status)
	assert.NotContains(t, p.log.String(), "lantern on the towpath", "no secrets in logs")
	assert.NotContains(t, p.log.String(), "lockhouse.example", "nor addresses of people")
}

func TestCrossOriginAndHeaders(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	r, _ := http.NewRequest("PUT", p.server.URL+"/api/conventions", strings.NewReader(`{}`))
	r.Header.Set("Sec-Fetch-Site", "cross-site")
	a, err := lead.http.Do(r)
	require.NoError(t, err)
	_ = a.Body.Close()
	assert.Equal(t, 403, a.StatusCode)
	a, err = lead.http.Get(p.server.URL + "/cards/some-page")
	require.NoError(t, err)
	page, _ := io.ReadAll(a.Body)
	_ = a.Body.Close()
	assert.Equal(t, 200, a.StatusCode, "an address of the application gets the one page")
	policy := a.Header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-")
	assert.NotContains(t, policy, "unsafe")
	assert.NotContains(t, string(page), "NONCE-OF-THIS-ANSWER")
	for _, missing := range []string{"/api/nowhere", "/missing.js"} {
		status, _ := lead.call("GET", missing, "")
		assert.Equal(t, 404, status, missing)
	}
	for _, path := range []string{"/healthz", "/readyz"} {
		status, _ := lead.call("GET", path, "")
		assert.Equal(t, 200, status, path)
	}
}

func TestBadInputGetsASentence(t *testing.T) {
	p := demoPlace(t)
	lead, assistant := p.signIn(t, 0), p.signIn(t, 2)
	id := lead.cardID("k")
	rows := []struct {
		name, method, path, body string
		status                   int
		says                     string
	}{
		{"a text file named .wav", "POST", "/api/cards/" + id + "/takes?speaker=A&consent=yes", "hello", 422, "no WAV, FLAC"},
		{"no bytes", "POST", "/api/cards/" + id + "/takes?speaker=A&consent=yes", "", 422, "empty"},
		{
			"an upload without end",
			"POST",
			"/api/cards/" + id + "/takes?speaker=A&consent=yes",
			strings.Repeat("x", 30<<20),
			413,
			"larger than 24 MB",
		},
		{"an unknown sound", "POST", "/api/cards", `{"pair":"sh=zz","step":60}`, 422, "not spelled"},
		{
			"a routine with no steps",
			"PUT",
			"/api/routines",
			`{"purpose":"introduce","class_id":"","set":true,"routine":{"name":"x","steps":[]}}`,
			422,
			"no steps",
		},
		{
			"an impossible time",
			"POST",
			"/api/lessons",
			`{"class_id":"00000000-0000-0000-0000-000000000000","purpose":"introduce","card_ids":["` + id + `"],"minutes":20}`,
			422,
			"class",
		},
		{"no picture", "POST", "/api/pictures", "hello", 422, "no picture"},
		{"no JSON", "PUT", "/api/routines", `{`, 400, ""},
		{"an unknown card", "GET", "/api/cards/00000000-0000-0000-0000-000000000000", "", 404, "not here"},
		{"no id at all", "GET", "/api/cards/DROP", "", 422, "id"},
		{
			"a rhyme of 1000 signs",
			"PUT",
			"/api/cards/" + id,
			`{"base_version":1,"content":{"rhyme":"` + strings.Repeat("a", 1000) + `"}}`,
			422,
			"",
		},
	}
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			status, body := client{t: t, base: lead.base, http: lead.http}.call(r.method, r.path, r.body)
			assert.Equal(t, r.status, status, body)
			assert.Contains(t, body, r.says)
		})
	}
	status, body := assistant.call("PUT", "/api/routines",
		`{"purpose":"introduce","class_id":"","set":true,"routine":{"name":"x","steps":[{"kind":"read"}]}}`)
	assert.Equal(t, 403, status)
	assert.Contains(t, body, "Your role")
}

func TestSignsThatCannotBeKept(t *testing.T) {
	c := demoPlace(t).signIn(t, 0)
	status, body := c.call("POST", "/api/classes", `{"name":"Heron\u0000s","kind":"class"}`)
	assert.Equal(t, 422, status, body)
	assert.Contains(t, body, `"code":"signs"`)
	status, body = c.call("GET", "/api/lessons/%00", "")
	assert.Less(t, status, 500, body)
	request, err := http.NewRequest(http.MethodGet, c.base+"/no-such-page", nil)
	require.NoError(t, err)
	request.Header.Set("Accept", "text/html")
	answer, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	defer answer.Body.Close()
	assert.Equal(t, 404, answer.StatusCode)
	assert.Equal(t, "text/html; charset=utf-8", answer.Header.Get("Content-Type"), "with a way back for people")
	for path, want := range map[string]int{"/metrics": 404, "/.env": 404, "/admin/x": 404} {
		status, _ = c.call("GET", path, "")
		assert.Equal(t, want, status, path)
	}
}

func TestUnexpectedErrorsCarryAnID(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	_, err := testdb.Owner(t, p.Pool).Exec(context.Background(), "ALTER TABLE take RENAME COLUMN chosen TO hidden_secret")
	require.NoError(t, err)
	status, body := lead.call("GET", "/api/cards", "")
	assert.Equal(t, 500, status)
	assert.NotContains(t, body, "chosen")
	var problem struct{ Detail, ID string }
	require.NoError(t, json.Unmarshal([]byte(body), &problem))
	require.NotEmpty(t, problem.ID)
	assert.Contains(t, p.log.String(), problem.ID)
	assert.Contains(t, p.log.String(), "chosen", "the log has the rest")
}

// Two server processes over one database: a change through one is told by the other (bench measures how fast).
func TestChangesReachTheOtherServer(t *testing.T) {
	one := demoPlace(t)
	two := open(t, one.App)
	watcher, writer := two.signIn(t, 1), one.signIn(t, 0)
	ctx, cancel := context.WithTimeout(context.Background(), 60*time.Second)
	defer cancel()
	r, _ := http.NewRequestWithContext(ctx, "GET", two.server.URL+"/api/events", nil)
	stream, err := watcher.http.Do(r)
	require.NoError(t, err)
	defer func() { _ = stream.Body.Close() }()
	require.Equal(t, "text/event-stream", stream.Header.Get("Content-Type"))
	lines := make(chan string, 20)
	go func() {
		in := bufio.NewScanner(stream.Body)
		for in.Scan() {
			lines <- in.Text()
		}
	}()
	time.Sleep(300 * time.Millisecond) // both processes listen
	id := writer.cardID("k")
	status, body := writer.call("PUT", "/api/cards/"+id+"/state", `{"state":"in review"}`)
	require.Equal(t, 200, status, body)
	for {
		select {
		case line := <-lines:
			if strings.Contains(line, id) {
				return
			}
		case <-ctx.Done():
			require.Fail(t, "the change did not arrive")
		}
	}
}

func pdf(t *testing.T, data []byte, tool string, args ...string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	for i, a := range args {
		if a == "FILE" {
			args[i] = file
		}
	}
	out, err := exec.Command(tool, args...).CombinedOutput()
	require.NoError(t, err, string(out))
	return string(out)
}

// assertFontsEmbedded says that each font of a PDF is in the file, with the signs that its codes stand for.
func assertFontsEmbedded(t *testing.T, data []byte, name string) {
	t.Helper()
	lines := strings.Split(strings.TrimSpace(pdf(t, data, "pdffonts", "FILE")), "\n")[2:]
	require.NotEmpty(t, lines, name)
	for _, line := range lines {
		assert.Regexp(t, `Identity-H\s+yes (yes|no )\s+yes`, line, "a font of %s", name)
	}
}

func TestPrint(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	_, classes := lead.call("GET", "/api/classes", "")
	var list []store.Class
	require.NoError(t, json.Unmarshal([]byte(classes), &list))
	_, body := lead.call(
		"POST",
		"/api/lessons",
		`{"class_id":"`+list[0].ClassID+`","purpose":"introduce","card_ids":["`+lead.cardID("b")+`"],"minutes":20}`,
	)
	var in teaching.LessonView
	require.NoError(t, json.Unmarshal([]byte(body), &in))
	for paper, size := range map[string]string{"A4": "pts (A4)", "Letter": "612 x 792 pts (letter)"} {
		status, plan := lead.call("GET", "/api/lessons/"+in.LessonID+"/print/plan.pdf?paper="+paper, "")
		require.Equal(t, 200, status)
		assert.Contains(t, pdf(t, []byte(plan), "pdfinfo", "FILE"), size)
		text := pdf(t, []byte(plan), "pdftotext", "-layout", "FILE", "-")
		for _, s := range in.Lesson.Steps {
			assert.Contains(t, text, s.Name)
		}
		assert.Contains(t, text, "as in barrel")
		assertFontsEmbedded(t, []byte(plan), "plan")
	}
	status, cards := lead.call(
		"GET",
		"/api/cards.pdf?cards="+lead.cardID("b")+","+lead.cardID("k")+","+lead.cardID("qu")+"&layout=duplex",
		"",
	)
	require.Equal(t, 200, status)
	assert.Contains(t, pdf(t, []byte(cards), "pdfinfo", "FILE"), "Pages:           2")
	assert.Contains(
		t,
		pdf(t, []byte(cards), "pdftotext", "FILE", "-"),
		"Needs a picture",
		"an unfinished card prints all the same",
	)
	status, body = lead.call("GET", "/api/cards.pdf?cards=", "")
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "at least one card")
}

func TestOpenAPI(t *testing.T) {
	doc, err := httpapi.OpenAPI()
	require.NoError(t, err)
	assert.Contains(t, string(doc), `"operationId":"assemble"`)
}

// What stands in a query may be a secret, or what somebody looks for: no line of the log has it, whatever the answer.
func TestQueriesAreNotLogged(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	var classes []struct {
		ID string `json:"class_id"`
	}
	_, body := lead.call("GET", "/api/classes", "")
	require.NoError(t, json.Unmarshal([]byte(body), &classes))
	_, body = lead.call("POST", "/api/classes/"+classes[0].ID+"/feed", "")
	var feed struct{ Path string }
	require.NoError(t, json.Unmarshal([]byte(body), &feed))
	_, secret, _ := strings.Cut(feed.Path, "secret=")
	status, body := lead.call("GET", feed.Path, "")
	assert.Equal(t, 200, status)
	assert.Contains(t, body, "BEGIN:VEVENT", "the query reaches the call")
	status, _ = lead.call("GET", "/api/feed.ics?secret=wrong-lantern", "")
	assert.Equal(t, 404, status)
	log := p.log.String()
	assert.Contains(t, log, "/api/feed.ics")
	assert.NotContains(t, log, secret)
	assert.NotContains(t, log, "wrong-lantern")
}
