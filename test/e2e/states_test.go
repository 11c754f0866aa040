package e2e

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// state is one that a page can be in, and how it gets there. What a step looks for is waited for.
type state struct {
	name, path string
	do         []string // click TEXT, css SELECTOR, key KEY, type TEXT, choose LABEL=VALUE, see TEXT
}

// opens tells whether something is done on the page, or goes on from such a state.
func (at state) opens() bool {
	return at.path == "" || slices.ContainsFunc(at.do, func(step string) bool { return !strings.HasPrefix(step, "see ") })
}

func (s *stage) reach(t *testing.T, at state) {
	t.Helper()
	if at.path != "" {
		s.walk(t, at.path)
	}
	for _, step := range at.do {
		var kind, what string
		_, err := fmt.Sscanf(step, "%s", &kind)
		require.NoError(t, err)
		what = step[len(kind)+1:]
		switch kind {
		case "click":
			err = s.tab.ClickText(what)
		case "css":
			err = s.tab.Click(what)
		case "key":
			s.dispatch(t, what)
		case "type":
			err = s.tab.Key(what)
		case "see":
			err = s.tab.SeeText(what)
		default:
			err = fmt.Errorf("no such step: %s", step)
		}
		if !assert.NoError(t, err, at.name) {
			return
		}
	}
	time.Sleep(150 * time.Millisecond)
}

// Every view in its states: dialogs, menus, errors, what is empty, what was asked, each step of a lesson on the stage.
// axe-core finds nothing in any of them. The walk is cut into four, each with a server of its own.
func TestNothingIsWrongForAScreenReaderInAnyState(t *testing.T) {
	const parts = 4
	for part := range parts {
		t.Run(fmt.Sprintf("part %d of %d", part+1, parts), func(t *testing.T) {
			s := open(t)
			s.signIn(t, "lead")
			all := s.states(t, s.assembled(t))
			assert.GreaterOrEqual(t, len(all), 60)
			// A state without a path goes on from the one before it.
			cut := func(i int) int {
				for i > 0 && i < len(all) && all[i].path == "" {
					i++
				}
				return i
			}
			if testing.Short() { // pages as they come are looked at in every window; here is what is opened on them
				var opened []state
				for i, at := range all {
					if at.opens() || i+1 < len(all) && all[i+1].path == "" {
						opened = append(opened, at)
					}
				}
				all = opened
			}
			for _, at := range all[cut(part*len(all)/parts):cut((part+1)*len(all)/parts)] {
				s.reach(t, at)
				s.axeWith(t, at.name, true)
			}
		})
	}
}

func TestNothingIsWrongForAScreenReaderOnTheStage(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	require.NoError(t, s.tab.Go(s.server.URL+"/teach/"+s.assembled(t)))
	require.NoError(t, s.tab.SeeText("works without network"))
	steps := 0
	for last := ""; ; steps++ {
		step := attribute(t, s.tab, "data-step")
		if step == last || step == "" {
			break
		}
		s.axe(t, "stage: "+step)
		last = step
		s.dispatch(t, "ArrowDown")
	}
	assert.GreaterOrEqual(t, steps, 5)
}

