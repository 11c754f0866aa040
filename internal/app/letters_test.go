package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/tx"
)

func TestTheTeamsLinesAndLettersReachTheLesson(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	team, err := s.Settings.Team(ctx, s.lead)
	require.NoError(t, err)
	c := team.Conventions
	c.Lines.Base.Name, c.Lines.HeightMM = "quay", 10
	require.ErrorIs(t, s.Settings.SetConventions(ctx, s.teacher, c), tx.ErrForbidden)
	require.NoError(t, s.Settings.SetConventions(ctx, s.lead, c))
	v, err := s.Letters.Write(ctx, s.assistant, "n", nil)
	require.NoError(t, err)
	assert.Contains(t, v.Strokes[0].Words, "to the quay")
	assert.Empty(t, v.Findings)

	own := *v.Letter
	own.Strokes = []strokes.Stroke{own.Strokes[0]}
	own.Strokes[0].Segments = own.Strokes[0].Segments[:1] // a stick: no n, but well placed
	require.ErrorIs(t, s.Letters.Save(ctx, s.assistant, own), tx.ErrForbidden)
	require.NoError(t, s.Letters.Save(ctx, s.teacher, own))
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["n"], 20))
	require.NoError(t, err)
	require.NotNil(t, in.Lesson.Target().Writing)
	assert.InDelta(t, 1, in.Lesson.Target().Writing.Strokes[0].Length, 1e-9, "the team's own form")
	assert.Equal(t, "quay", in.Lesson.Target().Writing.Lines[2].Name)
	require.NoError(t, s.Letters.Reset(ctx, s.lead, "n"))
	v, err = s.Letters.Write(ctx, s.lead, "n", []string{"Down the mast, over the wave."})
	require.NoError(t, err)
	assert.False(t, v.Own)
	assert.Equal(t, "Down the mast, over the wave.", v.Strokes[0].Words)
}

func TestBadLettersAreRefusedWithAReason(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	high, _ := strokes.Of("h")
	high = high.Map(func(p strokes.Point) strokes.Point { p.Y += 0.5; return p })
	require.ErrorContains(t, s.Letters.Save(ctx, s.lead, high), "Passes the top line")
	require.Error(t, s.Letters.Save(ctx, s.lead, strokes.Letter{Sign: "ab", Strokes: high.Strokes}))
	require.Error(t, s.Letters.Save(ctx, s.lead, strokes.Letter{Sign: "a"}))
	_, err := s.Letters.Write(ctx, s.lead, "é", nil)
	require.ErrorContains(t, err, "no strokes for")
	_, err = s.Letters.Write(ctx, s.lead, "", nil)
	require.Error(t, err)
}

func TestThePlaceOfALetterIsAFieldOfItsOwn(t *testing.T) {
	base := card.Content{}
	mine, theirs := base, base
	mine.Place = &card.Place{X: 0.2, Y: 0.8, Size: 0.4}
	theirs.Rhyme = "A rhyme."
	merged, conflicts := card.Merge(base, mine, theirs)
	assert.Empty(t, conflicts)
	assert.Equal(t, mine.Place, merged.Place)
	assert.Equal(t, "A rhyme.", merged.Rhyme)
	assert.Equal(t, []string{"place"}, card.Changed(base, mine))
}
