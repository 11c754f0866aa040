package store

import (
	"context"
	"time"

	"brightchalk/internal/core/lesson"
)

// Class is a class or a small group. Taught counts the cards introduced to it.
type Class struct {
	ClassID string `json:"class_id" format:"uuid"`
	Name    string `json:"name"`
	Kind    string `json:"kind" enum:"class,group"`
	Taught  int    `json:"taught" doc:"cards introduced to it"`
}

// LogRow is one meeting of a class with a card.
type LogRow struct {
	CardID     string
	Introduced bool
	Sureness   int
	Reached    string
	MetAt      time.Time
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

type introductionRow struct {
	IntroductionID, ClassID, ClassName, CardID string
	Revision                                   int
	Snapshot                                   []byte
	CreatedBy                                  string
	CreatedAt                                  time.Time
	CardVersionNow                             int
	AgreedVersion                              *int
}

// RecentIntroduction is a row of the list.
type RecentIntroduction struct {
	IntroductionID string    `json:"introduction_id" format:"uuid"`
	ClassName      string    `json:"class_name"`
	Grapheme       string    `json:"grapheme"`
	Sound          string    `json:"sound"`
	Minutes        int       `json:"minutes"`
	CreatedAt      time.Time `json:"created_at"`
	Taught         bool      `json:"taught"`
}

var (
	classCreate        = value[string]("class_create")
	classList          = query[Class]("class_list")
	classGet           = query[Class]("class_get")
	logAdd             = change("log_add")
	logList            = query[LogRow]("log_list")
	introductionAdd    = value[string]("introduction_add")
	introductionGet    = query[introductionRow]("introduction_get")
	introductionUpdate = change("introduction_update")
	introductionRecent = query[RecentIntroduction]("introduction_recent")
)

// CreateClass returns the new id, or ErrTaken where the name is in use.
func (l Library) CreateClass(ctx context.Context, name, kind string) (string, error) {
	return classCreate.get(ctx, l.db, l.with(args{"name": name, "kind": kind}))
}

// Classes lists the team's classes and groups.
func (l Library) Classes(ctx context.Context) ([]Class, error) {
	return classList.many(ctx, l.db, l.with(nil))
}

// Class returns one class.
func (l Library) Class(ctx context.Context, classID string) (Class, error) {
	return classGet.one(ctx, l.db, l.with(args{"class_id": classID}))
}

// AddLog notes a meeting; introductionID and by may be empty.
func (l Library) AddLog(ctx context.Context, classID, introductionID, by string, r LogRow) error {
	return logAdd.run(ctx, l.db, l.with(args{
		"class_id": classID, "card_id": r.CardID, "introduction_id": nullable(introductionID),
		"introduced": r.Introduced, "sureness": r.Sureness, "reached": r.Reached, "met_at": r.MetAt,
		"by": nullable(by),
	}))
}

// Log lists a class's meetings, the oldest first.
func (l Library) Log(ctx context.Context, classID string) ([]LogRow, error) {
	return logList.many(ctx, l.db, l.with(args{"class_id": classID}))
}

// AddIntroduction stores a snapshot and returns its id.
func (l Library) AddIntroduction(
	ctx context.Context,
	classID, by string,
	in lesson.Introduction,
	now time.Time,
) (string, error) {
	snapshot, err := lesson.Documents.Write(in)
	if err != nil {
		return "", err
	}
	return introductionAdd.get(ctx, l.db, l.with(args{
		"class_id": classID, "card_id": in.CardID, "snapshot": snapshot, "by": nullable(by), "now": now,
	}))
}

// Introduction returns one introduction.
func (l Library) Introduction(ctx context.Context, id string) (Introduction, error) {
	r, err := introductionGet.one(ctx, l.db, l.with(args{"introduction_id": id}))
	if err != nil {
		return Introduction{}, err
	}
	snapshot, err := lesson.Documents.Read(r.Snapshot)
	return Introduction{
		r.IntroductionID, r.ClassID, r.ClassName, r.CardID, r.Revision, snapshot, r.CreatedBy, r.CreatedAt,
		r.CardVersionNow, r.AgreedVersion,
	}, err
}

// UpdateIntroduction replaces the snapshot where the revision is still the one that was read; ErrChanged otherwise.
func (l Library) UpdateIntroduction(
	ctx context.Context,
	id string,
	revision int,
	in lesson.Introduction,
	now time.Time,
) error {
	snapshot, err := lesson.Documents.Write(in)
	if err != nil {
		return err
	}
	n, _, err := introductionUpdate.count(ctx, l.db, l.with(args{
		"introduction_id": id, "revision": revision, "snapshot": snapshot, "now": now,
	}))
	if err == nil && n == 0 {
		return ErrChanged
	}
	return err
}

// RecentIntroductions lists the newest twelve.
func (l Library) RecentIntroductions(ctx context.Context) ([]RecentIntroduction, error) {
	return introductionRecent.many(ctx, l.db, l.with(nil))
}
