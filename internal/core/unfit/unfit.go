// Package unfit tells which words are not offered to children, by theme: a refused word with all its inflected,
// derived and compound forms, and what sounds nearly like a strong one.
package unfit

import (
	_ "embed"
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/wordform"
)

//go:embed themes.txt
var themesText string

//go:embed innocent.txt
var innocentText string

// Theme names what a refused word is about: "rude", "violence" …
type Theme string

// Names is the theme of brands and of names that are words too: not offered, but no fault of a text.
const Names Theme = "brand-or-name"

type lemma struct {
	theme Theme
	alone bool // refused as it stands, without a family
}

type strong struct{ letters, codes string }

type lists struct {
	lemmas   map[string]lemma
	innocent map[string]bool
	strong   []strong // words that nothing made up may be near to
	inside   []string // refused wherever their letters stand
}

const (
	wholePart = 5 // letters that a refused word needs to be looked for at either end of a compound
	minRest   = 3 // letters of the other part
)

var load = sync.OnceValue(func() lists {
	l := lists{lemmas: map[string]lemma{}, innocent: map[string]bool{}}
	var theme Theme
	for line := range strings.Lines(themesText) {
		words := strings.Fields(line)
		switch {
		case len(words) == 0 || words[0] == "#":
		case words[0] == "theme":
			theme = Theme(words[1])
		default:
			for _, w := range words {
				w, codes, isStrong := strings.Cut(w, "=")
				word, alone := strings.CutSuffix(w, ".")
				if _, twice := l.lemmas[word]; !twice {
					l.lemmas[word] = lemma{theme, alone}
				}
				if inside, ok := strings.CutPrefix(codes, "="); ok {
					codes = inside
					l.inside = append(l.inside, word)
				}
				if isStrong {
					l.strong = append(l.strong, strong{word, codes})
				}
			}
		}
	}
	for line := range strings.Lines(innocentText) {
		if !strings.HasPrefix(line, "#") {
			for w := range strings.FieldsSeq(line) {
				l.innocent[w] = true
			}
		}
	}
	return l
})

// Of returns the theme by which a word is refused. Capitals, apostrophes and hyphens are passed over; of a word
// with a hyphen each part is asked as well.
func Of(word string) (Theme, bool) {
	word = strings.ToLower(word)
	if parts := strings.FieldsFunc(word, func(r rune) bool { return r == '-' || r == ' ' }); len(parts) > 1 {
		for _, p := range parts {
			if t, ok := Of(p); ok {
				return t, true
			}
		}
	}
	letters := strings.Map(func(r rune) rune {
		if r < 'a' || r > 'z' {
			return -1
		}
		return r
	}, strings.TrimSuffix(strings.TrimSuffix(word, "'s"), "’s"))
	l := load()
	if t, ok := l.family(letters, 3); ok {
		return t, true
	}
	return l.compound(letters)
}

// family looks a word up, then what it may be made from, so many endings deep.
func (l *lists) family(word string, depth int) (Theme, bool) {
	if l.innocent[word] {
		return "", false
	}
	if found, ok := l.lemmas[word]; ok {
		return found.theme, true
	}
	if depth == 0 {
		return "", false
	}
	for _, s := range wordform.Stems(word) {
		if found, ok := l.lemmas[s.Word]; ok && found.alone {
			continue
		}
		if t, ok := l.family(s.Word, depth-1); ok {
			return t, true
		}
	}
	return "", false
}

func (l *lists) compound(word string) (Theme, bool) {
	if l.innocent[word] {
		return "", false
	}
	for _, s := range wordform.Stems(word) {
		if l.innocent[s.Word] {
			return "", false
		}
	}
	for n := wholePart; n <= len(word)-minRest; n++ {
		for _, part := range []string{word[:n], word[len(word)-n:]} {
			if found, ok := l.lemmas[part]; ok && !found.alone {
				return found.theme, true
			}
		}
	}
	for _, s := range l.inside {
		if strings.Contains(word, s) {
			return l.lemmas[s].theme, true
		}
	}
	return "", false
}

// Themes lists the themes in the order of the file.
func Themes() []Theme {
	var out []Theme
	for line := range strings.Lines(themesText) {
		if f := strings.Fields(line); len(f) == 2 && f[0] == "theme" {
			out = append(out, Theme(f[1]))
		}
	}
	return out
}

// around is a set of words and of what is one unit away from them: a sound, or a letter.
type around struct {
	whole   map[string]bool // and with one unit left out
	changed map[string]bool // one unit is "?"
	more    map[string]bool // one unit "?" put in
}

func newAround() around { return around{map[string]bool{}, map[string]bool{}, map[string]bool{}} }

func (a around) add(units []string) {
	a.whole[key(units)] = true
	for k := range units {
		a.whole[key(slices.Delete(slices.Clone(units), k, k+1))] = true
		a.changed[key(hole(units, k))] = true
	}
	for k := range len(units) + 1 {
		a.more[key(slices.Insert(slices.Clone(units), k, "?"))] = true
	}
}

func (a around) has(units []string) bool {
	if a.whole[key(units)] {
		return true
	}
	for i := range units {
		if k := key(hole(units, i)); a.changed[k] || a.more[k] {
			return true
		}
	}
	return false
}

func hole(units []string, at int) []string {
	out := slices.Clone(units)
	out[at] = "?"
	return out
}

func key(units []string) string { return strings.Join(units, ".") }

func sounds(ps []phoneme.Phoneme) []string {
	out := make([]string, len(ps))
	for i, p := range ps {
		out[i] = string(p)
	}
	return out
}

var soundsLike = sync.OnceValue(func() []around {
	out := make([]around, len(phoneme.Accents))
	for i, a := range phoneme.Accents {
		out[i] = newAround()
		for _, w := range load().strong {
			out[i].add(sounds(phoneme.Realise(a, w.codes, 0)))
		}
	}
	return out
})

// minSeen is how many letters a strong word needs for a look-alike to be refused: dib is read without a thought.
const minSeen = 4

var looksLike = sync.OnceValue(func() around {
	out := newAround()
	for _, w := range load().strong {
		if len(w.letters) >= minSeen {
			out.add(strings.Split(w.letters, ""))
		}
	}
	return out
})

// SoundsLike tells whether a word said so is a strong word or one sound away from it in the accent: one sound
// changed, left out or put in.
func SoundsLike(said []phoneme.Phoneme, a phoneme.Accent) bool {
	return soundsLike()[a.Index()].has(sounds(said))
}

// LooksLike tells whether letters are one letter away from a strong word of four letters or more.
func LooksLike(letters string) bool { return looksLike().has(strings.Split(letters, "")) }
