package card_test

import (
	"fmt"
	"math/rand"
	"slices"
	"strings"
	"testing"
	"testing/quick"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

const sb = phoneme.SouthernBritish

func pair(g, s string) spelling.Pair { return spelling.Pair{Grapheme: g, Sound: s} }

func TestContradictions(t *testing.T) {
	rows := []struct {
		name    string
		pair    spelling.Pair
		content card.Content
		sounds  []phoneme.Phoneme
		field   string
	}{
		{"a stop that is stretched", pair("t", "t"), card.Content{MouthCue: "Stretch it out."}, nil, "mouth_cue"},
		{"voice on for a breath", pair("f", "f"), card.Content{MouthCue: "Voice on, teeth on lip."}, nil, "mouth_cue"},
		{"voice off for a hum", pair("m", "m"), card.Content{MouthCue: "Voice off."}, nil, "mouth_cue"},
		{
			"a rhyme too long to say at once",
			pair("m", "m"),
			card.Content{Rhyme: "one two three four five six seven eight nine ten eleven"},
			nil,
			"rhyme",
		},
		{
			"a keyword that begins with a cluster",
			pair("s", "s"),
			card.Content{Keyword: "swan"},
			[]phoneme.Phoneme{"s", "w", "ɒ", "n"},
			"keyword",
		},
		{
			"a keyword that begins with the letter's name",
			pair("t", "t"),
			card.Content{Keyword: "tea-towel"},
			[]phoneme.Phoneme{"t", "iː", "t"},
			"keyword",
		},
		{
			"a keyword without the sound",
			pair("qu", "kw"),
			card.Content{Keyword: "quay"},
			[]phoneme.Phoneme{"k", "iː", "x"},
			"keyword",
		},
		{"two letters said of three", pair("igh", "aɪ"), card.Content{Notes: "Two letters, one sound."}, nil, "notes"},
	}
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			found := card.Card{Pair: r.pair, Content: r.content}.Check(sb, r.sounds)
			if assert.Len(t, found, 1) {
				assert.Equal(t, r.field, found[0].Field)
			}
		})
	}
	fine := card.Content{Keyword: "soup", Rhyme: "Sip the soup.", MouthCue: "Let the air hiss; the voice is off."}
	assert.Empty(t, card.Card{Pair: pair("s", "s"), Content: fine}.Check(sb, []phoneme.Phoneme{"s", "uː", "p"}))
}

func TestGaps(t *testing.T) {
	c := card.Card{Step: 20, Pair: pair("s", "s")}
	assert.Len(t, c.Gaps(lexicon.Speech{Accent: sb}), 8)
	c.Step = 1
	for _, g := range c.Gaps(lexicon.Speech{Accent: sb}) {
		assert.NotContains(t, []string{"words", "sentence"}, g.Part, "nothing can be read at the first step")
	}
}

func TestMerge(t *testing.T) {
	base := card.Content{Rhyme: "a", Action: "b", Words: []string{"x"}}
	mine, theirs := base, base
	mine.Rhyme = "mine"
	theirs.Action = "theirs"
	merged, clashes := card.Merge(base, mine, theirs)
	assert.Empty(t, clashes)
	assert.Equal(t, "mine", merged.Rhyme)
	assert.Equal(t, "theirs", merged.Action)
	theirs.Rhyme = "other"
	_, clashes = card.Merge(base, mine, theirs)
	assert.Equal(t, []string{"rhyme"}, clashes)
	theirs.Rhyme = "mine"
	_, clashes = card.Merge(base, mine, theirs)
	assert.Empty(t, clashes, "both wrote the same")
}

func TestTidy(t *testing.T) {
	c := card.Content{Rhyme: "  a ", Words: []string{"x", "", " x", "y"}}.Tidy()
	assert.Equal(t, "a", c.Rhyme)
	assert.Equal(t, []string{"x", "y"}, c.Words)
	assert.NotNil(t, c.Sentences)
}

