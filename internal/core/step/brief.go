package step

import (
	"fmt"
	"hash/fnv"
	"math/rand/v2"
	"slices"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

// Word is a word of the lesson.
type Word struct {
	Value    string
	Sounds   int
	Segments []spelling.Segment
	Role     lesson.Role
	Position string
	Origin   lesson.Origin
	Because  lesson.Reason
}

// Text is a sentence or a page of the lesson. Questions are those of a page.
type Text struct {
	Body      string
	Title     string
	Words     int
	Held      int // different words with a target
	Covers    int // different targets
	Holds     []string
	Origin    lesson.Origin
	Because   lesson.Reason
	Questions []string
}

// FillInput is all that a step may be filled from. Nobody changes it. Class knows the targets already.
type FillInput struct {
	Purpose     lesson.Purpose
	Conventions convention.Conventions
	Speech      lexicon.Speech    // with the team's pictures
	Clues       map[string]string // the team's own, by word
	Targets     []card.Card
	Class       knowledge.Class
	Letters     map[string]strokes.Letter
	Now         time.Time
	Seed        uint64

	Words      []Word // with a target: those that travel from ear to page, in their order
	Older      []Word
	Sentences  []Text
	Pages      []Text
	NewWords   []string // exception words that come with the targets
	OldWords   []string // those known, the latest first
	NoWords    *fault.Fault
	NoSentence string          // why the card's own cannot be used
	Hunts      []lesson.Option // texts to hunt the grapheme in; they need not be readable
	Story      string          // made by rule, for the ear
	ReadShare  float64         // of older words in the Read step

	// Counts are the items of each step by its ID, once the time has been shared out.
	Counts map[string]int
}

// Chance is a generator for one question of a lesson: one question less does not change the answers to others.
func Chance(seed uint64, what string) *rand.Rand {
	h := fnv.New64a()
	_, _ = h.Write([]byte(what))
	return rand.New(rand.NewPCG(seed, h.Sum64()))
}

// Chance is a generator for one question of this lesson.
func (b *FillInput) Chance(what string) *rand.Rand { return Chance(b.Seed, what) }

// Pairs are the targets' pairs.
func (b *FillInput) Pairs() []spelling.Pair {
	out := make([]spelling.Pair, len(b.Targets))
	for i, t := range b.Targets {
		out[i] = t.Pair
	}
	return out
}

// Sounds are the targets' sounds, one for each target that is a single sound.
func (b *FillInput) Sounds() []phoneme.Phoneme {
	var out []phoneme.Phoneme
	for _, t := range b.Targets {
		if s, err := phoneme.Parse(b.Conventions.Accent, t.Pair.Sound); err == nil && len(s) == 1 {
			out = append(out, s[0])
		}
	}
	return out
}

// IsTarget tells whether a card is one of the targets.
func (b *FillInput) IsTarget(id string) bool {
	return slices.ContainsFunc(b.Targets, func(t card.Card) bool { return t.ID == id })
}

// Refuse says why a step cannot be held.
func Refuse(code fault.Code, format string, args ...any) (Material, *fault.Fault) {
	return Material{}, fault.New(code, format, args...)
}

// Codes of what a step may lack.
const (
	LacksTarget   fault.Code = "no-target"
	LacksMet      fault.Code = "nothing-met"
	LacksWords    fault.Code = "no-words"
	LacksPictures fault.Code = "too-few-pictures"
	LacksFace     fault.Code = "no-picture-or-rhyme"
	LacksSentence fault.Code = "no-sentence"
	LacksPage     fault.Code = "no-page"
	LacksTwo      fault.Code = "one-target"
	LacksLetter   fault.Code = "no-single-letter"
	LacksTeam     fault.Code = "no-words-of-the-team"
	unitOfTwo     fault.Code = "two-sounds"
)

// NewItem makes an item of what may stand there.
func NewItem(kind lesson.ItemKind, o lesson.Option) lesson.Item {
	return lesson.Item{Kind: kind, Option: o, Next: []lesson.Option{}}
}

// Why is a reason with its code.
func Why(code, format string, args ...any) lesson.Reason {
	return lesson.Reason{Code: code, Text: fmt.Sprintf(format, args...)}
}

// Reliable tells whether a word can be spelled by what has been taught: a doubled letter is read because its single
// one is known, and only spelled when its own card has been met.
func (b *FillInput) Reliable(w Word) bool {
	for _, s := range w.Segments {
		if s.Pair.Kind() != "doubled letter" {
			continue
		}
		met := slices.ContainsFunc(b.Class.Met, func(k knowledge.Known) bool { return k.Card.Pair == s.Pair })
		if !met && !slices.Contains(b.Pairs(), s.Pair) {
			return false
		}
	}
	return true
}

// Option is a word as it may stand in a step.
func (w Word) Option() lesson.Option {
	return lesson.Option{
		Value:    w.Value,
		Detail:   SoundCount(w.Sounds),
		Role:     w.Role,
		Position: w.Position,
		Origin:   w.Origin,
		Because:  w.Because,
	}
}

// SoundCount says how many sounds a word has; empty for none.
func SoundCount(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprintf("%d sounds", n)
}

// OfWords is material that is a list of words.
func OfWords(list []Word, least int, take func(n int) []Word) Material {
	return Material{Least: least, Most: len(list), Take: func(n int) FillResult {
		var f FillResult
		shown := map[string]bool{}
		for _, w := range take(n) {
			f.Items = append(f.Items, NewItem(lesson.WordItem, w.Option()))
			shown[w.Value] = true
		}
		for _, w := range list {
			if !shown[w.Value] {
				f.Rest = append(f.Rest, w.Option())
			}
		}
		return f
	}}
}

// OfTexts is material that is a list of sentences or other texts.
func OfTexts(kind lesson.ItemKind, list []lesson.Option, least int) Material {
	return Material{Least: least, Most: len(list), Take: func(n int) FillResult {
		var f FillResult
		for i, o := range list {
			if i < n {
				f.Items = append(f.Items, NewItem(kind, o))
			} else {
				f.Rest = append(f.Rest, o)
			}
		}
		return f
	}}
}

// Narration is what the words of a step are written from: the lesson as it is kept, so that they can be written again
// when an item has been changed.
type Narration struct {
	Lesson      *lesson.Lesson
	Conventions convention.Conventions
	Speech      lexicon.Speech
	Clues       map[string]string // the team's own, by word
	Wardrobe    FaceSource
}

// FaceSource is what the words of a lesson are dressed from when they change: the cards of their bridges, and the
// letters they are written in.
type FaceSource struct {
	Cards   []card.Card
	Letters map[string]strokes.Letter
}

// Clue says in plain words what a word means: as the team put it, or else the open dictionary; empty where neither
// does.
func (t *Narration) Clue(word string) string { return First(t.Clues[word], lexicon.Clue(word)) }

// Said names a sound with its keyword.
func (t *Narration) Said() string {
	var out []string
	for _, f := range t.Lesson.Faces() {
		out = append(out, f.Said)
	}
	return script.List(out)
}

// Sounds are the sounds of the targets without their keywords, each once.
func (t *Narration) Sounds() []string {
	var out []string
	for _, f := range t.Lesson.Faces() {
		if s := script.Sound(f.Pair); !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// Sound joins the sounds of the targets to one text.
func (t *Narration) Sound() string { return script.List(t.Sounds()) }

// Spellings are the faces with a grapheme of their own, and how the sounds of each are named.
func (t *Narration) Spellings() (faces []lesson.CardFace, said map[string]string) {
	names := map[string][]string{}
	for _, f := range t.Lesson.Faces() {
		if names[f.Pair.Grapheme] == nil {
			faces = append(faces, f)
		}
		names[f.Pair.Grapheme] = append(names[f.Pair.Grapheme], f.Said)
	}
	said = map[string]string{}
	for g, list := range names {
		said[g] = script.List(list)
	}
	return faces, said
}

// Fresh tells whether what the lesson is about is new to the class.
func (t *Narration) Fresh() bool { return t.Lesson.Purpose == lesson.Introduce }

// Adult adds lines that are not empty to what the adult says.
func Adult(s *lesson.Step, lines ...string) {
	for _, l := range lines {
		if l != "" {
			s.Adult = append(s.Adult, l)
		}
	}
}

// Class adds what the class does.
func Class(s *lesson.Step, lines ...string) { s.Class = append(s.Class, lines...) }

// Table adds what lies ready.
func Table(s *lesson.Step, lines ...string) { s.Table = append(s.Table, lines...) }

// Care adds cautions.
func Care(s *lesson.Step, lines ...string) { s.Cautions = append(s.Cautions, lines...) }

// Values are the values of items.
func Values(items []lesson.Item) []string {
	out := make([]string, len(items))
	for i, it := range items {
		out[i] = it.Value
	}
	return out
}

// Count counts the items of a role.
func Count(items []lesson.Item, r lesson.Role) int {
	n := 0
	for _, it := range items {
		if it.Role == r {
			n++
		}
	}
	return n
}
