package words

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/unfit"
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
	Guessed  bool               `json:"guessed"`         // read by rule, not from the lexicon
	Theme    unfit.Theme        `json:"theme,omitempty"` // by which it is refused
	WhyHere  []Here             `json:"why_here"`        // why the word is spelled so
	Tries    []Try              `json:"tries"`           // other spellings that its sounds allow
}

// Look tells whether a word may be used for a query, and why or why not. steps gives the step of each pair
// of the order. The error says why a text is no word.
func Look(word string, q Query, steps map[spelling.Pair]int, o Options) (Answer, error) {
	word = strings.ToLower(strings.TrimSpace(word))
	seg, err := o.Segment(word)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{
		Word:     word,
		Segments: seg.Segments,
		Sounds:   seg.Sounds,
		Guessed:  seg.Source == lexicon.FromRules,
		Missing:  []Missing{},
	}
	a.WhyHere, a.Tries = WhyHere(seg.Segments), GoodTries(word, seg.Segments, q.Taught, o)
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
	theme, refused := o.Refuses(word)
	e, known := lexicon.Find(word)
	item, inPool := o.Item(word)
	switch {
	case refused:
		a.Theme, a.Tries = theme, []Try{}
		a.Why = fmt.Sprintf(
			"%s is kept out of what children are offered (%s). A lead can allow the single word under Team.",
			word,
			strings.ReplaceAll(string(theme), "-", " "),
		)
	case known && !e.At(o.Accent):
		a.Why = otherSide(e, o.Accent)
	case q.Exclude[word]:
		a.Why = fmt.Sprintf("The team has refused %s.", word)
	case odd != "" && len(a.Missing) > 0:
		a.Why = fmt.Sprintf("%s is an exception word: %s is the odd part. Teach it as such.", word, odd)
	case len(readings) > 1 && taughtReadings > 0 && len(a.Missing) > 0:
		a.Why = fmt.Sprintf("%s can be said in two ways, and only one has been taught.", word)
	case len(a.Missing) > 0:
		a.Why = notYet(word, a.Missing)
	case inPool && item.Doubt == lexicon.VoicedForm:
		a.May, a.Why = true, fmt.Sprintf(
			"%s can be read, but its end is said otherwise than in %s. Say it first; it is not offered by itself.",
			word,
			strings.TrimSuffix(word, "s"),
		)
	case inPool && item.Doubt == lexicon.TwoReadings:
		a.May, a.Why = true, fmt.Sprintf(
			"%s can be read, but it is said in two ways: only the sentence tells which. It is not offered by itself.",
			word,
		)
	case q.Target != nil && !spelling.Holds(seg.Segments, *q.Target):
		a.May, a.Why = true, fmt.Sprintf(
			"%s can be read, but it does not hold %s as it is taught here.",
			word,
			q.Target.Grapheme,
		)
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

// IsNear lists the known words that fit the query but for one pair not yet taught, those that come soonest
// first, at most limit. Words with a pair that no step teaches are left out.
func IsNear(q Query, steps map[spelling.Pair]int, limit int, o Options) []Answer {
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
		out = append(
			out,
			Answer{
				Word:     n.Word,
				Why:      notYet(n.Word, []Missing{n.missing}),
				Missing:  []Missing{n.missing},
				Segments: n.Segments,
				Sounds:   n.Sounds,
				WhyHere:  []Here{},
				Tries:    []Try{},
			},
		)
		if len(out) == limit {
			break
		}
	}
	return out
}

// otherSide says of a word from the other side of the ocean what is said here.
func otherSide(e *lexicon.Entry, a phoneme.Accent) string {
	from := map[bool]string{true: "British", false: "American"}[a.American()]
	if ours := lexicon.Ours(e.Word, a); ours != "" {
		return fmt.Sprintf("%s is %s; here it is %s.", e.Word, from, ours)
	}
	return fmt.Sprintf("%s is %s and not offered here.", e.Word, from)
}

// Unlock is a pair not yet taught, with how many well-known words it alone would make readable.
type Unlock struct {
	Pair  spelling.Pair `json:"pair"`
	Step  int           `json:"step"` // of the order
	Words int           `json:"words"`
	Best  []string      `json:"best"` // up to four of them
}

const bestUnlocked = 4

// MaxUnlocked finds the one pair of the order that would make most words of the query readable, at once; of equal
// ones the one that comes first. It is false where none would.
func MaxUnlocked(q Query, steps map[spelling.Pair]int, o Options) (Unlock, bool) {
	wide := q
	wide.Taught, wide.Limit, wide.Target, wide.Position = spelling.Set{}, 0, nil, Any
	for p := range q.Taught {
		wide.Taught[p] = true
	}
	for p := range steps {
		wide.Taught[p] = true
	}
	by := map[spelling.Pair]*Unlock{}
	for _, c := range Find(wide, o) {
		untaught := q.Taught.Untaught(c.Segments)
		if len(untaught) != 1 {
			continue
		}
		u := by[untaught[0]]
		if u == nil {
			u = &Unlock{Pair: untaught[0], Step: steps[untaught[0]]}
			by[untaught[0]] = u
		}
		if u.Words++; len(u.Best) < bestUnlocked {
			u.Best = append(u.Best, c.Word)
		}
	}
	var best Unlock
	for _, u := range by {
		if u.Words > best.Words || u.Words == best.Words && u.Step < best.Step {
			best = *u
		}
	}
	return best, best.Words > 0
}
