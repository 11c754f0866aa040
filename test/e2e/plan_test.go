package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/test/browser"
)

// planned is what the demo's first class has on the days of its year, by their dates: "lesson introduce", "lost".
func (s *stage) planned(t *testing.T) map[string]string {
	t.Helper()
	text := mustEval(t, s.tab, `fetch('/api/classes').then(r => r.json())
		.then(l => fetch('/api/classes/' + l[0].class_id + '/year')).then(r => r.json())
		.then(y => JSON.stringify(Object.fromEntries(y.weeks.flatMap(w => w.days)
			.map(d => [d.date, (d.kind + ' ' + d.purpose + ' ' + d.cards.join(' ')).trim()]))))`)
	out := map[string]string{}
	require.NoError(t, json.Unmarshal([]byte(text), &out))
	return out
}

// next is the first day after another on which something new comes.
func next(t *testing.T, days map[string]string, after string) string {
	t.Helper()
	best := ""
	for d, what := range days {
		if d > after && strings.HasPrefix(what, "lesson introduce") && (best == "" || d < best) {
			best = d
		}
	}
	require.NotEmpty(t, best)
	return best
}

// A year is walked and a day is lost with the keyboard alone: what moves is shown before it is kept, and it comes back
// with one key.
func TestAYearIsReplannedByKeyboard(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	before := s.planned(t)
	first := next(t, before, time.Now().Format(time.DateOnly))
	second := next(t, before, first)
	require.NoError(t, tab.Go(s.server.URL+"/plan?tab=year&day="+first))
	require.NoError(t, tab.See("[role=gridcell][aria-selected=true]"))
	s.axe(t, "a year")
	mustEval(t, tab, `(document.querySelector('[role=gridcell][aria-selected=true]').focus(), '')`)
	require.NoError(t, tab.Key(kb.ArrowDown))
	require.NoError(t, tab.Key(kb.ArrowUp))
	at := `document.activeElement.id`
	assert.Eventually(
		t,
		func() bool { return mustEval(t, tab, at) == "day-"+first },
		5*time.Second,
		50*time.Millisecond,
	)
	require.NoError(t, tab.Key("x"))
	require.NoError(t, tab.SeeText("What it does to the rest"))
	require.NoError(t, tab.SeeText("sounds move"))
	s.axe(t, "a day that is lost")
	assert.Equal(t, before, s.planned(t), "nothing is kept yet")
	all := mustEval(t, tab, `document.querySelector('[aria-label="What moves"] h3').innerText`)
	mustEval(t, tab, `(document.querySelector('[name=rule]:checked').focus(), '')`)
	require.NoError(t, tab.Key(kb.ArrowDown)) // drop the revision day
	assert.Eventually(t, func() bool {
		now := mustEval(
			t,
			tab,
			`document.querySelector('[aria-label="What moves"][aria-busy=false] h3')?.innerText ?? ''`,
		)
		return now != "" && now != all
	}, 5*time.Second, 50*time.Millisecond, "another rule moves other days")
	require.NoError(t, tab.Key(kb.ArrowUp))
	require.NoError(t, tab.SeeText("sounds move"))
	mustEval(
		t,
		tab,
		`([...document.querySelectorAll('[role=dialog] button')].find(b => b.innerText === 'Keep this plan').focus(), '')`,
	)
	require.NoError(t, tab.Key(kb.Enter))
	require.NoError(t, tab.SeeText("is lost for"))
	after := s.planned(t)
	assert.Equal(t, "lost", after[first])
	assert.Equal(t, before[first], after[second], "what was lost comes with the next lesson")
	require.NoError(t, tab.SeeText("Not lost, after all"))
	s.axe(t, "a year with a lost day")
	require.NoError(t, tab.ClickText("Put it back"))
	assert.Eventually(
		t,
		func() bool { return s.planned(t)[first] == before[first] },
		5*time.Second,
		100*time.Millisecond,
	)
	assert.Equal(t, before, s.planned(t))

	require.NoError(t, tab.Click("[role=tab]:nth-child(3)"))
	require.NoError(t, tab.SeeText("Week by week"))
	require.NoError(t, tab.SeeText("if we do 5 a week"))
}

