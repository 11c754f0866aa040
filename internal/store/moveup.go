package store

import (
	"context"
	"time"
)

// PastClass is a class that was put aside.
type PastClass struct {
	ClassID    string    `json:"class_id" format:"uuid"`
	Name       string    `json:"name"`
	Kind       string    `json:"kind" enum:"class,group"`
	ArchivedAt time.Time `json:"archived_at"`
	MovedTo    string    `json:"moved_to" doc:"the class that it became, empty where none"`
}

var (
	classRename       = change("class_rename")
	classArchive      = change("class_archive")
	classPast         = query[PastClass]("class_past")
	classInheritLog   = change("class_inherit_log")
	classInheritCards = change("class_inherit_cards")
	classInheritWords = change("class_inherit_words")
)

// RenameClass returns ErrTaken where the name is in use.
func (l Library) RenameClass(ctx context.Context, classID, name string) error {
	return classRename.run(ctx, l.db, l.with(args{"class_id": classID, "name": name}))
}

// ArchiveClass puts a class aside, or brings it back where at is nil; ErrTaken where its name is in use by then. It may
// say which class it became.
func (l Library) ArchiveClass(ctx context.Context, classID string, at *time.Time, movedTo string) error {
	return classArchive.run(ctx, l.db, l.with(args{"class_id": classID, "at": at, "moved_to": nullable(movedTo)}))
}

// PastClasses lists those that were put aside, the newest first.
func (l Library) PastClasses(ctx context.Context) ([]PastClass, error) {
	return classPast.many(ctx, l.db, l.with(nil))
}

// Inherit gives a class all that another one knows, with its meetings.
func (l Library) Inherit(ctx context.Context, classID, from string) error {
	a := args{"class_id": classID, "source_id": from}
	for _, c := range []command{classInheritLog, classInheritCards, classInheritWords} {
		if _, _, err := c.count(ctx, l.db, l.with(a)); err != nil {
			return err
		}
	}
	return nil
}
