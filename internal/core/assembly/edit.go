package assembly

import (
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/core/texts"
)

// Codes of what a change of a lesson may fail with.
const (
	ErrNoSlot fault.Code = "no-such-choice"
	ErrNoNext fault.Code = "nothing-else"
	ErrNoStep fault.Code = "no-such-step"
	ErrLast   fault.Code = "last-item"
)

// Bits puts the words of items under their bridges in a lesson. It changes the lesson that it is given.
func Bits(l *lesson.Lesson, o lexicon.Speech, items ...lesson.Item) {
	b := spelling.Bridging{Targets: l.Pairs(), Taught: l.Set()}
	known := l.KnownSet()
	for _, it := range items {
		switch it.Kind {
		case lesson.WordItem:
			if seg, err := o.Segment(it.Value); err == nil {
				b.Exception = known[strings.ToLower(it.Value)]
				l.WordBits[it.Value] = spelling.Bridges(seg.Segments, b)
			}
		case lesson.SentenceItem, lesson.PageItem:
			for _, t := range texts.Check(it.Value, b.Taught, known, o).Tokens {
				b.Exception = t.Status == texts.Exception
				l.WordBits[t.Text] = spelling.Bridges(t.Segments, b)
			}
		}
	}
}

// find is the step and the place of a slot.
func find(l *lesson.Lesson, slot string) (*lesson.Step, int, error) {
	for s := range l.Steps {
		for i, it := range l.Steps[s].Items {
			if it.Slot == slot {
				return &l.Steps[s], i, nil
			}
		}
	}
	return nil, 0, fault.New(ErrNoSlot, "there is no such choice in this lesson: %s", slot)
}

// after writes a changed step's words anew, unless somebody wrote them, and lets its seconds follow its items.
func after(t *step.Narration, s *lesson.Step, counted bool) {
	Bits(t.Lesson, t.Speech, s.Items...)
	step.Explain(t, s)
	if !s.Edited {
		kinds.Registry.Tell(t, s)
	}
	if counted {
		s.Seconds = kinds.Registry.SecondsFor(*s)
	}
	t.Lesson.Seconds = 0
	for _, k := range t.Lesson.Steps {
		t.Lesson.Seconds += k.Seconds
	}
}

// Reword gives the words of a step their clues anew, and writes what is said, unless somebody wrote it. It changes the
// step.
func Reword(t *step.Narration, s *lesson.Step) { after(t, s, false) }

// Swap puts the next best in a slot, the former one to the end of the list. Runners-up that stand elsewhere in the step
// are passed over. It changes the lesson of t.
func Swap(t *step.Narration, slot string) error {
	s, i, err := find(t.Lesson, slot)
	if err != nil {
		return err
	}
	it := &s.Items[i]
	for k, next := range it.Next {
		there := slices.ContainsFunc(s.Items, func(o lesson.Item) bool { return o.Value == next.Value })
		if there || next.Basket != it.Basket {
			continue
		}
		it.Next = append(slices.Delete(slices.Clone(it.Next), k, k+1), it.Option)
		it.Option, it.Swapped = next, true
		after(t, s, false)
		return nil
	}
	return fault.New(ErrNoNext, "nothing else fits here: %s", it.Value)
}

// Remove takes an item out of its step; the last one stays. It changes the lesson of t.
func Remove(t *step.Narration, slot string) error {
	s, i, err := find(t.Lesson, slot)
	if err != nil {
		return err
	}
	if len(s.Items) == 1 {
		return fault.New(ErrLast, "this is the only item of %s; swap it, or take the step out of the routine", s.Name)
	}
	s.Items = slices.Delete(s.Items, i, i+1)
	if len(s.Deck) > i {
		s.Deck = slices.Delete(s.Deck, i, i+1)
	}
	after(t, s, true)
	return nil
}

// Speak says who speaks an item. It changes the lesson of t.
func Speak(t *step.Narration, slot string, v lesson.Voice) error {
	s, i, err := find(t.Lesson, slot)
	if err != nil {
		return err
	}
	if rec, _ := kinds.Registry.Of(s.Kind); !rec.Spoken {
		return fault.New(ErrNoStep, "in %s it is not said who speaks", s.Name)
	}
	s.Items[i].Voice, t.Lesson.Signs = v, step.Signs(t.Conventions)
	after(t, s, false)
	return nil
}

