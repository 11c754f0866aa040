// Package trial has made-up classes and their lessons, for the tests of the steps and of the assembly: what they hold
// stands in its testdata, to be read as a phonics lead would.
package trial

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step/kinds"
)

// Now is the morning of all lessons here.
var Now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

// Order is an order of teaching, invented for the tests.
var Order = strings.Fields("t a m s i n p o d h c e g r b u l f k ck sh ee th=θ oo=uː ar or ch ng ai igh=aɪ")

// Pairs reads pairs as an order writes them.
func Pairs(t testing.TB, a phoneme.Accent, list ...string) []spelling.Pair {
	t.Helper()
	var out []spelling.Pair
	for _, g := range list {
		p, err := spelling.ParsePair(a, g)
		require.NoError(t, err)
		out = append(out, p)
	}
	return out
}

// Taught is a lesson of a class that knows the first n of Order; one that introduces is about the next.
func Taught(t testing.TB, n int, purpose lesson.Purpose, targets ...string) assembly.Input {
	t.Helper()
	return TaughtIn(t, Order, n, purpose, targets...)
}

// TaughtIn is Taught in another order.
func TaughtIn(t testing.TB, order []string, n int, purpose lesson.Purpose, targets ...string) assembly.Input {
	t.Helper()
	conv := convention.Conventions{Accent: phoneme.SouthernBritish}
	in := assembly.Input{
		Purpose: purpose, Conventions: conv, Routine: lesson.DefaultRoutine(purpose), Minutes: 20, Seed: 7, Now: Now,
	}
	if purpose == lesson.Introduce && len(targets) == 0 {
		targets = []string{order[n]}
	}
	s := knowledge.Sources{Conventions: conv}
	for i, p := range Pairs(t, conv.Accent, order[:n]...) {
		c := card.Card{ID: p.String(), Step: i + 1, Pair: p}
		s.Cards = append(s.Cards, c)
		s.Declared = append(s.Declared, knowledge.Declaration{CardIDs: []string{c.ID}, On: Now.AddDate(0, 0, i-n)})
	}
	for _, p := range Pairs(t, conv.Accent, targets...) {
		in.Targets = append(in.Targets, card.Card{ID: p.String(), Pair: p})
	}
	in.Class = knowledge.Of(s)
	return in
}

// Targets are bare cards for the pairs that the accent has.
func Targets(t testing.TB, list ...string) (out []card.Card) {
	t.Helper()
	for _, text := range list {
		if p, err := spelling.ParsePair(phoneme.SouthernBritish, text); err == nil {
			out = append(out, card.Card{ID: p.String(), Pair: p})
		}
	}
	return out
}

//go:embed plans.txt
var plans string

// Plans are the lines of plans.txt, each a lesson: see Plan.
func Plans() (out []string) {
	for line := range strings.Lines(plans) {
		if !strings.HasPrefix(line, "#") {
			out = append(out, line)
		}
	}
	return out
}

// Plan is a line of the form "purpose | accent | minutes | targets | knows, in order | exceptions" as an input, with
// the pairs that may be read.
func Plan(t testing.TB, line string) (assembly.Input, spelling.Set) {
	t.Helper()
	f := strings.Split(line, "|")
	require.Len(t, f, 6, line)
	for i := range f {
		f[i] = strings.TrimSpace(f[i])
	}
	accent, err := phoneme.ParseAccent(f[1])
	require.NoError(t, err)
	in := assembly.Input{
		Purpose: lesson.Purpose(f[0]), Conventions: convention.Conventions{Accent: accent}, Seed: 3, Now: Now,
		Routine: lesson.DefaultRoutine(lesson.Purpose(f[0])),
	}
	_, err = fmt.Sscan(f[2], &in.Minutes)
	require.NoError(t, err)
	s := knowledge.Sources{Conventions: in.Conventions}
	readable := spelling.Set{}
	knows := Pairs(t, accent, strings.Fields(f[4])...)
	for i, p := range knows {
		c := card.Card{ID: p.String(), Step: i + 1, Pair: p}
		s.Cards = append(s.Cards, c)
		s.Declared = append(s.Declared, knowledge.Declaration{CardIDs: []string{c.ID}, On: Now.AddDate(0, 0, i-len(knows))})
		readable[p] = true
	}
	s.Declared = append(s.Declared, knowledge.Declaration{Words: strings.Fields(f[5]), On: Now})
	for _, p := range Pairs(t, accent, strings.Fields(f[3])...) {
		in.Targets = append(in.Targets, card.Card{ID: p.String(), Pair: p})
		readable[p] = true
	}
	in.Class = knowledge.Of(s)
	return in, readable
}

// Full is a card with everything on it.
func Full(c card.Card) card.Card {
	c.State, c.Version, c.HasTake = card.Agreed, 3, true
	c.Content = card.Content{
		Keyword:     "shed",
		Picture:     "x",
		Rhyme:       "Hush, the shed is shut.",
		RhymeShort:  "Hush, hush, shed.",
		Action:      "A finger on the lips.",
		Verse:       "Hush, little shed, shut your door.",
		Story:       "She shut the shed. Hush!",
		MouthCue:    "Round the lips and blow.",
		Slip:        "“shuh”: breath only.",
		Contrast:    "s",
		StrokeWords: "Round and round.\nDown, up, over.",
		Words:       []string{"shed", "fish", "ship"},
		Sentences:   []string{"A fish is in the shed."},
		Exceptions:  []string{"she"},
	}
	return c
}

