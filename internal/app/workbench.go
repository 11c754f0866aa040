package app

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"brightchalk/internal/store"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
)

// taught is what a class can read by its log, with the exception words that came with its cards. Words that
// the team refused on any card are in refused.
type taught struct {
	conv       card.Conventions
	set        spelling.Set
	exceptions map[string]bool
	refused    map[string]bool
	steps      map[spelling.Pair]int // of the team's order
	coming     map[string]int        // exception words not met yet, with their step
}

func (a *App) taught(ctx context.Context, by Actor, classID string) (taught, error) {
	t := taught{
		set:        spelling.Set{},
		exceptions: map[string]bool{},
		refused:    map[string]bool{},
		steps:      map[spelling.Pair]int{},
		coming:     map[string]int{},
	}
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
		if r.ArchivedAt == nil {
			t.steps[r.Core(t.conv.Accent).Pair] = r.Step
		}
		if !met[r.CardID] {
			for _, w := range r.Content.Exceptions {
				if step, known := t.coming[strings.ToLower(w)]; r.ArchivedAt == nil && (!known || r.Step < step) {
					t.coming[strings.ToLower(w)] = r.Step
				}
			}
			continue
		}
		t.set[r.Core(t.conv.Accent).Pair] = true
		for _, w := range r.Content.Exceptions {
			t.exceptions[strings.ToLower(w)] = true
		}
	}
	t.set = t.conv.Known(t.set)
	return t, nil
}

// FindQuery is a sentence of the finder. CardID names the target, and may be empty.
type FindQuery struct {
	ClassID, CardID, Frame               string
	Position                             words.Position
	WithPicture, NoHomophones            bool
	Sounds, Syllables, Familiarity, Seed int // 0 asks for any
}

func (q FindQuery) words(t taught, target *spelling.Pair) words.Query {
	return words.Query{
		Taught:       t.set,
		Target:       target,
		Position:     q.Position,
		Frame:        strings.ToUpper(q.Frame),
		WithPicture:  q.WithPicture,
		NoHomophones: q.NoHomophones,
		MinSounds:    q.Sounds,
		MaxSounds:    q.Sounds,
		Syllables:    q.Syllables,
		Familiarity:  q.Familiarity,
		Exclude:      t.refused,
	}
}

func (q FindQuery) chance(stream uint64) *rand.Rand {
	return rand.New(rand.NewPCG(uint64(q.Seed), stream))
}

// Found is what the finder answers. Note says what to relax where nothing fits.
type Found struct {
	Words []FoundWord    `json:"words"`
	Total int            `json:"total"`
	Note  string         `json:"note"`
	Near  []words.Answer `json:"near"` // words that need one pair more, and where it comes
	// Most is the one pair of the order that would unlock most words at once.
	Most *words.Unlock `json:"most,omitempty"`
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
	p := c.Core(t.conv.Accent).Pair
	t.set[p] = true
	t.set = t.conv.Known(t.set)
	return t, &p, nil
}

// FindWords answers the finder.
func (a *App) FindWords(ctx context.Context, by Actor, q FindQuery) (Found, error) {
	out := Found{Words: []FoundWord{}}
	t, p, err := a.asked(ctx, by, q)
	if err != nil {
		return out, err
	}
	query := q.words(t, p)
	found := words.Find(query, t.conv.Speech())
	out.Near = words.Near(query, t.steps, 12, t.conv.Speech())
	if most, ok := words.MostUnlocked(query, t.steps, t.conv.Speech()); ok {
		out.Most = &most
	}
	out.Total = len(found)
	for _, c := range found[:min(len(found), foundLimit)] {
		out.Words = append(out.Words, foundWord(c, p))
	}
	if len(found) == 0 {
		out.Note = relax(query)
	}
	return out, nil
}

func foundWord(c words.Choice, target *spelling.Pair) FoundWord {
	return FoundWord{c.Word, bitsOf(c.Segments, target), c.Sounds, c.Picture, c.Because}
}

func relax(q words.Query) string {
	switch {
	case len(q.Taught) == 0 || len(q.Taught) == 1 && q.Target != nil:
		return "This class has been taught nothing yet, so nothing can be read."
	case q.WithPicture:
		return "No word with a picture fits. Ask for words with or without one."
	case q.NoHomophones:
		return "No word fits that sounds like no other. Allow words that sound alike."
	case q.MinSounds > 0:
		return fmt.Sprintf("No word of %d sounds fits. Ask for any number.", q.MinSounds)
	case q.Syllables > 0:
		return fmt.Sprintf("No word of %d syllables fits. Ask for any number.", q.Syllables)
	case q.Familiarity > 0:
		return "No word that is known so well fits. Ask for rarer words too."
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
		out[i] = lesson.Bit{
			Letters: s.Letters,
			Sound:   phoneme.Join(s.Phonemes),
			Odd:     s.Odd || s.Rare,
			Target:  target != nil && s.Pair == *target,
		}
	}
	return out
}

