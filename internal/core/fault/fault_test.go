package fault_test

import (
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/fault"
)

const errFew fault.Code = "too-few"

func ExampleNew() {
	err := fault.New(errFew, "only %d words hold %s", 2, "igh")
	fmt.Println(err)
	fmt.Println(err.Sentence())
	fmt.Println(errors.Is(err, errFew))
	// Output:
	// only 2 words hold igh
	// Only 2 words hold igh.
	// true
}

func TestSentences(t *testing.T) {
	for text, want := range map[string]string{
		"it has no steps": "It has no steps.",
		"Write a word.":   "Write a word.",
		"which sound?":    "Which sound?",
		"ŋ ends no such":  "Ŋ ends no such.",
		"“x” is no word":  "“x” is no word.",
		"":                "",
	} {
		assert.Equal(t, want, fault.New(fault.Invalid, "%s", text).Sentence())
	}
}

func TestFieldIsGivenOnce(t *testing.T) {
	var f *fault.Fault
	require.ErrorAs(t, fault.At("pair", fault.New(errFew, "too few")), &f)
	assert.Equal(t, "pair", f.Field)
	require.ErrorAs(t, fault.At("other", f), &f)
	assert.Equal(t, "pair", f.Field, "the first name stays")
	require.ErrorAs(t, fault.At("x", fmt.Errorf("read: %w", fault.New(errFew, "too few"))), &f)
	assert.Equal(t, "x", f.Field)

	other := errors.New("disk")
	assert.Equal(t, other, fault.At("pair", other), "no other error becomes a sentence")
	require.NoError(t, fault.At("pair", nil))
	assert.NotErrorIs(t, fault.In("a", "b"), errFew)
	assert.ErrorIs(t, fault.In("a", "b"), fault.Invalid)
}
