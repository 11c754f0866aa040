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
	ErrTooFew   = errors.New("too few fit")
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
	case at == Medial && s.Phoneme == "h":
		return fmt.Errorf("%w: hardly any has /h/ in the middle", ErrPosition)
	}
	return nil
}

// EarPictures lists picture words with the sound at the place, the plainest first: no cluster beside it,
// spelled as prefer where that is given, one name only; and nothing that avoid sounds anywhere in, nor in a
// second name of the picture.
func EarPictures(target phoneme.Phoneme, at Position, prefer string, avoid []phoneme.Phoneme, o Options) []string {
	type picture struct {
		word string
		cost int
	}
	clashes := func(sounds []phoneme.Phoneme) bool {
		return slices.ContainsFunc(sounds, func(p phoneme.Phoneme) bool { return slices.Contains(avoid, p) })
	}
	var found []picture
	for _, item := range lexicon.For(o.Accent, o.Units).Pictures {
		if len(item.Readings) > 1 {
			continue
		}
		sounds := item.Readings[0].Phonemes
		if _, departs := o.Depart[item.Word]; departs {
			sounds = o.Sounds(item.Word)
		}
		if !soundAt(sounds, target, at) || clashes(sounds) {
			continue
		}
		cost := 2*(5-item.Familiarity) + awkward(item, sounds, target, at, prefer)
		fits := true
		for _, second := range item.Second {
			if clashes(second) {
				fits = false
			} else if !soundAt(second, target, at) {
				cost += 4
			}
		}
		if fits {
			found = append(found, picture{item.Word, cost})
		}
	}
	slices.SortStableFunc(found, func(a, b picture) int { return a.cost - b.cost })
	out := make([]string, len(found))
	for i, f := range found {
		out[i] = f.word
	}
	return out
}

// awkward is what makes a sound hard to hear at its place: a cluster, another spelling, a long word.
func awkward(item *lexicon.Item, sounds []phoneme.Phoneme, target phoneme.Phoneme, at Position, prefer string) int {
	cost := max(0, len(sounds)-4)
	last := len(sounds) - 1
	consonant := func(i int) bool { return i >= 0 && i <= last && !phoneme.IsVowel(sounds[i]) }
	switch {
	case phoneme.IsVowel(target):
		if at == Medial { // the middle of a longer word is no clear place
			cost += 6 * (item.Syllables - 1)
		}
	case at == Initial && consonant(1):
		cost += 6
	case at == Final && consonant(last-1):
		cost += 4
	}
	if prefer != "" && !spelledThere(item.Readings[0].Segments, prefer, target, at) {
		cost += 3
	}
	return cost
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
	of := segments[:1]
	switch at {
	case Final:
		of = segments[len(segments)-1:]
	case Medial:
		of = segments
	}
	return slices.ContainsFunc(of, func(s spelling.Segment) bool { return s.Grapheme == grapheme && slices.Contains(s.Phonemes, p) })
}

// Sort makes a sorting game: per pictures for each sound at one place, equal in number, no picture with two
// of the sounds, in its name or in a common second name. The error names the sound that English never puts
// there, or that pictures are short for.
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
		out = append(out, Basket{s, pick(words[:min(len(words), per+3)], per, rng)})
	}
	return out, nil
}

func pick(from []string, n int, rng *rand.Rand) []string {
	best := slices.Clone(from)
	rng.Shuffle(len(best), func(i, j int) { best[i], best[j] = best[j], best[i] })
	out := best[:n]
	slices.Sort(out)
	return out
}

// Quarter is one picture of the first-or-last game with its answer, Initial or Final.
type Quarter struct {
	Picture string   `json:"picture"`
	Answer  Position `json:"answer"`
}

