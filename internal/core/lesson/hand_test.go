package lesson_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/strokes"
)

func TestMaterialsAreTheTeamsAndChangeIfItWishes(t *testing.T) {
	in := input(t, 9)
	in.Conventions.Materials = []string{"a tray of dry sand", "a ribbon on a stick"}
	seen := map[string]bool{}
	for seed := range uint64(6) {
		in.Seed = seed
		s := step(t, assemble(t, in), lesson.Hand)
		seen[s.Choices[0].Value] = true
		assert.Contains(t, in.Conventions.Materials, s.Choices[0].Value)
		require.NotEmpty(t, s.Cautions)
		assert.Contains(t, s.Cautions[len(s.Cautions)-1], "own rules come first")
	}
	assert.Len(t, seen, 2, "another day, another material")
	in.Conventions.OneMaterial = true
	for seed := range uint64(6) {
		in.Seed = seed
		assert.Equal(t, "a tray of dry sand", step(t, assemble(t, in), lesson.Hand).Choices[0].Value)
	}
	for _, m := range lesson.Materials() {
		assert.NotEmpty(t, m.Caution, m.Name)
	}
}

func TestTheHandStepWritesOnTheTeamsLines(t *testing.T) {
	in := input(t, 9) // h
	in.Conventions.Capitals = true
	in.Conventions.Lines = strokes.CommonLines()
	in.Conventions.Lines.Top.Name = "mast top"
	in.Target.Place = &card.Place{X: 0.2, Y: 0.7, Size: 0.4}
	out := assemble(t, in)
	require.NotNil(t, out.Writing)
	require.NotNil(t, out.Capital)
	assert.Equal(t, "H", out.Capital.Text)
	assert.Equal(t, in.Target.Place, out.Place)
	said := strings.Join(step(t, out, lesson.Hand).Adult, " ")
	assert.Contains(t, said, "Start on the mast top.", "words by rule where the team has none")
	in.Target.StrokeWords = "Down the mast,\nand over."
	said = strings.Join(step(t, assemble(t, in), lesson.Hand).Adult, " ")
	assert.Contains(t, said, "“Down the mast, and over.”")
	in.Target.Pair.Grapheme = "é"
	strange, err := lesson.Assemble(in)
	if err == nil { // a sign without strokes is said, and the step is there all the same
		assert.Nil(t, strange.Writing)
		assert.Contains(t, strings.Join(strange.Notes, " "), "stroke by stroke")
	}
}
