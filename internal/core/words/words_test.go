package words_test

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

var south = words.Options{Accent: phoneme.SouthernBritish}

func set(t testing.TB, pairs string) spelling.Set {
	t.Helper()
	s, err := spelling.ParsePairs(phoneme.SouthernBritish, pairs)
	require.NoError(t, err)
	return s
}

// readable is a slow oracle that shares no code with the finder: it spells the word from left to right with
// the taught graphemes and compares the sounds with the lexicon's.
func readable(word string, want []phoneme.Phoneme, taught spelling.Set) bool {
	var try func(letters string, sounds string) bool
	whole := phoneme.Join(want)
	try = func(letters, sounds string) bool {
		if letters == "" {
			return sounds == ""
		}
		for p := range taught {
			if g, split := strings.CutSuffix(p.Grapheme, "-e"); split {
				if strings.HasPrefix(letters, g) && strings.HasPrefix(sounds, p.Sound) {
					for k := len(g) + 1; k < len(letters); k++ {
						if letters[k] == 'e' && try(letters[len(g):k]+letters[k+1:], strings.TrimPrefix(sounds, p.Sound)) {
							return true
						}
					}
				}
				continue
			}
			if strings.HasPrefix(letters, p.Grapheme) && strings.HasPrefix(sounds, p.Sound) {
				rest := strings.TrimPrefix(sounds, p.Sound)
				if try(letters[len(p.Grapheme):], rest) || try(letters[len(p.Grapheme):], strings.TrimPrefix(rest, "r")) {
					return true
				}
			}
		}
		return false
	}
	return try(word, whole)
}

func TestFinderNeverOffersAnUntaughtPair(t *testing.T) {
	for _, pairs := range []string{
		"s,a,t,i,p,n", "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss",
		"s,a,t,p,n,m,a-e,i-e,o-e,k,l,r,c", "sh,i,p,ow=əʊ,s,n,l,b,r,ng",
	} {
		taught := set(t, pairs)
		found := words.Find(words.Query{Taught: taught}, south)
		require.NotEmpty(t, found)
		for _, c := range found {
			seg, err := lexicon.Segment(c.Word, south.Accent, south.Units)
			require.NoError(t, err)
			for _, s := range c.Segments {
				assert.True(t, taught[s.Pair], "%s needs %s", c.Word, s.Pair)
			}
			assert.True(t, readable(c.Word, seg.Phonemes, taught), "%s cannot be read with %s", c.Word, pairs)
		}
	}
}

func TestOnePairMoreNeverTakesAWordAway(t *testing.T) {
	order := strings.Split("s,a,t,i,p,n,m,d,g,o,c,k,e,u,r,h,b", ",")
	before := map[string]bool{}
	for i := range order {
		found := words.Find(words.Query{Taught: set(t, strings.Join(order[:i+1], ","))}, south)
		now := map[string]bool{}
		for _, c := range found {
			now[c.Word] = true
		}
		for w := range before {
			assert.True(t, now[w], "%s was lost when %s came", w, order[i])
		}
		before = now
	}
}

func TestSameSpellingOtherSound(t *testing.T) {
	target := spelling.Pair{Grapheme: "ow", Sound: "əʊ"}
	var list []string
	for _, c := range words.Find(words.Query{Taught: set(t, "s,n,l,b,r,g,c,t,ow=əʊ"), Target: &target}, south) {
		list = append(list, c.Word)
	}
	assert.Contains(t, list, "snow")
	assert.NotContains(t, list, "town")
	assert.NotContains(t, list, "bow", "bow can be read in two ways and only one is taught")
}

func TestQueryLimits(t *testing.T) {
	taught := set(t, "s,a,t,i,p,n,m,d,g,o,c,k,e,u,r,h,b")
	target := spelling.Pair{Grapheme: "n", Sound: "n"}
	q := words.Query{Taught: taught, Target: &target, Position: words.Final, Frame: "CVC", Limit: 10}
	found := words.Find(q, south)
	require.Len(t, found, 10)
	vowels := map[string]bool{}
	for _, c := range found {
		assert.Equal(t, "CVC", c.Frame)
		assert.True(t, strings.HasSuffix(c.Word, "n"), c.Word)
		vowels[c.Word[1:2]] = true
	}
	assert.GreaterOrEqual(t, len(vowels), 4, "the first ten vary in vowel")
	q.Exclude = map[string]bool{found[0].Word: true}
	assert.NotEqual(t, found[0].Word, words.Find(q, south)[0].Word)
}

