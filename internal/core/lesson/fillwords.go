package lesson

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

// wordOptions ranks the words for reading: those on the card first, then those the finder offers.
func (a *assembler) wordOptions(maxSounds int) []Option {
	target := a.Target.Pair
	if a.readable == nil {
		a.readable = words.Find(
			words.Query{
				Taught:      a.taught,
				Target:      &target,
				Exclude:     a.refused(),
				Familiarity: 2,
				MinSounds:   2,
				MaxSounds:   5,
				Limit:       60,
			},
			a.options,
		)
		for _, c := range a.readable {
			a.out.WordBits[c.Word] = a.bits(c.Segments)
		}
	}
	mine := a.ownWords(maxSounds)
	var rest []Option
	for _, c := range a.readable {
		if c.Sounds <= maxSounds && !slices.Contains(a.Target.Words, c.Word) && len(rest) < 24 {
			rest = append(rest, Option{Value: c.Word, Detail: soundCount(c.Sounds), Origin: FromFinder, Because: c.Because})
		}
	}
	return append(mine, rest...)
}

// ownWords are the card's words that the class can read, in the order of the card; flagged ones are left out.
func (a *assembler) ownWords(maxSounds int) []Option {
	flagged := map[string]bool{}
	for _, f := range a.Target.FlaggedWords(a.options) {
		flagged[f.Word] = true
	}
	var out []Option
	for _, w := range a.Target.Words {
		seg, err := a.options.Segment(w)
		if err != nil || flagged[strings.ToLower(w)] || slices.Contains(a.Refused, w) ||
			slices.Contains(a.Target.Rejected, w) {
			continue
		}
		readable := a.taught.Covers(seg.Segments) &&
			!slices.ContainsFunc(seg.Alternatives, func(r lexicon.Reading) bool { return !a.taught.Covers(r.Segments) })
		if readable && seg.Sounds <= maxSounds {
			a.out.WordBits[w] = a.bits(seg.Segments)
			out = append(out, Option{Value: w, Detail: soundCount(seg.Sounds), Origin: FromCard, Because: "on the team's card"})
		}
	}
	return out
}

// bits cuts a word for its bridges.
func (a *assembler) bits(segments []spelling.Segment) []spelling.Bit {
	return spelling.Bridges(segments, spelling.Bridging{Target: &a.out.Pair, Taught: a.taught})
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

func soundCount(n int) string { return fmt.Sprintf("%d sounds", n) }

func (a *assembler) close(s *Step) {
	s.Adult = append(s.Adult, "“One last time: the sound, the action, the letter in the air.”")
	s.Adult = append(s.Adult, "What goes home: the sheet for "+a.say()+".")
	s.Class = append(s.Class, "Says "+a.say()+" once more and does the action.")
}
