package planning

import (
	"context"
	"crypto/rand"
	"io"
	"maps"
	"slices"
	"sort"
	"strconv"
	"strings"
	"time"

	"brightchalk/internal/calendar"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/table"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/year"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// ForecastWeek is what a class can read at the end of a week.
type ForecastWeek struct {
	Monday year.Date `json:"monday"`
	order.Gain
	Texts []string `json:"texts" doc:"ids of texts of the bank that it can read from then on"`
}

// Forecast is what a class will read by which week, if all goes as said.
type Forecast struct {
	Name    string         `json:"name" enum:"as planned,a week lost,other speed"`
	PerWeek int            `json:"per_week"`
	Lost    []year.Date    `json:"lost"`
	Ends    year.Date      `json:"ends"`
	Left    int            `json:"left" doc:"cards for which there is no room"`
	Now     order.Gain     `json:"now" doc:"what it can read today"`
	Weeks   []ForecastWeek `json:"weeks"`
}

// Forecasts lay side by side what a class will read as planned, if the week of a day is lost, and at another speed.
func (y Years) Forecasts(
	ctx context.Context,
	by tx.Actor,
	classID string,
	lost year.Date,
	perWeek int,
) ([]Forecast, error) {
	var bank []store.BankText
	k, err := tx.Read(ctx, y.Env, by, func(s store.Library) (schedule, error) {
		var err error
		if bank, err = s.Bank(ctx); err != nil {
			return schedule{}, err
		}
		return y.schedule(ctx, s, classID)
	})
	if err != nil {
		return nil, err
	}
	if lost == "" {
		lost = k.today.Monday().Add(7)
	} else if _, err := year.ParseDate(string(lost)); err != nil {
		return nil, fault.In("lose_week", "%s.", err.Error())
	}
	week := WhatIf{Rule: year.ShiftAll}
	for i := range 7 {
		d := lost.Monday().Add(i)
		if _, err := k.pace.Lose(k.school.School, year.Lost{Date: d, Rule: year.ShiftAll}); err == nil && d >= k.today {
			week.Lose = append(week.Lose, d)
		}
	}
	out := []Forecast{}
	for i, q := range []WhatIf{{}, week, {PerWeek: perWeek}} {
		f, err := k.forecast(q, bank)
		if err != nil {
			return nil, err
		}
		f.Name = []string{"as planned", "a week lost", "other speed"}[i]
		out = append(out, f)
	}
	return out, nil
}

func (k schedule) forecast(q WhatIf, bank []store.BankText) (Forecast, error) {
	l, err := k.lay(q)
	if err != nil {
		return Forecast{}, err
	}
	f := Forecast{
		PerWeek: q.PerWeek, Lost: append([]year.Date{}, q.Lose...), Ends: l.ends, Left: len(l.left), Weeks: []ForecastWeek{},
	}
	if f.PerWeek == 0 {
		f.PerWeek = k.school.School.SoundsPerWeek(k.pace)
	}
	class := k.known
	sets := []spelling.Set{class.Pairs}
	known := []map[string]bool{class.Exceptions}
	for i := 0; i < len(l.days); {
		monday := l.days[i].Date.Monday()
		for ; i < len(l.days) && l.days[i].Date.Monday() == monday; i++ {
			if l.days[i].Purpose != lesson.Introduce {
				continue
			}
			for _, id := range l.ids(l.days[i].Pairs) {
				at := slices.IndexFunc(k.order, func(c card.Card) bool { return c.ID == id })
				class = class.With(k.conv, k.order[at])
			}
		}
		f.Weeks = append(f.Weeks, ForecastWeek{Monday: monday, Texts: []string{}})
		sets, known = append(sets, maps.Clone(class.Pairs)), append(known, class.Exceptions)
	}
	gains := order.Growth(sets, k.conv.Speech())
	f.Now = gains[0]
	for i := range f.Weeks {
		f.Weeks[i].Gain = gains[i+1]
	}
	for _, t := range bank {
		reads := func(i int) bool {
			return texts.Check(t.Body, sets[i], known[i], k.conv.Speech()).Decodable >= 1
		}
		if at := sort.Search(len(sets), reads); at > 0 && at < len(sets) {
			f.Weeks[at-1].Texts = append(f.Weeks[at-1].Texts, t.TextID)
		}
	}
	return f, nil
}

// DaysOffView are days off as a file tells them, before they are kept.
type DaysOffView struct {
	Days    []year.DayOff `json:"days"`
	Skipped int           `json:"skipped" doc:"events that fill no whole day, such as an appointment"`
	Outside int           `json:"outside" doc:"days outside the terms"`
}

// daysAhead is how far a calendar is read where there are no terms, in days.
const daysAhead = 400

// ReadDaysOff reads days off from a calendar (ICS) or a table with a date and a name (CSV), within the terms where
// there are some; nothing is kept.
func (y Years) ReadDaysOff(ctx context.Context, by tx.Actor, file io.Reader) (DaysOffView, error) {
	if err := by.Need(tx.MayAgree); err != nil {
		return DaysOffView{}, err
	}
	school, err := y.SchoolYear(ctx, by)
	if err != nil {
		return DaysOffView{}, err
	}
	from, to := y.today().Add(-daysAhead), y.today().Add(daysAhead)
	if terms := school.School.Terms; len(terms) > 0 {
		from, to = terms[0].First, terms[len(terms)-1].Last
	}
	off, err := calendar.Read(file, from, to)
	if err != nil {
		return DaysOffView{}, err
	}
	out := DaysOffView{Days: []year.DayOff{}, Skipped: off.Skipped}
	for d, name := range off.Days {
		if _, _, in := school.School.Week(d); !in && len(school.School.Terms) > 0 {
			out.Outside++
			continue
		}
		out.Days = append(out.Days, year.DayOff{Date: d, Name: name})
	}
	slices.SortFunc(out.Days, func(a, b year.DayOff) int { return strings.Compare(string(a.Date), string(b.Date)) })
	return out, nil
}

// NewFeed gives the calendar of a class a new secret address, which ends a former one, and returns the secret.
func (y Years) NewFeed(ctx context.Context, by tx.Actor, classID string) (string, error) {
	secret := rand.Text()
	return tx.Write(ctx, y.Env, by, tx.MayEdit, func(s store.Library) (string, error) {
		if _, err := s.Class(ctx, classID); err != nil {
			return "", err
		}
		return secret, s.PutFeed(ctx, classID, secret, by.MemberID, y.Env.Now())
	})
}

// EndFeed ends the subscriptions to the calendar of a class.
func (y Years) EndFeed(ctx context.Context, by tx.Actor, classID string) error {
	return tx.Exec(ctx, y.Env, by, tx.MayEdit, func(s store.Library) error { return s.DropFeed(ctx, classID) })
}

// Feed writes the plan of the class whose secret is given as a calendar. It fails with store.ErrNotFound where the
// secret is wrong, or was renewed.
func (y Years) Feed(ctx context.Context, secret string, w io.Writer) error {
	f, err := store.FeedBySecret(ctx, y.Env.AllTeams(), secret)
	if err != nil {
		return store.Classify(err)
	}
	return y.calendar(ctx, tx.Actor{TeamID: f.TeamID}, f.ClassID, w)
}

func (y Years) calendar(ctx context.Context, by tx.Actor, classID string, w io.Writer) error {
	k, events, err := y.events(ctx, by, classID)
	if err != nil {
		return err
	}
	return calendar.Write(w, k.class.Name+": new sounds", "plan-"+classID, events, y.Env.Now())
}

// events are the days of a class from its first on, with what is taught.
func (y Years) events(ctx context.Context, by tx.Actor, classID string) (schedule, []calendar.Event, error) {
	k, err := tx.Read(ctx, y.Env, by, func(s store.Library) (schedule, error) { return y.schedule(ctx, s, classID) })
	if err != nil {
		return k, nil, err
	}
	v, err := k.year(WhatIf{})
	if err != nil {
		return k, nil, err
	}
	var out []calendar.Event
	for _, w := range v.Weeks {
		for _, d := range w.Days {
			if d.Kind != TaughtDay && d.Kind != LessonDay {
				continue
			}
			e := calendar.Event{Date: d.Date, Purpose: d.Purpose, Term: w.Term, Week: w.Number, MovedFrom: d.MovedFrom}
			for _, id := range d.Cards {
				if i := slices.IndexFunc(k.order, func(c card.Card) bool { return c.ID == id }); i >= 0 {
					e.Pairs = append(e.Pairs, k.order[i].Pair)
				}
			}
			out = append(out, e)
		}
	}
	return k, out, nil
}

// Events lists the days of a class from its first on, with what is taught.
func (y Years) Events(ctx context.Context, by tx.Actor, classID string) ([]calendar.Event, error) {
	_, list, err := y.events(ctx, by, classID)
	return list, err
}

// Table writes the plan of a class as CSV: a line for each day with a lesson.
func (y Years) Table(ctx context.Context, by tx.Actor, classID string, w io.Writer) error {
	_, events, err := y.events(ctx, by, classID)
	if err != nil {
		return err
	}
	rows := [][]string{{"date", "term", "week", "purpose", "pairs", "moved_from"}}
	for _, e := range events {
		week := ""
		if e.Week > 0 {
			week = strconv.Itoa(e.Week)
		}
		var names []string
		for _, p := range e.Pairs {
			names = append(names, p.String())
		}
		rows = append(rows, []string{
			string(e.Date), e.Term, week, string(e.Purpose), strings.Join(names, " "), string(e.MovedFrom),
		})
	}
	return sheet.WriteCSV(w, table.Sheet{Rows: rows})
}

// plannedPlace is where a lesson stands in the year of a class: the day on which its first target is planned, or today.
func (k schedule) plannedPlace(purpose lesson.Purpose, targets []string) *lesson.Planned {
	day := k.today
	if purpose == lesson.Introduce && len(targets) > 0 {
		if l, err := k.lay(WhatIf{}); err == nil {
			for _, d := range slices.Backward(l.days) {
				if d.Purpose == lesson.Introduce && d.Date >= day && slices.Contains(l.ids(d.Pairs), targets[0]) {
					day = d.Date
				}
			}
		}
	}
	out := &lesson.Planned{Date: string(day)}
	if t, n, in := k.school.School.Week(day); in {
		out.Term, out.Week = t.Name, n
	}
	return out
}

// PlannedLesson tells where lessons stand in the year of a class.
type PlannedLesson struct{ schedule schedule }

// ReadPlan reads the plan of a class as of now; store.ErrNotFound where there is no such class.
func ReadPlan(ctx context.Context, s store.Library, classID string, now time.Time) (PlannedLesson, error) {
	k := schedule{today: year.On(now)}
	var err error
	if k.class, err = s.Class(ctx, classID); err != nil {
		return PlannedLesson{}, err
	}
	err = k.read(ctx, s, now.Location())
	return PlannedLesson{k}, err
}

// For is the day on which a lesson's first target is planned, or today.
func (p PlannedLesson) For(purpose lesson.Purpose, targets []string) *lesson.Planned {
	return p.schedule.plannedPlace(purpose, targets)
}
