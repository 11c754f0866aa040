package lesson

import (
	"fmt"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
)

// choose fills the slots of a step: locked values first, then the options in their order. Values used
// elsewhere in the introduction are passed over.
func (a *assembler) choose(prefix, kind string, n int, options []Option) []Choice {
	var out []Choice
	taken := map[string]bool{}
	free := func() *Option {
		for i := range options {
			if o := &options[i]; !taken[o.Value] && !a.used[kind+o.Value] && !a.isLocked(o.Value) {
				return o
			}
		}
		return nil
	}
	for i := 1; ; i++ {
		slot := fmt.Sprintf("%s.%d", prefix, i)
		value, ok := a.Locked[slot]
		if i > n && !ok {
			break
		}
		if ok {
			c := Choice{Slot: slot, Kind: kind, Value: value, Because: "locked by you", Locked: true, Next: []Option{}}
			for _, o := range options {
				if o.Value == value {
					c.take(o)
				}
			}
			out = append(out, c)
			taken[value] = true
			continue
		}
		o := free()
		if o == nil {
			break
		}
		taken[o.Value] = true
		c := Choice{Slot: slot, Kind: kind, Next: []Option{}}
		c.take(*o)
		out = append(out, c)
	}
	for v := range taken {
		a.used[kind+v] = true
	}
	var rest []Option
	for _, o := range options {
		if !taken[o.Value] && !a.used[kind+o.Value] && len(rest) < 6 {
			rest = append(rest, o)
		}
	}
	for i := range out {
		if out[i].Next = slices.Clone(rest); out[i].Next == nil {
			out[i].Next = []Option{}
		}
	}
	return out
}

func (a *assembler) isLocked(value string) bool {
	for _, v := range a.Locked {
		if v == value {
			return true
		}
	}
	return false
}

// ErrNoSlot and ErrNoNext are what Swap may fail with.
const (
	ErrNoSlot fault.Code = "no-such-choice"
	ErrNoNext fault.Code = "nothing-else"
)

// Swap puts the next best in a slot, the former choice to the end of the list. Runners-up that stand
// elsewhere in the step are passed over. It changes the introduction that it is given.
func Swap(in *Introduction, slot string, o words.Options) error {
	for s := range in.Steps {
		step := &in.Steps[s]
		for i := range step.Choices {
			if c := &step.Choices[i]; c.Slot == slot {
				return in.swap(step, c, o)
			}
		}
	}
	return fault.New(ErrNoSlot, "there is no such choice in this introduction: %s", slot)
}

func (in *Introduction) swap(step *Step, c *Choice, o words.Options) error {
	for k, next := range c.Next {
		if in.holds(c.Kind, next.Value) || next.Basket != c.Basket {
			continue
		}
		old := c.option()
		c.take(next)
		c.Swapped = true
		c.Next = append(slices.Delete(c.Next, k, k+1), old)
		in.shown(step, c, o)
		return nil
	}
	return fault.New(ErrNoNext, "nothing else fits here: %s", c.Value)
}

// set is what the class could read when the introduction was assembled; nil in one that does not say so.
func (in *Introduction) set() spelling.Set {
	if len(in.Taught) == 0 {
		return nil
	}
	out := spelling.Set{}
	for _, p := range in.Taught {
		out[p] = true
	}
	return out
}

// shown puts the bits of a changed choice's words in the introduction, and writes the script of its text anew.
func (in *Introduction) shown(step *Step, c *Choice, o words.Options) {
	b := spelling.Bridging{Target: &in.Pair, Taught: in.set()}
	switch c.Kind {
	case "word":
		if seg, err := o.Segment(c.Value); err == nil {
			in.WordBits[c.Value] = spelling.Bridges(seg.Segments, b)
		}
	case "sentence", "page":
		known := map[string]bool{}
		for _, w := range in.Known {
			known[w] = true
		}
		exceptions := in.showText(c.Value, b, known, o)
		if c.Kind == "sentence" {
			step.script(sentenceScript(c.Origin, exceptions, pieces(c.Value, in.Seed)))
		} else {
			step.script(pageScript(exceptions))
		}
	}
}

// showText puts the words of a text under their bridges, and returns the exception words in it.
func (in *Introduction) showText(
	text string,
	b spelling.Bridging,
	known map[string]bool,
	o words.Options,
) (exceptions []string) {
	for _, t := range texts.Check(text, b.Taught, known, o).Tokens {
		b.Exception = t.Status == texts.Exception
		in.WordBits[t.Text] = spelling.Bridges(t.Segments, b)
		if b.Exception && !slices.Contains(exceptions, t.Text) {
			exceptions = append(exceptions, t.Text)
		}
	}
	return exceptions
}

func (in *Introduction) holds(kind, value string) bool {
	for _, s := range in.Steps {
		for _, c := range s.Choices {
			if c.Kind == kind && c.Value == value {
				return true
			}
		}
	}
	return false
}
