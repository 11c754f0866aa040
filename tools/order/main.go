// Command order computes an order of teaching from the lexicon alone: go run ./tools/order [-keep PAIRS] [-accent ID].
// It prints a CSV for `brightchalk order check`. The weights are below, each with its reason; no list in use anywhere
// was looked at.
package main

import (
	"flag"
	"fmt"
	"log"
	"math"
	"os"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

const (
	least       = 11   // known words that a pair must have to get a step
	leastShare  = 0.1  // of the words of its grapheme that a pair must have; rarer sounds of a spelling wait for the word
	near        = 0.22 // a word that lacks one pair more counts so much less, for each
	apart       = 5    // steps between look-alikes and sound-alikes
	clashCost   = 60.0
	sameKind    = 0.55 // share of its worth that a pair keeps after two of its kind: a ledge has a bit of everything
	stretchGain = 1.5  // a sound that can be held is easier to hear and to blend, early on
	writeGain   = 1.25 // one letter is easier to write than a group, early on
	early       = 14   // steps in which the two gains fade
)

// confusable by eye or by ear (common practice, no published source).
var confusable = []string{
	"b d",
	"b p",
	"p q",
	"m n",
	"n u",
	"n h",
	"i e",
	"a u",
	"f th",
	"v th",
	"f v",
	"s z",
	"t d",
	"k g",
	"c g",
	"sh ch",
	"ch j",
	"ai oi",
	"ar or",
	"ar ir",
	"ur er",
	"ir ur",
	"i j",
	"w v",
	"w wh",
	"oo u",
	"ou ow",
	"aw au",
	"ea ee",
	"ai ay",
	"oi oy",
	"oa ow",
	"igh i-e",
	"a-e ai",
	"o-e oa",
	"e-e ee",
}

type plan struct {
	accent phoneme.Accent
	words  []*lexicon.Item
	value  []float64
	taught spelling.Set
	order  []spelling.Pair
}

func main() {
	log.SetFlags(0)
	keep := flag.String("keep", "", "pairs that come first as they are")
	accent := flag.String("accent", "southern-british", "accent")
	flag.Parse()
	a, err := phoneme.ParseAccent(*accent)
	if err != nil {
		log.Fatal(err)
	}
	p := plan{accent: a, taught: spelling.Set{}}
	candidates := p.read()
	for text := range strings.SplitSeq(*keep, ",") {
		if text == "" {
			continue
		}
		pair, err := spelling.ParsePair(a, text)
		if err != nil {
			log.Fatal(err)
		}
		p.take(pair)
	}
	for {
		best, worth := spelling.Pair{}, math.Inf(-1)
		for _, c := range candidates {
			if !p.taught[c] {
				if w := p.worth(c); w > worth {
					best, worth = c, w
				}
			}
		}
		if best.Grapheme == "" {
			break
		}
		p.take(best)
	}
	fmt.Println("step,grapheme,sound,exception_words")
	for i, pair := range p.order {
		fmt.Printf("%d,%s,%s,\n", i+1, pair.Grapheme, pair.Sound)
	}
	fmt.Fprintln(os.Stderr, len(p.order), "pairs")
}

func (p *plan) take(pair spelling.Pair) {
	p.order = append(p.order, pair)
	p.taught[pair] = true
}

// read takes the known words with their values, and the pairs that enough of them need; doubled letters are read as the
// single ones and get no step.
func (p *plan) read() []spelling.Pair {
	count := map[spelling.Pair]int{}
	pool := lexicon.For(p.accent, spelling.Units{})
	for i := range pool.Items {
		item := &pool.Items[i]
		if item.Familiarity < 4 || item.Inflected() || item.Doubt != lexicon.NoDoubt {
			continue
		}
		odd := slices.ContainsFunc(item.Readings[0].Segments, func(s spelling.Segment) bool { return s.Odd || s.Rare })
		if odd {
			continue
		}
		p.words = append(p.words, item)
		v := map[int]float64{5: 2, 4: 1}[item.Familiarity]
		if strings.Contains(item.Kinds, "T") || item.Picture {
			v *= 1.5
		}
		p.value = append(p.value, v/float64(max(1, item.Syllables)))
		for k, q := range item.Pairs {
			if !slices.Contains(item.Pairs[:k], q) {
				count[q]++
			}
		}
	}
	share := map[spelling.Pair]float64{}
	for _, row := range lexicon.Table(p.accent, spelling.Units{}) {
		share[row.Pair] = row.Weighted
	}
	var out []spelling.Pair
	for q, n := range count {
		if share[q] < leastShare {
			continue
		}
		if n >= least && q.Kind() != "doubled letter" && q.Sound != "ə" || q.Grapheme == "er" && n >= least ||
			len(q.Grapheme) == 1 && n >= least/2 && strings.Contains("jqvwxyz", q.Grapheme) {
			out = append(out, q)
		}
	}
	slices.SortFunc(out, func(a, b spelling.Pair) int { return strings.Compare(a.String(), b.String()) })
	return out
}

// worth is what a pair brings next: the words that it makes readable, and part of those that it brings nearer.
func (p *plan) worth(c spelling.Pair) float64 {
	known := p.taught.WithDoubles(p.accent)
	one := spelling.Set{c: true}.WithDoubles(p.accent)
	total := 0.0
	for i, item := range p.words {
		missing, holds := 0, false
		for _, q := range item.Pairs {
			switch {
			case one[q]:
				holds = true
			case !known[q]:
				missing++
			}
		}
		if holds && missing < 4 {
			total += p.value[i] * math.Pow(near, float64(missing))
		}
	}
	fade := math.Exp(-float64(len(p.order)) / early)
	sounds, _ := phoneme.Parse(p.accent, c.Sound)
	if s, ok := phoneme.Lookup(p.accent, sounds[0]); ok && s.Stretchable {
		total *= 1 + (stretchGain-1)*fade
	}
	if len(c.Grapheme) == 1 {
		total *= 1 + (writeGain-1)*fade
	}
	if n := len(p.order); n >= 2 && kind(p.order[n-1]) == kind(c) && kind(p.order[n-2]) == kind(c) {
		total *= sameKind
	}
	for k := max(0, len(p.order)-apart); k < len(p.order); k++ {
		if clash(p.order[k], c) {
			total -= clashCost
		}
	}
	return total
}

func kind(p spelling.Pair) string {
	sounds, err := phoneme.Parse(phoneme.SouthernBritish, p.Sound)
	vowel := err == nil && phoneme.IsVowel(sounds[0])
	switch {
	case strings.Contains(p.Grapheme, "-"):
		return "split"
	case len(p.Grapheme) > 1 && vowel:
		return "vowel group"
	case len(p.Grapheme) > 1:
		return "consonant group"
	case vowel:
		return "vowel"
	}
	return "consonant"
}

// clash tells of two pairs that are mixed up: listed, or one sound, or one grapheme.
func clash(a, b spelling.Pair) bool {
	if a.Sound == b.Sound || a.Grapheme == b.Grapheme {
		return true
	}
	return slices.Contains(confusable, a.Grapheme+" "+b.Grapheme) || slices.Contains(confusable, b.Grapheme+" "+a.Grapheme)
}
