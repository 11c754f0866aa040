package lesson_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand"
	"slices"
	"strings"
	"testing"
	"testing/quick"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
)

// written sets a lesson down as a phonics lead reads it: all that is said, shown and chosen, with the reasons.
func written(in lesson.Introduction) string {
	var b strings.Builder
	line := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	line("# %s, %d minutes, %d seconds, agreed %t, %s", in.Pair, in.Minutes, in.Seconds, in.Agreed, in.Routine)
	for _, s := range in.Steps {
		line("\n## %s (%s, %s) %d s", s.Name, s.Kind, s.Family, s.Seconds)
		for _, part := range []struct {
			title string
			list  []string
		}{{"adult", s.Adult}, {"class", s.Class}, {"table", s.Table}, {"care", s.Cautions}} {
			for _, text := range part.list {
				line("%s: %s", part.title, text)
			}
		}
		for _, c := range s.Choices {
			line("- %s %s %q %s %s, %s; %s", c.Slot, c.Kind, c.Value, c.Detail, c.Basket, c.Origin, c.Because)
			for _, n := range c.Next {
				line("    or %q %s %s, %s; %s", n.Value, n.Detail, n.Basket, n.Origin, n.Because)
			}
		}
		if len(s.Deck) > 0 {
			line("deck: %v", s.Deck)
		}
		if len(s.Pieces) > 0 {
			line("pieces: %s", strings.Join(s.Pieces, " | "))
		}
	}
	line("\ndropped: %s", strings.Join(in.Dropped, "\n  "))
	line("notes: %s", strings.Join(in.Notes, "\n  "))
	for _, w := range slices.Sorted(maps.Keys(in.WordBits)) {
		line("bits of %s: %v", w, in.WordBits[w])
	}
	for _, id := range slices.Sorted(maps.Keys(in.Cards)) {
		f := in.Cards[id]
		line("card %s: %d %s %q %q %q %t", id, f.Version, f.Pair, f.Keyword, f.Rhyme, f.Action, f.HasTake)
	}
	line("rings: %v", in.Rings)
	line("taught: %v known: %v lines of %.1f mm", in.Taught, in.Known, in.LineHeightMM)
	return b.String()
}

// Lessons to be read: after a change run "go test ./internal/core/lesson -update", then read the difference as a
// phonics lead would (is each word known, does the sentence hold the sound, would you say it?).
func TestLessonsToBeRead(t *testing.T) {
	bank := []lesson.Text{
		{Kind: "sentence", Body: "A red hen sat on a mat."},
		{Kind: "sentence", Body: "Dad had a nap."},
		{Kind: "page", Body: "Dad had a hat. It had a pin in it. Sam sat on the hat. Dad got mad."},
		{Kind: "page", Body: "The ship is at sea."},
	}
	g := goldie.New(t, goldie.WithFixtureDir("testdata"), goldie.WithNameSuffix(".txt"))
	for name, change := range map[string]func(in *lesson.Input){
		"first":   func(in *lesson.Input) { *in = input(t, 0) },
		"second":  func(in *lesson.Input) { *in = input(t, 1); in.Minutes = 10 },
		"sixth":   func(in *lesson.Input) { *in = input(t, 5); in.Minutes = 12 },
		"long":    func(in *lesson.Input) { in.Minutes = 40; in.Seed = 3; in.Bank = bank },
		"short":   func(in *lesson.Input) { in.Minutes = 10; in.Seed = 4 },
		"banked":  func(in *lesson.Input) { in.Bank = bank; in.Exceptions = []string{"the"} },
		"vowel":   func(in *lesson.Input) { *in = input(t, 15); in.Seed = 9 },
		"doubled": func(in *lesson.Input) { *in = input(t, 18); in.Minutes = 25 },
		"draft": func(in *lesson.Input) {
			in.Target.State, in.Target.HasTake, in.Target.Picture = card.Draft, false, ""
			in.Target.Rejected, in.Refused = []string{"bat"}, []string{"big"}
			in.Target.Words = []string{"bed", "bag", "ship"}
			in.Target.Sentences = []string{"The ship is big.", "A bug is in a bin."}
		},
		"conventions": func(in *lesson.Input) {
			c := &in.Conventions
			c.LetterNames, c.Capitals, c.GroupsFirst, c.WholeByHeart = true, true, true, true
			c.Materials, c.OneMaterial = []string{"a tray of flour", "chalk"}, true
			in.Target.Exceptions, in.Target.Contrast = []string{"the"}, "d"
			in.Target.Slip, in.Target.StrokeWords = "No uh.", "Down, up, round."
			in.Bank = bank
		},
		"american": func(in *lesson.Input) { in.Conventions.Accent = "general-american"; in.Seed = 21 },
		"bare": func(in *lesson.Input) {
			in.Target.Picture, in.Target.Rhyme, in.Target.RhymeShort, in.Target.Action, in.Target.MouthCue = "", "", "", "", ""
		},
		"no-picture": func(in *lesson.Input) { in.Target.Picture, in.Target.RhymeShort = "", "" },
		"no-rhyme":   func(in *lesson.Input) { in.Target.Rhyme, in.Target.RhymeShort = "", "" },
		"final":      func(in *lesson.Input) { in.Target.Pair = spelling.Pair{Grapheme: "ng", Sound: "ŋ"} },
		"middle":     func(in *lesson.Input) { in.Target.Pair = spelling.Pair{Grapheme: "oo", Sound: "ʊ"} },
		"seldom":     func(in *lesson.Input) { in.Target.Pair = spelling.Pair{Grapheme: "s", Sound: "ʒ"} },
		"unit":       func(in *lesson.Input) { in.Target.Pair = spelling.Pair{Grapheme: "x", Sound: "ks"} },
		"wh":         func(in *lesson.Input) { in.Target.Pair = spelling.Pair{Grapheme: "wh", Sound: "w"} },
		"heavy": func(in *lesson.Input) {
			in.Routine.Steps = []lesson.RoutineStep{
				{Kind: lesson.Ear, Weight: 2, Name: "Ears"},
				{Kind: lesson.Blend},
				{Kind: lesson.Read, Weight: 2},
				{Kind: lesson.Spell},
				{Kind: lesson.Sentence, Weight: 0.5},
				{Kind: lesson.Page},
			}
			in.Minutes = 30
		},
	} {
		in := input(t, 13)
		change(&in)
		g.Assert(t, name, []byte(written(assemble(t, in))))
	}
}

