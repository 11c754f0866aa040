package store

import (
	"context"
	"time"
)

// BankText is a sentence or a page of the team's bank.
type BankText struct {
	TextID  string    `json:"text_id"`
	Kind    string    `json:"kind" enum:"sentence,page"`
	Body    string    `json:"body"`
	AddedBy string    `json:"added_by"` // initials
	AddedAt time.Time `json:"added_at"`
}

// AddBankText returns the new id, or ErrTaken where the bank holds the same text.
func AddBankText(ctx context.Context, db DB, teamID, kind, body, by string, now time.Time) (string, error) {
	return scalar[string](
		ctx,
		db,
		"bank_add",
		args{"team_id": teamID, "kind": kind, "body": body, "by": nullable(by), "now": now},
	)
}

// Bank lists the team's texts, sentences first, in the order in which they came.
func Bank(ctx context.Context, db DB, teamID string) ([]BankText, error) {
	return many[BankText](ctx, db, "bank_list", args{"team_id": teamID})
}

// ArchiveBankText takes a text out of use, at a time, or brings it back where at is nil.
func ArchiveBankText(ctx context.Context, db DB, teamID, textID string, at *time.Time) error {
	return exec(ctx, db, "bank_archive", args{"team_id": teamID, "text_id": textID, "at": at})
}
