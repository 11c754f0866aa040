package texts_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/texts"
)

// A phrase-structure grammar of simple English, apart from what cuts the sentences: a chart parser (after J. Earley,
// "An efficient context-free parsing algorithm", 1970, here plainly top-down with memory) tells whether an order of
// pieces is a sentence. Rules and word classes from memory; open classes from the lexicon's parts of speech.
var phraseRules = map[string][][]string{
	"S":    {{"NP", "VP"}, {"CMD"}, {"X", "NP", "REST"}, {"S", "CONJ", "S"}, {"PP", "NP", "VP"}},
	"CMD":  {{"V", "NP"}, {"V", "NP", "PPS"}, {"V", "PPS"}, {"V", "PRT", "NP"}},
	"REST": {{"V"}, {"V", "NP"}, {"V", "PPS"}, {"V", "NP", "PPS"}, {"PPS"}, {"ADJ"}, {"NP"}},
	"NP":   {{"PRON"}, {"NAME"}, {"DET", "NBAR"}, {"NUM", "NBAR"}, {"NP", "AND", "NP"}, {"DET", "NUM", "NBAR"}, {"NOUNS"}},
	"NBAR": {{"N"}, {"ADJ", "NBAR"}},
	"VP": {
		{"V"},
		{"V", "NP"},
		{"V", "PPS"},
		{"V", "NP", "PPS"},
		{"V", "PRT"},
		{"V", "PRT", "PPS"},
		{"X", "ADJ"},
		{"X", "NP"},
		{"X", "PPS"},
		{"X", "V"},
		{"X", "V", "NP"},
		{"X", "V", "PPS"},
		{"X", "V", "NP", "PPS"},
		{"VP", "AND", "VP"},
	},
	"PPS": {{"PP"}, {"PP", "PP"}, {"PP", "AND", "PP"}},
	"PP":  {{"P", "NP"}},
}

var closedClasses = map[string]string{
	"the":   "DET",
	"a":     "DET",
	"an":    "DET",
	"my":    "DET",
	"his":   "DET",
	"her":   "DET PRON",
	"this":  "DET PRON",
	"some":  "DET",
	"two":   "NUM",
	"three": "NUM",
	"six":   "NUM",
	"ten":   "NUM",
	"i":     "PRON",
	"he":    "PRON",
	"she":   "PRON",
	"it":    "PRON",
	"we":    "PRON",
	"they":  "PRON",
	"you":   "PRON",
	"is":    "X",
	"are":   "X",
	"was":   "X",
	"can":   "X",
	"did":   "X",
	"has":   "V",
	"had":   "V",
	"on":    "P PRT",
	"in":    "P PRT",
	"at":    "P",
	"to":    "P",
	"under": "P",
	"up":    "P PRT",
	"down":  "P PRT",
	"and":   "AND CONJ",
	"but":   "CONJ",
	"look":  "V",
}

func wordClasses(w string) []string {
	if c, ok := closedClasses[strings.ToLower(w)]; ok {
		return strings.Fields(c)
	}
	e, ok := lexicon.Find(strings.ToLower(w))
	if !ok {
		return []string{"NAME"}
	}
	var out []string
	if strings.ContainsAny(e.Parts, "nN") {
		out = append(out, "N")
	}
	if strings.Contains(e.Parts, "N") { // plurals stand alone
		out = append(out, "NOUNS")
	}
	if strings.ContainsAny(e.Parts, "vV") {
		out = append(out, "V")
	}
	if strings.Contains(e.Parts, "a") {
		out = append(out, "ADJ")
	}
	if slices.Contains([]string{"mum", "dad", "nan", "gran"}, strings.ToLower(w)) {
		out = append(out, "NAME")
	}
	return out
}

type span struct {
	symbol   string
	from, to int
}

type parser struct {
	words []string
	known map[span]bool
}

func (p *parser) is(symbol string, from, to int) bool {
	at := span{symbol, from, to}
	if known, ok := p.known[at]; ok {
		return known
	}
	p.known[at] = false // stops left recursion; longer spans come from shorter ones below
	rules, phrase := phraseRules[symbol]
	if !phrase {
		p.known[at] = to == from+1 && slices.Contains(wordClasses(p.words[from]), symbol)
		return p.known[at]
	}
	for _, r := range rules {
		if p.run(r, from, to) {
			p.known[at] = true
			return true
		}
	}
	return false
}

