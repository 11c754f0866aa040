package texts_test

import (
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

func maker(t *testing.T, taught string, targets ...spelling.Pair) *texts.Maker {
	t.Helper()
	set, err := spelling.ParsePairs("southern-british", taught)
	require.NoError(t, err)
	return texts.NewMaker(texts.SuggestQuery{
		Taught: set, Exceptions: map[string]bool{"the": true}, Targets: targets, Count: 4,
	}, texts.Options{Accent: "southern-british"})
}

func chance(seed uint64) *rand.Rand { return rand.New(rand.NewPCG(seed, 11)) }

func TestThePlainestSentences(t *testing.T) {
	m := maker(t, "s,a,t,i,p,n,m,d,v,h")
	list := m.Plain([]string{"van", "nap", "ham", "mad", "pin", "river"})
	assert.Contains(t, list, "Dad had a van.")
	assert.Contains(t, list, "Dad had the ham.", "nobody has a ham")
	assert.Contains(t, list, "Pat the van.")
	for _, s := range list {
		assert.NotContains(t, s, "It is mad", "is cannot be read")
	}
	assert.Empty(t, maker(t, "s").Plain([]string{"van"}))
}

func TestAPageIsAboutOneSubject(t *testing.T) {
	p := spelling.Pair{Grapheme: "b", Sound: "b"}
	m := maker(t, "s,a,t,i,p,n,m,d,o,g,r,c,k,e,u,h,b,ck", p)
	for seed := range uint64(20) {
		page, ok := m.Page(chance(seed))
		require.True(t, ok, "seed %d", seed)
		assert.GreaterOrEqual(t, len(page.Holds), texts.MinHeld, page.Body)
		assert.Len(t, page.Questions, 3)
		assert.NotEmpty(t, page.Title)
		for _, q := range page.Questions {
			assert.Contains(t, q, "?")
		}
	}
	again, _ := m.Page(chance(3))
	same, _ := m.Page(chance(3))
	assert.Equal(t, again, same, "asked again with the same chance it is the same")
	_, ok := maker(t, "s,a", spelling.Pair{Grapheme: "s", Sound: "s"}).Page(chance(1))
	assert.False(t, ok)
}

func TestWhyAsk(t *testing.T) {
	assert.Equal(t, "Why do you think the hen ran?", texts.WhyAsk("The hen ran.", false))
	assert.Equal(t, "Why do you think Dan ran?", texts.WhyAsk("Dan ran!", true))
	assert.Equal(t, "Why do you think I ran?", texts.WhyAsk("I ran.", false))
}

// A page is told all of now or all of then. Words that are both (shut, put) tell nothing.
func TestAPageKeepsToItsTime(t *testing.T) {
	raw, err := os.ReadFile("data/grammar.txt")
	require.NoError(t, err)
	now, then, things := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for line := range strings.Lines(string(raw)) {
		if f := strings.Fields(line); len(f) > 4 && (f[0] == "do" || f[0] == "take") {
			now[f[2]], then[f[3]] = true, f[3] != "-"
		} else if len(f) > 2 {
			things[f[2]] = true // the rings
		}
	}
	pages, kept := 0, 0
	for _, target := range []string{"sh=ʃ", "b=b", "ai=eɪ", "oa=əʊ", "ng=ŋ", "ch=tʃ", "ee=iː", "r=r"} {
		p, err := spelling.ParsePair(south.Accent, target)
		require.NoError(t, err)
		m := maker(t, later, p)
		for seed := range uint64(12) {
			page, ok := m.Page(chance(seed))
			if !ok {
				continue
			}
			pages++
			times := map[bool]bool{}
			for _, w := range strings.Fields(strings.ToLower(strings.ReplaceAll(page.Body, ".", ""))) {
				if now[w] != then[w] && !things[w] {
					times[then[w]] = true
				}
			}
			if len(times) == 1 {
				kept++
			}
		}
	}
	t.Logf("%d of %d pages keep to their time", kept, pages)
	assert.Greater(t, pages, 60)
	assert.Equal(t, pages, kept, "a page changes between now and then")
}

// Spellings that many known words have, the later ones too, can fill a page, or else two different sentences.
func TestLaterSpellingsHaveTheirPages(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	pool := lexicon.For(south.Accent, south.Units)
	all := spelling.Set{}
	for _, r := range spelling.Table(south.Accent) {
		all[r.Pair] = true
	}
	const known, wanted = 4, 20
	asked, paged := 0, 0
	var without []string
	for p := range all {
		words := 0
		for _, it := range pool.With(p) {
			if it.Familiarity >= known && !it.Unfit && it.Doubt == lexicon.NoDoubt {
				words++
			}
		}
		if words < wanted {
			continue
		}
		asked++
		m := texts.NewMaker(texts.SuggestQuery{
			Taught: all, Exceptions: map[string]bool{"the": true}, Targets: []spelling.Pair{p}, Count: 4,
		}, south)
		for seed := range uint64(3) {
			if _, ok := m.Page(chance(seed)); ok {
				paged++
				break
			}
			if seed == 2 {
				without = append(without, p.String())
			}
		}
	}
	slices.Sort(without)
	t.Logf("%d of %d spellings with %d known words and more have a page; not: %s",
		paged, asked, wanted, strings.Join(without, " "))
	assert.Greater(t, float64(paged), 0.9*float64(asked))
}
