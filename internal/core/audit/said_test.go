package audit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
)

// All that is said of a library with something wrong on nearly each card, to be read.
func TestWhatIsSaidOfALibrary(t *testing.T) {
	l := library(t, map[string]func(*card.Card){
		"s": func(c *card.Card) {
			c.Keyword, c.Picture, c.Slip = "castle", "1", "“suh”: blow only, sss."
			c.Rhyme = "Ssss goes the sleepy old snake over all of the stones in the sunshine today."
		},
		"a": func(c *card.Card) { c.Keyword, c.Picture, c.Words = "ant", "2", []string{"at", "zzz", "sat", "hit"} },
		"t": func(c *card.Card) {
			c.Keyword, c.Picture, c.Objects = "tap", "3", []string{"a tin", "sock", "tent", "blorp"}
		},
		"p": func(c *card.Card) {
			c.Keyword, c.Picture, c.Sentences = "pan", "3", []string{"a pan sat", "Sat.", "A pan  sat on the mat ."}
		},
		"i": func(c *card.Card) { c.Rhyme = "Itchy, itchy, twitchy imps, mmm, wigle in the inkk." },
		"n": func(c *card.Card) { c.Rhyme = "Nnn, blorptastigrum blorptastigrum blorptastigrum, a net." },
		"m": func(c *card.Card) { c.Keyword = "lamb" },
		"d": func(c *card.Card) { c.Words = []string{"dad", "mad", "dim", "dam", "damp"} },
		"g": func(c *card.Card) {
			c.Sentences, c.Words = []string{"Get the big frog."}, []string{"get", "frog", "big", "dig"}
		},
		"o": func(c *card.Card) {
			c.Sentences, c.Words = []string{"A dog is hot.", "Dot got a pot."}, []string{"dog", "hot", "frog"}
		},
		"k": func(c *card.Card) {
			c.Keyword, c.Sentences = "cat", []string{"A kid is sick.", "The king sings."}
			c.Words = []string{"kid", "king", "kick", "kiss"}
		},
		"f": func(c *card.Card) { c.Keyword = "elephant" },
		"sh": func(c *card.Card) {
			c.Keyword, c.Picture = "ship", "9"
			c.Exceptions, c.Sentences = []string{"she"}, []string{"She sat."}
			c.Words = []string{"ship", "shop", "wish", "she"}
		},
	}, strings.Fields("s a t p i n m d g o k f sh")...)
	for i, lufs := range []float64{-23, -19, -18.9, -27, -27.1, -35, -23, -12, -23} {
		l.Takes = append(l.Takes, audit.Take{CardID: l.Cards[i].ID, Speaker: "Ida", LUFS: lufs})
	}
	var out strings.Builder
	for _, f := range l.Look() {
		fmt.Fprintf(&out, "%s %s %v: %s", f.Code, f.Field, f.Cards, f.Text)
		if f.Mend != nil {
			fmt.Fprintf(&out, " [%s: %s]", f.Mend.Label, strings.ReplaceAll(f.Mend.Wording, "\n", " / "))
		}
		fmt.Fprintln(&out)
	}
	goldie.New(t).Assert(t, "said", []byte(out.String()))
}
