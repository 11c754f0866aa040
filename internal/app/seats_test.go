package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

const basinLead = "lantern beside the basin"

// basin is a second team, whose lead has invited the demo's teacher as an assistant.
func basin(t *testing.T, s school) (lead tx.Actor, secret string) {
	t.Helper()
	ctx := context.Background()
	_, err := s.Accounts.CreateTeam(ctx, people.NewTeam{
		Name: "Basin Nursery", Email: "lead@basin.example", LeadName: "Ida Spill", Password: basinLead,
		Accent: phoneme.SouthernBritish,
	})
	require.NoError(t, err)
	lead, err = s.Accounts.SignIn(ctx, people.SignInAttempt{Email: "lead@basin.example", Password: basinLead})
	require.NoError(t, err)
	made, err := s.Accounts.Ask(
		ctx,
		lead,
		people.Invitation{Name: "Tam Q", Email: "Teacher@lockhouse.example", Role: tx.Assistant},
	)
	require.NoError(t, err, "an address that has an account elsewhere can be invited")
	return lead, secretOf(t, made)
}

func TestAPersonWorksInTwoTeams(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	basinLead, secret := basin(t, s)
	k, err := s.Accounts.Opened(ctx, secret)
	require.NoError(t, err)
	assert.True(t, k.Known)
	_, err = s.Accounts.Enter(ctx, people.Entering{Secret: secret, Name: "Tam Quayle", Password: fresh})
	mendable(t, err, "a link gives nobody a new password in another team")
	who, err := s.Accounts.Enter(
		ctx,
		people.Entering{Secret: secret, Name: "Tam Quayle", Password: "kettle on the barge"},
	)
	require.NoError(t, err)
	require.True(t, who.In)
	assert.Equal(t, tx.Assistant, who.Role)
	assert.NotEqual(t, s.teacher.MemberID, who.MemberID)
	assert.Equal(t, s.teacher.AccountID, who.AccountID)
	assert.Equal(t, basinLead.TeamID, who.TeamID)

	seats, err := s.Accounts.Seats(ctx, s.teacher)
	require.NoError(t, err)
	require.Len(t, seats, 2)
	assert.Equal(t, "Basin Nursery", seats[0].Team)
	signIn := func() tx.Actor {
		t.Helper()
		a, err := s.Accounts.SignIn(
			ctx,
			people.SignInAttempt{Email: "teacher@lockhouse.example", Password: "kettle on the barge"},
		)
		require.NoError(t, err)
		return a
	}
	assert.Equal(t, s.teacher.MemberID, signIn().MemberID, "one is where one was before")
	there, err := s.Accounts.Switch(ctx, s.teacher, who.MemberID, "")
	require.NoError(t, err)
	assert.Equal(t, tx.Assistant, there.Role)
	assert.Equal(t, who.MemberID, signIn().MemberID, "the team that was chosen last")
	_, err = s.Accounts.Switch(ctx, s.assistant, who.MemberID, "")
	require.ErrorIs(t, err, store.ErrNotFound, "nobody takes another one's seat")
	_, err = s.Cards.Wall(ctx, there, false)
	require.NoError(t, err)

	// A lead of one team opens no door of the other one.
	require.ErrorIs(t, s.Accounts.ResetPassword(ctx, s.lead, s.teacher.MemberID, fresh), people.ErrElsewhere)
	_, err = s.Accounts.ResetLink(ctx, basinLead, who.MemberID)
	require.ErrorIs(t, err, people.ErrElsewhere)
	require.ErrorIs(t, s.Accounts.DropSecond(ctx, basinLead, who.MemberID, "", ""), people.ErrElsewhere)
	operator, id, err := s.Accounts.AsOperator(ctx, "teacher@lockhouse.example")
	require.NoError(t, err)
	require.NoError(t, s.Accounts.ResetPassword(ctx, operator, id, "kettle on the barge"))
	_, _, err = s.Accounts.Who(ctx, s.teacher.MemberID, s.teacher.Epoch)
	require.ErrorIs(t, err, store.ErrNotFound, "sessions end in both teams")

	// A pause in one team is none in the other one.
	require.NoError(t, s.Accounts.Pause(ctx, basinLead, who.MemberID, true))
	back := signIn()
	assert.Equal(t, s.teacher.MemberID, back.MemberID)
	seats, err = s.Accounts.Seats(ctx, back)
	require.NoError(t, err)
	assert.Len(t, seats, 1)
	_, err = s.Accounts.Switch(ctx, back, who.MemberID, "")
	require.ErrorIs(t, err, store.ErrNotFound)

	// Who left one team, and was erased there, is in the other one as before.
	require.NoError(t, s.Accounts.Remove(ctx, basinLead, who.MemberID))
	require.NoError(t, s.Accounts.Erase(ctx, basinLead, who.MemberID))
	assert.Equal(t, s.teacher.MemberID, signIn().MemberID)
	require.NoError(
		t,
		s.Accounts.ResetPassword(ctx, s.lead, s.teacher.MemberID, fresh),
		"now it is a matter of this team",
	)
}

