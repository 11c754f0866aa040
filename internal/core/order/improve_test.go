package order_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/order"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// some are 40 pairs in the order of the alphabet, so that nothing of a list in use is in them.
func some(t *testing.T) []order.Step {
	t.Helper()
	var out []order.Step
	for _, text := range []string{
		"a", "ai", "ar", "b", "c", "ch", "ck", "d", "e", "ea", "ee", "er", "f", "g", "h", "i", "igh", "j", "k", "l", "m", "n",
		"ng", "o", "oa", "oo", "or", "p", "qu", "r", "s", "sh", "t", "th", "u", "v", "w", "x", "y", "z",
	} {
		p, err := spelling.ParsePair(phoneme.SouthernBritish, text)
		require.NoError(t, err, text)
		out = append(out, order.Step{Number: len(out) + 1, Pair: p})
	}
	return out
}

func ask(t *testing.T, rounds int) order.Ask {
	return order.Ask{Steps: some(t), Weights: order.UsualWeights(), Rounds: rounds, Seed: 3}
}

// letters of English running text by how common they are (Norvig 2012, "English Letter Frequency Counts: Mayzner
// Revisited"; from memory).
const letters = "etaoinsrhldcumfpgwybvkxjqz"

// byLetters are the pairs by how common their letters are: single ones, then groups by their rarest letter.
func byLetters(t *testing.T) []order.Step {
	t.Helper()
	out := some(t)
	rank := func(s order.Step) int {
		rarest := 0
		for _, r := range s.Pair.Grapheme {
			rarest = max(rarest, strings.IndexRune(letters, r))
		}
		return 100*min(2, len(s.Pair.Grapheme)) + rarest
	}
	slices.SortStableFunc(out, func(a, b order.Step) int { return rank(a) - rank(b) })
	for i := range out {
		out[i].Number = i + 1
	}
	return out
}

// A quarter more readable words, summed over all steps, than the order by letters, without a clash.
func TestAnImprovedOrderReadsAQuarterMoreThanOneByLetters(t *testing.T) {
	a := ask(t, 12_000)
	a.Steps = byLetters(t)
	got, err := order.Improve(a, south)
	require.NoError(t, err)
	t.Logf("by letters %d with %d clashes, improved %d with %d", got.Before.Sum(), got.Before.Clashes,
		got.After.Sum(), got.After.Clashes)
	assert.Greater(t, float64(got.After.Sum()), 1.25*float64(got.Before.Sum()))
	assert.Zero(t, got.After.Clashes)
	assert.Equal(t, got.Before.Readable[len(got.Before.Readable)-1], got.After.Readable[len(got.After.Readable)-1],
		"the same pairs read the same in the end")
	assert.NotEmpty(t, got.Moves)
	for _, m := range got.Moves {
		assert.NotEmpty(t, m.Because)
	}
	// The judge that was there before agrees: nothing is too close.
	for _, f := range order.Check(got.Order, south).Findings {
		assert.NotEqual(t, "too-close", f.Code, f.Message)
	}
}

func TestWhatIsKeptStaysAndTheSameSeedGivesTheSame(t *testing.T) {
	a := ask(t, 3000)
	a.Keep = map[spelling.Pair]bool{a.Steps[4].Pair: true, a.Steps[30].Pair: true}
	one, err := order.Improve(a, south)
	require.NoError(t, err)
	two, err := order.Improve(a, south)
	require.NoError(t, err)
	assert.Equal(t, one, two)
	assert.Equal(t, a.Steps[4], one.Order[4])
	assert.Equal(t, a.Steps[30], one.Order[30])
	var before, after []string
	for i := range a.Steps {
		before, after = append(before, a.Steps[i].Pair.String()), append(after, one.Order[i].Pair.String())
	}
	assert.ElementsMatch(t, before, after, "no pair is lost and none comes twice")
	for _, s := range a.Steps {
		a.Keep[s.Pair] = true
	}
	all, err := order.Improve(a, south)
	require.NoError(t, err)
	assert.Empty(t, all.Moves)
}

func TestGroupsStayTogetherAndGivingUpKeepsTheOrder(t *testing.T) {
	a := ask(t, 8000)
	a.Groups = [][]spelling.Pair{{a.Steps[9].Pair, a.Steps[10].Pair}} // ea, ee
	a.Weights.Sounds, a.Weights.Together = 0, 2
	got, err := order.Improve(a, south)
	require.NoError(t, err)
	at := func(p spelling.Pair) int {
		return slices.IndexFunc(got.Order, func(s order.Step) bool { return s.Pair == p })
	}
	assert.Equal(t, 1, max(at(a.Groups[0][0])-at(a.Groups[0][1]), at(a.Groups[0][1])-at(a.Groups[0][0])))
	a.Left = func() float64 { return 0 }
	none, err := order.Improve(a, south)
	require.NoError(t, err)
	assert.Empty(t, none.Moves)
	a.Steps = append(a.Steps, a.Steps[0])
	_, err = order.Improve(a, south)
	assert.ErrorIs(t, err, order.ErrTwice)
}
