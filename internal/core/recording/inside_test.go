package recording

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
)

func aim(text string) Target {
	t, err := TargetOf(phoneme.SouthernBritish, text)
	if err != nil {
		panic(err)
	}
	return t
}

// found are the findings of a report, as code and severity.
func found(list []Finding) []string {
	out := []string{}
	for _, f := range list {
		out = append(out, f.Code+" "+f.Severity)
	}
	return out
}

// Each limit of the level from both sides.
func TestLimitsOfTheLevel(t *testing.T) {
	for _, c := range []struct {
		change func(r *Report, a *analysis)
		want   string
	}{
		{func(r *Report, _ *analysis) { r.Clipped = 2 }, ""},
		{func(r *Report, _ *analysis) { r.Clipped = 3 }, "clipped retake"},
		{func(r *Report, _ *analysis) { r.LevelLUFS, r.PeakDBFS = quietLUFS, -30 }, ""},
		{func(r *Report, _ *analysis) { r.LevelLUFS, r.PeakDBFS = quietLUFS-1, -24 }, ""},
		{func(r *Report, _ *analysis) { r.LevelLUFS, r.PeakDBFS = quietLUFS-1, -25 }, "quiet fix"},
		{func(r *Report, _ *analysis) { r.LevelLUFS, r.PeakDBFS = quietLUFS-1, -40 }, "quiet fix"},
		{func(r *Report, _ *analysis) { r.LevelLUFS, r.PeakDBFS = quietLUFS-1, -41 }, "quiet retake"},
		{func(r *Report, _ *analysis) { r.Measures.MainsHumDB = humDB }, ""},
		{func(r *Report, _ *analysis) { r.Measures.MainsHumDB = humDB + 1 }, "hum fix"},
		{func(_ *Report, a *analysis) { a.hertz = 8000 }, "narrow-band retake"},
		{func(_ *Report, a *analysis) { a.hertz = 8001 }, ""},
		{func(r *Report, _ *analysis) { r.Measures.CliffDB, r.Measures.NoiseCliffDB = cliffDB, 10 }, ""},
		{func(r *Report, _ *analysis) { r.Measures.CliffDB, r.Measures.NoiseCliffDB = 22, cliffNoiseDB }, ""},
		{func(r *Report, _ *analysis) { r.Measures.CliffDB, r.Measures.NoiseCliffDB = 22, 10 }, "narrow-band retake"},
		{func(r *Report, _ *analysis) { r.Measures.CliffDB, r.Measures.NoiseCliffDB = 8, 16 }, ""},
		{func(r *Report, _ *analysis) { r.Measures.CliffDB, r.Measures.NoiseCliffDB = 9, 15 }, ""},
		{func(r *Report, _ *analysis) { r.Measures.CliffDB, r.Measures.NoiseCliffDB = 9, 16 }, "narrow-band retake"},
		{func(r *Report, _ *analysis) { r.SNRDecibels = noisySNR }, ""},
		{func(r *Report, _ *analysis) { r.SNRDecibels = noisySNR - 1 }, "noisy retake"},
	} {
		r, a := Report{LevelLUFS: -20, PeakDBFS: -6, SNRDecibels: 40}, &analysis{hertz: 16_000}
		c.change(&r, a)
		r.level(a)
		want := []string{}
		if c.want != "" {
			want = append(want, c.want)
		}
		assert.Equal(t, want, found(r.Findings), "%+v", r)
	}
}

