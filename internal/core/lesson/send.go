package lesson

import (
	"fmt"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/words"
)

// ErrNoStep says that a choice cannot be put there.
const ErrNoStep fault.Code = "no-such-step"

// slots of the steps that take what a teacher sends to them.
var sentTo = map[Kind]struct{ prefix, kind string }{
	Blend:    {"blend", "word"},
	Read:     {"read", "word"},
	Spell:    {"spell", "word"},
	Sentence: {"sentence", "sentence"},
	Page:     {"page", "page"},
}

// Put places values in a step, locked, in the first slots that are not locked yet; what does not fit there is
// added behind. A value that the step holds already is only locked. It changes the introduction that it is
// given.
func Put(in *Introduction, kind Kind, values []string, because string, o words.Options) error {
	to, ok := sentTo[kind]
	at := slices.IndexFunc(in.Steps, func(s Step) bool { return s.Kind == kind })
	if !ok || at < 0 {
		return fault.New(ErrNoStep, "this introduction has no such step: %s", kind)
	}
	step := &in.Steps[at]
	for _, v := range values {
		i := slices.IndexFunc(step.Choices, func(c Choice) bool { return c.Value == v })
		if i < 0 {
			i = slices.IndexFunc(step.Choices, func(c Choice) bool { return !c.Locked })
		}
		if i < 0 {
			if kind == Sentence || kind == Page { // one is shown
				i = 0
			} else {
				i = len(step.Choices)
				step.Choices = append(
					step.Choices,
					Choice{Slot: fmt.Sprintf("%s.%d", to.prefix, i+1), Kind: to.kind, Next: []Option{}},
				)
			}
		}
		c := &step.Choices[i]
		if c.Value != v && c.Value != "" {
			c.Next = append([]Option{c.option()}, c.Next...)
		}
		sent := Option{Value: v, Origin: SentByYou, Because: because}
		if to.kind == "word" {
			if seg, err := o.Segment(v); err == nil {
				sent.Detail = soundCount(seg.Sounds)
			}
		}
		c.take(sent)
		c.Locked, c.Swapped = true, false
		in.shown(step, c, o)
	}
	return nil
}

// PutEar lays pictures in the Ear step, locked, on the side of the lesson's sound or on the other; those that were not
// locked make room. The sorting sheet shows the same.
func PutEar(in *Introduction, pictures []string, because string, o words.Options) error {
	at := slices.IndexFunc(in.Steps, func(s Step) bool { return s.Kind == Ear })
	if at < 0 {
		return fault.New(ErrNoStep, "this introduction has no such step: %s", Ear)
	}
	step := &in.Steps[at]
	step.Choices = slices.DeleteFunc(step.Choices, func(c Choice) bool {
		return !c.Locked && !c.Basket.Quarter() || slices.Contains(pictures, c.Value)
	})
	sounds, err := phoneme.Parse(o.Accent, in.Pair.Sound)
	if err != nil {
		return err
	}
	for _, p := range pictures {
		side, slot := HasNot, "ear-no"
		if slices.Contains(o.Sounds(p), sounds[0]) {
			side, slot = Has, "ear-yes"
		}
		n := 1
		for slices.ContainsFunc(step.Choices, func(c Choice) bool { return c.Slot == fmt.Sprintf("%s.%d", slot, n) }) {
			n++
		}
		step.Choices = append(
			step.Choices,
			Choice{
				Slot:    fmt.Sprintf("%s.%d", slot, n),
				Kind:    "picture",
				Value:   p,
				Basket:  side,
				Origin:  SentByYou,
				Because: because,
				Locked:  true,
				Next:    []Option{},
			},
		)
	}
	return nil
}
