package app

import (
	"context"
	"errors"
	"math/rand/v2"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"brightchalk/internal/store"
)

// taught is what a class can read by its log, with the exception words that came with its cards. Words that
// the team refused on any card are in refused.
type taught struct {
	conv       card.Conventions
	set        spelling.Set
	exceptions map[string]bool
	refused    map[string]bool
}

func (a *App) taught(ctx context.Context, by Actor, classID string) (taught, error) {
	t := taught{set: spelling.Set{}, exceptions: map[string]bool{}, refused: map[string]bool{}}
	var err error
	if t.conv, err = a.conventions(ctx, a.Pool, by.TeamID); err != nil {
		return t, err
	}
	if _, err := store.GetClass(ctx, a.Pool, by.TeamID, classID); err != nil {
		return t, err
	}
	state, err := a.classState(ctx, a.Pool, by.TeamID, classID)
	if err != nil {
		return t, err
	}
	rows, err := store.Cards(ctx, a.Pool, by.TeamID, true)
	if err != nil {
		return t, err
	}
	met := map[string]bool{}
	for _, id := range state.introduced {
		met[id] = true
	}
	for _, r := range rows {
		for _, w := range r.Content.Rejected {
			t.refused[w] = true
		}
		if !met[r.CardID] {
			continue
		}
		t.set[r.Core().Pair] = true
		for _, w := range r.Content.Exceptions {
			t.exceptions[strings.ToLower(w)] = true
		}
	}
	return t, nil
}

// FindQuery is a sentence of the finder. CardID names the target, and may be empty.
type FindQuery struct {
	ClassID, CardID, Frame string
	Position               words.Position
	WithPicture            bool
}

// Found is what the finder answers. Note says what to relax where nothing fits.
type Found struct {
	Words []FoundWord `json:"words"`
	Total int         `json:"total"`
	Note  string      `json:"note"`
}

// FoundWord is a word cut into graphemes for its bridges.
type FoundWord struct {
	Word    string       `json:"word"`
	Bits    []lesson.Bit `json:"bits"`
	Sounds  int          `json:"sounds"`
	Picture bool         `json:"picture"`
	Because string       `json:"because"`
}

const foundLimit = 60

// asked reads what the class of a query has been taught, with the pair of its card added and returned; the
// pair is nil where no card is named.
func (a *App) asked(ctx context.Context, by Actor, q FindQuery) (taught, *spelling.Pair, error) {
	t, err := a.taught(ctx, by, q.ClassID)
	if err != nil || q.CardID == "" {
		return t, nil, err
	}
	c, err := store.GetCard(ctx, a.Pool, by.TeamID, q.CardID)
	if err != nil {
		return t, nil, err
	}
	p := c.Core().Pair
	t.set[p] = true
	return t, &p, nil
}

// FindWords answers the finder.
func (a *App) FindWords(ctx context.Context, by Actor, q FindQuery) (Found, error) {
	out := Found{Words: []FoundWord{}}
	t, p, err := a.asked(ctx, by, q)
	if err != nil {
		return out, err
	}
	query := words.Query{Taught: t.set, Target: p, Position: q.Position, Frame: strings.ToUpper(q.Frame), WithPicture: q.WithPicture, Exclude: t.refused}
	found := words.Find(query, words.Options{Accent: t.conv.Accent, Units: t.conv.Units})
	out.Total = len(found)
	for _, c := range found[:min(len(found), foundLimit)] {
		out.Words = append(out.Words, FoundWord{c.Word, bitsOf(c.Segments, p), c.Sounds, c.Picture, c.Because})
	}
	if len(found) == 0 {
		out.Note = relax(query)
	}
	return out, nil
}

func relax(q words.Query) string {
	switch {
	case len(q.Taught) == 0 || len(q.Taught) == 1 && q.Target != nil:
		return "This class has been taught nothing yet, so nothing can be read."
	case q.WithPicture:
		return "No word with a picture fits. Ask for words with or without one."
	case q.Frame != "":
		return "No word of the shape " + q.Frame + " fits. Ask for any shape."
	case q.Position != words.Any && q.Position != "":
		return "No word has it at this place. Ask for any place."
	}
	return "No word fits with what this class has been taught."
}

func bitsOf(segments []spelling.Segment, target *spelling.Pair) []lesson.Bit {
	out := make([]lesson.Bit, len(segments))
	for i, s := range segments {
		out[i] = lesson.Bit{Letters: s.Letters, Sound: phoneme.Join(s.Phonemes), Odd: s.Odd || s.Rare, Target: target != nil && s.Pair == *target}
	}
	return out
}

