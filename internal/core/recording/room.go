package recording

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"
	"gonum.org/v1/gonum/dsp/window"
	"gonum.org/v1/gonum/stat"
)

// RoomReport is what a check of the room and the microphone finds: two seconds of silence, one short word said as loud
// as the sounds will be, and a second of silence. What could not be measured is 0.
type RoomReport struct {
	Ready       bool      `json:"ready" doc:"takes made like this can be judged"`
	NoiseDBFS   float64   `json:"noise_dbfs"`
	SNRDecibels float64   `json:"snr_db"`
	MainsHumDB  float64   `json:"mains_hum_db"`
	PeakDBFS    float64   `json:"peak_dbfs"`
	BandHertz   float64   `json:"band_hz" doc:"up to which the microphone hears"`
	EchoMs      int       `json:"echo_ms" doc:"in which the echo falls by 60 dB"`
	PumpDB      float64   `json:"pump_db" doc:"by which the silence changes after the word"`
	SwellDB     float64   `json:"swell_db" doc:"by which the noise comes and goes before it"`
	Findings    []Finding `json:"findings"`
}

// Limits of the room; trials with known rooms and common practice, no published source but where named.
const (
	minSilenceMs   = 1000
	minRestMs      = 700
	goodSNR        = 34.0 // dB
	closeMargin    = 3.0  // dB under full scale
	softPeak       = -24.0
	faintPeak      = -36.0 // dBFS
	telephoneHertz = 4500.0
	headsetHertz   = 9000.0 // a radio headset ends at 7 to 8 kHz
	// An ordinary classroom rings for about 0.6 s (Building Bulletin 93 of 2015, from memory); at a hand's width from
	// the lips that is not heard unless it is also loud.
	longEchoMs = 450
	loudEchoDB = -32.0 // 50 ms after the word, against its peak
	pumpLimit  = 6.0   // dB
	swellLimit = 8.0   // dB
	spokenDB   = 15.0  // by which the silence swells when somebody speaks in it
)

// Room judges a room and a microphone before the first take.
func Room(clip Clip) RoomReport {
	r := RoomReport{Findings: []Finding{}, NoiseDBFS: floorDB, PeakDBFS: floorDB}
	if clip.Hertz < 4000 || len(clip.Samples) == 0 {
		return r.say("no-sound", "retake", noTestSound, 0, "ms")
	}
	clean := newSignal(clip)
	r.PeakDBFS = decibels(clean.peak)
	levels, mono := clean.heard(analysisHertz)
	s := wordIn(levels)
	if s.peak-s.floor < 12 || s.peak < floorDB+20 {
		return r.say("no-sound", "retake", noTestSound, s.peak-s.floor, "dB")
	}
	before := levels[:max(0, s.from-10)]
	r.SwellDB = swell(before)
	if len(before)*hopMs < minSilenceMs || r.SwellDB > spokenDB && slices.Max(before) > s.peak-25 {
		return r.say(
			"spoken-early", "retake",
			"Something was heard while it should have been silent. Wait for the light, then say “tap!” once.",
			float64(len(before)*hopMs), "ms",
		)
	}
	after := levels[min(len(levels), s.to+10):]
	if len(after)*hopMs < minRestMs {
		return r.say(
			"spoken-late", "retake", "Something was heard after the word. Say “tap!” once, then keep still.",
			float64(len(after)*hopMs), "ms",
		)
	}
	all := func(int, float64) bool { return true }
	r.NoiseDBFS = meanLevel(before, all)
	r.SNRDecibels = min(90, meanLevel(levels, func(_ int, db float64) bool { return db >= s.peak-15 })-r.NoiseDBFS)
	r.MainsHumDB, _ = mainsHum(Resample(mono, analysisHertz, lowHertz), levels, s)
	r.BandHertz = bandEdge(clip.Samples, clip.Hertz, s)
	tail := 0.0
	r.EchoMs, tail = echo(mono)
	r.PumpDB = pump(before, after)
	r.judge(clean.clipped(), tail)
	return r
}

const noTestSound = "No word was heard. Is this the microphone that you mean? Say “tap!” when the light turns."

