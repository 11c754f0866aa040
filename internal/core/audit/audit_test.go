package audit_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

var team = convention.Conventions{Accent: phoneme.SouthernBritish}

// library is one of cards by their pairs, in order, each changed by a function.
func library(t *testing.T, change map[string]func(*card.Card), pairs ...string) audit.Library {
	t.Helper()
	l := audit.Library{Team: team}
	for i, p := range pairs {
		pair, err := spelling.ParsePair(team.Accent, p)
		require.NoError(t, err)
		c := card.Card{ID: p, Step: i + 1, Pair: pair}
		if f := change[p]; f != nil {
			f(&c)
		}
		l.Cards = append(l.Cards, c)
	}
	return l
}

func codes(list []audit.Finding) (out []audit.Code) {
	for _, f := range list {
		out = append(out, f.Code)
	}
	return out
}

func only(t *testing.T, l audit.Library) audit.Finding {
	t.Helper()
	list := l.Look()
	require.Len(t, list, 1, "%v", list)
	return list[0]
}

func TestWhatServesTwoSounds(t *testing.T) {
	for _, row := range []struct {
		code audit.Code
		a, b func(*card.Card)
	}{
		{audit.SameKeyword, func(c *card.Card) { c.Keyword = "seam" }, func(c *card.Card) { c.Keyword = "Seam" }},
		{audit.SamePicture, func(c *card.Card) { c.Picture = "ab" }, func(c *card.Card) { c.Picture = "ab" }},
		{
			audit.SameAction,
			func(c *card.Card) { c.Action = "Roll the barrel with both hands." },
			func(c *card.Card) { c.Action = "Roll a barrel along with your hands." },
		},
		{
			audit.SameRhyme,
			func(c *card.Card) { c.Rhyme = "Pop the peas in the pan." },
			func(c *card.Card) { c.Rhyme = "Pop peas into a pan." },
		},
	} {
		l := library(t, map[string]func(*card.Card){"m": row.a, "s": row.b}, "m", "s")
		f := only(t, l)
		assert.Equal(t, row.code, f.Code)
		assert.Equal(t, []string{"s", "m"}, f.Cards, "the later one is to be mended")
		same := library(t, map[string]func(*card.Card){"ee": row.a, "ea": row.b}, "ee", "ea=iː")
		assert.NotContains(t, codes(same.Look()), row.code, "two spellings of one sound may share it")
	}
	l := library(t, map[string]func(*card.Card){
		"m": func(c *card.Card) { c.Action = "Roll the barrel with both hands." },
		"s": func(c *card.Card) { c.Action = "Hold the pan and make the peas jump." },
	}, "m", "s")
	assert.Empty(t, l.Look())
}

func TestWhatACardSaysAgainstItsSound(t *testing.T) {
	for name, row := range map[string]struct {
		pair   string
		code   audit.Code
		change func(*card.Card)
	}{
		"a cluster":                {"s", audit.Contradiction, func(c *card.Card) { c.Keyword = "stop" }},
		"the letter's name":        {"b", audit.Contradiction, func(c *card.Card) { c.Keyword = "beach" }},
		"voice on for s":           {"s", audit.Contradiction, func(c *card.Card) { c.MouthCue = "Voice on, teeth shut." }},
		"another spelling":         {"k", audit.OtherSpelling, func(c *card.Card) { c.Keyword = "cat" }},
		"a word without the pair":  {"k", audit.WordFlagged, func(c *card.Card) { c.Words = []string{"cat"} }},
		"a slip of the pen":        {"m", audit.Slip, func(c *card.Card) { c.Action = "Lift the barrle up." }},
		"a sentence without it":    {"m", audit.Sentence, func(c *card.Card) { c.Sentences = []string{"A cat sat."} }},
		"a sentence without stop":  {"m", audit.Sentence, func(c *card.Card) { c.Sentences = []string{"Mum is up"} }},
		"a thing without it":       {"m", audit.Thing, func(c *card.Card) { c.Objects = []string{"a red mug", "bell"} }},
		"a picture with two names": {"r", audit.SecondName, func(c *card.Card) { c.Keyword, c.Picture = "rabbit", "ab" }},
		"no breath": {"m", audit.Breath, func(c *card.Card) {
			c.Rhyme = "Many merry market men make marmalade"
			c.RhymeShort = "Mother and the merry men make marmalade every morning"
		}},
	} {
		l := library(t, map[string]func(*card.Card){row.pair: row.change}, row.pair)
		assert.Equal(t, []audit.Code{row.code}, codes(l.Look()), name)
	}
}

