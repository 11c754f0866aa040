package spelling_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

const sb = phoneme.SouthernBritish

func TestParsePair(t *testing.T) {
	rows := []struct{ name, text, want string }{
		{"given sound", "ow=əʊ", "ow=əʊ"},
		{"most common sound", "sh", "sh=ʃ"},
		{"a split spelling", "a-e", "a-e=eɪ"},
		{"underscore for the dash", "i_e", "i-e=aɪ"},
		{"two sounds", "qu=kw", "qu=kw"},
		{"typed g", "g=g", "g=ɡ"},
		{"voiced th", "th=ð", "th=ð"},
		{"nk as a unit", "nk", "nk=ŋk"},
	}
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			p, err := spelling.ParsePair(sb, r.text)
			require.NoError(t, err)
			assert.Equal(t, r.want, p.String())
		})
	}
	for text, says := range map[string]string{"zh": "not in the " +
		"table", "sh=m": "not spelled", "m=☃": "not a sound", "": "not in the table"} {
		_, err := spelling.ParsePair(sb, text)
		require.ErrorIs(t, err, spelling.ErrUnknownPair)
		assert.ErrorContains(t, err, says)
	}
}

// Digraph two letters, trigraph three: common practice, no published source.
func TestKinds(t *testing.T) {
	for g, kind := range map[string]string{"s": "letter", "sh": "digraph", "igh": "trigraph", "eigh": "four-letter " +
		"group", "a-e": "split digraph", "ss": "doubled letter", "oo": "digraph", "ee": "digraph"} {
		assert.Equal(t, kind, spelling.Pair{Grapheme: g}.Kind(), g)
	}
	assert.Equal(t, 2, spelling.Pair{Grapheme: "a-e"}.Letters())
}

func TestSetSaysWhatIsUntaught(t *testing.T) {
	set, err := spelling.ParsePairs(sb, "n=n, t=t, i=ɪ")
	require.NoError(t, err)
	var al spelling.Aligner
	night := al.Align("night", "nYt", spelling.Cut{}, sb, spelling.Units{})
	assert.Equal(t, []spelling.Pair{{Grapheme: "igh", Sound: "aɪ"}}, set.Untaught(night))
	assert.False(t, set.Covers(night))
	assert.True(t, set.Covers(al.Align("tin", "tin", spelling.Cut{}, sb, spelling.Units{})))
}

func TestAlignNeverInvents(t *testing.T) {
	var al spelling.Aligner
	segs := al.Align("yacht", "jot", spelling.Cut{}, sb, spelling.Units{})
	odd := ""
	for _, s := range segs {
		if s.Odd {
			odd += s.Grapheme
		}
	}
	assert.Equal(t, "ch", odd)
	assert.Nil(t, al.Align("", "", spelling.Cut{}, sb, spelling.Units{}))
	assert.Nil(t, al.Align("Ship", "Sip", spelling.Cut{}, sb, spelling.Units{}), "capitals are the caller's work")
}

func TestGuess(t *testing.T) {
	for word, want := range map[string]string{
		"zib": "zib", "shope": "SGp", "fleck": "flek", "cend": "send",
		"grump": "grump", "sploot": "splLt", "crinked": "kriNkt", "fy": "fY",
	} {
		assert.Equal(t, want, spelling.Guess(word), word)
	}
}

func FuzzAlign(f *testing.F) {
	f.Add("ship", "Sip")
	f.Add("table", "tAb@l")
	f.Fuzz(func(t *testing.T, word, codes string) {
		var al spelling.Aligner
		for i := range len(codes) {
			if !phoneme.KnownSet(codes[i]) {
				return
			}
		}
		letters := 0
		for _, s := range al.Align(word, codes, spelling.Cut{}, sb, spelling.Units{}) {
			letters += len(s.Letters)
		}
		if letters != 0 && letters != len(word) {
			t.Fatalf("%q with %q: %d of %d letters", word, codes, letters, len(word))
		}
	})
}

func ExampleParsePair() {
	p, _ := spelling.ParsePair(sb, "igh")
	fmt.Println(p, p.Kind())
	// Output: igh=aɪ trigraph
}
