package app_test

import (
	"context"
	"errors"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/library"
	"brightchalk/internal/mail"
	"brightchalk/internal/people"
	"brightchalk/internal/tx"
	"brightchalk/test/testdb"
)

type letterBox struct {
	mu     sync.Mutex
	got    []mail.Letter
	answer error
}

func (b *letterBox) Send(_ context.Context, l mail.Letter) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.answer == nil {
		b.got = append(b.got, l)
	}
	return b.answer
}

// A member gets one mail a day of what waits and was not seen, from however many servers; a bounce ends it.
func TestOneMailADay(t *testing.T) {
	ctx := context.Background()
	box := &letterBox{}
	now := time.Date(2026, 11, 25, 5, 0, 0, 0, time.UTC)
	a := app.New(testdb.New(t), app.Options{
		Now: func() time.Time { return now }, Hashing: testdb.Hashing,
		Post: people.Post{Sender: box, Address: "https://chalk.school.example/"},
	})
	_, err := demo.Load(ctx, a)
	require.NoError(t, err)
	actor := func(i int) tx.Actor {
		by, err := a.Accounts.SignIn(
			ctx,
			people.SignInAttempt{Email: demo.SignIns[i].Email, Password: demo.SignIns[i].Password},
		)
		require.NoError(t, err)
		return by
	}
	lead, teacher := actor(0), actor(1)
	sent, err := a.Mails.Daily(ctx)
	require.NoError(t, err)
	assert.Zero(t, sent, "nobody is woken at five")
	now = now.Add(2 * time.Hour)
	var all sync.WaitGroup
	for range 4 {
		all.Go(func() { _, _ = a.Mails.Daily(ctx) })
	}
	all.Wait()
	to := map[string]int{}
	for _, l := range box.got {
		to[l.To]++
		assert.Contains(t, l.Text, "https://chalk.school.example/today")
	}
	require.NotEmpty(t, to)
	for who, n := range to {
		assert.Equal(t, 1, n, who)
	}
	assert.Contains(t, to, demo.SignIns[0].Email, "the demo has notices for the lead")
	box.got = nil
	_, err = a.Mails.Daily(ctx)
	require.NoError(t, err)
	assert.Empty(t, box.got, "once a day")

	wall, err := a.Cards.Wall(ctx, lead, false)
	require.NoError(t, err)
	say := func(text string) {
		_, err := a.Reviews.Remark(
			ctx,
			teacher,
			wall[12].CardID,
			library.Saying{Body: "@" + lead.Initials + " " + text},
		)
		require.NoError(t, err)
	}
	say("a word that stays here")
	now = now.AddDate(0, 0, 1)
	box.answer = errors.New("451 later")
	_, err = a.Mails.Daily(ctx)
	require.Error(t, err)
	box.answer = nil
	_, err = a.Mails.Daily(ctx)
	require.NoError(t, err)
	require.Len(t, box.got, 1, "what could not be sent is tried again")
	assert.Contains(t, box.got[0].Text, "named you on the card h")
	assert.NotContains(t, box.got[0].Text, "a word that stays here")
	assert.Contains(t, box.got[0].Subject, "1 thing for you")

	say("again")
	now = now.AddDate(0, 0, 1)
	box.answer = mail.ErrRefused
	_, err = a.Mails.Daily(ctx)
	require.NoError(t, err)
	wish, err := a.Mails.Wish(ctx, lead)
	require.NoError(t, err)
	assert.NotNil(t, wish.RefusedAt)
	box.answer, box.got = nil, nil
	now = now.AddDate(0, 0, 1)
	_, err = a.Mails.Daily(ctx)
	require.NoError(t, err)
	assert.Empty(t, box.got, "an address that bounced is left alone")
	require.NoError(t, a.Mails.SetWish(ctx, lead, true))
	_, err = a.Mails.Daily(ctx)
	require.NoError(t, err)
	assert.Len(t, box.got, 1, "until the member asks again")
	require.NoError(t, a.Mails.SetWish(ctx, lead, false))
	say("and again")
	now = now.AddDate(0, 0, 1)
	_, err = a.Mails.Daily(ctx)
	require.NoError(t, err)
	assert.Len(t, box.got, 1, "who wants none gets none")
}

func TestAccountEventsAreFilteredAndGoOut(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	require.NoError(t, s.Accounts.Pause(ctx, s.lead, s.assistant.MemberID, true))
	all, err := s.Accounts.Events(ctx, s.lead, people.EventAsk{})
	require.NoError(t, err)
	paused, err := s.Accounts.Events(ctx, s.lead, people.EventAsk{Kind: "paused"})
	require.NoError(t, err)
	require.Len(t, paused, 1)
	assert.Greater(t, len(all), 1)
	hers, err := s.Accounts.Events(ctx, s.lead, people.EventAsk{Who: strings.ToLower(s.assistant.Name)[:3]})
	require.NoError(t, err)
	assert.NotEmpty(t, hers)
	none, err := s.Accounts.Events(ctx, s.lead, people.EventAsk{Who: "%"})
	require.NoError(t, err)
	assert.Empty(t, none, "a sign is a sign")
	var out strings.Builder
	require.ErrorIs(t, s.Accounts.EventsCSV(ctx, s.teacher, people.EventAsk{}, &out), tx.ErrForbidden)
	require.NoError(t, s.Accounts.EventsCSV(ctx, s.lead, people.EventAsk{Kind: "paused"}, &out))
	assert.Len(t, strings.Split(strings.TrimSpace(out.String()), "\n"), 2)
}
