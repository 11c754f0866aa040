package app

import (
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/store"
)

// What several capabilities read, each by the smallest piece of the store.

type teamReader interface {
	Team(ctx context.Context) (store.Team, error)
}

type cardReader interface {
	Cards(ctx context.Context, archived bool) ([]store.Card, error)
	Card(ctx context.Context, cardID string) (store.Card, error)
	AgreedContents(ctx context.Context) ([]store.AgreedContent, error)
}

type classReader interface {
	Class(ctx context.Context, classID string) (store.Class, error)
	Log(ctx context.Context, classID string) ([]store.LogRow, error)
}

type pictureReader interface {
	NamedPictures(ctx context.Context) ([]store.NamedPicture, error)
	PictureOf(ctx context.Context, name string) (store.Medium, error)
	Medium(ctx context.Context, sum []byte) (store.Medium, error)
}

type letterReader interface {
	teamReader
	OwnLetters(ctx context.Context) (map[string]strokes.Letter, error)
}

type routineReader interface {
	Routine(ctx context.Context) (lesson.Routine, error)
}

// conventionsOf are the team's conventions.
func conventionsOf(ctx context.Context, s teamReader) (card.Conventions, error) {
	t, err := s.Team(ctx)
	return t.Conventions, err
}

// own is a card as the team says it: in the accent that it departs to, if it does.
func own(conv card.Conventions, r store.Card) (card.Conventions, card.Card) {
	conv = conv.For(r.Content)
	return conv, r.Core(conv.Accent)
}

// agreedNow puts the agreed version in the place of a card's newest one, where there is one.
func agreedNow(c card.Card, agreed []store.AgreedContent) card.Card {
	for _, g := range agreed {
		if g.CardID == c.ID {
			c.Content, c.Version, c.State = g.Content, g.Version, card.Agreed
		}
	}
	return c
}

// agreedRow is agreedNow for a row.
func agreedRow(r store.Card, agreed []store.AgreedContent) store.Card {
	for _, g := range agreed {
		if g.CardID == r.CardID {
			r.Content, r.Version, r.State = g.Content, g.Version, card.Agreed
		}
	}
	return r
}

// speechOf is how a team speaks by its conventions, with its own pictures.
func speechOf(ctx context.Context, s pictureReader, conv card.Conventions) (lexicon.Speech, error) {
	o := conv.Speech()
	list, err := s.NamedPictures(ctx)
	for _, p := range list {
		o.Pictures = append(o.Pictures, lexicon.OwnPicture{Name: p.Name, Others: p.Others})
	}
	return o, err
}

// pictureBySum is a stored picture by its hash in hex; store.ErrNotFound where the team has none.
func pictureBySum(ctx context.Context, s pictureReader, sum string) (store.Medium, error) {
	raw, err := hex.DecodeString(sum)
	if err != nil || len(raw) != 32 {
		return store.Medium{}, store.ErrNotFound
	}
	m, err := s.Medium(ctx, raw)
	if err == nil && !strings.HasPrefix(m.MediaType, "image/") {
		return store.Medium{}, store.ErrNotFound
	}
	return m, err
}

// pictureOfWord is the picture that shows a word: the team's own, or the embedded one.
func pictureOfWord(ctx context.Context, s pictureReader, word string) (store.Medium, error) {
	m, err := s.PictureOf(ctx, word)
	if !errors.Is(err, store.ErrNotFound) {
		return m, err
	}
	svg, ok := lexicon.Picture(word)
	if !ok {
		return store.Medium{}, fmt.Errorf("picture of %q: %w", word, store.ErrNotFound)
	}
	return store.Medium{MediaType: "image/svg+xml", Bytes: []byte(svg)}, nil
}

