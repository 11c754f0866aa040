package recording

import (
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/floats"
)

const (
	frameLen = analysisHertz / 40  // 25 ms
	hopLen   = analysisHertz / 200 // 5 ms
	lowHertz = 4000                // for pitch and mains hum
)

// Resample changes the rate by windowed-sinc interpolation (Hann window, 16 zero crossings a side), cut off
// at nine tenths of the lower Nyquist rate. in is kept; equal rates return it as it is.
func Resample(in []float64, from, to int) []float64 {
	if from == to || len(in) == 0 {
		return in
	}
	r := newResampler(from, to, len(in))
	for part := range slices.Chunk(in, 4096) { // what is held stays small
		r.write(part)
	}
	return r.close()
}

// resampler is Resample for what comes in pieces. It holds the last of them only as far as they are still needed.
type resampler struct {
	filter *filter
	step   float64
	out    []float64
	held   []float64
	start  int // the place of held[0] in what came in
}

func newResampler(from, to, n int) *resampler {
	step := float64(from) / float64(to)
	r := &resampler{filter: filterFor(from, to), step: step, out: make([]float64, 0, int(float64(n)/step))}
	r.start = -r.filter.width
	r.held = make([]float64, r.filter.width, 3*r.filter.width+from/100)
	return r
}

// write takes the next piece in, which is kept as it is.
func (r *resampler) write(in []float64) {
	r.held = append(r.held, in...)
	bank, end := r.filter.bank, r.start+len(r.held)
	for len(r.out) < cap(r.out) {
		pos := float64(len(r.out))*r.step + 1e-9
		at := int(pos)
		base := at - r.filter.width/2 + 1
		if base+r.filter.width > end {
			break
		}
		taps := bank[min(int((pos-float64(at))*float64(len(bank))+1e-6), len(bank)-1)]
		r.out = append(r.out, floats.Dot(taps, r.held[base-r.start:base-r.start+len(taps)]))
	}
	next := int(float64(len(r.out))*r.step+1e-9) - r.filter.width/2 + 1
	if done := min(next-r.start, len(r.held)); done > 2*r.filter.width {
		r.held = r.held[:copy(r.held, r.held[done:])]
		r.start += done
	}
}

// close works out what is left, with silence behind the end.
func (r *resampler) close() []float64 {
	r.write(make([]float64, r.filter.width))
	return r.out
}

type filter struct {
	bank  [][]float64 // one set of taps for each phase
	width int
}

// maxPhases bounds the bank of rates that hardly divide, such as 44,099: their samples are taken from the next
// phase below, an error of less than a thousandth of a sample.
const maxPhases = 1024

var filters sync.Map // of [2]int to *filter; made once for each pair of rates

func filterFor(from, to int) *filter {
	key := [2]int{from, to}
	if f, ok := filters.Load(key); ok {
		return f.(*filter)
	}
	cut := 0.9 * min(1, float64(to)/float64(from))
	half := 16 / cut
	phases := to / gcd(from, to)
	f := &filter{make([][]float64, min(phases, maxPhases)), int(half)*2 + 2}
	for p := range f.bank {
		frac := float64(p) / float64(len(f.bank))
		taps := make([]float64, f.width)
		for k := range taps {
			x := float64(k-f.width/2+1) - frac
			if math.Abs(x) < half {
				taps[k] = cut * sinc(cut*x) * (0.5 + 0.5*math.Cos(math.Pi*x/half))
			}
		}
		f.bank[p] = taps
	}
	if phases <= maxPhases { // there are few of these
		filters.Store(key, f)
	}
	return f
}

