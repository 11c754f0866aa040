package e2e

import (
	"context"
	"encoding/base64"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/people"
	"brightchalk/test/browser"
)

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
	teacher, err := s.app.Accounts.SignIn(
		context.Background(),
		people.SignInAttempt{Email: demo.SignIns[1].Email, Password: demo.SignIns[1].Password},
	)
	require.NoError(t, err)
	assert.Eventually(t, func() bool {
		c, err := s.app.Cards.Card(context.Background(), teacher, id)
		return err == nil && c.Content.Rhyme == "Keep the kayak off the bank."
	}, 30*time.Second, 100*time.Millisecond)

	s.record(t)
	s.teach(t)
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
