package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/people"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

func (s *stage) lead(t *testing.T) tx.Actor {
	t.Helper()
	lead, err := s.app.Accounts.SignIn(context.Background(),
		people.SignInAttempt{Email: demo.SignIns[0].Email, Password: demo.SignIns[0].Password})
	require.NoError(t, err)
	return lead
}

// forbidden makes a browser keep nothing, as some school profiles do.
const forbidden = `
	const no = () => { throw new DOMException('forbidden', 'SecurityError') }
	Object.defineProperty(window, 'indexedDB', { get: no })
	Object.defineProperty(window, 'localStorage', { get: no })
	Object.defineProperty(window, 'sessionStorage', { get: no })
`

// full makes every write fail, as on a disk without room.
const full = `
	const no = () => { throw new DOMException('full', 'QuotaExceededError') }
	Storage.prototype.setItem = no
	IDBObjectStore.prototype.put = no
	IDBObjectStore.prototype.add = no
`

// Where the browser keeps nothing, or has no room, everything works that needs the server alone: a card is written, a
// lesson taught and logged.
func TestABrowserThatKeepsNothing(t *testing.T) {
	nightly(t)
	for name, script := range map[string]string{"forbidden": forbidden, "full": full} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			made := s.assembled(t)
			lead := s.lead(t)
			ctx := context.Background()
			wall, err := s.app.Cards.Wall(ctx, lead, false)
			require.NoError(t, err)
			require.NoError(t, s.tab.Before(script))
			s.signIn(t, "lead")
			s.desk(t, s.tab, wall[12].CardID)
			s.rhyme(t, "Kept by the server alone.")
			s.stands(t, lead, wall[12].CardID, "Kept by the server alone.")
			require.NoError(t, s.tab.Go(s.server.URL+"/teach/"+made))
			require.NoError(t, s.tab.SeeText("works without network"))
			require.NoError(t, s.tab.ClickText("“on” to the left"))
			require.NoError(t, s.tab.ClickText("End and log"))
			require.NoError(t, s.tab.ClickText("Log it for the class"))
			require.NoError(t, s.tab.SeeText("Logged."))
			for i, page := range s.pages(t, made) {
				if i%3 != 0 { // one of each kind will do
					continue
				}
				require.NoError(t, s.tab.Go(s.server.URL+page))
				require.Eventually(t, func() bool {
					return mustEval(t, s.tab, `document.querySelector('h1')?.textContent ?? ''`) != ""
				}, 10*time.Second, 30*time.Millisecond, page)
			}
		})
	}
}

// A clock that is a day fast or slow changes neither who is signed in nor when a lesson was taught.
func TestAClockThatIsWrongByADay(t *testing.T) {
	nightly(t)
	s := open(t)
	lead := s.lead(t)
	s.signIn(t, "lead")
	for _, by := range []int{1, -1} {
		made := s.assembled(t)
		tab, err := s.tab.Beside()
		require.NoError(t, err)
		require.NoError(t, tab.Before(fmt.Sprintf(`{
			const now = Date.now.bind(Date), by = %d * 86400000, Real = Date
			Date = class extends Real {
				constructor(...a) { a.length ? super(...a) : super(now() + by) }
				static now() { return now() + by }
			}
		}`, by)))
		require.NoError(t, tab.Go(s.server.URL+"/teach/"+made))
		require.NoError(t, tab.SeeText("works without network"))
		require.NoError(t, tab.SeeText("0:0"), "the lesson's own clock begins at nought")
		require.NoError(t, tab.ClickText("End and log"))
		require.NoError(t, tab.ClickText("Log it for the class"))
		require.NoError(t, tab.SeeText("Logged."))
		v, err := s.app.Lessons.Lesson(context.Background(), lead, made)
		require.NoError(t, err)
		require.NotNil(t, v.Logged)
		assert.WithinDuration(t, time.Now(), v.Logged.TaughtAt, 24*time.Hour, "today, by the server")
		tab.Close()
	}
}