// The school year is set by a lead: a wrong term is said at its place and nothing is lost, days off come out of a file.
func TestTheSchoolYearIsSetUp(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/plan?tab=school"))
	require.NoError(t, tab.SeeText("Days off"))
	file := filepath.Join(t.TempDir(), "days.csv")
	term := mustEval(t, tab, `fetch('/api/school-year').then(r => r.json()).then(y => y.school.terms[0].last)`)
	require.NoError(t, os.WriteFile(file, []byte("date,name\n"+term+",lantern day\n"), 0o600))
	require.NoError(t, tab.Upload("input[type=file]", file))
	require.NoError(t, tab.SeeText("Take these 1 days"))
	require.NoError(t, tab.ClickText("Take these 1 days"))
	require.NoError(t, tab.ClickText("+ a term"))
	require.NoError(t, tab.ClickText("Keep the school year"))
	require.NoError(t, tab.SeeText("is no date; write it as"))
	s.axe(t, "a school year with a term that is wrong")
	require.NoError(t, tab.Go(s.server.URL+"/plan?tab=school"))
	require.NoError(t, tab.SeeText("lantern day"))
	require.NoError(t, tab.Click("[aria-label='Take out term 4']"))
	require.NoError(t, tab.ClickText("Keep the school year"))
	require.NoError(t, tab.SeeText("Every plan is laid out anew"))
	assert.True(t, strings.HasPrefix(s.planned(t)[term], "off"))
}

func (s *stage) order(t *testing.T) []string {
	t.Helper()
	var out []string
	require.NoError(t, json.Unmarshal([]byte(mustEval(t, s.tab,
		`fetch('/api/order').then(r => r.json()).then(o => JSON.stringify(o.order))`)), &out))
	return out
}

// Cards are moved with the keyboard and with the pointer, one and several, taken back, proposed by a teacher and agreed
// by a lead as a whole, and the order that stood comes back.
func TestTheOrderIsProposedAndAgreed(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	tab := s.tab
	before := s.order(t)
	require.NoError(t, tab.Go(s.server.URL+"/order"))
	require.NoError(t, tab.SeeText("The order that stands"))
	places := func() []string {
		out, err := browser.Eval[[]string](tab, `[...document.querySelectorAll('[id^=step-]')].map(e => e.id.slice(5))`)
		require.NoError(t, err)
		return out
	}
	require.Equal(t, before, places())
	press := func(id string, keys ...string) {
		for _, key := range keys {
			name, alt := strings.CutPrefix(key, "alt+")
			mustEval(t, tab, fmt.Sprintf(`((e) => { e.focus(); e.dispatchEvent(new KeyboardEvent('keydown',
				{key: '%s', altKey: %t, bubbles: true})); return '' })(document.getElementById('step-%s'))`, name, alt, id))
			time.Sleep(60 * time.Millisecond)
		}
	}
	mustEval(t, tab, `(document.getElementById('step-`+before[20]+`').click(), '')`)
	press(before[20], "alt+ArrowRight")
	assert.Equal(t, before[20], places()[21])
	require.NoError(t, tab.SeeText("1 moved, beside the order that stands"))
	press(before[20], "z")
	assert.Equal(t, before, places())
	step := func(id string) string { return "[id='step-" + id + "']" }
	for _, hand := range []browser.Hand{browser.Mouse, browser.Finger} {
		require.NoError(t, tab.Drag(step(before[1]), step(before[9]), hand))
		assert.Eventually(t, func() bool { return places()[9] == before[1] }, 5*time.Second, 50*time.Millisecond, hand)
		press(before[1], "z")
		assert.Equal(t, before, places())
	}
	mustEval(t, tab, `(document.getElementById('step-`+before[24]+`').click(), '')`)
	press(before[24], "p")
	mustEval(t, tab, `(document.getElementById('step-`+before[26]+`').click(), '')`)
	press(before[26], "p", "alt+ArrowDown")
	now := places()
	assert.Equal(t, []string{before[24], before[26]}, now[28:30], "two that were picked move as one")
	s.axe(t, "an order with moves")
	require.NoError(t, tab.Go(s.server.URL+"/order"))
	require.NoError(t, tab.SeeText("2 moved, beside"))
	require.Equal(t, now, places(), "it stays as it was left")
	require.NoError(t, tab.Type("[aria-label='Why']", "they belong to the rhyme week"))
	require.NoError(t, tab.ClickText("Propose it"))
	require.NoError(t, tab.SeeText("they belong to the rhyme week"))
	assert.Equal(t, before, s.order(t), "a proposal changes nothing")

	require.NoError(t, tab.Go(s.server.URL+"/"))
	mustEval(t, tab, `fetch('/api/session', {method: 'DELETE'}).then(() => '')`)
	s.signIn(t, "lead")
	require.NoError(t, tab.Go(s.server.URL+"/order"))
	require.NoError(t, tab.SeeText("they belong to the rhyme week"))
	require.NoError(t, tab.ClickText("Look at it"))
	require.NoError(t, tab.SeeText("2 moved, beside"))
	require.NoError(t, tab.ClickText("Agree"))
	require.NoError(t, tab.SeeText("The order is agreed"))
	assert.Equal(t, now, s.order(t))
	require.NoError(t, tab.ClickText("Put it back"))
	assert.Eventually(t, func() bool { return s.order(t)[24] == before[24] }, 5*time.Second, 100*time.Millisecond)
	assert.Equal(t, before, s.order(t))
}

