package running_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/running"
)

func chance(r *rand.Rand) []running.Mark {
	var out []running.Mark
	for range r.IntN(8) {
		out = append(out, running.Mark{
			Name: []string{"at", "turned", "sure.a", "sure.b"}[r.IntN(4)], Value: fmt.Sprint(r.IntN(3)),
			N: int64(1 + r.IntN(3)), By: []string{"board", "desk", "phone"}[r.IntN(3)],
		})
	}
	return out
}

// The three laws of a join semilattice (Shapiro et al. 2011, section 2.3): with them all faces end alike, in whatever
// order and however often marks reach them.
func TestJoiningIsCommutativeAssociativeAndIdempotent(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	for range 3000 {
		a, b, c := running.Join(nil, chance(r)), running.Join(nil, chance(r)), running.Join(nil, chance(r))
		require.Equal(t, running.Join(a, b), running.Join(b, a))
		require.Equal(t, running.Join(running.Join(a, b), c), running.Join(a, running.Join(b, c)))
		require.Equal(t, a, running.Join(a, a))
	}
}

func TestTheLastSettingWins(t *testing.T) {
	first := []running.Mark{{Name: "at", Value: "3", N: 4, By: "desk"}}
	second := []running.Mark{
		{Name: "at", Value: "2", N: 5, By: "board"},
		{Name: "turned", Value: "true", N: 1, By: "board"},
	}
	assert.Equal(t, second, running.Join(first, second))
	// Two press at once: both faces take the same one.
	same := []running.Mark{{Name: "at", Value: "9", N: 5, By: "phone"}}
	assert.Equal(t, "9", running.Join(second, same)[0].Value)
}

func TestWhatIsNoMarkIsRefused(t *testing.T) {
	kept := []running.Mark{{Name: "at", Value: "3", N: 40, By: "desk"}}
	for name, bad := range map[string]running.Mark{
		"name":  {Name: "password", Value: "1", N: 1, By: "x"},
		"value": {Name: "at", Value: "<b>", N: 1, By: "x"},
		"ahead": {Name: "at", Value: "1", N: 1 << 52, By: "x"},
		"long":  {Name: "sure." + strings.Repeat("a", 61), Value: "1", N: 1, By: "x"},
	} {
		assert.ErrorIs(t, running.Check(kept, []running.Mark{bad}), running.ErrMark, name)
	}
	require.NoError(t, running.Check(kept, []running.Mark{{Name: "own", Value: `{"word":"ship"}`, N: 41, By: "desk"}}))
	var many []running.Mark
	for i := range running.MaxMarks {
		many = append(many, running.Mark{Name: fmt.Sprintf("side.%d", i), Value: "1", N: 1, By: "x"})
	}
	assert.ErrorIs(t, running.Check(kept, many), running.ErrMark)
}

func TestWhatDecidesWhichWasLast(t *testing.T) {
	last := func(a, b running.Mark) string {
		a.Name, b.Name = "at", "at"
		one, other := running.Join([]running.Mark{a}, []running.Mark{b}), running.Join([]running.Mark{b}, []running.Mark{a})
		require.Equal(t, one, other)
		return one[0].Value
	}
	assert.Equal(t, "1", last(running.Mark{N: 2, By: "a", Value: "1"}, running.Mark{N: 1, By: "b", Value: "2"}))
	assert.Equal(t, "1", last(running.Mark{N: 2, By: "b", Value: "1"}, running.Mark{N: 2, By: "a", Value: "2"}))
	assert.Equal(t, "2", last(running.Mark{N: 2, By: "a", Value: "1"}, running.Mark{N: 2, By: "a", Value: "2"}))
}

func TestHowFarAheadAMarkMayBe(t *testing.T) {
	kept := []running.Mark{{Name: "at", Value: "1", N: 7, By: "x"}, {Name: "turned", Value: "1", N: 40, By: "x"}}
	at := func(n int64) error {
		return running.Check(kept, []running.Mark{{Name: "at", Value: "2", N: n, By: "x"}})
	}
	furthest := int64(0)
	for step := int64(1) << 40; step > 0; step /= 2 { // by halves
		if at(furthest+step) == nil {
			furthest += step
		}
	}
	assert.Equal(t, int64(40+running.MaxClockAhead), furthest, "counted from the newest that is kept")
	var most []running.Mark
	for i := range running.MaxMarks - len(kept) {
		most = append(most, running.Mark{Name: fmt.Sprintf("side.%d", i), Value: "1", N: 1, By: "x"})
	}
	require.NoError(t, running.Check(kept, most), "as many as it keeps")
}
