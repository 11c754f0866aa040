package words

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// ErrPosition says that English never puts the sound there, ErrTooFew that pictures are short.
const (
	ErrPosition fault.Code = "no-such-position"
	ErrTooFew   fault.Code = "too-few"
)

// Basket is one side of a sorting game: pictures whose names have the sound at the place asked for. Note says what a
// teacher should know: that pictures are short, or that a name begins with two sounds.
type Basket struct {
	Sound    phoneme.Phoneme `json:"sound"`
	Pictures []string        `json:"pictures"`
	Position Position        `json:"position"`
	Note     string          `json:"note,omitempty"`
}

// CheckPosition refuses a place that the sound cannot take.
func CheckPosition(a phoneme.Accent, p phoneme.Phoneme, at Position) error {
	s, ok := phoneme.Lookup(a, p)
	switch {
	case !ok:
		return fault.New(phoneme.ErrUnknownSound, "unknown sound %q", p)
	case at == Initial && !s.Initial:
		return fault.New(ErrPosition, "no English word has the sound there: none starts with /%s/", p)
	case at == Final && !s.Final:
		return fault.New(ErrPosition, "no English word has the sound there: none ends with /%s/", p)
	case at == Medial && s.Phoneme == "h":
		return fault.New(ErrPosition, "no English word has the sound there: hardly any has /h/ in the middle")
	}
	return nil
}

// earPicture is a picture that fits, with what makes its sound hard to hear.
type earPicture struct {
	word    string
	cost    int
	cluster bool
}

// EarPictures lists picture words with the sound at the place, the plainest first: no cluster beside it, no letter name
// at its start, spelled as prefer where that is given, one name only; and nothing that avoid sounds anywhere in, nor in
// a second name of the picture. Left out are tr and dr, whose first sound is heard as another, and sounds that one
// letter joins to the next (x, qu).
func EarPictures(target phoneme.Phoneme, at Position, prefer string, avoid []phoneme.Phoneme, o Options) []string {
	found := earPictures(target, at, prefer, avoid, o)
	out := make([]string, len(found))
	for i, f := range found {
		out[i] = f.word
	}
	return out
}

func earPictures(target phoneme.Phoneme, at Position, prefer string, avoid []phoneme.Phoneme, o Options) []earPicture {
	clashes := func(sounds []phoneme.Phoneme) bool {
		return slices.ContainsFunc(sounds, func(p phoneme.Phoneme) bool { return slices.Contains(avoid, p) })
	}
	var found []earPicture
	for _, n := range namedPictures(o) {
		sounds := n.reading.Phonemes
		if !soundAt(sounds, target, at) || clashes(sounds) || blurred(n.reading, at) {
			continue
		}
		cost, cluster := awkward(n, target, at, prefer)
		cost += 2 * (lexicon.BestKnown - n.familiarity)
		if n.own { // chosen by people who know the class
			cost -= ownGain
		}
		fits := true
		for _, second := range n.second {
			if clashes(second) {
				fits = false
			} else if !soundAt(second, target, at) {
				cost += 4
			}
		}
		if fits {
			found = append(found, earPicture{n.word, cost, cluster})
		}
	}
	slices.SortStableFunc(
		found,
		func(a, b earPicture) int { return cmp.Or(cmp.Compare(a.cost, b.cost), strings.Compare(a.word, b.word)) },
	)
	return found
}

// blurred tells whether the sound at the end asked for is not heard apart: t and d before r, and what x or qu joins.
func blurred(r lexicon.Reading, at Position) bool {
	first, last := r.Segments[0], r.Segments[len(r.Segments)-1]
	switch at {
	case Initial:
		affricated := len(r.Phonemes) > 1 && r.Phonemes[1] == "r" && (r.Phonemes[0] == "t" || r.Phonemes[0] == "d")
		return affricated || len(first.Phonemes) > 1 && !phoneme.IsVowel(first.Phonemes[0])
	case Final:
		return len(last.Phonemes) > 1 && !phoneme.IsVowel(last.Phonemes[0])
	}
	return slices.ContainsFunc(
		r.Segments,
		func(s spelling.Segment) bool { return s.Grapheme == "x" || s.Grapheme == "qu" },
	)
}

// letterNames are the names of letters that words begin with: el in elephant, pea in peach. From memory.
var letterNames = [][]phoneme.Phoneme{
	{"e", "f"},
	{"e", "l"},
	{"e", "m"},
	{"e", "n"},
	{"e", "s"},
	{"e", "k", "s"},
	{"b", "iː"},
	{"s", "iː"},
	{"d", "iː"},
	{"dʒ", "iː"},
	{"dʒ", "eɪ"},
	{"k", "eɪ"},
	{"p", "iː"},
	{"k", "j", "uː"},
	{"t", "iː"},
	{"v", "iː"},
	{"w", "aɪ"},
	{"j", "uː"},
}

// awkward is what makes a sound hard to hear at its place: a cluster, another spelling, a long word, a letter name.
func awkward(n named, target phoneme.Phoneme, at Position, prefer string) (cost int, cluster bool) {
	sounds := n.reading.Phonemes
	cost = max(0, len(sounds)-4)
	last := len(sounds) - 1
	consonant := func(i int) bool { return i >= 0 && i <= last && !phoneme.IsVowel(sounds[i]) }
	switch {
	case phoneme.IsVowel(target):
		if at == Medial { // the middle of a longer word is no clear place
			cost += 6 * (strings.Count(lexicon.Shape(n.reading.Segments), "V") - 1)
		}
	case at == Initial && consonant(1), at == Final && consonant(last-1):
		cost, cluster = cost+8, true
	}
	for _, name := range letterNames {
		if at == Initial && len(sounds) > len(name) && slices.Equal(sounds[:len(name)], name) {
			cost += 3
		}
	}
	if prefer != "" && !spelledThere(n.reading.Segments, prefer, target, at) {
		cost += 3
	}
	return cost, cluster
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
	return slices.ContainsFunc(
		of,
		func(s spelling.Segment) bool { return s.Grapheme == grapheme && slices.Contains(s.Phonemes, p) },
	)
}

