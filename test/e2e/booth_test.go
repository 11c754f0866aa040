package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The microphone says m at 0.7 and at 2.2 seconds after it was opened, then nothing.
func TestBoothChecksTheRoomAndGoesByTheLight(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/booth"))
	require.NoError(t, tab.SeeText("Is this room quiet enough?"))
	require.NoError(t, tab.ClickText("Check the room and the microphone"))
	require.NoError(t, tab.SeeText("Keep still. When the lamp lights"))
	require.NoError(t, tab.SeeText("Now: “tap!”"))
	require.NoError(t, tab.SeeText("Something was heard while it should have been silent"))
	s.axe(t, "a room that was not silent")

	require.NoError(t, tab.Go(s.server.URL+"/booth"))
	require.NoError(t, tab.ClickText("All by the light"))
	require.NoError(t, tab.ClickText("Begin with all"))
	require.NoError(t, tab.SeeText("Tick that the speaker agrees"), "nobody is recorded without consent")
	require.NoError(t, tab.Click("input[type=checkbox]"))
	require.NoError(t, tab.ClickText("Begin with all"))
	require.NoError(t, tab.SeeText("Try 1 of 3"))
	require.NoError(t, tab.See("[data-lit=true]"))
	s.axe(t, "by the light")
	require.NoError(t, tab.SeeText("Try 2 of 3"), "what was not pure is tried again by itself")
	require.NoError(t, tab.Key("l"))
	require.NoError(t, tab.SeeText("Try 1 of 3"), "put off, and the next begins")
	require.NoError(t, tab.ClickText("Stop"))
	require.NoError(t, tab.SeeText("for later"))
}

func TestListeningBlind(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	tab := s.tab
	require.NoError(t, tab.Go(s.server.URL+"/booth?tab=hearing"))
	require.NoError(t, tab.SeeText("0 of 47 heard"))
	shown := mustEval(t, tab, `document.body.innerText`)
	for _, telling := range []string{"Demo voice", "Ready to use", "Say it again"} {
		assert.NotContains(t, shown, telling, "no verdict, no speaker")
	}
	s.axe(t, "listening blind")
	require.NoError(t, tab.Key("y"))
	require.NoError(t, tab.SeeText("1 of 47 heard"))
	require.NoError(t, tab.Key("n"))
	require.NoError(t, tab.Click("fieldset input"))
	require.NoError(t, tab.ClickText("Not pure, next"))
	require.NoError(t, tab.SeeText("2 takes heard by both"))
	require.NoError(t, tab.SeeText("Takes to hear together"))
	require.NoError(t, tab.SeeText("not pure, a vowel follows"))
	require.NoError(t, tab.Key("u"))
	require.NoError(t, tab.SeeText("1 of 47 heard"))
	require.NoError(t, tab.SeeText("1 take heard by both"))
	s.axe(t, "what was heard")
}
