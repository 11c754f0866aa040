package recording

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A fall is measured from eight points on, which lie two frames apart and begin six behind the last loud one; each
// point is the mean of four frames.
func TestWhereAnEchoCanBeMeasured(t *testing.T) {
	const hop = analysisHertz / 200
	rng := rand.New(rand.NewPCG(3, 3))
	mono := make([]float64, 200*hop)
	for i := range mono {
		if at := i - 100*hop; at >= 0 {
			mono[i] = 0.5 * rng.NormFloat64() * math.Pow(10, -float64(at)/hop*0.75/20) // 60 dB in 80 frames
		}
	}
	firstTail, firstFall := 0, 0
	for n := 102; n <= 200; n++ {
		fall, tail := echo(mono[:n*hop])
		if tail > floorDB && firstTail == 0 {
			firstTail = n
		}
		if fall > 0 && firstFall == 0 {
			firstFall = n
			assert.InDelta(t, 400, fall, 60)
		}
	}
	assert.InDelta(t, 100+11+20, firstTail, 3, "ten frames behind the last loud one")
	assert.Equal(t, 6+2*7+4-11, firstFall-firstTail)
}

// The edge of a band is told from one window on.
func TestABandInOneWindow(t *testing.T) {
	upTo := func(most float64) []float64 {
		in := make([]float64, 1024)
		for i := range in {
			for f := 250.0; f < most; f += 125 {
				in[i] += 0.02 * math.Sin(2*math.Pi*f*float64(i)/16000+f*f)
			}
		}
		return in
	}
	in := upTo(4000)
	assert.InDelta(t, 6500, bandEdge(upTo(6750), 16000, span{from: 0, to: 12}), 501)
	assert.InDelta(t, 8000, bandEdge(upTo(7450), 16000, span{from: 0, to: 12}), 0.1, "too near the end to tell")
	assert.InDelta(t, 4000, bandEdge(in, 16000, span{from: 0, to: 12}), 501)
	assert.InDelta(t, 8000, bandEdge(in[:1023], 16000, span{from: 0, to: 12}), 0.1, "too short to tell")
	assert.InDelta(t, 8000, bandEdge(in, 16000, span{from: 0, to: 7}), 0.1, "the word is too short")
}

// Nothing has a level, and is no error.
func TestTheLevelOfNothing(t *testing.T) {
	levels, mono := signal{hertz: 16000}.heard(0)
	assert.Equal(t, []float64{floorDB}, levels)
	assert.Empty(t, mono)
	levels, mono = signal{hertz: 16000, samples: make([]float64, 3)}.heard(16000)
	assert.Equal(t, []float64{floorDB}, levels)
	assert.Len(t, mono, 3)
	for _, rate := range []int{8000, 11025, 16000, 48000} { // all that came in goes out, at each rate
		for _, n := range []int{1, 79, 80, 81, 1599, 1600, 1601, 16003} {
			_, mono = signal{hertz: 16000, samples: make([]float64, n)}.heard(rate)
			assert.Len(t, mono, n*rate/16000, "%d at %d", n, rate)
		}
	}
}

// A vowel of less than 60 ms is not told.
func TestAVowelThatIsTooShort(t *testing.T) {
	mono := make([]float64, 3*analysisHertz)
	rng := rand.New(rand.NewPCG(5, 5))
	for i := range mono {
		mono[i] = 0.1 * rng.NormFloat64()
	}
	a := &analysis{target: aim("æ"), mono: mono, span: span{from: 100, to: 111}}
	assert.Zero(t, a.vowelDistance())
	assert.Zero(t, a.f1)
	a = &analysis{target: aim("æ"), mono: mono, span: span{from: 100, to: 112}}
	_ = a.vowelDistance()
	assert.Positive(t, a.f1)
	a = &analysis{target: aim("m"), mono: mono, span: span{from: 100, to: 300}}
	assert.Zero(t, a.vowelDistance(), "no vowel has means for it")
}

// A click is found where it is, whatever the offset.
func TestAClickBesideAnOffset(t *testing.T) {
	s := signal{hertz: 16000, mean: 0.5, samples: make([]float64, 16000)}
	for i := range s.samples {
		s.samples[i] = 0.5 + 0.001*math.Sin(float64(i))
	}
	s.samples[9000] = 0.1
	assert.Greater(t, s.clickShare(), 0.98)
	s.samples[9000] = 0.5
	assert.Less(t, s.clickShare(), 0.1, "four of a hundred, or of what is there")
}

