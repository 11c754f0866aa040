package lexicon

// leastMeant is how well a word must be known to be what somebody meant to type.
const leastMeant = 3

// Meant is the known word that a text was probably meant to be: two letters swapped, one wrong, one left out or one too
// many; of several the best known. Empty where there is none.
func Meant(word string) string {
	best, familiarity := "", leastMeant-1
	try := func(w string) {
		if e, ok := Find(
			w,
		); ok && !e.Unfit &&
			(e.Familiarity > familiarity || e.Familiarity == familiarity && best != "" && w < best) {
			best, familiarity = w, e.Familiarity
		}
	}
	for i := range word {
		if i+1 < len(word) {
			try(word[:i] + word[i+1:i+2] + word[i:i+1] + word[i+2:])
		}
	}
	if best != "" { // a swap is the likeliest slip
		return best
	}
	for i := range len(word) + 1 {
		for c := byte('a'); c <= 'z'; c++ {
			try(word[:i] + string(c) + word[i:])
			if i < len(word) {
				try(word[:i] + string(c) + word[i+1:])
			}
		}
		if i < len(word) {
			try(word[:i] + word[i+1:])
		}
	}
	return best
}