// Move puts an item to another place of its step, from 0. It changes the lesson of t.
func Move(t *step.Narration, slot string, to int) error {
	s, i, err := find(t.Lesson, slot)
	if err != nil {
		return err
	}
	to = max(0, min(to, len(s.Items)-1))
	it := s.Items[i]
	s.Items = slices.Insert(slices.Delete(s.Items, i, i+1), to, it)
	if len(s.Deck) == len(s.Items) {
		show := s.Deck[i]
		s.Deck = slices.Insert(slices.Delete(s.Deck, i, i+1), to, show)
	}
	after(t, s, false)
	return nil
}

// Retext replaces what the adult says and the class does in a step; without texts they are written anew from the step.
// It changes the lesson of t.
func Retext(t *step.Narration, stepID string, adult, class []string) error {
	s, err := findStep(t.Lesson, stepID)
	if err != nil {
		return err
	}
	if s.Edited = len(adult)+len(class) > 0; !s.Edited {
		kinds.Registry.Tell(t, s)
		return nil
	}
	s.Adult, s.Class = append([]string{}, adult...), append([]string{}, class...)
	return nil
}

func findStep(l *lesson.Lesson, id string) (*lesson.Step, error) {
	if i := slices.IndexFunc(l.Steps, func(s lesson.Step) bool { return s.ID == id }); i >= 0 {
		return &l.Steps[i], nil
	}
	return nil, fault.New(ErrNoStep, "this lesson has no such step: %s", id)
}

// oneShown are kinds of items of which one is shown: another takes its place.
func oneShown(k lesson.ItemKind) bool { return k == lesson.PageItem }

// Put places values in a step, locked: in the first slots that are not locked, or behind where add says so. One that
// the step holds already is only locked. Pictures of an ear game go to their side by what is heard in them. It
// changes the lesson of t.
func Put(t *step.Narration, stepID string, kind lesson.ItemKind, values []string, add bool, because string) error {
	s, err := findStep(t.Lesson, stepID)
	if err != nil {
		return err
	}
	if !kinds.Registry.Takes(s.Kind, kind) {
		return fault.New(ErrNoStep, "%s takes no %s", s.Name, kind)
	}
	if s.Kind == lesson.Ear {
		s.Items = slices.DeleteFunc(s.Items, func(it lesson.Item) bool {
			return !add && !it.Locked && !it.Basket.Quarter() || slices.Contains(values, it.Value)
		})
		add = true
	}
	for _, v := range values {
		o := lesson.Option{
			Value: v, Origin: lesson.SentByYou, Role: itemRole(t, kind, v), Because: lesson.Reason{Code: "sent", Text: because},
		}
		if s.Kind == lesson.Ear {
			o.Basket = cardSide(t, v)
		}
		i := slices.IndexFunc(s.Items, func(it lesson.Item) bool { return it.Value == v && it.Kind == kind })
		if i < 0 && !add {
			i = slices.IndexFunc(s.Items, func(it lesson.Item) bool { return !it.Locked && it.Kind == kind })
		}
		if i < 0 && oneShown(kind) {
			i = slices.IndexFunc(s.Items, func(it lesson.Item) bool { return it.Kind == kind })
		}
		if i < 0 {
			s.Items = append(s.Items, lesson.Item{Slot: step.FreeSlot(*s, o.Basket), Kind: kind, Next: []lesson.Option{}})
			i = len(s.Items) - 1
		}
		it := &s.Items[i]
		if it.Value != v && it.Value != "" {
			it.Next = append([]lesson.Option{it.Option}, it.Next...)
		}
		it.Option, it.Locked, it.Swapped = o, true, false
	}
	after(t, s, true)
	return nil
}

// cardSide is on which side of an ear game a picture belongs.
func cardSide(t *step.Narration, word string) lesson.Basket {
	heard := t.Speech.Sounds(word)
	for _, p := range t.Lesson.Pairs() {
		sounds, err := phoneme.Parse(t.Speech.Accent, p.Sound)
		if err == nil && len(sounds) > 0 && slices.Contains(heard, sounds[0]) {
			return lesson.Has
		}
	}
	return lesson.HasNot
}

// itemRole is what a sent value is in the lesson.
func itemRole(t *step.Narration, kind lesson.ItemKind, v string) lesson.Role {
	if kind == lesson.PictureItem {
		if cardSide(t, v) == lesson.Has {
			return lesson.TargetRole
		}
		return lesson.FoilRole
	}
	for _, k := range texts.Check(v, t.Lesson.Set(), t.Lesson.KnownSet(), t.Speech).Tokens {
		for _, p := range t.Lesson.Pairs() {
			if spelling.Holds(k.Segments, p) {
				return lesson.TargetRole
			}
		}
		if k.Status == texts.Exception && kind == lesson.WordItem {
			return lesson.ExceptionRole
		}
	}
	return lesson.OlderRole
}
