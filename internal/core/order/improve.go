package order

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/core/words"
)

// ErrTwice is wrapped where a pair stands twice.
const ErrTwice fault.Code = "pair-twice"

// Weights say what matters in an order, each against the others; 0 is nothing. Readable words are what an order is for,
// so they weigh 1 of themselves.
type Weights struct {
	Pictures float64 `json:"pictures" doc:"words with a picture count so much more"`
	Alike    float64 `json:"alike" doc:"pairs that are mixed up and come close"`
	Sounds   float64 `json:"sounds" doc:"two spellings of one sound, or two sounds of one spelling, that come close"`
	Stretch  float64 `json:"stretch" doc:"sounds that can be held come first"`
	Writing  float64 `json:"writing" doc:"what is easy to write comes first, letters of one family of strokes together"`
	Vowels   float64 `json:"vowels" doc:"vowels are spread evenly"`
	Together float64 `json:"together" doc:"groups that belong together stay so"`
}

// UsualWeights are ours (common practice, no published source).
func UsualWeights() Weights {
	return Weights{Pictures: 0.5, Alike: 1, Sounds: 0.25, Stretch: 0.3, Writing: 0.3, Vowels: 0.2, Together: 0.5}
}

// Ask is what is to be improved. Keep are pairs that stay at their places; Groups come one after the other, each in
// places next to one another. Left says how much of the effort is left, from 1 to 0, and is asked again and again: a
// caller bounds the time, shows progress or gives up with it. Nil makes Rounds proposals.
type Ask struct {
	Steps   []Step
	Keep    map[spelling.Pair]bool
	Groups  [][]spelling.Pair
	Weights Weights
	Seed    uint64
	Rounds  int
	Left    func() float64
	// Found hears the readable words, summed over all steps, whenever a better order is found; nil for nobody.
	Found func(sum int)
}

// Outcome is what an order comes to: how many familiar words can be read after each step, and how many pairs that are
// mixed up lie too close.
type Outcome struct {
	Readable []int `json:"readable"`
	Clashes  int   `json:"clashes"`
}

// Sum of the words that can be read, over all steps.
func (o Outcome) Sum() int {
	sum := 0
	for _, n := range o.Readable {
		sum += n
	}
	return sum
}

// Move is a pair that has another place than before, and why.
type Move struct {
	Pair    string `json:"pair"`
	From    int    `json:"from"`
	To      int    `json:"to"`
	Because string `json:"because"`
}

// Improvement is a better order, or the same where none was found.
type Improvement struct {
	Order  []Step
	Before Outcome
	After  Outcome
	Moves  []Move
}

// search holds what is worked out once: the words as lists of pair numbers, and what each two pairs are to each other.
type search struct {
	ask    Ask
	pairs  []spelling.Pair
	words  [][]int16
	value  []float64
	holds  []int     // familiar words by pair
	mixed  [][]bool  // mixed up
	kin    [][]bool  // one sound, or one grapheme
	early  []float64 // what it is worth to come early, for itself
	vowel  []bool
	family []strokes.Family // of the strokes of a single letter; empty for groups
	locked []bool
	group  []int // -1: none
	worth  float64
}

// inflected is what a form such as pins or hopped is worth beside its stem: it is read, but nobody teaches for it.
const inflected = 0.3

// kinApart is how many steps should lie between two of one sound or one grapheme.
const kinApart = 2

// Improve looks for a better order of the same pairs by simulated annealing (Kirkpatrick, Gelatt and Vecchi 1983,
// "Optimization by simulated annealing"): swaps and shifts of pairs that are not kept, taken if they are better, or by
// a chance that shrinks. The same ask gives the same order unless Left depends on the clock. It fails where a pair
// stands twice.
func Improve(ask Ask, o words.Options) (Improvement, error) {
	s, err := prepare(ask, o)
	if err != nil {
		return Improvement{}, err
	}
	begin := make([]int, len(s.pairs)) // place → pair
	for i := range begin {
		begin[i] = i
	}
	best := s.anneal(begin)
	out := Improvement{Before: s.outcome(begin), After: s.outcome(best), Moves: []Move{}}
	for place, p := range best {
		out.Order = append(out.Order, Step{ask.Steps[place].Number, s.pairs[p]})
		if place != p {
			out.Moves = append(out.Moves, Move{
				s.pairs[p].String(), ask.Steps[p].Number, ask.Steps[place].Number, s.because(begin, best, p, place),
			})
		}
	}
	return out, nil
}

