package e2e

import (
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/core/card"
	"brightchalk/test/browser"
)

// cuts is how often the line, the tab, the server or the session is cut while somebody types and logs: a part in each
// run, all two hundred by ./chalk browsers.
func cuts() int {
	if os.Getenv("BRIGHT_CHALK_BROWSERS") != "" {
		return 200
	}
	return 24
}

// typeInto puts the cursor at the end of a field by its label and types; false where the field is not there now.
func (s *stage) typeInto(t *testing.T, label, text string) bool {
	t.Helper()
	found, err := browser.Eval[bool](s.tab, `(() => {
		const l = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === '`+label+`')
		const f = l && document.getElementById(l.htmlFor)
		if (!f || f.readOnly || document.querySelector('[role=dialog]')) return false
		f.focus()
		f.setSelectionRange(f.value.length, f.value.length)
		return true
	})()`)
	if err != nil || !found {
		return false
	}
	require.NoError(t, s.tab.Key(text))
	return true
}

// whatIsKept says what the page shows of its saving, what its outbox holds and what the card's calls were answered.
const whatIsKept = `(async () => {
	const db = await new Promise(r => { const q = indexedDB.open('bright-chalk'); q.onsuccess = () => r(q.result) })
	const all = await new Promise(r => {
		const q = db.transaction('outbox').objectStore('outbox').getAll()
		q.onsuccess = () => r(q.result)
	})
	return JSON.stringify({
		saving: document.querySelector('[data-saving]')?.innerText, letters: all, hurried: { ...localStorage },
		conflict: [...document.querySelectorAll('button')].some(b => b.innerText === 'Keep mine'),
		calls: performance.getEntriesByType('resource').filter(e => e.name.endsWith(location.pathname))
			.map(e => Math.round(e.startTime) + ': ' + e.responseStatus),
	}, null, 1)
})()`

// Two hundred times the line, the tab, the server or the session is cut while a rhyme is typed and lessons are logged;
// every letter that was seen on the page stands on the server at the end, and so does every log.
func TestNothingIsLostInCuts(t *testing.T) {
	nightly(t)
	s := open(t)
	made := s.assembled(t)
	s.signIn(t, "lead")
	ctx := context.Background()
	lead := s.lead(t)
	wall, err := s.app.Cards.Wall(ctx, lead, false)
	require.NoError(t, err)
	id := wall[12].CardID
	_, err = s.app.Reviews.SetState(ctx, lead, id, card.Draft) // one that is agreed asks before it is changed
	require.NoError(t, err)
	page := s.server.URL + "/cards/" + id
	logPage := s.server.URL + "/teach/" + made + "?log=true"
	chance := rand.New(rand.NewPCG(14, 200))
	token := mustEval(t, s.tab, `document.cookie`)
	require.Empty(t, token, "the session is not for scripts")

	again := func(path string) {
		t.Helper()
		s.trouble.Store(0)
		require.NoError(t, s.tab.Go(path))
		for end := time.Now().Add(20 * time.Second); ; time.Sleep(40 * time.Millisecond) {
			require.True(
				t,
				time.Now().Before(end),
				"the page comes back: %s",
				mustEval(t, s.tab, "document.body.innerText"),
			)
			text := mustEval(t, s.tab, `document.body.innerText`)
			if strings.Contains(text, "session has ended") || strings.Contains(text, "One agreed library") {
				s.sameAgain(t)
			}
			if strings.Contains(text, "Rhyme") || strings.Contains(text, "How did it go?") ||
				strings.Contains(text, "Correct the log") {
				return
			}
		}
	}
	first := s.tab // it keeps the browser open
	s.tab, err = first.Beside()
	require.NoError(t, err)
	again(page)
	require.NoError(t, s.tab.SeeText("✓ Saved"))
	s.rhyme(t, "Start.")
	typed, typedInLog, missed := "Start.", 0, 0
	stands := func() {
		t.Helper()
		again(page)
		if !assert.Eventually(t, func() bool {
			c, err := s.app.Cards.Card(ctx, lead, id)
			return err == nil && c.Content.Rhyme == typed
		}, 30*time.Second, 100*time.Millisecond, typed) {
			c, err := s.app.Cards.Card(ctx, lead, id)
			t.Log(c.Version, c.Content.Rhyme, err, mustEval(t, s.tab, whatIsKept))
		}
	}
	for i := range cuts() {
		if i%40 == 39 { // a rhyme has up to 400 signs
			stands()
			s.rhyme(t, "Again.")
			typed = "Again."
		}
		if i%20 == 19 { // a lesson is logged while the line is bad
			again(logPage)
			s.trouble.Store([]int32{502, noLine, 401}[chance.IntN(3)])
			note := fmt.Sprintf("note %d", i)
			require.NoError(t, s.tab.SeeText("A note about the class"))
			_, err := browser.Eval[bool](s.tab, `(() => {
				const l = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === 'A note about the class')
				const f = document.getElementById(l.htmlFor)
				f.focus(); f.select()
				return true
			})()`)
			require.NoError(t, err)
			require.NoError(t, s.tab.Key(note))
			require.NoError(t, s.tab.ClickText("Log it for the class"))
			time.Sleep(time.Duration(100+chance.IntN(300)) * time.Millisecond)
			typedInLog = i
			again(page)
			continue
		}
		chunk := fmt.Sprintf(" w%d", i)
		if !s.typeInto(t, "Rhyme", chunk) {
			missed++
			again(page)
			require.True(t, s.typeInto(t, "Rhyme", chunk))
		}
		typed += chunk
		time.Sleep(time.Duration(chance.IntN(60)) * time.Millisecond)
		switch chance.IntN(6) {
		case 0: // the tab: loaded anew in the middle of it
			again(page)
		case 1: // the tab: closed, another one opened
			next, err := first.Beside()
			require.NoError(t, err)
			s.tab.Close()
			s.tab = next
			require.NoError(t, s.tab.Size(1280, 800))
			again(page)
		case 2: // the line
			s.trouble.Store(noLine)
		case 3: // the server
			s.trouble.Store(502)
		case 4: // well again
			s.trouble.Store(0)
		case 5: // the session
			_, err := s.app.Pool.Exec(ctx, "DELETE FROM sessions")
			require.NoError(t, err)
			again(page)
		}
	}
	stands()
	c, err := s.app.Cards.Card(ctx, lead, id)
	require.NoError(t, err)
	assert.Equal(t, typed, c.Content.Rhyme)
	assert.Eventually(t, func() bool {
		v, err := s.app.Lessons.Lesson(ctx, lead, made)
		return err == nil && v.Logged != nil && v.Logged.Note == fmt.Sprintf("note %d", typedInLog)
	}, 40*time.Second, 200*time.Millisecond, "the last log stands")
	t.Logf("%d cuts, %d times the field was not there to type in", cuts(), missed)
}

// sameAgain signs in over the page, as the one who was signed in.
func (s *stage) sameAgain(t *testing.T) {
	t.Helper()
	if mustEval(t, s.tab, `String(document.querySelector('input[type=email]') !== null)`) != "true" {
		return
	}
	_, err := browser.Eval[bool](s.tab, `(async () => {
		await fetch('/api/session', {method: 'POST', headers: {'Content-Type': 'application/json'},
			body: JSON.stringify({email: '`+demo.SignIns[0].Email+`', password: '`+demo.SignIns[0].Password+`'})})
		location.reload()
		return true
	})()`)
	_ = err // the page goes away under the answer
	time.Sleep(300 * time.Millisecond)
}
