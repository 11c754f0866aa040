// Package wordform takes English words apart by their letters: what a word may be a form of, or be made from.
// It knows no dictionary; callers check which of the candidates are words.
package wordform

import "strings"

// Ending is an ending that English puts to a word. Inflects tells an inflection (cats, jumped, jumping) from a
// derivation (farmer, sadness).
type Ending struct {
	Letters  string
	Inflects bool
}

// Endings are those of English, the longer before the shorter; from memory.
var Endings = []Ending{
	{"ifications", false},
	{"ification", false},
	{"ications", false},
	{"ication", false},
	{"fulness", false},
	{"lessness", false},
	{"ations", false},
	{"ation", false},
	{"iness", false},
	{"fully", false},
	{"lessly", false},
	{"ments", false},
	{"ingly", false},
	{"isers", false},
	{"izers", false},
	{"nesses", false},
	{"ically", false},
	{"iest", false},
	{"ment", false},
	{"less", false},
	{"ness", false},
	{"able", false},
	{"ably", false},
	{"ible", false},
	{"ibly", false},
	{"like", false},
	{"hood", false},
	{"ship", false},
	{"some", false},
	{"wise", false},
	{"ward", false},
	{"ings", true},
	{"ised", false},
	{"ized", false},
	{"ises", false},
	{"izes", false},
	{"iser", false},
	{"izer", false},
	{"ions", false},
	{"ists", false},
	{"isms", false},
	{"ians", false},
	{"lets", false},
	{"edly", false},
	{"ages", false},
	{"ally", false},
	{"ing", true},
	{"ies", true},
	{"ied", true},
	{"ier", false},
	{"ily", false},
	{"ers", false},
	{"ors", false},
	{"est", false},
	{"ful", false},
	{"ish", false},
	{"ous", false},
	{"ist", false},
	{"ism", false},
	{"ity", false},
	{"ise", false},
	{"ize", false},
	{"ion", false},
	{"ian", false},
	{"dom", false},
	{"ess", false},
	{"let", false},
	{"age", false},
	{"ive", false},
	{"ery", false},
	{"es", true},
	{"ed", true},
	{"en", false},
	{"er", false},
	{"or", false},
	{"ly", false},
	{"al", false},
	{"ic", false},
	{"ie", false},
	{"s", true},
	{"y", false},
}

// Stem is a word that another may be made from, and how.
type Stem struct {
	Word   string
	Ending Ending
}

// Stems lists what a word of letters a to z may be made from by one ending: as it stands, with an e that was
// dropped, without a letter that was doubled, with a y that became i. Stems have two letters at least.
func Stems(word string) []Stem {
	var out []Stem
	for _, e := range Endings {
		base, ok := strings.CutSuffix(word, e.Letters)
		if !ok || len(base) < 2 {
			continue
		}
		add := func(w string) { out = append(out, Stem{w, e}) }
		switch e.Letters {
		case "ies", "ied", "ier", "iest", "ily", "iness", "ification", "ifications", "ication", "ications":
			add(base + "y")
			if e.Letters == "ies" || e.Letters == "ied" {
				add(base + "ie")
			}
			continue
		}
		add(base)
		if strings.IndexByte("aeiouy", e.Letters[0]) < 0 {
			continue
		}
		add(base + "e")
		if n := len(base); n > 2 && base[n-1] == base[n-2] {
			add(base[:n-1])
		}
	}
	return out
}
