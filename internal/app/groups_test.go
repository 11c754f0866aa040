package app_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/pace"
	"brightchalk/internal/planning"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

func (s school) find(t *testing.T, classID, cardID string) (planning.ClassCard, bool) {
	t.Helper()
	v, err := s.Classes.Class(context.Background(), s.lead, classID)
	require.NoError(t, err)
	i := slices.IndexFunc(v.Cards, func(c planning.ClassCard) bool { return c.CardID == cardID })
	if i < 0 {
		return planning.ClassCard{}, false
	}
	return v.Cards[i], true
}

// A group is made from what is shakiest in two classes, practises it, and its log counts for them only while the team
// wants that.
func TestAGroupCatchesUpBySounds(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	classes, err := s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	from := []string{classes[0].ClassID, classes[1].ClassID}
	shaky, err := s.Classes.Shakiest(ctx, s.assistant, from)
	require.NoError(t, err)
	require.NotEmpty(t, shaky)
	assert.True(t, slices.IsSortedFunc(shaky, func(a, b planning.Shaky) int { return int(1000 * (b.Need - a.Need)) }))
	i := slices.IndexFunc(shaky, func(k planning.Shaky) bool { return len(k.In) == 2 })
	require.GreaterOrEqual(t, i, 0, "one is shaky in both")
	focus := []string{shaky[i].CardID}
	ask := planning.GroupAsk{Name: "Tuesday group", From: from, Cards: focus}
	for field, wrong := range map[string]func(*planning.GroupAsk){
		"needs a name":           func(a *planning.GroupAsk) { a.Name = " " },
		"at least one class":     func(a *planning.GroupAsk) { a.From = nil },
		"at least one sound":     func(a *planning.GroupAsk) { a.Cards = nil },
		"with this name already": func(a *planning.GroupAsk) { a.Name = "Heron class" },
		"has met one of these":   func(a *planning.GroupAsk) { a.Cards = []string{s.cards["ph"]} },
	} {
		bad := ask
		wrong(&bad)
		_, err := s.Classes.NewGroup(ctx, s.teacher, bad)
		require.ErrorContains(t, err, field)
	}
	group, err := s.Classes.NewGroup(ctx, s.teacher, ask)
	require.NoError(t, err)
	assert.Equal(t, 4, s.count(t, "SELECT count(*) FROM school_class"), "what was refused left nothing behind")
	view, err := s.Classes.Class(ctx, s.lead, group)
	require.NoError(t, err)
	assert.Equal(t, focus, view.Focus)
	assert.Len(t, view.From, 2)
	own, met := s.find(t, group, focus[0])
	require.True(t, met)
	assert.LessOrEqual(t, own.Sure, 2)
	all := map[string]int{}
	for _, c := range from {
		v, err := s.Classes.Class(ctx, s.lead, c)
		require.NoError(t, err)
		for _, k := range v.Cards {
			if k.Readable {
				all[k.CardID]++
			}
		}
	}
	for _, k := range view.Cards {
		assert.True(t, k.CardID == focus[0] || all[k.CardID] == 2, "it begins with what both classes know")
	}

	year, err := s.Years.Year(ctx, s.lead, group, planning.WhatIf{})
	require.NoError(t, err)
	today := day(t, year, "2026-11-25")
	assert.Equal(t, lesson.CatchUp, today.Purpose, "nothing new comes in a group that catches up")
	assert.Equal(t, focus, today.Cards)
	made, err := s.Lessons.Assemble(
		ctx,
		s.teacher,
		teaching.LessonAsk{ClassID: group, Purpose: lesson.CatchUp, Minutes: 8},
	)
	require.NoError(t, err)
	assert.Equal(t, focus, made.Lesson.Targets, "its sounds are what it needs")
	before, _ := s.find(t, from[0], focus[0])
	require.NoError(t, s.Lessons.Log(ctx, s.teacher, made.LessonID, teaching.Taught{
		Reached: "close", Sure: []teaching.Sure{{CardID: focus[0], Sure: 3}},
	}))
	after, _ := s.find(t, from[0], focus[0])
	assert.Equal(t, before, after, "its log is its own")
	require.NoError(t, s.Classes.SetFlow(ctx, s.teacher, group, true))
	after, _ = s.find(t, from[0], focus[0])
	assert.Equal(t, before.Times+1, after.Times)
	assert.Equal(t, 3, after.Sure)
	history, err := s.Lessons.History(ctx, s.lead, from[0])
	require.NoError(t, err)
	assert.Equal(t, "Tuesday group", history.Meetings[0].Group)
	require.Error(
		t,
		s.Lessons.Correct(ctx, s.lead, from[0], history.Meetings[0].LogID, nil, ""),
		"it is corrected in the group",
	)
	require.NoError(t, s.Classes.SetFlow(ctx, s.teacher, group, false))
	after, _ = s.find(t, from[0], focus[0])
	assert.Equal(t, before, after)
	require.ErrorIs(t, s.Classes.SetFlow(ctx, s.teacher, from[0], true), store.ErrNotFound, "a class is no group")
}

