// Package script says things about a sound so that they can be read aloud as they stand: how it is named, how many
// letters it has and how many sounds, stretched or short, where the voice is on, in which voices, what is said while it
// is written.
package script

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
)

// Sound writes a sound as a sound, never by its letters: one spelling may have several.
func Sound(p spelling.Pair) string { return "/" + p.Sound + "/" }

// Said is the sound with a word that holds it: the keyword of the card, or else the best known word with the pair.
func Said(o lexicon.Speech, p spelling.Pair, keyword string) string {
	if w := Keyword(o, p, keyword); w != "" {
		return Sound(p) + " as in " + w
	}
	return Sound(p)
}

// Named is a pair as teachers name it: ai as in rain. The letters alone where no word has it.
func Named(o lexicon.Speech, p spelling.Pair) string {
	if w := Keyword(o, p, ""); w != "" {
		return p.Grapheme + " as in " + w
	}
	return p.Grapheme
}

// Keyword is the card's, or else the word with the pair that shows it best among those that most children know; where
// they know none well, the best known. Empty where there is none: a word with the sound in another spelling would show
// the wrong letters.
func Keyword(o lexicon.Speech, p spelling.Pair, keyword string) string {
	if keyword != "" {
		return keyword
	}
	var fit []*lexicon.Item
	found := lexicon.For(o.Accent, o.Units).With(p)
	for _, it := range found[:min(len(found), looked)] {
		if it.Doubt == lexicon.NoDoubt && len(it.Readings) == 1 && !it.Unfit {
			fit = append(fit, it)
		}
	}
	if len(fit) == 0 {
		return ""
	}
	return slices.MaxFunc(fit, func(x, y *lexicon.Item) int {
		return cmp.Or(
			cmp.Compare(min(x.Familiarity, wellKnown), min(y.Familiarity, wellKnown)), cmp.Compare(clear(x, p), clear(y, p)),
		)
	}).Word
}

const (
	wellKnown = 4
	looked    = 60 // of the best words with a pair
)

// clear is how well a word shows a sound: at its start, or else at its end, a thing that can be drawn, short.
func clear(it *lexicon.Item, p spelling.Pair) int {
	segments := it.Readings[0].Segments
	worth := 2*it.Familiarity - it.Readings[0].Sounds
	switch {
	case segments[0].Pair == p:
		worth += 8
	case segments[len(segments)-1].Pair == p:
		worth += 4
	}
	if len(segments) > 1 && segments[0].Pair == p && !phoneme.IsVowel(segments[0].Phonemes[0]) &&
		(len(segments[1].Phonemes) == 0 || !phoneme.IsVowel(segments[1].Phonemes[0])) {
		worth -= 4 // a cluster hides it
	}
	if it.Picture {
		worth += 3
	}
	for _, s := range segments { // plainly spelled: net, not night
		if s.Pair != p && len(s.Grapheme) > 1 {
			worth -= 3
		}
	}
	return worth
}

// SoundAs is a sound of the accent with its key word.
func SoundAs(a phoneme.Accent, p phoneme.Phoneme) string {
	s, ok := phoneme.Lookup(a, p)
	if !ok {
		return "/" + string(p) + "/"
	}
	return "/" + string(p) + "/ as in " + s.KeyWord
}

var numbers = []string{"no", "one", "two", "three", "four", "five", "six"}

func number(n int, thing string) string {
	word := fmt.Sprint(n)
	if n < len(numbers) {
		word = numbers[n]
	}
	return word + " " + prose.Plural(n, thing, thing+"s")
}

// Count says how many letters and how many sounds a pair has, as the team counts them: “Three letters, one sound.”
func Count(o lexicon.Speech, p spelling.Pair) string {
	sounds, _ := phoneme.Parse(o.Accent, p.Sound)
	n := spelling.SoundCount([]spelling.Segment{{Grapheme: p.Grapheme, Phonemes: sounds, Pair: p}}, o.Units)
	text := prose.Capital(number(p.Letters(), "letter")) + ", " + number(n, "sound")
	if p.Kind() == "split digraph" {
		first, last, _ := strings.Cut(p.Grapheme, "-")
		return text + ": " + first + " and " + last + " with a letter between."
	}
	if n > 1 {
		text += " close together"
	}
	return text + "."
}