func (r RoomReport) say(code, severity, message string, value float64, unit string) RoomReport {
	f := Finding{Code: code, Severity: severity, Message: message, Value: math.Round(value*10) / 10, Unit: unit}
	r.Findings = append(r.Findings, f)
	return r
}

func (r *RoomReport) judge(clipped int, tail float64) {
	say := func(code, severity, message string, value float64, unit string) {
		*r = r.say(code, severity, message, value, unit)
	}
	switch {
	case clipped >= 3 || r.PeakDBFS > -0.2:
		say("clipped", "retake", "Too loud: it crackles. Go a hand's width back, or turn the microphone down.", r.PeakDBFS,
			"dBFS")
	case r.PeakDBFS > -closeMargin:
		say("margin", "fix", "Nearly too loud: go back a little, or turn the microphone down.", r.PeakDBFS, "dBFS")
	case r.PeakDBFS < faintPeak:
		say("quiet", "retake", "Far too soft. Is it the right microphone? Turn it up in the system's sound settings.",
			r.PeakDBFS, "dBFS")
	case r.PeakDBFS < softPeak:
		say("quiet", "fix", "Soft: go nearer, a hand's width from the lips, or turn the microphone up.", r.PeakDBFS, "dBFS")
	}
	switch {
	case r.SNRDecibels < noisySNR:
		say("noisy", "retake", "Too much noise. Close door and window, switch the fan and the projector off, go nearer.",
			r.SNRDecibels, "dB")
	case r.SNRDecibels < goodSNR:
		say("noisy", "fix", "Some noise is heard. It will do; nearer to the microphone is better.", r.SNRDecibels, "dB")
	}
	if r.SwellDB > swellLimit && r.SNRDecibels < goodSNR+10 {
		say("swelling", "fix", "The noise comes and goes, as of people next door. A quieter hour gives surer verdicts.",
			r.SwellDB, "dB")
	}
	if r.MainsHumDB > humDB {
		say("hum", "fix", "The mains hum. Move the cable away from the power supply, or pull the laptop's plug.",
			r.MainsHumDB, "dB")
	}
	switch {
	case r.BandHertz < telephoneHertz:
		say(
			"narrow-band",
			"retake",
			"It sounds as through a telephone: s and f cannot be told apart. Use another microphone.",
			r.BandHertz,
			"Hz",
		)
	case r.BandHertz < headsetHertz:
		say(
			"narrow-band",
			"fix",
			"The highest part is missing, as with a headset by radio. A microphone with a cable hears it.",
			r.BandHertz,
			"Hz",
		)
	}
	if r.EchoMs > longEchoMs && tail > loudEchoDB {
		say(
			"echo",
			"fix",
			fmt.Sprintf("The room echoes for %.1f seconds. Go nearer, or to a room with a carpet, curtains, coats.",
				float64(r.EchoMs)/1000),
			float64(r.EchoMs),
			"ms",
		)
	}
	if r.PumpDB > pumpLimit {
		say("pumping", "fix", "The microphone changes its own loudness. Switch “automatic gain”, “noise suppression” or "+
			"“enhancements” off in the system's sound settings.", r.PumpDB, "dB")
	}
	r.Ready = !slices.ContainsFunc(r.Findings, func(f Finding) bool { return f.Severity == "retake" })
}

// wordIn finds the loudest stretch and all that belongs to it; pauses inside a word stay under 150 ms.
func wordIn(levels []float64) span {
	s := findSound(levels)
	at := slices.Index(levels, s.peak)
	first := slices.Sorted(slices.Values(levels[:min(len(levels), minSilenceMs/hopMs)]))
	loud := max(s.floor+9, s.peak-30)
	if usual := first[len(first)/2]; usual < s.peak-20 { // the noise before it, where a gain falls with the word
		loud = max(loud, usual+9)
	}
	const pause = 30 // frames
	s.from, s.to = at, at
	for i := at; i >= 0 && i >= s.from-pause; i-- {
		if levels[i] >= loud {
			s.from = i
		}
	}
	for i := at; i < len(levels) && i <= s.to+pause; i++ {
		if levels[i] >= loud {
			s.to = i
		}
	}
	return s
}

