package words

import (
	_ "embed"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
)

// Link is a word of a chain. Changed is the number of the segment that differs from the word before, -1 in
// the first word.
type Link struct {
	Choice
	Changed int    `json:"changed"`
	Place   string `json:"place"` // initial, final, vowel, inner; empty in the first word
	Says    string `json:"says"`
}

// Places of a change in a chain.
const (
	atStart = "initial"
	atEnd   = "final"
	inVowel = "vowel"
	inside  = "inner"
)

// chainOrder is how a chain grows harder: rhymes first, then the end, then the vowel (common practice, no
// published source).
var chainOrder = []string{atStart, atEnd, inVowel, inside}

// Chain strings readable words together, each one sound away from the one before: the first sounds change
// first, so that the words rhyme, then the last, then the vowel. All words of a chain have one syllable and
// the same number of sounds. Start may be empty. Fewer than length words come back where the taught pairs
// give no longer chain; the error says why there is none.
func Chain(q Query, start string, length int, o Options, rng *rand.Rand) ([]Link, error) {
	if length < 3 || length > 12 {
		return nil, fault.New(fault.Invalid, "a chain takes 3 to 12 words, not %d", length)
	}
	target := q.Target
	q.Target, q.Limit, q.Position = nil, 0, Any
	q.Syllables, q.MinSounds, q.MaxSounds = 1, max(2, q.MinSounds), 5
	var all []Choice
	for _, c := range Find(q, o) {
		if item, ok := o.Item(c.Word); ok && !strings.ContainsAny(item.Parts, "NV") {
			all = append(all, c)
		}
	}
	g := newChainer(all)
	best := g.best(start, length, rng)
	if start != "" && best == nil {
		return nil, fault.New(
			fault.Invalid,
			"a chain cannot start with %q: it is no short, well-known word that can be read yet",
			start,
		)
	}
	if target != nil {
		holds := func(c Choice) bool { return len(positions(c.Segments, *target)) > 0 }
		for len(best) > 0 && !holds(g.all[best[len(best)-1]]) { // it comes back to the sound
			best = best[:len(best)-1]
		}
		// A chain for a sound keeps it, where there are words enough, or none comes back to it.
		kept := newChainer(slices.DeleteFunc(slices.Clone(all), func(c Choice) bool { return c.Word != start && !holds(c) }))
		if chain := kept.best(start, length, rng); len(chain) >= min(length, minKept) || len(chain) > len(best) {
			g, best = kept, chain
		}
	}
	if len(best) < 3 && target != nil {
		return nil, fault.New(ErrTooFew, "too few fit: no three words with %s that can be read differ in one sound each",
			target.Grapheme)
	}
	if len(best) < 3 {
		return nil, fault.New(ErrTooFew, "too few fit: no three words that can be read differ in one sound each")
	}
	return g.links(best), nil
}

// minKept is how many words a chain must have that keeps its sound; else one is made that comes back to it.
const minKept = 5

// best is the longest chain found from a start, or from any of the better words where start is empty; nil where start
// is not among the words.
func (g *chainer) best(start string, length int, rng *rand.Rand) []int {
	var starts []int
	for i, c := range g.all {
		if c.Word == start || start == "" && c.Sounds >= 3 {
			starts = append(starts, i)
		}
	}
	if start == "" {
		starts = starts[:min(len(starts), 40)]
		rng.Shuffle(len(starts), func(i, j int) { starts[i], starts[j] = starts[j], starts[i] })
	}
	var best []int
	for _, s := range starts {
		if c := g.longest(s, length, rng); len(c) > len(best) {
			best = c
		}
		if len(best) == length {
			break
		}
	}
	return best
}

type edge struct {
	to, at int
	place  string
}

type chainer struct {
	all   []Choice
	edges [][]edge
}

