package lexicon

import (
	_ "embed"
	"strings"
	"sync"

	"brightchalk/internal/core/spelling"
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
