package step

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
)

// maxNext is how many runners-up stand beside an item.
const maxNext = 6

// Find gathers what a step could show; a fault comes back where it cannot be held.
func (r Registry) Find(b *FillInput, s lesson.RoutineStep) (Material, *fault.Fault) {
	return r.byKind[s.Kind].Material(b, s)
}

// Fill makes the step of a routine from what it shows, in so many seconds. What is locked stays in its slot. The
// faces of the cards that it shows stand in the lesson already.
func (r Registry) Fill(
	t *Narration,
	f FillResult,
	s lesson.RoutineStep,
	id string,
	seconds int,
	locked []lesson.Item,
) lesson.Step {
	rec := r.byKind[s.Kind]
	out := lesson.Step{
		ID: id, Kind: s.Kind, Name: s.Name, Family: rec.Family, Way: s.Options.Way, Times: s.Options.Times, Seconds: seconds,
		Items: []lesson.Item{},
	}
	if out.Name == "" {
		out.Name = rec.Name
	}
	if out.Way == "" && len(rec.Ways) > 0 {
		out.Way = rec.Ways[0].ID
	}
	if f.Items != nil {
		out.Items = f.Items
	}
	out.Deck = f.Deck
	number(&out)
	lockInto(&out, locked)
	for i := range out.Items {
		if out.Items[i].Kind == out.Items[0].Kind { // the questions of a page have none
			out.Items[i].Next = next(out.Items, out.Items[i], f.Rest)
		}
	}
	if rec.Spoken && len(s.Options.Voices) > 0 {
		for i := range out.Items {
			out.Items[i].Voice = s.Options.Voices[min(i, len(s.Options.Voices)-1)]
		}
	}
	Explain(t, &out)
	r.Tell(t, &out)
	return out
}

// Explain gives the words of a step their clues, and says of which the picture is shown first.
func Explain(t *Narration, s *lesson.Step) {
	for i := range s.Items {
		if it := &s.Items[i]; it.Kind == lesson.WordItem && it.Role != lesson.MadeUpRole {
			it.Clue = t.Clue(it.Value)
			it.Picture = s.Way == PictureFirst && t.Speech.Pictured(it.Value)
		}
	}
}

// lockInto puts locked items back in their slots, or behind.
func lockInto(s *lesson.Step, locked []lesson.Item) {
	for _, l := range locked {
		l.Locked = true
		s.Items = slices.DeleteFunc(s.Items, func(it lesson.Item) bool { return it.Slot != l.Slot && same(it, l) })
		if i := slices.IndexFunc(s.Items, func(it lesson.Item) bool { return it.Slot == l.Slot }); i >= 0 {
			if same(s.Items[i], l) {
				l.Option = s.Items[i].Option
			}
			s.Items[i] = l
			continue
		}
		s.Items = append(s.Items, l)
	}
}

func same(a, b lesson.Item) bool {
	return a.Kind == b.Kind && a.Value == b.Value && a.Kind != lesson.CardItem
}

// number names the slots: by step and number, pictures by their basket.
func number(s *lesson.Step) {
	met := map[string]int{}
	for i := range s.Items {
		it := &s.Items[i]
		name := s.ID
		if it.Basket != "" {
			name += "-" + string(it.Basket)
		}
		met[name]++
		it.Slot = fmt.Sprintf("%s.%d", name, met[name])
	}
}

// next are the runners-up of an item that stand nowhere in the step.
func next(items []lesson.Item, it lesson.Item, rest []lesson.Option) []lesson.Option {
	out := []lesson.Option{}
	for _, o := range rest {
		there := slices.ContainsFunc(items, func(k lesson.Item) bool { return k.Value == o.Value })
		if len(out) < maxNext && o.Basket == it.Basket && !there {
			out = append(out, o)
		}
	}
	return out
}

// Tell writes what the adult says and the class does, from the lesson as it is kept and the items of the step.
func (r Registry) Tell(t *Narration, s *lesson.Step) {
	s.Adult, s.Class, s.Table, s.Cautions, s.Pieces = []string{}, []string{}, []string{}, []string{}, nil
	r.byKind[s.Kind].Tell(t, s)
	Adult(s, t.WhoSpeaks(s.Items))
	if len(s.Deck) > 0 {
		Class(s, t.Together(s.Items)...)
	}
}

// SecondsFor is how long a step is with its items: what goes by items follows their number, the rest stays.
func (r Registry) SecondsFor(s lesson.Step) int {
	if rec := r.byKind[s.Kind].Paced(s.Pace); rec.ItemSeconds > 0 && len(s.Items) > 0 {
		return rec.PerItem(s.Times) * len(s.Items)
	}
	return s.Seconds
}

// FreeSlot is the next slot of a step for an item of a basket.
func FreeSlot(s lesson.Step, basket lesson.Basket) string {
	name := s.ID
	if basket != "" {
		name += "-" + string(basket)
	}
	most := 0
	for _, it := range s.Items {
		if rest, ok := strings.CutPrefix(it.Slot, name+"."); ok {
			if n, err := strconv.Atoi(rest); err == nil {
				most = max(most, n)
			}
		}
	}
	return fmt.Sprintf("%s.%d", name, most+1)
}
