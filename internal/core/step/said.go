package step

import (
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

// Heard are words for the ear that hold a pair; the class need not be able to read them.
func (b *FillInput) Heard(p spelling.Pair, n int) []Word {
	var out []Word
	stems := map[string]bool{}
	for _, it := range lexicon.For(b.Conventions.Accent, b.Conventions.Units).With(p) {
		if len(out) == n {
			break
		}
		if it.Unfit || it.Doubt != lexicon.NoDoubt || len(it.Readings) > 1 || it.Familiarity < lexicon.BestKnown-1 ||
			it.Readings[0].Sounds > 5 || b.Class.Refused[it.Word] || stems[First(it.Stem, it.Word)] {
			continue
		}
		stems[First(it.Stem, it.Word)] = true
		out = append(out, Word{
			Value: it.Word, Sounds: it.Readings[0].Sounds, Segments: it.Readings[0].Segments, Role: lesson.TargetRole,
			Origin: lesson.FromFinder, Because: Why("heard", "%s is heard in it", script.Sound(p)),
		})
	}
	return out
}

// Recent are the targets and the cards met, the newest first.
func (b *FillInput) Recent() []card.Card {
	out := slices.Clone(b.Targets)
	for _, k := range slices.Backward(b.Class.Met) {
		if !b.IsTarget(k.Card.ID) {
			out = append(out, k.Card)
		}
	}
	return out
}

// Mistake is what is done when something is written wrong.
func (t *Narration) Mistake() string {
	return First(t.Conventions.Says.Mistake, "Written wrong: "+convention.DefaultMistake+".")
}

// First is the first text that is not empty.
func First(texts ...string) string {
	for _, t := range texts {
		if t != "" {
			return t
		}
	}
	return ""
}

// Sounded writes words with their sounds apart.
func (t *Narration) Sounded(items []lesson.Item) string {
	var out []string
	for _, it := range items {
		seg, err := t.Speech.Segment(it.Value)
		if err != nil {
			continue
		}
		var sounds []string
		for _, s := range seg.Segments {
			if len(s.Phonemes) > 0 {
				sounds = append(sounds, phoneme.Join(s.Phonemes))
			}
		}
		out = append(out, strings.Join(sounds, "–")+" ("+it.Value+")")
	}
	return strings.Join(out, ", ")
}

// Together says of the cards of a drill to which letter sides the class answers with several sounds.
func (t *Narration) Together(items []lesson.Item) []string {
	var out []string
	for _, it := range items {
		f, ok := t.Lesson.Cards[it.Value]
		if !ok || it.Kind != lesson.CardItem || len(f.Together) < 2 || it.Position == "picture" {
			continue
		}
		line := f.Pair.Grapheme + ": " + strings.Join(f.Together, ", then ") + "."
		if !slices.Contains(out, line) {
			out = append(out, line)
		}
	}
	return out
}

// WhoSpeaks says by whose voice the items go, with the team's signs; empty where all are the class's as usual.
func (t *Narration) WhoSpeaks(items []lesson.Item) string {
	if !slices.ContainsFunc(items, func(it lesson.Item) bool { return it.Voice != "" }) {
		return ""
	}
	var out []string
	for _, v := range lesson.Voices {
		var values []string
		for _, it := range items {
			if it.Voice == v.ID || it.Voice == "" && v.ID == lesson.ByClass {
				values = append(values, it.Value)
			}
		}
		if len(values) > 0 {
			out = append(out, v.Name+" ("+Sign(t.Conventions, v.ID)+"): "+strings.Join(values, ", "))
		}
	}
	return "By your sign: " + strings.Join(out, "; ") + "."
}

// Grouped tells whether one of the words has a sound of more than one letter.
func (t *Narration) Grouped(items []lesson.Item) bool {
	return slices.ContainsFunc(items, func(it lesson.Item) bool {
		seg, err := t.Speech.Segment(it.Value)
		return err == nil && slices.ContainsFunc(seg.Segments, func(s spelling.Segment) bool { return s.Pair.Letters() > 1 })
	})
}

// Short names the sounds of the words that cannot be stretched.
func (t *Narration) Short(items []lesson.Item) string {
	var out []string
	for _, it := range items {
		seg, err := t.Speech.Segment(it.Value)
		if err != nil {
			continue
		}
		for _, s := range seg.Segments {
			text := script.Sound(s.Pair)
			if len(s.Phonemes) == 1 && card.FindHold(t.Conventions, s.Pair) == card.Short && !slices.Contains(out, text) {
				out = append(out, text)
			}
		}
	}
	if len(out) == 0 {
		return ""
	}
	return "Said short, never stretched: " + script.List(out) + "."
}

// Exceptions are the exception words in a text.
func (t *Narration) Exceptions(text string) []string {
	var out []string
	for _, k := range texts.Check(text, t.Lesson.Set(), t.Lesson.KnownSet(), t.Speech).Tokens {
		if w := strings.ToLower(k.Text); k.Status == texts.Exception && !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	return out
}

// Single is material of which one text is shown.
func Single(kind lesson.ItemKind, list []lesson.Option) Material {
	m := OfTexts(kind, list, 1)
	take := m.Take
	m.Take = func(int) FillResult { return take(1) }
	return m
}

// AnyTarget is material of a step that needs a target and shows nothing by number.
func AnyTarget(b *FillInput, _ lesson.RoutineStep) (Material, *fault.Fault) {
	if len(b.Targets) == 0 {
		return Refuse(LacksTarget, "the lesson has no sound of its own")
	}
	return Material{}, nil
}
