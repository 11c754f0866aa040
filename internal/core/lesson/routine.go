// Package lesson assembles the introduction of a new sound in the team's routine: what is said, which
// cards, pictures, words and sentence, how long each step takes, and why.
package lesson

import (
	"slices"

	"brightchalk/internal/core/document"
	"brightchalk/internal/core/fault"
)

// Kind of a step of the routine.
type Kind string

const (
	WarmUp    Kind = "warm-up"
	Listen    Kind = "listen"
	Mouth     Kind = "mouth"
	Ear       Kind = "ear"
	Picture   Kind = "picture"
	Letter    Kind = "letter"
	Turnover  Kind = "turnover"
	Hand      Kind = "hand"
	MixIn     Kind = "mix-in"
	Blend     Kind = "blend"
	Read      Kind = "read"
	Spell     Kind = "spell"
	Sentence  Kind = "sentence"
	Page      Kind = "page"
	ClosePart Kind = "close"
)

// Family groups steps by what works in them; the screens give each family a shape.
type Family string

const (
	EarFamily   Family = "ear"
	MouthFamily Family = "mouth"
	EyeFamily   Family = "eye"
	HandFamily  Family = "hand"
	WordFamily  Family = "word"
	PageFamily  Family = "page"
)

// RoutineStep is one step as the team wants it. Weight is its share of the time against the usual, 0.25 to
// 4; 0 is read as 1.
type RoutineStep struct {
	Kind   Kind    `json:"kind"`
	Name   string  `json:"name,omitempty" maxLength:"40"`
	Weight float64 `json:"weight,omitempty" minimum:"0" maximum:"4"`
}

// Routine is the team's ordered list of steps.
type Routine struct {
	Name  string        `json:"name"`
	Steps []RoutineStep `json:"steps"`
}

// StepKind is a kind of step with its bounds in seconds, and the seconds for each item shown in it, 0 where it shows
// none (common practice, no published source).
type StepKind struct {
	Kind         Kind   `json:"kind"`
	Name         string `json:"name"`
	Family       Family `json:"family" enum:"ear,mouth,eye,hand,word,page"`
	LeastSeconds int    `json:"least_s"`
	UsualSeconds int    `json:"usual_s"`
	MostSeconds  int    `json:"most_s"`
	ItemSeconds  int    `json:"item_s"`
}

// stepKinds are all kinds of steps, in the usual order.
var stepKinds = []StepKind{
	{WarmUp, "Warm-up", EyeFamily, 40, 90, 200, 6},
	{Listen, "Listen", EarFamily, 30, 60, 120, 0},
	{Mouth, "Mouth", MouthFamily, 30, 60, 120, 0},
	{Ear, "Ear", EarFamily, 70, 150, 300, 15},
	{Picture, "Picture", EyeFamily, 45, 90, 180, 0},
	{Letter, "Letter", EyeFamily, 20, 45, 90, 0},
	{Turnover, "Turnover", EyeFamily, 36, 72, 150, 4},
	{Hand, "Hand", HandFamily, 60, 150, 300, 0},
	{MixIn, "Mix-in", EyeFamily, 30, 75, 150, 4},
	{Blend, "Blend by ear", EarFamily, 30, 60, 120, 15},
	{Read, "Read", WordFamily, 60, 120, 300, 25},
	{Spell, "Spell", WordFamily, 60, 120, 300, 35},
	{Sentence, "Sentence", PageFamily, 45, 90, 200, 0},
	{Page, "Page", PageFamily, 60, 120, 300, 0},
	{ClosePart, "Close", MouthFamily, 20, 40, 80, 0},
}

var paces = func() map[Kind]StepKind {
	out := map[Kind]StepKind{}
	for _, k := range stepKinds {
		out[k.Kind] = k
	}
	return out
}()

// StepKinds lists all kinds of steps, in the usual order.
func StepKinds() []StepKind { return slices.Clone(stepKinds) }

// DefaultRoutine is the usual run.
func DefaultRoutine() Routine {
	r := Routine{Name: "Daily introduction"}
	for _, k := range stepKinds {
		r.Steps = append(r.Steps, RoutineStep{Kind: k.Kind, Name: k.Name})
	}
	return r
}

// ErrRoutine is wrapped by what is wrong with a routine.
const ErrRoutine fault.Code = "routine"

// Check returns an error that names what is wrong with the routine.
func (r Routine) Check() error {
	if len(r.Steps) == 0 {
		return fault.New(ErrRoutine, "the routine cannot be used: it has no steps; add at least one")
	}
	seen := map[Kind]bool{}
	for _, s := range r.Steps {
		if _, ok := paces[s.Kind]; !ok {
			return fault.New(ErrRoutine, "the routine cannot be used: %q is not a step that can be assembled", s.Kind)
		}
		if seen[s.Kind] {
			return fault.New(ErrRoutine, "the routine cannot be used: the step %q stands in it twice", s.Kind)
		}
		if s.Weight != 0 && (s.Weight < 0.25 || s.Weight > 4) {
			return fault.New(
				ErrRoutine,
				"the routine cannot be used: the weight of %q is %g; it lies between 0.25 and 4",
				s.Kind,
				s.Weight,
			)
		}
		seen[s.Kind] = true
	}
	return nil
}

// Bounds of a lesson in minutes.
const (
	LeastMinutes = 10
	MostMinutes  = 40
)

// share gives each step its seconds so that together they fill the time as near as their bounds allow:
// all steps move from the usual towards their least or their most by one common fraction.
func share(steps []RoutineStep, minutes int) []int {
	target := minutes * 60
	type span struct{ least, usual, most float64 }
	spans := make([]span, len(steps))
	var least, usual, most float64
	for i, s := range steps {
		p, w := paces[s.Kind], s.Weight
		if w == 0 {
			w = 1
		}
		spans[i] = span{
			float64(p.LeastSeconds),
			max(float64(p.LeastSeconds), float64(p.UsualSeconds)*w),
			max(float64(p.LeastSeconds), float64(p.MostSeconds)*max(1, w)),
		}
		least += spans[i].least
		usual += spans[i].usual
		most += spans[i].most
	}
	out := make([]int, len(steps))
	for i, s := range spans {
		seconds := s.usual
		switch t := float64(target); {
		case t < usual && usual > least:
			f := min(1, (usual-t)/(usual-least))
			seconds = s.usual - f*(s.usual-s.least)
		case t > usual && most > usual:
			f := min(1, (t-usual)/(most-usual))
			seconds = s.usual + f*(s.most-s.usual)
		}
		out[i] = int(seconds/5+0.5) * 5
	}
	// Rounding to five seconds must not make the lesson longer: the longest steps give or take the rest.
	if t := float64(target); t >= least && t <= most {
		total := 0
		for _, s := range out {
			total += s
		}
		for total != target && total-target < 5*len(out) && target-total < 5*len(out) {
			longest := 0
			for i, s := range out {
				if s > out[longest] {
					longest = i
				}
			}
			step := min(5, max(-5, target-total))
			out[longest] += step
			total += step
		}
	}
	return out
}

// RoutineDocuments reads and writes stored routines.
var RoutineDocuments = document.Kind[Routine]{Name: "routine"}
