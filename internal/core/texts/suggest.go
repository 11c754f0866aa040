package texts

import (
	_ "embed"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
)

//go:embed data/grammar.txt
var grammarText string

// ReadFirst stands beside every made sentence.
const ReadFirst = "Made by rule. Read it before you use it."

// Suggestion is a made sentence whose every word can be read or is a taught exception word.
type Suggestion struct {
	Text    string   `json:"text"`
	Holds   []string `json:"holds"` // its words with the target
	Because string   `json:"because"`
}

type noun struct {
	one, many, class string
	plain            bool // not counted, or kin: the ham, my mum
}
type place struct {
	preposition, noun string
	plain             bool // the mud, not a mud
	small             bool // things are in it; nobody runs there
}
type adjective struct{ word, classes string }
type verb struct{ base, she, past, subjects, objects string } // without objects where intransitive

type vocabulary struct {
	nouns      []noun
	places     []place
	adjectives []adjective
	verbs      []verb
}

var fullVocabulary = sync.OnceValue(func() vocabulary {
	var v vocabulary
	for line := range strings.Lines(grammarText) {
		f := strings.Fields(line)
		switch f[0] {
		case "noun":
			v.nouns = append(v.nouns, noun{f[1], strings.Trim(f[2], "-"), f[3], f[2] == "-"})
		case "place":
			v.places = append(v.places, place{f[1], f[2], f[len(f)-1] == "the", f[len(f)-1] == "small"})
		case "like":
			v.adjectives = append(v.adjectives, adjective{f[1], f[2]})
		case "does":
			v.verbs = append(v.verbs, verb{f[1], f[2], f[3], f[4], ""})
		case "takes":
			v.verbs = append(v.verbs, verb{f[1], f[2], f[3], f[4], f[5]})
		}
	}
	return v
})

// SuggestQuery asks for sentences. The target may be nil; Exclude are words not to use.
type SuggestQuery struct {
	Taught     spelling.Set
	Exceptions map[string]bool
	Target     *spelling.Pair
	Exclude    map[string]bool
	Count      int
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
}

// Suggest makes sentences by a small grammar: subject, verb and object or place that go together, in number
// and in sense. Every one passes Check with nothing left over; those that hold the target more than once come
// first. The same rng gives the same sentences. Fewer than Count come back where too little can be read.
func Suggest(q SuggestQuery, o Options, rng *rand.Rand) []Suggestion {
	pool := lexicon.For(o.Accent, o.Units)
	m := maker{SuggestQuery: q, o: o, rng: rng, pool: pool, mask: pool.Mask(q.Taught), readable: map[string]bool{}, holds: map[string]bool{}}
	m.narrow()
	out := []Suggestion{}
	if len(m.words.nouns) == 0 {
		return out
	}
	seen := map[string]bool{}
	for range 60 * q.Count {
		if len(out) >= 6*q.Count {
			break
		}
		text := m.sentence()
		if text == "" || seen[text] || len(strings.Fields(text)) > 9 {
			continue
		}
		seen[text] = true
		s := Suggestion{Text: text, Holds: m.held(text)}
		if q.Target != nil && len(s.Holds) == 0 {
			continue
		}
		s.Because = "every word can be read or is a taught exception word"
		if q.Target != nil {
			s.Because = fmt.Sprintf("%s in %s; %s", q.Target.Grapheme, strings.Join(s.Holds, ", "), s.Because)
		}
		out = append(out, s)
	}
	slices.SortStableFunc(out, func(a, b Suggestion) int { return min(len(b.Holds), 3) - min(len(a.Holds), 3) })
	return slices.DeleteFunc(m.vary(out), func(s Suggestion) bool { return !Check(s.Text, q.Taught, q.Exceptions, o).Fits() })
}

