package texts

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
)

// ReadFirst stands beside every made sentence.
const ReadFirst = "Made by rule. Read it before you use it."

// Suggestion is a made sentence whose every word can be read or is a taught exception word.
type Suggestion struct {
	Text    string   `json:"text"`
	Holds   []string `json:"holds"` // its words with the target
	Because string   `json:"because"`
}

// SuggestQuery asks for sentences that hold one of the targets. There may be none; Exclude are words not to use.
type SuggestQuery struct {
	Taught     spelling.Set
	Exceptions map[string]bool
	Targets    []spelling.Pair
	Exclude    map[string]bool
	Count      int
}

// draft is a sentence in the making, with the words that carry its meaning.
type draft struct {
	text    string
	who     string // that it begins with, in a page
	frame   string
	content []string
	past    bool
}

// maker makes sentences from what can be read.
type maker struct {
	SuggestQuery
	o        Options
	rng      *rand.Rand
	pool     *lexicon.Pool
	mask     lexicon.Mask // of Taught
	words    vocabulary
	readable map[string]bool // by word, as far as asked
	holds    map[string]bool // words with the target
	subject  *noun           // of a page; nil: anybody
	tense    describe
	fit      map[string]bool // texts of a page that were checked
	past     bool            // what the last verb stood in
	// places in a list, kept to be used again
	some, heldAt []int32
}

const (
	tries    = 48 // drafts for each sentence asked for
	maxWords = 9
)

// Maker makes sentences and pages from what can be read; it is made once for a question and may be asked again.
type Maker struct{ m maker }

// NewMaker keeps what of the vocabulary can be read.
func NewMaker(q SuggestQuery, o Options) *Maker {
	pool := lexicon.For(o.Accent, o.Units)
	m := maker{
		SuggestQuery: q,
		o:            o,
		pool:         pool,
		mask:         pool.Mask(q.Taught),
		readable:     map[string]bool{},
		holds:        map[string]bool{},
	}
	m.narrow()
	return &Maker{m}
}

// Suggest makes sentences by a small grammar of who does what where, in sense, number and tense, and chooses the best
// of many by a score: words with the target, variety, length. Every one passes Check with nothing left over. The same
// rng gives the same sentences. Fewer than Count come back where too little can be read.
func Suggest(q SuggestQuery, o Options, rng *rand.Rand) []Suggestion {
	return NewMaker(q, o).Sentences(rng)
}

// Sentences is Suggest.
func (k *Maker) Sentences(rng *rand.Rand) []Suggestion {
	m := k.m
	m.rng = rng
	seen := map[string]bool{}
	var drafts []draft
	for range tries * m.Count {
		d := m.sentence()
		if d.text == "" || seen[d.text] || len(strings.Fields(d.text)) > maxWords || repeats(d.content) {
			continue
		}
		seen[d.text] = true
		if len(m.Targets) == 0 || len(m.held(d.text)) > 0 {
			drafts = append(drafts, d)
		}
	}
	out := []Suggestion{}
	for _, d := range m.choose(drafts) {
		s := Suggestion{Text: d.text, Holds: m.held(d.text), Because: "every word can be read or is a taught exception word"}
		if len(m.Targets) > 0 {
			s.Because = fmt.Sprintf("%s in %s; %s", m.names(), strings.Join(s.Holds, ", "), s.Because)
		}
		if Check(s.Text, m.Taught, m.Exceptions, m.o).Fits() {
			out = append(out, s)
		}
	}
	return out
}

// names are the graphemes of the targets.
func (m *maker) names() string {
	var out []string
	for _, t := range m.Targets {
		if !slices.Contains(out, t.Grapheme) {
			out = append(out, t.Grapheme)
		}
	}
	return strings.Join(out, ", ")
}

// isTarget tells whether one of the pairs is a target.
func (m *maker) isTarget(pairs []spelling.Pair) bool {
	return slices.ContainsFunc(pairs, func(p spelling.Pair) bool { return slices.Contains(m.Targets, p) })
}

func repeats(content []string) bool {
	for i, w := range content {
		for _, other := range content[:i] {
			if strings.HasPrefix(w, other) || strings.HasPrefix(other, w) {
				return true
			}
		}
	}
	return false
}

