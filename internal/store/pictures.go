package store

import (
	"context"
	"time"
)

// NamedPicture is a picture of the team's own for ear games. Picture is the SHA-256 of its bytes in hex.
type NamedPicture struct {
	Name    string   `json:"name"`
	Others  []string `json:"others" doc:"other names that children give it"`
	Picture string   `json:"picture" doc:"SHA-256 of its bytes in hex"`
}

var (
	pictureList    = query[NamedPicture]("picture_list")
	picturePut     = change("picture_put")
	pictureArchive = change("picture_archive")
	pictureByName  = query[Medium]("picture_of")
)

// NamedPictures lists the team's own pictures by name.
func (l Library) NamedPictures(ctx context.Context) ([]NamedPicture, error) {
	return pictureList.many(ctx, l.db, l.with(nil))
}

// PutNamedPicture adds a picture under its name, or replaces the one there.
func (l Library) PutNamedPicture(ctx context.Context, by string, p NamedPicture, sum []byte, now time.Time) error {
	return picturePut.run(ctx, l.db, l.with(args{
		"name": p.Name, "others": p.Others, "sha256": sum, "by": nullable(by), "now": now,
	}))
}

// ArchiveNamedPicture takes a picture out of use, at a time, or brings it back where at is nil.
func (l Library) ArchiveNamedPicture(ctx context.Context, name string, at *time.Time) error {
	return pictureArchive.run(ctx, l.db, l.with(args{"name": name, "at": at}))
}

// PictureByName returns the bytes of the team's own picture of a word; ErrNotFound where it has none.
func (l Library) PictureByName(ctx context.Context, name string) (Medium, error) {
	return pictureByName.one(ctx, l.db, l.with(args{"name": name}))
}
