package app_test

import (
	"context"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/library"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

const fresh = "heron under the bridge"

func secretOf(t *testing.T, l people.NewLink) string {
	t.Helper()
	_, secret, ok := strings.Cut(l.Path, "#")
	require.True(t, ok)
	require.Greater(t, len(secret), 20)
	return secret
}

func TestSomebodyJoinsByALink(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ask := people.Invitation{Name: "Otto Wick", Email: "otto@lockhouse.example", Role: tx.Teacher}
	_, err := s.Accounts.Ask(ctx, s.teacher, ask)
	require.ErrorIs(t, err, tx.ErrForbidden)
	for _, bad := range []people.Invitation{
		{Name: "Otto", Email: "otto", Role: tx.Teacher},
		{Email: ask.Email, Role: tx.Teacher},
		{Name: "Otto", Email: "LEAD@lockhouse.example", Role: tx.Teacher},
		{Name: "Otto", Email: ask.Email, Role: "owner"},
	} {
		_, err := s.Accounts.Ask(ctx, s.lead, bad)
		mendable(t, err, bad)
	}
	alike := ask
	alike.Email = "\uff4ftto@lockhouse.example" // a wide o, as from a table of another script
	made, err := s.Accounts.Ask(ctx, s.lead, alike)
	require.NoError(t, err)
	secret := secretOf(t, made)
	k, err := s.Accounts.Opened(ctx, secret)
	require.NoError(t, err)
	assert.Equal(t, "Otto Wick", k.Name)
	assert.Equal(t, ask.Email, k.Email, "a wide letter is the plain one")
	assert.NotEmpty(t, k.Team)
	_, err = s.Accounts.Enter(ctx, people.Entering{Secret: secret, Name: "Otto Wick", Password: "short"})
	mendable(t, err)
	_, err = s.Accounts.Enter(ctx, people.Entering{Secret: secret + "X", Name: "Otto Wick", Password: fresh})
	require.ErrorIs(t, err, people.ErrLink)

	// Of several who use it at once, one joins.
	errs := make([]error, 4)
	var all sync.WaitGroup
	for i := range errs {
		all.Go(func() {
			_, errs[i] = s.Accounts.Enter(ctx, people.Entering{Secret: secret, Name: "Otto Wick", Password: fresh})
		})
	}
	all.Wait()
	joined := 0
	for _, err := range errs {
		if err == nil {
			joined++
		} else {
			require.ErrorIs(t, err, people.ErrLink)
		}
	}
	assert.Equal(t, 1, joined)
	otto, err := s.Accounts.SignIn(ctx, people.SignInAttempt{Email: ask.Email, Password: fresh})
	require.NoError(t, err)
	assert.Equal(t, "OW2", otto.Initials, "the lead has OW")
	open, err := s.Accounts.Links(ctx, s.lead)
	require.NoError(t, err)
	assert.Empty(t, open)
}

func TestALinkIsTakenBackAndGrowsOld(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ask := people.Invitation{Name: "Otto Wick", Email: "otto@lockhouse.example", Role: tx.Teacher}
	made, err := s.Accounts.Ask(ctx, s.lead, ask)
	require.NoError(t, err)
	open, err := s.Accounts.Links(ctx, s.lead)
	require.NoError(t, err)
	require.Len(t, open, 1)
	require.NoError(t, s.Accounts.EndLink(ctx, s.lead, open[0].LinkID))
	_, err = s.Accounts.Opened(ctx, secretOf(t, made))
	require.ErrorIs(t, err, people.ErrLink)
	require.ErrorIs(t, s.Accounts.EndLink(ctx, s.lead, open[0].LinkID), store.ErrNotFound)

	made, err = s.Accounts.Ask(ctx, s.lead, ask)
	require.NoError(t, err)
	const day = 24 * time.Hour // the invitation says: good for seven days
	_, err = s.later(7*day-time.Minute).Accounts.Opened(ctx, secretOf(t, made))
	require.NoError(t, err)
	_, err = s.later(7*day+time.Minute).Accounts.Opened(ctx, secretOf(t, made))
	require.ErrorIs(t, err, people.ErrLink)
	late := people.Entering{Secret: secretOf(t, made), Name: "Otto Wick", Password: fresh}
	_, err = s.later(7*day+time.Minute).Accounts.Enter(ctx, late)
	require.ErrorIs(t, err, people.ErrLink)
}

func TestANewPasswordByALinkAndAPause(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	first, err := s.Accounts.ResetLink(ctx, s.lead, s.teacher.MemberID)
	require.NoError(t, err)
	second, err := s.Accounts.ResetLink(ctx, s.lead, s.teacher.MemberID)
	require.NoError(t, err)
	_, err = s.Accounts.Opened(ctx, secretOf(t, first))
	require.ErrorIs(t, err, people.ErrLink, "the newer link ends the older one")
	who, err := s.Accounts.Enter(ctx, people.Entering{Secret: secretOf(t, second), Name: "", Password: fresh})
	require.NoError(t, err)
	assert.Equal(t, s.teacher.MemberID, who.MemberID)
	_, _, err = s.Accounts.Who(ctx, s.teacher.MemberID, s.teacher.Epoch)
	require.ErrorIs(t, err, store.ErrNotFound, "former sessions have ended")

	mendable(t, s.Accounts.Pause(ctx, s.lead, s.lead.MemberID, true), "a team keeps a lead who can sign in")
	require.ErrorIs(t, s.Accounts.Pause(ctx, s.teacher, s.assistant.MemberID, true), tx.ErrForbidden)
	require.NoError(t, s.Accounts.Pause(ctx, s.lead, s.teacher.MemberID, true))
	_, _, err = s.Accounts.Who(ctx, who.MemberID, who.Epoch)
	require.ErrorIs(t, err, store.ErrNotFound, "the sessions end at once")
	_, err = s.Accounts.SignIn(ctx, people.SignInAttempt{Email: "teacher@lockhouse.example", Password: fresh})
	require.ErrorIs(t, err, people.ErrPaused)
	_, err = s.Accounts.SignIn(ctx, people.SignInAttempt{Email: "teacher@lockhouse.example", Password: "wrong, all of it"})
	require.NotErrorIs(t, err, people.ErrPaused, "who does not know the password learns nothing")
	require.NoError(t, s.Accounts.Pause(ctx, s.lead, s.teacher.MemberID, false))
	_, err = s.Accounts.SignIn(ctx, people.SignInAttempt{Email: "teacher@lockhouse.example", Password: fresh})
	require.NoError(t, err)
}

// Somebody who left is exported, then erased: what was written stays, and no row of the database holds the name or the
// address any more.
func TestSomebodyWhoLeftIsErased(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ask := people.Invitation{Name: "Quillo Wick", Email: "quillo@lockhouse.example", Role: tx.Teacher}
	made, err := s.Accounts.Ask(ctx, s.lead, ask)
	require.NoError(t, err)
	joined, err := s.Accounts.Enter(ctx, people.Entering{
		Secret: secretOf(t, made), Name: "Quillo Wick", Password: fresh, Address: "192.0.2.7",
	})
	require.NoError(t, err)
	quillo := joined.Actor
	id := s.cards["m"]
	s.rhymes(t, quillo, id, "Market men make merry.")
	_, err = s.Reviews.Remark(ctx, quillo, id, library.Saying{Field: "rhyme", Body: "Shorter now."})
	require.NoError(t, err)
	_, err = s.Accounts.Data(ctx, s.teacher, quillo.MemberID)
	require.ErrorIs(t, err, tx.ErrForbidden)
	own, err := s.Accounts.Data(ctx, quillo, quillo.MemberID)
	require.NoError(t, err)
	for _, part := range []string{"quillo@lockhouse.example", "Shorter now.", "rhyme"} {
		assert.Contains(t, string(own), part)
	}
	assert.NotContains(t, string(own), "argon2id")
	mendable(t, s.Accounts.Erase(ctx, s.lead, quillo.MemberID), "who is still there is not erased")
	require.NoError(t, s.Accounts.Remove(ctx, s.lead, quillo.MemberID))
	former, err := s.Accounts.Former(ctx, s.lead)
	require.NoError(t, err)
	require.Len(t, former, 1)
	require.ErrorIs(t, s.Accounts.Erase(ctx, s.teacher, quillo.MemberID), tx.ErrForbidden)
	require.NoError(t, s.Accounts.Erase(ctx, s.lead, quillo.MemberID))
	require.ErrorIs(t, s.Accounts.Erase(ctx, s.lead, quillo.MemberID), store.ErrNotFound)

	v, err := s.Reviews.Review(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Equal(t, "Market men make merry.", v.Now.Content.Rhyme, "the work stays")
	assert.Equal(t, "somebody who left", v.Remarks[len(v.Remarks)-1].MadeBy)
	rows, err := store.AllTeams{
		Pool: s.Pool,
	}.Query(
		ctx,
		`SELECT table_name FROM information_schema.tables WHERE table_schema = 'public'`,
	)
	require.NoError(t, err)
	tables, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	for _, table := range tables {
		var n int
		require.NoError(t, store.AllTeams{Pool: s.Pool}.QueryRow(ctx, `SELECT count(*) FROM "`+table+`" t
			WHERE t::text ILIKE '%quillo%' OR t::text LIKE '%192.0.2.7%'`).Scan(&n))
		assert.Zero(t, n, table)
	}
}
