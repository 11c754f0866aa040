// Package e2e walks the main paths in a real browser, over a real server and database.
package e2e

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"log/slog"
	"math"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/browser"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/jobs"
	"brightchalk/internal/media"
	"brightchalk/internal/provider"
	"brightchalk/internal/provider/providertest"
	"brightchalk/internal/store"
	"brightchalk/internal/testdb"
	"brightchalk/internal/webui"
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
			chromium.b, chromium.err = browser.Start(browser.Options{Microphone: file})
		}
	})
	require.NoError(t, chromium.err)
	tab, err := chromium.b.Apart()
	require.NoError(t, err)
	t.Cleanup(tab.Close)
	return tab
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
	return s
}

// serve starts a server with the demo on a database of its own.
func serve(t *testing.T) *stage {
	t.Helper()
	return serveWith(t, "")
}

func serveWith(t *testing.T, issuer string) *stage {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	pool := testdb.With(t, "demo", func(ctx context.Context, pool *pgxpool.Pool) error {
		_, err := demo.Load(ctx, app.New(pool, app.Options{Seed: func() uint64 { return 5 }, Hashing: testdb.Hashing}))
		return err
	})
	queue, err := jobs.New(pool, slog.New(slog.DiscardHandler), true)
	require.NoError(t, err)
	a := app.New(pool, app.Options{
		Seed: func() uint64 { return 5 }, Hashing: testdb.Hashing, Stage: webui.Stage, Queue: queue,
	})
	require.NoError(t, queue.Start(ctx, a))
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
	i := slices.IndexFunc(demo.SignIns, func(d app.DemoSignIn) bool { return d.Role == role })
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

// axe looks for violations of accessibility rules with axe-core, and for contrast it could not settle.
func (s *stage) axe(t *testing.T, view string) {
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
		`axe.run(document, {resultTypes: ['violations', 'incomplete']}).then(r => JSON.stringify(
		[...r.violations, ...r.incomplete.filter(i => i.impact === 'critical' &&
i.id !== 'color-contrast')].flatMap(v => v.nodes.map(n => v.id + ': ' + n.html.slice(0,
160) + ' ' + (n.any[0]?.message ?? '')))))`,
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

func TestFromACardToATaughtLesson(t *testing.T) {
	s := open(t)
	s.atWall(t, "teacher")
	s.axe(t, "library")

	// The wall by keyboard: find, open.
	s.dispatch(t, "f") // the protocol's own key event would type the sign too
	require.NoError(t, s.tab.Key("kayak"))
	require.NoError(t, s.tab.See("[data-grapheme='k']"))
	s.key(t, "\r")
	require.NoError(t, s.tab.SeeText("Record it"))
	s.axe(t, "card")

	// Write: it is saved by itself.
	require.NoError(t, s.tab.SeeText("✓ Saved"))
	_, err := browser.Eval[bool](
		s.tab,
		`(() => {
			const label = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === 'Rhyme')
			label.nextElementSibling.focus()
			return true
		})()`,
	)
	require.NoError(t, err)
	require.NoError(t, s.tab.Key("Keep the kayak off the bank."))
	require.NoError(t, s.tab.See("[data-saving='saved']"))
	id := strings.TrimPrefix(mustEval(t, s.tab, "location.pathname"), "/cards/")
	teacher, err := s.app.People.SignIn(
		context.Background(),
		app.Attempt{Email: demo.SignIns[1].Email, Password: demo.SignIns[1].Password},
	)
	require.NoError(t, err)
	assert.Eventually(t, func() bool {
		c, err := s.app.Cards.Card(context.Background(), teacher, id)
		return err == nil && c.Content.Rhyme == "Keep the kayak off the bank."
	}, 30*time.Second, 100*time.Millisecond)

	s.record(t)
	s.teach(t)
}

func mustEval(t *testing.T, tab *browser.Tab, js string) string {
	t.Helper()
	v, err := browser.Eval[string](tab, js)
	require.NoError(t, err)
	return v
}

// record goes to a card for m-like hums (ng has no take), records from the fake microphone and hears back.
func (s *stage) record(t *testing.T) {
	t.Helper()
	require.NoError(t, s.tab.Go(s.server.URL+"/"))
	require.NoError(t, s.tab.SeeText("79 complete"))
	require.NoError(t, s.tab.Click("[data-grapheme='ng']"))
	require.NoError(t, s.tab.SeeText("No take yet"))
	require.NoError(t, s.tab.Click("main button[data-state=closed]"))
	require.NoError(t, s.tab.SeeText("Stop and keep"))
	time.Sleep(3700 * time.Millisecond)
	require.NoError(t, s.tab.ClickText("Stop and keep"))
	require.NoError(t, s.tab.SeeText("agrees to the recording"), "without consent nothing is kept")
	require.NoError(t, s.tab.Click("input[type=checkbox]"))
	require.NoError(t, s.tab.ClickText("Send it again"))
	require.NoError(t, s.tab.See("[data-verdict]"))
	require.NoError(t, s.tab.ClickText("Measurements"))
	require.NoError(t, s.tab.SeeText("voice at"))
	assert.Equal(
		t,
		"2",
		mustEval(t, s.tab, `String(document.querySelectorAll('[data-verdict]').length)`),
		"said twice, kept as two takes",
	)
	f0 := mustEval(t, s.tab, `document.body.innerText.match(/voice at\s+(\d+) Hz/)[1]`)
	var hertz float64
	_, err := fmt.Sscan(f0, &hertz)
	require.NoError(t, err)
	assert.InDelta(t, 170, hertz, 170*0.05, "the microphone's hum came through whole")
	s.axe(t, "card with a take")
	require.NoError(t, s.tab.SeeText("the card’s sound"), "the first good take is chosen")
	assert.Equal(t, "audio/flac at 44100 Hz", s.heard(t), "the card plays it")
	require.NoError(t, s.tab.ClickText("Undo the fixes"))
	require.NoError(t, s.tab.SeeText("Played as recorded"))
	require.NoError(t, s.tab.ClickText("Trim and level it again"))
	require.NoError(t, s.tab.SeeText("Played trimmed"))
	require.NoError(t, s.tab.ClickText("Measurements"))
	require.NoError(t, s.tab.SeeText("centre of the hiss"))
	wrong := filepath.Join(t.TempDir(), "notes.wav")
	require.NoError(t, os.WriteFile(wrong, []byte("just text"), 0o600))
	require.NoError(t, s.tab.Upload("input[accept*=wav]", wrong))
	require.NoError(t, s.tab.SeeText("This is no WAV"))
	s.batch(t)
}

// heard decodes what the card of this page plays, as the browser does.
func (s *stage) heard(t *testing.T) string {
	t.Helper()
	return mustEval(t, s.tab, `fetch('/api' + location.pathname + '/sound').then(async r => {
		const type = r.headers.get('Content-Type')
		const b = await new OfflineAudioContext(1, 1, 44100).decodeAudioData(await r.arrayBuffer())
		return type + ' at ' + b.sampleRate + ' Hz' + (Math.max(...b.getChannelData(0)) > 0.05 ? '' : ', silent')
	})`)
}

// batch goes from one sound that is missing to the next by keyboard, and reads how the library sounds.
func (s *stage) batch(t *testing.T) {
	t.Helper()
	require.NoError(t, s.tab.Go(s.server.URL+"/booth"))
	require.NoError(t, s.tab.SeeText("Still without a sound"))
	s.axe(t, "booth")
	current := func() string {
		return mustEval(t, s.tab, `document.querySelector('[aria-current=true]').innerText.split('\n')[0]`)
	}
	first := current()
	s.key(t, "n")
	assert.NotEqual(t, first, current())
	s.key(t, "b")
	assert.Equal(t, first, current())
	s.key(t, "n") // e as in basket has the sound of i
	require.NoError(t, s.tab.SeeText("is the same sound and has its take"))
	require.NoError(t, s.tab.ClickText("Use it here too"))
	require.NoError(t, s.tab.SeeText("the card’s sound"))
	s.key(t, "n")
	assert.NotEqual(t, first, current())
	_, err := browser.Eval[bool](
		s.tab,
		`([...document.querySelectorAll('[role=tab]')][1].dispatchEvent(new MouseEvent('mousedown', {bubbles: true,
			button: 0})), true)`,
	)
	require.NoError(t, err)
	require.NoError(t, s.tab.SeeText("49 of 79 cards have a sound"))
	s.axe(t, "how the library sounds")
}

// print fetches the plan from inside the page and reads its text and size back.
func (s *stage) print(t *testing.T) {
	t.Helper()
	require.NoError(t, s.tab.ClickText("Print"))
	require.NoError(t, s.tab.SeeText("Everything for this lesson"))
	s.axe(t, "what can be printed")
	require.NoError(t, s.tab.See(`a[href*="print/plan.pdf"]`))
	data := mustEval(
		t,
		s.tab,
		`fetch(document.querySelector('a[href*="print/plan.pdf"]').href)
			.then(r => r.blob())
			.then(b => new Promise(d => {
				const f = new FileReader()
				f.onload = () => d(f.result)
				f.readAsDataURL(b)
			}))`,
	)
	raw, err := base64.StdEncoding.DecodeString(strings.TrimPrefix(data, "data:application/pdf;base64,"))
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "plan.pdf")
	require.NoError(t, os.WriteFile(file, raw, 0o600))
	text, err := exec.Command("pdftotext", file, "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "as in barrel")
	s.key(t, kb.Escape)
	info, err := exec.Command("pdfinfo", file).Output()
	require.NoError(t, err)
	assert.Contains(t, string(info), "(A4)")
}

func (s *stage) teach(t *testing.T) {
	t.Helper()
	require.NoError(t, s.tab.Go(s.server.URL+"/lessons"))
	require.NoError(t, s.tab.SeeText("This is the next one in your order"))
	s.axe(t, "lessons")
	require.NoError(t, s.tab.ClickText("Make the lesson"))
	require.NoError(t, s.tab.SeeText("planned 20:00"))
	require.NoError(t, s.tab.ClickText("Spell"))
	require.NoError(t, s.tab.See("[data-slot='spell.1']"))
	before := mustEval(t, s.tab, `document.querySelector("[data-slot='spell.1'] .sr-only").innerText`)
	require.NoError(t, s.tab.Click("[data-slot='spell.1'] button[aria-label^=swap]"))
	assert.Eventually(t, func() bool {
		now, err := browser.Eval[string](s.tab, `document.querySelector("[data-slot='spell.1'] .sr-only").innerText`)
		return err == nil && now != before
	}, 30*time.Second, 50*time.Millisecond, "the word is swapped")
	require.NoError(t, s.tab.Click("[data-slot='spell.1'] button[aria-label^=lock]"))
	require.NoError(t, s.tab.See("[data-slot='spell.1'] button[aria-pressed=true]"))
	s.axe(t, "lesson")
	s.print(t)

	require.NoError(t, s.tab.ClickText("Teach"))
	require.NoError(t, s.tab.SeeText("works without network"))
	s.axe(t, "teach")
	assert.Equal(t, "listen", attribute(t, s.tab, "data-step"))
	// From here the line is down: the lesson goes on from what was loaded.
	s.server.CloseClientConnections()
	s.server.Config.Handler = offline{}
	s.key(t, " ")
	assert.Equal(t, "1", attribute(t, s.tab, "data-screen"))
	s.key(t, "\r")
	assert.Equal(t, "true", attribute(t, s.tab, "data-turned"))
	var steps []string
	for range 2 {
		s.dispatch(t, "ArrowDown")
		steps = append(steps, attribute(t, s.tab, "data-step"))
	}
	assert.Equal(t, []string{"mouth", "picture"}, steps)
	width, err := browser.Eval[float64](s.tab, `document.querySelector('[data-screen] img').naturalWidth`)
	require.NoError(t, err)
	assert.Positive(t, width, "the picture shows without a network")
	s.key(t, "p")
	playing, err := browser.Eval[bool](
		s.tab,
		`new Promise(r => { const a = document.querySelector('audio'); if (!a.paused || a.ended) r(true);
			a.onplaying = () => r(true); setTimeout(() => r(a.currentTime > 0), 1500) })`,
	)
	require.NoError(t, err)
	assert.True(t, playing, "the take is played on a key")
	require.NoError(t, s.tab.ClickText("End and log"))
	require.NoError(t, s.tab.SeeText("How did it go?"))
	require.NoError(t, s.tab.ClickText("Log it for the class"))
	require.NoError(
		t,
		s.tab.SeeText("The log is kept in this browser"),
		"a lesson ended early without a network loses no log",
	)
	s.axe(t, "log")
}
