package lexicon_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

func graphemes(t *testing.T, word string, a phoneme.Accent, u spelling.Units) string {
	t.Helper()
	s, err := lexicon.Segment(word, a, u)
	require.NoError(t, err)
	var out []string
	for _, g := range s.Segments {
		out = append(out, g.Grapheme)
	}
	return strings.Join(out, " ")
}

// Sounds in a word: common practice, no published source.
func TestSoundsInAWord(t *testing.T) {
	facts := `mat 3 at 2 wag 3 spot 4 loft 4 shower 3 letter 4 thin 3 better 4 thick 3 this 3 three 3 night 3 bright 4
high 2 might 3 sleep 4 green 4 need 3 out 2
found 4 shout 3 mouth 3 fork 3 short 3 sport 4 snort 4 pure 2 cure 2 moth 3 bath 3 thank 4 think 4 stairs 4 flight
4 scoff 4 forms 4 waist 4 belt 4 hurts 4 mule 3 rude 3 prune 4 cute 3 chip 3 chair 2 rough 3 tough 3 cough 3 laugh
3 wanted 6 jumped 5 picture 5 nation 5 table 4 measure 4 box 4 queen 4 one 3 story 4 finger 5 singer 4`
	f := strings.Fields(facts)
	for i := 0; i < len(f); i += 2 {
		for _, a := range phoneme.Accents {
			s, err := lexicon.Segment(f[i], a, spelling.Units{})
			require.NoError(t, err)
			assert.Equal(t, f[i+1], fmt.Sprint(s.Sounds), "sounds in %s, %s", f[i], a)
			assert.Equal(t, lexicon.FromLexicon, s.Source, f[i])
		}
	}
}

// Example words of the spelling appendix of the national curriculum in England (Department for Education,
// 2013), years 1 and 2, with the grapheme that each stands there for. The list is from memory.
var appendix = `off:ff well:ll miss:ss buzz:zz back:ck bank:n think:n pocket:ck rabbit:bb carrot:rr thunder:th
sunset:s catch:tch fetch:tch kitchen:tch notch:tch hutch:tch have:ve live:ve give:ve
rain:ai wait:ai train:ai paid:ai afraid:ai oil:oi join:oi coin:oi point:oi soil:oi day:ay play:ay say:ay way:ay
stay:ay boy:oy toy:oy enjoy:oy annoy:oy made:a-e came:a-e same:a-e take:a-e safe:a-e these:e-e theme:e-e complete:e-e
five:i-e ride:i-e like:i-e time:i-e side:i-e home:o-e those:o-e woke:o-e hope:o-e hole:o-e june:u-e rule:u-e
rude:u-e use:u-e tube:u-e tune:u-e car:ar start:ar park:ar arm:ar garden:ar see:ee tree:ee green:ee meet:ee week:ee
sea:ea dream:ea meat:ea each:ea read:ea head:ea bread:ea meant:ea instead:ea her:er term:er verb:er person:er
better:er under:er summer:er winter:er sister:er girl:ir bird:ir shirt:ir first:ir third:ir turn:ur hurt:ur
church:ur burst:ur thursday:ur
food:oo pool:oo moon:oo zoo:oo soon:oo book:oo took:oo foot:oo wood:oo good:oo boat:oa coat:oa road:oa coach:oa
goal:oa toe:oe goes:oe out:ou about:ou mouth:ou around:ou sound:ou now:ow how:ow brown:ow down:ow town:ow own:ow
blow:ow snow:ow grow:ow show:ow
blue:ue clue:ue true:ue rescue:ue tuesday:ue new:ew few:ew grew:ew flew:ew drew:ew threw:ew lie:ie tie:ie pie:ie
cried:ie tried:ie dried:ie chief:ie field:ie thief:ie high:igh night:igh light:igh bright:igh right:igh for:or
short:or born:or horse:or morning:or
more:ore score:ore before:ore wore:ore shore:ore saw:aw draw:aw yawn:aw crawl:aw author:au august:au dinosaur:au
air:air fair:air pair:air hair:air chair:air dear:ear hear:ear beard:ear near:ear year:ear bear:ear pear:ear
wear:ear bare:are dare:are care:are share:are scared:are
very:y happy:y funny:y party:y family:y dolphin:ph alphabet:ph phonics:ph elephant:ph when:wh where:wh which:wh
wheel:wh while:wh kent:k sketch:k kit:k skin:k badge:dge edge:dge bridge:dge fudge:dge dodge:dge age:g huge:g
change:ge charge:ge village:g gem:g giant:g magic:g giraffe:g energy:g
race:c ice:c cell:c city:c fancy:c knock:kn know:kn knee:kn gnat:gn gnaw:gn write:wr written:wr wrote:wr wrong:wr
wrap:wr table:le apple:le bottle:le little:le middle:le camel:el tunnel:el squirrel:el travel:el towel:el
tinsel:el metal:al pedal:al capital:al hospital:al animal:al
pencil:il fossil:il nostril:il cry:y fly:y dry:y try:y reply:y july:y all:a ball:a call:a walk:al talk:al
always:a other:o mother:o brother:o nothing:o monday:o key:ey donkey:ey monkey:ey chimney:ey valley:ey want:a
watch:a wander:a quantity:a squash:a word:or work:or worm:or world:or worth:or war:ar warm:ar towards:ar
usual:s station:tion fiction:tion motion:tion national:tion section:tion door:oor floor:oor poor:oor because:au
find:i kind:i mind:i behind:i child:i wild:i climb:mb most:o only:o both:o old:o cold:o gold:o hold:o told:o
every:er great:ea break:ea steak:ea pretty:e beautiful:eau
after:a fast:a last:a past:a father:a class:a grass:a pass:a plant:a path:a bath:a hour:our sure:ure sugar:s
eye:eye could:oul should:oul would:oul who:wh whole:wh any:a many:a clothes:o-e busy:u people:eo water:a again:ai
half:al money:ey parents:ar`

