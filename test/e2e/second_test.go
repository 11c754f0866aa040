package e2e

import (
	"context"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
)

// A second step is set up with a picture to scan; the next sign-in asks for the code at its place, and keeps what was
// typed.
func TestASecondStepAtTheSignIn(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/team?tab=people"))
	require.NoError(t, tab.SeeText("Sign in with a code as well"))
	_ = mustEval(t, tab, `String([...document.querySelectorAll('summary')]
		.find(s => s.innerText.includes('a code as well')).click())`)
	require.NoError(t, tab.ClickText("Set it up"))
	require.NoError(t, tab.SeeText("Scan this with the app"))
	s.axe(t, "a second step being set up")
	secret := mustEval(t, tab, `document.querySelector('b.font-mono').innerText`)
	code := func(late time.Duration) string {
		c, err := totp.GenerateCode(secret, time.Now().Add(late))
		require.NoError(t, err)
		return c
	}
	require.NoError(t, tab.Type("input[autocomplete=one-time-code]", code(0)))
	require.NoError(t, tab.ClickText("Ask for it from now on"))
	require.NoError(t, tab.SeeText("Write these down on paper"))
	_, err := s.app.Pool.Exec(context.Background(), "DELETE FROM sessions")
	require.NoError(t, err)
	require.NoError(t, tab.Go(s.server.URL+"/"))
	require.NoError(t, tab.SeeText("One agreed library"))
	require.NoError(t, tab.Type("input[type=email]", demo.SignIns[1].Email))
	require.NoError(t, tab.Type("input[type=password]", demo.SignIns[1].Password))
	require.NoError(t, tab.ClickText("Sign in"))
	require.NoError(t, tab.SeeText("Code from your app"))
	s.axe(t, "the sign-in with a code")
	require.NoError(t, tab.Type("input[autocomplete=one-time-code]", "123123"))
	require.NoError(t, tab.ClickText("Sign in"))
	require.NoError(t, tab.SeeText("This code is wrong, or it was used"))
	_ = mustEval(t, tab, `String(document.querySelector('input[autocomplete=one-time-code]').select())`)
	require.NoError(t, tab.Key(code(30*time.Second))) // the next one: that of now was used for the set-up
	require.NoError(t, tab.ClickText("Sign in"))
	require.NoError(t, tab.SeeText("Today"))
	assert.Contains(t, mustEval(t, tab, `location.pathname`), "/today")
}
