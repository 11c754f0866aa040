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

func TestWhatMayStandClose(t *testing.T) {
	near := func(text string) string { return messages(order.Check(steps(t, text), south), "too-close") }
	assert.Contains(t, near("b s a d"), "d comes 3 after b", "two steps between them")
	assert.NotContains(t, near("b s a m d"), "after b", "three steps between them")
	assert.Contains(t, near("d s b"), "b comes 2 after d", "either way round")
	f := order.Check(steps(t, "d s b"), south).Findings[0]
	assert.Equal(t, 3, f.Step)
	assert.Equal(t, "b=b", f.Pair)
	r := order.Check(steps(t, "s a s d t"), south)
	assert.Len(t, r.Unlocked, 4, "a repeated step unlocks nothing")
}

// From the sixth step on a familiar word is readable, and from the seventh on each step brings one.
func TestWordsByTheSixthStep(t *testing.T) {
	lone := func(text string) string { return messages(order.Check(steps(t, text), south), "no-words") }
	assert.Empty(t, lone("z qu x j v"), "five steps may be without a word")
	assert.Contains(t, lone("z qu x j v w"), "can be read by step 6")
	assert.Equal(t, 1, strings.Count(lone("z qu x j v w y h"), "can be read by"), "said once")
	assert.Empty(t, lone("s a t i p qu"), "the sixth step may bring none")
	assert.Contains(t, lone("s a t i p n z=z e-e"), "e-e=iː unlocks no familiar word")
	assert.Empty(t, lone("s a t i p n m"))
}

// What thirty known words need is missed. Doubled letters are not: they are read as the single ones.
func TestWhatIsMissed(t *testing.T) {
	r := order.Check(nil, south)
	var missed []string
	for _, f := range r.Findings {
		assert.Equal(t, "missing", f.Code)
		assert.Zero(t, f.Step)
		missed = append(missed, strings.Fields(f.Message)[0])
	}
	assert.Equal(t, strings.Fields("t n s l r p d i m b a er c y u f e o k g h w a sh e le a-e o ck ee"), missed[:30])
	for _, g := range []string{"sh", "igh", "ai", "a-e", "er", "ow"} {
		assert.Contains(t, missed, g)
	}
	for _, g := range []string{"ll", "ss", "pp", "eigh", "gn"} {
		assert.NotContains(t, missed, g)
	}
}
