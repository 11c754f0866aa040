// Package planning holds the time of a team: classes and groups, school years and their schedules, the forecast,
// meetings with the review schedule, and the day of a member:
//
//	year, err := app.Years.Year(ctx, actor, classID, planning.WhatIf{})
package planning

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Classes is what a team decides once and where its classes stand.
type Classes struct{ Env tx.Env }

// Classes lists the team's classes and groups.
func (p Classes) Classes(ctx context.Context, by tx.Actor) ([]store.Class, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]store.Class, error) { return s.Classes(ctx) })
}

// NewClass adds a class or a group.
func (p Classes) NewClass(ctx context.Context, by tx.Actor, name, kind string) (string, error) {
	return tx.Write(ctx, p.Env, by, tx.MayTeach, func(s store.Library) (string, error) {
		name, err := className(name)
		if err != nil {
			return "", err
		}
		id, err := s.CreateClass(ctx, name, kind)
		return id, nameTaken(err, name)
	})
}

// ClassCard is one card that a class has met.
type ClassCard struct {
	CardID   string        `json:"card_id" format:"uuid"`
	Pair     spelling.Pair `json:"pair"`
	Sure     int           `json:"sure" doc:"0 not yet, 1 shaky, 2 sure, 3 secure"`
	LastMet  time.Time     `json:"last_met"`
	Times    int           `json:"times" doc:"how often it was met"`
	Declared bool          `json:"declared" doc:"known because somebody said so; no lesson with it was logged"`
	Readable bool          `json:"readable" doc:"false: met, and not yet known"`
	// Kept is how likely the class still has it, from 0 to 1, by its meetings.
	Kept   float64       `json:"kept"`
	Fading review.Fading `json:"fading" enum:"fresh,holds,fades,faded,not met"`
	Due    time.Time     `json:"due" doc:"when nine tenths are left"`
}

// ClassView is a class with what it knows, and the next sound of the order.
type ClassView struct {
	store.Class
	Cards []ClassCard       `json:"cards"`
	Next  string            `json:"next" doc:"card id, empty where the order is done"`
	Said  []store.KnownCard `json:"said" doc:"cards that it is said to know"`
	Words []ClassWord       `json:"words" doc:"exception words of the team's cards, and others that are known"`
	Focus []string          `json:"focus" doc:"card ids that a group catches up on; none in a class"`
	From  []store.Source    `json:"from" doc:"the classes of a group"`
}

// ClassWord is an exception word of the team.
type ClassWord struct {
	Word   string     `json:"word"`
	Step   int        `json:"step" doc:"of the order, with which it comes; 0 where it is on no card"`
	Known  bool       `json:"known"`
	SaidBy string     `json:"said_by" doc:"initials; empty where it came with a card"`
	SaidAt *time.Time `json:"said_at,omitempty"`
}

// Class returns a class.
func (p Classes) Class(ctx context.Context, by tx.Actor, classID string) (ClassView, error) {
	return tx.Read(
		ctx,
		p.Env,
		by,
		func(s store.Library) (ClassView, error) { return ReadClass(ctx, s, classID, p.Env.Now()) },
	)
}

// ReadClass returns a class with all cards and what it knows of them as of now.
func ReadClass(ctx context.Context, s store.Library, classID string, now time.Time) (ClassView, error) {
	c, err := s.Class(ctx, classID)
	if err != nil {
		return ClassView{}, err
	}
	team, err := gather.Conventions(ctx, s)
	if err != nil {
		return ClassView{}, err
	}
	v := ClassView{Class: c, Cards: []ClassCard{}, Words: []ClassWord{}, From: []store.Source{}}
	if v.Focus, err = s.Focus(ctx, classID); err != nil {
		return v, err
	}
	sources, err := s.Sources(ctx)
	if err != nil {
		return v, err
	}
	for _, from := range sources {
		if from.GroupID == classID {
			v.From = append(v.From, from)
		}
	}
	if v.Said, err = s.KnownCards(ctx, classID); err != nil {
		return v, err
	}
	known, err := gather.Knowledge(ctx, s, team, classID)
	if err != nil {
		return v, err
	}
	v.Next = known.Next
	for _, k := range known.Met {
		v.Cards = append(v.Cards, ClassCard{
			k.Card.ID, k.Card.Pair, int(k.Seen.Sure), k.Seen.Last, k.Seen.Times, k.Declared, k.Readable,
			math.Round(
				k.Seen.Retrievability(now)*1000,
			) / 1000, review.FadingCards(k.Seen.Retrievability(now)), k.Seen.Due(),
		})
	}
	said, err := s.KnownWords(ctx, classID)
	for w, at := range known.Coming {
		v.Words = append(v.Words, ClassWord{Word: w, Step: at})
	}
	for w := range known.Exceptions {
		word := ClassWord{Word: w, Known: true}
		for _, k := range said {
			if k.Word == w {
				at := k.SaidAt
				word.SaidBy, word.SaidAt = k.SaidBy, &at
			}
		}
		v.Words = append(v.Words, word)
	}
	slices.SortFunc(v.Words, func(a, b ClassWord) int {
		return cmp.Or(cmp.Compare(a.Step, b.Step), strings.Compare(a.Word, b.Word))
	})
	return v, err
}

// Declaration says what a class knows that nobody logged, or takes that back. UpTo is a step of the order: all cards up
// to it, 0 for none.
type Declaration struct {
	Known   bool     `json:"known" doc:"false: it does not know them, after all"`
	UpTo    int      `json:"up_to,omitempty" doc:"every card up to this step of the order" required:"false" minimum:"0"`
	CardIDs []string `json:"card_ids,omitempty" required:"false" maxItems:"200"`
	Words   []string `json:"words,omitempty" doc:"exception words" required:"false" maxItems:"200"`
}

// Declare notes what a class knows, with who said so and when.
func (p Classes) Declare(ctx context.Context, by tx.Actor, classID string, d Declaration) error {
	return tx.Exec(ctx, p.Env, by, tx.MayTeach, func(s store.Library) error {
		if _, err := s.Class(ctx, classID); err != nil {
			return err
		}
		cards := slices.Clone(d.CardIDs)
		if d.UpTo > 0 {
			rows, err := s.Cards(ctx, false)
			if err != nil {
				return err
			}
			for _, r := range rows {
				if r.Step <= d.UpTo {
					cards = append(cards, r.CardID)
				}
			}
		}
		var list []string
		for _, w := range d.Words {
			w = strings.ToLower(strings.TrimSpace(w))
			if w == "" || strings.ContainsAny(w, " ,") || len(w) > 24 {
				return fault.In("words", "“%s” is not one word.", w)
			}
			list = append(list, w)
		}
		if len(cards)+len(list) == 0 {
			return fault.In("card_ids", "Tick at least one card or word.")
		}
		err := s.DeclareCards(ctx, classID, cards, d.Known, by.MemberID, p.Env.Now())
		if errors.Is(err, store.ErrNotFound) {
			return fault.In("card_ids", "One of these cards is not known.")
		}
		if err != nil {
			return err
		}
		return s.DeclareWords(ctx, classID, list, d.Known, by.MemberID, p.Env.Now())
	})
}
