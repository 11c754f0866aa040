package planning

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/year"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Years lays out the order over the days of each class.
type Years struct{ Env tx.Env }

// SchoolYear is the team's school year. Suggested terms are offered where there are none.
type SchoolYear struct {
	Revision  int         `json:"revision" minimum:"0" doc:"sent back with a change; 0: none was made"`
	School    year.School `json:"school"`
	Suggested []year.Term `json:"suggested,omitempty" doc:"terms to begin with, where there are none" required:"false" maxItems:"12"`
}

// DayKind is what is on a day of a year.
type DayKind string

// Kinds of days.
const (
	LessonDay DayKind = "lesson"
	TaughtDay DayKind = "taught"
	OffDay    DayKind = "off"
	LostDay   DayKind = "lost"
	EmptyDay  DayKind = "empty"
)

// YearDay is a day of a class.
type YearDay struct {
	Date    year.Date      `json:"date"`
	Kind    DayKind        `json:"kind" enum:"lesson,taught,off,lost,empty"`
	Name    string         `json:"name" doc:"of the day off, or why it is lost"`
	Purpose lesson.Purpose `json:"purpose" enum:"introduce,again,revise,compare,catch-up,"`
	Cards   []string       `json:"cards" doc:"card ids: new, or revised"`
	// MovedFrom is the day on which its first sound would come if no day of this week or later were lost.
	MovedFrom year.Date `json:"moved_from" doc:"empty where it did not move"`
	Silent    bool      `json:"silent" doc:"it is over, and nothing was logged"`
}

// YearWeek is a week of a class.
type YearWeek struct {
	Monday year.Date `json:"monday"`
	Term   string    `json:"term" doc:"empty outside the terms"`
	Number int       `json:"number" doc:"of the week in its term, from 1; 0 outside"`
	Assess bool      `json:"assess" doc:"nothing new comes"`
	Days   []YearDay `json:"days" doc:"Monday to Friday, and other days with a lesson"`
}

// MovedCard is a card that comes on another day than before; empty: not at all.
type MovedCard struct {
	CardID string    `json:"card_id" format:"uuid"`
	From   year.Date `json:"from"`
	To     year.Date `json:"to"`
}

// ClassYear is the year of a class: what was taught, and what is laid out from today on.
type ClassYear struct {
	Class        store.Class `json:"class"`
	Today        year.Date   `json:"today"`
	School       SchoolYear  `json:"school"`
	Pace         year.Pace   `json:"pace"`
	PaceRevision int         `json:"pace_revision"`
	PerWeek      int         `json:"per_week" doc:"new sounds a week that it is laid out by"`
	Weeks        []YearWeek  `json:"weeks"`
	Ends         year.Date   `json:"ends" doc:"the day of its last new sound; empty where nothing new is left"`
	Left         []string    `json:"left" doc:"card ids for which there is no room"`
	Behind       int         `json:"behind" doc:"new sounds fewer than if no day had been lost since its start; below zero: more"`
	Moved        []MovedCard `json:"moved" doc:"what the question changes"`
	FeedMade     *time.Time  `json:"feed_made,omitempty" doc:"when its subscription address was made, where it has one"`
}

// WhatIf is a question about a year: what if these days are lost, by a rule, or a week holds other many sounds.
type WhatIf struct {
	Lose    []year.Date
	Rule    year.Rule // empty: the school's
	PerWeek int       // 0: as planned
}

func readSchoolYear(ctx context.Context, s store.Library, today year.Date) (SchoolYear, error) {
	school, revision, err := gather.School(ctx, s)
	out := SchoolYear{Revision: revision, School: school}
	if len(out.School.Terms) == 0 {
		out.Suggested = year.Suggested(today)
	}
	return out, err
}

func readPace(ctx context.Context, s store.Library, classID string) (year.Pace, int, error) {
	p, revision, err := s.Pace(ctx, classID)
	if p == nil {
		p = &year.Pace{Teaching: []time.Weekday{}, Lost: []year.Lost{}}
	}
	return *p, revision, err
}

// Year is the year of a class, or what it would be.
func (y Years) Year(ctx context.Context, by tx.Actor, classID string, q WhatIf) (ClassYear, error) {
	return tx.Read(ctx, y.Env, by, func(s store.Library) (ClassYear, error) {
		k, err := y.schedule(ctx, s, classID)
		if err != nil {
			return ClassYear{}, err
		}
		out, err := k.year(q)
		if err != nil {
			return out, err
		}
		out.FeedMade, err = s.FeedMade(ctx, classID)
		return out, err
	})
}

func (k schedule) year(q WhatIf) (ClassYear, error) {
	out := ClassYear{
		Class: k.class, Today: k.today, School: k.school, Pace: k.pace, PaceRevision: k.revise, Behind: k.behind(),
		Moved: []MovedCard{}, PerWeek: cmp.Or(q.PerWeek, k.school.School.SoundsPerWeek(k.pace)),
	}
	asked := len(q.Lose) > 0 || q.PerWeek != 0
	l, err := k.lay(q)
	if err != nil {
		return out, err
	}
	if asked {
		now, err := k.lay(WhatIf{})
		if err != nil {
			return out, err
		}
		out.Moved = moved(k.order, now, l)
	}
	out.Weeks, out.Ends, out.Left = k.weeks(l, q), l.ends, l.left
	return out, nil
}

