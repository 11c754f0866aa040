package prose_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/prose"
)

func TestWordsAreReplacedWhole(t *testing.T) {
	for _, c := range []struct{ text, what, with, want string }{
		{"Pip has a pipe. Is pip in?", "pip", "Moss", "Moss has a pipe. Is Moss in?"},
		{"Pip's hat, pip’s cap.", "Pip", "moss", "Moss's hat, moss’s cap."},
		{"PIP! “Pip” 'pip' (pip)", "pip", "ned", "NED! “Ned” 'ned' (ned)"},
		{"a pip-pop, a hip", "pip", "x", "a pip-pop, a hip"},
		{"Mrs Reed and mrs  reed", "Mrs Reed", "Mr Sedge", "Mr Sedge and Mr Sedge"},
		{"pip pip pip", "pip", "a", "a a a"},
		{"one. two", ".", "x", "one. two"},
		{"don't", "don", "x", "don't"},
		{"don’t stop", "don't", "never", "never stop"},
		{"café", "caf", "x", "café"},
		{"I see.", "I", "We", "We see."},
		{"text", "", "x", "text"},
	} {
		assert.Equal(t, c.want, prose.Whole(c.what).Replace(c.text, c.with), "%q for %q in %q", c.with, c.what, c.text)
	}
	assert.Equal(t, 2, prose.Whole("PIP").Uses("Pip has a pipe. Is pip in?"))
	assert.Zero(t, prose.Whole("pip").Uses("pipe"))
}
