// Package testdb gives each test a database of its own on the real PostgreSQL that ./chalk test starts.
package testdb

import (
	"context"
	"fmt"
	"net"
	"net/url"
	"os"
	"strconv"
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

// Role of the pool of New, as that of a server: it does not own the tables.
const (
	Role     = "chalk_app"
	password = "lets a test in" //nolint:gosec // of a database that lives as long as a test
)

// New makes an empty, migrated database that is dropped when the test ends, as a server sees it.
func New(t testing.TB) *pgxpool.Pool {
	t.Helper()
	owner := Empty(t)
	ctx := context.Background()
	require.NoError(t, store.Migrate(ctx, owner))
	require.NoError(t, store.Admit(ctx, owner, Role, password))
	pool, err := pgxpool.New(ctx, Address(owner))
	require.NoError(t, err)
	t.Cleanup(pool.Close)
	return pool
}

// Owner is the database of a pool of New, as its owner sees it.
func Owner(t testing.TB, pool *pgxpool.Pool) *pgxpool.Pool {
	t.Helper()
	at, err := url.Parse(os.Getenv(Variable))
	require.NoError(t, err)
	at.Path = "/" + pool.Config().ConnConfig.Database
	owner, err := pgxpool.New(context.Background(), at.String())
	require.NoError(t, err)
	t.Cleanup(owner.Close)
	return owner
}

// Address of the database of a pool, for the role of a server.
func Address(pool *pgxpool.Pool) string {
	at := pool.Config().ConnConfig
	return (&url.URL{
		Scheme: "postgres", User: url.UserPassword(Role, password),
		Host: net.JoinHostPort(at.Host, strconv.Itoa(int(at.Port))),
		Path: "/" + at.Database, RawQuery: "sslmode=disable",
	}).String()
}

// Empty makes a database without a table that is dropped when the test ends, as its owner sees it.
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
