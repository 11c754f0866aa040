package review_test

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/review"
)

// lived are histories of classes that forget by a factor faster or slower than usual: what was kept is drawn by the
// memory itself, over days that are so much longer.
func lived(factor float64, cards int, seed uint64) [][]review.Meeting {
	r := rand.New(rand.NewPCG(seed, 1))
	begin := time.Date(2026, 9, 7, 9, 0, 0, 0, time.UTC)
	var out [][]review.Meeting
	for range cards {
		at := begin.AddDate(0, 0, r.IntN(60))
		sure := review.Sureness(1 + r.IntN(3))
		h := []review.Meeting{{At: at, Sure: sure}}
		felt := at // as long as it feels to the class
		s := review.Update(review.Seen{}, felt, sure)
		for range 5 {
			days := 1 + r.IntN(20)
			at = at.AddDate(0, 0, days)
			felt = felt.Add(time.Duration(float64(days) * factor * float64(24*time.Hour)))
			sure = review.Sure
			if r.Float64() > s.Retrievability(felt) {
				sure = review.NotYet
			}
			h = append(h, review.Meeting{At: at, Sure: sure})
			s = review.Update(s, felt, sure)
		}
		out = append(out, h)
	}
	return out
}

func TestClassesThatForgetFasterAreForetoldBetterByAFit(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	got, err := review.FitTo(lived(8, 200, 1))
	require.NoError(t, err)
	t.Logf("%d meetings, %d lapses, held out %d: %.4f before, %.4f after", got.Meetings, got.Lapses, got.Held, got.Before,
		got.After)
	assert.True(t, got.Better)
	assert.Greater(t, got.After, got.Before+0.005)
	assert.InDelta(t, 0.25, float64(got.Held)/float64(got.Held+got.Meetings), 0.01)
	at := time.Date(2026, 9, 7, 9, 0, 0, 0, time.UTC)
	usual := review.Update(review.Seen{}, at, review.Sure)
	fast := review.Update(review.Seen{Memory: got.Memory()}, at, review.Sure)
	assert.Less(t, fast.StabilityDays(), usual.StabilityDays()/2)
	assert.Less(t, fast.Retrievability(at.AddDate(0, 0, 10)), usual.Retrievability(at.AddDate(0, 0, 10)))
}

// The likelihood of one meeting by hand: a sure first meeting has the stability of the third weight, 3.173 days, and
// after as many days nine tenths are left.
func TestWhatForgetsAsUsualIsLeftAsItIs(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	got, err := review.FitTo(lived(1, 200, 2))
	require.NoError(t, err)
	assert.InDelta(t, got.Before, got.After, 0.01, "there is little to be won")
	assert.Len(t, got.Weights, 19)
	if !got.Better {
		s := review.Update(review.Seen{Memory: got.Memory()}, time.Now(), review.Sure)
		assert.InDelta(t, 3.173, s.StabilityDays(), 0.001)
	}
	assert.False(t, math.IsNaN(got.After))
}

func TestFewLogsAreNotFittedTo(t *testing.T) {
	_, err := review.FitTo(nil)
	require.ErrorIs(t, err, review.ErrFew)
	_, err = review.FitTo(lived(1, 40, 3))
	assert.ErrorContains(t, err, "There are 200 meetings after the first")
	calm := lived(0.01, 100, 4)
	_, err = review.FitTo(calm)
	assert.ErrorIs(t, err, review.ErrFew, "nothing was forgotten")
	assert.Equal(t, review.Memory{}, review.Fit{Weights: make([]float64, 19)}.Memory(), "not better: as usual")
	assert.Equal(t, review.Memory{}, review.Fit{Better: true}.Memory(), "no weights: as usual")
}
