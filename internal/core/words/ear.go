package words

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// ErrPosition says that English never puts the sound there, ErrTooFew that pictures are short.
var (
	ErrPosition = errors.New("no English word has the sound there")
	ErrTooFew   = errors.New("too few pictures")
)

// Basket is one side of a sorting game: pictures whose names have the sound at the place asked for.
type Basket struct {
	Sound    phoneme.Phoneme `json:"sound"`
	Pictures []string        `json:"pictures"`
}

// CheckPosition refuses a place that the sound cannot take.
func CheckPosition(a phoneme.Accent, p phoneme.Phoneme, at Position) error {
	s, ok := phoneme.Lookup(a, p)
	switch {
	case !ok:
		return fmt.Errorf("%w %q", phoneme.ErrUnknownSound, p)
	case at == Initial && !s.Initial:
		return fmt.Errorf("%w: none starts with /%s/", ErrPosition, p)
	case at == Final && !s.Final:
		return fmt.Errorf("%w: none ends with /%s/", ErrPosition, p)
	}
	return nil
}

// EarPictures lists picture words with the sound at the place, the plainest first: no cluster beside it,
// spelled as prefer where that is given, and nothing that avoid sounds anywhere in.
func EarPictures(target phoneme.Phoneme, at Position, prefer string, avoid []phoneme.Phoneme, o Options) []string {
	type candidate struct {
		word string
		cost int
	}
	var found []candidate
	for _, item := range lexicon.For(o.Accent, o.Units).Pictures {
		if len(item.Readings) > 1 {
			continue
		}
		sounds := item.Readings[0].Phonemes
		if !soundAt(sounds, target, at) || slices.ContainsFunc(sounds, func(p phoneme.Phoneme) bool { return slices.Contains(avoid, p) }) {
			continue
		}
		cost := 2 * (5 - item.Familiarity)
		if at == Initial && len(sounds) > 1 && !phoneme.IsVowel(target) && !phoneme.IsVowel(sounds[1]) {
			cost += 6
		}
		if at == Final && len(sounds) > 1 && !phoneme.IsVowel(target) && !phoneme.IsVowel(sounds[len(sounds)-2]) {
			cost += 4
		}
		if prefer != "" && !spelledThere(item.Readings[0].Segments, prefer, target, at) {
			cost += 3
		}
		cost += max(0, len(sounds)-4)
		found = append(found, candidate{item.Word, cost})
	}
	slices.SortStableFunc(found, func(a, b candidate) int { return a.cost - b.cost })
	out := make([]string, len(found))
	for i, f := range found {
		out[i] = f.word
	}
	return out
}

func soundAt(sounds []phoneme.Phoneme, p phoneme.Phoneme, at Position) bool {
	last := len(sounds) - 1
	switch at {
	case Initial:
		return sounds[0] == p
	case Final:
		return sounds[last] == p
	case Medial:
		return last > 1 && slices.Contains(sounds[1:last], p)
	}
	return slices.Contains(sounds, p)
}

func spelledThere(segments []spelling.Segment, grapheme string, p phoneme.Phoneme, at Position) bool {
	s := segments[0]
	if at == Final {
		s = segments[len(segments)-1]
	}
	return s.Grapheme == grapheme && slices.Contains(s.Phonemes, p)
}

// Sort makes a sorting game: per pictures for each sound at one place, equal in number, no picture with two
// of the sounds. The error names the sound that English never puts there, or that pictures are short for.
func Sort(sounds []phoneme.Phoneme, per int, at Position, o Options, rng *rand.Rand) ([]Basket, error) {
	if len(sounds) < 2 || len(sounds) > 7 {
		return nil, fmt.Errorf("a sorting game takes 2 to 7 sounds, not %d", len(sounds))
	}
	if per < 1 || per > 8 {
		return nil, fmt.Errorf("a sorting game takes 1 to 8 pictures a sound, not %d", per)
	}
	var out []Basket
	for _, s := range sounds {
		if err := CheckPosition(o.Accent, s, at); err != nil {
			return nil, err
		}
		others := slices.DeleteFunc(slices.Clone(sounds), func(p phoneme.Phoneme) bool { return p == s })
		if len(others) != len(sounds)-1 {
			return nil, fmt.Errorf("the sound /%s/ is named twice", s)
		}
		words := EarPictures(s, at, "", others, o)
		if len(words) < per {
			return nil, fmt.Errorf("%w: /%s/ has %d of %d (%s)", ErrTooFew, s, len(words), per, strings.Join(words, ", "))
		}
		best := words[:min(len(words), per+3)]
		rng.Shuffle(len(best), func(i, j int) { best[i], best[j] = best[j], best[i] })
		picked := slices.Clone(best[:per])
		slices.Sort(picked)
		out = append(out, Basket{s, picked})
	}
	return out, nil
}
