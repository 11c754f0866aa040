package lexicon_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// A mistyped word is the known one that lies a letter away; a swap is the likeliest, then the best known.
func TestWhatWasMeant(t *testing.T) {
	for typed, want := range map[string]string{
		"barrle": "barrel", "hte": "the", "ktie": "kite", "dgo": "dog", "birdge": "bridge", // swapped
		"brige": "bridge", "bridgee": "bridge", "hous": "house", "ouse": "house", "treee": "tree", // one too few, or too many
		"bokk": "book", "zorse": "horse", "stonz": "stone", // one wrong
		"qqqqq": "", "": "", "guh": "", "sxe": "",
	} {
		got := lexicon.Meant(typed)
		if want == "" {
			e, ok := lexicon.Find(got)
			assert.True(t, !ok || !e.Unfit && e.Familiarity >= 3, "%s: %s", typed, got)
			continue
		}
		assert.Equal(t, want, got, typed)
	}
	assert.Empty(t, lexicon.Meant("qqqqq"))
	least := 0
	for _, e := range lexicon.Words() {
		if e.Familiarity != 3 || len(e.Word) < 7 || e.Unfit {
			continue
		}
		meant := lexicon.Meant(e.Word[:3] + "qx"[len(e.Word)%2:][:1] + e.Word[3:])
		if meant == e.Word {
			least++
		}
	}
	assert.Positive(t, least, "a word that is just well known enough")
	assert.Empty(t, lexicon.Meant(""))
}

// Short forms that no list has: read by their word and their tail. Pronunciations from memory.
func TestTailsAfterAnApostrophe(t *testing.T) {
	for word, want := range map[string]string{
		"dog's": "dɒɡz", "cat's": "kæts", "horse's": "hɔːsɪz", "Tom's": "tɒmz", "zib's": "zɪbz",
		"man's": "mænz", "hen'll": "henl", "bird'll": "bɜːdl", "cat'd": "kætd", "dogs'll": "dɒɡzl", "needn't": "niːdnt",
	} {
		s, err := lexicon.Segment(word, phoneme.SouthernBritish, spelling.Units{})
		require.NoError(t, err, word)
		assert.Equal(t, want, strings.ReplaceAll(phoneme.Join(s.Phonemes), "ə", ""), word)
	}
	known, err := lexicon.Segment("dog's", phoneme.SouthernBritish, spelling.Units{})
	require.NoError(t, err)
	assert.Equal(t, lexicon.FromLexicon, known.Source)
	made, err := lexicon.Segment("zib's", phoneme.SouthernBritish, spelling.Units{})
	require.NoError(t, err)
	assert.Equal(t, lexicon.FromRules, made.Source)
}

// Words of one side of the ocean (common knowledge).
func TestWordsOfBothSides(t *testing.T) {
	assert.Equal(t, "colour", lexicon.Ours("color", phoneme.SouthernBritish))
	assert.Equal(t, "color", lexicon.Ours("colour", phoneme.GeneralAmerican))
	assert.Empty(t, lexicon.Ours("colour", phoneme.SouthernBritish))
	assert.Empty(t, lexicon.Ours("ship", phoneme.GeneralAmerican))
}

// Shapes as teachers write them (common practice, no published source): yoo is one vowel, r in a vowel is none.
func TestShapes(t *testing.T) {
	for word, want := range map[string]string{
		"ship": "CVC", "spot": "CCVC", "box": "CVCC", "strap": "CCCVC", "tent": "CVCC", "at": "VC", "go": "CV",
		"cute": "CVC", "quick": "CCVC", "yes": "CVC", "rabbit": "CVCVC", "apple": "VCVC", "car": "CV",
	} {
		for _, a := range []phoneme.Accent{phoneme.SouthernBritish, phoneme.GeneralAmerican} {
			s, err := lexicon.Segment(word, a, spelling.Units{})
			require.NoError(t, err)
			got := lexicon.Shape(s.Segments)
			if word == "car" && a.American() {
				assert.Contains(t, []string{"CV", "CVC"}, got)
				continue
			}
			assert.Equal(t, want, got, "%s in %s", word, a)
		}
	}
}

func TestThemesOfThings(t *testing.T) {
	entry := func(w string) *lexicon.Entry {
		e, ok := lexicon.Find(w)
		require.True(t, ok, w)
		return e
	}
	assert.NotEmpty(t, entry("dog").Themes())
	assert.Equal(t, entry("dog").Themes(), entry("dogs").Themes(), "a plural has those of its singular")
	assert.Empty(t, entry("the").Themes())
	assert.InDelta(t, 1, entry("dog").Alike(entry("dogs")), 1e-9)
	assert.Zero(t, entry("dog").Alike(entry("the")))
	one, other := entry("dog").Alike(entry("cat")), entry("cat").Alike(entry("dog"))
	assert.InDelta(t, one, other, 1e-9)
	assert.Positive(t, one)
}

