package recording

import (
	"math"
	"math/cmplx"
	"slices"

	"gonum.org/v1/gonum/dsp/window"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat"
)

const (
	lpcHertz = 11_000
	maxLPC   = 12
)

// resonances are the peaks in Hz of a dozen frames from lo to hi, by linear prediction (autocorrelation
// method, J. Makhoul, "Linear prediction: a tutorial review", 1975), orders 10 and 12 at
// 11 kHz: the lower one merges what lies close, the higher one may find a peak too many.
func resonances(low []float64, lo, hi, order int) [][]float64 {
	const length = lpcHertz * 30 / 1000
	var out [][]float64
	step := max(1, (hi-lo)/10)
	for i := lo; i <= hi; i += step {
		at := int(float64(i)*hopSeconds*lpcHertz) + lpcHertz*frameLen/analysisHertz/2 - length/2
		if at < 1 || at+length > len(low) {
			continue
		}
		if found := lpc(low[at-1:at+length], order); len(found) > 0 {
			out = append(out, found)
		}
	}
	return out
}

// median sorts its argument; it is 0 of nothing.
func median(in []float64) float64 {
	if len(in) == 0 {
		return 0
	}
	slices.Sort(in)
	return stat.Quantile(0.5, stat.Empirical, in, nil)
}

// apart is the distance in Bark of a frame's peaks from a vowel's F1 and F2. Two formants close together may
// show as one peak; a peak below F3 that is neither of the two counts against the vowel.
func apart(peaks []float64, f1, f2, size float64) float64 {
	near := func(f float64) float64 {
		d := math.Inf(1)
		for _, p := range peaks {
			d = min(d, math.Abs(bark(p)-bark(f)))
		}
		return d
	}
	if bark(f2)-bark(f1) < 3.5 { // heard as one peak between them (L. A. Chistovich and V. V. Lublinskaya, 1979)
		middle := (f1 + f2) / 2
		if d := near(middle); d < near(f1)+near(f2) {
			return d + stray(peaks, []float64{f1, middle, f2}, size)
		}
	}
	return math.Hypot(near(f1), near(f2)) + stray(peaks, []float64{f1, f2}, size)
}

func stray(peaks, known []float64, size float64) float64 {
	worst := 0.0
	for _, p := range peaks {
		if p > 2100*size {
			break
		}
		d := math.Inf(1)
		for _, k := range known {
			d = min(d, math.Abs(bark(p)-bark(k)))
		}
		worst = max(worst, d)
	}
	return 0.6 * max(0, worst-1.2)
}

// lpc finds the resonances of a frame below 3.5 kHz, pre-emphasised by its first sample.
func lpc(in []float64, order int) []float64 {
	n := len(in) - 1
	x := make([]float64, n)
	for i := range x {
		x[i] = in[i+1] - 0.97*in[i]
	}
	window.Hamming(x)
	var r [maxLPC + 1]float64
	for k := range order + 1 {
		for i := k; i < n; i++ {
			r[k] += x[i] * x[i-k]
		}
	}
	if r[0] == 0 {
		return nil
	}
	r[0] *= 1.0000001
	// Levinson and Durbin's recursion.
	var a, next [maxLPC + 1]float64
	a[0] = 1
	e := r[0]
	for i := 1; i <= order; i++ {
		k := r[i]
		for j := 1; j < i; j++ {
			k += a[j] * r[i-j]
		}
		k = -k / e
		copy(next[:], a[:])
		for j := 1; j < i; j++ {
			next[j] = a[j] + k*a[i-j]
		}
		next[i] = k
		a = next
		e *= 1 - k*k
	}
	// The roots of the prediction polynomial are the eigenvalues of its companion matrix.
	c := mat.NewDense(order, order, nil)
	for i := range order {
		c.Set(0, i, -a[i+1])
		if i > 0 {
			c.Set(i, i-1, 1)
		}
	}
	var eig mat.Eigen
	if !eig.Factorize(c, mat.EigenNone) {
		return nil
	}
	var found []float64
	for _, z := range eig.Values(nil) {
		f := cmplx.Phase(z) * lpcHertz / (2 * math.Pi) // of each pair one is below 0
		bandwidth := -math.Log(cmplx.Abs(z)) * lpcHertz / math.Pi
		if f > 200 && f < 3500 && bandwidth < 700 {
			found = append(found, f)
		}
	}
	slices.Sort(found)
	return found
}

// bark is the critical-band rate of a frequency in Hz (H. Traunmüller, 1990).
func bark(f float64) float64 { return 26.81*f/(1960+f) - 0.53 }

