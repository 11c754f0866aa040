package backup_test

import (
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/backup"
	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

// A backup that is made while somebody writes shows one moment, comes back the same by digests, and holds no session.
func TestABackupComesBack(t *testing.T) {
	ctx := context.Background()
	pool := testdb.New(t)
	a := app.New(pool, app.Options{Hashing: testdb.Hashing})
	_, err := demo.Load(ctx, a)
	require.NoError(t, err)
	_, err = pool.Exec(ctx, "INSERT INTO sessions (token, data, expiry) VALUES ('secret', '{}', now() + interval '1 day')")
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "chalk.backup")
	everything, owner := store.AllTeams{Pool: pool}, testdb.Owner(t, pool).Config().ConnConfig

	writing, stop := context.WithCancel(ctx)
	var all sync.WaitGroup
	all.Go(func() {
		for writing.Err() == nil {
			_, _ = everything.Exec(ctx, "INSERT INTO class_log (team_id, class_id, card_id, introduced, sureness, met_at)"+
				" SELECT team_id, class_id, card_id, false, 2, now() FROM class_log LIMIT 1")
		}
	})
	m, err := backup.Write(ctx, pool.Config().ConnConfig, file, "a build") // a role that the policies hold
	stop()
	all.Wait()
	require.NoError(t, err)
	assert.Greater(t, m.Rows(), int64(400))
	info, err := os.Stat(file)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	require.NoError(t, backup.Verify(ctx, owner, file))

	empty := testdb.Empty(t)
	_, err = backup.Restore(ctx, empty.Config().ConnConfig, file)
	require.NoError(t, err)
	n, err := store.CountTeams(ctx, empty)
	require.NoError(t, err)
	assert.EqualValues(t, 1, n)
	var sessions int
	require.NoError(t, empty.QueryRow(ctx, "SELECT count(*) FROM sessions").Scan(&sessions))
	assert.Zero(t, sessions)
	counts, err := store.Count(ctx, empty)
	require.NoError(t, err)
	assert.Zero(t, counts.Damaged, "every picture and sound is what its hash says")
	require.NoError(t, store.Migrate(ctx, empty), "a server starts on it")

	_, err = backup.Restore(ctx, empty.Config().ConnConfig, file)
	require.ErrorIs(t, err, backup.ErrNotEmpty)
}

func TestABackupThatIsDamaged(t *testing.T) {
	ctx := context.Background()
	pool := testdb.Owner(t, testdb.New(t))
	at := pool.Config().ConnConfig
	file := filepath.Join(t.TempDir(), "chalk.backup")
	_, err := backup.Write(ctx, at, file, "")
	require.NoError(t, err)
	list, err := os.ReadFile(backup.ReadManifest(file))
	require.NoError(t, err)
	whole, err := os.ReadFile(file)
	require.NoError(t, err)
	keep := func(name string, data []byte) { require.NoError(t, os.WriteFile(name, data, 0o600)) }

	require.ErrorIs(t, backup.Verify(ctx, at, file+"x"), backup.ErrFile, "no such file")
	keep(file, whole[:len(whole)-10])
	require.ErrorIs(t, backup.Verify(ctx, at, file), backup.ErrFile, "cut short")
	half := append([]byte{}, whole...)
	for i := len(half) / 3; i < len(half)/2; i++ {
		half[i] ^= 0xff
	}
	keep(file, half)
	require.Error(t, backup.Verify(ctx, at, file), "damaged inside")
	keep(file, whole)
	keep(backup.ReadManifest(file), []byte(`{"format":"else"}`))
	require.ErrorIs(t, backup.Verify(ctx, at, file), backup.ErrFile)
	keep(backup.ReadManifest(file), list)
	require.NoError(t, backup.Verify(ctx, at, file))
	_, err = pool.Exec(ctx, "CREATE TABLE more (x int)")
	require.NoError(t, err)

	nowhere := at.Copy()
	nowhere.Port = 1
	_, err = backup.Write(ctx, nowhere, filepath.Join(t.TempDir(), "y"), "")
	require.Error(t, err)
	var left []string
	conn, err := pgx.ConnectConfig(ctx, at)
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	rows, _ := conn.Query(ctx, "SELECT datname FROM pg_database WHERE datname LIKE 'verify_%'")
	left, err = pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	assert.Empty(t, left, "what was made to compare is dropped")
}
