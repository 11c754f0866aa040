package recording

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestAVoiceGoesOnBesideItself(t *testing.T) {
	voiced := []bool{false, false, false, true, false, false, false, false}
	strength := []float64{0.9, 0.49, 0.5, 0.9, 0.5, 0.6, 0.49, 0.9}
	assert.Equal(t, []bool{false, false, true, true, true, true, false, false}, spreadVoice(voiced, strength))
	assert.Equal(t, []bool{false, false, false, true, true, false}, spreadVoice(
		[]bool{false, false, false, false, true, false}, []float64{1, 1, 0.4, 0.5, 1, 0.4}))
	assert.Equal(t, []bool{true, true, true}, spreadVoice([]bool{false, true, false}, []float64{0.5, 1, 0.5}))
}

func TestWhatIsQuietAroundASound(t *testing.T) {
	s := span{from: 60, to: 99, floor: -70, peak: -20}
	from, to := s.quiet(flat(60, -70, 40, -20, 60, -70))
	assert.Equal(t, []int{59, 100}, []int{from, to})
	from, to = s.quiet(flat(50, -70, 10, -59, 40, -20, 10, -59, 50, -70))
	assert.Equal(t, []int{49, 110}, []int{from, to}, "its weak tail belongs to it")
	from, to = s.quiet(flat(50, -70, 10, -60, 40, -20, 10, -60, 50, -70))
	assert.Equal(t, []int{59, 100}, []int{from, to}, "10 dB over the floor is quiet")
	from, to = s.quiet(flat(160, -20))
	assert.Equal(t, []int{0, 159}, []int{from, to})
	s.floor = -90
	from, _ = s.quiet(flat(50, -90, 10, -65, 40, -20, 60, -90))
	assert.Equal(t, 59, from, "45 dB under the peak is quiet")
	from, _ = s.quiet(flat(50, -90, 10, -64, 40, -20, 60, -90))
	assert.Equal(t, 49, from)
}

// quietTake is a hum of so many frames for the turns, all alike but for its end.
func quietTake(frames int) *analysis {
	a := &analysis{target: aim("m"), span: span{from: 10, to: 10 + frames, peak: -20}}
	n := 40 + frames
	a.levels, a.frames, a.voice.strength = make([]float64, n), make([]frame, n), make([]float64, n)
	for i := range n {
		a.levels[i], a.voice.strength[i] = -20, 0.9
		for b := range a.frames[i].power {
			a.frames[i].power[b] = 1e-4
		}
	}
	return a
}

func TestWhereATurnMayBe(t *testing.T) {
	assert.Nil(t, quietTake(22).turns(), "22 frames leave no room for both sides")
	assert.Len(t, quietTake(23).turns(), 1)
	assert.Len(t, quietTake(40).turns(), 18)
	list := quietTake(40).turns()
	assert.Equal(t, 24, list[0].At)
	assert.Equal(t, 41, list[len(list)-1].At)
	assert.InDelta(t, 26.0/60, list[0].Features[10], 1e-9, "what is left, of 300 ms")
	assert.InDelta(t, 1, quietTake(90).turns()[0].Features[10], 1e-9)
	a := quietTake(40)
	for i := 30; i < len(a.levels); i++ {
		a.voice.strength[i] = 0.49
	}
	assert.Len(t, a.turns(), 4, "no turn into what has no voice")
	assert.Zero(t, quietTake(20).bestTurn().At)
	a = quietTake(60)
	for i := 50; i < len(a.frames); i++ { // the mids open at 50
		for b := 2; b < bandCount; b++ {
			a.frames[i].power[b] = 1e-2
		}
	}
	assert.InDelta(t, 50, a.bestTurn().At, 6)
	assert.InDelta(t, 3, clampDB(40), 1e-12)
	assert.InDelta(t, -3, clampDB(-40), 1e-12)
	assert.InDelta(t, 1.2, clampDB(12), 1e-12)
}

