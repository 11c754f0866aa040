package card_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/card"
)

func TestObjectCautions(t *testing.T) {
	for _, c := range []struct {
		things []string
		wants  []string // the beginnings of what is said
	}{
		{nil, nil},
		{[]string{"bus", "a big box"}, nil},
		{[]string{"glass beads"}, []string{"Small things", "It breaks"}},
		{[]string{"hazel-nuts", "nutmeg"}, []string{"Small things", "Food"}},
		{[]string{"Feather", "a pair of scissors"}, []string{"Fur", "Sharp"}},
		{[]string{"torch", "rope"}, []string{"No loose", "Nothing goes"}},
		{[]string{"peaches"}, []string{"Food"}},
		{[]string{"dress", "glasses"}, []string{"It breaks"}},
	} {
		got := card.ObjectCautions(c.things)
		if assert.Len(t, got, len(c.wants), c.things) {
			for i, want := range c.wants {
				assert.Contains(t, got[i], want, c.things)
			}
		}
	}
	for thing, says := range map[string][]string{ // what a child may come to harm by, and what is said against it
		"nut":     {"allerg", "swallow", "mouths, noses or ears"},
		"egg":     {"allerg", "no tasting"},
		"feather": {"allerg"},
		"knife":   {"only the adult"},
		"magnet":  {"swallowed"},
		"scarf":   {"neck"},
	} {
		for _, want := range says {
			assert.Contains(t, strings.Join(card.ObjectCautions([]string{thing}), " "), want, thing)
		}
	}
	assert.Equal(t, []string{"bus"}, card.ThingNames("a red Bus"))
	assert.Equal(t, []string{"chess", "piece"}, card.ThingNames("a chess-piece"))
	assert.Equal(t, []string{"blorp"}, card.ThingNames("blorp"))
	assert.Empty(t, card.ThingNames(" "))
}
