package year_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
)

// school has two terms of some weeks; 2026-09-07 is a Monday.
func school(t testing.TB) year.School {
	t.Helper()
	s := year.Usual()
	s.Terms = []year.Term{
		{Name: "Spring", First: "2027-01-04", Last: "2027-01-15"}, {Name: "Autumn", First: "2026-09-09", Last: "2026-09-25"},
	}
	s.Off = []year.DayOff{{Date: "2026-09-16", Name: " boat day "}, {Date: "2026-09-16", Name: "twice"}}
	s.Assess = []year.Date{"2026-09-23", "2026-09-21"}
	s, err := s.Tidy()
	require.NoError(t, err)
	return s
}

func laid(t testing.TB, s year.School, p year.Pace, order string, from year.Date) string {
	t.Helper()
	return told(t, s.Ask(p, pairs(t, order), from))
}

func TestTidyPutsAYearInOrder(t *testing.T) {
	s := school(t)
	assert.Equal(t, "Autumn", s.Terms[0].Name)
	assert.Equal(t, []year.DayOff{{Date: "2026-09-16", Name: "boat day"}}, s.Off)
	assert.Equal(t, []year.Date{"2026-09-21"}, s.Assess, "two days of one week are one week")
	term, week, in := s.Week("2026-09-09")
	assert.True(t, in)
	assert.Equal(t, "Autumn", term.Name)
	assert.Equal(t, 1, week, "a term that begins on a Wednesday")
	_, week, _ = s.Week("2026-09-14")
	assert.Equal(t, 2, week)
	_, _, in = s.Week("2026-09-26")
	assert.False(t, in)
}

func TestWhatIsWrongWithASchoolYearIsSaidAtItsField(t *testing.T) {
	for _, row := range []struct {
		name, field, text string
		change            func(*year.School)
	}{
		{"backwards", "terms", "ends on Friday 1 January 2027, before it begins on Monday 4", func(s *year.School) {
			s.Terms = []year.Term{{Name: "Spring", First: "2027-01-04", Last: "2027-01-01"}}
		}},
		{"overlap", "terms", "Late begins on Friday 25 September 2026, while Autumn lasts until", func(s *year.School) {
			s.Terms = append(s.Terms, year.Term{Name: "Late", First: "2026-09-25", Last: "2026-10-01"})
		}},
		{"no date", "terms", "“soon” is no date", func(s *year.School) { s.Terms[0].First = "soon" }},
		{"no name", "terms", "needs a name", func(s *year.School) { s.Terms[0].Name = " " }},
		{"too long", "terms", "longer than 200 days", func(s *year.School) { s.Terms[0].Last = "2027-09-01" }},
		{"day off", "off", "“2026-02-31” is no date", func(s *year.School) { s.Off[0].Date = "2026-02-31" }},
		{"assess", "assess", "is no date", func(s *year.School) { s.Assess = []year.Date{"x"} }},
		{"no days", "teaching", "at least one day", func(s *year.School) { s.Teaching = nil }},
		{"too many", "per_week", "1 to 15", func(s *year.School) { s.PerWeek = 16 }},
		{"none", "per_week", "1 to 15", func(s *year.School) { s.PerWeek = 0 }},
		{"rule", "rule", "Choose what a lost day does", func(s *year.School) { s.Rule = "pray" }},
		{"speed twice", "speeds", "stands there twice", func(s *year.School) { s.Speeds = []year.Speed{{"a", 1}, {"a", 2}} }},
		{"speed of none", "speeds", "1 to 15", func(s *year.School) { s.Speeds = []year.Speed{{"a", 0}} }},
		{"speed without name", "speeds", "needs a name", func(s *year.School) { s.Speeds = []year.Speed{{"", 2}} }},
	} {
		s := school(t)
		row.change(&s)
		_, err := s.Tidy()
		var f *fault.Fault
		require.ErrorAs(t, err, &f, row.name)
		assert.Equal(t, row.field, f.Field, row.name)
		assert.Contains(t, err.Error(), row.text, row.name)
	}
}

// By hand: the term begins on Wednesday, the 16th is off, in the week of the 21st nothing new comes.
func TestAYearKeepsToItsTermsDaysOffAndWeeksToLookBack(t *testing.T) {
	s := school(t)
	assert.Equal(t, `09-09 i t
09-10 i a
09-11 r t a
09-14 i m
09-15 i s
09-17 i i
09-18 r m s i
09-21 r
09-22 r
09-23 r
09-24 r
09-25 r
01-04 i n
01-05 i p
01-06 r n p`, strings.Join(strings.Split(laid(t, s, year.Pace{}, "t a m s i n p", "2026-09-01"), "\n")[:15], "\n"))
	days, err := year.Plan(s.Ask(year.Pace{}, pairs(t, "t a m s i n p o d h c e g r b u l f"), "2026-09-01"))
	require.ErrorIs(t, err, year.ErrRoom)
	assert.Contains(t, err.Error(), "5 sounds are left over")
	assert.Equal(t, year.Date("2027-01-15"), days[len(days)-1].Date, "and the days that there are come with it")
}

