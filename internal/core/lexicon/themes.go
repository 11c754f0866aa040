package lexicon

import (
	_ "embed"
	"slices"
	"strings"
	"sync"
)

//go:embed data/themes.txt
var themesText string

var themes = sync.OnceValue(func() map[string][]string {
	out := map[string][]string{}
	for line := range strings.Lines(themesText) {
		f := strings.Fields(line)
		for _, w := range f[1:] {
			if f[0] != "#" {
				out[w] = append(out[w], f[0])
			}
		}
	}
	return out
})

// Themes are the parts of a young child's world to which the thing belongs that the word names: body, vehicles,
// farm-and-pets. A plural has the themes of its singular; other words have none.
func (e *Entry) Themes() []string {
	if t := themes()[e.Word]; t != nil || e.Stem == "" {
		return t
	}
	return themes()[e.Stem]
}

// Alike says how far two words name things of the same themes: the share of common themes among all of both, 0 to 1.
func (e *Entry) Alike(other *Entry) float64 {
	mine, its := e.Themes(), other.Themes()
	common := 0
	for _, t := range mine {
		if slices.Contains(its, t) {
			common++
		}
	}
	if common == 0 {
		return 0
	}
	return float64(common) / float64(len(mine)+len(its)-common)
}
