package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/running"
	"brightchalk/internal/teaching"
	"brightchalk/test/browser"
)

// face opens a face of a lesson in a tab, or in another browser that signs in as the lead.
func face(t *testing.T, s *stage, tab *browser.Tab, made, name string) {
	t.Helper()
	require.NoError(t, tab.Go(s.server.URL+"/teach/"+made+"?face="+name))
	require.NoError(t, tab.See("[data-face='"+name+"']"))
}

// elsewhere is a second browser on another machine, with nobody signed in.
func elsewhere(t *testing.T) *browser.Tab {
	t.Helper()
	tab := apart(t)
	require.NoError(t, tab.Size(390, 844))
	return tab
}

func soon(t *testing.T, why string, f func() bool) {
	t.Helper()
	require.Eventually(t, f, 15*time.Second, 30*time.Millisecond, why)
}

func says(t *testing.T, tab *browser.Tab, name, want string) {
	t.Helper()
	soon(t, name+" becomes "+want, func() bool {
		v, err := browser.Eval[string](tab, `document.querySelector('[data-screen]')?.getAttribute('`+name+`') ?? ''`)
		return err == nil && v == want
	})
}

func press(t *testing.T, tab *browser.Tab, key string) {
	t.Helper()
	_, err := browser.Eval[bool](tab, `(window.dispatchEvent(new KeyboardEvent('keydown', {key: '`+key+`'})), true)`)
	require.NoError(t, err)
}

// A lesson on a board that the desk of a phone steers, which joined by a code and sees nothing else.
func TestAPhoneIsTheDesk(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	made := s.assembled(t)
	board := s.tab
	require.NoError(t, board.Go(s.server.URL+"/teach/"+made))
	require.NoError(t, board.SeeText("works without network"))
	desk, err := board.Beside()
	require.NoError(t, err)
	face(t, s, desk, made, "desk")
	says(t, board, "data-strip", "false") // there is a desk: the script leaves the children's board
	require.NoError(t, desk.ClickText("A code for a phone"))
	require.NoError(t, desk.See("[data-code]"))
	code := mustEval(t, desk, `document.querySelector('[data-code]').dataset.code`)

	phone := elsewhere(t)
	require.NoError(t, phone.Go(s.server.URL+"/join"))
	require.NoError(t, phone.Type("input", "wrong-code"))
	require.NoError(t, phone.ClickText("Join the lesson"))
	require.NoError(t, phone.SeeText("This code is wrong, too old, or was used."))
	require.NoError(t, phone.Go(s.server.URL+"/join"))
	require.NoError(t, phone.Type("input", strings.ToLower(code[:4])+" "+code[4:]))
	require.NoError(t, phone.ClickText("Join the lesson"))
	require.NoError(t, phone.See("[data-face='desk']"))
	require.NoError(t, phone.SeeText("in step with the board"))
	(&stage{tab: phone, server: s.server}).axe(t, "the desk on a phone")
	require.NoError(t, desk.SeeText("A phone is the desk of this lesson."))

	require.NoError(t, phone.ClickText("on"))
	says(t, board, "data-screen", "1")
	says(t, desk, "data-screen", "1")
	require.NoError(t, phone.Click("[data-card]"))
	require.NoError(t, phone.See("[data-card][data-level='1']"))
	require.NoError(t, desk.See("[data-card][data-level='1']"))
	require.NoError(t, phone.Click("[data-card][data-level='1']"))
	require.NoError(t, desk.See("[data-card][data-level='0']"))

	// A reload, here and there, stands where it stood.
	require.NoError(t, phone.Go(s.server.URL+"/"))
	says(t, phone, "data-screen", "1")
	require.NoError(t, board.Go(s.server.URL+"/teach/"+made))
	says(t, board, "data-screen", "1")

	// A child's own word, or what is not taught yet.
	require.NoError(t, phone.Type("#own-word", "bad"))
	require.NoError(t, phone.ClickText("show it"))
	require.NoError(t, board.See("[data-shown]"))
	assert.Contains(t, mustEval(t, board, `document.querySelector('main').innerText`), "bad")
	require.NoError(t, phone.ClickText("take it off"))
	require.NoError(t, phone.Type("#own-word", "shelf"))
	require.NoError(t, phone.ClickText("show it"))
	require.NoError(t, phone.SeeText("Not yet: sh"))
	assert.NotContains(t, mustEval(t, board, `document.querySelector('main').innerText`), "shelf")

	// The log as it happened is what the form begins with.
	require.NoError(t, phone.ClickText("End and log"))
	require.NoError(t, phone.SeeText("How did it go?"))
	require.NoError(t, board.See("[aria-label='the lesson is over']"), "the children's board keeps the form to itself")
	assert.Equal(
		t,
		"● not yet",
		mustEval(t, phone, `document.querySelector('[role=radio][aria-checked=true]').innerText`),
	)
	require.NoError(t, phone.ClickText("Log it for the class"))
	require.NoError(t, phone.SeeText("This phone has done its work."))
	v, err := s.app.Lessons.Lesson(context.Background(), s.lead(t), made)
	require.NoError(t, err)
	require.NotNil(t, v.Logged)
	first := slices.IndexFunc(v.Sure, func(k teaching.Sure) bool { return k.CardID == v.Lesson.Targets[0] })
	require.GreaterOrEqual(t, first, 0)
	assert.Equal(t, 0, v.Sure[first].Sure)
}

