package demo

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

// What stands on the demo's cards can be read at their step: by the pairs and exception words up to it, doubled letters
// with the single ones.
func TestTheDemoCanBeReadAtEachStep(t *testing.T) {
	data, err := files.ReadFile("library.json")
	require.NoError(t, err)
	var lib library
	require.NoError(t, json.Unmarshal(data, &lib))
	require.GreaterOrEqual(t, len(lib.Cards), 60)
	conv := convention.Conventions{Accent: phoneme.SouthernBritish}
	o := conv.Speech()
	taught, known := spelling.Set{}, map[string]bool{}
	var split, doubled []string
	for i, c := range lib.Cards {
		p, err := spelling.ParsePair(conv.Accent, c.Pair)
		require.NoError(t, err)
		taught[p] = true
		set := conv.Known(taught)
		for _, w := range c.Exceptions {
			known[strings.ToLower(w)] = true
		}
		if p.Kind() == "split digraph" {
			split = append(split, c.Pair)
		}
		if p.Kind() == "doubled letter" {
			doubled = append(doubled, c.Pair)
		}
		full := card.Card{Step: i + 1, Pair: p, Content: c.Content}
		assert.Empty(t, full.FlaggedWords(o), "step %d, %s", i+1, c.Pair)
		for _, w := range c.Words {
			seg, err := o.Segment(w)
			require.NoError(t, err)
			assert.True(t, set.Covers(seg.Segments), "step %d, %s: %s needs %v", i+1, c.Pair, w, set.Untaught(seg.Segments))
		}
		for _, s := range c.Sentences {
			r := texts.Check(s, set, known, o)
			assert.True(t, r.Fits() || i < 4, "step %d, %s: %q %v %v", i+1, c.Pair, s, r.Untaught, r.Remarks)
			holds := slices.ContainsFunc(r.Tokens, func(tok texts.Token) bool {
				return slices.ContainsFunc(tok.Segments, func(g spelling.Segment) bool { return g.Pair == p })
			})
			assert.True(t, holds || i < 4, "step %d: %q does not hold %s", i+1, s, c.Pair)
		}
	}
	assert.NotEmpty(t, split, "split spellings are in the order")
	assert.Empty(t, doubled, "doubled letters are a convention, not cards")
}

// The demo's order is what the search for a better order finds (tools/order): no two that are mixed up are close, and a
// search that begins with it finds next to nothing.
func TestTheDemosOrderIsTheResultOfTheSearch(t *testing.T) {
	data, err := files.ReadFile("library.json")
	require.NoError(t, err)
	var lib library
	require.NoError(t, json.Unmarshal(data, &lib))
	conv := convention.Conventions{Accent: phoneme.SouthernBritish}
	ask := order.Ask{Weights: order.UsualWeights(), Keep: map[spelling.Pair]bool{}, Seed: 5, Rounds: 20_000}
	for i, c := range lib.Cards {
		p, err := spelling.ParsePair(conv.Accent, c.Pair)
		require.NoError(t, err)
		ask.Steps = append(ask.Steps, order.Step{Number: i + 1, Pair: p})
		ask.Keep[p] = i < 18
	}
	got, err := order.Improve(ask, conv.Speech())
	require.NoError(t, err)
	assert.Zero(t, got.Before.Clashes)
	assert.Less(
		t,
		float64(got.After.Sum()),
		1.005*float64(got.Before.Sum()),
		"%d, found %d",
		got.Before.Sum(),
		got.After.Sum(),
	)
	for _, f := range order.Check(ask.Steps, conv.Speech()).Findings {
		assert.NotEqual(t, "too-close", f.Code, f.Message)
	}
}