// A better order is looked for, stopped, looked for again and shown with its reasons; nothing changes by it.
func TestABetterOrderIsShownWithReasons(t *testing.T) {
	nightly(t)
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	good := s.order(t)
	before := slices.Clone(good)
	slices.Reverse(before[14:]) // the demo's own order leaves nothing to be found
	ctx := context.Background()
	id, err := s.app.Orders.Propose(ctx, s.lead(t), before, "")
	require.NoError(t, err)
	require.NoError(t, s.app.Orders.Decide(ctx, s.lead(t), id, true))
	require.NoError(t, tab.Go(s.server.URL+"/order"))
	require.NoError(t, tab.SeeText("The order that stands"))
	require.NoError(t, tab.ClickText("Look for a better order"))
	require.NoError(t, tab.ClickText("Look for it"))
	require.NoError(t, tab.SeeText("best so far"))
	require.NoError(t, tab.ClickText("Stop looking"))
	require.NoError(t, tab.SeeText("Look for it"))
	time.Sleep(time.Second) // the search that was stopped lets go of its place
	require.NoError(t, tab.ClickText("Look for it"))
	assert.Eventually(t, func() bool {
		return mustEval(t, tab, `String(document.querySelector('[role=dialog]') === null)`) == "true"
	}, 20*time.Second, 200*time.Millisecond)
	require.NoError(t, tab.SeeText("beside the order that stands"))
	require.NoError(t, tab.SeeText("Moved because"))
	assert.Equal(t, before, s.order(t))
}

// A group is made from the shakiest sounds of a class; its page says what it catches up on.
func TestAGroupIsMadeFromTheSheetForTheMeeting(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/meeting"))
	require.NoError(t, tab.SeeText("Finish before their week"))
	require.NoError(t, tab.ClickText("Make a group"))
	require.NoError(t, tab.Click("[role=dialog] input[type=checkbox]"))
	require.NoError(t, tab.SeeText("the shakiest first"))
	require.NoError(t, tab.ClickText("Make the group"))
	require.NoError(t, tab.SeeText("The group needs a name"))
	require.NoError(t, tab.Type("[role=dialog] input[maxlength]", "Bridge group"))
	require.NoError(t, tab.ClickText("Make the group"))
	require.NoError(t, tab.SeeText("What it catches up on"))
	require.NoError(t, tab.SeeText("Children of Heron class"))
	s.axe(t, "a group that catches up")
}

// What the browser itself prints of a page is the page: no header, no tabs, no buttons. The sheets of a week are made
// by one press and can be opened.
func TestPagesPrintAndTheSheetsOfAWeek(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/meeting"))
	require.NoError(t, tab.SeeText("Finish before their week"))
	pdf, err := tab.Print()
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "meeting.pdf")
	require.NoError(t, os.WriteFile(file, pdf, 0o600))
	text, err := exec.Command("pdftotext", file, "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "Finish before their week")
	for _, screen := range []string{"Print this sheet", "Make a group", "Bright Chalk", "The order", "Library"} {
		assert.NotContains(t, string(text), screen, "this is for the screen")
	}
	require.NoError(t, tab.Go(s.server.URL+"/plan"))
	require.NoError(t, tab.ClickText("Print the week"))
	require.NoError(t, tab.SeeText("Sheets of "))
}
