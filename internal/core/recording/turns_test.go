package recording

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The features of each moment, worked out again frame by frame without running sums, over frames of chance.
func TestFeaturesOfATurn(t *testing.T) {
	for seed, length := range []int{23, 30, 47, 80, 120} {
		rng := rand.New(rand.NewPCG(uint64(seed), 4))
		a := quietTake(length)
		if seed%2 == 1 {
			a.target = aim("z")
		}
		for i := range a.frames {
			a.levels[i], a.voice.strength[i] = -30+20*rng.Float64(), 0.3+0.7*rng.Float64()
			for b := range a.frames[i].power {
				a.frames[i].power[b] = math.Pow(10, -6+4*rng.Float64())
			}
			for b := range a.frames[i].mel {
				a.frames[i].mel[b] = float32(-60 + 40*rng.Float64())
			}
		}
		over := func(lo, hi int, of func(i int) float64) float64 {
			sum := 0.0
			for i := lo; i < hi; i++ {
				sum += of(i)
			}
			return sum / float64(hi-lo)
		}
		first, last := a.span.from, a.span.to
		var want []Turn
		for at := first; at <= last; at++ {
			// 30 ms at the start and 10 at the end do not count; of what is left 10 ms on each side of the moment are
			// left out, and 120 at the most are compared; 30 before it and 25 behind it at the least.
			before := [2]int{max(first+6, at-26), at - 2}
			after := [2]int{at + 2, min(at+26, last-2)}
			if before[1]-before[0] < 6 || at-2-(first+6) < 6 || last-2-(at+2) < 5 {
				continue
			}
			voice := func(i int) float64 { return a.voice.strength[i] }
			if over(after[0], after[1], voice) < 0.5 {
				continue
			}
			band := func(side [2]int, lo, hi int) float64 {
				return over(side[0], side[1], func(i int) float64 { return a.frames[i].between(lo, hi) })
			}
			shape := 0.0
			for b := range melCount {
				part := func(i int) float64 {
					mean := 0.0
					for _, v := range a.frames[i].mel {
						mean += float64(v) / melCount
					}
					return float64(a.frames[i].mel[b]) - mean
				}
				shape += math.Pow(over(after[0], after[1], part)-over(before[0], before[1], part), 2) / melCount
			}
			level := func(i int) float64 { return a.levels[i] }
			tens := func(db float64) float64 { return math.Max(-3, math.Min(3, db/10)) }
			low := tens(band(after, 0, 0) - band(before, 0, 0))
			mid := tens(band(after, 2, 4) - band(before, 2, 4))
			x := [turnFeatures]float64{
				math.Sqrt(shape) / 10, tens(over(after[0], after[1], level) - over(before[0], before[1], level)),
				low, mid - low, tens(band(after, 5, 7) - band(before, 5, 7)), tens(band(after, 5, 7) - band(after, 2, 4)),
				tens(band(after, 2, 4) - band(after, 0, 0)), tens(band(before, 2, 4) - band(before, 0, 0)),
				over(after[0], after[1], voice), over(before[0], before[1], voice), math.Min(1, float64(last-at)/60), 1,
			}
			score := 0.0
			for i, v := range x {
				score += turnWeights[a.target.Class][i] * v
			}
			want = append(want, Turn{At: at, Features: x, Score: score})
		}
		got := a.turns()
		require.Len(t, got, len(want), "%d frames", length)
		best := Turn{Score: math.Inf(-1)}
		for i, w := range want {
			assert.Equal(t, w.At, got[i].At)
			assert.InDelta(t, w.Score, got[i].Score, 1e-9)
			for k := range w.Features {
				assert.InDelta(t, w.Features[k], got[i].Features[k], 1e-9, "feature %d at %d", k, w.At)
			}
			if w.Score > best.Score {
				best = w
			}
		}
		assert.Equal(t, best.At, a.bestTurn().At)
		short := *a
		short.frames = a.frames[:a.span.to] // the spectra may end before the sound
		for _, k := range short.turns() {
			assert.Less(t, k.At, a.span.to-9)
		}
	}
}
