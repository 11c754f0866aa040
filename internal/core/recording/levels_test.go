package recording

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// flat are levels of so many frames each, in turn: n, dB, n, dB ...
func flat(parts ...float64) (out []float64) {
	for i := 0; i < len(parts); i += 2 {
		out = append(out, slices.Repeat([]float64{parts[i+1]}, int(parts[i]))...)
	}
	return out
}

func TestWhereASoundIs(t *testing.T) {
	said := func(parts ...float64) []float64 { return slices.Concat(flat(60, -70), flat(parts...), flat(60, -70)) }
	for name, c := range map[string]struct {
		levels   []float64
		from, to int
		attempts int
		start    bool
		end      bool
	}{
		"a sound in silence":              {said(20, -21, 20, -20), 63, 97, 1, false, false},
		"a weak start is kept":            {said(10, -60, 20, -21, 20, -20), 63, 107, 1, false, false},
		"43 dB under the peak is a start": {said(10, -63, 20, -21, 20, -20), 63, 107, 1, false, false},
		"one less is none":                {said(10, -63.1, 20, -21, 20, -20), 73, 107, 1, false, false},
		"30 dB under the peak is its end": {said(20, -21, 20, -20, 10, -50), 63, 107, 1, false, false},
		"less is none":                    {said(20, -21, 20, -20, 10, -50.1), 63, 97, 1, false, false},
		"a hole of one frame is bridged": {
			said(5, -60, 1, -66, 5, -60, 20, -21, 20, -20), 63, 108, 1, false, false,
		},
		"one of two is not":                {said(5, -60, 2, -66, 5, -60, 20, -21, 20, -20), 70, 109, 1, false, false},
		"two attempts":                     {said(20, -21, 20, -20, 50, -70, 40, -22), 63, 187, 2, false, false},
		"a gap of 200 ms is none":          {said(20, -21, 20, -20, 39, -70, 40, -22), 63, 176, 1, false, false},
		"one of 205 ms is two":             {said(20, -21, 20, -20, 40, -70, 40, -22), 63, 177, 2, false, false},
		"no fall between: one that swells": {said(20, -21, 20, -20, 50, -50, 40, -22), 63, 187, 1, false, false},
		"a soft click is none":             {said(3, -40, 50, -70, 20, -21, 20, -20), 116, 150, 1, false, false},
		"20 ms of it are one":              {said(5, -34, 50, -70, 20, -21, 20, -20), 63, 152, 2, false, false},
		"from the first frame":             {flat(20, -21, 20, -20, 90, -70), 3, 37, 1, true, false},
		"to the last frame":                {flat(90, -70, 20, -21, 20, -20), 93, 127, 1, false, true},
		"no pause at all":                  {flat(40, -25, 20, -21, 20, -20, 40, -28), 0, 119, 1, true, true},
		"9 dB are a pause":                 {flat(40, -30, 40, -21, 40, -30), 40, 77, 1, false, false},
		"little silence":                   {flat(6, -70, 100, -30, 20, -20), 9, 123, 1, false, true},
	} {
		s := findSound(c.levels)
		got := []any{s.from, s.to, s.attempts, s.cutStart, s.cutEnd}
		assert.Equal(t, []any{c.from, c.to, c.attempts, c.start, c.end}, got, name)
	}
	s := findSound(flat(60, -70, 40, -20, 60, -70))
	assert.InDelta(t, 50, s.snr, 1e-6)
	assert.InDelta(t, -20, s.peak, 1e-9)
	assert.InDelta(t, -70, s.floor, 1e-9)
	assert.Equal(t, [][2]int{{60, 99}}, s.runs)
}

func TestWhatIsAroundASound(t *testing.T) {
	levels := flat(45, -60, 5, -50, 40, -20, 60, -70)
	runs := [][2]int{{50, 89}}
	assert.InDelta(t, -60, around(levels, runs, 60), 1e-9, "20 frames before it at -60, 31 after it at -70")
	assert.InDelta(t, -60, around(flat(60, -60, 40, -20, 40, -70), [][2]int{{60, 99}}, 70), 1e-9)
	assert.InDelta(
		t,
		floorDB,
		around(flat(40, -60, 40, -20, 58, -70), [][2]int{{40, 79}}, 50),
		1e-9,
		"39 frames are too few",
	)
	assert.InDelta(t, -60, around(flat(40, -60, 40, -20, 59, -60), [][2]int{{40, 79}}, 50), 1e-9, "40 are enough")
	assert.InDelta(t, -60, around(flat(60, -60, 40, -20, 40, -60), nil, 70), 1e-9, "without a run from the loudest on")
	assert.InDelta(t, -60, around(flat(60, -60, 40, -20, 60, -60), [][2]int{{0, 3}, {60, 99}, {110, 120}}, 60), 1e-9)
}

