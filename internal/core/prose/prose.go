// Package prose has the small things that every sentence for people needs, once.
package prose

import (
	"fmt"
	"unicode"
	"unicode/utf8"
)

// Capital makes the first letter a capital.
func Capital(s string) string {
	first, size := utf8.DecodeRuneInString(s)
	if size == 0 {
		return ""
	}
	return string(unicode.ToUpper(first)) + s[size:]
}

// Clock writes seconds as minutes and seconds, 1:05.
func Clock(seconds int) string { return fmt.Sprintf("%d:%02d", seconds/60, seconds%60) }

// Plural picks the form for a number.
func Plural(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

// Word writes a word as it stands in a sentence: I with its capital.
func Word(w string) string {
	if w == "i" || len(w) > 1 && w[0] == 'i' && w[1] == '\'' {
		return Capital(w)
	}
	return w
}
