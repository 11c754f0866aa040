package store

import (
	"context"
	"io/fs"
	"path"
	"strconv"
	"strings"
	"time"
)

// ServerState is the database as it runs. Version is as in server_version_num: 150004.
type ServerState struct {
	Version          int32
	Clock            time.Time
	Bytes            int64
	Durable, Standby bool
}

// Counts are what a healthy installation has none of, beside the number of its teams and media.
type Counts struct {
	Teams, Leaderless, Media, Damaged, Voiceless, Pictureless int64
}

// Unused are media that nothing names.
type Unused struct{ Media, Bytes int64 }

var (
	schemaVersion   = value[int64]("schema_version")
	doctorServer    = query[ServerState]("doctor_server")
	doctorCounts    = query[Counts]("doctor_counts")
	doctorUnused    = query[Unused]("doctor_unused")
	doctorCollect   = change("doctor_collect")
	guarded         = value[bool]("guarded")
	replicaReplayed = value[bool]("follows")
	roleThere       = value[bool]("role_there")
)

// SchemaVersion is the newest migration that the database has.
func SchemaVersion(ctx context.Context, db DB) (int64, error) {
	return schemaVersion.get(ctx, db, args{})
}

// NewestSchema is the newest migration that this program has.
func NewestSchema() (newest int64) {
	files, err := fs.Glob(migrations, "migrations/*.sql")
	if err != nil {
		panic(err)
	}
	for _, f := range files {
		number, _, _ := strings.Cut(path.Base(f), "_")
		if n, err := strconv.ParseInt(number, 10, 64); err == nil {
			newest = max(newest, n)
		}
	}
	return newest
}

// ReplicaReplayed tells whether a database follows another one and shows what was done there up to a place in its log.
func ReplicaReplayed(ctx context.Context, db DB, at string) (bool, error) {
	return replicaReplayed.get(ctx, db, args{"at": at})
}

// State is the database as it runs.
func State(ctx context.Context, db DB) (ServerState, error) { return doctorServer.one(ctx, db, args{}) }

// Count looks over all teams.
func Count(ctx context.Context, db DB) (Counts, error) { return doctorCounts.one(ctx, db, args{}) }

// UnusedMedia are those of before a time that nothing names.
func UnusedMedia(ctx context.Context, db DB, before time.Time) (Unused, error) {
	return doctorUnused.one(ctx, db, args{"before": before})
}

// CollectMedia drops them and returns how many they were.
func CollectMedia(ctx context.Context, db DB, before time.Time) (int64, error) {
	n, _, err := doctorCollect.count(ctx, db, args{"before": before})
	return n, err
}
