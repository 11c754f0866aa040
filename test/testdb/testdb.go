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
	"sync"
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
	return With(t, "", func(context.Context, *pgxpool.Pool) error { return nil })
}

// With is New with what fill puts in. That is done once for each name in a run of a package, and copied: fill must
// give the same whenever it is called.
func With(t testing.TB, name string, fill func(context.Context, *pgxpool.Pool) error) *pgxpool.Pool {
	t.Helper()
	ctx := context.Background()
	owner := database(t, models.of(t, name, fill))
	pool, err := pgxpool.New(ctx, Address(owner))
	require.NoError(t, err)
	t.Cleanup(pool.Close)
	return pool
}

// models are databases that are copied, by name.
var models = modelList{made: map[string]string{}}

type modelList struct {
	sync.Mutex
	made map[string]string // names of databases
}

func (l *modelList) of(t testing.TB, name string, fill func(context.Context, *pgxpool.Pool) error) string {
	t.Helper()
	l.Lock()
	defer l.Unlock()
	if made, ok := l.made[name]; ok {
		return made
	}
	ctx := context.Background()
	admin := connect(ctx, t)
	defer func() { _ = admin.Close(ctx) }()
	made := newName()
	_, err := admin.Exec(ctx, "CREATE DATABASE "+made)
	require.NoError(t, err)
	l.made[name] = made // also where it fails, so that Main drops it
	owner, err := pgxpool.New(ctx, at(t, made))
	require.NoError(t, err)
	defer owner.Close()
	require.NoError(t, store.Migrate(ctx, owner))
	require.NoError(t, store.Admit(ctx, owner, Role, password))
	pool, err := pgxpool.New(ctx, Address(owner))
	require.NoError(t, err)
	defer pool.Close()
	require.NoError(t, fill(ctx, pool))
	return made
}

// Main runs the tests of a package that makes databases, and drops what they were copied from. It goes into TestMain;
// after is what else must be put away.
func Main(m *testing.M, after ...func()) {
	code := m.Run()
	for _, f := range after {
		f()
	}
	ctx := context.Background()
	if admin, err := pgx.Connect(ctx, os.Getenv(Variable)); err == nil {
		for _, name := range models.made {
			if err := drop(ctx, admin, name); err != nil {
				fmt.Fprintln(os.Stderr, "drop a model of the test databases:", err)
			}
		}
		_ = admin.Close(ctx)
	}
	os.Exit(code)
}

// Owner is the database of a pool of New, as its owner sees it.
func Owner(t testing.TB, pool *pgxpool.Pool) *pgxpool.Pool {
	t.Helper()
	owner, err := pgxpool.New(context.Background(), at(t, pool.Config().ConnConfig.Database))
	require.NoError(t, err)
	t.Cleanup(owner.Close)
	return owner
}

// at is the address of a database, for its owner.
func at(t testing.TB, name string) string {
	t.Helper()
	out, err := url.Parse(os.Getenv(Variable))
	require.NoError(t, err)
	out.Path = "/" + name
	return out.String()
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
	return database(t, "template1")
}

// database is a copy of another one.
func database(t testing.TB, model string) *pgxpool.Pool {
	t.Helper()
	ctx := context.Background()
	admin := connect(ctx, t)
	name := newName()
	_, err := admin.Exec(ctx, fmt.Sprintf("CREATE DATABASE %s TEMPLATE %s", name, model))
	require.NoError(t, err)
	pool, err := pgxpool.New(ctx, at(t, name))
	require.NoError(t, err)
	t.Cleanup(func() {
		pool.Close()
		ctx, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		if err := drop(ctx, admin, name); err != nil {
			t.Log("drop test database:", err)
		}
		_ = admin.Close(ctx)
	})
	return pool
}

func connect(ctx context.Context, t testing.TB) *pgx.Conn {
	t.Helper()
	base := os.Getenv(Variable)
	if base == "" {
		t.Skipf("%s is not set; ./chalk test sets it", Variable)
	}
	admin, err := pgx.Connect(ctx, base)
	require.NoError(t, err)
	return admin
}

func newName() string { return "test_" + strings.ReplaceAll(uuid.NewString(), "-", "") }

func drop(ctx context.Context, admin *pgx.Conn, name string) error {
	_, err := admin.Exec(ctx, fmt.Sprintf("DROP DATABASE IF EXISTS %s WITH (FORCE)", name))
	return err
}

// Hashing makes passwords cheap to check, for tests alone.
var Hashing = &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 16}