func TestAppendixWordsHoldTheirGrapheme(t *testing.T) {
	wrong := []string{}
	all := strings.Fields(appendix)
	for _, w := range all {
		word, g, _ := strings.Cut(w, ":")
		if got := graphemes(t, word, phoneme.SouthernBritish, spelling.Units{}); !strings.Contains(" "+got+" ", " "+g+" ") {
			wrong = append(wrong, w+" is "+got)
		}
	}
	t.Logf("%d of %d agree", len(all)-len(wrong), len(all))
	assert.LessOrEqual(t, len(wrong)*100, len(all)*2, "more than 2 %% wrong: %v", wrong)
}

// Properties of every word in every accent: the letters rejoin to the word, the sounds to its pronunciation.
func TestWordsRejoin(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	for _, a := range phoneme.Accents {
		pool := lexicon.For(a, spelling.Units{}).Items
		require.Greater(t, len(pool), 15_000)
		for _, item := range pool {
			for _, r := range item.Readings {
				require.False(t, slices.ContainsFunc(r.Segments, func(s spelling.Segment) bool { return s.Grapheme == "" }),
					"%s has a sound without a letter: %v", item.Word, r.Segments)
				seen := make([]bool, len(item.Word))
				var sounds []phoneme.Phoneme
				for _, s := range r.Segments {
					for _, l := range s.Letters {
						require.False(t, seen[l], "%s: letter %d stands twice", item.Word, l)
						seen[l] = true
					}
					sounds = append(sounds, s.Phonemes...)
				}
				require.NotContains(t, seen, false, "%s: a letter is lost", item.Word)
				require.Equal(t, r.Phonemes, sounds, "%s in %s", item.Word, a)
				for _, p := range sounds {
					_, ok := phoneme.Lookup(a, p)
					require.True(t, ok, "%s: %s is not a sound of %s", item.Word, p, a)
				}
			}
		}
	}
}