// minPictures is how many pictures each sound of a sorting game needs.
const minPictures = 2

// Sort makes a sorting game: as many baskets as sounds, per pictures in each at one place, no picture with two of the
// sounds in its name or in a common second name. Where a sound has fewer pictures all baskets get as many as it has,
// and its note says so. Any is the first place that serves all sounds best, or anywhere in the name. The error names
// the sound that English never puts there, or that has hardly a picture.
func Sort(sounds []phoneme.Phoneme, per int, at Position, o Options, rng *rand.Rand) ([]Basket, error) {
	if len(sounds) < 2 || len(sounds) > 7 {
		return nil, fault.New(fault.Invalid, "a sorting game takes 2 to 7 sounds, not %d", len(sounds))
	}
	if per < 1 || per > 8 {
		return nil, fault.New(fault.Invalid, "a sorting game takes 1 to 8 pictures a sound, not %d", per)
	}
	for i, s := range sounds {
		if slices.Contains(sounds[:i], s) {
			return nil, fault.New(fault.Invalid, "the sound /%s/ is named twice", s)
		}
	}
	if at != Any {
		return sortAt(sounds, per, at, o, rng)
	}
	var best []Basket
	var first error
	for _, place := range []Position{Initial, Final, Medial, Any} { // at last: anywhere
		baskets, err := sortAt(sounds, per, place, o, rng)
		if err != nil && first == nil {
			first = err
		}
		if err == nil && (best == nil || len(baskets[0].Pictures) > len(best[0].Pictures)) {
			best = baskets
		}
	}
	if best == nil {
		return nil, first
	}
	return best, nil
}

func sortAt(sounds []phoneme.Phoneme, per int, at Position, o Options, rng *rand.Rand) ([]Basket, error) {
	found := make([][]earPicture, len(sounds))
	short, equal := 0, per
	for i, s := range sounds {
		if err := CheckPosition(o.Accent, s, at); err != nil {
			return nil, err
		}
		others := slices.DeleteFunc(slices.Clone(sounds), func(p phoneme.Phoneme) bool { return p == s })
		found[i] = earPictures(s, at, "", others, o)
		if len(found[i]) < equal {
			short, equal = i, len(found[i])
		}
	}
	if equal < min(per, minPictures) {
		return nil, fault.New(ErrTooFew, "too few fit: /%s/ has %d of %d pictures", sounds[short], equal, per)
	}
	out := make([]Basket, len(sounds))
	for i, s := range sounds {
		list := found[i]
		if plain := slices.DeleteFunc(slices.Clone(list), func(p earPicture) bool { return p.cluster }); len(plain) >= equal {
			list = plain
		}
		list = list[:min(len(list), equal+3)]
		names, clusters := make([]string, len(list)), []string{}
		for k, p := range list {
			names[k] = p.word
		}
		b := Basket{Sound: s, Pictures: pick(names, equal, rng), Position: at}
		for _, p := range list {
			if p.cluster && slices.Contains(b.Pictures, p.word) {
				clusters = append(clusters, p.word)
			}
		}
		if i == short && equal < per {
			b.Note = fmt.Sprintf("Only %d pictures each: no more names have /%s/ there.", equal, s)
		} else if len(clusters) > 0 {
			b.Note = "Two sounds stand together there: " + strings.Join(clusters, ", ") + "."
		}
		out[i] = b
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
// three times each, no picture has the sound at both ends, and none is in exclude. It refuses a sound that English
// never puts at one of the ends, and says so.
func FirstOrLast(p phoneme.Phoneme, exclude map[string]bool, o Options, rng *rand.Rand) ([]Quarter, error) {
	second := map[string][][]phoneme.Phoneme{}
	for _, n := range namedPictures(o) {
		second[n.word] = n.second
	}
	var ends [2][]string
	for i, at := range []Position{Initial, Final} {
		if err := CheckPosition(o.Accent, p, at); err != nil {
			return nil, err
		}
		for _, w := range EarPictures(p, at, "", nil, o) {
			if !exclude[w] && once(o.Sounds(w), p) && !slices.ContainsFunc(second[w], func(other []phoneme.Phoneme) bool {
				return soundAt(other, p, []Position{Final, Initial}[i])
			}) {
				ends[i] = append(ends[i], w)
			}
		}
	}
	if len(ends[0]) == 0 || len(ends[1]) == 0 || len(ends[0])+len(ends[1]) < 4 {
		return nil, fault.New(ErrTooFew, "too few fit: /%s/ is first in %d and last in %d", p, len(ends[0]), len(ends[1]))
	}
	least, most := max(1, 4-len(ends[1])), min(3, len(ends[0]))
	first := least + rng.IntN(most-least+1)
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
			return out, fault.New(fault.Invalid, "%s is not among the taught pairs", p)
		}
		q.Target, q.Limit = &p, 0
		other := []spelling.Pair{right, left}[i]
		sides[i] = slices.DeleteFunc(Find(q, o), func(c Choice) bool {
			return slices.ContainsFunc(
				c.Segments,
				func(s spelling.Segment) bool { return s.Pair == other || s.Pair.Sound == other.Sound },
			)
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
		return out, fault.New(
			ErrTooFew,
			"too few fit: %s has %d words and %s has %d",
			left,
			len(sides[0]),
			right,
			len(sides[1]),
		)
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
