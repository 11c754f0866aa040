// Package step is the registry of the kinds of steps: each is one record with its pace, what it needs and offers, what
// may be sent to it, how it is shown, which sheet it prints, what it is filled with and what is said in it.
//
// Filling a step is a function of what is known to a result: it changes nothing else, and the same step filled twice is
// the same.
package step

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
)

// Need is what a kind of step cannot be held without.
type Need string

// Needs.
const (
	NeedTarget    Need = "target"
	NeedMet       Need = "met cards"
	NeedWords     Need = "readable words"
	NeedSound     Need = "one sound"
	NeedPictures  Need = "pictures"
	NeedCardFace  Need = "picture or rhyme"
	NeedSentence  Need = "sentence"
	NeedPage      Need = "page"
	NeedTwo       Need = "two targets"
	NeedLetter    Need = "a single letter"
	NeedTeamWords Need = "the team's words"
)

// Layout is how a stage shows the items of a step.
type Layout string

// Layouts.
const (
	ShowSound    Layout = "sound"    // nothing to read: an ear
	ShowMouth    Layout = "mouth"    // the cue
	ShowSort     Layout = "sort"     // a picture, then its basket
	ShowCard     Layout = "card"     // the card, letter or picture side
	ShowWriting  Layout = "writing"  // the letter writes itself
	ShowDeck     Layout = "deck"     // one side after the other
	ShowSet      Layout = "set"      // several graphemes at once
	ShowHidden   Layout = "hidden"   // a frame for each sound, then the word
	ShowWord     Layout = "word"     // one word, then its bridges
	ShowSentence Layout = "sentence" // pieces, then the sentence
	ShowPage     Layout = "page"
	ShowText     Layout = "text"
)

// Way is one option of how a step is held.
type Way struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Record is a kind of step. Least, usual and most are seconds; Item the seconds for each thing shown, 0 where the time
// does not go by things (common practice, no published source).
type Record struct {
	Kind         lesson.Kind       `json:"kind"`
	Name         string            `json:"name"`
	Family       lesson.Family     `json:"family" enum:"ear,mouth,eye,hand,word,page"`
	LeastSeconds int               `json:"least_s"`
	UsualSeconds int               `json:"usual_s"`
	MostSeconds  int               `json:"most_s"`
	ItemSeconds  int               `json:"item_s"`
	Needs        []Need            `json:"needs" nullable:"false" doc:"without which it is left out"`
	Offers       []string          `json:"offers" nullable:"false" doc:"ways and options of the step"`
	Takes        []lesson.ItemKind `json:"takes" nullable:"false" doc:"what may be sent to it"`
	Sheet        string            `json:"sheet" doc:"that it prints; empty for none"`
	Shows        Layout            `json:"shows"`
	Ways         []Way             `json:"ways" nullable:"false" doc:"the first is the usual"`
	About        string            `json:"about"`

	older, times, words bool        // options that it offers
	rank                int         // the lower, the sooner it falls out when time is short
	within              lesson.Kind // it has no more items than that step: its words are among that one's
	material            func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault)
	tell                func(t *Telling, s *lesson.Step)
}

// Material is what a step could show: fewer than Least items and it cannot be held. Span gives its seconds where they
// do not go by items. Take gives the first n.
// By is by how many items it grows, 0 for one.
type Material struct {
	Least, Most int
	By          int
	Span        *Span
	Take        func(n int) Filling
}

// Span is how short and how long a step may be, in seconds.
type Span struct{ Least, Usual, Most int }

// Filling is what is shown, with what could stand there instead.
type Filling struct {
	Items []lesson.Item
	Rest  []lesson.Option
	Deck  []lesson.Show
}

// Registry lists all records, in the order in which they are offered.
func Registry() []Record { return slices.Clone(registry) }

// Of finds the record of a kind.
func Of(k lesson.Kind) (Record, bool) {
	r, ok := byKind[k]
	return r, ok
}

// Takes tells whether something may be sent to a kind of step.
func Takes(k lesson.Kind, item lesson.ItemKind) bool { return slices.Contains(byKind[k].Takes, item) }

// Rank orders steps by how much they are needed.
func (r Record) Rank() int { return r.rank }

// Within is the kind of step among whose words this one's are; empty for none.
func (r Record) Within() lesson.Kind { return r.within }

// ErrRoutine is wrapped by what is wrong with a routine.
const ErrRoutine fault.Code = "routine"

const mostSteps = 30

// CheckRoutine returns an error that names what is wrong with a routine.
func CheckRoutine(r lesson.Routine) error {
	bad := func(format string, args ...any) error {
		return fault.New(ErrRoutine, "the routine cannot be used: %s", fmt.Sprintf(format, args...))
	}
	if len(r.Steps) == 0 {
		return bad("it has no steps; add at least one")
	}
	if len(r.Steps) > mostSteps {
		return bad("it has %d steps; up to %d can be held", len(r.Steps), mostSteps)
	}
	for _, s := range r.Steps {
		rec, ok := Of(s.Kind)
		if !ok {
			return bad("%q is not a step that can be assembled", s.Kind)
		}
		if s.Weight != 0 && (s.Weight < 0.25 || s.Weight > 4) {
			return bad("the weight of %q is %g; it lies between 0.25 and 4", s.Kind, s.Weight)
		}
		if o := s.Options.Older; o != nil && (*o < 0 || *o > 1 || math.IsNaN(*o)) {
			return bad("the share of older words in %q lies between 0 and 1", s.Kind)
		}
		if w := s.Options.Way; w != "" && !slices.ContainsFunc(rec.Ways, func(k Way) bool { return k.ID == w }) {
			return bad("%q cannot be held as %q", s.Kind, w)
		}
	}
	return nil
}

// Span is how long a step may be with its material, in seconds; for steps that go by items the counts follow from it.
func (r Record) Span(m Material, s lesson.RoutineStep) (span Span, counts [3]int) {
	w := s.WeightOr1()
	least, usual, most := r.LeastSeconds, int(float64(r.UsualSeconds)*w), int(float64(r.MostSeconds)*max(1, w))
	if m.Span != nil {
		return *m.Span, counts
	}
	if r.ItemSeconds == 0 {
		return Span{min(least, usual), usual, max(most, usual)}, counts
	}
	by := max(1, m.By)
	lo := max(m.Least, cmp.Or(s.Least, (least+r.ItemSeconds-1)/r.ItemSeconds))
	lo = min((lo+by-1)/by*by, m.Most/by*by)
	hi := max(lo, min(m.Most, most/r.ItemSeconds)/by*by)
	per := int(math.Round(float64(usual)/float64(r.ItemSeconds*by))) * by
	counts = [3]int{lo, max(lo, min(hi, per)), hi}
	return Span{lo * r.ItemSeconds, counts[1] * r.ItemSeconds, hi * r.ItemSeconds}, counts
}
