package main

import (
	"fmt"
	"math"
	"math/rand/v2"
)

const rate = 44_100

// Formants of men's vowels, F1 to F3 in Hz: G. E. Peterson and H. L. Barney, "Control methods used in a study
// of the vowels", 1952, for the vowels they have (from memory); the British ones and the consonants from memory.
var formants = map[string][][3]float64{
	"iː": {
		{270, 2290, 3010},
	},
	"ɪ":  {{390, 1990, 2550}},
	"e":  {{530, 1840, 2480}},
	"æ":  {{690, 1660, 2430}},
	"ʌ":  {{640, 1190, 2390}},
	"ɑː": {{710, 1100, 2440}},
	"ɒ":  {{590, 890, 2450}},
	"ɔː": {
		{450, 780, 2400},
	},
	"ʊ":  {{430, 1020, 2240}},
	"uː": {{300, 950, 2240}},
	"ɜː": {{490, 1400, 2300}},
	"ə":  {{500, 1450, 2450}},
	"eɪ": {
		{520, 1850, 2500},
		{350, 2150, 2700},
	},
	"aɪ": {{740, 1350, 2450}, {370, 2050, 2600}},
	"ɔɪ": {{540, 850, 2400}, {380, 2000, 2600}},
	"aʊ": {{740, 1350, 2450}, {400, 950, 2300}},
	"əʊ": {{500, 1400, 2400}, {390, 1000, 2300}},
	"m": {
		{260, 1050, 2150},
	},
	"n": {{270, 1550, 2500}},
	"ŋ": {{270, 1950, 2600}},
	"l": {{350, 1150, 2700}},
	"r": {{340, 1150, 1650}},
	"w": {{300, 680, 2200}},
	"j": {{270, 2200, 2950}},
	"v": {
		{260, 1150, 2300},
	},
	"z": {{260, 1500, 2500}},
	"ð": {{260, 1350, 2450}},
	"ʒ": {{260, 1700, 2400}},
	"h": {{500, 1450, 2450}},
}

// friction: centre and width of the noise in Hz, and its level.
var friction = map[string][3]float64{
	"s": {6300, 2600, 0.3},
	"z": {6300, 2600, 0.14},
	"ʃ": {3500, 1500, 0.3},
	"ʒ": {3400, 1500, 0.14},
	"f": {5200, 6000, 0.07},
	"v": {5200, 6000, 0.02},
	"θ": {5600, 6000, 0.055},
	"ð": {5600, 6000, 0.018},
}

// voiceLevel of a voiced consonant against a vowel.
var voiceLevel = map[string]float64{
	"m": 0.42,
	"n": 0.42,
	"ŋ": 0.38,
	"l": 0.6,
	"r": 0.6,
	"w": 0.5,
	"j": 0.5,
	"v": 0.28,
	"z": 0.22,
	"ð": 0.3,
	"ʒ": 0.22,
}

type speaker struct {
	f0, size float64 // Hz; formants are multiplied by size
	breath   float64 // noise in the voice, 0 is little
	falls    float64 // share of the pitch that is lost in a second, 0 is 0.06
	rng      *rand.Rand
}

// turn is how an added vowel comes: what vowel, how long, and how long the mouth takes to get there. No length is none.
type turn struct {
	vowel   string
	seconds float64
	move    float64
}

// resonator is a two-pole filter with unity gain at 0 Hz (D. H. Klatt, "Software for a cascade/parallel
// formant synthesizer", 1980).
type resonator struct{ y1, y2 float64 }

func (r *resonator) step(x, f, bw float64) float64 {
	c := -math.Exp(-2 * math.Pi * bw / rate)
	b := 2 * math.Exp(-math.Pi*bw/rate) * math.Cos(2*math.Pi*f/rate)
	y := (1-b-c)*x + b*r.y1 + c*r.y2
	r.y2, r.y1 = r.y1, y
	return y
}

// voiced renders a voiced stretch whose formants and level move between keys: seconds, F1 to F3, level.
type key struct {
	at, level float64
	f         [3]float64
	nasal     bool
}