// A name of 80 letters, a sentence of 300 words: each screen takes them or says what is too long; none gets wider than
// the window.
func TestLongNamesAndTextsFitEveryScreen(t *testing.T) {
	nightly(t)
	s := open(t)
	lead := s.lead(t)
	ctx := context.Background()
	long := strings.Repeat("Wildwaterway", 7)[:80] // without a place to break it
	class, err := s.app.Classes.NewClass(ctx, lead, long, "class")
	require.NoError(t, err)
	wall, err := s.app.Cards.Wall(ctx, lead, false)
	require.NoError(t, err)
	for _, w := range wall[:6] {
		c, err := s.app.Cards.Card(ctx, lead, w.CardID)
		require.NoError(t, err)
		c.Content.Rhyme = strings.Repeat("Wildwaterway", 30)
		c.Content.Keyword = strings.Repeat("w", 40)
		c.Content.Notes = strings.Repeat("waterway", 400)
		c.Content.Sentences = append(c.Content.Sentences, strings.TrimSpace(strings.Repeat("tam ", 90)))
		_, err = s.app.Cards.Save(ctx, lead, w.CardID, c.Version, c.Content)
		require.NoError(t, err)
	}
	made, err := s.app.Lessons.Assemble(ctx, lead, teaching.LessonAsk{
		ClassID: class, Purpose: lesson.Introduce, CardIDs: []string{wall[0].CardID}, Minutes: 20,
	})
	require.NoError(t, err)
	s.signIn(t, "lead")
	pages := append(s.pages(t, made.LessonID), "/classes/"+class, "/texts?text="+strings.Repeat("Wild+", 300),
		"/words?word="+strings.Repeat("w", 30), "/letters?text="+strings.Repeat("m", 24))
	for _, width := range []int64{390, 1280} {
		require.NoError(t, s.tab.Size(width, 800))
		for i, page := range pages {
			if width > 390 && i%3 != 0 { // what fits the narrow one nearly always fits
				continue
			}
			at := fmt.Sprintf("%.60s at %d", page, width)
			s.walk(t, page)
			s.fits(t, at)
		}
	}
}

// Zoom of 200 and 400 per cent at 1280 by 1024 is a window of 640 by 512 and of 320 by 256 (WCAG 2.2, 1.4.10).
func TestZoomReflows(t *testing.T) {
	nightly(t)
	s := open(t)
	s.signIn(t, "lead")
	made := s.assembled(t)
	for _, size := range [][2]int64{{640, 512}, {320, 256}} {
		require.NoError(t, s.tab.Size(size[0], size[1]))
		for i, page := range s.pages(t, made) {
			if size[0] > 320 && i%3 != 0 { // what fits the narrow one nearly always fits
				continue
			}
			at := fmt.Sprintf("%s at %d", page, size[0])
			s.walk(t, page)
			s.fits(t, at)
		}
	}
}

// One tab of a browser writes on a card at a time; the other says so and can take the writing over. A sign-out in one
// tab is seen in the other, and what was typed there waits for the next sign-in.
func TestTwoTabsOnOneCardAndASignOut(t *testing.T) {
	s := open(t)
	lead := s.lead(t)
	s.signIn(t, "lead")
	wall, err := s.app.Cards.Wall(context.Background(), lead, false)
	require.NoError(t, err)
	id := wall[12].CardID
	s.desk(t, s.tab, id)
	s.rhyme(t, "In the first tab")
	one := s.tab
	two, err := one.Beside()
	require.NoError(t, err)
	require.NoError(t, two.Go(s.server.URL+"/cards/"+id))
	require.NoError(t, two.SeeText("You write on this card in another tab"))
	s.tab = two
	s.axe(t, "a card that another tab writes on")
	require.NoError(t, two.ClickText("Write here instead"))
	require.NoError(t, one.SeeText("You write on this card in another tab"))
	s.stands(t, lead, id, "In the first tab")
	require.Eventually(t, func() bool {
		return mustEval(t, two, `String([...document.querySelectorAll('textarea')].every(f => !f.readOnly))`) == "true"
	}, 10*time.Second, 50*time.Millisecond)
	s.rhyme(t, "In the second tab")
	s.stands(t, lead, id, "In the second tab")
	t.Log(mustEval(t, two, whatIsKept))
	assert.Eventually(t, func() bool {
		return strings.Contains(mustEval(t, one, `[...document.querySelectorAll('textarea')].map(f => f.value).join()`),
			"In the second tab")
	}, 10*time.Second, 100*time.Millisecond, "the first tab shows what stands")

	_ = mustEval(t, one, `fetch('/api/session', {method: 'DELETE'}).then(r => String(r.status))`)
	s.rhyme(t, "After the sign-out")
	require.NoError(t, two.SeeText("your session has ended"))
	require.NoError(t, two.Type("input[type=email]", demo.SignIns[0].Email))
	require.NoError(t, two.Type("input[type=password]", demo.SignIns[0].Password))
	require.NoError(t, two.ClickText("Sign in"))
	s.stands(t, lead, id, "After the sign-out")
}
