package lesson

import (
	"cmp"
	"strconv"

	"brightchalk/internal/core/document"
)

// RoutineStep is one step as the team wants it. Weight is its share of the time against the usual, 0.25 to 4; 0 is
// read as 1. Least is the fewest items that it is held with, 0 the kind's own.
type RoutineStep struct {
	Kind    Kind    `json:"kind"`
	Name    string  `json:"name,omitempty" maxLength:"40"`
	Weight  float64 `json:"weight,omitempty" minimum:"0" maximum:"4"`
	Least   int     `json:"least,omitempty" minimum:"0" maximum:"12" doc:"fewest items, 0: the usual"`
	Options Options `json:"options,omitzero" required:"false"`
}

// Options are the choices inside a step; which of them a kind knows stands in its record. The zero value is the usual.
type Options struct {
	Way     string   `json:"way,omitempty" maxLength:"20" doc:"one of the ways that the kind of step knows"`
	Older   *float64 `json:"older,omitempty" minimum:"0" maximum:"1" doc:"share of words of earlier lessons; unset: a third"`
	Times   int      `json:"times,omitempty" minimum:"0" maximum:"6" doc:"how often it is gone through; 0: the usual"`
	Voices  []Voice  `json:"voices,omitempty" maxItems:"4" enum:"adult,both,class,silently" doc:"who speaks the first item, the second …; the last goes on"`
	Tools   []string `json:"tools,omitempty" maxItems:"6" doc:"materials of the hand step, in their order"`
	Words   []string `json:"words,omitempty" maxItems:"12" doc:"what the adult says in a free step"`
	Seconds int      `json:"seconds,omitempty" minimum:"0" maximum:"1800" doc:"of a free step"`
}

// OlderShare is the share of older words in a list of words.
func (o Options) OlderShare() float64 {
	if o.Older == nil {
		return 1.0 / 3
	}
	return *o.Older
}

// Routine is an ordered list of steps for a purpose.
type Routine struct {
	Name  string        `json:"name"`
	Steps []RoutineStep `json:"steps"`
}

func share(s float64) *float64 { return &s }

// The routines that ship; a team renames, drops, repeats and reorders. The run of steps is ours (product.md).
var routines = map[Purpose]Routine{
	Introduce: {"A new sound", []RoutineStep{
		{Kind: Listen},
		{Kind: Ear},
		{Kind: Mouth},
		{Kind: Picture},
		{Kind: Letter},
		{Kind: Hand},
		{Kind: Turnover},
		{Kind: Pack},
		{Kind: Blend},
		{Kind: Read},
		{Kind: Spell},
		{Kind: Sentence},
		{Kind: Page},
		{Kind: ClosePart},
	}},
	Again: {"The same sound again", []RoutineStep{
		{Kind: Pack},
		{Kind: Listen, Weight: 0.5},
		{Kind: HearFind},
		{Kind: Hand, Weight: 0.5},
		{Kind: Blend},
		{Kind: Read},
		{Kind: Spell},
		{Kind: Exceptions},
		{Kind: Sentence},
		{Kind: Page},
		{Kind: ClosePart},
	}},
	Revise: {"Nothing new", []RoutineStep{
		{Kind: Pack},
		{Kind: HearFind},
		{Kind: QuickWrite},
		{Kind: Blend},
		{Kind: Read, Options: Options{Older: share(0)}},
		{Kind: WordPlay},
		{Kind: Exceptions},
		{Kind: Spell, Options: Options{Older: share(0)}},
		{Kind: Sentence},
		{Kind: Page},
		{Kind: ClosePart},
	}},
	Compare: {"Two side by side", []RoutineStep{
		{Kind: Pack},
		{Kind: Mouth},
		{Kind: Contrast},
		{Kind: Blend},
		{Kind: Read, Options: Options{Older: share(0)}},
		{Kind: Spell, Options: Options{Older: share(0)}},
		{Kind: Sentence},
		{Kind: Page},
		{Kind: ClosePart},
	}},
	CatchUp: {"A few minutes", []RoutineStep{
		{Kind: Listen, Weight: 0.5},
		{Kind: Blend, Least: 2},
		{Kind: Read, Least: 3},
		{Kind: Spell, Least: 1},
		{Kind: Sentence, Weight: 0.75},
		{Kind: ClosePart, Weight: 0.5},
	}},
}

// DefaultRoutine is ours for a purpose.
func DefaultRoutine(p Purpose) Routine {
	r := routines[p]
	r.Steps = append([]RoutineStep{}, r.Steps...)
	return r
}

// StepIDs names the steps of a routine, each by its kind, those that stand there again with their number: read, read-2.
func (r Routine) StepIDs() []string {
	met := map[Kind]int{}
	out := make([]string, len(r.Steps))
	for i, s := range r.Steps {
		met[s.Kind]++
		out[i] = string(s.Kind)
		if n := met[s.Kind]; n > 1 {
			out[i] += "-" + strconv.Itoa(n)
		}
	}
	return out
}

// WeightOr1 is the weight that counts.
func (s RoutineStep) WeightOr1() float64 { return cmp.Or(s.Weight, 1) }

// RoutineDocuments reads and writes stored routines. Version 2 says weight and options for each step and takes the same
// kind more than once; version 1 reads as it is.
var RoutineDocuments = document.Kind[Routine]{Name: "routine", Steps: []func(map[string]any){func(map[string]any) {}}}
