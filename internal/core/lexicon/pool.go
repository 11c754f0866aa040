package lexicon

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// Item is a lexicon word joined to its sounds in one accent. Readings has more than one where the word can
// be said in two ways.
type Item struct {
	*Entry
	Readings  []Reading
	Shape     string              // consonants and vowels of the first reading: "CVC"
	Syllables int                 // of the first reading
	Alike     []string            // other known words with the same sounds, in alphabetical order
	Second    [][]phoneme.Phoneme // sounds of the second names of its picture
	Pairs     []spelling.Pair
	Needs     Mask    // pairs of all readings
	Picture   bool    // an embedded picture shows it
	Doubt     Doubt   // why it is marked rather than offered
	Worth     float64 // for choosing: known, concrete, short, no inflected form
}

// Doubt says why a word is marked and not offered unasked.
type Doubt string

const (
	NoDoubt     Doubt = ""
	TwoReadings Doubt = "two readings"  // read, bow, wind
	VoicedForm  Doubt = "voiced plural" // paths: its th is voiced, that of path is not
)

// Mask is a set of the pairs of one pool, as bits.
type Mask [8]uint64

const oddBit = 511 // an odd part: in no taught set

func (m *Mask) add(n int) { m[n/64] |= 1 << (n % 64) }

// Within tells whether every pair of m is in other.
func (m *Mask) Within(other *Mask) bool {
	for i := range m {
		if m[i]&^other[i] != 0 {
			return false
		}
	}
	return true
}

// Pool is every word that may be offered to children, aligned for an accent and a team's units. It is shared:
// callers only read it.
type Pool struct {
	Items    []Item  // in alphabetical order
	Ranked   []*Item // by worth, the best first
	Pictures []*Item // those that an embedded picture shows, in alphabetical order
	byWord   map[string]*Item
	heard    map[string]int // familiarity of the best known word with these sounds
	numbers  map[spelling.Pair]int
	with     map[spelling.Pair][]*Item
}

type poolKey struct {
	accent phoneme.Accent
	units  spelling.Units
}

var (
	poolLock sync.Mutex
	pools    = map[poolKey]*Pool{}
)

// For returns the pool of an accent and units; it is made at the first call.
func For(a phoneme.Accent, u spelling.Units) *Pool {
	poolLock.Lock()
	defer poolLock.Unlock()
	key := poolKey{a, u}
	if pools[key] == nil {
		pools[key] = newPool(a, u)
	}
	return pools[key]
}

func newPool(a phoneme.Accent, u spelling.Units) *Pool {
	p := &Pool{
		byWord:  make(map[string]*Item, len(Words())),
		heard:   make(map[string]int, len(Words())),
		numbers: map[spelling.Pair]int{},
		with:    map[spelling.Pair][]*Item{},
	}
	p.Items = alignAll(a, u)
	alike := make(map[string][]string, len(p.Items))
	sounds := make([]string, len(p.Items))
	for i := range p.Items {
		item := &p.Items[i]
		for _, r := range item.Readings {
			for k := range r.Segments {
				item.Needs.add(p.number(&r.Segments[k]))
			}
		}
		sounds[i] = phoneme.Join(item.Readings[0].Phonemes)
		p.heard[sounds[i]] = max(p.heard[sounds[i]], item.Familiarity)
		if item.Familiarity > 0 {
			alike[sounds[i]] = append(alike[sounds[i]], item.Word)
		}
	}
	for i := range p.Items {
		item := &p.Items[i]
		p.byWord[item.Word] = item
		for _, w := range alike[sounds[i]] {
			if w != item.Word {
				item.Alike = append(item.Alike, w)
			}
		}
		if item.Picture = item.Picturable(); item.Picture {
			for _, name := range SecondNames(item.Word) {
				if seg, err := Segment(name, a, u); err == nil {
					item.Second = append(item.Second, seg.Phonemes)
				}
			}
			p.Pictures = append(p.Pictures, item)
		}
		item.Worth = worth(item)
		p.Ranked = append(p.Ranked, item)
	}
	slices.SortFunc(p.Ranked, func(a, b *Item) int {
		if a.Worth != b.Worth {
			return cmp.Compare(b.Worth, a.Worth)
		}
		return strings.Compare(a.Word, b.Word)
	})
	for _, item := range p.Ranked {
		for k, q := range item.Pairs {
			if !slices.Contains(item.Pairs[:k], q) {
				p.with[q] = append(p.with[q], item)
			}
		}
	}
	return p
}

// shortSmall is up to how many letters a small word is practised by itself: in, at, and.
const shortSmall = 3

