// Package year lays an order of teaching out over the days of a school year: what is new on which day, when a week
// revises, and what moves when a day is lost.
package year

import (
	"cmp"
	"errors"
	"slices"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
)

// Date is a day of a calendar, without a time or a zone.
type Date string

// On is the day of a time, where that time is.
func On(t time.Time) Date { return Date(t.Format(time.DateOnly)) }

// ParseDate reads 2026-11-26.
func ParseDate(text string) (Date, error) {
	t, err := time.Parse(time.DateOnly, text)
	if err != nil {
		return "", fault.New(ErrDate, "“%s” is no date; write it as 2026-11-26", text)
	}
	return On(t), nil
}

// Time is noon of the day, so that no change of the clock moves it to another.
func (d Date) Time() time.Time {
	t, _ := time.Parse(time.DateOnly, string(d))
	return t.Add(12 * time.Hour)
}

// Add goes so many days on.
func (d Date) Add(days int) Date { return On(d.Time().AddDate(0, 0, days)) }

// Rule is what a lost day does to the rest.
type Rule string

// Rules.
const (
	ShiftAll     Rule = "shift"         // everything after it comes one lesson later
	DropRevision Rule = "drop-revision" // the week's revision gives way, and the weeks after it stay
	DoubleUp     Rule = "double-up"     // the next lesson takes two
)

// Rules lists them, the usual first.
func Rules() []Rule { return []Rule{ShiftAll, DropRevision, DoubleUp} }

// What is wrong with an ask.
const (
	ErrDate  fault.Code = "date"
	ErrWeek  fault.Code = "week"
	ErrRule  fault.Code = "rule"
	ErrRoom  fault.Code = "no-room"
	ErrPairs fault.Code = "pair-twice"
)

// Ask is what a year is laid out from. Teaching are the weekdays with lessons, Monday to Friday where it is nil; those
// that are Revising too take nothing new. Without Terms every week is taught. A lost day without a rule of its own goes
// by Rule.
type Ask struct {
	Pairs    []spelling.Pair
	Start    Date
	PerWeek  int // new sounds
	Teaching map[time.Weekday]bool
	Revising map[time.Weekday]bool
	Terms    []Term
	Off      map[Date]bool
	NoNew    map[Date]bool // lessons that only revise
	Lost     map[Date]Rule
	Rule     Rule
	Taught   map[Date][]spelling.Pair // what was new on days that are over; none of it is among Pairs
}

// Day is a day with a lesson. MovedFrom is the day on which its first sound would have come if no day were lost.
type Day struct {
	Date      Date
	Purpose   lesson.Purpose
	Pairs     []spelling.Pair
	MovedFrom Date
}

const (
	maxPerWeek = 15
	maxWeeks   = 160 // a year in which nothing can be taught ends somewhere
	lookAhead  = 6   // pairs among which another is sought in place of a look-alike
)

// Plan lays the pairs out in their order: so many new ones a week, what is left of the week revises them. No two that
// are mixed up come on one day, nor on two lessons one after the other. Where there is no room for all, it returns the
// days that there are with ErrRoom.
func Plan(a Ask) ([]Day, error) {
	if err := check(&a); err != nil {
		return nil, err
	}
	lost := a.Lost
	a.Lost = nil
	before, err := lay(a)
	if len(lost) == 0 || err != nil && !errors.Is(err, ErrRoom) {
		return before, err
	}
	was := map[spelling.Pair]Date{}
	for _, d := range before {
		for _, p := range d.Pairs {
			if d.Purpose == lesson.Introduce {
				was[p] = d.Date
			}
		}
	}
	a.Lost = lost
	out, err := lay(a)
	for i, d := range out {
		if d.Purpose == lesson.Introduce && was[d.Pairs[0]] != d.Date {
			out[i].MovedFrom = was[d.Pairs[0]]
		}
	}
	return out, err
}

func check(a *Ask) error {
	if _, err := ParseDate(string(a.Start)); err != nil {
		return err
	}
	if a.PerWeek < 1 || a.PerWeek > maxPerWeek {
		return fault.New(ErrWeek, "a week takes 1 to %d new sounds, not %d", maxPerWeek, a.PerWeek)
	}
	if a.Rule == "" {
		a.Rule = ShiftAll
	}
	if !slices.Contains(Rules(), a.Rule) {
		return fault.New(ErrRule, "unknown rule “%s”: choose shift, drop-revision or double-up", a.Rule)
	}
	if a.Teaching == nil {
		a.Teaching = map[time.Weekday]bool{1: true, 2: true, 3: true, 4: true, 5: true}
	}
	if !slices.ContainsFunc([]time.Weekday{0, 1, 2, 3, 4, 5, 6}, func(d time.Weekday) bool { return a.Teaching[d] }) {
		return fault.New(ErrWeek, "a week has at least one day with a lesson")
	}
	for i, p := range a.Pairs {
		if slices.Contains(a.Pairs[:i], p) {
			return fault.New(ErrPairs, "%s stands twice in the order", p)
		}
	}
	return nil
}

