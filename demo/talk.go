package demo

import (
	"context"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/store"
)

// memberIDs are the ids of the demo's members by role.
type memberIDs map[string]string

// forward is a card that somebody put forward, by its place in the library.
type forward struct {
	card, hours int // hours ago
	by, note    string
	readers     []string
}

// comments is something said beside a card.
type comments struct {
	card, hours int
	by, field   string
	body        string
	wording     string
	answerTo    int // the place in the list that it answers, from 1
	settledBy   string
}

var forwards = []forward{
	{9, 50, "teacher", "Is “eddy” a word that our children know?", []string{"lead"}},
	{10, 26, "lead", "New picture, with the g in the rope.", []string{"teacher"}},
	{15, 5, "teacher", "Said it with Heron class: they loved the bumps.", []string{"lead"}},
	{16, 74, "lead", "", nil},
}

var talk = []comments{
	{
		card:    9,
		hours:   48,
		by:      "assistant",
		field:   "rhyme",
		body:    "Mine say “up in it” all at once. Could it be shorter, @OW?",
		wording: "Every leaf ends in the eddy.",
	},
	{card: 9, hours: 47, by: "teacher", field: "rhyme", body: "I like that better than my own.", answerTo: 1},
	{card: 9, hours: 46, by: "teacher", field: "", body: "@BS, have you shown the picture to Towpath group?"},
	{card: 15, hours: 4, by: "assistant", field: "action", body: "Two steps back first: the ones in front got bumped."},
	{
		card:  11,
		hours: 30,
		by:    "teacher",
		field: "slip",
		body:  "Half my class says “duh” with the rope. I put a hand up for each tap.",
	},
	{card: 11, hours: 29, by: "lead", field: "slip", body: "Good. Let us all do that.", answerTo: 5, settledBy: "lead"},
	{card: 5, hours: 20, by: "lead", field: "rhyme", body: "The new one is easier to say. I miss the lamp a little."},
}

// teach says whose class each is, by its name.
var teach = map[string]string{
	"Heron class":   "teacher",
	"Otter class":   "lead",
	"Towpath group": "assistant",
	wrenClass:       "lead",
}

// talk puts cards forward and lets the team speak of them, all of it in the last days.
func (l library) talk(ctx context.Context, s store.Library, p memberIDs, ids []string, now time.Time) error {
	at := func(hours int) time.Time { return now.Add(-time.Duration(hours) * time.Hour) }
	if err := l.changeInn(ctx, s, p["teacher"], ids[4], at(22)); err != nil {
		return err
	}
	inn := forward{5, 21, "teacher", "Shorter, so that they can say it at the door.", []string{"lead"}}
	for _, f := range append(forwards, inn) {
		var before *int
		if f.card == inn.card {
			first := 1
			before = &first
		}
		id, err := s.AddReview(ctx, ids[f.card-1], f.note, p[f.by], before, at(f.hours))
		if err != nil {
			return err
		}
		var readers []string
		for _, r := range f.readers {
			readers = append(readers, p[r])
		}
		if err := s.AddReaders(ctx, id, readers); err != nil {
			return err
		}
		err = s.AddNotices(ctx, store.NewNotice{
			Kind: store.NoticeAsked, Members: readers, CardID: ids[f.card-1], Note: f.note, From: p[f.by], Now: at(f.hours),
		})
		if err != nil {
			return err
		}
	}
	return l.say(ctx, s, p, ids, at)
}

// changeInn is a change beside what is agreed.
func (l library) changeInn(ctx context.Context, s store.Library, by, id string, at time.Time) error {
	c := l.Cards[4].Content
	row, err := s.Card(ctx, id)
	if err != nil {
		return err
	}
	c.Picture = row.Content.Picture
	c.Rhyme, c.Action = "In the inn it is dim.", "Duck under the low door, a hand on the head, and say it once inside."
	return s.UpdateCard(ctx, store.CardEdit{
		CardID:  id,
		Version: 2,
		State:   card.InReview,
		Content: c.Tidy(),
		Changed: []string{"rhyme", "action"},
		By:      &by,
		Now:     at,
	})
}

func (l library) say(ctx context.Context, s store.Library, p memberIDs, ids []string, at func(int) time.Time) error {
	made := make([]string, len(talk))
	for i, t := range talk {
		r := store.NewRemark{
			CardID: ids[t.card-1], Field: t.field, Body: t.body, By: p[t.by], Version: 1, Now: at(t.hours),
		}
		if t.wording != "" {
			r.Wording = &t.wording
		}
		if t.answerTo > 0 {
			r.ParentID = made[t.answerTo-1]
		}
		var err error
		if made[i], err = s.AddRemark(ctx, r); err != nil {
			return err
		}
		if t.settledBy != "" {
			when := at(t.hours - 1)
			if err := s.SettleRemark(ctx, r.ParentID, p[t.settledBy], &when); err != nil {
				return err
			}
		}
	}
	return s.AddNotices(ctx, store.NewNotice{
		Kind: store.NoticeMention, Members: []string{p["lead"]}, CardID: ids[8], RemarkID: made[0], Note: talk[0].body,
		From: p["assistant"], Now: at(talk[0].hours),
	})
}
