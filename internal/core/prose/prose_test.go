package prose_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/prose"
)

func TestSmallThings(t *testing.T) {
	for in, want := range map[string]string{"ship": "Ship", "ŋ": "Ŋ", "": "", "“a”": "“a”", "A": "A"} {
		assert.Equal(t, want, prose.Capital(in))
	}
	for in, want := range map[int]string{0: "0:00", 9: "0:09", 60: "1:00", 65: "1:05", 3599: "59:59"} {
		assert.Equal(t, want, prose.Clock(in))
	}
	assert.Equal(t, "card stays", prose.Plural(1, "card stays", "cards stay"))
	assert.Equal(t, "cards stay", prose.Plural(2, "card stays", "cards stay"))
	assert.Equal(t, "cards stay", prose.Plural(0, "card stays", "cards stay"))
}
