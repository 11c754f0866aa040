package lexicon

import (
	_ "embed"
	"strings"
	"sync"

	"brightchalk/internal/core/phoneme"
)

// American words and spellings with the British ones; made by tools/lexicon from its own list and from
// npm american-british-english-translator (MIT).
//
//go:embed data/oceans.txt
var oceansText string

var oceans = sync.OnceValue(func() [2]map[string]string {
	out := [2]map[string]string{{}, {}} // to British, to American
	for line := range strings.Lines(oceansText) {
		if f := strings.Fields(line); len(f) == 2 && f[0] != "#" {
			if out[0][f[0]] == "" {
				out[0][f[0]] = f[1]
			}
			if out[1][f[1]] == "" {
				out[1][f[1]] = f[0]
			}
		}
	}
	return out
})

// Ours is what the accent's side of the ocean says or writes for a word of the other side; empty where nothing is
// known.
func Ours(word string, a phoneme.Accent) string {
	if a.American() {
		return oceans()[1][word]
	}
	return oceans()[0][word]
}
