// Package review remembers how well a class has each card and picks those that come back: first what is new in the next
// lessons, then what would be lost soonest; secure ones seldom, but for ever.
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
	First   time.Time
	Last    time.Time
	Sure    Sureness
	Streak  int
	SureRun int
	Times   int
	Lapses  int // meetings after the first that were NotYet
	Trace   Trace
	Memory  Memory // the zero value is the usual one
}

// freshFor is in how many of the lessons after its own a new card comes back whatever else is due, and maxFreshCards
// how many of the newest do (common practice, no published source for the numbers). restAbove is how well a secure card
// is remembered while it rests.
const (
	freshFor      = 5
	maxFreshCards = 3
	restAbove     = 0.95
)

// Pick is a card for the pack and why.
type Pick struct {
	CardID  string `json:"card_id"`
	Because string `json:"because"`
}

// Choose returns up to n cards: the newest for five lessons, then those of which most would be lost, and equals in an
// order set by rng. What is secure rests until it begins to fade, so that the pack does not grow with the year.
func Choose(log []Seen, n int, now time.Time, rng *rand.Rand) (picks []Pick, resting int) {
	type ranked struct {
		Pick
		need float64
		tie  float64
	}
	newest := newestMeeting(log)
	var all []ranked
	for _, s := range log {
		r := s.Retrievability(now)
		if s.Sure == Secure && r >= restAbove && !newest[s.CardID] {
			resting++
			continue
		}
		need, why := 1-r, because(s, now.Sub(s.Last).Hours()/24)
		if newest[s.CardID] {
			need, why = need+1, why+"; new, so it comes back in each of the next lessons"
		}
		all = append(all, ranked{Pick{s.CardID, why}, need, rng.Float64()})
	}
	slices.SortFunc(all, func(a, b ranked) int {
		return cmp.Or(cmp.Compare(b.need, a.need), cmp.Compare(a.tie, b.tie))
	})
	for _, r := range all[:min(n, len(all))] {
		picks = append(picks, r.Pick)
	}
	return picks, resting
}

// newestMeeting are the cards met last for the first time, for as long as they are new.
func newestMeeting(log []Seen) map[string]bool {
	var fresh []Seen
	for _, s := range log {
		if s.Times >= 1 && s.Times <= freshFor && !s.First.IsZero() {
			fresh = append(fresh, s)
		}
	}
	slices.SortFunc(
		fresh,
		func(a, b Seen) int { return cmp.Or(b.First.Compare(a.First), cmp.Compare(a.CardID, b.CardID)) },
	)
	out := map[string]bool{}
	for _, s := range fresh[:min(maxFreshCards, len(fresh))] {
		out[s.CardID] = true
	}
	return out
}

// Because says how sure the class was when it last met the card, and when that was.
func (s Seen) Because(now time.Time) string { return because(s, now.Sub(s.Last).Hours()/24) }

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
	if s.Times == 0 && s.Last.IsZero() { // a card that was declared is not new
		s.First = now
	} else if sure == NotYet {
		s.Lapses++
	}
	s.Trace = s.trace().after(s.Memory, now, sure)
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
