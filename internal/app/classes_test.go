package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/app"
)

// Two classes move up at once, one into the name of the other; what the first knows and how well it is kept goes along.
func TestClassesMoveUp(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	list, err := s.Planning.Classes(ctx, s.lead)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(list), 2)
	one, two := list[0], list[1]
	require.NoError(t, s.Planning.Declare(ctx, s.lead, one.ClassID, app.Declaration{Known: true, Words: []string{"the"}}))
	before, err := s.Planning.Class(ctx, s.lead, one.ClassID)
	require.NoError(t, err)
	require.NotEmpty(t, before.Cards)

	require.ErrorIs(t, s.Planning.MoveUp(ctx, s.teacher, []app.MoveUp{{ClassID: one.ClassID}}), app.ErrForbidden)
	mendable(t, s.Planning.MoveUp(ctx, s.lead, nil))
	mendable(t, s.Planning.MoveUp(ctx, s.lead, []app.MoveUp{{ClassID: one.ClassID}, {ClassID: one.ClassID}}))
	mendable(t, s.Planning.MoveUp(ctx, s.lead, []app.MoveUp{{ClassID: one.ClassID, Name: two.Name, Knows: true}}))
	after, err := s.Planning.Classes(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, list, after, "what was refused changed nothing")

	require.NoError(t, s.Planning.MoveUp(ctx, s.lead, []app.MoveUp{
		{ClassID: one.ClassID, Name: two.Name, Knows: true},
		{ClassID: two.ClassID, Name: one.Name},
	}))
	after, err = s.Planning.Classes(ctx, s.lead)
	require.NoError(t, err)
	require.Len(t, after, len(list))
	for _, c := range after {
		now, err := s.Planning.Class(ctx, s.lead, c.ClassID)
		require.NoError(t, err)
		switch c.Name {
		case two.Name:
			assert.Equal(t, before.Cards, now.Cards)
			assert.Equal(t, before.Next, now.Next)
			assert.Len(t, now.Words, len(before.Words))
		case one.Name:
			assert.Empty(t, now.Cards, "this one begins anew")
		}
	}
	_, err = s.Planning.Class(ctx, s.lead, one.ClassID)
	require.Error(t, err, "the former class is put aside")
	past, err := s.Planning.PastClasses(ctx, s.teacher)
	require.NoError(t, err)
	require.Len(t, past, 2)
	assert.ElementsMatch(t, []string{one.Name, two.Name}, []string{past[0].MovedTo, past[1].MovedTo})
	mendable(t, s.Planning.ArchiveClass(ctx, s.lead, one.ClassID, false), "its name is in use")
	for _, c := range after {
		if c.Name == one.Name {
			require.NoError(t, s.Planning.RenameClass(ctx, s.teacher, c.ClassID, "Kingfisher class"))
		}
	}
	mendable(t, s.Planning.RenameClass(ctx, s.teacher, after[0].ClassID, " "))
	require.NoError(t, s.Planning.ArchiveClass(ctx, s.lead, one.ClassID, false))
	back, err := s.Planning.Class(ctx, s.lead, one.ClassID)
	require.NoError(t, err)
	assert.Equal(t, before.Cards, back.Cards)
}
