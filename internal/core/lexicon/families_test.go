package lexicon_test

import (
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/wordform"
)

// words of testdata/apart.txt: the first of each line, with the reason after it.
func apart(t *testing.T) map[string]bool {
	t.Helper()
	data, err := os.ReadFile("testdata/apart.txt")
	require.NoError(t, err)
	out := map[string]bool{}
	for line := range strings.Lines(string(data)) {
		if f := strings.Fields(line); len(f) > 1 && f[0] != "#" {
			out[f[0]] = true
		}
	}
	return out
}

// A family speaks with one voice, over the whole lexicon and in every accent: a word that may be a form of another,
// by its letters and nearly by its sounds, has that word's vowels, unless the list says why not.
func TestAFamilySpeaksWithOneVoice(t *testing.T) {
	excused := apart(t)
	used := map[string]bool{}
	for _, e := range lexicon.Words() {
		for _, a := range []phoneme.Accent{phoneme.SouthernBritish, phoneme.GeneralAmerican} {
			var near []string
			one := false
			for _, s := range wordform.Stems(e.Word) {
				stem, ok := lexicon.Find(s.Word)
				if !ok || len(s.Word) < 3 {
					continue
				}
				for _, c := range stem.CodesIn(a) {
					codes, ok := wordform.Sound(s.Word, c, s.Ending)
					if ok && slices.Contains(e.CodesIn(a), codes) {
						one = true
					} else if ok && slices.ContainsFunc(e.CodesIn(a), func(own string) bool { return wordform.IsNear(own, codes) }) {
						near = append(near, s.Word+" makes "+codes)
					}
				}
			}
			if one || len(near) == 0 {
				continue
			}
			used[e.Word] = true
			assert.True(t, excused[e.Word], "%s %v in %s, but %v", e.Word, e.CodesIn(a), a, near)
		}
	}
	for w := range excused {
		assert.True(t, used[w], "%s needs no excuse any more", w)
	}
}

// Lexical sets that a dictionary of one accent mixes are settled by one list each, so the forms follow: BATH, CLOTH,
// THOUGHT for au and aw, NURSE before a vowel. Examples from memory; the full check is the one above.
func TestSetsHoldThroughTheirFamilies(t *testing.T) {
	for word, want := range map[string][4]string{ // southern, northern, american, northern with cup apart
		"grassy":   {"ɡrɑːsiː", "ɡræsiː", "ɡræsiː", "ɡræsiː"},
		"fastest":  {"fɑːstɪst", "fæstɪst", "fæstɪst", "fæstɪst"},
		"worried":  {"wʌriːd", "wʊriːd", "wɜːriːd", "wʌriːd"},
		"hurrying": {"hʌriːɪŋ", "hʊriːɪŋ", "hɜːriːɪŋ", "hʌriːɪŋ"},
		"dogs":     {"dɒɡz", "dɒɡz", "dɔːɡz", "dɒɡz"},
		"hot":      {"hɒt", "hɒt", "hɑːt", "hɒt"},
		"cause":    {"kɔːz", "kɔːz", "kɔːz", "kɔːz"},
		"audience": {"ɔːdiːəns", "ɔːdiːəns", "ɔːdiːəns", "ɔːdiːəns"},
		"tuned":    {"tjuːnd", "tjuːnd", "tuːnd", "tjuːnd"},
		"caring":   {"keərɪŋ", "keərɪŋ", "keərɪŋ", "keərɪŋ"},
		"cup":      {"kʌp", "kʊp", "kʌp", "kʌp"},
	} {
		for i, a := range phoneme.Accents {
			e, ok := lexicon.Find(word)
			require.True(t, ok, word)
			assert.Equal(t, want[i], phoneme.Join(phoneme.Realise(a, e.CodesIn(a)[0], 0)), "%s in %s", word, a)
		}
	}
}

// No plural of a thing that children know stands apart from it, but for those that voice the end (paths) and words that
// only look like one.
func TestPluralsBelongToTheirThings(t *testing.T) {
	own := map[string]bool{}
	for w := range strings.FieldsSeq("houses playhouses greenhouses paths baths mouths buss canvass") {
		own[w] = true
	}
	for _, e := range lexicon.Words() {
		one, ok := lexicon.Find(strings.TrimSuffix(e.Word, "s"))
		if ok && e.Stem == "" && strings.HasSuffix(e.Word, "s") && strings.Contains(one.Kinds, "T") && len(one.Word) > 2 {
			assert.True(t, own[e.Word], "%s is no form of %s", e.Word, one.Word)
		}
	}
}
