package year

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/document"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/spelling"
)

// Term is a span of days in which a school teaches, both ends among them.
type Term struct {
	Name  string `json:"name" maxLength:"40"`
	First Date   `json:"first" maxLength:"10" doc:"2026-09-07"`
	Last  Date   `json:"last" maxLength:"10" doc:"2026-12-18"`
}

// DayOff is a day without lessons.
type DayOff struct {
	Date Date   `json:"date" maxLength:"10"`
	Name string `json:"name" maxLength:"80"`
}

// Speed is how many new sounds a week a year group gets.
type Speed struct {
	Name    string `json:"name" maxLength:"40" doc:"of the year group"`
	PerWeek int    `json:"per_week" minimum:"1" maximum:"15"`
}

// School is a school year as a team plans it. Weekdays count from 0, Sunday.
type School struct {
	Terms    []Term         `json:"terms" maxItems:"12"`
	Off      []DayOff       `json:"off" maxItems:"400"`
	Assess   []Date         `json:"assess" maxItems:"60" doc:"a day of each week in which nothing new comes"`
	Teaching []time.Weekday `json:"teaching" maxItems:"7" doc:"weekdays with a lesson, 0 is Sunday"`
	Revising []time.Weekday `json:"revising" maxItems:"7" doc:"weekdays that always revise"`
	PerWeek  int            `json:"per_week" minimum:"1" maximum:"15" doc:"new sounds a week"`
	Speeds   []Speed        `json:"speeds" maxItems:"20" doc:"of year groups that differ"`
	Rule     Rule           `json:"rule" enum:"shift,drop-revision,double-up" doc:"what a lost day does"`
}

// Lost is a day of a class on which its lesson could not be.
type Lost struct {
	Date Date   `json:"date" maxLength:"10"`
	Rule Rule   `json:"rule" enum:"shift,drop-revision,double-up"`
	Why  string `json:"why" maxLength:"80" doc:"such as snow; never about a child"`
}

// Pace is how one class goes through the year where it differs from the school.
type Pace struct {
	Start    Date           `json:"start" maxLength:"10" doc:"its first lesson; empty: the first day of the first term"`
	Speed    string         `json:"speed" maxLength:"40" doc:"its year group; empty: none"`
	PerWeek  int            `json:"per_week" minimum:"0" maximum:"15" doc:"0: as its year group, or the school"`
	Teaching []time.Weekday `json:"teaching" maxItems:"7" doc:"none: as the school"`
	Lost     []Lost         `json:"lost" maxItems:"200"`
}

// Stored years.
var (
	SchoolDocuments = document.Kind[School]{Name: "school year"}
	PaceDocuments   = document.Kind[Pace]{Name: "pace of a class"}
)

// What is wrong with a school year.
const (
	ErrTerm fault.Code = "term"
	ErrOff  fault.Code = "day-off"
	ErrLost fault.Code = "lost"
)

const longestTerm = 200 // days; no term of a school is longer

// Usual is a school year to begin with: four sounds a week from Monday to Friday, and no terms.
func Usual() School {
	return School{
		Terms: []Term{}, Off: []DayOff{}, Assess: []Date{}, Teaching: []time.Weekday{1, 2, 3, 4, 5},
		Revising: []time.Weekday{}, PerWeek: 4, Speeds: []Speed{}, Rule: ShiftAll,
	}
}

// newYear is the day of a year from which the next school year is thought of: the middle of July is over.
const newYear = 203

// Suggested are three terms around a day, to be put right by the school (common practice, no published source).
func Suggested(on Date) []Term {
	y := on.Time().Year()
	if on.Time().YearDay() < newYear {
		y--
	}
	monday := func(month time.Month, day, year int) Date {
		d := On(time.Date(year, month, day, 12, 0, 0, 0, time.UTC))
		return d.Monday()
	}
	return []Term{
		{"Autumn term", monday(time.September, 8, y), monday(time.December, 14, y).Add(4)},
		{"Spring term", monday(time.January, 7, y+1), monday(time.March, 26, y+1).Add(4)},
		{"Summer term", monday(time.April, 14, y+1), monday(time.July, 15, y+1).Add(4)},
	}
}

// Monday is the first day of its week.
func (d Date) Monday() Date { return d.Add(-((int(d.Time().Weekday()) + 6) % 7)) }

