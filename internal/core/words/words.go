// Package words chooses words: those that a class can read with what it has been taught, and those whose
// pictures fit an ear game.
package words

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

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
	return "", fmt.Errorf("unknown position %q: choose initial, medial, final or any", text)
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
	Familiarity  int             // at least, 0 to 5
	NoHomophones bool            // leave out words that sound like another known word
	Exclude      map[string]bool // rejected or used elsewhere
	Limit        int             // 0 is all
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
	picture   bool
	score     float64
	positions []Position
}

// Find returns the words that only need taught pairs, best first: familiar, short, concrete, varied in
// vowel, first letter and place of the target. A word with two readings is in only where both are taught.
func Find(q Query, o Options) []Choice {
	found := spread(q.candidates(o), q.Limit)
	out := make([]Choice, len(found))
	for i, c := range found {
		r := c.Readings[0]
		if c.positions == nil {
			c.positions = []Position{}
		}
		out[i] = Choice{c.Word, r.Segments, c.Shape, c.positions, c.Familiarity, c.picture, r.Sounds, because(c, q)}
	}
	return out
}

// candidates are the words that fit, by score.
func (q Query) candidates(o Options) []candidate {
	pool := lexicon.For(o.Accent, o.Units)
	taught := pool.Mask(q.Taught)
	found := make([]candidate, 0, 1024)
	try := func(item *lexicon.Item) {
		if c, ok := q.match(item); ok {
			found = append(found, c)
		}
	}
	visit := func(item *lexicon.Item) {
		if item.Needs.Within(&taught) {
			if _, departs := o.Depart[item.Word]; !departs {
				try(item)
			}
		}
	}
	if q.Target != nil {
		for _, item := range pool.With(*q.Target) {
			visit(item)
		}
	} else {
		for i := range pool.Items {
			visit(&pool.Items[i])
		}
	}
	for w := range o.Depart {
		if item, ok := o.Item(w); ok && !item.Unfit && covers(q.Taught, item) && (q.Target == nil || slices.Contains(item.Pairs, *q.Target)) {
			try(&item)
		}
	}
	slices.SortFunc(found, func(a, b candidate) int {
		if a.score != b.score {
			return cmp.Compare(b.score, a.score)
		}
		return strings.Compare(a.Word, b.Word)
	})
	return found
}

func covers(taught spelling.Set, item lexicon.Item) bool {
	return !slices.ContainsFunc(item.Readings, func(r lexicon.Reading) bool { return !taught.Covers(r.Segments) })
}

// match holds an item against all of the query but what is taught.
func (q Query) match(item *lexicon.Item) (candidate, bool) {
	none := candidate{}
	if q.Frame != "" && item.Shape != q.Frame || item.Familiarity < q.Familiarity || q.Exclude[item.Word] {
		return none, false
	}
	sounds := item.Readings[0].Sounds
	if q.MaxSounds > 0 && sounds > q.MaxSounds || sounds < q.MinSounds || q.Syllables > 0 && item.Syllables != q.Syllables {
		return none, false
	}
	if q.NoHomophones && len(item.Alike) > 0 {
		return none, false
	}
	c := candidate{Item: item, picture: item.Picturable()}
	if q.WithPicture && !c.picture {
		return none, false
	}
	if q.Target != nil {
		c.positions = positions(item.Readings[0].Segments, *q.Target)
		if q.Position != Any && q.Position != "" && !slices.Contains(c.positions, q.Position) {
			return none, false
		}
	}
	c.score = score(c)
	return c, true
}

func positions(segments []spelling.Segment, target spelling.Pair) []Position {
	var out []Position
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

func score(c candidate) float64 {
	s := 10*float64(c.Familiarity) + 3*math.Log1p(float64(c.Rank))
	if c.picture {
		s += 8
	}
	if strings.Contains(c.Parts, "n") {
		s += 3
	}
	if strings.ContainsAny(c.Parts, "NV") { // plurals and past forms come after their stems
		s -= 8
	}
	sounds := c.Readings[0].Sounds
	if over := sounds - 3; over > 0 {
		s -= 5 * float64(over)
	}
	if sounds < 3 {
		s -= 16
	}
	return s
}

func because(c candidate, q Query) string {
	parts := []string{[]string{"rare", "seldom met", "met in books", "known to most", "well known", "every child knows it"}[c.Familiarity]}
	if q.Target != nil && len(c.positions) > 0 {
		place := map[Position]string{Initial: "at the start", Medial: "in the middle", Final: "at the end"}[c.positions[0]]
		parts = append(parts, q.Target.Grapheme+" "+place)
	}
	if c.picture {
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
	window := found[:min(len(found), 120)]
	used := make([]bool, len(window))
	worth := make([]float64, len(window)) // the score less what makes the head alike
	for i, c := range window {
		worth[i] = c.score
	}
	vowels, onsets, places := map[phoneme.Phoneme]float64{}, map[byte]float64{}, map[Position]float64{}
	var out []candidate
	for len(out) < min(head, len(window)) {
		best := -1
		for i := range window {
			if !used[i] && (best < 0 || worth[i] > worth[best]) {
				best = i
			}
		}
		b := window[best]
		used[best] = true
		vowel := mainVowel(b)
		vowels[vowel]++
		onsets[b.Word[0]]++
		if len(b.positions) > 0 {
			places[b.positions[0]]++
		}
		for i, c := range window { // each repeat costs less than the one before: a known word still wins
			if used[i] {
				continue
			}
			if mainVowel(c) == vowel {
				worth[i] -= 7 / vowels[vowel]
			}
			if c.Word[0] == b.Word[0] && (len(c.positions) == 0 || c.positions[0] != Initial) {
				worth[i] -= 6 / onsets[b.Word[0]]
			}
			if len(c.positions) > 0 && c.positions[0] == b.positions[0] {
				worth[i] -= 4 / places[c.positions[0]]
			}
			if strings.HasPrefix(c.Word, b.Word) || strings.HasPrefix(b.Word, c.Word) { // not cat and cats
				worth[i] -= 12
			}
		}
		out = append(out, b)
	}
	for i, c := range window {
		if !used[i] {
			out = append(out, c)
		}
	}
	out = append(out, found[len(window):]...)
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
