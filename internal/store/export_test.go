package store

import (
	"context"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/pressly/goose/v3"
)

// Declared and Texts are for the test of the statements.
var (
	Declared = declared
	Texts    = texts
	Files    = statementFiles
)

// Send hands a change to a hub as if the database had told it.
func (h *Hub) Send(c Change) { h.send(c) }

// ReadContent reads a stored content as the statements do.
var ReadContent = parsed.read

// MigrateTo brings a database to a shape, up or down.
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
		return err
	})
}
