// Package words chooses words: those that a class can read with what it has been taught, and those whose
// pictures fit an ear game.
package words

import (
	"cmp"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// Position of a pair or sound in a word.
type Position string

const (
	Any     Position = "any"
	Initial Position = "initial"
	Medial  Position = "medial"
	Final   Position = "final"
)

// ParsePosition reads a position; the empty text is Any.
func ParsePosition(text string) (Position, error) {
	switch p := Position(text); p {
	case "":
		return Any, nil
	case Any, Initial, Medial, Final:
		return p, nil
	}
	return "", fault.New(fault.Invalid, "unknown position %q: choose initial, medial, final or any", text)
}

// Query asks for readable words. Taught must hold the target. The zero values of the rest mean no limit.
type Query struct {
	Taught       spelling.Set
	Target       *spelling.Pair
	Position     Position
	Frame        string // "CVC"; upper case
	WithPicture  bool
	MinSounds    int
	MaxSounds    int
	Syllables    int             // exactly
	Familiarity  int             // at least, 1 to 5; where 0, minOffered
	Rare         bool            // offer the rarest words too
	Doubtful     bool            // offer words in doubt too: said in two ways, voiced plurals
	NoHomophones bool            // leave out words that sound like another known word
	Exclude      map[string]bool // rejected or used elsewhere
	Limit        int             // 0 is all
}

// minOffered is the familiarity below which no word is offered unasked.
const minOffered = 2

// least is the familiarity that the query asks for.
func (q Query) least() int {
	switch {
	case q.Familiarity > 0:
		return q.Familiarity
	case q.Rare:
		return 0
	}
	return minOffered
}

// Options are the team's conventions.
type Options = lexicon.Speech

// Choice is a chosen word with the reason for it.
type Choice struct {
	Word        string             `json:"word"`
	Segments    []spelling.Segment `json:"segments"`
	Frame       string             `json:"frame"`
	Positions   []Position         `json:"positions"` // of the target
	Familiarity int                `json:"familiarity"`
	Picture     bool               `json:"picture"`
	Sounds      int                `json:"sounds"`
	Because     string             `json:"because"`
}

type candidate struct {
	*lexicon.Item
	places places // of the target
}

// places is a set of positions as bits.
type places byte

const (
	initialBit places = 1 << iota
	medialBit
	finalBit
)

func (p places) has(at Position) bool {
	return p&map[Position]places{Initial: initialBit, Medial: medialBit, Final: finalBit}[at] != 0
}

func (p places) first() Position {
	for i, at := range []Position{Initial, Medial, Final} {
		if p&(1<<i) != 0 {
			return at
		}
	}
	return Any
}

// window is how many of the best words are reordered for variety.
const window = 120

// Find returns the words that only need taught pairs, best first: familiar, short, concrete, varied in
// vowel, first letter and place of the target. A word with two readings is in only where both are taught.
func Find(q Query, o Options) []Choice {
	found := spread(q.candidates(o), q.Limit)
	out := make([]Choice, len(found))
	for i, c := range found {
		r := c.Readings[0]
		out[i] = Choice{c.Word, r.Segments, c.Shape, []Position{}, c.Familiarity, c.Picture, r.Sounds, because(c, q)}
		if q.Target != nil {
			out[i].Positions = positions(r.Segments, *q.Target)
		}
	}
	return out
}

// candidates are the words that fit, the best first; with a limit no more than are looked at.
func (q Query) candidates(o Options) []candidate {
	pool := lexicon.For(o.Accent, o.Units)
	taught := pool.Mask(q.Taught)
	from := pool.Ranked
	if q.Target != nil {
		from = pool.With(*q.Target)
	}
	most := len(from)
	if q.Limit > 0 {
		most = max(window, q.Limit)
	}
	found := make([]candidate, 0, min(most, 1024))
	for _, item := range from {
		if !item.Needs.Within(&taught) {
			continue
		}
		if _, departs := o.Depart[item.Word]; departs {
			continue
		}
		if c, ok := q.match(item); ok {
			if found = append(found, c); len(found) == most {
				break
			}
		}
	}
	own := false
	for w := range o.Own() {
		item, ok := o.Item(w)
		if !ok || item.Unfit && !o.Allow[w] || !covers(q.Taught, item) ||
			q.Target != nil && !slices.Contains(item.Pairs, *q.Target) {
			continue
		}
		if c, ok := q.match(&item); ok {
			found = append(found, c)
			own = true
		}
	}
	if own {
		slices.SortFunc(found, func(a, b candidate) int {
			if a.Worth != b.Worth {
				return cmp.Compare(b.Worth, a.Worth)
			}
			return strings.Compare(a.Word, b.Word)
		})
	}
	return found
}

func covers(taught spelling.Set, item lexicon.Item) bool {
	return !slices.ContainsFunc(item.Readings, func(r lexicon.Reading) bool { return !taught.Covers(r.Segments) })
}

// match holds an item against all of the query but what is taught.
func (q Query) match(item *lexicon.Item) (candidate, bool) {
	c := candidate{Item: item}
	if item.Doubt != lexicon.NoDoubt && !q.Doubtful {
		return c, false
	}
	if q.Frame != "" && item.Shape != q.Frame || item.Familiarity < q.least() || q.Exclude[item.Word] ||
		q.WithPicture && !item.Picture {
		return c, false
	}
	sounds := item.Readings[0].Sounds
	if q.MaxSounds > 0 && sounds > q.MaxSounds || sounds < q.MinSounds ||
		q.Syllables > 0 && item.Syllables != q.Syllables {
		return c, false
	}
	if q.NoHomophones && len(item.Alike) > 0 {
		return c, false
	}
	if q.Target == nil {
		return c, true
	}
	last := len(item.Pairs) - 1
	for i, p := range item.Pairs {
		switch {
		case p != *q.Target:
		case i == 0:
			c.places |= initialBit
		case i == last:
			c.places |= finalBit
		default:
			c.places |= medialBit
		}
	}
	return c, q.Position == Any || q.Position == "" || c.places.has(q.Position)
}

func positions(segments []spelling.Segment, target spelling.Pair) []Position {
	out := []Position{}
	for i, s := range segments {
		if s.Pair != target {
			continue
		}
		switch {
		case i == 0:
			out = append(out, Initial)
		case i == len(segments)-1:
			out = append(out, Final)
		default:
			out = append(out, Medial)
		}
	}
	return out
}

func because(c candidate, q Query) string {
	parts := []string{
		[]string{"rare", "seldom met", "met in books", "known to most", "well known", "every child knows it"}[c.Familiarity],
	}
	if q.Target != nil {
		place := map[Position]string{Initial: "at the start", Medial: "in the middle", Final: "at the end"}[c.places.first()]
		parts = append(parts, q.Target.Grapheme+" "+place)
	}
	if c.Picture {
		parts = append(parts, "has a picture")
	}
	if len(c.Alike) > 0 {
		parts = append(parts, "sounds like "+strings.Join(c.Alike, ", "))
	}
	return strings.Join(parts, "; ")
}

// spread reorders the best words so that the head of the list varies; the tail keeps its order.
func spread(found []candidate, limit int) []candidate {
	head := 24
	if limit > 0 {
		head = min(head, limit)
	}
	pick := found[:min(len(found), window)]
	used := make([]bool, len(pick))
	worth := make([]float64, len(pick)) // less what makes the head alike
	vowel := make([]phoneme.Phoneme, len(pick))
	for i, c := range pick {
		worth[i], vowel[i] = c.Worth, mainVowel(c)
	}
	vowels, onsets, met := map[phoneme.Phoneme]float64{}, map[byte]float64{}, map[Position]float64{}
	out := make([]candidate, 0, len(found))
	for len(out) < min(head, len(pick)) {
		best := -1
		for i := range pick {
			if !used[i] && (best < 0 || worth[i] > worth[best]) {
				best = i
			}
		}
		b := pick[best]
		used[best] = true
		place := b.places.first()
		vowels[vowel[best]]++
		onsets[b.Word[0]]++
		met[place]++
		perVowel, perOnset, perPlace := 7/vowels[vowel[best]], 6/onsets[b.Word[0]], 4/met[place]
		for i, c := range pick { // each repeat costs less than the one before: a known word still wins
			if used[i] {
				continue
			}
			if vowel[i] == vowel[best] {
				worth[i] -= perVowel
			}
			if c.Word[0] == b.Word[0] && c.places.first() != Initial {
				worth[i] -= perOnset
			}
			if place != Any && c.places.first() == place {
				worth[i] -= perPlace
			}
			if strings.HasPrefix(c.Word, b.Word) || strings.HasPrefix(b.Word, c.Word) { // not cat and cats
				worth[i] -= 12
			}
		}
		out = append(out, b)
	}
	for i, c := range pick {
		if !used[i] {
			out = append(out, c)
		}
	}
	out = append(out, found[len(pick):]...)
	if limit > 0 && len(out) > limit {
		out = out[:limit]
	}
	return out
}

func mainVowel(c candidate) phoneme.Phoneme {
	for _, s := range c.Readings[0].Segments {
		for _, p := range s.Phonemes {
			if phoneme.IsVowel(p) {
				return p
			}
		}
	}
	return ""
}