// vowelMeans are F1 and F2 in Hz of men's vowels; of two-part ones the start and the end. iː ɪ e æ ʌ ɑː ʊ uː
// after G. E. Peterson and H. L. Barney, "Control methods used in a study of the vowels", 1952; the British ɒ
// ɔː ɜː and the two-part vowels after means as in J. C. Wells, 1962, rounded. All from memory.
var vowelMeans = map[string][][2]float64{
	"iː": {
		{275, 2290},
	},
	"ɪ":  {{390, 1990}},
	"e":  {{540, 1840}},
	"æ":  {{680, 1700}},
	"ʌ":  {{660, 1200}},
	"ɑː": {{710, 1090}},
	"ɒ":  {{590, 890}},
	"ɔː": {{460, 790}},
	"ʊ":  {{430, 1020}},
	"uː": {{310, 960}},
	"ɜː": {{490, 1400}},
	"ə":  {{500, 1450}},
	"eɪ": {
		{510, 1880},
		{370, 2150},
	},
	"aɪ": {{720, 1330}, {390, 2000}},
	"ɔɪ": {{520, 860}, {390, 1980}},
	"aʊ": {{730, 1380}, {420, 960}},
	"əʊ": {{490, 1350}, {390, 980}},
	"ɪə": {{380, 2000}, {500, 1500}},
	"eə": {{540, 1800}, {510, 1550}},
	"ʊə": {{420, 1050}, {500, 1350}},
	"oʊ": {
		{480, 980},
		{390, 900},
	},
	"ɜːr": {{480, 1370}},
	"ər":  {{490, 1370}},
	"ɑːr": {{680, 1100}},
	"ɔːr": {{480, 830}},
	"ɪər": {{380, 1950}, {480, 1400}},
	"eər": {{540, 1780}, {490, 1450}},
	"ʊər": {{430, 1050}, {480, 1300}},
}

// vowelVariants are other ways to say a vowel that are as good: the fronted uː and the fronted end of əʊ of
// many young speakers, and their open æ (S. Hawkins and J. Midgley, "Formant frequencies of RP monophthongs in four age
// groups of speakers", 2005). From memory.
var vowelVariants = map[string][][][2]float64{
	"uː": {{{320, 1600}}}, "əʊ": {{{500, 1400}, {390, 1500}}}, "oʊ": {{{500, 1300}, {400, 1400}}}, "ʊ": {{{430, 1300}}},
	"æ": {{{900, 1450}}},
}

// balance is the level in dB of 1.8 to 3 kHz, where front vowels have their second formant, against 450 to
// 1800 Hz, over the middle of the sound.
func (a *analysis) balance() float64 {
	length := a.span.to - a.span.from
	var all []float64
	for i := a.span.from + length/4; i < a.span.to-length/4 && i < len(a.frames); i++ {
		all = append(all, a.frames[i].between(4, 4)-a.frames[i].between(2, 3))
	}
	return median(all)
}

// vowelDistance is how far the take's vowel is from the target in Bark, the speaker's size allowed for: the
// best of the sizes that go with the pitch. 0 where it cannot be told.
func (a *analysis) vowelDistance() float64 {
	means := append([][][2]float64{vowelMeans[string(a.target.first())]}, vowelVariants[string(a.target.first())]...)
	from, to := a.span.from, a.span.to
	if len(means[0]) == 0 || to-from < 12 {
		return 0
	}
	low := Resample(a.mono, analysisHertz, lpcHertz)
	length := to - from
	parts := [][2]int{{from + length/4, to - length/4}}
	if len(means[0]) == 2 {
		parts = [][2]int{{from + length/10, from + length*4/10}, {from + length*6/10, to - length/10}}
	}
	orders := []int{10, 12}
	if a.voice.f0 > 190 { // the higher order would find harmonics
		orders = orders[:1]
	}
	peaks := make([][][][]float64, len(orders)) // by order, then part
	for i, order := range orders {
		for _, p := range parts {
			peaks[i] = append(peaks[i], resonances(low, p[0], p[1], order))
		}
	}
	var firsts, seconds []float64
	for _, f := range peaks[0][0] {
		firsts = append(firsts, f[0])
		if len(f) > 1 {
			seconds = append(seconds, f[1])
		}
	}
	a.f1, a.f2 = median(firsts), median(seconds)
	least, most := 0.97, 1.12
	if a.voice.f0 > 165 {
		least, most = 1.06, 1.3
	}
	best := math.Inf(1)
	for _, mean := range means {
		for size := least; size <= most; size += 0.04 {
			d := 0.0
			for part, f := range mean {
				nearest := math.Inf(1)
				for order := range peaks {
					var all []float64
					for _, p := range peaks[order][part] {
						all = append(all, apart(p, f[0]*size, f[1]*size, size))
					}
					if len(all) == 0 {
						return 0
					}
					nearest = min(nearest, median(all))
				}
				d += nearest
			}
			best = min(best, d/float64(len(mean)))
		}
	}
	return best
}
