package assembly_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/core/texts"
	"brightchalk/test/trial"
)

// covered is a check of its own: every sound of the word is spelled by a pair of the set, or by the doubled letter of
// one.
func covered(t *testing.T, word string, accent phoneme.Accent, set spelling.Set) bool {
	t.Helper()
	seg, err := lexicon.Segment(word, accent, spelling.Units{})
	require.NoError(t, err, word)
	for _, s := range seg.Segments {
		single := spelling.Pair{Grapheme: s.Grapheme[:1], Sound: s.Pair.Sound}
		double := len(s.Grapheme) == 2 && s.Grapheme[0] == s.Grapheme[1]
		if !set[s.Pair] && !(double && set[single]) {
			return false
		}
	}
	return true
}

// read are kinds of steps whose words the children read or write.
var readIn = []lesson.Kind{lesson.Read, lesson.Spell, lesson.Older, lesson.WordPlay, lesson.Contrast}

func TestPlansOfOurOwn(t *testing.T) {
	assert.Len(t, trial.Plans(), 21)
	for _, line := range trial.Plans() {
		in, readable := trial.Plan(t, line)
		t.Run(strings.Join(strings.Fields(line)[:9], " "), func(t *testing.T) {
			out, err := assembly.Assemble(in)
			require.NoError(t, err)
			assert.InDelta(t, in.Minutes*60, out.Seconds, 70, "notes %v", out.Notes)
			if len(in.Targets) > 0 {
				assert.Len(t, out.Targets, len(in.Targets))
			}
			for _, d := range out.Dropped {
				assert.Contains(t, []string{"no-time", "no-picture-or-rhyme", "no-page", "no-words"}, d.Code, d.Text)
				if d.Code == "no-words" { // nothing of the step can be had
					assert.Contains(t, []lesson.Kind{lesson.Exceptions, lesson.WordPlay}, d.Kind, d.Text)
				}
			}
			blended, readWords := []string{}, []string{}
			for _, s := range out.Steps {
				checkStep(t, in, out, s, readable)
				for _, it := range s.Items {
					switch s.Kind {
					case lesson.Blend:
						blended = append(blended, it.Value)
					case lesson.Read:
						readWords = append(readWords, it.Value)
					}
				}
			}
			assert.Subset(t, readWords, blended, "what is heard is read")
			assert.NotEmpty(t, readWords)
			assert.NotEmpty(t, findStep(out, lesson.Sentence).Items, "dropped %v", out.Dropped)
		})
	}
}

// checkStep holds one step to the rules: time by its items, words that can be read, texts that hold a target.
func checkStep(t *testing.T, in assembly.Input, out lesson.Lesson, s lesson.Step, readable spelling.Set) {
	t.Helper()
	checkStepOf(t, in, out, s, readable, "")
}

// checkStepOf is checkStep for a lesson that is named where it fails; a sentence without a target must be said.
func checkStepOf(
	t *testing.T,
	in assembly.Input,
	out lesson.Lesson,
	s lesson.Step,
	readable spelling.Set,
	plan string,
) {
	t.Helper()
	without := slices.ContainsFunc(out.Notes, func(n lesson.Reason) bool { return n.Code == "without-target" })
	assert.NotEmpty(t, s.Adult, s.ID)
	rec, ok := kinds.Registry.Of(s.Kind)
	require.True(t, ok)
	if rec.ItemSeconds > 0 && len(s.Items) > 0 {
		need := float64(rec.ItemSeconds * len(s.Items))
		assert.InEpsilon(t, need, float64(s.Seconds), 0.1, "%s: %d items in %d s, %s", s.ID, len(s.Items), s.Seconds, plan)
	}
	seen := map[string]bool{}
	for _, it := range s.Items {
		assert.NotEmpty(t, it.Because.Text, "%s %s, %s", s.ID, it.Value, plan)
		if it.Kind == lesson.PictureItem || it.Kind == lesson.WordItem {
			assert.False(t, seen[it.Value], "%s stands twice in %s, %s", it.Value, s.ID, plan)
			seen[it.Value] = true
		}
		if it.Kind == lesson.WordItem && slices.Contains(readIn, s.Kind) {
			assert.True(t, covered(t, it.Value, in.Conventions.Accent, readable), "%s in %s, %s", it.Value, s.ID, plan)
		}
		if it.Kind == lesson.SentenceItem || it.Kind == lesson.PageItem {
			r := texts.Check(it.Value, out.Set(), out.KnownSet(), texts.Options{Accent: in.Conventions.Accent})
			assert.InDelta(t, 1, r.Decodable, 1e-9, "%s, %s", it.Value, plan)
			if !without {
				assert.Positive(t, holding(r, out.Pairs()), "%q holds none of %v, %s", it.Value, out.Pairs(), plan)
			}
			if it.Kind == lesson.PageItem {
				assert.GreaterOrEqual(t, holding(r, out.Pairs()), texts.MinHeld, it.Value)
			}
		}
	}
}

