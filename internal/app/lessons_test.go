package app_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

func TestALessonIsASnapshot(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["b"]
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, id, 20))
	require.NoError(t, err)
	c, err := s.Cards.Card(ctx, s.teacher, id)
	require.NoError(t, err)
	c.Content.Rhyme = "Big barrels bob."
	_, err = s.Cards.Save(ctx, s.teacher, id, c.Version, c.Content)
	require.NoError(t, err)
	again, err := s.Lessons.Lesson(ctx, s.teacher, in.LessonID)
	require.NoError(t, err)
	assert.Equal(t, in.Lesson, again.Lesson)
	assert.True(t, again.CardChanged)
	renewed, err := s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: again.Revision, Do: teaching.Renew, Minutes: 25},
	)
	require.NoError(t, err)
	assert.False(t, renewed.CardChanged)
	assert.Equal(t, 25, renewed.Lesson.Minutes)
	_, err = s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: again.Revision, Do: teaching.Renew, Minutes: 25},
	)
	require.ErrorIs(t, err, store.ErrChanged, "an older revision does not overwrite a newer")
	var input *fault.Fault
	_, err = s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: renewed.Revision, Do: teaching.Renew, Minutes: 90},
	)
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "minutes", input.Field)
}

func TestAPictureOfNobodyIsRefused(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	c, err := s.Cards.Card(ctx, s.teacher, s.cards["b"])
	require.NoError(t, err)
	had := c.Content.Picture
	require.NotEmpty(t, had)
	for _, sum := range []string{strings.Repeat("0", 64), "no hash", strings.Repeat("g", 64)} {
		c.Content.Picture = sum
		_, err = s.Cards.Save(ctx, s.teacher, c.CardID, c.Version, c.Content)
		var input *fault.Fault
		require.ErrorAs(t, err, &input, sum)
		assert.Equal(t, "picture", input.Field)
	}
	other, err := s.Cards.Card(ctx, s.teacher, s.cards["m"])
	require.NoError(t, err)
	c.Content.Picture = other.Content.Picture
	c, err = s.Cards.Save(ctx, s.teacher, c.CardID, c.Version, c.Content)
	require.NoError(t, err)
	assert.NotEqual(t, had, c.Content.Picture)
}

func TestAClueIsTheTeamsFromThenOn(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	word := stepOf(t, in.Lesson, lesson.Read).Items[0].Value
	_, err = s.Lessons.Edit(
		ctx,
		s.assistant,
		in.LessonID,
		teaching.Edit{Revision: in.Revision, Do: teaching.SetClue, Word: word, Clue: "ours"},
	)
	require.ErrorIs(t, err, tx.ErrForbidden)
	after, err := s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: in.Revision, Do: teaching.SetClue, Word: word, Clue: " what we  say "},
	)
	require.NoError(t, err)
	assert.Equal(t, "what we say", stepOf(t, after.Lesson, lesson.Read).Items[0].Clue)
	again, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	for _, it := range stepOf(t, again.Lesson, lesson.Read).Items {
		assert.Equal(t, it.Value == word, it.Clue == "what we say", it.Value)
	}
	_, err = s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: in.Revision, Do: teaching.SetClue, Word: word, Clue: "too late"},
	)
	require.ErrorIs(t, err, store.ErrChanged)
	var input *fault.Fault
	_, err = s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: after.Revision, Do: teaching.SetClue, Word: word, Clue: strings.Repeat("long ", 40)},
	)
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "clue", input.Field)
}

func TestLogDecidesWhatIsTaughtAndNext(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id, err := s.Classes.NewClass(ctx, s.teacher, "Kingfisher class", "class")
	require.NoError(t, err)
	v, err := s.Classes.Class(ctx, s.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, s.cards["t"], v.Next)
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(id, v.Next, 15))
	require.NoError(t, err, "a class with nothing taught")
	require.NoError(
		t,
		s.Lessons.Log(
			ctx,
			s.teacher,
			in.LessonID,
			teaching.Taught{Reached: "hand", Sure: []teaching.Sure{{CardID: v.Next, Sure: 1}}},
		),
	)
	v, err = s.Classes.Class(ctx, s.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, s.cards["a"], v.Next)
	require.Len(t, v.Cards, 1)
	assert.Equal(t, 1, v.Cards[0].Sure)
	in, err = s.Lessons.Assemble(ctx, s.teacher, introduce(id, v.Next, 15))
	require.NoError(t, err)
	assert.Contains(t, stepOf(t, in.Lesson, lesson.Pack).Items[0].Because.Text, "shaky")
	require.Error(t, s.Lessons.Log(ctx, s.teacher, in.LessonID, teaching.Taught{}))
	sure := []teaching.Sure{{CardID: v.Next, Sure: 1}}
	for _, wrong := range []time.Time{s.Now().AddDate(0, 0, 1), s.Now().AddDate(-4, 0, 0)} {
		on := wrong.Format(time.DateOnly)
		mendable(t, s.Lessons.Log(ctx, s.teacher, in.LessonID, teaching.Taught{TaughtOn: on, Sure: sure}), on)
	}
	require.Error(
		t,
		s.Lessons.Log(
			ctx,
			s.teacher,
			in.LessonID,
			teaching.Taught{Sure: []teaching.Sure{{CardID: s.cards["z"], Sure: 1}}},
		),
	)
}

// A lesson that was made and never logged is asked for on the first page for ten days, no longer.
func TestALessonThatWasNotLoggedIsAskedForTenDays(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	made, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 15))
	require.NoError(t, err)
	asked := func(days int) bool {
		view, err := s.later(time.Duration(days)*24*time.Hour).Today.Today(ctx, s.teacher)
		require.NoError(t, err)
		for _, c := range view.Classes {
			for _, l := range c.Left {
				if l.LessonID == made.LessonID {
					return true
				}
			}
		}
		return false
	}
	assert.True(t, asked(0))
	assert.True(t, asked(9))
	assert.False(t, asked(11))
}
