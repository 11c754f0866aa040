package words

import (
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// CutSentence is a word cut into graphemes for its bridges. Guess says that the lexicon lacks it.
type CutSentence struct {
	Word     string            `json:"word"`
	Guess    bool              `json:"guess"`
	Sounds   int               `json:"sounds" doc:"as children count them on their fingers"`
	Bits     []spelling.Bit    `json:"bits"`
	Phonemes []phoneme.Phoneme `json:"phonemes"`
}

// CutAll cuts the words of a text, parted by spaces; what is no word is left out.
func CutAll(text string, o Options) []CutSentence {
	out := []CutSentence{}
	for w := range strings.FieldsSeq(text) {
		seg, err := o.Segment(w)
		if err != nil {
			continue
		}
		out = append(out, CutSentence{
			Word:     w,
			Guess:    seg.Source == lexicon.FromRules,
			Sounds:   seg.Sounds,
			Bits:     spelling.Bridges(seg.Segments, spelling.Bridging{}),
			Phonemes: seg.Phonemes,
		})
	}
	return out
}
