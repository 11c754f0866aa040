package app_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/library"
	"brightchalk/internal/tx"
)

func TestTwoPeopleOnOneCard(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["k"]
	c, err := s.Cards.Card(ctx, s.lead, id)
	require.NoError(t, err)
	mine, theirs := c.Content, c.Content
	theirs.Rhyme = "Kick the kayak."
	_, err = s.Cards.Save(ctx, s.teacher, id, c.Version, theirs)
	require.NoError(t, err)
	mine.Slip = "No uh."
	after, err := s.Cards.Save(ctx, s.lead, id, c.Version, mine)
	require.NoError(t, err, "different fields are joined")
	assert.Equal(t, "Kick the kayak.", after.Content.Rhyme)
	assert.Equal(t, "No uh.", after.Content.Slip)
	mine.Rhyme = "Keep the kayak."
	_, err = s.Cards.Save(ctx, s.lead, id, c.Version, mine)
	var conflict library.Conflict
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, []string{"rhyme"}, conflict.Fields)
	assert.Equal(t, "Kick the kayak.", conflict.Theirs.Content.Rhyme)
	now, err := s.Cards.Card(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Equal(t, after.Version, now.Version, "nothing is written in a conflict")
	versions, err := s.Cards.Versions(ctx, s.lead, id, 0)
	require.NoError(t, err)
	require.Len(t, versions, 3)
	assert.Equal(t, []string{"slip"}, versions[0].Changed)
	assert.Equal(t, "Tam Quayle", versions[1].ChangedBy)
}

func TestAgreedVersionIsUsedWhileADraftIsWritten(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["r"]
	c, err := s.Cards.Card(ctx, s.teacher, id)
	require.NoError(t, err)
	agreed := c.Content.Rhyme
	c.Content.Rhyme = "A draft of a rhyme."
	after, err := s.Cards.Save(ctx, s.teacher, id, c.Version, c.Content)
	require.NoError(t, err)
	assert.Equal(t, card.Draft, after.State)
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, id, 20))
	require.NoError(t, err)
	assert.Equal(t, agreed, in.Lesson.Cards[id].Rhyme)
	assert.True(t, in.Lesson.Target().Agreed)
}

func TestAgreeingNeedsACardThatDoesNotContradictItself(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["k"]
	c, _ := s.Cards.Card(ctx, s.lead, id)
	c.Content.MouthCue = "Stretch it out, voice on."
	after, err := s.Cards.Save(ctx, s.lead, id, c.Version, c.Content)
	require.NoError(t, err)
	assert.NotEmpty(t, after.Findings)
	_, err = s.Reviews.SetState(ctx, s.lead, id, card.Agreed)
	mendable(t, err)
}

func TestWordsForACard(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	offer, err := s.Words.ForCard(ctx, s.teacher, s.cards["sh"])
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(offer.Read), 10)
	assert.NotEmpty(t, offer.Starts)
	c, _ := s.Cards.Card(ctx, s.teacher, s.cards["sh"])
	refused := offer.Read[0].Word
	c.Content.Rejected = append(c.Content.Rejected, refused)
	_, err = s.Cards.Save(ctx, s.teacher, s.cards["sh"], c.Version, c.Content)
	require.NoError(t, err)
	again, err := s.Words.ForCard(ctx, s.teacher, s.cards["sh"])
	require.NoError(t, err)
	for _, w := range again.Read {
		assert.NotEqual(t, refused, w.Word, "what a team refuses stays refused")
	}
	_, err = s.Cards.New(ctx, s.teacher, "sh", 60)
	require.ErrorContains(t, err, "already")
	_, err = s.Cards.New(ctx, s.teacher, "zh=ʒ", 60)
	mendable(t, err)
}

func TestMovingACardMakesRoom(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	first := func(n int) string {
		wall, err := s.Cards.Wall(ctx, s.lead, false)
		require.NoError(t, err)
		var out []string
		for i, c := range wall {
			assert.Equal(t, i+1, c.Step, "no gaps and no doubles")
			if i < n {
				out = append(out, c.Pair.Grapheme)
			}
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, "t a m s i p", first(6))
	require.NoError(t, s.Cards.Move(ctx, s.lead, s.cards["n"], 2))
	assert.Equal(t, "t n a m s i", first(6))
	require.NoError(t, s.Cards.Move(ctx, s.lead, s.cards["t"], 4))
	assert.Equal(t, "n a m t s i", first(6))
	require.ErrorIs(t, s.Cards.Move(ctx, s.teacher, s.cards["t"], 1), tx.ErrForbidden)
	mendable(t, s.Cards.Move(ctx, s.lead, s.cards["t"], 99))
}
