package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/test/browser"
)

// A word game is sent into a lesson and taught from there; a sentence is checked, kept and cut.
func TestWordBoxAndTexts(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	require.NoError(t, s.tab.Go(s.server.URL+"/lessons"))
	require.NoError(t, s.tab.SeeText("This is the next one"))
	require.NoError(t, s.tab.ClickText("Make the lesson"))
	require.NoError(t, s.tab.SeeText("planned"))

	require.NoError(t, s.tab.Go(s.server.URL+"/words"))
	require.NoError(t, s.tab.SeeText("the best first"))
	s.axe(t, "words")
	require.NoError(t, s.tab.Type("[placeholder='any word']", "night"))
	require.NoError(t, s.tab.ClickText("Look"))
	require.NoError(t, s.tab.SeeText("comes in step 60"))
	for _, view := range []struct{ tab, text string }{{"3", "Equal numbers"}, {"5", "words that most children " +
		"know"}, {"6", "at the start"}, {"4", "One sound changes at a time"}} {
		require.NoError(t, s.tab.Click("[role=tab]:nth-child("+view.tab+")"))
		require.NoError(t, s.tab.SeeText(view.text))
		s.axe(t, "words, tab "+view.tab)
	}
	require.NoError(t, s.tab.SeeText("Start here."))
	require.NoError(t, s.tab.ClickText("Pick all"))
	require.NoError(t, s.tab.SeeText("on to the card"))
	s.axe(t, "picked words")
	picked, err := browser.Eval[[]string](
		s.tab,
		`[...document.querySelectorAll('[aria-label="Picked words"] button[aria-label^="Put"]')]
			.map(b => b.innerText.replace('×', '').trim())
			.filter(w => w)`,
	)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(picked), 4)
	require.NoError(t, s.tab.ClickText("Send"))
	require.NoError(t, s.tab.SeeText("sent."))
	require.NoError(t, s.tab.ClickText("Open it"))
	require.NoError(t, s.tab.SeeText("planned"))
	read := mustEval(t, s.tab, `[...document.querySelectorAll('[aria-label=Steps] button')]
		.find(b => b.innerText.includes('Read')).innerText.split(/\s+/).join(' ')`)
	assert.Contains(t, read, strings.Join(picked, " "), "the chain stands in the Read step")

	require.NoError(t, s.tab.Go(s.server.URL+"/texts"))
	require.NoError(t, s.tab.SeeText("readable"))
	s.axe(t, "texts")
	require.NoError(t, s.tab.Type("#text-to-check", "A dog sat on a ship."))
	require.NoError(t, s.tab.See("[data-status='untaught']"))
	require.NoError(t, s.tab.SeeText("83 % of 6 words can be read"))
	s.axe(t, "checked text")
	require.NoError(t, s.tab.Go(s.server.URL+"/texts"))
	require.NoError(t, s.tab.SeeText("readable"))
	require.NoError(t, s.tab.Type("#text-to-check", "A red cat ran on a mat."))
	require.NoError(t, s.tab.SeeText("100 % of 7 words can be read"))
	require.NoError(t, s.tab.ClickText("Cut into pieces"))
	require.NoError(t, s.tab.SeeText("Cut here"))
	require.NoError(t, s.tab.ClickText("Keep in the bank as a sentence"))
	require.NoError(t, s.tab.SeeText("It is in the team’s bank now"))
	require.NoError(t, s.tab.ClickText("Send"))
	require.NoError(t, s.tab.SeeText("sent."))
	s.axe(t, "text with its pieces")
}
