package app_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/people"
	"brightchalk/internal/tx"
	"brightchalk/test/testdb"
)

// Codes are those of RFC 6238: they are made here by the library as an app makes them. Each is good once.
func TestASecondStep(t *testing.T) {
	ctx := context.Background()
	now := time.Date(2026, 11, 27, 9, 0, 0, 0, time.UTC)
	a := app.New(testdb.New(t), app.Options{Now: func() time.Time { return now }, Hashing: testdb.Hashing})
	list, err := demo.Load(ctx, a)
	require.NoError(t, err)
	try := func(i int, code string) (tx.Actor, error) {
		return a.Accounts.SignIn(
			ctx,
			people.SignInAttempt{Email: list[i].Email, Password: list[i].Password, Code: code, Address: "192.0.2.7"},
		)
	}
	teacher, err := try(1, "")
	require.NoError(t, err)
	lead, err := try(0, "")
	require.NoError(t, err)
	secret, err := a.Accounts.BeginSecond(ctx, teacher)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(secret.QR), "\x89PNG"))
	_, err = try(1, "")
	require.NoError(t, err, "it is not asked for before the first right code")
	_, err = a.Accounts.ConfirmSecond(ctx, teacher, "", "000000")
	require.ErrorIs(t, err, fault.Invalid)
	code := func() string {
		c, err := totp.GenerateCode(secret.Secret, now)
		require.NoError(t, err)
		return c
	}
	spare, err := a.Accounts.ConfirmSecond(ctx, teacher, "", code())
	require.NoError(t, err)
	require.Len(t, spare, 8)
	_, err = a.Accounts.BeginSecond(ctx, teacher)
	require.Error(t, err, "a stolen session sets up no other one")

	_, err = try(1, "")
	require.ErrorIs(t, err, people.ErrSecond)
	_, err = try(1, code())
	require.ErrorIs(t, err, fault.Invalid, "the code of the set-up was used")
	now = now.Add(30 * time.Second)
	first := code()
	_, err = try(1, first[:3]+" "+first[3:])
	require.NoError(t, err)
	_, err = try(1, first)
	require.ErrorIs(t, err, fault.Invalid, "a code is good once")
	now = now.Add(2 * time.Minute)
	late := code()
	now = now.Add(31 * time.Second)
	_, err = try(1, late)
	require.NoError(t, err, "one step late is taken")
	now = now.Add(5 * time.Minute)
	_, err = try(1, late)
	require.ErrorIs(t, err, fault.Invalid, "an old one is not")
	_, err = try(1, strings.ToLower(spare[0]))
	require.NoError(t, err)
	_, err = try(1, spare[0])
	require.ErrorIs(t, err, fault.Invalid, "a spare code is good once")
	view, err := a.Accounts.Second(ctx, teacher)
	require.NoError(t, err)
	assert.True(t, view.On)
	assert.Equal(t, 7, view.Spare)
	_, err = try(0, "")
	require.NoError(t, err, "the others are asked for nothing")

	now = now.Add(time.Hour)
	wait := people.TooMany{}
	for range 11 {
		_, err = try(1, "111111")
	}
	require.ErrorAs(t, err, &wait, "wrong codes count as failures")
	now = now.Add(time.Hour)
	require.ErrorIs(t, a.Accounts.DropSecond(ctx, teacher, teacher.MemberID, "wrong", ""), fault.Invalid)
	require.ErrorIs(t, a.Accounts.DropSecond(ctx, teacher, lead.MemberID, "", ""), tx.ErrForbidden)
	require.NoError(
		t,
		a.Accounts.DropSecond(ctx, lead, teacher.MemberID, "", ""),
		"a lead, where the app and the spares are gone",
	)
	_, err = try(1, "")
	require.NoError(t, err)
	events, err := a.Accounts.Events(ctx, lead, people.EventAsk{Kind: "second-off"})
	require.NoError(t, err)
	require.Len(t, events, 1)
	assert.Equal(t, lead.Name, events[0].By)
}