// What is soft, but not next to the loudest, counts as an attempt from 20 ms on.
func TestHowLongAnAttemptIs(t *testing.T) {
	for frames, attempts := range map[int]int{3: 1, 4: 1, 5: 2, 8: 2} {
		levels := make([]float64, 300)
		for i := range levels {
			levels[i] = -80
		}
		for i := 60; i < 100; i++ {
			levels[i] = -20
		}
		for i := range frames {
			levels[200+i] = -40
		}
		assert.Equal(t, attempts, findSound(levels).attempts, "%d frames", frames)
	}
	for _, c := range []struct {
		second   []float64
		attempts int
	}{
		{[]float64{-45, -40, -40, -40, -45}, 2}, // 25 dB under the loudest still belongs to it
		{[]float64{-46, -40, -40, -40, -45}, 1},
		{[]float64{-45, -40, -40, -40, -46}, 1},
		{[]float64{-32, -32, -32}, 1},
		{[]float64{-31, -32, -32}, 2},
	} {
		levels := slices.Concat(slices.Repeat([]float64{-80}, 60), slices.Repeat([]float64{-20}, 40),
			slices.Repeat([]float64{-80}, 100), c.second, slices.Repeat([]float64{-80}, 100))
		assert.Equal(t, c.attempts, findSound(levels).attempts, "%v", c.second)
	}
}

// Frames that reach over an end are left out.
func TestResonancesAtTheEnds(t *testing.T) {
	rng := rand.New(rand.NewPCG(9, 9))
	low := make([]float64, 4000)
	for i := range low {
		low[i] = rng.NormFloat64()
	}
	// Frames of 330 samples, 55 samples of 11 kHz apart: the first begins behind the first sample, the last ends with
	// the last one.
	for _, lo := range []int{0, 1, 2, 60} {
		n := 0
		for i := lo; i <= 90; i += max(1, (90-lo)/10) {
			if at := i*55 + 275/2 - 165; at >= 1 && at+330 <= 4000 {
				n++
			}
		}
		got := resonances(low, lo, 90, 10)
		assert.NotEmpty(t, got)
		assert.LessOrEqual(t, len(got), n, "from %d", lo) // of some frames of noise there are none
	}
}

// The least rate at which anything is judged.
func TestTheLeastRate(t *testing.T) {
	for hertz, heard := range map[int]bool{3999: false, 4000: true} {
		clip := Clip{Hertz: hertz, Samples: make([]float64, 5*hertz)}
		for i := range hertz / 2 {
			clip.Samples[2*hertz+i] = 0.2 * math.Sin(2*math.Pi*150*float64(i)/float64(hertz))
		}
		assert.Equal(t, heard, Judge(clip, aim("m")).Trim.EndMs > 0, hertz)
		assert.Equal(t, heard, Room(clip).PeakDBFS > floorDB, hertz)
		assert.Equal(t, heard, len(Turns(clip, aim("m"))) > 0, hertz)
	}
}

// A room in which hardly anything is heard has no word in it, however quiet it is.
func TestAWordUnderEverything(t *testing.T) {
	word := func(amplitude float64) RoomReport {
		clip := Clip{Hertz: 16000, Samples: make([]float64, 5*16000)}
		for i := range 4000 {
			clip.Samples[36000+i] = amplitude * math.Sin(2*math.Pi*600*float64(i)/16000)
		}
		return Room(clip)
	}
	assert.Equal(t, "no-sound", word(0.0002).Findings[0].Code, "1 dB under the least")
	assert.NotContains(t, found(word(0.0003).Findings), "no-sound retake")
}

// A take that is judged up to its end is judged as it is.
func TestJudgedToItsEnd(t *testing.T) {
	rng := rand.New(rand.NewPCG(8, 8))
	take := Clip{Hertz: 16000, Samples: make([]float64, 24000)}
	for i := range take.Samples {
		take.Samples[i] = 0.0003 * rng.NormFloat64()
		if i > 6000 {
			take.Samples[i] += 0.2 * math.Sin(2*math.Pi*150*float64(i)/16000)
		}
	}
	whole := Judge(take, aim("m"))
	assert.Equal(t, 1500, whole.DurationMs)
	assert.Equal(t, whole, JudgeUntil(take, 1499, aim("m")))
	assert.NotEqual(t, whole, JudgeUntil(take, 1498, aim("m")))
	for i := 16000; i < len(take.Samples); i++ {
		take.Samples[i] = 0.0003 * rng.NormFloat64()
	}
	whole = Judge(take, aim("m"))
	assert.Equal(t, whole, JudgeUntil(take, whole.Trim.EndMs+100, aim("m")))
	assert.NotEqual(t, whole, JudgeUntil(take, whole.Trim.EndMs+99, aim("m")))
}

// What is 30 dB under the loudest belongs to the word, on both sides.
func TestTheEdgesOfAWord(t *testing.T) {
	s := wordIn(flat(220, -70, 3, -50, 40, -20, 4, -50, 200, -70))
	assert.Equal(t, []int{220, 266}, []int{s.from, s.to})
	s = wordIn(flat(220, -70, 3, -50.1, 40, -20, 4, -50.1, 200, -70))
	assert.Equal(t, []int{223, 262}, []int{s.from, s.to})
}

