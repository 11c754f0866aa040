package demo

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"brightchalk/internal/app"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/year"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

// Live lets the team that Load made have a past: a class with a year of logs, lessons of the last weeks, one of them
// left in the middle, a rhyme that was changed after one class had learned it, and a second team in which the teacher
// is the lead. Whoever looks at the demo wants it; a test that counts does with Load alone.
func Live(ctx context.Context, a *app.App) error {
	lib, err := read()
	if err != nil {
		return err
	}
	team := map[string]tx.Actor{}
	for _, m := range SignIns {
		by, id, err := a.Accounts.AsOperator(ctx, m.Email)
		if errors.Is(err, store.ErrNotFound) {
			return nil // the database is somebody else's
		}
		if err != nil {
			return err
		}
		team[m.Role] = tx.Actor{MemberID: id, TeamID: by.TeamID, Name: names[m.Role], Role: tx.Role(m.Role)}
	}
	lead := team["lead"]
	s := store.For(store.AllTeams{Pool: a.Pool}, lead.TeamID)
	classes, err := a.Classes.Classes(ctx, lead)
	if err != nil || slices.ContainsFunc(classes, func(c store.Class) bool { return c.Name == wrenClass }) {
		return err
	}
	wall, err := a.Cards.Wall(ctx, lead, false)
	if err != nil {
		return err
	}
	ids := map[string]string{}
	order := make([]string, len(wall))
	for i, c := range wall {
		ids[c.Pair.Grapheme+"="+c.Pair.Sound], order[i] = c.CardID, c.CardID
	}
	if err := wrens(ctx, s, lead.MemberID, order, a.Now()); err != nil {
		return err
	}
	if classes, err = a.Classes.Classes(ctx, lead); err != nil {
		return err
	}
	byName := map[string]string{}
	for _, c := range classes {
		byName[c.Name] = c.ClassID
	}
	for _, t := range lessonsTaught {
		if t.newRhyme != "" {
			if err := rewrite(ctx, a, lead, ids[t.pair], t.newRhyme); err != nil {
				return err
			}
		}
		by := team[teach[t.class]]
		if err := lessonsHeld(ctx, a, by, byName[t.class], ids[t.pair], t); err != nil {
			return fmt.Errorf("lesson of %s: %w", t.pair, err)
		}
	}
	return lib.basin(ctx, a)
}

// lessonHeld is a lesson that was taught some school days ago. kept is how many of its steps were held, 0 for all.
type lessonHeld struct {
	class, pair string
	days        int
	purpose     lesson.Purpose
	minutes     int
	kept        int
	sure        int
	note        string
	newRhyme    string // agreed just before
}

var lessonsTaught = []lessonHeld{
	{
		class:   "Otter class",
		pair:    "p=p",
		days:    9,
		purpose: lesson.Introduce,
		minutes: 20,
		sure:    2,
		note:    "They wave at the pan.",
	},
	{class: "Heron class", pair: "o=ɒ", days: 6, purpose: lesson.Introduce, minutes: 20, sure: 2},
	{
		class: "Towpath group", pair: "e=e", days: 5, purpose: lesson.Again, minutes: 12, sure: 1,
		note: "Still takes i for e: say the two in turn.",
	},
	{
		class: "Heron class", pair: "p=p", days: 4, purpose: lesson.Introduce, minutes: 20, sure: 3,
		note: "Anew, with the new rhyme.", newRhyme: "Pip, put the peas in a pan.",
	},
	{class: "Otter class", pair: "n=n", days: 3, purpose: lesson.Introduce, minutes: 20, sure: 2},
	{
		class:   "Heron class",
		pair:    "c=k",
		days:    2,
		purpose: lesson.Introduce,
		minutes: 20,
		kept:    6,
		sure:    1,
		note:    "Fire drill.",
	},
}

