package app

import (
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/knowledge"
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
	KnownCards(ctx context.Context, classID string) ([]store.KnownCard, error)
	KnownWords(ctx context.Context, classID string) ([]store.KnownWord, error)
	Focus(ctx context.Context, groupID string) ([]string, error)
	Sources(ctx context.Context) ([]store.Source, error)
	Fit(ctx context.Context) (*review.Fit, time.Time, error)
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
	Routines(ctx context.Context) ([]store.KeptRoutine, error)
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

// chosenPictures are the pictures that a lesson chose, by word.
func chosenPictures(ctx context.Context, s pictureReader, in lesson.Lesson) (map[string]store.Medium, error) {
	out := map[string]store.Medium{}
	for _, step := range in.Steps {
		for _, c := range step.Items {
			if c.Kind != lesson.PictureItem && !c.Picture {
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

type knowledgeReader interface {
	teamReader
	cardReader
	classReader
}

// sourcesOf gathers what tells what a class knows, with the cards in their agreed versions, in the accent of conv.
// Words that the team refused on any card are refused.
func sourcesOf(
	ctx context.Context,
	s knowledgeReader,
	conv card.Conventions,
	classID string,
) (out knowledge.Sources, err error) {
	if out, err = cardSources(ctx, s, conv); err != nil || classID == "" {
		return out, err
	}
	return withLog(ctx, s, out, classID)
}

// cardSources is what the cards tell, whatever the class.
func cardSources(ctx context.Context, s cardReader, conv card.Conventions) (out knowledge.Sources, err error) {
	out = knowledge.Sources{Conventions: conv, Archived: map[string]bool{}}
	rows, err := s.Cards(ctx, true)
	if err != nil {
		return out, err
	}
	agreed, err := s.AgreedContents(ctx)
	if err != nil {
		return out, err
	}
	for _, r := range rows {
		out.Refused = append(out.Refused, r.Content.Rejected...)
		c := agreedRow(r, agreed)
		k := c.Core(conv.Accent)
		for _, w := range r.Content.Exceptions { // those of the newest version are known too
			if !slices.Contains(k.Exceptions, w) {
				k.Exceptions = append(slices.Clone(k.Exceptions), w)
			}
		}
		out.Cards = append(out.Cards, k)
		out.Archived[r.CardID] = r.ArchivedAt != nil
	}
	return out, nil
}

// withLog adds to what the cards tell what a class was taught and is said to know.
func withLog(ctx context.Context, s classReader, out knowledge.Sources, classID string) (knowledge.Sources, error) {
	log, err := s.Log(ctx, classID)
	if err != nil {
		return out, err
	}
	fit, _, err := s.Fit(ctx)
	if err != nil {
		return out, err
	}
	if fit != nil {
		out.Memory = fit.Memory()
	}
	for _, r := range log {
		out.Log = append(out.Log, knowledge.Entry{
			CardID: r.CardID, Introduced: r.Introduced, Sure: review.Sureness(r.Sureness), At: r.MetAt,
		})
	}
	return out, declared(ctx, s, classID, &out)
}

// declared adds what the class is said to know.
func declared(ctx context.Context, s classReader, classID string, out *knowledge.Sources) error {
	cards, err := s.KnownCards(ctx, classID)
	if err != nil {
		return err
	}
	for _, k := range cards {
		out.Declared = append(out.Declared, knowledge.Declaration{CardIDs: []string{k.CardID}, By: k.SaidBy, On: k.SaidAt})
	}
	list, err := s.KnownWords(ctx, classID)
	for _, k := range list {
		out.Declared = append(out.Declared, knowledge.Declaration{Words: []string{k.Word}, By: k.SaidBy, On: k.SaidAt})
	}
	return err
}

// classOf is what a class knows, in an accent.
func classOf(
	ctx context.Context,
	s knowledgeReader,
	conv card.Conventions,
	classID string,
) (knowledge.Class, error) {
	from, err := sourcesOf(ctx, s, conv, classID)
	if err != nil {
		return knowledge.Class{}, err
	}
	return knowledge.Of(from), nil
}

// taught is what a class can read, in the accent of the question.
type taught struct {
	knowledge.Class
	conv   card.Conventions
	target *spelling.Pair // the card of the question, nil where there is none
}

// taughtOf reads what a class can read. With a card, its pair is added, and the question is asked in its accent.
func taughtOf(ctx context.Context, s knowledgeReader, classID, cardID string) (taught, error) {
	var t taught
	var err error
	if t.conv, err = conventionsOf(ctx, s); err != nil {
		return t, err
	}
	if _, err := s.Class(ctx, classID); err != nil {
		return t, err
	}
	var target *card.Card
	if cardID != "" {
		r, err := s.Card(ctx, cardID)
		if err != nil {
			return t, err
		}
		var c card.Card
		t.conv, c = own(t.conv, r)
		target, t.target = &c, &c.Pair
	}
	if t.Class, err = classOf(ctx, s, t.conv, classID); err != nil {
		return t, err
	}
	if target != nil {
		target.Exceptions = nil // they come with the lesson, not with the question
		t.Class = t.With(t.conv, *target)
	}
	return t, nil
}

// bridges is for whom words are cut in a question.
func (t taught) bridges() spelling.Bridging {
	if t.target == nil {
		return t.Bridges()
	}
	return t.Bridges(*t.target)
}

// targets are the target of a question as a list.
func (t taught) targets() []spelling.Pair {
	if t.target == nil {
		return nil
	}
	return []spelling.Pair{*t.target}
}
