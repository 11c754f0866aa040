package lexicon

import (
	_ "embed"
	"strings"
	"sync"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/wordform"
)

//go:embed data/contractions.txt
var contractionTable string

// contractions are short forms with an apostrophe, whose letters alone would be other words ("we'll", "well"),
// with their codes, after a | the American ones.
var contractions = sync.OnceValue(func() map[string]*Entry {
	out := map[string]*Entry{}
	al := &spelling.Aligner{}
	for line := range strings.Lines(contractionTable) {
		word, codes, ok := strings.Cut(strings.TrimSpace(line), " ")
		if !ok || strings.HasPrefix(line, "#") {
			continue
		}
		letters := strings.ReplaceAll(word, "'", "")
		british, american, _ := strings.Cut(codes, "|")
		e := &Entry{Word: word, Said: joined(letters, al.Join(letters, british, spelling.Cut{}))}
		if american != "" {
			e.American = joined(letters, al.Join(letters, american, spelling.Cut{}))
		}
		out[word] = e
	}
	return out
})

// contraction finds a short form however its apostrophe and its first letter are written.
func contraction(word string) (*Entry, bool) {
	if !strings.ContainsAny(word, "'’‘") {
		return nil, false
	}
	e, ok := contractions()[strings.ToLower(strings.NewReplacer("’", "'", "‘", "'").Replace(word))]
	return e, ok
}

// tails are what an apostrophe joins to a word, with their codes; 's follows the last sound.
var tails = map[string]string{"d": "d", "ve": "v", "ll": "l", "re": "4", "m": "m"}

// apostrophe reads a word with a short form at its end that no list has: who'd, could've, the dog's, Tom's. known tells
// whether the word before it is in the lexicon; codes are empty where there is none.
func apostrophe(word string, a phoneme.Accent) (codes string, known bool) {
	word = strings.ToLower(strings.NewReplacer("’", "'", "‘", "'").Replace(word))
	base, tail, ok := strings.Cut(word, "'")
	if !ok || strings.Contains(tail, "'") {
		return "", false
	}
	if stem, n := strings.CutSuffix(base, "n"); n && tail == "t" {
		base, tail = stem, "n't"
	}
	letters, _, err := spelling.Normalise(base)
	if err != nil {
		return "", false
	}
	e, known := Find(letters)
	before := ""
	if known {
		before = e.SaidIn(a)[0].Codes
	} else {
		before, _, _ = guess(letters, a)
	}
	switch more, listed := tails[tail]; {
	case tail == "s":
		codes, _ = wordform.Sound(letters, before, wordform.Ending{Letters: "s"})
	case tail == "n't" && known:
		codes = before + "nt"
	case listed && known:
		codes = before + more
	}
	return codes, known
}
