package store

import (
	"context"
	"time"
)

// BankText is a sentence or a page of the team's bank.
type BankText struct {
	TextID  string    `json:"text_id" format:"uuid"`
	Kind    string    `json:"kind" enum:"sentence,page"`
	Body    string    `json:"body"`
	AddedBy string    `json:"added_by" doc:"initials"`
	AddedAt time.Time `json:"added_at"`
}

var (
	bankAdd     = value[string]("bank_add")
	bankList    = query[BankText]("bank_list")
	bankArchive = change("bank_archive")
)

// AddBankText returns the new id, or ErrTaken where the bank holds the same text.
func (l Library) AddBankText(ctx context.Context, kind, body, by string, now time.Time) (string, error) {
	return bankAdd.get(ctx, l.db, l.with(args{"kind": kind, "body": body, "by": nullable(by), "now": now}))
}

// Bank lists the team's texts, sentences first, in the order in which they came.
func (l Library) Bank(ctx context.Context) ([]BankText, error) {
	return bankList.many(ctx, l.db, l.with(nil))
}

// ArchiveBankText takes a text out of use, at a time, or brings it back where at is nil.
func (l Library) ArchiveBankText(ctx context.Context, textID string, at *time.Time) error {
	return bankArchive.run(ctx, l.db, l.with(args{"text_id": textID, "at": at}))
}