func sinc(x float64) float64 {
	if x == 0 {
		return 1
	}
	return math.Sin(math.Pi*x) / (math.Pi * x)
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// meanLevel is the level of the mean power of the frames that keep.
func meanLevel(levels []float64, keep func(i int, db float64) bool) float64 {
	sum, n := 0.0, 0
	for i, db := range levels {
		if keep(i, db) {
			sum += math.Pow(10, db/10)
			n++
		}
	}
	if n == 0 {
		return floorDB
	}
	return max(floorDB, 10*math.Log10(max(sum/float64(n), 1e-20)))
}

type span struct {
	from, to int // frames, to included
	attempts int
	runs     [][2]int // frames of each attempt
	cutStart bool     // the sound is already there when the take begins
	cutEnd   bool
	snr      float64
	peak     float64
	floor    float64
}

// findSound looks for the frames of the sound. The noise floor is the level that a tenth of the frames stay
// under; onset looks further down from the peak than the end does, so that a weak start is not lost.
func findSound(levels []float64) span {
	sorted := slices.Clone(levels)
	slices.Sort(sorted)
	floor := sorted[len(sorted)/10]
	if least := sorted[len(sorted)/25]; least < floor-6 { // so little silence that a tenth of the take is the sound itself
		floor = least
	}
	peak := slices.Max(levels)
	noise := meanLevel(levels, func(_ int, db float64) bool { return db <= floor+3 })
	body := meanLevel(levels, func(_ int, db float64) bool { return db >= peak-15 })
	s := span{peak: peak, floor: floor, snr: min(90, body-noise)}
	start := max(floor+6, peak-startBelowPeak)
	end := max(floor+6, peak-endBelowPeak)
	if peak-floor < 9 { // no pause to measure noise in
		s.from, s.to, s.attempts, s.cutStart, s.cutEnd = 0, len(levels)-1, 1, true, true
		return s
	}
	loud := max(floor+10, peak-25)
	at := slices.Index(levels, peak)
	s.from, s.to = at, at
	var runs [][2]int
	for i := 0; i < len(levels); {
		if levels[i] < loud {
			i++
			continue
		}
		j := i
		for k := i; k < len(levels) && k-j <= attemptGapMs/hopMs; k++ {
			if levels[k] >= loud {
				j = k
			}
		}
		if (j-i)*hopMs >= 20 || levels[i] > peak-12 {
			runs = append(runs, [2]int{i, j})
		}
		i = j + 1
	}
	usual := around(levels, runs, at)
	runs = slices.DeleteFunc(runs, func(run [2]int) bool {
		top := slices.Max(levels[run[0] : run[1]+1])
		return top < peak-15 && top < usual+8
	})
	start, end = max(start, usual+2), max(end, usual+2)
	runs = swelling(levels, runs, max(floor+10, peak-38))
	if len(runs) > 0 {
		s.from, s.to = runs[0][0], runs[len(runs)-1][1]
	}
	s.attempts, s.runs = max(1, len(runs)), runs
	for quiet := 0; s.from > 0 && quiet < 8; {
		if levels[s.from-1] >= start {
			s.from--
			quiet = 0
			continue
		}
		if k := s.from - 2 - quiet; k >= 0 && levels[k] >= start && quiet < 3 {
			s.from = k
			continue
		}
		break
	}
	for s.to < len(levels)-1 && levels[s.to+1] >= end {
		s.to++
	}
	s.cutStart, s.cutEnd = s.from == 0, s.to == len(levels)-1
	// A frame reaches 25 ms on: the sound starts near the end of the first loud frame.
	s.from = min(s.from+3, at)
	s.to = max(s.to-2, at)
	return s
}

// around is the level that three quarters of the frames away from the loudest run stay under: noise that comes and
// goes, voices next door, lies far above its own quietest moments. floorDB where there is too little of it.
func around(levels []float64, runs [][2]int, loudest int) float64 {
	const aside, least = 30, 40 // frames
	from, to := loudest, loudest
	for _, run := range runs {
		if run[0] <= loudest && loudest <= run[1] {
			from, to = run[0], run[1]
		}
	}
	outside := slices.Concat(levels[:max(0, from-aside)], levels[min(len(levels), to+aside):])
	if len(outside) < least {
		return floorDB
	}
	slices.Sort(outside)
	return outside[len(outside)*3/4]
}

// swelling joins runs between which the level does not fall to quiet: one sound that swells.
func swelling(levels []float64, runs [][2]int, quiet float64) [][2]int {
	var out [][2]int
	for _, r := range runs {
		if n := len(out); n > 0 && slices.Min(levels[out[n-1][1]:r[0]+1]) > quiet {
			out[n-1][1] = r[1]
			continue
		}
		out = append(out, r)
	}
	return out
}

// Loudness in LUFS of mono samples after ITU-R BS.1770-4: K-weighted mean square of blocks of 400 ms that
// overlap by three quarters, gated at -70 LUFS and then 10 LU under the mean. A sound that is shorter than a
// block is measured as a whole, and gated is false. The filters are redesigned for the rate with the analogue
// values that the Recommendation's 48 kHz coefficients stand for (as in B. De Man, "Evaluation of
// Implementations of the EBU R128 Loudness Measurement", 2018; from memory).
func Loudness(in []float64, hertz int) (lufs float64, gated bool) { return loudnessFrom(in, hertz, 0) }

// loudnessFrom measures in without its offset.
func loudnessFrom(in []float64, hertz int, offset float64) (lufs float64, gated bool) {
	if len(in) == 0 {
		return floorDB, false
	}
	hop := max(1, hertz/10)
	tenths, rest := kWeighted(in, hertz, hop, offset)
	if len(tenths) < 4 {
		return max(floorDB, -0.691+10*math.Log10(max((floats.Sum(tenths)+rest)/float64(len(in)), 1e-20))), false
	}
	level := func(sum float64, blocks int) float64 {
		return -0.691 + 10*math.Log10(max(sum/float64(4*hop*blocks), 1e-20))
	}
	gate := -70.0
	for range 2 {
		sum, n := 0.0, 0
		for at := range len(tenths) - 3 {
			if block := floats.Sum(tenths[at : at+4]); level(block, 1) > gate {
				sum += block
				n++
			}
		}
		if n == 0 {
			return floorDB, true
		}
		lufs = level(sum, n)
		gate = lufs - 10
	}
	return max(floorDB, lufs), true
}

// kWeighted are the sums of the squares of the K-weighted samples, by hop, and that of the samples left over.
func kWeighted(in []float64, hertz, hop int, offset float64) (sums []float64, rest float64) {
	shelf := func() biquad {
		const f0, gain, q = 1681.974450955533, 3.999843853973347, 0.7071752369554196
		k := math.Tan(math.Pi * f0 / float64(hertz))
		vh := math.Pow(10, gain/20)
		vb := math.Pow(vh, 0.4996667741545416)
		a0 := 1 + k/q + k*k
		return biquad{
			(vh + vb*k/q + k*k) / a0,
			2 * (k*k - vh) / a0,
			(vh - vb*k/q + k*k) / a0,
			2 * (k*k - 1) / a0,
			(1 - k/q + k*k) / a0,
		}
	}()
	high := func() biquad {
		const f0, q = 38.13547087602444, 0.5003270373238773
		k := math.Tan(math.Pi * f0 / float64(hertz))
		a0 := 1 + k/q + k*k
		return biquad{1, -2, 1, 2 * (k*k - 1) / a0, (1 - k/q + k*k) / a0}
	}()
	var s1, s2 [2]float64
	for i, x := range in {
		y := high.step(shelf.step(x-offset, &s1), &s2)
		rest += y * y
		if (i+1)%hop == 0 {
			sums = append(sums, rest)
			rest = 0
		}
	}
	return sums, rest
}

type biquad struct{ b0, b1, b2, a1, a2 float64 }

func (f biquad) step(x float64, s *[2]float64) float64 {
	y := f.b0*x + s[0]
	s[0] = f.b1*x - f.a1*y + s[1]
	s[1] = f.b2*x - f.a2*y
	return y
}
