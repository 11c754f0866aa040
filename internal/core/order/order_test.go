package order_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/order"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

var south = words.Options{Accent: phoneme.SouthernBritish}

func steps(t testing.TB, text string) []order.Step {
	t.Helper()
	var out []order.Step
	for i, g := range strings.Fields(text) {
		p, err := spelling.ParsePair(phoneme.SouthernBritish, g)
		require.NoError(t, err)
		out = append(out, order.Step{Number: i + 1, Pair: p})
	}
	return out
}

func messages(r order.Report, code string) string {
	var out []string
	for _, f := range r.Findings {
		if f.Code == code {
			out = append(out, f.Message)
		}
	}
	return strings.Join(out, " ")
}

func TestCheck(t *testing.T) {
	r := order.Check(steps(t, "s a t b d"), south)
	assert.Contains(t, messages(r, "too-close"), "d comes 1 after b")
	assert.Contains(t, messages(r, "missing"), "sh is not taught")
	assert.Equal(t, "sat", r.Unlocked[2].Best[0])
	r = order.Check(steps(t, "z qu x j v w y a"), south)
	assert.Contains(t, messages(r, "no-words"), "by step 6")
	r = order.Check(steps(t, "s a s"), south)
	assert.Contains(t, messages(r, "repeated"), "taught twice")
	assert.Empty(t, order.Check(nil, south).Unlocked)
	assert.Empty(t, messages(order.Check(steps(t, "t a m s i p"), south), "too-close"))
}

func ExampleCheck() {
	r := order.Check(
		[]order.Step{
			{Number: 1, Pair: spelling.Pair{Grapheme: "b", Sound: "b"}},
			{Number: 2, Pair: spelling.Pair{Grapheme: "d", Sound: "d"}},
		},
		south,
	)
	fmt.Println(r.Findings[0].Message)
	// Output: d comes 1 after b; children mix them up. Leave at least 3 steps between them.
}
