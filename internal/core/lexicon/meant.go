package lexicon

import (
	"cmp"
	"slices"
)

// minMeant is how well a word must be known to be what somebody meant to type.
const minMeant = 3

// Meant is the known word that a text was probably meant to be: two letters swapped, else one left out or one too many,
// else one wrong; of several the best known. Empty where there is none.
func Meant(word string) string {
	if word == "" {
		return ""
	}
	var found []*Entry
	try := func(w string) {
		if e, ok := Find(w); ok && !e.Unfit && e.Familiarity >= minMeant {
			found = append(found, e)
		}
	}
	letters := func(f func(c string)) {
		for c := 'a'; c <= 'z'; c++ {
			f(string(c))
		}
	}
	for i := 1; i < len(word); i++ {
		try(word[:i-1] + word[i:i+1] + word[i-1:i] + word[i+1:])
	}
	if len(found) == 0 {
		for i := range len(word) + 1 {
			letters(func(c string) { try(word[:i] + c + word[i:]) })
		}
		for i := range word {
			try(word[:i] + word[i+1:])
		}
	}
	if len(found) == 0 {
		for i := range word {
			letters(func(c string) { try(word[:i] + c + word[i+1:]) })
		}
	}
	if len(found) == 0 {
		return ""
	}
	return slices.MaxFunc(found, better).Word
}

// better compares how well two words are known, by children, then in what is written.
func better(a, b *Entry) int {
	return cmp.Or(cmp.Compare(a.Familiarity, b.Familiarity), cmp.Compare(a.Rank, b.Rank), cmp.Compare(b.Word, a.Word))
}
