package store

import (
	"context"
	"log/slog"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"
)

// Slow is a tracer for connections that writes statements to the log which took longer than Least: their names, never
// what they were asked with.
type Slow struct {
	Log   *slog.Logger
	Least time.Duration
}

type slowKey struct{}

type slowStart struct {
	sql string
	at  time.Time
}

// namesBySQL are the names of the statements by their text.
var namesBySQL = sync.OnceValue(func() map[string]string {
	out := make(map[string]string, len(texts))
	for name, text := range texts {
		out[text] = name
	}
	return out
})

// TraceQueryStart is for pgx.
func (s Slow) TraceQueryStart(ctx context.Context, _ *pgx.Conn, d pgx.TraceQueryStartData) context.Context {
	return context.WithValue(ctx, slowKey{}, slowStart{d.SQL, time.Now()})
}

// TraceQueryEnd is for pgx.
func (s Slow) TraceQueryEnd(ctx context.Context, _ *pgx.Conn, d pgx.TraceQueryEndData) {
	began, ok := ctx.Value(slowKey{}).(slowStart)
	if !ok {
		return
	}
	took := time.Since(began.at)
	if took < s.Least {
		return
	}
	name := namesBySQL()[began.sql]
	if name == "" {
		name = "begin, commit or other"
	}
	s.Log.Warn("slow statement", "statement", name, "ms", took.Milliseconds(), "rows", d.CommandTag.RowsAffected(),
		"failed", d.Err != nil)
}
