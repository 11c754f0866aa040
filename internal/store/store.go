// Package store keeps a team's library in PostgreSQL. Every call is for one team; transactions begin in
// package app.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

//go:embed sql/queries.sql
var queryText string

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrTaken    = errors.New("already there")
	ErrChanged  = errors.New("changed in the meantime")
)

// DB is a pool or a transaction.
type DB interface {
	Exec(ctx context.Context, sql string, args ...any) (pgconn.CommandTag, error)
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
}

var queries = func() map[string]string {
	out := map[string]string{}
	for block := range strings.SplitSeq(queryText, "-- name: ") {
		name, text, ok := strings.Cut(block, "\n")
		if ok {
			out[strings.TrimSpace(name)] = strings.TrimSpace(text)
		}
	}
	return out
}()

func query(name string) string {
	q, ok := queries[name]
	if !ok {
		panic("store: no query " + name)
	}
	return q
}

type args = pgx.StrictNamedArgs

// Migrate brings the database to the newest shape.
func Migrate(ctx context.Context, pool *pgxpool.Pool) error {
	db := stdlib.OpenDBFromPool(pool)
	defer func(db *sql.DB) { _ = db.Close() }(db)
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, db, sub)
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrate the database: %w", err)
	}
	return nil
}

func wrap(name string, err error) error {
	var pg *pgconn.PgError
	switch {
	case err == nil:
		return nil
	case errors.Is(err, pgx.ErrNoRows):
		return fmt.Errorf("%s: %w", name, ErrNotFound)
	case errors.As(err, &pg) && pg.Code == "23505":
		return fmt.Errorf("%s: %w", name, ErrTaken)
	case errors.As(err, &pg) && (pg.Code == "23503" || pg.Code == "22P02"): // no such row, or no id at all
		return fmt.Errorf("%s: %w", name, ErrNotFound)
	}
	return fmt.Errorf("%s: %w", name, err)
}

func one[T any](ctx context.Context, db DB, name string, a args) (T, error) {
	rows, _ := db.Query(ctx, query(name), a)
	v, err := pgx.CollectExactlyOneRow(rows, pgx.RowToStructByName[T])
	return v, wrap(name, err)
}

func scalar[T any](ctx context.Context, db DB, name string, a args) (T, error) {
	rows, _ := db.Query(ctx, query(name), a)
	v, err := pgx.CollectExactlyOneRow(rows, pgx.RowTo[T])
	return v, wrap(name, err)
}

func many[T any](ctx context.Context, db DB, name string, a args) ([]T, error) {
	rows, _ := db.Query(ctx, query(name), a)
	v, err := pgx.CollectRows(rows, pgx.RowToStructByName[T])
	if v == nil {
		v = []T{}
	}
	return v, wrap(name, err)
}

func exec(ctx context.Context, db DB, name string, a args) error {
	tag, err := db.Exec(ctx, query(name), a)
	if err != nil {
		return wrap(name, err)
	}
	if tag.RowsAffected() == 0 && tag.Update() {
		return fmt.Errorf("%s: %w", name, ErrNotFound)
	}
	return nil
}
