package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"brightchalk/internal/core/prose"
	"brightchalk/internal/mail"
	"brightchalk/internal/store"
)

type mailStore interface {
	ClaimMail(ctx context.Context, memberID string, day, now time.Time) (bool, error)
	UnclaimMail(ctx context.Context, memberID string, day time.Time) error
	NoticesToMail(ctx context.Context, memberID string) ([]store.Notice, error)
	MailedNotices(ctx context.Context, memberID string, upTo int64, now time.Time) error
	RefuseMail(ctx context.Context, memberID string, now time.Time) error
	WishMail(ctx context.Context, memberID string, wanted bool) error
	MailWish(ctx context.Context, memberID string) (store.MailWish, error)
}

// Post is where mail goes and what its links begin with. Without a Sender there is no mail.
type Post struct {
	Sender  mail.Sender
	Address string // of the application, as https://chalk.school.example; may be empty
}

// Mails tells members once a day by mail what waits for them and they have not seen.
type Mails struct {
	desk desk[mailStore]
	post Post
}

// From which hour of the day on mails go, and how many at once.
const (
	mailHour  = 6
	mostMails = 200
	mailDays  = 30 // for which it is kept that one went out
)

// Daily sends the mails of the day that wait. Any number of servers may do so: each member gets one. The error is the
// last one of a letter that could not be sent and is tried again.
func (m Mails) Daily(ctx context.Context) (sent int, err error) {
	now := m.desk.now()
	if m.post.Sender == nil || now.Hour() < mailHour {
		return 0, nil
	}
	day := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)
	due, err := store.DueMail(ctx, m.desk.all, day, mostMails)
	if err != nil {
		return 0, err
	}
	for _, d := range due {
		ok, failed := m.one(ctx, d, day, now)
		if failed != nil {
			err = failed
		}
		if ok {
			sent++
		}
	}
	return sent, errors.Join(err, store.ForgetMail(ctx, m.desk.all, day.AddDate(0, 0, -mailDays)))
}

// postman writes for a member, whoever that is: no right is asked for.
var postman = MayTalk

func (m Mails) one(ctx context.Context, d store.MailDue, day, now time.Time) (sent bool, err error) {
	by := Actor{MemberID: d.MemberID, TeamID: d.TeamID, Role: Assistant}
	type claim struct {
		mine    bool
		notices []store.Notice
	}
	c, err := beside(ctx, m.desk, by, postman, func(s mailStore) (c claim, err error) {
		if c.mine, err = s.ClaimMail(ctx, d.MemberID, day, now); err != nil || !c.mine {
			return c, err
		}
		c.notices, err = s.NoticesToMail(ctx, d.MemberID)
		return c, err
	})
	if err != nil || !c.mine || len(c.notices) == 0 {
		return false, err
	}
	failed := m.post.Sender.Send(ctx, m.letter(d, c.notices))
	_, err = beside(ctx, m.desk, by, postman, func(s mailStore) (struct{}, error) {
		switch {
		case errors.Is(failed, mail.ErrRefused):
			return struct{}{}, s.RefuseMail(ctx, d.MemberID, now)
		case failed != nil:
			return struct{}{}, s.UnclaimMail(ctx, d.MemberID, day)
		}
		return struct{}{}, s.MailedNotices(ctx, d.MemberID, c.notices[len(c.notices)-1].NoticeID, now)
	})
	if errors.Is(failed, mail.ErrRefused) {
		failed = nil // it is noted
	}
	return failed == nil && err == nil, errors.Join(failed, err)
}

// told is what somebody did, before the name of a card.
var told = map[store.NoticeKind]string{
	store.NoticeAsked: "asks you to read", store.NoticeYes: "said yes to", store.NoticeAgreed: "agreed",
	store.NoticeSentBack: "sent back", store.NoticeRemark: "said something of", store.NoticeAnswer: "answered you on",
	store.NoticeMention: "named you on", store.NoticeTaken: "took your wording over on",
}

// letter tells who did something on which card; what was said stays in the application.
func (m Mails) letter(d store.MailDue, notices []store.Notice) mail.Letter {
	var text strings.Builder
	fmt.Fprintf(&text, "Hello %s,\n\nin the library of %s:\n\n", d.Name, d.Team)
	for _, n := range notices {
		fmt.Fprintf(&text, "- %s %s the card %s.\n", n.By, told[n.Kind], n.Grapheme)
	}
	if m.post.Address != "" {
		fmt.Fprintf(&text, "\nIt waits for you there: %s/today\n", strings.TrimSuffix(m.post.Address, "/"))
	}
	text.WriteString(
		"\nThis comes once a day at most, and only when something waits. Turn it off under Team, People.\n\n" +
			"Bright Chalk\n",
	)
	return mail.Letter{
		To: d.Email, Name: d.Name, Text: text.String(),
		Subject: fmt.Sprintf("%d %s for you in %s", len(notices), prose.Plural(len(notices), "thing", "things"), d.Team),
	}
}

// MailView is whether a member gets a mail a day.
type MailView struct {
	Possible  bool       `json:"possible" doc:"the server can send mail"`
	Wanted    bool       `json:"wanted"`
	RefusedAt *time.Time `json:"refused_at,omitempty" doc:"since when the mail server refuses the address"`
}

// Wish is what the member said of mail.
func (m Mails) Wish(ctx context.Context, by Actor) (MailView, error) {
	return read(ctx, m.desk, by, func(s mailStore) (MailView, error) {
		w, err := s.MailWish(ctx, by.MemberID)
		return MailView{m.post.Sender != nil, !w.Off, w.RefusedAt}, err
	})
}

// SetWish says whether the member wants a mail a day. A refused address is tried again.
func (m Mails) SetWish(ctx context.Context, by Actor, wanted bool) error {
	_, err := beside(ctx, m.desk, by, MayTalk, func(s mailStore) (struct{}, error) {
		return struct{}{}, s.WishMail(ctx, by.MemberID, wanted)
	})
	return err
}
