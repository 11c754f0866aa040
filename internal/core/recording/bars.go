package recording

import (
	"brightchalk/internal/core/phoneme"
)

// limit is what is asked of the takes of a sound; what is 0 is not asked.
type limit struct {
	class Class           // the row is for a whole class,
	sound phoneme.Phoneme // or for one sound, and then goes over its class's

	minMs, maxMs int     // of the sound
	vowelMs      int     // from which on a voiced end is an added vowel
	turn         float64 // score from which on a hum or a buzz turns into one
	voiceLeast   float64 // share of voiced frames, 0 to 1
	voiceMost    float64
	centreLeast  float64 // centre of the spectrum above 1 kHz, in Hz; outside it is another sound,
	doubtLeast   float64 // outside of these perhaps
	doubtMost    float64
	darkMost     float64 // power under 900 Hz against that over 1.8 kHz, in dB; over it is no breath of the mouth
	source       string
}

// Where the figures come from.
const (
	fromSet    = "the sources for tuning of tools/takes, 2026-11-25"
	fromTrials = "common practice, no published source; tried on the sources for tuning"
)

// bars are the judgement of lengths, voice and breath, sound by sound.
var bars = []limit{
	{class: Hum, minMs: 120, vowelMs: 45, turn: -0.2, voiceLeast: 0.3, source: fromSet},
	{class: Buzz, minMs: 120, vowelMs: 45, turn: -0.2, voiceLeast: 0.2, source: fromSet},
	{class: Breath, minMs: 120, vowelMs: 45, voiceMost: 0.5, source: fromSet},
	{class: ShortOff, minMs: 25, maxMs: 450, vowelMs: 45, source: fromSet}, // the longest with its echo has 405
	{class: ShortOn, minMs: 25, maxMs: 450, vowelMs: 75, source: fromSet},
	{class: ShortWord, minMs: 25, vowelMs: 60, source: fromTrials},
	{class: Vowel, minMs: 25, voiceLeast: 0.3, source: fromTrials},
	{class: Glide, minMs: 25, voiceLeast: 0.3, source: fromTrials},
	{sound: "w", minMs: 60, source: fromTrials},
	{sound: "j", minMs: 60, source: fromTrials},
	{sound: "h", minMs: 60, voiceMost: 1, source: fromTrials}, // it takes the voice of what is breathed after it
	// Three quarters of the lowest of the set; the doubts after the ranges in A. Jongman, R. Wayland and S. Wong, Acoustic
	// characteristics of English fricatives, 2000 (from memory).
	{sound: "s", centreLeast: 2600, doubtLeast: 3000, darkMost: -10, source: fromSet},
	{sound: "z", doubtLeast: 3000, source: fromSet},
	{sound: "ʃ", centreLeast: 1900, doubtLeast: 2200, doubtMost: 6000, darkMost: 3, source: fromSet},
	{sound: "f", centreLeast: 2200, darkMost: 5, source: fromSet},
	{sound: "θ", centreLeast: 2300, darkMost: 5, source: fromSet},
}

// limits is the row of a target's class with what the row of its sound says otherwise.
func limits(t Target) (out limit) {
	for _, b := range bars {
		switch {
		case b.class != "" && b.class == t.Class:
			out = b
		case b.sound != "" && b.sound == t.first() && len(t.Sounds) == 1:
			out.minMs = over(out.minMs, b.minMs)
			out.voiceMost = over(out.voiceMost, b.voiceMost)
			out.centreLeast, out.doubtLeast, out.doubtMost = b.centreLeast, b.doubtLeast, b.doubtMost
			out.darkMost, out.sound, out.source = b.darkMost, b.sound, b.source
		}
	}
	return out
}

func over[N int | float64](class, sound N) N {
	if sound != 0 {
		return sound
	}
	return class
}
