package kinds

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
)

// brief is of a class that reads the pairs, for a lesson on the targets.
func brief(reads []spelling.Pair, targets ...spelling.Pair) *step.FillInput {
	b := &step.FillInput{
		Conventions: convention.Conventions{Accent: phoneme.SouthernBritish},
		Speech:      lexicon.Speech{Accent: phoneme.SouthernBritish},
	}
	b.Class.Pairs = spelling.Set{}
	for _, p := range reads {
		b.Class.Pairs[p] = true
	}
	for _, p := range targets {
		b.Class.Pairs[p] = true
		b.Targets = append(b.Targets, card.Card{ID: p.String(), Pair: p})
	}
	return b
}

// What a step needs at the least, and what it can show at the most: as many of each side.
func TestTheLeastOfASide(t *testing.T) {
	p := func(grapheme, sound string) spelling.Pair { return spelling.Pair{Grapheme: grapheme, Sound: sound} }
	several := []spelling.Pair{
		p("a", "æ"), p("t", "t"), p("p", "p"), p("i", "ɪ"), p("s", "s"), p("o", "ɒ"), p("g", "ɡ"), p("e", "e"),
	}
	m, f := contrastMaterial(brief(several, p("m", "m"), p("n", "n")), lesson.RoutineStep{})
	assert.Nil(t, f)
	assert.Equal(t, []int{4, 20, 2}, []int{m.Least, m.Most, m.By})
	m, f = contrastMaterial(
		brief([]spelling.Pair{p("a", "æ"), p("t", "t")}, p("m", "m"), p("p", "p")),
		lesson.RoutineStep{},
	)
	assert.Nil(t, f)
	assert.Equal(t, []int{4, 4}, []int{m.Least, m.Most}, "two of each, and no more")
	_, f = contrastMaterial(brief(nil, p("m", "m"), p("n", "n")), lesson.RoutineStep{})
	assert.NotNil(t, f)

	m, f = earMaterial(brief(nil, p("m", "m")), lesson.RoutineStep{})
	assert.Nil(t, f)
	assert.Equal(t, []int{6, 2}, []int{m.Least, m.By})
	assert.GreaterOrEqual(t, m.Most, 12)
	for n := m.Least; n <= m.Most; n += 2 {
		sides := map[lesson.Basket]int{}
		for _, it := range m.Take(n).Items {
			sides[it.Basket]++
		}
		assert.Equal(t, sides[lesson.Has], sides[lesson.HasNot], "%d: %v", n, sides)
		assert.LessOrEqual(t, 2*sides[lesson.Has], n)
	}
	m, f = byEar(brief(nil, p("sh", "ʃ")), p("sh", "ʃ"), "few pictures have it")
	assert.Nil(t, f)
	assert.Equal(t, []int{6, 2}, []int{m.Least, m.By})
	assert.Len(t, m.Take(m.Most).Items, m.Most)
	b := brief(nil)
	assert.Nil(t, query(b).Target, "a lesson without a sound asks for any word")
	_, f = earMaterial(b, lesson.RoutineStep{})
	assert.NotNil(t, f)
	assert.Equal(t, p("m", "m"), *query(brief(nil, p("m", "m"))).Target)
}
