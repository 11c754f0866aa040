package step

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/words"
)

// easy are words of up to so many sounds that are blended by ear and spelled.
const easySounds = 4

func easy(w Word) bool { return w.Sounds <= easySounds }

// list are n words for a step: those of the lesson first, then so large a share of older ones; where one kind is short
// the other fills up.
func (b *Brief) list(n int, share float64, fits func(Word) bool) []Word {
	own, old := slices.Clone(b.Words), slices.Clone(b.Older)
	if fits != nil {
		not := func(w Word) bool { return !fits(w) }
		own, old = slices.DeleteFunc(own, not), slices.DeleteFunc(old, not)
	}
	older := min(len(old), int(math.Round(float64(n)*share)))
	first := min(len(own), n-older)
	older = min(len(old), n-first)
	return slices.Concat(own[:first], old[:older])
}

// wordsOr is material of readable words.
func (b *Brief) wordsOr(
	share float64,
	fits func(Word) bool,
	least int,
	take func(n int) []Word,
) (Material, *fault.Fault) {
	all := slices.Concat(b.Words, b.Older)
	if share == 0 && len(b.Words) >= least {
		all = b.Words
	}
	if fits != nil {
		all = slices.DeleteFunc(slices.Clone(all), func(w Word) bool { return !fits(w) })
	}
	if len(all) == 0 {
		if b.NoWords != nil {
			return Material{}, b.NoWords
		}
		return refuse(lacksWords, "no familiar word can be read yet")
	}
	return ofWords(all, min(least, len(all)), take), nil
}

var blendStep = Record{
	Kind: lesson.Blend, Name: "Blend by ear", Family: lesson.EarFamily, LeastSeconds: 30, UsualSeconds: 50,
	MostSeconds: 90, ItemSeconds: 15, Needs: []Need{NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem},
	Shows: ShowHidden, rank: 80, within: lesson.Read,
	About: "The adult says the sounds, the class says the word: those that are read next.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		return b.wordsOr(s.Options.OlderShare(), easy, 2, func(n int) []Word {
			list := slices.DeleteFunc(b.readList(), func(w Word) bool { return !easy(w) })
			if len(list) < n {
				list = b.list(n, 0, easy)
			}
			return list[:min(n, len(list))]
		})
	},
	tell: func(t *Telling, s *lesson.Step) {
		adult(
			s,
			"No letters yet. Say the sounds one by one with a clear gap; the class says the word: "+t.sounded(s.Items)+".",
			t.Conventions.Says.Gesture,
		)
		class(s, "Listens, then says the whole word.")
	},
}

// readList is what the Read step shows, once its time is known.
func (b *Brief) readList() []Word {
	n, ok := b.Counts[string(lesson.Read)]
	if !ok {
		return nil
	}
	return b.list(n, b.ReadShare, nil)
}

// sounded writes words with their sounds apart.
func (t *Telling) sounded(items []lesson.Item) string {
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

var readStep = Record{
	Kind: lesson.Read, Name: "Read", Family: lesson.WordFamily, LeastSeconds: 100, UsualSeconds: 150, MostSeconds: 300,
	ItemSeconds: 25, Needs: []Need{NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem}, Shows: ShowWord,
	Sheet: "words", rank: 100, older: true, times: true,
	About: "Draw the bridges with a finger, sound out, blend; then whispered; then whole.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		share := s.Options.OlderShare()
		return b.wordsOr(share, nil, 1, func(n int) []Word { return b.list(n, share, nil) })
	},
	tell: func(t *Telling, s *lesson.Step) {
		if t.Conventions.GroupsFirst {
			adult(s, "Look for letter groups first. Then draw the bridges with a finger, sound out, blend.")
		} else {
			adult(s, "Draw the bridges with a finger from left to right, sound out, blend.")
		}
		adult(s, t.Conventions.Says.Gesture)
		if n := count(s.Items, lesson.OlderRole); n > 0 && n < len(s.Items) {
			adult(s, "The last "+prose.Plural(n, "one is", fmt.Sprintf("%d are", n))+
				" from earlier lessons, so that the new sound is not guessed.")
		}
		adult(s, "Then all of them once more in another order, quicker: whispered, then whole.")
		class(s, "Sounds out, blends, whispers, says the word.")
		table(s, "Word cards or the screen")
	},
}

