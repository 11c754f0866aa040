// Package e2e walks the main paths in a real browser, over a real server and database.
package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"math"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/jobs"
	"brightchalk/internal/media"
	"brightchalk/internal/people"
	"brightchalk/internal/provider"
	"brightchalk/internal/store"
	"brightchalk/internal/webui"
	"brightchalk/test/browser"
	"brightchalk/test/providertest"
	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) {
	testdb.Main(m, func() {
		if chromium.b != nil {
			chromium.b.Close()
		}
		_ = os.RemoveAll(chromium.dir)
	})
}

// chromium is the browser of all tests: each test has tabs of its own, which share nothing with those of others.
var chromium struct {
	sync.Once
	b   *browser.Browser
	dir string // of what its microphone hears
	err error
}

// apart opens a tab as in a browser on another machine, with nobody signed in.
func apart(t *testing.T) *browser.Tab {
	t.Helper()
	chromium.Do(func() {
		if chromium.dir, chromium.err = os.MkdirTemp("", "chalk-hum-"); chromium.err != nil {
			return
		}
		file := filepath.Join(chromium.dir, "hum.wav")
		if chromium.err = os.WriteFile(file, hum(), 0o600); chromium.err == nil {
			chromium.b, chromium.err = browser.Start(browser.Options{Microphone: file, ShortLived: true})
		}
	})
	require.NoError(t, chromium.err)
	tab, err := chromium.b.Apart()
	require.NoError(t, err)
	t.Cleanup(tab.Close)
	return tab
}

// withoutWorker keeps a tab from fetching every card for later: a third of what a test costs.
func withoutWorker(t *testing.T, tab *browser.Tab) {
	t.Helper()
	require.NoError(t, tab.Before(`delete Navigator.prototype.serviceWorker`))
}

// nightly skips a test that takes long and finds little that others do not; ./chalk nightly runs it.
func nightly(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("runs with ./chalk nightly")
	}
}

type stage struct {
	app    *app.App
	server *httptest.Server
	tab    *browser.Tab
	// trouble is a status that every PUT is answered with, 0 for none, noLine for no answer to anything.
	trouble *atomic.Int32
}

const noLine = -1

// hum is a recording of m, said twice, for the fake microphone: the last half second is silence, since Chromium
// repeats the last 10 ms for ever.
func hum() []byte {
	const hertz = 44_100
	samples := make([]float64, hertz*4)
	noise := rand.New(rand.NewPCG(1, 1))
	for i := range samples {
		at := float64(i) / hertz
		v := 0.0004 * noise.NormFloat64()
		for _, from := range []float64{0.7, 2.2} {
			if at < from || at > from+0.7 {
				continue
			}
			edge := min(1, (at-from)/0.03, (from+0.7-at)/0.05)
			for h := 1.0; h < 6; h++ {
				v += edge * 0.25 / (h * h) * math.Sin(2*math.Pi*170*h*at)
			}
		}
		if at < 3.5 {
			samples[i] = v
		}
	}
	return media.EncodeWAV(recording.Clip{Samples: samples, Hertz: hertz})
}

func open(t *testing.T) *stage {
	t.Helper()
	return openWith(t, "")
}

// openWith starts a server that also lets people in by a provider, where an issuer is said.
func openWith(t *testing.T, issuer string) *stage {
	t.Helper()
	if browser.Find() == "" {
		require.Fail(t, "Chromium is not installed; ./chalk test installs it")
	}
	s := serveWith(t, issuer)
	s.tab = apart(t)
	require.NoError(t, s.tab.Size(1280, 800))
	withoutWorker(t, s.tab)
	return s
}

// openKeeping is open with the worker that keeps pages for when there is no network.
func openKeeping(t *testing.T) *stage {
	t.Helper()
	s := serve(t)
	s.tab = apart(t)
	require.NoError(t, s.tab.Size(1280, 800))
	return s
}

// serve starts a server with the demo on a database of its own.
func serve(t *testing.T) *stage {
	t.Helper()
	return serveWith(t, "")
}

func serveWith(t *testing.T, issuer string) *stage {
	t.Helper()
	t.Parallel()
	ctx, cancel := context.WithCancel(context.Background())
	pool := testdb.With(t, "demo", func(ctx context.Context, pool *pgxpool.Pool) error {
		_, err := demo.Load(ctx, app.New(pool, app.Options{Seed: func() uint64 { return 5 }, Hashing: testdb.Hashing}))
		return err
	})
	queue, err := jobs.NewQueue(pool, slog.New(slog.DiscardHandler), true)
	require.NoError(t, err)
	a := app.New(pool, app.Options{
		Seed: func() uint64 { return 5 }, Hashing: testdb.Hashing, Stage: webui.Stage, Queue: queue,
	})
	require.NoError(t, queue.Start(ctx, a.Jobs, a.Mails))
	hub := store.NewHub()
	go hub.Run(ctx, a.Pool, slog.New(slog.DiscardHandler))
	var handler http.Handler
	trouble := &atomic.Int32{}
	s := httptest.NewUnstartedServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if trouble.Load() == noLine {
			panic(http.ErrAbortHandler)
		}
		if status := int(trouble.Load()); status > 0 && r.Method == http.MethodPut {
			http.Error(w, "as a proxy says it", status)
			return
		}
		handler.ServeHTTP(w, r)
	}))
	vouching, err := provider.Open(provider.Settings{
		Name: "Canal ID", Issuer: issuer, Client: providertest.Client, Secret: providertest.Secret,
		Address: "http://" + s.Listener.Addr().String(),
	})
	require.NoError(t, err)
	handler = httpapi.New(a, httpapi.Options{
		Hub: hub, Pages: webui.Pages(), PlainCookies: true, Demo: demo.SignIns, Provider: vouching,
	})
	s.Start()
	t.Cleanup(func() {
		hub.Close()
		_ = queue.Stop(ctx)
		cancel()
		s.CloseClientConnections()
		s.Close()
	})
	return &stage{app: a, server: s, trouble: trouble}
}

