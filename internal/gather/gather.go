// Package gather reads what several use cases need from the store and returns it in the terms of the core: the team's
// conventions, its speech with its own pictures, what a class knows. A use case calls it inside its transaction:
//
//	conv, err := gather.Conventions(ctx, s)
//	known, err := gather.Knowledge(ctx, s, conv, classID)
package gather

import (
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
	"brightchalk/internal/store"
)

// What several capabilities read, each by the smallest piece of the store.

// Conventions returns the team's conventions.
func Conventions(ctx context.Context, s store.Library) (convention.Conventions, error) {
	t, err := s.Team(ctx)
	return t.Conventions, err
}

// CardInAccent returns a card and the conventions in the accent of the card: the team's, unless the card departs from
// it.
func CardInAccent(conv convention.Conventions, r store.Card) (convention.Conventions, card.Card) {
	conv = r.Content.Conventions(conv)
	return conv, r.Core(conv.Accent)
}

// AgreedCard replaces the newest content of a card with its agreed version, if there is one.
func AgreedCard(c card.Card, agreed []store.AgreedContent) card.Card {
	for _, g := range agreed {
		if g.CardID == c.ID {
			c.Content, c.Version, c.State = g.Content, g.Version, card.Agreed
		}
	}
	return c
}

// AgreedRow is AgreedCard for a row of the store.
func AgreedRow(r store.Card, agreed []store.AgreedContent) store.Card {
	for _, g := range agreed {
		if g.CardID == r.CardID {
			r.Content, r.Version, r.State = g.Content, g.Version, card.Agreed
		}
	}
	return r
}

// Speech returns how the team speaks: its accent and own words from conv, and its own pictures.
func Speech(ctx context.Context, s store.Library, conv convention.Conventions) (lexicon.Speech, error) {
	o := conv.Speech()
	list, err := s.NamedPictures(ctx)
	for _, p := range list {
		o.Pictures = append(o.Pictures, lexicon.OwnPicture{Name: p.Name, Others: p.Others})
	}
	return o, err
}