// vary keeps Count sentences and lets no word but the small ones stand in more than two of them.
func (m *maker) vary(from []Suggestion) []Suggestion {
	met := map[string]int{}
	var kept, rest []Suggestion
	for _, s := range from {
		used := strings.FieldsFunc(strings.ToLower(s.Text), func(r rune) bool { return strings.ContainsRune(" .?", r) })
		tired := slices.ContainsFunc(used, func(w string) bool { return len(w) > 2 && w != "the" && w != "and" && met[w] >= 2 })
		if tired {
			rest = append(rest, s)
			continue
		}
		for _, w := range used {
			met[w]++
		}
		kept = append(kept, s)
	}
	kept = append(kept, rest...)
	return kept[:min(len(kept), m.Count)]
}

// can tells whether a word may stand in the sentence.
func (m *maker) can(word string) bool {
	if word == "" || m.Exclude[word] {
		return false
	}
	ok, known := m.readable[word]
	if item, plain := m.pool.Find(word); !known && plain && word != "a" && len(m.o.Depart) == 0 {
		ok = item.Needs.Within(&m.mask) || m.Exceptions[word]
		m.readable[word] = ok
		m.holds[word] = ok && m.Target != nil && slices.Contains(item.Pairs, *m.Target)
		return ok
	}
	if !known {
		s := status(word, false, m.Taught, m.Exceptions, m.o).Status
		ok = s == Decodable || s == Exception
		m.readable[word] = ok
		if m.Target != nil && ok {
			if seg, err := m.o.Segment(word); err == nil {
				m.holds[word] = slices.ContainsFunc(seg.Segments, func(s spelling.Segment) bool { return s.Pair == *m.Target })
			}
		}
	}
	return ok
}

func (m *maker) narrow() {
	all := fullVocabulary()
	for _, n := range all.nouns {
		one, many := m.can(n.one), m.can(n.many)
		if !one {
			n.one = ""
		}
		if !many {
			n.many = ""
		}
		if one || many {
			m.words.nouns = append(m.words.nouns, n)
		}
	}
	for _, p := range all.places {
		if m.can(p.preposition) && m.can(p.noun) {
			m.words.places = append(m.words.places, p)
		}
	}
	for _, a := range all.adjectives {
		if m.can(a.word) {
			m.words.adjectives = append(m.words.adjectives, a)
		}
	}
	for _, v := range all.verbs {
		base, she, past := m.can(v.base), m.can(v.she), m.can(v.past)
		for _, f := range []struct {
			ok   bool
			form *string
		}{{base, &v.base}, {she, &v.she}, {past, &v.past}} {
			if !f.ok {
				*f.form = ""
			}
		}
		if base || she || past {
			m.words.verbs = append(m.words.verbs, v)
		}
	}
}

