package wordform_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/wordform"
)

func stemsOf(word string) (out []string) {
	for _, s := range wordform.Stems(word) {
		out = append(out, s.Word+"+"+s.Ending.Letters)
	}
	return out
}

func TestStems(t *testing.T) {
	for word, want := range map[string]string{
		"cats":      "cat+s",
		"boxes":     "box+es boxe+es boxe+s",
		"jumped":    "jump+ed jumpe+ed",
		"hopping":   "hopp+ing hoppe+ing hop+ing",
		"hoping":    "hop+ing hope+ing",
		"eel":       "",
		"babies":    "baby+ies babie+ies babi+es babie+es babie+s",
		"tidied":    "tidy+ied tidie+ied tidi+ed tidie+ed",
		"happiness": "happy+iness happi+ness happin+ess happine+ess happines+s",
		"sadly":     "sad+ly sadl+y sadle+y",
		"sunny":     "sunn+y sunne+y sun+y",
		"egging":    "egg+ing egge+ing eg+ing",
		"adding":    "add+ing adde+ing ad+ing",
		"oozing":    "ooz+ing ooze+ing",
		"ads":       "ad+s",
		"as":        "",
		"seed":      "se+ed see+ed",
		"wider":     "wid+er wide+er",
		"hills":     "hill+s",
		"eels":      "eel+s",
	} {
		assert.ElementsMatch(t, strings.Fields(want), stemsOf(word), "%s: %v", word, stemsOf(word))
	}
	assert.NotContains(t, stemsOf("hippy"), "hi+y", "a letter is taken off once")
	assert.Contains(t, stemsOf("unification"), "unify+ication")
}

// No ending stands twice, and a longer one stands before a shorter one that it ends in.
func TestEndings(t *testing.T) {
	for i, e := range wordform.Endings {
		for _, later := range wordform.Endings[i+1:] {
			assert.NotEqual(t, e.Letters, later.Letters)
			assert.False(t, strings.HasSuffix(later.Letters, e.Letters), "%s after %s", later.Letters, e.Letters)
		}
	}
	inflects := 0
	for _, e := range wordform.Endings {
		if e.Inflects {
			inflects++
		}
	}
	assert.Equal(t, 7, inflects, "-s -es -ies -ed -ied -ing -ings")
}

// How plurals, past forms and -y that became -i are said is common knowledge of English (from memory: voiceless +s,
// hissing +iz, t and d +id).
func TestSound(t *testing.T) {
	ending := func(letters string) wordform.Ending {
		i := slices.IndexFunc(wordform.Endings, func(e wordform.Ending) bool { return e.Letters == letters })
		if i < 0 {
			return wordform.Ending{Letters: letters}
		}
		return wordform.Endings[i]
	}
	for _, c := range []struct{ stem, codes, ending, want string }{
		{"cat", "kat", "s", "kats"},
		{"dog", "dog", "s", "dogz"},
		{"bus", "bus", "es", "busiz"},
		{"fish", "fiS", "es", "fiSiz"},
		{"go", "gO", "es", "gOz"},
		{"baby", "bAby", "ies", "bAbyz"},
		{"cliff", "klif", "s", "klifs"},
		{"wish", "wiS", "ed", "wiSt"},
		{"want", "wont", "ed", "wontid"},
		{"add", "ad", "ed", "adid"},
		{"hum", "hum", "ed", "humd"},
		{"tidy", "tYdy", "ied", "tYdyd"},
		{"happy", "hapy", "ier", "hapy4"},
		{"happy", "hapy", "iest", "hapyist"},
		{"happy", "hapy", "ily", "hapily"},
		{"happy", "hapy", "iness", "hapin@s"},
		{"jump", "jump", "ing", "jumpiN"},
		{"tickle", "tik@l", "ing", "tikliN"},
		{"tickle", "tik@l", "ed", "tik@ld"},
		{"tickle", "tik@l", "less", "tik@ll@s"},
		{"pedal", "ped@l", "ing", "ped@liN"},
		{"wobble", "wob@l", "y", "wobly"},
		{"farm", "fRm", "er", "fRm4"},
		{"gap", "gap", "es", ""},
		{"a", "", "s", ""},
		{"sad", "sad", "ion", ""},
		{"little", "lit@l", "est", "litlist"},
		{"table", "tAb@l", "age", "tAbliJ"},
	} {
		got, ok := wordform.Sound(c.stem, c.codes, ending(c.ending))
		if c.want == "" {
			assert.False(t, ok, "%s + %s gives %s", c.stem, c.ending, got)
			continue
		}
		require.True(t, ok, "%s + %s", c.stem, c.ending)
		assert.Equal(t, c.want, got, "%s + %s", c.stem, c.ending)
	}
	_, ok := wordform.Sound("cry", "krY", ending("ily"))
	assert.False(t, ok, "only a weak y becomes i")
	_, ok = wordform.Sound("dry", "drY", ending("iness"))
	assert.False(t, ok)
}

func TestNear(t *testing.T) {
	assert.True(t, wordform.IsNear("boti", "bot@"), "weak vowels")
	assert.True(t, wordform.IsNear("bPl", "bol"))
	assert.False(t, wordform.IsNear("bat", "bet"))
}
