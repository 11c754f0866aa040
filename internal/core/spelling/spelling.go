// Package spelling joins the letters of a word to its sounds: the grapheme-sound table, the aligner, and
// the pairs of grapheme and sound that a team teaches.
package spelling

import (
	"cmp"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
)

// Errors that callers tell apart.
const (
	ErrUnknownPair fault.Code = "unknown-pair"
	ErrNoWord      fault.Code = "not-a-word"
)

// Pair is a grapheme with the sound that is taught for it. A split spelling is written "a-e"; Sound is the
// joined IPA of one or more phonemes.
type Pair struct {
	Grapheme string `json:"grapheme"`
	Sound    string `json:"sound"`
}

// String writes the pair as "ow=aʊ".
func (p Pair) String() string { return p.Grapheme + "=" + p.Sound }

// Kind names the grapheme by its letters: "letter", "digraph", "trigraph", "four-letter group",
// "split digraph" or "doubled letter".
func (p Pair) Kind() string {
	letters := len(p.Grapheme)
	switch {
	case strings.Contains(p.Grapheme, "-"):
		return "split digraph"
	case letters == 1:
		return "letter"
	case letters == 2 && p.Grapheme[0] == p.Grapheme[1] && !strings.Contains("aeiou", p.Grapheme[:1]):
		return "doubled letter"
	case letters == 2:
		return "digraph"
	case letters == 3:
		return "trigraph"
	}
	return "four-letter group"
}

// Letters counts the letters of the grapheme.
func (p Pair) Letters() int { return len(strings.ReplaceAll(p.Grapheme, "-", "")) }

// Units are a team's choices of what counts as one unit; the zero value is the usual one.
type Units struct {
	QuTwo      bool `json:"qu_two"`                   // q and u as two units
	NkOne      bool `json:"nk_one"`                   // nk as one unit
	DoublesTwo bool `json:"doubles_two"`              // ll, ss … as two letters
	XOne       bool `json:"x_one"`                    // x counted as one sound
	YooTwo     bool `json:"yoo_two" required:"false"` // the yoo of mule counted as two sounds
}

// Segment is one grapheme in a word. Letters are rune positions, Phonemes what is heard there (with the r
// that links to a vowel), Pair the grapheme with its taught sound. Odd marks letters or sounds that no row
// explains; Rare a row that is only seen in exception words.
type Segment struct {
	Grapheme string            `json:"grapheme"`
	Letters  []int             `json:"letters"`
	Phonemes []phoneme.Phoneme `json:"phonemes"`
	Pair     Pair              `json:"-"`
	Odd      bool              `json:"odd,omitempty"`
	Rare     bool              `json:"rare,omitempty"`
}

// SoundCount is the number of sounds that children count on their fingers: every phoneme, but one for the ends
// of *table* and *camel*, for the yoo of *cute* where the units do not say two (all taught as one sound), for a vowel
// with the r that links it to the next, and for x where the units say so.
func SoundCount(segments []Segment, u Units) int {
	n := 0
	for _, s := range segments {
		k := len(s.Phonemes)
		switch {
		case s.Grapheme == "x" && u.XOne && k > 1:
			k = 1
		case k > 1 && s.Phonemes[k-2] == "ə" && s.Phonemes[k-1] == "l",
			k > 1 && s.Phonemes[0] == "j" && !u.YooTwo,
			k > 1 && phoneme.IsVowel(s.Phonemes[0]) && s.Phonemes[k-1] == "r":
			k--
		}
		n += k
	}
	return n
}