func (p *parser) run(symbols []string, from, to int) bool {
	if len(symbols) == 1 {
		return p.is(symbols[0], from, to)
	}
	for cut := from + 1; cut <= to-len(symbols)+1; cut++ {
		if p.is(symbols[0], from, cut) && p.run(symbols[1:], cut, to) {
			return true
		}
	}
	return false
}

func grammatical(text string) bool {
	words := strings.Fields(strings.Trim(text, ".?!"))
	return (&parser{words, map[span]bool{}}).is("S", 0, len(words))
}

func orders(pieces []string, visit func([]string)) {
	var walk func(k int)
	inner := slices.Clone(pieces[1 : len(pieces)-1])
	walk = func(k int) {
		if k == len(inner) {
			visit(slices.Concat(pieces[:1], inner, pieces[len(pieces)-1:]))
			return
		}
		for i := k; i < len(inner); i++ {
			inner[k], inner[i] = inner[i], inner[k]
			walk(k + 1)
			inner[k], inner[i] = inner[i], inner[k]
		}
	}
	walk(0)
}

// No order of the pieces but the right one is a sentence, by a parser of its own.
func TestChoppedSentencesHaveOneOrder(t *testing.T) {
	for _, right := range []string{"The cat sat on the mat.", "Sam got a bun and a plum.", "Is the hat in the " +
		"box?", "Put the mug on the shelf.", "We ran to the shop."} {
		require.True(t, grammatical(right), right)
	}
	for _, wrong := range []string{"The sat cat on the mat.", "Sam a bun got and a plum.", "On sat the cat mat the."} {
		require.False(t, grammatical(wrong), wrong)
	}
	taught := pairs(t, later)
	known := map[string]bool{
		"the": true,
		"his": true,
		"her": true,
		"is":  true,
		"was": true,
		"are": true,
		"two": true,
		"to":  true,
		"i":   true,
		"my":  true,
		"we":  true,
		"put": true,
		"six": true,
	}
	cut, parsed := 0, 0
	seeds := uint64(60)
	if testing.Short() {
		seeds = 6
	}
	for seed := range seeds {
		for _, s := range texts.Suggest(texts.SuggestQuery{Taught: taught, Exceptions: known, Count: 10}, south,
			rand.New(rand.NewPCG(seed, 5))) {
			pieces, err := texts.Chop(s.Text)
			if err != nil {
				continue
			}
			cut++
			if !grammatical(s.Text) {
				t.Log(s.Text)
			} else {
				parsed++
			}
			orders(pieces, func(order []string) {
				text := strings.Join(order, " ")
				require.False(t, text != s.Text && grammatical(text), "%q may also be read %q", s.Text, text)
			})
		}
	}
	t.Logf("%d sentences cut, %d of them parsed", cut, parsed)
	require.Greater(t, cut, int(seeds)*10/3)
	require.Greater(t, parsed*10, cut*8, "a parser that knows too little tests nothing")
}

// No piece tears a phrase: a form of to be stands at the start of its piece or alone, an article or a preposition at
// the end of a piece of several words is none. "The | red hat is | in bed." is refused.
func TestPiecesAreCutAtPhrases(t *testing.T) {
	cut := 0
	for _, s := range []string{
		"The red hat is on the bed.", "A big bat is in bed.", "The man met Mum.", "Six big dogs ran up the hill.",
		"Sam and Tim sit on a log.", "The cat is fat and the dog is thin.", "Mum can mix the eggs in a pan.",
		"He had a nap in his bed.", "This moth is thin.", "The duck is in the mud.", "A thick wet fog is at the dock.",
	} {
		pieces, err := texts.Chop(s)
		if err != nil {
			continue
		}
		cut++
		assert.Equal(t, s, strings.Join(pieces, " "), "in order they are the sentence")
		for _, p := range pieces {
			words := strings.Fields(strings.ToLower(strings.Trim(p, ".")))
			for i, w := range words {
				if slices.Contains([]string{"is", "are", "was", "can"}, w) {
					assert.Zero(t, i, "%q in %v", p, pieces)
				}
			}
			last := words[len(words)-1]
			if len(words) > 1 {
				assert.NotContains(t, []string{"the", "a", "his", "on", "in", "up", "and", "at"}, last, "%q in %v", p, pieces)
			}
		}
	}
	assert.Greater(t, cut, 8)
}
