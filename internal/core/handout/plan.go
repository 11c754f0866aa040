package handout

import (
	"slices"
	"strings"

	"brightchalk/internal/core/lesson"
)

// Beside is what a plan says beside the adult's lines: what the class does, what is shown, what lies ready, cautions.
func (h Handout) Beside(s lesson.Step) []string {
	var out []string
	if len(s.Class) > 0 {
		out = append(out, "Class: "+strings.Join(s.Class, " "))
	}
	if shown := h.Shown(s); shown != "" {
		out = append(out, shown)
	}
	if len(s.Table) > 0 {
		out = append(out, "Ready: "+strings.Join(s.Table, ", ")+".")
	}
	for _, c := range s.Cautions {
		out = append(out, "Care: "+c)
	}
	return out
}

// Shown is what a step shows, on one line: the sides of a game, the order of a deck, or its items.
func (h Handout) Shown(s lesson.Step) string {
	in := h.Lesson
	if sides := h.sides(s); len(sides) > 0 {
		return strings.Join(sides, " ")
	}
	var list []string
	picture := false
	for _, it := range s.Items {
		switch it.Kind {
		case lesson.CardItem:
			mark := ""
			if len(s.Deck) > 0 && it.Position == "picture" {
				mark, picture = "*", true
			}
			list = append(list, in.Cards[it.Value].Pair.Grapheme+mark)
		case lesson.MaterialItem, lesson.QuestionItem:
		case lesson.SentenceItem, lesson.PageItem, lesson.TextItem:
			list = append(list, "“"+it.Value+"”")
		default:
			list = append(list, it.Value)
		}
	}
	if len(list) == 0 { // a drill of a lesson that was kept before shows were items
		for _, show := range s.Deck {
			mark := ""
			if show.Side == "picture" {
				mark, picture = "*", true
			}
			list = append(list, in.Cards[show.CardID].Pair.Grapheme+mark)
		}
	}
	if len(s.Deck) == 0 || len(list) == 0 {
		return strings.Join(list, " · ")
	}
	text := "Order: " + strings.Join(list, " ")
	if picture {
		text += "  (* picture side)"
	}
	return text
}

// sides are the two or more heaps of a game, each with its name: "th, thumb: thin, moth."
func (h Handout) sides(s lesson.Step) []string {
	var out []string
	heap := func(name string, match func(lesson.Item) bool) {
		var list []string
		for _, it := range s.Items {
			if match(it) {
				list = append(list, it.Value)
			}
		}
		if len(list) > 0 {
			out = append(out, name+": "+strings.Join(list, ", ")+".")
		}
	}
	in := func(b lesson.Basket) func(lesson.Item) bool {
		return func(it lesson.Item) bool { return it.Basket == b }
	}
	targets := h.Targets
	switch {
	case s.Kind == lesson.Contrast && len(targets) > 1:
		heap(targets[0].Label, in(lesson.Has))
		heap(targets[1].Label, in(lesson.HasNot))
	case slices.ContainsFunc(s.Items, func(it lesson.Item) bool { return it.Basket != "" }) && len(targets) > 0:
		heap("Has "+targets[0].Label, in(lesson.Has))
		heap("Has it not", in(lesson.HasNot))
		heap("First", in(lesson.First))
		heap("Last", in(lesson.Last))
	case s.Kind == lesson.Ear && len(targets) > 1:
		for i, t := range targets {
			heap(t.Label, func(it lesson.Item) bool { return h.side(it) == i })
		}
	}
	return out
}
