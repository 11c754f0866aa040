package main

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

// The doctor finds what was broken on purpose, one thing after the other, and drops what nothing names and no more.
func TestDoctor(t *testing.T) {
	ctx := context.Background()
	pool := testdb.New(t)
	t.Setenv("DATABASE_URL", pool.Config().ConnString())
	everything, owner := store.AllTeams{Pool: pool}, testdb.Owner(t, pool)
	a := app.New(pool, app.Options{Hashing: testdb.Hashing})
	_, err := demo.Load(ctx, a)
	require.NoError(t, err)
	do := func(sql string, args ...any) {
		t.Helper()
		_, err := everything.Exec(ctx, sql, args...)
		require.NoError(t, err)
	}
	shape := func(sql string) {
		t.Helper()
		_, err := owner.Exec(ctx, sql)
		require.NoError(t, err)
	}
	do("UPDATE medium SET created_at = now() - interval '3 days'")
	status, out, errs := call(t, "", "doctor")
	require.Zero(t, status, out+errs)
	for _, want := range []string{
		"✓ migrations", "✓ wall", "✓ clock", "✓ teams", "✓ media", "✓ takes", "✓ pictures", "✓ unused      nothing",
	} {
		assert.Contains(t, out, want)
	}

	// A picture that only a lesson of before names stays; one that nothing names goes; one that just came stays.
	by, _, err := a.Accounts.AsOperator(ctx, demo.SignIns[0].Email)
	require.NoError(t, err)
	s := store.For(everything, by.TeamID)
	kept, err := s.PutMedium(ctx, store.Medium{MediaType: "image/png", Bytes: []byte("of a lesson")})
	require.NoError(t, err)
	_, err = s.PutMedium(ctx, store.Medium{MediaType: "image/png", Bytes: []byte("of nothing")})
	require.NoError(t, err)
	do("UPDATE medium SET created_at = now() - interval '3 days'")
	_, err = s.PutMedium(ctx, store.Medium{MediaType: "image/png", Bytes: []byte("on its way")})
	require.NoError(t, err)
	do(`UPDATE card_version SET content = jsonb_set(content, '{notes}', to_jsonb(encode($1::bytea, 'hex')))
		WHERE card_id = (SELECT card_id FROM card LIMIT 1)`, kept[:])
	status, out, _ = call(t, "", "doctor")
	require.Zero(t, status, out)
	assert.Contains(t, out, "! unused      1 pictures and sounds")
	status, out, _ = call(t, "", "doctor", "--collect", "--json")
	require.Zero(t, status, out)
	assert.Contains(
		t,
		out,
		`{"check":"unused","state":"good","found":"1 pictures and sounds that nothing named are dropped"}`,
	)
	for text, there := range map[string]int{"of a lesson": 1, "of nothing": 0, "on its way": 1} {
		var n int
		require.NoError(t, everything.QueryRow(ctx, "SELECT count(*) FROM medium WHERE bytes = $1", []byte(text)).Scan(&n))
		assert.Equal(t, there, n, text)
	}

	for _, broken := range []struct{ change, back, says string }{
		{"UPDATE member SET paused_at = now() WHERE role = 'lead'", "UPDATE member SET paused_at = NULL", "× teams"},
		{
			"UPDATE medium SET bytes = bytes || '\\x00' WHERE sha256 = (SELECT sha256 FROM take LIMIT 1)",
			"UPDATE medium SET bytes = substr(bytes, 1, length(bytes) - 1) WHERE sha256(bytes) <> sha256", "× media",
		},
		{
			"UPDATE card SET content = jsonb_set(content, '{picture}', '\"00\"') WHERE step = 1",
			"UPDATE card SET content = jsonb_set(content, '{picture}', '\"\"') WHERE step = 1", "× pictures",
		},
		{
			"INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, true)",
			"DELETE FROM goose_db_version WHERE version_id = 9999", "it is older than the database",
		},
		{
			"UPDATE goose_db_version SET is_applied = false WHERE version_id > 3",
			"UPDATE goose_db_version SET is_applied = true", "brings the rest",
		},
	} {
		shape(broken.change)
		status, out, _ = call(t, "", "doctor")
		assert.Equal(t, 1, status, broken.says)
		assert.Contains(t, out, broken.says)
		shape(broken.back)
	}
	status, out, _ = call(t, "", "doctor")
	assert.Zero(t, status, out)
	t.Setenv("DATABASE_URL", "postgres://chalk:pw@127.0.0.1:1/none")
	status, out, _ = call(t, "", "doctor")
	assert.Equal(t, 1, status)
	assert.Contains(t, out, "× database    it does not answer")
	assert.NotContains(t, out, "pw@")

	now := time.Now()
	assert.Equal(t, good, clock(store.ServerState{Clock: now}, now.Add(-time.Second), now.Add(time.Second)).State)
	for _, off := range []time.Duration{-time.Minute, time.Minute} {
		k := clock(store.ServerState{Clock: now.Add(off)}, now, now)
		assert.Equal(t, care, k.State)
		assert.Contains(t, k.Found, "1m0s off")
	}
	assert.Equal(t, wrong, server(store.ServerState{Version: 140010, Durable: true}).State)
	assert.Equal(t, care, server(store.ServerState{Version: 150010, Durable: true, Standby: true}).State)
	assert.Equal(t, care, server(store.ServerState{Version: 150010}).State)
}

// A backup by the command line is verified by the same call, and comes back by another one.
func TestBackupAndRestore(t *testing.T) {
	pool, empty := testdb.New(t), testdb.Empty(t)
	_, err := demo.Load(context.Background(), app.New(pool, app.Options{Hashing: testdb.Hashing}))
	require.NoError(t, err)
	file := t.TempDir() + "/chalk.backup"
	t.Setenv("DATABASE_URL", pool.Config().ConnString())
	t.Setenv("BRIGHT_CHALK_OWNER_URL", testdb.Owner(t, pool).Config().ConnString())
	status, out, errs := call(t, "", "backup", file, "--verify")
	require.Zero(t, status, errs)
	assert.Contains(t, out, "restored beside and the same, row by row")
	status, _, errs = call(t, "", "restore", file)
	assert.Equal(t, 1, status)
	assert.Contains(t, errs, "the database is not empty")
	t.Setenv("DATABASE_URL", testdb.Address(empty))
	t.Setenv("BRIGHT_CHALK_OWNER_URL", empty.Config().ConnString())
	status, out, errs = call(t, "", "restore", file)
	require.Zero(t, status, errs)
	assert.Contains(t, out, "the same row by row")
	status, out, errs = call(t, "", "prepare")
	require.Zero(t, status, errs)
	assert.Contains(t, out, "for "+testdb.Role)
	status, out, _ = call(t, "", "doctor")
	assert.Zero(t, status, out)
	assert.Contains(t, out, "✓ wall")
	status, _, _ = call(t, "", "backup")
	assert.Equal(t, 2, status)
}