// What words that no list has sound like, in two accents, and whether that is sure: read by an adult at each change of
// the rules (-update renews the file).
func TestGuessesToBeRead(t *testing.T) {
	words := strings.Fields(`unlock unfold repaint overfill superboat antifog interlock disown misread nonstop subfloor
		preheat outswim uptilt unboat refog
		lockkeeper boatyard moonboat fogbank tinpot catfish mudbank hatpin inkpot eggboat busboat redboat potlid canalboat
		towboat lampost lockgates bargepole ropewalk
		fogless boatless mudness redness hatful mugful wrongly slowlike sunward boatship stickily
		spiky muddy foggy bray croaky twiggy inky
		kindest boldly foggier muddiest shinily unkindness sleepless sleeplessly carefully
		canals quays barging barged moors moored glass kress gas gases boxes fixes wishes bosses
		vane trone blight spight glunk frosh mibble tarnish dotion kestion plation stright crouble
		zink quorp wuffle jatch blidge snabe thrunk shrobe phim wrand knibble gnort cyst
		bottling puddles paddled tickly waddling buss gass yess reox unit's unox upat outat rock'n'roll
		foxboxes catsdog mopped's skyful spyless tinful eggful owlful iceful bramble's
		actsword busstop ageshave`)
	var b strings.Builder
	for _, w := range words {
		fmt.Fprintf(&b, "%-14s", w)
		for _, a := range []phoneme.Accent{phoneme.SouthernBritish, phoneme.GeneralAmerican} {
			s, err := lexicon.Segment(w, a, spelling.Units{})
			require.NoError(t, err, w)
			var bits []string
			for _, g := range s.Segments {
				bits = append(bits, g.Grapheme)
			}
			fmt.Fprintf(&b, " %-22s %-22s %-8s", phoneme.Join(s.Phonemes), strings.Join(bits, "."), s.Source)
		}
		b.WriteString("\n")
	}
	// Nonsense by the ends that English words share, each beginning with each end.
	ends := strings.Fields(
		`ead ough ove ow our ear ease ind ost oll alk ange aste eigh ieve ive one ood oom ould ound own ull
		ush ute augh oubt ague ique alm amb iar olk onk ork uck`,
	)
	for _, first := range strings.Fields("b cl dr f gl j pr sk st th v wr") {
		for _, a := range []phoneme.Accent{phoneme.SouthernBritish, phoneme.GeneralAmerican} {
			fmt.Fprintf(&b, "%-3s", first)
			for _, end := range ends {
				s, err := lexicon.Segment(first+end, a, spelling.Units{})
				require.NoError(t, err)
				fmt.Fprint(&b, " ", end, "=", phoneme.Join(s.Phonemes))
			}
			b.WriteString("\n")
		}
	}
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "guesses", []byte(b.String()))
}

// Properties of a pool: a word is found by its name, lies with each of its pairs, and needs what must be taught.
func TestAPoolKnowsItsWords(t *testing.T) {
	pool := lexicon.For(phoneme.SouthernBritish, spelling.Units{})
	require.Len(t, pool.Ranked, len(pool.Items))
	assert.True(t, slices.IsSortedFunc(pool.Ranked, func(x, y *lexicon.Item) int {
		switch {
		case x.Worth > y.Worth:
			return -1
		case x.Worth < y.Worth:
			return 1
		}
		return strings.Compare(x.Word, y.Word)
	}))
	for i := 0; i < len(pool.Ranked); i += 37 {
		w := pool.Ranked[i]
		found, ok := pool.Find(w.Word)
		require.True(t, ok)
		assert.Same(t, w, found)
		assert.NotContains(t, w.Alike, w.Word)
		taught, odd := spelling.Set{}, false
		for _, r := range w.Readings {
			for _, s := range r.Segments {
				taught[s.Pair] = true
				odd = odd || s.Odd
			}
		}
		mask := pool.Mask(taught)
		assert.Equal(t, !odd, w.Needs.Within(&mask), "%s can be read when its pairs are taught", w.Word)
		for _, p := range w.Pairs {
			n := 0
			for _, with := range pool.With(p) {
				if with == w {
					n++
				}
			}
			assert.Equal(t, 1, n, "%s lies once with %s", w.Word, p)
			if odd {
				continue
			}
			less := spelling.Set{}
			for q := range taught {
				less[q] = q != p
			}
			mask := pool.Mask(less)
			assert.False(t, w.Needs.Within(&mask), "%s without %s", w.Word, p)
		}
		assert.GreaterOrEqual(t, pool.Heard(w.Readings[0].Phonemes), w.Familiarity)
	}
	assert.Zero(t, pool.Heard([]phoneme.Phoneme{"z", "ɪ", "b"}))
	two, ok := pool.Find("read")
	require.True(t, ok)
	assert.Equal(t, lexicon.TwoReadings, two.Doubt)
	houses, ok := pool.Find("houses")
	require.True(t, ok)
	assert.Equal(t, lexicon.VoicedForm, houses.Doubt)
	for _, plain := range []string{"house", "glass", "dogs", "the"} {
		w, ok := pool.Find(plain)
		require.True(t, ok)
		assert.Equal(t, lexicon.NoDoubt, w.Doubt, plain)
	}
	sea, ok := pool.Find("sea")
	require.True(t, ok)
	assert.Contains(t, sea.Alike, "see")
}

// Made-up words that sound like words are none to practise with.
func TestSoundsLikeAWord(t *testing.T) {
	for codes, want := range map[string]bool{
		"kat": true, "glifk": false, "zib": false, "dAs": true, "kGv@n": true, // dace and coven: the dictionary has them
	} {
		assert.Equal(t, want, lexicon.HomophoneOfWord(codes), codes)
	}
	for codes, want := range map[string]bool{
		"kats": true, "dogz": true, "zibz": false, "kat": false, "katz": false, "dogs": false,
	} {
		assert.Equal(t, want, lexicon.HomophoneOfForm(codes), codes)
	}
	assert.True(t, lexicon.IsWord("gangway"))
	assert.False(t, lexicon.IsWord("zibbo"))
}
