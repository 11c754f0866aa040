package planning

import (
	"cmp"
	"context"
	"slices"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/year"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Today is what a member comes to in the morning.
type Today struct{ Env tx.Env }

// NextLesson is what comes next for a class by its plan.
type NextLesson struct {
	Date     year.Date      `json:"date"`
	Purpose  lesson.Purpose `json:"purpose" enum:"introduce,again,revise,compare,catch-up"`
	Cards    []string       `json:"cards" doc:"card ids: what it is about; empty where a revision takes what is due"`
	LessonID string         `json:"lesson_id" doc:"of one that is made for it and was not taught; empty where there is none"`
}

// Unheld is what was left out of the last lesson of a class.
type Unheld struct {
	LessonID string    `json:"lesson_id" format:"uuid"`
	TaughtAt time.Time `json:"taught_at"`
	Steps    []string  `json:"steps" doc:"names of the steps that were skipped or not reached"`
}

// ClassToday is a class in the morning.
type ClassToday struct {
	Class  store.Class        `json:"class"`
	Mine   bool               `json:"mine" doc:"the member teaches it"`
	Taught bool               `json:"taught" doc:"something was logged today"`
	Next   *NextLesson        `json:"next,omitempty" doc:"nothing where the plan has come to its end"`
	Due    []string           `json:"due" doc:"card ids of which less than nine tenths are left, the least first"`
	Shaky  []string           `json:"shaky" doc:"card ids that were not yet known or shaky when they were last met"`
	Unheld *Unheld            `json:"unheld,omitempty"`
	Left   []store.LeftLesson `json:"left" doc:"lessons that were made in the last ten days and not taught"`
}

// TodayView is the page after the sign-in.
type TodayView struct {
	Today     year.Date           `json:"today"`
	Classes   []ClassToday        `json:"classes" doc:"the member's own before the others"`
	Waiting   []store.Waiting     `json:"waiting" doc:"cards that wait for a decision, those that the member was asked for before the others"`
	Notices   []store.Notice      `json:"notices" doc:"what the member has not seen, the newest first"`
	Since     time.Time           `json:"since" doc:"from when on changes are listed"`
	Until     time.Time           `json:"until" doc:"up to when; the member says so when they are looked at"`
	Changed   []store.ChangedCard `json:"changed" doc:"by others, the newest first"`
	Owed      []Unfinished        `json:"owed" doc:"cards that a class comes to within three weeks and that are not ready, by date"`
	Proposals int                 `json:"proposals" doc:"changes of the order that wait for a decision"`
	Remarks   map[string]int      `json:"remarks" doc:"by card: how many threads are open"`
}

// How far back the page looks.
const (
	leftFor     = 10 * 24 * time.Hour
	changesFor  = 14 * 24 * time.Hour // for who never said that they looked
	shownShaky  = 8
	shownLeft   = 4
	noticesHere = 12
)

// Today gathers it.
func (d Today) Today(ctx context.Context, by tx.Actor) (TodayView, error) {
	now := d.Env.Now()
	return tx.Read(ctx, d.Env, by, func(s store.Library) (TodayView, error) {
		out := TodayView{Today: year.On(now), Until: now, Notices: []store.Notice{}, Classes: []ClassToday{}}
		team, err := readTeamPlan(ctx, s, out.Today)
		if err != nil {
			return out, err
		}
		list, err := s.Classes(ctx)
		if err != nil {
			return out, err
		}
		var plans []schedule
		for _, c := range list {
			k := schedule{today: out.Today, class: c}
			if err := k.fill(ctx, s, team, now.Location()); err != nil {
				return out, err
			}
			plans = append(plans, k)
		}
		if err := d.classes(ctx, s, by, &out, plans); err != nil {
			return out, err
		}
		rows, err := s.Cards(ctx, false)
		if err != nil {
			return out, err
		}
		if out.Owed, err = unfinished(plans, rows, team.conv, out.Today.Add(7*weeksAhead)); err != nil {
			return out, err
		}
		return out, d.people(ctx, s, by, &out)
	})
}

// classes tells how each class stands.
func (d Today) classes(ctx context.Context, s store.Library, by tx.Actor, out *TodayView, plans []schedule) error {
	teachers, err := s.Teachers(ctx)
	if err != nil {
		return err
	}
	last, err := s.LastLessons(ctx)
	if err != nil {
		return err
	}
	left, err := s.LeftLessons(ctx, out.Until.Add(-leftFor))
	if err != nil {
		return err
	}
	for _, k := range plans {
		c, err := k.morning(out.Until, left)
		if err != nil {
			return err
		}
		c.Mine = slices.ContainsFunc(teachers, func(t store.Teaches) bool {
			return t.ClassID == k.class.ClassID && t.MemberID == by.MemberID
		})
		if i := slices.IndexFunc(last, func(l store.LastLesson) bool { return l.ClassID == k.class.ClassID }); i >= 0 {
			c.Unheld = unheld(last[i])
		}
		out.Classes = append(out.Classes, c)
	}
	slices.SortStableFunc(out.Classes, func(a, b ClassToday) int {
		switch {
		case a.Mine == b.Mine:
			return 0
		case a.Mine:
			return -1
		}
		return 1
	})
	return nil
}

// morning is how a class stands at a time.
func (k schedule) morning(now time.Time, left []store.LeftLesson) (ClassToday, error) {
	c := ClassToday{Class: k.class, Due: []string{}, Shaky: []string{}, Left: []store.LeftLesson{}}
	_, c.Taught = k.logged(k.today)
	met := slices.Clone(k.known.Met)
	kept := func(i int) float64 { return met[i].Seen.Retrievability(now) }
	by := make([]int, len(met))
	for i := range by {
		by[i] = i
	}
	slices.SortFunc(by, func(a, b int) int { return cmp.Compare(kept(a), kept(b)) })
	for _, i := range by {
		if kept(i) < review.Retention {
			c.Due = append(c.Due, met[i].Card.ID)
		}
		if met[i].Seen.Sure <= review.Shaky && len(c.Shaky) < shownShaky {
			c.Shaky = append(c.Shaky, met[i].Card.ID)
		}
	}
	for _, l := range left {
		if l.ClassID == k.class.ClassID && len(c.Left) < shownLeft {
			c.Left = append(c.Left, l)
		}
	}
	l, err := k.lay(WhatIf{})
	if err != nil {
		return c, err
	}
	c.Next = k.next(l, c)
	return c, nil
}

// next is the first lesson of the plan from today on, or from tomorrow where today's was held.
func (k schedule) next(l layout, c ClassToday) *NextLesson {
	planned := map[year.Date]year.Day{}
	for _, d := range l.days {
		planned[d.Date] = d
	}
	lost := map[year.Date]string{}
	for _, d := range k.pace.Lost {
		lost[d.Date] = "lost"
	}
	for i := range daysLooked {
		d := k.today.Add(i)
		if i == 0 && c.Taught {
			continue
		}
		day := k.dayOfCard(l, d, planned, lost)
		if day.Kind != LessonDay {
			continue
		}
		n := &NextLesson{Date: d, Purpose: day.Purpose, Cards: append([]string{}, day.Cards...)}
		if len(c.Left) > 0 && c.Left[0].Purpose == day.Purpose {
			n.LessonID = c.Left[0].LessonID
		}
		return n
	}
	return nil
}

// daysLooked is how far ahead the next lesson is looked for: over the longest holidays.
const daysLooked = 80

// unheld is what was left out of a lesson, nil where nothing was.
func unheld(l store.LastLesson) *Unheld {
	u := Unheld{LessonID: l.LessonID, TaughtAt: l.TaughtAt, Steps: []string{}}
	reached := slices.Index(l.IDs, l.Reached)
	for i, id := range l.IDs {
		if slices.Contains(l.Skipped, id) || reached >= 0 && i > reached {
			u.Steps = append(u.Steps, l.Names[i])
		}
	}
	if len(u.Steps) == 0 {
		return nil
	}
	return &u
}

// people gathers what others did, and what they wait for.
func (d Today) people(ctx context.Context, s store.Library, by tx.Actor, out *TodayView) error {
	var err error
	if out.Waiting, err = s.WaitingCards(ctx, by.MemberID); err != nil {
		return err
	}
	rank := func(w store.Waiting) int {
		switch {
		case w.Mine || w.Said:
			return 2
		case w.Asked:
			return 0
		}
		return 1
	}
	slices.SortStableFunc(out.Waiting, func(a, b store.Waiting) int { return cmp.Compare(rank(a), rank(b)) })
	notices, err := s.Notices(ctx, by.MemberID)
	if err != nil {
		return err
	}
	for _, n := range notices {
		if n.SeenAt == nil && len(out.Notices) < noticesHere {
			out.Notices = append(out.Notices, n)
		}
	}
	looked, err := s.Looked(ctx, by.MemberID)
	if err != nil {
		return err
	}
	out.Since = out.Until.Add(-changesFor)
	if looked != nil {
		out.Since = *looked
	}
	if out.Changed, err = s.ChangesSince(ctx, by.MemberID, out.Since); err != nil {
		return err
	}
	if out.Remarks, err = s.OpenRemarks(ctx); err != nil {
		return err
	}
	out.Proposals, err = s.OpenProposals(ctx)
	return err
}

// Look notes that the member has looked at the changes up to a time.
func (d Today) Look(ctx context.Context, by tx.Actor, until time.Time) error {
	if until.After(d.Env.Now()) {
		return fault.In("until", "That time has not come yet.")
	}
	_, err := tx.WriteUnlocked(ctx, d.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		return struct{}{}, s.Look(ctx, by.MemberID, until)
	})
	return err
}
