package e2e

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/people"
	"brightchalk/test/browser"
)

// choose picks an option of a list by its value or by how its text begins.
func (s *stage) choose(t *testing.T, label, option string) {
	t.Helper()
	pick := fmt.Sprintf(`(() => {
		const list = document.querySelector('select[aria-label=%q]')
		const o = [...(list?.options ?? [])].find(o => o.value === %q || o.text.includes(%q))
		if (!o) return false
		Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(list, o.value)
		list.dispatchEvent(new Event('change', { bubbles: true }))
		return true
	})()`, label, option, option)
	require.Eventually(t, func() bool {
		ok, err := browser.Eval[bool](s.tab, pick)
		return err == nil && ok
	}, 20*time.Second, 100*time.Millisecond, "%s: no option %s", label, option)
}

// Each kind of lesson, from the choice to the log.
func TestEveryPurposeFromChoiceToLog(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	for _, row := range []struct {
		purpose lesson.Purpose
		cards   []string
		steps   string
	}{
		{lesson.Introduce, nil, "Turnover"},
		{lesson.Again, []string{". r "}, "Hear and find"},
		{lesson.Revise, nil, "Quick write"},
		{lesson.Compare, []string{". d ", ". t "}, "Contrast"},
		{lesson.CatchUp, []string{". g "}, "Read"},
	} {
		t.Run(string(row.purpose), func(t *testing.T) {
			if testing.Short() && row.purpose != lesson.Introduce && row.purpose != lesson.Compare {
				t.Skip("runs with ./chalk nightly")
			}
			require.NoError(t, s.tab.Go(s.server.URL+"/lessons"))
			require.NoError(t, s.tab.SeeText("Lessons that were made"))
			require.NoError(t, s.tab.SeeText("revise"))
			s.choose(t, "What the lesson is for", string(row.purpose))
			for _, c := range row.cards {
				s.choose(t, "Add a sound", c)
			}
			time.Sleep(200 * time.Millisecond)
			require.NoError(t, s.tab.ClickText("Make the lesson"))
			require.NoError(t, s.tab.SeeText("planned"))
			require.NoError(t, s.tab.SeeText(row.steps))
			if row.purpose == lesson.Introduce {
				s.changeRead(t)
			}
			s.axe(t, "lesson to "+string(row.purpose))
			require.NoError(t, s.tab.ClickText("Teach"))
			require.NoError(t, s.tab.SeeText("works without network"))
			count := mustEval(t, s.tab, `String(document.body.innerText.match(/step 1 of (\d+)/)[1])`)
			require.NotEqual(t, "0", count)
			require.NoError(t, s.tab.ClickText("End and log"))
			require.NoError(t, s.tab.SeeText("How did it go?"))
			require.NoError(t, s.tab.ClickText("All of them sure"))
			require.NoError(t, s.tab.ClickText("Log it for the class"))
			require.NoError(t, s.tab.SeeText("Logged."))
			s.axe(t, "log of a lesson to "+string(row.purpose))
			require.NoError(t, s.tab.ClickText("Undo: it was not taught"))
			require.NoError(t, s.tab.SeeText("counts as not taught"))
			require.NoError(t, s.tab.ClickText("Log it for the class"))
			require.NoError(t, s.tab.SeeText("Logged."))
		})
	}
	s.classPage(t)
}

// changeRead says who speaks a word and what it means.
func (s *stage) changeRead(t *testing.T) {
	t.Helper()
	require.NoError(t, s.tab.Click("button[title^='Read, from']"))
	require.NoError(t, s.tab.See("li[data-slot='read.1']"))
	word := mustEval(t, s.tab, `document.querySelector("li[data-slot='read.1'] .sr-only").innerText`)
	s.choose(t, "who says "+word, "both")
	require.NoError(t, s.tab.Click("select[aria-label='who says "+word+"']"))
	s.choose(t, "who says "+word, "adult")
	s.choose(t, "who says "+word, "both") // the second before the first is answered
	require.NoError(t, s.tab.SeeText("all together (arms open wide): "+word))
	require.Equal(t, "who says "+word, mustEval(t, s.tab, `document.activeElement.getAttribute('aria-label')`),
		"the focus stays while a change is under way")
	require.NoError(t, s.tab.Click("[aria-label='what "+word+" means']"))
	require.NoError(t, s.tab.Type("[aria-label='What "+word+" means, in plain words']", "as we say it here"))
	require.NoError(t, s.tab.ClickText("Keep for all lessons"))
	require.NoError(t, s.tab.Click("[aria-label='what "+word+" means']"))
	field := `document.querySelector("[aria-label='What ` + word + ` means, in plain words']")?.value`
	require.Eventually(t, func() bool {
		kept, err := browser.Eval[string](s.tab, field)
		return err == nil && kept == "as we say it here"
	}, 20*time.Second, 100*time.Millisecond)
}

// classPage reads what the lessons left, says more of the class, and corrects a line of its log.
func (s *stage) classPage(t *testing.T) {
	t.Helper()
	teacher, err := s.app.Accounts.SignIn(
		context.Background(),
		people.SignInAttempt{Email: demo.SignIns[1].Email, Password: demo.SignIns[1].Password},
	)
	require.NoError(t, err)
	classes, err := s.app.Classes.Classes(context.Background(), teacher)
	require.NoError(t, err)
	id := classes[0].ClassID
	require.NoError(t, s.tab.Go(s.server.URL+"/classes/"+id))
	require.NoError(t, s.tab.SeeText("What it knows"))
	require.NoError(t, s.tab.SeeText("The log"))
	s.axe(t, "class")
	s.choose(t, "Up to which step", "22")
	require.NoError(t, s.tab.ClickText("Say so"))
	require.NoError(t, s.tab.SeeText("22 of 79 cards met"))
	require.NoError(t, s.tab.Type("[placeholder='the, I, to']", "he, she"))
	require.NoError(t, s.tab.ClickText("It knows these"))
	require.NoError(t, s.tab.SeeText("✓ she"))
	c, err := s.app.Classes.Class(context.Background(), teacher, id)
	require.NoError(t, err)
	var said []string
	for _, w := range c.Words {
		if w.Known && w.SaidBy != "" {
			said = append(said, w.Word)
		}
	}
	assert.Equal(t, []string{"he", "she"}, said)
	before, err := s.app.Lessons.History(context.Background(), teacher, id)
	require.NoError(t, err)
	require.NoError(t, s.tab.Click("button[aria-label^='Take out']"))
	require.NoError(t, s.tab.SeeText("is taken out"))
	s.axe(t, "a line taken out of the log")
	require.NoError(t, s.tab.ClickText("Library"), "it goes when the page is left")
	assert.Eventually(t, func() bool {
		now, err := s.app.Lessons.History(context.Background(), teacher, id)
		return err == nil && len(now.Meetings) == len(before.Meetings)-1
	}, 20*time.Second, 100*time.Millisecond)
}
