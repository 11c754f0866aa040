package card_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
)

func TestAFieldIsWordedAsItIsWritten(t *testing.T) {
	c := card.Content{Rhyme: "Reed in the race", Words: []string{"rat", "rim"}, Picture: "ab"}
	text, ok := c.Wording("words")
	assert.True(t, ok)
	assert.Equal(t, "rat\nrim", text)
	for _, field := range []string{"picture", "accent", "contrast", "place", "take", "nothing"} {
		_, ok := c.Wording(field)
		assert.False(t, ok, field)
		_, err := c.Worded(field, "x")
		assert.Error(t, err, field)
	}
	after, err := c.Worded("words", "rat\n\n rod \nrat")
	require.NoError(t, err)
	assert.Equal(t, []string{"rat", "rod"}, after.Words)
	assert.Equal(t, []string{"rat", "rim"}, c.Words, "the former one stays as it was")
	after, err = c.Worded("rhyme", "  Reed by the race ")
	require.NoError(t, err)
	assert.Equal(t, []string{"rhyme"}, card.Changed(c.Tidy(), after))
	_, err = c.Worded("rhyme", strings.Repeat("å", 401))
	assert.ErrorContains(t, err, "400")
	_, err = c.Worded("exceptions", strings.Join(strings.Split("abcdefghijklmnopqrstu", ""), "\n"))
	assert.ErrorContains(t, err, "20 lines")
	assert.True(t, card.HasField("take") && card.HasField("") && card.HasField("place") && !card.HasField("nothing"))
}