// Every kind of layout of the stage, moved by keys, by touch and from a desk in a second browser.
func TestEachStepOnTheStage(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	made := s.assembled(t)
	board := s.tab
	require.NoError(t, board.Go(s.server.URL+"/teach/"+made+"?face=board"))
	require.NoError(t, board.See("[data-face='board']"))
	desk := elsewhere(t)
	require.NoError(t, desk.Go(s.server.URL+"/"))
	require.NoError(t, desk.ClickText("lead"))
	require.NoError(t, desk.SeeText("Waits for you"))
	face(t, s, desk, made, "desk")
	require.NoError(t, desk.SeeText("in step with the board"))
	text := mustEval(t, board, `document.querySelector('main').innerText`)
	assert.NotContains(t, text, "Ears ready", "the adult's script is not on the children's board")

	v, err := s.app.Lessons.Lesson(context.Background(), s.lead(t), made)
	require.NoError(t, err)
	for i, k := range v.Lesson.Steps {
		says(t, board, "data-step", string(k.Kind))
		says(t, desk, "data-step", string(k.Kind))
		s.onStep(t, k, board, desk)
		if i == len(v.Lesson.Steps)-1 {
			break
		}
		switch i % 3 { // by keyboard, by the desk, by touch
		case 0:
			press(t, board, "ArrowDown")
		case 1:
			press(t, desk, "ArrowDown")
		default:
			for end := time.Now().Add(20 * time.Second); attribute(t, board, "data-step") == string(k.Kind); {
				require.True(t, time.Now().Before(end), "a swipe takes it on")
				swipe(t, board)
				time.Sleep(60 * time.Millisecond)
			}
		}
	}
}

func swipe(t *testing.T, tab *browser.Tab) {
	t.Helper()
	_, err := browser.Eval[bool](tab, `(() => {
		const at = document.querySelector('[data-face=board] [class*=touch-pan-y]')
		const touch = x => new Touch({ identifier: 1, target: at, clientX: x, clientY: 300 })
		at.dispatchEvent(new TouchEvent('touchstart', { bubbles: true, cancelable: true, touches: [touch(700)] }))
		at.dispatchEvent(new TouchEvent('touchend', { bubbles: true, cancelable: true, changedTouches: [touch(400)] }))
		return true
	})()`)
	require.NoError(t, err)
}

