package recording

import (
	"cmp"
	"math"
	"slices"
)

// Turn is a moment of a hum or a buzz at which it may turn into a vowel.
type Turn struct {
	At       int // frame of 5 ms
	Features [turnFeatures]float64
	Score    float64 // log odds that it does
}

const turnFeatures = 12

// Lengths in frames of 5 ms around a moment: as much as 120 ms is compared on each side, 10 ms are left out
// between, and the first 30 ms and the last 10 ms of the sound do not count.
const (
	turnSide    = 24
	turnGuard   = 2
	turnAttack  = 6
	turnRelease = 2
	minBefore   = 6
	minAfter    = 5
)

// turnWeights weigh the features in the order of their definition; by logistic regression on the sources for tuning
// of the set of tools/takes (-fit), with the best-scoring moment of each pure take as its negative.
var turnWeights = map[Class][turnFeatures]float64{
	Hum:  {3, -1.74, 3.59, 3.65, 0.58, -0.85, 2.88, -1.13, -5.43, 2.31, -0.57, -2.91},
	Buzz: {4.66, 0.57, 4, 3.9, 0.1, -0.64, 1.69, -2.64, -3.64, -1.04, -1.55, -3.35},
}

// quantities of a frame whose means are compared.
const (
	qLevel = iota
	qLow
	qMid
	qHigh
	qVoice
	qMel
	qCount = qMel + melCount
)

// Turns are the moments at which the sound may turn, with what is compared there: on both sides the shape of the
// spectrum in 20 mel bands without its mean, the level, the mids against the lows, the highs against the rest, and
// the voice.
func (a *analysis) turns() []Turn {
	from, to := a.span.from, min(a.span.to, len(a.frames)-1)
	if to-from < turnAttack+minBefore+2*turnGuard+minAfter+turnRelease {
		return nil
	}
	sums := make([][qCount]float64, to-from+2)
	for i := from; i <= to; i++ {
		f := &a.frames[i]
		row := &sums[i-from+1]
		*row = sums[i-from]
		row[qLevel] += a.levels[i]
		row[qLow] += f.between(0, 0)
		row[qMid] += f.between(2, 4)
		row[qHigh] += f.between(5, 7)
		row[qVoice] += a.voice.strength[i]
		mean := 0.0
		for _, v := range f.mel {
			mean += float64(v)
		}
		mean /= melCount
		for b, v := range f.mel {
			row[qMel+b] += float64(v) - mean
		}
	}
	mean := func(lo, hi int) (out [qCount]float64) {
		n := float64(hi - lo)
		for q := range out {
			out[q] = (sums[hi-from][q] - sums[lo-from][q]) / n
		}
		return out
	}
	w := turnWeights[a.target.Class]
	var out []Turn
	for t := from + turnAttack + minBefore + turnGuard; t+turnGuard+minAfter <= to-turnRelease; t++ {
		a2 := t - turnGuard
		a1 := max(from+turnAttack, a2-turnSide)
		b1 := t + turnGuard
		b2 := min(b1+turnSide, to-turnRelease)
		before, after := mean(a1, a2), mean(b1, b2)
		if after[qVoice] < 0.5 {
			continue
		}
		shape := 0.0
		for b := range melCount {
			d := after[qMel+b] - before[qMel+b]
			shape += d * d
		}
		up := func(q int) float64 { return clampDB(after[q] - before[q]) }
		x := [turnFeatures]float64{
			math.Sqrt(shape/melCount) / 10,
			up(qLevel),
			up(qLow),
			up(qMid) - up(qLow),
			up(qHigh),
			clampDB(after[qHigh] - after[qMid]),
			clampDB(after[qMid] - after[qLow]),
			clampDB(before[qMid] - before[qLow]),
			after[qVoice],
			before[qVoice],
			min(1, float64(to-t)/60),
			1,
		}
		k := Turn{At: t, Features: x}
		for i, v := range x {
			k.Score += w[i] * v
		}
		out = append(out, k)
	}
	return out
}

// clampDB is a difference in tens of dB, within 3.
func clampDB(db float64) float64 { return max(-3, min(3, db/10)) }

// bestTurn is the moment at which the sound most likely turns; At is 0 where there is none.
func (a *analysis) bestTurn() Turn {
	list := a.turns()
	if len(list) == 0 {
		return Turn{}
	}
	return slices.MaxFunc(list, func(x, y Turn) int { return cmp.Compare(x.Score, y.Score) })
}

// Turns are the moments at which a take of a hum or a buzz may turn into a vowel, for the fitting of the weights;
// none for other sounds.
func Turns(take Clip, target Target) []Turn {
	if target.Class != Hum && target.Class != Buzz || take.Hertz < 4000 || len(take.Samples) == 0 {
		return nil
	}
	return analysed(newSignal(take), target).turns()
}
