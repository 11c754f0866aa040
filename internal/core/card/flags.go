package card

import (
	"fmt"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
)

// WordFlag is what is wrong with a word on a card.
type WordFlag struct {
	Word string   `json:"word"`
	Code FlagCode `json:"code" enum:"refused,slip,lacks,elsewhere"`
	Text string   `json:"text"`
}

// FlagCode names what is wrong with a word.
type FlagCode string

const (
	Refused   FlagCode = "refused"   // kept from children
	Slip      FlagCode = "slip"      // probably mistyped
	Lacks     FlagCode = "lacks"     // does not hold the pair of the card
	Elsewhere FlagCode = "elsewhere" // of the other side of the ocean
)

// FlaggedWords looks through the card's words: refused ones, likely typing slips, words that do not hold the card's
// pair as the team speaks, and words of the other side of the ocean. In the order of the card, one flag for each
// word.
func (c Card) FlaggedWords(o lexicon.Speech) []WordFlag {
	out := []WordFlag{}
	for _, w := range c.Words {
		if f, ok := c.flag(strings.ToLower(w), o); ok {
			out = append(out, f)
		}
	}
	return out
}

func (c Card) flag(word string, o lexicon.Speech) (WordFlag, bool) {
	say := func(code FlagCode, format string, args ...any) (WordFlag, bool) {
		return WordFlag{word, code, fmt.Sprintf(format, args...)}, true
	}
	if theme, refused := o.Refuses(word); refused {
		return say(
			Refused,
			"%s is kept out of what children are offered (%s).",
			word,
			strings.ReplaceAll(string(theme), "-", " "),
		)
	}
	e, known := lexicon.Find(word)
	if !o.Knows(word) {
		if meant := lexicon.Meant(word); meant != "" {
			return say(Slip, "%s is no word we know. Did you mean %s?", word, meant)
		}
	}
	if known && !e.At(o.Accent) {
		if ours := lexicon.Ours(word, o.Accent); ours != "" {
			return say(Elsewhere, "%s is said elsewhere; here it is %s.", word, ours)
		}
	}
	seg, err := o.Segment(word)
	if err != nil {
		return say(Slip, "%s is no word.", word)
	}
	for _, r := range append([]lexicon.Reading{seg.Reading}, seg.Alternatives...) {
		if spelling.Holds(r.Segments, c.Pair) {
			return WordFlag{}, false
		}
	}
	return say(Lacks, "%s does not hold %s as it sounds on this card.", word, c.Pair.Grapheme)
}
