package lexicon_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// Words that the lexicon lacks are guessed from those it holds before the rules are asked. Pronunciations from
// memory.
func TestWordsMadeOfKnownWords(t *testing.T) {
	for word, want := range map[string]string{
		"superman": "suːpəmæn", "unzipping": "ʌnzɪpɪŋ", "kindlier": "kaɪndliːə", "overpaint": "əʊvəpeɪnt",
		"croakiest": "krəʊkiːɪst", "fishless": "fɪʃləs", "lampful": "læmpfəl", "snailhouse": "sneɪlhaʊs",
	} {
		s, err := lexicon.Segment(word, phoneme.SouthernBritish, spelling.Units{})
		require.NoError(t, err)
		assert.Equal(t, want, phoneme.Join(s.Phonemes), word)
		sure := map[string]bool{
			"unzipping":  true,
			"fishless":   true,
			"lampful":    true,
			"snailhouse": true,
		} // regular forms, known words, plain endings
		assert.Equal(
			t,
			map[bool]lexicon.Source{true: lexicon.FromLexicon, false: lexicon.FromRules}[sure[word]],
			s.Source,
			"%s: a guess says that it is one",
			word,
		)
		for _, g := range s.Segments {
			assert.False(t, g.Odd, "%s: %s", word, g.Grapheme)
		}
	}
}

// Regular forms of known words count as known.
func TestRegularForms(t *testing.T) {
	for word, want := range map[string]string{
		"lanterns": "læntənz", "barges": "bɑːdʒɪz", "towpaths": "təʊpɑːθs",
		"moored": "mʊəd", "splashing": "splæʃɪŋ", "mooring": "mʊərɪŋ",
	} {
		s, err := lexicon.Segment(word, phoneme.SouthernBritish, spelling.Units{})
		require.NoError(t, err)
		assert.Equal(t, lexicon.FromLexicon, s.Source, word)
		assert.Equal(t, want, phoneme.Join(s.Phonemes), word)
	}
	for _, nonsense := range []string{"glimwock", "strandle", "zings"} {
		s, err := lexicon.Segment(nonsense, phoneme.SouthernBritish, spelling.Units{})
		require.NoError(t, err)
		assert.NotEmpty(t, s.Phonemes, nonsense)
	}
}

// Short forms are words of their own, not what their letters say without the apostrophe. The year 2 word list of
// the national curriculum for England (from memory) asks for such forms.
func TestShortForms(t *testing.T) {
	for word, want := range map[string]string{
		"we'll": "wiːl", "She’ll": "ʃiːl", "DON'T": "dəʊnt", "can't": "kɑːnt",
		"I'm": "aɪm", "they're": "ðeə", "didn't": "dɪdənt", "it's": "ɪts",
	} {
		s, err := lexicon.Segment(word, phoneme.SouthernBritish, spelling.Units{})
		require.NoError(t, err)
		assert.Equal(t, want, phoneme.Join(s.Phonemes), word)
		assert.Equal(t, lexicon.FromLexicon, s.Source, word)
		for _, g := range s.Segments {
			assert.False(t, g.Odd, "%s: %s", word, g.Grapheme)
			for _, at := range g.Letters {
				assert.NotContains(t, "'’", string([]rune(word)[at]), "letters are counted in the word as written")
			}
		}
	}
	north, err := lexicon.Segment("can't", phoneme.GeneralAmerican, spelling.Units{})
	require.NoError(t, err)
	assert.Equal(t, "kænt", phoneme.Join(north.Phonemes))
	well, err := lexicon.Segment("well", phoneme.SouthernBritish, spelling.Units{})
	require.NoError(t, err)
	assert.Equal(t, "wel", phoneme.Join(well.Phonemes))
}
