package audit_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
)

func countOf(l audit.Library, code audit.Code) (n int) {
	for _, f := range l.Look() {
		if f.Code == code {
			n++
		}
	}
	return n
}

// Each bound of what is found, from both of its sides.
func TestTheBoundsOfWhatIsFound(t *testing.T) {
	both := func(a, b string) int {
		return countOf(library(t, map[string]func(*card.Card){
			"m": func(c *card.Card) { c.Action = a }, "s": func(c *card.Card) { c.Action = b },
		}, "m", "s"), audit.SameAction)
	}
	assert.Equal(t, 1, both("barrel pond jump", "barrel pond jump"), "three words are told")
	assert.Zero(t, both("barrel pond", "barrel pond"), "two are not")
	assert.Equal(t, 1, both("barrel pond jump lamp", "barrel pond jump heron"), "three of five are alike")
	assert.Zero(t, both("barrel pond jump lamp", "barrel pond jump heron swan"), "three of six are not")

	takes := func(levels ...float64) []audit.Finding {
		l := library(t, nil, "m", "s", "a", "t")
		for i, lufs := range levels {
			l.Takes = append(l.Takes, audit.Take{CardID: l.Cards[i].ID, Speaker: "Ida", LUFS: lufs})
		}
		var out []audit.Finding
		for _, f := range l.Look() {
			if f.Code == audit.Loudness {
				out = append(out, f)
			}
		}
		return out
	}
	assert.Empty(t, takes(-20, -30), "of two nobody knows which is off")
	assert.Empty(t, takes(-20, -20, -24), "four units are heard by few")
	soft := takes(-20, -20, -24.1)
	assert.Len(t, soft, 1)
	assert.Contains(t, soft[0].Text, "4 dB softer")
	loud := takes(-20, -20, -14, -27)
	assert.Len(t, loud, 2)
	assert.Contains(t, loud[0].Text+loud[1].Text, "7 dB softer")
	assert.Contains(t, loud[0].Text+loud[1].Text, "6 dB louder")

	slip := func(rhyme string) int {
		return countOf(library(t, map[string]func(*card.Card){"m": func(c *card.Card) { c.Rhyme = rhyme }}, "m"), audit.Slip)
	}
	assert.Equal(t, 1, slip("The barrle rolls."))
	assert.Equal(t, 1, slip("The ktie."), "four letters")
	assert.Zero(t, slip("The ktt."), "three are a sound")
	assert.Zero(t, slip("The Barrle."), "a name")
	assert.Zero(t, slip("Mmmm, ssss, aaah, hummm."), "sounds as children draw them")

	thing := func(things ...string) int {
		return countOf(
			library(t, map[string]func(*card.Card){"m": func(c *card.Card) { c.Objects = things }}, "m"),
			audit.Thing,
		)
	}
	assert.Zero(t, thing("mop", "drum", "hammer"), "at the beginning, the end, within")
	assert.Equal(t, 1, thing("pot", "drum"))

	breath := func(words int) int {
		text := ""
		for range words {
			text += "pan "
		}
		return countOf(library(t, map[string]func(*card.Card){"m": func(c *card.Card) { c.Rhyme = text }}, "m"), audit.Breath)
	}
	last := 0
	for n := 1; n < 40; n++ {
		if breath(n) == 0 {
			last = n
		}
	}
	assert.Equal(
		t,
		int(audit.SyllablesASecond*audit.BreathSeconds),
		last,
		"as many syllables as a breath holds, and no more",
	)
}

// Of the six cards around one, five have what it lacks: not four, and bare cards are left alone.
func TestTheBoundsOfUnlikeNeighbours(t *testing.T) {
	pairs := []string{"m", "s", "a", "t", "p", "n", "d"}
	unlike := func(with, parts int) int {
		change := map[string]func(*card.Card){}
		left := with
		for i, p := range pairs {
			has := i != 3 && left > 0
			if has {
				left--
			}
			change[p] = func(c *card.Card) {
				fill := []func(){
					func() { c.Keyword = fmt.Sprint("k", i) }, func() { c.Rhyme = fmt.Sprint("r", i) },
					func() { c.MouthCue = "Lips." }, func() { c.Slip = "No." }, func() { c.PictureAlt = fmt.Sprint("A ", i) },
				}
				if i == 3 {
					fill = fill[:parts]
				}
				for _, f := range fill {
					f()
				}
				if has {
					c.StrokeWords = "Down."
				}
			}
		}
		n := 0
		for _, f := range library(t, change, pairs...).Look() {
			if f.Code == audit.Unlike && f.Cards[0] == "t" && f.Field == "stroke_words" {
				n++
			}
		}
		return n
	}
	assert.Equal(t, 1, unlike(6, 5), "all six have it")
	assert.Equal(t, 1, unlike(5, 5), "five")
	assert.Zero(t, unlike(4, 5), "four")
	assert.Zero(t, unlike(6, 4), "a bare card says itself that it is unfinished")
}
