package lexicon

import (
	_ "embed"
	"strings"
)

//go:embed data/contractions.txt
var contractionTable string

// contractions are short forms with an apostrophe, whose letters alone would be other words ("we'll", "well"),
// with their codes, after a | the American ones.
var contractions = func() map[string]Entry {
	out := map[string]Entry{}
	for line := range strings.Lines(contractionTable) {
		if word, codes, ok := strings.Cut(strings.TrimSpace(line), " "); ok && !strings.HasPrefix(line, "#") {
			british, american, _ := strings.Cut(codes, "|")
			e := Entry{Word: word, Codes: []string{british}}
			if american != "" {
				e.American = []string{american}
			}
			out[word] = e
		}
	}
	return out
}()

// contraction finds a short form however its apostrophe and its first letter are written.
func contraction(word string) (Entry, bool) {
	if !strings.ContainsAny(word, "'’‘") {
		return Entry{}, false
	}
	e, ok := contractions[strings.ToLower(strings.NewReplacer("’", "'", "‘", "'").Replace(word))]
	return e, ok
}
