package assembly_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/test/trial"
)

// What lies in a sound's tray is held up, with what to watch for; the pages of the workbook lie ready; a character says
// the slip, and another one talks in sounds.
func TestTheTeamsThingsAreInTheScript(t *testing.T) {
	in := trial.Taught(t, 24, lesson.Introduce, "f")
	require.Len(t, in.Targets, 1)
	c := &in.Targets[0]
	c.Objects, c.Workbook, c.Slip = []string{"fan", "a feather"}, "Blue book, page 20", "“fuh”: the teeth stay on the lip."
	c.Rhyme, c.State, c.MouthCue = "Find the fan.", card.Agreed, "Teeth on the lip."
	in.Conventions.Words = []convention.OwnWord{
		{
			Word:   "Nib",
			Sounds: "nɪb",
			Name:   true,
			Part:   convention.Slips,
		},
		{Word: "Rob", Sounds: "rɒb", Name: true, Part: convention.Sounds},
	}
	in.Minutes = 30
	said := func() string {
		out, err := assembly.Assemble(in)
		require.NoError(t, err)
		var text []string
		for _, s := range out.Steps {
			text = append(text, string(s.Kind)+":")
			text = append(append(append(text, s.Adult...), s.Table...), s.Cautions...)
		}
		return strings.Join(text, "\n")
	}
	text := said()
	for _, want := range []string{
		"From the tray, one after the other: fan, a feather.", "The tray: fan, a feather", "Fur, feathers, wool and rubber",
		"The workbook: Blue book, page 20", "For later, in the workbook: Blue book, page 20.",
		"Nib says “fuh”. “Is that our sound? Show Nib how.” The teeth stay on the lip.", "Rob talks in sounds only",
	} {
		assert.Contains(t, text, want)
	}
	c.Slip = "Keep it short."
	assert.Contains(t, said(), "Listen for the slip: Keep it short.", "nobody can say what the card does not write")
	c.Slip, in.Conventions.Words = "“fuh”: the teeth stay on the lip.", nil
	assert.Contains(t, said(), "Listen for the slip: “fuh”")
}
