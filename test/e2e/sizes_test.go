package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/teaching"
)

// measured says what does not fit a window: how far the page is too wide and by what, and what a finger can hardly hit
// (WCAG 2.2, 2.5.5: 44 by 44 pixels; what is narrower than 24 is told here, as letters stand in rows).
const measured = `JSON.stringify((() => {
	const wide = document.documentElement.scrollWidth - innerWidth
	const by = wide > 0 ? [...document.querySelectorAll('main *')]
		.filter(e => e.getBoundingClientRect().right > innerWidth + 1).slice(0, 3).map(e => e.outerHTML.slice(0, 90)) : []
	const small = [...document.querySelectorAll('button, a[href], select, input, summary, textarea')].filter(e => {
		const label = e.matches('input[type=checkbox], input[type=radio], input[type=file]') && e.closest('label')
		const r = (label || e).getBoundingClientRect()
		if (r.width < 2 || getComputedStyle(e).visibility === 'hidden') return false
		return r.height < 43.5 || r.width < 24
	}).map(e => e.outerHTML.slice(0, 90))
	return { wide, by, small, title: document.title, heading: document.querySelector('h1')?.textContent ?? '' }
})())`

// assembled makes a lesson for the first class and returns its id.
func (s *stage) assembled(t *testing.T) string {
	t.Helper()
	ctx := context.Background()
	lead := s.lead(t)
	classes, err := s.app.Classes.Classes(ctx, lead)
	require.NoError(t, err)
	class, err := s.app.Classes.Class(ctx, lead, classes[0].ClassID)
	require.NoError(t, err)
	made, err := s.app.Lessons.Assemble(ctx, lead, teaching.LessonAsk{
		ClassID: class.ClassID, Purpose: lesson.Introduce, CardIDs: []string{class.Next}, Minutes: 20,
	})
	require.NoError(t, err)
	return made.LessonID
}

// pages are all views, those of the first card and the first class, and of a lesson.
func (s *stage) pages(t *testing.T, made string) []string {
	t.Helper()
	first := func(path, key string) string {
		return mustEval(t, s.tab, `fetch('/api`+path+`').then(r => r.json()).then(l => l[0].`+key+`)`)
	}
	waiting := mustEval(t, s.tab, `fetch('/api/today').then(r => r.json()).then(d => d.waiting[0].card_id)`)
	return []string{
		"/",
		"/lessons",
		"/lessons/" + made,
		"/teach/" + made,
		"/teach/" + made + "?log=true",
		"/teach/" + made + "?face=board",
		"/teach/" + made + "?face=desk",
		"/join",
		"/words",
		"/words?tab=ears",
		"/words?tab=play",
		"/texts",
		"/letters",
		"/letters?text=sh",
		"/booth",
		"/booth?tab=shelf",
		"/booth?tab=hearing",
		"/today",
		"/audit",
		"/bring",
		"/stock",
		"/stock?tab=books",
		"/stock?tab=replace&what=pip&with=moss",
		"/plan",
		"/plan?tab=year",
		"/plan?tab=reading",
		"/plan?tab=pace",
		"/plan?tab=school",
		"/order",
		"/meeting",
		"/team",
		"/team?tab=routine",
		"/team?tab=people",
		"/team?tab=classes",
		"/team?tab=print",
		"/cards/" + first("/cards", "card_id"),
		"/cards/" + waiting + "/review",
		"/classes/" + first("/classes", "class_id"),
		"/nowhere",
	}
}

// fit is what measured says of a page.
type fit struct {
	Wide           float64
	By, Small      []string
	Title, Heading string
}

// fits asks that the page is no wider than its window.
func (s *stage) fits(t *testing.T, at string) fit {
	t.Helper()
	var got fit
	require.Eventually(t, func() bool { // a page that is still fetched has no heading
		time.Sleep(150 * time.Millisecond)
		got = fit{}
		return json.Unmarshal([]byte(mustEval(t, s.tab, measured)), &got) == nil && got.Heading != ""
	}, 10*time.Second, 30*time.Millisecond, at)
	assert.LessOrEqual(t, got.Wide, 0.0, "%s: %v", at, got.By)
	return got
}

