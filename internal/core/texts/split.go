package texts

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// titles stand before a name; the stop after them ends no sentence.
var titles = map[string]bool{
	"Mr":   true,
	"Mrs":  true,
	"Ms":   true,
	"Dr":   true,
	"St":   true,
	"Prof": true,
	"Rev":  true,
	"Capt": true,
	"No":   false,
}

// shortLine is how many words a line without a stop may have to be taken for a title.
const shortLine = 8

// splitter walks over a text once.
type splitter struct {
	text  string
	visit func(word string, start int, ends bool)
	word  string // waits for what follows it
	at    int    // its rune offset
	inRow int    // words of the line so far
}

// split visits the words of a text with the rune offset of each; ends tells that a sentence ends after it. Titles (Mr.)
// and what goes on in small letters after a mark end no sentence; a short line without a stop, before a
// line that begins with a capital, is a title and ends one. Letters that hang on digits (2nd, 10m) and a.m. and p.m.
// are no words.
func split(text string, visit func(word string, start int, ends bool)) {
	s := splitter{text: text, visit: visit}
	runes, from, fromRune := 0, -1, 0
	digits := false // the sign before was a digit, or a letter that hangs on one
	for i := 0; i < len(text); {
		r, size := rune(text[i]), 1
		if r >= utf8.RuneSelf {
			r, size = utf8.DecodeRuneInString(text[i:])
		}
		letter := r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= utf8.RuneSelf && unicode.IsLetter(r)
		inside := letter && !digits
		if !letter && from >= 0 && (r == '\'' || r == '’' || r == '-') {
			inside = startsWithLetter(text[i+size:])
		}
		switch {
		case inside && from < 0:
			if n := halfDay(text[i:]); n > 0 {
				i, runes = i+n, runes+n
				continue
			}
			s.flush(false)
			from, fromRune = i, runes
		case !inside && !letter:
			if from >= 0 {
				s.word, s.at, from = text[from:i], fromRune, -1
				s.inRow++
			}
			switch r {
			case '.', '!', '?':
				if s.ends(i+size, r) {
					s.flush(true)
				}
			case '\n':
				if s.title(i + size) {
					s.flush(true)
				}
				s.inRow = 0
			}
		}
		digits = r >= '0' && r <= '9' || digits && letter
		i += size
		runes++
	}
	if from >= 0 {
		s.word, s.at = text[from:], fromRune
	}
	s.flush(false)
}

func (s *splitter) flush(ends bool) {
	if s.word != "" {
		s.visit(s.word, s.at, ends)
		s.word = ""
	}
}

func startsWithLetter(rest string) bool {
	r, _ := utf8.DecodeRuneInString(rest)
	return unicode.IsLetter(r)
}

// halfDay tells how long a.m. or p.m. is at the start of a text, 0 where it is not there.
func halfDay(rest string) int {
	if len(rest) < 3 || rest[1] != '.' || rest[2] != 'm' || rest[0] != 'a' && rest[0] != 'p' {
		return 0
	}
	if len(rest) > 3 && rest[3] == '.' {
		return 4
	}
	return 3
}

// ends tells whether a mark before text[after] ends the sentence.
func (s *splitter) ends(after int, mark rune) bool {
	if mark == '.' && titles[s.word] {
		return false
	}
	rest := strings.TrimLeft(s.text[after:], " \t”’\"')»")
	r, _ := utf8.DecodeRuneInString(rest)
	return !unicode.IsLower(r)
}

// title tells whether the line that ends before text[after] is a title or a line of its own.
func (s *splitter) title(after int) bool {
	rest := s.text[after:]
	if strings.HasPrefix(rest, "\n") || strings.HasPrefix(rest, "\r\n") {
		return true
	}
	rest = strings.TrimLeft(rest, " \t“‘\"'")
	r, _ := utf8.DecodeRuneInString(rest)
	comma := after >= 2 && s.text[after-2] == ','
	return unicode.IsUpper(r) && s.inRow <= shortLine && !comma
}
