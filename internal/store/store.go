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
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivermigrate"
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

// Migrate brings the database to the newest shape, that of the queue of jobs too.
func Migrate(ctx context.Context, pool *pgxpool.Pool) error {
	return migrating(ctx, pool, func(p *goose.Provider) error {
		if _, err := p.Up(ctx); err != nil {
			return fmt.Errorf("migrate the database: %w", err)
		}
		return nil
	})
}

// MigrateTo brings the database to a shape, up or down: down is for who goes back to a former version of the program.
// What the newer shape kept beyond the older one is gone then. The queue's tables stay.
func MigrateTo(ctx context.Context, pool *pgxpool.Pool, version int64) error {
	return migrating(ctx, pool, func(p *goose.Provider) error {
		now, err := p.GetDBVersion(ctx)
		if err != nil {
			return err
		}
		if version < now {
			_, err = p.DownTo(ctx, version)
		} else {
			_, err = p.UpTo(ctx, version)
		}
		if err != nil {
			return fmt.Errorf("bring the database to shape %d: %w", version, err)
		}
		return nil
	})
}

// Migrated tells whether nothing is left to do for Migrate.
func Migrated(ctx context.Context, pool *pgxpool.Pool) bool {
	has, err := SchemaVersion(ctx, pool)
	if err != nil || has < NewestSchema() {
		return false
	}
	queue, err := rivermigrate.New(riverpgxv5.New(pool), nil)
	if err != nil {
		return false
	}
	state, err := queue.Validate(ctx, nil)
	return err == nil && state.OK
}

// migrateQueue brings the queue's tables to their newest shape. One server does so, others wait.
func migrateQueue(ctx context.Context, pool *pgxpool.Pool) error {
	err := pool.AcquireFunc(ctx, func(conn *pgxpool.Conn) error {
		if _, err := conn.Exec(ctx, "SELECT pg_advisory_lock(hashtext('bright chalk queue'))"); err != nil {
			return err
		}
		defer func() {
			_, _ = conn.Exec(context.WithoutCancel(ctx), "SELECT pg_advisory_unlock(hashtext('bright chalk queue'))")
		}()
		queue, err := rivermigrate.New(riverpgxv5.New(pool), nil)
		if err != nil {
			return err
		}
		_, err = queue.Migrate(ctx, rivermigrate.DirectionUp, nil)
		return err
	})
	if err != nil {
		return fmt.Errorf("migrate the queue of jobs: %w", err)
	}
	return nil
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
	if err := f(provider); err != nil {
		return err
	}
	return migrateQueue(ctx, own)
}

func nullable(id string) *string {
	if id == "" {
		return nil
	}
	return &id
}