// Every page at narrow and at wide sizes: nothing is wider than the window, everything can be hit with a finger, the
// page has a heading, and the window is named by it.
func TestEveryPageFitsEveryWindow(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	made := s.assembled(t)
	pages := s.pages(t, made)
	sizes := [][2]int64{{390, 844}, {768, 1024}, {1024, 768}, {2560, 1440}}
	if testing.Short() { // the narrowest finds nearly all
		sizes = sizes[:1]
	}
	for k, size := range sizes {
		require.NoError(t, s.tab.Size(size[0], size[1]))
		for i, page := range pages {
			if k > 0 && i%3 != k-1 { // the wider ones take a third of the pages each
				continue
			}
			at := fmt.Sprintf("%s at %d", page, size[0])
			if size[0] == 390 { // each page is loaded once, and come to by a link from then on
				require.NoError(t, s.tab.Go(s.server.URL+page))
			} else {
				s.walk(t, page)
			}
			got := s.fits(t, at)
			assert.Empty(t, got.Small, at)
			assert.Equal(t, got.Heading+" · Bright Chalk", got.Title, at)
			if size[0] == 390 && !testing.Short() { // the states are looked at at 1280
				s.axe(t, at)
			}
		}
	}
}

// The focus goes along: after a change of page it is on the new heading; keys can be seen and switched off; a focused
// button keeps its own.
func TestKeyboardAlone(t *testing.T) {
	s := open(t)
	s.atWall(t, "lead")
	tab := s.tab
	focus := `document.activeElement.tagName + ' ' + document.activeElement.textContent.trim()`
	require.NoError(t, tab.ClickText("Lessons"))
	require.NoError(t, tab.SeeText("Make a lesson"))
	assert.Eventually(
		t,
		func() bool { return mustEval(t, tab, focus) == "H1 Make a lesson" },
		5*time.Second,
		50*time.Millisecond,
	)
	require.NoError(t, tab.ClickText("Booth"))
	require.NoError(t, tab.SeeText("Record what is missing"))
	require.NoError(t, tab.Key("?"))
	require.NoError(t, tab.SeeText("Keys of this page"))
	require.NoError(t, tab.SeeText("the next sound that is missing"))
	s.axe(t, "the list of keys")
	require.NoError(t, tab.Click("[role=dialog] input"))
	require.NoError(t, tab.ClickText("Close"))
	before := mustEval(t, tab, `location.href`)
	require.NoError(t, tab.Key("n"))
	time.Sleep(300 * time.Millisecond)
	assert.Equal(t, before, mustEval(t, tab, `location.href`), "single keys are off")
	require.NoError(t, tab.Click("header button[aria-haspopup=menu]"))
	require.NoError(t, tab.SeeText("Keys of this page"))
	s.axe(t, "the account's menu")
	require.NoError(t, tab.Click("[role=menuitem]"))
	require.NoError(t, tab.Click("[role=dialog] input"))
	require.NoError(t, tab.ClickText("Close"))
	require.NoError(t, tab.Key("n"))
	assert.Eventually(
		t,
		func() bool { return mustEval(t, tab, `location.href`) != before },
		5*time.Second,
		50*time.Millisecond,
	)
}

// The search goes to anything by a few letters and the Enter key.
func TestSearch(t *testing.T) {
	s := open(t)
	s.atWall(t, "lead")
	tab := s.tab
	ask := func(text, page string) {
		t.Helper()
		s.dispatch(t, "/")
		require.NoError(t, tab.SeeText("How the library sounds"), "the pages stand there at first")
		require.NoError(t, tab.Key(text))
		time.Sleep(200 * time.Millisecond)
		s.axe(t, "the search for "+text)
		require.NoError(t, tab.Key(kb.Enter))
		assert.Eventually(t, func() bool {
			return mustEval(t, tab, `document.title`) == page+" · Bright Chalk"
		}, 5*time.Second, 50*time.Millisecond, text)
	}
	ask("sh", "Card sh")
	ask("heron class", "Heron class")
	ask("password", "Team")
	require.NoError(t, tab.SeeText("Add a person"))
	s.dispatch(t, "/")
	require.NoError(t, tab.Key("qzx!"))
	require.NoError(t, tab.SeeText("Try fewer letters"))
	require.NoError(t, tab.Key(kb.Escape))
	assert.Eventually(t, func() bool {
		return mustEval(t, tab, `String(document.querySelector('[role=dialog]') === null)`) == "true"
	}, 5*time.Second, 50*time.Millisecond)
}

