package assembly

import (
	"cmp"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/words"
)

const (
	revised     = 6 // targets of a revision by need
	caughtUp    = 1 // of a group
	travelling  = 16
	older       = 14
	maxSounds   = 5
	easySounds  = 4
	knownWords  = 3 // how well children know a word: met in books, known to most, well known, known to every child
	recentPairs = 9
)

// byNeed are the cards that a lesson without named targets is about: the shakiest, then those met last.
func byNeed(in Input) []card.Card {
	n := caughtUp
	if in.Purpose == lesson.Revise {
		n = revised
	}
	picks, _ := review.Choose(in.Class.Log(), len(in.Class.Met), in.Now, step.Chance(in.Seed, "need"))
	var out []card.Card
	for _, p := range picks {
		if k, ok := in.Class.Find(p.CardID); ok && len(out) < n && k.Seen.Sure <= review.Shaky {
			out = append(out, k.Card)
		}
	}
	for i := len(in.Class.Met) - 1; i >= 0 && len(out) < n; i-- {
		c := in.Class.Met[i].Card
		if !slices.ContainsFunc(out, func(o card.Card) bool { return o.ID == c.ID }) {
			out = append(out, c)
		}
	}
	return out
}

// candidate is a word with what the mix of a list looks at.
type candidate struct {
	step.Word
	stem, rhyme string
	vowel       phoneme.Phoneme
	worth       float64
}

// travel are the words that go through the lesson: those of the cards first, then the best of the finder, each target
// in turn, mixed by place of the sound, vowel and length, one of a family, no two rhymes in a row.
func (a *assembler) travel(meet map[string]bool) []step.Word {
	var lists [][]candidate
	for _, t := range a.Targets {
		list := a.withPair(t)
		for i := range list {
			if meet[list[i].Value] {
				list[i].worth += meetGain
			}
		}
		lists = append(lists, list)
	}
	var out []step.Word
	stems, last := map[string]bool{}, ""
	vowels, places := map[phoneme.Phoneme]int{}, map[string]int{}
	for len(out) < travelling {
		added := false
		for i := range lists {
			best := pick(lists[i], stems, last, vowels, places, len(out) < travelling/2)
			if best < 0 || len(out) == travelling {
				continue
			}
			c := lists[i][best]
			lists[i] = slices.Delete(lists[i], best, best+1)
			stems[c.stem], last, added = true, c.rhyme, true
			vowels[c.vowel]++
			places[c.Position]++
			out = append(out, c.Word)
		}
		if !added {
			break
		}
	}
	return out
}

// meetGain is how much sooner a word comes that stands in the sentence or the page.
const meetGain = 14

// pick is the best candidate less what makes the list alike; -1 where none is left.
func pick(
	list []candidate,
	stems map[string]bool,
	rhyme string,
	vowels map[phoneme.Phoneme]int,
	places map[string]int,
	early bool,
) int {
	best, top := -1, 0.0
	for i, c := range list {
		if stems[c.stem] {
			continue
		}
		worth := c.worth - 3*float64(vowels[c.vowel]) - 2*float64(places[c.Position])
		if c.rhyme == rhyme {
			worth -= 12
		}
		if early && c.Sounds > easySounds {
			worth -= 25
		}
		if best < 0 || worth > top {
			best, top = i, worth
		}
	}
	return best
}

// withPair are the words of a card that can be read, then what the finder offers, with their worth.
func (a *assembler) withPair(t card.Card) []candidate {
	pool := lexicon.For(a.Conventions.Accent, a.Conventions.Units)
	rng := step.Chance(a.Seed, "words "+t.Pair.String())
	out := a.ofCard(t)
	own := len(out)
	q := words.Query{
		Taught: a.known.Pairs, Target: &t.Pair, Exclude: a.refused(t), MinSounds: 2, MaxSounds: maxSounds, Limit: 48,
		Familiarity: knownWords,
	}
	found := words.Find(q, a.speech)
	if len(found)+own < 4 {
		q.Familiarity, q.MaxSounds = 0, 6
		found = words.Find(q, a.speech)
	}
	for i, c := range found {
		if slices.ContainsFunc(out[:own], func(k candidate) bool { return k.Value == c.Word }) {
			continue
		}
		w := step.Word{
			Value: c.Word, Sounds: c.Sounds, Segments: c.Segments, Role: lesson.TargetRole, Position: place(c.Positions),
			Origin: lesson.FromFinder, Because: lesson.Reason{Code: "readable", Text: c.Because},
		}
		// Rank by the finder, with a little chance, so that two classes with the same knowledge do not always read the same.
		out = append(out, a.candidate(pool, w, -float64(i)-3*rng.Float64()+3*float64(c.Familiarity)))
	}
	return out
}

func place(at []words.Position) string {
	if len(at) == 0 {
		return ""
	}
	return string(at[0])
}

func (a *assembler) candidate(pool *lexicon.Pool, w step.Word, worth float64) candidate {
	c := candidate{Word: w, stem: w.Value, worth: worth}
	if it, ok := pool.Find(w.Value); ok {
		c.stem = cmp.Or(it.Stem, it.Word)
		if it.Kinds == smallWord {
			c.worth -= smallLoss
		}
	}
	for i, s := range slices.Backward(w.Segments) {
		if len(s.Phonemes) > 0 && phoneme.IsVowel(s.Phonemes[0]) {
			c.vowel = s.Phonemes[0]
			for _, r := range w.Segments[i:] {
				c.rhyme += phoneme.Join(r.Phonemes) + " "
			}
			break
		}
	}
	return c
}

