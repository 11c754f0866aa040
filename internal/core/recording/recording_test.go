package recording_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
)

const hertz = 44_100

func sound(text string) recording.Target {
	t, err := recording.TargetOf(phoneme.SouthernBritish, text)
	if err != nil {
		panic(err)
	}
	return t
}

// A test signal of known truth: silence with noise at noiseDB, and in it a body between from and to.
func take(seconds, from, to, noiseDB float64, body func(t float64, rng *rand.Rand) float64) recording.Clip {
	rng := rand.New(rand.NewPCG(1, 2))
	c := recording.Clip{Hertz: hertz, Samples: make([]float64, int(seconds*hertz))}
	noise := math.Pow(10, noiseDB/20)
	for i := range c.Samples {
		t := float64(i) / hertz
		c.Samples[i] = noise * rng.NormFloat64()
		if t >= from && t < to {
			edge := min(1, (t-from)/0.01, (to-t)/0.01)
			c.Samples[i] += edge * body(t-from, rng)
		}
	}
	return c
}

func hum(f0, level float64) func(float64, *rand.Rand) float64 {
	return func(t float64, _ *rand.Rand) float64 {
		v := 0.0
		for h := 1; h <= 8; h++ {
			v += math.Sin(2*math.Pi*f0*float64(h)*t) / float64(h*h)
		}
		return level * v
	}
}

func hiss(level float64) func(float64, *rand.Rand) float64 {
	last := 0.0
	return func(_ float64, rng *rand.Rand) float64 {
		w := rng.NormFloat64()
		v := w - last // high-pass: energy well above the voice
		last = w
		return level * v
	}
}

func codes(r recording.Report) []string {
	out := []string{}
	for _, f := range r.Findings {
		out = append(out, f.Code)
	}
	return out
}

func TestPureTakes(t *testing.T) {
	m := recording.Judge(take(1.4, 0.4, 1.0, -60, hum(210, 0.2)), sound("m"))
	assert.Equal(t, recording.Pure, m.Verdict, "%v", codes(m))
	assert.InDelta(t, 210, m.F0Hertz, 210*0.05, "fundamental frequency")
	assert.Greater(t, m.VoicedFraction, 0.9)
	s := recording.Judge(take(1.4, 0.4, 0.9, -60, hiss(0.08)), sound("s"))
	assert.Equal(t, recording.Pure, s.Verdict, "%v", codes(s))
	assert.Less(t, s.VoicedFraction, 0.1)
}

func TestTrim(t *testing.T) {
	for _, from := range []float64{0.2, 0.35, 0.5} {
		r := recording.Judge(take(1.5, from, from+0.5, -62, hum(150, 0.2)), sound("m"))
		assert.InDelta(t, from*1000, r.Trim.StartMs, 20, "start")
		assert.InDelta(t, (from+0.5)*1000, r.Trim.EndMs, 30, "end")
	}
}

func TestFaults(t *testing.T) {
	loud := take(1.4, 0.4, 1.0, -60, hum(180, 2))
	for i, v := range loud.Samples {
		loud.Samples[i] = max(-1, min(1, v))
	}
	scaled := recording.Clip{Hertz: hertz}
	for _, v := range loud.Samples {
		scaled.Samples = append(scaled.Samples, v*0.5)
	}
	twice := take(2.4, 0.4, 0.8, -60, hum(180, 0.2))
	for i := range twice.Samples[int(1.4*hertz):int(1.8*hertz)] {
		twice.Samples[int(1.4*hertz)+i] = twice.Samples[int(0.4*hertz)+i]
	}
	vowelAfterS := take(1.4, 0.4, 0.7, -60, hiss(0.08))
	vowel := take(1.4, 0.7, 0.85, -80, hum(180, 0.2))
	for i := range vowelAfterS.Samples {
		vowelAfterS.Samples[i] += vowel.Samples[i]
	}
	rows := []struct {
		name  string
		clip  recording.Clip
		sound string
		code  string
	}{
		{"clipped", loud, "m", "clipped"},
		{"clipped, then scaled", scaled, "m", "clipped"},
		{"quiet", take(1.4, 0.4, 1.0, -95, hum(180, 0.004)), "m", "quiet"},
		{"noisy", take(1.4, 0.4, 1.0, -28, hum(180, 0.2)), "m", "noisy"},
		{"silence", take(1.4, 0, 0, -90, hum(180, 0)), "m", "silence"},
		{"long silence before", take(2.4, 1.4, 2.0, -60, hum(180, 0.2)), "m", "silence"},
		{"cut off at the start", take(1.0, 0, 0.6, -60, hum(180, 0.2)), "m", "cut-off"},
		{"cut off at the end", take(1.0, 0.4, 1.0, -60, hum(180, 0.2)), "m", "cut-off"},
		{"two attempts", twice, "m", "several-takes"},
		{"too short", take(1.0, 0.4, 0.45, -60, hum(180, 0.2)), "m", "too-short"},
		{"too long", take(6, 0.4, 5.2, -60, hum(180, 0.2)), "m", "too-long"},
		{"voice on for s", take(1.4, 0.4, 1.0, -60, hum(180, 0.2)), "s", "voicing"},
		{"voice off for z", take(1.4, 0.4, 1.0, -60, hiss(0.08)), "z", "voicing"},
		{"a vowel after s", vowelAfterS, "s", "added-vowel"},
	}
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			report := recording.Judge(r.clip, sound(r.sound))
			assert.Contains(t, codes(report), r.code)
			assert.NotEqual(t, recording.Pure, report.Verdict)
			assert.NotEmpty(t, report.Advice)
		})
	}
}