func TestLevelsInTheMean(t *testing.T) {
	all := func(int, float64) bool { return true }
	assert.InDelta(t, -20, meanLevel(flat(5, -20), all), 1e-9)
	assert.InDelta(t, -23.0103+0.4139, meanLevel([]float64{-20, -30}, all), 1e-3, "the mean of the powers: 0.0055")
	assert.InDelta(t, floorDB, meanLevel(nil, all), 1e-9)
	assert.InDelta(t, floorDB, meanLevel([]float64{-500}, all), 1e-9)
	assert.Equal(t, [][2]int{{1, 9}}, swelling(flat(20, -30), [][2]int{{1, 4}, {6, 9}}, -31))
	assert.Equal(t, [][2]int{{1, 4}, {6, 9}}, swelling(flat(20, -30), [][2]int{{1, 4}, {6, 9}}, -30), "down to quiet")
}

func TestSwells(t *testing.T) {
	wave := func(n int, top, low float64) []float64 {
		var out []float64
		for range n {
			out = append(out, flat(20, low, 20, top)...)
		}
		return append(out, flat(20, low)...)
	}
	count := func(levels []float64, peak float64) int {
		return swells(levels, span{runs: [][2]int{{0, len(levels) - 1}}, peak: peak})
	}
	assert.Equal(t, 5, count(wave(5, -20, -30), -20))
	assert.Zero(t, count(wave(5, -20, -27), -20), "7 dB are no fall")
	assert.Equal(t, 5, count(wave(5, -20, -27.1), -20))
	assert.Zero(t, count(wave(5, -40, -50), -20), "20 dB under the peak")
	assert.Equal(t, 5, count(wave(5, -39, -50), -20))
	assert.Equal(t, 5, swells(wave(5, -20, -30), span{peak: -20}), "without runs over all of it")
	both := span{runs: [][2]int{{0, 40}}, peak: -20, cutStart: true, cutEnd: true}
	assert.Equal(t, 5, swells(wave(5, -20, -30), both))
	both.cutEnd = false
	assert.Equal(t, 0, swells(wave(5, -20, -30), both), "in its run alone")
	two := span{runs: [][2]int{{0, 99}, {100, 219}}, peak: -20}
	assert.Equal(t, 3, swells(wave(5, -20, -30), two), "the most of one run")
}

func TestTheWordInARoom(t *testing.T) {
	s := wordIn(flat(220, -70, 40, -20, 200, -70))
	assert.Equal(t, []int{220, 259}, []int{s.from, s.to})
	s = wordIn(flat(220, -70, 5, -49, 40, -20, 200, -70))
	assert.Equal(t, 220, s.from, "30 dB under the peak belongs to it")
	s = wordIn(flat(220, -70, 5, -51, 40, -20, 200, -70))
	assert.Equal(t, 225, s.from)
	s = wordIn(flat(220, -70, 5, -30, 29, -70, 40, -20, 29, -70, 5, -30, 200, -70))
	assert.Equal(t, []int{220, 327}, []int{s.from, s.to}, "pauses of 145 ms are inside a word")
	s = wordIn(flat(220, -70, 5, -30, 30, -70, 40, -20, 30, -70, 5, -30, 200, -70))
	assert.Equal(t, []int{255, 294}, []int{s.from, s.to}, "150 ms are not")
	s = wordIn(flat(220, -42, 40, -20, 200, -80))
	assert.Equal(t, []int{220, 259}, []int{s.from, s.to}, "noise before it that a gain takes away is no part of it")
	s = wordIn(flat(220, -40, 40, -20, 200, -80))
	assert.Equal(t, []int{0, 259}, []int{s.from, s.to}, "within 20 dB of the peak it is")

	assert.InDelta(t, 10, swell(flat(50, -70, 50, -60)), 1e-6)
	assert.Zero(t, swell(flat(49, -70)), "no quarter of a second")
	assert.Zero(t, swell(flat(50, -70, 49, -50)), "one")
	assert.Len(t, stretches(flat(100, -70)), 2)
	assert.InDelta(t, 20, pump(flat(50, -70), flat(50, -90, 50, -70)), 1e-6, "it rises again")
	assert.InDelta(t, 20, pump(flat(50, -70), flat(50, -80, 50, -90)), 1e-6, "or stays away")
	assert.Zero(t, pump(flat(50, -70), flat(99, -90)), "one stretch tells nothing")
	assert.Zero(t, pump(flat(50, -70), flat(50, -60, 50, -70)), "an echo falls")
}