// slot is a day of a week with how many new sounds it takes; none: it revises. No lost day may bring a spare one
// something new.
type slot struct {
	date  Date
	new   int
	lost  bool
	spare bool // an assessment
}

// week is the lessons of the week that begins on a Monday.
func (a Ask) week(monday Date) []slot {
	var out []slot
	for i := range 7 {
		d := monday.Add(i)
		if a.Teaching[d.Time().Weekday()] && d >= a.Start && !a.Off[d] && a.inTerm(d) {
			_, lost := a.Lost[d]
			out = append(out, slot{date: d, lost: lost, spare: a.NoNew[d]})
		}
	}
	usual := 0 // lessons of a full week that may bring something new
	for day, teaches := range a.Teaching {
		if teaches && !a.Revising[day] {
			usual++
		}
	}
	var free []int // places in the week that may bring something new
	for i, s := range out {
		if !s.spare && !a.Revising[s.date.Time().Weekday()] {
			free = append(free, i)
		}
	}
	if a.PerWeek < usual && len(free) == len(out) && len(free) > 1 {
		free = free[:len(free)-1] // a week that revises keeps a day for it, also a short one
	}
	left := min(a.PerWeek, len(free)*((a.PerWeek+usual-1)/max(1, usual)))
	for k, i := range free {
		if left > 0 {
			out[i].new = (left + len(free) - k - 1) / (len(free) - k)
			if a.PerWeek <= usual {
				out[i].new = 1
			}
			left -= out[i].new
		}
	}
	return a.repaired(out)
}

func (a Ask) inTerm(d Date) bool {
	return len(a.Terms) == 0 || slices.ContainsFunc(a.Terms, func(t Term) bool { return t.First <= d && d <= t.Last })
}

// over tells whether nothing can come in the week of a Monday or after it.
func (a Ask) over(monday Date) bool {
	return len(a.Terms) > 0 && !slices.ContainsFunc(a.Terms, func(t Term) bool { return t.Last >= monday })
}

// repaired takes the lost days out of a week as the rule says.
func (a Ask) repaired(week []slot) []slot {
	for i := range week {
		rule := cmp.Or(a.Lost[week[i].date], a.Rule)
		if !week[i].lost || week[i].new == 0 || rule == ShiftAll {
			continue
		}
		for k := i + 1; k < len(week); k++ {
			if week[k].lost || week[k].spare {
				continue
			}
			if rule == DropRevision && week[k].new == 0 {
				week[k].new = week[i].new
				break
			}
			if rule == DoubleUp && week[k].new > 0 {
				week[k].new += week[i].new
				break
			}
		}
	}
	return slices.DeleteFunc(week, func(s slot) bool { return s.lost })
}

func lay(a Ask) ([]Day, error) {
	waiting := slices.Clone(a.Pairs)
	out := []Day{}
	var last []spelling.Pair // of the lesson before
	monday := a.Start.Monday()
	for range maxWeeks {
		if len(waiting) == 0 {
			return out, nil
		}
		if a.over(monday) {
			break
		}
		var fresh []spelling.Pair // of this week
		for _, s := range a.week(monday) {
			taken := slices.Clone(a.Taught[s.date])
			if len(taken) > 0 {
				s.new = 0
			}
			for range s.new {
				i := next(waiting, append(slices.Clone(last), taken...))
				if i < 0 {
					break
				}
				taken = append(taken, waiting[i])
				waiting = slices.Delete(waiting, i, i+1)
			}
			switch {
			case len(taken) > 0:
				out = append(out, Day{Date: s.date, Purpose: lesson.Introduce, Pairs: taken})
				for _, p := range taken {
					if !slices.Contains(fresh, p) {
						fresh = append(fresh, p)
					}
				}
				last = taken
			case len(waiting) > 0 || len(fresh) > 0:
				out = append(out, Day{Date: s.date, Purpose: lesson.Revise, Pairs: slices.Clone(fresh)})
				last = nil
			}
		}
		monday = monday.Add(7)
	}
	return out, fault.New(ErrRoom, "there is no room for all of it: %d sounds are left over", len(waiting))
}

// next is the first of those that wait which is mixed up with none of the others; -1 where none of the next few will
// do.
func next(waiting, others []spelling.Pair) int {
	for i, p := range waiting[:min(lookAhead, len(waiting))] {
		if !slices.ContainsFunc(others, func(q spelling.Pair) bool { return spelling.MixedUp(p.Grapheme, q.Grapheme) }) {
			return i
		}
	}
	return -1
}