func (m *maker) held(text string) []string {
	var out []string
	for _, w := range strings.FieldsFunc(strings.ToLower(text), func(r rune) bool { return strings.ContainsRune(" .?", r) }) {
		if m.can(w) && m.holds[w] && !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	return out
}

func pickOne[T any](m *maker, list []T, fits func(T) bool) (T, bool) {
	var some []T
	for _, x := range list {
		if fits(x) {
			some = append(some, x)
		}
	}
	if len(some) == 0 {
		var none T
		return none, false
	}
	return some[m.rng.IntN(len(some))], true
}

// favour is pickOne among those with the target first, two times in three.
func favour[T any](m *maker, list []T, word func(T) string, fits func(T) bool) (T, bool) {
	if m.Target != nil && m.rng.IntN(3) > 0 {
		if x, ok := pickOne(m, list, func(x T) bool { return fits(x) && m.holds[word(x)] }); ok {
			return x, true
		}
	}
	return pickOne(m, list, fits)
}

// phrase is a determiner, at times an adjective, and a noun.
func (m *maker) phrase(classes string, many bool, not string) (text string, n noun, ok bool) {
	form := func(n noun) string {
		if many {
			return n.many
		}
		return n.one
	}
	n, ok = favour(m, m.words.nouns, form, func(n noun) bool {
		return form(n) != "" && n.one != not && strings.Contains(classes, n.class)
	})
	if !ok {
		return "", n, false
	}
	words := form(n)
	if m.rng.IntN(3) == 0 {
		if a, ok := favour(m, m.words.adjectives, func(a adjective) string { return a.word }, func(a adjective) bool { return strings.Contains(a.classes, n.class) }); ok {
			words = a.word + " " + words
		}
	}
	determiners := []string{"the", "a", "the", "a", "his", "my", "this", "that"}
	switch {
	case many:
		determiners = []string{"the", "ten", "six", "two", "his", "my", "three"}
	case n.plain:
		determiners = []string{"the", "his", "my"}
	}
	d, ok := pickOne(m, determiners, func(d string) bool {
		if d == "a" && strings.ContainsRune("aeiou", rune(words[0])) {
			return m.can("an")
		}
		return m.can(d)
	})
	if d == "a" && strings.ContainsRune("aeiou", rune(words[0])) {
		d = "an"
	}
	return d + " " + words, n, ok
}

// where is a place for a noun; acts tells that it does something there.
func (m *maker) where(who noun, acts bool) (string, bool) {
	p, ok := favour(m, m.words.places, func(p place) string { return p.noun }, func(p place) bool {
		return p.noun != who.one && !(p.small && (acts || who.class == "P"))
	})
	if !ok {
		return "", false
	}
	d, ok := pickOne(m, []string{"the", "the", "a", "his", "my"}, func(d string) bool { return m.can(d) && (d == "the" || !p.plain) })
	return p.preposition + " " + d + " " + p.noun, ok
}

// sentence tries one pattern; it is empty where a part is missing.
func (m *maker) sentence() string {
	many := m.rng.IntN(4) == 0
	be, was := "is", "was"
	if many {
		be, was = "are", "were"
	}
	form := func(v verb) string {
		switch {
		case m.rng.IntN(2) == 0 && v.past != "":
			return v.past
		case many:
			return v.base
		}
		return v.she
	}
	finish := func(end string, parts ...string) string {
		if slices.Contains(parts, "") {
			return ""
		}
		text := strings.Join(parts, " ")
		return strings.ToUpper(text[:1]) + text[1:] + end
	}
	switch m.rng.IntN(6) {
	case 0, 1: // The cat sat on the mat.
		who, n, ok := m.phrase("AP", many, "")
		v, ok2 := favour(m, m.words.verbs, func(v verb) string { return v.past }, func(v verb) bool { return v.objects == "" && strings.Contains(v.subjects, n.class) })
		where, ok3 := m.where(n, true)
		if ok && ok2 && ok3 {
			return finish(".", who, form(v), where)
		}
	case 2: // A dog can run.
		who, n, ok := m.phrase("AP", many, "")
		v, ok2 := favour(m, m.words.verbs, func(v verb) string { return v.base }, func(v verb) bool {
			return v.objects == "" && v.base != "" && strings.Contains(v.subjects, n.class)
		})
		if ok && ok2 && m.can("can") {
			if where, ok := m.where(n, true); ok && m.rng.IntN(2) == 0 {
				return finish(".", who, "can", v.base, where)
			}
			return finish(".", who, "can", v.base)
		}
	case 3, 4: // The hen had a big egg.
		who, n, ok := m.phrase("AP", many, "")
		v, ok2 := favour(m, m.words.verbs, func(v verb) string { return v.past }, func(v verb) bool {
			return v.objects != "" && strings.Contains(v.subjects, n.class)
		})
		what, _, ok3 := m.phrase(v.objects, m.rng.IntN(3) == 0, n.one)
		if ok && ok2 && ok3 {
			return finish(".", who, form(v), what)
		}
	default: // The hat is in the box. Is the hat in the box?
		who, n, ok := m.phrase("AT", many, "")
		where, ok2 := m.where(n, false)
		verb := be
		if m.rng.IntN(2) == 0 {
			verb = was
		}
		if ok && ok2 && m.can(verb) {
			if m.rng.IntN(4) == 0 {
				return finish("?", verb, who, where)
			}
			return finish(".", who, verb, where)
		}
	}
	return ""
}
