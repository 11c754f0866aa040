package store

import (
	"context"
	"time"
)

// LeftFinding is something that was found in the library and is left as it is.
type LeftFinding struct {
	Key    string    `json:"key"`
	Why    string    `json:"why"`
	LeftBy string    `json:"left_by"`
	LeftAt time.Time `json:"left_at"`
}

var (
	leftList = query[LeftFinding]("left_list")
	leftPut  = change("left_put")
	leftDrop = change("left_drop")
)

// LeftFindings lists what is left as it is.
func (l Library) LeftFindings(ctx context.Context) ([]LeftFinding, error) {
	return leftList.many(ctx, l.db, l.with(nil))
}

// LeaveFinding leaves a finding as it is.
func (l Library) LeaveFinding(ctx context.Context, key, why, by string, now time.Time) error {
	return leftPut.run(ctx, l.db, l.with(args{"key": key, "why": why, "by": by, "now": now}))
}

// TakeUpFinding shows a finding again.
func (l Library) TakeUpFinding(ctx context.Context, key string) error {
	_, _, err := leftDrop.count(ctx, l.db, l.with(args{"key": key}))
	return err
}
