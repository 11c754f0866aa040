package e2e

import (
	"context"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/people"
	"brightchalk/test/browser"
)

// offline answers nothing: the connection just breaks.
type offline struct{}

func (offline) ServeHTTP(http.ResponseWriter, *http.Request) { panic(http.ErrAbortHandler) }

// What a colleague changes shows on an open wall by itself (bench measures how fast), and in an open card without
// losing what is typed.
func TestTwoBrowsersSeeEachOther(t *testing.T) {
	s := open(t)
	s.atWall(t, "lead")
	require.NoError(t, s.tab.SeeText("live"))
	ctx := context.Background()
	teacher, err := s.app.Accounts.SignIn(
		ctx,
		people.SignInAttempt{Email: demo.SignIns[1].Email, Password: demo.SignIns[1].Password},
	)
	require.NoError(t, err)
	wall, err := s.app.Cards.Wall(ctx, teacher, false)
	require.NoError(t, err)
	var id string
	for _, c := range wall {
		if c.Pair.Grapheme == "w" {
			id = c.CardID
		}
	}
	time.Sleep(300 * time.Millisecond)
	c, err := s.app.Cards.Card(ctx, teacher, id)
	require.NoError(t, err)
	c.Content.Keyword = "wagtail"
	c, err = s.app.Cards.Save(ctx, teacher, id, c.Version, c.Content)
	require.NoError(t, err)
	require.NoError(t, s.tab.SeeText("as in wagtail"))

	require.NoError(t, s.tab.Go(s.server.URL+"/cards/"+id))
	require.NoError(t, s.tab.SeeText("✓ Saved"))
	// Both write the rhyme: nothing is overwritten, the lead is asked.
	_, err = browser.Eval[bool](
		s.tab,
		`(() => {
			const label = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === 'Rhyme')
			label.nextElementSibling.focus()
			label.nextElementSibling.select()
			return true
		})()`,
	)
	require.NoError(t, err)
	require.NoError(t, s.tab.Key("Mine"))
	c.Content.Rhyme = "Theirs"
	_, err = s.app.Cards.Save(ctx, teacher, id, c.Version, c.Content)
	require.NoError(t, err)
	require.NoError(t, s.tab.SeeText("Nothing of yours is lost"))
	s.axe(t, "conflict")
	require.NoError(t, s.tab.ClickText("Keep mine"))
	assert.Eventually(t, func() bool {
		c, err := s.app.Cards.Card(ctx, teacher, id)
		return err == nil && c.Content.Rhyme == "Mine"
	}, 30*time.Second, 100*time.Millisecond)
	require.NoError(t, s.tab.See("[data-saving='saved']"))
	require.NoError(t, s.tab.Go(s.server.URL+"/team?tab=routine"))
	require.NoError(t, s.tab.SeeText("Our routines"))
	s.axe(t, "routines as they are read")
	require.NoError(t, s.tab.Go(s.server.URL+"/team"))
	require.NoError(t, s.tab.SeeText("What we agreed"))
	s.axe(t, "agreements")
}

// Without a network the wall, each card with its sound and the lessons of the week open; nothing of it is left for
// whoever signs in next.
func TestWithNoNetworkAtAll(t *testing.T) {
	s := openKeeping(t)
	made := s.assembled(t)
	s.atWall(t, "teacher")
	tab := s.tab
	waits := func(js string) {
		t.Helper()
		require.Eventually(
			t,
			func() bool { return mustEval(t, tab, js) == "true" },
			60*time.Second,
			200*time.Millisecond,
			js,
		)
	}
	waits(`navigator.serviceWorker.ready.then(() => String(navigator.serviceWorker.controller !== null))`)
	require.NoError(t, tab.Go(s.server.URL+"/"))
	has := func(path string) string {
		return `caches.match('` + path + `', { ignoreSearch: true }).then(r => String(Boolean(r)))`
	}
	waits(has("/api/lessons/" + made))
	card := mustEval(
		t,
		tab,
		`fetch('/api/cards').then(r => r.json()).then(l => l.find(c => c.pair.grapheme === 'm').card_id)`,
	)
	waits(has("/api/cards/" + card + "/sound"))

	s.trouble.Store(noLine)
	require.NoError(t, tab.Go(s.server.URL+"/"))
	require.NoError(t, tab.SeeText("79 complete"))
	require.NoError(t, tab.SeeText("waiting for the line"))
	s.axe(t, "the library without a network")
	require.NoError(t, tab.Go(s.server.URL+"/cards/"+card))
	require.NoError(t, tab.SeeText("Hear it"))
	sound := `fetch('/api/cards/` + card + `').then(r => r.json()).then(c =>
		fetch('/api/cards/` + card + `/sound?take=' + c.take_id, { headers: { Range: 'bytes=0-99' } }))
		.then(async r => r.status + ' ' + (await r.arrayBuffer()).byteLength)`
	assert.Equal(t, "206 100", mustEval(t, tab, sound), "a player asks for a part")
	require.NoError(t, tab.Go(s.server.URL+"/lessons/"+made))
	require.NoError(t, tab.SeeText("as in barrel"))
	require.NoError(t, tab.Go(s.server.URL+"/teach/"+made))
	require.NoError(t, tab.SeeText("step 1 of"))

	s.trouble.Store(0)
	require.NoError(t, tab.Go(s.server.URL+"/"))
	require.NoError(t, tab.SeeText("79 complete"))
	require.NoError(t, tab.Click("header button[aria-haspopup=menu]"))
	require.NoError(t, tab.SeeText("Sign out"))
	mustEval(
		t,
		tab,
		`([...document.querySelectorAll('[role=menuitem]')].find(e => e.innerText === 'Sign out').click(), '')`,
	)
	require.NoError(t, tab.SeeText("One agreed library"))
	assert.Equal(t, "false", mustEval(t, tab, has("/api/cards/"+card)))
	s.trouble.Store(noLine)
	require.NoError(t, tab.Go(s.server.URL+"/cards/"+card))
	time.Sleep(2 * time.Second)
	assert.NotContains(t, mustEval(t, tab, `document.body.innerText`), "Hear it")
}
