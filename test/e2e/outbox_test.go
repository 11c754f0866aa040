package e2e

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/tx"
	"brightchalk/test/browser"
)

func (s *stage) rhyme(t *testing.T, text string) {
	t.Helper()
	_, err := browser.Eval[bool](s.tab, `(() => {
		const label = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === 'Rhyme')
		label.nextElementSibling.focus()
		label.nextElementSibling.select()
		return true
	})()`)
	require.NoError(t, err)
	require.NoError(t, s.tab.Key(text))
}

// desk opens a card to write on it; one that is agreed says first that it is in use.
func (s *stage) desk(t *testing.T, tab *browser.Tab, id string) {
	t.Helper()
	require.NoError(t, tab.Go(s.server.URL+"/cards/"+id))
	require.NoError(t, tab.SeeText("✓ Saved"))
	require.Eventually(t, func() bool {
		return mustEval(t, tab, `(() => {
			const b = [...document.querySelectorAll('button')].find(b => b.innerText === 'Change this card')
			if (b) b.click()
			return String([...document.querySelectorAll('textarea')].every(f => !f.readOnly))
		})()`) == "true"
	}, 10*time.Second, 50*time.Millisecond)
}

func (s *stage) stands(t *testing.T, by tx.Actor, id, rhyme string) {
	t.Helper()
	assert.Eventually(t, func() bool {
		c, err := s.app.Cards.Card(context.Background(), by, id)
		return err == nil && c.Content.Rhyme == rhyme
	}, 30*time.Second, 100*time.Millisecond, rhyme)
}

// What is typed while the server answers 502 is there after the page was left and loaded anew, and is sent by itself
// when the server is well; what is typed after the session has ended is saved after a sign-in over the page.
func TestWhatIsTypedReachesTheServer(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	ctx := context.Background()
	lead := s.lead(t)
	wall, err := s.app.Cards.Wall(ctx, lead, false)
	require.NoError(t, err)
	id := wall[12].CardID
	s.desk(t, s.tab, id)
	s.trouble.Store(502)
	s.rhyme(t, "Typed over a bad line")
	require.NoError(t, s.tab.SeeText("! Not saved"))
	require.NoError(t, s.tab.ClickText("Library"))
	require.NoError(t, s.tab.SeeText("1 not sent yet"))
	require.NoError(t, s.tab.Go(s.server.URL+"/lessons"))
	require.NoError(t, s.tab.SeeText("1 not sent yet"))
	s.axe(t, "lessons with letters in the outbox")
	s.trouble.Store(0)
	s.stands(t, lead, id, "Typed over a bad line")

	s.desk(t, s.tab, id)
	_, err = s.app.Pool.Exec(ctx, "DELETE FROM sessions")
	require.NoError(t, err)
	s.rhyme(t, "Typed after the session")
	require.NoError(t, s.tab.SeeText("your session has ended"))
	s.axe(t, "sign in again")
	require.NoError(t, s.tab.Type("input[type=email]", demo.SignIns[0].Email))
	require.NoError(t, s.tab.Type("input[type=password]", demo.SignIns[0].Password))
	require.NoError(t, s.tab.ClickText("Sign in"))
	s.stands(t, lead, id, "Typed after the session")
	require.NoError(t, s.tab.SeeText("✓ Saved"))
}

// A browser opens six connections to a server: eight tabs with a stream each would leave none for calls.
func TestEightTabsOfOneBrowser(t *testing.T) {
	nightly(t)
	s := open(t)
	s.signIn(t, "lead")
	for range 7 {
		tab, err := s.tab.Beside()
		require.NoError(t, err)
		require.NoError(t, tab.Go(s.server.URL+"/lessons"))
		require.NoError(t, tab.SeeText("Towpath group"))
		require.NoError(t, tab.SeeText("live"))
	}
	ctx := context.Background()
	lead := s.lead(t)
	last, err := s.tab.Beside()
	require.NoError(t, err)
	require.NoError(t, last.Go(s.server.URL+"/team?tab=classes"))
	require.NoError(t, last.SeeText("Otter class"))
	_, err = s.app.Classes.NewClass(ctx, lead, "Dabchick class", "class")
	require.NoError(t, err)
	require.NoError(t, last.SeeText("Dabchick class"))
	require.NoError(t, s.tab.Go("about:blank")) // the tab that read the stream is gone: another takes over
	time.Sleep(time.Second)
	_, err = s.app.Classes.NewClass(ctx, lead, "Moorhen class", "class")
	require.NoError(t, err)
	require.NoError(t, last.SeeText("Moorhen class"))
}
