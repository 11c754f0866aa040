package review_test

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/review"
)

// The vector that go-fsrs v3.3.1 carries for its long-term scheduler (fsrs_test.go, TestLongTermScheduler): stabilities
// after Good six times, Again twice, Good five times, each on the day that it is due.
func TestStabilitiesArePublished(t *testing.T) {
	at := time.Date(2022, 11, 29, 12, 30, 0, 0, time.UTC)
	sure := []review.Sureness{2, 2, 2, 2, 2, 2, 0, 0, 2, 2, 2, 2, 2}
	days := []int{3, 11, 35, 101, 269, 669, 12, 2, 5, 12, 26, 55, 112}
	want := []float64{
		3.173, 10.7389, 34.5776, 100.7483, 269.2838, 669.3093, 11.8987, 2.236, 5.2001, 11.8993, 26.4917, 55.4949, 111.9726,
	}
	var s review.Seen
	for i, how := range sure {
		s = review.Update(s, at, how)
		assert.InDelta(t, want[i], s.StabilityDays(), 0.00006)
		at = at.AddDate(0, 0, days[i])
	}
	assert.Equal(t, 2, s.Lapses)
}

// By its definition a card is kept at nine tenths after as many days as its stability (Ye, Su and Cao 2022).
func TestRetrievabilityFallsToNineTenthsWithinTheStability(t *testing.T) {
	for _, sure := range []review.Sureness{review.NotYet, review.Shaky, review.Sure, review.Secure} {
		s := review.Update(review.Seen{}, now, sure)
		assert.InDelta(t, 1, s.Retrievability(now), 1e-9)
		assert.InDelta(t, 0.9, s.Retrievability(now.Add(time.Duration(s.StabilityDays()*24*float64(time.Hour)))), 1e-6)
		assert.InDelta(t, s.StabilityDays()*24, s.Due().Sub(now).Hours(), 0.51)
		assert.Less(t, s.Retrievability(now.AddDate(0, 3, 0)), s.Retrievability(now.AddDate(0, 1, 0)))
	}
	assert.Zero(t, review.Seen{}.Retrievability(now))
	assert.Equal(t, review.NotMet, review.FadingCards(0))
	assert.Equal(t,
		[]review.Fading{review.Fresh, review.Holds, review.Fades, review.Faded},
		[]review.Fading{review.FadingCards(0.95), review.FadingCards(0.9), review.FadingCards(0.75), review.FadingCards(0.7)},
	)
}

func TestALogOutOfOrderAndAMeetingInTheFutureDoNoHarm(t *testing.T) {
	s := review.Update(review.Update(review.Seen{}, now, review.Sure), now.AddDate(0, 0, -9), review.Shaky)
	assert.False(t, math.IsNaN(s.Retrievability(now)) || s.StabilityDays() <= 0)
	assert.InDelta(t, 1, review.Update(review.Seen{}, now.AddDate(0, 0, 9), review.Sure).Retrievability(now), 1e-9)
}

func TestTheNewestComesBackInEachOfTheNextFiveLessons(t *testing.T) {
	old := review.Seen{CardID: "old"}
	for i := range 9 {
		old = review.Update(old, now.AddDate(0, 0, -60+i), review.Shaky)
	}
	fresh := review.Seen{CardID: "fresh"}
	for lesson := range 7 {
		day := now.AddDate(0, 0, lesson)
		picks, _ := review.Choose([]review.Seen{old, fresh}, 1, day, rand.New(rand.NewPCG(1, 1)))
		if lesson > 0 {
			assert.Equal(t, lesson <= 5, picks[0].CardID == "fresh", "lesson %d after its own: %v", lesson, picks)
		}
		fresh = review.Update(fresh, day, review.Secure)
	}
}

// Over a school year with four new cards a week the deck that is due stays within what a warm-up holds.
func TestThePackStaysBoundedOverAYear(t *testing.T) {
	y := year{rule: review.Choose, cards: 79, perWeek: 4, deck: 24, seed: 3}
	got := y.run()
	t.Logf(
		"mean retrievability %.3f, lowest day %.3f, due cards on the worst day %d of %d",
		got.mean,
		got.lowest,
		got.most,
		y.cards,
	)
	assert.Greater(t, got.mean, 0.9)
	assert.LessOrEqual(t, got.most, y.deck+8)
}
