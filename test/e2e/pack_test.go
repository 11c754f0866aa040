package e2e

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/printing"
	"brightchalk/internal/teaching"
	"brightchalk/test/browser"
)

// The carry pack is opened from disk; the server is not asked for anything, and the page's own policy would
// refuse it.
func TestTheCarryPackWorksFromADisk(t *testing.T) {
	s := open(t)
	ctx := context.Background()
	lead := s.lead(t)
	classes, err := s.app.Classes.Classes(ctx, lead)
	require.NoError(t, err)
	class, err := s.app.Classes.Class(ctx, lead, classes[0].ClassID)
	require.NoError(t, err)
	_, err = s.app.Lessons.Assemble(ctx, lead, teaching.LessonAsk{
		ClassID: class.ClassID, Purpose: lesson.Introduce, CardIDs: []string{class.Next}, Minutes: 20,
	})
	require.NoError(t, err)
	var order, week bytes.Buffer
	require.NoError(t, s.app.Print.Pack(ctx, lead, "", printing.PackOrder, &order))
	require.NoError(t, s.app.Print.Pack(ctx, lead, class.ClassID, printing.PackWeek, &week))
	assert.Less(t, order.Len(), 15<<20)
	assert.Less(t, week.Len(), order.Len())
	outside := regexp.MustCompile(`(?:src|href|action)="?https?:|url\(["']?https?:|@import`)
	assert.Empty(t, outside.FindString(order.String()), "nothing is fetched from outside")
	require.Error(t, s.app.Print.Pack(ctx, lead, "", printing.PackWeek, &week))
	file := filepath.Join(t.TempDir(), "carry-pack.html")
	require.NoError(t, os.WriteFile(file, order.Bytes(), 0o600))
	s.server.Close()

	require.NoError(t, s.tab.Go("file://"+file))
	require.NoError(t, s.tab.SeeText("works without a network"))
	require.NoError(t, s.tab.SeeText("Lips together"))
	s.axe(t, "carry pack")
	heard := mustEval(
		t,
		s.tab,
		`new Promise(d => { const a = document.querySelector('audio'); a.addEventListener('loadedmetadata',
			() => d(a.duration > 0.05 ? 'sound' : 'nothing')); a.addEventListener('error', () => d('broken'));
a.preload = 'auto'; a.load() })`,
	)
	assert.Equal(t, "sound", heard)
	_, err = browser.Eval[bool](s.tab, `(document.querySelector('[data-write]').click(), true)`)
	require.NoError(t, err)
	time.Sleep(300 * time.Millisecond)
	assert.Equal(
		t,
		"true",
		mustEval(
			t,
			s.tab,
			`String(document.getAnimations().length > 0 || document.querySelector('path.ink.now') !== null)`,
		),
	)
	require.NoError(t, s.tab.ClickText("Turnover"))
	require.NoError(t, s.tab.SeeText("1 of "))
	s.key(t, " ")
	require.NoError(t, s.tab.SeeText("2 of "))
	plain := mustEval(
		t,
		s.tab,
		`[...document.querySelectorAll('article')].every(a => a.offsetHeight > 0) &&
			document.querySelectorAll('audio[controls]').length > 10 ? 'readable' : 'empty'`,
	)
	assert.Equal(t, "readable", plain, "cards and sounds need no script")
	s.carried(t)
}

// carried holds the lesson of a pack on the stage that it brings, and shows it to a family.
func (s *stage) carried(t *testing.T) {
	t.Helper()
	begin := func(face string) {
		require.NoError(t, s.tab.See(`[data-stage=`+face+`]`))
		_, err := browser.Eval[bool](s.tab, `(document.querySelector('[data-stage=`+face+`]').click(), true)`)
		require.NoError(t, err)
	}
	s.dispatch(t, "Escape")
	begin("board")
	require.NoError(t, s.tab.See("[data-face='board']"))
	require.NoError(t, s.tab.See("svg[aria-label='the wave of the sound']"))
	s.axe(t, "the stage of a carry pack")
	var steps []string
	for range 40 {
		if kind := attribute(t, s.tab, "data-step"); !slices.Contains(steps, kind) {
			steps = append(steps, kind)
		}
		if mustEval(
			t,
			s.tab,
			`String(document.querySelector('[aria-label="the lesson is over"]') !== null)`,
		) == "true" {
			break
		}
		s.dispatch(t, "ArrowDown")
	}
	assert.Greater(t, len(steps), 8, "all steps are there: %v", steps)
	require.NoError(t, s.tab.ClickText("Leave"))
	require.NoError(t, s.tab.SeeText("works without a network"))
	begin("home")
	require.NoError(t, s.tab.See("[data-face='home']"))
	s.axe(t, "at home")
	require.NoError(t, s.tab.See("[data-answered='true']"), "after a pause it answers by itself")
	require.NoError(t, s.tab.See("[data-at='1']"), "and goes on")
	require.NoError(t, s.tab.ClickText("wait for us"))
	s.dispatch(t, " ")
	s.dispatch(t, " ")
	assert.Equal(t, "2", mustEval(t, s.tab, `document.querySelector('[data-at]').dataset.at`))
}

// The stroke animation runs in the Hand step with the processor slowed down four times: how many frames come in
// a second is printed, not judged, since the machine is noisy; that it moves is.
func TestStrokesMoveInTheHandStep(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	require.NoError(t, s.tab.Go(s.server.URL+"/letters?text=g"))
	require.NoError(t, s.tab.SeeText("What is said"))
	s.axe(t, "letters")
	require.NoError(t, s.tab.SlowCPU(4))
	frames := mustEval(t, s.tab, `new Promise(d => {
		[...document.querySelectorAll('button')].find(b => b.innerText.includes('Slowly')).click()
		let n = 0, moved = new Set(), t0 = performance.now()
		const f = () => { n++; const a = document.getAnimations()[0]; if (a) moved.add(Math.round(a.currentTime));
performance.now() - t0 < 3000 ? requestAnimationFrame(f) : d(JSON.stringify([Math.round(n / 3), moved.size])) }
		requestAnimationFrame(f)
	})`)
	require.NoError(t, s.tab.SlowCPU(1))
	t.Log("frames a second with the processor slowed down 4 times, and different moments of the stroke: ", frames)
	assert.NotContains(t, frames, ",0]", "the stroke moves")

	// A letter is drawn differently with the keyboard; what leaves the lines is said and cannot be kept.
	require.NoError(t, s.tab.Go(s.server.URL+"/letters?text=h"))
	require.NoError(t, s.tab.Click("[aria-label='More for this letter']"))
	require.NoError(t, s.tab.ClickText("Draw it differently"))
	require.NoError(t, s.tab.SeeText("It stays in its lines"))
	_, err := browser.Eval[bool](s.tab, `(document.querySelector('circle[role=slider]').focus(), true)`)
	require.NoError(t, err)
	for range 3 {
		s.key(t, kb.ArrowUp)
	}
	require.NoError(t, s.tab.SeeText("Passes the top line"))
	s.axe(t, "drawing a letter")
	require.NoError(t, s.tab.ClickText("Leave it as it was"))

	// The letter is placed over the picture and stays there.
	require.NoError(t, s.tab.SeeText("Over the picture"))
	_, err = browser.Eval[bool](s.tab, `(document.querySelector('[role=application]').focus(), true)`)
	require.NoError(t, err)
	s.key(t, "+")
	require.NoError(t, s.tab.ClickText("Keep it so"))
	require.NoError(t, s.tab.SeeText("Take the letter off the picture"))
}