func TestWhoLeftComesBackAsTheSame(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	require.NoError(t, s.Accounts.Remove(ctx, s.lead, s.teacher.MemberID))
	_, err := s.Accounts.SignIn(
		ctx,
		people.SignInAttempt{Email: "teacher@lockhouse.example", Password: "kettle on the barge"},
	)
	mendable(t, err, "who left cannot come in")
	made, err := s.Accounts.Ask(ctx, s.lead, people.Invitation{
		Name: "Tam Quayle", Email: "teacher@lockhouse.example", Role: tx.Assistant,
	})
	require.NoError(t, err)
	who, err := s.Accounts.Enter(ctx, people.Entering{
		Secret: secretOf(t, made), Name: "Tam Quayle", Password: fresh,
	})
	require.NoError(t, err, "nobody need know the former password")
	assert.Equal(t, s.teacher.MemberID, who.MemberID, "what was written stays with the person")
	assert.Equal(t, tx.Assistant, who.Role)
	_, _, err = s.Accounts.Who(ctx, s.teacher.MemberID, s.teacher.Epoch)
	require.ErrorIs(t, err, store.ErrNotFound, "former sessions do not come back")

	// Once the name was erased somebody new comes.
	require.NoError(t, s.Accounts.Remove(ctx, s.lead, who.MemberID))
	require.NoError(t, s.Accounts.Erase(ctx, s.lead, who.MemberID))
	_, err = s.Accounts.AddMember(
		ctx,
		store.AllTeams{Pool: s.Pool},
		s.lead.TeamID,
		"teacher@lockhouse.example",
		"Tam Q",
		tx.Teacher,
		fresh,
	)
	require.NoError(t, err)
}

// somebody is vouched for by a provider.
func somebody(subject, email string) people.ProviderIdentity {
	return people.ProviderIdentity{
		Identity: store.Identity{Issuer: "https://id.example", Subject: subject}, Email: email, Name: "Canal ID",
	}
}

func TestAProviderVouches(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	_, err := s.Accounts.ByProvider(ctx, somebody("1", "nobody@lockhouse.example"), "")
	require.ErrorIs(t, err, people.ErrNobody)
	_, err = s.Accounts.ByProvider(ctx, somebody("1", ""), "")
	require.ErrorIs(t, err, people.ErrNobody, "an address that was not verified says nothing")
	who, err := s.Accounts.ByProvider(ctx, somebody("1", "TEACHER@lockhouse.example"), "")
	require.NoError(t, err)
	assert.Equal(t, s.teacher.MemberID, who.MemberID)
	who, err = s.Accounts.ByProvider(ctx, somebody("1", "renamed@lockhouse.example"), "")
	require.NoError(t, err, "later the subject tells who it is")
	assert.Equal(t, s.teacher.MemberID, who.MemberID)
	_, err = s.Accounts.ByProvider(ctx, somebody("2", "teacher@lockhouse.example"), "")
	require.ErrorIs(t, err, people.ErrBound, "an address that was given to somebody else opens nothing")
	require.ErrorIs(t, s.Accounts.Connect(ctx, s.assistant, somebody("1", ""), ""), people.ErrBound)

	// An invitation is for its address.
	made, err := s.Accounts.Ask(
		ctx,
		s.lead,
		people.Invitation{Name: "Otto Wick", Email: "otto@lockhouse.example", Role: tx.Teacher},
	)
	require.NoError(t, err)
	_, err = s.Accounts.JoinByProvider(ctx, secretOf(t, made), "", "", somebody("3", "other@lockhouse.example"))
	require.ErrorIs(t, err, people.ErrBound)
	otto, err := s.Accounts.JoinByProvider(ctx, secretOf(t, made), "", "", somebody("3", "otto@lockhouse.example"))
	require.NoError(t, err)
	assert.Equal(t, "Otto Wick", otto.Name)
	for _, password := range []string{"", fresh} {
		_, err = s.Accounts.SignIn(ctx, people.SignInAttempt{Email: "otto@lockhouse.example", Password: password})
		mendable(t, err, "no password opens an account without one")
	}
	mendable(t, s.Accounts.Disconnect(ctx, otto, "https://id.example", "Canal ID", ""), "there is no other way in")
	view, err := s.Accounts.Connected(ctx, otto, "https://id.example")
	require.NoError(t, err)
	assert.NotNil(t, view.Since)
	assert.False(t, view.Password)

	// Who left and is invited again comes back by the same sign-in, but not round a second step.
	require.NoError(t, s.Accounts.Remove(ctx, s.lead, otto.MemberID))
	_, err = s.Accounts.ByProvider(ctx, somebody("3", "otto@lockhouse.example"), "")
	require.ErrorIs(t, err, people.ErrNobody)
	again := people.Invitation{Name: "Otto Wick", Email: "otto@lockhouse.example", Role: tx.Teacher}
	made, err = s.Accounts.Ask(ctx, s.lead, again)
	require.NoError(t, err)
	_, err = store.AllTeams{Pool: s.Pool}.Exec(
		ctx,
		"INSERT INTO second_factor (account_id, secret, since) VALUES ($1, 'ABC', now())",
		otto.AccountID,
	)
	require.NoError(t, err)
	_, err = s.Accounts.JoinByProvider(ctx, secretOf(t, made), "", "", somebody("3", "otto@lockhouse.example"))
	require.ErrorIs(t, err, people.ErrSecond)
	_, err = store.AllTeams{Pool: s.Pool}.Exec(ctx, "DELETE FROM second_factor")
	require.NoError(t, err)
	back, err := s.Accounts.JoinByProvider(ctx, secretOf(t, made), "", "", somebody("3", "otto@lockhouse.example"))
	require.NoError(t, err)
	assert.Equal(t, otto.MemberID, back.MemberID)

	// Paused is paused, whoever vouches.
	require.NoError(t, s.Accounts.Pause(ctx, s.lead, otto.MemberID, true))
	_, err = s.Accounts.ByProvider(ctx, somebody("3", "otto@lockhouse.example"), "")
	require.ErrorIs(t, err, people.ErrPaused)

	// A sign-in to another account by its address alone is none where somebody is asked for a code.
	require.NoError(t, s.Accounts.Connect(ctx, s.lead, somebody("4", ""), ""))
	require.NoError(t, s.Accounts.Disconnect(ctx, s.lead, "https://id.example", "Canal ID", ""))
	_, err = store.AllTeams{Pool: s.Pool}.Exec(
		ctx,
		"INSERT INTO second_factor (account_id, secret, since) VALUES ($1, 'ABC', now())",
		s.lead.AccountID,
	)
	require.NoError(t, err)
	_, err = s.Accounts.ByProvider(ctx, somebody("4", "lead@lockhouse.example"), "")
	require.ErrorIs(t, err, people.ErrSecond)
}

