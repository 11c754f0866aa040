package kinds

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
)

func chance(seed int) *rand.Rand { return rand.New(rand.NewPCG(uint64(seed), 1)) }

// Whatever the chance: both sides as often, never more than three of one in a row; the most extreme choices as well.
func TestTurnsAreFair(t *testing.T) {
	check := func(shows int, intN func(int) int) {
		list := takeTurns(shows, intN)
		assert.Len(t, list, (shows+1)/2*2)
		run, most, letters := 0, 0, 0
		for i, side := range list {
			if i > 0 && side == list[i-1] {
				run++
			} else {
				run = 1
			}
			most = max(most, run)
			if side == "letter" {
				letters++
			}
		}
		assert.LessOrEqual(t, most, 3, "%d shows: %v", shows, list)
		assert.Equal(t, (shows+1)/2, letters)
	}
	for shows := range 11 { // every choice that can be made
		for choices := range 1 << ((shows + 1) / 2 * 2) {
			i := -1
			check(shows, func(n int) int { i++; return (choices >> i & 1) * (n - 1) })
		}
	}
	runs := map[int]bool{}
	for shows := range 31 {
		check(shows, func(int) int { return 0 })
		check(shows, func(n int) int { return n - 1 })
		for seed := range 200 {
			check(shows, chance(seed).IntN)
			list := takeTurns(shows, chance(seed).IntN)
			if len(list) > 3 && list[0] == list[1] && list[1] == list[2] {
				runs[0] = true
			}
		}
	}
	assert.True(t, runs[0], "three in a row happen, also at the start")
	assert.Equal(t, []string{"letter", "letter", "letter", "picture", "letter", "picture", "picture", "picture"},
		takeTurns(8, func(int) int { return 0 }))
}

// What children mix up is parted where it can be, the same grapheme above all, and a target is not the first.
func TestNeighboursAreNotMixedUp(t *testing.T) {
	of := func(graphemes ...string) (out []card.Card) {
		for _, g := range graphemes {
			out = append(out, card.Card{ID: g, Pair: spelling.Pair{Grapheme: g[:len(g)-1], Sound: g}})
		}
		return out
	}
	cards := of("b1", "d1", "s1", "a1", "t1", "o1")
	b := &step.FillInput{Targets: cards[:1]}
	for seed := range 60 {
		got := spaced(b, cards, nil, chance(seed))
		assert.NotEqual(t, "b1", got[0].ID, "a target is not the first")
		for i := 1; i < len(got); i++ {
			assert.False(t, spelling.MixedUp(got[i-1].Pair.Grapheme, got[i].Pair.Grapheme), "%v", got)
		}
		got = spaced(b, of("s1", "a1", "t1"), &cards[2], chance(seed))
		assert.NotEqual(t, "s", got[0].Pair.Grapheme, "not the same as the one before")
		got = spaced(b, of("b1", "d1", "b2"), nil, chance(seed))
		assert.Equal(t, "d", got[1].Pair.Grapheme, "twice the same is worse than two that look alike")
		got = spaced(b, of("p1", "b1"), &cards[1], chance(seed))
		assert.Len(t, got, 2)
	}
	only := spaced(&step.FillInput{Targets: cards[:2]}, cards[:2], nil, chance(1))
	assert.Len(t, only, 2, "where there are only targets one of them is the first")
	shown := shows(b, cards, 20, letterSide, chance(2))
	assert.Len(t, shown, 20)
	assert.Empty(t, shows(b, cards, 0, letterSide, chance(2)))
	seen := map[string]int{}
	for _, s := range shown[:18] {
		seen[s.CardID]++
	}
	for _, c := range cards {
		assert.Equal(t, 3, seen[c.ID], "each as often")
	}
	for _, s := range shown {
		assert.Equal(t, "letter", s.Side)
	}
}

// What is offered to write with: what the team chose, its own first, and never nothing; each day begins with another.
func TestWhatIsOfferedToWriteWith(t *testing.T) {
	names := func(list []convention.Material) (out []string) {
		for _, m := range list {
			out = append(out, m.Name)
		}
		return out
	}
	b := &step.FillInput{}
	assert.Equal(t, names(materials), names(offered(b)))
	b.Seed = uint64(len(materials)) + 2
	assert.Equal(t, materials[2].Name, offered(b)[0].Name)
	assert.Len(t, offered(b), len(materials))
	b.Conventions.OneMaterial = true
	assert.Equal(t, materials[0].Name, offered(b)[0].Name, "the first every day")
	b.Conventions.Materials = []string{materials[3].Name, materials[1].Name}
	assert.Equal(t, []string{materials[1].Name, materials[3].Name}, names(offered(b)))
	b.Conventions.Materials = []string{"what nobody has any more"}
	assert.Equal(t, names(materials), names(offered(b)), "rather all than nothing")
	own := convention.Material{Name: "chalk on the quay", Caution: "Stay behind the line."}
	b.Conventions.Says.Materials = []convention.Material{own}
	assert.Equal(t, []string{own.Name}, names(offered(b)))
	assert.Equal(t, own.Caution, caution(b, own.Name))
	for _, m := range materials {
		assert.Equal(t, m.Caution, caution(b, m.Name))
	}
	assert.Empty(t, caution(b, "what nobody has any more"))
	b.Conventions.Materials = nil
	assert.Equal(t, append([]string{own.Name}, names(materials)...), names(offered(b)))
}
