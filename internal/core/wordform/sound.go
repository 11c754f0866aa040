package wordform

import "strings"

// said gives the codes that an ending adds to the codes of its stem (package phoneme), where they do not depend on it.
var said = map[string]string{
	"ing":     "iN",
	"ings":    "iNz",
	"er":      "4",
	"ers":     "4z",
	"or":      "4",
	"ors":     "4z",
	"est":     "ist",
	"y":       "y",
	"ly":      "ly",
	"ness":    "n@s",
	"nesses":  "n@siz",
	"less":    "l@s",
	"ful":     "f@l",
	"fully":   "f@ly",
	"ish":     "iS",
	"able":    "@b@l",
	"ment":    "m@nt",
	"ments":   "m@nts",
	"like":    "lYk",
	"hood":    "hUd",
	"ship":    "Sip",
	"some":    "s@m",
	"ward":    "w4d",
	"wise":    "wYz",
	"en":      "@n",
	"ist":     "ist",
	"ists":    "ists",
	"al":      "@l",
	"ally":    "@ly",
	"ous":     "@s",
	"ess":     "es",
	"let":     "l@t",
	"lets":    "l@ts",
	"age":     "iJ",
	"dom":     "d@m",
	"ingly":   "iNly",
	"lessly":  "l@sly",
	"fulness": "f@ln@s",
	"ise":     "Yz",
	"ize":     "Yz",
	"ised":    "Yzd",
	"ized":    "Yzd",
	"ises":    "Yziz",
	"izes":    "Yziz",
	"ery":     "4y",
}

// Sounds of a plural or past form hang on the last sound of the stem.
const (
	voiceless = "ptkfTsSC"
	hissing   = "szSZCJ"
)

// Sound gives the codes of a word made from a stem by an ending: cats from cat, wanted from want, wobbly from
// wobble. It is false for an ending whose sound does not follow by rule.
func Sound(stem, codes string, ending Ending) (string, bool) {
	if codes == "" {
		return "", false
	}
	last := codes[len(codes)-1:]
	if ending.Letters == "es" && !strings.Contains(hissing, last) && !strings.HasSuffix(stem, "o") {
		return "", false // gapes is no form of gap
	}
	switch ending.Letters {
	case "s", "es", "ies":
		switch {
		case strings.Contains(hissing, last):
			return codes + "iz", true
		case strings.Contains(voiceless, last):
			return codes + "s", true
		}
		return codes + "z", true
	case "ed", "ied":
		switch {
		case last == "t" || last == "d":
			return codes + "id", true
		case strings.Contains(voiceless, last):
			return codes + "t", true
		}
		return codes + "d", true
	case "ier":
		return codes + "4", true
	case "iest":
		return codes + "ist", true
	case "ily":
		return codes[:len(codes)-1] + "ily", last == "y"
	case "iness":
		return codes[:len(codes)-1] + "in@s", last == "y"
	}
	more, ok := said[ending.Letters]
	if !ok {
		return "", false
	}
	if before, found := strings.CutSuffix(
		codes,
		"@l",
	); found && strings.HasSuffix(stem, "le") &&
		strings.IndexByte("aeiouy", ending.Letters[0]) >= 0 {
		codes = before + "l" // tickle, tickling
	}
	return codes + more, true
}

// near joins codes that one dictionary gives now so, now so for the same vowel: the sets of LOT, CLOTH, THOUGHT and
// PALM, of TRAP and BATH, the weak vowels, and vowels with r before a vowel.
var near = strings.NewReplacer(
	"3r",
	"3",
	"ur",
	"3",
	"Kr",
	"8",
	"or",
	"8",
	"Rr",
	"8",
	"cr",
	"8",
	"K",
	"8",
	"R",
	"8",
	"@r",
	"6",
	"4r",
	"6",
	"er",
	"6",
	"ar",
	"6",
	"4",
	"6",
	"5r",
	"5",
	"ir",
	"5",
	"yr",
	"5",
	"Er",
	"5",
	"^L",
	"L",
	"jL",
	"L",
	"j7",
	"7",
	"^7",
	"7",
	"x",
	"o",
	"c",
	"o",
	"P",
	"o",
	"q",
	"a",
	"i",
	"@",
	"y",
	"@",
	"E",
	"@",
)

// IsNear tells whether two spellings in codes may be the same pronunciation, given twice by a dictionary that does
// not tell their vowels apart.
func IsNear(a, b string) bool { return near.Replace(a) == near.Replace(b) }