// holding counts the words with one of the pairs.
func holding(r texts.Report, pairs []spelling.Pair) int {
	n := 0
	for _, k := range r.Tokens {
		has := slices.ContainsFunc(pairs, func(p spelling.Pair) bool { return spelling.Holds(k.Segments, p) })
		if has && k.Status != texts.Exception {
			n++
		}
	}
	return n
}

func TestWhatCannotBeAsked(t *testing.T) {
	for name, row := range map[string]struct {
		change func(in *assembly.Input)
		code   error
		says   string
	}{
		"61 minutes":           {func(in *assembly.Input) { in.Minutes = 61 }, assembly.ErrMinutes, "4 to 60 minutes"},
		"3 minutes":            {func(in *assembly.Input) { in.Minutes = 3 }, assembly.ErrMinutes, "not 3"},
		"no purpose":           {func(in *assembly.Input) { in.Purpose = "party" }, assembly.ErrPurpose, "unknown purpose"},
		"nothing to introduce": {func(in *assembly.Input) { in.Targets = nil }, assembly.ErrTargets, "1 to 4 sounds, not 0"},
		"one to compare":       {func(in *assembly.Input) { in.Purpose = lesson.Compare }, assembly.ErrTargets, "2 to 4"},
		"twice the same": {func(in *assembly.Input) {
			in.Targets = append(in.Targets, in.Targets[0])
		}, assembly.ErrTargets, "named twice"},
		"a sound of elsewhere": {func(in *assembly.Input) {
			in.Targets[0].Pair.Sound = "ǃ"
		}, phoneme.ErrUnknownSound, "ǃ"},
		"knows nothing": {func(in *assembly.Input) {
			in.Purpose, in.Targets, in.Class = lesson.Revise, nil, knowledge.Of(knowledge.Sources{Conventions: in.Conventions})
		}, assembly.ErrNothing, "say what it knows"},
		"no steps": {func(in *assembly.Input) { in.Routine.Steps = nil }, step.ErrRoutine, "no steps"},
		"forty steps": {func(in *assembly.Input) {
			in.Routine.Steps = slices.Repeat([]lesson.RoutineStep{{Kind: lesson.Read}}, 40)
		}, step.ErrRoutine, "40 steps"},
		"an unknown step": {func(in *assembly.Input) {
			in.Routine.Steps = []lesson.RoutineStep{{Kind: "juggling"}}
		}, step.ErrRoutine, "juggling"},
		"only a page": {func(in *assembly.Input) {
			in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Free}}
		}, assembly.ErrNothing, "no step can be held"},
	} {
		t.Run(name, func(t *testing.T) {
			in := trial.Taught(t, 12, lesson.Introduce)
			row.change(&in)
			_, err := assembly.Assemble(in)
			require.ErrorIs(t, err, row.code)
			assert.Contains(t, err.Error(), row.says)
		})
	}
}
