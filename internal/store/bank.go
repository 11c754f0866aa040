package store

import (
	"context"
	"time"

	"brightchalk/internal/core/lesson"
)

// BankText is a sentence or a page of the team's bank.
type BankText struct {
	TextID  string    `json:"text_id" format:"uuid"`
	Kind    string    `json:"kind" enum:"sentence,page"`
	Body    string    `json:"body"`
	Book    string    `json:"book" doc:"title of the book that a page is of; may be empty"`
	Page    int       `json:"page" doc:"of the book, 0 where none is told"`
	AddedBy string    `json:"added_by" doc:"initials"`
	AddedAt time.Time `json:"added_at"`
}

var (
	bankAdd     = value[string]("bank_add")
	bankList    = query[BankText]("bank_list")
	bankArchive = change("bank_archive")
	bankReplace = change("bank_replace")
)

// AddBankText returns the new id, or ErrTaken where the bank holds the same text.
func (l Library) AddBankText(ctx context.Context, by string, t lesson.Text, now time.Time) (string, error) {
	return bankAdd.get(ctx, l.db, l.with(args{
		"kind": t.Kind, "body": t.Body, "book": t.Book, "page": t.Page, "by": nullable(by), "now": now,
	}))
}

// Bank lists the team's texts, sentences first, in the order in which they came.
func (l Library) Bank(ctx context.Context) ([]BankText, error) {
	return bankList.many(ctx, l.db, l.with(nil))
}

// ArchiveBankText takes a text out of use, at a time, or brings it back where at is nil.
func (l Library) ArchiveBankText(ctx context.Context, textID string, at *time.Time) error {
	return bankArchive.run(ctx, l.db, l.with(args{"text_id": textID, "at": at}))
}

// ReplaceBankText puts another wording in the place of a text, or gives ErrTaken where the bank holds it.
func (l Library) ReplaceBankText(ctx context.Context, textID, body string) error {
	return bankReplace.run(ctx, l.db, l.with(args{"text_id": textID, "body": body}))
}
