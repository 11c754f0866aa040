package kinds

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/words"
)

// easy are words of up to so many sounds that are blended by ear and spelled.
const easySounds = 4

func easy(w step.Word) bool { return w.Sounds <= easySounds }

// mix are n words for a step: those of the lesson first, then so large a share of older ones; where one kind is short
// the other fills up.
func mix(b *step.FillInput, n int, share float64, fits func(step.Word) bool) []step.Word {
	own, old := slices.Clone(b.Words), slices.Clone(b.Older)
	if fits != nil {
		not := func(w step.Word) bool { return !fits(w) }
		own, old = slices.DeleteFunc(own, not), slices.DeleteFunc(old, not)
	}
	older := min(len(old), int(math.Round(float64(n)*share)))
	first := min(len(own), n-older)
	older = min(len(old), n-first)
	return slices.Concat(own[:first], old[:older])
}

// wordsOr is material of readable words.
func wordsOr(b *step.FillInput,
	share float64,
	fits func(step.Word) bool,
	least int,
	take func(n int) []step.Word,
) (step.Material, *fault.Fault) {
	all := slices.Concat(b.Words, b.Older)
	if share == 0 && len(b.Words) >= least {
		all = b.Words
	}
	if fits != nil {
		all = slices.DeleteFunc(slices.Clone(all), func(w step.Word) bool { return !fits(w) })
	}
	if len(all) == 0 {
		if b.NoWords != nil {
			return step.Material{}, b.NoWords
		}
		return step.Refuse(step.LacksWords, "no familiar word can be read yet")
	}
	return step.OfWords(all, min(least, len(all)), take), nil
}

// Blend is the step: the adult says the sounds, the class says the word: those that are read next.
var Blend = step.Record{
	Kind: lesson.Blend, Name: "Blend by ear", Family: lesson.EarFamily, MinSeconds: 30, UsualSeconds: 50,
	MaxSeconds: 120, ItemSeconds: 15, Needs: []step.Need{step.NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem},
	Shows: step.ShowHidden, Rank: 80, Within: lesson.Read,
	About: "The adult says the sounds, the class says the word: those that are read next.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		return wordsOr(b, s.Options.OlderShare(), easy, 2, func(n int) []step.Word {
			list := slices.DeleteFunc(readList(b), func(w step.Word) bool { return !easy(w) })
			if len(list) < n {
				list = mix(b, n, 0, easy)
			}
			return list[:min(n, len(list))]
		})
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		how := "Say the sounds one by one with a clear gap; the class says the word: "
		if who := t.Conventions.Character(convention.Sounds); who != "" {
			how = who + " talks in sounds only, with a clear gap; the class says the word that " + who + " means: "
		}
		step.Adult(s, "No letters yet. "+how+t.Sounded(s.Items)+".", t.Conventions.Says.Gesture)
		step.Class(s, "Listens, then says the whole word.")
	},
}

// readList is what the Read step shows, once its time is known.
func readList(b *step.FillInput) []step.Word {
	n, ok := b.Counts[string(lesson.Read)]
	if !ok {
		return nil
	}
	return mix(b, n, b.ReadShare, nil)
}

// Read is the step: draw the bridges with a finger, sound out, blend; then whispered; then whole.
var Read = step.Record{
	Kind: lesson.Read, Name: "Read", Family: lesson.WordFamily, MinSeconds: 100, UsualSeconds: 150, MaxSeconds: 400,
	ItemSeconds: 25, Needs: []step.Need{step.NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem}, Shows: step.ShowWord,
	Sheet: "words", Rank: 100, Older: true, Usually: 2, Again: 8, Spoken: true,
	Ways:  step.Ways("words", "the words", step.PictureFirst, "its picture before each word"),
	About: "Draw the bridges with a finger, sound out, blend; then whispered; then whole.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		share := s.Options.OlderShare()
		return wordsOr(b, share, nil, 1, func(n int) []step.Word { return mix(b, n, share, nil) })
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		if t.Conventions.GroupsFirst && t.Grouped(s.Items) {
			step.Adult(s, "Look for letter groups first. Then draw the bridges with a finger, sound out, blend.")
		} else {
			step.Adult(s, "Draw the bridges with a finger from left to right, sound out, blend.")
		}
		step.Adult(s, t.Conventions.Says.Gesture)
		if n := step.Count(s.Items, lesson.OlderRole); n > 0 && n < len(s.Items) {
			step.Adult(s, "The last "+prose.Plural(n, "one is", fmt.Sprintf("%d are", n))+
				" from earlier lessons, so that the new sound is not guessed.")
		}
		step.Adult(s, passes(s.Times))
		step.Class(s, "Sounds out, blends, whispers, says the word.")
		step.Table(s, "Word cards or the screen")
	},
}

