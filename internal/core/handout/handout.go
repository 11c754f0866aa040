// Package handout decides what the printed sheets of a lesson hold: which words and pictures, on which side, in which
// order, how many, and what each thing is called. The package render draws what it says and decides nothing.
package handout

import (
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
)

// Handout is a lesson as its sheets see it. It is for one goroutine.
type Handout struct {
	Lesson  lesson.Lesson
	Targets []Target
	speech  lexicon.Speech
	refused map[string]bool
	things  map[string]things // by card id, as far as they were asked for
}

// Target is a sound of the lesson. Keyword is the card's, or a word by rule; it may be empty. Label tells the targets
// of the lesson apart: "th, thumb".
type Target struct {
	lesson.CardFace
	Keyword string
	Label   string
}

// Options are what a team agreed: how it speaks, with its own pictures, and which words it refused.
type Options struct {
	Speech  lexicon.Speech
	Refused map[string]bool
}

// New reads a lesson with the conventions of its team. The accent is the one in which the lesson was made.
func New(l lesson.Lesson, o Options) Handout {
	speech := o.Speech
	if l.Accent != "" {
		speech.Accent = l.Accent
	}
	h := Handout{Lesson: l, speech: speech, refused: o.Refused, things: map[string]things{}}
	for _, f := range l.Faces() {
		t := Target{CardFace: f, Keyword: script.Keyword(speech, f.Pair, f.Keyword)}
		t.Label = f.Pair.Grapheme
		if t.Keyword != "" {
			t.Label += ", " + t.Keyword
		}
		if slices.ContainsFunc(h.Targets, func(o Target) bool { return o.Label == t.Label }) {
			t.Label = f.Pair.Grapheme + ", " + script.Sound(f.Pair)
		}
		h.Targets = append(h.Targets, t)
	}
	return h
}

// Named is the target as people read it: "ai as in rain".
func (t Target) Named() string {
	if t.Keyword == "" {
		return t.Pair.Grapheme
	}
	return t.Pair.Grapheme + " as in " + t.Keyword
}

// Heading says what the lesson is to a family or a class.
func (h Handout) Heading() string {
	several := len(h.Targets) > 1
	pick := func(one, more string) string {
		if several {
			return more
		}
		return one
	}
	switch h.Lesson.Purpose {
	case lesson.Introduce:
		return pick("Our new sound", "Our new sounds")
	case lesson.Again:
		return pick("Our sound again", "Our sounds again")
	case lesson.Compare:
		if several && h.oneSound() {
			return "One sound, more than one spelling"
		}
		return pick("Our sound", "Sounds that we tell apart")
	case lesson.CatchUp:
		return pick("Our sound once more", "Our sounds once more")
	}
	return pick("A sound that we practise", "Sounds that we practise")
}

func (h Handout) oneSound() bool {
	for _, t := range h.Targets {
		if t.Pair.Sound != h.Targets[0].Pair.Sound {
			return false
		}
	}
	return true
}

// needs are the sheets that the steps of a lesson call for, by kind.
var needs = map[lesson.Kind][]string{
	lesson.Hand: {
		"practice",
	},
	lesson.Capitals:   {"capitals"},
	lesson.Ear:        {"sorting", "quarters"},
	lesson.Spell:      {"frames"},
	lesson.Contrast:   {"sort-words"},
	lesson.Sentence:   {"pieces"},
	lesson.Read:       {"words"},
	lesson.LetterHunt: {"hunt"},
	lesson.Page:       {"page"},
}

// Needs tells whether the lesson cannot be held without a sheet: the plan, what a step lays on the table or reads from,
// and what goes home. Labels, boxes to fold and books are made once and are not among them.
func (h Handout) Needs(sheet string) bool {
	if sheet == "plan" || sheet == "home" {
		return true
	}
	return slices.ContainsFunc(h.Lesson.Steps, func(s lesson.Step) bool {
		return slices.Contains(needs[s.Kind], sheet) ||
			s.Kind == lesson.WordPlay && s.Way == "compound" && sheet == "compounds"
	})
}

// Graphemes are the spellings of the targets, each once.
func (h Handout) Graphemes() []string {
	var out []string
	for _, t := range h.Targets {
		if !slices.Contains(out, t.Pair.Grapheme) {
			out = append(out, t.Pair.Grapheme)
		}
	}
	return out
}

// Bits are the graphemes of a word as it stands in a text, with its capital or its stop; nil where it cannot be cut.
func (h Handout) Bits(token string) (word string, bits []spelling.Bit) {
	word = strings.Trim(token, ".,!?;:“”‘’\"'()–—")
	if bits, ok := h.Lesson.WordBits[word]; ok {
		return word, bits
	}
	if bits, ok := h.Lesson.WordBits[strings.ToLower(word)]; ok {
		return word, bits
	}
	seg, err := h.speech.Segment(word)
	if err != nil {
		return word, nil
	}
	for _, s := range seg.Segments {
		bits = append(bits, spelling.Bit{Letters: s.Letters, Grapheme: s.Pair.Grapheme, Sound: s.Pair.Sound})
	}
	return word, bits
}