// lessonsHeld assembles a lesson and logs it as taught.
func lessonsHeld(ctx context.Context, a *app.App, by tx.Actor, classID, cardID string, t lessonHeld) error {
	ask := teaching.LessonAsk{ClassID: classID, Purpose: t.purpose, CardIDs: []string{cardID}, Minutes: t.minutes}
	made, err := a.Lessons.Assemble(ctx, by, ask)
	if err != nil {
		return err
	}
	last := len(made.Lesson.Steps)
	if t.kept > 0 {
		last = min(t.kept, last)
	}
	days := lessonDays(schoolYear(year.On(a.Now())), a.Now(), t.days)
	return a.Lessons.Log(ctx, by, made.LessonID, teaching.Taught{
		TaughtOn: days[0].Format(time.DateOnly), Reached: made.Lesson.Steps[last-1].ID, Note: t.note,
		Sure: []teaching.Sure{{CardID: cardID, Sure: t.sure}},
	})
}

// rewrite changes a rhyme and agrees it.
func rewrite(ctx context.Context, a *app.App, lead tx.Actor, cardID, rhyme string) error {
	c, err := a.Cards.Card(ctx, lead, cardID)
	if err != nil {
		return err
	}
	c.Content.Rhyme = rhyme
	if _, err := a.Cards.Save(ctx, lead, cardID, c.Version, c.Content); err != nil {
		return err
	}
	for _, state := range []card.State{card.InReview, card.Agreed} {
		if _, err := a.Reviews.SetState(ctx, lead, cardID, state); err != nil {
			return err
		}
	}
	return nil
}

const (
	wrenClass = "Wren class"
	wrensMet  = 44 // pairs
	yearDays  = 340
)

// wrens is a class in its second year: it met a pair about each week, at first faster, and some of them fade.
func wrens(ctx context.Context, s store.Library, by string, order []string, now time.Time) error {
	id, err := s.CreateClass(ctx, wrenClass, "class")
	if err != nil {
		return err
	}
	if err := s.SetTeachers(ctx, id, []string{by}); err != nil {
		return err
	}
	later := []int{0, 1, 3, 8, 21, 45, 90, 160, 240}
	for i := range wrensMet {
		part := float64(i) / wrensMet
		since := yearDays - int(yearDays*(0.6*part+0.4*part*part))
		for visit, after := range later {
			if after >= since || i%6 == 3 && after > 21 { // some were met no more, and fade
				break
			}
			sure := min(3, 1+(visit+1)/2)
			if i%9 == 4 && visit > 4 || i%7 == 5 && visit == 3 {
				sure = 1
			}
			row := store.LogRow{
				CardID: order[i], Introduced: visit == 0, Sureness: sure,
				MetAt: schoolDay(now.AddDate(0, 0, after-since)),
			}
			if err := s.AddLog(ctx, id, by, row); err != nil {
				return err
			}
		}
	}
	return nil
}

// basin is a second, small team: the teacher of the first one leads it.
func (l library) basin(ctx context.Context, a *app.App) error {
	teamID, err := a.Accounts.CreateTeam(ctx, people.NewTeam{
		Name: "Basin Nursery", Email: "teacher@lockhouse.example", LeadName: names["teacher"], Accent: accent,
	})
	if err != nil {
		return err
	}
	s := store.For(store.AllTeams{Pool: a.Pool}, teamID)
	members, err := s.Members(ctx)
	if err != nil {
		return err
	}
	by := members[0].MemberID
	conv, monthAgo := convention.Conventions{Accent: accent}, a.Now().AddDate(0, -1, 0)
	for i, c := range l.Cards[:8] {
		if i > 3 {
			c.State = card.Draft
		}
		if _, err := l.card(ctx, s, by, i+1, c, conv, monthAgo); err != nil {
			return err
		}
	}
	id, err := s.CreateClass(ctx, "Ducklings", "group")
	if err != nil {
		return err
	}
	return s.SetTeachers(ctx, id, []string{by})
}
