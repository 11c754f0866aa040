package texts

import (
	"regexp"
	"slices"
	"strings"
	"unicode"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
)

// ErrChop is wrapped by what keeps a sentence from being cut into pieces.
const ErrChop fault.Code = "cannot-be-cut"

// Bounds of the pieces of a cut sentence (common practice, no published source).
const (
	minPieces = 4
	maxPieces = 7
)

// Word classes for judging whether an order of pieces may be read as a sentence: D the, a, my; M number; A adjective;
// N noun; O he, it; V verb; X is, can; P on, in; U the same words without a thing after them (fell in); C and; R
// adverb; Q question word.
var smallWords = map[string]string{
	"the":   "D",
	"a":     "D",
	"an":    "D",
	"my":    "D",
	"his":   "DO",
	"her":   "DO",
	"its":   "D",
	"our":   "D",
	"your":  "D",
	"their": "D",
	"this":  "DO",
	"that":  "DO",
	"these": "DO",
	"those": "DO",
	"some":  "DO",
	"all":   "DOR",
	"no":    "DR",
	"every": "D",
	"one":   "MO",
	"two":   "MO",
	"three": "MO",
	"four":  "MO",
	"five":  "MO",
	"six":   "MO",
	"seven": "MO",
	"eight": "MO",
	"nine":  "MO",
	"ten":   "MO",
	"many":  "MO",
	"i":     "O",
	"he":    "O",
	"she":   "O",
	"it":    "O",
	"we":    "O",
	"they":  "O",
	"you":   "O",
	"me":    "O",
	"him":   "O",
	"us":    "O",
	"them":  "O",
	"is":    "X",
	"are":   "X",
	"was":   "X",
	"were":  "X",
	"am":    "X",
	"be":    "V",
	"can":   "X",
	"will":  "X",
	"did":   "X",
	"do":    "XV",
	"does":  "X",
	"has":   "XV",
	"have":  "XV",
	"had":   "XV",
	"must":  "X",
	"may":   "X",
	"on":    "PU",
	"in":    "PU",
	"at":    "P",
	"to":    "P",
	"of":    "P",
	"for":   "P",
	"from":  "P",
	"with":  "P",
	"by":    "P",
	"under": "P",
	"into":  "P",
	"up":    "PU",
	"down":  "PU",
	"off":   "PU",
	"over":  "PU",
	"as":    "P",
	"past":  "P",
	"near":  "P",
	"than":  "P",
	"out":   "PU",
	"and":   "C",
	"but":   "C",
	"or":    "C",
	"so":    "C",
	"if":    "C",
	"then":  "RC",
	"when":  "CQ",
	"not":   "R",
	"too":   "R",
	"very":  "R",
	"there": "OR",
	"here":  "R",
	"now":   "R",
	"what":  "Q",
	"who":   "Q",
	"where": "Q",
	"why":   "Q",
	"how":   "Q",
}

// mayFollow lists the classes that may come after a class; a full stop is ".".
var mayFollow = map[byte]string{
	'D': "AMN",
	'M': "AN.",
	'A': "ANC.P",
	'N': "VXPCR.U",
	'O': "VXPCR.MU",
	'V': "DAMNOPRC.U",
	'X': "DAMVOPR.U",
	'P': "DAMNO.",
	'C': "DAMNOVXPRQU",
	'R': "VPRADX.CMU",
	'Q': "XVDON",
	'U': "PRC.",
}

func classes(word string) string {
	if c, ok := smallWords[word]; ok {
		return c
	}
	e, ok := lexicon.Find(word)
	if !ok || e.Parts == "" {
		return "NVA"
	}
	out := ""
	for _, p := range e.Parts {
		switch p {
		case 'n', 'N':
			out += "N"
		case 'v', 'V':
			out += "V"
		case 'a':
			out += "A"
		case 'r':
			out += "R"
		}
	}
	return out
}

// Chop cuts one sentence into 4 to 7 pieces to be put back in order. The first piece keeps its capital, the
// last its full stop, and no other order of the pieces reads as a sentence, as far as the classes of the
// words tell. The error says why a sentence does not allow it.
func Chop(sentence string) ([]string, error) {
	words := strings.Fields(strings.TrimSpace(sentence))
	if len(words) < minPieces {
		return nil, fault.New(
			ErrChop,
			"this sentence cannot be cut into pieces: it has %d words and needs at least %d",
			len(words),
			minPieces,
		)
	}
	first, last := []rune(words[0])[0], words[len(words)-1]
	inner := strings.Join(words, " ")
	switch {
	case !unicode.IsUpper(first):
		return nil, fault.New(ErrChop, "this sentence cannot be cut into pieces: it needs a capital at the start")
	case !strings.ContainsRune(".!?", rune(last[len(last)-1])):
		return nil, fault.New(ErrChop, "this sentence cannot be cut into pieces: it needs a full stop at the end")
	case strings.ContainsAny(inner[:len(inner)-1], ".!?"):
		return nil, fault.New(ErrChop, "this sentence cannot be cut into pieces: it is more than one sentence")
	case len(words) > 12:
		return nil, fault.New(
			ErrChop,
			"this sentence cannot be cut into pieces: it has %d words; up to 12 can be held",
			len(words),
		)
	}
	var best []string
	least := 0
	for n := minPieces; n <= min(maxPieces, len(words)); n++ { // few pieces are long phrases
		partitions(words, n, func(pieces []string) bool {
			if c := loose(pieces); (best == nil || c < least) && phrases(pieces) && onlyOrder(pieces) {
				best, least = slices.Clone(pieces), c
			}
			return best == nil || least > 0
		})
	}
	if best != nil {
		return best, nil
	}
	return nil, fault.New(
		ErrChop,
		"this sentence cannot be cut into pieces: its pieces could be put in more than one order",
	)
}

