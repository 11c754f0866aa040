package store

import (
	"context"
	"errors"
	"time"

	"brightchalk/internal/core/document"
	"brightchalk/internal/core/year"
)

type yearRow struct {
	Revision int
	Document []byte
}

type feedRow struct{ MadeAt time.Time }

// Feed is a calendar that others subscribed to.
type Feed struct{ TeamID, ClassID string }

var (
	schoolYearGet = query[yearRow]("school_year_get")
	schoolYearPut = change("school_year_put")
	schoolYearSet = change("school_year_set")
	paceGet       = query[yearRow]("pace_get")
	pacePut       = change("pace_put")
	paceSet       = change("pace_set")
	feedPut       = change("feed_put")
	feedDrop      = change("feed_drop")
	feedMade      = query[feedRow]("feed_made")
	feedBySecret  = query[Feed]("feed_of")
)

// SchoolYear is the team's school year with its revision, or nil and 0 where none was made.
func (l Library) SchoolYear(ctx context.Context) (*year.School, int, error) {
	return readRevised(ctx, l, schoolYearGet, year.SchoolDocuments, nil)
}

// PutSchoolYear replaces the school year where the revision is the one that was read, 0 for none; ErrChanged otherwise.
func (l Library) PutSchoolYear(ctx context.Context, revision int, s year.School, by string, now time.Time) error {
	data, err := year.SchoolDocuments.Write(s)
	if err != nil {
		return err
	}
	return l.replace(ctx, schoolYearPut, schoolYearSet, args{"by": nullable(by), "now": now, "document": data}, revision)
}

// Pace is how a class goes through the year, with its revision, or nil and 0 where it goes as the school.
func (l Library) Pace(ctx context.Context, classID string) (*year.Pace, int, error) {
	return readRevised(ctx, l, paceGet, year.PaceDocuments, args{"class_id": classID})
}

// PutPace replaces how a class goes through the year; ErrChanged where the revision is another.
func (l Library) PutPace(
	ctx context.Context,
	classID string,
	revision int,
	p year.Pace,
	by string,
	now time.Time,
) error {
	data, err := year.PaceDocuments.Write(p)
	if err != nil {
		return err
	}
	a := args{"class_id": classID, "by": nullable(by), "now": now, "document": data}
	return l.replace(ctx, pacePut, paceSet, a, revision)
}

func readRevised[T any](
	ctx context.Context, l Library, q rowQuery[yearRow], k document.Kind[T], a args,
) (*T, int, error) {
	row, err := q.one(ctx, l.db, l.with(a))
	if errors.Is(err, ErrNotFound) {
		return nil, 0, nil
	}
	if err != nil {
		return nil, 0, err
	}
	out, err := k.Read(row.Document)
	return &out, row.Revision, err
}

// replace puts a first document, or sets one of a revision.
func (l Library) replace(ctx context.Context, put, set command, a args, revision int) error {
	do := set
	if revision == 0 {
		do = put
	}
	a["revision"] = revision
	n, _, err := do.count(ctx, l.db, l.with(a))
	if err == nil && n == 0 {
		return ErrChanged
	}
	return err
}

// PutFeed gives the calendar of a class a secret, in place of a former one. Only its hash is kept.
func (l Library) PutFeed(ctx context.Context, classID, secret, by string, now time.Time) error {
	return feedPut.run(ctx, l.db, l.with(args{
		"class_id": classID, "secret": codeKey(secret), "by": nullable(by), "now": now,
	}))
}

// DropFeed ends the subscriptions to the calendar of a class.
func (l Library) DropFeed(ctx context.Context, classID string) error {
	_, _, err := feedDrop.count(ctx, l.db, l.with(args{"class_id": classID}))
	return err
}

// FeedMade is when the calendar of a class got its secret; nil where it has none.
func (l Library) FeedMade(ctx context.Context, classID string) (*time.Time, error) {
	row, err := feedMade.one(ctx, l.db, l.with(args{"class_id": classID}))
	if errors.Is(err, ErrNotFound) {
		return nil, nil
	}
	return &row.MadeAt, err
}

// FeedBySecret is whose calendar a secret opens; ErrNotFound where it is no secret, or was renewed.
func FeedBySecret(ctx context.Context, db DB, secret string) (Feed, error) {
	return feedBySecret.one(ctx, db, args{"secret": codeKey(secret)})
}
