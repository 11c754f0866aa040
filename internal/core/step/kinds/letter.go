package kinds

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/strokes"
)

// Letter is the step: how it is written; how many letters, how many sounds.
var Letter = step.Record{
	Kind: lesson.Letter, Name: "Letter", Family: lesson.EyeFamily, MinSeconds: 20, UsualSeconds: 45, MaxSeconds: 100,
	Needs: []step.Need{step.NeedTarget}, Shows: step.ShowCard, Rank: 75, Material: step.AnyTarget,
	About: "How it is written; how many letters, how many sounds.",
	Tell: func(t *step.Narration, s *lesson.Step) {
		faces, said := t.Spellings()
		for _, f := range faces {
			g := f.Pair.Grapheme
			step.Adult(s, "Turn the card. “This is how we write "+said[g]+".” Trace "+strings.ReplaceAll(g, "-", " … ")+
				" with a finger.")
			step.Adult(s, "“"+script.Count(t.Speech, f.Pair)+"”"+underline(f))
			switch {
			case len(g) > 1:
			case t.Conventions.LetterNames:
				step.Adult(s, fmt.Sprintf("“Its name is %s. Its sound is %s.”", strings.ToUpper(g), script.Sound(f.Pair)))
			default:
				step.Adult(s, "Say the sound only; letter names come later in this team.")
			}
			if t.Conventions.Capitals && len(g) == 1 {
				step.Adult(s, fmt.Sprintf("Show the capital %s beside it: same sound.", strings.ToUpper(g)))
			}
		}
		step.Class(s, "Says "+t.Sound()+" and traces in the air.")
	},
}

func underline(f lesson.CardFace) string {
	if f.Pair.Letters() == 1 || f.Pair.Kind() == "split digraph" {
		return ""
	}
	return " Run a finger under the whole group."
}

// single are the targets of one letter, or of the cards met last where the lesson has no target.
func single(b *step.FillInput) []card.Card {
	from := b.Targets
	if len(from) == 0 {
		from = b.Recent()
	}
	return slices.DeleteFunc(slices.Clone(from), func(c card.Card) bool { return len(c.Pair.Grapheme) != 1 })
}

// Capitals is the step: capital and small letter side by side: shape, size and where they stand on the lines.
var Capitals = step.Record{
	Kind: lesson.Capitals, Name: "Capitals", Family: lesson.HandFamily, MinSeconds: 20, UsualSeconds: 60,
	MaxSeconds: 140, ItemSeconds: 20, Needs: []step.Need{step.NeedLetter}, Shows: step.ShowSet, Rank: 15,
	About: "Capital and small letter side by side: shape, size and where they stand on the lines.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		cards := single(b)
		if len(cards) == 0 {
			return step.Refuse(step.LacksLetter, "no single letter is among them")
		}
		return step.Material{Least: 1, Most: min(7, len(cards)), Take: func(n int) step.FillResult {
			var shows []lesson.Show
			for _, c := range cards[:min(n, len(cards))] {
				shows = append(shows, lesson.Show{CardID: c.ID, Side: "letter"})
			}
			f := drill(b, shows, map[string]string{})
			f.Deck = nil
			return f
		}}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		alike, other := []string{}, []string{}
		for _, it := range s.Items {
			g := t.Lesson.Cards[it.Value].Pair.Grapheme
			if strings.Contains("cjopsuvwxyzk", g) {
				alike = append(alike, strings.ToUpper(g)+" "+g)
			} else {
				other = append(other, strings.ToUpper(g)+" "+g)
			}
		}
		step.Adult(s, "Show each capital beside its small letter: same sound. “What is the same, what is not?”")
		if len(alike) > 0 {
			step.Adult(s, "Same shape, only larger or higher on the lines: "+strings.Join(alike, ", ")+".")
		}
		if len(other) > 0 {
			step.Adult(s, "Another shape: "+strings.Join(other, ", ")+".")
		}
		step.Class(s, "Says the sound, traces both on the lines.")
	},
}

// Materials of the Hand step. Common practice, no published source; a school's own rules come first.
var materials = []convention.Material{
	{Name: "chalk and a small slate", Caution: "Dust away from faces; wash hands afterwards."},
	{
		Name:    "a tray of dry sand",
		Caution: "Check allergies and eczema; nothing in mouths or eyes; sweep up spills at once.",
	},
	{Name: "wet brushes on the playground wall", Caution: "Watch for slippery ground."},
	{Name: "a tray of flour", Caution: "Check for wheat allergy first; no tasting; wash hands before and after."},
	{Name: "finger paint in a sealed bag", Caution: "Tape the bag shut; check it for leaks."},
	{Name: "a ribbon on a stick", Caution: "Room around each child; sticks point away from eyes."},
	{Name: "dough rolled into strings", Caution: "Check for wheat allergy; no tasting; a fresh piece for each child."},
	{
		Name:    "threaded beads on a lace",
		Caution: "Beads too large to swallow; nothing in noses or ears; count them back in.",
	},
}

// Materials are all that the Hand step can offer of itself.
func Materials() []convention.Material { return slices.Clone(materials) }

// offered are the materials of the team, those of the day first: another each day, or the first every day. Its own come
// before ours.
func offered(b *step.FillInput) []convention.Material {
	conv := b.Conventions
	list := slices.Concat(conv.Says.Materials, materials)
	if len(conv.Materials) > 0 {
		wanted := slices.DeleteFunc(slices.Clone(list), func(m convention.Material) bool {
			return !slices.Contains(conv.Materials, m.Name) && !slices.Contains(conv.Says.Materials, m)
		})
		if len(wanted) > 0 {
			list = wanted
		}
	}
	start := 0
	if !conv.OneMaterial {
		start = int(b.Seed % uint64(len(list)))
	}
	return slices.Concat(list[start:], list[:start])
}

