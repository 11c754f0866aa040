package recording

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/floats"
)

type voiceTrack struct {
	voiced   []bool    // by frame, whole take
	nearly   []bool    // voiced, or beside it and nearly so: a voice that falls or breathes
	strength []float64 // of the correlation, 0 where it was not looked for
	fraction float64
	f0       float64 // median of the voiced frames, Hz
}

// trackVoice calls a frame voiced where its normalised cross-correlation peaks above 0.66 for a lag between
// 75 and 500 Hz (after D. Talkin, "A robust algorithm for pitch tracking (RAPT)", 1995, without its
// dynamic programming) on audio limited to about 2 kHz, and its level is within 27 dB of the loudest.
// A voice that lies more than 20 dB under the rest of the frame is not heard and does not count.
func (a *analysis) trackVoice() (t voiceTrack) {
	const rate = lowHertz
	levels, s, low := a.levels, a.span, a.low
	t = voiceTrack{voiced: make([]bool, len(levels))}
	t.strength = make([]float64, len(levels))
	defer func() { t.nearly = spreadVoice(t.voiced, t.strength) }()
	const least, most, window = rate / 500, rate / 75, rate * 40 / 1000
	const nearlyAsGood = 0.94
	var f0s []float64
	counted := 0
	energy := make([]float64, len(low)+1) // of all before
	floats.CumSum(energy[1:], floats.MulTo(make([]float64, len(low)), low, low))
	for i := s.from; i <= s.to && i < len(levels); i++ {
		if levels[i] < s.peak-27 {
			continue
		}
		counted++
		if f := &a.frames[i]; f.between(0, 2) < f.between(0, bandCount-1)-20 {
			continue
		}
		centre := (i*hopLen + frameLen/2) * rate / analysisHertz
		from := centre - window/2
		best := 0.0
		var values [most + 2]float64
		for l := least; l <= most; l++ {
			values[l] = correlation(low, energy, from, window, l)
			best = max(best, values[l])
		}
		t.strength[i] = best
		if best < 0.66 {
			continue
		}
		// The shortest period that explains the frame nearly as well as the best: twice the period always fits too.
		// Peaks are compared at their tops between the samples.
		lag, top := 0.0, 0.0
		for pass := range 2 {
			for l := least + 1; l < most; l++ {
				a, b, c := values[l-1], values[l], values[l+1]
				if b < a || b < c {
					continue
				}
				at := 0.0
				if d := a - 2*b + c; d != 0 {
					at = 0.5 * (a - c) / d
				}
				height := b - 0.25*(a-c)*at
				if pass == 0 {
					top = max(top, height)
				} else if height >= nearlyAsGood*top {
					lag = float64(l) + at
					break
				}
			}
		}
		if lag == 0 {
			continue
		}
		t.voiced[i] = true
		f0s = append(f0s, rate/lag)
	}
	if counted > 0 {
		t.fraction = float64(len(f0s)) / float64(counted)
	}
	if len(f0s) > 0 {
		slices.Sort(f0s)
		t.f0 = f0s[len(f0s)/2]
	}
	return t
}

// spreadVoice adds to the voiced frames their neighbours of at least half a correlation, for the length of a vowel
// only.
func spreadVoice(voiced []bool, strength []float64) []bool {
	const nearly = 0.5
	out := slices.Clone(voiced)
	for i := 1; i < len(out); i++ {
		out[i] = out[i] || out[i-1] && strength[i] >= nearly
	}
	for i := len(out) - 2; i >= 0; i-- {
		out[i] = out[i] || out[i+1] && strength[i] >= nearly
	}
	return out
}

// correlation of a stretch with the one that lies lag before it, normalised; energy are the running sums of
// the squares.
func correlation(in, energy []float64, from, window, lag int) float64 {
	lo, hi := max(from, lag), min(from+window, len(in))
	if hi-lo < window/2 {
		return 0
	}
	xy := floats.Dot(in[lo:hi], in[lo-lag:hi-lag])
	norm := (energy[hi] - energy[lo]) * (energy[hi-lag] - energy[lo-lag])
	if norm <= 0 {
		return 0
	}
	return xy / math.Sqrt(norm)
}

// voicedShare is the share of voiced frames among the loud ones from lo to hi.
func (a *analysis) voicedShare(lo, hi int) float64 {
	voiced, n := 0, 0
	for i := lo; i <= hi && i < len(a.levels); i++ {
		if a.levels[i] < a.span.peak-27 {
			continue
		}
		n++
		if a.voice.voiced[i] {
			voiced++
		}
	}
	if n == 0 {
		return 0
	}
	return float64(voiced) / float64(n)
}