// drag moves something on the board by pointer events, as a finger does.
func drag(t *testing.T, tab *browser.Tab, from, to string) {
	t.Helper()
	_, err := browser.Eval[bool](tab, fmt.Sprintf(`(async () => {
		const a = document.querySelector(%q), b = document.querySelector(%q)
		const middle = e => { const r = e.getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] }
		const [x0, y0] = middle(a), [x1, y1] = middle(b)
		const send = (on, type, x, y) => on.dispatchEvent(new PointerEvent(type, {
			bubbles: true, cancelable: true, pointerId: 1, isPrimary: true, button: 0, buttons: 1, clientX: x, clientY: y,
		}))
		send(a, 'pointerdown', x0, y0)
		for (let i = 1; i <= 12; i++) {
			send(document, 'pointermove', x0 + (x1 - x0) * i / 12, y0 + (y1 - y0) * i / 12)
			await new Promise(r => setTimeout(r, 16))
		}
		await new Promise(r => setTimeout(r, 60))
		send(document, 'pointerup', x1, y1)
		return true
	})()`, from, to))
	require.NoError(t, err)
}

// onStep does what a class does in a step.
func (s *stage) onStep(t *testing.T, k lesson.Step, board, desk *browser.Tab) {
	t.Helper()
	has := func(tab *browser.Tab, selector string) func() bool {
		return func() bool {
			v, err := browser.Eval[bool](tab, `document.querySelector(`+"`"+selector+"`"+`) !== null`)
			return err == nil && v
		}
	}
	switch k.Kind {
	case lesson.Listen:
		soon(t, "the wave is drawn", has(board, "svg[aria-label='the wave of the sound']"))
		press(t, desk, "p")
		soon(t, "the board plays what the desk asks for", has(board, ".along-wave"))
	case lesson.Ear:
		drag(t, board, "button[aria-roledescription]", "[data-basket='✓ yes']")
		soon(t, "the picture lies in its basket", has(board, "[data-basket='✓ yes'] img"))
		press(t, desk, "Enter")
		says(t, board, "data-turned", "true")
	case lesson.Mouth:
		soon(t, "a mouth is drawn", has(board, "figure svg"))
	case lesson.Turnover:
		says(t, board, "data-turned", "false")
		press(t, board, "Enter")
		soon(t, "the card turns", has(board, "[data-side='back']"))
	case lesson.Hand:
		for range 2 { // past the letter over its picture
			if !has(board, "[data-own-hand]")() {
				press(t, board, " ")
				time.Sleep(200 * time.Millisecond)
			}
		}
		_, err := browser.Eval[bool](board, `(() => {
			const at = document.querySelector('[data-own-hand]')
			at.setPointerCapture = () => {}
			const r = at.getBoundingClientRect()
			const send = (type, x, y) => at.dispatchEvent(new PointerEvent(type, {
				bubbles: true, pointerId: 1, clientX: r.x + x * r.width, clientY: r.y + y * r.height }))
			send('pointerdown', .3, .3)
			return new Promise(done => setTimeout(() => { send('pointermove', .5, .6)
				setTimeout(() => { send('pointerup', .6, .7); done(true) }, 50) }, 50))
		})()`)
		require.NoError(t, err)
		soon(t, "a finger writes on the board", has(board, "[data-own-hand='1']"))
		says(t, board, "data-turned", "false") // writing is no turning
		press(t, desk, "Enter")
		soon(t, "mirrored for who faces the class", has(board, "[data-mirrored='true']"))
	case lesson.Read:
		press(t, desk, "l")
		soon(t, "the first part is there", has(board, "[data-shown='1']"))
		press(t, desk, "p")
		soon(t, "a pointer follows what sounds", has(board, "[data-pointer]"))
		press(t, board, "Enter")
		require.NoError(t, board.Click("button[aria-label^='card of']"))
		soon(t, "a press on a bridge shows its card", has(board, "[role=dialog] svg"))
		soon(t, "and the desk puts it away", func() bool { // as soon as it knows of it
			press(t, desk, "Escape")
			return !has(board, "[role=dialog]")()
		})
	case lesson.Spell:
		word := k.Items[0].Value
		assert.NotContains(t, mustEval(t, board, `document.querySelector('main').innerText`), word)
		assert.Contains(t, mustEval(t, desk, `document.querySelector('main').innerText`), word, "the desk knows it")
	case lesson.Sentence:
		if len(k.Pieces) > 1 {
			order := `[...document.querySelectorAll('ul[aria-label="pieces of the sentence"] li')]
				.map(e => e.innerText).join('|')`
			before := mustEval(t, board, order)
			drag(t, board, "ul[aria-label='pieces of the sentence'] li:first-child button",
				"ul[aria-label='pieces of the sentence'] li:last-child button")
			soon(t, "the piece lies elsewhere", func() bool { return mustEval(t, board, order) != before })
		}
	}
}

