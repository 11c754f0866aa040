package review_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/review"
)

var now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

func seen(id string, days int, sure review.Sureness, streak int) review.Seen {
	return review.Seen{CardID: id, Last: now.AddDate(0, 0, -days), Sure: sure, Streak: streak, Times: 3}
}

// The warm-up pack drops what is secure: common practice, no published source.
func TestSecureCardsRestAndShakyOnesReturn(t *testing.T) {
	log := []review.Seen{
		seen("secure", 3, review.Secure, 3),
		seen("shaky", 2, review.Shaky, 0),
		seen("sure", 2, review.Sure, 0),
		seen("new", 1, review.NotYet, 0),
		seen("long ago", 40, review.Secure, 5),
	}
	picks, resting := review.Choose(log, 10, now, rand.New(rand.NewPCG(1, 1)))
	assert.Equal(t, 1, resting)
	var ids []string
	for _, p := range picks {
		ids = append(ids, p.CardID)
		assert.NotEmpty(t, p.Because)
	}
	assert.NotContains(t, ids, "secure")
	assert.Contains(t, ids, "long ago", "a secure card comes back after its rest")
	assert.Equal(t, "new", ids[0])
	assert.Less(t, index(ids, "shaky"), index(ids, "sure"))
	few, _ := review.Choose(log, 2, now, rand.New(rand.NewPCG(1, 1)))
	assert.Len(t, few, 2)
}

func index(list []string, s string) int {
	for i, x := range list {
		if x == s {
			return i
		}
	}
	return -1
}

func TestUpdate(t *testing.T) {
	s := review.Update(review.Seen{}, now, review.Secure)
	s = review.Update(s, now, review.Secure)
	assert.Equal(t, 2, s.Streak)
	s = review.Update(s, now, review.Shaky)
	assert.Zero(t, s.Streak)
	assert.Equal(t, 3, s.Times)
}

func ExampleChoose() {
	picks, _ := review.Choose([]review.Seen{seen("m", 1, review.Shaky, 0)}, 5, now, rand.New(rand.NewPCG(1, 1)))
	fmt.Println(picks[0].CardID, "-", picks[0].Because)
	// Output: m - shaky when last met, yesterday
}
