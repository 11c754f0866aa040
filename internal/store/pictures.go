package store

import (
	"context"
	"time"
)

// NamedPicture is a picture of the team's own for ear games. Picture is the SHA-256 of its bytes in hex.
type NamedPicture struct {
	Name    string   `json:"name"`
	Others  []string `json:"others"` // other names that children give it
	Picture string   `json:"picture"`
}

// NamedPictures lists the team's own pictures by name.
func NamedPictures(ctx context.Context, db DB, teamID string) ([]NamedPicture, error) {
	return many[NamedPicture](ctx, db, "picture_list", args{"team_id": teamID})
}

// PutNamedPicture adds a picture under its name, or replaces the one there.
func PutNamedPicture(ctx context.Context, db DB, teamID, by string, p NamedPicture, sum []byte, now time.Time) error {
	return exec(
		ctx,
		db,
		"picture_put",
		args{"team_id": teamID, "name": p.Name, "others": p.Others, "sha256": sum, "by": nullable(by), "now": now},
	)
}

// ArchiveNamedPicture takes a picture out of use, at a time, or brings it back where at is nil.
func ArchiveNamedPicture(ctx context.Context, db DB, teamID, name string, at *time.Time) error {
	return exec(ctx, db, "picture_archive", args{"team_id": teamID, "name": name, "at": at})
}

// PictureOf returns the bytes of the team's own picture of a word; ErrNotFound where it has none.
func PictureOf(ctx context.Context, db DB, teamID, name string) (Medium, error) {
	return one[Medium](ctx, db, "picture_of", args{"team_id": teamID, "name": name})
}
