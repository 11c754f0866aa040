package step

import (
	"fmt"
	"math"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
)

// Registry is a list of kinds of steps.
type Registry struct {
	records []Record
	byKind  map[lesson.Kind]Record
}

// NewRegistry returns a registry of records in the order in which screens offer them. It fills in what follows from
// the rest of a record (Offers), and replaces nil lists by empty ones.
func NewRegistry(records ...Record) Registry {
	out := Registry{records, map[lesson.Kind]Record{}}
	for i := range records {
		r := &records[i]
		r.Offers = r.offers()
		r.Needs = append([]Need{}, r.Needs...)
		r.Takes = append([]lesson.ItemKind{}, r.Takes...)
		r.Ways = append([]Way{}, r.Ways...)
		out.byKind[r.Kind] = *r
	}
	return out
}

// offers lists the options that a routine may set for a kind.
func (r Record) offers() []string {
	out := []string{}
	for _, o := range []struct {
		name string
		has  bool
	}{
		{"way", len(r.Ways) > 0},
		{"older", r.Older},
		{"times", r.Usually > 0},
		{"voices", r.Spoken},
		{"tools", r.Tools},
		{"words", r.Words},
		{"seconds", r.Seconds},
	} {
		if o.has {
			out = append(out, o.name)
		}
	}
	return out
}

// All lists the records, in the order in which screens offer them.
func (r Registry) All() []Record { return slices.Clone(r.records) }

// Of returns the record of a kind; false if there is no such kind.
func (r Registry) Of(k lesson.Kind) (Record, bool) {
	rec, ok := r.byKind[k]
	return rec, ok
}

// Takes reports whether an item may be sent to a kind of step.
func (r Registry) Takes(k lesson.Kind, item lesson.ItemKind) bool {
	return slices.Contains(r.byKind[k].Takes, item)
}

// ErrRoutine is wrapped by what is wrong with a routine.
const ErrRoutine fault.Code = "routine"

const maxSteps = 30

// CheckRoutine returns an error that names what is wrong with a routine.
func (r Registry) CheckRoutine(in lesson.Routine) error {
	bad := func(format string, args ...any) error {
		return fault.New(ErrRoutine, "the routine cannot be used: %s", fmt.Sprintf(format, args...))
	}
	if len(in.Steps) == 0 {
		return bad("it has no steps; add at least one")
	}
	if len(in.Steps) > maxSteps {
		return bad("it has %d steps; up to %d can be held", len(in.Steps), maxSteps)
	}
	for _, s := range in.Steps {
		rec, ok := r.Of(s.Kind)
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
