// Package steps is the registry of the kinds of steps.
//
// Filling a step is a function of what is known to a result: it changes nothing else, and the same step filled twice is
// the same.
package steps

import (
	"fmt"
	"math"
	"slices"

	"brightchalk/internal/core/cardstep"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/wordstep"
)

var registry []step.Record

var byKind = map[lesson.Kind]step.Record{}

// The records are gathered at start: filling a step looks its kind up again.
func init() {
	registry = []step.Record{
		cardstep.WarmUp,
		cardstep.Pack,
		cardstep.Listen,
		wordstep.Ear,
		cardstep.Mouth,
		cardstep.Picture,
		cardstep.Letter,
		cardstep.Capitals,
		cardstep.Hand,
		cardstep.Turnover,
		cardstep.MixIn,
		cardstep.HearFind,
		cardstep.QuickWrite,
		wordstep.Contrast,
		wordstep.Story,
		wordstep.Song,
		wordstep.Look,
		wordstep.Blend,
		wordstep.Read,
		wordstep.Older,
		wordstep.Meaning,
		wordstep.LetterHunt,
		wordstep.Spell,
		wordstep.Exceptions,
		wordstep.MadeUp,
		wordstep.WordPlay,
		wordstep.Sentence,
		wordstep.Page,
		wordstep.Challenge,
		wordstep.Free,
		cardstep.Close,
	}
	for i := range registry {
		r := &registry[i]
		if r.Offers = []string{}; len(r.Ways) > 0 {
			r.Offers = append(r.Offers, "way")
		}
		if r.Older {
			r.Offers = append(r.Offers, "older")
		}
		for _, o := range []struct {
			name string
			has  bool
		}{
			{"times", r.Usually > 0}, {"voices", r.Spoken}, {"tools", r.Tools}, {"words", r.Words}, {"seconds", r.Seconds},
		} {
			if o.has {
				r.Offers = append(r.Offers, o.name)
			}
		}
		if r.Needs == nil {
			r.Needs = []step.Need{}
		}
		if r.Takes == nil {
			r.Takes = []lesson.ItemKind{}
		}
		if r.Ways == nil {
			r.Ways = []step.Way{}
		}
		byKind[r.Kind] = *r
	}
}

// Registry lists all records, in the order in which they are offered.
func Registry() []step.Record { return slices.Clone(registry) }

// Of finds the record of a kind.
func Of(k lesson.Kind) (step.Record, bool) {
	r, ok := byKind[k]
	return r, ok
}

// Takes tells whether something may be sent to a kind of step.
func Takes(k lesson.Kind, item lesson.ItemKind) bool { return slices.Contains(byKind[k].Takes, item) }

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
		if w := s.Options.Way; w != "" && !slices.ContainsFunc(rec.Ways, func(k step.Way) bool { return k.ID == w }) {
			return bad("%q cannot be held as %q", s.Kind, w)
		}
	}
	return nil
}
