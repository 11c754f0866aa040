package recording

import (
	"math"

	"gonum.org/v1/gonum/dsp/fourier"
	"gonum.org/v1/gonum/dsp/window"
)

// Edges of the bands in Hz.
var bandEdges = [...]float64{80, 320, 450, 900, 1800, 3000, 4500, 6500, 8000}

const bandCount = len(bandEdges) - 1

const (
	fftLen   = 512
	melCount = 20
)

// hertzToMel is the mel band of a frequency, -1 outside of all (after S. S. Stevens, J. Volkmann and E. B. Newman,
// 1937, in the usual form 2595 log10(1 + f/700)).
func hertzToMel(hertz float64) int {
	mel := func(f float64) float64 { return 2595 * math.Log10(1+f/700) }
	const least, most = 80.0, 7600.0
	if hertz < least || hertz >= most {
		return -1
	}
	return int(melCount * (mel(hertz) - mel(least)) / (mel(most) - mel(least)))
}

// frame is the power of a 25 ms frame in each band, and the centre of gravity of its spectrum above 1 kHz.
type frame struct {
	power    [bandCount]float64
	centroid float64           // Hz
	mel      [melCount]float32 // dB, bands of equal width in mel from 80 Hz to 7.6 kHz
	// Mean power just below and just above the end of a telephone's band.
	below, above float64
}

// between is the power of the bands from a to b, in dB.
func (f *frame) between(a, b int) float64 {
	sum := 1e-14
	for _, p := range f.power[a : b+1] {
		sum += p
	}
	return 10 * math.Log10(sum)
}

// held is a sound of so many frames that every second spectrum tells enough of it.
const held = 60

// frames are the spectra of n frames every 5 ms of audio at analysisHertz: Hann window, real transform of
// 512 points. Away from the sound only every fourth frame is transformed and stands for the next three, in a long sound
// every second.
func frames(mono []float64, n int, s span) []frame {
	fft := fourier.NewFFT(fftLen)
	weights := make([]float64, frameLen)
	for i := range weights {
		weights[i] = 1
	}
	window.Hann(weights)
	const perBin = float64(analysisHertz) / fftLen
	var band, melBand [fftLen/2 + 1]int
	for k := range band {
		melBand[k] = hertzToMel(float64(k) * perBin)
		band[k] = -1
		for b := range bandCount {
			if f := float64(k) * perBin; f >= bandEdges[b] && f < bandEdges[b+1] {
				band[k] = b
			}
		}
	}
	buffer := make([]float64, fftLen)
	var out []complex128
	list := make([]frame, n)
	for i := range list {
		aside := i%4 != 0 && (i < s.from-40 || i > s.to+24)
		if aside || i%2 != 0 && s.to-s.from > held {
			list[i] = list[i-1]
			continue
		}
		clear(buffer)
		at := i * hopLen
		for k := range min(frameLen, max(0, len(mono)-at)) {
			buffer[k] = mono[at+k] * weights[k]
		}
		out = fft.Coefficients(out, buffer)
		f := &list[i]
		above, moment := 1e-20, 0.0
		var mel [melCount]float64
		for k, b := range band {
			if b < 0 {
				continue
			}
			p := real(out[k])*real(out[k]) + imag(out[k])*imag(out[k])
			f.power[b] += p
			if m := melBand[k]; m >= 0 {
				mel[m] += p
			}
			switch hz := float64(k) * perBin; {
			case hz >= 2600 && hz < 3200:
				f.below += p / 19
			case hz >= 3900 && hz < 4700:
				f.above += p / 26
			}
			if hz := float64(k) * perBin; hz >= 1000 {
				above += p
				moment += p * hz
			}
		}
		f.centroid = moment / above
		for m, p := range mel {
			f.mel[m] = float32(10 * math.Log10(max(p, 1e-14)))
		}
	}
	return list
}

// quiet are the frames between which anything of the sound is heard, its weak tail as well.
func (s span) quiet(levels []float64) (from, to int) {
	from, to = s.from, s.to
	weak := max(s.floor+10, s.peak-45)
	for from > 0 && levels[from] > weak {
		from--
	}
	for to < len(levels)-1 && levels[to] > weak {
		to++
	}
	return from, to
}

// mainsHum is the level in dB by which 50 or 60 Hz and their first harmonics stand out of the rest of the
// low noise between the sounds (Goertzel's filter on stretches of 200 ms), and the frequency; 0 where there
// is too little silence.
func mainsHum(in, levels []float64, s span) (db, frequency float64) {
	const hertz = lowHertz
	from, to := s.quiet(levels)
	lead := in[:clampIndex((from*hopMs-30)*hertz/1000, len(in))]
	tail := in[clampIndex((to*hopMs+80)*hertz/1000, len(in)):]
	length := hertz / 5
	if len(lead) < length && len(tail) < length {
		return 0, 0
	}
	weights := make([]float64, length)
	for i := range weights {
		weights[i] = 1
	}
	window.Hann(weights)
	level := func(f float64) float64 {
		sum, n := 0.0, 0
		for _, part := range [][]float64{lead, tail} {
			for at := 0; at+length <= len(part); at += length {
				sum += goertzel(part[at:at+length], weights, f/float64(hertz)) / rumbleLoss(f)
				n++
			}
		}
		return max(sum/float64(max(1, n)), 1e-18)
	}
	for _, mains := range []float64{50, 60} {
		on, off := 0.0, 0.0
		for h := 1.0; h <= 3; h++ {
			on += level(mains * h)
			off += (level(mains*h-15) + level(mains*h+15)) / 2
		}
		if d := 10 * math.Log10(on/off); d > db {
			db, frequency = d, mains
		}
	}
	return db, frequency
}

// goertzel is the power of a weighted stretch at a frequency in cycles a sample.
func goertzel(in, weights []float64, f float64) float64 {
	w := 2 * math.Pi * f
	c := 2 * math.Cos(w)
	var s1, s2 float64
	n := float64(len(in) - 1)
	for i, v := range in {
		s := v*weights[i] + c*s1 - s2
		s2, s1 = s1, s
	}
	return (s1*s1 + s2*s2 - c*s1*s2) / (n * n)
}

// bandLimit tells by how many dB the spectrum falls across 3.4 kHz, where a telephone's line ends whatever is
// said: in the sound, and in the noise around it; 0 where there is none.
func (a *analysis) bandLimit() (cliff, around float64) {
	fall := func(keep func(i int) bool) float64 {
		below, above, n := 1e-16, 1e-16, 0
		for i := range a.frames {
			if keep(i) {
				below += a.frames[i].below
				above += a.frames[i].above
				n++
			}
		}
		if n == 0 {
			return 0
		}
		return 10 * math.Log10(below/above)
	}
	cliff = fall(func(i int) bool { return i >= a.span.from && i <= a.span.to })
	around = fall(func(i int) bool { return i < a.span.from-10 || i > a.span.to+14 })
	return cliff, around
}