func TestPositionsThatEnglishLacks(t *testing.T) {
	for _, p := range []phoneme.Phoneme{"w", "h", "j"} {
		require.ErrorIs(t, words.CheckPosition(south.Accent, p, words.Final), words.ErrPosition, "%s", p)
	}
	require.ErrorIs(t, words.CheckPosition(south.Accent, "ŋ", words.Initial), words.ErrPosition)
	require.NoError(t, words.CheckPosition(south.Accent, "ŋ", words.Final))
}

func TestSort(t *testing.T) {
	baskets, err := words.Sort([]phoneme.Phoneme{"m", "s", "b"}, 4, words.Initial, south, rand.New(rand.NewPCG(1, 2)))
	require.NoError(t, err)
	for _, b := range baskets {
		assert.Len(t, b.Pictures, 4)
		for _, w := range b.Pictures {
			seg, _ := lexicon.Segment(w, south.Accent, south.Units)
			assert.Equal(t, b.Sound, seg.Phonemes[0], w)
			for _, other := range baskets {
				assert.False(t, other.Sound != b.Sound && slices.Contains(seg.Phonemes, other.Sound), "%s fits two baskets", w)
			}
		}
	}
	again, _ := words.Sort([]phoneme.Phoneme{"m", "s", "b"}, 4, words.Initial, south, rand.New(rand.NewPCG(1, 2)))
	assert.Equal(t, baskets, again)
	for _, bad := range []struct {
		sounds []phoneme.Phoneme
		per    int
		at     words.Position
	}{
		{[]phoneme.Phoneme{"m"}, 4, words.Initial},
		{[]phoneme.Phoneme{"m", "m"}, 4, words.Initial},
		{[]phoneme.Phoneme{"ŋ", "s"}, 4, words.Initial},
		{[]phoneme.Phoneme{"m", "s"}, 99, words.Initial},
		{[]phoneme.Phoneme{"ʒ", "s"}, 4, words.Final},
	} {
		_, err := words.Sort(bad.sounds, bad.per, bad.at, south, rand.New(rand.NewPCG(1, 2)))
		assert.Error(t, err)
	}
}

func ExampleFind() {
	taught, _ := spelling.ParsePairs(phoneme.SouthernBritish, "s,a,t,p,i,n")
	for _, c := range words.Find(words.Query{Taught: taught, WithPicture: true},
		words.Options{Accent: phoneme.SouthernBritish}) {
		fmt.Println(c.Word, c.Frame)
	}
	// Output:
	// tap CVC
	// tin CVC
	// pan CVC
	// ant VCC
	// pin CVC
}

func BenchmarkFindWithTarget(b *testing.B) {
	taught := set(b, "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss,sh,ch,ee,ai,oa,igh")
	target := spelling.Pair{Grapheme: "ai", Sound: "eɪ"}
	words.Find(words.Query{Taught: taught}, south)
	for b.Loop() {
		words.Find(words.Query{Taught: taught, Target: &target, Limit: 24}, south)
	}
}

func BenchmarkFindAll(b *testing.B) {
	taught := set(b, "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss,sh,ch,ee,ai,oa,igh")
	words.Find(words.Query{Taught: taught}, south)
	for b.Loop() {
		words.Find(words.Query{Taught: taught, Limit: 24}, south)
	}
}

func TestMadeUpWords(t *testing.T) {
	taught := set(t, "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss,sh,ch,th,ng,ee,ai,oa,igh,a-e,i-e")
	for _, frame := range []string{"CVC", "CCVC", "CVCC", "VC"} {
		q := words.MadeUpQuery{Taught: taught, Frame: frame, Count: 30}
		made, err := words.MakeUp(q, south, rand.New(rand.NewPCG(3, 4)))
		require.NoError(t, err)
		require.NotEmpty(t, made, frame)
		for _, m := range made {
			assert.False(t, lexicon.IsWord(m.Word), "%s is a word", m.Word)
			assert.Equal(t, frame, lexicon.Shape(m.Segments), m.Word)
			for _, s := range m.Segments {
				assert.True(t, taught[s.Pair], "%s needs %s", m.Word, s.Pair)
			}
			seg, err := lexicon.Segment(m.Word, south.Accent, south.Units)
			require.NoError(t, err)
			assert.Equal(t, lexicon.FromRules, seg.Source)
			assert.Equal(t, m.Segments, seg.Segments, "%s has a second reading", m.Word)
			for _, bad := range []string{"ngt", "tsh", "cke", "ff" + "e"} {
				assert.NotContains(t, m.Word, bad)
			}
			// Doubled after one short vowel, as English spells it (national curriculum appendix, year 1; from memory).
			n := len(m.Segments)
			if vowel := m.Segments[n-2]; strings.Contains("aeiou", vowel.Grapheme) {
				assert.NotContains(
					t,
					[]string{"f", "l", "s", "z", "k", "c"},
					m.Segments[n-1].Grapheme,
					"%s wants a doubled letter",
					m.Word,
				)
			}
		}
		again, _ := words.MakeUp(q, south, rand.New(rand.NewPCG(3, 4)))
		assert.Equal(t, made, again, "the same seed gives the same words")
	}
	target := spelling.Pair{Grapheme: "sh", Sound: "ʃ"}
	made, err := words.MakeUp(
		words.MadeUpQuery{Taught: taught, Target: &target, Count: 10},
		south,
		rand.New(rand.NewPCG(1, 1)),
	)
	require.NoError(t, err)
	for _, m := range made {
		assert.Contains(t, m.Word, "sh")
	}
	for _, frame := range []string{"CVCVC", "XYZ", "CCC", "CCCCV"} {
		_, err := words.MakeUp(words.MadeUpQuery{Taught: taught, Frame: frame, Count: 1}, south, rand.New(rand.NewPCG(1, 1)))
		require.Error(t, err, frame)
	}
	none, err := words.MakeUp(words.MadeUpQuery{Taught: spelling.Set{}, Count: 5}, south, rand.New(rand.NewPCG(1, 1)))
	require.NoError(t, err)
	assert.Empty(t, none)
}

