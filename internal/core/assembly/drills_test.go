package assembly_test

import (
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/review"
	"brightchalk/test/trial"
)

// A drill shows what was asked for and nothing else: the shaky, single letters, groups, or everything that was met,
// also what is secure and would rest.
func TestDrillsByTheirWays(t *testing.T) {
	deck := func(way string, sure review.Sureness) []string {
		in := trial.Taught(t, 24, lesson.Introduce)
		for i := range in.Class.Met {
			k := &in.Class.Met[i]
			k.Seen = review.Update(review.Seen{CardID: k.Card.ID}, trial.Now.AddDate(0, 0, -3), sure)
			if i == 4 || i == 20 {
				k.Seen = review.Update(review.Seen{CardID: k.Card.ID}, trial.Now.AddDate(0, 0, -3), review.Shaky)
			}
		}
		in.Routine.Steps = []lesson.RoutineStep{{
			Kind: lesson.WarmUp, Weight: 4, Options: lesson.Options{Way: way},
		}, {Kind: lesson.Read}}
		out, err := assembly.Assemble(in)
		require.NoError(t, err)
		seen := map[string]bool{}
		for _, it := range out.Steps[0].Items {
			if it.Kind == lesson.CardItem {
				seen[it.Detail] = true
			}
		}
		return slices.Sorted(maps.Keys(seen))
	}
	shaky := []string{trial.Order[4], trial.Order[20]}
	slices.Sort(shaky)
	assert.Equal(t, shaky, deck("shaky", review.Sure))
	for _, g := range deck("letters", review.Sure) {
		assert.Len(t, g, 1)
	}
	groups := deck("groups", review.Sure)
	assert.NotEmpty(t, groups)
	for _, g := range groups {
		assert.Greater(t, len(g), 1)
	}
	assert.Less(t, len(deck("due", review.Secure)), 6, "what is secure rests")
	assert.Len(t, deck("all", review.Secure), 24)
}

// A pack mixes sides: every card of it comes at least twice, so that the class answers to both of its sides.
func TestEachCardOfThePackComesTwice(t *testing.T) {
	in := trial.Taught(t, 12, lesson.Introduce)
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Pack, Weight: 4}, {Kind: lesson.Read}}
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	shown := map[string]int{}
	for _, it := range out.Steps[0].Items {
		shown[it.Value]++
	}
	require.GreaterOrEqual(t, len(shown), 3)
	for card, n := range shown {
		assert.GreaterOrEqual(t, n, 2, card)
	}
}