// moved lists the cards whose day differs, in the order of teaching.
func moved(order []card.Card, before, after layout) []MovedCard {
	when := func(l layout) map[string]year.Date {
		out := map[string]year.Date{}
		for _, d := range l.days {
			if d.Purpose == lesson.Introduce {
				for _, id := range l.ids(d.Pairs) {
					out[id] = d.Date
				}
			}
		}
		return out
	}
	was, is := when(before), when(after)
	out := []MovedCard{}
	for _, c := range order {
		if was[c.ID] != is[c.ID] {
			out = append(out, MovedCard{c.ID, was[c.ID], is[c.ID]})
		}
	}
	return out
}

// SchoolYear returns the team's school year.
func (y Years) SchoolYear(ctx context.Context, by tx.Actor) (SchoolYear, error) {
	return tx.Read(ctx, y.Env, by, func(s store.Library) (SchoolYear, error) { return readSchoolYear(ctx, s, y.today()) })
}

// SetSchoolYear replaces the school year; only a lead may. It fails with store.ErrChanged where somebody else changed
// it since it was read.
func (y Years) SetSchoolYear(ctx context.Context, by tx.Actor, in SchoolYear) (SchoolYear, error) {
	return tx.Write(ctx, y.Env, by, tx.MayAgree, func(s store.Library) (SchoolYear, error) {
		school, err := in.School.Tidy()
		if err != nil {
			return SchoolYear{}, err
		}
		if err := s.PutSchoolYear(ctx, in.Revision, school, by.MemberID, y.Env.Now()); err != nil {
			return SchoolYear{}, err
		}
		return readSchoolYear(ctx, s, y.today())
	})
}

// SetPace replaces how a class goes through the year; its lost days stay.
func (y Years) SetPace(ctx context.Context, by tx.Actor, classID string, revision int, p year.Pace) error {
	return tx.Exec(ctx, y.Env, by, tx.MayEdit, func(s store.Library) error {
		if _, err := s.Class(ctx, classID); err != nil {
			return err
		}
		school, err := readSchoolYear(ctx, s, y.today())
		if err != nil {
			return err
		}
		if err := p.Check(school.School); err != nil {
			return err
		}
		now, _, err := readPace(ctx, s, classID)
		if err != nil {
			return err
		}
		p.Lost = now.Lost
		return s.PutPace(ctx, classID, revision, p, by.MemberID, y.Env.Now())
	})
}

// Loss is a day on which a class, or every class, had no lesson; or that it had one, after all.
type Loss struct {
	Date     year.Date `json:"date" maxLength:"10"`
	Rule     year.Rule `json:"rule" enum:"shift,drop-revision,double-up," doc:"empty: the team's"`
	Why      string    `json:"why" maxLength:"80"`
	Everyone bool      `json:"everyone" doc:"all classes and groups that have a lesson on that day"`
	Lost     bool      `json:"lost" doc:"false: it was not lost, after all"`
}

// Lose notes a lost day, or takes that back. Classes without a lesson on that day are passed over where it is for
// everyone.
func (y Years) Lose(ctx context.Context, by tx.Actor, classID string, d Loss) error {
	return tx.Exec(ctx, y.Env, by, tx.MayTeach, func(s store.Library) error {
		school, err := readSchoolYear(ctx, s, y.today())
		if err != nil {
			return err
		}
		if _, err := s.Class(ctx, classID); err != nil {
			return err
		}
		ids := []string{classID}
		if d.Everyone {
			classes, err := s.Classes(ctx)
			if err != nil {
				return err
			}
			for _, c := range classes {
				if c.ClassID != classID {
					ids = append(ids, c.ClassID)
				}
			}
		}
		for _, id := range ids {
			if other := id != classID && !d.Lost; other {
				if same, err := y.lostAlike(ctx, s, id, d); err != nil {
					return err
				} else if !same {
					continue // it had lost the day for itself
				}
			}
			if err := y.lose(ctx, s, school.School, by, id, d); err != nil && id == classID {
				return err
			} else if err != nil && !errors.Is(err, year.ErrLost) {
				return err
			}
		}
		return nil
	})
}

// lostAlike tells whether a class lost a day by the same rule and for the same reason.
func (y Years) lostAlike(ctx context.Context, s store.Library, classID string, d Loss) (bool, error) {
	pace, _, err := readPace(ctx, s, classID)
	return slices.Contains(pace.Lost, year.Lost{Date: d.Date, Rule: d.Rule, Why: d.Why}), err
}

func (y Years) lose(
	ctx context.Context,
	s store.Library,
	school year.School,
	by tx.Actor,
	classID string,
	d Loss,
) error {
	pace, revision, err := readPace(ctx, s, classID)
	if err != nil {
		return err
	}
	if d.Lost {
		pace, err = pace.Lose(school, year.Lost{Date: d.Date, Rule: d.Rule, Why: d.Why})
	} else {
		pace, err = pace.Find(d.Date)
	}
	if err != nil {
		return err
	}
	return s.PutPace(ctx, classID, revision, pace, by.MemberID, y.Env.Now())
}