// Each limit of a room from both sides.
func TestLimitsOfARoom(t *testing.T) {
	good := RoomReport{
		NoiseDBFS: -70, SNRDecibels: 50, PeakDBFS: -10, BandHertz: 20_000, Findings: []Finding{},
	}
	for _, c := range []struct {
		change  func(r *RoomReport)
		clipped int
		tail    float64
		want    []string
	}{
		{func(*RoomReport) {}, 2, 0, []string{}},
		{func(*RoomReport) {}, 3, 0, []string{"clipped retake"}},
		{func(r *RoomReport) { r.PeakDBFS = -0.2 }, 0, 0, []string{"margin fix"}},
		{func(r *RoomReport) { r.PeakDBFS = -0.1 }, 0, 0, []string{"clipped retake"}},
		{func(r *RoomReport) { r.PeakDBFS = -closeMargin }, 0, 0, []string{}},
		{func(r *RoomReport) { r.PeakDBFS = -2.9 }, 0, 0, []string{"margin fix"}},
		{func(r *RoomReport) { r.PeakDBFS = softPeak }, 0, 0, []string{}},
		{func(r *RoomReport) { r.PeakDBFS = -24.1 }, 0, 0, []string{"quiet fix"}},
		{func(r *RoomReport) { r.PeakDBFS = faintPeak }, 0, 0, []string{"quiet fix"}},
		{func(r *RoomReport) { r.PeakDBFS = -36.1 }, 0, 0, []string{"quiet retake"}},
		{func(r *RoomReport) { r.SNRDecibels = noisySNR }, 0, 0, []string{"noisy fix"}},
		{func(r *RoomReport) { r.SNRDecibels = 23.9 }, 0, 0, []string{"noisy retake"}},
		{func(r *RoomReport) { r.SNRDecibels = goodSNR }, 0, 0, []string{}},
		{func(r *RoomReport) { r.SNRDecibels = 33.9 }, 0, 0, []string{"noisy fix"}},
		{func(r *RoomReport) { r.SwellDB, r.SNRDecibels = 8.1, 43.9 }, 0, 0, []string{"swelling fix"}},
		{func(r *RoomReport) { r.SwellDB, r.SNRDecibels = 8, 43.9 }, 0, 0, []string{}},
		{func(r *RoomReport) { r.SwellDB, r.SNRDecibels = 8.1, 44 }, 0, 0, []string{}},
		{func(r *RoomReport) { r.MainsHumDB = humDB }, 0, 0, []string{}},
		{func(r *RoomReport) { r.MainsHumDB = 12.1 }, 0, 0, []string{"hum fix"}},
		{func(r *RoomReport) { r.BandHertz = headsetHertz }, 0, 0, []string{}},
		{func(r *RoomReport) { r.BandHertz = 8999 }, 0, 0, []string{"narrow-band fix"}},
		{func(r *RoomReport) { r.BandHertz = telephoneHertz }, 0, 0, []string{"narrow-band fix"}},
		{func(r *RoomReport) { r.BandHertz = 4499 }, 0, 0, []string{"narrow-band retake"}},
		{func(r *RoomReport) { r.EchoMs = 451 }, 0, -31, []string{"echo fix"}},
		{func(r *RoomReport) { r.EchoMs = 450 }, 0, -31, []string{}},
		{func(r *RoomReport) { r.EchoMs = 451 }, 0, loudEchoDB, []string{}},
		{func(r *RoomReport) { r.PumpDB = pumpLimit }, 0, 0, []string{}},
		{func(r *RoomReport) { r.PumpDB = 6.1 }, 0, 0, []string{"pumping fix"}},
	} {
		r := good
		r.Findings = []Finding{}
		c.change(&r)
		r.judge(c.clipped, c.tail)
		assert.Equal(t, c.want, found(r.Findings), "%+v", r)
		again := slices.ContainsFunc(c.want, func(s string) bool { return s[len(s)-6:] == "retake" })
		assert.Equal(t, !again, r.Ready, "%+v", r)
	}
}

