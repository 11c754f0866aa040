package assembly_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/core/words"
	"brightchalk/test/trial"
)

// Every kind of step in one lesson.
func TestEveryKindOfStep(t *testing.T) {
	in := trial.Everything(t)
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	var kinds []lesson.Kind
	for _, s := range out.Steps {
		kinds = append(kinds, s.Kind)
	}
	for _, s := range in.Routine.Steps {
		if s.Kind != lesson.Capitals { // no single letter
			assert.Contains(t, kinds, s.Kind, "%v", out.Dropped)
		}
	}
}

func TestLessonsToBeRead(t *testing.T) { trial.Read(t, "../../../test/trial") }

func TestTheSameInputGivesTheSameLesson(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	for _, l := range trial.Lessons(t) {
		once, err := assembly.Assemble(l.In)
		require.NoError(t, err)
		again, err := assembly.Assemble(l.In)
		require.NoError(t, err)
		require.Equal(t, once, again, l.Name)
	}
}

func TestTheRegistry(t *testing.T) {
	seen := map[lesson.Kind]bool{}
	for _, r := range kinds.Registry.All() {
		assert.False(t, seen[r.Kind], r.Kind)
		seen[r.Kind] = true
		assert.NotEmpty(t, r.Name)
		assert.NotEmpty(t, r.About, r.Kind)
		assert.NotEmpty(t, r.Shows, r.Kind)
		assert.LessOrEqual(t, r.MinSeconds, r.UsualSeconds, r.Kind)
		assert.LessOrEqual(t, r.UsualSeconds, r.MaxSeconds, r.Kind)
		// Nothing rushed: 4 s a card, 15 s a picture, 20 s a word read, 30 s a word spelled (common practice, no published
		// source).
		switch r.Shows {
		case step.ShowDeck:
			assert.GreaterOrEqual(t, r.ItemSeconds, 4, r.Kind)
		case step.ShowWord:
			assert.GreaterOrEqual(t, r.ItemSeconds, 20, r.Kind)
		}
	}
	assert.Len(t, seen, 31)
	_, ok := kinds.Registry.Of("juggling")
	assert.False(t, ok)
	assert.True(t, kinds.Registry.Takes(lesson.Read, lesson.WordItem))
	assert.False(t, kinds.Registry.Takes(lesson.Read, lesson.PictureItem))
}

func TestAStepTwiceWithOtherOptions(t *testing.T) {
	in := trial.Taught(t, 20, lesson.Introduce)
	none, all := 0.0, 1.0
	in.Minutes = 8
	in.Routine.Steps = []lesson.RoutineStep{
		{
			Kind:    lesson.Read,
			Options: lesson.Options{Older: &none},
		},
		{Kind: lesson.Read, Name: "Mix", Options: lesson.Options{Older: &all}},
	}
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	require.Len(t, out.Steps, 2)
	assert.Equal(t, "read-2", out.Steps[1].ID)
	assert.Equal(t, "Mix", out.Steps[1].Name)
	for i, role := range []lesson.Role{lesson.TargetRole, lesson.OlderRole} {
		for _, it := range out.Steps[i].Items {
			assert.Equal(t, role, it.Role, it.Value)
			assert.True(t, strings.HasPrefix(it.Slot, out.Steps[i].ID+"."))
		}
	}
}

// A step less does not change what the others hold, but for how many.
func TestADroppedStepDisturbsNoOther(t *testing.T) {
	in := trial.Everything(t)
	whole, err := assembly.Assemble(in)
	require.NoError(t, err)
	in.Routine.Steps = slices.DeleteFunc(slices.Clone(in.Routine.Steps), func(s lesson.RoutineStep) bool {
		return s.Kind == lesson.Ear || s.Kind == lesson.Spell
	})
	less, err := assembly.Assemble(in)
	require.NoError(t, err)
	for _, s := range less.Steps {
		before := findStep(whole, s.Kind)
		if len(s.Deck) > 0 || s.Kind == lesson.Contrast {
			continue // their order follows from how many they are
		}
		for i := range min(len(before.Items), len(s.Items)) {
			if s.Items[i].Role != lesson.OlderRole && before.Items[i].Role != lesson.OlderRole {
				assert.Equal(t, before.Items[i].Value, s.Items[i].Value, s.ID)
			}
		}
	}
}

