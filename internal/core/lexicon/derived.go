package lexicon

import (
	"strings"

	"brightchalk/internal/core/phoneme"
)

// stem gives the codes of the word that an ending was put to: as it is, with an e that was dropped, without a
// letter that was doubled, or with a y that became i.
func stem(word string, a phoneme.Accent) string {
	try := func(w string) string {
		if e, ok := Find(w); ok {
			return e.CodesIn(a)[0]
		}
		return ""
	}
	if len(word) < 2 {
		return ""
	}
	c := try(word)
	if c == "" {
		c = try(word + "e")
	}
	if n := len(word); c == "" && word[n-1] == word[n-2] {
		c = try(word[:n-1])
	}
	if before, ok := strings.CutSuffix(word, "i"); ok && c == "" {
		c = try(before + "y")
	}
	return c
}

// inflected gives the codes of a regular plural, past or -ing form whose stem the lexicon holds.
func inflected(word string, a phoneme.Accent) string {
	const voiceless, hissing = "ptkfT", "szSZCJ"
	if w, ok := strings.CutSuffix(word, "s"); ok && !strings.HasSuffix(w, "s") {
		var c string
		if e, ok := Find(w); ok {
			c = e.CodesIn(a)[0]
		} else if es, ok := strings.CutSuffix(w, "e"); ok {
			c = stem(es, a)
			if c == "" || !strings.Contains(hissing, c[len(c)-1:]) && !strings.HasSuffix(es, "i") {
				return ""
			}
		}
		if c == "" {
			return ""
		}
		switch last := c[len(c)-1:]; {
		case strings.Contains(hissing, last):
			return c + "iz"
		case strings.Contains(voiceless, last):
			return c + "s"
		}
		return c + "z"
	}
	if w, ok := strings.CutSuffix(word, "ed"); ok {
		c := stem(w, a)
		if c == "" {
			return ""
		}
		switch last := c[len(c)-1:]; {
		case last == "t" || last == "d":
			return c + "id"
		case strings.Contains("pkfTsSC", last):
			return c + "t"
		}
		return c + "d"
	}
	if w, ok := strings.CutSuffix(word, "ing"); ok {
		if c := stem(w, a); c != "" {
			return c + "iN"
		}
	}
	return ""
}

// Endings and beginnings that leave the sounds of their word as they are, with their own codes.
var (
	endings    = [][2]string{{"ness", "n@s"}, {"less", "l@s"}, {"ful", "f@l"}, {"ly", "ly"}, {"est", "ist"}, {"er", "4"}, {"y", "y"}}
	beginnings = [][2]string{{"under", "und4"}, {"over", "Gv4"}, {"super", "sLp4"}, {"anti", "anti"}, {"inter", "int4"}, {"un", "un"}, {"dis", "dis"}, {"mis", "mis"}, {"re", "rE"}, {"non", "non"}, {"sub", "sub"}, {"pre", "prE"}}
)

const (
	leastPart  = 3 // letters of each half of a compound
	knownParts = 2 // familiarity of each
)

// derived guesses the codes of a word from words that the lexicon holds: an ending or a beginning put to one,
// or two set together. Empty where nothing fits.
func derived(word string, a phoneme.Accent) string {
	for _, e := range endings {
		if w, ok := strings.CutSuffix(word, e[0]); ok {
			if c := stem(w, a); c != "" && len(w) >= leastPart {
				return c + e[1]
			}
		}
	}
	for _, b := range beginnings {
		if w, ok := strings.CutPrefix(word, b[0]); ok && len(w) >= leastPart {
			if e, ok := Find(w); ok {
				return b[1] + e.CodesIn(a)[0]
			}
			if c := inflected(w, a); c != "" {
				return b[1] + c
			}
		}
	}
	best, codes := knownParts-1, ""
	for i := leastPart; i <= len(word)-leastPart; i++ {
		first, ok1 := Find(word[:i])
		second, ok2 := Find(word[i:])
		if ok1 && ok2 && min(first.Familiarity, second.Familiarity) > best {
			best, codes = min(first.Familiarity, second.Familiarity), first.CodesIn(a)[0]+second.CodesIn(a)[0]
		}
	}
	return codes
}
