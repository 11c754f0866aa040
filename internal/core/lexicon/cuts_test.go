package lexicon

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/spelling"
)

// What was cut is kept until there is no more room, and then anew.
func TestCutsAreKept(t *testing.T) {
	c := &cuts{kept: map[cutKey]Reading{}}
	for i := range maxCuts {
		c.put(fmt.Sprint(i), spelling.Units{}, Reading{Sounds: i})
	}
	for i := range maxCuts {
		r, ok := c.get(fmt.Sprint(i), spelling.Units{})
		assert.True(t, ok && r.Sounds == i, i)
	}
	_, ok := c.get("0", spelling.Units{NkOne: true})
	assert.False(t, ok, "other units cut otherwise")
	c.put("one more", spelling.Units{}, Reading{Sounds: 1})
	assert.Len(t, c.kept, 1)
	_, ok = c.get("one more", spelling.Units{})
	assert.True(t, ok)
}
