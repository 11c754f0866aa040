package recording

import (
	"math"
	"slices"
)

// addedVowel is the length in ms of a vowel after the consonant, 0 where none shows, and how sure that is:
// the score against its threshold.
func (a *analysis) addedVowel() (ms int, score float64) {
	switch a.target.Class {
	case Vowel, Glide:
		return 0, 0
	case Breath, ShortOff:
		return a.voicedTail(), 0
	case ShortOn:
		return a.vowelAfterBurst(), 0
	case ShortWord: // the w of kw is voiced: only what goes on after it is too much
		return max(0, a.voicedTail()-120), 0
	}
	t := a.bestTurn()
	if t.At == 0 {
		return 0, 0
	}
	return max(0, a.span.to-t.At) * hopMs, t.Score
}

// voicedTail is the voiced run at the end of a sound without voice. It is a vowel only where it comes nearly as
// loud as the loudest frame: a murmur after a burst does not. Behind the last loud frame rooms and creak leave an
// end without voice, which does not count.
func (a *analysis) voicedTail() int {
	const loud, heard, most = 12, 27, 6 // dB under the peak, and frames of a gap
	last := min(a.span.to, len(a.levels)-1)
	for last > a.span.from && a.levels[last] < a.span.peak-loud {
		last--
	}
	near := false // the run holds a loud frame
	run, gap := 0, 0
	for i := last; i >= a.span.from; i-- {
		switch {
		case a.voice.nearly[i] && a.levels[i] > a.span.peak-heard:
			run += gap + 1
			gap = 0
			near = near || a.levels[i] > a.span.peak-loud
		case gap < most:
			gap++
		default:
			i = -1
		}
	}
	if !near {
		return 0
	}
	for i := last + 1; i <= a.span.to && i < len(a.levels) && a.voice.nearly[i]; i++ {
		run++
	}
	return run * hopMs
}

// secondMissing says what is not heard of a unit of two sounds: the voiced glide of kw, the hiss of ks. It is empty
// where both are there, and for single sounds.
func (a *analysis) secondMissing() string {
	const least = 40 // ms
	switch a.target.Text {
	case "kw":
		if a.voicedTail() < least {
			return "Only the first sound is heard. This spelling says two, k and w: say them close together."
		}
	case "ks":
		n := 0
		for i := a.span.from + 5; i <= a.span.to && i < len(a.frames); i++ { // behind the burst
			if !a.voice.voiced[i] && a.levels[i] > a.span.peak-25 && a.frames[i].between(5, 7) > a.frames[i].between(2, 3) {
				n++
			}
		}
		if n*hopMs < least {
			return "Only the first sound is heard. This spelling says two, k and s: say them close together."
		}
	}
	return ""
}

// frictionBefore tells whether weak friction goes before a loud vowel, too weak to be taken for the start of
// the sound: in the 150 ms before the voice the highs stand above what the quietest tenth of the take holds, for 30
// ms by 6 dB or for 60 ms by 3 dB.
func (a *analysis) frictionBefore() bool {
	const before = 30 // frames
	highs := make([]float64, len(a.frames))
	for i := range a.frames {
		highs[i] = a.frames[i].between(5, 7)
	}
	sorted := slices.Clone(highs)
	slices.Sort(sorted)
	noise := sorted[len(sorted)/10]
	first := a.span.from
	for first < a.span.to && !a.voice.voiced[first] {
		first++
	}
	plain, faint := 0, 0
	for i := max(0, first-before); i < first-2 && i < len(highs); i++ {
		if highs[i] > noise+6 {
			plain++
		}
		if highs[i] > noise+3 {
			faint++
		}
	}
	return plain >= 6 || faint >= 12
}

// vowelAfterBurst is the length of the voiced frames after the burst whose middle band, 450 to 3000 Hz, is a real
// share of its greatest. Before the burst, the steepest rise above 900 Hz, a murmur has few mids; the voiced
// friction of dʒ has highs as strong as its mids.
func (a *analysis) vowelAfterBurst() int {
	low := func(i int) float64 { return a.frames[i].between(0, 1) }
	mid := func(i int) float64 { return a.frames[i].between(2, 4) }
	upper := func(i int) float64 { return a.frames[i].between(3, 7) }
	high := func(i int) float64 { return a.frames[i].between(5, 7) }
	to := min(a.span.to, len(a.frames)-1)
	burst, steepest := a.span.from, math.Inf(-1)
	for i := max(2, a.span.from-2); i <= to; i++ {
		if rise := upper(i) - upper(i-2); rise > steepest && a.levels[i] > a.span.peak-30 {
			burst, steepest = i, rise
		}
	}
	most := math.Inf(-1)
	for i := a.span.from; i <= to; i++ {
		most = max(most, mid(i))
	}
	rough := a.target.first() == "dʒ"
	n := 0
	for i := a.span.from; i <= to; i++ {
		switch {
		case !a.voice.nearly[i], mid(i) <= most-14:
		case i < burst && mid(i) < low(i)-10, mid(i) < low(i)-21:
		case rough && high(i) > mid(i)-6:
		default:
			n++
		}
	}
	return n * hopMs
}
