package words

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

type segment = spelling.Segment

// SlipKind names what went wrong in a misspelling.
type SlipKind string

const (
	LostSound   SlipKind = "lost sound"
	WrongVowel  SlipKind = "wrong vowel"
	WrongGroup  SlipKind = "wrong group"
	SingleFinal SlipKind = "not doubled"
)

// Slip is a plausible misspelling of a readable word, with the reason.
type Slip struct {
	Choice
	Shown string   `json:"shown"`
	Kind  SlipKind `json:"kind"`
	Why   string   `json:"why"`
}

// Vowels that children take for one another (common practice, no published source).
var nearVowels = map[string]string{"a": "eu", "e": "ia", "i": "e", "o": "u", "u": "oa"}

// SlipHunt lists so many readable words each shown with one slip, of kinds as different as can be; the order
// and the slips are set by rng. No slip is rude or nearly so, and none is spelled like the word's homophone.
func SlipHunt(q Query, count int, o Options, rng *rand.Rand) ([]Slip, error) {
	if count < 1 || count > 12 {
		return nil, fault.New(fault.Invalid, "a slip hunt takes 1 to 12 words, not %d", count)
	}
	q.Limit, q.MinSounds = 0, max(3, q.MinSounds)
	found := Find(q, o)
	byKind := map[SlipKind][]Slip{}
	for _, c := range found[:min(len(found), 150)] {
		for _, s := range Slips(c, q.Taught, o) {
			byKind[s.Kind] = append(byKind[s.Kind], s)
		}
	}
	used := map[string]bool{}
	out := []Slip{}
	for {
		before := len(out)
		for _, kind := range []SlipKind{LostSound, WrongVowel, WrongGroup, SingleFinal} {
			list := slices.DeleteFunc(byKind[kind], func(s Slip) bool { return used[s.Word] })
			byKind[kind] = list
			if len(list) == 0 || len(out) == count {
				continue
			}
			s := list[rng.IntN(min(len(list), 10))]
			used[s.Word] = true
			out = append(out, s)
		}
		if len(out) == count || len(out) == before {
			break
		}
	}
	if len(out) == 0 {
		return nil, fault.New(
			ErrTooFew,
			"too few fit: no readable word has a cluster, a short vowel or a letter group to slip on",
		)
	}
	return out, nil
}

// Slips lists the plausible misspellings of a word: a sound lost from a cluster, a vowel taken for its
// neighbour, a taught group of the same sound that is not this word's, a final letter not doubled.
func Slips(c Choice, taught spelling.Set, o Options) []Slip {
	var out []Slip
	add := func(shown string, kind SlipKind, format string, args ...any) {
		if shown != c.Word && !soundsUnfit(shown, o) &&
			!slices.ContainsFunc(out, func(s Slip) bool { return s.Shown == shown }) {
			out = append(out, Slip{c, shown, kind, fmt.Sprintf(format, args...)})
		}
	}
	consonant := func(i int) bool {
		return i >= 0 && i < len(c.Segments) && len(c.Segments[i].Phonemes) == 1 &&
			!phoneme.IsVowel(c.Segments[i].Phonemes[0])
	}
	vowel := slices.IndexFunc(
		c.Segments,
		func(s segment) bool { return len(s.Phonemes) > 0 && phoneme.IsVowel(s.Phonemes[0]) },
	)
	if vowel < 0 {
		return nil
	}
	for i, s := range c.Segments {
		rest := func(instead string) string { return respell(c, i, instead) }
		sound := s.Pair.Sound
		switch {
		// The second of two at the start, the first of two at the end: those are the ones that get lost.
		case i > 0 && i < vowel && consonant(i) && consonant(i-1):
			add(
				rest(""),
				LostSound,
				"%s is lost after %s: count the sounds, %d.",
				s.Grapheme,
				c.Segments[i-1].Grapheme,
				c.Sounds,
			)
		case i > vowel && i < len(c.Segments)-1 && consonant(i) && consonant(i+1) && strings.Contains("mnŋlsr", sound):
			add(
				rest(""),
				LostSound,
				"%s is lost before %s: count the sounds, %d.",
				s.Grapheme,
				c.Segments[i+1].Grapheme,
				c.Sounds,
			)
		case i == vowel && nearVowels[s.Grapheme] != "":
			if v, ok := phoneme.Lookup(o.Accent, s.Phonemes[0]); ok && v.VowelKind == phoneme.Short {
				for _, other := range nearVowels[s.Grapheme] {
					soft := i > 0 && strings.Contains("cg", c.Segments[i-1].Grapheme) && strings.ContainsRune("ei", other)
					if shown := rest(string(other)); hasGrapheme(taught, string(other)) && !soft && shortAt(shown, i, o) {
						add(rest(string(other)), WrongVowel, "%c is not the vowel of %s: stretch it and listen.", other, c.Word)
					}
				}
			}
		case s.Pair.Kind() == "doubled letter" && i == len(c.Segments)-1:
			add(rest(s.Grapheme[:1]), SingleFinal, "%s at the end after a short vowel has two letters, one sound.", s.Grapheme)
		case s.Grapheme == "ck":
			add(rest("k"), SingleFinal, "After a short vowel the sound at the end is written ck.")
		}
		if len(s.Grapheme) > 1 && !strings.Contains(s.Grapheme, "-") && phoneme.IsVowel(s.Phonemes[0]) {
			for p := range taught {
				if p.Sound == sound && p.Grapheme != s.Grapheme && len(p.Grapheme) > 1 && !strings.Contains(p.Grapheme, "-") {
					add(
						rest(p.Grapheme),
						WrongGroup,
						"%s and %s say the same here, but %s is written with %s.",
						p.Grapheme,
						s.Grapheme,
						c.Word,
						s.Grapheme,
					)
				}
			}
			add(
				rest(s.Grapheme[:1]),
				WrongGroup,
				"%s is one sound with %d letters; %s alone says another sound.",
				s.Grapheme,
				len(s.Grapheme),
				s.Grapheme[:1],
			)
		}
	}
	slices.SortStableFunc(out, func(a, b Slip) int { return strings.Compare(a.Shown, b.Shown) }) // a set has no order
	return out
}

func respell(c Choice, i int, instead string) string {
	var b strings.Builder
	at := c.Segments[i].Letters
	for l := range len(c.Word) {
		switch {
		case l == at[0]:
			b.WriteString(instead)
		case slices.Contains(at, l):
		default:
			b.WriteByte(c.Word[l])
		}
	}
	return b.String()
}

func hasGrapheme(taught spelling.Set, g string) bool {
	for p := range taught {
		if p.Grapheme == g {
			return true
		}
	}
	return false
}

// shortAt tells whether a misspelling is read with a short vowel at the segment: bind for bend is not.
func shortAt(shown string, i int, o Options) bool {
	seg, err := o.Segment(shown)
	if err != nil || i >= len(seg.Segments) || len(seg.Segments[i].Phonemes) != 1 {
		return false
	}
	v, ok := phoneme.Lookup(o.Accent, seg.Segments[i].Phonemes[0])
	return ok && v.VowelKind == phoneme.Short
}
