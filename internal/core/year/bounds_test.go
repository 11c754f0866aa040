package year_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/year"
)

// most is the greatest number that f takes; it takes all from 1 to there.
func most(t *testing.T, f func(n int) error) (n int) {
	t.Helper()
	for n = 0; n < 50 && f(n+1) == nil; n++ {
	}
	require.Positive(t, n)
	return n
}

// A week takes as many new sounds everywhere: in the school's year, in a class's pace, in a plan. None at all is the
// school's number in a pace, and nothing anywhere else.
func TestHowManyAWeek(t *testing.T) {
	s := school(t)
	tidy := func(n int) error { s := s; s.PerWeek = n; _, err := s.Tidy(); return err }
	pace := func(n int) error { return year.Pace{PerWeek: n}.Check(s) }
	plan := func(n int) error { a := ask(t); a.PerWeek = n; _, err := year.Plan(a); return err }
	assert.Equal(t, most(t, tidy), most(t, pace))
	assert.Equal(t, most(t, tidy), most(t, plan))
	require.Error(t, tidy(0))
	require.Error(t, plan(0))
	require.NoError(t, pace(0))
	require.Error(t, pace(-1))
	assert.Equal(t, s.PerWeek, s.SoundsPerWeek(year.Pace{}))
	assert.Equal(t, 1, s.SoundsPerWeek(year.Pace{PerWeek: 1}))
}

func TestTheBoundsOfTerms(t *testing.T) {
	tidy := func(terms ...year.Term) (year.School, error) {
		s := school(t)
		s.Terms = terms
		return s.Tidy()
	}
	first := year.Date("2026-09-07")
	one, err := tidy(year.Term{Name: "A day", First: first, Last: first})
	require.NoError(t, err, "a term of one day")
	_, week, in := one.Week(first)
	assert.True(t, in)
	assert.Equal(t, 1, week)
	_, _, in = one.Week(first.Add(-1))
	assert.False(t, in)
	_, _, in = one.Week(first.Add(1))
	assert.False(t, in)
	_, err = tidy(year.Term{Name: "Long", First: first, Last: first.Add(200)})
	require.NoError(t, err)
	_, err = tidy(year.Term{Name: "Long", First: first, Last: first.Add(201)})
	require.Error(t, err)
	_, err = tidy(
		year.Term{Name: "A", First: first, Last: first.Add(4)},
		year.Term{Name: "B", First: first.Add(5), Last: first.Add(9)},
	)
	require.NoError(t, err, "the next day")
	_, err = tidy(
		year.Term{Name: "A", First: first, Last: first.Add(4)},
		year.Term{Name: "B", First: first.Add(4), Last: first.Add(9)},
	)
	require.Error(t, err, "the same day")

	s := school(t)
	s.Teaching = []time.Weekday{-1, 6, 0, 7, 0}
	s, err = s.Tidy()
	require.NoError(t, err)
	assert.Equal(t, []time.Weekday{0, 6}, s.Teaching, "Sunday and Saturday are days, others are none")

	// The year that is thought of changes after the middle of July.
	assert.Equal(t, "2025", string(year.Suggested("2026-07-21")[0].First[:4]))
	assert.Equal(t, "2026", string(year.Suggested("2026-07-22")[0].First[:4]))
}

// A lesson outside the terms is none, also where the school has no terms yet.
func TestNoTermsYet(t *testing.T) {
	s := school(t)
	assert.False(t, s.Teaches(year.Pace{}, "2026-08-03"))
	s.Terms = nil
	assert.True(t, s.Teaches(year.Pace{}, "2026-08-03"))
}

// More than one a day: the earlier days take more, no day takes more than it must, and the last day of a term counts.
func TestHowAWeekIsShared(t *testing.T) {
	share := func(perWeek int, teaching ...time.Weekday) string {
		a := year.Ask{Pairs: pairs(t, "t a m s p o g k e b f r w j v y z h"), Start: "2026-09-07", PerWeek: perWeek}
		if len(teaching) > 0 {
			a.Teaching = map[time.Weekday]bool{}
			for _, d := range teaching {
				a.Teaching[d] = true
			}
		}
		a.Terms = []year.Term{{Name: "A", First: "2026-09-07", Last: "2026-09-11"}}
		out := ""
		for line := range strings.SplitSeq(told(t, a), "\n") {
			f := strings.Fields(line)
			if len(f) > 1 && f[1] == "i" {
				out += string(rune('0' + len(f) - 2))
			} else {
				out += "r"
			}
		}
		return out
	}
	for want, n := range map[string]int{"1r": 1, "11": 2, "21": 3, "22": 4} {
		assert.Equal(t, want, share(n, time.Monday, time.Thursday), "%d on two days", n)
	}
	for want, n := range map[string]int{
		"1rrrr": 1, "11rrr": 2, "111rr": 3, "1111r": 4, "11111": 5, "21111": 6, "22111": 7, "22222": 10,
	} {
		assert.Equal(t, want, share(n), "%d on five days", n)
	}
	assert.Equal(t, "11", share(2, time.Thursday, time.Friday), "the last day of the term")
}