func prepare(ask Ask, o words.Options) (*search, error) {
	s := &search{ask: ask}
	number := map[spelling.Pair]int{}
	for _, k := range ask.Steps {
		if _, twice := number[k.Pair]; twice {
			return nil, fault.New(ErrTwice, "%s stands twice in the order", k.Pair)
		}
		number[k.Pair] = len(s.pairs)
		s.pairs = append(s.pairs, k.Pair)
	}
	for i, p := range s.pairs { // doubled letters are read as the single ones
		for double := range (spelling.Set{p: true}).WithDoubles(o.Accent) {
			if _, own := number[double]; !own {
				number[double] = i
			}
		}
	}
	n := len(s.pairs)
	s.holds, s.early, s.vowel, s.locked = make([]int, n), make([]float64, n), make([]bool, n), make([]bool, n)
	pool := lexicon.For(o.Accent, o.Units)
	for i := range pool.Items {
		s.add(&pool.Items[i], number)
	}
	s.mixed, s.kin, s.family = table(n), table(n), make([]strokes.Family, n)
	s.group = make([]int, n)
	for i, p := range s.pairs {
		s.locked[i], s.group[i] = ask.Keep[p], -1
		for g, list := range ask.Groups {
			if slices.Contains(list, p) {
				s.group[i] = g
			}
		}
		for k, q := range s.pairs {
			s.mixed[i][k] = i != k && spelling.MixedUp(p.Grapheme, q.Grapheme)
			s.kin[i][k] = i != k && (p.Sound == q.Sound || p.Grapheme == q.Grapheme)
		}
		if sounds, err := phoneme.Parse(o.Accent, p.Sound); err == nil && len(sounds) > 0 {
			s.vowel[i] = phoneme.IsVowel(sounds[0])
			if x, ok := phoneme.Lookup(o.Accent, sounds[0]); ok && x.Stretchable {
				s.early[i] += ask.Weights.Stretch
			}
		}
		if l, ok := strokes.Of(p.Grapheme); ok && p.Letters() == 1 {
			s.early[i] += ask.Weights.Writing * ease(l)
			s.family[i] = l.Family
		}
	}
	return s, nil
}

// ease is how easy a letter is to write, from 0 to 1: one line is easiest, each further stroke and each further piece
// of one is harder (common practice, no published source).
func ease(l strokes.Letter) float64 {
	pieces := 0
	for _, k := range l.Strokes {
		pieces += len(k.Segments)
	}
	return 1 / (1 + 0.3*float64(len(l.Strokes)-1) + 0.15*float64(max(0, pieces-1)))
}

func table(n int) [][]bool {
	out := make([][]bool, n)
	for i := range out {
		out[i] = make([]bool, n)
	}
	return out
}

// add takes a familiar word that the whole order makes readable.
func (s *search) add(item *lexicon.Item, number map[spelling.Pair]int) {
	if !counts(item) {
		return
	}
	var word []int16
	for _, seg := range item.Readings[0].Segments {
		i, there := number[seg.Pair]
		if !there {
			return
		}
		if !slices.Contains(word, int16(i)) { //nolint:gosec // an order has a hundred steps or so
			word = append(word, int16(i)) //nolint:gosec // see above
		}
	}
	for _, i := range word {
		s.holds[i]++
	}
	v := 1 / float64(max(1, item.Syllables)) // who begins to read begins with short words
	if item.Inflected() {
		v *= inflected
	}
	if item.Picture {
		v += s.ask.Weights.Pictures
	}
	s.words, s.value = append(s.words, word), append(s.value, v)
	s.worth += v
}

// anneal returns places → pairs.
func (s *search) anneal(begin []int) []int {
	r := rand.New(rand.NewPCG(s.ask.Seed, 17))
	free := []int{} // places that may change
	for place, p := range begin {
		if !s.locked[p] {
			free = append(free, place)
		}
	}
	if len(free) < 2 {
		return begin
	}
	left := s.ask.Left
	if left == nil {
		done, all := 0, max(1, s.ask.Rounds/asksEvery)
		left = func() float64 { done++; return 1 - float64(done)/float64(all) }
	}
	now, place := slices.Clone(begin), make([]int, len(begin))
	score := s.score(now, place)
	best, bestScore := slices.Clone(now), score
	for heat := left(); heat > 0; heat = left() {
		temperature, better := hottest*heat*heat, false
		for range asksEvery {
			next := propose(now, free, r)
			got := s.score(next, place)
			if got > score || r.Float64() < math.Exp((got-score)/temperature) {
				now, score = next, got
				if got > bestScore {
					best, bestScore = slices.Clone(now), got
					better = true
				}
			}
		}
		if better && s.ask.Found != nil {
			s.ask.Found(s.outcome(best).Sum())
		}
	}
	return best
}

