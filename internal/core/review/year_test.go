package review_test

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"brightchalk/internal/core/review"
)

type rule func([]review.Seen, int, time.Time, *rand.Rand) ([]review.Pick, int)

// year is a class over a school year, invented: it meets new cards and those of its warm-up, and forgets by a memory of
// its own that the rule does not know (each class and each card is easier or harder than the model thinks).
type year struct {
	rule           rule
	cards, perWeek int
	deck           int // cards that a warm-up holds
	seed           uint64
}

type outcome struct {
	mean, lowest float64
	shown        float64 // cards of a warm-up, on average
	most         int     // cards below nine tenths on one day, by the true memory
}

func (y year) run() outcome {
	r := rand.New(rand.NewPCG(y.seed, 99))
	class := math.Exp(0.25 * r.NormFloat64()) // how long this class keeps things, against the model
	ease := make([]float64, y.cards)
	for i := range ease {
		ease[i] = class * math.Exp(0.35*r.NormFloat64())
	}
	truth := func(s review.Seen, i int, day time.Time) float64 {
		if s.Times == 0 {
			return 0
		}
		return s.Retrievability(s.Last.Add(time.Duration(float64(day.Sub(s.Last)) / ease[i])))
	}
	log := make([]review.Seen, y.cards)
	begin := time.Date(2026, 9, 7, 9, 0, 0, 0, time.UTC)
	out := outcome{lowest: 1}
	var sum float64
	var n, met, shown, days int
	for d := range 45 * 7 {
		day := begin.AddDate(0, 0, d)
		holiday := slices.Contains([]int{7, 15, 16, 23, 30, 31, 38}, d/7) // weeks without school
		if w := day.Weekday(); w == time.Saturday || w == time.Sunday || holiday {
			continue
		}
		seen := log[:met]
		var dayMean float64
		weak := 0
		for i := range seen {
			was := truth(seen[i], i, day)
			dayMean += was
			if was < 0.9 {
				weak++
			}
		}
		if met > 0 {
			sum, n = sum+dayMean, n+met
			out.lowest, out.most = min(out.lowest, dayMean/float64(met)), max(out.most, weak)
		}
		picks, _ := y.rule(slices.Clone(seen), y.deck, day, r)
		shown, days = shown+len(picks), days+1
		for _, p := range picks {
			i := slices.IndexFunc(log, func(s review.Seen) bool { return s.CardID == p.CardID })
			log[i] = review.Update(log[i], day, sureness(truth(log[i], i, day), r))
		}
		if met < y.cards && int(day.Weekday()) <= y.perWeek {
			log[met] = review.Update(review.Seen{CardID: fmt.Sprint(met)}, day, review.Sure)
			met++
		}
	}
	out.mean, out.shown = sum/float64(n), float64(shown)/float64(days)
	return out
}

// sureness is what an adult sees of a class that still has a card by a chance.
func sureness(kept float64, r *rand.Rand) review.Sureness {
	switch u := r.Float64(); {
	case u > kept+0.08:
		return review.NotYet
	case u > kept:
		return review.Shaky
	case u > 0.4*kept:
		return review.Sure
	}
	return review.Secure
}

// fixed is the rule of the first floor: fixed intervals by the last sureness, and a rest of 28 days after three secure
// meetings in a row.
func fixed(log []review.Seen, n int, now time.Time, _ *rand.Rand) (picks []review.Pick, resting int) {
	type ranked struct {
		id   string
		need float64
	}
	var all []ranked
	for _, s := range log {
		days := now.Sub(s.Last).Hours() / 24
		if s.Sure == review.Secure && s.Streak >= 3 && days < 28 {
			resting++
			continue
		}
		need := days/[]float64{0.5, 1, 4, 10}[s.Sure] + []float64{6, 4, 0, -1}[s.Sure]
		all = append(all, ranked{s.CardID, need})
	}
	slices.SortStableFunc(all, func(a, b ranked) int { return cmp.Compare(b.need, a.need) })
	for _, k := range all[:min(n, len(all))] {
		picks = append(picks, review.Pick{CardID: k.id})
	}
	return picks, resting
}

// BenchmarkYear simulates 200 classes over a school year, by the memory and by the fixed intervals of the first floor,
// with a warm-up of two minutes (24 cards at five seconds) and with shorter ones.
func BenchmarkYear(b *testing.B) {
	for _, deck := range []int{24, 12, 6} {
		for _, k := range []struct {
			name string
			rule rule
		}{{"memory", review.Choose}, {"fixed", fixed}} {
			b.Run(fmt.Sprintf("%s-%ds", k.name, deck*5), func(b *testing.B) {
				var mean, lowest, shown float64
				for range b.N {
					mean, lowest, shown = 0, 1, 0
					for seed := range uint64(200) {
						got := year{k.rule, 79, 4, deck, seed}.run()
						mean, shown = mean+got.mean/200, shown+got.shown/200
						lowest = min(lowest, got.lowest)
					}
				}
				b.ReportMetric(mean, "mean-retrievability")
				b.ReportMetric(lowest, "lowest-day")
				b.ReportMetric(shown, "cards-a-day")
			})
		}
	}
}
