package kinds

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/words"
)

// query asks for readable words with the first target, where there is one.
func query(b *step.FillInput) words.Query {
	q := words.Query{Taught: b.Class.Pairs, Exclude: b.Class.Refused}
	if len(b.Targets) > 0 {
		q.Target = &b.Targets[0].Pair
	}
	return q
}

// Contrast is the step: to and fro between two sounds, or two spellings of one.
var Contrast = step.Record{
	Kind:         lesson.Contrast,
	Name:         "Contrast",
	Family:       lesson.EarFamily,
	MinSeconds:   60,
	UsualSeconds: 100,
	MaxSeconds:   200,
	ItemSeconds:  10,
	Needs:        []step.Need{step.NeedTwo, step.NeedWords},
	Takes:        []lesson.ItemKind{lesson.WordItem},
	Shows:        step.ShowSort,
	Sheet:        "sorting",
	Rank:         88,
	Ways:         step.Ways("sort", "sort to two sides", "voice", "sort by voice on or off"),
	About:        "To and fro between two sounds, or two spellings of one.",
	Material:     contrastMaterial,
	Tell: func(t *step.Narration, s *lesson.Step) {
		faces := t.Lesson.Faces()
		if len(faces) < 2 {
			return
		}
		left, right := faces[0], faces[1]
		switch {
		case left.Pair.Sound == right.Pair.Sound:
			step.Adult(
				s,
				fmt.Sprintf("One sound, two spellings: %s. Say each word; the class points to %s or %s as it is written.",
					script.Sound(left.Pair), left.Pair.Grapheme, right.Pair.Grapheme),
			)
		case s.Way == "voice":
			step.Adult(
				s,
				fmt.Sprintf("Hand on the throat: %s or %s? Voice on goes left, voice off goes right.", left.Said, right.Said),
			)
		default:
			step.Adult(
				s,
				fmt.Sprintf("Say each word in a short phrase, then alone, in the order given: %s goes left, %s goes right.",
					left.Said, right.Said),
			)
		}
		step.Class(s, "Listens, shows the side, says the sound.")
	},
}

// contrastMaterial are words known to belong to one side, as many of each, in an order without a pattern.
func contrastMaterial(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
	if len(b.Targets) < 2 {
		return step.Refuse(step.LacksTwo, "there is only one sound; a second one is needed")
	}
	var sides [2][]lesson.Option
	for i := range sides {
		p, other := b.Targets[i].Pair, b.Targets[1-i].Pair
		q := query(b)
		q.Target, q.MaxSounds, q.Familiarity = &p, 5, 4
		for _, c := range words.Find(q, b.Speech) {
			if spelling.Holds(c.Segments, other) || p.Sound != other.Sound && soundsLike(c.Segments, other) ||
				len(sides[i]) == 10 {
				continue
			}
			sides[i] = append(sides[i], lesson.Option{
				Value: c.Word, Detail: script.Sound(p) + " " + p.Grapheme, Role: lesson.TargetRole, Origin: lesson.FromFinder,
				Basket:  []lesson.Basket{lesson.Has, lesson.HasNot}[i],
				Because: step.Why("side", "holds %s and no %s", p, other),
			})
		}
	}
	each := min(len(sides[0]), len(sides[1]))
	if each == 0 {
		return step.Refuse(
			step.LacksWords,
			"no readable words hold only one of %s and %s",
			b.Targets[0].Pair,
			b.Targets[1].Pair,
		)
	}
	return step.Material{Least: 2 * min(2, each), Most: 2 * each, By: 2, Take: func(n int) step.FillResult {
		var f step.FillResult
		for _, o := range slices.Concat(sides[0][:n/2], sides[1][:n/2]) {
			f.Items = append(f.Items, step.NewItem(lesson.WordItem, o))
		}
		rng := b.Chance("contrast")
		for range 20 {
			rng.Shuffle(len(f.Items), func(i, j int) { f.Items[i], f.Items[j] = f.Items[j], f.Items[i] })
			if run(f.Items) <= 2 {
				break
			}
		}
		f.Rest = slices.Concat(sides[0][n/2:], sides[1][n/2:])
		return f
	}}, nil
}

func soundsLike(segments []spelling.Segment, p spelling.Pair) bool {
	return slices.ContainsFunc(segments, func(s spelling.Segment) bool { return s.Pair.Sound == p.Sound })
}

// run is the longest run of one basket.
func run(items []lesson.Item) int {
	most, n := 0, 0
	for i, it := range items {
		if i > 0 && it.Basket == items[i-1].Basket {
			n++
		} else {
			n = 1
		}
		most = max(most, n)
	}
	return most
}