func TestLimitsOfTimes(t *testing.T) {
	for _, c := range []struct {
		sound    string
		ms       int
		takes    int
		trim     Trim
		duration int
		s        span
		want     []string
	}{
		{"m", 120, 1, Trim{200, 800}, 1000, span{}, []string{}},
		{"m", 119, 1, Trim{200, 800}, 1000, span{}, []string{"too-short retake"}},
		{"m", 3000, 1, Trim{200, 800}, 1000, span{}, []string{}},
		{"m", 3001, 1, Trim{200, 800}, 1000, span{}, []string{"too-long retake"}},
		{"t", 450, 1, Trim{200, 800}, 1000, span{}, []string{}},
		{"t", 451, 1, Trim{200, 800}, 1000, span{}, []string{"too-long retake"}},
		{"t", 24, 1, Trim{200, 800}, 1000, span{}, []string{"too-short retake"}},
		{"t", 25, 1, Trim{200, 800}, 1000, span{}, []string{}},
		{"w", 59, 1, Trim{200, 800}, 1000, span{}, []string{"too-short retake"}},
		{"w", 60, 1, Trim{200, 800}, 1000, span{}, []string{}},
		{"m", 300, 2, Trim{200, 800}, 1000, span{}, []string{"several-takes retake"}},
		{"m", 300, 1, Trim{700, 800}, 1500, span{}, []string{}},
		{"m", 300, 1, Trim{701, 800}, 1500, span{}, []string{"silence fix"}},
		{"m", 300, 1, Trim{200, 799}, 1500, span{}, []string{"silence fix"}},
		{"m", 300, 1, Trim{0, 800}, 1500, span{cutStart: true, cutEnd: true}, []string{"cut-off retake"}},
		{"m", 300, 1, Trim{200, 990}, 1000, span{cutEnd: true}, []string{"cut-off retake"}},
	} {
		r := Report{Takes: c.takes, Trim: c.trim, DurationMs: c.duration}
		r.times(aim(c.sound), c.ms, c.s)
		assert.Equal(t, c.want, found(r.Findings), "%+v", c)
	}
	r := Report{Takes: 1, Trim: Trim{100, 740}, DurationMs: 1500}
	r.times(aim("m"), 640, span{cutEnd: true})
	assert.Equal(t, []float64{760, 760}, []float64{r.Findings[0].Value, r.Findings[1].Value}, "both say what is behind")
}

func TestLimitsOfTheVoice(t *testing.T) {
	for _, c := range []struct {
		sound     string
		share, f0 float64
		added     bool
		want      []string
	}{
		{"s", 0.5, 0, false, []string{}},
		{"s", 0.51, 0, false, []string{"voicing retake"}},
		{"m", 0.3, 0, false, []string{}},
		{"m", 0.29, 0, false, []string{"voicing retake"}},
		{"z", 0.2, 0, false, []string{}},
		{"z", 0.19, 0, false, []string{"voicing retake"}},
		{"æ", 0.29, 0, false, []string{"voicing retake"}},
		{"h", 1, 0, false, []string{}},
		{"t", 0.8, 150, false, []string{}},
		{"t", 0.81, 150, false, []string{"not-this-sound info"}},
		{"t", 0.81, 0, false, []string{}},
		{"t", 0.81, 150, true, []string{}},
		{"tʃ", 0.81, 150, false, []string{}},
	} {
		r := Report{VoicedFraction: c.share, F0Hertz: c.f0}
		r.voicing(&analysis{target: aim(c.sound)}, c.added)
		assert.Equal(t, c.want, found(r.Findings), "%+v", c)
	}
	a := &analysis{target: aim("s"), levels: make([]float64, 20), span: span{from: 2, to: 15, peak: 20}}
	a.voice.voiced = make([]bool, 20)
	for i := 8; i < 20; i++ {
		a.voice.voiced[i] = true
	}
	for i := range a.levels {
		a.levels[i] = 10
	}
	a.levels[3] = 20 - 27
	a.levels[4] = 20 - 27.1
	r := Report{AddedVowelMs: 30, VoicedFraction: 1}
	r.voicing(a, true) // frames 2 to 9 but 4: two of seven are voiced
	assert.Empty(t, r.Findings)
	assert.InDelta(t, 2.0/7, a.voicedShare(2, 9), 1e-12)
	assert.InDelta(t, 1, a.voicedShare(8, 40), 1e-12, "within the take")
	assert.Zero(t, a.voicedShare(9, 8))
}

