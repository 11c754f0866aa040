// Package lexicon holds the embedded words: their sounds in each accent, how well young children know them,
// their parts of speech, and the pictures that show them.
package lexicon

import (
	_ "embed"
	"slices"
	"strconv"
	"strings"
	"sync"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// The list is made by tools/lexicon; sources and licences are in docs/data-and-licences.md.
//
//go:embed data/words.txt
var wordsText string

// Entry is one word. Codes are its pronunciations in lexical sets, the most common first. Familiarity runs
// from 0 (rare) to 5 (every child of five); Rank is a coarse count of use, in hundreds.
type Entry struct {
	Word        string
	Codes       []string
	American    []string // where they do not follow from Codes by lexical sets; else nil
	Familiarity int
	Rank        int
	Parts       string // n noun, v verb, a adjective, r adverb, N plural noun, V verb form
	Unfit       bool   // not offered to children
}

// CodesIn are the pronunciations in an accent.
func (e *Entry) CodesIn(a phoneme.Accent) []string {
	if a == phoneme.GeneralAmerican && e.American != nil {
		return e.American
	}
	return e.Codes
}

// Picturable tells whether an embedded picture shows the word.
func (e Entry) Picturable() bool { return pictures()[e.Word] != "" }

var load = sync.OnceValue(readEntries)

func readEntries() map[string]*Entry {
	all := make(map[string]*Entry, 24_000)
	for line := range strings.Lines(wordsText) {
		if line[0] == '#' {
			continue
		}
		f := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		familiarity, _ := strconv.Atoi(f[2])
		rank, _ := strconv.Atoi(f[3])
		codes, american, differs := strings.Cut(f[1], "|")
		var own []string
		if differs {
			own = strings.Split(american, ",")
		}
		all[f[0]] = &Entry{f[0], strings.Split(codes, ","), own, familiarity, rank, strings.Trim(f[4], "-x"), strings.Contains(f[4], "x")}
	}
	return all
}

// Words returns the entries in alphabetical order.
var Words = sync.OnceValue(func() []*Entry {
	all := load()
	out := make([]*Entry, 0, len(all))
	for _, e := range all {
		out = append(out, e)
	}
	slices.SortFunc(out, func(a, b *Entry) int { return strings.Compare(a.Word, b.Word) })
	return out
})

// Find returns the entry of a word in small letters.
func Find(word string) (*Entry, bool) {
	e, ok := load()[word]
	return e, ok
}

// Reading is one way to say a word, joined to its letters.
type Reading struct {
	Phonemes []phoneme.Phoneme  `json:"phonemes"`
	Segments []spelling.Segment `json:"segments"`
	Sounds   int                `json:"sounds"`
}

// Source tells where a reading comes from.
type Source string

const (
	FromLexicon Source = "lexicon"
	FromRules   Source = "rules"
)

// Segmented is a word with its readings: the first, then the others.
type Segmented struct {
	Word         string         `json:"word"`
	Accent       phoneme.Accent `json:"accent"`
	Source       Source         `json:"source"`
	Reading                     // the most common
	Alternatives []Reading      `json:"alternatives"`
}

// Segment joins the letters of a word to its sounds in the accent. Capitals are read as small letters and
// apostrophes and hyphens passed over. A word that the lexicon lacks gets a guess by rule, and Source says
// so. The error says why a text is no word.
func Segment(word string, a phoneme.Accent, u spelling.Units) (Segmented, error) {
	clean, positions, err := spelling.Normalise(word)
	if err != nil {
		return Segmented{}, err
	}
	out := Segmented{Word: word, Accent: a, Source: FromLexicon, Alternatives: []Reading{}}
	var codes []string
	if e, ok := contraction(word); ok {
		codes = e.CodesIn(a)
	} else if e, ok := Find(clean); ok {
		codes = e.CodesIn(a)
	} else if stemmed := inflected(clean, a); stemmed != "" {
		codes = []string{stemmed}
	} else {
		out.Source = FromRules
		if made := derived(clean, a); made != "" {
			codes = []string{made}
		} else {
			codes = []string{spelling.Guess(clean)}
		}
	}
	al := aligners.Get().(*spelling.Aligner)
	defer aligners.Put(al)
	for i, c := range codes {
		r := read(al, clean, c, a, u)
		if len(positions) > 0 {
			for s := range r.Segments {
				for l, at := range r.Segments[s].Letters {
					r.Segments[s].Letters[l] = positions[at]
				}
			}
		}
		if i == 0 {
			out.Reading = r
		} else if !slices.Equal(r.Phonemes, out.Phonemes) {
			out.Alternatives = append(out.Alternatives, r)
		}
	}
	return out, nil
}

var aligners = sync.Pool{New: func() any { return &spelling.Aligner{} }}

func read(al *spelling.Aligner, word, codes string, a phoneme.Accent, u spelling.Units) Reading {
	segs := al.Align(word, codes, a, u)
	return Reading{phoneme.AppendRealised(make([]phoneme.Phoneme, 0, len(codes)+1), a, codes, 0), segs, spelling.SoundCount(segs, u)}
}

// Speech is how a team speaks and cuts words: its accent, its units, and the words that depart from the
// accent. The zero Depart departs nowhere.
type Speech struct {
	Accent phoneme.Accent
	Units  spelling.Units
	Depart map[string]phoneme.Accent // small letters
}

// Segment is the function Segment in the word's own accent.
func (s Speech) Segment(word string) (Segmented, error) {
	a := s.Accent
	if len(s.Depart) > 0 {
		if own, ok := s.Depart[strings.ToLower(word)]; ok {
			a = own
		}
	}
	return Segment(word, a, s.Units)
}

// Sounds returns the most common pronunciation of a word in its own accent; nil for a text that is no word.
// Callers only read it.
func (s Speech) Sounds(word string) []phoneme.Phoneme {
	if _, departs := s.Depart[word]; !departs {
		if item, ok := For(s.Accent, s.Units).Find(word); ok {
			return item.Readings[0].Phonemes
		}
	}
	seg, err := s.Segment(word)
	if err != nil {
		return nil
	}
	return seg.Phonemes
}

// Item aligns a lexicon word, fit for children or not, in its own accent.
func (s Speech) Item(word string) (Item, bool) {
	e, ok := Find(word)
	if !ok {
		return Item{}, false
	}
	a := s.Accent
	if own, ok := s.Depart[word]; ok {
		a = own
	}
	item := align(&spelling.Aligner{}, e, a, s.Units)
	return item, item.Readings[0].Segments != nil
}
