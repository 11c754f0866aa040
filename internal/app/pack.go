package app

import (
	"context"
	"html/template"
	"io"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/media"
	"brightchalk/internal/pack"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
)

// PackSize is how much a carry pack holds.
type PackSize string

// Pack sizes: this week's cards of a class with what was met in the last days, or the whole order.
const (
	PackWeek  PackSize = "week"
	PackOrder PackSize = "order"
)

const (
	packNext    = 4 // cards of a week
	packIntros  = 6
	packMetDays = 7
)

// Pack writes the carry pack of a class, or of the whole order where classID is empty.
func (p Print) Pack(ctx context.Context, by Actor, classID string, size PackSize, w io.Writer) error {
	if size != PackWeek && size != PackOrder || size == PackWeek && classID == "" {
		return wrong("size", "Choose the whole order, or a class for this week's cards.")
	}
	made, err := read(ctx, p.desk, by, func(s printStore) (pack.Pack, error) {
		return p.packed(ctx, s, classID, size)
	})
	if err != nil {
		return err
	}
	return pack.Write(w, made)
}

func (p Print) packed(ctx context.Context, s printStore, classID string, size PackSize) (pack.Pack, error) {
	team, err := s.Team(ctx)
	if err != nil {
		return pack.Pack{}, err
	}
	rows, err := s.Cards(ctx, false)
	if err != nil {
		return pack.Pack{}, err
	}
	letters, err := s.OwnLetters(ctx)
	if err != nil {
		return pack.Pack{}, err
	}
	agreed, err := s.AgreedContents(ctx)
	if err != nil {
		return pack.Pack{}, err
	}
	out := pack.Pack{Team: team.Name, Made: p.desk.now(), Pictures: map[string]template.URL{}}
	out.Child, out.Adult, out.Bold = render.Fonts()
	keep := func(store.Card) bool { return true }
	if classID != "" {
		class, err := classView(ctx, s, classID)
		if err != nil {
			return out, err
		}
		out.Class = class.Name
		if size == PackWeek {
			keep = p.thisWeek(class, rows)
		}
	}
	for _, r := range rows {
		if !keep(r) {
			continue
		}
		c, err := packCard(ctx, s, agreedRow(r, agreed), team.Conventions, letters)
		if err != nil {
			return out, err
		}
		out.Cards = append(out.Cards, c)
	}
	return out, packLessons(ctx, s, classID, &out)
}

// thisWeek keeps what the class met in the last days and the next cards of the order.
func (p Print) thisWeek(class ClassView, rows []store.Card) func(store.Card) bool {
	fresh := map[string]bool{}
	for _, c := range class.Cards {
		fresh[c.CardID] = recently(p.desk.now(), c.LastMet, packMetDays)
	}
	var next []string
	for _, r := range rows {
		if _, known := fresh[r.CardID]; !known && len(next) < packNext {
			next = append(next, r.CardID)
		}
	}
	return func(r store.Card) bool { return fresh[r.CardID] || slices.Contains(next, r.CardID) }
}

func packCard(
	ctx context.Context,
	s printStore,
	r store.Card,
	conv card.Conventions,
	letters map[string]strokes.Letter,
) (pack.Card, error) {
	c := pack.Card{
		ID: r.CardID, Grapheme: r.Grapheme, Sound: r.Sound, Keyword: r.Content.Keyword,
		PictureAlt: r.Content.PictureAlt, Rhyme: r.Content.Rhyme, Short: r.Content.RhymeShort,
		Action: r.Content.Action, Cue: r.Content.MouthCue, Slip: r.Content.Slip, Words: r.Content.Words,
		Sentences: r.Content.Sentences, Step: r.Step,
	}
	if d, err := mouth.Draw(conv.For(r.Content).Accent, r.Sound); err == nil { // a sound without a drawing has its words
		c.Mouth = &d
	}
	if r.Content.Picture != "" {
		m, err := pictureBySum(ctx, s, r.Content.Picture)
		if err != nil {
			return c, err
		}
		c.Picture = pack.Data(m.MediaType, m.Bytes)
	}
	if r.TakeID != "" {
		master, err := masterOf(ctx, s, r.TakeID)
		if err != nil {
			return c, err
		}
		small, err := media.EncodeFLAC(master)
		if err != nil {
			return c, err
		}
		c.Take = pack.Data("audio/flac", small)
	}
	write := func(text, says string) *strokes.Written {
		w, err := conv.Lines.Write(text, letters, strings.Split(says, "\n"))
		if err != nil { // a sign without strokes is left out
			return nil
		}
		return &w
	}
	c.Writing = write(r.Grapheme, r.Content.StrokeWords)
	if len([]rune(r.Grapheme)) == 1 && conv.Capitals {
		c.Capital = write(strings.ToUpper(r.Grapheme), r.Content.CapitalWords)
	}
	return c, nil
}

func packLessons(ctx context.Context, s printStore, classID string, p *pack.Pack) error {
	list, err := recentOf(ctx, s, classID, packIntros)
	if err != nil {
		return err
	}
	for _, i := range list {
		made := pack.Lesson{Lesson: i.Snapshot, Class: i.ClassName, Made: i.CreatedAt}
		p.Lessons = append(p.Lessons, made)
		pictures, err := chosenPictures(ctx, s, i.Snapshot)
		if err != nil {
			return err
		}
		for word, m := range pictures {
			p.Pictures[word] = pack.Data(m.MediaType, m.Bytes)
		}
	}
	return nil
}
