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
	return a.turnsVowel()
}

// voicedTail is the voiced run at the end of a sound without voice. It is a vowel only where it comes nearly as loud as
// the loudest frame: a murmur after a burst does not. Behind the last loud frame rooms and creak leave an end without
// voice, which does not count.
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
	return run * 5
}

// frictionBefore tells whether weak friction goes before a loud vowel, too weak to be taken for the start of
// the sound: in the 150 ms before the voice the highs stand for at least 30 ms above what the quietest tenth of the
// take holds.
func (a *analysis) frictionBefore() bool {
	const before, least, above = 30, 6, 6.0 // frames, frames, dB
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
	n := 0
	for i := max(0, first-before); i < first-2 && i < len(highs); i++ {
		if highs[i] > noise+above {
			n++
		}
	}
	return n >= least
}

// vowelAfterBurst is the length of the voiced frames after the burst whose middle band, 450 to 3000 Hz, is a real share
// of its greatest. Before the burst, the steepest rise above 900 Hz, a murmur has few mids; the voiced friction of dʒ has
// highs as strong as its mids.
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
	return n * 5
}

// turnWeights weigh, in turn, by how many tens of dB the lows, the band of the first formant of a neutral
// vowel, the middle and the highs go up, how the bands stand to one another afterwards, and a constant; by
// logistic regression on the tuning half of the set of tools/takes.
var turnWeights = map[Class][8]float64{
	Hum:  {-1.2, 2.06, -0.35, 0.07, 1.5, -0.91, -1.29, -5.96},
	Buzz: {0.71, 1.79, 0.55, -0.86, 1.48, -0.75, -0.94, -5.4},
}

// turnsVowel looks for the moment from which a hum or a buzz has turned into a vowel: the level goes up, the
// middle of the spectrum comes up against the lows, high friction goes down, and the voice goes on. A change in
// any other direction, such as the onset, does not count.
func (a *analysis) turnsVowel() (ms int, best float64) {
	const side, skip = 10, 3 // frames compared on each side, and left out around the moment
	from, to := a.span.from, min(a.span.to, len(a.frames)-1)
	mean := func(lo, hi int, of func(f *frame) float64) float64 {
		sum := 0.0
		for i := lo; i < hi; i++ {
			sum += of(&a.frames[i])
		}
		return sum / float64(hi-lo)
	}
	low := func(f *frame) float64 { return f.between(0, 0) }
	first := func(f *frame) float64 { return f.between(2, 2) } // where the first formant of a neutral vowel lies
	mid := func(f *frame) float64 { return f.between(3, 4) }
	high := func(f *frame) float64 { return f.between(6, 7) }
	at := 0
	best = math.Inf(-1)
	for t := from + 12; t <= to-7; t++ {
		a1, a2 := max(from+2, t-skip-side), t-skip
		b1 := t + skip
		b2 := min(b1+side, to-1)
		if a2-a1 < 4 || b2-b1 < 3 {
			continue
		}
		voiced := 0
		for i := b1; i < b2; i++ {
			if a.voice.voiced[i] {
				voiced++
			}
		}
		if voiced*10 < (b2-b1)*6 {
			continue
		}
		up := func(of func(f *frame) float64) float64 { return mean(b1, b2, of) - mean(a1, a2, of) }
		dLow, dFirst, dMid, dHigh := up(low), up(first), up(mid), up(high)
		lo, fi, mi, hi := mean(b1, b2, low), mean(b1, b2, first), mean(b1, b2, mid), mean(b1, b2, high)
		x := [...]float64{dLow, dFirst, dMid, dHigh, fi - lo, mi - fi, hi - mi}
		w := turnWeights[a.target.Class]
		score := w[len(x)]
		for i, v := range x {
			score += w[i] * max(-20, min(20, v)) / 10
		}
		if score > best {
			best, at = score, t
		}
	}
	if at == 0 {
		return 0, 0
	}
	return max(0, to-at) * 5, best
}
