// Package step says what a kind of step is: one record with its pace, what it needs and offers, what may be sent to it,
// how it is shown, which sheet it prints, what it is filled with and what is said in it.
//
// Filling a step is a function of what is known to a result: it changes nothing else, and the same step filled twice is
// the same.
package step

import (
	"cmp"
	"math"

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

// PictureFirst is the way of a list of words in which each word's picture comes before it.
const PictureFirst = "picture-first"

// Way is one option of how a step is held.
type Way struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Ways makes a list of ways from IDs and names by turns.
func Ways(pairs ...string) []Way {
	var out []Way
	for i := 0; i+1 < len(pairs); i += 2 {
		out = append(out, Way{pairs[i], pairs[i+1]})
	}
	return out
}

// Record is a kind of step. Least, usual and most are seconds; Item the seconds for each thing shown, 0 where the time
// does not go by things (common practice, no published source).
type Record struct {
	Kind         lesson.Kind       `json:"kind"`
	Name         string            `json:"name"`
	Family       lesson.Family     `json:"family" enum:"ear,mouth,eye,hand,word,page"`
	MinSeconds   int               `json:"least_s"`
	UsualSeconds int               `json:"usual_s"`
	MaxSeconds   int               `json:"most_s"`
	ItemSeconds  int               `json:"item_s"`
	Needs        []Need            `json:"needs" doc:"without which it is left out"`
	Offers       []string          `json:"offers" doc:"ways and options of the step"`
	Takes        []lesson.ItemKind `json:"takes" doc:"what may be sent to it"`
	Sheet        string            `json:"sheet" doc:"that it prints; empty for none"`
	Shows        Layout            `json:"shows"`
	Ways         []Way             `json:"ways" doc:"the first is the usual"`
	About        string            `json:"about"`
	Rank         int               `json:"rank" doc:"the lower, the sooner it falls out when time is short"`

	Older    bool                                                              `json:"-"` // it takes a share of older words
	Usually  int                                                               `json:"-"` // how often it is gone through; 0: it cannot be told
	Again    int                                                               `json:"-"` // seconds of each further time: of an item, or of the step where it does not go by items
	Spoken   bool                                                              `json:"-"` // each item can say who speaks
	Tools    bool                                                              `json:"-"` // the team may name its tools
	Seconds  bool                                                              `json:"-"` // the team may say how long it is
	Words    bool                                                              `json:"-"` // the team may write words for it
	Within   lesson.Kind                                                       `json:"-"` // it has no more items than that step: its words are among that one's
	Material func(b *FillInput, s lesson.RoutineStep) (Material, *fault.Fault) `json:"-"`
	Tell     func(t *Narration, s *lesson.Step)                                `json:"-"`
}

// Material is what a step could show: fewer than Least items and it cannot be held. Span gives its seconds where they
// do not go by items. Take gives the first n.
// By is by how many items it grows, 0 for one.
type Material struct {
	Least, Most int
	By          int
	Span        *Span
	Take        func(n int) FillResult
}

// Span is how short and how long a step may be, in seconds.
type Span struct{ Least, Usual, Most int }

// FillResult is what is shown, with what could stand there instead.
type FillResult struct {
	Items []lesson.Item
	Rest  []lesson.Option
	Deck  []lesson.Show
}

// Span is how long a step may be with its material, in seconds; for steps that go by items the counts follow from it.
func (r Record) Span(m Material, s lesson.RoutineStep) (span Span, counts [3]int) {
	w := s.WeightOr1()
	least, usual, most := r.MinSeconds, int(float64(r.UsualSeconds)*w), int(float64(r.MaxSeconds)*max(1, w))
	if m.Span != nil {
		return m.Span.weighed(w), counts
	}
	if r.ItemSeconds == 0 {
		more := r.more(s.Options.Times)
		return Span{max(1, min(least, usual)+more), usual + more, max(most, usual) + more}, counts
	}
	r.ItemSeconds = r.PerItem(s.Options.Times)
	by := max(1, m.By)
	lo := max(m.Least, cmp.Or(s.Least, (least+r.ItemSeconds-1)/r.ItemSeconds))
	lo = min((lo+by-1)/by*by, m.Most/by*by)
	hi := max(lo, min(m.Most, most/r.ItemSeconds)/by*by)
	per := int(math.Round(float64(usual)/float64(r.ItemSeconds*by))) * by
	counts = [3]int{lo, max(lo, min(hi, per)), hi}
	return Span{lo * r.ItemSeconds, counts[1] * r.ItemSeconds, hi * r.ItemSeconds}, counts
}

// Paced is a kind as a class holds it that takes so much of the usual time; 0 is the usual.
func (r Record) Paced(pace float64) Record {
	if pace <= 0 || pace == 1 {
		return r
	}
	by := func(seconds int) int { return int(math.Round(float64(seconds) * pace)) }
	r.MinSeconds, r.UsualSeconds, r.MaxSeconds = by(r.MinSeconds), by(r.UsualSeconds), by(r.MaxSeconds)
	r.Again = by(r.Again)
	if r.ItemSeconds > 0 {
		r.ItemSeconds = max(1, by(r.ItemSeconds))
	}
	return r
}

// Paced is a span of a class that takes so much of the usual time; 0 is the usual.
func (s Span) Paced(pace float64) Span {
	if pace <= 0 {
		return s
	}
	by := func(seconds int) int { return int(math.Round(float64(seconds) * pace)) }
	return Span{by(s.Least), by(s.Usual), by(s.Most)}
}

// PerItem is how many seconds each item takes when all are gone through so often, 0 for the usual. It is 0 where the
// time does not go by items.
func (r Record) PerItem(times int) int {
	if r.ItemSeconds == 0 {
		return 0
	}
	return max(1, r.ItemSeconds+r.more(times))
}

func (r Record) more(times int) int {
	if times == 0 || r.Usually == 0 {
		return 0
	}
	return (times - r.Usually) * r.Again
}

// weighed is a span by the team's weight; one without play stays as it is.
func (s Span) weighed(w float64) Span {
	if s.Least == s.Most {
		return s
	}
	usual := max(s.Least, int(float64(s.Usual)*w))
	return Span{s.Least, usual, max(usual, int(float64(s.Most)*max(1, w)))}
}