func TestFamiliarWordsAlign(t *testing.T) {
	total, odd := 0, []string{}
	for _, item := range lexicon.For(phoneme.SouthernBritish, spelling.Units{}).Items {
		if item.Familiarity < 3 {
			continue
		}
		total++
		for _, s := range item.Readings[0].Segments {
			if s.Odd {
				odd = append(odd, item.Word)
				break
			}
		}
	}
	t.Logf("%d familiar words, %d with an odd part: %v", total, len(odd), odd)
	assert.Less(t, len(odd)*100, total*2, "2 %% or more have an odd part")
}

func TestUnitsChangeTheSegmentation(t *testing.T) {
	for _, r := range []struct {
		word, want string
		units      spelling.Units
	}{
		{"quick", "qu i ck", spelling.Units{}},
		{"quick", "q u i ck", spelling.Units{QuTwo: true}},
		{"pink", "p i n k", spelling.Units{}},
		{"pink", "p i nk", spelling.Units{NkOne: true}},
		{"hill", "h i ll", spelling.Units{}},
		{"hill", "h i l l", spelling.Units{DoublesTwo: true}},
	} {
		assert.Equal(t, r.want, graphemes(t, r.word, phoneme.SouthernBritish, r.units))
	}
}

func TestSegmentInput(t *testing.T) {
	s, err := lexicon.Segment("SHIP", phoneme.SouthernBritish, spelling.Units{})
	require.NoError(t, err)
	assert.Equal(t, "sh", s.Segments[0].Grapheme)
	s, err = lexicon.Segment("can't", phoneme.SouthernBritish, spelling.Units{})
	require.NoError(t, err)
	last := s.Segments[len(s.Segments)-1]
	assert.Equal(t, []int{4}, last.Letters, "positions are those of the typed word")
	s, err = lexicon.Segment("zib", phoneme.SouthernBritish, spelling.Units{})
	require.NoError(t, err)
	assert.Equal(t, lexicon.FromRules, s.Source)
	for _, bad := range []string{"", "123", "кот", "🙂", "a1", strings.Repeat("a", 500), "--"} {
		_, err := lexicon.Segment(bad, phoneme.SouthernBritish, spelling.Units{})
		assert.ErrorIs(t, err, spelling.ErrNoWord, "%q", bad)
	}
	s, _ = lexicon.Segment("read", phoneme.SouthernBritish, spelling.Units{})
	assert.Len(t, s.Alternatives, 1)
}

func TestUnfitWordsAreNotOffered(t *testing.T) {
	for _, item := range lexicon.For(phoneme.SouthernBritish, spelling.Units{}).Items {
		assert.NotContains(t, []string{"gun", "bum", "damn", "beer", "sex", "kill"}, item.Word)
	}
}

func TestPictures(t *testing.T) {
	svg, ok := lexicon.Picture("dog")
	require.True(t, ok)
	assert.Contains(t, svg, "<path")
	_, ok = lexicon.Picture("nowhere")
	assert.False(t, ok)
	assert.Greater(t, len(lexicon.For(phoneme.SouthernBritish, spelling.Units{}).Pictures), 150)
}

func ExampleSegment() {
	s, _ := lexicon.Segment("cute", phoneme.SouthernBritish, spelling.Units{})
	for _, g := range s.Segments {
		fmt.Print(g.Grapheme, g.Letters, " ")
	}
	fmt.Println(s.Sounds)
	// Output: c[0] u-e[1 3] t[2] 3
}

func BenchmarkSegment(b *testing.B) {
	words := lexicon.Words()
	i := 0
	for b.Loop() {
		if _, err := lexicon.Segment(words[i%len(words)].Word, phoneme.SouthernBritish, spelling.Units{}); err != nil {
			b.Fatal(err)
		}
		i++
	}
	b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "words/s")
}

func FuzzSegment(f *testing.F) {
	for _, w := range []string{"ship", "queue", "can't", "aaaa", "eee"} {
		f.Add(w)
	}
	f.Fuzz(func(t *testing.T, w string) {
		s, err := lexicon.Segment(w, phoneme.GeneralAmerican, spelling.Units{DoublesTwo: true, NkOne: true})
		if err == nil && len(s.Segments) == 0 {
			t.Fatalf("%q: no segments and no error", w)
		}
	})
}
