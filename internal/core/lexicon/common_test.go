package lexicon_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

func rowOf(t *testing.T, grapheme, sound string) lexicon.RowUse {
	t.Helper()
	for _, r := range lexicon.Table(phoneme.SouthernBritish, spelling.Units{}) {
		if r.Pair == (spelling.Pair{Grapheme: grapheme, Sound: sound}) {
			return r
		}
	}
	require.Fail(t, "no row", "%s=%s", grapheme, sound)
	return lexicon.RowUse{}
}

func TestUseOfEachSpelling(t *testing.T) {
	shares := map[string]float64{}
	for _, r := range lexicon.Table(phoneme.SouthernBritish, spelling.Units{}) {
		if r.Types == 0 {
			continue
		}
		shares[r.Grapheme] += r.Weighted
		assert.InDelta(t, 1, r.Start+r.Middle+r.End, 1e-9, "%s", r.Pair)
		assert.NotEmpty(t, r.Examples, "%s", r.Pair)
		for _, w := range r.Examples {
			seg, err := lexicon.Segment(w, phoneme.SouthernBritish, spelling.Units{})
			require.NoError(t, err)
			assert.Contains(t, pairsOf(seg), r.Pair, "%s is no example", w)
		}
	}
	for g, sum := range shares {
		assert.InDelta(t, 1, sum, 1e-9, "the sounds of %s make up all its words", g)
	}
	// What the spelling appendix of the national curriculum in England (2013, year 1 and 2; from memory) says of places.
	for _, never := range []struct{ grapheme, sound string }{
		{"ck", "k"},
		{"ll", "l"},
		{"ff", "f"},
		{"tch", "tʃ"},
		{"dge", "dʒ"},
		{"ng", "ŋ"},
		{"ay", "eɪ"},
	} {
		assert.Less(t, rowOf(t, never.grapheme, never.sound).Start, 0.01, "%s does not start words", never.grapheme)
	}
	assert.Less(t, rowOf(t, "ai", "eɪ").End, 0.01, "ai is not used at the end of English words")
	assert.Less(t, rowOf(t, "oi", "ɔɪ").End, 0.02, "nor is oi")
	assert.Zero(t, rowOf(t, "wr", "r").End)
	assert.Greater(t, rowOf(t, "sh", "ʃ").Weighted, 0.99)
	assert.Greater(t, rowOf(t, "oo", "uː").Weighted, rowOf(t, "oo", "ʊ").Weighted)
}

func pairsOf(s lexicon.Segmented) []spelling.Pair {
	var out []spelling.Pair
	for _, g := range s.Segments {
		out = append(out, g.Pair)
	}
	return out
}

func TestAmericanFormsThatNoSetGives(t *testing.T) {
	for word, sounds := range map[string][3]string{
		"half":   {"hɑːf", "hɑːf", "hæf"},
		"bath":   {"bɑːθ", "bæθ", "bæθ"},
		"tomato": {"təmɑːtəʊ", "təmɑːtəʊ", "təmeɪtoʊ"},
		"worry":  {"wʌriː", "wʊriː", "wɜːriː"},
		"clerk":  {"klɑːk", "klɑːk", "klɜːrk"},
	} {
		for i, a := range phoneme.Accents[:3] {
			s, err := lexicon.Segment(word, a, spelling.Units{})
			require.NoError(t, err)
			assert.Equal(t, sounds[i], phoneme.Join(s.Phonemes), "%s in %s", word, a)
		}
	}
}

func ExampleTable() {
	for _, r := range lexicon.Table(phoneme.SouthernBritish, spelling.Units{}) {
		if r.Grapheme == "igh" {
			fmt.Println(r.Pair, r.Examples)
		}
	}
	// Output: igh=aɪ [might night right]
}
