package store

import (
	"context"
	"time"

	"brightchalk/internal/core/recording"
)

// Hearing is what a member heard in a take, without having seen a verdict on it.
type Hearing struct {
	TakeID, MemberID, Initials string
	Pure                       bool
	Why                        []string // codes of recording.Faults
	HeardAt                    time.Time
}

// HeardTake is a take that may be listened to.
type HeardTake struct {
	TakeID, CardID, Grapheme, Sound string
	Verdict                         recording.Verdict
}

var (
	hearingPut    = change("hearing_put")
	hearingDrop   = change("hearing_drop")
	hearingForget = change("hearing_forget")
	hearingList   = query[Hearing]("hearing_list")
	hearingTakes  = query[HeardTake]("hearing_takes")
)

// PutHearing notes what a member heard, in place of what they said of this take before.
func (l Library) PutHearing(ctx context.Context, h Hearing) error {
	return hearingPut.run(ctx, l.db, l.with(args{
		"take_id": h.TakeID, "member_id": h.MemberID, "pure": h.Pure, "why": h.Why, "now": h.HeardAt,
	}))
}

// DropHearing takes back what a member said of a take.
func (l Library) DropHearing(ctx context.Context, takeID, memberID string) error {
	return hearingDrop.run(ctx, l.db, l.with(args{"take_id": takeID, "member_id": memberID}))
}

// ForgetHearings drops what was said of a take that sounds different now.
func (l Library) ForgetHearings(ctx context.Context, takeID string) error {
	return hearingForget.run(ctx, l.db, l.with(args{"take_id": takeID}))
}

// Hearings are all of the team, the oldest first.
func (l Library) Hearings(ctx context.Context) ([]Hearing, error) {
	return hearingList.many(ctx, l.db, l.with(nil))
}

// HeardTakes are the takes of the cards in use.
func (l Library) HeardTakes(ctx context.Context) ([]HeardTake, error) {
	return hearingTakes.many(ctx, l.db, l.with(nil))
}
