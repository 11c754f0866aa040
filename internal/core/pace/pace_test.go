package pace_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/pace"
)

func times(class string, kind lesson.Kind, took ...int) []pace.Time {
	var out []pace.Time
	for i, s := range took {
		out = append(out, pace.Time{ClassID: class, LessonID: fmt.Sprint(i), Kind: kind, UsualSeconds: 100, TookSeconds: s})
	}
	return out
}

func ratio(t *testing.T, list []pace.Time, class string) pace.Estimate {
	t.Helper()
	got := pace.Learn(list, class)
	if len(got) == 0 {
		return pace.Estimate{}
	}
	return got[0]
}

// The shares are worked out by hand: the class counts k of k+3, the team n of n+4.
func TestAClassIsDrawnToTheTeamAndTheTeamToTheUsual(t *testing.T) {
	assert.Empty(t, pace.Learn(nil, "a"))
	e := ratio(t, times("a", lesson.Read, 150), "b")
	assert.InDelta(t, 1.0845, e.Ratio, 0.001, "one lesson of the team: exp(ln 1.5 / 5)")
	assert.Equal(t, pace.Usual, e.From)
	e = ratio(t, times("a", lesson.Read, 150, 150, 150, 150), "b")
	assert.InDelta(t, 1.2247, e.Ratio, 0.001, "four: exp(ln 1.5 / 2)")
	assert.Equal(t, pace.Team, e.From)
	e = ratio(t, times("a", lesson.Read, 150, 150, 150, 150), "a")
	assert.InDelta(t, 1.3751, e.Ratio, 0.001, "its own four: exp((4 ln 1.5 + 3 ln 1.5 / 2) / 7)")
	assert.Equal(t, pace.Class, e.From)
	assert.Equal(t, 4, e.Lessons)
}

func TestOneLessonWithAFireAlarmMovesLittle(t *testing.T) {
	calm := ratio(t, times("a", lesson.Read, 110, 105, 100, 108, 102), "a").Ratio
	alarm := ratio(t, times("a", lesson.Read, 110, 105, 100, 108, 7000), "a").Ratio
	assert.InDelta(t, calm, alarm, 0.03)
	assert.Equal(t, 1.0, ratio(t, times("a", lesson.Read, 100, 100, 100), "a").Ratio)
	assert.Equal(t, 2.0, ratio(t, times("a", lesson.Read, 900, 900, 900, 900, 900, 900, 900, 900, 900), "a").Ratio)
	slow := ratio(t, times("a", lesson.Read, 21, 21, 21, 21, 21, 21, 21, 21, 21, 21, 21, 21, 21, 21), "a").Ratio
	assert.Equal(t, 0.5, slow)
}

func TestWhatWasPassedOverSaysNothingAndTheNewestCount(t *testing.T) {
	assert.Empty(t, pace.Learn(times("a", lesson.Read, 3, 4, 19), "a"), "under five seconds, or a fifth of the usual")
	assert.NotEmpty(t, pace.Learn(times("a", lesson.Read, 20), "a"))
	list := times("a", lesson.Read, 120, 120, 120, 120, 120, 120, 120, 120, 120, 120, 120, 120)
	old := slices.Concat(list, times("a", lesson.Read, 60, 60, 60, 60, 60, 60, 60, 60, 60, 60, 60))
	assert.InDelta(t, 1.18, ratio(t, old, "a").Ratio, 0.02, "twelve of the class")
	both := append(times("a", lesson.Spell, 100), times("a", lesson.Read, 100)...)
	got := pace.Learn(both, "a")
	assert.Equal(t, lesson.Read, got[0].Kind)
	assert.Equal(t, lesson.Spell, got[1].Kind)
	assert.Equal(t, 1.0, pace.Ratios(got)[lesson.Read])
}

func TestEachBoundOfWhatIsLearned(t *testing.T) {
	at := func(usual, took int) []pace.Time {
		return []pace.Time{{ClassID: "a", Kind: lesson.Read, UsualSeconds: usual, TookSeconds: took}}
	}
	assert.Empty(t, pace.Learn(at(0, 60), "a"), "no usual time to hold it against")
	assert.Empty(t, pace.Learn(at(10, 4), "a"))
	assert.Len(t, pace.Learn(at(10, 5), "a"), 1, "five seconds")
	assert.Empty(t, pace.Learn(at(100, 19), "a"))
	assert.Len(t, pace.Learn(at(100, 20), "a"), 1, "a fifth of the usual")
	assert.Equal(t, pace.Usual, ratio(t, times("a", lesson.Read, 150, 150), "a").From)
	assert.Equal(t, pace.Class, ratio(t, times("a", lesson.Read, 150, 150, 150), "a").From, "three of its own")
	assert.Equal(t, pace.Usual, ratio(t, times("a", lesson.Read, 150, 150, 150), "b").From)
	assert.Equal(t, pace.Team, ratio(t, times("a", lesson.Read, 150, 150, 150, 150), "b").From, "four of the team")
	// Two in the middle: half way between, in the logarithm.
	even := ratio(t, times("a", lesson.Read, 100, 50, 200, 400), "b").Ratio
	assert.InDelta(t, 1.1892, even, 0.001, "exp((ln 1 + ln 2) / 2 / 2)")
	// The newest count alone: one more than those changes nothing.
	var many []int
	for range 12 {
		many = append(many, 120)
	}
	own := ratio(t, times("a", lesson.Read, many...), "a")
	assert.Equal(t, 12, own.Lessons)
	more := ratio(t, times("a", lesson.Read, append(many, 30)...), "a")
	assert.Equal(t, 12, more.Lessons)
	var team []int
	for range 200 {
		team = append(team, 120)
	}
	assert.Equal(
		t,
		ratio(t, times("b", lesson.Read, team...), "a").Team,
		ratio(t, times("b", lesson.Read, append(team, 30)...), "a").Team,
	)
}
