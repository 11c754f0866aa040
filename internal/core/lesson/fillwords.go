package lesson

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
)

// wordOptions ranks the words for reading: those on the card first, then those the finder offers.
func (a *assembler) wordOptions(maxSounds int) []Option {
	target := a.Target.Pair
	if a.readable == nil {
		exclude := map[string]bool{}
		for _, w := range a.Target.Rejected {
			exclude[w] = true
		}
		a.readable = words.Find(words.Query{Taught: a.taught, Target: &target, Exclude: exclude, Familiarity: 2, MinSounds: 2, MaxSounds: 5, Limit: 60}, a.options)
		for _, c := range a.readable {
			a.out.WordBits[c.Word] = toBits(c.Segments, target)
		}
	}
	var mine, rest []Option
	for _, c := range a.readable {
		if c.Sounds > maxSounds {
			continue
		}
		o := Option{c.Word, fmt.Sprintf("%d sounds", c.Sounds), c.Because}
		if slices.Contains(a.Target.Words, c.Word) {
			o.Because = "on the team's card; " + o.Because
			a.out.WordBits[c.Word] = toBits(c.Segments, target)
			mine = append(mine, o)
		} else if len(rest) < 24 {
			rest = append(rest, o)
		}
	}
	return append(mine, rest...)
}

func toBits(segments []spelling.Segment, target spelling.Pair) []Bit {
	out := make([]Bit, len(segments))
	for i, s := range segments {
		out[i] = Bit{s.Letters, phoneme.Join(s.Phonemes), s.Odd, s.Pair == target}
	}
	return out
}

func bits(word string, target spelling.Pair, a phoneme.Accent, u spelling.Units) []Bit {
	seg, err := lexicon.Segment(word, a, u)
	if err != nil {
		return []Bit{}
	}
	return toBits(seg.Segments, target)
}

func (a *assembler) noWords() string {
	if len(a.Taught) == 0 {
		return "the class has been taught nothing to put with this sound yet"
	}
	return fmt.Sprintf("no familiar word with %s can be read with the %d pairs taught so far", a.say(), len(a.Taught))
}

func (a *assembler) blend(s *Step) string {
	s.Choices = a.choose("blend", "word", a.items(s, 2, 6), a.wordOptions(4))
	if len(s.Choices) == 0 {
		return a.noWords()
	}
	s.Adult = append(s.Adult, "No letters yet. Say the sounds one by one with a clear gap; the class says the word.")
	s.Class = append(s.Class, "Listens, then says the whole word.")
	return ""
}

func (a *assembler) read(s *Step) string {
	s.Choices = a.choose("read", "word", a.items(s, 3, 8), a.wordOptions(5))
	if len(s.Choices) == 0 {
		return a.noWords()
	}
	if a.Conventions.GroupsFirst {
		s.Adult = append(s.Adult, "Spot the letter groups first and draw their bridges. Then sound out, then blend.")
	} else {
		s.Adult = append(s.Adult, "Sound out from left to right, one bridge at a time, then blend.")
	}
	s.Adult = append(s.Adult, "Once more, faster. Then in the head: lips closed, thumbs up, all together.")
	s.Class = append(s.Class, "Sounds out and says each word.")
	s.Table = append(s.Table, "Word cards or the screen")
	return ""
}

func (a *assembler) spell(s *Step) string {
	s.Choices = a.choose("spell", "word", a.items(s, 2, 6), a.wordOptions(4))
	if len(s.Choices) == 0 {
		if len(a.out.WordBits) > 0 {
			return "all readable words are used in the steps before"
		}
		return a.noWords()
	}
	s.Adult = append(s.Adult, "Say the word. Count its sounds on your fingers. Write it. Then a tick under each sound.")
	s.Class = append(s.Class, "Says, counts, writes, ticks.")
	s.Table = append(s.Table, "Whiteboards and pens")
	return ""
}

func (a *assembler) sentence(s *Step) string {
	known := map[string]bool{}
	for _, w := range append(slices.Clone(a.Exceptions), a.Target.Exceptions...) {
		known[strings.ToLower(w)] = true
	}
	var options []Option
	why := "the card has no sentence yet"
	for _, text := range a.Target.Sentences {
		r := texts.Check(text, a.taught, known, texts.Options{Accent: a.Conventions.Accent, Units: a.Conventions.Units})
		if r.Fits() {
			options = append(options, Option{text, fmt.Sprintf("%d words", len(r.Tokens)), "every word can be read or is a taught exception word"})
			continue
		}
		for _, t := range r.Tokens {
			if len(t.Untaught) > 0 && t.Status != texts.Exception {
				why = fmt.Sprintf("“%s” needs %s, not yet taught", t.Text, strings.Join(t.Untaught, ", "))
				break
			}
		}
	}
	if len(options) == 0 {
		return why
	}
	s.Choices = a.choose("sentence", "sentence", 1, options)
	for _, t := range texts.Check(s.Choices[0].Value, a.taught, known, texts.Options{Accent: a.Conventions.Accent, Units: a.Conventions.Units}).Tokens {
		a.out.WordBits[t.Text] = toBits(t.Segments, a.Target.Pair)
		if t.Status == texts.Exception {
			s.Adult = append(s.Adult, "Exception word first: “"+t.Text+"”. Say it, look for the odd part, say it again.")
		}
	}
	s.Adult = append(s.Adult, "Say the sentence, hold it on fingers, write it. Check the capital and the full stop.")
	s.Class = append(s.Class, "Says, holds, writes, checks.")
	return ""
}

func (a *assembler) close(s *Step) {
	s.Adult = append(s.Adult, "“One last time: the sound, the action, the letter in the air.”")
	s.Adult = append(s.Adult, "What goes home: the sheet for "+a.say()+".")
	s.Class = append(s.Class, "Says "+a.say()+" once more and does the action.")
}
