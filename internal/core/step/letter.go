package step

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/strokes"
)

var letterStep = Record{
	Kind: lesson.Letter, Name: "Letter", Family: lesson.EyeFamily, LeastSeconds: 20, UsualSeconds: 45, MostSeconds: 90,
	Needs: []Need{NeedTarget}, Shows: ShowCard, rank: 75, material: anyTarget,
	About: "How it is written; letters and sounds are counted.",
	tell: func(t *Telling, s *lesson.Step) {
		for _, f := range t.Lesson.Faces() {
			g := f.Pair.Grapheme
			adult(s, "Turn the card. “This is how we write "+f.Said+".” Trace "+strings.ReplaceAll(g, "-", " … ")+
				" with a finger.")
			adult(s, "“"+script.Count(t.Speech, f.Pair)+"”"+underline(f))
			switch {
			case len(g) > 1:
			case t.Conventions.LetterNames:
				adult(s, fmt.Sprintf("“Its name is %s. Its sound is %s.”", strings.ToUpper(g), script.Sound(f.Pair)))
			default:
				adult(s, "Say the sound only; letter names come later in this team.")
			}
			if t.Conventions.Capitals && len(g) == 1 {
				adult(s, fmt.Sprintf("Show the capital %s beside it: same sound.", strings.ToUpper(g)))
			}
		}
		class(s, "Says "+t.sound()+" and traces in the air.")
	},
}

func underline(f lesson.CardFace) string {
	if f.Pair.Letters() == 1 || f.Pair.Kind() == "split digraph" {
		return ""
	}
	return " Run a finger under the whole group."
}

// single are the targets of one letter, or of the cards met last where the lesson has no target.
func (b *Brief) single() []card.Card {
	from := b.Targets
	if len(from) == 0 {
		from = b.recent()
	}
	return slices.DeleteFunc(slices.Clone(from), func(c card.Card) bool { return len(c.Pair.Grapheme) != 1 })
}

var capitalsStep = Record{
	Kind: lesson.Capitals, Name: "Capitals", Family: lesson.HandFamily, LeastSeconds: 20, UsualSeconds: 60,
	MostSeconds: 140, ItemSeconds: 20, Needs: []Need{NeedLetter}, Shows: ShowSet, rank: 15,
	About: "Capital and small letter side by side: shape, size and where they stand on the lines.",
	material: func(b *Brief, _ lesson.RoutineStep) (Material, *fault.Fault) {
		cards := b.single()
		if len(cards) == 0 {
			return refuse(lacksLetter, "no single letter is among them")
		}
		return Material{Least: 1, Most: min(7, len(cards)), Take: func(n int) Filling {
			var shows []lesson.Show
			for _, c := range cards[:min(n, len(cards))] {
				shows = append(shows, lesson.Show{CardID: c.ID, Side: "letter"})
			}
			f := b.drill(shows, map[string]string{})
			f.Deck = nil
			return f
		}}, nil
	},
	tell: func(t *Telling, s *lesson.Step) {
		alike, other := []string{}, []string{}
		for _, it := range s.Items {
			g := t.Lesson.Cards[it.Value].Pair.Grapheme
			if strings.Contains("cjopsuvwxyzk", g) {
				alike = append(alike, strings.ToUpper(g)+" "+g)
			} else {
				other = append(other, strings.ToUpper(g)+" "+g)
			}
		}
		adult(s, "Show each capital beside its small letter: same sound. “What is the same, what is not?”")
		if len(alike) > 0 {
			adult(s, "Same shape, only larger or higher on the lines: "+strings.Join(alike, ", ")+".")
		}
		if len(other) > 0 {
			adult(s, "Another shape: "+strings.Join(other, ", ")+".")
		}
		class(s, "Says the sound, traces both on the lines.")
	},
}

// Materials of the Hand step. Common practice, no published source; a school's own rules come first.
var materials = []card.Material{
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
func Materials() []card.Material { return slices.Clone(materials) }

// offered are the materials of the team, those of the day first: another each day, or the first every day. Its own come
// before ours.
func (b *Brief) offered() []card.Material {
	conv := b.Conventions
	list := slices.Concat(conv.Says.Materials, materials)
	if len(conv.Materials) > 0 {
		wanted := slices.DeleteFunc(slices.Clone(list), func(m card.Material) bool {
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

var handStep = Record{
	Kind: lesson.Hand, Name: "Hand", Family: lesson.HandFamily, LeastSeconds: 45, UsualSeconds: 120, MostSeconds: 240,
	Needs: []Need{NeedTarget}, Takes: []lesson.ItemKind{lesson.MaterialItem}, Shows: ShowWriting, Sheet: "practice",
	rank: 60, times: true,
	About: "Air, tray, lines, with the words of the strokes.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		m, f := anyTarget(b, s)
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
			tool(name, b.caution(name), lesson.FromTeam, why("routine", "named in the routine"))
		}
		for _, t := range b.Targets {
			tool(t.Materials, b.caution(t.Materials), lesson.FromCard, why("card", "named on the card"))
		}
		because := why("day", "the material changes from day to day")
		if b.Conventions.OneMaterial {
			because = why("one", "the team keeps to one material")
		}
		for _, k := range b.offered() {
			tool(k.Name, k.Caution, lesson.FromTeam, because)
		}
		m = ofTexts(lesson.MaterialItem, options, 1)
		take, n := m.Take, max(1, len(s.Options.Tools))
		m.Take = func(int) Filling { return take(n) }
		return m, nil
	},
	tell: tellHand,
}

func (b *Brief) caution(name string) string {
	for _, m := range slices.Concat(b.Conventions.Says.Materials, materials) {
		if m.Name == name {
			return m.Caution
		}
	}
	return ""
}

func tellHand(t *Telling, s *lesson.Step) {
	adult(s, t.Conventions.Says.Posture)
	for _, f := range t.Lesson.Faces() {
		adult(s, "Write "+strings.ReplaceAll(f.Pair.Grapheme, "-", " … ")+
			" in the air, your back to the class, or mirrored when you face it: "+
			script.WhileWriting(t.Conventions, f.Pair, spoken(f.Writing)))
		if f.Capital != nil {
			adult(s, "The capital: “"+spoken(f.Capital)+"”")
		}
		switch {
		case f.Pair.Kind() == "split digraph":
			first, last, _ := strings.Cut(f.Pair.Grapheme, "-")
			adult(s, "Write "+first+", leave room for one letter, write "+last+"; a bridge from one to the other.")
		case f.Pair.Letters() > 1:
			adult(s, "Write the letters side by side and underline the group: one line, "+group(t, f)+".")
		}
	}
	tools := values(s.Items)
	class(s, "Writes in the air, then with "+script.List(tools)+", then on the lines.")
	table(s, append(tools, "pencils and lined paper")...)
	for _, it := range s.Items {
		care(s, first(it.Detail, "Check allergies; nothing goes in mouths, noses or ears."))
	}
	care(s, "Your school's own rules come first.")
}

// group says how many sounds a letter group stands for.
func group(t *Telling, f lesson.CardFace) string {
	_, sounds, _ := strings.Cut(strings.TrimSuffix(script.Count(t.Speech, f.Pair), "."), ", ")
	return sounds
}

// spoken is what is said while the strokes are written, all of them in one line.
func spoken(w *strokes.Written) string {
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
