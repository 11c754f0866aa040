package texts_test

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"testing/quick"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

const later = "s,s=z,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss,j,v,w,x,y,z,qu,sh,ch,ng,ai,ee,oa,er"

func pairs(t testing.TB, text string) spelling.Set {
	t.Helper()
	set, err := spelling.ParsePairs(south.Accent, text)
	require.NoError(t, err)
	return set
}

// Number and sense, checked apart from the grammar that makes the sentences.
func TestMadeSentencesAgree(t *testing.T) {
	taught := pairs(t, later)
	exceptions := map[string]bool{"the": true, "his": true, "is": true, "was": true, "are": true, "two": true}
	target := spelling.Pair{Grapheme: "sh", Sound: "ʃ"}
	made := 0
	for seed := range uint64(60) {
		for _, s := range texts.Suggest(texts.SuggestQuery{
			Taught: taught, Exceptions: exceptions, Targets: []spelling.Pair{target},
			Exclude: map[string]bool{"fish": true}, Count: 10,
		}, south, rand.New(rand.NewPCG(seed, 1))) {
			made++
			assert.True(t, texts.Check(s.Text, taught, exceptions, south).Fits(), s.Text)
			assert.NotEmpty(t, s.Holds, s.Text)
			w := strings.Fields(strings.ToLower(strings.TrimRight(s.Text, ".?")))
			assert.NotContains(t, w, "fish", "a refused word")
			for i, word := range w[:len(w)-1] {
				next := w[i+1]
				vowel := strings.ContainsRune("aeiou", rune(next[0]))
				assert.False(t, word == "a" && vowel || word == "an" && !vowel, s.Text)
				assert.False(
					t,
					slices.Contains([]string{"ten", "six", "two", "three"}, word) && i == 0 &&
						slices.Contains([]string{"is", "was", "has"}, next),
					s.Text,
				)
			}
			many := slices.Contains([]string{"ten", "six", "two", "three"}, w[0])
			assert.False(t, many && (slices.Contains(w, "is") || slices.Contains(w, "was") || slices.Contains(w, "has")), s.Text)
			assert.False(
				t,
				slices.Contains([]string{"a", "an", "this", "that"}, w[0]) &&
					(slices.Contains(w, "are") || slices.Contains(w, "were")),
				s.Text,
			)
		}
	}
	assert.Greater(t, made, 400)
	q := texts.SuggestQuery{Taught: taught, Exceptions: exceptions, Count: 5}
	assert.Equal(
		t,
		texts.Suggest(q, south, rand.New(rand.NewPCG(9, 9))),
		texts.Suggest(q, south, rand.New(rand.NewPCG(9, 9))),
	)
	assert.Empty(
		t,
		texts.Suggest(texts.SuggestQuery{Taught: pairs(t, "x,qu"), Count: 5}, south, rand.New(rand.NewPCG(9, 9))),
	)
}

func TestChop(t *testing.T) {
	for _, text := range []string{"The cat sat on a mat in the sun.", "I can see a ship.", "Dad and I went to the " +
		"shop.", "Is the dog in the shed?", "A big red hen had six eggs.", "We ran up the hill and down the path."} {
		pieces, err := texts.Chop(text)
		require.NoError(t, err, text)
		assert.Equal(t, text, strings.Join(pieces, " "), "the pieces make the sentence")
		assert.GreaterOrEqual(t, len(pieces), 4, text)
		assert.LessOrEqual(t, len(pieces), 7, text)
	}
	for _, row := range []struct{ name, text, why string }{
		{"too short", "Sit down.", "needs at least 4"},
		{"no capital", "the cat sat on a mat.", "capital"},
		{"no full stop", "The cat sat on a mat", "full stop"},
		{"two sentences", "The cat sat. The dog ran off.", "more than one sentence"},
		{"too long", strings.Repeat("The cat sat on ", 5) + "it.", "up to 12"},
	} {
		_, err := texts.Chop(row.text)
		require.ErrorIs(t, err, texts.ErrChop, row.name)
		assert.Contains(t, err.Error(), row.why, row.name)
	}
	// Two adjectives before a noun may be swapped, so they stay in one piece.
	pieces, err := texts.Chop("The man had a big red hat.")
	require.NoError(t, err)
	for _, p := range pieces {
		assert.NotEqual(t, "big", p, "%q", pieces)
	}
}

