package app

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/store"
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
)

var pictureName = regexp.MustCompile(`^[a-z]{2,24}$`)

const mostNames = 6

// Pictures lists the team's own pictures for ear games.
func (a *App) Pictures(ctx context.Context, by Actor) ([]store.NamedPicture, error) {
	out, err := store.NamedPictures(ctx, a.Pool, by.TeamID)
	if out == nil {
		out = []store.NamedPicture{}
	}
	return out, err
}

// PutPicture names a stored picture for ear games. A name that is kept from children is refused.
func (a *App) PutPicture(ctx context.Context, by Actor, p store.NamedPicture) error {
	if err := by.need(MayEdit); err != nil {
		return err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	p.Name = strings.ToLower(strings.TrimSpace(p.Name))
	if !pictureName.MatchString(p.Name) {
		return wrong("name", "The name is one word of 2 to 24 letters, as a child says it.")
	}
	if len(p.Others) > mostNames {
		return wrong("others", "Up to %d other names can be held.", mostNames)
	}
	p.Others = slices.Clone(p.Others)
	for i, n := range append([]string{p.Name}, p.Others...) {
		field, n := map[bool]string{true: "name", false: "others"}[i == 0], strings.ToLower(strings.TrimSpace(n))
		if !pictureName.MatchString(n) {
			return wrong(field, "“%s” is no single word.", n)
		}
		if theme, refused := conv.Speech().Refuses(n); refused {
			return wrong(field, "“%s” is kept out of what children are offered (%s).", n, theme)
		}
		if i > 0 {
			p.Others[i-1] = n
		}
	}
	if _, err := a.Picture(ctx, by, p.Picture); err != nil {
		if errors.Is(err, store.ErrNotFound) {
			return wrong("picture", "Choose a picture first.")
		}
		return err
	}
	sum, err := hex.DecodeString(p.Picture)
	if err != nil {
		return wrong("picture", "Choose a picture first.")
	}
	if p.Others == nil {
		p.Others = []string{}
	}
	return store.PutNamedPicture(ctx, a.Pool, by.TeamID, by.MemberID, p, sum, a.Now())
}

// ArchivePicture takes one of the team's pictures out of use, or brings it back.
func (a *App) ArchivePicture(ctx context.Context, by Actor, name string, archived bool) error {
	if err := by.need(MayEdit); err != nil {
		return err
	}
	if now := a.Now(); archived {
		return store.ArchiveNamedPicture(ctx, a.Pool, by.TeamID, name, &now)
	}
	return store.ArchiveNamedPicture(ctx, a.Pool, by.TeamID, name, nil)
}

// WordPicture is the picture that shows a word: the team's own, or the embedded one.
func (a *App) WordPicture(ctx context.Context, by Actor, word string) (store.Medium, error) {
	m, err := store.PictureOf(ctx, a.Pool, by.TeamID, word)
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
func (a *App) chosenPictures(ctx context.Context, by Actor, in lesson.Introduction) (map[string]store.Medium, error) {
	out := map[string]store.Medium{}
	for _, s := range in.Steps {
		for _, c := range s.Choices {
			if c.Kind != "picture" {
				continue
			}
			m, err := a.WordPicture(ctx, by, c.Value)
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

// speech is how the team speaks, with its own pictures.
func speech(ctx context.Context, db store.DB, teamID string, conv card.Conventions) (lexicon.Speech, error) {
	o := conv.Speech()
	list, err := store.NamedPictures(ctx, db, teamID)
	for _, p := range list {
		o.Pictures = append(o.Pictures, lexicon.OwnPicture{Name: p.Name, Others: p.Others})
	}
	return o, err
}
