package recording

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/floats"
)

// signal is a take as it is measured: its samples, and the mean that is taken off them. The samples are the take's own
// unless some of them are no numbers; nothing writes to them.
type signal struct {
	samples []float64
	hertz   int
	mean    float64
	peak    float64 // the largest distance from the mean
}

// farthest is what a sample may be at most; more is a broken file.
const farthest = 8

func newSignal(take Clip) signal {
	s := signal{samples: take.Samples, hertz: take.Hertz}
	copied := false
	for i, v := range s.samples {
		if math.Abs(v) <= farthest { // not true of what is no number
			s.mean += v
			continue
		}
		if !copied {
			s.samples, copied = slices.Clone(s.samples), true
		}
		if math.IsNaN(v) || math.IsInf(v, 0) {
			v = 0
		}
		s.samples[i] = max(-farthest, min(farthest, v))
		s.mean += s.samples[i]
	}
	s.mean /= float64(max(1, len(s.samples)))
	for _, v := range s.samples {
		s.peak = max(s.peak, math.Abs(v-s.mean))
	}
	return s
}

// part is the signal between two moments.
func (s signal) part(t Trim) signal {
	n := len(s.samples)
	s.samples = s.samples[clampIndex(t.StartMs*s.hertz/1000, n):clampIndex(t.EndMs*s.hertz/1000, n)]
	return s
}

func (s signal) loudness() float64 {
	lufs, _ := loudnessFrom(s.samples, s.hertz, s.mean)
	return lufs
}

// heard passes the signal through the rumble filter, hop by hop: the RMS levels in dBFS of 25 ms frames every 5 ms over
// the whole band, and what is left at another rate. With a rate of 0 only the levels are worked out.
func (s signal) heard(rate int) (levels, mono []float64) {
	const hops = frameMs / hopMs
	in, hertz := s.samples, float64(s.hertz)
	n := max(1, int((float64(len(in))/hertz-frameSeconds)/hopSeconds)+1)
	edge := func(i int) int { return min(int(float64(i)*hopSeconds*hertz), len(in)) }
	sums := make([]float64, n+hops)
	filter := newRumble(in, s.hertz)
	var r *resampler
	switch rate {
	case 0:
	case s.hertz:
		mono = make([]float64, 0, len(in))
	default:
		r = newResampler(s.hertz, rate, len(in))
	}
	block := make([]float64, 0, edge(1)+2)
	for i := 0; ; i++ {
		from, to := edge(i), edge(i+1)
		if i >= n+hops && (rate == 0 || from >= len(in)) {
			break
		}
		block = block[:to-from]
		for k, v := range in[from:to] {
			block[k] = filter.step(v)
		}
		if i < len(sums) {
			sums[i] = floats.Dot(block, block)
		}
		switch {
		case r != nil:
			r.write(block)
		case rate > 0:
			mono = append(mono, block...)
		}
	}
	levels = make([]float64, n)
	for i := range levels {
		levels[i] = floorDB
		if length := edge(i+hops) - edge(i); length > 0 {
			levels[i] = decibels(math.Sqrt(floats.Sum(sums[i:i+hops]) / float64(length)))
		}
	}
	if r != nil {
		mono = r.close()
	}
	return levels, mono
}

// rumbleHertz is where what is no sound of a mouth ends: offsets, steps, breath on the microphone.
const rumbleHertz = 60.0

// rumble is a high-pass of fourth order at rumbleHertz (Butterworth, two sections). It starts at rest on the mean of
// the first 5 ms, or an offset would ring.
type rumble struct {
	rest float64
	f, g biquad
	s, t [2]float64
}

func newRumble(in []float64, hertz int) *rumble {
	first := in[:min(len(in), max(1, hertz/200))]
	w := math.Tan(math.Pi * rumbleHertz / float64(hertz))
	section := func(q float64) biquad { // of a pair of poles
		n := 1 / (1 + w/q + w*w)
		return biquad{n, -2 * n, n, 2 * (w*w - 1) * n, (1 - w/q + w*w) * n}
	}
	return &rumble{
		rest: floats.Sum(first) / float64(max(1, len(first))), f: section(0.54119610), g: section(1.30656296),
	}
}

func (r *rumble) step(v float64) float64 { return r.g.step(r.f.step(v-r.rest, &r.s), &r.t) }

// rumbleLoss is what the rumble filter leaves of the power at a frequency.
func rumbleLoss(hertz float64) float64 { return 1 / (1 + math.Pow(rumbleHertz/hertz, 8)) }

// clipped counts samples in runs of three or more that lie flat at the peak.
func (s signal) clipped() int {
	if s.peak < 0.2 {
		return 0
	}
	in := s.samples
	n, runs := 0, 0
	for i := 0; i < len(in); {
		v := in[i] - s.mean
		if math.Abs(v) < s.peak*0.995 {
			i++
			continue
		}
		j, most := i, 0.0
		for ; j < len(in); j++ {
			w := in[j] - s.mean
			if math.Abs(w) < s.peak*0.995 || (w > 0) != (v > 0) {
				break
			}
			most = max(most, math.Abs(w))
		}
		// Near its top a low hum is flat too: true clipping repeats the value to a hair.
		if j-i >= 3 && slices.Max(in[i:j])-slices.Min(in[i:j]) < 0.0012*s.peak && most > 0.9985*s.peak {
			n += j - i
			runs++
		}
		i = j
	}
	if runs == 1 && n < 5 { // one round top of a low voice
		return 0
	}
	return n
}

// clippedHiss counts samples that lie at one extreme value, on the side where there are more: a hiss has no runs at its
// top, but it never reaches the very same value eight times by chance. 0 below that.
func (s signal) clippedHiss() int {
	const same, least = 1.2e-4, 8
	if s.peak < 0.2 {
		return 0
	}
	high, low := slices.Max(s.samples), slices.Min(s.samples)
	top, bottom := 0, 0
	for _, v := range s.samples {
		if v > high-same {
			top++
		}
		if v < low+same {
			bottom++
		}
	}
	if n := max(top, bottom); n >= least {
		return n
	}
	return 0
}

// clickShare is how much of the energy within a tenth of a second around the loudest moment lies in its 4 ms: nearly
// all of a click, little of anything that a mouth does.
func (s signal) clickShare() float64 {
	loudest := 0
	for i, v := range s.samples {
		if math.Abs(v-s.mean) > math.Abs(s.samples[loudest]-s.mean) {
			loudest = i
		}
	}
	energy := func(ms int) (sum float64) {
		half := ms * s.hertz / 2000
		for _, v := range s.samples[max(0, loudest-half):min(len(s.samples), loudest+half+1)] {
			sum += (v - s.mean) * (v - s.mean)
		}
		return sum
	}
	return energy(4) / max(1e-20, energy(100))
}
