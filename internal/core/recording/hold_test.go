package recording_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/recording"
)

func codesOf(r recording.Report) (out []string) {
	for _, f := range r.Findings {
		out = append(out, f.Code)
	}
	return out
}

// An offset that comes and goes inside a hiss, as of breath on the microphone, is no noise.
func TestALowPushIsNoNoise(t *testing.T) {
	s := hiss(0.1)
	pushed := take(1.2, 0.4, 0.9, -70, func(at float64, rng *rand.Rand) float64 {
		return s(at, rng) + 0.05*math.Sin(math.Pi*at/0.5)
	})
	r := recording.Judge(pushed, sound("s"))
	assert.Greater(t, r.SNRDecibels, 40.0)
	assert.Equal(t, recording.Pure, r.Verdict, codesOf(r))
}

// A hiss that swells is one attempt; two with silence between are two.
func TestASwellingHissIsOneAttempt(t *testing.T) {
	s := hiss(0.2)
	swelling := take(2, 0.4, 1.5, -75, func(at float64, rng *rand.Rand) float64 {
		return s(at, rng) * (0.55 + 0.45*math.Cos(2*math.Pi*at/0.5)) * 1.0
	})
	assert.Equal(t, 1, recording.Judge(swelling, sound("s")).Takes)
	twice := take(2, 0.4, 1.5, -75, func(at float64, rng *rand.Rand) float64 {
		if at > 0.4 && at < 0.7 {
			return 0
		}
		return s(at, rng)
	})
	assert.Equal(t, 2, recording.Judge(twice, sound("s")).Takes)
}

// A hiss that is clipped has samples at one value, though they stand alone.
func TestAClippedHissIsFound(t *testing.T) {
	s := hiss(0.35)
	loud := take(1.2, 0.4, 0.9, -70, s)
	for i, v := range loud.Samples {
		loud.Samples[i] = max(-0.8, min(0.8, v))
	}
	assert.Contains(t, codesOf(recording.Judge(loud, sound("s"))), "clipped")
	soft := hiss(0.15)
	free := take(1.2, 0.4, 0.9, -70, func(at float64, rng *rand.Rand) float64 { return soft(at, rng) })
	assert.NotContains(t, codesOf(recording.Judge(free, sound("s"))), "clipped")
}

// A hum that turns into a vowel says where and how sure it is; cut there, it is judged as if it ended there.
func TestWhereAHumTurns(t *testing.T) {
	low := hum(140, 0.15)
	vowel := func(at float64) float64 {
		v := 0.0
		for h := 1; h <= 20; h++ {
			f := 140 * float64(h)
			g := 1/(1+math.Pow((f-550)/120, 2)) + 0.6/(1+math.Pow((f-1400)/150, 2)) + 0.2/(1+math.Pow((f-2400)/200, 2))
			v += g * math.Sin(2*math.Pi*f*at)
		}
		return 0.25 * v
	}
	muh := take(1.5, 0.4, 1.1, -70, func(at float64, rng *rand.Rand) float64 {
		u := max(0, min(1, (at-0.4)/0.08))
		return (1-u)*low(at, rng) + u*vowel(at)
	})
	r := recording.Judge(muh, sound("m"))
	require.Contains(t, codesOf(r), "added-vowel")
	for _, f := range r.Findings {
		if f.Code == "added-vowel" {
			assert.InDelta(t, 800, f.FromMs, 60, "where it turns")
			assert.Greater(t, f.Sure, 0.9)
			cut := recording.JudgeUntil(muh, f.FromMs, sound("m"))
			assert.Equal(t, recording.Pure, cut.Verdict, codesOf(cut))
			assert.Equal(t, r.DurationMs, cut.DurationMs)
		}
	}
	pure := take(1.5, 0.4, 1.1, -70, low)
	assert.Equal(t, recording.Pure, recording.Judge(pure, sound("m")).Verdict)
	assert.Equal(t, recording.Judge(pure, sound("m")), recording.JudgeUntil(pure, 1500, sound("m")))
}

// A unit of two sounds is heard as two: a lone burst is neither qu nor x.
func TestUnitsOfTwoSounds(t *testing.T) {
	burst := func(at float64, rng *rand.Rand) float64 {
		return 0.5 * rng.NormFloat64() * math.Exp(-at/0.012)
	}
	lone := take(1, 0.4, 0.47, -75, burst)
	glide := hum(130, 0.25)
	kw := take(1, 0.4, 0.58, -75, func(at float64, rng *rand.Rand) float64 {
		v := burst(at, rng)
		if at > 0.04 {
			v += glide(at, rng) * min(1, (at-0.04)/0.02)
		}
		return v
	})
	s := hiss(0.15)
	ks := take(1, 0.4, 0.65, -75, func(at float64, rng *rand.Rand) float64 {
		v := burst(at, rng)
		if at > 0.05 {
			v += s(at, rng)
		}
		return v
	})
	for _, unit := range []string{"kw", "ks"} {
		assert.Contains(t, codesOf(recording.Judge(lone, sound(unit))), "not-this-sound", unit)
	}
	assert.NotContains(t, codesOf(recording.Judge(kw, sound("kw"))), "not-this-sound")
	assert.NotContains(t, codesOf(recording.Judge(ks, sound("ks"))), "not-this-sound")
	assert.NotContains(t, codesOf(recording.Judge(lone, sound("k"))), "not-this-sound")
}
