package words

import (
	"cmp"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/unfit"
)

// Here is why a grapheme stands where it does in a word.
type Here struct {
	Grapheme string `json:"grapheme"`
	Letters  []int  `json:"letters"`
	Why      string `json:"why"`
}

// place is where a grapheme stands, with its neighbours.
type placeInWord struct {
	first, last bool
	before      *spelling.Segment
	after       *spelling.Segment
	shortBefore bool // one short vowel letter stands before it
}

// Rules of place: common practice, no published source; that the lexicon follows them is tested.
var placeRules = []struct {
	graphemes string
	holds     func(p placeInWord) bool
	why       string
}{
	{
		" ck ",
		func(p placeInWord) bool { return p.last && p.shortBefore },
		"After one short vowel the sound at the end is written ck.",
	},
	{
		" ff ll ss zz ",
		func(p placeInWord) bool { return p.last && p.shortBefore },
		"After one short vowel this letter is doubled at the end.",
	},
	{
		" tch ",
		func(p placeInWord) bool { return p.shortBefore },
		"Straight after a short vowel the sound is mostly written tch.",
	},
	{" dge ", func(p placeInWord) bool { return p.shortBefore }, "Straight after a short vowel the sound is written dge."},
	{
		" k ",
		func(p placeInWord) bool { return p.after != nil && strings.Contains("eiy", p.after.Grapheme[:1]) },
		"Before e, i and y the sound is written k: c would say another sound there.",
	},
	{" c ", func(p placeInWord) bool {
		return p.after != nil && strings.Contains("aou", p.after.Grapheme[:1]) && p.after.Grapheme != "ue"
	}, "Before a, o and u the sound is mostly written c."},
	{" ai oi ", func(p placeInWord) bool { return !p.last }, "Inside a word; at the end it would be written with y."},
	{" ay oy ", func(p placeInWord) bool { return p.last }, "At the end of a word; inside it would be written with i."},
	{" ve ", func(p placeInWord) bool { return p.last }, "No English word ends in v alone."},
	{" qu ", func(placeInWord) bool { return true }, "q never stands without u."},
	{" igh ", func(p placeInWord) bool { return p.last || p.after.Grapheme == "t" }, "Mostly at the end or before t."},
	{" ng ", func(p placeInWord) bool { return !p.first }, "Never at the start of a word."},
	{" kn wr gn ", func(p placeInWord) bool { return p.first }, "An old spelling: the first letter was once said."},
}

// WhyHere gives the reasons of place for the graphemes of a word, in its order; those without a rule are left out.
func WhyHere(segments []spelling.Segment) []Here {
	out := []Here{}
	for i, s := range segments {
		p := placeInWord{first: i == 0, last: i == len(segments)-1}
		if i > 0 {
			p.before = &segments[i-1]
			p.shortBefore = len(p.before.Grapheme) == 1 && strings.Contains("aeiou", p.before.Grapheme)
		}
		if !p.last {
			p.after = &segments[i+1]
		}
		if strings.HasSuffix(s.Grapheme, "-e") && !s.Rare {
			out = append(
				out,
				Here{s.Grapheme, s.Letters, "The e at the end says nothing itself: it reaches back over one letter."},
			)
			continue
		}
		for _, r := range placeRules {
			if strings.Contains(r.graphemes, " "+s.Grapheme+" ") && !s.Odd && r.holds(p) {
				out = append(out, Here{s.Grapheme, s.Letters, r.why})
				break
			}
		}
	}
	return out
}

// Try is a spelling that the sounds of a word allow and that is not its own: right sounds, another spelling. Share is
// how often the sound is spelled so, 0 to 1.
type Try struct {
	Shown    string  `json:"shown"`
	Grapheme string  `json:"grapheme"` // in place of
	Instead  string  `json:"instead"`
	Share    float64 `json:"share"`
	Taught   bool    `json:"taught"`
	IsWord   bool    `json:"is_word"` // another word is spelled so
}

const (
	minShare = 0.03 // of a sound's places that a spelling has, to be a good try
	maxTries = 6
)

// GoodTries lists the respellings of a word that a child may write by ear, the most common spelling first: one grapheme
// changed for another of the same sound that stands in that place of English words. Unfit ones are left out.
func GoodTries(word string, segments []spelling.Segment, taught spelling.Set, o Options) []Try {
	out := []Try{}
	c := Choice{Word: word, Segments: segments}
	table := lexicon.Table(o.Accent, o.Units)
	for i, s := range segments {
		if s.Odd || len(s.Phonemes) != 1 || strings.HasSuffix(s.Grapheme, "-e") {
			continue
		}
		for _, row := range table {
			if row.Sound != s.Pair.Sound || row.Grapheme == s.Grapheme || row.Rare || row.OfSound < minShare ||
				row.Grapheme == "ed" {
				continue
			}
			shown, fits := tried(c, i, row)
			if _, refused := unfit.Of(shown); refused || !fits {
				continue
			}
			out = append(out, Try{shown, row.Grapheme, s.Grapheme, row.OfSound, taught[row.Pair], lexicon.IsWord(shown)})
		}
	}
	slices.SortStableFunc(out, func(a, b Try) int { return cmp.Compare(b.Share, a.Share) })
	return out[:min(len(out), maxTries)]
}

// minThere is the share of a spelling's places that must be of the kind asked for: ai hardly ever ends a word.
const minThere = 0.05

// tried respells a word with another spelling of one of its sounds, where that spelling can stand.
func tried(c Choice, i int, row lexicon.RowUse) (string, bool) {
	segments := c.Segments
	if letter, split := strings.CutSuffix(row.Grapheme, "-e"); split { // nite for night
		one := i == len(segments)-2 && len(segments[i+1].Grapheme) == 1
		if !one {
			return "", false
		}
		return c.Word[:segments[i].Letters[0]] + letter + segments[i+1].Grapheme + "e", true
	}
	there := row.Middle
	switch i {
	case 0:
		there = row.Start
	case len(segments) - 1:
		there = row.End
	}
	s, _ := phoneme.Lookup(phoneme.SouthernBritish, segments[i].Phonemes[0])
	closed := i < len(segments)-1 && len(row.Grapheme) == 1 && phoneme.IsVowel(segments[i].Phonemes[0]) &&
		s.VowelKind != phoneme.Short
	if there < minThere || closed || !readsSo(segments, i, row.Pair) {
		return "", false
	}
	return respell(c, i, row.Grapheme), true
}

// readsSo passes over what would be read otherwise: c before e and i, a doubled letter after anything but a short
// vowel.
func readsSo(segments []spelling.Segment, i int, p spelling.Pair) bool {
	soft := i+1 < len(segments) && strings.Contains("eiy", segments[i+1].Grapheme[:1])
	if soft && (p.Grapheme == "c" || p.Grapheme == "g") && (p.Sound == "k" || p.Sound == "ɡ") {
		return false
	}
	if !soft && (p.Grapheme == "c" && p.Sound == "s" || p.Grapheme == "g" && p.Sound == "dʒ") {
		return false
	}
	doubled := p.Kind() == "doubled letter" || slices.Contains([]string{"ck", "tch", "dge"}, p.Grapheme)
	if !doubled {
		return true
	}
	before := i > 0 && len(segments[i-1].Grapheme) == 1 && len(segments[i-1].Phonemes) == 1 &&
		phoneme.IsVowel(segments[i-1].Phonemes[0])
	return before
}