// WordPlay is the step: a chain of words, two words that make one, or an adult's slip to be found.
var WordPlay = step.Record{
	Kind:         lesson.WordPlay,
	Name:         "Word play",
	Family:       lesson.WordFamily,
	MinSeconds:   60,
	UsualSeconds: 80,
	MaxSeconds:   160,
	ItemSeconds:  20,
	Needs:        []step.Need{step.NeedWords},
	Takes:        []lesson.ItemKind{lesson.WordItem},
	Shows:        step.ShowWord,
	Rank:         18,
	Ways: step.Ways(
		"chain",
		"a chain: one sound changes",
		"compound",
		"two words make one",
		"slip",
		"find the adult's slip",
	),
	About:    "A chain of words, two words that make one, or an adult's slip to be found.",
	Material: wordPlay,
	Tell: func(_ *step.Narration, s *lesson.Step) {
		switch s.Way {
		case "compound":
			step.Adult(s, "Say the two parts; the class says the word: "+strings.Join(details(s.Items), ", ")+".")
			step.Class(s, "Joins the two words, reads the long one.")
		case "slip":
			step.Adult(s, "“I wrote these in a hurry. Find my slip.” Written: "+strings.Join(details(s.Items), ", ")+
				". Meant: "+strings.Join(step.Values(s.Items), ", ")+".")
			step.Class(s, "Sounds out what is written, finds the slip, puts it right.")
		default:
			step.Adult(s, "Build the first word from letter cards. Each next one changes one sound: “What must I change?”")
			step.Class(s, "Says the word, changes the card, reads it.")
			step.Table(s, "Letter cards")
		}
	},
}

func details(items []lesson.Item) []string {
	out := make([]string, len(items))
	for i, it := range items {
		out[i] = it.Detail
	}
	return out
}

const playWords = 8

func wordPlay(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
	var list []lesson.Option
	add := func(word, detail string, because lesson.Reason) {
		list = append(list, lesson.Option{
			Value: word, Detail: detail, Role: lesson.OlderRole, Origin: lesson.FromFinder, Because: because,
		})
	}
	q, rng := query(b), b.Chance("word play")
	switch s.Options.Way {
	case "compound":
		q.Target = nil
		for _, c := range words.Compounds(q, b.Speech) {
			if len(list) < playWords {
				add(c.Word, c.First+" + "+c.Second, step.Why("compound", "made of two words that can be read"))
			}
		}
	case "slip":
		found, err := words.SlipHunt(q, playWords, b.Speech, rng)
		if err == nil {
			for _, c := range found {
				add(c.Word, c.Shown, step.Why("slip", "%s", c.Why))
			}
		}
	default:
		links := chain(b, q)
		for _, l := range links {
			add(l.Word, step.SoundCount(l.Sounds), step.Why("chain", "%s", step.First(l.Says, "the first word")))
		}
	}
	if len(list) < 3 {
		return step.Refuse(step.LacksWords, "too few readable words go together for it")
	}
	return step.OfTexts(lesson.WordItem, list, 3), nil
}

// chain begins with a word that holds the target where it can.
func chain(b *step.FillInput, q words.Query) []words.Link {
	rng := b.Chance("chain")
	q.Target = nil
	for _, w := range b.Words[:min(3, len(b.Words))] {
		if links, err := words.Chain(q, w.Value, playWords-2, b.Speech, rng); err == nil && len(links) > 3 {
			return links
		}
	}
	links, err := words.Chain(q, "", playWords-2, b.Speech, rng)
	if err != nil {
		return nil
	}
	return links
}

// LetterHunt is the step: find the grapheme in a text that need not be readable.
var LetterHunt = step.Record{
	Kind:         lesson.LetterHunt,
	Name:         "Letter hunt",
	Family:       lesson.EyeFamily,
	MinSeconds:   40,
	UsualSeconds: 60,
	MaxSeconds:   120,
	Needs:        []step.Need{step.NeedTarget},
	Takes:        []lesson.ItemKind{lesson.TextItem},
	Shows:        step.ShowPage,
	Sheet:        "ring",
	Rank:         16,
	Words:        true,
	Ways:         step.Ways("letters", "hunt the letters", "words", "hunt words that hold it"),
	About:        "Find the grapheme in a text that need not be readable.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		if len(b.Targets) == 0 {
			return step.Refuse(step.LacksTarget, "the lesson has no grapheme to hunt for")
		}
		list := ofTeam(s, b.Hunts...)
		if len(list) == 0 {
			return step.Refuse(step.LacksPage, "no text holds the grapheme five times")
		}
		return step.Single(lesson.TextItem, list), nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		what := t.Lesson.Title()
		if s.Way == "words" {
			what = "words with " + what
		}
		n := 0
		for _, it := range s.Items {
			n += strings.Count(strings.ToLower(it.Value), t.Lesson.Target().Pair.Grapheme)
		}
		step.Adult(
			s,
			fmt.Sprintf("“Find %s; say %s each time.” It stands there %d times. Nobody needs to read the rest.", what,
				t.Sound(), n),
		)
		step.Class(s, "Rings it and says the sound.")
		step.Table(s, "The text, one for two children")
	},
}
