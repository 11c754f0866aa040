package lexicon

import (
	"strings"

	"brightchalk/internal/core/unfit"
)

// Refused gives the theme by which a word is kept from children; for words of the lexicon it is known beforehand.
func Refused(word string) (unfit.Theme, bool) {
	small := strings.ToLower(word)
	if e, ok := Find(small); ok && !e.Unfit {
		return "", false
	}
	return unfit.Of(small)
}

// Refuses is Refused, less the single words that the team allows.
func (s Speech) Refuses(word string) (unfit.Theme, bool) {
	if s.Allow[strings.ToLower(word)] {
		return "", false
	}
	return Refused(word)
}