// A lesson that was loaded runs to its end with the server dead, on both faces of one computer, and logs when it is
// back.
func TestALessonRunsToItsEndWithoutAServer(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	made := s.assembled(t)
	require.NoError(t, s.tab.Go(s.server.URL+"/teach/"+made+"?face=board"))
	require.NoError(t, s.tab.See("[data-face='board']"))
	desk, err := s.tab.Beside()
	require.NoError(t, err)
	face(t, s, desk, made, "desk")
	s.trouble.Store(noLine)
	s.server.CloseClientConnections()
	require.NoError(t, desk.SeeText("no line: the board goes on by itself"))
	for range 60 {
		press(t, desk, "ArrowDown")
		time.Sleep(40 * time.Millisecond)
		if attribute(t, desk, "data-step") == "" {
			break
		}
	}
	require.NoError(t, desk.SeeText("How did it go?"))
	soon(t, "the board ends too", func() bool {
		return mustEval(
			t,
			s.tab,
			`String(document.querySelector('[aria-label="the lesson is over"]') !== null)`,
		) == "true"
	})
	require.NoError(t, desk.ClickText("Log it for the class"))
	require.NoError(t, desk.SeeText("The log is kept in this browser"))
	s.trouble.Store(0)
	lead := s.lead(t)
	require.Eventually(t, func() bool {
		v, err := s.app.Lessons.Lesson(context.Background(), lead, made)
		return err == nil && v.Logged != nil
	}, 40*time.Second, 100*time.Millisecond, "it is logged when the server is back")
	require.Eventually(t, func() bool {
		v, err := s.app.Running.Run(context.Background(), lead, made)
		return err == nil &&
			slices.ContainsFunc(v.Marks, func(m running.Mark) bool { return m.Name == "ended" && m.Value == "true" })
	}, 40*time.Second, 100*time.Millisecond, "and so is where it stood")
}

// What is blended from the team's own recordings, read back as the browser made it: silences between sounds are as long
// as was asked, and no sample jumps where two sounds meet.
func TestBlendedRecordingsHaveNoClickAndTheGapThatWasAsked(t *testing.T) {
	s := open(t)
	require.NoError(t, s.tab.Before(`{
		const old = URL.createObjectURL.bind(URL)
		window.wavs = []
		URL.createObjectURL = b => { if (b.type === 'audio/wav') window.wavs.push(b); return old(b) }
	}`))
	s.signIn(t, "lead")
	made := s.assembled(t)
	require.NoError(t, s.tab.Go(s.server.URL+"/teach/"+made))
	require.NoError(t, s.tab.SeeText("works without network"))
	for range 40 {
		if attribute(t, s.tab, "data-step") == string(lesson.Read) {
			break
		}
		s.dispatch(t, "ArrowDown")
	}
	for n, gap := range []int{700, 400, 200, 80, 0} {
		press(t, s.tab, "p")
		soon(
			t,
			"a word is blended",
			func() bool { return mustEval(t, s.tab, `String(window.wavs.length)`) == fmt.Sprint(n+1) },
		)
		got := mustEval(t, s.tab, fmt.Sprintf(`window.wavs[%d].arrayBuffer().then(b => {
			const d = new DataView(b), rate = d.getUint32(24, true), n = (b.byteLength - 44) / 2
			const x = Array.from({ length: n }, (_, i) => d.getInt16(44 + 2 * i, true) / 32768)
			const gaps = []
			let run = 0, edge = 0
			for (let i = 0; i < n; i++) {
				if (x[i] === 0) run++
				else {
					if (run / rate > 0.03) {
						gaps.push(Math.round(run / rate * 1000))
						for (const at of [i - run, i]) // half a millisecond on both sides: beyond is what was said
							for (let k = at - rate * 0.0005 | 0; k < at + rate * 0.0005; k++)
								edge = Math.max(edge, Math.abs((x[k] ?? 0) - (x[k - 1] ?? 0)))
					}
					run = 0
				}
			}
			return JSON.stringify({ gaps, edge, first: Math.abs(x[0]), last: Math.abs(x[n - 1]) })
		})`, n))
		var found struct {
			Gaps              []float64
			Edge, First, Last float64
		}
		require.NoError(t, json.Unmarshal([]byte(got), &found))
		t.Logf("gap of %d ms: %s", gap, got)
		if gap > 0 {
			assert.NotEmpty(t, found.Gaps)
		}
		for _, g := range found.Gaps {
			assert.InDelta(t, gap, g, 10)
		}
		assert.LessOrEqual(t, max(found.Edge, found.First, found.Last), 0.03)
		time.Sleep(300 * time.Millisecond)
	}
}