func TestOnePressMends(t *testing.T) {
	l := library(t, map[string]func(*card.Card){"m": func(c *card.Card) {
		c.Action = "Lift the barrle; the barrle is red."
		c.Words = []string{"mat", "cat", "him"}
		c.Sentences = []string{"mum is up"}
	}}, "m")
	for range 4 { // each press mends one, and the last leaves nothing
		list := l.Look()
		at := slices.IndexFunc(list, func(f audit.Finding) bool { return f.Mend != nil })
		if at < 0 {
			break
		}
		after, err := l.Cards[0].Worded(list[at].Mend.Field, list[at].Mend.Wording)
		require.NoError(t, err)
		l.Cards[0].Content = after
	}
	assert.Empty(t, l.Look())
	assert.Equal(t, "Lift the barrel; the barrel is red.", l.Cards[0].Action)
	assert.Equal(t, []string{"mat", "him"}, l.Cards[0].Words)
	assert.Equal(t, []string{"Mum is up."}, l.Cards[0].Sentences)
}

// What was left as it is stays left until it changes.
func TestTheKeyIsThatOfWhatWasFound(t *testing.T) {
	write := func(keyword, notes string) audit.Finding {
		return only(t, library(t, map[string]func(*card.Card){"s": func(c *card.Card) {
			c.Keyword, c.Notes = keyword, notes
		}}, "m", "s"))
	}
	assert.Equal(t, write("stop", "").Key, write("stop", "something else").Key)
	assert.NotEqual(t, write("stop", "").Key, write("spoon", "").Key)
}

func TestTakesAndNeighbours(t *testing.T) {
	l := library(t, nil, "m", "s", "t")
	for i, lufs := range []float64{-20, -20.5, -26} {
		l.Takes = append(l.Takes, audit.Take{CardID: l.Cards[i].ID, Speaker: "Ada", LUFS: lufs})
	}
	f := only(t, l)
	assert.Equal(t, audit.Loudness, f.Code)
	assert.Contains(t, f.Text, "softer")

	pairs := strings.Fields("m s t p a i n")
	change := map[string]func(*card.Card){}
	for _, p := range pairs {
		change[p] = func(c *card.Card) {
			c.Rhyme, c.RhymeShort, c.MouthCue, c.Slip = "Row "+p, p, "Lips.", "No."
			c.StrokeWords = "Down."
			if p == "p" {
				c.RhymeShort = ""
				c.PictureAlt = "A pan."
			}
		}
	}
	f = only(t, library(t, change, pairs...))
	assert.Equal(t, audit.Unlike, f.Code)
	assert.Equal(t, "rhyme_short", f.Field)
	assert.Equal(t, []string{"p"}, f.Cards)
}

func TestWhatCannotBeReadYet(t *testing.T) {
	pairs := strings.Fields("s a t p i n m d g")
	l := library(t, map[string]func(*card.Card){"g": func(c *card.Card) {
		c.Words = []string{"gong", "green", "big", "bag", "beg", "gap"}
		c.Sentences = []string{"The green frog is big."}
	}}, pairs...)
	assert.Equal(t, []audit.Code{audit.NoneReadable, audit.FewWords}, codes(l.Look()))
	l.Cards[8].Words = []string{"gap", "dig", "pig", "tag"}
	l.Cards[8].Sentences = []string{"Dig it in."}
	assert.Empty(t, l.Look())
}
