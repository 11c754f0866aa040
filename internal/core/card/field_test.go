package card_test

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
)

// A field that is not in the list would be edited, but not searched, limited, imported or shown by its name.
func TestEveryFieldOfAContentIsListedOnce(t *testing.T) {
	var listed, there []string
	for _, f := range card.Fields {
		listed = append(listed, f.Name)
		assert.NotEmpty(t, f.Label, f.Name)
		assert.True(t, f.Name == "place" || f.MaxLength > 0 != (f.MaxItems > 0), "%s is a text or a list", f.Name)
	}
	content := reflect.TypeFor[card.Content]()
	for i := range content.NumField() {
		name, _, _ := strings.Cut(content.Field(i).Tag.Get("json"), ",")
		there = append(there, name)
	}
	assert.ElementsMatch(t, there, listed)
}

// Contents are cached and handed to many callers, so none may see what another one changes.
func TestACloneSharesNothing(t *testing.T) {
	c := card.Content{
		Objects: []string{"pot"}, Words: []string{"pin"}, Rejected: []string{"pub"}, Sentences: []string{"A pin."},
		Exceptions: []string{"the"}, Place: &card.Place{X: 1},
	}
	k := c.Clone()
	require.Equal(t, c, k)
	for _, list := range [][]string{k.Objects, k.Words, k.Rejected, k.Sentences, k.Exceptions} {
		list[0] = "changed"
	}
	k.Place.X = 2
	for _, list := range [][]string{c.Objects, c.Words, c.Rejected, c.Sentences, c.Exceptions} {
		assert.NotEqual(t, "changed", list[0])
	}
	assert.InDelta(t, 1, c.Place.X, 0)
}

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