var south = words.Options{Accent: "southern-british"}

func telling(l *lesson.Lesson) *step.Narration {
	return &step.Narration{Lesson: l, Conventions: convention.Conventions{Accent: "southern-british"}, Speech: south}
}

func TestChangesOfALesson(t *testing.T) {
	out, err := assembly.Assemble(trial.Everything(t))
	require.NoError(t, err)
	tell := telling(&out)
	read := func() lesson.Step { return findStep(out, lesson.Read) }
	first, second := read().Items[0].Value, read().Items[1].Value

	require.NoError(t, assembly.Swap(tell, "read.1"))
	assert.NotEqual(t, first, read().Items[0].Value)
	assert.True(t, read().Items[0].Swapped)
	assert.Equal(t, first, read().Items[0].Next[len(read().Items[0].Next)-1].Value, "the former one can come back")
	assert.NotEmpty(t, out.WordBits[read().Items[0].Value])

	require.NoError(t, assembly.Move(tell, "read.2", 0))
	assert.Equal(t, second, read().Items[0].Value)
	seconds, whole := read().Seconds, out.Seconds
	require.NoError(t, assembly.Remove(tell, "read.2"))
	assert.Equal(t, 25*len(read().Items), read().Seconds, "seconds follow the items")
	assert.Equal(t, whole-(seconds-read().Seconds), out.Seconds)

	require.NoError(t, assembly.Put(tell, "read", lesson.WordItem, []string{"shop", "chum"}, true, "by you"))
	last := read().Items[len(read().Items)-1]
	assert.Equal(t, "chum", last.Value)
	assert.True(t, last.Locked)
	assert.Equal(t, lesson.TargetRole, last.Role)
	slots := map[string]bool{}
	for _, it := range read().Items {
		assert.False(t, slots[it.Slot], it.Slot)
		slots[it.Slot] = true
	}
	require.NoError(t, assembly.Put(tell, "sentence", lesson.SentenceItem, []string{"The chip is hot."}, false, "by you"))
	sentence := findStep(out, lesson.Sentence)
	assert.Equal(t, "The chip is hot.", sentence.Items[0].Value)
	assert.ElementsMatch(t, strings.Fields("The chip is hot."), strings.Fields(strings.Join(sentence.Pieces, " ")))

	require.NoError(t, assembly.Retext(tell, "read", []string{"Read."}, []string{"Reads."}))
	assert.Equal(t, []string{"Read."}, read().Adult)
	require.NoError(t, assembly.Swap(tell, read().Items[0].Slot))
	assert.Equal(t, []string{"Read."}, read().Adult, "what was written by hand stays")
	require.NoError(t, assembly.Retext(tell, "read", nil, nil))
	assert.Greater(t, len(read().Adult), 1)

	require.ErrorIs(t, assembly.Swap(tell, "read.99"), assembly.ErrNoSlot)
	require.ErrorIs(t, assembly.Remove(tell, "nothing.1"), assembly.ErrNoSlot)
	require.ErrorIs(t, assembly.Retext(tell, "juggle", nil, nil), assembly.ErrNoStep)
	require.ErrorIs(t, assembly.Put(tell, "read", lesson.PictureItem, []string{"ship"}, true, ""), assembly.ErrNoStep)
	story := findStep(out, lesson.Story)
	require.ErrorIs(t, assembly.Remove(tell, story.Items[0].Slot), assembly.ErrLast)
	alone := &lesson.Lesson{Steps: []lesson.Step{{ID: "read", Kind: lesson.Read, Items: []lesson.Item{{Slot: "read.1"}}}}}
	require.ErrorIs(t, assembly.Swap(telling(alone), "read.1"), assembly.ErrNoNext)
}

