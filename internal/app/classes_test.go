package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/planning"
	"brightchalk/internal/tx"
)

// Two classes move up at once, one into the name of the other; what the first knows and how well it is kept goes along.
func TestClassesMoveUp(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	list, err := s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(list), 2)
	one, two := list[0], list[1]
	require.NoError(
		t,
		s.Classes.Declare(ctx, s.lead, one.ClassID, planning.Declaration{Known: true, Words: []string{"the"}}),
	)
	before, err := s.Classes.Class(ctx, s.lead, one.ClassID)
	require.NoError(t, err)
	require.NotEmpty(t, before.Cards)

	require.ErrorIs(t, s.Classes.MoveUp(ctx, s.teacher, []planning.MoveUp{{ClassID: one.ClassID}}), tx.ErrForbidden)
	mendable(t, s.Classes.MoveUp(ctx, s.lead, nil))
	mendable(t, s.Classes.MoveUp(ctx, s.lead, []planning.MoveUp{{ClassID: one.ClassID}, {ClassID: one.ClassID}}))
	mendable(t, s.Classes.MoveUp(ctx, s.lead, []planning.MoveUp{{ClassID: one.ClassID, Name: two.Name, Knows: true}}))
	after, err := s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, list, after, "what was refused changed nothing")

	require.NoError(t, s.Classes.MoveUp(ctx, s.lead, []planning.MoveUp{
		{ClassID: one.ClassID, Name: two.Name, Knows: true},
		{ClassID: two.ClassID, Name: one.Name},
	}))
	after, err = s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	require.Len(t, after, len(list))
	for _, c := range after {
		now, err := s.Classes.Class(ctx, s.lead, c.ClassID)
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
	_, err = s.Classes.Class(ctx, s.lead, one.ClassID)
	require.Error(t, err, "the former class is put aside")
	past, err := s.Classes.PastClasses(ctx, s.teacher)
	require.NoError(t, err)
	require.Len(t, past, 2)
	assert.ElementsMatch(t, []string{one.Name, two.Name}, []string{past[0].MovedTo, past[1].MovedTo})
	mendable(t, s.Classes.ArchiveClass(ctx, s.lead, one.ClassID, false), "its name is in use")
	for _, c := range after {
		if c.Name == one.Name {
			require.NoError(t, s.Classes.RenameClass(ctx, s.teacher, c.ClassID, "Kingfisher class"))
		}
	}
	mendable(t, s.Classes.RenameClass(ctx, s.teacher, after[0].ClassID, " "))
	require.NoError(t, s.Classes.ArchiveClass(ctx, s.lead, one.ClassID, false))
	back, err := s.Classes.Class(ctx, s.lead, one.ClassID)
	require.NoError(t, err)
	assert.Equal(t, before.Cards, back.Cards)
}
