// Package audit looks over a whole library for what contradicts itself: what serves two sounds, what a card says
// against its sound, slips of the pen, and cards unlike their neighbours. It finds; people decide.
package audit

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
)

// Code names what kind of thing was found.
type Code string

// Codes, in the order in which they matter.
const (
	Contradiction Code = "contradiction" // a card against its own sound
	SameKeyword   Code = "same-keyword"  // one keyword for two sounds
	SamePicture   Code = "same-picture"
	SameAction    Code = "same-action"
	SameRhyme     Code = "same-rhyme"
	OtherSpelling Code = "other-spelling" // the keyword has the sound, spelled otherwise
	WordFlagged   Code = "word"           // a word that is refused, mistyped, or does not hold the pair
	Slip          Code = "slip"           // a mistyped word in a text
	Sentence      Code = "sentence"       // without its capital or stop, without the sound, with a word kept from children
	NoneReadable  Code = "none-readable"  // no sentence of a card can be read at its step
	FewWords      Code = "few-words"      // too few words of a card can be read at its step
	Breath        Code = "breath"         // a rhyme that cannot be said in one breath
	Thing         Code = "thing"          // a thing of the tray does not hold the sound
	SecondName    Code = "second-name"    // the picture has a second name
	Loudness      Code = "loudness"       // a take is louder or softer than the others
	Unlike        Code = "unlike"         // lacks what its neighbours have
)

// Finding is something that was found.
type Finding struct {
	// Key is the same as long as what was found is the same, so that a team can leave it for good.
	Key   string   `json:"key"`
	Code  Code     `json:"code" enum:"contradiction,same-keyword,same-picture,same-action,same-rhyme,other-spelling,word,slip,sentence,none-readable,few-words,breath,thing,second-name,loudness,unlike"`
	Cards []string `json:"cards" doc:"card ids, the one to be mended first"`
	Field string   `json:"field" doc:"the part of the card by its name, or take"`
	Text  string   `json:"text" doc:"what is wrong there, and why"`
	Mend  *Mend    `json:"mend,omitempty"`
}

// Mend is what one press does: another wording for a field of a card.
type Mend struct {
	CardID  string `json:"card_id" format:"uuid"`
	Field   string `json:"field"`
	Wording string `json:"wording" doc:"a list has a line for each item"`
	Label   string `json:"label" doc:"what the press does"`
}

// Take is a chosen take as it is played.
type Take struct {
	CardID, Speaker string
	LUFS            float64
}

// Library is what is looked over. Cards stand in the order of teaching, each in its newest version.
type Library struct {
	Team  convention.Conventions
	Cards []card.Card
	Takes []Take
}

// Look finds all of it, the gravest kinds first, each kind in the order of teaching.
func (l Library) Look() []Finding {
	out := []Finding{}
	for _, find := range []func() []Finding{
		l.contradictions, l.twice, l.keywords, l.words, l.slips, l.sentences, l.breaths, l.things, l.secondNames,
		l.loudness, l.unlike,
	} {
		out = append(out, find()...)
	}
	rank := map[Code]int{}
	for i, c := range []Code{
		Contradiction, SameKeyword, SamePicture, SameAction, SameRhyme, OtherSpelling, WordFlagged, Slip, Sentence,
		NoneReadable, FewWords, Breath, Thing, SecondName, Loudness, Unlike,
	} {
		rank[c] = i
	}
	slices.SortStableFunc(out, func(a, b Finding) int { return cmp.Compare(rank[a.Code], rank[b.Code]) })
	return out
}

// newFinding makes a finding; what is the piece of the library that it stands on.
func newFinding(code Code, field, what string, cards []string, format string, args ...any) Finding {
	sum := fnv.New128a()
	_, _ = fmt.Fprint(sum, code, "\n", field, "\n", what, "\n", slices.Sorted(slices.Values(cards)))
	return Finding{
		Key: fmt.Sprintf(
			"%x",
			sum.Sum(nil),
		), Code: code, Cards: cards, Field: field, Text: fmt.Sprintf(format, args...),
	}
}

func (f Finding) mended(c card.Card, wording, label string) Finding {
	f.Mend = &Mend{c.ID, f.Field, wording, label}
	return f
}

// speech is how the team speaks on a card.
func (l Library) speech(c card.Card) lexicon.Speech { return c.Content.Conventions(l.Team).Speech() }

func name(c card.Card) string { return spelled(c.Pair) }