func TestInstead(t *testing.T) {
	can := func(w string) bool {
		seg, err := lexicon.Segment(w, south.Accent, south.Units)
		return err == nil && pairs(t, "s,a,t,i,p,n,m,d,g,o,c,e,r,h").Covers(seg.Segments)
	}
	for word, one := range map[string]string{
		"sheep": "dog", "ships": "hats", "big": "red", "slept": "sat",
		"queen": "man",
	} {
		assert.Contains(t, texts.Instead(word, can, nil), one, word)
	}
	var readable []*lexicon.Entry
	for _, w := range strings.Fields("hat cap dress tram pan pig map hats mats") {
		e, ok := lexicon.Find(w)
		require.True(t, ok, w)
		readable = append(readable, e)
	}
	for word, first := range map[string]string{"ship": "pram", "shirts": "hats", "coat": "hat", "kettle": "pan"} {
		assert.Equal(t, first, append(texts.Instead(word, can, readable), "none")[0], "%s: the same theme first", word)
	}
	for _, none := range []string{"the", "I", "and", "when"} {
		assert.Empty(t, texts.Instead(none, can, nil), none)
	}
}

func TestNewExceptionWordsAndSentences(t *testing.T) {
	r := texts.Check("Mum said no. It was on a big mat! The said cat", pairs(t, "s,a,t,i,p,n,m,u,o,b,g,c,d"), nil, south)
	assert.Equal(t, []string{"said"}, r.NewExceptions)
	var lengths []int
	for _, s := range r.Sentences {
		lengths = append(lengths, s.Words)
	}
	assert.Equal(t, []int{3, 6, 3}, lengths)
	assert.Contains(t, r.Remarks, "A full stop is missing at the end.")
	named := texts.Check("Tom sat. Tom ran.", pairs(t, "s,a,t,o,m,r,n"), nil, south)
	assert.Equal(t, texts.Name, named.Tokens[0].Status)
	assert.True(t, named.Fits(), "a name that reads by rule is no obstacle")
	assert.False(t, texts.Check("Zac sat.", pairs(t, "s,a,t"), nil, south).Fits(), "z has not been taught")
}

func TestTenMegabytesAreRead(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	text := strings.Repeat("The cat sat on a mat. ", 10<<20/22)
	r := texts.Check(text, pairs(t, later), map[string]bool{"the": true}, south)
	assert.InDelta(t, 1, r.Decodable, 1e-9)
	assert.Len(t, r.Tokens, 6*(10<<20/22))
}

func ExampleChop() {
	pieces, _ := texts.Chop("The hen sat on a log.")
	fmt.Printf("%q\n", pieces)
	// Output: ["The hen" "sat" "on" "a log."]
}

func BenchmarkSuggest(b *testing.B) {
	set := pairs(b, later)
	target := spelling.Pair{Grapheme: "ee", Sound: "iː"}
	for b.Loop() {
		texts.Suggest(
			texts.SuggestQuery{
				Taught:     set,
				Exceptions: map[string]bool{"the": true},
				Targets:    []spelling.Pair{target},
				Count:      4,
			},
			south,
			rand.New(rand.NewPCG(1, 2)),
		)
	}
}

// Whatever sentence is made: its pieces are the sentence, 4 to 7 of them, the first with the capital and the last with
// the full stop; a sentence that cannot be cut says why.
func TestChopKeepsEverySentenceWhole(t *testing.T) {
	taught := pairs(t, later)
	cut := 0
	check := func(seed uint64) bool {
		for _, s := range texts.Suggest(texts.SuggestQuery{Taught: taught, Count: 3}, south, rand.New(rand.NewPCG(seed, 3))) {
			pieces, err := texts.Chop(s.Text)
			if err != nil {
				if !errors.Is(err, texts.ErrChop) {
					return false
				}
				continue
			}
			cut++
			if strings.Join(pieces, " ") != s.Text || len(pieces) < 4 || len(pieces) > 7 {
				return false
			}
			again, err := texts.Chop(strings.Join(pieces, " "))
			if err != nil || !slices.Equal(again, pieces) {
				return false
			}
		}
		return true
	}
	require.NoError(t, quick.Check(check, &quick.Config{MaxCount: 60}))
	assert.Greater(t, cut, 20)
}
