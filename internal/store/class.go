package store

import (
	"brightchalk/internal/core/lesson"
	"context"
	"time"
)

// Class is a class or a small group. Taught counts the cards introduced to it.
type Class struct {
	ClassID string `json:"class_id"`
	Name    string `json:"name"`
	Kind    string `json:"kind" enum:"class,group"`
	Taught  int    `json:"taught"`
}

// LogRow is one meeting of a class with a card.
type LogRow struct {
	CardID     string
	Introduced bool
	Sureness   int
	Reached    string
	MetAt      time.Time
}

// CreateClass returns the new id, or ErrTaken where the name is in use.
func CreateClass(ctx context.Context, db DB, teamID, name, kind string) (string, error) {
	return scalar[string](ctx, db, "class_create", args{"team_id": teamID, "name": name, "kind": kind})
}

// Classes lists the team's classes and groups.
func Classes(ctx context.Context, db DB, teamID string) ([]Class, error) {
	return many[Class](ctx, db, "class_list", args{"team_id": teamID})
}

// GetClass returns one class.
func GetClass(ctx context.Context, db DB, teamID, classID string) (Class, error) {
	return one[Class](ctx, db, "class_get", args{"team_id": teamID, "class_id": classID})
}

// AddLog notes a meeting; introductionID and by may be empty.
func AddLog(ctx context.Context, db DB, teamID, classID, introductionID, by string, r LogRow) error {
	return exec(ctx, db, "log_add", args{
		"team_id": teamID, "class_id": classID, "card_id": r.CardID, "introduction_id": nullable(introductionID),
		"introduced": r.Introduced, "sureness": r.Sureness, "reached": r.Reached, "met_at": r.MetAt, "by": nullable(by),
	})
}

// Log lists a class's meetings, the oldest first.
func Log(ctx context.Context, db DB, teamID, classID string) ([]LogRow, error) {
	return many[LogRow](ctx, db, "log_list", args{"team_id": teamID, "class_id": classID})
}

// Introduction is a stored snapshot. CardVersionNow and AgreedVersion tell whether the card has moved on.
type Introduction struct {
	IntroductionID, ClassID, ClassName, CardID string
	Revision                                   int
	Snapshot                                   lesson.Introduction
	CreatedBy                                  string
	CreatedAt                                  time.Time
	CardVersionNow                             int
	AgreedVersion                              *int
}

// RecentIntroduction is a row of the list.
type RecentIntroduction struct {
	IntroductionID string    `json:"introduction_id"`
	ClassName      string    `json:"class_name"`
	Grapheme       string    `json:"grapheme"`
	Sound          string    `json:"sound"`
	Minutes        int       `json:"minutes"`
	CreatedAt      time.Time `json:"created_at"`
	Taught         bool      `json:"taught"`
}

// AddIntroduction stores a snapshot and returns its id.
func AddIntroduction(
	ctx context.Context,
	db DB,
	teamID, classID, by string,
	in lesson.Introduction,
	now time.Time,
) (string, error) {
	return scalar[string](
		ctx,
		db,
		"introduction_add",
		args{"team_id": teamID, "class_id": classID, "card_id": in.CardID, "snapshot": in, "by": nullable(by), "now": now},
	)
}

// GetIntroduction returns one introduction.
func GetIntroduction(ctx context.Context, db DB, teamID, id string) (Introduction, error) {
	return one[Introduction](ctx, db, "introduction_get", args{"team_id": teamID, "introduction_id": id})
}

// UpdateIntroduction replaces the snapshot where the revision is still the one that was read; ErrChanged otherwise.
func UpdateIntroduction(
	ctx context.Context,
	db DB,
	teamID, id string,
	revision int,
	in lesson.Introduction,
	now time.Time,
) error {
	tag, err := db.Exec(
		ctx,
		query("introduction_update"),
		args{"team_id": teamID, "introduction_id": id, "revision": revision, "snapshot": in, "now": now},
	)
	if err == nil && tag.RowsAffected() == 0 {
		return ErrChanged
	}
	return wrap("introduction_update", err)
}

// RecentIntroductions lists the newest twelve.
func RecentIntroductions(ctx context.Context, db DB, teamID string) ([]RecentIntroduction, error) {
	return many[RecentIntroduction](ctx, db, "introduction_recent", args{"team_id": teamID})
}
