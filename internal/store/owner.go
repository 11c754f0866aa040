package store

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
)

// grants are what the application's role may do; the shape of the tables is their owner's.
const grants = `GRANT USAGE ON SCHEMA public TO app_role;
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO app_role;
REVOKE INSERT, UPDATE, DELETE ON goose_db_version FROM app_role;
GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO app_role`

// Tool opens a database as a server sees it, at its newest shape, and as its owner does; both are closed by the caller.
// It is for what measures: the addresses are DATABASE_URL and, where the role is not the owner, BRIGHT_CHALK_OWNER_URL.
func Tool(ctx context.Context, role, owner string) (server, all *pgxpool.Pool, err error) {
	if role == "" {
		return nil, nil, errors.New("DATABASE_URL is not set: it needs a database of its own")
	}
	if owner == "" {
		owner = role
	}
	config, err := pgxpool.ParseConfig(role)
	if err != nil {
		return nil, nil, err
	}
	config.MaxConns = 12 // as of a server
	if all, err = pgxpool.New(ctx, owner); err != nil {
		return nil, nil, err
	}
	if err = Migrate(ctx, all); err == nil && owner != role {
		err = Admit(ctx, all, config.ConnConfig.User, config.ConnConfig.Password)
	}
	if err == nil {
		server, err = pgxpool.NewWithConfig(ctx, config)
	}
	if err != nil {
		all.Close()
	}
	return server, all, err
}

// bounds are what the application's role waits for; servers ask for the same, but a pooler passes no settings on.
const bounds = `ALTER ROLE app_role SET statement_timeout = '15s';
ALTER ROLE app_role SET lock_timeout = '5s';
ALTER ROLE app_role SET idle_in_transaction_session_timeout = '60s'`

// Guarded tells whether the second wall stands for who asks: false for a superuser, whom no policy holds.
func Guarded(ctx context.Context, db DB) (bool, error) { return guarded.get(ctx, db, args{}) }

// Admit lets a role read and write the rows of the tables, but not change their shape. A role that is not there yet is
// made, with the password; that of one which is there stays.
func Admit(ctx context.Context, owner *pgxpool.Pool, role, password string) error {
	err := pgx.BeginFunc(ctx, owner, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "SELECT pg_advisory_xact_lock(hashtext('bright chalk role'))"); err != nil {
			return err
		}
		there, err := roleThere.get(ctx, tx, args{"role": role})
		if err != nil {
			return err
		}
		name := pgx.Identifier{role}.Sanitize()
		if !there {
			secret, err := tx.Conn().PgConn().EscapeString(password)
			if err != nil {
				return err
			}
			if _, err := tx.Exec(ctx, "CREATE ROLE "+name+" LOGIN NOINHERIT PASSWORD '"+secret+"'"); err != nil {
				return err
			}
		}
		if _, err = tx.Exec(ctx, strings.ReplaceAll(grants, "app_role", name)); err != nil {
			return err
		}
		err = pgx.BeginFunc(ctx, tx, func(tx pgx.Tx) error {
			_, err := tx.Exec(ctx, strings.ReplaceAll(bounds, "app_role", name))
			return err
		})
		var pg *pgconn.PgError
		if errors.As(err, &pg) &&
			pg.Code == "42501" { // an owner who may not change roles; somebody else has set them, or servers do
			err = nil
		}
		return err
	})
	if err != nil {
		return fmt.Errorf("let %s in: %w", role, err)
	}
	return nil
}
