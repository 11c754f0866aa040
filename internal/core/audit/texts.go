package audit

import (
	"math"
	"regexp"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

var wordPattern = regexp.MustCompile(`[\pL]+(?:[’'][\pL]+)?`)

func splitWords(text string) []string {
	return wordPattern.FindAllString(strings.ToLower(text), -1)
}

// slips are words in the texts of a card that nobody knows, where one that is known lies near.
func (l Library) slips() (out []Finding) {
	for _, c := range l.Cards {
		for _, f := range card.Fields {
			if !f.Prose {
				continue
			}
			field := f.Name
			text, _ := c.Wording(field)
			seen := map[string]bool{}
			for _, w := range wordPattern.FindAllString(text, -1) {
				meant := l.meant(c, w)
				if meant == "" || seen[w] {
					continue
				}
				seen[w] = true
				mended := regexp.MustCompile(`\b`+regexp.QuoteMeta(w)+`\b`).ReplaceAllString(text, meant)
				one := newFinding(Slip, field, w, []string{c.ID}, "“%s” is no word we know. Did you mean “%s”?", w, meant)
				out = append(out, one.mended(c, mended, "Write "+meant))
			}
		}
	}
	return out
}

// minSlip is how long a mistyped word is at least: shorter ones are sounds and letters.
const minSlip = 4

// meant is the word that was probably meant, empty where the word is known, a name, a sound or too far from any.
func (l Library) meant(c card.Card, w string) string {
	small := strings.ToLower(w)
	if len([]rune(w)) < minSlip || small != w || strings.ContainsAny(w, "’'") || l.Team.Speech().Knows(small) ||
		strings.EqualFold(w, c.Keyword) || hasStrokes(small) {
		return ""
	}
	return lexicon.Meant(small)
}

// hasStrokes tells whether a word is a sound as children draw it out: mmm, ssss, aaah.
func hasStrokes(w string) bool {
	for i := 2; i < len(w); i++ {
		if w[i-2:i+1] == strings.Repeat(w[i:i+1], 3) {
			return true
		}
	}
	return false
}

// things are those of a tray in which the sound of the card is not heard.
func (l Library) things() (out []Finding) {
	for _, c := range l.Cards {
		sounds, err := phoneme.Parse(c.Content.Conventions(l.Team).Accent, c.Pair.Sound)
		if err != nil {
			continue
		}
		for _, thing := range c.Objects {
			known, there := false, false
			for _, name := range card.ThingNames(thing) {
				heard := l.speech(c).Sounds(name)
				known, there = known || len(heard) > 0, there || sounded(heard, sounds)
			}
			if !known || there {
				continue
			}
			out = append(out, newFinding(Thing, "objects", thing, []string{c.ID},
				"“%s” lies in the tray, and its name has no /%s/.", thing, c.Pair.Sound))
		}
	}
	return out
}

// sounded tells whether sounds stand somewhere in a word, one after the other.
func sounded(word, sounds []phoneme.Phoneme) bool {
	for i := range len(word) - len(sounds) + 1 {
		if slices.Equal(word[i:i+len(sounds)], sounds) {
			return true
		}
	}
	return false
}

// Breath: a rhyme is said by a class in one breath, or with one at each stop or comma. Children of this age say about
// 3.5 syllables a second together, and a breath lasts about 4 seconds (common practice, no published source).
const (
	SyllablesASecond = 3.5
	BreathSeconds    = 4.0
)

// breaths are rhymes with a stretch that is too long for one breath, where no short form helps.
func (l Library) breaths() (out []Finding) {
	most := int(math.Floor(SyllablesASecond * BreathSeconds))
	for _, c := range l.Cards {
		field := "rhyme"
		if c.RhymeShort != "" {
			field = "rhyme_short"
		}
		text, _ := c.Wording(field)
		for _, part := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(",.;:!?–—\n", r) }) {
			if n := l.syllables(c, part); n > most {
				out = append(out, newFinding(
					Breath,
					field,
					part,
					[]string{c.ID},
					"“%s” has about %d syllables, %.1f s at %.1f a second; a breath holds about %d. A comma or a short form helps.",
					strings.TrimSpace(part),
					n,
					float64(n)/SyllablesASecond,
					SyllablesASecond,
					most,
				))
			}
		}
	}
	return out
}

