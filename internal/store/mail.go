package store

import (
	"context"
	"time"
)

// MailDue is a member for whom a mail waits.
type MailDue struct {
	MemberID, TeamID, Email, Name, Team string
}

// MailWish is whether a member wants mail, and since when the mail server refuses the address.
type MailWish struct {
	Off       bool
	RefusedAt *time.Time
}

var (
	mailDue     = query[MailDue]("mail_due")
	mailClaim   = change("mail_claim")
	mailUnclaim = change("mail_unclaim")
	mailNotices = query[Notice]("mail_notices")
	mailDone    = change("mail_done")
	mailRefused = change("mail_refused")
	mailWish    = change("mail_wish")
	mailWished  = query[MailWish]("mail_wished")
	mailForget  = change("mail_forget")
)

// DueMail lists members of all teams for whom a mail of the day waits and nobody sends it yet.
func DueMail(ctx context.Context, db DB, day time.Time, most int) ([]MailDue, error) {
	return mailDue.many(ctx, db, args{"day": day, "most": most})
}

// ForgetMail drops what is known of mails of days long ago.
func ForgetMail(ctx context.Context, db DB, before time.Time) error {
	_, _, err := mailForget.count(ctx, db, args{"before": before})
	return err
}

// ClaimMail says that the caller sends a member's mail of the day; false where somebody else does.
func (l Library) ClaimMail(ctx context.Context, memberID string, day, now time.Time) (bool, error) {
	n, _, err := mailClaim.count(ctx, l.db, l.with(args{"member_id": memberID, "day": day, "now": now}))
	return n > 0, err
}

// UnclaimMail lets the mail be tried again.
func (l Library) UnclaimMail(ctx context.Context, memberID string, day time.Time) error {
	_, _, err := mailUnclaim.count(ctx, l.db, l.with(args{"member_id": memberID, "day": day}))
	return err
}

// NoticesToMail lists what a member has neither seen nor been mailed, the oldest first, without what was said.
func (l Library) NoticesToMail(ctx context.Context, memberID string) ([]Notice, error) {
	return mailNotices.many(ctx, l.db, l.with(args{"member_id": memberID}))
}

// MailedNotices marks a member's notices up to one as mailed.
func (l Library) MailedNotices(ctx context.Context, memberID string, upTo int64, now time.Time) error {
	_, _, err := mailDone.count(ctx, l.db, l.with(args{"member_id": memberID, "upto": upTo, "now": now}))
	return err
}

// RefuseMail notes that the mail server refuses a member's address: no more mail goes there.
func (l Library) RefuseMail(ctx context.Context, memberID string, now time.Time) error {
	return mailRefused.run(ctx, l.db, l.with(args{"member_id": memberID, "now": now}))
}

// WishMail says whether a member wants mail; a refused address is tried again.
func (l Library) WishMail(ctx context.Context, memberID string, wanted bool) error {
	return mailWish.run(ctx, l.db, l.with(args{"member_id": memberID, "off": !wanted}))
}

// MailWish is what a member said of mail.
func (l Library) MailWish(ctx context.Context, memberID string) (MailWish, error) {
	return mailWished.one(ctx, l.db, l.with(args{"member_id": memberID}))
}
