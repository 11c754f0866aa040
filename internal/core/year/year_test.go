package year_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
)

func pairs(t testing.TB, text string) []spelling.Pair {
	t.Helper()
	var out []spelling.Pair
	for g := range strings.FieldsSeq(text) {
		p, err := spelling.ParsePair(phoneme.SouthernBritish, g)
		require.NoError(t, err)
		out = append(out, p)
	}
	return out
}

// told is a plan as text: day, purpose by its first letter, graphemes, where it was before.
func told(t testing.TB, a year.Ask) string {
	t.Helper()
	days, err := year.Plan(a)
	if !errors.Is(err, year.ErrRoom) {
		require.NoError(t, err)
	}
	var out []string
	for _, d := range days {
		line := string(d.Date[5:]) + " " + string(d.Purpose[0])
		for _, p := range d.Pairs {
			line += " " + p.Grapheme
		}
		if d.MovedFrom != "" {
			line += " <" + string(d.MovedFrom[5:])
		}
		out = append(out, line)
	}
	return strings.Join(out, "\n")
}

func days(list ...year.Date) map[year.Date]bool {
	out := map[year.Date]bool{}
	for _, d := range list {
		out[d] = true
	}
	return out
}

func lost(list ...year.Date) map[year.Date]year.Rule {
	out := map[year.Date]year.Rule{}
	for _, d := range list {
		out[d] = ""
	}
	return out
}

// 2026-09-07 is a Monday.
func ask(t testing.TB) year.Ask {
	return year.Ask{Pairs: pairs(t, "t a m s i n p o"), Start: "2026-09-07", PerWeek: 4}
}

func TestFourAWeekAndADayToRevise(t *testing.T) {
	assert.Equal(t, `09-07 i t
09-08 i a
09-09 i m
09-10 i s
09-11 r t a m s
09-14 i i
09-15 i n
09-16 i p
09-17 i o
09-18 r i n p o`, told(t, ask(t)))
}

func TestALostDayMovesWhatItMustByTheRule(t *testing.T) {
	a := ask(t)
	a.Lost = lost("2026-09-08")
	assert.Equal(t, `09-07 i t
09-09 i a <09-08
09-10 i m <09-09
09-11 r t a m
09-14 i s <09-10
09-15 i i <09-14
09-16 i n <09-15
09-17 i p <09-16
09-18 r s i n p
09-21 i o <09-17`, strings.Join(strings.Split(told(t, a), "\n")[:10], "\n"))
	a.Rule = year.DropRevision
	assert.Equal(t, `09-07 i t
09-09 i a <09-08
09-10 i m <09-09
09-11 i s <09-10
09-14 i i
09-15 i n
09-16 i p
09-17 i o
09-18 r i n p o`, told(t, a))
	a.Rule = year.DoubleUp
	assert.Equal(t, `09-07 i t
09-09 i a m <09-08
09-10 i s
09-11 r t a m s
09-14 i i`, strings.Join(strings.Split(told(t, a), "\n")[:5], "\n"))
}

// A day that is lost twice is lost once.
func TestShortWeeksDaysOffAndOtherSpeeds(t *testing.T) {
	a := ask(t)
	a.Off = days("2026-09-09", "2026-09-10", "2026-09-11")
	a.Lost = lost("2026-09-10") // no lesson then anyway
	assert.Equal(t, `09-07 i t
09-08 r t
09-14 i a`, strings.Join(strings.Split(told(t, a), "\n")[:3], "\n"))
	a = ask(t)
	a.PerWeek = 5
	assert.Contains(t, told(t, a), "09-11 i i\n09-14 i n")
	a.PerWeek = 8
	assert.True(
		t,
		strings.HasPrefix(told(t, a), "09-07 i t a\n09-08 i m s\n09-09 i i p"),
		"n waits: it is mixed up with m",
	)
	a.PerWeek, a.Start = 1, "2026-09-09"
	assert.True(t, strings.HasPrefix(told(t, a), "09-09 i t\n09-10 r t\n09-11 r t\n09-14 i a"), told(t, a))
	a.Teaching = map[time.Weekday]bool{time.Monday: true, time.Thursday: true}
	a.PerWeek = 2
	assert.True(t, strings.HasPrefix(told(t, a), "09-10 i t\n09-14 i a\n09-17 i m"), told(t, a))
}

func TestLookAlikesComeNeitherOnOneDayNorOneAfterTheOther(t *testing.T) {
	for _, perWeek := range []int{4, 5, 10} {
		plan, err := year.Plan(year.Ask{Pairs: pairs(t, "b d p q m n u i e f th v"), Start: "2026-09-07", PerWeek: perWeek})
		require.NoError(t, err)
		var last []spelling.Pair
		seen := map[spelling.Pair]bool{}
		for _, d := range plan {
			if d.Purpose != lesson.Introduce {
				last = nil
				continue
			}
			for i, p := range d.Pairs {
				assert.False(t, seen[p])
				seen[p] = true
				for _, q := range append(last, d.Pairs[:i]...) {
					assert.False(t, spelling.MixedUp(p.Grapheme, q.Grapheme), "%s and %s on %s", p, q, d.Date)
				}
			}
			last = d.Pairs
		}
		assert.Len(t, seen, 12, "all are taught")
	}
}

func TestWhatCannotBeLaidOutIsSaid(t *testing.T) {
	for name, change := range map[string]func(*year.Ask){
		"start": func(a *year.Ask) { a.Start = "soon" },
		"week":  func(a *year.Ask) { a.PerWeek = 0 },
		"rule":  func(a *year.Ask) { a.Rule = "pray" },
		"days":  func(a *year.Ask) { a.Teaching = map[time.Weekday]bool{} },
		"twice": func(a *year.Ask) { a.Pairs = append(a.Pairs, a.Pairs[0]) },
		"never": func(a *year.Ask) {
			a.Off = map[year.Date]bool{}
			for i := range 2000 {
				a.Off[a.Start.Add(i)] = true
			}
		},
	} {
		a := ask(t)
		change(&a)
		_, err := year.Plan(a)
		assert.Error(t, err, name)
	}
}

// The aim is 50 ms for a year; this is 120 pairs with a week lost.
func BenchmarkReplan(b *testing.B) {
	a := ask(b)
	a.Pairs = nil
	for _, row := range spelling.Table(phoneme.SouthernBritish)[:120] {
		a.Pairs = append(a.Pairs, row.Pair)
	}
	a.Lost = lost("2026-10-05", "2026-10-06", "2026-10-07", "2026-10-08", "2026-10-09")
	for b.Loop() {
		if _, err := year.Plan(a); err != nil {
			b.Fatal(err)
		}
	}
}

func graphemes(list []spelling.Pair) string {
	var out []string
	for _, p := range list {
		out = append(out, p.Grapheme)
	}
	return strings.Join(out, " ")
}
