package store

import (
	"brightchalk/internal/core/strokes"
	"context"
	"encoding/json"
	"time"
)

// OwnLetters are the team's own forms of letters, by sign.
func OwnLetters(ctx context.Context, db DB, teamID string) (map[string]strokes.Letter, error) {
	type row struct{ Form strokes.Letter }
	rows, err := many[row](ctx, db, "letter_list", args{"team_id": teamID})
	if err != nil {
		return nil, err
	}
	out := map[string]strokes.Letter{}
	for _, r := range rows {
		out[r.Form.Sign] = r.Form
	}
	return out, nil
}

// PutLetter stores the team's own form of a sign.
func PutLetter(ctx context.Context, db DB, teamID, by string, l strokes.Letter, now time.Time) error {
	form, err := json.Marshal(l)
	if err != nil {
		return err
	}
	return exec(
		ctx,
		db,
		"letter_put",
		args{"team_id": teamID, "sign": l.Sign, "form": form, "by": nullable(by), "now": now},
	)
}

// DropLetter goes back to the form that ships.
func DropLetter(ctx context.Context, db DB, teamID, sign string) error {
	return exec(ctx, db, "letter_drop", args{"team_id": teamID, "sign": sign})
}
