package kinds

import (
	"math/rand/v2"
	"slices"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/step"
)

// Ways to fill a drill with known cards.
const (
	dueWay     = "due"     // what would be lost soonest
	allWay     = "all"     // everything that was met, as far as the time goes
	shakyWay   = "shaky"   // what was not sure when it was last met
	lettersWay = "letters" // single letters
	groupsWay  = "groups"  // spellings of several letters
)

func drillWays() []step.Way {
	return step.Ways(dueWay, "what is due", allWay, "all cards, as far as the time goes",
		lettersWay, "single letters only", groupsWay, "letter groups only", shakyWay, "only the shaky ones")
}

// nothingFor says why a way to fill a drill has no cards.
var nothingFor = map[string]string{
	"": "the class has met no card yet", dueWay: "the class has met no card yet", allWay: "the class has met no card yet",
	shakyWay: "no card of the class is shaky", lettersWay: "the class has met no single letter yet",
	groupsWay: "the class has met no letter group yet",
}

// fits tells whether a card is among those of a way.
func fits(way string, k knowledge.Known) bool {
	switch way {
	case shakyWay:
		return k.Seen.Sure <= review.Shaky
	case lettersWay:
		return k.Card.Pair.Letters() == 1
	case groupsWay:
		return k.Card.Pair.Letters() > 1
	}
	return true
}

// due are cards that come back, the most needed first, but for the targets. Secure ones rest unless all are asked for.
func due(b *step.FillInput, n int, way string, rng *rand.Rand) (cards []card.Card, because map[string]string) {
	var targets []string
	for _, t := range b.Targets {
		targets = append(targets, t.ID)
	}
	log := b.Class.Log(targets...)
	picks, _ := review.Choose(log, len(log), b.Now, rng)
	if way == allWay {
		picks = append(picks, resting(log, picks, b.Now)...)
	}
	because = map[string]string{}
	for _, p := range picks {
		if k, ok := b.Class.Find(p.CardID); ok && fits(way, k) && len(cards) < n {
			cards = append(cards, k.Card)
			because[p.CardID] = p.Because
			if k.Declared {
				because[p.CardID] = "known by this class; no lesson with it was logged yet"
			}
		}
	}
	return cards, because
}

// resting are the cards of a log that were not picked, because they are secure.
func resting(log []review.Seen, picks []review.Pick, now time.Time) []review.Pick {
	var out []review.Pick
	for _, s := range log {
		if !slices.ContainsFunc(picks, func(p review.Pick) bool { return p.CardID == s.CardID }) {
			out = append(out, review.Pick{CardID: s.CardID, Because: s.Because(now) + "; all were asked for"})
		}
	}
	return out
}