func TestWhoSpeaksHowOftenAndWhatIsShownFirst(t *testing.T) {
	in := trial.Everything(t)
	in.Conventions.Says.Signs.Both = "two thumbs up"
	in.Clues = map[string]string{}
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Read, Least: 4, Options: lesson.Options{
		Way: step.PictureFirst, Times: 4, Voices: []lesson.Voice{lesson.ByAdult, lesson.Together, lesson.ByClass},
	}}}
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	read := func() lesson.Step { return out.Steps[0] }
	voices := []lesson.Voice{lesson.ByAdult, lesson.Together, lesson.ByClass, lesson.ByClass}
	for i, v := range voices {
		assert.Equal(t, v, read().Items[i].Voice)
	}
	assert.Contains(t, strings.Join(read().Adult, " "), "all together (two thumbs up): "+read().Items[1].Value)
	assert.Contains(t, strings.Join(read().Adult, " "), "3 times more")
	assert.InEpsilon(t, (25+2*8)*len(read().Items), read().Seconds, 0.1, "four times take longer than twice")
	shown := 0
	for _, it := range read().Items {
		assert.Equal(t, lexicon.Pictured(it.Value), it.Picture, it.Value)
		shown += map[bool]int{true: 1}[it.Picture]
	}
	assert.Positive(t, shown)

	tell := telling(&out)
	tell.Clues = map[string]string{read().Items[0].Next[0].Value: "in our words"}
	require.NoError(t, assembly.Speak(tell, "read.1", lesson.Silently))
	assert.Contains(t, strings.Join(read().Adult, " "), "silently, then aloud")
	require.NoError(t, assembly.Swap(tell, "read.1"))
	assert.Equal(t, "in our words", read().Items[0].Clue, "the clue is the new word's")
	assert.Equal(t, lesson.Silently, read().Items[0].Voice, "who speaks stays with the place")
	require.ErrorIs(t, assembly.Speak(tell, "read.99", lesson.ByClass), assembly.ErrNoSlot)

	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Spell}}
	spell, err := assembly.Assemble(in)
	require.NoError(t, err)
	require.ErrorIs(t, assembly.Speak(telling(&spell), "spell.1", lesson.ByClass), assembly.ErrNoStep)
}

func TestAllSoundsOfASpellingAtOnce(t *testing.T) {
	in := trial.Taught(t, 24, lesson.Introduce, "oo=uː", "oo=ʊ")
	in.Conventions.Together = []string{"oo"}
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Pack}, {Kind: lesson.Read, Least: 4}}
	in.Targets[0].Keyword, in.Targets[1].Keyword = "moon", "book"
	in.Targets[0].Step, in.Targets[1].Step = 30, 25
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	said := strings.Join(findStep(out, lesson.Pack).Class, " ")
	assert.Contains(t, said, "oo: /ʊ/ as in book, then /uː/ as in moon.", "in the order of the steps")
	assert.Equal(t, 1, strings.Count(said, "oo:"), "said once")
	in.Conventions.Together = nil
	out, err = assembly.Assemble(in)
	require.NoError(t, err)
	assert.NotContains(t, strings.Join(findStep(out, lesson.Pack).Class, " "), "oo:")
}

// A team's long step is longer, of whatever its time is made; minutes that the team named stay.
func TestAWeightCountsInEveryStep(t *testing.T) {
	for _, r := range kinds.Registry.All() {
		if r.Kind == lesson.MixIn || r.Kind == lesson.ClosePart || r.Kind == lesson.WarmUp {
			continue // they have what they have
		}
		length := func(w float64) int {
			in := trial.Everything(t)
			in.Minutes = 10
			in.Routine.Steps = []lesson.RoutineStep{
				{Kind: r.Kind, Weight: w, Options: lesson.Options{Words: []string{"Sh, sh, sh! The fish in the shed."}}},
				{Kind: lesson.Free, Options: lesson.Options{Words: []string{"Count the boats."}, Seconds: 500}},
			}
			out, err := assembly.Assemble(in)
			require.NoError(t, err, r.Kind)
			return findStep(out, r.Kind).Seconds
		}
		if r.Kind != lesson.Free {
			assert.LessOrEqual(t, length(0.25), length(1), r.Kind)
		}
	}
	in := trial.Everything(t)
	in.Minutes = 60
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Story}, {Kind: lesson.Read, Weight: 4}}
	usual, err := assembly.Assemble(in)
	require.NoError(t, err)
	in.Routine.Steps[0].Weight = 3
	long, err := assembly.Assemble(in)
	require.NoError(t, err)
	assert.Greater(t, findStep(long, lesson.Story).Seconds, findStep(usual, lesson.Story).Seconds)
}

