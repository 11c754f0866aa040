package lexicon

import (
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/wordform"
)

// guess gives the codes of a word that the lexicon lacks, and where it is cut: a form of a known word by rule, a
// word made of known ones, one with the ending of known ones, and only then by single rules. A regular plural or
// verb form of a known word counts as known, and so does what is nearly always right: a word made of two that children
// know (patchwork), and one with an ending that leaves its stem alone (fearless).
func guess(word string, a phoneme.Accent) (codes string, c spelling.Cut, from Source) {
	if codes, c := parseForm(word, a, true, false); codes != "" {
		return codes, c, FromLexicon
	}
	for _, deep := range []bool{false, true} {
		if codes, c := parseForm(word, a, false, deep); codes != "" {
			return codes, c, segmentSource(!deep && leavesItsStem(word))
		}
	}
	codes, c, trust := joinedWords(word, a)
	if codes != "" && trust != weakJoin {
		return codes, c, segmentSource(trust == sureJoin)
	}
	if alike := byAnalogy(word, a); alike != "" {
		return alike, spelling.Cut{}, FromRules
	}
	if codes != "" {
		return codes, c, FromRules
	}
	return spelling.Guess(word), spelling.Cut{}, FromRules
}

func segmentSource(sure bool) Source {
	if sure {
		return FromLexicon
	}
	return FromRules
}

// plainEndings begin with a consonant and are no syllable that moves the stress: what is read with them agrees with the
// pronouncing dictionary about as often as what is read with -ed and -ing.
var plainEndings = []string{"less", "ness", "ful", "ingly", "like", "ward", "ship"}

// leavesItsStem tells whether a word is a stem with a plain ending, or a longer word that is not rare with -y: spiky,
// not bray.
func leavesItsStem(word string) bool {
	if slices.ContainsFunc(plainEndings, func(e string) bool { return strings.HasSuffix(word, e) }) {
		return true
	}
	return strings.HasSuffix(word, "y") && slices.ContainsFunc(wordform.Stems(word), func(s wordform.Stem) bool {
		e, ok := Find(s.Word)
		return ok && s.Ending.Letters == "y" && len(s.Word) >= surePart && e.Familiarity > 0
	})
}

// parseForm reads a word as a known one with an ending: an inflection, or any other; deep, also as a form of a form.
func parseForm(word string, a phoneme.Accent, inflects, deep bool) (string, spelling.Cut) {
	for _, s := range wordform.Stems(word) {
		if s.Ending.Inflects != inflects || len(s.Word) < 3 {
			continue
		}
		stem := ""
		if e, ok := Find(s.Word); ok {
			stem = e.SaidIn(a)[0].Codes
		} else if deep {
			stem, _ = parseForm(s.Word, a, false, false)
		}
		if stem == "" {
			continue
		}
		if (s.Ending.Letters == "es" || s.Ending.Letters == "s") && strings.HasSuffix(s.Word, "s") &&
			!strings.HasSuffix(word, "es") {
			continue // glass is no form of glas
		}
		if s.Ending.Letters == "y" && strings.ContainsAny(s.Word[len(s.Word)-1:], "aou") {
			continue // ay and oy are one sound: bray is no form of bra
		}
		codes, ok := wordform.Sound(s.Word, stem, s.Ending)
		if !ok {
			continue
		}
		return codes, spelling.Cut{Plain: !inflects}
	}
	return "", spelling.Cut{}
}

// beginnings that leave the sounds of their word as they are, with their own codes.
var beginnings = [][2]string{
	{"under", "und4"},
	{"over", "Gv4"},
	{"super", "sLp4"},
	{"anti", "anti"},
	{"inter", "int4"},
	{"un", "un"},
	{"dis", "dis"},
	{"mis", "mis"},
	{"re", "rE"},
	{"non", "non"},
	{"sub", "sub"},
	{"pre", "prE"},
	{"out", "Wt"},
	{"up", "up"},
}

const (
	minPart   = 3 // letters of each half of a compound
	surePart  = 4 // letters of each half of a sure one
	sureWorth = 3 // 1 and the familiarity of the less known half
)

// join is how far a word may be trusted to be made of others.
type join int

// A weak one has a half of three letters and a half that no child knows. Of the 230 words of the lexicon that could be
// taken apart so alone, 34 are said like their halves, and 85 like words that end alike (2026-11-27).
const (
	weakJoin join = iota
	fairJoin
	sureJoin // of words that children know, and not short
)