// Small words (an, its, of) come after words that mean something.
const (
	smallWord = "O"
	smallLoss = 6
)

// cardGain is how much a word of the team's card comes before the finder's.
const cardGain = 40

// ofCard are the card's words that the class can read, in the order of the card; flagged and refused ones are left out.
func (a *assembler) ofCard(t card.Card) []candidate {
	pool := lexicon.For(a.Conventions.Accent, a.Conventions.Units)
	flagged := map[string]bool{}
	for _, f := range t.FlaggedWords(a.speech) {
		flagged[f.Word] = true
	}
	refused := a.refused(t)
	rng := step.Chance(a.Seed, "card "+t.Pair.String())
	var out []candidate
	for i, w := range t.Words {
		seg, err := a.speech.Segment(w)
		if err != nil || flagged[strings.ToLower(w)] || refused[w] || !a.known.Reads(seg) {
			continue
		}
		at := step.Word{
			Value: w, Sounds: seg.Sounds, Segments: seg.Segments, Role: lesson.TargetRole,
			Position: position(seg.Segments, t.Pair), Origin: lesson.FromCard,
			Because: lesson.Reason{Code: "card", Text: "on the team's card"},
		}
		out = append(out, a.candidate(pool, at, cardGain-0.5*float64(i)-4*rng.Float64()))
	}
	return out
}

func position(segments []spelling.Segment, p spelling.Pair) string {
	for i, s := range segments {
		switch {
		case s.Pair != p:
		case i == 0:
			return string(words.Initial)
		case i == len(segments)-1:
			return string(words.Final)
		default:
			return string(words.Medial)
		}
	}
	return ""
}

// refused are the words that the team refused, on this card or on another.
func (a *assembler) refused(t card.Card) map[string]bool {
	if len(t.Rejected) == 0 {
		return a.known.Refused
	}
	out := map[string]bool{}
	for w := range a.known.Refused {
		out[w] = true
	}
	for _, w := range t.Rejected {
		out[w] = true
	}
	return out
}

// olderWords hold what was met lately or is shaky, and none of the targets.
func (a *assembler) olderWords() []step.Word {
	pool := lexicon.For(a.Conventions.Accent, a.Conventions.Units)
	pairs := a.Input.Class.Met
	due := slices.Clone(pairs)
	slices.Reverse(due) // the latest first; the shaky before them
	slices.SortStableFunc(due, func(x, y knownCards) int { return cmp.Compare(shaky(y), shaky(x)) })
	taught := a.Class.Pairs
	var out []step.Word
	stems := map[string]bool{}
	vowels, last := map[phoneme.Phoneme]int{}, ""
	per := 2
	for _, k := range due[:min(len(due), recentPairs)] {
		if !k.Readable || a.isTarget(k.Card.ID) {
			continue
		}
		p := k.Card.Pair
		q := words.Query{
			Taught: taught, Target: &p, Exclude: a.known.Refused, MinSounds: 2, MaxSounds: easySounds, Limit: 12,
			Familiarity: knownWords,
		}
		var list []candidate
		rng := step.Chance(a.Seed, "older "+p.String())
		for i, c := range words.Find(q, a.speech) {
			if a.holdsTarget(c.Segments) {
				continue
			}
			w := step.Word{
				Value: c.Word, Sounds: c.Sounds, Segments: c.Segments, Role: lesson.OlderRole, Position: place(c.Positions),
				Origin:  lesson.FromLog,
				Because: lesson.Reason{Code: "older", Text: "keeps " + p.Grapheme + " going, " + metWhen(k, a.Now)},
			}
			list = append(list, a.candidate(pool, w, -float64(i)-5*rng.Float64()+3*float64(c.Familiarity)))
		}
		for range per {
			best := pick(list, stems, last, vowels, map[string]int{}, true)
			if best < 0 || len(out) == older {
				break
			}
			c := list[best]
			stems[c.stem], last = true, c.rhyme
			vowels[c.vowel]++
			out = append(out, c.Word)
		}
	}
	return interleave(out, per)
}

// interleave parts the words of one pair from each other.
func interleave(list []step.Word, per int) []step.Word {
	var out []step.Word
	for k := range per {
		for i := k; i < len(list); i += per {
			out = append(out, list[i])
		}
	}
	return out
}

func (a *assembler) isTarget(id string) bool {
	return slices.ContainsFunc(a.Targets, func(t card.Card) bool { return t.ID == id })
}

func (a *assembler) holdsTarget(segments []spelling.Segment) bool {
	return slices.ContainsFunc(a.Targets, func(t card.Card) bool { return spelling.Holds(segments, t.Pair) })
}

// noWords says truly why nothing can be read.
func (a *assembler) noWords() *fault.Fault {
	n := len(a.Class.Pairs)
	if n == 0 {
		return fault.New("no-words", "the class knows nothing to put with this sound yet")
	}
	return fault.New("no-words", "no word that children know can be read with what is taught so far")
}
