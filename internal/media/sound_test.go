package media_test

import (
	"bytes"
	"embed"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
)

// One synthetic hum, packed by ffmpeg: see its README.
//
//go:embed testdata/formats/*
var formats embed.FS

func decode(t *testing.T, name string) recording.Clip {
	t.Helper()
	data, err := formats.ReadFile("testdata/formats/" + name)
	require.NoError(t, err)
	clip, err := media.DecodeSound(data)
	require.NoError(t, err, name)
	return clip
}

func TestOneTakeInEveryFormatHasOneVerdictAndTrim(t *testing.T) {
	m, err := recording.TargetOf(phoneme.SouthernBritish, "m")
	require.NoError(t, err)
	want := recording.Judge(decode(t, "hum.wav"), m)
	require.Equal(t, recording.Pure, want.Verdict, want.Advice)
	for _, name := range []string{"hum.flac", "hum.mp3", "hum.ogg", "hum-24.flac", "hum-stereo.mp3", "hum-float.wav"} {
		got := recording.Judge(decode(t, name), m)
		assert.Equal(t, want.Verdict, got.Verdict, "%s: %s", name, got.Advice)
		assert.InDelta(t, want.Trim.StartMs, got.Trim.StartMs, 5, name)
		assert.InDelta(t, want.Trim.EndMs, got.Trim.EndMs, 5, name)
		assert.InDelta(t, want.DurationMs, got.DurationMs, 2, "%s: what the encoder added is taken away", name)
		assert.InDelta(t, want.LevelLUFS, got.LevelLUFS, 0.5, name)
	}
	opus, err := formats.ReadFile("testdata/formats/hum.opus")
	require.NoError(t, err)
	_, err = media.DecodeSound(opus)
	require.ErrorContains(t, err, "Opus")
}

func TestWrongSizesInTheHeaderLoseNothing(t *testing.T) {
	whole, err := formats.ReadFile("testdata/formats/hum.wav")
	require.NoError(t, err)
	want := decode(t, "hum.wav")
	for _, size := range [][]byte{{0, 0, 0, 0}, {255, 255, 255, 255}, {255, 255, 255, 127}} {
		broken := bytes.Clone(whole)
		copy(broken[40:], size)
		got, err := media.DecodeSound(broken)
		require.NoError(t, err, "size %v", size)
		assert.Len(t, got.Samples, len(want.Samples))
	}
}

// Sizes of parts are only claims: none may make the decoder allocate or walk for them.
func TestHugeClaimsCostNothing(t *testing.T) {
	m := decode(t, "hum.wav")
	wav := media.EncodeWAV(m)
	list := append(bytes.Clone(wav[:36]), append([]byte("LIST\xff\xff\xff\x7fINFOISFT\xff\xff\xff\x7f"), wav[36:]...)...)
	mp3, err := formats.ReadFile("testdata/formats/hum.mp3")
	require.NoError(t, err)
	tagged := append([]byte("ID3\x04\x00\x00\x7f\x7f\x7f\x7f"), mp3...)
	for name, data := range map[string][]byte{"a list part of 2 GB": list, "a tag of 256 MB": tagged} {
		spent := testing.AllocsPerRun(1, func() { _, err = media.DecodeSound(data) })
		require.ErrorIs(t, err, media.ErrRefused, name)
		assert.Less(t, spent, 200.0, name)
	}
}

func peakOf(c recording.Clip) float64 {
	peak := 0.0
	for _, v := range c.Samples {
		peak = max(peak, math.Abs(v))
	}
	return peak
}

