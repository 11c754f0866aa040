package card_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/card"
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

func ExampleHoldOf() {
	fmt.Println(card.HoldOf(sb, pair("m", "m")), card.HoldOf(sb, pair("t", "t")))
	// Output: stretch short
}
