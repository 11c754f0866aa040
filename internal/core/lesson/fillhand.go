package lesson

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/strokes"
)

// Material is something to write with or in, with what to watch for. Common practice, no published source; a
// school's own rules come first.
type Material struct {
	Name    string `json:"name"`
	Caution string `json:"caution"`
}

var materials = []Material{
	{"chalk and a small slate", "Dust away from faces; wash hands afterwards."},
	{"a tray of dry sand", "Check allergies and eczema; nothing in mouths or eyes; sweep up spills at once."},
	{"wet brushes on the playground wall", "Watch for slippery ground."},
	{"a tray of flour", "Check for wheat allergy first; no tasting; wash hands before and after."},
	{"finger paint in a sealed bag", "Tape the bag shut; check it for leaks."},
	{"a ribbon on a stick", "Room around each child; sticks point away from eyes."},
	{"dough rolled into strings", "Check for wheat allergy; no tasting; a fresh piece for each child."},
	{"threaded beads on a lace", "Beads too large to swallow; nothing in noses or ears; count them back in."},
}

// Materials are all that the Hand step can offer.
func Materials() []Material { return slices.Clone(materials) }

// offered are the materials of the team, those of the day first: another each day, or the first every day.
func (a *assembler) offered() []Material {
	list := materials
	if wanted := a.Conventions.Materials; len(wanted) > 0 {
		list = slices.DeleteFunc(Materials(), func(m Material) bool { return !slices.Contains(wanted, m.Name) })
	}
	if len(list) == 0 {
		list = materials
	}
	start := 0
	if !a.Conventions.OneMaterial {
		start = int(a.Seed % uint64(len(list)))
	}
	return slices.Concat(list[start:], list[:start])
}

// write sets the letters of the target on the team's lines; what has no strokes is left out with a note.
func (a *assembler) write() {
	t, lines := a.Target, a.Conventions.Lines.OrCommon()
	set := func(text, words string) *strokes.Written {
		w, err := lines.Write(text, a.Letters, strings.Split(words, "\n"))
		if err != nil {
			a.note(fmt.Sprintf("The letter cannot be shown stroke by stroke: %s.", err))
			return nil
		}
		return &w
	}
	text := t.Pair.Grapheme
	a.out.Writing, a.out.Place = set(text, t.StrokeWords), t.Place
	if t.Pair.Letters() == 1 && a.Conventions.Capitals {
		a.out.Capital = set(strings.ToUpper(text), t.CapitalWords)
	}
}

// spoken is what the team says while writing, else what the shape of the letter gives.
func spoken(words string, w *strokes.Written) string {
	if words != "" {
		return strings.ReplaceAll(words, "\n", " ")
	}
	if w == nil {
		return "Say what the hand does at each stroke."
	}
	var all []string
	for _, s := range w.Strokes {
		all = append(all, s.Words)
	}
	return strings.Join(all, " ")
}

func (a *assembler) hand(s *Step) {
	t := a.Target
	a.write()
	s.Adult = append(
		s.Adult,
		"Write it in the air, your back to the class, or mirrored when you face it: “"+spoken(
			t.StrokeWords,
			a.out.Writing,
		)+"”",
	)
	if a.Conventions.Capitals && a.out.Capital != nil {
		s.Adult = append(s.Adult, "The capital: “"+spoken(t.CapitalWords, a.out.Capital)+"”")
	}
	if t.Pair.Kind() != "letter" {
		s.Adult = append(s.Adult, "Write the letters side by side and underline the group: one line, one sound.")
	}
	var options []Option
	if t.Materials != "" {
		options = append(options, Option{Value: t.Materials, Origin: FromCard, Because: "named on the card"})
	}
	because := "the material changes from day to day"
	if a.Conventions.OneMaterial {
		because = "the team keeps to one material"
	}
	for _, m := range a.offered() {
		options = append(options, Option{Value: m.Name, Detail: m.Caution, Origin: FromTeam, Because: because})
	}
	s.Choices = a.choose("material", "material", 1, options)
	s.Table = append(s.Table, s.Choices[0].Value, "pencils and lined paper")
	s.Class = append(s.Class, "Writes in the air, then with "+s.Choices[0].Value+", then on the lines, saying the words.")
	caution := first(s.Choices[0].Detail, "Check allergies; nothing goes in mouths, noses or ears.")
	s.Cautions = append(s.Cautions, caution+" Your school's own rules come first.")
}
