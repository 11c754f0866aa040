// Package order judges an order of teaching: what each step unlocks, what clashes, what is missing.
package order

import (
	"cmp"
	"fmt"
	"slices"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

// Step is one pair with its place.
type Step struct {
	Number int
	Pair   spelling.Pair
}

// Finding is one thing to look at. Step is 0 where it concerns the whole order.
type Finding struct {
	Code    string `json:"code"` // too-close, no-words, missing, repeated
	Step    int    `json:"step"`
	Pair    string `json:"pair"`
	Message string `json:"message"`
}

// Unlock is what a step makes readable: how many familiar words, and the best of them.
type Unlock struct {
	Step  int      `json:"step"`
	Pair  string   `json:"pair"`
	Words int      `json:"words"`
	Best  []string `json:"best"`
}

// Report on an order.
type Report struct {
	Findings []Finding `json:"findings"`
	Unlocked []Unlock  `json:"unlocked"`
}

const (
	tooClose  = 3 // steps that should lie between confusable pairs
	wordsBy   = 6 // from this step on a familiar word should be readable
	familiar  = 3
	bestWords = 8
)

// minWanted is how many known words need a pair, for it to be missed in an order.
const minWanted = 30

// wanted are the pairs that an order should teach: those that so many known words of the lexicon need. Doubled
// letters are left out: they are read as the single ones.
func wanted(o words.Options) []spelling.Pair {
	count := map[spelling.Pair]int{}
	pool := lexicon.For(o.Accent, o.Units)
	for i := range pool.Items {
		item := &pool.Items[i]
		if item.Familiarity < familiar || item.Inflected() {
			continue
		}
		for k, s := range item.Readings[0].Segments {
			if !s.Odd && !s.Rare && !slices.Contains(item.Pairs[:k], s.Pair) {
				count[s.Pair]++
			}
		}
	}
	var out []spelling.Pair
	for p, n := range count {
		if n >= minWanted && p.Kind() != "doubled letter" {
			out = append(out, p)
		}
	}
	slices.SortFunc(out, func(a, b spelling.Pair) int {
		return cmp.Or(cmp.Compare(count[b], count[a]), cmp.Compare(a.String(), b.String()))
	})
	return out
}

// Check judges the steps in the order given.
func Check(steps []Step, o words.Options) Report {
	r := Report{Findings: []Finding{}, Unlocked: []Unlock{}}
	add := func(code string, s Step, format string, args ...any) {
		f := Finding{Code: code, Message: fmt.Sprintf(format, args...)}
		if s.Pair.Grapheme != "" {
			f.Step, f.Pair = s.Number, s.Pair.String()
		}
		r.Findings = append(r.Findings, f)
	}
	taught := spelling.Set{}
	readable, warned := 0, false
	for i, s := range steps {
		if taught[s.Pair] {
			add("repeated", s, "%s is taught twice.", s.Pair)
			continue
		}
		taught[s.Pair] = true
		for k := max(0, i-tooClose); k < i; k++ {
			if spelling.MixedUp(steps[k].Pair.Grapheme, s.Pair.Grapheme) {
				add(
					"too-close",
					s,
					"%s comes %d after %s; children mix them up. Leave at least %d steps between them.",
					s.Pair.Grapheme,
					i-k,
					steps[k].Pair.Grapheme,
					tooClose,
				)
			}
		}
		found := words.Find(words.Query{Taught: taught, Target: &s.Pair, Familiarity: familiar}, o)
		readable += len(found)
		u := Unlock{Step: s.Number, Pair: s.Pair.String(), Words: len(found), Best: []string{}}
		for _, c := range found[:min(len(found), bestWords)] {
			u.Best = append(u.Best, c.Word)
		}
		r.Unlocked = append(r.Unlocked, u)
		if i+1 >= wordsBy && readable == 0 && !warned {
			warned = true
			add("no-words", s, "No familiar word can be read by step %d. Bring a vowel and a few consonants forward.", s.Number)
		}
		if i+1 > wordsBy && len(found) == 0 {
			add("no-words", s, "%s unlocks no familiar word at this place; it has nothing to be practised with.", s.Pair)
		}
	}
	for _, g := range Missing(steps, o) {
		add("missing", Step{}, "%s is not taught in this order.", g)
	}
	return r
}

// Missing are the graphemes of pairs that many known words need and no step teaches, the most needed first.
func Missing(steps []Step, o words.Options) []string {
	out := []string{}
	for _, p := range wanted(o) {
		if !slices.ContainsFunc(steps, func(s Step) bool { return s.Pair.Grapheme == p.Grapheme }) {
			out = append(out, p.Grapheme)
		}
	}
	return out
}

// Moved are the ids that were moved to make one order out of another: the fewest whose leaving makes both alike.
func Moved(before, after []string) []string {
	place := map[string]int{}
	for i, id := range before {
		place[id] = i
	}
	// The longest run of after that rises in before stays (patience sorting; Fredman 1975, "On computing the length of
	// longest increasing subsequences").
	var ends []int // index in after of the least end of a run of each length
	from := make([]int, len(after))
	for i, id := range after {
		k, _ := slices.BinarySearchFunc(ends, place[id], func(e, p int) int { return cmp.Compare(place[after[e]], p) })
		from[i] = -1
		if k > 0 {
			from[i] = ends[k-1]
		}
		if k == len(ends) {
			ends = append(ends, i)
		} else {
			ends[k] = i
		}
	}
	stays := map[int]bool{}
	if len(ends) > 0 {
		for i := ends[len(ends)-1]; i >= 0; i = from[i] {
			stays[i] = true
		}
	}
	out := []string{}
	for i, id := range after {
		if !stays[i] {
			out = append(out, id)
		}
	}
	return out
}