// A sound that a class forgets twice is put forward to be taught again, in the sheet and beside the class.
func TestASoundForgottenTwiceIsPutForward(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	for i, sure := range []int{0, 2, 0, 1} {
		_, err := store.AllTeams{
			Pool: s.Pool,
		}.Exec(
			ctx,
			`INSERT INTO class_log (team_id, class_id, card_id, introduced, sureness, met_at)
			SELECT team_id, $1, card_id, false, $3, '2026-11-24'::timestamptz + $4 * interval '1 hour'
			FROM card WHERE card_id = $2`,
			s.class,
			s.cards["t"],
			sure,
			i,
		)
		require.NoError(t, err)
	}
	m := s.sheet(t)
	require.Len(t, m.Again, 1)
	assert.Equal(
		t,
		planning.Again{CardID: s.cards["t"], ClassID: s.class, Lapses: 2, Purpose: lesson.Again},
		m.Again[0],
	)
	days, err := s.Lessons.Days(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, []string{"t"}, days[0].AgainNames)
	assert.Empty(t, days[1].Again)
}

func (s school) sheet(t *testing.T) planning.MeetingSheet {
	t.Helper()
	m, err := s.Meetings.Meeting(context.Background(), s.assistant)
	require.NoError(t, err)
	return m
}

func TestTheSheetForTheMeeting(t *testing.T) {
	s := demoSchool(t)
	m := s.sheet(t)
	assert.Len(t, m.Due, 3)
	require.NotEmpty(t, m.Unfinished)
	for i, u := range m.Unfinished {
		assert.True(t, u.State != card.Agreed || len(u.Gaps) > 0)
		assert.LessOrEqual(t, u.On, m.Today.Add(21))
		assert.True(t, i == 0 || m.Unfinished[i-1].On <= u.On)
	}
	assert.Empty(t, m.Taught, "no lesson was logged")
	assert.NotEmpty(t, m.Dates)
	for _, k := range append(slices.Clone(m.Everywhere), m.InOne...) {
		shaky := 0
		for _, in := range k.In {
			if in.Sure <= 1 || in.Kept < 0.85 {
				shaky++
			}
		}
		everywhere := slices.ContainsFunc(m.Everywhere, func(e planning.Shaky) bool { return e.CardID == k.CardID })
		assert.Equal(t, everywhere, shaky > 1, "%s: shaky in %d of %d", s.grapheme(k.CardID), shaky, len(k.In))
	}
}

// Two classes are taught a sound before and after its rhyme was changed: they drift apart, and the first has learned
// what is no longer so.
func TestClassesDriftApart(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	classes, err := s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	r := s.cards["r"]
	teach := func(class string) {
		made, err := s.Lessons.Assemble(ctx, s.teacher, introduce(class, r, 20))
		require.NoError(t, err)
		require.NoError(t, s.Lessons.Log(ctx, s.teacher, made.LessonID, teaching.Taught{
			Reached: "close", Sure: []teaching.Sure{{CardID: r, Sure: 2}},
		}))
	}
	teach(classes[0].ClassID)
	m := s.sheet(t)
	assert.Len(t, m.Taught, 1)
	assert.Empty(t, m.Drifts)
	assert.Empty(t, m.Outdated)
	v, err := s.Cards.Card(ctx, s.lead, r)
	require.NoError(t, err)
	was := v.Content.Rhyme
	content := v.Content
	content.Rhyme = "Reeds in a row, row, row."
	_, err = s.Cards.Save(ctx, s.lead, r, v.Version, content)
	require.NoError(t, err)
	_, err = s.Reviews.SetState(ctx, s.lead, r, card.InReview)
	require.NoError(t, err)
	assert.Empty(t, s.sheet(t).Outdated, "a draft is not what is agreed")
	_, err = s.Reviews.SetState(ctx, s.lead, r, card.Agreed)
	require.NoError(t, err)
	m = s.sheet(t)
	require.Len(t, m.Outdated, 1)
	assert.Equal(t, planning.Outdated{
		CardID: r, Part: "rhyme", Was: was, Is: "Reeds in a row, row, row.", Classes: []string{classes[0].ClassID},
	}, m.Outdated[0])
	teach(classes[1].ClassID)
	m = s.sheet(t)
	require.Len(t, m.Drifts, 1)
	assert.Equal(t, "rhyme", m.Drifts[0].Part)
	assert.Len(t, m.Drifts[0].Variants, 2)
	assert.NotEqual(t, m.Taught[0].Version, m.Taught[1].Version)
}

