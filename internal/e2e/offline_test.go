package e2e

import (
	"context"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/browser"
)

// offline answers nothing: the connection just breaks.
type offline struct{}

func (offline) ServeHTTP(http.ResponseWriter, *http.Request) { panic(http.ErrAbortHandler) }

// What a colleague changes shows on an open wall by itself (bench measures how fast), and in an open card without
// losing what is typed.
func TestTwoBrowsersSeeEachOther(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	require.NoError(t, s.tab.SeeText("live"))
	ctx := context.Background()
	teacher, err := s.app.People.SignIn(ctx, app.Attempt{Email: demo.SignIns[1].Email, Password: demo.SignIns[1].Password})
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
