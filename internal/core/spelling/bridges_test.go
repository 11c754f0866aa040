package spelling_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// A word of made-up parts: a usual one, a rare one and one that English has nowhere else.
func TestBridgesTellOddFromRareAndUntaught(t *testing.T) {
	usual := spelling.Pair{Grapheme: "s", Sound: "s"}
	rare := spelling.Pair{Grapheme: "ai", Sound: "e"}
	segments := []spelling.Segment{
		{Grapheme: "s", Letters: []int{0}, Phonemes: []phoneme.Phoneme{"s"}, Pair: usual},
		{Grapheme: "ai", Letters: []int{1, 2}, Phonemes: []phoneme.Phoneme{"e"}, Pair: rare, Rare: true},
		{Grapheme: "d", Letters: []int{3}, Odd: true},
	}
	odd := func(b spelling.Bridging) (out [3]bool) {
		for i, bit := range spelling.Bridges(segments, b) {
			out[i] = bit.Odd
		}
		return out
	}
	assert.Equal(t, [3]bool{false, true, true}, odd(spelling.Bridging{}), "for anybody")
	assert.Equal(
		t,
		[3]bool{false, false, true},
		odd(spelling.Bridging{Taught: spelling.Set{rare: true}}),
		"rare, but taught",
	)
	known := spelling.Bridging{Taught: spelling.Set{usual: true}, Exception: true}
	assert.Equal(t, [3]bool{false, true, true}, odd(known), "an exception word")
	known.Taught = spelling.Set{}
	assert.Equal(t, [3]bool{true, true, true}, odd(known), "of which nothing is taught")

	bits := spelling.Bridges(segments, spelling.Bridging{Targets: []spelling.Pair{rare}})
	assert.Equal(t, spelling.Bit{Letters: []int{1, 2}, Grapheme: "ai", Sound: "e", Odd: true, Target: true}, bits[1])
	assert.False(t, bits[0].Target)
	assert.Empty(t, spelling.Bridges(nil, spelling.Bridging{}))
}