// What a room is told is in seconds, and its noise around a sound is measured only where there is some.
func TestWhatARoomIsTold(t *testing.T) {
	r := RoomReport{NoiseDBFS: -70, SNRDecibels: 50, PeakDBFS: -10, BandHertz: 20_000, EchoMs: 620, Findings: []Finding{}}
	r.judge(0, -20)
	assert.Contains(t, r.Findings[0].Message, "echoes for 0.6 seconds")
	a := &analysis{frames: make([]frame, 100), span: span{from: 8, to: 90}}
	for i := range a.frames {
		a.frames[i].below, a.frames[i].above = 100, 1
	}
	cliff, around := a.bandLimit()
	assert.InDelta(t, 20, cliff, 1e-6)
	assert.Zero(t, around, "no frame lies far enough from it")
	a.span = span{from: 11, to: 90}
	_, around = a.bandLimit()
	assert.InDelta(t, 20, around, 1e-6, "one does")
}

// The band of the word alone counts: not what lies before it, nor what comes more than 25 ms behind it.
func TestTheBandOfTheWordAlone(t *testing.T) {
	for _, hertz := range []int{22050, 44100, 48000} {
		for _, edge := range []float64{3400, 4600, 7100, 9400} {
			rng := rand.New(rand.NewPCG(uint64(hertz), uint64(edge)))
			in := make([]float64, hertz)
			s := span{from: 60, to: 120}
			from, to := s.from*hertz/200, (s.to+5)*hertz/200
			for i := range in {
				if i < from || i >= to {
					in[i] = 0.1 * rng.NormFloat64()
					continue
				}
				for f := 200.0; f < edge; f += 90 {
					in[i] += 0.01 * math.Sin(2*math.Pi*f*float64(i)/float64(hertz)+f*f)
				}
			}
			assert.InDelta(t, edge, bandEdge(in, hertz, s), 501, "%d", hertz)
			wide := span{from: s.from, to: s.to + 25}
			assert.InDelta(t, hertz/2, bandEdge(in, hertz, wide), 1, "noise behind it hides the edge")
			wide = span{from: s.from - 25, to: s.to}
			assert.InDelta(t, hertz/2, bandEdge(in, hertz, wide), 1, "and so does noise before it")
		}
	}
}

// Echoes of known lengths, with and without noise, and how loud the tail is 50 ms behind the last loud moment.
func TestEchoesOfKnownLengths(t *testing.T) {
	const hop = analysisHertz / 200
	for _, ms := range []float64{250, 400, 700, 1200} {
		for _, noise := range []float64{0, 0.0002} {
			rng := rand.New(rand.NewPCG(uint64(ms), 6))
			mono := make([]float64, 3*analysisHertz)
			for i := range mono {
				mono[i] = noise * rng.NormFloat64()
				if at := i - 200*hop; at >= 0 {
					mono[i] += 0.5 * rng.NormFloat64() * math.Pow(10, -3*float64(at)/analysisHertz/(ms/1000))
				}
			}
			fall, tail := echo(mono)
			assert.InDelta(t, ms, fall, 0.12*ms, "with noise of %g", noise)
			// The last loud moment is 15 dB under the peak; the tail is the mean of 25 ms that begin 40 ms behind it.
			assert.InDelta(t, -15.2-60/ms*52, tail, 2.5, "%g ms, noise %g", ms, noise)
		}
	}
}

// A second of silence before the word is enough, and 700 ms behind it.
func TestHowMuchSilenceARoomNeeds(t *testing.T) {
	seen := map[string]int{}
	for shift := range 40 {
		clip := Clip{Hertz: 16000, Samples: make([]float64, 210*80+4000+140*80+20*80)}
		rng := rand.New(rand.NewPCG(2, 2))
		for i := range clip.Samples {
			clip.Samples[i] = 0.0005 * rng.NormFloat64()
		}
		for i := range 4000 {
			clip.Samples[205*80+shift*40+i] += 0.2 * math.Sin(2*math.Pi*600*float64(i)/16000)
		}
		levels, _ := newSignal(clip).heard(analysisHertz)
		s := wordIn(levels)
		before, after := s.from-10, len(levels)-(s.to+10)
		want := ""
		switch {
		case before < 200:
			want = "spoken-early retake"
		case after < 140:
			want = "spoken-late retake"
		}
		seen[want]++
		seen[[]string{"before", "after"}[shift/20]+map[bool]string{true: " just"}[before == 200 || after == 140]]++
		got := found(Room(clip).Findings)
		for _, code := range []string{"spoken-early retake", "spoken-late retake"} {
			assert.Equal(t, code == want, slices.Contains(got, code), "%d before, %d after: %v", before, after, got)
		}
	}
	for _, k := range []string{"", "spoken-early retake", "spoken-late retake", "before just", "after just"} {
		assert.Positive(t, seen[k], k)
	}
}