// Hold says whether the sound is stretched or short.
func Hold(c convention.Conventions, p spelling.Pair) string {
	if card.FindHold(c, p) == card.Stretch {
		return "Stretch it, then stop cleanly."
	}
	return "Say it short and stop at once."
}

// Throat is the question about the voice, with its answer.
func Throat(a phoneme.Accent, p spelling.Pair) string {
	answer := map[card.Voice]string{
		card.VoiceOn:    "Yes: the voice is on.",
		card.VoiceOff:   "No: the voice is off, only breath.",
		card.VoiceBoth:  "First not, then it does: the voice is off, then on.",
		card.VoiceFalls: "First it does, then not: the voice is on, then off.",
	}[card.FindVoice(a, p)]
	return "“Hand on your throat. Does it hum?” " + answer
}

// long reports whether a voice asks for a stretched sound.
func long(voice string) bool {
	for _, w := range []string{"long", "slow", "sung", "sing", "stretch"} {
		if strings.Contains(strings.ToLower(voice), w) {
			return true
		}
	}
	return false
}

// Voices are the voices that a sound allows: nothing long for a short one.
func Voices(c convention.Conventions, p spelling.Pair) []string {
	var list []string
	for _, v := range c.Says.Voices {
		list = append(list, strings.TrimSpace(v))
	}
	if len(list) == 0 {
		list = slices.Clone(convention.DefaultVoices)
	}
	if card.FindHold(c, p) == card.Short {
		list = slices.DeleteFunc(list, long)
	}
	return list
}

// Answer is what the class says to the letter side of a card.
func Answer(c convention.Conventions, p spelling.Pair, keyword string) string {
	name := "“" + strings.ToUpper(p.Grapheme) + "”, "
	if p.Letters() > 1 {
		name = ""
	}
	switch {
	case c.Says.Answer == convention.AnswerAction:
		return Sound(p) + " with the action"
	case keyword == "":
		return Sound(p)
	case c.Says.Answer == convention.AnswerKeyword:
		return "“" + keyword + "”, " + Sound(p)
	case c.Says.Answer == convention.AnswerName:
		return name + "“" + keyword + "”, " + Sound(p)
	}
	return Sound(p)
}

// AnswerRule is the same for a pack of cards.
func AnswerRule(c convention.Conventions) string {
	switch c.Says.Answer {
	case convention.AnswerKeyword:
		return "the keyword and the sound"
	case convention.AnswerName:
		return "the letter name, the keyword and the sound"
	case convention.AnswerAction:
		return "the sound with its action"
	}
	return "the sound"
}

// WhileWriting is what is said while the pen moves. said are the words of the strokes.
func WhileWriting(c convention.Conventions, p spelling.Pair, said string) string {
	switch {
	case said == "" || c.Says.Writing == convention.SaySound:
		return Sound(p)
	case c.Says.Writing == convention.SayBoth:
		return "“" + said + "”, then " + Sound(p)
	}
	return "“" + said + "”"
}

// Slip is the line about the usual slip; empty where it would warn of the sound itself.
func Slip(p spelling.Pair, slip string) string {
	uh := p.Sound == "ʌ" || p.Sound == "ə" || p.Sound == "ɜː"
	if uh && strings.Contains(slip, "“uh”") {
		return ""
	}
	return slip
}

// List joins texts with commas and a last "and".
func List(texts []string) string { return joined(texts, " and ") }

// Either joins texts with commas and a last "or".
func Either(texts []string) string { return joined(texts, " or ") }

func joined(texts []string, last string) string {
	if len(texts) < 2 {
		return strings.Join(texts, "")
	}
	return strings.Join(texts[:len(texts)-1], ", ") + last + texts[len(texts)-1]
}
