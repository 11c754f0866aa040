package assembly_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

var now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

// order is invented for the tests.
var order = strings.Fields("t a m s i n p o d h c e g r b u l f k ck sh ee th=θ oo=uː ar or ch ng ai igh=aɪ")

func pairsOf(t testing.TB, a phoneme.Accent, list ...string) []spelling.Pair {
	t.Helper()
	var out []spelling.Pair
	for _, g := range list {
		p, err := spelling.ParsePair(a, g)
		require.NoError(t, err)
		out = append(out, p)
	}
	return out
}

// taught is a lesson of a class that knows the first n of the order; one that introduces is about the next.
func taught(t testing.TB, n int, purpose lesson.Purpose, targets ...string) assembly.Input {
	t.Helper()
	conv := card.Conventions{Accent: phoneme.SouthernBritish}
	in := assembly.Input{
		Purpose: purpose, Conventions: conv, Routine: lesson.DefaultRoutine(purpose), Minutes: 20, Seed: 7, Now: now,
	}
	if purpose == lesson.Introduce && len(targets) == 0 {
		targets = []string{order[n]}
	}
	s := knowledge.Sources{Conventions: conv}
	for i, p := range pairsOf(t, conv.Accent, order[:n]...) {
		c := card.Card{ID: p.String(), Step: i + 1, Pair: p}
		s.Cards = append(s.Cards, c)
		s.Declared = append(s.Declared, knowledge.Declaration{CardIDs: []string{c.ID}, On: now.AddDate(0, 0, i-n)})
	}
	for _, p := range pairsOf(t, conv.Accent, targets...) {
		in.Targets = append(in.Targets, card.Card{ID: p.String(), Pair: p})
	}
	in.Class = knowledge.Of(s)
	return in
}
