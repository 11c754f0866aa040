package printing

import (
	"context"
	"errors"
	"html/template"
	"io"
	"slices"
	"strings"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/gather"
	"brightchalk/internal/media"
	"brightchalk/internal/pack"
	"brightchalk/internal/planning"
	"brightchalk/internal/render"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
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

var errPackSize = fault.In("size", "Choose the whole order, or a class for this week's cards.")

// PackTitle says which pack it is, and refuses one that cannot be made.
func PackTitle(ctx context.Context, s store.Library, classID string, size PackSize) (string, error) {
	switch {
	case size == PackOrder && classID == "":
		return "Carry pack, the whole order", nil
	case size != PackOrder && size != PackWeek || classID == "":
		return "", errPackSize
	}
	c, err := s.Class(ctx, classID)
	if size == PackWeek {
		return "Carry pack, this week of " + c.Name, err
	}
	return "Carry pack, the order for " + c.Name, err
}

// Pack writes the carry pack of a class, or of the whole order where classID is empty.
func (p Print) Pack(ctx context.Context, by tx.Actor, classID string, size PackSize, w io.Writer) error {
	if size != PackWeek && size != PackOrder || size == PackWeek && classID == "" {
		return errPackSize
	}
	made, err := tx.Read(ctx, p.Env, by, func(s store.Library) (pack.Pack, error) {
		return p.PackIn(ctx, s, classID, size)
	})
	if err != nil {
		return err
	}
	return pack.Write(w, made)
}

// PackIn is the carry pack inside a read of the library.
func (p Print) PackIn(ctx context.Context, s store.Library, classID string, size PackSize) (pack.Pack, error) {
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
	out := pack.Pack{Team: team.Name, Made: p.Env.Now(), Pictures: map[string]template.URL{}}
	out.Child, out.Adult, out.Bold = render.Fonts()
	keep := func(store.Card) bool { return true }
	if classID != "" {
		class, err := planning.ReadClass(ctx, s, classID, p.Env.Now())
		if err != nil {
			return out, err
		}
		out.Class = class.Name
		if size == PackWeek {
			keep = p.thisWeek(class, rows)
		}
	}
	for i, r := range rows {
		tx.ReportProgress(ctx, i, len(rows))
		if !keep(r) {
			continue
		}
		c, err := packCard(ctx, s, gather.AgreedRow(r, agreed), team.Conventions, letters)
		if err != nil {
			return out, err
		}
		out.Cards = append(out.Cards, c)
	}
	if err := packLessons(ctx, s, classID, &out); err != nil {
		return out, err
	}
	return out, p.packStage(ctx, s, team.Conventions, &out)
}

// packStage adds what the stage of the lessons shows beside the cards of the pack.
func (p Print) packStage(ctx context.Context, s store.Library, conv convention.Conventions, out *pack.Pack) error {
	st := pack.Stage{
		Mouths: map[string]mouth.Drawing{}, Contrasts: map[string]mouth.Drawing{}, Pictures: map[string]template.URL{},
		Sounds: map[string]template.URL{},
	}
	if st.Script, st.Style = p.Stage(); len(st.Script) == 0 {
		return nil
	}
	there := map[string]bool{}
	for _, c := range out.Cards {
		there[c.ID] = true
	}
	for _, l := range out.Lessons {
		for _, f := range l.Lesson.Faces() {
			if d, err := mouth.Draw(conv.Accent, f.Pair.Sound); err == nil {
				st.Mouths[f.ID] = d
			}
			if d, err := mouth.Draw(conv.Accent, f.Contrast); err == nil && f.Contrast != "" {
				st.Contrasts[f.ID] = d
			}
		}
		for id := range l.Lesson.Cards {
			if there[id] {
				continue
			}
			there[id] = true
			if err := packFace(ctx, s, id, &st); err != nil {
				return err
			}
		}
	}
	out.Stage = st
	return nil
}

// packFace adds the picture and the sound of a card that the pack does not hold; one that is gone has neither.
func packFace(ctx context.Context, s store.Library, id string, st *pack.Stage) error {
	r, err := s.Card(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	} else if err != nil {
		return err
	}
	if r.Content.Picture != "" {
		m, err := gather.Picture(ctx, s, r.Content.Picture)
		if err != nil {
			return err
		}
		st.Pictures[id] = pack.Data(m.MediaType, m.Bytes)
	}
	if r.TakeID == "" {
		return nil
	}
	sound, err := packedTake(ctx, s, r.TakeID)
	st.Sounds[id] = sound
	return err
}

func packedTake(ctx context.Context, s store.Library, takeID string) (template.URL, error) {
	master, err := sound.ReadMaster(ctx, s, takeID)
	if err != nil {
		return "", err
	}
	small, err := media.EncodeFLAC(master)
	return pack.Data("audio/flac", small), err
}

// thisWeek keeps what the class met in the last days and the next cards of the order.
func (p Print) thisWeek(class planning.ClassView, rows []store.Card) func(store.Card) bool {
	fresh := map[string]bool{}
	for _, c := range class.Cards {
		fresh[c.CardID] = recently(p.Env.Now(), c.LastMet, packMetDays)
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
	s store.Library,
	r store.Card,
	conv convention.Conventions,
	letters map[string]strokes.Letter,
) (pack.Card, error) {
	c := pack.Card{
		ID: r.CardID, Grapheme: r.Grapheme, Sound: r.Sound, Keyword: r.Content.Keyword,
		PictureAlt: r.Content.PictureAlt, Rhyme: r.Content.Rhyme, Short: r.Content.RhymeShort,
		Action: r.Content.Action, Cue: r.Content.MouthCue, Slip: r.Content.Slip, Words: r.Content.Words,
		Sentences: r.Content.Sentences, Step: r.Step,
	}
	// A sound without a drawing has its words.
	if d, err := mouth.Draw(r.Content.Conventions(conv).Accent, r.Sound); err == nil {
		c.Mouth = &d
	}
	if r.Content.Picture != "" {
		m, err := gather.Picture(ctx, s, r.Content.Picture)
		if err != nil {
			return c, err
		}
		c.Picture = pack.Data(m.MediaType, m.Bytes)
	}
	if r.TakeID != "" {
		sound, err := packedTake(ctx, s, r.TakeID)
		if err != nil {
			return c, err
		}
		c.Take = sound
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

func packLessons(ctx context.Context, s store.Library, classID string, p *pack.Pack) error {
	list, err := recentLesson(ctx, s, classID, packIntros)
	if err != nil {
		return err
	}
	for _, i := range list {
		made := pack.Lesson{ID: i.LessonID, Lesson: i.Snapshot, Class: i.ClassName, Made: i.CreatedAt}
		p.Lessons = append(p.Lessons, made)
		pictures, err := gather.LessonPictures(ctx, s, i.Snapshot)
		if err != nil {
			return err
		}
		for word, m := range pictures {
			p.Pictures[word] = pack.Data(m.MediaType, m.Bytes)
		}
	}
	return nil
}
