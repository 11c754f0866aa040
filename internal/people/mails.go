package people

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"brightchalk/internal/core/prose"
	"brightchalk/internal/mail"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Post is where mail goes and what its links begin with. Without a Sender there is no mail.
type Post struct {
	Sender  mail.Sender
	Address string // of the application, as https://chalk.school.example; may be empty
}

// Mails tells members once a day by mail what waits for them and they have not seen.
type Mails struct {
	Env  tx.Env
	Post Post
}

// From which hour of the day on mails go, and how many at once.
const (
	mailHour = 6
	maxMails = 200
	mailDays = 30 // for which it is kept that one went out
)

// Daily sends the mails of the day that wait. Any number of servers may do so: each member gets one. The error is the
// last one of a letter that could not be sent and is tried again.
func (m Mails) Daily(ctx context.Context) (sent int, err error) {
	now := m.Env.Now()
	if m.Post.Sender == nil || now.Hour() < mailHour {
		return 0, nil
	}
	day := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)
	due, err := store.DueMail(ctx, m.Env.AllTeams(), day, maxMails)
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
	return sent, errors.Join(err, store.ForgetMail(ctx, m.Env.AllTeams(), day.AddDate(0, 0, -mailDays)))
}

// postman writes for a member, whoever that is: no right is asked for.
var postman = tx.MayTalk

func (m Mails) one(ctx context.Context, d store.MailDue, day, now time.Time) (sent bool, err error) {
	by := tx.Actor{MemberID: d.MemberID, TeamID: d.TeamID, Role: tx.Assistant}
	type claim struct {
		mine    bool
		notices []store.Notice
	}
	c, err := tx.WriteUnlocked(ctx, m.Env, by, postman, func(s store.Library) (c claim, err error) {
		if c.mine, err = s.ClaimMail(ctx, d.MemberID, day, now); err != nil || !c.mine {
			return c, err
		}
		c.notices, err = s.NoticesToMail(ctx, d.MemberID)
		return c, err
	})
	if err != nil || !c.mine || len(c.notices) == 0 {
		return false, err
	}
	failed := m.Post.Sender.Send(ctx, m.letter(d, c.notices))
	_, err = tx.WriteUnlocked(ctx, m.Env, by, postman, func(s store.Library) (struct{}, error) {
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

// mergeNotices is what somebody did, before the name of a card.
var mergeNotices = map[store.NoticeKind]string{
	store.NoticeAsked: "asks you to read", store.NoticeYes: "said yes to", store.NoticeAgreed: "agreed",
	store.NoticeSentBack: "sent back", store.NoticeRemark: "said something of", store.NoticeAnswer: "answered you on",
	store.NoticeMention: "named you on", store.NoticeTaken: "took your wording over on",
}

// letter tells who did something on which card; what was said stays in the application.
func (m Mails) letter(d store.MailDue, notices []store.Notice) mail.Letter {
	var text strings.Builder
	fmt.Fprintf(&text, "Hello %s,\n\nin the library of %s:\n\n", d.Name, d.Team)
	for _, n := range notices {
		fmt.Fprintf(&text, "- %s %s the card %s.\n", n.By, mergeNotices[n.Kind], n.Grapheme)
	}
	if m.Post.Address != "" {
		fmt.Fprintf(&text, "\nIt waits for you there: %s/today\n", strings.TrimSuffix(m.Post.Address, "/"))
	}
	text.WriteString(
		"\nThis comes once a day at most, and only when something waits. Turn it off under Team, People.\n\n" +
			"Bright Chalk\n",
	)
	return mail.Letter{
		To: d.Email, Name: d.Name, Text: text.String(),
		Subject: fmt.Sprintf(
			"%d %s for you in %s",
			len(notices),
			prose.Plural(len(notices), "thing", "things"),
			d.Team,
		),
	}
}

// MailView is whether a member gets a mail a day.
type MailView struct {
	Possible  bool       `json:"possible" doc:"the server can send mail"`
	Wanted    bool       `json:"wanted"`
	RefusedAt *time.Time `json:"refused_at,omitempty" doc:"since when the mail server refuses the address"`
}

// Wish is what the member said of mail.
func (m Mails) Wish(ctx context.Context, by tx.Actor) (MailView, error) {
	return tx.Read(ctx, m.Env, by, func(s store.Library) (MailView, error) {
		w, err := s.MailWish(ctx, by.MemberID)
		return MailView{m.Post.Sender != nil, !w.Off, w.RefusedAt}, err
	})
}

// SetWish says whether the member wants a mail a day. A refused address is tried again.
func (m Mails) SetWish(ctx context.Context, by tx.Actor, wanted bool) error {
	_, err := tx.WriteUnlocked(ctx, m.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		return struct{}{}, s.WishMail(ctx, by.MemberID, wanted)
	})
	return err
}
