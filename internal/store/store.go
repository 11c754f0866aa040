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

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrTaken    = errors.New("already there")
	ErrChanged  = errors.New("changed in the meantime")
	ErrBusy     = errors.New("the database is busy")
	ErrBroken   = errors.New("the database does not answer")
	ErrSign     = errors.New("a sign that the database cannot keep")
)

// Library is all that one team keeps, seen through a pool or a transaction. No call can reach another team's rows.
type Library struct {
	db   DB
	team string
}

// For is the library of a team.
func For(db DB, teamID string) Library { return Library{db, teamID} }

// with adds the team to the arguments of a statement.
func (l Library) with(a args) args {
	if a == nil {
		a = args{}
	}
	a["team_id"] = l.team
	return a
}

// Migrate brings the database to the newest shape.
func Migrate(ctx context.Context, pool *pgxpool.Pool) error {
	return migrating(ctx, pool, func(p *goose.Provider) error {
		if _, err := p.Up(ctx); err != nil {
			return fmt.Errorf("migrate the database: %w", err)
		}
		return nil
	})
}

// migrating works on connections of its own: rows of all teams may have to change with the shape.
func migrating(ctx context.Context, pool *pgxpool.Pool, f func(p *goose.Provider) error) error {
	config := pool.Config()
	config.MaxConns = 4
	config.ConnConfig.RuntimeParams[teamSetting] = allTeams
	own, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return fmt.Errorf("migrate the database: %w", err)
	}
	defer own.Close()
	db := stdlib.OpenDBFromPool(own)
	defer func(db *sql.DB) { _ = db.Close() }(db)
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	locker, err := lock.NewPostgresSessionLocker() // of several servers that start at once, one migrates
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, db, sub, goose.WithSessionLocker(locker))
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	return f(provider)
}

func nullable(id string) *string {
	if id == "" {
		return nil
	}
	return &id
}