// FirstOrLast makes the game of four pictures: is the sound first or last? Both answers are present, one to
// three times each, no picture has the sound at both ends, and none is in exclude. It refuses a sound that English never puts
// at one of the ends, and says so.
func FirstOrLast(p phoneme.Phoneme, exclude map[string]bool, o Options, rng *rand.Rand) ([]Quarter, error) {
	var ends [2][]string
	for i, at := range []Position{Initial, Final} {
		if err := CheckPosition(o.Accent, p, at); err != nil {
			return nil, err
		}
		for _, w := range EarPictures(p, at, "", nil, o) {
			item, _ := lexicon.For(o.Accent, o.Units).Find(w)
			if !exclude[w] && once(o.Sounds(w), p) && !slices.ContainsFunc(item.Second, func(second []phoneme.Phoneme) bool {
				return soundAt(second, p, []Position{Final, Initial}[i])
			}) {
				ends[i] = append(ends[i], w)
			}
		}
	}
	if len(ends[0]) == 0 || len(ends[1]) == 0 || len(ends[0])+len(ends[1]) < 4 {
		return nil, fmt.Errorf("%w: /%s/ is first in %d and last in %d", ErrTooFew, p, len(ends[0]), len(ends[1]))
	}
	first := 1 + rng.IntN(3)
	first = max(4-len(ends[1]), min(first, len(ends[0])))
	var out []Quarter
	for i, n := range []int{first, 4 - first} {
		for _, w := range pick(ends[i][:min(len(ends[i]), n+3)], n, rng) {
			out = append(out, Quarter{w, []Position{Initial, Final}[i]})
		}
	}
	rng.Shuffle(4, func(i, j int) { out[i], out[j] = out[j], out[i] })
	return out, nil
}

func once(sounds []phoneme.Phoneme, p phoneme.Phoneme) bool {
	n := 0
	for _, s := range sounds {
		if s == p {
			n++
		}
	}
	return n == 1
}

// ContrastSet parts readable words by which of two pairs they hold; no word holds both. Twins are words
// that differ in nothing but the pair.
type ContrastSet struct {
	Left  []Choice    `json:"left"`
	Right []Choice    `json:"right"`
	Twins [][2]string `json:"twins"`
}

// Contrast sets two pairs against one another, such as the voiced and the unvoiced th, in equal numbers, at
// most limit on each side. Both must be taught; q.Target is not used.
func Contrast(left, right spelling.Pair, q Query, o Options) (ContrastSet, error) {
	out := ContrastSet{Twins: [][2]string{}}
	limit := q.Limit
	var sides [2][]Choice
	for i, p := range []spelling.Pair{left, right} {
		if !q.Taught[p] {
			return out, fmt.Errorf("%s is not among the taught pairs", p)
		}
		q.Target, q.Limit = &p, 0
		other := []spelling.Pair{right, left}[i]
		sides[i] = slices.DeleteFunc(Find(q, o), func(c Choice) bool {
			return slices.ContainsFunc(c.Segments, func(s spelling.Segment) bool { return s.Pair == other || s.Pair.Sound == other.Sound })
		})
	}
	frames := map[string]string{}
	for _, c := range sides[1] {
		frames[hole(c.Segments, right)] = c.Word
	}
	for _, c := range sides[0] {
		if twin, ok := frames[hole(c.Segments, left)]; ok && len(out.Twins) < 8 {
			out.Twins = append(out.Twins, [2]string{c.Word, twin})
		}
	}
	n := min(len(sides[0]), len(sides[1]))
	if limit > 0 {
		n = min(n, limit)
	}
	if n == 0 {
		return out, fmt.Errorf("%w: %s has %d words and %s has %d", ErrTooFew, left, len(sides[0]), right, len(sides[1]))
	}
	out.Left, out.Right = sides[0][:n], sides[1][:n]
	return out, nil
}

// hole writes a word's pairs with a mark in place of one.
func hole(segments []spelling.Segment, p spelling.Pair) string {
	var b strings.Builder
	for _, s := range segments {
		if s.Pair == p {
			b.WriteString("_ ")
		} else {
			b.WriteString(s.Pair.String() + " ")
		}
	}
	return b.String()
}
