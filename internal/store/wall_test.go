package store_test

import (
	"context"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

// Every table with rows of teams is behind the wall, and the server's role cannot take it down.
func TestEveryTableOfTeamsIsBehindTheWall(t *testing.T) {
	pool := testdb.New(t)
	rows, _ := pool.Query(ctx, `SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid
		WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace AND a.attname = 'team_id' AND NOT a.attisdropped
		AND NOT (c.relrowsecurity AND c.relforcerowsecurity AND EXISTS (
			SELECT 1 FROM pg_policy p WHERE p.polrelid = c.oid AND p.polname = 'own_team'))`)
	open, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	assert.Empty(t, open, "a new table needs the policy own_team: see migration 00023")
	for _, sql := range []string{
		"ALTER TABLE card DISABLE ROW LEVEL SECURITY", "DROP POLICY own_team ON card", "CREATE TABLE more (x int)",
		"DELETE FROM goose_db_version", "SET row_security = off; SELECT * FROM card",
	} {
		_, err := pool.Exec(ctx, sql)
		require.Error(t, err, sql)
	}
}

// A statement that forgets its team finds nothing; one that asks for another team's rows neither finds nor writes them.
func TestAStatementWithoutATeamFindsNothing(t *testing.T) {
	l := open(t)
	other := makeTeam(t, l.db, "Two")
	count := func(q interface {
		QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
	},
	) (n int) {
		t.Helper()
		require.NoError(t, q.QueryRow(ctx, "SELECT count(*) FROM card").Scan(&n))
		return n
	}
	assert.Zero(t, count(l.pool), "no team")
	_, err := store.For(l.pool, l.team).Card(ctx, l.id)
	require.ErrorIs(t, err, store.ErrNotFound, "the query names its team, the transaction does not")
	assert.Equal(t, 1, count(l.db))
	require.NoError(t, store.In(ctx, l.pool, l.team, pgx.TxOptions{}, func(tx pgx.Tx) error {
		assert.Equal(t, 1, count(tx))
		return nil
	}))
	err = store.In(ctx, l.pool, other, pgx.TxOptions{}, func(tx pgx.Tx) error {
		assert.Zero(t, count(tx))
		tag, err := tx.Exec(ctx, "UPDATE card SET step = 99")
		require.NoError(t, err)
		assert.Zero(t, tag.RowsAffected())
		_, err = tx.Exec(ctx, "INSERT INTO word_clue (team_id, word, clue) VALUES ($1, 'lock', 'a gate for boats')", l.team)
		return err
	})
	require.ErrorContains(t, err, "row-level security")
	require.ErrorIs(t, store.In(ctx, l.pool, "'; DROP TABLE card; --", pgx.TxOptions{}, nil), store.ErrNotFound)
	assert.Zero(t, count(l.pool), "a connection forgets the team with the transaction")
}

// What is asked of all teams is one transaction: it is kept, or undone where it fails, and gives its connection back.
func TestAllTeamsInOneStatement(t *testing.T) {
	l := open(t)
	var name string
	require.NoError(t, l.db.QueryRow(ctx, "UPDATE team SET name = 'Three' RETURNING name").Scan(&name))
	require.NoError(t, l.db.QueryRow(ctx, "SELECT name FROM team").Scan(&name))
	assert.Equal(t, "Three", name)
	require.ErrorIs(t, l.db.QueryRow(ctx, "SELECT name FROM team WHERE false").Scan(&name), pgx.ErrNoRows)
	require.Error(t, l.db.QueryRow(ctx, "SELECT no_such FROM team").Scan(&name))
	_, err := l.db.Exec(ctx, "UPDATE team SET name = NULL")
	require.Error(t, err)
	assert.Zero(t, l.pool.Stat().AcquiredConns())
	l.pool.Close()
	require.Error(t, l.db.QueryRow(ctx, "SELECT name FROM team").Scan(&name))
}
