package recording_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/recording"
)

func tone(hertz int, seconds, dbfs float64) []float64 {
	out := make([]float64, int(seconds*float64(hertz)))
	for i := range out {
		out[i] = math.Pow(10, dbfs/20) * math.Sin(2*math.Pi*1000*float64(i)/float64(hertz))
	}
	return out
}

// Signals in the manner of EBU Tech 3341 (from memory): a 1 kHz sine reads its peak level less 3.01 dB in one
// channel; silence and much softer parts are gated out of the mean.
func TestLoudnessIsGated(t *testing.T) {
	rates := []int{16_000, 44_100, 48_000, 96_000}
	if testing.Short() {
		rates = rates[:1]
	}
	for _, hertz := range rates {
		got, gated := recording.Loudness(tone(hertz, 3, -20), hertz)
		assert.True(t, gated)
		assert.InDelta(t, -23.0, got, 0.1, "at %d Hz", hertz)
		for name, other := range map[string][]float64{"silence": make([]float64, 3*hertz), "a part 25 dB " +
			"softer": tone(hertz, 3, -45)} {
			got, _ = recording.Loudness(append(tone(hertz, 3, -20), other...), hertz)
			assert.InDelta(t, -23.0, got, 0.3, "with %s", name)
		}
		got, _ = recording.Loudness(append(tone(hertz, 3, -20), tone(hertz, 3, -26)...), hertz)
		assert.InDelta(t, -25.0, got, 0.2, "6 dB softer is within the gate: the mean of both powers")
		// Both together are 2.5 dB under the loud part, so the gate lies 12.5 dB under it: 14 dB is out, 11 dB is in.
		got, _ = recording.Loudness(append(tone(hertz, 3, -20), tone(hertz, 3, -34)...), hertz)
		assert.InDelta(t, -23.0, got, 0.3, "14 dB softer is gated out")
		got, _ = recording.Loudness(append(tone(hertz, 3, -20), tone(hertz, 3, -31)...), hertz)
		assert.InDelta(t, -25.7, got, 0.2, "11 dB softer is not")
	}
	got, gated := recording.Loudness(tone(44_100, 0.2, -20), 44_100)
	assert.False(t, gated, "too short for a block")
	assert.InDelta(t, -23.0, got, 0.2)
	for _, in := range [][]float64{nil, make([]float64, 44_100)} {
		got, _ := recording.Loudness(in, 44_100)
		assert.LessOrEqual(t, got, -96.0)
	}
}

func TestAttemptsAreParted(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 5))
	const hertz = 16_000
	make := func(starts ...float64) recording.Clip {
		c := recording.Clip{Hertz: hertz, Samples: make([]float64, 5*hertz)}
		for i := range c.Samples {
			at := float64(i) / hertz
			c.Samples[i] = 0.0005 * rng.NormFloat64()
			for _, s := range starts {
				if at > s && at < s+0.4 {
					c.Samples[i] += 0.3 * math.Sin(2*math.Pi*220*at)
				}
			}
		}
		return c
	}
	assert.Empty(t, recording.Attempts(make()), "silence")
	assert.Len(t, recording.Attempts(make(1)), 1)
	starts := []float64{0.5, 1.6, 2.3, 4.2}
	got := recording.Attempts(make(starts...))
	require.Len(t, got, len(starts))
	for i, g := range got {
		assert.Less(t, g.StartMs, int(starts[i]*1000))
		assert.Greater(t, g.EndMs, int(starts[i]*1000)+400)
		if i > 0 {
			assert.GreaterOrEqual(t, g.StartMs, got[i-1].EndMs, "no sound stands in two attempts")
		}
	}
}

func TestEvenSaysWhatToRecordFirst(t *testing.T) {
	k := func(id, voice string, v recording.Verdict, lufs, snr float64) recording.MeasuredTake {
		return recording.MeasuredTake{
			Card:    id,
			Speaker: voice,
			Verdict: v,
			Advice:  "An uh.",
			LUFS:    lufs,
			SNR:     snr,
			Floor:   lufs - snr,
		}
	}
	e := recording.Even([]recording.MeasuredTake{
		k(
			"other voice",
			"B",
			recording.Pure,
			-20,
			50,
		),
		k("fine", "A", recording.Pure, -20, 50),
		k("soft", "A", recording.Fix, -25, 45),
		k("added", "A", recording.Retake, -20, 50),
		k(
			"room",
			"A",
			recording.Retake,
			-20,
			12,
		),
		k("fine too", "A", recording.Pure, -20.5, 48),
		k("louder room", "A", recording.Pure, -20, 30),
	})
	order := []string{}
	for _, a := range e.Again {
		order = append(order, a.Card)
		assert.NotEmpty(t, a.Why)
	}
	assert.Equal(t, []string{"added", "room", "louder room", "soft", "other voice"}, order)
	assert.InDelta(t, 5, e.LoudnessSpread, 1e-9)
	assert.InDelta(t, 38, e.NoiseSpread, 1e-9)
	assert.Equal(t, []recording.Voice{{Speaker: "A", Takes: 6}, {Speaker: "B", Takes: 1}}, e.Voices)
	assert.Empty(t, recording.Even(nil).Again)
}
