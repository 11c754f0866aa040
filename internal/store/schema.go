package store

import "context"

var schemaVersion = value[int64]("schema_version")

// SchemaVersion is the newest migration that the database has.
func SchemaVersion(ctx context.Context, db DB) (int64, error) {
	return schemaVersion.get(ctx, db, args{})
}
