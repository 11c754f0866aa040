package app_test

import (
	"archive/zip"
	"bytes"
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/exchange"
	"brightchalk/internal/jobs"
	"brightchalk/internal/media"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// thrice is the take of a card three times with silence between.
func thrice(t *testing.T, s school, g string) []byte {
	t.Helper()
	m, err := s.Takes.Recording(context.Background(), s.lead, firstTake(t, s, g))
	require.NoError(t, err)
	one, err := media.DecodeSound(m.Bytes)
	require.NoError(t, err)
	out := recording.Clip{Hertz: one.Hertz}
	for range 3 {
		out.Samples = append(out.Samples, one.Samples...)
		out.Samples = append(out.Samples, one.Samples[:one.Hertz/4]...) // its own silence
	}
	return media.EncodeWAV(out)
}

func TestARecordingWithThreeAttemptsBecomesThreeTakes(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["s"]
	before, err := s.Takes.Of(ctx, s.lead, id)
	require.NoError(t, err)
	added, err := s.Takes.Add(ctx, s.assistant, id, "Bea", true, media.UploadOf(thrice(t, s, "s")))
	require.NoError(t, err)
	require.Len(t, added, 3)
	after, err := s.Takes.Of(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Len(t, after, len(before)+3)
	for i, v := range added {
		assert.Equal(t, before[0].Report.Verdict, v.Report.Verdict, "attempt %d: %s", i, v.Report.Advice)
		assert.Equal(t, 1, v.Report.Takes)
		assert.False(t, v.Chosen, "the card has its sound already")
		assert.Equal(t, v.TakeID, after[i].TakeID, "the last said stands first")
	}
}

func TestEveryFixCanBeUndone(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := firstTake(t, s, "m")
	fixed, err := s.Takes.Master(ctx, s.lead, id)
	require.NoError(t, err)
	m, err := s.Takes.Recording(ctx, s.lead, id)
	require.NoError(t, err)
	data := m.Bytes
	raw, err := media.DecodeSound(data)
	require.NoError(t, err)
	require.NoError(
		t,
		s.Takes.Fix(ctx, s.lead, id, sound.Fixes{StartMs: 0, EndMs: int(raw.Duration().Milliseconds()), Plain: true}),
	)
	plain, err := s.Takes.Master(ctx, s.lead, id)
	require.NoError(t, err)
	assert.InDelta(t, raw.Duration().Seconds(), plain.Duration().Seconds(), 0.002)
	was, _ := recording.Loudness(raw.Samples, raw.Hertz)
	is, _ := recording.Loudness(plain.Samples, plain.Hertz)
	assert.InDelta(t, was, is, 0.3)
	require.NoError(t, s.Takes.Fix(ctx, s.lead, id, sound.Fixes{Propose: true}))
	again, err := s.Takes.Master(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Equal(t, fixed, again)
}

func TestShelfMeasuresWhatIsPlayed(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	shelf, err := s.Takes.Shelf(ctx, s.assistant)
	require.NoError(t, err)
	missing := 0
	for _, c := range shelf.Cards {
		if c.TakeID == "" {
			missing++
			continue
		}
		m, err := s.Takes.Master(ctx, s.lead, c.TakeID)
		require.NoError(t, err)
		lufs, _ := recording.Loudness(m.Samples, m.Hertz)
		assert.InDelta(t, lufs, c.LevelLUFS, 0.01, c.Pair)
		if c.Pair.Grapheme == "m" || c.Pair.Grapheme == "f" {
			require.NotNil(t, c.Contrast, c.Pair)
		}
	}
	assert.Equal(t, len(shelf.Cards), missing+shelf.Evenness.Takes)
	assert.Positive(t, missing)
	require.Len(t, shelf.Evenness.Voices, 1)
	assert.Less(t, shelf.Evenness.LoudnessSpread, 3.0, "all takes sound alike")
}

func TestAWithdrawnSpeakerLeavesTheLibraryAndItsPacks(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	added, err := s.Takes.Add(ctx, s.lead, s.cards["m"], "Odile", true, media.UploadOf(thrice(t, s, "m")))
	require.NoError(t, err)
	require.NoError(t, s.Takes.Choose(ctx, s.lead, added[0].TakeID))
	shelf, err := s.Takes.Shelf(ctx, s.lead)
	require.NoError(t, err)
	require.Len(t, shelf.Evenness.Voices, 2)
	common := shelf.Evenness.Voices[0]
	_, err = s.Takes.WithdrawVoice(ctx, s.teacher, common.Speaker)
	require.ErrorIs(t, err, tx.ErrForbidden)
	_, err = s.Takes.WithdrawVoice(ctx, s.lead, "Nobody")
	require.ErrorContains(t, err, "No take in the library is by")
	gone, err := s.Takes.WithdrawVoice(ctx, s.lead, common.Speaker)
	require.NoError(t, err)
	assert.Equal(t, common.Takes+1, gone.Takes, "the one that was not chosen as well")
	assert.Len(t, gone.Missing, common.Takes)
	var pack bytes.Buffer
	require.NoError(t, s.Exports.Bundle(ctx, s.lead, exchange.BundleAsk{}, &pack))
	z, err := zip.NewReader(bytes.NewReader(pack.Bytes()), int64(pack.Len()))
	require.NoError(t, err)
	sounds := []string{}
	for _, f := range z.File {
		if strings.HasPrefix(f.Name, "takes/") {
			sounds = append(sounds, f.Name)
		}
	}
	assert.Equal(t, []string{"takes/" + s.cards["m"] + ".wav"}, sounds)
	_, err = s.Takes.OfCard(ctx, s.lead, s.cards["s"])
	require.ErrorIs(t, err, store.ErrNotFound)
	var left int
	require.NoError(
		t,
		store.AllTeams{
			Pool: s.Pool,
		}.QueryRow(ctx, "SELECT count(*) FROM medium WHERE media_type LIKE 'audio/%'").
			Scan(&left),
	)
	assert.Equal(t, 3, left, "the bytes are gone too")
}

func TestATakeServesTheOtherSpellingsOfItsSound(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	c := firstTake(t, s, "c")
	_, err := s.Takes.Reuse(ctx, s.lead, s.cards["v"], c)
	require.ErrorContains(t, err, "this card is for /v/")
	v, err := s.Takes.Reuse(ctx, s.lead, s.cards["k"], c)
	require.NoError(t, err)
	assert.True(t, v.Chosen)
	one, err := s.Takes.OfCard(ctx, s.lead, s.cards["c"])
	require.NoError(t, err)
	other, err := s.Takes.OfCard(ctx, s.lead, s.cards["k"])
	require.NoError(t, err)
	assert.Equal(t, one, other)
	require.NoError(t, s.Takes.Withdraw(ctx, s.lead, c))
	_, err = s.Takes.OfCard(ctx, s.lead, s.cards["k"])
	require.NoError(t, err, "the bytes stay while another card needs them")
}

// All takes are judged again by a job; what changed is listed with its reason, and nothing that is chosen or agreed
// moves by it.
func TestVerdictsAreRenewed(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	_, err := s.Jobs.Begin(ctx, s.teacher, jobs.Ask{Kind: jobs.Renew})
	require.ErrorIs(t, err, tx.ErrForbidden)
	_, err = store.AllTeams{
		Pool: s.Pool,
	}.Exec(
		ctx,
		`UPDATE take SET verdict = 'retake' WHERE card_id = $1`,
		s.cards["s"],
	)
	require.NoError(t, err)
	before, err := s.Cards.Wall(ctx, s.lead, false)
	require.NoError(t, err)
	j, err := s.Jobs.Begin(ctx, s.lead, jobs.Ask{Kind: jobs.Renew})
	require.NoError(t, err)
	require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, j.JobID))
	list, err := s.Jobs.List(ctx, s.lead)
	require.NoError(t, err)
	renewed := list[0].Renewed
	require.NotNil(t, renewed)
	assert.Equal(t, 47, renewed.Judged)
	assert.Equal(t, 47, renewed.All)
	assert.Empty(t, renewed.Failed)
	assert.False(t, list[0].File)
	changed := renewed.Changed
	require.Len(t, changed, 1)
	assert.Equal(t, "s", changed[0].Pair.Grapheme)
	assert.Equal(t, recording.Retake, changed[0].Before)
	assert.Equal(t, recording.Pure, changed[0].After)
	assert.True(t, changed[0].Chosen)
	after, err := s.Cards.Wall(ctx, s.lead, false)
	require.NoError(t, err)
	assert.Equal(t, before, after)
}
