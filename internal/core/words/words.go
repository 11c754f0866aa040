// Package words chooses words: those that a class can read with what it has been taught, and those whose
// pictures fit an ear game.
package words

import (
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
	Taught      spelling.Set
	Target      *spelling.Pair
	Position    Position
	Frame       string // "CVC"; upper case
	WithPicture bool
	MinSounds   int
	MaxSounds   int
	Familiarity int             // at least, 0 to 5
	Exclude     map[string]bool // rejected or used elsewhere
	Limit       int             // 0 is all
}

// Options are the team's conventions.
type Options struct {
	Accent phoneme.Accent
	Units  spelling.Units
}

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
	score       float64
}

// Find returns the words that only need taught pairs, best first: familiar, short, concrete, varied in
// vowel, first letter and place of the target. A word with two readings is in only where both are taught.
func Find(q Query, o Options) []Choice {
	var found []Choice
	pool := lexicon.Pool(o.Accent, o.Units)
	if q.Target != nil {
		pool = lexicon.WithPair(o.Accent, o.Units, *q.Target)
	}
	for _, item := range pool {
		if c, ok := q.match(item); ok {
			found = append(found, c)
		}
	}
	slices.SortStableFunc(found, func(a, b Choice) int {
		if a.score != b.score {
			return int(math.Copysign(1, b.score-a.score))
		}
		return strings.Compare(a.Word, b.Word)
	})
	found = spread(found, q.Limit)
	for i := range found {
		found[i].Because = because(found[i], q)
	}
	return found
}

func (q Query) match(item lexicon.Item) (Choice, bool) {
	if q.Frame != "" && item.Shape != q.Frame || q.Exclude[item.Word] || item.Familiarity < q.Familiarity {
		return Choice{}, false
	}
	for _, r := range item.Readings {
		if !q.Taught.Covers(r.Segments) {
			return Choice{}, false
		}
	}
	first := item.Readings[0]
	if q.MaxSounds > 0 && first.Sounds > q.MaxSounds || first.Sounds < q.MinSounds {
		return Choice{}, false
	}
	c := Choice{Word: item.Word, Segments: first.Segments, Frame: item.Shape, Familiarity: item.Familiarity, Picture: item.Picturable(), Sounds: first.Sounds, Positions: []Position{}}
	if q.WithPicture && !c.Picture {
		return Choice{}, false
	}
	if q.Target != nil {
		c.Positions = positions(first.Segments, *q.Target)
		if q.Position != Any && q.Position != "" && !slices.Contains(c.Positions, q.Position) {
			return Choice{}, false
		}
	}
	c.score = score(c, item)
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

func score(c Choice, item lexicon.Item) float64 {
	s := 10*float64(item.Familiarity) + 3*math.Log1p(float64(item.Rank))
	if c.Picture {
		s += 8
	}
	if strings.Contains(item.Parts, "n") {
		s += 3
	}
	if strings.ContainsAny(item.Parts, "NV") { // plurals and past forms come after their stems
		s -= 8
	}
	if over := c.Sounds - 3; over > 0 {
		s -= 5 * float64(over)
	}
	if c.Sounds < 3 {
		s -= 16
	}
	return s
}

func because(c Choice, q Query) string {
	parts := []string{[]string{"rare", "seldom met", "met in books", "known to most", "well known", "every child knows it"}[c.Familiarity]}
	if q.Target != nil && len(c.Positions) > 0 {
		place := map[Position]string{Initial: "at the start", Medial: "in the middle", Final: "at the end"}[c.Positions[0]]
		parts = append(parts, q.Target.Grapheme+" "+place)
	}
	if c.Picture {
		parts = append(parts, "has a picture")
	}
	return strings.Join(parts, "; ")
}

// spread reorders the best words so that the head of the list varies; the tail keeps its order.
func spread(found []Choice, limit int) []Choice {
	head := 24
	if limit > 0 {
		head = min(head, limit)
	}
	window := found[:min(len(found), 120)]
	used := make([]bool, len(window))
	vowels, onsets, places := map[phoneme.Phoneme]int{}, map[byte]int{}, map[Position]int{}
	var out []Choice
	for len(out) < min(head, len(window)) {
		best, bestScore := -1, math.Inf(-1)
		for i, c := range window {
			if used[i] {
				continue
			}
			s := c.score - 5*float64(vowels[mainVowel(c)]) - 4*float64(onsets[c.Word[0]])
			if len(c.Positions) > 0 {
				s -= 2 * float64(places[c.Positions[0]])
			}
			for _, o := range out { // not cat and cats
				if strings.HasPrefix(c.Word, o.Word) || strings.HasPrefix(o.Word, c.Word) {
					s -= 12
				}
			}
			if s > bestScore {
				best, bestScore = i, s
			}
		}
		c := window[best]
		used[best] = true
		vowels[mainVowel(c)]++
		onsets[c.Word[0]]++
		if len(c.Positions) > 0 {
			places[c.Positions[0]]++
		}
		out = append(out, c)
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

func mainVowel(c Choice) phoneme.Phoneme {
	for _, s := range c.Segments {
		for _, p := range s.Phonemes {
			if phoneme.IsVowel(p) {
				return p
			}
		}
	}
	return ""
}
