package store

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
)

// teamSetting names the setting that the policies of the tables read: the id of a team, or allTeams. Without it a
// transaction sees no row of any team.
const (
	teamSetting = "chalk.team"
	allTeams    = "*"
)

// In runs f in a transaction that sees the rows of one team, whatever its statements ask for; "" sees none.
func In(ctx context.Context, pool *pgxpool.Pool, teamID string, o pgx.TxOptions, f func(tx pgx.Tx) error) error {
	if teamID != "" && uuid.Validate(teamID) != nil { // it becomes part of a statement
		return fmt.Errorf("team %q: %w", teamID, ErrNotFound)
	}
	return pgx.BeginTxFunc(ctx, pool, named(o, teamID), f)
}

// named begins a transaction and names what it sees in one round trip.
func named(o pgx.TxOptions, team string) pgx.TxOptions {
	begin := []string{"BEGIN"}
	if o.IsoLevel != "" {
		begin = append(begin, "ISOLATION LEVEL", string(o.IsoLevel))
	}
	begin = append(begin, string(o.AccessMode))
	o.BeginQuery = strings.Join(begin, " ") + "; SET LOCAL " + teamSetting + " = '" + team + "'"
	return o
}

// AllTeams sees the rows of all teams, each statement in a transaction of its own. It is for what comes before a team
// is known, such as a sign-in, and for who looks after an installation.
type AllTeams struct{ Pool *pgxpool.Pool }

// Begin runs f in one transaction.
func (a AllTeams) Begin(ctx context.Context, f func(tx pgx.Tx) error) error {
	return pgx.BeginTxFunc(ctx, a.Pool, named(pgx.TxOptions{}, allTeams), f)
}

// Exec is as of a pool.
func (a AllTeams) Exec(ctx context.Context, sql string, args ...any) (tag pgconn.CommandTag, err error) {
	err = a.Begin(ctx, func(tx pgx.Tx) error {
		tag, err = tx.Exec(ctx, sql, args...)
		return err
	})
	return tag, err
}

// Query is as of a pool; the transaction ends when the rows are closed.
func (a AllTeams) Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error) {
	tx, err := a.Pool.BeginTx(ctx, named(pgx.TxOptions{}, allTeams))
	if err != nil {
		return refused{err: err}, err
	}
	rows, err := tx.Query(ctx, sql, args...)
	return &lastRows{Rows: rows, ctx: ctx, tx: tx}, err
}

// QueryRow is as of a pool.
func (a AllTeams) QueryRow(ctx context.Context, sql string, args ...any) pgx.Row {
	rows, _ := a.Query(ctx, sql, args...)
	return firstRow{rows}
}

// lastRows are the last that a transaction does.
type lastRows struct {
	pgx.Rows
	ctx    context.Context //nolint:containedctx // of the query, which these rows belong to
	tx     pgx.Tx
	closed bool
	failed error
}

// Close commits what the statement changed.
func (r *lastRows) Close() {
	r.Rows.Close()
	if r.closed {
		return
	}
	r.closed = true
	if r.Rows.Err() != nil {
		_ = r.tx.Rollback(context.WithoutCancel(r.ctx))
		return
	}
	r.failed = r.tx.Commit(r.ctx)
}

// Next closes after the last row, as rows of a pool do.
func (r *lastRows) Next() bool {
	if r.Rows.Next() {
		return true
	}
	r.Close()
	return false
}

// Err is also why the change could not be committed.
func (r *lastRows) Err() error {
	if err := r.Rows.Err(); err != nil {
		return err
	}
	return r.failed
}

type firstRow struct{ rows pgx.Rows }

func (r firstRow) Scan(dest ...any) error {
	defer r.rows.Close()
	if err := r.rows.Err(); err != nil {
		return err
	}
	if !r.rows.Next() {
		if err := r.rows.Err(); err != nil {
			return err
		}
		return pgx.ErrNoRows
	}
	if err := r.rows.Scan(dest...); err != nil {
		return err
	}
	r.rows.Close()
	return r.rows.Err()
}

// refused are the rows of a query that could not begin.
type refused struct {
	pgx.Rows
	err error
}

func (r refused) Close()                        {}
func (r refused) Err() error                    { return r.err }
func (r refused) Next() bool                    { return false }
func (r refused) CommandTag() pgconn.CommandTag { return pgconn.CommandTag{} }
