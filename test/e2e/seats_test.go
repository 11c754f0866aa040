package e2e

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/people"
	"brightchalk/internal/tx"
	"brightchalk/test/providertest"
)

// Somebody is sent to the school's own sign-in and comes back signed in, goes to another team, and joins a third one by
// a link, as a reader of the screen would.
func TestComingInByAProviderAndGoingToAnotherTeam(t *testing.T) {
	at := providertest.New(t)
	s := openWith(t, at.URL)
	ctx := context.Background()
	_, err := s.app.Accounts.CreateTeam(ctx, people.NewTeam{
		Name: "Basin Nursery", Email: "teacher@lockhouse.example", LeadName: "Tam Quayle", Accent: phoneme.SouthernBritish,
	})
	require.NoError(t, err)
	tab := s.tab
	at.As("9", "stranger@canal.example", true, nil)
	require.NoError(t, tab.Go(s.server.URL+"/"))
	require.NoError(t, tab.ClickText("Sign in with Canal ID"))
	require.NoError(t, tab.SeeText("no team here does"))
	s.axe(t, "refused by the provider")
	assert.Equal(
		t,
		"/come-in",
		mustEval(t, tab, `location.pathname + location.search`),
		"the code has left the address",
	)
	require.NoError(t, tab.ClickText("To the sign-in"))
	at.As("17", "teacher@lockhouse.example", true, nil)
	require.NoError(t, tab.ClickText("Sign in with Canal ID"))
	require.NoError(t, tab.SeeText("Today"))

	require.NoError(t, tab.See(`header button[aria-label^="TQ"]:not([disabled])`))
	require.NoError(t, tab.Click(`header button[aria-label^="TQ"]:not([disabled])`))
	require.NoError(t, tab.SeeText("To Basin Nursery"))
	s.axe(t, "the menu with another team")
	require.NoError(t, tab.ClickText("To Basin Nursery"))
	require.NoError(t, tab.SeeText("There is no class yet"))
	assert.Equal(t, "lead", mustEval(t, tab, `fetch('/api/session').then(r => r.json()).then(m => m.role)`))
	require.NoError(t, tab.Go(s.server.URL+"/team?tab=people"))
	require.NoError(t, tab.SeeText("You sign in with Canal ID as well"))

	// The lead of the third team knows the address alone; the person proves the account.
	_, err = s.app.Accounts.CreateTeam(ctx, people.NewTeam{
		Name: "Weir School", Email: "lead@weir.example", LeadName: "Ida Spill", Password: "lantern beside the weir",
		Accent: phoneme.SouthernBritish,
	})
	require.NoError(t, err)
	lead, err := s.app.Accounts.SignIn(
		ctx,
		people.SignInAttempt{Email: "lead@weir.example", Password: "lantern beside the weir"},
	)
	require.NoError(t, err)
	link, err := s.app.Accounts.Ask(ctx, lead, people.Invitation{
		Name: "Tam Quayle", Email: "teacher@lockhouse.example", Role: tx.Teacher,
	})
	require.NoError(t, err)
	require.NoError(t, tab.Go(s.server.URL+link.Path))
	require.NoError(t, tab.SeeText("you work in another team already"))
	s.axe(t, "joining a further team")
	require.NoError(t, tab.Type("input[type=password]", "not the password"))
	require.NoError(t, tab.ClickText("Join the team"))
	require.NoError(t, tab.SeeText("do not fit together"))
	_ = mustEval(t, tab, `String(document.querySelector('input[type=password]').select())`)
	require.NoError(t, tab.Key("kettle on the barge"))
	require.NoError(t, tab.ClickText("Join the team"))
	require.NoError(t, tab.SeeText("Today"))
	assert.Equal(t, "Weir School", mustEval(t, tab, `fetch('/api/session').then(r => r.json()).then(m => m.team)`))
}
