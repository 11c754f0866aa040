package words

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
)

// Missing is a pair that a word still needs, and the step of the order that teaches it; 0 where none does.
type Missing struct {
	Pair spelling.Pair `json:"pair"`
	Step int           `json:"step"`
}

// Answer tells whether a word may be used, and why.
type Answer struct {
	Word     string             `json:"word"`
	May      bool               `json:"may"`
	Why      string             `json:"why"`
	Missing  []Missing          `json:"missing"`
	Segments []spelling.Segment `json:"segments"`
	Sounds   int                `json:"sounds"`
	Guessed  bool               `json:"guessed"` // read by rule, not from the lexicon
}

// Look tells whether a word may be used for a query, and why or why not. steps gives the step of each pair
// of the order. The error says why a text is no word.
func Look(word string, q Query, steps map[spelling.Pair]int, o Options) (Answer, error) {
	word = strings.ToLower(strings.TrimSpace(word))
	seg, err := o.Segment(word)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Word: word, Segments: seg.Segments, Sounds: seg.Sounds, Guessed: seg.Source == lexicon.FromRules, Missing: []Missing{}}
	readings := append([]lexicon.Reading{seg.Reading}, seg.Alternatives...)
	taughtReadings := 0
	for _, r := range readings {
		untaught := q.Taught.Untaught(r.Segments)
		if len(untaught) == 0 {
			taughtReadings++
		}
		for _, p := range untaught {
			if !slices.ContainsFunc(a.Missing, func(m Missing) bool { return m.Pair == p }) {
				a.Missing = append(a.Missing, Missing{p, steps[p]})
			}
		}
	}
	odd := ""
	for _, s := range seg.Segments {
		if s.Odd || s.Rare {
			odd = s.Grapheme
		}
	}
	e, known := lexicon.Find(word)
	switch {
	case known && e.Unfit:
		a.Why = fmt.Sprintf("%s is kept out of what children are offered.", word)
	case q.Exclude[word]:
		a.Why = fmt.Sprintf("The team has refused %s.", word)
	case odd != "" && len(a.Missing) > 0:
		a.Why = fmt.Sprintf("%s is an exception word: %s is the odd part. Teach it as such.", word, odd)
	case len(readings) > 1 && taughtReadings > 0 && len(a.Missing) > 0:
		a.Why = fmt.Sprintf("%s can be said in two ways, and only one has been taught.", word)
	case len(a.Missing) > 0:
		a.Why = notYet(word, a.Missing)
	case q.Target != nil && !slices.ContainsFunc(seg.Segments, func(s spelling.Segment) bool { return s.Pair == *q.Target }):
		a.May, a.Why = true, fmt.Sprintf("%s can be read, but it does not hold %s as it is taught here.", word, q.Target.Grapheme)
	case a.Guessed:
		a.Why = fmt.Sprintf("%s is not in the word list. Read by rule it would need nothing new; check it yourself.", word)
	default:
		a.May, a.Why = true, fmt.Sprintf("%s can be read: every sound in it has been taught.", word)
	}
	return a, nil
}

func notYet(word string, missing []Missing) string {
	parts := make([]string, len(missing))
	for i, m := range missing {
		parts[i] = fmt.Sprintf("%s in %s is in no step of the order", m.Pair.Grapheme, word)
		if m.Step > 0 {
			parts[i] = fmt.Sprintf("%s in %s comes in step %d", m.Pair.Grapheme, word, m.Step)
		}
	}
	return "Not yet: " + strings.Join(parts, "; ") + "."
}

// Near lists the known words that fit the query but for one pair not yet taught, those that come soonest
// first, at most limit. Words with a pair that no step teaches are left out.
func Near(q Query, steps map[spelling.Pair]int, limit int, o Options) []Answer {
	all := spelling.Set{}
	for p := range q.Taught {
		all[p] = true
	}
	for p := range steps {
		all[p] = true
	}
	wide := q
	wide.Taught, wide.Limit, wide.Familiarity = all, 0, max(3, q.Familiarity)
	type near struct {
		Choice
		missing Missing
	}
	var found []near
	for _, c := range Find(wide, o) {
		if untaught := q.Taught.Untaught(c.Segments); len(untaught) == 1 {
			found = append(found, near{c, Missing{untaught[0], steps[untaught[0]]}})
		}
	}
	slices.SortStableFunc(found, func(a, b near) int { return cmp.Compare(a.missing.Step, b.missing.Step) })
	out := []Answer{}
	perStep := map[int]int{}
	for _, n := range found {
		if perStep[n.missing.Step]++; perStep[n.missing.Step] > 4 { // not forty words of the next step
			continue
		}
		out = append(out, Answer{Word: n.Word, Why: notYet(n.Word, []Missing{n.missing}), Missing: []Missing{n.missing}, Segments: n.Segments, Sounds: n.Sounds})
		if len(out) == limit {
			break
		}
	}
	return out
}