// Everything is a lesson of an hour about sh and ch with every kind of step.
func Everything(t testing.TB) assembly.Input {
	in := Taught(t, 24, lesson.Introduce, "sh", "ch")
	in.Targets[0] = Full(in.Targets[0])
	for i := range in.Class.Met {
		in.Class.Met[i].Card.Picture = "y"
	}
	for _, w := range []string{"the", "is", "to", "i"} {
		in.Class.Exceptions[w] = true
	}
	in.Bank = []lesson.Text{
		{Kind: "sentence", Body: "The ship is in a shed."},
		{Kind: "page", Body: "A fish is in a dish.\nThe fish is fresh.\nShush, fish!\nThe ship is big."},
	}
	in.Minutes = 60
	in.Conventions.Capitals, in.Conventions.LetterNames = true, true
	in.Routine.Steps = nil
	for _, r := range kinds.Registry.All() {
		in.Routine.Steps = append(in.Routine.Steps, lesson.RoutineStep{Kind: r.Kind, Weight: 0.5})
	}
	at := slices.IndexFunc(in.Routine.Steps, func(s lesson.RoutineStep) bool { return s.Kind == lesson.Free })
	in.Routine.Steps[at].Options = lesson.Options{Words: []string{"Count the boats."}, Seconds: 30}
	in.Routine.Steps = slices.DeleteFunc(
		in.Routine.Steps,
		func(s lesson.RoutineStep) bool { return s.Kind == lesson.MixIn },
	)
	return in
}

// otherWay is Everything with the n-th way of each step that has so many, and the team's own wording.
func otherWay(t testing.TB, n int) assembly.Input {
	in := Everything(t)
	in.Conventions.Says = convention.Says{
		Answer: convention.AnswerKeyword, Writing: convention.SayBoth, Posture: "Feet flat.", Mistake: "Cross it out.",
		Checks: "Capital, stop.", Gesture: "Tap your arm for each sound.", OneSideFirst: true, PickAnswers: true,
		GuessTitle: true, Materials: []convention.Material{{Name: "sticks", Caution: "No poking."}},
	}
	in.Conventions.WholeByHeart, in.Conventions.GroupsFirst, in.Conventions.Materials = true, true, []string{"sticks"}
	for i := range in.Routine.Steps {
		s := &in.Routine.Steps[i]
		if rec, _ := kinds.Registry.Of(s.Kind); n < len(rec.Ways) {
			s.Options.Way = rec.Ways[n].ID
		}
	}
	return in
}

// Remembered is a lesson of a class whose log says how sure it was of each card, and when.
func Remembered(t testing.TB, n int, purpose lesson.Purpose, way string, targets ...string) assembly.Input {
	in := Taught(t, n, purpose, targets...)
	sure := []review.Sureness{review.Sure, review.Shaky, review.Sure, review.Secure, review.NotYet, review.Sure}
	for i := range in.Class.Met {
		k := &in.Class.Met[i]
		for back := 3 + i%4; back > 0; back-- {
			k.Seen = review.Update(k.Seen, Now.AddDate(0, 0, -back*(1+i%5)), sure[(i+back)%len(sure)])
		}
		k.Seen.CardID, k.Declared = k.Card.ID, i%4 == 0
	}
	for i := range in.Routine.Steps {
		if s := &in.Routine.Steps[i]; s.Kind == lesson.WarmUp || s.Kind == lesson.Pack {
			s.Options.Way = way
		}
	}
	in.Seed = uint64(n)
	return in
}

