package main

import (
	"math"
	"math/rand/v2"

	"brightchalk/internal/core/recording"
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
	out = append(out, elsewhere(room(kind, one, 36+16*rng.Float64(), lead, 0, tail, peak), rng))
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

// rooms are what happens to takes that are not made in a quiet room with a good microphone.
var rooms = []string{"echo", "fan", "babble", "laptop", "gain", "16k", "22k", "48k", "pop", "offset"}

// elsewhere puts a take in another room.
func elsewhere(t take, rng *rand.Rand) take {
	t.room = rooms[rng.IntN(len(rooms))]
	h := float64(t.hertz)
	peak := 0.0
	for _, v := range t.samples {
		peak = max(peak, math.Abs(v))
	}
	power, n := 0.0, 0
	for _, v := range t.samples {
		if math.Abs(v) > peak/30 {
			power += v * v
			n++
		}
	}
	rms := math.Sqrt(power / float64(max(1, n)))
	switch t.room {
	case "echo": // a decay of 60 dB in a quarter of a second, 8 dB under the sound
		const seconds, under = 0.25, 8.0
		length := int(seconds * h)
		tail := make([]float64, length)
		sum := 0.0
		for i := range tail {
			tail[i] = rng.NormFloat64() * math.Pow(10, -3*float64(i)/float64(length))
			sum += tail[i] * tail[i]
		}
		gain := math.Pow(10, -under/20) / math.Sqrt(sum)
		out := append([]float64{}, t.samples...)
		for i, v := range t.samples {
			if v == 0 {
				continue
			}
			for k := 0; k < length && i+k < len(out); k += 3 { // a third of the reflections is enough
				out[i+k] += 1.7 * gain * tail[k] * v
			}
		}
		t.samples = out
	case "fan", "babble":
		level := rms * math.Pow(10, -30.0/20)
		noise := make([]float64, len(t.samples))
		for i := range noise {
			noise[i] = rng.NormFloat64()
		}
		if t.room == "fan" {
			noise = section(noise, t.hertz, 600, false)
		} else {
			noise = section(section(noise, t.hertz, 1500, false), t.hertz, 200, true)
			for i := range noise {
				noise[i] *= 1 + 0.8*math.Sin(2*math.Pi*4*float64(i)/h+rng.Float64()*0.01)
			}
		}
		sum := 0.0
		for _, v := range noise {
			sum += v * v
		}
		gain := level / math.Sqrt(sum/float64(len(noise)))
		for i := range noise {
			t.samples[i] += gain * noise[i]
		}
		t.snrDB = 29
	case "laptop":
		t.samples = section(section(t.samples, t.hertz, 180, true), t.hertz, min(7000, 0.45*h), false)
	case "gain": // comes down when it is loud and slowly up again
		gain := 1.6
		for i, v := range t.samples {
			if math.Abs(v)*gain > peak*0.8 {
				gain *= 1 - 8/h
			} else {
				gain = min(1.6, gain*(1+0.7/h))
			}
			t.samples[i] = v * gain / 1.6
		}
	case "16k", "22k", "48k":
		to := map[string]int{"16k": 16_000, "22k": 22_050, "48k": 48_000}[t.room]
		t.samples, t.hertz = recording.Resample(t.samples, t.hertz, to), to
	case "pop": // breath on the microphone while the sound goes on
		at := int((t.startMs + (t.endMs-t.startMs)*(0.1+0.5*rng.Float64())) * h / 1000)
		for i := range int(0.06 * h) {
			if at+i < len(t.samples) {
				t.samples[at+i] += 0.25 * peak * math.Sin(math.Pi*float64(i)/(0.06*h))
			}
		}
	case "offset":
		at := int((t.startMs + (t.endMs-t.startMs)*rng.Float64()) * h / 1000)
		for i := range t.samples {
			if i >= at {
				t.samples[i] += 0.04 * peak
			}
		}
	}
	return t
}
