package handout_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/test/trial"
)

// made is a lesson of a class that knows the first n sounds of the order of trial.
func made(t *testing.T, n int, p lesson.Purpose, targets ...string) handout.Handout {
	t.Helper()
	in := trial.Taught(t, n, p, targets...)
	in.Minutes = 30
	l, err := assembly.Assemble(in)
	require.NoError(t, err)
	return handout.New(l, handout.Options{Speech: lexicon.Speech{Accent: in.Conventions.Accent}})
}

func sounds(w string) []phoneme.Phoneme {
	return lexicon.Speech{Accent: phoneme.SouthernBritish}.Sounds(w)
}

// A lesson on three letters prints for three: each has a side in the game, and each picture lies on the side of the
// sound that is heard in it.
func TestEveryTargetHasItsSideAndItsPictures(t *testing.T) {
	h := made(t, 20, lesson.Introduce, "ee", "sh", "ch")
	games := h.Pictures()
	require.Len(t, games, 1)
	game := games[0]
	require.Len(t, game.Sides, 3)
	for i, target := range h.Targets {
		assert.Equal(t, target.ID, game.Sides[i].Card)
		own := game.Of(i)
		assert.GreaterOrEqual(t, len(own), 3, "%s has pictures", target.Label)
		assert.Len(t, own, len(game.Of(0)), "each side has as many")
		for _, w := range own {
			assert.Contains(t, sounds(w), phoneme.Phoneme(target.Pair.Sound), w)
		}
	}
	var order []int
	for _, it := range game.Items {
		order = append(order, it.Side)
	}
	assert.False(t, slices.IsSorted(order), "the order does not give the sides away")
	assert.Len(t, h.Rings(), 3, "a list to ring for each")
	for _, r := range h.Rings() {
		n := 0
		for _, w := range r.Words {
			if h.Holds(w.Word, r.Target) > 0 {
				n++
			}
		}
		assert.Equal(t, n, r.Holding, "words with %s are counted for it alone", r.Target.Label)
	}
}

// Two sounds of one spelling stand under two names, never under the same one twice.
func TestSidesOfOneSpellingHaveTwoNames(t *testing.T) {
	in := trial.Taught(t, 26, lesson.Compare, "th=θ", "th=ð")
	l, err := assembly.Assemble(in)
	require.NoError(t, err)
	h := handout.New(l, handout.Options{Speech: lexicon.Speech{Accent: in.Conventions.Accent}})
	require.Len(t, h.Targets, 2)
	assert.NotEqual(t, h.Targets[0].Label, h.Targets[1].Label)
	game, ok := h.WordSort(6)
	require.True(t, ok)
	assert.NotEqual(t, game.Sides[0].Head, game.Sides[1].Head)
	assert.Equal(t, "Sounds that we tell apart", h.Heading())
	for i := range game.Sides {
		for _, w := range game.Of(i) {
			assert.Positive(t, h.Holds(w, h.Targets[i]), "%s stands under %s", w, game.Sides[i].Label)
			assert.Zero(t, h.Holds(w, h.Targets[1-i]), "%s belongs to one side only", w)
		}
	}
}

// What a hunt, a book or a question names for a letter begins with its sound in that spelling: no shark for c or s, no
// hippo for l.
func TestThingsBeginWithTheTargetInItsSpelling(t *testing.T) {
	for _, g := range strings.Fields("c s l p g sh ee m") {
		h := made(t, 18, lesson.Introduce, g)
		target := h.Targets[0]
		things := h.Things(target)
		require.GreaterOrEqual(t, len(things), 3, g)
		for _, w := range things {
			_, bits := h.Bits(w)
			if h.Begins(target) {
				assert.Equal(t, target.Pair.Grapheme, bits[0].Grapheme, "%s: %s", g, w)
				assert.Equal(t, target.Pair.Sound, bits[0].Sound, "%s: %s", g, w)
			} else {
				assert.Positive(t, h.Holds(w, target), "%s: %s", g, w)
			}
			assert.True(t, lexicon.Pictured(w), "%s can be drawn", w)
		}
		for _, group := range h.Hunt() {
			assert.Subset(t, things, group.Words)
		}
	}
}

// Words that are only heard are neither printed to be read nor put into frames.
func TestWordsForTheEarAreNotPrinted(t *testing.T) {
	h := made(t, 12, lesson.Introduce, "h")
	for i := range h.Lesson.Steps {
		if s := &h.Lesson.Steps[i]; s.Kind == lesson.Blend {
			s.Items = append(s.Items, lesson.Item{Kind: lesson.WordItem, Option: lesson.Option{Value: "elephant"}})
		}
	}
	assert.NotContains(t, h.ReadWords(), "elephant")
	assert.NotContains(t, h.SpellWords(), "elephant")
	for _, g := range h.Bank() {
		assert.NotContains(t, g.Words, "elephant")
	}
}