// states lists the states of all pages, with a lesson that was made.
func (s *stage) states(t *testing.T, made string) []state {
	t.Helper()
	ctx := context.Background()
	lead := s.lead(t)
	_, err := s.app.Classes.NewClass(ctx, lead, "Wagtail class", "class") // knows nothing yet
	require.NoError(t, err)
	classes, err := s.app.Classes.Classes(ctx, lead)
	require.NoError(t, err)
	card := func(g string) string {
		return "/cards/" + mustEval(t, s.tab,
			`fetch('/api/cards').then(r => r.json()).then(l => l.find(c => c.pair.grapheme === '`+g+`').card_id)`)
	}
	lesson, full, bare := "/lessons/"+made, card("m"), card("igh")
	fresh := ""
	for _, c := range classes {
		if c.Name == "Wagtail class" {
			fresh = c.ClassID
		}
	}
	require.NotEmpty(t, fresh)
	soon := mustEval(t, s.tab, `fetch('/api/classes').then(r => r.json())
		.then(l => fetch('/api/classes/' + l[0].class_id + '/year')).then(r => r.json())
		.then(y => y.weeks.flatMap(w => w.days).find(d => d.kind === 'lesson' && d.date > y.today).date)`)
	return []state{
		{"wall of pictures", "/?side=pictures", nil},
		{"wall of both sides", "/?side=both", nil},
		{"wall that finds nothing", "/", []string{"key f", "type qqq", "see No card"}},
		{"new card", "/", []string{"click Add a card", "see A new card"}},
		{"new card with a choice of sounds", "", []string{"css [role=dialog] input", "type ow", "see as in"}},
		{"today", "/today", []string{"see Ready before its day"}},
		{"a card in review", card("e") + "/review", []string{"see put it forward"}},
		{"something said", card("e") + "/review", []string{"click Say something", "click Propose another wording"}},
		{"a card to put forward", card("l") + "/review", []string{"see Who should read it"}},
		{"a new school year", "/team?tab=classes", []string{"click A new school year", "see Begin the year"}},
		{"the library looked over", "/audit", []string{"click We know; leave it", "see Why it stays"}},
		{"what comes in and goes out", "/bring", []string{"see One workbook"}},
		{"a card in use", full, []string{"see Change this card"}},
		{"a full card", full, []string{"click Change this card", "see ✓ Saved"}},
		{"a card that lacks much", bare, []string{"see ✓ Saved"}},
		{"its measurements", full, []string{"click Measurements", "see centre of the hiss"}},
		{"former versions", full, []string{"click Order, print, changes", "click Changes"}},
		{"the room", full, []string{"click Check the room"}},
		{"lesson, an ear step", lesson + "?step=ear", nil},
		{"lesson, reading", lesson + "?step=read", nil},
		{"lesson, what a word means", "", []string{"click means", "see Keep for all lessons"}},
		{"lesson, notes", lesson, []string{"click note"}},
		{"lesson, own words", lesson, []string{"click Write it in our words", "see Keep these words"}},
		{
			"lesson, a word taken out",
			lesson + "?step=read",
			[]string{"css [aria-label^='take out']", "see is taken out"},
		},
		{"lesson, a word refused", lesson + "?step=read", []string{
			"css [aria-label^='Add a word']", "type zzqx", "click Add", "see zzqx",
		}},
		{"print dialog", lesson, []string{"click Print", "see To take home"}},
		{"lessons of one class", "/lessons", nil},
		{"log", "/teach/" + made + "?log=true", nil},
		{"log apart", "", []string{"click Reading, spelling and forming apart", "see as above"}},
		{"log with steps skipped", "", []string{"click Steps skipped today"}},
		{"class that knows nothing", "/classes/" + fresh, nil},
		{"words for a class", "/words", []string{"see found"}},
		{"words, more limits", "", []string{"click more limits", "see fewer limits"}},
		{"words, a menu", "/words", []string{"css [aria-label^='More for']", "see Refuse it"}},
		{"words, some picked", "/words?picked=bat~big", []string{"see 2 picked"}},
		{"words, looked up", "/words?word=boat", []string{"see boat"}},
		{"words, refused", "/words?word=qqq", nil},
		{"made-up words", "/words?tab=make", []string{"see found"}},
		{"ear games", "/words?tab=ear", nil},
		{"a chain", "/words?tab=play", nil},
		{"a slip hunt", "/words?tab=play&play=slips", nil},
		{"compounds", "/words?tab=play&play=compounds", nil},
		{"find and ring", "/words?tab=play&play=rings", nil},
		{"what a step unlocks", "/words?tab=unlocks", []string{"see words that most children know"}},
		{"spellings", "/words?tab=spellings&of=ow", []string{"see words;"}},
		{"spellings of nothing", "/words?tab=spellings&of=qz", []string{"see No word of the list"}},
		{"a text under check", "/texts?text=The+yacht+sat+on+a+mat.", nil},
		{"letters", "/letters?text=a", nil},
		{"a capital", "/letters?text=B", nil},
		{"a word written", "/letters?text=rain", nil},
		{
			"letters, a menu",
			"/letters?text=a",
			[]string{"css [aria-label='More for this letter']", "see Draw it differently"},
		},
		{"practice sheet", "/letters?text=a", []string{"click Practice sheet", "see A practice sheet"}},
		{"letters, no strokes", "/letters?text=é", nil},
		{"booth", "/booth", nil},
		{"how the library sounds", "/booth?tab=shelf", nil},
		{"listen blind", "/booth?tab=hearing", nil},
		{"a week of a class", "/plan", nil},
		{"a year", "/plan?tab=year", nil},
		{
			"a day that is lost",
			"/plan?tab=year&day=" + soon,
			[]string{"click This day is lost", "see What it does to the rest"},
		},
		{"what they will read", "/plan?tab=reading", []string{"see Week by week"}},
		{"pace", "/plan?tab=pace", nil},
		{"a calendar's address", "", []string{"click Make an address", "see Shown this once"}},
		{"school year", "/plan?tab=school", []string{"click + a term", "click + a year group"}},
		{"order", "/order", []string{"see opens"}},
		{"a better order", "/order", []string{"click Look for a better order", "see Nothing changes until"}},
		{"an order from a table", "/order", []string{"click From a table", "see a line for each step"}},
		{"for the meeting", "/meeting", nil},
		{
			"a group that catches up",
			"/meeting",
			[]string{"click Make a group", "css [role=dialog] input", "see the shakiest first"},
		},
		{"agreements", "/team", nil},
		{"routine", "/team?tab=routine", nil},
		{"people", "/team?tab=people", []string{"click Add a person"}},
		{"a person", "/team?tab=people", []string{"css li summary", "see Remove from the team"}},
		{"before somebody is removed", "", []string{"click Remove from the team", "see Keep"}},
		{"a person refused", "/team?tab=people", []string{
			"click Add a person", "css form input", "type N", "click Add",
		}},
		{"classes", "/team?tab=classes", nil},
		{"what the team prints", "/team?tab=print", nil},
		{"search", "/lessons", []string{"key /", "see How the library sounds"}},
		{"search for nothing", "", []string{"type qzx!", "see Try fewer letters"}},
		{"keys", "/lessons", []string{"key ?", "see Keys of this page"}},
		{"the account's menu", "/lessons", []string{"css header button[aria-haspopup=menu]", "see Sign out"}},
		{"a card that is not there", "/cards/00000000-0000-0000-0000-000000000000", nil},
		{"nowhere", "/nowhere", nil},
	}
}