// awkward are lessons with something wrong, or of which little is known.
func awkward(t testing.TB) (out []assembly.Input) {
	draft := Taught(t, 24, lesson.Introduce, "sh", "ch")
	for i := range draft.Targets {
		draft.Targets[i] = Full(draft.Targets[i])
	}
	c := &draft.Targets[0]
	c.State, c.Keyword, c.Rhyme, c.Verse, c.HasTake = card.Draft, "", "", "", false
	c.Sentences = []string{"She had a chair.", "A ship.", "The thing shook.", "Shells in a box"}
	c.Words, c.Rejected = []string{"shed", "shop", "chair", "shell", "fish", "dish", "ZZZ"}, []string{"shell"}
	draft.Targets[1].State, draft.Targets[1].Sentences = card.InReview, []string{"A chimpanzee chews."}
	draft.Class.Refused = map[string]bool{"fish": true, "chip": true}
	draft.Class.Exceptions["the"] = true
	draft.Bank = []lesson.Text{
		{Kind: "sentence", Body: "The shed is shut."},
		{Kind: "sentence", Body: "A chum had a chop."},
		{Kind: "sentence", Body: "A cat sat on a mat."},
		{Kind: "page", Body: "A fish."},
		{Kind: "page", Body: "The ship had a shelf.\nThe shop had a shed!\nChop, chop, chop!"},
		{Kind: "page", Body: "Ship, shop, shed.\nRush to the shop. Rush."},
	}
	draft.Conventions.WrittenWords, draft.Conventions.Together = true, []string{"ch", "oo"}

	nothing := Taught(t, 0, lesson.Introduce, "m")
	nothing.Targets[0] = Full(nothing.Targets[0])

	few := Taught(t, 2, lesson.Introduce, "m")
	few.Minutes = 8
	few.Bank = []lesson.Text{{Kind: "sentence", Body: "At."}}

	both := Taught(t, 24, lesson.Introduce, "oo=uː", "oo=ʊ")
	both.Conventions.Together = []string{"oo"}
	both.Targets[0].Keyword, both.Targets[1].Keyword = "moon", "book"
	both.Class.Met = both.Class.Met[:10]

	rest := Taught(t, 18, lesson.Revise)
	rest.Routine.Steps = slices.DeleteFunc(rest.Routine.Steps, func(s lesson.RoutineStep) bool {
		return s.Kind == lesson.Read
	})
	rest.Bank = []lesson.Text{
		{Kind: "sentence", Body: "A cat had a nap."}, {Kind: "page", Body: "Dan had a cap.\nTim had a pin. Dan is sad."},
	}
	double := Taught(t, 20, lesson.Introduce, "ll")
	double.Class.Exceptions["the"] = true
	double.Bank = []lesson.Text{{Kind: "sentence", Body: "The man sat."}}
	double.Minutes = 4
	hunt := Taught(t, 24, lesson.Introduce, "sh")
	hunt.Minutes = 60
	half := 0.6
	hunt.Routine.Steps = []lesson.RoutineStep{
		{Kind: lesson.Listen},
		{Kind: lesson.Blend},
		{Kind: lesson.Read, Options: lesson.Options{Older: &half}},
		{Kind: lesson.LetterHunt},
		{Kind: lesson.Page},
	}
	hunt.Bank = []lesson.Text{
		{Kind: "page", Body: "She shuts the shop. Shush! She sheds a shoe.\nSam is in the shed!"},
		{Kind: "page", Body: "Ship, shop, shed, shoe."},
		{Kind: "sentence", Body: "Sh sh sh sh sh sh."},
		{Kind: "page", Body: "Shop, shelf, shed, dish, fish!"},
		{Kind: "page", Body: "Ash had a dish.\nA fish is in it.\nAsh has a shock."},
		{Kind: "page", Body: "Fish and ships.\nI rush to a shop."},
		{Kind: "page", Body: "A fish, a dish, a ship.\nGlimp is in a shed."},
	}
	hunt.Class.Exceptions = map[string]bool{"the": true, "is": true, "i": true, "has": true, "to": true}

	again := Taught(t, 24, lesson.Again, "oo=uː")
	again.Conventions.Together = []string{"oo"}
	only := Taught(t, 24, lesson.Introduce, "ee")
	only.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Sentence}}
	alone := Taught(t, 24, lesson.Introduce, "sh")
	alone.Targets[0] = Full(alone.Targets[0])
	alone.Targets[0].State, alone.Targets[0].Rhyme = card.Draft, ""
	alone.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Page}, {Kind: lesson.Listen}}
	alone.Bank = []lesson.Text{{Kind: "page", Body: "A fish, a dish, a ship."}}
	four := Taught(t, 20, lesson.Introduce, "ee", "th=θ", "ar", "or")
	four.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Mouth}, {Kind: lesson.Read}}
	return []assembly.Input{draft, nothing, few, both, rest, double, hunt, again, only, alone, four}
}

// Lesson is a lesson to be assembled and read.
type Lesson struct {
	Name string
	In   assembly.Input
}

// Lessons are all that stand in testdata.
func Lessons(t testing.TB) (out []Lesson) {
	t.Helper()
	for i, line := range Plans() {
		in, _ := Plan(t, line)
		out = append(out, Lesson{fmt.Sprintf("lesson-%02d", i+1), in})
	}
	out = append(out, Lesson{"everything", Everything(t)})
	for n := 1; n <= 3; n++ {
		out = append(out, Lesson{fmt.Sprintf("ways-%d", n), otherWay(t, n)})
	}
	for i, in := range awkward(t) {
		out = append(out, Lesson{fmt.Sprintf("awkward-%d", i+1), in})
	}
	for i, way := range []string{"", "shaky", "letters", "groups", "all", "due"} {
		purpose := lesson.Purposes()[i%len(lesson.Purposes())].Purpose
		n := 12 + 3*i
		targets := map[lesson.Purpose][]string{
			lesson.Introduce: {Order[n]}, lesson.Again: {Order[n-1]}, lesson.Compare: {Order[n-2], Order[n-1]},
		}[purpose]
		out = append(out, Lesson{fmt.Sprintf("remembered-%d", i+1), Remembered(t, n, purpose, way, targets...)})
	}
	return out
}