func TestCuesForEverySound(t *testing.T) {
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			cue, slip := card.SuggestCue(a, pair("?", string(s.Phoneme)))
			assert.NotEmpty(t, cue, "%s %s", a, s.Phoneme)
			assert.NotEmpty(t, slip, "%s %s", a, s.Phoneme)
			c := card.Card{Pair: pair("?", string(s.Phoneme)), Content: card.Content{MouthCue: cue, Slip: slip}}
			assert.Empty(t, c.Check(a, nil), "the suggested cue of %s contradicts it", s.Phoneme)
		}
	}
}

func ExampleFindHold() {
	fmt.Println(
		card.FindHold(convention.Conventions{Accent: sb}, pair("m", "m")),
		card.FindHold(convention.Conventions{Accent: sb}, pair("t", "t")),
	)
	// Output: stretch short
}

func fields(findings []card.Finding) []string {
	out := []string{}
	for _, f := range findings {
		out = append(out, f.Field)
	}
	return out
}

func checked(p spelling.Pair, c card.Content, sounds ...phoneme.Phoneme) []string {
	return fields(card.Card{Pair: p, Content: c}.Check(sb, sounds))
}

func words(n int) string { return strings.TrimSpace(strings.Repeat("m ", n)) }

// Each rule on both of its sides.
func TestWhatIsNoContradiction(t *testing.T) {
	m := pair("m", "m")
	assert.Empty(t, checked(m, card.Content{Rhyme: words(card.RhymeLimit)}))
	assert.Equal(t, []string{"rhyme"}, checked(m, card.Content{Rhyme: words(card.RhymeLimit + 1)}))
	assert.Empty(t, checked(m, card.Content{Rhyme: words(card.RhymeLimit + 1), RhymeShort: words(card.RhymeLimit)}))
	assert.Equal(t, []string{"rhyme_short"}, checked(m, card.Content{RhymeShort: words(card.RhymeLimit + 1)}))

	assert.Empty(t, checked(pair("s", "s"), card.Content{Keyword: "sock"}, "s", "ɒ", "k"))
	assert.Empty(t, checked(pair("m", "m"), card.Content{Keyword: "mew"}, "m", "j", "uː"), "m and y are no cluster here")
	assert.Equal(t, []string{"keyword"}, checked(m, card.Content{Keyword: "lemon"}, "l", "e", "m", "ə", "n"))
	assert.Empty(t, checked(m, card.Content{Keyword: "ham"}, "h", "æ", "m"), "at the end it is heard well")
	assert.Empty(
		t,
		checked(pair("ng", "ŋ"), card.Content{Keyword: "finger"}, "f", "ɪ", "ŋ", "ɡ", "ə"),
		"never at the start",
	)
	assert.Empty(t, checked(pair("ai", "eɪ"), card.Content{Keyword: "rain"}, "r", "eɪ", "n"), "a vowel may be inside")
	assert.Empty(t, checked(pair("qu", "kw"), card.Content{Keyword: "quilt"}, "k", "w", "ɪ", "l", "t"))
	assert.Empty(t, checked(m, card.Content{Keyword: "?"}, "m"), "a keyword that is one sound long says nothing")
	assert.Empty(t, checked(m, card.Content{}, "s", "æ", "t"), "no keyword, nothing to say")
	assert.Equal(
		t,
		[]string{"keyword"},
		checked(pair("t", "t"), card.Content{Keyword: "teapot"}, "t", "iː", "p", "ɒ", "t"),
	)
	assert.Equal(t, []string{"keyword"}, checked(pair("a", "?"), card.Content{Keyword: "x"}))

	assert.Empty(t, checked(m, card.Content{MouthCue: "Stretch it."}), "m can be stretched")
	assert.Empty(t, checked(pair("t", "t"), card.Content{MouthCue: "Do not stretch it."}))
	assert.Empty(t, checked(pair("t", "t"), card.Content{Slip: "Never stretch it."}))
	assert.Equal(t, []string{"mouth_cue"}, checked(pair("t", "t"), card.Content{Action: "Stretch your arms."}))
	assert.Empty(t, checked(pair("er", "ə"), card.Content{MouthCue: "stretch"}), "a vowel")
	assert.Empty(t, checked(pair("qu", "kw"), card.Content{MouthCue: "stretch the second"}), "two sounds")
	assert.Empty(t, checked(m, card.Content{MouthCue: "Voice on, never voice off."}))
	assert.Empty(t, checked(pair("f", "f"), card.Content{MouthCue: "Voice off, not voice on."}))
	assert.Equal(t, []string{"mouth_cue"}, checked(m, card.Content{MouthCue: "No voice."}))
	assert.Equal(t, []string{"mouth_cue"}, checked(pair("f", "f"), card.Content{MouthCue: "A buzz in the throat."}))

	sh, igh := pair("sh", "ʃ"), pair("igh", "aɪ")
	assert.Empty(t, checked(sh, card.Content{Notes: "Two letters, one sound."}))
	assert.Empty(t, checked(igh, card.Content{Rhyme: "three letters"}))
	assert.Equal(t, []string{"notes"}, checked(sh, card.Content{StrokeWords: "Three letters."}))
	assert.Equal(t, []string{"notes"}, checked(igh, card.Content{MouthCue: "two letters"}))
}