// ParsePair reads "ow=aʊ", or a bare grapheme with its most common sound in the accent. The error names
// the part that is not known.
func ParsePair(a phoneme.Accent, text string) (Pair, error) {
	grapheme, sound, given := strings.Cut(strings.TrimSpace(text), "=")
	grapheme = strings.ToLower(strings.TrimSpace(strings.ReplaceAll(grapheme, "_", "-")))
	rows := tableRows[grapheme]
	if len(rows) == 0 && grapheme != "nk" {
		return Pair{}, fault.New(ErrUnknownPair, "unknown pair %q: the grapheme %q is not in the table", text, grapheme)
	}
	if !given {
		if grapheme == "nk" {
			return Pair{grapheme, "ŋk"}, nil
		}
		best := slices.MinFunc(rows, func(x, y row) int { return cmp.Compare(x.cost, y.cost) })
		return Pair{grapheme, best.sound[a.Index()]}, nil
	}
	sounds, err := phoneme.Parse(a, sound)
	pair := Pair{grapheme, phoneme.Join(sounds)}
	for _, r := range rows {
		if err == nil && r.sound[a.Index()] == pair.Sound {
			return pair, nil
		}
	}
	if own, ok := counterpart(a, rows, sound); ok {
		return Pair{grapheme, own}, nil
	}
	if err != nil {
		return Pair{}, fault.New(ErrUnknownPair, "unknown pair %q: %s", text, err)
	}
	if grapheme == "nk" && pair.Sound == "ŋk" {
		return pair, nil
	}
	return Pair{}, fault.New(ErrUnknownPair, "unknown pair %q: %s is not spelled %q in English; known for %q: %s", text,
		pair.Sound,
		grapheme,
		grapheme,
		strings.Join(Sounds(a, grapheme), ", "))
}

// In gives the pair as an accent has it: o=ɒ is o=ɑː in America, u=ʌ is u=ʊ in the north. A pair that the table lacks
// stays as it is.
func (p Pair) In(a phoneme.Accent) Pair {
	for _, r := range tableRows[p.Grapheme] {
		if r.sound[a.Index()] == p.Sound {
			return p
		}
	}
	if own, ok := counterpart(a, tableRows[p.Grapheme], p.Sound); ok {
		return Pair{p.Grapheme, own}
	}
	return p
}

// counterpart finds what an accent says where another says the sound: er=ə is er=ər in America, o=ɒ is o=ɑː. The
// cheapest row of the grapheme decides.
func counterpart(a phoneme.Accent, rows []row, sound string) (string, bool) {
	best, own := 0, ""
	for _, b := range phoneme.Accents {
		sounds, err := phoneme.Parse(b, sound)
		if err != nil || b == a {
			continue
		}
		for _, r := range rows {
			if r.sound[b.Index()] == phoneme.Join(sounds) && (own == "" || r.cost < best) {
				best, own = r.cost, r.sound[a.Index()]
			}
		}
	}
	return own, own != ""
}

// Set is a set of taught pairs.
type Set map[Pair]bool

// ParsePairs reads pairs parted by commas.
func ParsePairs(a phoneme.Accent, text string) (Set, error) {
	set := Set{}
	for part := range strings.SplitSeq(text, ",") {
		if strings.TrimSpace(part) == "" {
			continue
		}
		p, err := ParsePair(a, part)
		if err != nil {
			return nil, err
		}
		set[p] = true
	}
	return set, nil
}

// WithDoubles is the set with the doubled letter of each taught consonant: rabbit can be read once b can. It is a new
// set.
func (s Set) WithDoubles(a phoneme.Accent) Set {
	out := make(Set, len(s)+12)
	for p, in := range s {
		if !in {
			continue
		}
		out[p] = true
		if len(p.Grapheme) != 1 || strings.Contains("aeiou", p.Grapheme) {
			continue
		}
		for _, r := range tableRows[p.Grapheme+p.Grapheme] {
			if r.sound[a.Index()] == p.Sound && !r.rare {
				out[Pair{r.name, p.Sound}] = true
			}
		}
	}
	return out
}

// Holds tells whether a pair is among the segments of a word.
func Holds(segments []Segment, p Pair) bool {
	return slices.ContainsFunc(segments, func(s Segment) bool { return s.Pair == p })
}

// Untaught returns the pairs of the segments that are not in the set, in the order of the word.
func (s Set) Untaught(segments []Segment) []Pair {
	var out []Pair
	for _, seg := range segments {
		if (seg.Odd || !s[seg.Pair]) && !slices.Contains(out, seg.Pair) {
			out = append(out, seg.Pair)
		}
	}
	return out
}

// Covers tells whether every segment is taught.
func (s Set) Covers(segments []Segment) bool {
	for i := range segments {
		if segments[i].Odd || !s[segments[i].Pair] {
			return false
		}
	}
	return true
}

// Sounds lists the sounds of a grapheme in the accent, the most common first.
func Sounds(a phoneme.Accent, grapheme string) []string {
	rows := slices.Clone(tableRows[grapheme])
	slices.SortStableFunc(rows, func(x, y row) int { return cmp.Compare(x.cost, y.cost) })
	var out []string
	for _, r := range rows {
		if s := r.sound[a.Index()]; !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}
