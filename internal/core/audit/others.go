package audit

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lexicon"
)

// secondNames are keywords of which the picture has a second name that children commonly give it.
func (l Library) secondNames() (out []Finding) {
	for _, c := range l.Cards {
		if c.Keyword == "" || c.Picture == "" {
			continue
		}
		if names := lexicon.SecondNames(strings.ToLower(c.Keyword)); len(names) > 0 {
			out = append(out, newFinding(SecondName, "keyword", c.Keyword, []string{c.ID},
				"Children may call the picture of “%s” %s. Say its name each time it is shown.", c.Keyword,
				strings.Join(names, " or ")))
		}
	}
	return out
}

// louder is how many loudness units a take may lie off the others before it is heard (the usual tolerance of EBU R 128
// is 1 LU for a programme; short sounds are measured less surely).
const louder = 4.0

// loudness are the takes that lie off the others.
func (l Library) loudness() (out []Finding) {
	if len(l.Takes) < 3 {
		return nil
	}
	levels := make([]float64, len(l.Takes))
	for i, t := range l.Takes {
		levels[i] = t.LUFS
	}
	slices.Sort(levels)
	middle := levels[len(levels)/2]
	off := slices.DeleteFunc(slices.Clone(l.Takes), func(t Take) bool { return math.Abs(t.LUFS-middle) <= louder })
	slices.SortFunc(off, func(a, b Take) int { return cmp.Compare(math.Abs(b.LUFS-middle), math.Abs(a.LUFS-middle)) })
	for _, t := range off {
		how := "louder"
		if t.LUFS < middle {
			how = "softer"
		}
		out = append(out, newFinding(Loudness, card.TakeField, t.CardID+how, []string{t.CardID},
			"The take by %s is %.0f dB %s than the others.", t.Speaker, math.Abs(t.LUFS-middle), how))
	}
	return out
}

// Neighbours: of the six cards around one, five have a part that it lacks. Bare cards are left alone: they are
// unfinished, and say so.
const (
	around    = 3
	mostlyHas = 5
	notBare   = 5 // parts that are filled in
)

var compared = []string{"rhyme_short", "slip", "picture_alt", "action", "stroke_words", "sentences"}

// unlike are cards that lack what their neighbours have.
func (l Library) unlike() (out []Finding) {
	has := func(c card.Card, field string) bool {
		text, _ := c.Wording(field)
		return text != ""
	}
	filled := func(c card.Card) (n int) {
		for _, f := range append([]string{"keyword", "rhyme", "mouth_cue"}, compared...) {
			if has(c, f) {
				n++
			}
		}
		return n
	}
	for i, c := range l.Cards {
		if filled(c) < notBare {
			continue
		}
		near := slices.Concat(l.Cards[max(0, i-around):i], l.Cards[i+1:min(len(l.Cards), i+1+around)])
		for _, f := range compared {
			n := 0
			for _, o := range near {
				if has(o, f) && (f != "stroke_words" || (o.Pair.Letters() == 1) == (c.Pair.Letters() == 1)) {
					n++
				}
			}
			if !has(c, f) && n >= mostlyHas {
				out = append(out, newFinding(Unlike, f, "", []string{c.ID},
					"%d of its %d neighbours have this part; %s has none.", n, len(near), name(c)))
			}
		}
	}
	return out
}