// Six lessons take half as long again as planned: the next plan has fewer items in the same minutes, and it is said
// what to drop.
func TestTheNextPlanGoesByWhatLessonsTook(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	plain, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	none, err := s.Lessons.Times(ctx, s.assistant, s.class)
	require.NoError(t, err)
	assert.Empty(t, none.Steps)
	for i := range 6 {
		made, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
		require.NoError(t, err)
		var took []teaching.Took
		for _, k := range made.Lesson.Steps {
			usual := float64(k.Seconds)
			if k.Pace > 0 {
				usual /= k.Pace
			}
			took = append(took, teaching.Took{StepID: k.ID, Seconds: int(1.5 * usual)})
		}
		require.NoError(t, s.Lessons.Log(ctx, s.teacher, made.LessonID, teaching.Taught{
			TaughtOn: time.Date(2026, 11, 10+i, 0, 0, 0, 0, time.UTC).Format(time.DateOnly), Reached: "close",
			Sure: []teaching.Sure{{CardID: s.cards["b"], Sure: 2}}, Took: took,
		}))
	}
	times, err := s.Lessons.Times(ctx, s.assistant, s.class)
	require.NoError(t, err)
	require.NotEmpty(t, times.Steps)
	for _, k := range times.Steps {
		assert.Equal(t, pace.Class, k.From, k.Kind)
		assert.InDelta(t, 1.42, k.Ratio, 0.06, "%s: drawn towards the usual", k.Kind)
	}
	assert.Len(t, times.Lessons, 6)
	slow, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	items := func(l teaching.LessonView) (n int) {
		for _, k := range l.Lesson.Steps {
			n += len(k.Items)
		}
		return n
	}
	assert.Less(t, items(slow), items(plain))
	assert.InDelta(t, 1200, slow.Lesson.Seconds, 60)
	classes, err := s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	other, err := s.Lessons.Times(ctx, s.lead, classes[1].ClassID)
	require.NoError(t, err)
	assert.Empty(t, other.Steps, "another class has held none")
	bad := teaching.Taught{
		Reached: "close",
		Sure:    []teaching.Sure{{CardID: s.cards["b"], Sure: 2}},
		Took:    []teaching.Took{{StepID: "dance", Seconds: 9}},
	}
	assert.ErrorContains(t, s.Lessons.Log(ctx, s.teacher, slow.LessonID, bad), "has no step dance")
}

func TestTheMemoryIsFittedOnlyToEnough(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	m, err := s.Meetings.Memory(ctx, s.assistant)
	require.NoError(t, err)
	assert.Nil(t, m.Fit)
	assert.Less(t, m.Meetings, m.Needed)
	_, err = s.Meetings.FitMemory(ctx, s.teacher)
	require.ErrorIs(t, err, tx.ErrForbidden)
	_, err = s.Meetings.FitMemory(ctx, s.lead)
	require.ErrorContains(t, err, "until then the usual one is used")
	before, _ := s.find(t, s.class, s.cards["t"])
	// A log in which everything is forgotten between two meetings of a week.
	_, err = store.AllTeams{
		Pool: s.Pool,
	}.Exec(
		ctx,
		`INSERT INTO class_log (team_id, class_id, card_id, introduced, sureness, met_at)
		SELECT c.team_id, $1, c.card_id, false, CASE WHEN n % 2 = 0 THEN 0 ELSE 2 END,
			'2026-10-01'::timestamptz + n * interval '4 days'
		FROM card c, generate_series(1, 12) n WHERE c.step <= 40`,
		s.class,
	)
	require.NoError(t, err)
	m, err = s.Meetings.FitMemory(ctx, s.lead)
	require.NoError(t, err)
	require.NotNil(t, m.Fit)
	assert.True(t, m.Fit.Better)
	assert.Greater(t, m.Fit.After, m.Fit.Before)
	fitted, _ := s.find(t, s.class, s.cards["t"])
	require.NoError(t, s.Meetings.ForgetFit(ctx, s.lead))
	usual, _ := s.find(t, s.class, s.cards["t"])
	assert.NotEqual(t, usual.Kept, fitted.Kept, "the fit is used")
	assert.NotEqual(t, before.Kept, usual.Kept)
}