var olderStep = Record{
	Kind: lesson.Older, Name: "Older words", Family: lesson.WordFamily, LeastSeconds: 60, UsualSeconds: 100,
	MostSeconds: 200, ItemSeconds: 20, Needs: []Need{NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem},
	Shows: ShowWord, rank: 35, older: true,
	About: "Yesterday's and last week's words, mixed with new ones.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		share := 1.0
		if s.Options.Older != nil {
			share = *s.Options.Older
		}
		if len(b.Older) == 0 {
			return refuse(lacksWords, "no word of earlier lessons can be read yet")
		}
		return ofWords(b.Older, min(3, len(b.Older)), func(n int) []Word {
			list := b.list(n, share, nil)
			rng := b.chance("older")
			rng.Shuffle(len(list), func(i, j int) { list[i], list[j] = list[j], list[i] })
			return list
		}), nil
	},
	tell: func(_ *Telling, s *lesson.Step) {
		adult(s, "Words of earlier lessons, at a quick pace: look, say it whole. Sound out only where a word does not come.")
		class(s, "Says each word.")
		table(s, "Word cards or the screen")
	},
}

var spellStep = Record{
	Kind: lesson.Spell, Name: "Spell", Family: lesson.WordFamily, LeastSeconds: 120, UsualSeconds: 120, MostSeconds: 320,
	ItemSeconds: 40, Needs: []Need{NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem}, Shows: ShowHidden,
	Sheet: "frames", rank: 95, older: true,
	About: "Say it, a finger for each sound, write, draw the bridges under it, read it back.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		share := s.Options.OlderShare()
		fits := func(w Word) bool { return easy(w) && b.reliable(w) }
		if !slices.ContainsFunc(b.Words, fits) {
			fits = nil
		}
		return b.wordsOr(share, fits, 1, func(n int) []Word { return b.list(n, share, fits) })
	},
	tell: func(t *Telling, s *lesson.Step) {
		adult(s, "Only you see the word. Say it, say it in a sentence, say it again. The class says it, a finger for each "+
			"sound, writes it, draws the bridges under it.")
		adult(s, t.Conventions.Says.Posture, t.short(s.Items), t.mistake(),
			"At the end all are read back from the boards.")
		class(s, "Says, counts on fingers, writes, draws bridges, reads back.")
		table(s, "Boards and pens")
	},
}

// short names the sounds of the words that cannot be stretched.
func (t *Telling) short(items []lesson.Item) string {
	var out []string
	for _, it := range items {
		seg, err := t.Speech.Segment(it.Value)
		if err != nil {
			continue
		}
		for _, s := range seg.Segments {
			text := script.Sound(s.Pair)
			if len(s.Phonemes) == 1 && card.HoldOf(t.Conventions, s.Pair) == card.Short && !slices.Contains(out, text) {
				out = append(out, text)
			}
		}
	}
	if len(out) == 0 {
		return ""
	}
	return "Said short, never stretched: " + script.List(out) + "."
}

var exceptionsStep = Record{
	Kind: lesson.Exceptions, Name: "Exception words", Family: lesson.WordFamily, LeastSeconds: 30, UsualSeconds: 60,
	MostSeconds: 120, ItemSeconds: 30, Takes: []lesson.ItemKind{lesson.WordItem}, Shows: ShowWord, rank: 48,
	Ways:  []Way{{"team", "as the team does"}, {"odd", "mark the odd part"}, {"whole", "whole, by sight"}},
	About: "A new one: look, odd part, say, write. Known ones again.",
	material: func(b *Brief, _ lesson.RoutineStep) (Material, *fault.Fault) {
		var list []Word
		for i, w := range slices.Concat(b.NewWords, b.OldWords) {
			because := why("known-exception", "known; once more")
			if i < len(b.NewWords) {
				because = why("new-exception", "comes with the card of this lesson")
			}
			list = append(
				list,
				Word{Value: prose.Word(w), Role: lesson.ExceptionRole, Origin: lesson.FromCard, Because: because},
			)
		}
		if len(list) == 0 {
			return refuse(lacksWords, "the class has no exception words yet")
		}
		return ofWords(list, 1, func(n int) []Word { return list[:min(n, len(list))] }), nil
	},
	tell: func(t *Telling, s *lesson.Step) {
		whole := s.Way == "whole" || s.Way != "odd" && t.Conventions.WholeByHeart
		for _, it := range s.Items {
			w := "“" + it.Value + "”"
			switch {
			case it.Because.Code != "new-exception":
				adult(s, w+": look, say it, use it.")
			case whole:
				adult(s, "New: "+w+". Look, say it, spell it aloud, cover it, write it, look again.")
			default:
				adult(s, "New: "+w+". Look, sound out what can be sounded out, find the odd part, say it, write it.")
			}
		}
		class(s, "Looks, says, writes.")
		table(s, "Exception words on cards")
	},
}

