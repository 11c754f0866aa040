package app

import (
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/media"
	"brightchalk/internal/pack"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"context"
	"html/template"
	"io"
	"slices"
	"strings"
	"time"
)

// Pack sizes: this week's cards of a class with what was met in the last days, or the whole order.
const (
	PackWeek  = "week"
	PackOrder = "order"
)

const (
	packNext    = 4 // cards of a week
	packIntros  = 6
	packMetDays = 7
)

// Pack writes the carry pack of a class, or of the whole order where classID is empty.
func (a *App) Pack(ctx context.Context, by Actor, classID, size string, w io.Writer) error {
	if size != PackWeek && size != PackOrder || size == PackWeek && classID == "" {
		return wrong("size", "Choose the whole order, or a class for this week's cards.")
	}
	team, err := store.GetTeam(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	rows, err := store.Cards(ctx, a.Pool, by.TeamID, false)
	if err != nil {
		return err
	}
	own, err := store.OwnLetters(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	agreed, err := store.AgreedContents(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	p := pack.Pack{Team: team.Name, Made: a.Now(), Pictures: map[string]template.URL{}, Font: render.ChildFont()}
	keep := func(store.Card) bool { return true }
	if classID != "" {
		class, err := a.Class(ctx, by, classID)
		if err != nil {
			return err
		}
		p.Class = class.Name
		if size == PackWeek {
			keep = a.thisWeek(class, rows)
		}
	}
	for _, r := range rows {
		if !keep(r) {
			continue
		}
		core := withAgreed(r.Core(team.Conventions.Accent), agreed)
		r.Content = core.Content
		c, err := a.packCard(ctx, by, r, team.Conventions.Lines, own, team.Conventions.Capitals)
		if err != nil {
			return err
		}
		p.Cards = append(p.Cards, c)
	}
	if err := a.packIntroductions(ctx, by, p.Class, &p); err != nil {
		return err
	}
	return pack.Write(w, p)
}

// thisWeek keeps what the class met in the last days and the next cards of the order.
func (a *App) thisWeek(class ClassView, rows []store.Card) func(store.Card) bool {
	longAgo := map[string]bool{}
	for _, c := range class.Cards {
		longAgo[c.CardID] = a.Now().Sub(c.LastMet) > packMetDays*24*time.Hour
	}
	var next []string
	for _, r := range rows {
		if _, known := longAgo[r.CardID]; !known && len(next) < packNext {
			next = append(next, r.CardID)
		}
	}
	return func(r store.Card) bool {
		long, known := longAgo[r.CardID]
		return known && !long || slices.Contains(next, r.CardID)
	}
}

func (a *App) packCard(
	ctx context.Context,
	by Actor,
	r store.Card,
	lines strokes.Lines,
	own map[string]strokes.Letter,
	capitals bool,
) (pack.Card, error) {
	c := pack.Card{
		ID:         r.CardID,
		Grapheme:   r.Grapheme,
		Sound:      r.Sound,
		Keyword:    r.Content.Keyword,
		PictureAlt: r.Content.PictureAlt,
		Rhyme:      r.Content.Rhyme,
		Short:      r.Content.RhymeShort,
		Action:     r.Content.Action,
		Cue:        r.Content.MouthCue,
		Slip:       r.Content.Slip,
		Words:      r.Content.Words,
		Sentences:  r.Content.Sentences,
		Step:       r.Step,
	}
	if r.Content.Picture != "" {
		m, err := a.Picture(ctx, by, r.Content.Picture)
		if err != nil {
			return c, err
		}
		c.Picture = pack.Data(m.MediaType, m.Bytes)
	}
	if r.TakeID != "" {
		master, err := a.MasterOf(ctx, by, r.TakeID)
		if err != nil {
			return c, err
		}
		small, err := media.EncodeFLAC(master)
		if err != nil {
			return c, err
		}
		c.Take = pack.Data("audio/flac", small)
	}
	text := r.Grapheme
	if w, err := lines.Write(
		text,
		own,
		strings.Split(r.Content.StrokeWords, "\n"),
	); err == nil { // a sign without strokes is left out
		c.Writing = &w
	}
	if len([]rune(text)) == 1 && capitals {
		if w, err := lines.Write(strings.ToUpper(text), own, strings.Split(r.Content.CapitalWords, "\n")); err == nil {
			c.Capital = &w
		}
	}
	return c, nil
}

func (a *App) packIntroductions(ctx context.Context, by Actor, class string, p *pack.Pack) error {
	recent, err := a.Recent(ctx, by)
	if err != nil {
		return err
	}
	for _, r := range recent {
		if len(p.Introductions) == packIntros {
			break
		}
		if class != "" && r.ClassName != class {
			continue
		}
		in, err := a.Introduction(ctx, by, r.IntroductionID)
		if err != nil {
			return err
		}
		p.Introductions = append(
			p.Introductions,
			pack.Introduction{Lesson: in.Lesson, Class: in.ClassName, Made: in.CreatedAt},
		)
		pictures, err := a.chosenPictures(ctx, by, in.Lesson)
		if err != nil {
			return err
		}
		for word, m := range pictures {
			p.Pictures[word] = pack.Data(m.MediaType, m.Bytes)
		}
	}
	return nil
}