func gapsOf(c card.Card) []string {
	out := []string{}
	for _, g := range c.Gaps(lexicon.Speech{Accent: sb}) {
		out = append(out, g.Part)
	}
	return out
}

// Four words that count, from the fifth step on; a letter group needs no stroke words.
func TestGapsAtTheirEdges(t *testing.T) {
	full := card.Card{Step: 5, Pair: pair("b", "b"), HasTake: true, Content: card.Content{
		MouthCue: "x", Picture: "x", Rhyme: "x", Action: "x", StrokeWords: "x",
		Words: []string{"bat", "big", "bed", "bus"}, Sentences: []string{"x"},
	}}
	assert.Empty(t, gapsOf(full))
	with := func(change func(c *card.Card)) []string {
		c := full
		change(&c)
		return gapsOf(c)
	}
	assert.Equal(t, []string{"words"}, with(func(c *card.Card) { c.Words = c.Words[:3] }))
	assert.Equal(t, []string{"words"}, with(func(c *card.Card) { c.Words = []string{"bat", "big", "bed", "pistol"} }))
	assert.Empty(t, with(func(c *card.Card) { c.Words, c.Sentences, c.Step = nil, nil, 4 }))
	assert.Equal(t, []string{"sentence"}, with(func(c *card.Card) { c.Sentences = nil }))
	assert.Equal(t, []string{"strokes"}, with(func(c *card.Card) { c.StrokeWords = "" }))
	assert.Empty(t, with(func(c *card.Card) {
		c.StrokeWords, c.Pair, c.Words = "", pair("sh", "ʃ"), []string{"ship", "shop", "fish", "shut"}
	}))
	assert.Equal(t, []string{"take"}, with(func(c *card.Card) { c.HasTake = false }))
	for part, empty := range map[string]func(c *card.Card){
		"cue": func(c *card.Card) { c.MouthCue = "" }, "picture": func(c *card.Card) { c.Picture = "" },
		"rhyme": func(c *card.Card) { c.Rhyme = "" }, "action": func(c *card.Card) { c.Action = "" },
	} {
		assert.Equal(t, []string{part}, with(empty))
	}
}

func TestSuggestedCues(t *testing.T) {
	cue := func(g, s string) string {
		c, _ := card.SuggestCue(sb, pair(g, s))
		return c
	}
	assert.Contains(t, cue("m", "m"), "Hum")
	assert.Contains(t, cue("ai", "eɪ"), "half open to a small smile")
	assert.Contains(t, cue("oa", "əʊ"), "at rest to small round lips")
	assert.Contains(t, cue("ee", "iː"), "spread")
	assert.Contains(t, cue("le", "əl"), "tongue tip")
	american, _ := card.SuggestCue(phoneme.GeneralAmerican, pair("ar", "ɑːr"))
	assert.Equal(t, cue("ar", "ɑː")+" Curl the tongue back at its end.", american)
	assert.Contains(t, cue("qu", "kw"), "click, and open the lips")
	assert.Contains(t, cue("x", "ks"), "click, and let the air hiss")
	assert.Equal(t, "Two sounds close together: say them as one.", cue("?", "eɪt"), "a vowel with a consonant")
	assert.Empty(t, cue("?", "?"))
}