const madeUpTries = 14

var madeUpStep = Record{
	Kind: lesson.MadeUp, Name: "Made-up words", Family: lesson.WordFamily, LeastSeconds: 60, UsualSeconds: 80,
	MostSeconds: 160, ItemSeconds: 20, Needs: []Need{NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem},
	Shows: ShowWord, rank: 12,
	Ways: []Way{
		{"read", "read"}, {"hear", "blended by ear"}, {"spell", "spelled"}, {"sort", "real or made up"},
	},
	About: "Words that mean nothing, marked as such, for sounding out only.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		q := words.MadeUpQuery{Taught: b.Class.Pairs, Count: madeUpTries}
		if len(b.Targets) > 0 {
			q.Target = &b.Targets[0].Pair
		}
		made, err := words.MakeUp(q, b.Speech, b.chance("made-up"))
		if err != nil || len(made) < 3 {
			return refuse(lacksWords, "too few made-up words can be made with what is known")
		}
		var list []Word
		for i, m := range made {
			list = append(list, Word{
				Value: m.Word, Sounds: len(m.Segments), Segments: m.Segments, Role: lesson.MadeUpRole, Origin: lesson.MadeByRule,
				Because: why("made-up", "means nothing; only taught pairs"),
			})
			if s.Options.Way == "sort" && i < len(b.Words) {
				list = append(list, b.Words[i])
			}
		}
		return ofWords(list, 3, func(n int) []Word { return list[:min(n, len(list))] }), nil
	},
	tell: func(t *Telling, s *lesson.Step) {
		adult(s, "“These words mean nothing. Nobody knows them; we can still read them.”")
		switch s.Way {
		case "hear":
			adult(s, "By ear: say the sounds, the class says the word: "+t.sounded(s.Items)+".")
		case "spell":
			adult(s, "Say it twice; the class says it, counts its sounds, writes it.")
		case "sort":
			adult(s, "Sound out, blend. “Real or made up?” Real ones go left, made-up ones right.")
		default:
			adult(s, "Sound out, blend, say it in a silly voice.")
		}
		class(s, "Sounds out and blends.")
	},
}

var meaningStep = Record{
	Kind: lesson.Meaning, Name: "Meaning", Family: lesson.WordFamily, LeastSeconds: 40, UsualSeconds: 60, MostSeconds: 120,
	ItemSeconds: 20, Needs: []Need{NeedWords}, Takes: []lesson.ItemKind{lesson.WordItem}, Shows: ShowWord, rank: 28,
	About: "Each word with a plain clue or its picture.",
	material: func(b *Brief, _ lesson.RoutineStep) (Material, *fault.Fault) {
		var list []Word
		for _, w := range b.Words {
			if b.Clues[w.Value] != "" || lexicon.Clue(w.Value) != "" || lexicon.Pictured(w.Value) {
				list = append(list, w)
			}
		}
		if len(list) == 0 {
			return refuse(lacksWords, "none of the words has a clue or a picture")
		}
		m := ofWords(list, 1, func(n int) []Word { return list[:min(n, len(list))] })
		take := m.Take
		m.Take = func(n int) Filling {
			f := take(n)
			for i := range f.Items {
				w := f.Items[i].Value
				f.Items[i].Clue = first(b.Clues[w], lexicon.Clue(w))
			}
			return f
		}
		return m, nil
	},
	tell: func(_ *Telling, s *lesson.Step) {
		adult(s, "Say the clue, let the class find the word. Read each clue yourself before you use it.")
		for _, it := range s.Items {
			if it.Clue != "" {
				adult(s, it.Value+": "+it.Clue)
			} else {
				adult(s, it.Value+": show the picture.")
			}
		}
		class(s, "Finds the word, says it in a sentence.")
	},
}