// MakeWords makes up words from what a class has been taught.
func (a *App) MakeWords(ctx context.Context, by Actor, q FindQuery) (Found, error) {
	out := Found{Words: []FoundWord{}, Near: []words.Answer{}}
	t, p, err := a.asked(ctx, by, q)
	if err != nil {
		return out, err
	}
	o := t.conv.Speech()
	made, err := words.MakeUp(words.MadeUpQuery{Taught: t.set, Target: p, Frame: q.Frame, Count: 24}, o, q.chance(29))
	if err != nil {
		return out, wrong("frame", "%s.", capital(err.Error()))
	}
	for _, m := range made {
		out.Words = append(
			out.Words,
			FoundWord{
				Word:    m.Word,
				Bits:    bitsOf(m.Segments, p),
				Sounds:  spelling.SoundCount(m.Segments, o.Units),
				Because: "made up; no word in any accent",
			},
		)
	}
	if out.Total = len(made); out.Total == 0 {
		out.Note = "No made-up word fits. A short vowel and five or six consonants are needed; ask for another shape."
	}
	return out, nil
}

// SortGame is a sorting game for two or more cards' sounds.
func (a *App) SortGame(
	ctx context.Context,
	by Actor,
	cardIDs []string,
	per int,
	at words.Position,
	seed uint64,
) ([]words.Basket, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	sounds, err := a.sounds(ctx, by, cardIDs)
	if err != nil {
		return nil, err
	}
	o, err := speech(ctx, a.Pool, by.TeamID, conv)
	if err != nil {
		return nil, err
	}
	baskets, err := words.Sort(sounds, per, at, o, rand.New(rand.NewPCG(seed, 17)))
	if err != nil {
		return nil, wrong("sounds", "%s.", capital(err.Error()))
	}
	return baskets, nil
}

// sounds are the single sounds of cards.
func (a *App) sounds(ctx context.Context, by Actor, cardIDs []string) ([]phoneme.Phoneme, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	var out []phoneme.Phoneme
	for _, id := range cardIDs {
		c, err := store.GetCard(ctx, a.Pool, by.TeamID, id)
		if err != nil {
			return nil, err
		}
		ps, err := phoneme.Parse(conv.Accent, c.Sound)
		if err != nil || len(ps) != 1 {
			return nil, wrong("sounds", "%s is more than one sound and cannot be sorted by ear.", c.Grapheme)
		}
		out = append(out, ps[0])
	}
	return out, nil
}

// CheckedWord is one word of a checked text.
type CheckedWord struct {
	Text     string       `json:"text"`
	Start    int          `json:"start"` // rune offset
	Status   texts.Status `json:"status" enum:"decodable,exception,untaught,ambiguous,unknown,name"`
	Untaught []string     `json:"untaught"`
	Instead  []string     `json:"instead"` // readable words that could stand here
	Comes    int          `json:"comes"`   // step that teaches it as an exception word, 0 where none does
	Bits     []lesson.Bit `json:"bits"`
}

// CheckedText is a text against what a class has been taught.
type CheckedText struct {
	Decodable float64       `json:"decodable"` // share, 0 to 1
	Words     []CheckedWord `json:"words"`
	Remarks   []string      `json:"remarks"`
	// NewExceptions are words with an odd part that the class has not been taught; Sentences how long each is.
	NewExceptions []string         `json:"new_exceptions"`
	Sentences     []texts.Sentence `json:"sentences"`
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
	o := t.conv.Speech()
	r := texts.Check(text, t.set, t.exceptions, o)
	out := CheckedText{
		Decodable:     r.Decodable,
		Remarks:       r.Remarks,
		NewExceptions: r.NewExceptions,
		Sentences:     r.Sentences,
		Words:         make([]CheckedWord, 0, len(r.Tokens)),
	}
	var readable []*lexicon.Entry
	can := func(w string) bool {
		t := texts.Check(w, t.set, t.exceptions, o).Tokens
		return len(t) == 1 && t[0].Status == texts.Decodable
	}
	for _, k := range r.Tokens {
		w := CheckedWord{k.Text, k.Start, k.Status, k.Untaught, []string{}, 0, bitsOf(k.Segments, nil)}
		if k.Status == texts.Exception { // what has not been taught is the odd part for this class
			for i, s := range k.Segments {
				w.Bits[i].Odd = w.Bits[i].Odd || !t.set[s.Pair]
			}
		}
		if k.Status == texts.Untaught || k.Status == texts.Ambiguous {
			small := strings.ToLower(k.Text)
			if w.Comes = t.coming[small]; w.Comes > 0 && !slices.Contains(out.NewExceptions, small) {
				out.NewExceptions = append(out.NewExceptions, small)
			}
			if readable == nil {
				for _, c := range words.Find(words.Query{Taught: t.set, Familiarity: 4, Exclude: t.refused}, o) {
					e, _ := lexicon.Find(c.Word)
					readable = append(readable, e)
				}
			}
			w.Instead = texts.Instead(k.Text, can, readable)
		}
		out.Words = append(out.Words, w)
	}
	return out, nil
}