// What is taken away stays until the page is left, and can be put back.
func TestTakenAwayAndPutBack(t *testing.T) {
	s := open(t)
	s.atWall(t, "lead")
	tab := s.tab
	require.NoError(t, tab.Click("[data-grapheme='m']"))
	require.NoError(t, tab.SeeText("Withdraw"))
	takes := `fetch('/api' + location.pathname + '/takes').then(r => r.json()).then(l => String(l.length))`
	had := mustEval(t, tab, takes)
	require.NoError(t, tab.ClickText("Withdraw"))
	require.NoError(t, tab.SeeText("is withdrawn. It goes for good when you leave this page"))
	assert.Equal(t, had, mustEval(t, tab, takes))
	s.axe(t, "a take that was withdrawn")
	other, err := tab.Beside()
	require.NoError(t, err)
	require.NoError(t, other.Go(s.server.URL+"/lessons"))
	time.Sleep(6 * time.Second) // a tab sends every four seconds what lies in the outbox
	assert.Equal(t, had, mustEval(t, tab, takes), "another tab does not send it")
	other.Close()
	require.NoError(t, tab.ClickText("Put it back"))
	require.NoError(t, tab.SeeText("Withdraw"))
	require.NoError(t, tab.ClickText("Withdraw"))
	require.NoError(t, tab.SeeText("is withdrawn"))
	at := mustEval(t, tab, `location.pathname`)
	require.NoError(t, tab.ClickText("Library"))
	require.NoError(t, tab.SeeText("complete"))
	assert.Eventually(t, func() bool {
		left := `fetch('/api` + at + `/takes').then(r => r.json()).then(l => String(l.length))`
		return mustEval(t, tab, left) != had
	}, 15*time.Second, 100*time.Millisecond)
}

// What is changed on a form and not sent outlives leaving the page and a reload, and is given up only by a press.
func TestAFormThatWasLeft(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/team"))
	require.NoError(t, tab.SeeText("What we agreed"))
	const capitals = `[...document.querySelectorAll('label')].find(l => l.innerText.startsWith('Capitals with'))`
	ticked := "String(" + capitals + ".querySelector('input').checked)"
	was := mustEval(t, tab, ticked)
	mustEval(
		t,
		tab,
		`([...document.querySelectorAll('label')].find(l => l.innerText.startsWith('Capitals with')).click(), '')`,
	)
	require.NoError(t, tab.SeeText("not agreed yet"))
	s.axe(t, "a form that is not agreed yet")
	require.NoError(t, tab.ClickText("Library"))
	require.NoError(t, tab.SeeText("complete"))
	require.NoError(t, tab.Go(s.server.URL+"/team"))
	require.NoError(t, tab.SeeText("not agreed yet"))
	assert.NotEqual(t, was, mustEval(t, tab, ticked))
	require.NoError(t, tab.ClickText("Back to what stands"))
	assert.Eventually(t, func() bool { return mustEval(t, tab, ticked) == was }, 5*time.Second, 50*time.Millisecond)
	mustEval(
		t,
		tab,
		`([...document.querySelectorAll('label')].find(l => l.innerText.startsWith('Capitals with')).click(), '')`,
	)
	require.NoError(t, tab.ClickText("Agree these"))
	require.NoError(t, tab.SeeText("New lessons follow it"))
	require.NoError(t, tab.Go(s.server.URL+"/team"))
	require.NoError(t, tab.SeeText("What we agreed"))
	assert.NotEqual(t, was, mustEval(t, tab, ticked))
	assert.NotContains(t, mustEval(t, tab, `document.body.innerText`), "not agreed yet")
}

// Words for a step that were begun are there again after the page was left, and go when the server has them.
func TestWordsOfAStepThatWereBegun(t *testing.T) {
	s := open(t)
	made := s.assembled(t)
	s.signIn(t, "lead")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/lessons/"+made))
	require.NoError(t, tab.ClickText("Write it in our words"))
	require.NoError(t, tab.Click("textarea"))
	require.NoError(t, tab.Key("Ears open, Herons. "))
	require.NoError(t, tab.ClickText("Library"))
	require.NoError(t, tab.SeeText("complete"))
	require.NoError(t, tab.Go(s.server.URL+"/lessons/"+made))
	require.NoError(t, tab.SeeText("Keep these words"))
	assert.Contains(t, mustEval(t, tab, `document.querySelector('textarea').value`), "Ears open, Herons.")
	require.NoError(t, tab.ClickText("Keep these words"))
	require.NoError(t, tab.SeeText("in your words"))
	require.NoError(t, tab.Go(s.server.URL+"/lessons/"+made))
	require.NoError(t, tab.SeeText("Ears open, Herons."))
	assert.NotContains(t, mustEval(t, tab, `document.body.innerText`), "Keep these words")
}