// swell is the range of the level of stretches of a quarter of a second.
func swell(levels []float64) float64 {
	lowest, highest := math.Inf(1), math.Inf(-1)
	for _, db := range stretches(levels) {
		lowest, highest = min(lowest, db), max(highest, db)
	}
	return max(0, highest-lowest)
}

func stretches(levels []float64) (out []float64) {
	const n = 50
	for at := 0; at+n <= len(levels); at += n {
		out = append(out, meanLevel(levels[at:at+n], func(int, float64) bool { return true }))
	}
	return out
}

// pump is by how much the silence behind the word rises again, or stays away from that before it: an echo only falls.
func pump(before, after []float64) float64 {
	parts := stretches(after)
	if len(parts) < 2 {
		return 0
	}
	usual := meanLevel(before, func(int, float64) bool { return true })
	lowest, out := math.Inf(1), 0.0
	for _, db := range parts {
		lowest = min(lowest, db)
		out = max(out, db-lowest)
	}
	return max(out, usual-lowest)
}

// echo is the time in ms in which the sound falls by 60 dB behind its last loud moment, by a line through the levels
// from 30 ms behind it until they sink into the noise, which is taken off; 0 where nothing falls slowly enough to be
// measured. tail is the level 50 ms behind that moment against the peak.
func echo(mono []float64) (fallMs int, tail float64) {
	const hop, most = analysisHertz / 200, 200
	power := make([]float64, len(mono)/hop)
	for i := range power {
		for k := max(1, i*hop); k < (i+1)*hop; k++ {
			d := mono[k] - 0.9*mono[k-1] // the low part of a voice dies slowly by itself
			power[i] += d * d
		}
	}
	sorted := slices.Clone(power)
	slices.Sort(sorted)
	noise := max(stat.Mean(sorted[:max(1, len(sorted)/3)], nil), 1e-18)
	peak, last := slices.Max(power), 0
	for i, p := range power {
		if p > peak*0.03 && p > 30*noise {
			last = i
		}
	}
	db := func(p float64) float64 { return 10 * math.Log10(max(p-noise, noise/100)/peak) }
	tail = floorDB
	if last+10 < len(power) {
		tail = db(stat.Mean(power[last+8:min(len(power), last+13)], nil))
	}
	var at, level []float64
	for i := last + 6; i+4 <= min(len(power), last+most); i += 2 {
		p := stat.Mean(power[i:i+4], nil)
		if p < 3*noise {
			break
		}
		at, level = append(at, float64(i*hopMs)), append(level, db(p))
	}
	const fewest = 8 // 100 ms
	if len(at) < fewest {
		return 0, tail
	}
	_, slope := stat.LinearRegression(at, level, nil, false)
	if slope >= 0 {
		return 0, tail
	}
	return int(min(5000, -60/slope)), tail
}

// bandEdge is the frequency in Hz at which the spectrum of the word falls off as by a filter; half the rate where it
// does not.
func bandEdge(in []float64, hertz int, s span) float64 {
	const n, band = 1024, 500.0
	fft := fourier.NewFFT(n)
	count := int(float64(hertz) / 2 / band)
	loudest := make([]float64, count)
	buffer := make([]float64, n)
	var out []complex128
	from, to := s.from*hertz/200, (s.to+5)*hertz/200
	for at := from; at+n <= min(to, len(in)); at += n / 2 {
		copy(buffer, in[at:at+n])
		out = fft.Coefficients(out, window.Hann(buffer))
		sums := make([]float64, count+1)
		for k := range out {
			b := min(count, int(float64(k)*float64(hertz)/n/band))
			sums[b] += real(out[k])*real(out[k]) + imag(out[k])*imag(out[k])
		}
		for b := range loudest {
			loudest[b] = max(loudest[b], sums[b])
		}
	}
	level := func(b int) float64 { return 10 * math.Log10(max(loudest[b], 1e-16)) }
	const cliff = 18.0 // dB within 1 kHz
	for b := 6; b+2 < count; b++ {
		if fall := level(b-1) - level(b+1); fall > cliff && slices.Max(loudest[b+1:]) < loudest[b-1]/50 {
			return float64(b) * band
		}
	}
	return float64(hertz) / 2
}