func TestVoiced(t *testing.T) {
	assert.True(t, card.Voiced(sb, pair("z", "z")))
	assert.False(t, card.Voiced(sb, pair("s", "s")))
	assert.False(t, card.Voiced(sb, pair("qu", "kw")), "its first sound")
	assert.True(t, card.Voiced(sb, pair("?", "?")))
	assert.Equal(t, card.Stretch, card.FindHold(convention.Conventions{Accent: sb}, pair("s", "s")))
	hard := []spelling.Pair{pair("t", "t"), pair("dge", "dʒ"), pair("x", "ks"), pair("qu", "kw"), pair("?", "?")}
	for _, p := range hard {
		assert.Equal(t, card.Short, card.FindHold(convention.Conventions{Accent: sb}, p), p)
	}
	short := convention.Conventions{Accent: sb, GlidesShort: true}
	for _, p := range []spelling.Pair{pair("w", "w"), pair("y", "j")} {
		assert.Equal(t, card.Stretch, card.FindHold(convention.Conventions{Accent: sb}, p), "by its phonetics: %s", p)
		assert.Equal(t, card.Short, card.FindHold(short, p), "by the team's choice: %s", p)
	}
	assert.Equal(t, card.Stretch, card.FindHold(short, pair("l", "l")), "no glide")
	assert.Equal(t, card.VoiceBoth, card.FindVoice(sb, pair("qu", "kw")))
	assert.Equal(t, card.VoiceOff, card.FindVoice(sb, pair("x", "ks")))
	assert.Equal(t, card.VoiceOn, card.FindVoice(sb, pair("x", "ɡz")))
}

func TestConventions(t *testing.T) {
	c := convention.Conventions{
		Accent:     sb,
		Departures: []convention.Departure{{Word: "bath", Accent: phoneme.NorthernEnglish}},
		Allowed:    []string{"wine"},
	}
	s := c.Speech()
	assert.Equal(t, phoneme.NorthernEnglish, s.Depart["bath"])
	assert.True(t, s.Allow["wine"])
	assert.Equal(t, phoneme.GeneralAmerican, card.Content{Accent: "general-american"}.Conventions(c).Accent)
	assert.Equal(t, sb, card.Content{}.Conventions(c).Accent)
	b, bb := pair("b", "b"), pair("bb", "b")
	assert.True(t, c.Known(spelling.Set{b: true})[bb], "rabbit is read once b is known")
	c.DoublesApart = true
	assert.False(t, c.Known(spelling.Set{b: true})[bb])
}

// Whatever two people write: what only one changed is taken, what both changed alike is no conflict, what both changed
// differently is named and mine stands; and it does not matter who comes first, but for those.
func TestMergeJoinsAnyTwoEdits(t *testing.T) {
	texts := []string{"", "a", "b"}
	lists := [][]string{nil, {"x"}, {"x", "y"}}
	make := func(r *rand.Rand) card.Content {
		return card.Content{
			Rhyme: texts[r.Intn(3)], Action: texts[r.Intn(3)], Words: lists[r.Intn(3)], Notes: texts[r.Intn(3)],
		}
	}
	check := func(seed int64) bool {
		r := rand.New(rand.NewSource(seed))
		base, mine, theirs := make(r), make(r), make(r)
		merged, conflicts := card.Merge(base, mine, theirs)
		back, same := card.Merge(base, theirs, mine)
		if !slices.Equal(conflicts, same) {
			return false
		}
		for _, name := range card.Changed(merged, back) {
			if !slices.Contains(conflicts, name) {
				return false
			}
		}
		byMe, byThem := card.Changed(base, mine), card.Changed(base, theirs)
		for _, name := range card.Changed(base, merged) {
			if !slices.Contains(byMe, name) && !slices.Contains(byThem, name) {
				return false
			}
		}
		for _, name := range card.Changed(merged, mine) { // where I do not stand, only they had changed it
			if slices.Contains(byMe, name) || !slices.Contains(byThem, name) {
				return false
			}
		}
		for _, name := range card.Changed(merged, theirs) {
			if slices.Contains(byThem, name) && !slices.Contains(conflicts, name) {
				return false
			}
		}
		return true
	}
	require.NoError(t, quick.Check(check, &quick.Config{MaxCount: 3000, Rand: rand.New(rand.NewSource(1))}))
}

