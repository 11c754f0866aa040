package app_test

import (
	"context"
	"errors"
	"fmt"
	"net/netip"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/media"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

// together runs f at once n times and returns the errors.
func together(n int, f func(i int) error) (out []error) {
	var wait sync.WaitGroup
	out = make([]error, n)
	for i := range n {
		wait.Go(func() { out[i] = f(i) })
	}
	wait.Wait()
	return out
}

func (s school) count(t *testing.T, sql string) (n int) {
	t.Helper()
	require.NoError(t, store.AllTeams{Pool: s.Pool}.QueryRow(context.Background(), sql).Scan(&n))
	return n
}

// Twenty people move cards, add cards, record for one card and choose its sound, all at once: nobody is refused by the
// others, the order stays without gaps and doubles, and the card has one sound.
func TestManyChangeOneLibrary(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ids := make([]string, 0, len(s.cards))
	for _, id := range s.cards {
		ids = append(ids, id)
	}
	k, err := s.Takes.Recording(ctx, s.lead, s.take(t, "s"))
	require.NoError(t, err)
	for i, err := range together(60, func(i int) error {
		switch i % 4 {
		case 0, 1:
			return s.Cards.Move(ctx, s.lead, ids[i%len(ids)], 1+(i*17)%len(ids))
		case 2:
			_, err := s.Takes.Add(ctx, s.assistant, s.cards["s"], fmt.Sprintf("Voice %d", i), true, media.UploadOf(k.Bytes))
			return err
		}
		return s.Takes.Choose(ctx, s.teacher, s.take(t, "s"))
	}) {
		assert.NoError(t, err, i)
	}
	for i, err := range together(6, func(i int) error {
		_, err := s.Cards.New(ctx, s.teacher, []string{"eigh=eɪ", "kn=n", "wr=r", "mb=m", "gn=n", "ough=əʊ"}[i], 3)
		return err
	}) {
		assert.NoError(t, err, i)
	}
	cards := s.count(t, "SELECT count(*) FROM card")
	assert.Equal(t, cards, s.count(t, "SELECT count(DISTINCT step) FROM card"), "no two cards at one step")
	assert.Equal(t, cards, s.count(t, "SELECT max(step) FROM card"), "and no gaps")
	assert.Equal(t, 1, s.count(t, "SELECT count(*) FROM take WHERE chosen AND card_id = '"+s.cards["s"]+"'"))
	assert.Equal(t, 15, s.count(t, "SELECT count(*) FROM take WHERE speaker LIKE 'Voice %'"), "every take is kept")
}

func (s school) take(t *testing.T, grapheme string) string {
	takes, err := s.Takes.Of(context.Background(), s.lead, s.cards[grapheme])
	assert.NoError(t, err)
	return takes[len(takes)-1].TakeID
}

// One lesson that is logged ten times at once counts once.
func TestALessonIsLoggedOnce(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	v, err := s.Lessons.Assemble(ctx, s.teacher, teaching.LessonAsk{
		ClassID: s.class, Purpose: "introduce", CardIDs: []string{s.cards["b"]}, Minutes: 20,
	})
	require.NoError(t, err)
	for _, err := range together(10, func(int) error {
		sure := []teaching.Sure{{CardID: s.cards["b"], Sure: 2}}
		return s.Lessons.Log(ctx, s.teacher, v.LessonID, teaching.Taught{Sure: sure})
	}) {
		assert.NoError(t, err)
	}
	assert.Equal(t, 1, s.count(t, "SELECT count(*) FROM class_log WHERE lesson_id = '"+v.LessonID+"'"))
}

// Guesses at one account end after ten, from one address and from many, one after the other and at once; a whole
// school that signs in from one address is not counted; the place that the account is known from stays open.
func TestGuessesAreCountedByFailure(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	guess := func(email, password string, address int) error {
		from := netip.AddrFrom4([4]byte{10, 0, byte(address >> 8), byte(address)})
		_, err := s.Accounts.SignIn(ctx, people.SignInAttempt{Email: email, Password: password, Address: from.String()})
		return err
	}
	lead, good := demo.SignIns[0].Email, demo.SignIns[0].Password
	for i := range 40 {
		require.NoError(t, guess(lead, good, 1), i)
	}
	var many people.TooMany
	tried, refused := 0, 0
	for _, err := range together(60, func(i int) error { return guess(lead, fmt.Sprint("guess ", i), 100+i) }) {
		if assert.Error(t, err); isFault(err) {
			tried++
		} else {
			require.ErrorAs(t, err, &many)
			refused++
		}
	}
	assert.Equal(t, 10, tried, "of many addresses at once")
	assert.Equal(t, 50, refused)
	assert.Positive(t, many.Wait)
	require.ErrorAs(t, guess(lead, good, 99), &many, "nor does the right password help a stranger now")
	require.NoError(t, guess(lead, good, 1), "the address that it is known from is not shut out")
	for i := range 12 {
		err := guess(lead, "wrong", 1)
		if i < 10 {
			require.NotErrorAs(t, err, &many)
		} else {
			require.ErrorAs(t, err, &many, "though it has its own count")
		}
	}
	tried = 0
	for i := range 120 {
		if err := guess(fmt.Sprintf("nobody%d@x.example", i), "guess", 7); !assert.Error(t, err) || isFault(err) {
			tried++
		}
	}
	assert.Equal(t, 100, tried, "guesses at many accounts from one address")
	require.NoError(t, guess(demo.SignIns[1].Email, demo.SignIns[1].Password, 8), "other accounts sign in elsewhere")
	id := s.lead.MemberID
	require.NoError(t, s.Accounts.ResetPassword(ctx, s.lead, id, "heron under the bridge"))
	require.NoError(t, guess(lead, "heron under the bridge", 99), "a lead's reset opens the account again")
}

func isFault(err error) bool {
	var f *fault.Fault
	return errors.As(err, &f)
}

// An address that was removed can be invited again, with a new password; what the person wrote is theirs as before.
func TestARemovedAddressIsFreeAgain(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	_, id, err := s.Accounts.AsOperator(ctx, demo.SignIns[2].Email)
	require.NoError(t, err)
	require.NoError(t, s.Accounts.Remove(ctx, s.lead, id))
	require.ErrorIs(t, s.Accounts.Remove(ctx, s.lead, id), store.ErrNotFound)
	require.NoError(
		t,
		s.Accounts.Invite(ctx, s.lead, demo.SignIns[2].Email, "Bea Again", tx.Assistant, "a long enough one"),
	)
	other, err := s.Accounts.SignIn(ctx, people.SignInAttempt{Email: demo.SignIns[2].Email, Password: "a long enough one"})
	require.NoError(t, err)
	assert.Equal(t, id, other.MemberID)
	assert.Equal(t, "Bea Again", other.Name)
}