func TestLimitsOfTheBreath(t *testing.T) {
	for _, c := range []struct {
		sound                string
		centre, dark, voiced float64
		want                 []string
	}{
		{"s", 3000, -10, 0, []string{}},
		{"s", 2999, -10, 0, []string{"not-this-sound info"}},
		{"s", 2600, -10, 0, []string{"not-this-sound info"}},
		{"s", 2599, -10, 0, []string{"not-this-sound retake"}},
		{"s", 4000, -9.9, 0.49, []string{"not-this-sound retake"}},
		{"s", 4000, -9.9, 0.5, []string{}},
		{"z", 2999, 0, 0, []string{"not-this-sound info"}},
		{"ʃ", 6000, 3, 0, []string{}},
		{"ʃ", 6001, 3, 0, []string{"not-this-sound info"}},
		{"ʃ", 1899, 3, 0, []string{"not-this-sound retake"}},
		{"ʃ", 1900, 3, 0, []string{"not-this-sound info"}},
		{"f", 2200, 5, 0, []string{}},
		{"f", 2200, 5.1, 0, []string{"not-this-sound retake"}},
		{"θ", 2299, 5, 0, []string{"not-this-sound retake"}},
		{"m", 100, 90, 0, []string{}},
	} {
		r := Report{VoicedFraction: c.voiced, Measures: Measures{CentroidHertz: c.centre, DarkDB: c.dark}}
		r.quality(&analysis{target: aim(c.sound)})
		assert.Equal(t, c.want, found(r.Findings), "%+v", c)
	}
}

func TestLimitsOfAnAddedVowel(t *testing.T) {
	for _, c := range []struct {
		sound string
		ms    int
		score float64
		want  bool
		keeps int
	}{
		{"m", 45, -0.19, true, 45},
		{"m", 44, -0.19, false, 44},
		{"m", 45, -0.2, false, 0},
		{"m", 30, 0.81, true, 30},
		{"m", 29, 0.81, false, 29},
		{"m", 30, 0.8, false, 30},
		{"s", 45, 0, true, 45},
		{"s", 44, 0, false, 44},
		{"b", 75, 0, true, 75},
		{"b", 74, 0, false, 74},
		{"kw", 60, 0, true, 60},
		{"kw", 59, 0, false, 59},
		{"æ", 90, 5, false, 90},
	} {
		r := Report{AddedVowelMs: c.ms, Trim: Trim{100, 600}, Measures: Measures{TurnScore: c.score}}
		assert.Equal(t, c.want, r.addedVowel(aim(c.sound)), "%+v", c)
		assert.Equal(t, c.keeps, r.AddedVowelMs, "%+v", c)
		if c.want {
			assert.Equal(t, 600-c.ms-turningMs, r.Findings[0].FromMs)
			assert.Equal(t, 600, r.Findings[0].ToMs)
			odds := c.score
			if c.score == 0 {
				odds = 0.4
			}
			assert.InDelta(t, 1/(1+math.Exp(-odds)), r.Findings[0].Sure, 0.005, "%+v", c)
		}
	}
	r := Report{AddedVowelMs: 69, Trim: Trim{100, 180}}
	require.True(t, r.addedVowel(aim("s")))
	assert.InDelta(t, 1/(1+math.Exp(-2.4)), r.Findings[0].Sure, 0.005, "24 ms over the limit")
	assert.Equal(t, 100, r.Findings[0].FromMs, "not before the sound")
	assert.Contains(t, vowelWords(0.9), "follows")
	assert.Contains(t, vowelWords(0.89), "seems")
	assert.Contains(t, vowelWords(0.7), "seems")
	assert.Contains(t, vowelWords(0.69), "may be")
}

// tail is a take of 40 frames whose sound goes from 5 to 34 at a peak of -20: loud to 25, then softer.
func tail(nearly ...int) *analysis {
	a := &analysis{target: aim("s"), levels: slices.Repeat([]float64{-80}, 40), span: span{from: 5, to: 34, peak: -20}}
	for i := 5; i <= 34; i++ {
		a.levels[i] = -30
		if i > 25 {
			a.levels[i] = -40
		}
	}
	a.levels[15] = -20
	a.voice.nearly = make([]bool, 40)
	a.voice.voiced = make([]bool, 40)
	for _, i := range nearly {
		a.voice.nearly[i] = true
	}
	return a
}

