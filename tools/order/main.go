// Command order makes an order of teaching from the lexicon alone: go run ./tools/order [-first PAIRS] [-accent ID]
// [-seconds N]. It prints a CSV for `brightchalk order check`. Which pairs get a step follows from how many known words
// need them; their order is sought as on the order desk, with the usual weights. No list in use anywhere was looked at.
package main

import (
	"flag"
	"fmt"
	"log"
	"os"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

const (
	least      = 11  // known words that a pair must have to get a step
	leastShare = 0.1 // of the words of its grapheme that a pair must have; rarer sounds of a spelling wait for the word
)

func main() {
	log.SetFlags(0)
	first := flag.String("first", "", "pairs that come first as they are")
	accent := flag.String("accent", "southern-british", "accent")
	seconds := flag.Float64("seconds", 30, "how long a better order is sought")
	seed := flag.Uint64("seed", 1, "of the search")
	flag.Parse()
	a, err := phoneme.ParseAccent(*accent)
	if err != nil {
		log.Fatal(err)
	}
	ask := order.Ask{Keep: map[spelling.Pair]bool{}, Weights: order.UsualWeights(), Seed: *seed}
	add := func(p spelling.Pair) {
		ask.Steps = append(ask.Steps, order.Step{Number: len(ask.Steps) + 1, Pair: p})
	}
	for text := range strings.SplitSeq(*first, ",") {
		if text == "" {
			continue
		}
		pair, err := spelling.ParsePair(a, text)
		if err != nil {
			log.Fatal(err)
		}
		add(pair)
		ask.Keep[pair] = true
	}
	for _, p := range candidates(a) {
		if !ask.Keep[p] {
			add(p)
		}
	}
	begin := time.Now()
	ask.Left = func() float64 { return 1 - time.Since(begin).Seconds() / *seconds }
	got, err := order.Improve(ask, words.Options{Accent: a})
	if err != nil {
		log.Fatal(err)
	}
	fmt.Println("step,grapheme,sound,exception_words")
	for _, s := range got.Order {
		fmt.Printf("%d,%s,%s,\n", s.Number, s.Pair.Grapheme, s.Pair.Sound)
	}
	fmt.Fprintf(os.Stderr, "%d pairs; %d readable words over all steps, %d too close\n", len(got.Order),
		got.After.Sum(), got.After.Clashes)
}

// candidates are the pairs that enough known words need, the most needed first; doubled letters are read as the single
// ones and get no step.
func candidates(a phoneme.Accent) []spelling.Pair {
	count := map[spelling.Pair]int{}
	pool := lexicon.For(a, spelling.Units{})
	for i := range pool.Items {
		item := &pool.Items[i]
		if item.Familiarity < 4 || item.Inflected() || item.Doubt != lexicon.NoDoubt {
			continue
		}
		odd := slices.ContainsFunc(item.Readings[0].Segments, func(s spelling.Segment) bool { return s.Odd || s.Rare })
		if odd {
			continue
		}
		for k, q := range item.Pairs {
			if !slices.Contains(item.Pairs[:k], q) {
				count[q]++
			}
		}
	}
	share := map[spelling.Pair]float64{}
	for _, row := range lexicon.Table(a, spelling.Units{}) {
		share[row.Pair] = row.Weighted
	}
	var out []spelling.Pair
	for q, n := range count {
		needed := n >= least && (q.Kind() != "doubled letter" && q.Sound != "ə" || q.Grapheme == "er")
		rare := len(q.Grapheme) == 1 && n >= least/2 && strings.Contains("jqvwxyz", q.Grapheme)
		if share[q] >= leastShare && (needed || rare) {
			out = append(out, q)
		}
	}
	slices.SortFunc(out, func(p, q spelling.Pair) int {
		if count[p] != count[q] {
			return count[q] - count[p]
		}
		return strings.Compare(p.String(), q.String())
	})
	return out
}