// Holds tells how often a word has the target: its spelling with its sound.
func (h Handout) Holds(token string, t Target) int {
	_, bits := h.Bits(token)
	n := 0
	for _, b := range bits {
		if b.Grapheme == t.Pair.Grapheme && b.Sound == t.Pair.Sound {
			n++
		}
	}
	return n
}

// items are those of a kind in all steps of a kind.
func (h Handout) items(step lesson.Kind, kind lesson.ItemKind) []lesson.Item {
	var out []lesson.Item
	for _, s := range h.Lesson.Steps {
		for _, it := range s.Items {
			if s.Kind == step && it.Kind == kind {
				out = append(out, it)
			}
		}
	}
	return out
}

func values(items []lesson.Item) []string {
	var out []string
	for _, it := range items {
		if !slices.Contains(out, it.Value) {
			out = append(out, it.Value)
		}
	}
	return out
}

// Side is one side of a sorting game. Card is empty for the side of all that does not belong.
type Side struct {
	Card    string
	Head    string // for children: the spelling, or yes and no
	Label   string // for the adult: "th, thumb", or "no"
	Keyword string
}

// Sorting is a game: things, each with its side, in the order in which they are played.
type Sorting struct {
	Title string
	Sides []Side
	Items []SortItem
}

// SortItem is a picture or a word with its side.
type SortItem struct {
	Word string
	Side int
}

// Of are the things of a side.
func (s Sorting) Of(side int) []string {
	var out []string
	for _, it := range s.Items {
		if it.Side == side {
			out = append(out, it.Word)
		}
	}
	return out
}

func (h Handout) targetSides() []Side {
	var out []Side
	for _, t := range h.Targets {
		head := t.Pair.Grapheme
		if slices.ContainsFunc(h.Targets, func(o Target) bool { return o.ID != t.ID && o.Pair.Grapheme == head }) {
			head = t.Label // the spelling alone would stand twice
		}
		out = append(out, Side{t.ID, head, t.Label, t.Keyword})
	}
	return out
}

// shuffled mixes a game so that the order tells nothing; the same lesson gives the same order.
func (h Handout) shuffled(items []SortItem, purpose uint64) []SortItem {
	out := slices.Clone(items)
	rng := rand.New(rand.NewPCG(h.Lesson.Seed, purpose))
	rng.Shuffle(len(out), func(i, j int) { out[i], out[j] = out[j], out[i] })
	return out
}

// Pictures are the games with pictures to sort, one for each ear step that has some.
func (h Handout) Pictures() []Sorting {
	var out []Sorting
	for i, s := range h.Lesson.Steps {
		if s.Kind != lesson.Ear {
			continue
		}
		game := h.pictureGame(s)
		if len(game.Items) < 2 {
			continue
		}
		game.Items = h.shuffled(game.Items, uint64(100+i))
		out = append(out, game)
	}
	return out
}

func (h Handout) pictureGame(s lesson.Step) Sorting {
	var game Sorting
	if len(h.Targets) == 0 {
		return game
	}
	yes := func(it lesson.Item) bool { return it.Basket == lesson.Has || it.Basket == lesson.HasNot }
	if slices.ContainsFunc(s.Items, yes) {
		t := h.Targets[0]
		game.Title = "Which have " + t.Named() + "?"
		game.Sides = []Side{{t.ID, t.Pair.Grapheme, t.Label, t.Keyword}, {"", "no", "no", ""}}
		for _, it := range s.Items {
			switch {
			case it.Kind != lesson.PictureItem || !yes(it):
			case it.Basket == lesson.Has:
				game.Items = append(game.Items, SortItem{it.Value, 0})
			default:
				game.Items = append(game.Items, SortItem{it.Value, 1})
			}
		}
		return game
	}
	game.Title, game.Sides = "Which card does it go to?", h.targetSides()
	for _, it := range s.Items {
		if it.Kind != lesson.PictureItem || it.Basket != "" {
			continue
		}
		if side := h.side(it); side >= 0 {
			game.Items = append(game.Items, SortItem{it.Value, side})
		}
	}
	return game
}

// side is the target whose sound a picture has, -1 where that is not one alone.
func (h Handout) side(it lesson.Item) int {
	found := -1
	sounds := h.speech.Sounds(it.Value)
	for i, t := range h.Targets {
		if it.Detail == script.Sound(t.Pair) {
			return i
		}
		if slices.Contains(sounds, phoneme.Phoneme(t.Pair.Sound)) {
			if found >= 0 {
				return -1
			}
			found = i
		}
	}
	return found
}

