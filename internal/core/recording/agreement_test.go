package recording_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/recording"
)

// table makes the answers of two listeners from how often they say yes-yes, yes-no, no-yes and no-no.
func table(yy, yn, ny, nn int) (a, b []bool) {
	for i, n := range []int{yy, yn, ny, nn} {
		for range n {
			a, b = append(a, i < 2), append(b, i%2 == 0)
		}
	}
	return a, b
}

func TestKappa(t *testing.T) {
	for _, c := range []struct {
		yy, yn, ny, nn int
		kappa, agree   float64
		word           string
	}{
		// The worked example that textbooks give: 20, 5, 10, 15 of 50 make 0.40.
		{20, 5, 10, 15, 0.40, 0.70, "fair"},
		// A. R. Feinstein and D. V. Cicchetti, High agreement but low kappa, 1990 (from memory): 85 % agreement twice, with
		// even and uneven margins.
		{40, 9, 6, 45, 0.70, 0.85, "substantial"},
		{80, 10, 5, 5, 0.32, 0.85, "fair"},
		{10, 0, 0, 10, 1, 1, "almost perfect"},
		{0, 10, 10, 0, -1, 0, "poor"},
		{8, 1, 1, 0, -0.11, 0.8, "too little to tell"},
	} {
		a, b := table(c.yy, c.yn, c.ny, c.nn)
		got := recording.Kappa(a, b)
		assert.InDelta(t, c.kappa, got.Kappa, 0.005, "%v", c)
		assert.InDelta(t, c.agree, got.Agree, 1e-9)
		assert.Equal(t, c.word, got.Word, "%v", c)
		assert.True(t, got.Known)
		assert.LessOrEqual(t, got.Low, got.Kappa)
		assert.GreaterOrEqual(t, got.High, got.Kappa)
		turned := recording.Kappa(b, a)
		assert.InDelta(t, got.Kappa, turned.Kappa, 1e-12, "the same whoever is named first")
	}
	a, b := table(20, 5, 10, 15)
	assert.InDelta(t, 0.40+1.96*0.1296, recording.Kappa(a, b).High, 0.001, "standard error: root of 0.7·0.3/50, by 1-0.5")
	for _, all := range [][2][]bool{{nil, nil}, {{true, true}, {true, true}}} {
		got := recording.Kappa(all[0], all[1])
		assert.False(t, got.Known)
		assert.Equal(t, "too little to tell", got.Word)
	}
}