var vowelGroup = regexp.MustCompile(`[aeiouy]+`)

// syllables counts vowels as the team speaks; of unknown words the groups of vowel letters.
func (l Library) syllables(c card.Card, text string) (n int) {
	speech := l.speech(c)
	for _, w := range splitWords(text) {
		of := 0
		for _, p := range speech.Sounds(w) {
			if phoneme.IsVowel(p) {
				of++
			}
		}
		if of == 0 {
			of = len(vowelGroup.FindAllString(w, -1))
		}
		n += max(1, of)
	}
	return n
}

// fewest is how many words and sentences a card needs that can be read at its step, firstSteps from which step on.
const (
	fewest     = 4
	firstSteps = 8
)

// sentences are those that break a rule of writing, do not hold the sound, or cannot be read; and cards of which too
// few words can be read.
func (l Library) sentences() (out []Finding) {
	taught, exceptions := spelling.Set{}, map[string]bool{}
	for i, c := range l.Cards {
		taught[c.Pair] = true
		for _, w := range c.Exceptions {
			exceptions[strings.ToLower(w)] = true
		}
		known := l.Team.Known(taught)
		readable := 0
		for j, s := range c.Sentences {
			r := texts.Check(s, known, exceptions, l.speech(c))
			if r.Fits() {
				readable++
			}
			if !holds(r, c.Pair) {
				out = append(out, newFinding(Sentence, "sentences", s, []string{c.ID}, "“%s” does not hold %s.", s, name(c)))
			}
			for _, remark := range r.Remarks {
				one := newFinding(Sentence, "sentences", s+remark, []string{c.ID}, "“%s”: %s", s, remark)
				if tidy := writtenFields(s); tidy != s {
					all := slices.Clone(c.Sentences)
					all[j] = tidy
					one = one.mended(c, strings.Join(all, "\n"), "Write “"+tidy+"”")
				}
				out = append(out, one)
			}
		}
		if i < firstSteps {
			continue
		}
		if len(c.Sentences) > 0 && readable == 0 {
			out = append(out, newFinding(NoneReadable, "sentences", strings.Join(c.Sentences, "\n"), []string{c.ID},
				"None of its sentences can be read when %s is taught: all hold what comes later.", name(c)))
		}
		out = append(out, l.fewWords(c, known, exceptions)...)
	}
	return out
}

func (l Library) fewWords(c card.Card, known spelling.Set, exceptions map[string]bool) []Finding {
	if len(c.Words) < fewest {
		return nil // a gap of the card, said there
	}
	var later []string
	for _, w := range c.Words {
		if seg, err := l.speech(c).Segment(w); err == nil && !known.Covers(seg.Segments) && !exceptions[strings.ToLower(w)] {
			later = append(later, w)
		}
	}
	n := len(c.Words) - len(later)
	if n >= fewest {
		return nil
	}
	return []Finding{newFinding(FewWords, "words", strings.Join(c.Words, " "), []string{c.ID},
		"Of its words %d can be read when %s is taught, %d are needed; later ones: %s.", n, name(c), fewest,
		strings.Join(later, ", "))}
}

func holds(r texts.Report, p spelling.Pair) bool {
	return slices.ContainsFunc(r.Tokens, func(t texts.Token) bool { return spelling.Holds(t.Segments, p) })
}

// writtenFields is a sentence with its capital and its stop.
func writtenFields(s string) string {
	s = prose.Capital(strings.TrimSpace(s))
	if s != "" && !strings.ContainsAny(s[len(s)-1:], ".!?\"'") && !strings.HasSuffix(s, "”") &&
		!strings.HasSuffix(s, "’") {
		s += "."
	}
	return s
}