func TestTheVoicedTail(t *testing.T) {
	run := func(from, to int) (out []int) {
		for i := from; i <= to; i++ {
			out = append(out, i)
		}
		return out
	}
	assert.Zero(t, tail().voicedTail())
	assert.Equal(t, 6*hopMs, tail(run(20, 25)...).voicedTail())
	assert.Equal(t, 9*hopMs, tail(run(20, 28)...).voicedTail(), "what goes on behind the loud part counts")
	assert.Equal(t, 15*hopMs, tail(run(20, 34)...).voicedTail())
	assert.Equal(t, 21*hopMs, tail(run(5, 25)...).voicedTail())
	assert.Equal(t, 6*hopMs, tail(append(run(20, 25), 27)...).voicedTail(), "a gap behind ends it")
	assert.Equal(t, 16*hopMs, tail(append(run(10, 13), run(20, 25)...)...).voicedTail(), "a gap of six frames does not")
	assert.Equal(t, 6*hopMs, tail(append(run(10, 12), run(20, 25)...)...).voicedTail(), "one of seven does")
	assert.Zero(t, tail(run(30, 34)...).voicedTail(), "a murmur")
	a := tail(run(20, 25)...)
	a.levels[26] = -32 // just as loud as loud is: the last loud frame
	assert.Equal(t, 7*hopMs, a.voicedTail())
	a = tail(run(20, 25)...)
	a.levels[22] = -47 // 27 dB under the peak is not heard
	assert.Equal(t, 6*hopMs, a.voicedTail(), "one of the gap")
	a = tail(run(20, 25)...)
	for i := range a.levels {
		if a.levels[i] == -30 {
			a.levels[i] = -32 // 12 dB under: not near enough to the peak
		}
	}
	assert.Zero(t, a.voicedTail())
	a = tail(run(15, 25)...)
	a.span.to = 60 // beyond the take
	assert.Equal(t, 11*hopMs, a.voicedTail())
}

func TestWhatIsMissingOfTwo(t *testing.T) {
	a := tail(18, 19, 20, 21, 22, 23, 24, 25)
	a.target = aim("kw")
	assert.Empty(t, a.secondMissing(), "40 ms of a glide")
	a = tail(19, 20, 21, 22, 23, 24, 25)
	a.target = aim("kw")
	assert.NotEmpty(t, a.secondMissing())
	hiss := func(n int) *analysis {
		a := tail()
		a.target = aim("ks")
		a.frames = make([]frame, 40)
		for i := range n {
			a.frames[10+i].power[6] = 1
		}
		return a
	}
	assert.Empty(t, hiss(8).secondMissing())
	assert.NotEmpty(t, hiss(7).secondMissing())
	a = hiss(8)
	a.voice.voiced[12] = true
	assert.NotEmpty(t, a.secondMissing(), "a voiced frame is no hiss")
	a = hiss(8)
	a.levels[12] = -45
	assert.NotEmpty(t, a.secondMissing(), "25 dB under the peak is not heard")
	a = hiss(8)
	a.frames[12].power[2] = 1
	assert.NotEmpty(t, a.secondMissing(), "mids as strong as highs are no hiss")
	a = hiss(8)
	a.frames[9].power[6] = 1
	a.frames[17].power[6] = 0
	assert.NotEmpty(t, a.secondMissing(), "the first 25 ms are the burst")
	a = hiss(30)
	a.span.to = 90
	assert.Empty(t, a.secondMissing())
	assert.Empty(t, tail().secondMissing(), "a single sound lacks none")
}