// Tidy puts a school year in order and says what is wrong with it: terms by their days and without overlap, dates that
// are dates, every list sorted and without a thing twice.
func (s School) Tidy() (School, error) {
	if s.PerWeek < 1 || s.PerWeek > maxPerWeek {
		return s, fault.At("per_week", fault.New(ErrWeek, "A week takes 1 to %d new sounds, not %d.", maxPerWeek, s.PerWeek))
	}
	if len(s.Teaching) == 0 {
		return s, fault.At("teaching", fault.New(ErrWeek, "A week has at least one day with a lesson."))
	}
	if !slices.Contains(Rules(), s.Rule) {
		return s, fault.At("rule", fault.New(ErrRule, "Choose what a lost day does."))
	}
	var err error
	if s.Terms, err = tidyTerms(s.Terms); err != nil {
		return s, fault.At("terms", err)
	}
	s.Off = slices.Clone(s.Off)
	for i, o := range s.Off {
		if _, err := ParseDate(string(o.Date)); err != nil {
			return s, fault.At("off", err)
		}
		if s.Off[i].Name = strings.TrimSpace(o.Name); s.Off[i].Name == "" {
			s.Off[i].Name = "no school"
		}
	}
	slices.SortStableFunc(s.Off, func(a, b DayOff) int { return cmp.Compare(a.Date, b.Date) })
	s.Off = slices.CompactFunc(s.Off, func(a, b DayOff) bool { return a.Date == b.Date })
	if s.Assess, err = mondays(s.Assess); err != nil {
		return s, fault.At("assess", err)
	}
	s.Teaching, s.Revising = weekdays(s.Teaching), weekdays(s.Revising)
	s.Speeds = slices.Clone(s.Speeds)
	for i, k := range s.Speeds {
		k.Name = strings.TrimSpace(k.Name)
		twice := slices.ContainsFunc(s.Speeds[:i], func(o Speed) bool { return o.Name == k.Name })
		switch {
		case k.Name == "":
			return s, fault.At("speeds", fault.New(ErrWeek, "A year group needs a name."))
		case twice:
			return s, fault.At("speeds", fault.New(ErrWeek, "The year group “%s” stands there twice.", k.Name))
		case k.PerWeek < 1 || k.PerWeek > maxPerWeek:
			return s, fault.At("speeds", fault.New(ErrWeek, "A week takes 1 to %d new sounds, not %d.", maxPerWeek, k.PerWeek))
		}
		s.Speeds[i] = k
	}
	return s, nil
}

func tidyTerms(list []Term) ([]Term, error) {
	list = slices.Clone(list)
	for i, t := range list {
		if t.Name = strings.TrimSpace(t.Name); t.Name == "" {
			return nil, fault.New(ErrTerm, "A term needs a name.")
		}
		for _, d := range []Date{t.First, t.Last} {
			if _, err := ParseDate(string(d)); err != nil {
				return nil, fault.New(ErrTerm, "%s: “%s” is no date; write it as 2026-11-26.", t.Name, d)
			}
		}
		if t.Last < t.First {
			return nil, fault.New(ErrTerm, "%s ends on %s, before it begins on %s.", t.Name, t.Last.Said(), t.First.Said())
		}
		if t.First.Add(longestTerm) < t.Last {
			return nil, fault.New(ErrTerm, "%s is longer than %d days.", t.Name, longestTerm)
		}
		list[i] = t
	}
	slices.SortFunc(list, func(a, b Term) int { return cmp.Compare(a.First, b.First) })
	for i := 1; i < len(list); i++ {
		if a, b := list[i-1], list[i]; b.First <= a.Last {
			return nil, fault.New(ErrTerm, "%s begins on %s, while %s lasts until %s.", b.Name, b.First.Said(), a.Name,
				a.Last.Said())
		}
	}
	return list, nil
}

// Said is a date in words: Thursday 26 November 2026.
func (d Date) Said() string { return d.Time().Format("Monday 2 January 2006") }

func mondays(list []Date) ([]Date, error) {
	out := []Date{}
	for _, d := range list {
		if _, err := ParseDate(string(d)); err != nil {
			return nil, err
		}
		out = append(out, d.Monday())
	}
	slices.Sort(out)
	return slices.Compact(out), nil
}

func weekdays(list []time.Weekday) []time.Weekday {
	out := slices.DeleteFunc(slices.Clone(list), func(d time.Weekday) bool { return d < 0 || d > 6 })
	slices.Sort(out)
	return append([]time.Weekday{}, slices.Compact(out)...)
}

// Check says what is wrong with a pace in a school year.
func (p Pace) Check(s School) error {
	if p.Start != "" {
		if _, err := ParseDate(string(p.Start)); err != nil {
			return fault.At("start", err)
		}
	}
	if p.PerWeek < 0 || p.PerWeek > maxPerWeek {
		return fault.At("per_week", fault.New(ErrWeek, "A week takes 1 to %d new sounds, not %d.", maxPerWeek, p.PerWeek))
	}
	if known := slices.ContainsFunc(s.Speeds, func(k Speed) bool { return k.Name == p.Speed }); p.Speed != "" && !known {
		return fault.At("speed", fault.New(ErrWeek, "The school year has no year group “%s”.", p.Speed))
	}
	return nil
}