func (s speaker) voiced(keys []key) []float64 {
	n := int(keys[len(keys)-1].at * rate)
	out := make([]float64, n)
	var bank [5]resonator
	phase, tilt := 0.0, 0.0
	jitter := 1.0
	for i := range out {
		t := float64(i) / rate
		k := 0
		for k < len(keys)-2 && t >= keys[k+1].at {
			k++
		}
		a, b := keys[k], keys[k+1]
		u := (t - a.at) / max(1e-6, b.at-a.at)
		mix := func(x, y float64) float64 { return x + (y-x)*u }
		phase += s.f0 * jitter * (1 - max(0.06, s.falls)*t) / rate
		if phase >= 1 {
			phase--
			jitter = 1 + 0.008*s.rng.NormFloat64()
		}
		// Rosenberg's glottal pulse (1971), differentiated by the lips.
		g := 0.0
		switch {
		case phase < 0.4:
			g = math.Sin(math.Pi * phase / 0.4)
		case phase < 0.56:
			g = -2.4 * math.Sin(math.Pi*(phase-0.4)/0.16)
		}
		tilt += 0.25 * (g - tilt)
		x := tilt + max(0.004, s.breath)*s.rng.NormFloat64()
		nasal := 0.0
		if a.nasal {
			nasal = 1
		}
		if b.nasal != a.nasal {
			nasal = map[bool]float64{true: 1 - u, false: u}[a.nasal]
		}
		for f := range 3 {
			bw := []float64{60, 90, 140}[f] * (1 + 1.5*nasal*float64(min(f, 1)))
			x = bank[f].step(x, mix(a.f[f], b.f[f])*s.size, bw)
			if f == 0 {
				x *= 1 - 0.2*nasal
			}
		}
		x = bank[3].step(x, 3500*s.size, 220)
		x = bank[4].step(x, 4500*s.size, 280)
		out[i] = x * mix(a.level, b.level)
	}
	return out
}

// noise is friction of a band, with a slow rise and fall.
func (s speaker) noise(centre, width, level, seconds, rise, fall float64) []float64 {
	out := make([]float64, int(seconds*rate))
	var a, b resonator
	last := 0.0
	for i := range out {
		w := s.rng.NormFloat64()
		x := a.step(w-last, centre*0.9, width) + 0.5*b.step(w-last, min(15_000, centre*1.25), width)
		last = w
		t := float64(i) / rate
		out[i] = x * level * min(1, t/rise, (seconds-t)/fall) * min(1, width/4000+0.4)
	}
	norm := 0.0
	for _, v := range out {
		norm = max(norm, math.Abs(v))
	}
	for i := range out {
		out[i] *= level / max(1e-9, norm)
	}
	return out
}

func add(out []float64, at int, in []float64) []float64 {
	for len(out) < at+len(in) {
		out = append(out, 0)
	}
	for i, v := range in {
		out[at+i] += v
	}
	return out
}

var schwa = formants["ə"][0]

// say renders a sound, with a vowel after it where the turn has a length.
func (s speaker) say(sound string, seconds float64, to turn) []float64 {
	vowel, schwa := to.seconds, schwa
	if to.vowel != "" {
		schwa = formants[to.vowel][0]
	}
	after := func(from [3]float64, level float64, nasal bool, hold float64) []float64 {
		keys := []key{{0, 0, from, nasal}, {0.04, level, from, nasal}, {hold, level, from, nasal}}
		if vowel > 0 {
			move := min(max(0.02, to.move), vowel*0.7)
			keys = append(
				keys,
				key{hold + move, 1, schwa, false},
				key{hold + vowel, 0.9, schwa, false},
				key{hold + vowel + 0.03, 0, schwa, false},
			)
		} else {
			keys = append(keys, key{hold + 0.05, 0, from, nasal})
		}
		return s.voiced(keys)
	}
	f := formants[sound]
	fr, rough := friction[sound]
	switch {
	case len(f) == 2: // two-part vowel
		return s.voiced(
			[]key{
				{0, 0, f[0], false},
				{0.04, 1, f[0], false},
				{seconds * 0.4, 1, f[0], false},
				{seconds * 0.85, 0.8, f[1], false},
				{seconds, 0, f[1], false},
			},
		)
	case voiceLevel[sound] == 0 && len(f) == 1 && sound != "h": // vowel
		return s.voiced(
			[]key{{0, 0, f[0], false}, {0.03, 1, f[0], false}, {seconds - 0.05, 0.85, f[0], false}, {seconds, 0, f[0], false}},
		)
	case voiceLevel[sound] > 0:
		nasal := sound == "m" || sound == "n" || sound == "ŋ"
		out := after(f[0], voiceLevel[sound], nasal, seconds)
		if rough {
			out = add(out, 0, s.noise(fr[0], fr[1], fr[2], seconds+0.02, 0.05, 0.05))
		}
		return out
	case rough: // voiceless friction
		out := s.noise(fr[0], fr[1], fr[2], seconds, 0.05, 0.06)
		if vowel > 0 {
			out = add(
				out,
				int((seconds-0.01)*rate),
				s.voiced(
					[]key{{0, 0, schwa, false}, {0.02, 1, schwa, false}, {vowel, 0.9, schwa, false}, {vowel + 0.03, 0, schwa, false}},
				),
			)
		}
		return out
	}
	return s.short(sound, seconds, vowel, schwa)
}