// WordSort is the game with words to cut: those of a contrast, or else words with the spelling and without it. Its
// sides hold as many words each, at most maxWords and at least three.
func (h Handout) WordSort(maxWords int) (Sorting, bool) {
	for _, s := range h.Lesson.Steps {
		if s.Kind != lesson.Contrast || len(h.Targets) < 2 {
			continue
		}
		game := Sorting{Title: "Read and sort", Sides: h.targetSides()[:2]}
		for _, it := range s.Items {
			switch {
			case it.Kind != lesson.WordItem:
			case it.Basket == lesson.Has:
				game.Items = append(game.Items, SortItem{it.Value, 0})
			case it.Basket == lesson.HasNot:
				game.Items = append(game.Items, SortItem{it.Value, 1})
			}
		}
		if even, ok := h.even(game, maxWords); ok {
			return even, true
		}
	}
	if len(h.Targets) > 1 { // words of the lesson, each with one target alone
		game := Sorting{Title: "Read and sort", Sides: h.targetSides()[:min(4, len(h.Targets))]}
		for _, r := range h.Rings() {
			for _, w := range r.Words {
				if side := h.onlyTarget(w.Word); side >= 0 && side < len(game.Sides) && len(w.Letters) > 0 {
					game.Items = append(game.Items, SortItem{w.Word, side})
				}
			}
		}
		if even, ok := h.even(game, maxWords); ok {
			return even, true
		}
	}
	for _, r := range h.Rings() {
		t := r.Target
		game := Sorting{Title: "Read and sort", Sides: []Side{
			{t.ID, t.Pair.Grapheme, t.Label, t.Keyword}, {"", "not " + t.Pair.Grapheme, "not " + t.Pair.Grapheme, ""},
		}}
		for _, w := range r.Words {
			side := 1
			if len(w.Letters) > 0 {
				side = 0
			}
			game.Items = append(game.Items, SortItem{w.Word, side})
		}
		if even, ok := h.even(game, maxWords); ok {
			return even, true
		}
	}
	return Sorting{}, false
}

// onlyTarget is the one target that a word has, -1 where it has none or several.
func (h Handout) onlyTarget(word string) int {
	found := -1
	for i, t := range h.Targets {
		if h.Holds(word, t) == 0 {
			continue
		}
		if found >= 0 {
			return -1
		}
		found = i
	}
	return found
}

// even cuts a game to sides of the same size and mixes it.
func (h Handout) even(game Sorting, maxWords int) (Sorting, bool) {
	const minWords = 3
	n := maxWords
	for i := range game.Sides {
		n = min(n, len(slices.Compact(slices.Sorted(slices.Values(game.Of(i))))))
	}
	if n < minWords {
		return game, false
	}
	var kept []SortItem
	count := make([]int, len(game.Sides))
	for _, it := range game.Items {
		if count[it.Side] < n && !slices.Contains(kept, it) {
			count[it.Side]++
			kept = append(kept, it)
		}
	}
	game.Items = h.shuffled(kept, 200)
	return game, true
}

// Quarters are the pictures of first or last with the target that is listened for.
type Quarters struct {
	Target Target
	Items  []SortItem // side 0 is first, 1 is last
}

// Quarters is the game of four quarters; false where the lesson has none.
func (h Handout) Quarters() (Quarters, bool) {
	var out Quarters
	for _, it := range h.items(lesson.Ear, lesson.PictureItem) {
		switch it.Basket {
		case lesson.First:
			out.Items = append(out.Items, SortItem{it.Value, 0})
		case lesson.Last:
			out.Items = append(out.Items, SortItem{it.Value, 1})
		}
	}
	if len(out.Items) < 4 || len(h.Targets) == 0 {
		return out, false
	}
	out.Target, out.Items = h.Targets[0], out.Items[:4]
	return out, true
}

// Ring is a list of words in which a target is to be found.
type Ring struct {
	Target  Target
	Words   []lesson.RingWord
	Holding int // words that have it
}

// Rings are the lists of the find-and-ring sheet, one for each target that has words enough.
func (h Handout) Rings() []Ring {
	var out []Ring
	for i, t := range h.Targets {
		r := Ring{Target: t}
		for _, w := range h.Lesson.Rings {
			if w.Target == t.ID || w.Target == "" && i == 0 { // of a lesson that was made for its first target alone
				r.Words = append(r.Words, w)
				if len(w.Letters) > 0 {
					r.Holding++
				}
			}
		}
		if len(r.Words) > 0 {
			out = append(out, r)
		}
	}
	return out
}
