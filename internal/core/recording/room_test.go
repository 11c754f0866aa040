package recording_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/recording"
)

// checked is a check of a made-up room: two seconds of silence, a word like "tap" at a peak of 0.25, two of silence.
type checked struct {
	noise  float64 // root mean square
	echo   float64 // seconds in which it falls by 60 dB, 0 for none
	change func(samples []float64, hertz int)
	hertz  int
}

func (c checked) clip() recording.Clip {
	hertz := c.hertz
	if hertz == 0 {
		hertz = 48_000
	}
	rng := rand.New(rand.NewPCG(7, 7))
	at := func(seconds float64) int { return int(seconds * float64(hertz)) }
	dry := make([]float64, at(4.5))
	burst := func(from, fall, level float64) {
		for i := range at(6 * fall) {
			dry[at(from)+i] += level * rng.NormFloat64() / 3 * math.Exp(-float64(i)/float64(hertz)/fall)
		}
	}
	burst(2.0, 0.012, 0.25)
	for i := range at(0.14) {
		t := float64(i) / float64(hertz)
		edge := min(1, t/0.01, (0.14-t)/0.02)
		for h := 1.0; h < 12; h++ {
			dry[at(2.03)+i] += 0.09 * edge / h * math.Sin(2*math.Pi*130*h*t)
		}
	}
	burst(2.24, 0.008, 0.12)
	out := slices.Clone(dry)
	if c.echo > 0 {
		tail := make([]float64, at(min(1.2, c.echo)))
		for i := range tail {
			t := float64(i) / float64(hertz)
			tail[i] = 0.02 * rng.NormFloat64() * math.Pow(10, -3*t/c.echo)
		}
		for i := at(1.99); i < at(2.32); i++ {
			if dry[i] == 0 {
				continue
			}
			for k := 40; k < len(tail) && i+k < len(out); k++ {
				out[i+k] += dry[i] * tail[k]
			}
		}
	}
	for i := range out {
		out[i] += c.noise * rng.NormFloat64()
	}
	if c.change != nil {
		c.change(out, hertz)
	}
	return recording.Clip{Samples: out, Hertz: hertz}
}

func roomCodes(r recording.RoomReport) (out []string) {
	for _, f := range r.Findings {
		out = append(out, f.Code)
	}
	return out
}

func TestGoodRoom(t *testing.T) {
	r := recording.Room(checked{noise: 0.0005}.clip())
	assert.True(t, r.Ready)
	assert.Empty(t, roomCodes(r))
	assert.InDelta(t, -66, r.NoiseDBFS, 1, "root mean square of 0.0005")
	assert.InDelta(t, 24_000, r.BandHertz, 1)
	assert.Zero(t, r.EchoMs)
	assert.Less(t, r.PumpDB, 3.0)
}

func TestNoiseThatWasPutIn(t *testing.T) {
	for _, c := range []struct {
		noise float64
		ready bool
		codes []string
	}{{0.0002, true, nil}, {0.003, true, []string{"noisy"}}, {0.02, false, []string{"noisy"}}} {
		r := recording.Room(checked{noise: c.noise}.clip())
		assert.InDelta(t, 20*math.Log10(c.noise), r.NoiseDBFS, 1, "%v", c.noise)
		assert.Equal(t, c.ready, r.Ready, "%v", c.noise)
		assert.Equal(t, c.codes, roomCodes(r), "%v", c.noise)
	}
}

func TestEchoThatWasPutIn(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	for _, seconds := range []float64{0.3, 0.5, 0.8, 1.2} {
		r := recording.Room(checked{noise: 0.0001, echo: seconds}.clip())
		assert.InEpsilon(t, seconds*1000, float64(r.EchoMs), 0.15, "an echo of %v s: %d ms", seconds, r.EchoMs)
		assert.Equal(t, seconds > 0.45, slices.Contains(roomCodes(r), "echo"), "%v: %v", seconds, roomCodes(r))
	}
}

func TestMicrophones(t *testing.T) {
	gain := func(g float64) func([]float64, int) {
		return func(s []float64, _ int) {
			for i := range s {
				s[i] = max(-1, min(1, s[i]*g))
			}
		}
	}
	pumping := func(s []float64, hertz int) {
		for i := range s {
			if t := float64(i)/float64(hertz) - 2.0; t > 0 { // the gain falls at the word and comes back within two seconds
				s[i] *= 1 - 0.8*math.Exp(-max(0, t-0.4)/0.7)
			}
		}
	}
	hum := func(s []float64, hertz int) {
		for i := range s {
			for h := 1.0; h < 4; h++ {
				s[i] += 0.002 / h * math.Sin(2*math.Pi*50*h*float64(i)/float64(hertz))
			}
		}
	}
	gate := func(s []float64, hertz int) {
		for i := range s {
			if t := float64(i) / float64(hertz); t > 2.45 {
				s[i] *= 0.05
			}
		}
	}
	noiseOnly := func(s []float64, hertz int) { copy(s[2*hertz:], s[:2*hertz]) }
	early := func(s []float64, hertz int) { copy(s[hertz/2:], s[19*hertz/10:5*hertz/2]) }
	for name, c := range map[string]struct {
		checked
		code  string
		ready bool
	}{
		"too loud":    {checked{noise: 0.0005, change: gain(9)}, "clipped", false},
		"nearly":      {checked{noise: 0.0003, change: gain(2.9)}, "margin", true},
		"soft":        {checked{noise: 0.0005, change: gain(0.15)}, "quiet", true},
		"faint":       {checked{noise: 0.0003, change: gain(0.03)}, "quiet", false},
		"pumps":       {checked{noise: 0.0003, change: pumping}, "pumping", true},
		"suppresses":  {checked{noise: 0.001, change: gate}, "pumping", true},
		"mains":       {checked{noise: 0.0003, change: hum}, "hum", true},
		"telephone":   {checked{noise: 0.0003, hertz: 8000}, "narrow-band", false},
		"radio":       {checked{noise: 0.0003, hertz: 16_000}, "narrow-band", true},
		"nothing":     {checked{noise: 0.0003, change: gain(0)}, "no-sound", false},
		"only noise":  {checked{noise: 0.0003, change: noiseOnly}, "no-sound", false},
		"spoke early": {checked{noise: 0.0003, change: early}, "spoken-early", false},
	} {
		r := recording.Room(c.clip())
		assert.Contains(t, roomCodes(r), c.code, "%s: %+v", name, r)
		assert.Equal(t, c.ready, r.Ready, "%s: %v", name, roomCodes(r))
	}
	assert.False(t, recording.Room(recording.Clip{}).Ready)
}

// A microphone by radio ends at 8 kHz also where its driver says 48.
func TestBandOfAResampledMicrophone(t *testing.T) {
	narrow := checked{noise: 0.0003, hertz: 16_000}.clip()
	r := recording.Room(recording.Clip{Samples: recording.Resample(narrow.Samples, 16_000, 48_000), Hertz: 48_000})
	assert.InDelta(t, 7500, r.BandHertz, 1000)
}