// Presses that a task takes, counted: the keys and clicks of somebody who knows the way.
func TestTasksTakeFewPresses(t *testing.T) {
	nightly(t)
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	presses := 0
	click := func(text string) {
		t.Helper()
		presses++
		require.NoError(t, tab.ClickText(text))
	}
	require.NoError(t, tab.Go(s.server.URL+"/lessons"))
	require.NoError(t, tab.SeeText("This is the next one in your order"))
	click("Make the lesson")
	require.NoError(t, tab.SeeText("Write it in our words"))
	steps := mustEval(
		t,
		tab,
		`fetch('/api' + location.pathname).then(r => r.json()).then(l => String(l.lesson.steps.length))`,
	)
	var n int
	_, err := fmt.Sscan(steps, &n)
	require.NoError(t, err)
	click("Teach")
	require.NoError(t, tab.SeeText("works without network"))
	for range 4 * n {
		if attribute(t, tab, "data-step") == "" {
			break
		}
		presses++
		s.dispatch(t, "ArrowDown") // the next step
	}
	require.NoError(t, tab.SeeText("How did it go?"))
	click("Log it for the class")
	require.NoError(t, tab.SeeText("Logged."))
	t.Logf("a lesson of %d steps made, taught and logged: %d presses", n, presses)
	assert.LessOrEqual(t, presses, 3+n+2)

	presses = 0
	file := filepath.Join(t.TempDir(), "kayak.svg")
	picture := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><path d="M1 1h8v8z"/></svg>`
	require.NoError(t, os.WriteFile(file, []byte(picture), 0o600))
	require.NoError(t, tab.Go(s.server.URL+"/"))
	presses++
	require.NoError(t, tab.Click("[data-grapheme='k']"))
	require.NoError(t, tab.SeeText("✓ Saved"))
	presses += 2 // the button that opens the browser's window, the file in it
	require.NoError(t, tab.Upload("input[accept*=svg]", file))
	assert.Eventually(t, func() bool {
		return mustEval(
			t,
			tab,
			`fetch('/api' + location.pathname).then(r => r.json()).then(c => c.content.picture)`,
		) != ""
	}, 10*time.Second, 100*time.Millisecond)
	t.Logf("a picture on a card: %d presses", presses)
	assert.LessOrEqual(t, presses, 3)

	made := s.assembled(t)
	presses = 0
	require.NoError(t, tab.Go(s.server.URL+"/words"))
	require.NoError(t, tab.SeeText("found"))
	for i := range 10 {
		presses++
		require.NoError(t, tab.Click(fmt.Sprintf("ul > li:nth-child(%d) button[aria-pressed=false]", i+1)))
	}
	require.NoError(t, tab.SeeText("10 picked"))
	require.NoError(t, tab.SeeText("into the lesson on"))
	time.Sleep(500 * time.Millisecond)
	click("Send")
	require.NoError(t, tab.SeeText("✓ sent."))
	t.Logf("ten words in a lesson: %d presses", presses)
	assert.LessOrEqual(t, presses, 12)
	read := mustEval(t, tab, `fetch('/api/lessons/`+made+`').then(r => r.json()).then(l => String(
		l.lesson.steps.find(s => s.id === 'read').items.filter(i => i.origin === 'sent').length))`)
	assert.Equal(t, "10", read)
	require.NoError(t, tab.Key(kb.Escape))
}
