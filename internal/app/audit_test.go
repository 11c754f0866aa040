package app_test

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
	"brightchalk/internal/library"
	"brightchalk/internal/tx"
)

func (s school) audited(t *testing.T, code audit.Code) []library.AuditFinding {
	t.Helper()
	v, err := s.Audits.Audit(context.Background(), s.assistant)
	require.NoError(t, err)
	assert.Positive(t, v.Takes)
	return slices.DeleteFunc(v.Findings, func(f library.AuditFinding) bool { return f.Code != code })
}

// What was found is mended by one press, left with a reason, and found anew when it changes.
func TestFindingsAreMendedOrLeft(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["m"]
	write := func(action string) {
		c, err := s.Cards.Card(ctx, s.teacher, id)
		require.NoError(t, err)
		c.Content.Action = action
		_, err = s.Cards.Save(ctx, s.teacher, id, c.Version, c.Content)
		require.NoError(t, err)
	}
	require.Empty(t, s.audited(t, audit.Slip), "the demo has no slip of the pen")
	write("Lift the barrle and hum.")
	list := s.audited(t, audit.Slip)
	require.Len(t, list, 1)
	require.ErrorIs(t, s.Audits.Mend(ctx, s.assistant, list[0].Key), tx.ErrForbidden)
	require.NoError(t, s.Audits.Mend(ctx, s.teacher, list[0].Key))
	c, err := s.Cards.Card(ctx, s.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, "Lift the barrel and hum.", c.Content.Action)
	assert.Equal(t, card.Draft, c.State, "what is agreed stays in force")
	require.ErrorIs(t, s.Audits.Mend(ctx, s.teacher, list[0].Key), library.ErrFindingGone)

	names := s.audited(t, audit.SecondName)
	require.NotEmpty(t, names)
	mendable(t, s.Audits.Leave(ctx, s.teacher, names[0].Key, " "))
	require.NoError(t, s.Audits.Leave(ctx, s.teacher, names[0].Key, "We say it each time."))
	after := s.audited(t, audit.SecondName)
	require.NotNil(t, after[0].Left)
	assert.Equal(t, "We say it each time.", after[0].Left.Why)
	require.NoError(t, s.Audits.TakeUp(ctx, s.teacher, names[0].Key))
	assert.Nil(t, s.audited(t, audit.SecondName)[0].Left)
}