// choose takes the best draft again and again; what its words and its frame have been used for already costs, so
// that no noun and no frame comes all the time.
func (m *maker) choose(drafts []draft) []draft {
	used, frames := map[string]int{}, map[string]int{}
	var out []draft
	for len(out) < m.Count && len(drafts) > 0 {
		best, top := -1, 0.0
		for i, d := range drafts {
			s := m.score(d) - 2.5*float64(frames[d.frame])
			for _, w := range d.content {
				s -= 5 * float64(used[w])
			}
			if best < 0 || s > top {
				best, top = i, s
			}
		}
		d := drafts[best]
		out = append(out, d)
		drafts = slices.Delete(drafts, best, best+1)
		frames[d.frame]++
		for _, w := range d.content {
			used[w]++
		}
	}
	return out
}

// score is how good a sentence is by itself: two words with the target, five to seven words, words that mean something.
func (m *maker) score(d draft) float64 {
	n := len(strings.Fields(d.text))
	s := 4 * float64(min(2, len(m.held(d.text))))
	s -= 0.7 * float64(max(0, 5-n)+max(0, n-7))
	return s + float64(min(3, len(d.content)))
}

// can tells whether a word may stand in the sentence; a name is asked with its capital.
func (m *maker) can(word string) bool {
	if word == "" || m.Exclude[word] {
		return false
	}
	ok, known := m.readable[word]
	if known {
		return ok
	}
	if item, plain := m.pool.Find(word); plain && word != "a" && len(m.o.Depart) == 0 {
		ok = item.Needs.Within(&m.mask) || m.Exceptions[word]
		m.holds[word] = item.Needs.Within(&m.mask) && m.isTarget(item.Pairs)
	} else {
		t := status(word, false, m.Taught, m.Exceptions, m.o)
		ok = t.Status == Decodable || t.Status == Exception || t.Status == Name && len(t.Untaught) == 0
		m.holds[word] = ok && t.Status != Exception && slices.ContainsFunc(m.Targets, func(p spelling.Pair) bool {
			return spelling.Holds(t.Segments, p)
		})
	}
	m.readable[word] = ok
	return ok
}

// narrow keeps what can be read of the vocabulary.
func (m *maker) narrow() {
	all := fullVocabulary()
	keep := func(w *string) bool {
		if !m.can(*w) {
			*w = ""
		}
		return *w != ""
	}
	for _, n := range all.nouns {
		if n.bare {
			n.one = prose.Capital(n.one)
		}
		one, many := keep(&n.one), keep(&n.many)
		if one || many {
			m.words.nouns = append(m.words.nouns, n)
		}
	}
	for i, from := range [][]place{all.places, all.goals} {
		into := []*[]place{&m.words.places, &m.words.goals}[i]
		for _, p := range from {
			if m.can(p.preposition) && m.can(p.word) {
				*into = append(*into, p)
			}
		}
	}
	for _, a := range all.adjectives {
		if m.can(a.word) {
			m.words.adjectives = append(m.words.adjectives, a)
		}
	}
	for i, from := range [][]verb{all.acts, all.uses} {
		into := []*[]verb{&m.words.acts, &m.words.uses}[i]
		for _, v := range from {
			base, she, past := keep(&v.base), keep(&v.she), keep(&v.past)
			if base || she || past {
				*into = append(*into, v)
			}
		}
	}
	for _, o := range all.opposites {
		if m.can(o.one) && m.can(o.other) {
			m.words.opposites = append(m.words.opposites, o)
		}
	}
}

func (m *maker) held(text string) []string {
	var out []string
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" .?!", r) }) {
		if !m.holds[w] {
			w = strings.ToLower(w)
		}
		if m.can(w) && m.holds[w] && !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	return out
}

// pick takes one that fits; two times in three one that holds the target, where there is one.
func pick[T any](m *maker, list []T, word func(T) string, fits func(T) bool) (T, bool) {
	some, held := m.some[:0], m.heldAt[:0]
	for i := range list {
		if fits(list[i]) {
			some = append(some, int32(i))
			if m.holds[word(list[i])] {
				held = append(held, int32(i))
			}
		}
	}
	m.some, m.heldAt = some, held
	if len(held) > 0 && m.rng.IntN(3) > 0 {
		some = held
	}
	if len(some) == 0 {
		var none T
		return none, false
	}
	return list[some[m.rng.IntN(len(some))]], true
}