const (
	asksEvery = 64
	hottest   = 0.001 // of a score of which a swap of neighbours changes about as much
)

// propose swaps two free places, or takes one out and puts it in elsewhere among the free ones.
func propose(now, free []int, r *rand.Rand) []int {
	next := slices.Clone(now)
	i, k := r.IntN(len(free)), r.IntN(len(free))
	if r.IntN(2) == 0 {
		next[free[i]], next[free[k]] = next[free[k]], next[free[i]]
		return next
	}
	moved := next[free[i]]
	for ; i < k; i++ {
		next[free[i]] = next[free[i+1]]
	}
	for ; i > k; i-- {
		next[free[i]] = next[free[i-1]]
	}
	next[free[k]] = moved
	return next
}

// score is how good an order is: the share of all words that can be read on an average step, less what stands in the
// way. place is scratch.
func (s *search) score(order, place []int) float64 {
	n := float64(len(order))
	for at, p := range order {
		place[p] = at
	}
	sum := 0.0
	for i, w := range s.words {
		last := 0
		for _, p := range w {
			last = max(last, place[p])
		}
		sum += s.value[i] * (n - float64(last))
	}
	score := sum / (n * max(1, s.worth))
	w := s.ask.Weights
	sinceVowel := 0
	for at, p := range order {
		for k := max(0, at-tooClose); k < at; k++ {
			q := order[k]
			if s.mixed[p][q] {
				score -= 0.05 * w.Alike
			}
			if s.kin[p][q] && at-k <= kinApart {
				score -= 0.01 * w.Sounds
			}
			if s.family[p] != "" && s.family[p] == s.family[q] && !s.mixed[p][q] {
				score += 0.0005 * w.Writing // the hand makes the same movement again
			}
		}
		score += 0.02 * s.early[p] * math.Exp(-float64(at)/14) / 10
		if sinceVowel++; s.vowel[p] {
			sinceVowel = 0
		} else if sinceVowel > maxConsonants {
			score -= 0.004 * w.Vowels
		}
	}
	return score - 0.02*w.Together*s.torn(order)
}

// maxConsonants may come one after the other before a vowel is missed.
const maxConsonants = 3

// torn counts the steps that lie between members of groups.
func (s *search) torn(order []int) float64 {
	if len(s.ask.Groups) == 0 {
		return 0
	}
	first, last := map[int]int{}, map[int]int{}
	for at, p := range order {
		if g := s.group[p]; g >= 0 {
			if _, seen := first[g]; !seen {
				first[g] = at
			}
			last[g] = at
		}
	}
	out := 0.0
	for g, at := range first {
		out += float64(last[g] - at + 1 - len(s.ask.Groups[g]))
	}
	return out
}

func (s *search) outcome(order []int) Outcome {
	place := make([]int, len(order))
	for at, p := range order {
		place[p] = at
	}
	out := Outcome{Readable: make([]int, len(order)), Clashes: len(s.clashes(order))}
	for _, w := range s.words {
		last := 0
		for _, p := range w {
			last = max(last, place[p])
		}
		out.Readable[last]++
	}
	for i := 1; i < len(order); i++ {
		out.Readable[i] += out.Readable[i-1]
	}
	return out
}

// clashes are pairs that are mixed up and have too few steps between them.
func (s *search) clashes(order []int) [][2]int {
	var out [][2]int
	for at, p := range order {
		for k := max(0, at-tooClose); k < at; k++ {
			if s.mixed[p][order[k]] {
				out = append(out, [2]int{p, order[k]})
			}
		}
	}
	return out
}

// because says why a pair has another place.
func (s *search) because(before, after []int, p, place int) string {
	for _, c := range s.clashes(before) {
		if other := c[0] + c[1] - p; (c[0] == p || c[1] == p) && !slices.Contains(s.clashes(after), c) {
			return fmt.Sprintf("it is mixed up with %s, and more steps lie between them now", s.pairs[other].Grapheme)
		}
	}
	waiting := 0
	set := make([]bool, len(after))
	for at := range place + 1 {
		set[after[at]] = true
	}
	for _, w := range s.words {
		if slices.Contains(w, int16(p)) &&
			!slices.ContainsFunc(w, func(q int16) bool { return !set[q] }) { //nolint:gosec // see add
			waiting++
		}
	}
	from := slices.Index(before, p)
	switch {
	case place < from:
		return fmt.Sprintf("%d familiar words can be read with it at once; it is in %d", waiting, s.holds[p])
	case s.holds[p] == 0:
		return "no familiar word of this order needs it"
	}
	return fmt.Sprintf("it is in %d familiar words; others open more sooner", s.holds[p])
}
