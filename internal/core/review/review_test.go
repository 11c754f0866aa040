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

func TestWhatWouldBeLostSoonestReturnsAndWhatIsSecureRests(t *testing.T) {
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
	assert.Less(t, index(ids, "new"), index(ids, "sure"))
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

func pick(t *testing.T, s review.Seen) (string, bool) {
	t.Helper()
	picks, _ := review.Choose([]review.Seen{s}, 1, now, rand.New(rand.NewPCG(1, 1)))
	if len(picks) == 0 {
		return "", false
	}
	return picks[0].Because, true
}

func TestReasons(t *testing.T) {
	for days, want := range map[int]string{
		0: "sure, last met today", 1: "sure, last met yesterday", 2: "sure, last met 2 days ago",
		9: "sure, last met 9 days ago",
	} {
		got, _ := pick(t, seen("x", days, review.Sure, 0))
		assert.Equal(t, want, got)
	}
	for sure, want := range map[review.Sureness]string{
		review.NotYet: "not yet known when last met, today", review.Shaky: "shaky when last met, today",
	} {
		got, _ := pick(t, seen("x", 0, sure, 0))
		assert.Equal(t, want, got)
	}
}

// Met on one day, not yet known goes before shaky, shaky before sure, and what is secure rests; what is long not met
// has faded further than what was not known yesterday.
func TestNeed(t *testing.T) {
	log := []review.Seen{
		seen("secure", 1, review.Secure, 0), seen("sure", 1, review.Sure, 0), seen("shaky", 1, review.Shaky, 0),
		seen("not yet", 1, review.NotYet, 0), seen("sure, long ago", 30, review.Sure, 0),
		seen("secure, this week", 4, review.Secure, 0),
	}
	for seed := range uint64(20) {
		picks, _ := review.Choose(log, 9, now, rand.New(rand.NewPCG(seed, 1)))
		var ids []string
		for _, p := range picks {
			ids = append(ids, p.CardID)
		}
		assert.Equal(t, []string{"sure, long ago", "not yet", "shaky", "sure"}, ids)
	}
}

func TestEqualsComeInAnOrderOfChance(t *testing.T) {
	log := []review.Seen{seen("a", 1, review.Sure, 0), seen("b", 1, review.Sure, 0)}
	first := map[string]int{}
	for seed := range uint64(100) {
		picks, _ := review.Choose(log, 1, now, rand.New(rand.NewPCG(seed, 7)))
		first[picks[0].CardID]++
	}
	assert.InDelta(t, 50, first["a"], 20)
}

func TestSecureComesFromTheThirdSureMeetingInARow(t *testing.T) {
	var s review.Seen
	var got []review.Sureness
	for _, sure := range []review.Sureness{review.Sure, review.Sure, review.Shaky, review.Sure, review.Sure} {
		got = append(got, s.Untouched())
		s = review.Update(s, time.Time{}, sure)
	}
	got = append(got, s.Untouched())
	sure, secure := review.Sure, review.Secure
	assert.Equal(t, []review.Sureness{sure, sure, secure, sure, sure, secure}, got)
}