// Samples of known values: offsets, broken numbers, flat tops, clicks.
func TestWhatSamplesSay(t *testing.T) {
	s := newSignal(Clip{Hertz: 1000, Samples: []float64{0.3, 0.1, 0.3, 0.1}})
	assert.InDelta(t, 0.2, s.mean, 1e-12)
	assert.InDelta(t, 0.1, s.peak, 1e-12)
	assert.InDelta(t, 8, newSignal(Clip{Hertz: 1, Samples: []float64{8}}).mean, 1e-12)
	s = newSignal(Clip{Hertz: 1000, Samples: []float64{9, -9, 9, -9}})
	assert.Equal(t, []float64{8, -8, 8, -8}, s.samples)

	wave := func(tops ...float64) signal {
		out := []float64{}
		for range 10 {
			out = append(out, 0.1, 0.3, 0.1, -0.1, -0.3, -0.1)
		}
		return newSignal(Clip{Hertz: 1000, Samples: append(out, tops...)})
	}
	assert.Equal(t, 5, wave(0.9, 0.9, 0.9, 0.9, 0.9, -0.4, -0.4, -0.4, -0.4, -0.4).clipped())
	assert.Zero(t, wave(0.9, 0.9, 0.9, 0.9, -0.4, -0.4, -0.4, -0.4).clipped(), "one round top of four")
	assert.Equal(t, 6, wave(0.9, 0.9, 0.9, 0.1, 0.9, 0.9, 0.9, -0.5, -0.5, -0.5, -0.5, -0.5, -0.4, -0.4, -0.4).clipped())
	assert.Zero(t, wave(0.9, 0.9, 0.1, 0.9, 0.9, -0.9, -0.9, 0.1, -0.9, -0.9).clipped(), "two are no run")
	assert.Zero(
		t,
		wave(0.9, 0.898, 0.9, 0.898, 0.9, -0.45, -0.45, -0.45, -0.45).clipped(),
		"they are not the same to a hair",
	)
	quiet := newSignal(
		Clip{Hertz: 1000, Samples: []float64{0.19, 0.19, 0.19, 0.19, 0.19, -0.19, -0.19, -0.19, -0.19, -0.19}},
	)
	assert.Zero(t, quiet.clipped(), "too soft to be clipped")
	assert.Zero(t, quiet.clippedHiss())
	loud := func(n int, v float64) signal {
		out := append([]float64{0.1, -0.1}, slices.Repeat([]float64{v, 0.02}, n)...)
		return newSignal(Clip{Hertz: 1000, Samples: out})
	}
	assert.Equal(t, 8, loud(8, 0.7).clippedHiss())
	assert.Equal(t, 8, loud(8, -0.7).clippedHiss())
	assert.Zero(t, loud(7, 0.7).clippedHiss())

	click := make([]float64, 1000)
	click[500] = 1
	assert.InDelta(t, 1, newSignal(Clip{Hertz: 1000, Samples: click}).clickShare(), 0.01)
	click[503], click[497] = 0.9, -0.9 // outside of 4 ms
	assert.InDelta(t, 1/2.62, newSignal(Clip{Hertz: 1000, Samples: click}).clickShare(), 0.01)
	click[503], click[497], click[502], click[498] = 0, 0, 0.9, -0.9
	assert.InDelta(t, 1, newSignal(Clip{Hertz: 1000, Samples: click}).clickShare(), 0.01)
	assert.InDelta(t, floorDB, decibels(0), 1e-9)
	assert.InDelta(t, -6.0206, decibels(0.5), 1e-3)
	p := newSignal(Clip{Hertz: 1000, Samples: click}).part(Trim{490, 510})
	assert.Len(t, p.samples, 20)
}

func TestAgain(t *testing.T) {
	e := Evenness{LoudnessLUFS: -23, Takes: 5, Voices: []Voice{{"Ida", 3}, {"Odo", 2}}}
	k := MeasuredTake{Card: "c", Speaker: "Ida", LUFS: -23, SNR: 40, Floor: -70}
	for _, c := range []struct {
		change func(k *MeasuredTake)
		rank   float64
	}{
		{func(*MeasuredTake) {}, 0},
		{func(k *MeasuredTake) { k.Verdict = Retake }, 1000},
		{func(k *MeasuredTake) { k.SNR = noisySNR }, 0},
		{func(k *MeasuredTake) { k.SNR = 20 }, 480},
		{func(k *MeasuredTake) { k.Floor = -58 }, 0},
		{func(k *MeasuredTake) { k.Gain = 12 }, 0},
		{func(k *MeasuredTake) { k.Gain = 13 }, 313},
		{func(k *MeasuredTake) { k.LUFS = -21 }, 0},
		{func(k *MeasuredTake) { k.LUFS = -20 }, 203},
		{func(k *MeasuredTake) { k.LUFS, k.Plain = -26, true }, 203},
		{func(k *MeasuredTake) { k.LUFS, k.Plain = -25, true }, 0},
		{func(k *MeasuredTake) { k.Speaker = "Odo" }, 100},
	} {
		k := k
		c.change(&k)
		assert.InDelta(t, c.rank, k.again(e, -70).rank, 1e-9, "%+v", k)
	}
	e.Voices, e.Takes = []Voice{{"Ida", 3}, {"Odo", 3}}, 6
	k.Speaker = "Odo"
	assert.Zero(t, k.again(e, -70).rank, "half of them are theirs")
	assert.Equal(t, "3 LU louder than the others", loudness(3))
	assert.Equal(t, "3 LU softer than the others", loudness(-3))
	assert.InDelta(t, 4, spread([]float64{1, 5, 2}), 1e-12)
}