func TestOtherSpeedsAndDaysThatAlwaysRevise(t *testing.T) {
	s := school(t)
	s.Speeds = []year.Speed{{"slow", 2}}
	assert.Equal(t, 4, s.SoundsPerWeek(year.Pace{}))
	assert.Equal(t, 2, s.SoundsPerWeek(year.Pace{Speed: "slow"}))
	assert.Equal(t, 3, s.SoundsPerWeek(year.Pace{Speed: "slow", PerWeek: 3}))
	require.Error(t, year.Pace{Speed: "none"}.Check(s))
	require.Error(t, year.Pace{PerWeek: 16}.Check(s))
	require.Error(t, year.Pace{Start: "soon"}.Check(s))
	require.NoError(t, year.Pace{Start: "2026-09-14", Speed: "slow"}.Check(s))
	p := year.Pace{Start: "2026-09-14", Speed: "slow"}
	assert.True(t, strings.HasPrefix(laid(t, s, p, "t a m", "2026-09-01"), "09-14 i t\n09-15 i a\n09-17 r t a"))
	s.Revising = []time.Weekday{time.Monday}
	assert.True(t, strings.HasPrefix(laid(t, s, year.Pace{Start: "2026-09-14"}, "t a m s", "2026-09-01"),
		"09-14 r\n09-15 i t\n09-17 i a\n09-18 i m"), laid(t, s, year.Pace{Start: "2026-09-14"}, "t a m s", "2026-09-01"))
	p = year.Pace{Start: "2026-09-14", Teaching: []time.Weekday{time.Tuesday, time.Thursday}}
	assert.True(t, strings.HasPrefix(laid(t, s, p, "t a m", "2026-09-01"), "09-15 i t a\n09-17 i m"),
		laid(t, s, p, "t a m", "2026-09-01"))
}

func TestADayIsLostOnceAndOnlyWhereThereIsALesson(t *testing.T) {
	s := school(t)
	p, err := year.Pace{}.Lose(s, year.Lost{Date: "2026-09-15"})
	require.NoError(t, err)
	assert.Equal(t, year.ShiftAll, p.Lost[0].Rule, "the team's rule")
	for date, want := range map[year.Date]string{
		"2026-09-15": "is lost already", "2026-09-16": "boat day", "2026-09-19": "no day of lessons",
		"2026-10-01": "outside the terms", "soon": "is no date",
	} {
		after, err := p.Lose(s, year.Lost{Date: date})
		require.Error(t, err, date)
		assert.Contains(t, err.Error(), want)
		assert.Equal(t, p.Lost, after.Lost, "nothing half kept")
	}
	_, err = p.Lose(s, year.Lost{Date: "2026-09-14", Rule: "pray"})
	require.ErrorIs(t, err, year.ErrRule)
	back, err := p.Find("2026-09-15")
	require.NoError(t, err)
	assert.Empty(t, back.Lost)
	_, err = back.Find("2026-09-15")
	assert.ErrorContains(t, err, "is not lost")
}

// Each lost day goes by its own rule: the first doubles up, the second drops the revision day.
func TestEachLostDayHasItsRule(t *testing.T) {
	s := school(t)
	s.Assess = nil
	p := year.Pace{
		Lost: []year.Lost{{Date: "2026-09-09", Rule: year.DoubleUp}, {Date: "2026-09-14", Rule: year.DropRevision}},
	}
	assert.Equal(t, `09-10 i t a <09-09
09-11 r t a
09-15 i m <09-14
09-17 i s <09-15
09-18 i i <09-17
09-21 i n`, strings.Join(strings.Split(laid(t, s, p, "t a m s i n", "2026-09-01"), "\n")[:6], "\n"))
}

// What was taught this week stands on its day, whatever was planned; a day of which nothing was logged is as if lost.
func TestTheRestOfAWeekFollowsWhatWasTaught(t *testing.T) {
	s := school(t)
	a := s.Ask(year.Pace{}, pairs(t, "m s i n p o"), "2026-09-14")
	taught := pairs(t, "t a")
	a.Taught = map[year.Date][]spelling.Pair{"2026-09-14": taught}
	a.Lost["2026-09-15"] = year.ShiftAll
	days, err := year.Plan(a)
	require.NoError(t, err)
	assert.Equal(t, taught, days[0].Pairs)
	assert.Equal(t, year.Date("2026-09-17"), days[1].Date)
	assert.Equal(t, "m", days[1].Pairs[0].Grapheme)
	assert.Equal(t, lesson.Revise, days[2].Purpose)
	assert.Equal(t, "t a m", graphemes(days[2].Pairs), "the week's revision holds what was taught")
}

func TestTermsToBeginWith(t *testing.T) {
	for on, first := range map[year.Date]year.Date{
		"2026-11-26": "2026-09-07", "2027-02-01": "2026-09-07", "2027-07-16": "2026-09-07", "2027-08-01": "2027-09-06",
	} {
		list := year.Suggested(on)
		require.Len(t, list, 3)
		assert.Equal(t, first, list[0].First, on)
		s := year.Usual()
		s.Terms = list
		_, err := s.Tidy()
		assert.NoError(t, err, on)
	}
}
