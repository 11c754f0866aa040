package assembly_test

import (
	"encoding/json"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/test/trial"
)

// demoOrder are the pairs of the demo team's order.
func demoOrder(t testing.TB) []string {
	t.Helper()
	data, err := os.ReadFile("../../../demo/library.json")
	require.NoError(t, err)
	var lib struct {
		Cards []struct {
			Pair string `json:"pair"`
		} `json:"cards"`
	}
	require.NoError(t, json.Unmarshal(data, &lib))
	var out []string
	for _, c := range lib.Cards {
		out = append(out, c.Pair)
	}
	return out
}

// Fifty steps of the demo's order in 10, 20 and 30 minutes: from the sixth on there are words enough to read and spell,
// and the sentence and the page hold the new sound. The class knows the few exception words that most texts need.
func TestFiftySteps(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	order := demoOrder(t)
	for n := range 50 {
		for _, minutes := range []int{10, 20, 30} {
			in := trial.TaughtIn(t, order, n, lesson.Introduce)
			in.Minutes = minutes
			for _, w := range []string{"the", "is", "to", "i"} {
				in.Class.Exceptions[w] = true
			}
			out, err := assembly.Assemble(in)
			require.NoError(t, err)
			target := in.Targets[0].Pair
			if n >= 5 {
				assert.GreaterOrEqual(t, len(findStep(out, lesson.Read).Items), 4, "read, %s in %d", target, minutes)
				assert.GreaterOrEqual(t, len(findStep(out, lesson.Spell).Items), 3, "spell, %s in %d", target, minutes)
			}
			for _, it := range findStep(out, lesson.Sentence).Items {
				assert.GreaterOrEqual(t, held(t, out, it.Value, target), 1, "%q for %s", it.Value, target)
			}
			for _, it := range findStep(out, lesson.Page).Items {
				if it.Kind == lesson.PageItem {
					assert.GreaterOrEqual(t, held(t, out, it.Value, target), texts.MinHeld, "%q for %s", it.Value, target)
				}
			}
			if n >= 5 && minutes == 20 {
				assert.NotEmpty(t, findStep(out, lesson.Sentence).Items, "sentence for %s: %v", target, out.Dropped)
			}
		}
	}
}

func findStep(l lesson.Lesson, k lesson.Kind) lesson.Step {
	i := slices.IndexFunc(l.Steps, func(s lesson.Step) bool { return s.Kind == k })
	if i < 0 {
		return lesson.Step{}
	}
	return l.Steps[i]
}

// held counts the words of a text that hold a pair, exception words not counted.
func held(t testing.TB, l lesson.Lesson, text string, p spelling.Pair) int {
	t.Helper()
	n := 0
	r := texts.Check(text, l.Set(), l.KnownSet(), texts.Options{Accent: "southern-british"})
	for _, k := range r.Tokens {
		if k.Status != texts.Exception && spelling.Holds(k.Segments, p) {
			n++
		}
	}
	return n
}