func TestTwoSentencesPractiseTwoWords(t *testing.T) {
	in := trial.Taught(t, 24, lesson.Introduce, "sh")
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Sentence, Weight: 2}}
	in.Bank = []lesson.Text{
		{Kind: "sentence", Body: "A ship is in the fog."},
		{Kind: "sentence", Body: "The ship is in the fog."},
		{Kind: "sentence", Body: "The shop is in the fog."},
	}
	in.Class.Exceptions = map[string]bool{"the": true, "is": true}
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(out.Steps[0].Items), 2)
	assert.Equal(t, "A ship is in the fog.", out.Steps[0].Items[0].Value)
	assert.Equal(t, "The shop is in the fog.", out.Steps[0].Items[1].Value)
}

func TestTheHandRepeatsAndTakesTheFamily(t *testing.T) {
	in := trial.Taught(t, 20, lesson.Introduce, "d")
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Hand, Options: lesson.Options{Way: "family", Times: 3}}}
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	said := strings.Join(out.Steps[0].Adult, " ")
	assert.Contains(t, said, "turned round it is a b")
	assert.Contains(t, said, "3 times")
	assert.Regexp(t, `Then its family, one after the other: .*\ba\b`, said)
	assert.NotRegexp(t, `one after the other: [^.]*\b[dtlk]\b`, said, "neither itself nor a letter of sticks")
}

func TestPicturesGoToTheirSide(t *testing.T) {
	in := trial.Taught(t, 12, lesson.Introduce, "m")
	in.Minutes = 30
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	sent := []string{"map", "moon", "sun", "dog"}
	require.NoError(t, assembly.Put(telling(&out), "ear", lesson.PictureItem, sent, false, "by you"))
	sides := map[string]lesson.Basket{}
	for _, it := range findStep(out, lesson.Ear).Items {
		if !it.Basket.Quarter() {
			sides[it.Value] = it.Basket
		}
	}
	want := map[string]lesson.Basket{"map": lesson.Has, "moon": lesson.Has, "sun": lesson.HasNot, "dog": lesson.HasNot}
	assert.Equal(t, want, sides)
}

func TestWhatIsLockedOrWrittenStays(t *testing.T) {
	in := trial.Everything(t)
	out, err := assembly.Assemble(in)
	require.NoError(t, err)
	read := findStep(out, lesson.Read)
	kept := read.Items[1]
	kept.Option = read.Items[0].Next[0]
	in.Locked = map[string][]lesson.Item{"read": {kept}}
	in.Edited = map[string]lesson.Step{"spell": {Adult: []string{"Spell."}, Class: []string{"Spells."}}}
	again, err := assembly.Assemble(in)
	require.NoError(t, err)
	values := []string{}
	for _, it := range findStep(again, lesson.Read).Items {
		values = append(values, it.Value)
		if it.Slot == kept.Slot {
			assert.Equal(t, kept.Value, it.Value)
			assert.True(t, it.Locked)
		}
	}
	slices.Sort(values)
	assert.Len(t, slices.Compact(values), len(findStep(again, lesson.Read).Items), "no word twice")
	assert.Equal(t, []string{"Spell."}, findStep(again, lesson.Spell).Adult)
}

// Facts (common practice, no published source): a sorting game has 3 to 5 pictures to a sound, as many of each; other
// sounds vary; none is mixed up with the target by ear.
func TestSortingByEar(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	for n, g := range trial.Order {
		if n < 3 {
			continue
		}
		for seed := range uint64(3) {
			in := trial.Taught(t, n, lesson.Introduce)
			in.Seed = seed
			out, err := assembly.Assemble(in)
			require.NoError(t, err)
			count, from := map[lesson.Basket]int{}, map[string]bool{}
			for _, it := range findStep(out, lesson.Ear).Items {
				count[it.Basket]++
				if it.Basket == lesson.HasNot && it.Kind == lesson.PictureItem {
					from[string(south.Sounds(it.Value)[0])] = true
				}
			}
			assert.Equal(t, count[lesson.Has], count[lesson.HasNot], g)
			assert.GreaterOrEqual(t, count[lesson.Has], 2, g)
			assert.LessOrEqual(t, count[lesson.Has], 5, g)
			if g == "m" {
				assert.False(t, from["n"], "m and n are mixed up by ear")
				assert.Greater(t, len(from), 2, "from several sounds")
			}
		}
	}
}
