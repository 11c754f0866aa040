package review

import (
	"math"
	"time"

	"github.com/open-spaced-repetition/go-fsrs/v3"
)

// Memory is how a class forgets: the long-term scheduler of FSRS (Free Spaced Repetition Scheduler, version 5, module
// go-fsrs v3.3.1; Ye, Su and Cao 2022, "A stochastic shortest path algorithm for optimizing spaced repetition
// scheduling"). A class meets a card once a lesson, so steps of minutes are off; so is chance. The zero value has the
// published default weights.
type Memory struct{ model *fsrs.FSRS }

var usual = remembering(fsrs.DefaultWeights())

func remembering(w fsrs.Weights) *fsrs.FSRS {
	p := fsrs.DefaultParam()
	p.W = w
	p.EnableShortTerm = false
	p.RequestRetention = Retention
	return fsrs.NewFSRS(p)
}

func (m Memory) fsrs() *fsrs.FSRS {
	if m.model == nil {
		return usual
	}
	return m.model
}

// Retention is how likely it shall be that a class still has a card when it comes back.
const Retention = 0.9

// rating of a meeting: the four levels of sureness are the model's four ratings.
func rating(s Sureness) fsrs.Rating {
	return [...]fsrs.Rating{NotYet: fsrs.Again, Shaky: fsrs.Hard, Sure: fsrs.Good, Secure: fsrs.Easy}[s]
}

// Trace is what a class keeps of a card: it is one's own to carry along, and grows with Update.
type Trace struct{ card fsrs.Card }

// after is the trace after one more meeting. What was met twice on one day counts as the later one.
func (t Trace) after(m Memory, now time.Time, sure Sureness) Trace {
	if t.card.State != fsrs.New && now.Before(t.card.LastReview) {
		now = t.card.LastReview // a log that was corrected by hand may be out of order
	}
	return Trace{m.fsrs().Next(t.card, now, rating(sure)).Card}
}

// trace is that of a card, or for one of which only the last meeting is known, what that alone leaves.
func (s Seen) trace() Trace {
	if s.Trace.card.State == fsrs.New && !s.Last.IsZero() {
		return Trace{}.after(s.Memory, s.Last, s.Sure)
	}
	return s.Trace
}

// Retrievability is how likely the class still has a card, from 0 to 1.
func (s Seen) Retrievability(now time.Time) float64 {
	t := s.trace()
	if t.card.State == fsrs.New {
		return 0
	}
	if now.Before(t.card.LastReview) {
		now = t.card.LastReview
	}
	return s.Memory.fsrs().GetRetrievability(t.card, now)
}

// StabilityDays is after how many days without a meeting the retrievability falls to nine tenths.
func (s Seen) StabilityDays() float64 { return s.trace().card.Stability }

// Due is when the retrievability falls to nine tenths.
func (s Seen) Due() time.Time {
	t := s.trace().card
	return t.LastReview.Add(time.Duration(math.Round(t.Stability*24)) * time.Hour)
}

// Fading is how much of a card is left, in words and in a shape that needs no colour.
type Fading string

// Grades of fading. The borders are ours (common practice, no published source).
const (
	Fresh  Fading = "fresh"   // 95 in a hundred or more
	Holds  Fading = "holds"   // 90 or more
	Fades  Fading = "fades"   // 75 or more: it comes back
	Faded  Fading = "faded"   // less
	NotMet Fading = "not met" // never
)

// FadingCards names a retrievability.
func FadingCards(r float64) Fading {
	switch {
	case r >= 0.95:
		return Fresh
	case r >= Retention:
		return Holds
	case r >= 0.75:
		return Fades
	case r > 0:
		return Faded
	}
	return NotMet
}
