package trial

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/strokes"
)

// Written sets a lesson down as a phonics lead reads it: all that is said, shown and chosen, with the reasons.
func Written(l lesson.Lesson) string {
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
	for _, id := range l.Targets {
		var words []string
		for _, r := range l.Rings {
			switch {
			case r.Target != id:
			case len(r.Letters) > 0:
				words = append(words, r.Word)
			default:
				words = append(words, "("+r.Word+")")
			}
		}
		if len(words) > 0 {
			line("rings of %s, those without it in brackets: %s", id, strings.Join(words, " "))
		}
	}
	return b.String()
}

// StepLesson is what one kind of step shows and says in a lesson, or why it cannot be held.
func StepLesson(name string, kind lesson.Kind, in assembly.Input) string {
	made, err := assembly.Assemble(in)
	if err != nil {
		return fmt.Sprintf("== %s: %v\n", name, err)
	}
	var out strings.Builder
	for _, s := range made.Steps {
		if s.Kind != kind {
			continue
		}
		fmt.Fprintf(&out, "== %s, %d s\n%s\n%s\n", name, s.Seconds, strings.Join(s.Adult, "\n"), strings.Join(s.Class, "\n"))
		for _, it := range s.Items {
			fmt.Fprintf(&out, "%s %s/%s/%s, %d more; ", it.Value, it.Detail, it.Basket, it.Position, len(it.Next))
		}
		because := map[string]bool{}
		for _, it := range s.Items {
			if why := it.Because.Text; !because[why] {
				because[why] = true
				fmt.Fprintf(&out, "\n  %s", why)
			}
		}
		fmt.Fprintln(&out)
	}
	for _, d := range made.Dropped {
		if d.Kind == kind {
			fmt.Fprintf(&out, "== %s dropped: %s\n", name, d.Text)
		}
	}
	return out.String()
}

// inside are the lessons of which the inside stands in testdata too.
var inside = map[string]bool{
	"everything": true,
	"ways-1":     true,
	"awkward-1":  true,
	"awkward-2":  true,
	"awkward-4":  true,
}

// Inside is what a lesson keeps of its cards and words.
func Inside(l lesson.Lesson) string {
	var b strings.Builder
	for _, id := range slices.Sorted(maps.Keys(l.Cards)) {
		f := l.Cards[id]
		fmt.Fprintf(&b, "card %s v%d agreed %v stretch %v said %q together %v cue %q slip %q\n", id, f.Version, f.Agreed,
			f.Stretch, f.Said, f.Together, f.MouthCue, f.Slip)
		for _, w := range []*strokes.Written{f.Writing, f.Capital} {
			if w != nil {
				fmt.Fprintf(&b, "  written %s in %d strokes, placed %v\n", w.Text, len(w.Strokes), f.Place != nil)
			}
		}
	}
	for _, word := range slices.Sorted(maps.Keys(l.WordBits)) {
		fmt.Fprintf(&b, "%s:", word)
		for _, k := range l.WordBits[word] {
			fmt.Fprintf(&b, " %s=%s", k.Grapheme, k.Sound)
			for mark, is := range map[string]bool{"!": k.Odd && !k.Target, "*": k.Target && !k.Odd, "*!": k.Odd && k.Target} {
				if is {
					fmt.Fprint(&b, mark)
				}
			}
			if k.Card != "" {
				fmt.Fprintf(&b, "(%s)", k.Card)
			}
		}
		if ink, ok := l.Ink[word]; ok {
			fmt.Fprintf(&b, " ink of %d paths, %.3g high", len(ink.Paths), ink.Top)
		}
		fmt.Fprintln(&b)
	}
	fmt.Fprintf(&b, "taught %v\nknown %v\nsigns %v, line %v mm\n", l.Taught, l.Known, l.Signs, l.LineHeightMM)
	return b.String()
}

// Read assembles all lessons and holds them against testdata. After a change run "go test ./internal/core/assembly
// -update", then read the difference as a phonics lead would: is each word known, does the sentence hold the sound,
// would you say it? Dir is the way to this package.
func Read(t *testing.T, dir string) {
	t.Helper()
	g := goldie.New(t, goldie.WithFixtureDir(dir+"/testdata"), goldie.WithNameSuffix(".txt"))
	for _, l := range Lessons(t) {
		out, err := assembly.Assemble(l.In)
		require.NoError(t, err, l.Name)
		text := Written(out)
		if inside[l.Name] {
			text += Inside(out)
		}
		g.Assert(t, l.Name, []byte(text))
	}
}