func TestAlong(t *testing.T) {
	oo := card.Card{ID: "long", Step: 25, Pair: spelling.Pair{Grapheme: "oo", Sound: "uː"}}
	short := card.Card{ID: "short", Step: 12, Pair: spelling.Pair{Grapheme: "oo", Sound: "ʊ"}}
	m := card.Card{ID: "m", Step: 1, Pair: spelling.Pair{Grapheme: "m", Sound: "m"}}
	all := []card.Card{m, oo, short}
	conv := convention.Conventions{}
	assert.Equal(t, []card.Card{oo}, card.TaughtWith(conv, all, oo), "each alone, as it ships")
	conv.Together = []string{"oo"}
	assert.Equal(t, []card.Card{short, oo}, card.TaughtWith(conv, all, oo), "in the order of their steps")
	assert.Equal(t, []card.Card{m}, card.TaughtWith(conv, all, m))
	assert.Equal(t, []card.Card{oo}, card.TaughtWith(conv, []card.Card{m, short}, oo), "one that is not in the library")
}

// A stored card of any kind is refused or read; what is read can be written, and reads as the same.
func FuzzContents(f *testing.F) {
	f.Add([]byte(`{"version":1,"keyword":"barge","words":["bat"," bat "],"rhyme":"b"}`))
	f.Add([]byte(`{"version":99}`))
	f.Add([]byte(`{"place":{"x":1e300}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		c, err := card.Contents.Read(data)
		if err != nil {
			return
		}
		tidy := c.Tidy()
		written, err := card.Contents.Write(tidy)
		if err != nil {
			return // a number that JSON has no way to write
		}
		again, err := card.Contents.Read(written)
		if err != nil {
			t.Fatal(err)
		}
		if changed := card.Changed(tidy, again.Tidy()); len(changed) > 0 {
			t.Fatalf("%v: %s", changed, written)
		}
	})
}

func TestACardIsFilledFromAnother(t *testing.T) {
	theirs := card.Content{
		Keyword: "otter", Picture: "b", PictureAlt: "an otter", Rhyme: "Otter on the lock.", MouthCue: "Open wide.",
		Words: []string{"on", "off"}, Place: &card.Place{X: 0.1, Y: 0.5, Size: 0.3},
	}
	assert.Equal(t, theirs, card.Filled(card.Content{}, theirs))
	mine := card.Content{Keyword: "ox", Words: []string{}, Notes: "ours"}
	got := card.Filled(mine, theirs)
	assert.Empty(t, got.Rhyme, "it tells of another keyword")
	assert.Empty(t, got.Picture)
	assert.Equal(t, theirs.MouthCue, got.MouthCue)
	assert.Equal(t, theirs.Words, got.Words)
	assert.Equal(t, "ours", got.Notes)
	got = card.Filled(card.Content{Keyword: "otter", Picture: "a"}, theirs)
	assert.Equal(t, "a", got.Picture)
	assert.Nil(t, got.Place, "the place belongs to the other picture")
	assert.Empty(t, got.PictureAlt)
	assert.Equal(t, theirs.Rhyme, got.Rhyme)
	assert.Equal(
		t,
		card.Content{Keyword: "ox", Rhyme: "Ox."},
		card.Filled(card.Content{Keyword: "ox", Rhyme: "Ox."}, card.Content{}),
	)
}

// Exception words are words: they are printed on cards and sheets and read out.
func TestExceptionWordsAreWords(t *testing.T) {
	for _, w := range []string{"the", "don't", "don’t", "to-day", "I", "naïve"} {
		assert.NoError(t, card.Content{Exceptions: []string{w}}.CheckExceptions(), w)
	}
	for _, w := range []string{"the 2", "said!", "<b>", "123", "-", "two words", "=A1", "😀"} {
		err := card.Content{Exceptions: []string{"the", w}}.CheckExceptions()
		require.ErrorContains(t, err, w)
		_, err = card.Content{}.Worded("exceptions", w)
		require.Error(t, err, w)
	}
}
