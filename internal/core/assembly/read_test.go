package assembly_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
)

// written sets a lesson down as a phonics lead reads it: all that is said, shown and chosen, with the reasons.
func written(l lesson.Lesson) string {
	var b strings.Builder
	line := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	line("# %s: %s, %d minutes, %d seconds", l.Purpose, l.Title(), l.Minutes, l.Seconds)
	for _, s := range l.Steps {
		line("\n## %s (%s) %d s", s.Name, s.ID, s.Seconds)
		for _, part := range []struct {
			title string
			list  []string
		}{{"adult", s.Adult}, {"class", s.Class}, {"table", s.Table}, {"care", s.Cautions}} {
			for _, text := range part.list {
				line("%s: %s", part.title, text)
			}
		}
		if len(s.Deck) > 0 {
			var shows []string
			for _, it := range s.Items {
				shows = append(shows, it.Detail+"/"+it.Position)
			}
			line("deck: %s", strings.Join(shows, " "))
			continue
		}
		for _, it := range s.Items {
			line("- %s %s %q %s %s %s; %s", it.Slot, it.Role, it.Value, it.Detail, it.Basket, it.Position, it.Because.Text)
			var next []string
			for _, n := range it.Next {
				next = append(next, n.Value)
			}
			if len(next) > 0 {
				line("    or %s", strings.Join(next, " · "))
			}
		}
		if len(s.Pieces) > 0 {
			line("pieces: %s", strings.Join(s.Pieces, " | "))
		}
	}
	for _, d := range l.Dropped {
		line("dropped %s: %s", d.Name, d.Text)
	}
	for _, n := range l.Notes {
		line("note %s", n.Text)
	}
	line("rings: %v", l.Rings)
	return b.String()
}

// Lessons to be read: after a change run "go test ./internal/core/assembly -update", then read the difference as a
// phonics lead would (is each word known, does the sentence hold the sound, would you say it?).
func TestLessonsToBeRead(t *testing.T) {
	data, err := os.ReadFile("testdata/plans.txt")
	require.NoError(t, err)
	g := goldie.New(t, goldie.WithFixtureDir("testdata"), goldie.WithNameSuffix(".txt"))
	n := 0
	for text := range strings.Lines(string(data)) {
		if strings.HasPrefix(text, "#") {
			continue
		}
		n++
		in, _ := plan(t, text)
		out, err := assembly.Assemble(in)
		require.NoError(t, err)
		again, err := assembly.Assemble(in)
		require.NoError(t, err)
		require.Equal(t, out, again, "the same input gives the same lesson")
		g.Assert(t, fmt.Sprintf("lesson-%02d", n), []byte(written(out)))
	}
}
