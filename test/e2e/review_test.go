package e2e

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/test/browser"
)

func (s *stage) cardOf(t *testing.T, grapheme string) string {
	t.Helper()
	wall, err := s.app.Cards.Wall(context.Background(), s.lead(t), false)
	require.NoError(t, err)
	for _, c := range wall {
		if c.Pair.Grapheme == grapheme {
			return c.CardID
		}
	}
	require.Fail(t, "no card", grapheme)
	return ""
}

// other signs somebody in in a second browser.
func (s *stage) other(t *testing.T, role string) *browser.Tab {
	t.Helper()
	tab := elsewhere(t)
	require.NoError(t, tab.Size(1280, 800))
	require.NoError(t, tab.Go(s.server.URL+"/"))
	require.NoError(t, tab.ClickText(role))
	require.NoError(t, tab.SeeText("Waits for you"))
	return tab
}

// Two people come from a draft to an agreed card: one writes and puts it forward, the other finds it on the page of the
// day, proposes a wording, which the first takes over, and agrees. Each sees what the other does at once.
func TestTwoPeopleAgreeACard(t *testing.T) {
	s := open(t)
	id := s.cardOf(t, "l")
	teacher, lead := s.other(t, "teacher"), s.other(t, "lead")
	actions := 0
	click := func(tab *browser.Tab, text string) {
		t.Helper()
		actions++
		require.NoError(t, tab.ClickText(text))
	}
	require.NoError(t, teacher.Go(s.server.URL+"/cards/"+id))
	require.NoError(t, teacher.SeeText("✓ Saved"))
	s.tab = teacher
	actions++
	s.rhyme(t, "Let the ladder lean.")
	s.stands(t, s.lead(t), id, "Let the ladder lean.")
	click(teacher, "Put it forward")
	require.NoError(t, teacher.SeeText("Who should read it?"))
	actions++
	_, err := browser.Eval[bool](teacher, `(() => {
		[...document.querySelectorAll('fieldset label')].find(l => l.innerText.trim() === 'Odile Weir').click()
		return true
	})()`)
	require.NoError(t, err)
	click(teacher, "Put it forward")
	require.NoError(t, teacher.SeeText("Take it back"))

	waits := `(() => {
		const part = [...document.querySelectorAll('section')].find(s => s.innerText.startsWith('Waits for you'))
		const link = [...part.querySelectorAll('a')].find(a => a.innerText.startsWith('l'))
		if (link) link.click()
		return String(link !== undefined)
	})()`
	require.Eventually(
		t,
		func() bool { return mustEval(t, lead, waits) == "true" },
		15*time.Second,
		100*time.Millisecond,
		"it is on the lead's page of the day without a reload",
	)
	actions++
	require.NoError(t, lead.SeeText("asked Odile Weir"))
	s.tab = lead
	s.axe(t, "a card that was put forward")
	say := func(tab *browser.Tab, part, js string) {
		t.Helper()
		_, err := browser.Eval[bool](tab, `(() => {
			const part = document.getElementById('part-`+part+`')
			const button = (text) => [...part.querySelectorAll('button')].find(b => b.innerText === text)
			`+js+`
			return true
		})()`)
		require.NoError(t, err)
		time.Sleep(200 * time.Millisecond)
	}
	say(lead, "rhyme", `button('Say something').click()`)
	say(lead, "rhyme", `button('Propose another wording').click()`)
	say(lead, "rhyme", `part.querySelectorAll('textarea')[1].focus(); part.querySelectorAll('textarea')[1].select()`)
	require.NoError(t, lead.Key("Let the ladder lean on the lock."))
	say(lead, "rhyme", `button('Say it').click()`)
	require.NoError(t, lead.SeeText("Take this wording over"))
	actions += 4

	require.NoError(t, teacher.SeeText("Take this wording over"), "the other sees it at once")
	click(teacher, "Take this wording over")
	require.NoError(t, teacher.SeeText("the wording was taken over"))
	require.NoError(t, lead.SeeText("the wording was taken over"))
	click(lead, "Agree it")
	require.NoError(t, lead.SeeText("This card is agreed"))
	require.NoError(t, teacher.SeeText("This card is agreed"))
	t.Logf("from a draft to agreed, with a wording talked about: %d actions of two people", actions)
	assert.LessOrEqual(t, actions, 12)
	c, err := s.app.Cards.Card(context.Background(), s.lead(t), id)
	require.NoError(t, err)
	assert.Equal(t, card.Agreed, c.State)
	assert.Equal(t, "Let the ladder lean on the lock.", c.Content.Rhyme)
	require.NoError(t, teacher.Go(s.server.URL+"/today"))
	require.NoError(t, teacher.SeeText("Odile Weir agreed l"))
}

// A lead moves the classes up from the page of the team; the new class knows what the old one knew.
func TestANewSchoolYear(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/team?tab=classes"))
	require.NoError(t, tab.ClickText("A new school year"))
	require.NoError(t, tab.SeeText("What becomes of each class?"))
	require.NoError(t, tab.See("[aria-label='New name of Heron class']"))
	_, err := browser.Eval[bool](tab, `(() => {
		const f = document.querySelector('[aria-label="New name of Heron class"]')
		f.focus(); f.select()
		return true
	})()`)
	require.NoError(t, err)
	require.NoError(t, tab.Key("Otter class"))
	require.NoError(t, tab.ClickText("Begin the year"))
	require.NoError(t, tab.SeeText("There is a class “Otter class” already."))
	_, err = browser.Eval[bool](tab, `(() => {
		const f = document.querySelector('[aria-label="New name of Otter class"]')
		f.focus(); f.select()
		return true
	})()`)
	require.NoError(t, err)
	require.NoError(t, tab.Key("Kingfisher class"))
	require.NoError(t, tab.ClickText("Begin the year"))
	require.NoError(t, tab.SeeText("Put aside (3)"))
	require.NoError(t, tab.SeeText("Kingfisher class"))
	require.NoError(t, tab.ClickText("Kingfisher class"))
	require.NoError(t, tab.SeeText("Its people"))
	require.NoError(t, tab.SeeText("6 of 79 cards met"))
	require.NoError(t, tab.ClickText("Put this class aside"))
	require.NoError(t, tab.SeeText("is put aside"))
	require.NoError(t, tab.ClickText("Put it back"))
	require.NoError(t, tab.SeeText("Put aside (3)"))
}