func TestMastersSoundAlike(t *testing.T) {
	take := func(gain, offset float64) recording.Clip {
		c := recording.Clip{Hertz: 48_000, Samples: make([]float64, 48_000)}
		for i := range c.Samples {
			at := float64(i) / 48_000
			c.Samples[i] = offset + gain*(math.Sin(2*math.Pi*440*at)+0.5*math.Sin(2*math.Pi*1400*at)) + 0.05*math.Sin(
				2*math.Pi*20*at,
			)
		}
		return c
	}
	for _, gain := range []float64{0.02, 0.1, 0.4} {
		in := take(gain, 0.1)
		before := bytes.Clone(media.EncodeWAV(in))
		out := media.Master(in, 100, 900, false)
		lufs, gated := recording.Loudness(out.Samples, out.Hertz)
		assert.True(t, gated)
		assert.InDelta(t, -23, lufs, 0.2, "one loudness from a gain of %v", gain)
		assert.InDelta(t, 0.8*media.MasterHertz, len(out.Samples), 2)
		assert.InDelta(t, 0, out.Samples[0], 0.01, "it fades in")
		mean := 0.0
		for _, v := range out.Samples {
			mean += v / float64(len(out.Samples))
		}
		assert.InDelta(t, 0, mean, 0.002, "the constant part is gone")
		assert.Equal(t, before, media.EncodeWAV(in), "the take itself is kept")
	}
	plain := media.Master(take(0.1, 0), 100, 900, true)
	assert.InDelta(t, peakOf(take(0.1, 0)), peakOf(plain), 0.005, "as recorded")
	click := recording.Clip{Hertz: 44_100, Samples: make([]float64, 20_000)}
	click.Samples[9000] = 0.01
	assert.LessOrEqual(t, peakOf(media.Master(click, 0, 450, false)), 0.9, "never over full scale")
	for _, r := range [][2]int{{-5, 1 << 30}, {900, 100}, {0, 0}} {
		assert.NotPanics(t, func() { media.Master(click, r[0], r[1], false) })
	}
	assert.NotPanics(t, func() {
		media.Master(recording.Clip{Hertz: 8000, Samples: []float64{math.NaN(), math.Inf(1)}}, 0, 1, false)
	})
}

func TestFLACIsTheSameSoundAndSmaller(t *testing.T) {
	in := media.Master(decode(t, "hum.wav"), 0, 2000, false)
	packed, err := media.EncodeFLAC(in)
	require.NoError(t, err)
	back, err := media.DecodeSound(packed)
	require.NoError(t, err)
	require.Len(t, back.Samples, len(in.Samples))
	for i := range in.Samples {
		require.InDelta(t, in.Samples[i], back.Samples[i], 1.1/32767, "sample %d", i)
	}
	assert.Less(t, len(packed)*4, len(media.EncodeWAV(in))*3, "at least a quarter smaller")
	_, err = media.EncodeFLAC(recording.Clip{Hertz: 44_100})
	require.Error(t, err)
}

// A 60 s take at the highest rate may not need 60 MB more than its samples at once: measured by the benchmark.
func BenchmarkDecodeAndJudgeAMinute(b *testing.B) {
	c := recording.Clip{Hertz: 44_100, Samples: make([]float64, 44_100*60)}
	rng := rand.New(rand.NewPCG(1, 1))
	for i := range c.Samples {
		c.Samples[i] = 0.1 * rng.NormFloat64() * math.Abs(math.Sin(float64(i)/30_000))
	}
	wav := media.EncodeWAV(c)
	s, _ := recording.TargetOf(phoneme.SouthernBritish, "s")
	b.ReportAllocs()
	for b.Loop() {
		clip, err := media.DecodeSound(wav)
		if err != nil {
			b.Fatal(err)
		}
		recording.Judge(clip, s)
	}
}

func FuzzDecodeSound(f *testing.F) {
	names, err := formats.ReadDir("testdata/formats")
	if err != nil {
		f.Fatal(err)
	}
	for _, n := range names {
		data, _ := formats.ReadFile("testdata/formats/" + n.Name())
		f.Add(data[:min(len(data), 3000)])
	}
	f.Add(wav(8000, 2, 16, 1)[:200])
	f.Add([]byte("RIFF\x00\x00\x00\x00WAVEfmt \xff\xff\xff\xff"))
	f.Fuzz(func(t *testing.T, data []byte) {
		clip, err := media.DecodeSound(data)
		if err != nil {
			return
		}
		if len(clip.Samples) == 0 {
			t.Fatal("no samples and no error")
		}
		if cost := media.SoundCost(bytes.NewReader(data), int64(len(data))); int64(len(clip.Samples))*8 > cost {
			t.Fatalf("%d samples, said to cost %d bytes", len(clip.Samples), cost)
		}
		end := min(200, len(clip.Samples)*1000/clip.Hertz)
		media.Master(media.Part(clip, 0, end), 0, end, false)
	})
}

