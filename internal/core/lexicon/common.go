package lexicon

import (
	"cmp"
	"slices"
	"sync"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// RowUse tells how common a pair is in the lexicon. Types counts words; Weighted is the share, 0 to 1, of the
// grapheme's words that have this sound, each word weighted by how well it is known. Start, Middle and End
// are shares of the pair's places.
type RowUse struct {
	spelling.Row
	Types    int      `json:"types"`
	Weighted float64  `json:"weighted"`
	OfSound  float64  `json:"of_sound"` // share of the sound's places that are spelled so, weighted
	Start    float64  `json:"start"`
	Middle   float64  `json:"middle"`
	End      float64  `json:"end"`
	Examples []string `json:"examples"` // up to three, the best known first
}

type useKey struct {
	accent phoneme.Accent
	units  spelling.Units
}

var (
	useLock sync.Mutex
	uses    = map[useKey][]RowUse{}
)

// Table lists the rows of the spelling table that occur in the accent, with their use in the lexicon, by
// grapheme and then the most common sound first. Rows without a word of the lexicon have Types 0. Callers
// only read it.
func Table(a phoneme.Accent, u spelling.Units) []RowUse {
	pool := For(a, u)
	useLock.Lock()
	defer useLock.Unlock()
	key := useKey{a, u}
	if t, ok := uses[key]; ok {
		return t
	}
	type tally struct {
		start, middle, end int
		weight             float64
		words              []*Item
	}
	tallies := map[spelling.Pair]*tally{}
	graphemes, sounds := map[string]float64{}, map[string]float64{}
	for i := range pool.Items {
		item := &pool.Items[i]
		weight := float64(1 + item.Familiarity*item.Familiarity)
		last := len(item.Readings[0].Segments) - 1
		for k, s := range item.Readings[0].Segments {
			if s.Odd {
				continue
			}
			t := tallies[s.Pair]
			if t == nil {
				t = &tally{}
				tallies[s.Pair] = t
			}
			switch k {
			case 0:
				t.start++
			case last:
				t.end++
			default:
				t.middle++
			}
			t.weight += weight
			graphemes[s.Grapheme] += weight
			sounds[s.Pair.Sound] += weight
			if n := len(t.words); n == 0 || t.words[n-1] != item {
				t.words = append(t.words, item)
			}
		}
	}
	var out []RowUse
	for _, row := range spelling.Table(a) {
		use := RowUse{Row: row, Examples: []string{}}
		if t := tallies[row.Pair]; t != nil {
			places := float64(t.start + t.middle + t.end)
			use.Types, use.Weighted, use.OfSound = len(t.words), t.weight/graphemes[row.Grapheme], t.weight/sounds[row.Sound]
			use.Start, use.Middle, use.End = float64(t.start)/places, float64(t.middle)/places, float64(t.end)/places
			slices.SortStableFunc(t.words, func(x, y *Item) int {
				if c := cmp.Compare(y.Familiarity, x.Familiarity); c != 0 {
					return c
				}
				return cmp.Compare(len(x.Word)-min(8, x.Rank/20), len(y.Word)-min(8, y.Rank/20))
			})
			for _, item := range t.words[:min(3, len(t.words))] {
				use.Examples = append(use.Examples, item.Word)
			}
		}
		out = append(out, use)
	}
	slices.SortStableFunc(out, func(x, y RowUse) int {
		if c := cmp.Compare(x.Grapheme, y.Grapheme); c != 0 {
			return c
		}
		return cmp.Compare(y.Weighted, x.Weighted)
	})
	uses[key] = out
	return out
}
