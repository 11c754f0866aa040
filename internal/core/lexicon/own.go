package lexicon

import (
	"cmp"
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// FromTeam is the source of a word that the team said how to say.
const FromTeam Source = "team"

// OwnWord is a word of a team's own: of its school, its place, its people. Sounds are in the accent of the team.
type OwnWord struct {
	Word   string // as it is written: a name with its capital
	Sounds []phoneme.Phoneme
	Name   bool
}

// ErrNoCut is the code of an own word whose sounds do not lie along its letters.
const ErrNoCut fault.Code = "no-cut"

// maxUnknownSounds is how many more sounds than letters a word may have: x has two.
const maxUnknownSounds = 2

// maxWays is how many ways to write sounds in lexical sets are tried.
const maxWays = 64

// Cut lays the sounds of an own word along its letters. Among the ways to do it that with the fewest odd letters wins.
// The error says that there is none.
func (w OwnWord) Cut(a phoneme.Accent, u spelling.Units) (Reading, error) {
	clean, _, err := spelling.Normalise(w.Word)
	if err != nil {
		return Reading{}, err
	}
	if n := len(w.Sounds); n == 0 || n > len(clean)+maxUnknownSounds {
		return Reading{}, fault.New(
			ErrNoCut,
			"%q is written with %d signs, but is said with %d; give its phonemes one after the other",
			w.Word,
			len(clean),
			n,
		)
	}
	key := strings.Join([]string{string(a), clean, phoneme.Join(w.Sounds)}, " ")
	if r, ok := ownCuts.get(key, u); ok {
		return r, nil
	}
	al := aligners.Get().(*spelling.Aligner)
	defer aligners.Put(al)
	var found []Reading
	for _, codes := range ways(a, w.Sounds) {
		if r := read(al, clean, codes, spelling.Cut{}, a, u); len(r.Segments) > 0 {
			found = append(found, r)
		}
	}
	if len(found) == 0 {
		return Reading{}, fault.New(
			ErrNoCut,
			"the sounds do not lie along the letters of %q: write a sound for each part of it",
			w.Word,
		)
	}
	best := slices.MinFunc(found, func(x, y Reading) int { return cmp.Compare(odd(x), odd(y)) })
	ownCuts.put(key, u, best)
	return best, nil
}

// odd counts the odd and the rare parts of a reading.
func odd(r Reading) int {
	n := 0
	for _, s := range r.Segments {
		if s.Odd || s.Rare {
			n++
		}
	}
	return n
}

// ways are the sounds written in the lexical sets that sound so in an accent.
func ways(a phoneme.Accent, sounds []phoneme.Phoneme) []string {
	out := []string{""}
	for _, p := range sounds {
		var next []string
		for _, before := range out {
			for _, code := range parseSets(a, p) {
				if len(next) < maxWays {
					next = append(next, before+string(code))
				}
			}
		}
		out = next
	}
	return out
}

// parseSets are the lexical sets that sound like p in an accent.
func parseSets(a phoneme.Accent, p phoneme.Phoneme) []byte {
	var out []byte
	for code := range 256 {
		if phoneme.KnownSet(byte(code)) &&
			slices.Equal(phoneme.Realise(a, string([]byte{byte(code)}), 0), []phoneme.Phoneme{p}) {
			out = append(out, byte(code))
		}
	}
	return out
}

// cuts keeps what was cut; when it is full it begins anew.
type cuts struct {
	mu   sync.Mutex
	kept map[cutKey]Reading
}

type cutKey struct {
	word  string
	units spelling.Units
}

const maxCuts = 2000

var ownCuts = &cuts{kept: map[cutKey]Reading{}}

func (c *cuts) get(word string, u spelling.Units) (Reading, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	r, ok := c.kept[cutKey{word, u}]
	return r, ok
}

func (c *cuts) put(word string, u spelling.Units, r Reading) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if len(c.kept) >= maxCuts {
		c.kept = map[cutKey]Reading{}
	}
	c.kept[cutKey{word, u}] = r
}

// own is a word of the team's own by how it is written, in small letters and without the ending of an owner.
func (s Speech) own(word string) (OwnWord, bool) {
	if len(s.Words) == 0 {
		return OwnWord{}, false
	}
	w, ok := s.Words[strings.ToLower(strings.ReplaceAll(word, "’", "'"))]
	return w, ok
}

// Named tells whether a word is a name of the team's own.
func (s Speech) Named(word string) bool {
	w, ok := s.own(word)
	return ok && w.Name
}

// Knows tells whether the lists or the team know a word in small letters, or the word that it is an inflection of.
func (s Speech) Knows(word string) bool {
	if _, ok := s.own(word); ok {
		return true
	}
	if _, listed := Find(word); listed || IsWord(word) {
		return true
	}
	codes, _ := parseForm(word, s.Accent, true, false)
	return codes != ""
}

// segmentOwn is Segment for a word of the team's own.
func (s Speech) segmentOwn(w OwnWord, word string) (Segmented, error) {
	r, err := w.Cut(s.Accent, s.Units)
	if err != nil {
		return Segmented{}, err
	}
	r.Segments = slices.Clone(r.Segments)
	if _, positions, err := spelling.Normalise(word); err == nil && len(positions) > 0 {
		moved(r.Segments, positions)
	}
	return Segmented{Word: word, Accent: s.Accent, Source: FromTeam, Reading: r, Alternatives: []Reading{}}, nil
}

// itemOwn is a word of the team's own as it is offered: as well known as any, since the children live with it.
func (s Speech) itemOwn(w OwnWord) (Item, bool) {
	r, err := w.Cut(s.Accent, s.Units)
	if err != nil || w.Name { // a name is no word to be read by its sounds alone: it has a capital
		return Item{}, false
	}
	small := strings.ToLower(w.Word)
	_, refused := s.Refuses(small)
	item := Item{
		Entry:    &Entry{Word: small, Familiarity: BestKnown, Parts: "n", Kinds: "T", Unfit: refused},
		Readings: []Reading{r}, Shape: Shape(r.Segments),
	}
	item.Syllables = strings.Count(item.Shape, "V")
	for _, seg := range r.Segments {
		item.Pairs = append(item.Pairs, seg.Pair)
	}
	item.Worth = worth(&item)
	return item, true
}