// MakeWords makes up words from what a class has been taught.
func (a *App) MakeWords(ctx context.Context, by Actor, q FindQuery, seed uint64) (Found, error) {
	out := Found{Words: []FoundWord{}}
	t, p, err := a.asked(ctx, by, q)
	if err != nil {
		return out, err
	}
	o := words.Options{Accent: t.conv.Accent, Units: t.conv.Units}
	made, err := words.MakeUp(words.MadeUpQuery{Taught: t.set, Target: p, Frame: q.Frame, Count: 24}, o, rand.New(rand.NewPCG(seed, 29)))
	if err != nil {
		return out, wrong("frame", "%s.", capital(err.Error()))
	}
	for _, m := range made {
		out.Words = append(out.Words, FoundWord{Word: m.Word, Bits: bitsOf(m.Segments, p), Sounds: spelling.SoundCount(m.Segments, o.Units), Because: "made up; no word in any accent"})
	}
	if out.Total = len(made); out.Total == 0 {
		out.Note = "No made-up word fits. A short vowel and five or six consonants are needed; ask for another shape."
	}
	return out, nil
}

// SortGame is a sorting game for two or more cards' sounds.
func (a *App) SortGame(ctx context.Context, by Actor, cardIDs []string, per int, at words.Position, seed uint64) ([]words.Basket, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	var sounds []phoneme.Phoneme
	for _, id := range cardIDs {
		c, err := store.GetCard(ctx, a.Pool, by.TeamID, id)
		if err != nil {
			return nil, err
		}
		ps, err := phoneme.Parse(conv.Accent, c.Sound)
		if err != nil || len(ps) != 1 {
			return nil, wrong("sounds", "%s is more than one sound and cannot be sorted by ear.", c.Grapheme)
		}
		sounds = append(sounds, ps[0])
	}
	baskets, err := words.Sort(sounds, per, at, words.Options{Accent: conv.Accent, Units: conv.Units}, rand.New(rand.NewPCG(seed, 17)))
	if err != nil {
		return nil, wrong("sounds", "%s.", capital(err.Error()))
	}
	return baskets, nil
}

// CheckedWord is one word of a checked text.
type CheckedWord struct {
	Text     string       `json:"text"`
	Start    int          `json:"start"` // rune offset
	Status   texts.Status `json:"status" enum:"decodable,exception,untaught,ambiguous,unknown,name"`
	Untaught []string     `json:"untaught"`
	Instead  []string     `json:"instead"` // readable words that could stand here
	Bits     []lesson.Bit `json:"bits"`
}

// CheckedText is a text against what a class has been taught.
type CheckedText struct {
	Decodable float64       `json:"decodable"` // share, 0 to 1
	Words     []CheckedWord `json:"words"`
	Remarks   []string      `json:"remarks"`
}

// MaxText is the longest text that is checked, in bytes.
const MaxText = 20_000

// CheckText checks a sentence or a page.
func (a *App) CheckText(ctx context.Context, by Actor, classID, text string) (CheckedText, error) {
	if len(text) > MaxText {
		return CheckedText{}, wrong("text", "The text is longer than %d signs. Check it a page at a time.", MaxText)
	}
	t, err := a.taught(ctx, by, classID)
	if errors.Is(err, store.ErrNotFound) {
		return CheckedText{}, wrong("class_id", "Choose a class first.")
	}
	if err != nil {
		return CheckedText{}, err
	}
	o := words.Options{Accent: t.conv.Accent, Units: t.conv.Units}
	r := texts.Check(text, t.set, t.exceptions, texts.Options(o))
	out := CheckedText{Decodable: r.Decodable, Remarks: r.Remarks, Words: make([]CheckedWord, 0, len(r.Tokens))}
	var readable []words.Choice
	for _, k := range r.Tokens {
		w := CheckedWord{k.Text, k.Start, k.Status, k.Untaught, []string{}, bitsOf(k.Segments, nil)}
		if k.Status == texts.Untaught || k.Status == texts.Ambiguous {
			if readable == nil {
				readable = words.Find(words.Query{Taught: t.set, Familiarity: 3, Exclude: t.refused}, o)
			}
			w.Instead = instead(k.Text, readable)
		}
		out.Words = append(out.Words, w)
	}
	return out, nil
}

// instead offers up to three readable words of the same part of speech and about the same length.
func instead(word string, readable []words.Choice) []string {
	out := []string{}
	entry, ok := lexicon.Find(strings.ToLower(word))
	if !ok || entry.Parts == "" || len(word) < 2 {
		return out
	}
	for _, c := range readable {
		e, _ := lexicon.Find(c.Word)
		if e.Parts != "" && e.Parts[0] == entry.Parts[0] && max(len(c.Word), len(word))-min(len(c.Word), len(word)) <= 2 {
			if out = append(out, c.Word); len(out) == 3 {
				break
			}
		}
	}
	return out
}
