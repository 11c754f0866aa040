package app_test

import (
	"context"
	"math"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/accord"
	"brightchalk/internal/core/card"
	"brightchalk/internal/library"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// change writes a rhyme on a card and returns the version that came of it.
func (s school) rhymes(t *testing.T, by tx.Actor, id, rhyme string) int {
	t.Helper()
	c, err := s.Cards.Card(context.Background(), by, id)
	require.NoError(t, err)
	c.Content.Rhyme, c.Content.RhymeShort = rhyme, ""
	after, err := s.Cards.Save(context.Background(), by, id, c.Version, c.Content)
	require.NoError(t, err)
	return after.Version
}

// quietSchool is the demo team where everybody has seen what they were told.
func quietSchool(t *testing.T) school {
	t.Helper()
	s := demoSchool(t)
	for _, by := range []tx.Actor{s.lead, s.teacher, s.assistant} {
		require.NoError(t, s.Reviews.See(context.Background(), by, math.MaxInt32))
	}
	return s
}

func (s school) twoAgree(t *testing.T) {
	t.Helper()
	team, err := s.Settings.Team(context.Background(), s.lead)
	require.NoError(t, err)
	team.Conventions.Agreeing = accord.Two
	require.NoError(t, s.Settings.SetConventions(context.Background(), s.lead, team.Conventions))
}

func kinds(t *testing.T, s school, by tx.Actor) []store.NoticeKind {
	t.Helper()
	list, err := s.Reviews.Notices(context.Background(), by)
	require.NoError(t, err)
	var out []store.NoticeKind
	for _, n := range list {
		if n.SeenAt == nil {
			out = append(out, n.Kind)
		}
	}
	return out
}

func TestACardIsPutForwardReadAndAgreed(t *testing.T) {
	s := quietSchool(t)
	ctx := context.Background()
	id := s.cards["m"]
	before, err := s.Cards.Card(ctx, s.teacher, id)
	require.NoError(t, err)
	s.rhymes(t, s.teacher, id, "Market men make merry.")
	v, err := s.Reviews.Ask(
		ctx,
		s.teacher,
		id,
		library.ReviewRequest{Note: "Shorter now.", Readers: []string{s.lead.MemberID}},
	)
	require.NoError(t, err)
	assert.Equal(t, card.InReview, v.State)
	assert.Equal(t, []string{"rhyme", "rhyme_short"}, withRhyme(v.Changed))
	assert.Equal(t, before.Content.Rhyme, v.Before.Content.Rhyme, "what is agreed is shown beside it")
	assert.Equal(t, "Market men make merry.", v.Now.Content.Rhyme)
	assert.False(t, v.May, "where a lead agrees, a teacher's yes does not count")
	assert.Equal(t, []store.NoticeKind{store.NoticeAsked}, kinds(t, s, s.lead))

	_, err = s.Reviews.Say(ctx, s.teacher, id, library.Verdict{Version: v.Now.Version, Yes: true})
	require.ErrorIs(t, err, tx.ErrForbidden)
	seen := v.Now.Version
	s.rhymes(t, s.teacher, id, "Market men make merry music.")
	_, err = s.Reviews.Say(ctx, s.lead, id, library.Verdict{Version: seen, Yes: true})
	require.ErrorIs(t, err, library.ErrCardMoved, "what was not read is not agreed")
	v, err = s.Reviews.Say(ctx, s.lead, id, library.Verdict{Version: seen + 1, Note: "Four words, please."})
	require.NoError(t, err)
	assert.Equal(t, card.Draft, v.State)
	assert.Equal(t, "sent back", v.Past[0].State)
	assert.Equal(t, "Four words, please.", v.Past[0].Conclusion)
	assert.Equal(t, []store.NoticeKind{store.NoticeSentBack}, kinds(t, s, s.teacher))

	s.rhymes(t, s.teacher, id, "Market men make merry.")
	v, err = s.Reviews.Ask(ctx, s.teacher, id, library.ReviewRequest{})
	require.NoError(t, err)
	v, err = s.Reviews.Say(ctx, s.lead, id, library.Verdict{Version: v.Now.Version, Yes: true, Note: "Lovely."})
	require.NoError(t, err)
	assert.Equal(t, card.Agreed, v.State)
	assert.Empty(t, withRhyme(v.Changed))
	assert.Equal(t, []string{"agreed", "sent back"}, []string{v.Past[0].State, v.Past[1].State})
	after, err := s.Cards.Card(ctx, s.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, after.Version, after.AgreedVersion)
	_, err = s.Reviews.Ask(ctx, s.teacher, id, library.ReviewRequest{})
	mendable(t, err)
}

func withRhyme(fields []string) (out []string) {
	for _, f := range fields {
		if strings.HasPrefix(f, "rhyme") {
			out = append(out, f)
		}
	}
	return out
}

func TestTwoAgree(t *testing.T) {
	s := quietSchool(t)
	ctx := context.Background()
	s.twoAgree(t)
	id := s.cards["m"]
	version := s.rhymes(t, s.teacher, id, "Market men make merry.")
	v, err := s.Reviews.Say(ctx, s.teacher, id, library.Verdict{Version: version, Yes: true})
	require.NoError(t, err)
	assert.Equal(t, card.InReview, v.State, "one yes is not enough")
	assert.Equal(t, accord.Standing{Yes: 1, Need: 2}, v.Standing)
	again, err := s.Reviews.Say(ctx, s.teacher, id, library.Verdict{Version: v.Now.Version, Yes: true})
	require.NoError(t, err)
	assert.Equal(t, 1, again.Standing.Yes, "nobody counts twice")
	version = s.rhymes(t, s.teacher, id, "Market men make more.")
	now, err := s.Reviews.Review(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Equal(t, 0, now.Standing.Yes, "a yes is to what was read")
	assert.False(t, now.Open.Voices[0].Stands)
	_, err = s.Reviews.Say(ctx, s.teacher, id, library.Verdict{Version: version, Yes: true})
	require.NoError(t, err)
	v, err = s.Reviews.Say(ctx, s.lead, id, library.Verdict{Version: version, Yes: true})
	require.NoError(t, err)
	assert.Equal(t, card.Agreed, v.State)
	assert.Len(t, v.Past[0].Voices, 2)
	_, err = s.Reviews.Say(ctx, s.assistant, id, library.Verdict{Version: v.Now.Version})
	require.ErrorIs(t, err, tx.ErrForbidden)
}

// Of two who decide at once, one decides and the other is told so.
func TestTwoReadersDecideAtOnce(t *testing.T) {
	s := quietSchool(t)
	ctx := context.Background()
	s.twoAgree(t)
	id := s.cards["m"]
	s.rhymes(t, s.teacher, id, "Market men make merry.")
	v, err := s.Reviews.Ask(ctx, s.teacher, id, library.ReviewRequest{})
	require.NoError(t, err)
	_, err = s.Reviews.Say(ctx, s.teacher, id, library.Verdict{Version: v.Now.Version, Yes: true})
	require.NoError(t, err)
	errs := make([]error, 2)
	var both sync.WaitGroup
	for i, verdict := range []library.Verdict{{Version: v.Now.Version, Yes: true}, {Version: v.Now.Version}} {
		both.Go(func() { _, errs[i] = s.Reviews.Say(ctx, s.lead, id, verdict) })
	}
	both.Wait()
	assert.True(t, (errs[0] == nil) != (errs[1] == nil), "%v", errs)
	for _, err := range errs {
		if err != nil {
			require.ErrorIs(t, err, library.ErrCardMoved)
			assert.ErrorContains(t, err, "decided it in the meantime")
		}
	}
}

func TestWhatIsSaidBesideACard(t *testing.T) {
	s := quietSchool(t)
	ctx := context.Background()
	id := s.cards["m"]
	version := s.rhymes(t, s.teacher, id, "Market men make merry.")
	_, err := s.Reviews.Ask(ctx, s.teacher, id, library.ReviewRequest{})
	require.NoError(t, err)
	wording := "Market men make more."
	first, err := s.Reviews.Remark(ctx, s.assistant, id, library.Saying{
		Field: "rhyme", Body: "@" + s.lead.Initials + ", merry is hard to say.", Wording: &wording,
	})
	require.NoError(t, err)
	assert.Equal(t, []store.NoticeKind{store.NoticeMention}, kinds(t, s, s.lead))
	assert.Equal(t, []store.NoticeKind{store.NoticeRemark}, kinds(t, s, s.teacher))
	_, err = s.Reviews.Remark(ctx, s.teacher, id, library.Saying{Field: "action", ParentID: first, Body: "True."})
	require.NoError(t, err)
	assert.Equal(t, []store.NoticeKind{store.NoticeAnswer}, kinds(t, s, s.assistant))
	v, err := s.Reviews.Review(ctx, s.lead, id)
	require.NoError(t, err)
	require.Len(t, v.Remarks, 2)
	assert.Equal(t, "rhyme", v.Remarks[1].Field, "an answer is about what it answers")

	mendable(t, s.Reviews.EditRemark(ctx, s.lead, first, "Something else."), "nobody changes what others said")
	mendable(t, s.Reviews.DropRemark(ctx, s.assistant, first), "what was answered stays")
	require.NoError(t, s.Reviews.EditRemark(ctx, s.assistant, first, "Merry is hard."))

	_, err = s.Reviews.TakeOver(ctx, s.assistant, first, version+1)
	require.ErrorIs(t, err, tx.ErrForbidden)
	s.rhymes(t, s.lead, id, "Market men meet.")
	_, err = s.Reviews.TakeOver(ctx, s.teacher, first, version+1)
	require.ErrorIs(t, err, library.ErrCardMoved, "what somebody wrote meanwhile is not overwritten")
	after, err := s.Reviews.TakeOver(ctx, s.teacher, first, version+2)
	require.NoError(t, err)
	assert.Equal(t, wording, after.Content.Rhyme)
	assert.Equal(t, card.InReview, after.State)
	v, err = s.Reviews.Review(ctx, s.lead, id)
	require.NoError(t, err)
	assert.NotNil(t, v.Remarks[0].SettledAt)
	assert.Contains(t, kinds(t, s, s.assistant), store.NoticeTaken)
	require.NoError(t, s.Reviews.Settle(ctx, s.lead, first, false))
	open, err := s.Today.Today(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, 1, open.Remarks[id])

	long, same := strings.Repeat("m", 401), wording
	for name, bad := range map[string]library.Saying{
		"nothing": {Field: "rhyme", Body: "  "}, "no such part": {Field: "mood", Body: "x"},
		"too long": {Field: "rhyme", Body: "x", Wording: &long}, "what stands": {Field: "rhyme", Body: "x", Wording: &same},
		"a picture in words":     {Field: "picture", Body: "x", Wording: &wording},
		"an answer to an answer": {ParentID: v.Remarks[1].RemarkID, Body: "x"},
	} {
		_, err := s.Reviews.Remark(ctx, s.teacher, id, bad)
		mendable(t, err, name)
	}
	list, err := s.Reviews.Notices(ctx, s.assistant)
	require.NoError(t, err)
	require.NoError(t, s.Reviews.See(ctx, s.assistant, list[0].NoticeID))
	assert.Empty(t, kinds(t, s, s.assistant))
}

// What changed of the take and the letter since the last agreement is shown as well.
func TestTakeAndLetterAreComparedWithTheLastAgreement(t *testing.T) {
	s := quietSchool(t)
	ctx := context.Background()
	id := s.cards["t"]
	s.rhymes(t, s.lead, id, "Tiller to the tip.")
	_, err := s.Reviews.SetState(ctx, s.lead, id, card.Agreed)
	require.NoError(t, err)
	v, err := s.Reviews.Review(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Empty(t, v.Changed)
	assert.NotEmpty(t, v.Before.TakeID)
	assert.NotNil(t, v.Before.Drawn)
	require.NoError(t, s.Takes.Withdraw(ctx, s.lead, v.Before.TakeID))
	v, err = s.Reviews.Review(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Equal(t, []string{card.TakeField}, v.Changed)
	assert.Empty(t, v.Before.TakeID, "a take that was withdrawn is not heard any more")
	page, err := s.Letters.Write(ctx, s.lead, "t", nil)
	require.NoError(t, err)
	require.NotNil(t, page.Letter)
	form := *page.Letter
	form.Strokes = form.Strokes[:len(form.Strokes)-1]
	require.NoError(t, s.Letters.Save(ctx, s.lead, form))
	v, err = s.Reviews.Review(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Equal(t, []string{card.TakeField, card.LetterPart}, v.Changed)
}

func TestToday(t *testing.T) {
	s := quietSchool(t)
	ctx := context.Background()
	first, err := s.Today.Today(ctx, s.teacher)
	require.NoError(t, err)
	require.NotEmpty(t, first.Classes)
	for _, c := range first.Classes {
		require.NotNil(t, c.Next, c.Class.Name)
		assert.GreaterOrEqual(t, c.Next.Date, first.Today)
	}
	for _, c := range first.Classes {
		require.NoError(t, s.Classes.SetTeachers(ctx, s.lead, c.Class.ClassID, []string{s.teacher.MemberID}))
	}
	last := first.Classes[len(first.Classes)-1].Class.ClassID
	require.NoError(t, s.Classes.SetTeachers(ctx, s.lead, last, []string{s.lead.MemberID}))
	view, err := s.Today.Today(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, last, view.Classes[0].Class.ClassID, "the own classes stand first")
	assert.True(t, view.Classes[0].Mine)
	assert.False(t, view.Classes[1].Mine)

	require.NoError(t, s.Today.Look(ctx, s.lead, view.Until.Add(-time.Minute))) // the clock of the test stands still
	id := s.cards["m"]
	s.rhymes(t, s.teacher, id, "Tiller to the tip.")
	s.rhymes(t, s.lead, s.cards["s"], "Soup so soon.")
	_, err = s.Reviews.Ask(ctx, s.teacher, id, library.ReviewRequest{Readers: []string{s.lead.MemberID}})
	require.NoError(t, err)
	view, err = s.Today.Today(ctx, s.lead)
	require.NoError(t, err)
	at := slices.IndexFunc(view.Waiting, func(w store.Waiting) bool { return w.CardID == id })
	require.GreaterOrEqual(t, at, 0)
	for _, w := range view.Waiting[:at] {
		assert.True(t, w.Asked && !w.Mine, "what the member was asked for stands first")
	}
	assert.False(t, view.Waiting[len(view.Waiting)-1].Asked)
	assert.Len(t, view.Changed, 1, "what others changed since the member looked")
	assert.Len(t, view.Notices, 1)
	mendable(t, s.Today.Look(ctx, s.lead, view.Until.Add(time.Hour)))
	theirs, err := s.Today.Today(ctx, s.assistant)
	require.NoError(t, err)
	assert.Empty(t, theirs.Notices, "nobody sees what others are told")
}
