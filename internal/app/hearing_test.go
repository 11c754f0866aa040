package app_test

import (
	"bytes"
	"context"
	"encoding/csv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

func TestListenersAreBlindUntilTheyHaveHeard(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	list, err := s.Takes.Listening(ctx, s.lead)
	require.NoError(t, err)
	require.Greater(t, len(list.Takes), 10)
	assert.Equal(t, len(list.Takes), list.Left)
	other, err := s.Takes.Listening(ctx, s.teacher)
	require.NoError(t, err)
	assert.ElementsMatch(t, list.Takes, other.Takes)
	assert.NotEqual(t, list.Takes, other.Takes, "everybody has an order of their own")
	again, err := s.Takes.Listening(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, list, again, "which stays")

	first, second := list.Takes[0].TakeID, list.Takes[1].TakeID
	require.NoError(
		t,
		s.Takes.Hear(ctx, s.lead, first, sound.HearingResult{Why: []string{"voicing", "added-vowel", "voicing"}}),
	)
	require.NoError(t, s.Takes.Hear(ctx, s.lead, second, sound.HearingResult{Pure: true}))
	list, err = s.Takes.Listening(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, len(list.Takes)-2, list.Left)
	assert.Nil(t, list.Takes[0].Mine, "what is left comes first")
	heard := map[string]*sound.HearingResult{}
	for _, b := range list.Takes {
		heard[b.TakeID] = b.Mine
	}
	assert.Equal(t, &sound.HearingResult{Why: []string{"added-vowel", "voicing"}}, heard[first])

	// Only who has heard a take is told what others, and the check, say of it.
	told, err := s.Takes.Agreements(ctx, s.lead)
	require.NoError(t, err)
	require.Len(t, told.Divided, 1)
	assert.Equal(t, first, told.Divided[0].TakeID)
	blind, err := s.Takes.Agreements(ctx, s.teacher)
	require.NoError(t, err)
	assert.Empty(t, blind.Divided)

	require.NoError(t, s.Takes.Hear(ctx, s.teacher, first, sound.HearingResult{Pure: true}))
	require.NoError(t, s.Takes.Hear(ctx, s.teacher, second, sound.HearingResult{Pure: true}))
	told, err = s.Takes.Agreements(ctx, s.teacher)
	require.NoError(t, err)
	require.Len(t, told.Pairs, 3, "each with the check, and both with each other")
	assert.Empty(t, told.Pairs[0].B)
	assert.Equal(t, 2, told.Pairs[2].Takes)
	assert.InDelta(t, 0.5, told.Pairs[2].Agree, 1e-9)
	require.Len(t, told.Divided, 1)
	assert.Len(t, told.Divided[0].Said, 2)

	var file bytes.Buffer
	require.NoError(t, s.Takes.ExportHearings(ctx, s.lead, &file))
	rows, err := csv.NewReader(&file).ReadAll()
	require.NoError(t, err)
	assert.Len(t, rows, 1+4)

	// What was said changes nothing, and can be taken back; a take that is cut is another sound.
	takes, err := s.Takes.Of(ctx, s.lead, told.Divided[0].CardID)
	require.NoError(t, err)
	assert.NotEqual(t, recording.Retake, takes[0].Report.Verdict)
	require.NoError(t, s.Takes.Unhear(ctx, s.lead, second))
	require.NoError(t, s.Takes.Fix(ctx, s.lead, first, sound.Fixes{Propose: true}))
	list, err = s.Takes.Listening(ctx, s.lead)
	require.NoError(t, err)
	assert.Equal(t, len(list.Takes), list.Left)
}

func TestHearingsAreChecked(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	take := firstTake(t, s, "m")
	mendable(t, s.Takes.Hear(ctx, s.lead, take, sound.HearingResult{Why: []string{"ugly"}}))
	mendable(t, s.Takes.Hear(ctx, s.lead, take, sound.HearingResult{Pure: true, Why: []string{"noise"}}))
	require.ErrorIs(t, s.Takes.Hear(ctx, s.assistant, take, sound.HearingResult{Pure: true}), tx.ErrForbidden)
	_, err := s.Takes.Listening(ctx, s.assistant)
	require.ErrorIs(t, err, tx.ErrForbidden)
	require.ErrorIs(t, s.Takes.ExportHearings(ctx, s.teacher, &bytes.Buffer{}), tx.ErrForbidden)
}

func TestARoomIsCheckedAndNothingKept(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	m, err := s.Takes.Recording(ctx, s.lead, firstTake(t, s, "t"))
	require.NoError(t, err)
	var before, after int
	require.NoError(t, store.AllTeams{Pool: s.Pool}.QueryRow(ctx, "SELECT count(*) FROM medium").Scan(&before))
	r, err := s.Takes.Room(ctx, s.assistant, media.UploadOf(m.Bytes))
	require.NoError(t, err)
	assert.False(t, r.Ready, "the silence before a take of the demo is too short")
	_, err = s.Takes.Room(ctx, s.assistant, media.UploadOf([]byte("no sound at all")))
	mendable(t, err)
	require.NoError(t, store.AllTeams{Pool: s.Pool}.QueryRow(ctx, "SELECT count(*) FROM medium").Scan(&after))
	assert.Equal(t, before, after)
}