// signedInByHand is whether a test of this run came in through the page.
var signedInByHand atomic.Bool

// signIn lets somebody in: the first test of a run through the page, all others by the call behind it. It opens no page
// of the application.
func (s *stage) signIn(t *testing.T, role string) {
	t.Helper()
	if !signedInByHand.Swap(true) {
		require.NoError(t, s.tab.Go(s.server.URL+"/?show=all"))
		require.NoError(t, s.tab.SeeText("One agreed library"))
		s.axe(t, "sign-in")
		require.NoError(t, s.tab.ClickText(role))
		require.NoError(t, s.tab.SeeText("79 complete"))
		return
	}
	i := slices.IndexFunc(demo.SignIns, func(d people.DemoSignIn) bool { return d.Role == role })
	body, err := json.Marshal(map[string]string{"email": demo.SignIns[i].Email, "password": demo.SignIns[i].Password})
	require.NoError(t, err)
	require.NoError(t, s.tab.Go(s.server.URL+"/api/session"))
	status := mustEval(t, s.tab, fmt.Sprintf(`fetch('/api/session', {method: 'POST', body: %q,
		headers: {'Content-Type': 'application/json'}}).then(r => String(r.status))`, body))
	require.Equal(t, "200", status)
}

// atWall is signIn and a look at the wall.
func (s *stage) atWall(t *testing.T, role string) {
	t.Helper()
	s.signIn(t, role)
	require.NoError(t, s.tab.Go(s.server.URL+"/"))
	require.NoError(t, s.tab.SeeText("79 complete"))
}

// walk goes to a page as a link leads there, without loading the application anew; where another state of the same page
// is asked for, it is loaded, so that nothing stays open.
func (s *stage) walk(t *testing.T, page string) {
	t.Helper()
	went := mustEval(t, s.tab, fmt.Sprintf(`(() => {
		const to = new URL(%q, location.origin), heads = document.querySelectorAll('h1')
		if (heads.length === 0 || to.pathname === location.pathname) return 'no'
		heads.forEach(h => h.dataset.left = '')
		history.pushState(null, '', to)
		return 'yes'
	})()`, page))
	if went == "yes" {
		for end := time.Now().Add(1500 * time.Millisecond); time.Now().Before(end); time.Sleep(20 * time.Millisecond) {
			if mustEval(t, s.tab, `String(document.querySelector('h1:not([data-left])') !== null)`) == "true" {
				return
			}
		}
	}
	require.NoError(t, s.tab.Go(s.server.URL+page))
	require.Eventually(t, func() bool {
		return mustEval(t, s.tab, `String(document.querySelector('h1') !== null)`) == "true"
	}, 20*time.Second, 40*time.Millisecond, page)
}

// axe looks for violations of accessibility rules with axe-core, in a dialog where one is open. Contrast, half of the
// cost, is looked at in the walk through all states and, elsewhere, at night.
func (s *stage) axe(t *testing.T, view string) {
	t.Helper()
	s.axeWith(t, view, !testing.Short())
}

func (s *stage) axeWith(t *testing.T, view string, contrast bool) {
	t.Helper()
	// A page that is still being fetched has no heading yet; it is the page that is looked at, not the wait.
	for end := time.Now().Add(8 * time.Second); time.Now().Before(end); time.Sleep(40 * time.Millisecond) {
		if mustEval(t, s.tab, `String(document.querySelector('h1') !== null)`) == "true" {
			break
		}
	}
	if mustEval(t, s.tab, `typeof axe`) == "undefined" {
		source, err := os.ReadFile("../../web/node_modules/axe-core/axe.min.js")
		require.NoError(t, err)
		_, err = browser.Eval[bool](s.tab, string(source)+"; true")
		require.NoError(t, err)
	}
	text, err := browser.Eval[string](
		s.tab,
		fmt.Sprintf(`axe.run(document.querySelector('[role=dialog]') ?? document, {
			resultTypes: ['violations', 'incomplete'], rules: {'color-contrast': {enabled: %t}},
		}).then(r => JSON.stringify(
			[...r.violations, ...r.incomplete.filter(i => i.impact === 'critical' && i.id !== 'color-contrast')].flatMap(
				v => v.nodes.map(n => v.id + ': ' + n.html.slice(0, 160) + ' ' + (n.any[0]?.message ?? '')))))`, contrast),
	)
	require.NoError(t, err)
	var found []string
	require.NoError(t, json.Unmarshal([]byte(text), &found))
	assert.Empty(t, found, "axe-core on %s", view)
}

func (s *stage) key(t *testing.T, key string) {
	t.Helper()
	require.NoError(t, s.tab.Key(key))
	time.Sleep(80 * time.Millisecond)
}

func (s *stage) dispatch(t *testing.T, key string) {
	t.Helper()
	_, err := browser.Eval[bool](s.tab, `(window.dispatchEvent(new KeyboardEvent('keydown', {key: '`+key+`'})), true)`)
	require.NoError(t, err)
	time.Sleep(80 * time.Millisecond)
}

func attribute(t *testing.T, tab *browser.Tab, name string) string {
	t.Helper()
	v, err := browser.Eval[string](
		tab,
		fmt.Sprintf(`document.querySelector('[data-screen]')?.getAttribute('%s') ?? ''`, name),
	)
	require.NoError(t, err)
	return v
}

func mustEval(t *testing.T, tab *browser.Tab, js string) string {
	t.Helper()
	v, err := browser.Eval[string](tab, js)
	require.NoError(t, err)
	return v
}