func newChainer(all []Choice) *chainer {
	g := &chainer{all, make([][]edge, len(all))}
	holes := map[string][]int{} // words that are the same but for one segment
	each := func(visit func(w, i int, key string)) {
		for w, c := range all {
			for i, s := range c.Segments {
				if len(s.Phonemes) == 1 {
					visit(w, i, fmt.Sprintf("%d of %d: %s", i, len(c.Segments), without(c.Segments, i)))
				}
			}
		}
	}
	each(func(w, _ int, key string) { holes[key] = append(holes[key], w) })
	each(func(w, i int, key string) {
		for _, other := range holes[key] {
			a, b := all[w].Segments[i].Phonemes[0], all[other].Segments[i].Phonemes[0]
			if a != b && phoneme.IsVowel(a) == phoneme.IsVowel(b) {
				g.edges[w] = append(g.edges[w], edge{other, i, soundPosition(all[w], i)})
			}
		}
	})
	return g
}

func without(segments []segment, i int) string {
	var b strings.Builder
	for k, s := range segments {
		if k != i {
			b.WriteString(s.Pair.String() + " ")
		}
	}
	return b.String()
}

func soundPosition(c Choice, i int) string {
	switch {
	case phoneme.IsVowel(c.Segments[i].Phonemes[0]):
		return inVowel
	case i == 0:
		return atStart
	case i == len(c.Segments)-1:
		return atEnd
	}
	return inside
}

// longest walks from a word with as many changes of each place, in their order, as the length gives; a few
// hundred walks by chance are tried.
func (g *chainer) longest(start, length int, rng *rand.Rand) []int {
	var best []int
	third := max(1, (length-1)/3)
	for range 40 {
		chain := []int{start}
		used := map[int]bool{start: true}
		stage, inStage := 0, 0
		for len(chain) < length && stage < len(chainOrder) {
			var next []int
			for _, e := range g.edges[chain[len(chain)-1]] {
				if e.place == chainOrder[stage] && !used[e.to] {
					next = append(next, e.to)
				}
			}
			if len(next) == 0 || inStage >= third && stage < 2 {
				stage, inStage = stage+1, 0
				continue
			}
			// The better half of the finder's order, so that chains vary but stay with known words.
			slices.Sort(next)
			n := next[rng.IntN((len(next)+1)/2)]
			chain = append(chain, n)
			used[n] = true
			inStage++
		}
		if len(chain) > len(best) {
			best = chain
		}
		if len(best) == length {
			break
		}
	}
	return best
}

func (g *chainer) links(chain []int) []Link {
	out := []Link{{Choice: g.all[chain[0]], Changed: -1, Says: "Start here."}}
	for k := 1; k < len(chain); k++ {
		before, now := g.all[chain[k-1]], g.all[chain[k]]
		i := 0
		for n := range now.Segments {
			if now.Segments[n].Pair != before.Segments[n].Pair {
				i = n
			}
		}
		where := map[string]string{atStart: "at the start", atEnd: "at the end", inVowel: "in the middle", inside: "inside"}
		place := soundPosition(now, i)
		if place == inVowel && i == 0 {
			where[inVowel] = "at the start"
		}
		out = append(
			out,
			Link{
				now,
				i,
				place,
				fmt.Sprintf("%s becomes %s %s.", before.Segments[i].Grapheme, now.Segments[i].Grapheme, where[place]),
			},
		)
	}
	return out
}

// Compound is a word made of two readable words.
type Compound struct {
	Choice
	First  string `json:"first"`
	Second string `json:"second"`
}

//go:embed compounds.txt
var compoundText string

// halves are the two words of each real compound.
var halves = sync.OnceValue(func() map[string][2]string {
	out := map[string][2]string{}
	for line := range strings.Lines(compoundText) {
		if strings.HasPrefix(line, "#") {
			continue
		}
		for w := range strings.FieldsSeq(line) {
			first, second, _ := strings.Cut(w, "+")
			out[first+second] = [2]string{first, second}
		}
	}
	return out
})

// Halves are the two words that a real compound is made of; false for all other words.
func Halves(word string) (first, second string, ok bool) {
	h, ok := halves()[word]
	return h[0], h[1], ok
}

