package store_test

import (
	"bytes"
	"context"
	"log/slog"
	"testing"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

// A slow statement is named, and nothing of what it was asked with reaches the log.
func TestSlowStatementsAreNamed(t *testing.T) {
	ctx := context.Background()
	var log bytes.Buffer
	config := testdb.New(t).Config()
	config.ConnConfig.Tracer = store.Slow{Log: slog.New(slog.NewJSONHandler(&log, nil)), Least: 0}
	pool, err := pgxpool.NewWithConfig(ctx, config)
	require.NoError(t, err)
	defer pool.Close()
	_, err = store.AccountByEmail(ctx, pool, "somebody@lockhouse.example")
	require.ErrorIs(t, err, store.ErrNotFound)
	assert.Contains(t, log.String(), `"statement":"account_by_email"`)
	assert.NotContains(t, log.String(), "somebody")
	log.Reset()
	config.ConnConfig.Tracer = store.Slow{Log: slog.New(slog.NewJSONHandler(&log, nil)), Least: 100 * time.Millisecond}
	patient, err := pgxpool.NewWithConfig(ctx, config)
	require.NoError(t, err)
	defer patient.Close()
	_, err = patient.Exec(ctx, "SELECT 1")
	require.NoError(t, err)
	assert.Empty(t, log.String())
	_, err = patient.Exec(ctx, "SELECT pg_sleep(0.15)")
	require.NoError(t, err)
	assert.Contains(t, log.String(), "slow statement")
}