// passes says how the list is gone through after the first time.
func passes(times int) string {
	switch times {
	case 1:
		return "Once, whispered, then whole."
	case 0, 2:
		return "Then all of them once more in another order, quicker: whispered, then whole."
	}
	return fmt.Sprintf(
		"Then all of them %d times more, each time in another order, quicker: whispered, then whole.",
		times-1,
	)
}

// Older is the step: yesterday's and last week's words, mixed with new ones.
var Older = step.Record{
	Kind: lesson.Older, Name: "Older words", Family: lesson.WordFamily, MinSeconds: 60, UsualSeconds: 100,
	MaxSeconds: 200, ItemSeconds: 20, Needs: []step.Need{step.NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem},
	Shows: step.ShowWord, Rank: 35, Older: true, Spoken: true,
	Ways:  step.Ways("words", "the words", step.PictureFirst, "its picture before each word"),
	About: "Yesterday's and last week's words, mixed with new ones.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		share := 1.0
		if s.Options.Older != nil {
			share = *s.Options.Older
		}
		if len(b.Older) == 0 {
			return step.Refuse(step.LacksWords, "no word of earlier lessons can be read yet")
		}
		return step.OfWords(b.Older, min(3, len(b.Older)), func(n int) []step.Word {
			list := mix(b, n, share, nil)
			rng := b.Chance("older")
			rng.Shuffle(len(list), func(i, j int) { list[i], list[j] = list[j], list[i] })
			return list
		}), nil
	},
	Tell: func(_ *step.Narration, s *lesson.Step) {
		step.Adult(
			s,
			"Words of earlier lessons, at a quick pace: look, say it whole. Sound out only where a word does not come.",
		)
		step.Class(s, "Says each word.")
		step.Table(s, "Word cards or the screen")
	},
}

// Spell is the step: say it, a finger for each sound, write, draw the bridges under it, read it back.
var Spell = step.Record{
	Kind: lesson.Spell, Name: "Spell", Family: lesson.WordFamily, MinSeconds: 120, UsualSeconds: 120, MaxSeconds: 440,
	ItemSeconds: 40, Needs: []step.Need{step.NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem}, Shows: step.ShowHidden,
	Sheet: "frames", Rank: 95, Older: true,
	About: "Say it, a finger for each sound, write, draw the bridges under it, read it back.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		share := s.Options.OlderShare()
		fits := b.Reliable
		if !slices.ContainsFunc(b.Words, fits) {
			fits = nil
		}
		easyFirst := *b // longer words only where the easy ones are used up
		easyFirst.Words = slices.Clone(b.Words)
		slices.SortStableFunc(easyFirst.Words, func(x, y step.Word) int {
			return cmp.Compare(max(easySounds, x.Sounds), max(easySounds, y.Sounds))
		})
		return wordsOr(&easyFirst, share, fits, 1, func(n int) []step.Word { return mix(&easyFirst, n, share, fits) })
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		step.Adult(
			s,
			"Only you see the word. Say it, say it in a sentence, say it again. The class says it, a finger for each "+
				"sound, writes it, draws the bridges under it.",
		)
		step.Adult(s, t.Conventions.Says.Posture, t.Short(s.Items), t.Mistake(),
			"At the end all are read back from the boards.")
		step.Class(s, "Says, counts on fingers, writes, draws bridges, reads back.")
		step.Table(s, "Boards and pens")
	},
}

// Exceptions is the step: a new one: look, odd part, say, write. Known ones again.
var Exceptions = step.Record{
	Kind: lesson.Exceptions, Name: "Exception words", Family: lesson.WordFamily, MinSeconds: 30, UsualSeconds: 60,
	MaxSeconds: 120, ItemSeconds: 30, Takes: []lesson.ItemKind{lesson.WordItem}, Shows: step.ShowWord, Rank: 48,
	Ways:  step.Ways("team", "as the team does", "odd", "mark the odd part", "whole", "whole, by sight"),
	About: "A new one: look, odd part, say, write. Known ones again.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		var list []step.Word
		for i, w := range slices.Concat(b.NewWords, b.OldWords) {
			because := step.Why("known-exception", "known; once more")
			if i < len(b.NewWords) {
				because = step.Why("new-exception", "comes with the card of this lesson")
			}
			list = append(
				list,
				step.Word{Value: prose.Word(w), Role: lesson.ExceptionRole, Origin: lesson.FromCard, Because: because},
			)
		}
		if len(list) == 0 {
			return step.Refuse(step.LacksWords, "the class has no exception words yet")
		}
		return step.OfWords(list, 1, func(n int) []step.Word { return list[:min(n, len(list))] }), nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		whole := s.Way == "whole" || s.Way != "odd" && t.Conventions.WholeByHeart
		for _, it := range s.Items {
			w := "“" + it.Value + "”"
			switch {
			case it.Because.Code != "new-exception":
				step.Adult(s, w+": look, say it, use it.")
			case whole:
				step.Adult(s, "New: "+w+". Look, say it, spell it aloud, cover it, write it, look again.")
			default:
				step.Adult(s, "New: "+w+". Look, sound out what can be sounded out, find the odd part, say it, write it.")
			}
		}
		step.Class(s, "Looks, says, writes.")
		step.Table(s, "Exception words on cards")
	},
}