func BenchmarkMakeUp(b *testing.B) {
	taught := set(b, "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss,sh,ch,ee,ai")
	words.MakeUp(words.MadeUpQuery{Taught: taught, Frame: "CCVC", Count: 1}, south, rand.New(rand.NewPCG(3, 4)))
	for b.Loop() {
		made, _ := words.MakeUp(
			words.MadeUpQuery{Taught: taught, Frame: "CCVC", Count: 1000},
			south,
			rand.New(rand.NewPCG(3, 4)),
		)
		b.ReportMetric(float64(len(made)), "words")
	}
}

// Each filter refuses a word that all others let pass, and lets another pass.
func TestEachFilterHasAWordThatOnlyItRefuses(t *testing.T) {
	taught := set(t, "s,a,t,i,p,n,m,d,g,o,c,k,e,u,r,h,b,f,l,j,v,w,x,y,z,sh,ch,ck,ai,a-e,ee,ow=əʊ,ow=aʊ")
	find := func(change func(q *words.Query)) []string {
		q := words.Query{Taught: maps.Clone(taught)}
		change(&q)
		var out []string
		for _, c := range words.Find(q, south) {
			out = append(out, c.Word)
		}
		return out
	}
	base := find(func(*words.Query) {})
	n := spelling.Pair{Grapheme: "n", Sound: "n"}
	for _, r := range []struct {
		name          string
		change        func(q *words.Query)
		refused, left string
	}{
		{"taught", func(q *words.Query) { delete(q.Taught, spelling.Pair{Grapheme: "sh", Sound: "ʃ"}) }, "ship", "cat"},
		{"target", func(q *words.Query) { q.Target = &n }, "cat", "pan"},
		{"place", func(q *words.Query) { q.Target, q.Position = &n, words.Final }, "nap", "pan"},
		{"first place", func(q *words.Query) { q.Target, q.Position = &n, words.Initial }, "pan", "nap"},
		{"frame", func(q *words.Query) { q.Frame = "CVC" }, "frog", "cat"},
		{"picture", func(q *words.Query) { q.WithPicture = true }, "big", "cat"},
		{"at least four sounds", func(q *words.Query) { q.MinSounds = 4 }, "cat", "frog"},
		{"at most three sounds", func(q *words.Query) { q.MaxSounds = 3 }, "frog", "cat"},
		{"beats", func(q *words.Query) { q.Syllables = 2 }, "cat", "robin"},
		{"one beat", func(q *words.Query) { q.Syllables = 1 }, "robin", "cat"},
		{"familiarity", func(q *words.Query) { q.Familiarity = 5 }, "romp", "cat"},
		{"sound-alikes", func(q *words.Query) { q.NoHomophones = true }, "sail", "cat"},
		{"excluded", func(q *words.Query) { q.Exclude = map[string]bool{"cat": true} }, "cat", "frog"},
	} {
		got := find(r.change)
		assert.Contains(t, base, r.refused, r.name)
		assert.NotContains(t, got, r.refused, r.name)
		assert.Contains(t, got, r.left, r.name)
		for _, w := range got {
			assert.Contains(t, base, w, "a filter never adds a word")
		}
	}
	assert.Equal(t, base[:7], find(func(q *words.Query) { q.Limit = 7 }), "a limit takes the best")
	rare := find(func(q *words.Query) { q.Rare = true })
	assert.Greater(t, len(rare), len(base))
	assert.NotContains(t, base, "bow", "said in two ways")
	assert.Contains(t, find(func(q *words.Query) { q.Doubtful = true }), "bow")
}
