package spelling

import (
	"slices"

	"brightchalk/internal/core/phoneme"
)

// Bit is one grapheme of a word with the bridge under it: an arc, a leaping arc where other letters lie between its
// own, a wavy one where it is odd.
type Bit struct {
	Letters  []int  `json:"letters" doc:"places of its letters in the word, from 0"`
	Grapheme string `json:"grapheme" doc:"as cards name it: a-e where another letter stands between"`
	Sound    string `json:"sound" doc:"in IPA; empty where it is silent"`
	Odd      bool   `json:"odd,omitempty" doc:"cannot be sounded out by what is taught"`
	Target   bool   `json:"target,omitempty" doc:"the grapheme that the lesson is about"`
	Card     string `json:"card,omitempty" doc:"id of the card that teaches it, where a lesson has it"`
}

// Bridging says for whom a word is cut. Targets may be empty. Taught is what the reader can sound out, nil where that
// is not known. Exception says that the word is learned whole: then every part that is not taught is odd.
type Bridging struct {
	Targets   []Pair
	Taught    Set
	Exception bool
}

// Bridges cuts an aligned word into its bits. A part is odd if English has it nowhere else, if it is rare and not
// among the taught, and in an exception word if it is not taught.
func Bridges(segments []Segment, b Bridging) []Bit {
	out := make([]Bit, len(segments))
	for i, s := range segments {
		taught := b.Taught[s.Pair]
		out[i] = Bit{
			Letters:  s.Letters,
			Grapheme: s.Pair.Grapheme,
			Sound:    phoneme.Join(s.Phonemes),
			Odd:      s.Odd || !taught && (s.Rare || b.Exception),
			Target:   slices.Contains(b.Targets, s.Pair),
		}
	}
	return out
}
