package app_test

import (
	"bytes"
	"context"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/order"
	"brightchalk/internal/curriculum"
	"brightchalk/internal/jobs"
	"brightchalk/internal/library"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

func (s school) order(t testing.TB) []string {
	t.Helper()
	v, err := s.Orders.Order(context.Background(), s.lead)
	require.NoError(t, err)
	return v.Order
}

// moved is the order with the card at one place put at another.
func moved(ids []string, from, to int) []string {
	out := slices.Clone(ids)
	id := out[from]
	out = slices.Delete(out, from, from+1)
	return slices.Insert(out, to, id)
}

func TestAnOrderIsJudgedBesideTheOneThatStands(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ids := s.order(t)
	same, err := s.Orders.Look(ctx, s.assistant, ids)
	require.NoError(t, err)
	assert.Zero(t, same.Moved)
	assert.Equal(t, same.Before, same.After)
	assert.Empty(t, same.Passed)
	words := 0
	for i, k := range same.Steps {
		words += k.Words
		assert.Equal(t, words, same.Before.Readable[i])
	}
	assert.Equal(t, same.Before.Readable[3], same.Before.Weeks[0], "a week has four steps")
	texts := 0
	for _, k := range same.Steps {
		texts += k.Texts
	}
	assert.Positive(t, texts)
	a := slices.Index(ids, s.cards["a"])
	late, err := s.Orders.Look(ctx, s.lead, moved(ids, a, 40))
	require.NoError(t, err)
	assert.Equal(t, 1, late.Moved)
	assert.Less(t, late.After.Sum, late.Before.Sum, "a late vowel costs words")
	require.NotEmpty(t, late.Passed)
	assert.Equal(t, 1, late.Passed[0].Met, "the classes have met it")
	early, err := s.Orders.Look(ctx, s.lead, moved(ids, len(ids)-1, 0))
	require.NoError(t, err)
	for _, p := range early.Passed {
		assert.Equal(t, ids[len(ids)-1:], p.Behind, "it comes to every class next")
	}
	sentences, err := s.Orders.Sentences(ctx, s.lead, ids)
	require.NoError(t, err)
	made := 0
	for _, text := range sentences {
		if text != "" {
			made++
		}
	}
	assert.Len(t, sentences, len(ids))
	assert.Greater(t, made, len(ids)*3/4)
	for name, wrong := range map[string][]string{
		"lacks 1 of": ids[1:], "stands twice": append(slices.Clone(ids), ids[0]),
		"no longer in the library": append(slices.Clone(ids[1:]), s.class),
	} {
		_, err := s.Orders.Look(ctx, s.lead, wrong)
		assert.ErrorContains(t, err, name)
	}
}

func TestAnOrderIsProposedAndAgreedAsAWhole(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ids := s.order(t)
	next := moved(moved(ids, 20, 30), 5, 2)
	_, err := s.Orders.Propose(ctx, s.assistant, next, "")
	require.ErrorIs(t, err, tx.ErrForbidden)
	_, err = s.Orders.Propose(ctx, s.teacher, ids, "")
	require.ErrorIs(t, err, curriculum.ErrNoChange)
	one, err := s.Orders.Propose(ctx, s.teacher, next, " b and d ")
	require.NoError(t, err)
	other, err := s.Orders.Propose(ctx, s.teacher, moved(ids, 1, 3), "")
	require.NoError(t, err)
	require.ErrorIs(t, s.Orders.Decide(ctx, s.teacher, one, true), tx.ErrForbidden)
	assert.Equal(t, ids, s.order(t), "nothing changes before it is agreed")
	require.NoError(t, s.Orders.Decide(ctx, s.lead, one, true))
	assert.Equal(t, next, s.order(t))
	assert.ErrorContains(t, s.Orders.Decide(ctx, s.lead, other, true), "The order was changed since this was proposed")
	require.NoError(t, s.Orders.Decide(ctx, s.lead, other, false))
	require.Error(t, s.Orders.Decide(ctx, s.lead, other, false), "decided once")
	view, err := s.Orders.Order(ctx, s.lead)
	require.NoError(t, err)
	for _, p := range view.Proposals {
		if p.ProposalID == one {
			assert.Equal(t, []string{"b and d", "agreed"}, []string{p.Note, p.State})
		} else {
			assert.Equal(t, "put aside", p.State)
		}
	}
	for range 12 {
		_, err = s.Orders.Propose(ctx, s.teacher, ids, "")
		require.NoError(t, err)
	}
	_, err = s.Orders.Propose(ctx, s.teacher, ids, "")
	require.ErrorIs(t, err, curriculum.ErrManyOpen)
}

// Twenty moves and five agreements at once, with a card that is put aside between them: the order stays one
// permutation.
func TestAnOrderStaysWholeUnderManyMoves(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ids := s.order(t)
	require.NoError(t, s.Cards.Archive(ctx, s.lead, ids[10], true))
	ids = slices.Delete(slices.Clone(ids), 10, 11)
	var proposals []string
	for i := range 5 {
		id, err := s.Orders.Propose(ctx, s.teacher, moved(ids, 30+i, i), "")
		require.NoError(t, err)
		proposals = append(proposals, id)
	}
	for i, err := range together(25, func(i int) error {
		if i%5 == 0 {
			err := s.Orders.Decide(ctx, s.lead, proposals[i/5], true)
			if err != nil && strings.Contains(err.Error(), "The order was changed") {
				return nil
			}
			return err
		}
		return s.Cards.Move(ctx, s.lead, ids[(i*7)%len(ids)], 1+(i*13)%len(ids))
	}) {
		assert.NoError(t, err, i)
	}
	cards := s.count(t, "SELECT count(*) FROM card")
	assert.Equal(t, cards, s.count(t, "SELECT count(DISTINCT step) FROM card"))
	assert.Equal(t, cards, s.count(t, "SELECT max(step) FROM card"))
	after := s.order(t)
	assert.ElementsMatch(t, ids, after)
	require.NoError(t, s.Cards.Archive(ctx, s.lead, s.cardAside(t), false))
	assert.Len(t, s.order(t), cards)
}

func (s school) cardAside(t *testing.T) string {
	t.Helper()
	all, err := s.Cards.Wall(context.Background(), s.lead, true)
	require.NoError(t, err)
	i := slices.IndexFunc(all, func(c library.WallCard) bool { return c.Archived })
	require.GreaterOrEqual(t, i, 0)
	return all[i].CardID
}

func TestABetterOrderIsSoughtAndGivenUp(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	ids := s.order(t)
	worse := slices.Clone(ids)
	slices.Reverse(worse[14:])
	q := jobs.Ask{Kind: jobs.Search, Search: &curriculum.Search{
		Order: worse, Keep: ids[:14], Groups: [][]string{}, Weights: order.UsualWeights(), Seconds: 3,
	}}
	_, err := s.Jobs.Begin(ctx, s.lead, jobs.Ask{Kind: jobs.Search})
	require.ErrorIs(t, err, fault.Invalid)
	_, err = s.Jobs.Begin(ctx, s.assistant, q)
	require.ErrorIs(t, err, tx.ErrForbidden)
	id, second := s.begin(t, s.teacher, q), s.begin(t, s.lead, q)
	var all sync.WaitGroup
	began := time.Now()
	all.Go(func() { assert.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, id)) })
	require.Eventually(t, func() bool { return s.job(t, s.teacher, id).Note > 0 }, 10*time.Second, 20*time.Millisecond)
	all.Go(func() { assert.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, second)) })
	all.Wait()
	assert.Greater(t, time.Since(began), 6*time.Second, "one at a time on a server")
	got := s.job(t, s.teacher, id).Found
	require.NotNil(t, got)
	assert.Equal(t, ids[:14], got.Order[:14], "what is kept stays")
	assert.ElementsMatch(t, ids, got.Order)
	look, err := s.Orders.Look(ctx, s.lead, got.Order)
	require.NoError(t, err)
	before, err := s.Orders.Look(ctx, s.lead, worse)
	require.NoError(t, err)
	assert.Greater(t, look.After.Sum, before.After.Sum)
	assert.NotEmpty(t, got.Moves)
	assert.Equal(t, ids, s.order(t), "nothing is kept")

	q.Search.Order = ids[:3]
	id = s.begin(t, s.teacher, q)
	require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, id))
	assert.Equal(t, store.JobFailed, s.job(t, s.teacher, id).State)
	assert.NotEmpty(t, s.job(t, s.teacher, id).Said)
}

