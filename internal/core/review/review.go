// Package review picks the cards that come back: shaky ones soon, sure ones seldom, secure ones not at all.
package review

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"slices"
	"time"
)

// Sureness is how sure the class was of a card, as the teacher logged it.
type Sureness int

const (
	NotYet Sureness = iota
	Shaky
	Sure
	Secure
)

// Seen is one card in the log of a class. Streak counts the meetings in a row that were Secure, SureRun those that were
// Sure at least.
type Seen struct {
	CardID  string
	Last    time.Time
	Sure    Sureness
	Streak  int
	SureRun int
	Times   int
}

// SecureAfter is how many secure meetings in a row send a card out of the pack, and RestDays how long it
// then stays out (common practice, no published source for the numbers).
const (
	SecureAfter = 3
	RestDays    = 28
)

// Pick is a card for the pack and why.
type Pick struct {
	CardID  string `json:"card_id"`
	Because string `json:"because"`
}

// Choose returns up to n cards, the most needed first and equals in an order set by rng. What is long
// secure stays out, so that the pack does not grow with the year.
func Choose(log []Seen, n int, now time.Time, rng *rand.Rand) (picks []Pick, resting int) {
	type ranked struct {
		Pick
		need float64
		tie  float64
	}
	var all []ranked
	for _, s := range log {
		days := now.Sub(s.Last).Hours() / 24
		if s.Sure == Secure && s.Streak >= SecureAfter && days < RestDays {
			resting++
			continue
		}
		interval := []float64{0.5, 1, 4, 10}[s.Sure]
		all = append(
			all,
			ranked{Pick{s.CardID, because(s, days)}, days/interval + []float64{6, 4, 0, -1}[s.Sure], rng.Float64()},
		)
	}
	slices.SortFunc(all, func(a, b ranked) int {
		return cmp.Or(cmp.Compare(b.need, a.need), cmp.Compare(a.tie, b.tie))
	})
	for _, r := range all[:min(n, len(all))] {
		picks = append(picks, r.Pick)
	}
	return picks, resting
}

func because(s Seen, days float64) string {
	ago := "today"
	switch d := int(days + 0.5); {
	case d == 1:
		ago = "yesterday"
	case d > 1:
		ago = fmt.Sprintf("%d days ago", d)
	}
	switch s.Sure {
	case NotYet:
		return "not yet known when last met, " + ago
	case Shaky:
		return "shaky when last met, " + ago
	case Sure:
		return "sure, last met " + ago
	}
	return "secure, last met " + ago
}

// sureUntilSecure is at which sure meeting in a row a card counts as secure (common practice, no published source).
const sureUntilSecure = 3

// Untouched is what a meeting is noted as in which nothing was unsure: sure, and secure from the third in a row.
func (s Seen) Untouched() Sureness {
	if s.Sure == Secure || s.SureRun+1 >= sureUntilSecure {
		return Secure
	}
	return Sure
}

// Update is the record of a card after one more meeting.
func Update(s Seen, now time.Time, sure Sureness) Seen {
	s.Last, s.Sure = now, sure
	s.Times++
	if sure == Secure {
		s.Streak++
	} else {
		s.Streak = 0
	}
	if sure >= Sure {
		s.SureRun++
	} else {
		s.SureRun = 0
	}
	return s
}
