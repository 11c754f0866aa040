// Package backup writes a database to a file by PostgreSQL's own pg_dump, with a list of what every table held at that
// moment, and restores it, and compares.
package backup

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// Table is what a table held: its rows, and an MD5 over all of them in an order that does not depend on where they lie.
type Table struct {
	Name   string `json:"name"`
	Rows   int64  `json:"rows"`
	Digest string `json:"digest"`
}

// Manifest lies beside a backup: FILE.json.
type Manifest struct {
	Format string    `json:"format"`
	MadeAt time.Time `json:"made_at"`
	Build  string    `json:"build"`
	Bytes  int64     `json:"bytes"`
	Tables []Table   `json:"tables"`
}

// Rows are those of all tables.
func (m Manifest) Rows() (n int64) {
	for _, t := range m.Tables {
		n += t.Rows
	}
	return n
}

const format = "bright-chalk-backup 1"

// unkept is a table whose rows stay out: whoever has a backup must not have a session.
const unkept = "sessions"

// Errors that callers tell apart.
var (
	ErrFile     = errors.New("the backup cannot be used")
	ErrNotEmpty = errors.New("the database is not empty")
	ErrTool     = errors.New("PostgreSQL's tools are not found")
)

// ReadManifest names the list that lies beside a backup.
func ReadManifest(file string) string { return file + ".json" }

