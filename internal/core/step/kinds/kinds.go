// Package kinds holds the kinds of steps: what each shows, how many items, and what is said. Registry lists them all:
//
//	record, ok := kinds.Registry.Of(lesson.Read)
package kinds

import "brightchalk/internal/core/step"

// Registry holds all kinds of steps, in the order in which screens offer them.
var Registry = step.NewRegistry(
	WarmUp,
	Pack,
	Listen,
	Ear,
	Mouth,
	Picture,
	Letter,
	Capitals,
	Hand,
	Turnover,
	MixIn,
	HearFind,
	QuickWrite,
	Contrast,
	Story,
	Song,
	Look,
	Blend,
	Read,
	Older,
	Meaning,
	LetterHunt,
	Spell,
	Exceptions,
	MadeUp,
	WordPlay,
	Sentence,
	Page,
	Challenge,
	Free,
	Close,
)