// joinedWords takes a word apart into a beginning and a known word, or into two known words; the better known
// the less known of the two, the better.
func joinedWords(word string, a phoneme.Accent) (codes string, cut spelling.Cut, trust join) {
	known := func(w string) (string, int) {
		if e, ok := Find(w); ok {
			return e.SaidIn(a)[0].Codes, e.Familiarity
		}
		codes, _ := parseForm(w, a, true, false)
		if codes == "" {
			return "", 0
		}
		familiarity := 0
		for _, s := range wordform.Stems(w) {
			if e, ok := Find(s.Word); ok && s.Ending.Inflects {
				familiarity = max(familiarity, e.Familiarity)
			}
		}
		return codes, familiarity
	}
	for _, b := range beginnings {
		if w, ok := strings.CutPrefix(word, b[0]); ok && len(w) >= minPart {
			if c, _ := known(w); c != "" {
				return b[1] + c, spelling.Cut{Seams: []int{len(b[0])}}, fairJoin
			}
		}
	}
	best := 0
	for i := minPart; i <= len(word)-minPart; i++ {
		first, ok := Find(word[:i])
		if !ok {
			continue
		}
		c, familiarity := known(word[i:])
		if worth := 1 + min(first.Familiarity, familiarity); c != "" && worth > best {
			best, codes, cut = worth, first.SaidIn(a)[0].Codes+c, spelling.Cut{Seams: []int{i}}
			switch shorter := min(i, len(word)-i); {
			case worth >= sureWorth && shorter >= surePart:
				trust = sureJoin
			case worth == 1 && shorter == minPart:
				trust = weakJoin
			default:
				trust = fairJoin
			}
		}
	}
	return codes, cut, trust
}

// parts are the beginnings and the ends of known words with their most usual codes.
type parts struct{ heads, tails map[string]string }

const (
	longestPart = 8 // letters
	minAlike    = 2 // words that must share a part
)

var splitParts = [2]func() parts{
	sync.OnceValue(func() parts { return countParts(phoneme.SouthernBritish) }),
	sync.OnceValue(func() parts { return countParts(phoneme.GeneralAmerican) }),
}

// tally counts the codes of letters.
type tally map[string]map[string]int

func (t tally) add(letters, codes string) {
	if len(letters) > longestPart+len(alone) {
		return
	}
	if t[letters] == nil {
		t[letters] = map[string]int{}
	}
	t[letters][codes]++
}

// settled keeps the codes that more than two thirds of enough words agree on.
func (t tally) settled() map[string]string {
	out := make(map[string]string, len(t))
	for letters, all := range t {
		total, most := 0, 0
		for codes, n := range all {
			if total += n; n > most { // of equal ones none is kept
				most = n
				out[letters] = codes
			}
		}
		if total < minAlike || most*3 <= total*2 {
			delete(out, letters)
		}
	}
	return out
}

func countParts(a phoneme.Accent) parts {
	heads, tails := tally{}, tally{}
	for _, e := range Words() {
		if e.Familiarity == 0 && e.Rank == 0 || e.Inflected() {
			continue
		}
		e.SaidIn(a)[0].Cuts(func(at int, before, after string) {
			heads.add(e.Word[:at], before)
			if vowelless(e.Word[:at]) {
				tails.add(alone+e.Word[at:], after) // the first vowel of a word is no weak one
			} else {
				tails.add(e.Word[at:], after)
			}
		})
	}
	return parts{heads.settled(), tails.settled()}
}

// byAnalogy reads a word with the longest ending that it shares with known words, said as most of them are, and
// what stands before it as known words begin; after R. I. Damper and J. F. G. Eastmond, "Pronunciation by analogy:
// impact of implementational choices on performance", Language and Speech, 1997 (from memory), far simpler. It is
// empty where no two parts meet.
func byAnalogy(word string, a phoneme.Accent) string {
	p := splitParts[0]()
	if a.American() {
		p = splitParts[1]()
	}
	for i := max(1, len(word)-longestPart); i < len(word)-1; i++ {
		if two := word[i-1 : i+1]; oneSign(two) || i == 1 && slices.Contains(silentStarts, two) {
			continue
		}
		tail, ok := p.tails[word[i:]]
		if vowelless(word[:i]) {
			tail, ok = p.tails[alone+word[i:]]
		}
		if !ok || !strings.ContainsFunc(tail, func(r rune) bool { return phoneme.IsVowelSet(byte(r)) }) {
			continue
		}
		if head, ok := p.head(word[:i]); ok {
			return head + tail
		}
	}
	return ""
}

// signs of two letters that no cut goes through: clead is no cle and ad. With them and the silent starts 4,376 of 7,136
// words are read right by analogy or rule, without them 4,349 (2026-11-27, each word among those that it is read by).
var signs = strings.Fields("ch sh th ph wh ck gh qu ay ey oy aw ew ow")

var silentStarts = strings.Fields("wr kn gn")

func oneSign(two string) bool {
	const vowels = "aeiou"
	return slices.Contains(signs, two) ||
		strings.IndexByte(vowels, two[0]) >= 0 && strings.IndexByte(vowels, two[1]) >= 0
}

// head covers the beginning of a word with a known beginning, or with consonants by rule.
func (p parts) head(letters string) (string, bool) {
	if codes, ok := p.heads[letters]; ok {
		return codes, true
	}
	if vowelless(letters) {
		return spelling.Guess(letters), true
	}
	return "", false
}

// alone marks an end that holds all the vowels of its word.
const alone = "."

func vowelless(letters string) bool { return !strings.ContainsAny(letters, "aeiouy") }
