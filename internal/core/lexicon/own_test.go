package lexicon_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

func own(t *testing.T, word, sounds string, a phoneme.Accent) lexicon.OwnWord {
	t.Helper()
	p, err := phoneme.Parse(a, sounds)
	require.NoError(t, err, sounds)
	return lexicon.OwnWord{Word: word, Sounds: p, Name: strings.ToLower(word) != word}
}

// Invented names of places on a canal, said as a local would.
func TestOwnWordsAreCut(t *testing.T) {
	for _, c := range []struct{ word, sounds, cut string }{
		{"Lockhouse", "lɒkhaʊs", "l o ck h ou se"},
		{"Wharfside", "wɔːfsaɪd", "wh ar f s i-e d"},
		{"Quay", "kiː", "qu ay"},
		{"narrowboat", "nærəʊbəʊt", "n a rr ow b oa t"},
		{"Marl", "mɑːl", "m ar l"},
		{"Leam", "lem", "l ea m"},
		{"Ning", "nɪŋ", "n i ng"},
	} {
		r, err := own(t, c.word, c.sounds, phoneme.SouthernBritish).Cut(phoneme.SouthernBritish, spelling.Units{})
		require.NoError(t, err, c.word)
		var got []string
		for _, s := range r.Segments {
			got = append(got, s.Grapheme)
		}
		assert.Equal(t, c.cut, strings.Join(got, " "), c.word)
	}
	_, err := own(t, "Ning", "ʃʃʃʃʃʃʃ", phoneme.SouthernBritish).Cut(phoneme.SouthernBritish, spelling.Units{})
	require.ErrorIs(t, err, lexicon.ErrNoCut)
}

func TestOwnWordsAreSaidAndOffered(t *testing.T) {
	s := lexicon.Speech{Accent: phoneme.SouthernBritish, Words: map[string]lexicon.OwnWord{
		"quay":     own(t, "quay", "kiː", phoneme.SouthernBritish),
		"towlight": own(t, "towlight", "təʊlaɪt", phoneme.SouthernBritish),
		"leam":     own(t, "Leam", "lem", phoneme.SouthernBritish),
	}}
	seg, err := s.Segment("Towlight")
	require.NoError(t, err)
	assert.Equal(t, lexicon.FromTeam, seg.Source)
	assert.Equal(t, "təʊlaɪt", phoneme.Join(s.Sounds("towlight")))
	item, ok := s.Item("towlight")
	require.True(t, ok)
	assert.Equal(t, lexicon.BestKnown, item.Familiarity)
	assert.Equal(t, 2, item.Syllables)
	_, ok = s.Item("leam")
	assert.False(t, ok, "a name is not offered as a word")
	assert.True(t, s.Named("LEAM"))
	assert.False(t, s.Named("quay"))
	assert.True(t, s.Knows("towlight"))
	assert.False(t, s.Knows("towlite"))
	plain := lexicon.Speech{Accent: phoneme.SouthernBritish}
	assert.False(t, plain.Knows("towlight"))
	for word, known := range map[string]bool{
		"slanting": true, "barrels": true, "gangplanks": true, "barrleing": false, "slantnig": false,
	} {
		assert.Equal(t, known, plain.Knows(word), word)
	}
}

// A word may have two sounds more than letters, and no more.
func TestTooManySoundsForAWord(t *testing.T) {
	w := lexicon.OwnWord{Word: "ax", Sounds: []phoneme.Phoneme{"æ", "k", "s", "z"}}
	_, err := w.Cut(phoneme.SouthernBritish, spelling.Units{})
	require.NoError(t, err)
	w.Sounds = append(w.Sounds, "z")
	_, err = w.Cut(phoneme.SouthernBritish, spelling.Units{})
	require.ErrorContains(t, err, "is written with 2 signs, but is said with 5")
	w.Sounds = nil
	_, err = w.Cut(phoneme.SouthernBritish, spelling.Units{})
	require.ErrorIs(t, err, lexicon.ErrNoCut)
}
