package store_test

import (
	"context"
	"reflect"
	"regexp"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

var named = regexp.MustCompile(`@([a-z_0-9]+)`)

// Every statement is prepared on a real database, so that a wrong name cannot wait for a user, and its columns are
// those of the struct that takes its rows.
func TestEveryStatementCanBePrepared(t *testing.T) {
	ctx := context.Background()
	conn, err := testdb.New(t).Acquire(ctx)
	require.NoError(t, err)
	defer conn.Release()
	assert.Len(t, store.Declared, len(store.Texts), "each statement is used by one function")
	for name, row := range store.Declared {
		a := pgx.NamedArgs{}
		for _, m := range named.FindAllStringSubmatch(store.Texts[name], -1) {
			a[m[1]] = nil
		}
		sql, _, err := a.RewriteQuery(ctx, conn.Conn(), store.Texts[name], nil)
		require.NoError(t, err, name)
		prepared, err := conn.Conn().Prepare(ctx, name, sql)
		if !assert.NoError(t, err, name) {
			continue
		}
		var columns []string
		for _, f := range prepared.Fields {
			columns = append(columns, f.Name)
		}
		switch {
		case row == nil:
			assert.Empty(t, columns, "%s answers nothing", name)
		case row.Kind() != reflect.Struct:
			assert.Len(t, columns, 1, "%s answers one value", name)
		default:
			assert.ElementsMatch(t, fieldsOf(row), columns, name)
		}
		assert.NotContains(t, store.Texts[name], "{", "%s names a part that is not there", name)
	}
}

var humps = regexp.MustCompile(`([a-z0-9])([A-Z])`)

// fieldsOf are the columns that pgx looks for: the name in the tag, or that of the field in small letters.
func fieldsOf(row reflect.Type) (out []string) {
	for i := range row.NumField() {
		f := row.Field(i)
		if f.Anonymous {
			out = append(out, fieldsOf(f.Type)...)
			continue
		}
		name := f.Tag.Get("db")
		if name == "" {
			name = strings.ToLower(humps.ReplaceAllString(f.Name, "${1}_$2"))
		}
		out = append(out, name)
	}
	return out
}

func TestAListOfColumnsStandsOnce(t *testing.T) {
	data, err := store.Files.ReadFile("sql/queries.sql")
	require.NoError(t, err)
	seen := map[string]bool{}
	for line := range strings.Lines(string(data)) {
		line = strings.TrimSpace(line)
		if strings.Count(line, ",") >= 4 && !strings.Contains(line, "@") && !strings.HasPrefix(line, "INSERT") {
			assert.False(t, seen[line], "%s", line)
			seen[line] = true
		}
	}
}
