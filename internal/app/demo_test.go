package app_test

import (
	"context"
	"testing"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

// demoApp is over a database of its own with the demo of a morning in November.
func demoApp(t testing.TB) *app.App {
	t.Helper()
	options := func() app.Options {
		seed := uint64(0)
		return app.Options{
			Now:     func() time.Time { return time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC) },
			Seed:    func() uint64 { seed++; return seed },
			Hashing: testdb.Hashing,
		}
	}
	return app.New(testdb.With(t, "demo", func(ctx context.Context, pool *pgxpool.Pool) error {
		_, err := demo.Load(ctx, app.New(pool, options()))
		return err
	}), options())
}