// A take that is withdrawn while a lesson is held is heard no more in it.
func TestATakeWithdrawnDuringTheLesson(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	made := s.assembled(t)
	ctx, lead := context.Background(), s.lead(t)
	v, err := s.app.Lessons.Lesson(ctx, lead, made)
	require.NoError(t, err)
	require.NoError(t, s.tab.Go(s.server.URL+"/teach/"+made))
	require.NoError(t, s.tab.See("svg[aria-label='the wave of the sound']"))
	card, err := s.app.Cards.Card(ctx, lead, v.Lesson.Targets[0])
	require.NoError(t, err)
	time.Sleep(time.Second) // the stream of changes is open
	require.NoError(t, s.app.Takes.Withdraw(ctx, lead, card.TakeID))
	require.NoError(t, s.tab.SeeText("A recording was withdrawn: say that sound yourself."))
	require.NoError(t, s.tab.See("svg[aria-label='a short sound']"))
	press(t, s.tab, "p")
	time.Sleep(300 * time.Millisecond)
	assert.Equal(t, "", mustEval(t, s.tab, `document.querySelector('audio').currentSrc`))
}

// At 800x600, as an old projector has it, every screen of a lesson stays within the window.
func TestTheStageFitsAnOldProjector(t *testing.T) {
	nightly(t)
	s := open(t)
	s.signIn(t, "lead")
	made := s.assembled(t)
	require.NoError(t, s.tab.Size(800, 600))
	for _, face := range []string{"", "?face=board"} {
		require.NoError(t, s.tab.Go(s.server.URL+"/teach/"+made+face))
		require.NoError(t, s.tab.See("[data-screen]"))
		for range 100 {
			got := mustEval(
				t,
				s.tab,
				`JSON.stringify([document.documentElement.scrollWidth, document.documentElement.scrollHeight,
				...[...document.querySelectorAll('main button')].filter(b => b.offsetParent && !b.closest('.turning')).map(b => {
					const r = b.getBoundingClientRect()
					return r.bottom > 601 || r.right > 801 ? b.innerText : ''
				}).filter(Boolean)])`,
			)
			require.Equal(t, "[800,600]", got, "screen %s of %s%s", attribute(t, s.tab, "data-screen"), made, face)
			before := attribute(t, s.tab, "data-screen")
			press(t, s.tab, "ArrowDown")
			time.Sleep(120 * time.Millisecond)
			if now := attribute(t, s.tab, "data-screen"); now == before || now == "" {
				break
			}
		}
		require.NoError(t, s.tab.Go(s.server.URL+"/"))
		made = s.assembled(t)
	}
}
