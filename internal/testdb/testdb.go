// Package testdb gives each test a database of its own on the real PostgreSQL that ./chalk test starts.
package testdb

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/store"
)

// Variable names the environment variable with the address of the server.
const Variable = "BRIGHT_CHALK_TEST_DATABASE_URL"

// New makes an empty, migrated database that is dropped when the test ends.
func New(t testing.TB) *pgxpool.Pool {
	t.Helper()
	pool := Empty(t)
	require.NoError(t, store.Migrate(context.Background(), pool))
	return pool
}

// Empty makes a database without a table that is dropped when the test ends.
func Empty(t testing.TB) *pgxpool.Pool {
	t.Helper()
	base := os.Getenv(Variable)
	if base == "" {
		t.Skipf("%s is not set; ./chalk test sets it", Variable)
	}
	ctx := context.Background()
	admin, err := pgx.Connect(ctx, base)
	require.NoError(t, err)
	name := "test_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	_, err = admin.Exec(ctx, "CREATE DATABASE "+name)
	require.NoError(t, err)
	at, err := url.Parse(base)
	require.NoError(t, err)
	at.Path = "/" + name
	pool, err := pgxpool.New(ctx, at.String())
	require.NoError(t, err)
	t.Cleanup(func() {
		pool.Close()
		ctx, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		if _, err := admin.Exec(ctx, fmt.Sprintf("DROP DATABASE %s WITH (FORCE)", name)); err != nil {
			t.Log("drop test database:", err)
		}
		_ = admin.Close(ctx)
	})
	return pool
}

// Hashing makes passwords cheap to check, for tests alone.
var Hashing = &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 16}
