package script_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
)

var (
	south = lexicon.Speech{Accent: "southern-british"}
	conv  = convention.Conventions{Accent: "southern-british"}
)

func pair(g, s string) spelling.Pair { return spelling.Pair{Grapheme: g, Sound: s} }

// Facts of product.md (common practice, no published source): digraph two letters one sound, trigraph three letters one
// sound; qu and x two sounds; s voice off, m voice on; p, b, t … cannot be stretched.
func TestWhatIsSaidIsSo(t *testing.T) {
	for p, want := range map[spelling.Pair]string{
		pair("m", "m"):     "One letter, one sound.",
		pair("sh", "ʃ"):    "Two letters, one sound.",
		pair("igh", "aɪ"):  "Three letters, one sound.",
		pair("eigh", "eɪ"): "Four letters, one sound.",
		pair("x", "ks"):    "One letter, two sounds close together.",
		pair("qu", "kw"):   "Two letters, two sounds close together.",
		pair("a-e", "eɪ"):  "Two letters, one sound: a and e with a letter between.",
		pair("le", "əl"):   "Two letters, one sound.",
	} {
		assert.Equal(t, want, script.Count(south, p), p)
	}
	one := south
	one.Units.XOne = true
	assert.Equal(t, "One letter, one sound.", script.Count(one, pair("x", "ks")))

	assert.Contains(t, script.Throat("southern-british", pair("s", "s")), "No: the voice is off")
	assert.Contains(t, script.Throat("southern-british", pair("s", "z")), "Yes: the voice is on")
	assert.Contains(t, script.Throat("southern-british", pair("qu", "kw")), "off, then on")
	for _, sound := range []string{"m", "s", "θ", "f", "l", "n", "r", "v", "z"} {
		assert.Contains(t, script.Hold(conv, pair("?", sound)), "Stretch", sound)
	}
	for _, sound := range []string{"p", "b", "t", "d", "k", "ɡ", "tʃ", "dʒ"} {
		assert.Contains(t, script.Hold(conv, pair("?", sound)), "short", sound)
	}
}

func TestASoundIsNamedAsASound(t *testing.T) {
	severalSounds := []spelling.Pair{
		pair("th", "θ"), pair("th", "ð"), pair("oo", "uː"), pair("oo", "ʊ"), pair("s", "z"),
	}
	for _, p := range severalSounds {
		said := script.Said(south, p, "")
		assert.True(t, strings.HasPrefix(said, "/"+p.Sound+"/ as in "), said)
		word := said[strings.LastIndex(said, " ")+1:]
		seg, err := south.Segment(word)
		assert.NoError(t, err)
		assert.True(t, spelling.Holds(seg.Segments, p), "%s holds %s", word, p)
	}
	assert.Equal(t, "/m/ as in mooring", script.Said(south, pair("m", "m"), "mooring"), "the card's keyword")
	assert.Equal(t, "/ʒ/", script.Said(south, pair("zh", "ʒ"), ""), "no word that shows other letters")
	assert.Equal(t, "/?/", script.Said(south, pair("zh", "?"), ""))
}

func TestVoicesAreTheTeams(t *testing.T) {
	assert.Len(t, script.Voices(conv, pair("m", "m")), 4)
	assert.NotContains(t, strings.Join(script.Voices(conv, pair("t", "t")), " "), "long", "a short sound is not said long")
	mine := conv
	mine.Says.Voices = []string{"marching", "sung", " slow as a barge "}
	assert.Equal(t, []string{"marching", "sung", "slow as a barge"}, script.Voices(mine, pair("m", "m")))
	assert.Equal(t, []string{"marching"}, script.Voices(mine, pair("t", "t")))
}

func TestAnswersToACard(t *testing.T) {
	for answer, want := range map[convention.Answer]string{
		"": "/m/", convention.AnswerKeyword: "“map”, /m/", convention.AnswerName: "“M”, “map”, /m/",
		convention.AnswerAction: "/m/ with the action",
	} {
		c := conv
		c.Says.Answer = answer
		assert.Equal(t, want, script.Answer(c, pair("m", "m"), "map"))
		assert.NotEmpty(t, script.AnswerRule(c))
	}
	named := conv
	named.Says.Answer = convention.AnswerName
	assert.Equal(t, "“ship”, /ʃ/", script.Answer(named, pair("sh", "ʃ"), "ship"), "a group has no letter name")
	assert.Equal(t, "/ʃ/", script.Answer(named, pair("sh", "ʃ"), ""))
}

func TestWhileWritingAndSlips(t *testing.T) {
	c := conv
	assert.Equal(t, "“down, up”", script.WhileWriting(c, pair("m", "m"), "down, up"))
	assert.Equal(t, "/m/", script.WhileWriting(c, pair("m", "m"), ""))
	c.Says.Writing = convention.SaySound
	assert.Equal(t, "/m/", script.WhileWriting(c, pair("m", "m"), "down, up"))
	c.Says.Writing = convention.SayBoth
	assert.Equal(t, "“down, up”, then /m/", script.WhileWriting(c, pair("m", "m"), "down, up"))
	assert.Empty(t, script.Slip(pair("u", "ʌ"), "No “uh” after it."), "no warning of the sound itself")
	assert.Equal(t, "No “uh” after it.", script.Slip(pair("t", "t"), "No “uh” after it."))
}

func ExampleList() {
	fmt.Println(
		script.List([]string{"/p/", "/t/", "/k/"}),
		"|",
		script.Either([]string{"/p/", "/t/"}),
		"|",
		script.List(nil),
	)
	// Output: /p/, /t/ and /k/ | /p/ or /t/ |
}

// The words by which sounds are named where a card has no keyword yet, to be read by a phonics lead: is the sound plain
// in each, and can it be drawn? They were read on 2026-11-26.
func TestKeywordsToBeRead(t *testing.T) {
	var out strings.Builder
	for _, a := range []phoneme.Accent{phoneme.SouthernBritish, phoneme.GeneralAmerican} {
		o := lexicon.Speech{Accent: a}
		for _, r := range spelling.Table(a) {
			if r.Rare {
				continue
			}
			fmt.Fprintf(&out, "%s %s %s\n", a, r.Pair, script.Keyword(o, r.Pair, ""))
		}
	}
	goldie.New(t, goldie.WithFixtureDir("testdata"), goldie.WithNameSuffix(".txt")).
		Assert(t, "keywords", []byte(out.String()))
}
