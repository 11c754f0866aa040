// Package texts checks a sentence or a page against what has been taught.
package texts

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
)

// Status of a word in a text.
type Status string

const (
	Decodable Status = "decodable"
	Exception Status = "exception" // taught as a whole word or by its odd part
	Untaught  Status = "untaught"
	Ambiguous Status = "ambiguous" // one reading is taught, another is not
	Unknown   Status = "unknown"   // not in the lexicon; guessed by rule
	Name      Status = "name"
)

// Token is one word of the text.
type Token struct {
	Text     string             `json:"text"`
	Start    int                `json:"start"` // rune offset
	Status   Status             `json:"status"`
	Untaught []string           `json:"untaught"`
	Segments []spelling.Segment `json:"segments"`
}

// Report is what Check finds. Decodable is the share of words, 0 to 1, that are decodable or taught exceptions.
type Report struct {
	Decodable float64        `json:"decodable"`
	Tokens    []Token        `json:"tokens"`
	Untaught  map[string]int `json:"untaught"` // pairs with their counts
	Remarks   []string       `json:"remarks"`  // capital, full stop, length
}

// Options are the team's conventions.
type Options = lexicon.Speech

// Check reads a text. exceptions are the exception words that have been taught, in small letters.
func Check(text string, taught spelling.Set, exceptions map[string]bool, o Options) Report {
	r := Report{Tokens: []Token{}, Untaught: map[string]int{}, Remarks: remarks(text)}
	good := 0
	sentenceStart := true
	known := map[string]Token{}
	for _, w := range split(text) {
		key := w.text
		if sentenceStart {
			key = "^" + key // a capital means another thing inside a sentence
		}
		t, ok := known[key]
		if !ok {
			t = status(w.text, sentenceStart, taught, exceptions, o)
			known[key] = t
		}
		t.Start = w.start
		for _, p := range t.Untaught {
			r.Untaught[p]++
		}
		if t.Status == Decodable || t.Status == Exception {
			good++
		}
		sentenceStart = w.endsSentence
		r.Tokens = append(r.Tokens, t)
	}
	if len(r.Tokens) > 0 {
		r.Decodable = float64(good) / float64(len(r.Tokens))
	}
	return r
}

func status(text string, sentenceStart bool, taught spelling.Set, exceptions map[string]bool, o Options) Token {
	t := Token{Text: text, Untaught: []string{}, Segments: []spelling.Segment{}}
	key := strings.ToLower(strings.ReplaceAll(text, "’", "'"))
	seg, err := o.Segment(text)
	if err == nil {
		t.Segments = seg.Segments
	}
	if err != nil {
		if t.Status = Unknown; exceptions[key] {
			t.Status = Exception
		}
		return t
	}
	if exceptions[key] && (!taught.Covers(seg.Segments) || len(seg.Alternatives) > 0) {
		t.Status = Exception
		return t
	}
	missing := taught.Untaught(seg.Segments)
	if key == "a" && hasGrapheme(taught, "a") { // read with the letter's taught sound (common practice)
		missing, seg.Alternatives = nil, nil
	}
	for _, alt := range seg.Alternatives {
		if taught.Covers(alt.Segments) != (len(missing) == 0) {
			t.Status = Ambiguous
			if len(missing) == 0 {
				missing = taught.Untaught(alt.Segments)
			}
		}
	}
	for _, p := range missing {
		t.Untaught = append(t.Untaught, p.String())
	}
	switch {
	case t.Status == Ambiguous:
	case seg.Source == lexicon.FromRules && unicode.IsUpper([]rune(text)[0]) && !sentenceStart:
		t.Status = Name
	case seg.Source == lexicon.FromRules:
		t.Status = Unknown
	case len(missing) == 0:
		t.Status = Decodable
	default:
		t.Status = Untaught
	}
	return t
}

// Fits tells whether every word is decodable or a taught exception and the sentence is well made.
func (r Report) Fits() bool { return len(r.Tokens) > 0 && r.Decodable == 1 && len(r.Remarks) == 0 }

type word struct {
	text         string
	start        int
	endsSentence bool
}

func split(text string) []word {
	var out []word
	runes := []rune(text)
	for i := 0; i < len(runes); {
		if !unicode.IsLetter(runes[i]) {
			if len(out) > 0 && strings.ContainsRune(".!?", runes[i]) {
				out[len(out)-1].endsSentence = true
			}
			i++
			continue
		}
		start := i
		for i < len(runes) && (unicode.IsLetter(runes[i]) || strings.ContainsRune("'’-", runes[i]) && i+1 < len(runes) && unicode.IsLetter(runes[i+1])) {
			i++
		}
		out = append(out, word{string(runes[start:i]), start, false})
	}
	return out
}

func remarks(text string) []string {
	out := []string{}
	trimmed := strings.TrimSpace(text)
	if trimmed == "" {
		return append(out, "There is no text.")
	}
	runes := []rune(trimmed)
	if first := slices.IndexFunc(runes, unicode.IsLetter); first >= 0 && !unicode.IsUpper(runes[first]) {
		out = append(out, "The first word needs a capital.")
	}
	if last := runes[len(runes)-1]; !strings.ContainsRune(".!?”\"’'", last) {
		out = append(out, "A full stop is missing at the end.")
	}
	for sentence := range strings.FieldsFuncSeq(trimmed, func(r rune) bool { return strings.ContainsRune(".!?", r) }) {
		if n := len(strings.Fields(sentence)); n > 12 {
			out = append(out, fmt.Sprintf("A sentence has %d words; 12 or fewer are easier to hold.", n))
		}
	}
	return out
}

func hasGrapheme(taught spelling.Set, g string) bool {
	for p := range taught {
		if p.Grapheme == g {
			return true
		}
	}
	return false
}
