package handout

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
)

// Question is something to tick at home.
type Question struct {
	Text    string
	Choices []string
}

const maxQuestions = 3

// Questions are up to three short ones, each with something to tick.
func (h Handout) Questions() []Question {
	var out []Question
	for i, t := range h.Targets {
		if len(out) == maxQuestions-1 || len(h.Targets) == 1 && i > 0 {
			break
		}
		if q, ok := h.pickThing(t, uint64(i)); ok {
			out = append(out, q)
		}
	}
	if len(h.Targets) == 1 && len(out) < maxQuestions-1 {
		if q, ok := h.pickSpelling(h.Targets[0]); ok {
			out = append(out, q)
		}
	}
	return append(out, Question{"How did it go?", []string{"alone", "with help", "not yet"}})
}

// pickThing asks which of three things has the sound.
func (h Handout) pickThing(t Target, salt uint64) (Question, bool) {
	own := h.Things(t)
	if len(own) == 0 {
		return Question{}, false
	}
	verb := "has"
	if h.Begins(t) {
		verb = "begins with"
	}
	choices := []string{own[len(own)-1]}
	rng := rand.New(rand.NewPCG(h.Lesson.Seed, 400+salt))
	others := slices.Clone(fillers)
	rng.Shuffle(len(others), func(i, j int) { others[i], others[j] = others[j], others[i] })
	for _, o := range others {
		if len(choices) < 3 && !h.refused[o] && h.without(o, t) {
			choices = append(choices, o)
		}
	}
	if len(choices) < 3 {
		return Question{}, false
	}
	rng.Shuffle(len(choices), func(i, j int) { choices[i], choices[j] = choices[j], choices[i] })
	return Question{fmt.Sprintf("Which one %s %s?", verb, t.Named()), choices}, true
}

// fillers are things that every child knows, from which those without a sound are taken.
var fillers = []string{"dog", "map", "sun", "hat", "fish", "bus", "egg", "tent", "leg", "cup", "moon", "bed"}

func (h Handout) without(word string, t Target) bool {
	sounds := strings.Join(phonemes(h, word), "")
	return sounds != "" && !strings.Contains(sounds, t.Pair.Sound) && !strings.Contains(word, t.Pair.Grapheme)
}

func phonemes(h Handout, word string) []string {
	var out []string
	for _, p := range h.speech.Sounds(word) {
		out = append(out, string(p))
	}
	return out
}

// commonGroups are letter groups that every school teaches, from which wrong answers are taken where a class knows few.
var commonGroups = []string{"sh", "ee", "ch", "oo", "ai", "th", "ng"}

// pickSpelling asks which letters write the sound.
func (h Handout) pickSpelling(t Target) (Question, bool) {
	rng := rand.New(rand.NewPCG(h.Lesson.Seed, 500))
	var others []string
	for _, p := range h.Lesson.Taught {
		doubled := len(p.Grapheme) == 2 && p.Grapheme[0] == p.Grapheme[1] && !slices.Contains(commonGroups, p.Grapheme)
		if !doubled && p.Letters() == t.Pair.Letters() && p.Sound != t.Pair.Sound {
			others = append(others, p.Grapheme)
		}
	}
	rng.Shuffle(len(others), func(i, j int) { others[i], others[j] = others[j], others[i] })
	if t.Pair.Letters() > 1 {
		others = append(others, commonGroups...)
	}
	choices := []string{t.Pair.Grapheme}
	for _, g := range others {
		if len(choices) < 3 && !slices.Contains(choices, g) && !spelling.MixedUp(g, t.Pair.Grapheme) &&
			!slices.Contains(spelling.Sounds(h.speech.Accent, g), t.Pair.Sound) {
			choices = append(choices, g)
		}
	}
	if len(choices) < 3 {
		return Question{}, false
	}
	rng.Shuffle(len(choices), func(i, j int) { choices[i], choices[j] = choices[j], choices[i] })
	what := "Which letters write our sound"
	if t.Pair.Letters() == 1 {
		what = "Which letter writes our sound"
	}
	if t.Keyword != "" {
		what += ", as in " + t.Keyword
	}
	return Question{what + "?", choices}, true
}

// Drawing says how many things to draw, and for which sound.
func (h Handout) Drawing() string {
	count := map[int]string{1: "three things", 2: "two things", 3: "one thing", 4: "one thing"}[len(h.Targets)]
	switch {
	case len(h.Targets) == 0:
		return ""
	case count == "":
		return "Choose three of these sounds. Draw one thing for each and bring the page to school."
	}
	parts := make([]string, len(h.Targets))
	for i, t := range h.Targets {
		verb := " that has "
		if count != "one thing" {
			verb = " that have "
		}
		if h.Begins(t) {
			verb = strings.Replace(verb, "has", "begins with", 1)
			verb = strings.Replace(verb, "have", "begin with", 1)
		}
		parts[i] = count + verb + t.Named()
	}
	return "Draw " + script.List(parts) + ". Bring the page to school."
}

// HomeWords are words to write at home: of those that were spelled, or else read.
func (h Handout) HomeWords() []string {
	list := h.SpellWords()
	for _, w := range h.ReadWords() {
		if len(list) < 4 && !slices.Contains(list, w) &&
			slices.ContainsFunc(h.Targets, func(t Target) bool { return h.Holds(w, t) > 0 }) {
			list = append(list, w)
		}
	}
	return list[:min(4, len(list))]
}
