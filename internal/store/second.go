package store

import (
	"context"
	"time"
)

// SecondFactor is the second step of a member's sign-in. Since is nil until the member gave a first right code.
type SecondFactor struct {
	Secret string // base32
	Since  *time.Time
	Spare  []string // SHA-256 in hex
}

type secondRow struct{ MemberID string }

var (
	secondGet     = query[SecondFactor]("second_get")
	secondList    = query[secondRow]("second_list")
	secondBegin   = change("second_begin")
	secondConfirm = change("second_confirm")
	secondStep    = change("second_step")
	secondSpare   = change("second_spare")
	secondDrop    = change("second_drop")
)

// SecondFactor returns ErrNotFound where a member has none.
func (l Library) SecondFactor(ctx context.Context, memberID string) (SecondFactor, error) {
	return secondGet.one(ctx, l.db, l.with(args{"member_id": memberID}))
}

// WithSecondFactor are the ids of members who are asked for a code.
func (l Library) WithSecondFactor(ctx context.Context) ([]string, error) {
	rows, err := secondList.many(ctx, l.db, l.with(nil))
	return each(rows, err, func(r secondRow) (string, error) { return r.MemberID, nil })
}

// BeginSecond keeps a secret that is not asked for yet; false where one is asked for already.
func (l Library) BeginSecond(ctx context.Context, memberID, secret string) (bool, error) {
	n, _, err := secondBegin.count(ctx, l.db, l.with(args{"member_id": memberID, "secret": secret}))
	return n > 0, err
}

// ConfirmSecond makes the code asked for from now on.
func (l Library) ConfirmSecond(ctx context.Context, memberID string, spare []string, now time.Time) error {
	return secondConfirm.run(ctx, l.db, l.with(args{"member_id": memberID, "spare": spare, "now": now}))
}

// UseSecond uses up the code of a step of time, and those before it; false where it was used.
func (l Library) UseSecond(ctx context.Context, memberID string, step int64) (bool, error) {
	n, _, err := secondStep.count(ctx, l.db, l.with(args{"member_id": memberID, "step": step}))
	return n > 0, err
}

// UseSpare uses up a spare code by its SHA-256 in hex; false where there is none.
func (l Library) UseSpare(ctx context.Context, memberID, sum string) (bool, error) {
	n, _, err := secondSpare.count(ctx, l.db, l.with(args{"member_id": memberID, "sum": sum}))
	return n > 0, err
}

// DropSecond asks a member for no code any more.
func (l Library) DropSecond(ctx context.Context, memberID string) error {
	_, _, err := secondDrop.count(ctx, l.db, l.with(args{"member_id": memberID}))
	return err
}
