package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/store"
)

// The demo that people look at has a past: a year of logs, a class that drifted, a lesson left in the middle, a second
// team; it is made once.
func TestTheDemoLives(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	require.NoError(t, demo.Live(ctx, s.App))
	require.NoError(t, demo.Live(ctx, s.App), "again: nothing is made twice")
	classes, err := s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	require.Len(t, classes, 4)
	m := s.sheet(t)
	require.NotEmpty(t, m.Drifts)
	assert.Equal(t, "rhyme", m.Drifts[0].Part)
	assert.NotEmpty(t, m.Outdated)
	assert.NotEmpty(t, m.Unfinished)
	assert.NotEmpty(t, m.Everywhere)
	var rows, days int
	require.NoError(
		t,
		store.AllTeams{
			Pool: s.Pool,
		}.QueryRow(ctx, `SELECT count(*), max(met_at)::date - min(met_at)::date FROM class_log
		JOIN school_class USING (class_id) WHERE name = 'Wren class'`).
			Scan(&rows, &days),
	)
	assert.Greater(t, rows, 200)
	assert.Greater(t, days, 300)
	seats, err := s.Accounts.Seats(ctx, s.teacher)
	require.NoError(t, err)
	assert.Len(t, seats, 2)
	wall, err := s.Cards.Wall(ctx, s.lead, false)
	require.NoError(t, err)
	complete := 0
	for _, c := range wall {
		if len(c.Gaps) == 0 {
			complete++
		}
	}
	assert.GreaterOrEqual(t, complete, 45)
}