// A 997 Hz sine at full scale reads -3.01 LUFS, and -23 dBFS peak -26.0: ITU-R BS.1770-4 and EBU Tech 3341
// (from memory), one channel.
func TestLoudnessOfASine(t *testing.T) {
	for _, rate := range []int{16_000, 44_100, 48_000} {
		c := recording.Clip{Hertz: rate, Samples: make([]float64, 2*rate)}
		for i := range c.Samples {
			c.Samples[i] = math.Pow(10, -23.0/20) * math.Sin(2*math.Pi*997*float64(i)/float64(rate))
		}
		r := recording.Judge(c, sound("m"))
		assert.InDelta(t, -26.01, r.LevelLUFS, 0.2, "at %d Hz", rate)
		assert.InDelta(t, -23, r.PeakDBFS, 0.05)
	}
}

func TestSignalToNoise(t *testing.T) {
	for _, noise := range []float64{-50, -60} {
		c := take(1.4, 0.4, 1.0, noise, hum(200, 0.2))
		r := recording.Judge(c, sound("m"))
		body := 0.0
		for _, v := range c.Samples[int(0.5*hertz):int(0.9*hertz)] {
			body += v * v
		}
		want := 10*math.Log10(body/(0.4*hertz)) - noise
		assert.InDelta(t, want, r.SNRDecibels, 4, "noise at %.0f dB", noise)
	}
}

func TestResampleKeepsATone(t *testing.T) {
	in := make([]float64, 44_100)
	for i := range in {
		in[i] = math.Sin(2 * math.Pi * 440 * float64(i) / 44_100)
	}
	out := recording.Resample(in, 44_100, 16_000)
	require.InDelta(t, 16_000, len(out), 1)
	for i := 2000; i < 12_000; i++ {
		require.InDelta(t, math.Sin(2*math.Pi*440*float64(i)/16_000), out[i], 0.01)
	}
}

func FuzzJudge(f *testing.F) {
	f.Add([]byte{0, 1, 2, 3, 255, 128}, 44_100)
	f.Add([]byte{}, 8000)
	f.Fuzz(func(t *testing.T, data []byte, rate int) {
		if rate < 0 || rate > 200_000 {
			return
		}
		c := recording.Clip{Hertz: rate}
		for i, b := range data {
			v := float64(int8(b)) / 128
			if b == 255 && i%7 == 0 {
				v = math.NaN()
			}
			for range 40 {
				c.Samples = append(c.Samples, v)
			}
		}
		for _, p := range []string{"m", "s", "t", "d", "æ", "eɪ", "z", "kw"} {
			r := recording.Judge(c, sound(p))
			if math.IsNaN(r.LevelLUFS) || math.IsNaN(r.SNRDecibels) || r.Verdict == "" {
				t.Fatalf("%+v", r)
			}
		}
	})
}

func ExampleJudge() {
	r := recording.Judge(recording.Clip{Hertz: 44_100, Samples: make([]float64, 44_100)}, sound("m"))
	fmt.Println(r.Verdict, r.Findings[0].Code)
	// Output: retake silence
}

func BenchmarkJudge(b *testing.B) {
	c := take(2, 0.4, 1.4, -60, hum(200, 0.2))
	for b.Loop() {
		recording.Judge(c, sound("m"))
	}
	b.ReportMetric(2*float64(b.N)/b.Elapsed().Seconds(), "times-real-time")
}
