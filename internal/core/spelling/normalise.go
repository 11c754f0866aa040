package spelling

import (
	"strings"
	"unicode"

	"brightchalk/internal/core/fault"
)

// Normalise turns a word as typed into letters a to z. positions maps each letter to its rune in the typed
// word, and is nil where they agree. Apostrophes, hyphens and accents on Latin letters are passed over;
// anything else is an error that names the sign.
func Normalise(word string) (letters string, positions []int, err error) {
	plain := true
	for i := range len(word) {
		if word[i] < 'a' || word[i] > 'z' {
			plain = false
			break
		}
	}
	if plain {
		if word == "" || len(word) > maxLetters {
			return "", nil, tooLong(word)
		}
		return word, nil, nil
	}
	var b strings.Builder
	for i, r := range []rune(word) {
		switch {
		case r >= 'a' && r <= 'z', r >= 'A' && r <= 'Z':
			b.WriteRune(unicode.ToLower(r))
			positions = append(positions, i)
		case strings.ContainsRune("'’‘-‐", r):
		default:
			if base, ok := accented[unicode.ToLower(r)]; ok {
				b.WriteRune(base)
				positions = append(positions, i)
				continue
			}
			return "", nil, fault.New(ErrNoWord, "not a word: %q holds the sign %q", shorten(word), string(r))
		}
	}
	if b.Len() == 0 || b.Len() > maxLetters {
		return "", nil, tooLong(word)
	}
	return b.String(), positions, nil
}

var accented = map[rune]rune{
	'é': 'e',
	'è': 'e',
	'ê': 'e',
	'ë': 'e',
	'à': 'a',
	'â': 'a',
	'ï': 'i',
	'î': 'i',
	'ô': 'o',
	'ö': 'o',
	'û': 'u',
	'ü': 'u',
	'ç': 'c',
	'ñ': 'n',
}

func tooLong(word string) error {
	if len(word) > maxLetters {
		return fault.New(ErrNoWord, "not a word: %q is longer than %d letters", shorten(word), maxLetters)
	}
	return fault.New(ErrNoWord, "not a word: %q holds no letters", word)
}

func shorten(word string) string {
	if r := []rune(word); len(r) > 30 {
		return string(r[:30]) + "…"
	}
	return word
}
