package store

import (
	"context"
	"time"
)

// SecondFactor is the second step of an account's sign-in. Since is nil until the person gave a first right code.
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

// SecondFactor returns ErrNotFound where an account has none.
func (l Library) SecondFactor(ctx context.Context, accountID string) (SecondFactor, error) {
	return secondGet.one(ctx, l.db, args{"account_id": accountID})
}

// WithSecondFactor are the ids of members who are asked for a code.
func (l Library) WithSecondFactor(ctx context.Context) ([]string, error) {
	rows, err := secondList.many(ctx, l.db, l.with(nil))
	return each(rows, err, func(r secondRow) (string, error) { return r.MemberID, nil })
}

// BeginSecond keeps a secret that is not asked for yet; false where one is asked for already.
func (l Library) BeginSecond(ctx context.Context, accountID, secret string) (bool, error) {
	n, _, err := secondBegin.count(ctx, l.db, args{"account_id": accountID, "secret": secret})
	return n > 0, err
}

// ConfirmSecond makes the code asked for from now on.
func (l Library) ConfirmSecond(ctx context.Context, accountID string, spare []string, now time.Time) error {
	return secondConfirm.run(ctx, l.db, args{"account_id": accountID, "spare": spare, "now": now})
}

// UseSecond uses up the code of a step of time, and those before it; false where it was used.
func (l Library) UseSecond(ctx context.Context, accountID string, step int64) (bool, error) {
	n, _, err := secondStep.count(ctx, l.db, args{"account_id": accountID, "step": step})
	return n > 0, err
}

// UseSpare uses up a spare code by its SHA-256 in hex; false where there is none.
func (l Library) UseSpare(ctx context.Context, accountID, sum string) (bool, error) {
	n, _, err := secondSpare.count(ctx, l.db, args{"account_id": accountID, "sum": sum})
	return n > 0, err
}

// DropSecond asks a person for no code any more.
func (l Library) DropSecond(ctx context.Context, accountID string) error {
	_, _, err := secondDrop.count(ctx, l.db, args{"account_id": accountID})
	return err
}
