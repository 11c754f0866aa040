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
	"brightchalk/internal/core/unfit"
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
	Guessed  bool               `json:"guessed,omitempty"` // read by rule: the lexicon lacks it
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
	Remarks       []string       `json:"remarks"` // capital, full stop, length, words kept from children
	Unfit         []string       `json:"unfit"`   // words kept from children, in small letters
}

// Options are the team's conventions.
type Options = lexicon.Speech

// Check reads a text. exceptions are the exception words that have been taught, in small letters.
func Check(text string, taught spelling.Set, exceptions map[string]bool, o Options) Report {
	r := Report{
		Tokens:        make([]Token, 0, len(text)/6+1),
		Untaught:      map[string]int{},
		NewExceptions: []string{},
		Unfit:         []string{},
		Sentences:     make([]Sentence, 0, len(text)/40+1),
	}
	type met struct {
		Token
		good  bool
		times int
	}
	known := [2]map[string]*met{{}, {}} // a capital means another thing inside a sentence
	names := namesIn(text)
	sentenceStart := 1
	var unfitRemarks []string
	good, goodHere := 0, 0
	split(text, func(w string, start int, ends bool) {
		t := known[sentenceStart][w]
		if t == nil {
			t = &met{Token: status(w, sentenceStart == 1 && !names[bare(w)], taught, exceptions, o)}
			small := strings.ToLower(w)
			if theme, refused := o.Refuses(small); refused && theme != unfit.Names && !slices.Contains(r.Unfit, small) {
				r.Unfit = append(r.Unfit, small)
				unfitRemarks = append(
					unfitRemarks,
					fmt.Sprintf("“%s” is kept out of what children are offered (%s).", w, strings.ReplaceAll(string(theme), "-", " ")),
				)
			}
			t.good = t.Status == Decodable || t.Status == Exception || t.Status == Name && len(t.Untaught) == 0
			odd := t.Status == Untaught &&
				slices.ContainsFunc(t.Segments, func(s spelling.Segment) bool { return s.Odd || s.Rare })
			known[sentenceStart][w] = t
			if odd && !slices.Contains(r.NewExceptions, small) {
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
	r.Remarks = append(remarks(text, r.Sentences), unfitRemarks...)
	if len(r.Tokens) > 0 {
		r.Decodable = float64(good) / float64(len(r.Tokens))
	}
	return r
}

// namesIn collects the words with a capital inside a sentence: they are names at the start of one too.
func namesIn(text string) map[string]bool {
	out := map[string]bool{}
	start := true
	split(text, func(w string, _ int, ends bool) {
		if r, _ := utf8.DecodeRuneInString(w); !start && unicode.IsUpper(r) {
			out[bare(w)] = true
		}
		start = ends
	})
	return out
}

// bare is a word without a possessive ending.
func bare(w string) string { return strings.TrimSuffix(strings.TrimSuffix(w, "'s"), "’s") }

// status judges a word. One with hyphens is judged by its parts, and is as good as the worst of them.
func status(text string, sentenceStart bool, taught spelling.Set, exceptions map[string]bool, o Options) Token {
	if exceptions[strings.ToLower(text)] || !strings.Contains(text, "-") {
		return tokenStatus(text, sentenceStart, taught, exceptions, o)
	}
	whole := Token{Text: text, Status: Decodable, Untaught: []string{}, Segments: []spelling.Segment{}}
	at := 0
	for part := range strings.SplitSeq(text, "-") {
		if part != "" {
			t := tokenStatus(part, sentenceStart, taught, exceptions, o)
			if worse[t.Status] > worse[whole.Status] {
				whole.Status = t.Status
			}
			whole.Guessed = whole.Guessed || t.Guessed
			for _, p := range t.Untaught {
				if !slices.Contains(whole.Untaught, p) {
					whole.Untaught = append(whole.Untaught, p)
				}
			}
			for _, s := range t.Segments {
				letters := make([]int, len(s.Letters))
				for i, l := range s.Letters {
					letters[i] = l + at
				}
				s.Letters = letters
				whole.Segments = append(whole.Segments, s)
			}
		}
		at += utf8.RuneCountInString(part) + 1
		sentenceStart = false
	}
	return whole
}

// worse orders the statuses by how much they keep from reading.
var worse = map[Status]int{Decodable: 0, Exception: 1, Name: 2, Unknown: 3, Ambiguous: 4, Untaught: 5}

func tokenStatus(text string, sentenceStart bool, taught spelling.Set, exceptions map[string]bool, o Options) Token {
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
	t.Guessed = seg.Source == lexicon.FromRules
	upper := unicode.IsUpper([]rune(text)[0])
	switch {
	case t.Status == Ambiguous:
	case o.Named(text) && len(missing) > 0: // the adult reads it
		t.Status, t.Untaught = Name, []string{}
	case t.Guessed && upper && (!sentenceStart || firstNames[strings.TrimSuffix(key, "'s")] || titles[text]):
		t.Status = Name
	case t.Guessed:
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
	for n := range strings.FieldsSeq("pam meg jess ash rose finn sam tom dan ben tim jim ted ned ken kim meg liz " +
		"max zac nat jen jill bess tess russ alf fred greg brad kit gus mo ali asif amir anna emma ella eva ivy zoe " +
		"mia leo luke jake kate jane mike pete steve dave beth ruth seth joan joe toby ruby lucy holly polly molly " +
		"sally harry larry henry jenny penny peter simon david adam omar hamza aisha fatima priya ravi raj sanjay " +
		"mei ling yusuf ola ade kofi ama") {
		out[n] = true
	}
	return out
}()

// Fits tells whether every word is decodable, a readable name or a taught exception and the sentence is well made.
func (r Report) Fits() bool { return len(r.Tokens) > 0 && r.Decodable == 1 && len(r.Remarks) == 0 }

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
