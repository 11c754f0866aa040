// Package lexicon holds the embedded words: their sounds in each accent, how well young children know them,
// their parts of speech, and the pictures that show them.
package lexicon

import (
	_ "embed"
	"maps"
	"slices"
	"strconv"
	"strings"
	"sync"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// The list is made by tools/lexicon; sources and licences are in docs/data-and-licences.md.
//
//go:embed data/words.txt
var wordsText string

// Entry is one word. Said are its pronunciations joined to its letters, the most common first. Familiarity runs
// from 0 (rare) to 5 (every child of five); Rank is a coarse count of use, in hundreds.
type Entry struct {
	Word        string
	Said        []spelling.Joined
	American    []spelling.Joined // where they do not follow from Said by lexical sets; else nil
	Familiarity int
	Rank        int
	Parts       string // n noun, v verb, a adjective, r adverb, N plural noun, V verb form
	Kinds       string // T thing, D doing, L like, O small word: what a young child knows it as, or empty
	Side        Side
	Stem        string // the word that it is a form of, or empty
	Unfit       bool   // not offered to children
}

// Thing tells whether a young child knows the word as the name of a thing.
func (e *Entry) Thing() bool { return strings.Contains(e.Kinds, "T") }

// Side is the side of the ocean to which a word or a spelling belongs.
type Side byte

const (
	BothSides Side = iota
	BritishSide
	AmericanSide
)

// At tells whether the word is at home in the accent: colour in Britain, color in America.
func (e *Entry) At(a phoneme.Accent) bool {
	switch e.Side {
	case BritishSide:
		return !a.American()
	case AmericanSide:
		return a.American()
	}
	return true
}

// Inflected tells whether the word is a plural, a past form or an -ing form.
func (e *Entry) Inflected() bool { return strings.ContainsAny(e.Parts, "NV") }

// SaidIn are the pronunciations in an accent.
func (e *Entry) SaidIn(a phoneme.Accent) []spelling.Joined {
	if a == phoneme.GeneralAmerican && e.American != nil {
		return e.American
	}
	return e.Said
}

// CodesIn are the pronunciations in an accent, in lexical sets.
func (e *Entry) CodesIn(a phoneme.Accent) []string {
	said := e.SaidIn(a)
	out := make([]string, len(said))
	for i, j := range said {
		out[i] = j.Codes
	}
	return out
}

// Picturable tells whether an embedded picture shows the word.
func (e Entry) Picturable() bool { return pictures()[e.Word] != "" }

var load = sync.OnceValue(readEntries)

// readEntries reads the list in two halves at once.
func readEntries() map[string]*Entry {
	middle := len(wordsText)/2 + strings.IndexByte(wordsText[len(wordsText)/2:], '\n') + 1
	var all, more map[string]*Entry
	var wait sync.WaitGroup
	wait.Go(func() { more = readLines(wordsText[middle:]) })
	all = readLines(wordsText[:middle])
	wait.Wait()
	maps.Copy(all, more)
	return all
}

func readLines(text string) map[string]*Entry {
	all := make(map[string]*Entry, 25_000)
	for line := range strings.Lines(text) {
		if line[0] == '#' {
			continue
		}
		f := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		e := &Entry{Word: f[0], Stem: strings.TrimPrefix(f[5], "-")}
		e.Familiarity, _ = strconv.Atoi(f[2])
		e.Rank, _ = strconv.Atoi(f[3])
		said, american, differs := strings.Cut(f[1], "|")
		if e.Said = joined(e.Word, said); differs {
			e.American = joined(e.Word, american)
		}
		for i := range len(f[4]) {
			switch c := f[4][i]; {
			case strings.IndexByte("nvarNV", c) >= 0:
				e.Parts += f[4][i : i+1]
			case strings.IndexByte("TDLO", c) >= 0:
				e.Kinds += f[4][i : i+1]
			case c == 'g':
				e.Side = BritishSide
			case c == 'u':
				e.Side = AmericanSide
			case c == 'x':
				e.Unfit = true
			}
		}
		all[e.Word] = e
	}
	return all
}

func joined(word, stored string) []spelling.Joined {
	out := make([]spelling.Joined, 0, 1)
	for reading := range strings.SplitSeq(stored, ",") {
		j, err := spelling.ReadJoined(word, reading)
		if err != nil {
			panic(err) // the list is embedded
		}
		out = append(out, j)
	}
	return out
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
	al := aligners.Get().(*spelling.Aligner)
	defer aligners.Put(al)
	var readings []Reading
	e, listed := contraction(word)
	spoken, known := "", false
	if !listed && strings.ContainsAny(word, "'’‘") {
		spoken, known = apostrophe(word, a)
	}
	if !listed && spoken == "" {
		e, listed = Find(clean)
	}
	switch {
	case listed:
		for _, j := range e.SaidIn(a) {
			readings = append(readings, readJoined(j, a, u))
		}
	case spoken != "":
		if !known {
			out.Source = FromRules
		}
		readings = []Reading{read(al, clean, spoken, spelling.Cut{}, a, u)}
	default:
		codes, cut, source := guess(clean, a)
		out.Source = source
		readings = []Reading{read(al, clean, codes, cut, a, u)}
		if len(readings[0].Segments) == 0 {
			return Segmented{}, fault.New(spelling.ErrNoWord, "not a word: nobody could say %q", word)
		}
	}
	for i, r := range readings {
		if len(positions) > 0 {
			moved(r.Segments, positions)
		}
		if i == 0 {
			out.Reading = r
		} else if !slices.Equal(r.Phonemes, out.Phonemes) {
			out.Alternatives = append(out.Alternatives, r)
		}
	}
	return out, nil
}

// moved puts segments to where their letters stand in a text with other signs. The letters of a stored word are shared:
// they are moved in a copy.
func moved(segments []spelling.Segment, positions []int) {
	for s := range segments {
		segments[s].Letters = slices.Clone(segments[s].Letters)
		for l, at := range segments[s].Letters {
			segments[s].Letters[l] = positions[at]
		}
	}
}

var aligners = sync.Pool{New: func() any { return &spelling.Aligner{} }}

func read(al *spelling.Aligner, word, codes string, c spelling.Cut, a phoneme.Accent, u spelling.Units) Reading {
	segs := al.Align(word, codes, c, a, u)
	return Reading{
		phoneme.AppendRealised(make([]phoneme.Phoneme, 0, len(codes)+1), a, codes, 0),
		segs,
		spelling.SoundCount(segs, u),
	}
}

func readJoined(j spelling.Joined, a phoneme.Accent, u spelling.Units) Reading {
	segs := j.Segments(a, u)
	return Reading{
		phoneme.AppendRealised(make([]phoneme.Phoneme, 0, len(j.Codes)+1), a, j.Codes, 0),
		segs,
		spelling.SoundCount(segs, u),
	}
}

// Speech is how a team speaks and cuts words: its accent, its units, and the words that depart from the
// accent. The zero Depart departs nowhere.
type Speech struct {
	Accent phoneme.Accent
	Units  spelling.Units
	Depart map[string]phoneme.Accent // small letters
	Allow  map[string]bool           // refused words that the team allows all the same
	// Pictures are the team's own, for ear games.
	Pictures []OwnPicture
	Words    map[string]OwnWord // in small letters
}

// OwnPicture is a picture of the team's with its name and the other names that children give it, in small letters.
type OwnPicture struct {
	Name   string
	Others []string
}

// BestKnown is the highest familiarity.
const BestKnown = 5

// Own visits the words that the team says or allows otherwise than everybody.
func (s Speech) Own() func(func(string) bool) {
	return func(yield func(string) bool) {
		for w := range s.Depart {
			if !yield(w) {
				return
			}
		}
		for w := range s.Allow {
			if _, twice := s.Depart[w]; !twice && !yield(w) {
				return
			}
		}
		for w := range s.Words {
			if _, twice := s.Depart[w]; !twice && !s.Allow[w] && !yield(w) {
				return
			}
		}
	}
}

// Segment is the function Segment in the word's own accent.
func (s Speech) Segment(word string) (Segmented, error) {
	if w, ok := s.own(word); ok {
		return s.segmentOwn(w, word)
	}
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
	_, departs := s.Depart[word]
	if _, own := s.own(word); !departs && !own {
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

// Item aligns a lexicon word or one of the team's own, fit for children or not, in its own accent.
func (s Speech) Item(word string) (Item, bool) {
	if w, ok := s.own(word); ok {
		return s.itemOwn(w)
	}
	e, ok := Find(word)
	if !ok {
		return Item{}, false
	}
	a := s.Accent
	if own, ok := s.Depart[word]; ok {
		a = own
	}
	item := align(e, a, s.Units)
	return item, item.Readings[0].Segments != nil
}