// chosenPictures are the pictures that an introduction chose, by word.
func chosenPictures(ctx context.Context, s pictureReader, in lesson.Introduction) (map[string]store.Medium, error) {
	out := map[string]store.Medium{}
	for _, step := range in.Steps {
		for _, c := range step.Choices {
			if c.Kind != "picture" {
				continue
			}
			m, err := pictureOfWord(ctx, s, c.Value)
			if err != nil && !errors.Is(err, store.ErrNotFound) {
				return nil, err
			}
			if err == nil {
				out[c.Value] = m
			}
		}
	}
	return out, nil
}

// classState is what the log says about a class.
type classState struct {
	introduced []string // card ids in the order in which they were met
	seen       []review.Seen
}

func stateOf(ctx context.Context, s classReader, classID string) (classState, error) {
	rows, err := s.Log(ctx, classID)
	if err != nil {
		return classState{}, err
	}
	var out classState
	at := map[string]int{}
	for _, r := range rows {
		i, ok := at[r.CardID]
		if !ok {
			i = len(out.seen)
			at[r.CardID] = i
			out.seen = append(out.seen, review.Seen{CardID: r.CardID})
		}
		out.seen[i] = review.Update(out.seen[i], r.MetAt, review.Sureness(r.Sureness))
		if r.Introduced && !slices.Contains(out.introduced, r.CardID) {
			out.introduced = append(out.introduced, r.CardID)
		}
	}
	return out, nil
}

type knowledgeReader interface {
	teamReader
	cardReader
	classReader
}

// taught is what a class can read by its log, in the accent of the question, with the exception words that came with
// its cards. Words that the team refused on any card are in refused.
type taught struct {
	conv       card.Conventions
	set        spelling.Set
	exceptions map[string]bool
	refused    map[string]bool
	steps      map[spelling.Pair]int // of the team's order
	coming     map[string]int        // exception words not met yet, with their step
	target     *spelling.Pair        // the card of the question, nil where there is none
}

// taughtOf reads what a class can read. With a card, its pair is added, and the question is asked in its accent.
func taughtOf(ctx context.Context, s knowledgeReader, classID, cardID string) (taught, error) {
	t := taught{
		set:        spelling.Set{},
		exceptions: map[string]bool{},
		refused:    map[string]bool{},
		steps:      map[spelling.Pair]int{},
		coming:     map[string]int{},
	}
	var err error
	if t.conv, err = conventionsOf(ctx, s); err != nil {
		return t, err
	}
	if _, err := s.Class(ctx, classID); err != nil {
		return t, err
	}
	state, err := stateOf(ctx, s, classID)
	if err != nil {
		return t, err
	}
	rows, err := s.Cards(ctx, true)
	if err != nil {
		return t, err
	}
	met := map[string]bool{}
	for _, id := range state.introduced {
		met[id] = true
	}
	if cardID != "" {
		i := slices.IndexFunc(rows, func(r store.Card) bool { return r.CardID == cardID })
		if i < 0 {
			return t, store.ErrNotFound
		}
		conv, c := own(t.conv, rows[i])
		t.conv, t.target = conv, &c.Pair
		t.set[c.Pair] = true
	}
	for _, r := range rows {
		t.add(r, met[r.CardID])
	}
	t.set = t.conv.Known(t.set)
	return t, nil
}

// add counts a card in.
func (t *taught) add(r store.Card, met bool) {
	pair := r.Core(t.conv.Accent).Pair
	for _, w := range r.Content.Rejected {
		t.refused[w] = true
	}
	if r.ArchivedAt == nil {
		t.steps[pair] = r.Step
	}
	if met {
		t.set[pair] = true
	}
	for _, w := range r.Content.Exceptions {
		w = strings.ToLower(w)
		step, known := t.coming[w]
		switch {
		case met:
			t.exceptions[w] = true
		case r.ArchivedAt == nil && (!known || r.Step < step):
			t.coming[w] = r.Step
		}
	}
}

// bridges is for whom words are cut in a question.
func (t taught) bridges() spelling.Bridging {
	return spelling.Bridging{Target: t.target, Taught: t.set}
}
