package assembly_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/test/trial"
)

// A child who taps a bridge sees the card that is behind it: only cards that the class has met, or meets today.
func TestABridgeOpensOnlyCardsThatAreTaught(t *testing.T) {
	opened := 0
	for _, l := range trial.Lessons(t) {
		made, err := assembly.Assemble(l.In)
		if err != nil {
			continue
		}
		taught := made.Set()
		for word, bits := range made.WordBits {
			for _, b := range bits {
				if b.Card == "" {
					continue
				}
				face, there := made.Cards[b.Card]
				require.True(t, there, "%s: %s has a bridge to a card that the lesson does not carry", l.Name, word)
				met := taught[face.Pair] || slices.Contains(made.Targets, b.Card)
				assert.True(t, met, "%s: %s opens %s, which nobody has met", l.Name, word, face.Pair)
				opened++
			}
		}
	}
	assert.Greater(t, opened, 100)
}

// The convention "capitals from the first day" is said in the step that writes the letter, and only with it.
func TestTheCapitalIsShownBesideItsLetterWhereTheTeamWantsIt(t *testing.T) {
	in := trial.Lessons(t)[0].In
	for _, wanted := range []bool{true, false} {
		in.Conventions.Capitals = wanted
		in.Purpose = lesson.Introduce
		made, err := assembly.Assemble(in)
		require.NoError(t, err)
		said := ""
		for _, s := range made.Steps {
			if s.Kind == lesson.Letter {
				said += strings.Join(s.Adult, " ")
			}
		}
		require.NotEmpty(t, said)
		assert.Equal(t, wanted, strings.Contains(said, "Show the capital"), said)
	}
}
