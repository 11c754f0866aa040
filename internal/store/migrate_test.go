package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

// Every migration goes up, down to nothing, and up again.
func TestMigrationsGoBothWays(t *testing.T) {
	ctx := context.Background()
	pool := testdb.Owner(t, testdb.New(t))
	require.NoError(t, store.MigrateTo(ctx, pool, 0))
	require.NoError(t, store.Migrate(ctx, pool))
	v, err := store.SchemaVersion(ctx, pool)
	require.NoError(t, err)
	assert.Equal(t, store.NewestSchema(), v)
}

// Members of before become accounts and members, with their passwords and second steps; somebody who had left and came
// under a new row is one account; back again, who works in two teams keeps the address in one.
func TestAccountsOutOfMembers(t *testing.T) {
	ctx := context.Background()
	pool := testdb.Empty(t)
	require.NoError(t, store.MigrateTo(ctx, pool, 19))
	id := func(n string) string { return "00000000-0000-0000-0000-00000000000" + n }
	do := func(sql string, args ...any) {
		t.Helper()
		_, err := pool.Exec(ctx, sql, args...)
		require.NoError(t, err)
	}
	do("INSERT INTO team (team_id, name, conventions) VALUES ($1, 'A', '{}'), ($2, 'B', '{}')", id("a"), id("b"))
	for _, m := range []struct {
		id, team, email, hash string
		left, erased          bool
	}{
		{"1", "a", "One@x.example", "h1", false, false},
		{"2", "a", "two@x.example", "old", true, false},
		{"3", "b", "Two@x.example", "h2", false, false},
		{"4", "b", "4@erased.invalid", "", true, true},
	} {
		do(`INSERT INTO member (member_id, team_id, email, name, initials, role, password_hash, archived_at, erased_at)
			VALUES ($1, $2, $3, 'Name', 'N', 'lead', $4, CASE WHEN $5 THEN now() END, CASE WHEN $6 THEN now() END)`,
			id(m.id), id(m.team), m.email, m.hash, m.left, m.erased)
	}
	do("INSERT INTO second_factor (member_id, team_id, secret) VALUES ($1, $2, 'S')", id("3"), id("b"))
	require.NoError(t, store.MigrateTo(ctx, pool, 20))
	one, err := store.MemberByEmail(ctx, pool, "one@X.example")
	require.NoError(t, err)
	assert.Equal(t, "h1", one.PasswordHash)
	two, err := store.MemberByEmail(ctx, pool, "two@x.example")
	require.NoError(t, err)
	assert.Equal(t, "h2", two.PasswordHash, "the one that works, not the one that left")
	f, err := store.For(pool, "").SecondFactor(ctx, two.AccountID)
	require.NoError(t, err)
	assert.Equal(t, "S", f.Secret)
	var accounts int
	require.NoError(t, pool.QueryRow(ctx, "SELECT count(*) FROM account").Scan(&accounts))
	assert.Equal(t, 2, accounts)
	_, err = store.For(pool, id("a")).CreateMember(ctx, store.Member{
		AccountID: two.AccountID, Name: "Two", Initials: "T2", Role: "assistant",
	})
	require.NoError(t, err)

	require.NoError(t, store.MigrateTo(ctx, pool, 19))
	var hash, secret string
	require.NoError(t, pool.QueryRow(ctx, `SELECT m.password_hash, f.secret
		FROM member m JOIN second_factor f USING (member_id) WHERE lower(m.email) = 'two@x.example'`).Scan(&hash, &secret))
	assert.Equal(t, "h2", hash)
	assert.Equal(t, "S", secret)
	require.NoError(t, store.Migrate(ctx, pool))
}

// A migration that breaks off at any moment leaves a shape that is whole, from which the next one goes on.
func TestAMigrationThatBreaksOff(t *testing.T) {
	pool := testdb.Empty(t)
	began := time.Now()
	require.NoError(t, store.Migrate(context.Background(), pool))
	whole := time.Since(began)
	require.NoError(t, store.MigrateTo(context.Background(), pool, 0))
	broke := 0
	for i := range 12 {
		ctx, cancel := context.WithTimeout(context.Background(), whole*time.Duration(i+1)/14)
		err := store.Migrate(ctx, pool)
		cancel()
		if err != nil {
			broke++
		}
		v, err := store.SchemaVersion(context.Background(), pool)
		if err != nil {
			continue // it broke off before the first step
		}
		var tables int
		require.NoError(t, pool.QueryRow(context.Background(), `SELECT count(*) FROM information_schema.tables
			WHERE table_schema = 'public' AND table_name IN ('job', 'account', 'review')`).Scan(&tables))
		want := 0
		for _, from := range []int64{13, 20, 24} {
			if v >= from {
				want++
			}
		}
		assert.Equal(t, want, tables, "shape %d", v)
	}
	assert.Positive(t, broke)
	require.NoError(t, store.Migrate(context.Background(), pool))
	assert.True(t, store.Migrated(context.Background(), pool))
}
