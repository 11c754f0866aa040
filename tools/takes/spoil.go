package main

import (
	"math"
	"math/rand/v2"
)

type take struct {
	label
	samples []float64
	hertz   int
}

// takesOf puts a piece into rooms: clean, and, for pure pieces, with one fault each.
func takesOf(p piece, rng *rand.Rand) []take {
	kind := "pure"
	if p.vowel > 0 {
		kind = "added"
	}
	base := func(kind string) label {
		return label{sound: p.sound, kind: kind, engine: p.engine, vowelMs: p.vowel * 1000}
	}
	room := func(kind string, parts [][]float64, snr, lead, gap, tail, peak float64) take {
		t := take{base(kind), nil, p.hertz}
		h := float64(p.hertz)
		loud, body := 0.0, 0.0
		for _, v := range p.samples {
			loud = max(loud, math.Abs(v))
		}
		n := 0
		step := max(1, int(h/40))
		for at := 0; at+step <= len(p.samples); at += step { // the stretches of 25 ms that are heard
			sum := 0.0
			for _, v := range p.samples[at : at+step] {
				sum += v * v
			}
			if sum/float64(step) > loud*loud/2000 {
				body += sum
				n += step
			}
		}
		gain := peak / max(1e-9, loud)
		rms := gain * math.Sqrt(body/float64(max(1, n)))
		t.samples = make([]float64, int(lead*h))
		t.startMs = lead * 1000
		for i, part := range parts {
			if i > 0 {
				t.samples = append(t.samples, make([]float64, int(gap*h))...)
			}
			for _, v := range part {
				t.samples = append(t.samples, v*gain)
			}
		}
		t.endMs = float64(len(t.samples)) / h * 1000
		t.samples = append(t.samples, make([]float64, int(tail*h))...)
		noise := rms * math.Pow(10, -snr/20)
		t.snrDB = snr
		slow := 0.0
		for i := range t.samples { // a room's noise: pink-ish
			w := rng.NormFloat64()
			slow = 0.95*slow + 0.05*w
			t.samples[i] += noise * (0.75*w + 2.6*slow)
		}
		return t
	}
	one := [][]float64{p.samples}
	lead, tail := 0.2+0.3*rng.Float64(), 0.25+0.3*rng.Float64()
	peak := 0.15 + 0.6*rng.Float64()
	out := []take{room(kind, one, 32+24*rng.Float64(), lead, 0, tail, peak)}
	if kind != "pure" || rng.IntN(3) > 0 {
		return out
	}
	clip := room("clipped", one, 45, lead, 0, tail, 1)
	drive := 2.5 + 2*rng.Float64()
	scale := 1.0
	if rng.IntN(2) == 0 {
		scale = 0.3 + 0.5*rng.Float64()
	}
	for i, v := range clip.samples {
		clip.samples[i] = max(-1, min(1, v*drive)) * scale
	}
	quiet := room("quiet", one, 40, lead, 0, tail, 0.004+0.004*rng.Float64())
	noisy := room("noisy", one, 6+8*rng.Float64(), lead, 0, tail, peak)
	silence := room("silence", one, 45, 1+rng.Float64(), 0, 0.3, peak)
	twice := [][]float64{p.samples, p.samples}
	if rng.IntN(2) == 0 {
		twice = append(twice, p.samples)
	}
	several := room("several", twice, 45, lead, 0.35+0.4*rng.Float64(), tail, peak)
	narrow := room("narrow", one, 45, lead, 0, tail, peak)
	narrow.samples = telephone(narrow.samples, p.hertz)
	hum := room("hum", one, 50, lead, 0, tail, peak)
	mains := []float64{50, 60}[rng.IntN(2)]
	for i := range hum.samples {
		t := float64(i) / float64(p.hertz)
		hum.samples[i] += 0.02 * peak * (math.Sin(2*math.Pi*mains*t) + 0.6*math.Sin(2*math.Pi*2*mains*t) +
			0.4*math.Sin(2*math.Pi*3*mains*t))
	}
	cutOff := room("cut-off", one, 45, 0, 0, tail, peak)
	cutOff.samples = cutOff.samples[len(p.samples)/4:]
	return append(out, clip, quiet, noisy, silence, several, narrow, hum, cutOff)
}

// telephone keeps about 300 to 3400 Hz: six second-order sections at each end.
func telephone(in []float64, hertz int) []float64 {
	out := append([]float64{}, in...)
	for range 6 {
		out = section(out, hertz, 3600, false)
		out = section(out, hertz, 260, true)
	}
	return out
}

func section(in []float64, hertz int, f float64, high bool) []float64 {
	w := math.Tan(math.Pi * f / float64(hertz))
	n := 1 / (1 + math.Sqrt2*w + w*w)
	b0, b1 := w*w*n, 2*w*w*n
	if high {
		b0, b1 = n, -2*n
	}
	a1, a2 := 2*(w*w-1)*n, (1-math.Sqrt2*w+w*w)*n
	var x1, x2, y1, y2 float64
	out := make([]float64, len(in))
	for i, x := range in {
		y := b0*x + b1*x1 + b0*x2 - a1*y1 - a2*y2
		x2, x1, y2, y1 = x1, x, y1, y
		out[i] = y
	}
	return out
}