// phrase matches the classes of the words of a piece that reads as one phrase: who or what (the red hat), where (in the
// red hat), what happens (can run, runs fast, lifts the box), how (very hot), or one of these joined on (and the hat).
var phrase = regexp.MustCompile(
	`^C?(` + nounPhrase + `|P` + nounPhrase + `|(XR?V|X|V)[RU]?(` + nounPhrase + `|A)?|R+A)$`,
)

const nounPhrase = `(D?R?M?A*N+|D?O|[NO]C[NO])`

// loose counts what is torn apart between one piece and the next: "red" from "hat" three times, "the" from "hat"
// twice, "on" from "the bed" once where it stands alone and twice where it hangs on another word.
func loose(pieces []string) int {
	n := 0
	for i, p := range pieces[:len(pieces)-1] {
		words, next := strings.Fields(strings.ToLower(p)), strings.Fields(strings.ToLower(pieces[i+1]))[0]
		last, after := classes(strings.Trim(words[len(words)-1], ",;:")), classes(strings.Trim(next, ".!?,;:"))
		switch {
		case strings.ContainsAny(last, "DAM") && strings.ContainsAny(after, "NA") && !strings.Contains(last, "O"):
			n += 2
			if last[0] != 'D' {
				n++
			}
		case strings.ContainsAny(last, "PC") && strings.ContainsAny(after, "DMNAO"):
			n += min(2, len(words))
		}
	}
	return n
}

// phrases tells whether each piece of several words is a phrase. A piece that begins in the middle of one, such as
// "red hat is" or "hat" and a verb after "the red", is none; a single word is always good.
func phrases(pieces []string) bool {
	before := ""
	for _, p := range pieces {
		words := strings.Fields(strings.ToLower(strings.Trim(p, ".!?")))
		if len(words) > 1 && (!readsAs(words, "") || before != "" && strings.Contains("DMA", classes(before)[:1]) &&
			strings.ContainsAny(classes(words[0]), "AN")) {
			return false
		}
		before = strings.Trim(words[len(words)-1], ",;:")
	}
	return true
}

// readsAs tells whether some choice of classes of the words, after those given, makes a phrase.
func readsAs(words []string, given string) bool {
	if len(words) == 0 {
		return phrase.MatchString(given)
	}
	for _, c := range classes(strings.Trim(words[0], ",;:")) {
		if readsAs(words[1:], given+string(c)) {
			return true
		}
	}
	return false
}

// partitions visits the ways to cut words into n runs, the most even first run by run, until visit returns
// false.
func partitions(words []string, n int, visit func([]string) bool) {
	var cut func(rest []string, pieces []string) bool
	cut = func(rest, pieces []string) bool {
		left := n - len(pieces)
		if left == 1 {
			return visit(append(pieces, strings.Join(rest, " ")))
		}
		for size := 1; size <= min(4, len(rest)-left+1); size++ {
			if !cut(rest[size:], append(pieces, strings.Join(rest[:size], " "))) {
				return false
			}
		}
		return true
	}
	cut(words, make([]string, 0, n))
}

// onlyOrder tells whether the pieces between the first and the last can be read in one order only.
func onlyOrder(pieces []string) bool {
	n := len(pieces)
	given := strings.Join(pieces, " ")
	middle := slices.Clone(pieces[1 : n-1])
	single := true
	permute(middle, 0, func(order []string) bool {
		text := pieces[0] + " " + strings.Join(order, " ") + " " + pieces[n-1]
		if text != given && reads(text) {
			single = false
		}
		return single
	})
	return single
}

func permute(items []string, k int, visit func([]string) bool) bool {
	if k == len(items) {
		return visit(items)
	}
	for i := k; i < len(items); i++ {
		items[k], items[i] = items[i], items[k]
		more := permute(items, k+1, visit)
		items[k], items[i] = items[i], items[k]
		if !more {
			return false
		}
	}
	return true
}

// reads tells whether each word may follow the one before it in some class.
func reads(text string) bool {
	words := strings.Fields(strings.ToLower(strings.TrimRight(text, ".!?")))
	open := classes(strings.Trim(words[0], ",;:"))
	for _, w := range words[1:] {
		next := ""
		for _, c := range classes(strings.Trim(w, ",;:")) {
			for i := range len(open) {
				if strings.ContainsRune(mayFollow[open[i]], c) {
					next += string(c)
					break
				}
			}
		}
		if next == "" {
			return false
		}
		open = next
	}
	for i := range len(open) {
		if strings.Contains(mayFollow[open[i]], ".") {
			return true
		}
	}
	return false
}