func TestHowFarAVowelIs(t *testing.T) {
	assert.InDelta(t, 0, apart([]float64{500, 1500}, 500, 1500, 1), 1e-9)
	assert.InDelta(
		t,
		math.Hypot(bark(500)-bark(450), bark(1500)-bark(1400)),
		apart([]float64{450, 1400}, 500, 1500, 1),
		1e-9,
	)
	assert.InDelta(t, 0, apart([]float64{700}, 600, 800, 1), 1e-9, "two that are near are heard as one between them")
	assert.InDelta(t, 0, stray([]float64{2101}, []float64{500}, 1), 1e-9, "the third formant is none of them")
	assert.InDelta(t, 0.6*(bark(2000)-bark(500)-1.2), stray([]float64{2000}, []float64{500}, 1), 1e-9)
	assert.InDelta(
		t,
		0.6*(bark(2200)-bark(500)-1.2),
		stray([]float64{2200}, []float64{500}, 1.1),
		1e-9,
		"of a smaller head",
	)
	assert.Zero(t, stray([]float64{600}, []float64{500}, 1), "as near as 1.2 Bark is no stray")
	// H. Traunmüller, Analytical expressions for the tonotopic sensory scale, 1990: 26.81 f / (1960 + f) - 0.53.
	assert.InDelta(t, 8.527, bark(1000), 0.001)
	a := quietTake(11)
	assert.Zero(t, (&analysis{target: aim("æ"), span: a.span}).vowelDistance(), "too short to tell")
	assert.Zero(t, median(nil))
	assert.InDelta(t, 2, median([]float64{3, 1, 2}), 1e-12)
}

func TestWhatIsMeasuredOfTheMiddle(t *testing.T) {
	a := quietTake(10)
	a.levels = flat(10, -60, 2, -33, 2, -22, 3, -20, 2, -23, 2, -31, 30, -60)
	for i := range a.frames {
		a.frames[i].centroid = float64(1000 + i)
	}
	a.low = make([]float64, 4000)
	r := Report{}
	r.measure(a)
	assert.Equal(t, 10, r.Measures.AttackMs, "the first frame within 3 dB of the peak is the third")
	assert.Equal(t, 20, r.Measures.ReleaseMs)
	assert.InDelta(t, 1016, r.Measures.CentroidHertz, 1e-9, "of the frames within 12 dB")
	assert.Equal(t, 1e-14, math.Pow(10, (&frame{}).between(0, 3)/10))
}

func TestBandsOfASpectrum(t *testing.T) {
	assert.Equal(t, -1, hertzToMel(79))
	assert.Equal(t, 0, hertzToMel(80))
	assert.Equal(t, melCount-1, hertzToMel(7599))
	assert.Equal(t, -1, hertzToMel(7600))
	for _, hz := range []float64{200, 600, 1200, 2400, 3600, 5000, 7000} {
		mono := make([]float64, 1600)
		for i := range mono {
			mono[i] = math.Sin(2 * math.Pi * hz * float64(i) / analysisHertz)
		}
		f := frames(mono, 16, span{from: 4, to: 10})[8]
		band := slices.Index(f.power[:], slices.Max(f.power[:]))
		assert.True(t, bandEdges[band] <= hz && hz < bandEdges[band+1], "%v Hz in band %d", hz, band)
		if hz >= 1200 {
			assert.InDelta(t, hz, f.centroid, 12, "%v Hz", hz)
		}
		top := slices.Index(f.mel[:], slices.Max(f.mel[:]))
		assert.InDelta(t, hertzToMel(hz), top, 1, "%v Hz", hz)
	}
	assert.InDelta(t, 0.5, rumbleLoss(rumbleHertz), 1e-12)
	assert.InDelta(t, 1/(1+math.Pow(0.5, 8)), rumbleLoss(120), 1e-12)
	one := make([]float64, 100)
	weights := slices.Repeat([]float64{1}, 100)
	for i := range one {
		one[i] = math.Sin(2 * math.Pi * 0.1 * float64(i))
	}
	assert.Greater(t, goertzel(one, weights, 0.1), 50*goertzel(one, weights, 0.15))
}

func TestACorrelation(t *testing.T) {
	in := make([]float64, 400)
	energy := make([]float64, 401)
	for i := range in {
		in[i] = math.Sin(2 * math.Pi * float64(i) / 40)
		energy[i+1] = energy[i] + in[i]*in[i]
	}
	assert.InDelta(t, 1, correlation(in, energy, 100, 160, 40), 1e-9)
	assert.InDelta(t, -1, correlation(in, energy, 100, 160, 20), 1e-9)
	assert.InDelta(t, 1, correlation(in, energy, 0, 160, 80), 1e-9, "only what has something before it")
	assert.Zero(t, correlation(in, energy, 0, 160, 81), "less than half a window")
	assert.InDelta(t, 1, correlation(in, energy, 320, 160, 40), 1e-9)
	assert.Zero(t, correlation(in, energy, 321, 160, 40))
	assert.Zero(t, correlation(make([]float64, 400), make([]float64, 401), 100, 160, 40))
}
