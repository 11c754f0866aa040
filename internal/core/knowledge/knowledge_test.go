package knowledge_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
)

var monday = time.Date(2026, 11, 23, 9, 0, 0, 0, time.UTC)

func day(n int) time.Time { return monday.AddDate(0, 0, n) }

func pair(g, s string) spelling.Pair { return spelling.Pair{Grapheme: g, Sound: s} }

func cards() []card.Card {
	out := []card.Card{
		{ID: "a", Step: 1, Pair: pair("a", "æ")},
		{ID: "t", Step: 2, Pair: pair("t", "t")},
		{ID: "b", Step: 3, Pair: pair("b", "b")},
		{ID: "i", Step: 4, Pair: pair("i", "ɪ")},
		{ID: "r", Step: 5, Pair: pair("r", "r")},
	}
	out[1].Exceptions = []string{"The"}
	out[4].Exceptions = []string{"to", "the"}
	return out
}

func sources() knowledge.Sources {
	return knowledge.Sources{Conventions: convention.Conventions{Accent: "southern-british"}, Cards: cards()}
}

func met(id string, at int, sure review.Sureness) knowledge.Entry {
	return knowledge.Entry{CardID: id, Introduced: true, Sure: sure, At: day(at)}
}

func ids(c knowledge.Class) []string {
	var out []string
	for _, k := range c.Met {
		out = append(out, k.Card.ID)
	}
	return out
}

func TestTheLogAndADeclaration(t *testing.T) {
	s := sources()
	s.Log = []knowledge.Entry{met("t", 0, review.Sure), met("a", 1, review.Shaky)}
	s.Declared = []knowledge.Declaration{
		{CardIDs: []string{"b"}, On: day(2), By: "OW"},
		{Words: []string{"I"}, On: day(2)},
	}
	c := knowledge.Of(s)
	assert.Equal(t, []string{"t", "a", "b"}, ids(c), "in the order in which they were met")
	assert.True(t, c.Pairs[pair("b", "b")])
	assert.Equal(t, map[string]bool{"the": true, "i": true}, c.Exceptions)
	assert.Equal(t, map[string]int{"to": 5}, c.Coming, "the is known already")
	assert.Equal(t, "i", c.Next)
	k, ok := c.Find("b")
	require.True(t, ok)
	assert.True(t, k.Declared)
	assert.Equal(t, review.Sure, k.Seen.Sure)
	k, _ = c.Find("a")
	assert.False(t, k.Declared)
	assert.Equal(t, []knowledge.Known{k}, c.Due(5), "shaky is due, sure is not")
	_, ok = c.Find("r")
	assert.False(t, ok)
	first, ok := c.Find("t")
	assert.True(t, ok)
	assert.Equal(t, "t", first.Card.ID, "the first one too")
}

func TestNotYetIsMetButNotKnown(t *testing.T) {
	s := sources()
	s.Log = []knowledge.Entry{met("a", 0, review.Sure), met("b", 1, review.NotYet)}
	c := knowledge.Of(s)
	assert.False(t, c.Pairs[pair("b", "b")])
	assert.Equal(t, "t", c.Next, "what was met does not come next again")
	s.Log = append(s.Log, knowledge.Entry{CardID: "b", Sure: review.Shaky, At: day(2)})
	assert.True(t, knowledge.Of(s).Pairs[pair("b", "b")], "a later meeting counts")
	s.Log[2].Sure = review.NotYet
	s.Declared = []knowledge.Declaration{{CardIDs: []string{"b"}, On: day(3)}}
	assert.True(t, knowledge.Of(s).Pairs[pair("b", "b")], "what was said later stands")
	s.Declared[0].On = day(1)
	assert.False(t, knowledge.Of(s).Pairs[pair("b", "b")], "what was said before does not")
}

func TestDoublesAreKnownByConvention(t *testing.T) {
	s := sources()
	for i, id := range []string{"r", "a", "b", "i", "t"} {
		s.Log = append(s.Log, met(id, i, review.Sure))
	}
	rabbit, err := lexicon.Segment("rabbit", "southern-british", spelling.Units{})
	require.NoError(t, err)
	assert.True(t, knowledge.Of(s).Reads(rabbit))
	s.Conventions.DoublesApart = true
	assert.False(t, knowledge.Of(s).Reads(rabbit))
}

func TestWithAddsTargetsAndChangesNothing(t *testing.T) {
	s := sources()
	s.Log = []knowledge.Entry{met("a", 0, review.Sure)}
	before := knowledge.Of(s)
	after := before.With(s.Conventions, cards()[4])
	assert.True(t, after.Pairs[pair("r", "r")])
	assert.True(t, after.Pairs[pair("rr", "r")])
	assert.True(t, after.Exceptions["to"])
	assert.False(t, before.Pairs[pair("r", "r")])
	assert.Empty(t, before.Exceptions)
	assert.Len(t, after.Log("a"), 0)
	assert.Len(t, after.Log(), 1)
}

func TestArchivedCardsAreNotComing(t *testing.T) {
	s := sources()
	s.Archived = map[string]bool{"a": true, "r": true}
	s.Log = []knowledge.Entry{met("a", 0, review.Sure)}
	s.Seen = []review.Seen{{CardID: "t", Sure: review.Secure, Last: day(0)}}
	c := knowledge.Of(s)
	assert.True(t, c.Pairs[pair("a", "æ")], "what a class met it knows")
	assert.True(t, c.Pairs[pair("t", "t")], "what a log came to counts as a log")
	assert.Equal(t, "b", c.Next)
	assert.NotContains(t, c.Steps, pair("r", "r"))
	assert.Empty(t, c.Coming)
	s.Refused = []string{"bat"}
	assert.True(t, knowledge.Of(s).Refused["bat"])
}

func ExampleOf() {
	s := sources()
	s.Declared = []knowledge.Declaration{{CardIDs: []string{"a", "t"}, On: monday, By: "OW"}}
	c := knowledge.Of(s)
	fmt.Println(len(c.Met), c.Next)
	// Output: 2 b
}