// Picture returns a stored picture by its SHA-256 in hex; store.ErrNotFound if the team has none.
func Picture(ctx context.Context, s store.Library, sum string) (store.Medium, error) {
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

// WordPicture returns the picture of a word: the team's own, or else the embedded one; store.ErrNotFound if there is
// none.
func WordPicture(ctx context.Context, s store.Library, word string) (store.Medium, error) {
	m, err := s.PictureByName(ctx, word)
	if !errors.Is(err, store.ErrNotFound) {
		return m, err
	}
	svg, ok := lexicon.Picture(word)
	if !ok {
		return store.Medium{}, fmt.Errorf("picture of %q: %w", word, store.ErrNotFound)
	}
	return store.Medium{MediaType: "image/svg+xml", Bytes: []byte(svg)}, nil
}

// LessonPictures returns the pictures of the words that a lesson shows, by word.
func LessonPictures(ctx context.Context, s store.Library, in lesson.Lesson) (map[string]store.Medium, error) {
	out := map[string]store.Medium{}
	for _, step := range in.Steps {
		for _, c := range step.Items {
			if c.Kind != lesson.PictureItem && !c.Picture {
				continue
			}
			m, err := WordPicture(ctx, s, c.Value)
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

// KnowledgeSources returns everything that core/knowledge needs to tell what a class knows: the cards in their agreed
// versions in the accent of conv, refused words, log and declarations. An empty classID leaves out the class.
func KnowledgeSources(
	ctx context.Context,
	s store.Library,
	conv convention.Conventions,
	classID string,
) (out knowledge.Sources, err error) {
	if out, err = CardSources(ctx, s, conv); err != nil || classID == "" {
		return out, err
	}
	return AddClassLog(ctx, s, out, classID)
}

// CardSources is KnowledgeSources for no class.
func CardSources(ctx context.Context, s store.Library, conv convention.Conventions) (out knowledge.Sources, err error) {
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
		c := AgreedRow(r, agreed)
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

// AddClassLog adds the log and the declarations of a class to what the cards tell.
func AddClassLog(
	ctx context.Context,
	s store.Library,
	out knowledge.Sources,
	classID string,
) (knowledge.Sources, error) {
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
func declared(ctx context.Context, s store.Library, classID string, out *knowledge.Sources) error {
	cards, err := s.KnownCards(ctx, classID)
	if err != nil {
		return err
	}
	for _, k := range cards {
		out.Declared = append(
			out.Declared,
			knowledge.Declaration{CardIDs: []string{k.CardID}, By: k.SaidBy, On: k.SaidAt},
		)
	}
	list, err := s.KnownWords(ctx, classID)
	for _, k := range list {
		out.Declared = append(out.Declared, knowledge.Declaration{Words: []string{k.Word}, By: k.SaidBy, On: k.SaidAt})
	}
	return err
}

// Knowledge returns what a class knows, in the accent of conv.
func Knowledge(
	ctx context.Context,
	s store.Library,
	conv convention.Conventions,
	classID string,
) (knowledge.Class, error) {
	from, err := KnowledgeSources(ctx, s, conv, classID)
	if err != nil {
		return knowledge.Class{}, err
	}
	return knowledge.Of(from), nil
}

// Taught is what a class can read, in the accent of one question.
type Taught struct {
	knowledge.Class
	Conv   convention.Conventions
	Target *spelling.Pair // the card of the question, nil where there is none
}

// TaughtSet returns what a class can read. If cardID is not empty, its pair counts as taught too, and the accent is
// that of the card.
func TaughtSet(ctx context.Context, s store.Library, classID, cardID string) (Taught, error) {
	var t Taught
	var err error
	if t.Conv, err = Conventions(ctx, s); err != nil {
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
		t.Conv, c = CardInAccent(t.Conv, r)
		target, t.Target = &c, &c.Pair
	}
	if t.Class, err = Knowledge(ctx, s, t.Conv, classID); err != nil {
		return t, err
	}
	if target != nil {
		target.Exceptions = nil // they come with the lesson, not with the question
		t.Class = t.With(t.Conv, *target)
	}
	return t, nil
}

// Bridges returns how words are cut for this class and the target.
func (t Taught) Bridges() spelling.Bridging {
	if t.Target == nil {
		return t.Class.Bridges()
	}
	return t.Class.Bridges(*t.Target)
}

// Targets returns the target as a list, empty if there is none.
func (t Taught) Targets() []spelling.Pair {
	if t.Target == nil {
		return nil
	}
	return []spelling.Pair{*t.Target}
}

// LessonTexts returns the team's texts as the assembler takes them.
func LessonTexts(rows []store.BankText) []lesson.Text {
	out := make([]lesson.Text, len(rows))
	for i, t := range rows {
		out[i] = lesson.Text{Kind: t.Kind, Body: t.Body, Book: t.Book, Page: t.Page}
	}
	return out
}

// KnownClass is a class with what it knows.
type KnownClass struct {
	store.Class
	Known knowledge.Class
}

// Classes returns each class of the team with what it knows. library is what the cards tell, see CardSources.
func Classes(ctx context.Context, s store.Library, library knowledge.Sources) ([]KnownClass, error) {
	list, err := s.Classes(ctx)
	if err != nil {
		return nil, err
	}
	var out []KnownClass
	for _, c := range list {
		from, err := AddClassLog(ctx, s, library, c.ClassID)
		if err != nil {
			return nil, err
		}
		out = append(out, KnownClass{c, knowledge.Of(from)})
	}
	return out, nil
}

// School returns the school year of the team, or the usual one if it has set none, and its revision.
func School(ctx context.Context, s store.Library) (year.School, int, error) {
	kept, revision, err := s.SchoolYear(ctx)
	if err != nil || kept == nil {
		return year.Usual(), revision, err
	}
	return *kept, revision, nil
}
