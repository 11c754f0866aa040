package e2e

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/exchange"
)

// A spreadsheet of sixty words is in the library after three presses: the menu, the file, and a yes.
func TestASpreadsheetOfWordsComesIn(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	ctx := context.Background()
	lead := s.lead(t)
	var text bytes.Buffer
	w := csv.NewWriter(&text)
	require.NoError(t, w.Write([]string{"Word", "Spelling"}))
	for _, word := range strings.Fields(`shack shelf shift shin shock shot shrub shrug shunt shut slush smash stash trash
		blush brush crash crush dash flash flesh flush fresh gash gush hush lash lush mash mesh plush posh radish rash
		sash shall shabby shadow sham shank shaft shed shelves shim shins shod shops shred shrimp shrink shush slash
		squash swish thrash finish polish rubbish varnish punish`) {
		require.NoError(t, w.Write([]string{word, "sh"}))
	}
	require.NoError(t, w.Write([]string{"shoot", "sh"})) // no school book has it on its list
	w.Flush()
	file := filepath.Join(t.TempDir(), "words.csv")
	require.NoError(t, os.WriteFile(file, text.Bytes(), 0o600))
	presses := 0
	press := func(text string) {
		presses++
		require.NoError(t, s.tab.ClickText(text))
	}
	require.NoError(t, s.tab.Go(s.server.URL+"/bring"))
	presses++ // the way there
	require.NoError(t, s.tab.SeeText("Choose a file"))
	presses++
	require.NoError(t, s.tab.Upload("input[type=file]", file))
	require.NoError(t, s.tab.SeeText("the first line names the columns"))
	s.axe(t, "a table of words")
	label := mustEval(
		t,
		s.tab,
		`[...document.querySelectorAll('button')].map(b => b.innerText).find(t => /^Take \d+ lines?$/.test(t))`,
	)
	press(label)
	require.NoError(t, s.tab.SeeText("came in"))
	assert.LessOrEqual(t, presses, 6)
	wall, err := s.app.Cards.Wall(ctx, lead, false)
	require.NoError(t, err)
	for _, c := range wall {
		if c.Pair.Grapheme == "sh" {
			v, err := s.app.Cards.Card(ctx, lead, c.CardID)
			require.NoError(t, err)
			assert.Greater(t, len(v.Content.Words), 50)
			assert.Contains(t, v.Content.Words, "brush")
		}
	}
	t.Logf("%d presses; %s", presses, label)
}

// A bundle of another team is looked at, one card of it is taken by filling gaps, and what was agreed stays.
func TestABundleIsLookedAtAndTaken(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	ctx := context.Background()
	lead := s.lead(t)
	var out bytes.Buffer
	require.NoError(t, s.app.Exports.Bundle(ctx, lead, exchange.BundleAsk{}, &out))
	file := filepath.Join(t.TempDir(), "theirs.zip")
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
	wall, err := s.app.Cards.Wall(ctx, lead, false)
	require.NoError(t, err)
	id := wall[2].CardID
	v, err := s.app.Cards.Card(ctx, lead, id)
	require.NoError(t, err)
	require.NotEmpty(t, v.Content.Action)
	mine := v.Content
	mine.Action, mine.Notes = "", "Ours."
	v, err = s.app.Cards.Save(ctx, lead, id, v.Version, mine)
	require.NoError(t, err)

	require.NoError(t, s.tab.Go(s.server.URL+"/bring"))
	require.NoError(t, s.tab.SeeText("Choose a file"))
	require.NoError(t, s.tab.Upload("input[type=file]", file))
	require.NoError(t, s.tab.SeeText("cards different"))
	s.axe(t, "a bundle")
	require.NoError(t, s.tab.ClickText("New ones, and fill our gaps"))
	require.NoError(t, s.tab.SeeText("Takes 1 changed card"))
	require.NoError(t, s.tab.ClickText("Take it into our library"))
	require.NoError(t, s.tab.SeeText("1 card changed"))
	after, err := s.app.Cards.Card(ctx, lead, id)
	require.NoError(t, err)
	assert.NotEmpty(t, after.Content.Action)
	assert.Equal(t, "Ours.", after.Content.Notes)
	assert.Equal(t, card.Draft, after.State)

	bad := filepath.Join(t.TempDir(), "bad.zip")
	require.NoError(t, os.WriteFile(bad, []byte("PK\x03\x04 not"), 0o600))
	require.NoError(t, s.tab.Go(s.server.URL+"/bring"))
	require.NoError(t, s.tab.SeeText("Choose a file"))
	require.NoError(t, s.tab.Upload("input[type=file]", bad))
	require.NoError(t, s.tab.SeeText("it is not a ZIP file"))
}

// A name of the school's own is said once; a character gets another name in the places that are chosen.
func TestTheStock(t *testing.T) {
	s := open(t)
	s.signIn(t, "teacher")
	require.NoError(t, s.tab.Go(s.server.URL+"/stock"))
	require.NoError(t, s.tab.SeeText("Lockhouse"))
	require.NoError(t, s.tab.Type("input", "Sedgeby"))
	require.NoError(t, s.tab.ClickText("Cut it"))
	require.NoError(t, s.tab.SeeText("Or write its sounds"))
	s.axe(t, "a word cut")
	require.NoError(t, s.tab.ClickText("Keep it"))
	require.Eventually(t, func() bool {
		list, err := s.app.OwnWords.Words(context.Background(), s.lead(t))
		return err == nil && strings.Contains(fmt.Sprint(list), "Sedgeby")
	}, 20*time.Second, 100*time.Millisecond, mustEval(t, s.tab, "document.body.innerText"))
	require.NoError(t, s.tab.Go(s.server.URL+"/stock?tab=books"))
	require.NoError(t, s.tab.SeeText("can be read today"))
	s.axe(t, "books")
	require.NoError(t, s.tab.Go(s.server.URL+"/stock?tab=replace&what=Pip&with=Moss"))
	require.NoError(t, s.tab.SeeText("Change 2 places"))
	s.axe(t, "a wording to replace")
	require.NoError(t, s.tab.ClickText("Change 2 places"))
	require.NoError(t, s.tab.SeeText("“Pip” became “Moss” in 2 places"))
	uses, err := s.app.OwnWords.Uses(context.Background(), s.lead(t), "Pip", "")
	require.NoError(t, err)
	assert.Empty(t, uses)
}