const madeUpTries = 14

// MadeUp is the step: words that mean nothing, marked as such, for sounding out only.
var MadeUp = step.Record{
	Kind: lesson.MadeUp, Name: "Made-up words", Family: lesson.WordFamily, MinSeconds: 60, UsualSeconds: 80,
	MaxSeconds: 160, ItemSeconds: 20, Needs: []step.Need{step.NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem},
	Shows: step.ShowWord, Rank: 12,
	Ways:  step.Ways("read", "read", "hear", "blended by ear", "spell", "spelled", "sort", "real or made up"),
	About: "Words that mean nothing, marked as such, for sounding out only.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		q := words.MadeUpQuery{Taught: b.Class.Pairs, Count: madeUpTries}
		if len(b.Targets) > 0 {
			q.Target = &b.Targets[0].Pair
		}
		made, err := words.MakeUp(q, b.Speech, b.Chance("made-up"))
		if err != nil || len(made) < 3 {
			return step.Refuse(step.LacksWords, "too few made-up words can be made with what is known")
		}
		var list []step.Word
		for i, m := range made {
			list = append(list, step.Word{
				Value: m.Word, Sounds: len(m.Segments), Segments: m.Segments, Role: lesson.MadeUpRole, Origin: lesson.MadeByRule,
				Because: step.Why("made-up", "means nothing; only taught pairs"),
			})
			if s.Options.Way == "sort" && i < len(b.Words) {
				list = append(list, b.Words[i])
			}
		}
		return step.OfWords(list, 3, func(n int) []step.Word { return list[:min(n, len(list))] }), nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		step.Adult(s, "“These words mean nothing. Nobody knows them; we can still read them.”")
		switch s.Way {
		case "hear":
			step.Adult(s, "By ear: say the sounds, the class says the word: "+t.Sounded(s.Items)+".")
		case "spell":
			step.Adult(s, "Say it twice; the class says it, counts its sounds, writes it.")
		case "sort":
			step.Adult(s, "Sound out, blend. “Real or made up?” Real ones go left, made-up ones right.")
		default:
			step.Adult(s, "Sound out, blend, say it in a silly voice.")
		}
		step.Class(s, "Sounds out and blends.")
	},
}

// Meaning is the step: each word with a plain clue or its picture.
var Meaning = step.Record{
	Kind:         lesson.Meaning,
	Name:         "Meaning",
	Family:       lesson.WordFamily,
	MinSeconds:   40,
	UsualSeconds: 60,
	MaxSeconds:   120,
	ItemSeconds:  20,
	Needs:        []step.Need{step.NeedWords},
	Takes:        []lesson.ItemKind{lesson.WordItem},
	Shows:        step.ShowWord,
	Rank:         28,
	About:        "Each word with a plain clue or its picture.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		var list []step.Word
		for _, w := range b.Words {
			if b.Clues[w.Value] != "" || lexicon.Clue(w.Value) != "" || lexicon.Pictured(w.Value) {
				list = append(list, w)
			}
		}
		if len(list) == 0 {
			return step.Refuse(step.LacksWords, "none of the words has a clue or a picture")
		}
		m := step.OfWords(list, 1, func(n int) []step.Word { return list[:min(n, len(list))] })
		return m, nil
	},
	Tell: func(_ *step.Narration, s *lesson.Step) {
		step.Adult(s, "Say the clue, let the class find the word. Read each clue yourself before you use it.")
		for _, it := range s.Items {
			if it.Clue != "" {
				step.Adult(s, it.Value+": "+it.Clue)
			} else {
				step.Adult(s, it.Value+": show the picture.")
			}
		}
		step.Class(s, "Finds the word, says it in a sentence.")
	},
}