// worth weighs what a good teacher looks for in a word, apart from any question: first that a child knows it and can
// picture or do it, then how well it practises (common practice, no published source).
func worth(item *Item) float64 {
	s := 10*float64(item.Familiarity) + math.Log1p(float64(item.Rank))
	kinds := item.Kinds
	if stem, ok := Find(item.Stem); ok && item.Inflected() {
		kinds = stem.Kinds
		if strings.Contains(item.Parts, "V") && !strings.Contains(item.Parts, "N") && !strings.Contains(kinds, "D") {
			s -= 12 // pegged, wigged
		}
	}
	switch {
	case strings.Contains(kinds, "T"):
		s += 8
	case strings.Contains(kinds, "D"):
		s += 5
	case strings.Contains(kinds, "L"):
		s += 4
	case kinds != "" && len(item.Word) > shortSmall: // until, since: read in sentences
		s -= 8
	}
	if item.Picture {
		s += 4
	}
	if item.Inflected() { // plurals and past forms come after their stems
		s -= 12
	} else if item.Stem != "" {
		s--
	}
	sounds := item.Readings[0].Sounds
	if over := sounds - 3; over > 0 {
		s -= 5 * float64(over)
	}
	if sounds < 3 {
		s -= 16
	}
	return s
}

// alignAll joins the words that may be offered, in two halves at once.
func alignAll(a phoneme.Accent, u spelling.Units) []Item {
	all := Words()
	half := func(words []*Entry) []Item {
		out := make([]Item, 0, len(words))
		for _, e := range words {
			if !e.Unfit && e.At(a) {
				out = append(out, align(e, a, u))
			}
		}
		return out
	}
	var second []Item
	var wait sync.WaitGroup
	wait.Go(func() { second = half(all[len(all)/2:]) })
	first := half(all[:len(all)/2])
	wait.Wait()
	return append(first, second...)
}

func align(e *Entry, a phoneme.Accent, u spelling.Units) Item {
	said := e.SaidIn(a)
	item := Item{Entry: e, Readings: make([]Reading, 0, len(said))}
	for _, j := range said {
		item.Readings = append(item.Readings, readJoined(j, a, u))
	}
	item.Doubt = doubt(e, item.Readings, a)
	first := item.Readings[0].Segments
	item.Shape = Shape(first)
	item.Syllables = strings.Count(item.Shape, "V")
	item.Pairs = make([]spelling.Pair, len(first))
	for i, s := range first {
		item.Pairs[i] = s.Pair
	}
	return item
}

// doubt marks words that are said in two ways, other than the weak and strong forms of small words, and plurals that
// change the last sound of their word.
func doubt(e *Entry, readings []Reading, a phoneme.Accent) Doubt {
	if len(readings) > 1 && !strings.Contains(e.Kinds, "O") && !slices.Equal(readings[0].Phonemes, readings[1].Phonemes) {
		return TwoReadings
	}
	one, plural := Find(strings.TrimSuffix(e.Word, "s"))
	if !plural || !strings.HasSuffix(e.Word, "s") || strings.HasSuffix(e.Word, "ss") {
		return NoDoubt
	}
	voiced := strings.NewReplacer("T", "D", "f", "v", "s", "z")
	stem, form := one.CodesIn(a)[0], e.CodesIn(a)[0]
	if !strings.HasPrefix(form, stem) && strings.HasPrefix(form, stem[:len(stem)-1]+voiced.Replace(stem[len(stem)-1:])) {
		return VoicedForm
	}
	return NoDoubt
}

func (p *Pool) number(s *spelling.Segment) int {
	if s.Odd {
		return oddBit
	}
	n, ok := p.numbers[s.Pair]
	if !ok {
		if n = len(p.numbers); n >= oddBit {
			panic("lexicon: more pairs than a Mask holds")
		}
		p.numbers[s.Pair] = n
	}
	return n
}

// Mask returns the pairs of a taught set that occur in the pool.
func (p *Pool) Mask(taught spelling.Set) Mask {
	var m Mask
	for pair, in := range taught {
		if n, ok := p.numbers[pair]; ok && in {
			m.add(n)
		}
	}
	return m
}

// With lists the words whose first reading holds the pair, the best first.
func (p *Pool) With(pair spelling.Pair) []*Item { return p.with[pair] }

// Find returns the word's item.
func (p *Pool) Find(word string) (*Item, bool) {
	item, ok := p.byWord[word]
	return item, ok
}

// Heard is the familiarity of the best known word that is said so, 0 where there is none.
func (p *Pool) Heard(sounds []phoneme.Phoneme) int { return p.heard[phoneme.Join(sounds)] }

// Shape writes the consonants and vowels of segments as teachers do: ship is CVC, spot CCVC, box CVCC.
func Shape(segments []spelling.Segment) string {
	var b strings.Builder
	for _, s := range segments {
		for i, p := range s.Phonemes {
			switch {
			case phoneme.IsVowel(p):
				b.WriteByte('V')
			case p == "j" && i+1 < len(s.Phonemes) && phoneme.IsVowel(s.Phonemes[i+1]), p == "r" && i > 0 && len(s.Phonemes) > 1:
			default:
				b.WriteByte('C')
			}
		}
	}
	return b.String()
}