// The count of a hunt is of sounds by how words are cut, for the target that it names: is and has have no /s/, and the
// sh of ship is no s.
func TestAHuntCountsSounds(t *testing.T) {
	h := made(t, 24, lesson.Introduce, "s")
	h.Lesson.Steps = append(h.Lesson.Steps, lesson.Step{Kind: lesson.LetterHunt, Items: []lesson.Item{{
		Kind: lesson.TextItem, Option: lesson.Option{Value: "Sam has six ships. It is Sam's sock in the sun."},
	}}})
	hunt, ok := h.LetterHunt()
	require.True(t, ok)
	require.Len(t, hunt.Counts, 1)
	// Sam, six, ships (its end), Sam's (its start), sock, sun: s with the sound /s/.
	assert.Equal(t, 6, hunt.Counts[0].N)
}

// At most three questions, each with something to tick; of those with a right answer exactly one choice is right.
func TestQuestionsHaveOneRightAnswer(t *testing.T) {
	for _, targets := range [][]string{{"m"}, {"sh"}, {"s", "m"}, {"ee", "sh", "ch"}} {
		h := made(t, 20, lesson.Introduce, targets...)
		questions := h.Questions()
		assert.LessOrEqual(t, len(questions), 3)
		require.NotEmpty(t, questions)
		for i, q := range questions[:len(questions)-1] {
			require.Len(t, q.Choices, 3, q.Text)
			right := 0
			target := h.Targets[min(i, len(h.Targets)-1)]
			for _, c := range q.Choices {
				if c == target.Pair.Grapheme || slices.Contains(sounds(c), phoneme.Phoneme(target.Pair.Sound)) {
					right++
				}
			}
			assert.Equal(t, 1, right, "%s %v", q.Text, q.Choices)
		}
	}
}

// What to draw says how many and for which sound.
func TestDrawingSaysHowManyAndForWhich(t *testing.T) {
	assert.Regexp(t, `^Draw three things that begin with m as in \w+\.`, made(t, 20, lesson.Introduce, "m").Drawing())
	two := made(t, 20, lesson.Introduce, "m", "s").Drawing()
	assert.Contains(t, two, "two things that begin with m")
	assert.Contains(t, two, "two things that begin with s")
}

// Each lesson needs its plan and its home sheet; labels and boxes are made once.
func TestWhatALessonNeeds(t *testing.T) {
	h := made(t, 20, lesson.Introduce, "m")
	for _, s := range []string{"plan", "home", "words", "frames", "practice"} {
		assert.True(t, h.Needs(s), s)
	}
	for _, s := range []string{"labels", "box", "eight", "capitals"} {
		assert.False(t, h.Needs(s), s)
	}
}

// Every heading fits what the lesson is for: nothing is called new that is not.
func TestOnlyAnIntroductionIsNew(t *testing.T) {
	for _, p := range lesson.Purposes() {
		targets := []string{"m"}
		if p.Purpose == lesson.Compare {
			targets = []string{"m", "n"}
		}
		h := made(t, 20, p.Purpose, targets...)
		assert.Equal(t, p.Purpose == lesson.Introduce, strings.Contains(h.Heading(), "new"), h.Heading())
	}
}

// What the team refused on any card is on no list, however well it would fit.
func TestRefusedWordsAreOnNoSheet(t *testing.T) {
	in := trial.Taught(t, 20, lesson.Introduce, "m")
	l, err := assembly.Assemble(in)
	require.NoError(t, err)
	l.Steps = nil // so that nothing on it is the lesson's own choice
	o := handout.Options{Speech: lexicon.Speech{Accent: in.Conventions.Accent}}
	before := handout.New(l, o)
	things := before.Things(before.Targets[0])
	require.Contains(t, things, "moon")
	o.Refused = map[string]bool{"moon": true}
	after := handout.New(l, o)
	assert.NotContains(t, after.Things(after.Targets[0]), "moon")
	for _, q := range after.Questions() {
		assert.NotContains(t, q.Choices, "moon")
	}
	compounds := before.Compounds()
	require.NotEmpty(t, compounds)
	o.Refused = map[string]bool{compounds[0].Word: true}
	assert.NotContains(t, handout.New(l, o).Compounds(), compounds[0])
}