// CompoundWords lists the real compounds in the order of the alphabet.
func CompoundWords() []string { return slices.Sorted(maps.Keys(halves())) }

// Compounds lists readable words that are made of two readable, known words by meaning and by sound, best first.
func Compounds(q Query, o Options) []Compound {
	limit := q.Limit
	q.Limit, q.MinSounds, q.Syllables, q.Frame = 0, 4, 0, ""
	q.Rare = true // the halves are what must be known
	var out []Compound
	pool := lexicon.For(o.Accent, o.Units)
	taught := pool.Mask(q.Taught)
	part := func(w string) bool {
		item, ok := pool.Find(w)
		return ok && item.Familiarity >= minOffered && item.Needs.Within(&taught) && !q.Exclude[w]
	}
	for _, c := range Find(q, o) {
		h, ok := halves()[c.Word]
		if !ok || !part(h[0]) || !part(h[1]) {
			continue
		}
		c.Because = fmt.Sprintf("%s + %s; %s", h[0], h[1], c.Because)
		out = append(out, Compound{c, h[0], h[1]})
		if limit > 0 && len(out) == limit {
			break
		}
	}
	return out
}

// Ring is a word of a find-and-ring list with the letters to ring.
type Ring struct {
	Choice
	Letters []int    `json:"letters"` // to ring, none where the word lacks the target
	Place   Position `json:"place"`   // any where the word lacks the target
}

const lookedThrough = 60

// oneFamily tells whether a word is another with an s: moth and moths teach nothing beside each other.
func oneFamily(a, b string) bool { return a == b+"s" || b == a+"s" || a == b+"es" || b == a+"es" }

// RingList lists so many readable words in which the target stands in turn at each place that it can take,
// with about a quarter of words without it between them; the order is set by rng.
func RingList(q Query, count int, o Options, rng *rand.Rand) ([]Ring, error) {
	if q.Target == nil {
		return nil, fault.New(fault.Invalid, "say which sound is to be found and ringed")
	}
	if count < 4 || count > 24 {
		return nil, fault.New(fault.Invalid, "a find-and-ring list takes 4 to 24 words, not %d", count)
	}
	target := *q.Target
	q.Limit = 0
	by := map[Position][]Choice{}
	for _, c := range Find(q, o) {
		by[c.Positions[0]] = append(by[c.Positions[0]], c)
	}
	plain := q
	plain.Target, plain.Position = nil, Any
	var others []Choice
	for _, plain.Limit = range []int{lookedThrough, 0} { // all words are only asked for where the best are too few
		others = slices.DeleteFunc(Find(plain, o), func(c Choice) bool {
			return c.Sounds < 3 || strings.Contains(c.Word, strings.Split(target.Grapheme, "-")[0]) ||
				slices.ContainsFunc(c.Segments, func(s segment) bool { return s.Pair.Sound == target.Sound })
		})
		if len(others) >= count/4 {
			break
		}
	}
	out := []Ring{}
	for len(out) < count-count/4 {
		before, more := len(out), false
		for _, at := range []Position{Initial, Medial, Final} {
			if len(by[at]) > 0 && len(out) < count-count/4 {
				c := by[at][0]
				by[at] = by[at][1:]
				if slices.ContainsFunc(out, func(r Ring) bool { return oneFamily(r.Word, c.Word) }) {
					more = true
					continue
				}
				r := Ring{c, []int{}, at}
				for _, s := range c.Segments {
					if s.Pair == target {
						r.Letters = append(r.Letters, s.Letters...)
					}
				}
				out = append(out, r)
			}
		}
		if len(out) == before && !more {
			break
		}
	}
	if len(out) < 3 {
		return nil, fault.New(ErrTooFew, "too few fit: only %d readable words hold %s", len(out), target.Grapheme)
	}
	for _, c := range others[:min(len(others), count/4)] {
		out = append(out, Ring{c, []int{}, Any})
	}
	rng.Shuffle(len(out), func(i, j int) { out[i], out[j] = out[j], out[i] })
	return out, nil
}
