package tx

import (
	"context"
	"testing"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

// Two databases with the same team under two names show which one answered.
func TestReadsAfterAnOwnWriteGoToThePrimary(t *testing.T) {
	ctx := context.Background()
	teamID := ""
	named := func(name string) *pgxpool.Pool {
		pool := testdb.New(t)
		owner := testdb.Owner(t, pool)
		if teamID == "" {
			var err error
			teamID, err = store.CreateTeam(ctx, owner, name, convention.Conventions{Accent: phoneme.SouthernBritish})
			require.NoError(t, err)
			return pool
		}
		_, err := owner.Exec(ctx, "INSERT INTO team (team_id, name, conventions) VALUES ($1, $2, '{}')", teamID, name)
		require.NoError(t, err)
		return pool
	}
	env := NewEnv(named("primary"), named("replica"), time.Now, func() uint64 { return 1 })
	caughtUp := true
	env.Replica.replayed = func(context.Context, string) (bool, error) { return caughtUp, nil }
	answeredBy := func(by Actor) string {
		t.Helper()
		team, err := Read(ctx, env, by, func(s store.Library) (store.Team, error) { return s.Team(ctx) })
		require.NoError(t, err)
		return team.Name
	}
	seen := func() Actor { return ActorSeen(store.Seen{TeamID: teamID, Role: string(Lead), At: "0/1"}) }
	by := seen()
	assert.Equal(t, "replica", answeredBy(by), "it has replayed all that the request could have seen")
	caughtUp = false
	assert.Equal(t, "primary", answeredBy(by), "the replica is behind")
	caughtUp = true
	require.NoError(t, Exec(ctx, env, by, MayEdit, func(store.Library) error { return nil }))
	assert.Equal(t, "primary", answeredBy(by), "what the request has written must be seen by it")
	assert.Equal(t, "replica", answeredBy(seen()), "another request begins anew")
}