// Write makes a backup of a database. The file and its list show one moment, whatever is written meanwhile; they are
// there whole or not at all.
func Write(ctx context.Context, at *pgx.ConnConfig, file, build string) (Manifest, error) {
	m := Manifest{Format: format, MadeAt: time.Now().UTC(), Build: build}
	conn, err := connect(ctx, at)
	if err != nil {
		return m, fmt.Errorf("connect: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	tx, err := conn.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return m, err
	}
	defer func() { _ = tx.Rollback(context.WithoutCancel(ctx)) }()
	var snapshot string
	if err := tx.QueryRow(ctx, "SELECT pg_export_snapshot()").Scan(&snapshot); err != nil {
		return m, fmt.Errorf("hold the moment: %w", err)
	}
	part := file + ".part"
	defer func() { _ = os.Remove(part) }()
	if err := os.WriteFile(part, nil, 0o600); err != nil { // it holds everything: nobody else may read it
		return m, err
	}
	err = tool(ctx, at, "pg_dump", at.Database, "--format=custom", "--no-owner", "--no-privileges", "--snapshot="+snapshot,
		"--enable-row-security", "--exclude-table-data="+unkept, "--file="+part)
	if err != nil {
		return m, err
	}
	if m.Tables, err = tables(ctx, tx); err != nil {
		return m, err
	}
	info, err := os.Stat(part)
	if err != nil {
		return m, err
	}
	m.Bytes = info.Size()
	list, err := json.MarshalIndent(m, "", " ")
	if err != nil {
		return m, err
	}
	if err := os.WriteFile(ReadManifest(file), append(list, '\n'), 0o600); err != nil {
		return m, err
	}
	return m, os.Rename(part, file)
}

// Read reads the list beside a backup.
func Read(file string) (Manifest, error) {
	var m Manifest
	data, err := os.ReadFile(ReadManifest(file))
	if err == nil {
		err = json.Unmarshal(data, &m)
	}
	if err != nil {
		return m, fmt.Errorf("%w: its list %s: %w", ErrFile, ReadManifest(file), err)
	}
	if m.Format != format {
		return m, fmt.Errorf("%w: its format is %q, this program reads %q", ErrFile, m.Format, format)
	}
	if info, err := os.Stat(file); err != nil || info.Size() != m.Bytes {
		return m, fmt.Errorf("%w: %s is not there, or not the %d bytes of its list", ErrFile, file, m.Bytes)
	}
	return m, nil
}

// Restore fills an empty database from a backup, and compares every table with the list.
func Restore(ctx context.Context, at *pgx.ConnConfig, file string) (Manifest, error) {
	m, err := Read(file)
	if err != nil {
		return m, err
	}
	conn, err := connect(ctx, at)
	if err != nil {
		return m, fmt.Errorf("connect: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	var there int
	err = conn.QueryRow(ctx, "SELECT count(*) FROM information_schema.tables WHERE table_schema = 'public'").Scan(&there)
	if err != nil {
		return m, err
	}
	if there > 0 {
		return m, fmt.Errorf("%w: %d tables are in %s; make a new one", ErrNotEmpty, there, at.Database)
	}
	err = tool(
		ctx,
		at,
		"pg_restore",
		"",
		"--no-owner",
		"--no-privileges",
		"--exit-on-error",
		"--dbname="+at.Database,
		file,
	)
	if err != nil {
		return m, err
	}
	got, err := tables(ctx, conn)
	if err != nil {
		return m, err
	}
	return m, compare(m.Tables, got)
}

// Verify restores a backup into a database of its own on the same server, compares, and drops it.
func Verify(ctx context.Context, at *pgx.ConnConfig, file string) error {
	conn, err := connect(ctx, at)
	if err != nil {
		return fmt.Errorf("connect: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	name := "verify_" + strconv.FormatInt(time.Now().UnixNano(), 36)
	if _, err := conn.Exec(ctx, "CREATE DATABASE "+name); err != nil {
		return fmt.Errorf("make a database to restore into: %w", err)
	}
	defer func() {
		_, _ = conn.Exec(context.WithoutCancel(ctx), "DROP DATABASE "+name+" WITH (FORCE)")
	}()
	there := at.Copy()
	there.Database = name
	_, err = Restore(ctx, there, file)
	return err
}

// seesAll is a setting of a session that sees the rows of all teams.
const seesAll = "chalk.team=*"

func connect(ctx context.Context, at *pgx.ConnConfig) (*pgx.Conn, error) {
	own := at.Copy()
	name, value, _ := strings.Cut(seesAll, "=")
	own.RuntimeParams[name] = value
	return pgx.ConnectConfig(ctx, own)
}

type querier interface {
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
}

// tables are what every table holds, but for the one that is not kept.
func tables(ctx context.Context, q querier) ([]Table, error) {
	rows, _ := q.Query(ctx, `SELECT table_name FROM information_schema.tables
		WHERE table_schema = 'public' AND table_type = 'BASE TABLE' AND table_name <> $1 ORDER BY table_name`, unkept)
	names, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err != nil {
		return nil, fmt.Errorf("list the tables: %w", err)
	}
	var out []Table
	for _, name := range names {
		t := Table{Name: name}
		err := q.QueryRow(ctx, fmt.Sprintf(`SELECT count(*), md5(coalesce(string_agg(h, '' ORDER BY h), ''))
			FROM (SELECT md5(t::text) AS h FROM %s t) x`, pgx.Identifier{name}.Sanitize())).Scan(&t.Rows, &t.Digest)
		if err != nil {
			return nil, fmt.Errorf("read %s: %w", name, err)
		}
		out = append(out, t)
	}
	return out, nil
}

func compare(want, got []Table) error {
	var unlike []string
	for _, w := range want {
		i := slices.IndexFunc(got, func(t Table) bool { return t.Name == w.Name })
		if i < 0 || got[i] != w {
			unlike = append(unlike, w.Name)
		}
	}
	if len(unlike) > 0 || len(want) != len(got) {
		return fmt.Errorf("%w: what came back is not what went in: %s", ErrFile, strings.Join(unlike, ", "))
	}
	return nil
}

// tool runs a program of PostgreSQL. The password goes by the environment, where no list of processes shows it.
func tool(ctx context.Context, at *pgx.ConnConfig, name, database string, args ...string) error {
	path, err := find(name)
	if err != nil {
		return err
	}
	if database != "" {
		args = append(args, "--dbname="+database)
	}
	//nolint:gosec // the program is PostgreSQL's own
	c := exec.CommandContext(ctx, path, args...)
	c.Env = append(os.Environ(), "PGHOST="+at.Host, "PGPORT="+strconv.Itoa(int(at.Port)), "PGUSER="+at.User,
		"PGPASSWORD="+at.Password, "PGOPTIONS=-c "+seesAll)
	if at.TLSConfig != nil {
		c.Env = append(c.Env, "PGSSLMODE=require")
	}
	if text, err := c.CombinedOutput(); err != nil {
		return fmt.Errorf("%s: %w: %s", name, err, strings.TrimSpace(string(text)))
	}
	return nil
}

// find is where a program of PostgreSQL lies: in the path, or where Debian keeps the newest.
func find(name string) (string, error) {
	if found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/" + name); len(found) > 0 {
		slices.SortFunc(found, func(a, b string) int { return version(a) - version(b) })
		return found[len(found)-1], nil
	}
	path, err := exec.LookPath(name)
	if err != nil {
		return "", fmt.Errorf("%w: install postgresql-client for %s", ErrTool, name)
	}
	return path, nil
}

func version(path string) int {
	n, _ := strconv.Atoi(strings.Split(strings.TrimPrefix(path, "/usr/lib/postgresql/"), "/")[0])
	return n
}
