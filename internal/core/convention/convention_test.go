package convention_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// A word is cut and said as the team agreed: by its units, its accent, and the words in which it departs from that.
func TestWordsAreCutAsTheTeamAgreed(t *testing.T) {
	cut := func(c convention.Conventions, word string) string {
		t.Helper()
		segments, err := c.Speech().Segment(word)
		require.NoError(t, err)
		var out []string
		for _, s := range segments.Segments {
			out = append(out, s.Grapheme)
		}
		return strings.Join(out, " ")
	}
	south := convention.Conventions{Accent: phoneme.SouthernBritish}
	assert.Equal(t, "qu i ck", cut(south, "quick"))
	apart := south
	apart.Units = spelling.Units{QuTwo: true}
	assert.Equal(t, "q u i ck", cut(apart, "quick"))

	bath := phoneme.Join(south.Speech().Sounds("bath"))
	departing := south
	departing.Departures = []convention.Departure{{Word: "bath", Accent: phoneme.NorthernEnglish}}
	assert.NotEqual(t, bath, phoneme.Join(departing.Speech().Sounds("bath")))
	assert.Equal(t, phoneme.Join(south.Speech().Sounds("path")), phoneme.Join(departing.Speech().Sounds("path")))
}
