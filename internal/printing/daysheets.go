package printing

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/year"
	"brightchalk/internal/planning"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// maxDayLessons is how many lessons one print of a day or a week holds.
const maxDayLessons = 60

// DaysAsk is what is printed of the lessons of a day or a week.
type DaysAsk struct {
	Class string // "" for all classes
	Date  year.Date
	Week  bool // the whole week of the day
	Paper render.Paper
}

// span is the days that a print is for.
func (a DaysAsk) span() (first, last year.Date, err error) {
	first, err = year.ParseDate(string(a.Date))
	if err != nil {
		return "", "", fault.In("date", "Say for which day: a date such as 2026-12-07.")
	}
	if a.Week {
		return first.Monday(), first.Monday().Add(6), nil
	}
	return first, first, nil
}

// Title says which days and classes are printed, and refuses a day that there is not.
func (a DaysAsk) Title(ctx context.Context, s store.Library) (string, error) {
	first, _, err := a.span()
	if err != nil {
		return "", err
	}
	who := "all classes"
	if a.Class != "" {
		c, err := s.Class(ctx, a.Class)
		if err != nil {
			return "", err
		}
		who = c.Name
	}
	when := first.Time().Format("Monday 2 January")
	if a.Week {
		when = "the week of " + when
	}
	return fmt.Sprintf("Sheets of %s for %s", who, when), nil
}

// Days writes the sheets that are needed for the lessons that were made for a day or a week, of one class or of all,
// sorted by use behind a cover that lists them. Days with a planned lesson that nobody has made yet stand on the
// cover.
func (p Print) Days(ctx context.Context, by tx.Actor, y planning.Years, a DaysAsk, w io.Writer) error {
	first, last, err := a.span()
	if err != nil {
		return err
	}
	var list []store.PlannedLesson
	var classes []store.Class
	out := render.Days{Paper: a.Paper}
	_, err = tx.Read(ctx, p.Env, by, func(s store.Library) (struct{}, error) {
		team, err := s.Team(ctx)
		if err != nil {
			return struct{}{}, err
		}
		out.Team, out.Paper = team.Name, a.Paper.Or(team.Conventions.Paper)
		if classes, err = s.Classes(ctx); err != nil {
			return struct{}{}, err
		}
		list, err = s.PlannedLessons(ctx, a.Class, string(first), string(last), maxDayLessons+1)
		return struct{}{}, err
	})
	if err != nil {
		return err
	}
	if len(list) > maxDayLessons {
		return fault.In("date", "There are more than %d lessons. Print one class, or one day.", maxDayLessons)
	}
	if a.Class != "" {
		classes = slices.DeleteFunc(classes, func(c store.Class) bool { return c.ClassID != a.Class })
	}
	out.Title = strings.TrimPrefix(first.Time().Format("Monday 2 January 2006"), " ")
	if a.Week {
		out.Title = "Week of " + out.Title
	}
	for _, c := range classes {
		if out.Missing, err = unmade(ctx, y, by, c, list, first, last, out.Missing); err != nil {
			return err
		}
	}
	if len(list) == 0 {
		return fault.In("date", "No lesson is made for these days yet. Make one on the page Lessons, then print again.")
	}
	tx.ReportProgress(ctx, 0, len(list))
	for i, l := range list {
		h, _, err := p.handout(ctx, by, SheetAsk{Lesson: l.LessonID})
		if err != nil {
			return err
		}
		day := year.Date(l.Date)
		out.Lessons = append(out.Lessons, render.DayLesson{Day: day.Time().Format("Monday 2 January"), Handout: h})
		tx.ReportProgress(ctx, i+1, len(list))
		if ctx.Err() != nil {
			return ctx.Err()
		}
	}
	return render.PrintDays(w, out)
}

// unmade adds the days of a class that have a planned lesson but no lesson that was made for them.
func unmade(
	ctx context.Context,
	y planning.Years, by tx.Actor, c store.Class, made []store.PlannedLesson, first, last year.Date, out []string,
) ([]string, error) {
	events, err := y.Events(ctx, by, c.ClassID)
	if err != nil {
		return out, err
	}
	for _, e := range events {
		there := slices.ContainsFunc(made, func(l store.PlannedLesson) bool {
			return l.ClassID == c.ClassID && l.Date == string(e.Date)
		})
		if e.Date < first || e.Date > last || there {
			continue
		}
		var names []string
		for _, pair := range e.Pairs {
			names = append(names, pair.Grapheme)
		}
		out = append(out, fmt.Sprintf("%s, %s: %s %s", c.Name, e.Date.Time().Format("Monday 2 January"), e.Purpose,
			strings.Join(names, ", ")))
	}
	return out, nil
}