// short renders h, the stops and the affricates.
func (s speaker) short(sound string, seconds, vowel float64, schwa [3]float64) []float64 {
	burst := map[string][2]float64{
		"p": {900, 1200}, "b": {700, 1000}, "t": {4200, 2500}, "d": {3800, 2500},
		"k": {2000, 1200}, "ɡ": {1900, 1200}, "tʃ": {4000, 2000}, "dʒ": {3600, 2000}, "h": {1400, 2500},
	}[sound]
	var out []float64
	at := 0
	voicedOne := sound == "b" || sound == "d" || sound == "ɡ" || sound == "dʒ"
	if voicedOne {
		bar := s.voiced(
			[]key{
				{0, 0, [3]float64{220, 900, 2200}, true},
				{0.02, 0.16, [3]float64{220, 900, 2200}, true},
				{0.06, 0.12, [3]float64{220, 900, 2200}, true},
			},
		)
		out, at = add(out, 0, bar), len(bar)
	}
	switch sound {
	case "h":
		out = add(out, at, s.noise(burst[0], burst[1], 0.12, seconds, 0.04, 0.08))
		at = len(out)
	case "tʃ", "dʒ":
		out = add(out, at, s.noise(burst[0], burst[1], 0.35, 0.012, 0.001, 0.006))
		out = add(out, at+rate/100, s.noise(3500, 1500, 0.28, 0.09, 0.004, 0.05))
		at += rate * 9 / 100
	default:
		out = add(out, at, s.noise(burst[0], burst[1], 0.4, 0.012, 0.001, 0.008))
		if !voicedOne {
			out = add(out, at+rate/100, s.noise(burst[0]*1.2, 4000, 0.05, 0.05, 0.003, 0.04))
			at += rate * 5 / 100
		} else {
			at += rate / 100
		}
	}
	if voicedOne || vowel > 0 {
		hold, level := 0.03+0.03*s.rng.Float64(), 0.3
		if vowel > 0 {
			hold, level = vowel, 1
		}
		from := [3]float64{300, schwa[1], schwa[2]}
		out = add(
			out,
			at,
			s.voiced(
				[]key{
					{0, 0, from, false},
					{0.012, level, from, false},
					{0.04, level, schwa, false},
					{max(0.045, hold), level * 0.8, schwa, false},
					{max(0.045, hold) + 0.025, 0, schwa, false},
				},
			),
		)
	}
	return out
}

// speakers are made ones; each is a source of its own.
var speakers = []speaker{
	{105, 1, 0, 0, nil},
	{125, 1.02, 0.01, 0.2, nil},
	{150, 1.06, 0, 0.1, nil},
	{185, 1.14, 0.02, 0, nil},
	{205, 1.17, 0, 0.3, nil},
	{225, 1.18, 0.012, 0, nil},
	{245, 1.2, 0, 0.15, nil},
	{280, 1.24, 0.02, 0.1, nil},
	{95, 0.97, 0.015, 0.35, nil},
	{165, 1.1, 0, 0, nil},
	{215, 1.12, 0.03, 0.2, nil},
	{260, 1.22, 0.006, 0.3, nil},
}

// turnsOf are the vowels that are added to a sound: teachers say "buh" and "muh", and names such as "vee" and "zed".
func turnsOf(sound string, rng *rand.Rand) []turn {
	names := []string{"ə", "ə", "ʌ", "ɜː"}
	if _, rough := friction[sound]; rough {
		names = []string{"ə", "ə", "iː", "e", "ɑː", "uː"}
	}
	var out []turn
	for _, v := range []float64{0.06, 0.12, 0.2, 0.3} {
		out = append(out, turn{names[rng.IntN(len(names))], v, 0.02 + 0.13*rng.Float64()})
	}
	return out
}

func synthetic() []piece {
	var out []piece
	for i, sp := range speakers {
		for k, sound := range allSounds {
			sp.rng = rand.New(rand.NewPCG(uint64(i), uint64(k)))
			seconds := 0.4 + 0.4*sp.rng.Float64()
			if isVowel(sound) {
				seconds = 0.3 + 0.3*sp.rng.Float64()
			}
			if sound == "h" {
				seconds = 0.2
			}
			engine := fmt.Sprintf("formants-%d", i)
			out = append(out, piece{sp.say(sound, seconds, turn{}), rate, sound, 0, engine})
			if isVowel(sound) {
				continue
			}
			for _, to := range turnsOf(sound, sp.rng) {
				out = append(out, piece{sp.say(sound, seconds*0.8, to), rate, sound, to.seconds, engine})
			}
		}
	}
	return out
}

var allSounds = []string{
	"m",
	"n",
	"ŋ",
	"l",
	"r",
	"w",
	"j",
	"v",
	"z",
	"ð",
	"ʒ",
	"f",
	"s",
	"ʃ",
	"θ",
	"h",
	"p",
	"t",
	"k",
	"tʃ",
	"b",
	"d",
	"ɡ",
	"dʒ",
	"iː",
	"ɪ",
	"e",
	"æ",
	"ʌ",
	"ɑː",
	"ɒ",
	"ɔː",
	"ʊ",
	"uː",
	"ɜː",
	"eɪ",
	"aɪ",
	"ɔɪ",
	"aʊ",
	"əʊ",
}

func isVowel(s string) bool {
	_, f := formants[s]
	return f && voiceLevel[s] == 0 && s != "h"
}
