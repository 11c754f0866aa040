package order

import (
	"slices"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

// Gain is what can be read from a point of an order on: familiar words in all, those of them with a picture, and the
// best of those that are new.
type Gain struct {
	Words    int      `json:"words" doc:"familiar words that can be read from then on, in all"`
	Pictures int      `json:"pictures" doc:"those of them that have a picture"`
	New      int      `json:"new" doc:"words that could not be read before"`
	Best     []string `json:"best" doc:"the best of the new ones"`
}

// Growth is the gain of each of several sets of what is taught, each of which holds the one before.
func Growth(taught []spelling.Set, o words.Options) []Gain {
	out := make([]Gain, len(taught))
	since := map[spelling.Pair]int{}
	for i := range slices.Backward(taught) {
		for p := range taught[i] {
			since[p] = i
		}
		out[i].Best = []string{}
	}
	pool := lexicon.For(o.Accent, o.Units)
	for _, item := range pool.Ranked {
		at, can := readableSince(item, since)
		if !can {
			continue
		}
		g := &out[at]
		g.New++
		if item.Picture {
			g.Pictures++
		}
		if len(g.Best) < bestWords && !item.Inflected() {
			g.Best = append(g.Best, item.Word)
		}
	}
	for i := 1; i < len(out); i++ {
		out[i].Pictures += out[i-1].Pictures
	}
	sum := 0
	for i := range out {
		sum += out[i].New
		out[i].Words = sum
	}
	return out
}

// counts tells whether a word counts in an order: familiar, fit for children and with one reading, without odd parts.
func counts(item *lexicon.Item) bool {
	return item.Familiarity >= familiar && !item.Unfit && len(item.Readings) == 1 &&
		!slices.ContainsFunc(item.Readings[0].Segments, func(s spelling.Segment) bool { return s.Odd })
}

func readableSince(item *lexicon.Item, since map[spelling.Pair]int) (int, bool) {
	if !counts(item) {
		return 0, false
	}
	last := 0
	for _, seg := range item.Readings[0].Segments {
		at, there := since[seg.Pair]
		if !there {
			return 0, false
		}
		last = max(last, at)
	}
	return last, true
}

// Clash is another pair that lies close: mixed up with it, or another spelling of its sound, or another sound of its
// spelling.
type Clash struct {
	Pair  spelling.Pair `json:"pair"`
	Apart int           `json:"apart" doc:"steps from it to this one; below zero where it comes later"`
	By    string        `json:"by" enum:"eye,ear,eye and ear,sound,spelling"`
	Close bool          `json:"close" doc:"fewer steps lie between them than should"`
}

// Kinds of clashes beside those of spelling.Mixing.
const (
	BySound    = "sound"    // two spellings of one sound
	BySpelling = "spelling" // two sounds of one spelling
)

// nearby is how many steps around a pair are looked at.
const nearby = 6

// Clashes are, for each step, the pairs around it that children may take for it, those that are mixed up first.
func Clashes(steps []Step) [][]Clash {
	out := make([][]Clash, len(steps))
	for i, s := range steps {
		out[i] = []Clash{}
		for k := max(0, i-nearby); k < min(len(steps), i+nearby+1); k++ {
			if c, is := clash(s.Pair, steps[k].Pair, i-k); is {
				out[i] = append(out[i], c)
			}
		}
	}
	return out
}

func clash(p, q spelling.Pair, apart int) (Clash, bool) {
	c := Clash{Pair: q, Apart: apart}
	distance := max(apart, -apart)
	switch by := spelling.MixedUpBy(p.Grapheme, q.Grapheme); {
	case apart == 0:
		return c, false
	case by != spelling.NotMixed:
		c.By, c.Close = string(by), distance <= tooClose
	case p.Sound == q.Sound:
		c.By, c.Close = BySound, distance <= kinApart
	case p.Grapheme == q.Grapheme:
		c.By, c.Close = BySpelling, distance <= kinApart
	default:
		return c, false
	}
	return c, true
}