// Hand is the step: air, tray, lines, with the words of the strokes.
var Hand = step.Record{
	Kind:         lesson.Hand,
	Name:         "Hand",
	Family:       lesson.HandFamily,
	MinSeconds:   45,
	UsualSeconds: 120,
	MaxSeconds:   320,
	Needs: []step.Need{
		step.NeedTarget,
	},
	Takes:   []lesson.ItemKind{lesson.MaterialItem},
	Shows:   step.ShowWriting,
	Sheet:   "practice",
	Rank:    60,
	Usually: 1, Again: 30, Tools: true,
	Ways:  step.Ways("letter", "the letter", "family", "the letter, then those of its family"),
	About: "Air, tray, lines, with the words of the strokes.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		m, f := step.AnyTarget(b, s)
		if f != nil {
			return m, f
		}
		var options []lesson.Option
		tool := func(name, caution string, from lesson.Origin, because lesson.Reason) {
			there := slices.ContainsFunc(options, func(o lesson.Option) bool { return o.Value == name })
			if name != "" && !there {
				options = append(options, lesson.Option{Value: name, Detail: caution, Origin: from, Because: because})
			}
		}
		for _, name := range s.Options.Tools {
			tool(name, caution(b, name), lesson.FromTeam, step.Why("routine", "named in the routine"))
		}
		for _, t := range b.Targets {
			tool(t.Materials, caution(b, t.Materials), lesson.FromCard, step.Why("card", "named on the card"))
		}
		because := step.Why("day", "the material changes from day to day")
		if b.Conventions.OneMaterial {
			because = step.Why("one", "the team keeps to one material")
		}
		for _, k := range offered(b) {
			tool(k.Name, k.Caution, lesson.FromTeam, because)
		}
		m = step.OfTexts(lesson.MaterialItem, options, 1)
		take, n := m.Take, max(1, len(s.Options.Tools))
		m.Take = func(int) step.FillResult { return take(n) }
		return m, nil
	},
	Tell: tellHand,
}

func caution(b *step.FillInput, name string) string {
	for _, m := range slices.Concat(b.Conventions.Says.Materials, materials) {
		if m.Name == name {
			return m.Caution
		}
	}
	return ""
}

func tellHand(t *step.Narration, s *lesson.Step) {
	step.Adult(s, t.Conventions.Says.Posture)
	faces, _ := t.Spellings()
	for _, f := range faces {
		step.Adult(s, "Write "+strings.ReplaceAll(f.Pair.Grapheme, "-", " … ")+
			" in the air, your back to the class, or mirrored when you face it: "+
			script.WhileWriting(t.Conventions, f.Pair, soundOf(f.Writing)))
		if slip := strokes.Slip(f.Pair.Grapheme); slip != "" {
			step.Adult(s, "Watch for: "+slip+".")
		}
		if alike := alike(t.Lesson, f.Pair.Grapheme); s.Way == "family" && len(alike) > 0 {
			step.Adult(s, "Then its family, one after the other: "+strings.Join(alike, ", ")+".")
		}
		if f.Capital != nil {
			step.Adult(s, "The capital: “"+soundOf(f.Capital)+"”")
		}
		switch {
		case f.Pair.Kind() == "split digraph":
			first, last, _ := strings.Cut(f.Pair.Grapheme, "-")
			step.Adult(s, "Write "+first+", leave room for one letter, write "+last+"; a bridge from one to the other.")
		case f.Pair.Letters() > 1:
			step.Adult(s, "Write the letters side by side and underline the group: one line, "+group(t, f)+".")
		}
	}
	if s.Times > 1 {
		step.Adult(s, fmt.Sprintf("All of it %d times, the last time with eyes closed.", s.Times))
	}
	tools := step.Values(s.Items)
	step.Class(s, "Writes in the air, then with "+script.List(tools)+", then on the lines.")
	step.Table(s, append(tools, "pencils and lined paper")...)
	for _, f := range faces {
		if f.Workbook != "" {
			step.Table(s, "The workbook: "+f.Workbook)
		}
	}
	for _, it := range s.Items {
		step.Care(s, step.First(it.Detail, "Check allergies; nothing goes in mouths, noses or ears."))
	}
	step.Care(s, "Your school's own rules come first.")
}

// alike are known single letters of the same family of strokes.
func alike(l *lesson.Lesson, letter string) []string {
	own, ok := strokes.Of(letter)
	if !ok || own.Family == "" {
		return nil
	}
	var out []string
	for _, p := range l.Taught {
		k, ok := strokes.Of(p.Grapheme)
		if ok && k.Family == own.Family && k.Sign != letter && !slices.Contains(out, k.Sign) {
			out = append(out, k.Sign)
		}
	}
	return out
}

// group says how many sounds a letter group stands for.
func group(t *step.Narration, f lesson.CardFace) string {
	_, sounds, _ := strings.Cut(strings.TrimSuffix(script.Count(t.Speech, f.Pair), "."), ", ")
	return sounds
}

// soundOf is what is said while the strokes are written, all of them in one line.
func soundOf(w *strokes.Written) string {
	if w == nil {
		return ""
	}
	var out []string
	for _, s := range w.Strokes {
		if s.Brief != "" {
			out = append(out, strings.TrimRight(s.Brief, "."))
		}
	}
	return strings.Join(out, "; ")
}
