package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"path"
	"reflect"
	"strings"
	"syscall"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

//go:embed sql/*.sql
var statementFiles embed.FS

// DB is a pool or a transaction.
type DB interface {
	Exec(ctx context.Context, sql string, args ...any) (pgconn.CommandTag, error)
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
}

type args = pgx.StrictNamedArgs

// texts are the statements by name. A file holds blocks that begin with "-- name: NAME"; a block that begins with
// "-- part: NAME" is set in wherever {NAME} stands, so that a list of columns is written once.
var texts = func() map[string]string {
	parts, out := map[string]string{}, map[string]string{}
	files, err := fs.Glob(statementFiles, "sql/*.sql")
	if err != nil {
		panic(err)
	}
	for _, file := range files {
		data, err := statementFiles.ReadFile(file)
		if err != nil {
			panic(err)
		}
		for block := range strings.SplitSeq("\n"+string(data), "\n-- ") {
			head, text, _ := strings.Cut(block, "\n")
			kind, name, ok := strings.Cut(head, ": ")
			switch text = strings.TrimSpace(text); {
			case !ok:
			case kind == "name":
				out[name] = text
			case kind == "part":
				parts[name] = text
			default:
				panic("store: " + path.Base(file) + ": " + head)
			}
		}
	}
	for name, text := range out {
		for range 2 { // a part may hold another one
			for part, columns := range parts {
				text = strings.ReplaceAll(text, "{"+part+"}", columns)
			}
		}
		out[name] = text
	}
	return out
}()

// declared are all statements with the Go type of a row, nil for commands; a test prepares each on a real database.
var declared = map[string]reflect.Type{}

func declare(name string, row reflect.Type) string {
	sql, ok := texts[name]
	if _, twice := declared[name]; !ok || twice {
		panic("store: no statement, or twice: " + name)
	}
	declared[name] = row
	return sql
}

// rowQuery is a statement that answers rows, each a struct by its columns' names.
type rowQuery[T any] struct{ name, sql string }

func query[T any](name string) rowQuery[T] {
	return rowQuery[T]{name, declare(name, reflect.TypeFor[T]())}
}

func (s rowQuery[T]) one(ctx context.Context, db DB, a args) (T, error) {
	rows, _ := db.Query(ctx, s.sql, a)
	v, err := pgx.CollectExactlyOneRow(rows, pgx.RowToStructByName[T])
	return v, wrap(s.name, err)
}

func (s rowQuery[T]) many(ctx context.Context, db DB, a args) ([]T, error) {
	rows, _ := db.Query(ctx, s.sql, a)
	v, err := pgx.CollectRows(rows, pgx.RowToStructByName[T])
	if v == nil {
		v = []T{}
	}
	return v, wrap(s.name, err)
}

// valueQuery is a statement that answers one value.
type valueQuery[T any] struct{ name, sql string }

func value[T any](name string) valueQuery[T] {
	return valueQuery[T]{name, declare(name, reflect.TypeFor[T]())}
}

func (s valueQuery[T]) get(ctx context.Context, db DB, a args) (T, error) {
	rows, _ := db.Query(ctx, s.sql, a)
	v, err := pgx.CollectExactlyOneRow(rows, pgx.RowTo[T])
	return v, wrap(s.name, err)
}

// command is a statement that answers nothing.
type command struct{ name, sql string }

func change(name string) command { return command{name, declare(name, nil)} }

// run fails with ErrNotFound where an update finds no row.
func (s command) run(ctx context.Context, db DB, a args) error {
	n, update, err := s.count(ctx, db, a)
	if err == nil && n == 0 && update {
		return fmt.Errorf("%s: %w", s.name, ErrNotFound)
	}
	return err
}

func (s command) count(ctx context.Context, db DB, a args) (rows int64, update bool, err error) {
	tag, err := db.Exec(ctx, s.sql, a)
	return tag.RowsAffected(), tag.Update(), wrap(s.name, err)
}

// each turns rows into what the callers see.
func each[R, T any](rows []R, err error, f func(R) (T, error)) ([]T, error) {
	if err != nil {
		return nil, err
	}
	out := make([]T, len(rows))
	for i, r := range rows {
		if out[i], err = f(r); err != nil {
			return nil, err
		}
	}
	return out, nil
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
	return fmt.Errorf("%s: %w", name, Classify(err))
}

// Classify turns errors of the database that a caller can do something about into ours: ErrBusy where it waited too
// long, for a lock or against another transaction, ErrSign for text that it cannot keep, ErrBroken where it is away.
func Classify(err error) error {
	var pg *pgconn.PgError
	var connect *pgconn.ConnectError
	switch {
	case err == nil, errors.Is(err, context.Canceled):
		return err
	case errors.As(err, &pg):
		switch pg.Code {
		case "57014", "55P03", "40001", "40P01", "53300": // time, lock, serialisation, deadlock, connections
			return fmt.Errorf("%w: %w", ErrBusy, err)
		case "57P01", "57P02", "57P03", "53100", "53200": // stops, crashes, starts; no room on disk or in memory
			return fmt.Errorf("%w: %w", ErrBroken, err)
		case "22021", "22P05": // NUL, no UTF-8
			return fmt.Errorf("%w: %w", ErrSign, err)
		}
		return err
	case errors.As(err, &connect),
		pgconn.Timeout(err),
		pgconn.SafeToRetry(err),
		errors.Is(err, io.EOF),
		errors.Is(err, io.ErrUnexpectedEOF),
		errors.Is(err, net.ErrClosed),
		errors.Is(err, syscall.ECONNRESET),
		errors.Is(err, syscall.EPIPE),
		errors.Is(err, syscall.ECONNREFUSED):
		return fmt.Errorf("%w: %w", ErrBroken, err)
	}
	return err
}