// spelled names a pair by its letters and a sound.
func spelled(p spelling.Pair) string { return fmt.Sprintf("%s /%s/", p.Grapheme, p.Sound) }

// contradictions are what each card says against its own sound.
func (l Library) contradictions() (out []Finding) {
	for _, c := range l.Cards {
		conv := c.Content.Conventions(l.Team)
		for _, f := range c.Check(conv.Accent, conv.Speech().Sounds(c.Keyword)) {
			what, _ := c.Wording(f.Field)
			out = append(out, newFinding(Contradiction, f.Field, what+f.Text, []string{c.ID}, "%s", f.Text))
		}
		if theme, refused := conv.Speech().Refuses(c.Keyword); refused {
			out = append(out, newFinding(Contradiction, "keyword", c.Keyword, []string{c.ID},
				"“%s” is kept out of what children are offered (%s).", c.Keyword, theme))
		}
	}
	return out
}

// twice are keywords, pictures, actions and rhymes that serve two sounds.
func (l Library) twice() (out []Finding) {
	for i, a := range l.Cards {
		for _, b := range l.Cards[i+1:] {
			if a.Pair.Sound == b.Pair.Sound {
				continue // two spellings of one sound may share what makes it heard
			}
			both := []string{b.ID, a.ID}
			if k := strings.ToLower(a.Keyword); k != "" && k == strings.ToLower(b.Keyword) {
				out = append(out, newFinding(
					SameKeyword,
					"keyword",
					k,
					both,
					"“%s” is the keyword of %s and of %s: children cannot tell which sound it stands for.",
					k,
					name(a),
					name(b),
				))
			}
			if a.Picture != "" && a.Picture == b.Picture {
				out = append(out, newFinding(SamePicture, "picture", a.Picture, both,
					"%s and %s have the same picture.", name(a), name(b)))
			}
			for code, field := range map[Code]string{SameAction: "action", SameRhyme: "rhyme"} {
				left, _ := a.Wording(field)
				right, _ := b.Wording(field)
				if alike(left, right) {
					out = append(out, newFinding(code, field, left+"\n"+right, both,
						"%s and %s have nearly the same %s: “%s”, “%s”.", name(a), name(b), field, left, right))
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Finding) int { return strings.Compare(string(a.Code), string(b.Code)) })
	return out
}

// alikeShare is how much of the words of two texts must be the same for them to be taken for one another, and
// minReported how many words they need to tell; common practice, no published source.
const (
	alikeShare  = 0.6
	minReported = 3
)

// empty are words that tell nothing of an action or a rhyme.
var empty = strings.Fields(
	"a an the and or with of to in on at it its your you both each one once for is are as like " +
		"sound sounds say while up down",
)

func reported(text string) (out []string) {
	for _, w := range splitWords(text) {
		if !slices.Contains(empty, w) && !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	return out
}

// alike tells whether two texts say nearly the same.
func alike(a, b string) bool {
	left, right := reported(a), reported(b)
	if len(left) < minReported || len(right) < minReported {
		return false
	}
	same := 0
	for _, w := range left {
		if slices.Contains(right, w) {
			same++
		}
	}
	return float64(same) >= alikeShare*float64(len(left)+len(right)-same)
}

// keywords are those that have the sound of the card in another spelling than its own.
func (l Library) keywords() (out []Finding) {
	for _, c := range l.Cards {
		if c.Keyword == "" {
			continue
		}
		seg, err := l.speech(c).Segment(c.Keyword)
		if err != nil || seg.Source != lexicon.FromLexicon || spelling.Holds(seg.Segments, c.Pair) {
			continue
		}
		for _, s := range seg.Segments {
			if s.Pair.Sound == c.Pair.Sound {
				out = append(out, newFinding(OtherSpelling, "keyword", c.Keyword, []string{c.ID},
					"In “%s” the sound is spelled %s, not %s.", c.Keyword, s.Grapheme, c.Pair.Grapheme))
				break
			}
		}
	}
	return out
}

// words are those of the cards that are refused, mistyped or do not hold the pair.
func (l Library) words() (out []Finding) {
	for _, c := range l.Cards {
		for _, f := range c.FlaggedWords(l.speech(c)) {
			rest := slices.DeleteFunc(
				slices.Clone(c.Words),
				func(w string) bool { return strings.EqualFold(w, f.Word) },
			)
			one := newFinding(WordFlagged, "words", f.Word, []string{c.ID}, "%s", f.Text)
			out = append(out, one.mended(c, strings.Join(rest, "\n"), "Take "+f.Word+" off"))
		}
	}
	return out
}