// Two channels are one sound: a dead one halves nothing, and one that is wired the wrong way round takes nothing away.
func TestTwoChannels(t *testing.T) {
	m, err := recording.TargetOf(phoneme.SouthernBritish, "m")
	require.NoError(t, err)
	one := decode(t, "hum.wav")
	want := recording.Judge(one, m)
	noise := rand.New(rand.NewPCG(3, 3))
	for name, other := range map[string]func(v float64) float64{
		"the same":  func(v float64) float64 { return v },
		"dead":      func(float64) float64 { return 0 },
		"only hiss": func(float64) float64 { return 0.0001 * noise.NormFloat64() },
		"opposite":  func(v float64) float64 { return -v },
		"softer":    func(v float64) float64 { return 0.5 * v },
	} {
		for _, swapped := range []bool{false, true} {
			both := make([]float64, 0, 2*len(one.Samples))
			for _, v := range one.Samples {
				if swapped {
					both = append(both, other(v), v)
				} else {
					both = append(both, v, other(v))
				}
			}
			clip, err := media.DecodeSound(stereo(both, one.Hertz))
			require.NoError(t, err, name)
			got := recording.Judge(clip, m)
			assert.Equal(t, want.Verdict, got.Verdict, "%s: %s", name, got.Advice)
			assert.InDelta(t, want.LevelLUFS, got.LevelLUFS, 3, name)
			if name != "softer" {
				assert.InDelta(t, want.LevelLUFS, got.LevelLUFS, 0.1, name)
			}
		}
	}
}

// stereo is a WAV file of 16 bit with two channels.
func stereo(interleaved []float64, hertz int) []byte {
	data := media.EncodeWAV(recording.Clip{Samples: interleaved, Hertz: hertz})
	data[22] = 2
	data[32] = 4
	return data
}

func TestAFileThatChangesOnTheWayIsRefused(t *testing.T) {
	ogg, err := formats.ReadFile("testdata/formats/hum.ogg")
	require.NoError(t, err)
	_, err = media.DecodeSound(append(bytes.Clone(ogg), ogg...))
	require.ErrorContains(t, err, "joined from several sounds")
	mp3, err := formats.ReadFile("testdata/formats/hum.mp3")
	require.NoError(t, err)
	start := bytes.Index(mp3, []byte{0xFF, 0xFB})
	require.GreaterOrEqual(t, start, 0)
	second := bytes.Clone(mp3[start:])
	second[2] ^= 1 << 2 // another rate
	_, err = media.DecodeSound(append(bytes.Clone(mp3), second...))
	require.ErrorContains(t, err, "joined from several sounds")
	_, err = media.DecodeSound(mp3)
	require.NoError(t, err)
}

func TestAFileIsReadWhereItLies(t *testing.T) {
	for _, name := range []string{"hum.wav", "hum.flac", "hum.mp3", "hum.ogg", "hum-stereo.mp3"} {
		data, err := formats.ReadFile("testdata/formats/" + name)
		require.NoError(t, err)
		clip, err := media.DecodeFile(bytes.NewReader(data), int64(len(data)))
		require.NoError(t, err)
		assert.Equal(t, decode(t, name), clip, name)
		_, err = media.DecodeFile(bytes.NewReader(data[:len(data)/2]), int64(len(data)))
		if err != nil { // an end that is missing is told, or what is there is used
			assert.ErrorIs(t, err, media.ErrRefused, name)
		}
	}
}
