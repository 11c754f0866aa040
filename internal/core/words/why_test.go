package words_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/unfit"
	"brightchalk/internal/core/words"
)

// The reasons of place hold in the lexicon: of the known words of one syllable that have the sound in that place, so
// many are spelled as the rule says. The rules are common practice, no published source.
func TestThePlaceRulesHoldInTheLexicon(t *testing.T) {
	share := func(sound, spelled string, at func(item *lexicon.Item) bool) float64 {
		all, right := 0, 0
		for i := range lexicon.For(south.Accent, south.Units).Items {
			item := &lexicon.For(south.Accent, south.Units).Items[i]
			if item.Familiarity < 3 || item.Inflected() || item.Syllables != 1 || !at(item) {
				continue
			}
			if last := item.Pairs[len(item.Pairs)-1]; last.Sound == sound {
				if all++; last.Grapheme == spelled {
					right++
				}
			}
		}
		require.Greater(t, all, 4, spelled)
		return float64(right) / float64(all)
	}
	shortBefore := func(item *lexicon.Item) bool {
		n := len(item.Pairs)
		return n > 1 && len(item.Pairs[n-2].Grapheme) == 1 && strings.Contains("aeiou", item.Pairs[n-2].Grapheme)
	}
	for _, r := range []struct {
		sound, spelled string
		least          float64
	}{{"k", "ck", 0.9}, {"l", "ll", 0.8}, {"s", "ss", 0.7}, {"f", "ff", 0.6}, {"tʃ", "tch", 0.6}, {"dʒ", "dge", 0.9}} {
		assert.Greater(
			t,
			share(r.sound, r.spelled, shortBefore),
			r.least,
			"%s for /%s/ after a short vowel",
			r.spelled,
			r.sound,
		)
	}
	assert.Greater(t, share("v", "ve", func(*lexicon.Item) bool { return true }), 0.5, "no English word ends in v alone")
	for _, row := range lexicon.Table(south.Accent, south.Units) {
		switch row.Grapheme {
		case "ai", "oi":
			assert.Less(t, row.End, 0.05, row.Pair)
		case "kn", "wr":
			assert.Greater(t, row.Start, 0.7, row.Pair)
		case "ng":
			assert.Zero(t, row.Start, row.Pair)
		}
	}
}

func TestWhyHereAndGoodTries(t *testing.T) {
	look := func(word string) words.Answer {
		a, err := words.Look(word, words.Query{Taught: set(t, early+",ai,ay,a-e,igh,a=ɑː,th=ð,s=z")}, nil, south)
		require.NoError(t, err)
		return a
	}
	var why []string
	for _, h := range look("duck").WhyHere {
		why = append(why, h.Grapheme+": "+h.Why)
	}
	assert.Equal(t, []string{"ck: After one short vowel the sound at the end is written ck."}, why)
	tries := map[string]words.Try{}
	for _, x := range look("rain").Tries {
		tries[x.Shown] = x
	}
	require.Contains(t, tries, "rane")
	assert.True(t, tries["rane"].Taught)
	assert.Greater(t, tries["rane"].Share, 0.2, "a-e is how /eɪ/ is spelled most")
	for _, x := range look("night").Tries {
		assert.NotContains(t, []string{"nit", "nighed"}, x.Shown)
	}
	for _, x := range look("shot").Tries {
		assert.Fail(t, "a refused word is not respelled", x.Shown)
	}
	assert.Contains(t, look("sick").Why, "kept out")
	assert.Contains(t, look("mom").Why, "here it is mum")
	assert.Contains(t, look("color").Why, "here it is colour")
	assert.Contains(t, look("paths").Why, "otherwise")
}

// A respelling stands on the board for all to see: none of any word that children know is kept from children, and none
// is read otherwise.
func TestNoGoodTryIsUnfit(t *testing.T) {
	taught := set(t, early+",ai,ay,a-e,igh,a=ɑː,th=ð,s=z")
	tries := 0
	for i := range lexicon.For(south.Accent, south.Units).Items {
		item := &lexicon.For(south.Accent, south.Units).Items[i]
		if item.Familiarity < 3 {
			continue
		}
		for _, r := range item.Readings {
			for _, x := range words.GoodTries(item.Word, r.Segments, taught, south) {
				tries++
				_, refused := unfit.Of(x.Shown)
				assert.False(t, refused, "%s as %s", item.Word, x.Shown)
			}
		}
	}
	assert.Greater(t, tries, 5000)
}

func TestTheMostUnlockingPairIsNamed(t *testing.T) {
	taught := set(t, "s,a,t,p,i,n,m,d")
	ordered := map[spelling.Pair]int{
		{Grapheme: "x", Sound: "ks"}:  9,
		{Grapheme: "qu", Sound: "kw"}: 10,
		{Grapheme: "o", Sound: "ɒ"}:   11,
	}
	u, ok := words.MaxUnlocked(words.Query{Taught: taught}, ordered, south)
	require.True(t, ok)
	assert.Equal(t, "o", u.Pair.Grapheme)
	assert.Equal(t, 11, u.Step)
	assert.Contains(t, strings.Join(u.Best, " "), "o")
	_, ok = words.MaxUnlocked(words.Query{Taught: taught}, nil, south)
	assert.False(t, ok)
}