func TestAnOrderOutOfATable(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	read := func(text string, c curriculum.OrderColumns) curriculum.OrderTable {
		got, err := s.Orders.ReadOrder(ctx, s.teacher, text, c)
		require.NoError(t, err)
		return got
	}
	got := read(
		"\ufeffNo;Letters;Sound\n2;a;a\n1;sh;/ʃ/\n3;A;\n4;zz;\n;;\n5;ng;x\nsix;t;t\n",
		curriculum.OrderColumns{},
	)
	assert.Equal(t, curriculum.OrderColumns{Grapheme: "Letters", Sound: "Sound", Step: "No"}, got.Taken)
	assert.Equal(t, []string{s.cards["sh"], s.cards["a"]}, got.Order[:2], "by their steps, not by their lines")
	assert.ElementsMatch(t, s.order(t), got.Order)
	problems := map[int]string{}
	for _, r := range got.Rows {
		problems[r.Line] = r.Problem
	}
	assert.Contains(t, problems[4], "stands in line 2 already")
	assert.Contains(t, problems[5], "no card for it yet")
	assert.NotEmpty(t, problems[7], "ng has no such sound")
	assert.Contains(t, problems[8], "“six” is no number")
	assert.Empty(t, problems[2]+problems[3])
	other := read("was,Zeichen\n1,sh\n2,a\n", curriculum.OrderColumns{})
	assert.Empty(t, other.Taken.Grapheme, "the screen asks for the column")
	assert.Empty(t, other.Rows)
	other = read("was,Zeichen\n1,sh\n2,a\n", curriculum.OrderColumns{Grapheme: "Zeichen"})
	assert.Len(t, other.Rows, 2)
	for _, text := range []string{"", "a", strings.Repeat("a,b\n", 3000)} {
		_, err := s.Orders.ReadOrder(ctx, s.teacher, text, curriculum.OrderColumns{})
		assert.ErrorIs(t, err, sheet.ErrNoTable)
	}
	var out bytes.Buffer
	require.NoError(t, s.Orders.OrderCSV(ctx, s.assistant, &out))
	assert.Equal(t, s.order(t), read(out.String(), curriculum.OrderColumns{}).Order, "what goes out comes in again")
}

// findStep is the place of the first card with a grapheme.
func (s school) stepOf(t *testing.T, grapheme string) int {
	t.Helper()
	c, err := s.Cards.Card(context.Background(), s.lead, s.cards[grapheme])
	require.NoError(t, err)
	return c.Step
}