func TestFrictionBeforeAVowel(t *testing.T) {
	take := func(plain, faint int) *analysis {
		a := tail()
		a.frames = make([]frame, 60)
		a.levels = make([]float64, 60)
		a.voice.voiced = make([]bool, 60)
		a.span = span{from: 40, to: 55, peak: -20}
		for i := range a.frames {
			a.frames[i].power[6] = 1e-6
		}
		for i := 44; i < 60; i++ {
			a.voice.voiced[i] = true
		}
		for i := range plain {
			a.frames[41-i].power[6] = 1e-5
		}
		for i := range faint {
			a.frames[41-plain-i].power[6] = 2.5e-6
		}
		return a
	}
	assert.True(t, take(6, 0).frictionBefore())
	assert.False(t, take(5, 0).frictionBefore())
	assert.True(t, take(0, 12).frictionBefore())
	assert.False(t, take(0, 11).frictionBefore())
	assert.True(t, take(5, 7).frictionBefore())
	a := take(6, 0)
	a.frames[41].power[6] = 1e-6
	a.frames[42].power[6] = 1e-5
	assert.False(t, a.frictionBefore(), "the last two frames before the voice may be its own")
	a = take(0, 0)
	for i := range 6 {
		a.frames[14+i].power[6] = 1e-5
	}
	assert.True(t, a.frictionBefore(), "150 ms before")
	a.frames[14].power[6], a.frames[13].power[6] = 1e-6, 1e-5
	assert.False(t, a.frictionBefore())
	a = take(6, 0)
	for i := range a.voice.voiced {
		a.voice.voiced[i] = false
	}
	assert.True(t, a.frictionBefore(), "before the end of the sound where no voice comes")
}

func TestTheVowelAfterABurst(t *testing.T) {
	take := func(sound string) *analysis {
		a := tail()
		a.target = aim(sound)
		a.frames = make([]frame, 40)
		for i := range a.frames {
			a.voice.nearly[i] = true
			a.frames[i].power = [bandCount]float64{1e-6, 1e-6, 1e-9, 1e-9, 1e-9, 1e-10, 1e-10, 1e-10}
		}
		for i := 15; i <= 34; i++ { // the burst at 15, then a vowel
			a.frames[i].power = [bandCount]float64{1e-5, 1e-5, 1e-5, 1e-6, 1e-6, 1e-7, 1e-7, 1e-7}
		}
		return a
	}
	assert.Equal(t, 20*hopMs, take("b").vowelAfterBurst())
	a := take("b")
	a.voice.nearly[20] = false
	assert.Equal(t, 19*hopMs, a.vowelAfterBurst(), "voice is asked for")
	a = take("b")
	a.frames[20].power[2], a.frames[20].power[3], a.frames[20].power[4] = 1e-7, 1e-8, 1e-8
	assert.Equal(t, 19*hopMs, a.vowelAfterBurst(), "mids 20 dB under the most are no vowel")
	a = take("b")
	a.frames[20].power[0] = 1e-2
	assert.Equal(t, 19*hopMs, a.vowelAfterBurst(), "lows 27 dB over the mids are a murmur")
	a = take("b")
	for i := 15; i <= 34; i++ {
		a.frames[i].power[5] = 1e-5
	}
	assert.Equal(t, 20*hopMs, a.vowelAfterBurst())
	a.target = aim("dʒ")
	assert.Zero(t, a.vowelAfterBurst(), "highs as strong as the mids are its friction")
	a = take("b")
	for i := 8; i < 15; i++ { // a murmur with mids 12 dB under its lows, before the burst
		a.frames[i].power = [bandCount]float64{1e-5, 1e-5, 1e-6, 1e-7, 1e-7, 1e-10, 1e-10, 1e-10}
	}
	a.frames[15].power[6] = 1e-4
	assert.Equal(t, 20*hopMs, a.vowelAfterBurst())
	a.span.to = 80
	assert.Equal(t, 20*hopMs, a.vowelAfterBurst(), "to the end of the take")
}

func TestWordsForKappa(t *testing.T) {
	for kappa, word := range map[float64]string{
		-0.1: "poor", 0: "poor", 0.01: "slight", 0.2: "slight", 0.21: "fair", 0.4: "fair", 0.41: "moderate", 0.6: "moderate",
		0.61: "substantial", 0.8: "substantial", 0.81: "almost perfect",
	} {
		assert.Equal(t, word, kappaWord(kappa), kappa)
	}
}
