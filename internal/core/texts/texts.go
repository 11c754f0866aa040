// Package texts checks a sentence or a page against what has been taught.
package texts

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

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

// Sentence is one sentence of the text.
type Sentence struct {
	Start     int     `json:"start"` // rune offset of its first word
	Words     int     `json:"words"`
	Decodable float64 `json:"decodable"`
}

// Report is what Check finds. Decodable is the share of words, 0 to 1, that are decodable,
// taught exceptions, or names that read by rule with what is taught.
type Report struct {
	Decodable     float64        `json:"decodable"`
	Tokens        []Token        `json:"tokens"`
	Untaught      map[string]int `json:"untaught"`       // pairs with their counts
	NewExceptions []string       `json:"new_exceptions"` // words with an odd part that are not among the taught ones
	Sentences     []Sentence     `json:"sentences"`
	Remarks       []string       `json:"remarks"` // capital, full stop, length
}

// Options are the team's conventions.
type Options = lexicon.Speech

// Check reads a text. exceptions are the exception words that have been taught, in small letters.
func Check(text string, taught spelling.Set, exceptions map[string]bool, o Options) Report {
	r := Report{Tokens: make([]Token, 0, len(text)/6+1), Untaught: map[string]int{}, NewExceptions: []string{}, Sentences: make([]Sentence, 0, len(text)/40+1)}
	type met struct {
		Token
		good  bool
		times int
	}
	known := [2]map[string]*met{{}, {}} // a capital means another thing inside a sentence
	sentenceStart := 1
	good, goodHere := 0, 0
	split(text, func(w string, start int, ends bool) {
		t := known[sentenceStart][w]
		if t == nil {
			t = &met{Token: status(w, sentenceStart == 1, taught, exceptions, o)}
			t.good = t.Status == Decodable || t.Status == Exception || t.Status == Name && len(t.Untaught) == 0
			odd := t.Status == Untaught && slices.ContainsFunc(t.Segments, func(s spelling.Segment) bool { return s.Odd || s.Rare })
			known[sentenceStart][w] = t
			if small := strings.ToLower(w); odd && !slices.Contains(r.NewExceptions, small) {
				r.NewExceptions = append(r.NewExceptions, small)
			}
		}
		t.times++
		if sentenceStart == 1 {
			r.Sentences = append(r.Sentences, Sentence{Start: start})
			goodHere = 0
		}
		if t.good {
			good++
			goodHere++
		}
		here := &r.Sentences[len(r.Sentences)-1]
		here.Words++
		here.Decodable = float64(goodHere) / float64(here.Words)
		sentenceStart = 0
		if ends {
			sentenceStart = 1
		}
		r.Tokens = append(r.Tokens, t.Token)
		r.Tokens[len(r.Tokens)-1].Start = start
	})
	for _, words := range known {
		for _, t := range words {
			for _, p := range t.Untaught {
				r.Untaught[p] += t.times
			}
		}
	}
	r.Remarks = remarks(text, r.Sentences)
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
	case seg.Source == lexicon.FromRules && unicode.IsUpper([]rune(text)[0]) && (!sentenceStart || firstNames[key]):
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

// firstNames that are no words, so that they are known for names at the start of a sentence too. From memory.
var firstNames = func() map[string]bool {
	out := map[string]bool{}
	for n := range strings.FieldsSeq("sam tom dan ben tim jim ted ned ken kim meg liz max zac nat jen jill bess tess russ alf fred greg brad kit gus mo ali asif amir anna emma ella eva ivy zoe mia leo luke jake kate jane mike pete steve dave beth ruth seth joan joe toby ruby lucy holly polly molly sally harry larry henry jenny penny peter simon david adam omar hamza aisha fatima priya ravi raj sanjay mei ling yusuf ola ade kofi ama") {
		out[n] = true
	}
	return out
}()

// Fits tells whether every word is decodable, a readable name or a taught exception and the sentence is well made.
func (r Report) Fits() bool { return len(r.Tokens) > 0 && r.Decodable == 1 && len(r.Remarks) == 0 }

// split visits the words of a text with the rune offset of each; ends tells that a sentence ends after it.
func split(text string, visit func(word string, start int, ends bool)) {
	word, wordAt := "", 0 // the word that waits for what follows it
	flush := func(ends bool) {
		if word != "" {
			visit(word, wordAt, ends)
			word = ""
		}
	}
	runes, from, fromRune := 0, -1, 0
	for i := 0; i < len(text); {
		r, size := utf8.DecodeRuneInString(text[i:])
		inside := unicode.IsLetter(r)
		if !inside && from >= 0 && (r == '\'' || r == '’' || r == '-') {
			after, _ := utf8.DecodeRuneInString(text[i+size:])
			inside = unicode.IsLetter(after)
		}
		switch {
		case inside && from < 0:
			flush(false)
			from, fromRune = i, runes
		case !inside:
			if from >= 0 {
				word, wordAt, from = text[from:i], fromRune, -1
			}
			if r == '.' || r == '!' || r == '?' {
				flush(true)
			}
		}
		i += size
		runes++
	}
	if from >= 0 {
		word, wordAt = text[from:], fromRune
	}
	flush(false)
}

func remarks(text string, sentences []Sentence) []string {
	out := []string{}
	trimmed := strings.TrimSpace(text)
	if trimmed == "" {
		return append(out, "There is no text.")
	}
	if first := strings.IndexFunc(trimmed, unicode.IsLetter); first >= 0 {
		if r, _ := utf8.DecodeRuneInString(trimmed[first:]); !unicode.IsUpper(r) {
			out = append(out, "The first word needs a capital.")
		}
	}
	if last, _ := utf8.DecodeLastRuneInString(trimmed); !strings.ContainsRune(".!?”\"’'", last) {
		out = append(out, "A full stop is missing at the end.")
	}
	for _, s := range sentences {
		if s.Words > longSentence && len(out) < 6 {
			out = append(out, fmt.Sprintf("A sentence has %d words; %d or fewer are easier to hold.", s.Words, longSentence))
		}
	}
	return out
}

// longSentence is how many words young children hold at once (common practice, no published source).
const longSentence = 12

func hasGrapheme(taught spelling.Set, g string) bool {
	for p := range taught {
		if p.Grapheme == g {
			return true
		}
	}
	return false
}