// A link to choose a new password opens all teams of a person. One that was made while they worked in one team only,
// and that its maker kept, opens nothing once they joined another; nor after they changed how they sign in.
func TestAKeptLinkOpensNoOtherTeam(t *testing.T) {
	const own = "kettle on the barge"
	for name, change := range map[string]func(t *testing.T, s school){
		"joined another team": func(t *testing.T, s school) {
			t.Helper()
			_, secret := basin(t, s)
			_, err := s.Accounts.Enter(context.Background(),
				people.Entering{Secret: secret, Name: "Tam Quayle", Password: own})
			require.NoError(t, err)
		},
		"chose another password": func(t *testing.T, s school) {
			t.Helper()
			_, err := s.Accounts.ChangePassword(context.Background(), s.teacher, "", own, fresh)
			require.NoError(t, err)
		},
		"signs in by a provider": func(t *testing.T, s school) {
			t.Helper()
			_, err := store.AllTeams{Pool: s.Pool}.Exec(context.Background(),
				"INSERT INTO account_identity (issuer, subject, account_id, since) VALUES ('x', 'y', $1, now())",
				s.teacher.AccountID)
			require.NoError(t, err)
		},
		"has another address": func(t *testing.T, s school) {
			t.Helper()
			_, err := store.AllTeams{Pool: s.Pool}.Exec(context.Background(),
				"UPDATE account SET email = 'tam@elsewhere.example' WHERE account_id = $1", s.teacher.AccountID)
			require.NoError(t, err)
		},
	} {
		t.Run(name, func(t *testing.T) {
			s := demoSchool(t)
			ctx := context.Background()
			made, err := s.Accounts.ResetLink(ctx, s.lead, s.teacher.MemberID)
			require.NoError(t, err)
			_, err = s.Accounts.Opened(ctx, secretOf(t, made))
			require.NoError(t, err)
			change(t, s)
			_, err = s.Accounts.Enter(ctx, people.Entering{
				Secret: secretOf(t, made), Name: "Tam", Password: "heron on the lock gate",
			})
			require.ErrorIs(t, err, people.ErrLink)
		})
	}

	// The link was found before they joined, and is used after: the check at its use refuses it.
	s := demoSchool(t)
	ctx := context.Background()
	made, err := s.Accounts.ResetLink(ctx, s.lead, s.teacher.MemberID)
	require.NoError(t, err)
	_, secret := basin(t, s)
	_, err = s.Accounts.Enter(ctx, people.Entering{Secret: secret, Name: "Tam Quayle", Password: own})
	require.NoError(t, err)
	_, err = store.AllTeams{Pool: s.Pool}.Exec(ctx, "UPDATE account_link SET ended_at = NULL WHERE kind = 'reset'")
	require.NoError(t, err)
	_, err = s.Accounts.Enter(ctx, people.Entering{Secret: secretOf(t, made), Name: "Tam", Password: fresh})
	require.ErrorIs(t, err, people.ErrLink)
}
