package app_test

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/library"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

// A place of our own invention: once the team says how it is said, texts, cards and words take it so.
func TestWordsOfTheTeamsOwn(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	tried, err := s.OwnWords.Try(ctx, s.teacher, convention.OwnWord{Word: "Sedgeby", Name: true})
	require.NoError(t, err)
	assert.NotEmpty(t, tried.Parts)
	assert.False(t, tried.Known)
	for field, bad := range map[string]convention.OwnWord{
		"word":   {Word: "two words"},
		"sounds": {Word: "Pim", Sounds: "p#m"},
	} {
		_, err := s.OwnWords.Try(ctx, s.teacher, bad)
		var f *fault.Fault
		require.ErrorAs(t, err, &f)
		assert.Equal(t, field, f.Field)
	}
	_, err = s.OwnWords.Try(ctx, s.teacher, convention.OwnWord{Word: "gun"})
	require.ErrorContains(t, err, "kept out of what children are offered")
	require.ErrorIs(t, s.OwnWords.PutWord(ctx, s.assistant, convention.OwnWord{Word: "Pim", Name: true}), tx.ErrForbidden)

	err = s.OwnWords.PutWord(ctx, s.teacher, convention.OwnWord{Word: "quay", Sounds: "kiː", Part: convention.Slips})
	mendable(t, err, "a thing has no part in lessons")

	check := func(text string) []texts.Status {
		got, err := s.Words.Check(ctx, s.teacher, s.class, text)
		require.NoError(t, err)
		var out []texts.Status
		for _, w := range got.Words {
			out = append(out, w.Status)
		}
		return out
	}
	assert.Equal(t, texts.Unknown, check("pittam")[0], "read by rule")
	require.NoError(
		t,
		s.OwnWords.PutWord(ctx, s.teacher, convention.OwnWord{Word: "pittam", Sounds: "pɪtæm", Note: "our boat"}),
	)
	require.NoError(t, s.OwnWords.PutWord(ctx, s.teacher, convention.OwnWord{Word: "Quayle", Sounds: "kweɪl", Name: true}))
	assert.Equal(t, []texts.Status{texts.Decodable}, check("pittam"))
	assert.Equal(t, texts.Name, check("Quayle sat.")[0], "the adult reads a name whose sounds are not taught")
	list, err := s.OwnWords.Words(ctx, s.assistant)
	require.NoError(t, err)
	at := slices.IndexFunc(list, func(w library.OwnWordView) bool { return w.Word == "pittam" })
	require.GreaterOrEqual(t, at, 0)
	assert.Positive(t, list[at].From, "it can be read from a step on")
	found, err := s.Words.Find(ctx, s.teacher, teaching.FindQuery{ClassID: s.class, CardID: s.cards["p"]})
	require.NoError(t, err)
	names := []string{}
	for _, w := range found.Words {
		names = append(names, w.Word)
	}
	assert.Contains(t, names, "pittam", "it is offered as any word")
	team, err := s.Settings.Team(ctx, s.lead)
	require.NoError(t, err)
	conv := team.Conventions
	conv.Words = nil // a form that was opened before
	require.NoError(t, s.Settings.SetConventions(ctx, s.lead, conv))
	require.NoError(t, s.OwnWords.DropWord(ctx, s.teacher, "quayle"))
	require.ErrorIs(t, s.OwnWords.DropWord(ctx, s.teacher, "quayle"), store.ErrNotFound)
	after, err := s.OwnWords.Words(ctx, s.assistant)
	require.NoError(t, err)
	assert.Len(t, after, len(list)-1)
}

// A character gets another name over the whole library, in the places that are chosen, beside what is agreed.
func TestAWordingIsReplacedEverywhere(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	_, err := s.Words.AddToBank(
		ctx,
		s.teacher,
		lesson.Text{Kind: "page", Body: "Pip is in. Is pip in?", Book: "Pip", Page: 1},
	)
	require.NoError(t, err)
	uses, err := s.OwnWords.Uses(ctx, s.assistant, "pip", "Moss")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(uses), 2)
	var keys []string
	text := ""
	for _, u := range uses {
		assert.NotEqual(t, u.Text, u.After)
		keys = append(keys, u.Key)
		if u.TextID != "" {
			text = u.Key
		}
	}
	_, err = s.OwnWords.Replace(ctx, s.assistant, "pip", "Moss", keys)
	require.ErrorIs(t, err, tx.ErrForbidden)
	_, err = s.OwnWords.Replace(ctx, s.teacher, "pip", "gun", keys)
	require.ErrorContains(t, err, "kept out")
	_, err = s.OwnWords.Replace(ctx, s.teacher, "pip", " ", keys)
	require.ErrorContains(t, err, "instead")
	n, err := s.OwnWords.Replace(ctx, s.teacher, "pip", "Moss", keys)
	require.NoError(t, err)
	assert.Equal(t, len(keys), n)
	left, err := s.OwnWords.Uses(ctx, s.teacher, "Pip", "")
	require.NoError(t, err)
	assert.Empty(t, left)
	for _, u := range uses {
		if u.CardID == "" {
			continue
		}
		c, err := s.Cards.Card(ctx, s.lead, u.CardID)
		require.NoError(t, err)
		now, _ := c.Content.Wording(u.Field)
		assert.Equal(t, u.After, now)
		if u.Agreed {
			assert.Less(t, c.AgreedVersion, c.Version, "what is agreed stays in force")
		}
	}
	assert.NotEmpty(t, text, "the bank too")
	n, err = s.OwnWords.Replace(ctx, s.teacher, "Pip", "Ned", keys)
	require.NoError(t, err)
	assert.Zero(t, n)
}
