package order_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/order"
	"brightchalk/internal/core/spelling"
)

// sets are what is taught after each step.
func sets(t *testing.T, text string) []spelling.Set {
	t.Helper()
	var out []spelling.Set
	now := spelling.Set{}
	for _, s := range steps(t, text) {
		next := spelling.Set{s.Pair: true}
		for p := range now {
			next[p] = true
		}
		now = next
		out = append(out, now.WithDoubles(south.Accent))
	}
	return out
}

// The words are looked up one by one by the speech's own segmenter, which shares no code with the counting.
func TestGrowthCountsWhatCanBeRead(t *testing.T) {
	all := sets(t, "s a t p i n l")
	got := order.Growth(all, south)
	require.Len(t, got, 7)
	sum := 0
	for i, g := range got {
		sum += g.New
		assert.Equal(t, sum, g.Words, i)
		assert.LessOrEqual(t, g.Pictures, g.Words)
		for _, w := range g.Best {
			seg, err := south.Segment(w)
			require.NoError(t, err)
			assert.True(t, all[i].Covers(seg.Segments), "step %d: %s", i+1, w)
			if i > 0 {
				assert.False(t, all[i-1].Covers(seg.Segments), "step %d: %s could be read before", i+1, w)
			}
		}
	}
	assert.Zero(t, got[1].Words, "no word has s and a alone that a child knows")
	assert.Equal(t, "sat", got[2].Best[0])
	assert.Contains(t, got[6].Best, "lip")
	assert.Empty(t, order.Growth(nil, south))
	doubled := order.Growth(sets(t, "b e l"), south)
	assert.Contains(t, doubled[2].Best, "bell", "doubled letters are read as the single ones")
}

func TestClashesByWhatAndHowFar(t *testing.T) {
	got := order.Clashes(steps(t, "b s a d e=e i c=s"))
	at := func(i int, grapheme string) (order.Clash, bool) {
		k := slices.IndexFunc(got[i], func(c order.Clash) bool { return c.Pair.Grapheme == grapheme })
		if k < 0 {
			return order.Clash{}, false
		}
		return got[i][k], true
	}
	c, there := at(3, "b")
	require.True(t, there)
	assert.Equal(t, order.Clash{Pair: spelling.Pair{Grapheme: "b", Sound: "b"}, Apart: 3, By: "eye", Close: true}, c)
	c, there = at(0, "d")
	require.True(t, there, "told at both")
	assert.Equal(t, -3, c.Apart)
	c, _ = at(5, "e")
	assert.Equal(t, "ear", c.By)
	assert.True(t, c.Close)
	c, there = at(6, "s")
	require.True(t, there)
	assert.Equal(t, order.BySound, c.By)
	assert.False(t, c.Close, "five steps between two spellings of one sound are enough")
	_, there = at(1, "b")
	assert.False(t, there)
	far := order.Clashes(steps(t, "b s a l o i n d"))
	assert.Empty(t, far[7], "seven steps are too far to be told")
	near := order.Clashes(steps(t, "b s a l d"))
	assert.False(t, near[4][0].Close, "three steps between are enough")
}

// The fewest that must move, against trying all.
func TestMovedAreAsFewAsCanBe(t *testing.T) {
	ids := []string{"a", "b", "c", "d", "e"}
	var try func(rest, now []string)
	stays := func(after []string) int {
		best := 0
		for mask := range 32 {
			var kept []string
			for i, id := range after {
				if mask>>i&1 == 1 {
					kept = append(kept, id)
				}
			}
			if slices.IsSorted(kept) {
				best = max(best, len(kept))
			}
		}
		return best
	}
	try = func(rest, now []string) {
		if len(rest) == 0 {
			moved := order.Moved(ids, now)
			require.Len(t, moved, 5-stays(now), "%v", now)
			left := slices.DeleteFunc(slices.Clone(now), func(id string) bool { return slices.Contains(moved, id) })
			require.True(t, slices.IsSorted(left), "%v without %v", now, moved)
			return
		}
		for i, id := range rest {
			try(append(slices.Clone(rest[:i]), rest[i+1:]...), append(slices.Clone(now), id))
		}
	}
	try(ids, nil)
	assert.Empty(t, order.Moved(nil, nil))
}

func TestASearchTellsWhatItFinds(t *testing.T) {
	a := ask(t, 3000)
	a.Steps = byLetters(t)
	last, told := 0, 0
	a.Found = func(sum int) { last = sum; told++ }
	got, err := order.Improve(a, south)
	require.NoError(t, err)
	assert.Equal(t, got.After.Sum(), last)
	assert.Greater(t, told, 3)
}