// However a routine is made and weighed: no step is shorter than its least, and the lesson has the minutes that were
// asked for wherever its steps can have them; else it says so.
func TestTheTimeIsSharedOut(t *testing.T) {
	kinds := lesson.StepKinds()
	check := func(seed int64) bool {
		r := rand.New(rand.NewSource(seed))
		in := input(t, 14)
		in.Routine.Steps = nil
		for _, k := range r.Perm(len(kinds))[:3+r.Intn(len(kinds)-3)] {
			weight := []float64{0, 0.5, 1, 2}[r.Intn(4)]
			in.Routine.Steps = append(in.Routine.Steps, lesson.RoutineStep{Kind: kinds[k].Kind, Weight: weight})
		}
		in.Minutes = lesson.LeastMinutes + r.Intn(lesson.MostMinutes-lesson.LeastMinutes+1)
		out, err := lesson.Assemble(in)
		if err != nil {
			return false
		}
		sum := 0
		for _, s := range out.Steps {
			sum += s.Seconds
			i := slices.IndexFunc(kinds, func(k lesson.StepKind) bool { return k.Kind == s.Kind })
			if s.Seconds < kinds[i].LeastSeconds-5 {
				return false
			}
		}
		off := out.Seconds - in.Minutes*60
		said := slices.ContainsFunc(out.Notes, func(n string) bool {
			return strings.Contains(n, "seconds more than planned") || strings.Contains(n, "seconds are left over")
		})
		return sum == out.Seconds && said == (off > 30 || off < -60)
	}
	require.NoError(t, quick.Check(check, &quick.Config{MaxCount: 40, Rand: rand.New(rand.NewSource(2))}))
}

// Introductions that were kept before baskets were typed still open.
func TestWhatWasKeptBeforeStillOpens(t *testing.T) {
	old := `{"card_id":"b","minutes":20,"steps":[
		{"kind":"ear","choices":[
			{"slot":"ear.1","kind":"picture","value":"bed","detail":"yes","next":[{"value":"bag","detail":"yes"}]},
			{"slot":"ear.2","kind":"picture","value":"sun","detail":"no"},
			{"slot":"ear-quarter.1","kind":"picture","value":"bell","detail":"first"},
			{"slot":"ear-quarter.2","kind":"picture","value":"web","detail":"last"}]},
		{"kind":"read","choices":[{"slot":"read.1","kind":"word","value":"bat","detail":"3 sounds"}]}]}`
	in, err := lesson.Documents.Read([]byte(old))
	require.NoError(t, err)
	var baskets []lesson.Basket
	for _, c := range in.Steps[0].Choices {
		baskets = append(baskets, c.Basket)
		assert.Empty(t, c.Detail)
	}
	assert.Equal(t, []lesson.Basket{lesson.Has, lesson.HasNot, lesson.First, lesson.Last}, baskets)
	assert.Equal(t, lesson.Has, in.Steps[0].Choices[0].Next[0].Basket)
	assert.Equal(t, "3 sounds", in.Steps[1].Choices[0].Detail)
	assert.NotNil(t, in.Taught)

	data, err := lesson.Documents.Write(assemble(t, input(t, 9)))
	require.NoError(t, err)
	var stored struct{ Version int }
	require.NoError(t, json.Unmarshal(data, &stored))
	assert.Equal(t, 2, stored.Version)
	again, err := lesson.Documents.Read(data)
	require.NoError(t, err)
	assert.Equal(t, written(assemble(t, input(t, 9))), written(again))
}

// Every choice of a lesson put into the place of its next best, read as the lessons are.
func TestALessonAfterSwaps(t *testing.T) {
	in := input(t, 14)
	in.Exceptions = []string{"the", "is"}
	in.Bank = []lesson.Text{
		{Kind: "sentence", Body: "The big bug is in the bin."},
		{Kind: "sentence", Body: "Is the bag big?"},
		{Kind: "page", Body: "The bug is in the bag. The bag is big. Is the bug in the bed?"},
		{Kind: "page", Body: "A bad dog bit the big bag. Bob is sad."},
	}
	out := assemble(t, in)
	swapped := 0
	for i := range out.Steps {
		for k := range out.Steps[i].Choices {
			c := out.Steps[i].Choices[k]
			if err := lesson.Swap(&out, c.Slot, south); err == nil {
				swapped++
				assert.True(t, out.Steps[i].Choices[k].Swapped)
				assert.NotEqual(t, c.Value, out.Steps[i].Choices[k].Value)
			}
		}
	}
	assert.Greater(t, swapped, 10)
	goldie.New(t, goldie.WithFixtureDir("testdata"), goldie.WithNameSuffix(".txt")).
		Assert(t, "swapped", []byte(written(out)))
}
