package lexicon

import (
	_ "embed"
	"strings"
	"sync"
)

// Clues shortened from the glosses of WordNet by tools/clues, the wrong senses taken out by hand.
//
//go:embed data/clues.tsv
var clueText string

var clues = sync.OnceValue(func() map[string]string {
	out := map[string]string{}
	for line := range strings.Lines(clueText) {
		if word, clue, ok := strings.Cut(strings.TrimSpace(line), "\t"); ok {
			out[word] = clue
		}
	}
	return out
})

// Clue is a plain line of up to twelve words that says what a word means, to be read by the adult before it is used;
// empty where there is none.
func Clue(word string) string { return clues()[word] }
