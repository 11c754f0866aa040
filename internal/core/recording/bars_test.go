package recording

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
)

// Every sound of every accent is judged by a row, and every row says where its figures come from.
func TestEverySoundHasItsBar(t *testing.T) {
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			target, err := TargetOf(a, string(s.Phoneme))
			require.NoError(t, err)
			b := limits(target)
			assert.NotEmpty(t, b.class, s.Phoneme)
			assert.Positive(t, b.minMs, s.Phoneme)
			assert.NotEmpty(t, b.source, s.Phoneme)
			vowel := target.Class == Vowel || target.Class == Glide
			assert.Equal(t, !vowel, b.vowelMs > 0, "%s: a vowel is added to consonants only", s.Phoneme)
		}
	}
	s, err := TargetOf(phoneme.SouthernBritish, "s")
	require.NoError(t, err)
	b := limits(s)
	assert.Equal(t, Breath, b.class)
	assert.Equal(t, 120, b.minMs, "of its class")
	assert.InDelta(t, 2600, b.centreLeast, 0, "its own")
	ks, err := TargetOf(phoneme.SouthernBritish, "ks")
	require.NoError(t, err)
	assert.Zero(t, limits(ks).sound, "a unit is not judged as its first sound")
}
