package words_test

import (
	"fmt"
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

const early = "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss"

func chance(seed uint64) *rand.Rand { return rand.New(rand.NewPCG(seed, 5)) }

func TestChainChangesOneSoundAtATime(t *testing.T) {
	taught := set(t, early)
	for seed := range uint64(40) {
		links, err := words.Chain(words.Query{Taught: taught}, "", 8, south, chance(seed))
		require.NoError(t, err)
		require.GreaterOrEqual(t, len(links), 5, "%d", seed)
		met := map[string]bool{}
		stage := 0
		for i, l := range links {
			assert.True(t, taught.Covers(l.Segments), l.Word)
			assert.False(t, met[l.Word], "%s comes twice", l.Word)
			met[l.Word] = true
			if i == 0 {
				continue
			}
			before := links[i-1]
			require.Len(t, l.Segments, len(before.Segments))
			differ := 0
			for k := range l.Segments {
				if phoneme.Join(l.Segments[k].Phonemes) != phoneme.Join(before.Segments[k].Phonemes) {
					differ++
					assert.Equal(t, k, l.Changed)
				}
			}
			assert.Equal(t, 1, differ, "%s to %s", before.Word, l.Word)
			now := slices.Index([]string{"initial", "final", "vowel", "inner"}, l.Place)
			assert.GreaterOrEqual(t, now, stage, "rhyme first, then the end, then the vowel: %v", links)
			stage = now
		}
	}
	again, err := words.Chain(words.Query{Taught: taught}, "hat", 6, south, chance(3))
	require.NoError(t, err)
	assert.Equal(t, "hat", again[0].Word)
	twice, _ := words.Chain(words.Query{Taught: taught}, "hat", 6, south, chance(3))
	assert.Equal(t, again, twice, "the same seed gives the same chain")
	for _, bad := range []struct {
		start  string
		length int
	}{{"ship", 6}, {"", 2}, {"", 99}} {
		_, err := words.Chain(words.Query{Taught: taught}, bad.start, bad.length, south, chance(1))
		require.Error(t, err, "%v", bad)
	}
	_, err = words.Chain(words.Query{Taught: set(t, "x,qu")}, "", 6, south, chance(1))
	require.ErrorIs(t, err, words.ErrTooFew)
}

func TestSlipsArePlausible(t *testing.T) {
	taught := set(t, early+",ai,ay,ee,ea,oa")
	slips := func(word string) map[string]words.SlipKind {
		out := map[string]words.SlipKind{}
		for _, c := range words.Find(words.Query{Taught: taught}, south) {
			if c.Word == word {
				for _, s := range words.Slips(c, taught, south) {
					out[s.Shown] = s.Kind
				}
			}
		}
		return out
	}
	for _, row := range []struct {
		name, word, shown string
		kind              words.SlipKind
	}{
		{"a sound of the cluster is lost at the start", "slip", "sip", words.LostSound},
		{"a nasal is lost before a stop", "hand", "had", words.LostSound},
		{"a short vowel is taken for its neighbour", "pen", "pin", words.WrongVowel},
		{"another group of the same sound", "rain", "rayn", words.WrongGroup},
		{"half of a group is forgotten", "boat", "bot", words.WrongGroup},
		{"the end is not doubled", "hill", "hil", words.SingleFinal},
		{"k for ck", "duck", "duk", words.SingleFinal},
	} {
		assert.Equal(
			t,
			row.kind,
			slips(row.word)[row.shown],
			"%s: %s for %s among %v",
			row.name,
			row.shown,
			row.word,
			slips(row.word),
		)
	}
	for _, s := range slips("can") {
		assert.NotEqual(t, "cen", s, "c before e has another sound")
	}
	hunt, err := words.SlipHunt(words.Query{Taught: taught}, 8, south, chance(2))
	require.NoError(t, err)
	kinds := map[words.SlipKind]bool{}
	for _, s := range hunt {
		kinds[s.Kind] = true
		assert.NotEqual(t, s.Word, s.Shown)
		assert.NotEmpty(t, s.Why)
		e, ok := lexicon.Find(s.Shown)
		assert.False(t, ok && e.Unfit, s.Shown)
	}
	assert.GreaterOrEqual(t, len(kinds), 3, "slips differ in kind")
	_, err = words.SlipHunt(words.Query{Taught: set(t, "x")}, 8, south, chance(2))
	require.ErrorIs(t, err, words.ErrTooFew)
}

func TestCompoundsAreTwoReadableWords(t *testing.T) {
	taught := set(t, early+",j,v,w,x,z,sh,ch,th=θ,ng,ai,ee,igh,oa,oo,ar,or,er,s=z")
	var list []string
	for _, c := range words.Compounds(words.Query{Taught: taught}, south) {
		list = append(list, c.Word)
		assert.Equal(t, c.Word, c.First+c.Second)
		for _, part := range []string{c.First, c.Second} {
			seg, err := lexicon.Segment(part, south.Accent, south.Units)
			require.NoError(t, err)
			assert.True(t, taught.Covers(seg.Segments), "%s in %s", part, c.Word)
		}
	}
	for _, w := range []string{"sunset", "bedroom", "catfish", "popcorn", "lipstick"} {
		assert.Contains(t, list, w)
	}
	for _, w := range []string{"carpet", "forget", "satin", "seeking", "starring", "information", "button"} {
		assert.NotContains(t, list, w, "it only looks like two words")
	}
}

func TestRingListStandsAtDifferentPlaces(t *testing.T) {
	target := spelling.Pair{Grapheme: "n", Sound: "n"}
	list, err := words.RingList(words.Query{Taught: set(t, early), Target: &target}, 12, south, chance(4))
	require.NoError(t, err)
	places := map[words.Position]int{}
	for _, r := range list {
		places[r.Place]++
		for _, l := range r.Letters {
			assert.Equal(t, byte('n'), r.Word[l], r.Word)
		}
		assert.Equal(t, r.Place == words.Any, len(r.Letters) == 0, r.Word)
		assert.Equal(t, strings.Count(r.Word, "n"), len(r.Letters), r.Word)
	}
	assert.Equal(t, map[words.Position]int{words.Initial: 3, words.Medial: 3, words.Final: 3, words.Any: 3}, places)
	for _, bad := range []words.Query{{Taught: set(t, early)}, {Taught: set(t, "n"), Target: &target}} {
		_, err := words.RingList(bad, 12, south, chance(4))
		require.Error(t, err)
	}
}

func TestFirstOrLastHasBothAnswers(t *testing.T) {
	for _, p := range []phoneme.Phoneme{"m", "s", "t", "n", "p", "l", "d"} {
		for seed := range uint64(20) {
			quarters, err := words.FirstOrLast(p, nil, south, chance(seed))
			require.NoError(t, err)
			require.Len(t, quarters, 4)
			answers := map[words.Position]int{}
			for _, q := range quarters {
				answers[q.Answer]++
				seg, _ := lexicon.Segment(q.Picture, south.Accent, south.Units)
				at := 0
				if q.Answer == words.Final {
					at = len(seg.Phonemes) - 1
				}
				assert.Equal(t, p, seg.Phonemes[at], "%s in %s", p, q.Picture)
				other := seg.Phonemes[len(seg.Phonemes)-1-at]
				assert.NotEqual(t, p, other, "%s has it at both ends", q.Picture)
			}
			assert.Len(t, answers, 2, "%s with seed %d", p, seed)
		}
	}
	for p, why := range map[phoneme.Phoneme]string{
		"h": "none ends", "w": "none ends", "ŋ": "none starts",
		"ʒ": "none starts",
	} {
		_, err := words.FirstOrLast(p, nil, south, chance(1))
		require.ErrorIs(t, err, words.ErrPosition)
		assert.Contains(t, err.Error(), why)
	}
}

func TestNoSecondNameFitsAnotherBasket(t *testing.T) {
	require.Contains(t, lexicon.SecondNames("rabbit"), "bunny")
	assert.Contains(t, words.EarPictures("r", words.Initial, "", nil, south), "rabbit")
	for seed := range uint64(30) {
		baskets, err := words.Sort([]phoneme.Phoneme{"r", "b"}, 4, words.Initial, south, chance(seed))
		require.NoError(t, err)
		assert.NotContains(t, baskets[0].Pictures, "rabbit", "a bunny starts with b")
		for _, b := range baskets {
			for _, w := range b.Pictures {
				for _, name := range lexicon.SecondNames(w) {
					for _, p := range south.Sounds(name) {
						assert.False(t, p != b.Sound && (p == "r" || p == "b"), "%s may be called %s", w, name)
					}
				}
			}
		}
	}
}

func TestSortByTheMiddle(t *testing.T) {
	baskets, err := words.Sort([]phoneme.Phoneme{"æ", "e"}, 4, words.Medial, south, chance(1))
	require.NoError(t, err)
	for _, b := range baskets {
		for _, w := range b.Pictures {
			s := south.Sounds(w)
			assert.Contains(t, s[1:len(s)-1], b.Sound, w)
		}
	}
}

func TestVoicedAndUnvoicedAreNeverMixed(t *testing.T) {
	q := words.Query{Taught: set(t, early+",th=θ,th=ð,er"), Limit: 6}
	thin, then := spelling.Pair{Grapheme: "th", Sound: "θ"}, spelling.Pair{Grapheme: "th", Sound: "ð"}
	c, err := words.Contrast(thin, then, q, south)
	require.NoError(t, err)
	require.NotEmpty(t, c.Left)
	assert.Len(t, c.Right, len(c.Left), "equal numbers")
	for i := range c.Left {
		assert.NotContains(t, phoneme.Join(south.Sounds(c.Left[i].Word)), "ð", c.Left[i].Word)
		assert.NotContains(t, phoneme.Join(south.Sounds(c.Right[i].Word)), "θ", c.Right[i].Word)
	}
	q.Target = &thin
	for _, w := range words.Find(q, south) {
		assert.NotContains(t, phoneme.Join(south.Sounds(w.Word)), "ð", "one list holds one sound of th: %s", w.Word)
	}
	twins, err := words.Contrast(
		spelling.Pair{Grapheme: "m", Sound: "m"},
		spelling.Pair{Grapheme: "n", Sound: "n"},
		words.Query{Taught: set(t, early), Familiarity: 2},
		south,
	)
	require.NoError(t, err)
	assert.Contains(t, twins.Twins, [2]string{"met", "net"})
	_, err = words.Contrast(thin, spelling.Pair{Grapheme: "zz", Sound: "z"}, q, south)
	require.Error(t, err, "zz is not taught")
}

func TestLookSaysWhy(t *testing.T) {
	steps := map[spelling.Pair]int{{Grapheme: "igh", Sound: "aɪ"}: 31, {Grapheme: "sh", Sound: "ʃ"}: 24}
	q := words.Query{Taught: set(t, early), Exclude: map[string]bool{"cap": true}}
	for _, row := range []struct {
		word string
		may  bool
		why  string
	}{
		{"cat", true, "has been taught"},
		{"night", false, "igh in night comes in step 31"},
		{"ship", false, "sh in ship comes in step 24"},
		{"jam", false, "j in jam is in no step"},
		{"said", false, "ai is the odd part"},
		{"gun", false, "kept out"},
		{"cap", false, "refused"},
		{"lut", false, "not in the word list"},
	} {
		a, err := words.Look(row.word, q, steps, south)
		require.NoError(t, err, row.word)
		assert.Equal(t, row.may, a.May, "%s: %s", row.word, a.Why)
		assert.Contains(t, a.Why, row.why)
	}
	for _, bad := range []string{"", "42", "🙂"} {
		_, err := words.Look(bad, q, steps, south)
		require.Error(t, err, bad)
	}
	bow, err := words.Look("bow", words.Query{Taught: set(t, "b,ow=əʊ")}, steps, south)
	require.NoError(t, err)
	assert.Contains(t, bow.Why, "two ways")
	for _, n := range words.IsNear(q, steps, 12, south) {
		assert.Len(t, n.Missing, 1)
		assert.Positive(t, n.Missing[0].Step, n.Word)
	}
}

func TestQueryBySoundsBeatsAndSoundAlikes(t *testing.T) {
	taught := set(t, early+",s=z,er,ee,ea,ai,a-e")
	for _, c := range words.Find(words.Query{Taught: taught, MinSounds: 4, MaxSounds: 4, Syllables: 2}, south) {
		assert.Equal(t, 4, c.Sounds, c.Word)
		assert.Equal(t, 2, strings.Count(c.Frame, "V"), c.Word)
	}
	has := func(q words.Query, w string) bool {
		return slices.ContainsFunc(words.Find(q, south), func(c words.Choice) bool { return c.Word == w })
	}
	q := words.Query{Taught: taught, Familiarity: 1}
	assert.True(t, has(q, "meat"))
	q.NoHomophones = true
	assert.False(t, has(q, "meat"), "meat sounds like meet")
	assert.True(t, has(q, "cat"))
}

func TestAWordMayDepartFromTheAccent(t *testing.T) {
	target := spelling.Pair{Grapheme: "a", Sound: "æ"}
	q := words.Query{Taught: set(t, early+",th"), Target: &target}
	holds := func(o words.Options) bool {
		return slices.ContainsFunc(words.Find(q, o), func(c words.Choice) bool { return c.Word == "bath" })
	}
	assert.False(t, holds(south), "bath has a long vowel in the south")
	assert.True(
		t,
		holds(
			words.Options{Accent: phoneme.SouthernBritish, Depart: map[string]phoneme.Accent{"bath": phoneme.NorthernEnglish}},
		),
	)
}

func ExampleChain() {
	taught, _ := spelling.ParsePairs(phoneme.SouthernBritish, "s,a,t,p,i,n")
	links, _ := words.Chain(
		words.Query{Taught: taught},
		"tap",
		4,
		words.Options{Accent: phoneme.SouthernBritish},
		rand.New(rand.NewPCG(1, 1)),
	)
	for _, l := range links[1:] {
		fmt.Println(l.Says)
	}
	// Output:
	// t becomes n at the start.
	// p becomes n at the end.
}
