package lexicon_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/lexicon"
)

func TestCluesArePlain(t *testing.T) {
	assert.Equal(t, "a small lake", lexicon.Clue("pond"))
	assert.Empty(t, lexicon.Clue("whale"), "its first sense in WordNet is no animal")
	n := 0
	for _, e := range lexicon.Words() {
		c := lexicon.Clue(e.Word)
		if c == "" {
			continue
		}
		n++
		assert.LessOrEqual(t, len(strings.Fields(c)), 12, e.Word)
		assert.NotContains(t, " "+c+" ", " "+e.Word+" ", "a clue does not name its word")
		assert.False(t, e.Unfit, e.Word)
	}
	assert.Greater(t, n, 250)
}
