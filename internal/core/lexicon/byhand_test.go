package lexicon_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// The file says where the words come from. 98 in a hundred must agree in every accent, graphemes and phonemes.
func TestSegmentAgreesWithWordsCutByHand(t *testing.T) {
	data, err := os.ReadFile("testdata/by-hand.txt")
	require.NoError(t, err)
	for i, a := range phoneme.Accents[:3] {
		total, wrong := 0, []string{}
		for line := range strings.Lines(string(data)) {
			f := strings.Fields(line)
			if f[0] == "#" {
				continue
			}
			sounds := f[2]
			for _, other := range f[3:] {
				if mark, text, _ := strings.Cut(other, ":"); mark == "n" && i == 1 || mark == "a" && i == 2 {
					sounds = text
				}
			}
			got, err := lexicon.Segment(f[0], a, spelling.Units{})
			require.NoError(t, err)
			var graphemes, heard []string
			for _, s := range got.Segments {
				graphemes = append(graphemes, s.Grapheme)
				if len(s.Phonemes) > 0 {
					heard = append(heard, phoneme.Join(s.Phonemes))
				}
			}
			total++
			if g, h := strings.Join(graphemes, "."), strings.Join(heard, "."); g != f[1] || h != sounds {
				wrong = append(wrong, f[0]+": "+g+" "+h+", not "+f[1]+" "+sounds)
			}
		}
		t.Logf("%s: %d of %d agree; %v", a, total-len(wrong), total, wrong)
		assert.LessOrEqual(t, len(wrong)*100, total*2, "%s", a)
	}
}