// Lose adds a day on which the lesson could not be. It fails where there is no lesson on that day, or where it is lost
// already.
func (p Pace) Lose(s School, l Lost) (Pace, error) {
	if _, err := ParseDate(string(l.Date)); err != nil {
		return p, fault.At("date", err)
	}
	if l.Rule == "" {
		l.Rule = s.Rule
	}
	if !slices.Contains(Rules(), l.Rule) {
		return p, fault.At("rule", fault.New(ErrRule, "Choose what a lost day does."))
	}
	if slices.ContainsFunc(p.Lost, func(o Lost) bool { return o.Date == l.Date }) {
		return p, fault.At("date", fault.New(ErrLost, "%s is lost already; nothing changed.", l.Date.Said()))
	}
	if why := s.without(p, l.Date); why != "" {
		return p, fault.At("date", fault.New(ErrLost, "%s has no lesson to lose: %s.", l.Date.Said(), why))
	}
	p.Lost = append(slices.Clone(p.Lost), l)
	slices.SortFunc(p.Lost, func(a, b Lost) int { return cmp.Compare(a.Date, b.Date) })
	return p, nil
}

// Find takes a lost day back. It fails where the day is not lost.
func (p Pace) Find(d Date) (Pace, error) {
	n := len(p.Lost)
	p.Lost = slices.DeleteFunc(slices.Clone(p.Lost), func(o Lost) bool { return o.Date == d })
	if len(p.Lost) == n {
		return p, fault.At("date", fault.New(ErrLost, "%s is not lost.", d.Said()))
	}
	return p, nil
}

// without says why a day has no lesson; empty where it has one.
func (s School) without(p Pace, d Date) string {
	if i := slices.IndexFunc(s.Off, func(o DayOff) bool { return o.Date == d }); i >= 0 {
		return s.Off[i].Name
	}
	if !slices.Contains(p.weekdays(s), d.Time().Weekday()) {
		return "it is no day of lessons"
	}
	if _, _, in := s.Week(d); !in && len(s.Terms) > 0 {
		return "it is outside the terms"
	}
	return ""
}

// Teaches tells whether a class has a lesson on a day, if it is not lost.
func (s School) Teaches(p Pace, d Date) bool { return s.without(p, d) == "" }

func (p Pace) weekdays(s School) []time.Weekday {
	if len(p.Teaching) > 0 {
		return p.Teaching
	}
	return s.Teaching
}

// SoundsPerWeek returns how many new sounds a week a class gets.
func (s School) SoundsPerWeek(p Pace) int {
	if p.PerWeek > 0 {
		return p.PerWeek
	}
	for _, k := range s.Speeds {
		if k.Name == p.Speed {
			return k.PerWeek
		}
	}
	return s.PerWeek
}

// Week is the term of a day and the number of the day's week in it, from 1.
func (s School) Week(d Date) (Term, int, bool) {
	for _, t := range s.Terms {
		if t.First <= d && d <= t.Last {
			days := d.Monday().Time().Sub(t.First.Monday().Time())
			return t, int(days.Hours()+12)/24/7 + 1, true
		}
	}
	return Term{}, 0, false
}

// First is the day on which a class begins.
func (s School) First(p Pace, otherwise Date) Date {
	switch {
	case p.Start != "":
		return p.Start
	case len(s.Terms) > 0:
		return s.Terms[0].First
	}
	return otherwise
}

// Ask is what the rest of a class's year is laid out from: from a day on, what it has not been taught.
func (s School) Ask(p Pace, pairs []spelling.Pair, from Date) Ask {
	a := Ask{
		Pairs: pairs, Start: max(from, s.First(p, from)), PerWeek: s.SoundsPerWeek(p), Rule: s.Rule, Terms: s.Terms,
		Teaching: map[time.Weekday]bool{}, Revising: map[time.Weekday]bool{}, Off: map[Date]bool{}, Lost: map[Date]Rule{},
		NoNew: map[Date]bool{},
	}
	for _, d := range p.weekdays(s) {
		a.Teaching[d] = true
	}
	for _, d := range s.Revising {
		a.Revising[d] = true
	}
	for _, o := range s.Off {
		a.Off[o.Date] = true
	}
	for _, l := range p.Lost {
		a.Lost[l.Date] = l.Rule
	}
	for _, monday := range s.Assess {
		for i := range 7 {
			a.NoNew[monday.Add(i)] = true
		}
	}
	return a
}
