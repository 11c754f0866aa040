package app

import (
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"context"
	"io"
	"strings"
)

// PrintSheet writes one sheet of an introduction, or with the name "all" every one of them. homeLine is the
// school's line in a family's language.
func (a *App) PrintSheet(
	ctx context.Context,
	by Actor,
	introductionID, sheet, homeLine string,
	paper render.Paper,
	w io.Writer,
) error {
	if len([]rune(homeLine)) > 300 {
		return wrong("line", "The line for families has up to 300 letters.")
	}
	in, err := a.Introduction(ctx, by, introductionID)
	if err != nil {
		return err
	}
	team, err := store.GetTeam(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	row, err := store.GetCard(ctx, a.Pool, by.TeamID, in.Lesson.CardID)
	if err != nil {
		return err
	}
	agreed, err := store.AgreedContents(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	content := withAgreed(row.Core(team.Conventions.Accent), agreed).Content
	h := render.Handout{
		Lesson:   in.Lesson,
		Card:     content,
		Pictures: map[string]render.Image{},
		HeightMM: team.Conventions.Lines.HeightMM,
		HomeLine: homeLine,
		Head:     render.PlanHead{Team: team.Name, Class: in.ClassName, Made: in.CreatedAt},
		IsVowel:  func(sound string) bool { return phoneme.IsVowel(phoneme.Phoneme(sound)) },
	}
	if m, err := a.Picture(ctx, by, content.Picture); err == nil {
		h.Picture = &render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
	}
	pictures, err := a.chosenPictures(ctx, by, in.Lesson)
	if err != nil {
		return err
	}
	for word, m := range pictures {
		h.Pictures[word] = render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
	}
	rings, err := a.Play(
		ctx,
		by,
		RingGame,
		FindQuery{ClassID: in.ClassID, CardID: in.Lesson.CardID, Seed: int(in.Lesson.Seed % 1_000_000)},
		"",
	)
	if err == nil { // too few words is no fault: that sheet is left out
		for _, r := range rings {
			h.Rings = append(h.Rings, render.RingWord{Word: r.Word, Letters: r.Mark})
		}
	}
	return render.Print(w, h, sheet, paper)
}

// PrintPractice writes a practice sheet of any letters on the team's lines.
func (a *App) PrintPractice(ctx context.Context, by Actor, text string, paper render.Paper, w io.Writer) error {
	lines, own, err := a.writing(ctx, by)
	if err != nil {
		return err
	}
	if n := len([]rune(text)); n == 0 || n > mostLetters {
		return wrong("text", "Write one to %d letters.", mostLetters)
	}
	form, err := lines.Write(text, own, nil)
	if err != nil {
		return wrong("text", "%s.", capital(err.Error()))
	}
	return render.Practice(w, []strokes.Written{form}, lines.HeightMM, paper)
}

// CardFaces are the cards to be printed, those named or with "all" every one, with the letters as the team writes
// them. A grapheme without strokes, or a split spelling, keeps the font.
func (a *App) CardFaces(ctx context.Context, by Actor, wanted func(cardID string) bool) ([]render.Face, error) {
	team, err := store.GetTeam(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	own, err := store.OwnLetters(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	cards, err := a.Wall(ctx, by, false)
	if err != nil {
		return nil, err
	}
	lines, out := team.Conventions.Lines, []render.Face{}
	for _, c := range cards {
		if !wanted(c.CardID) {
			continue
		}
		f := render.Face{
			Pair:      c.Pair,
			Keyword:   c.Keyword,
			Rhyme:     c.Rhyme,
			Action:    c.Action,
			Step:      c.Step,
			ShowUpper: team.Conventions.Capitals,
		}
		if m, err := a.Picture(ctx, by, c.Picture); err == nil {
			f.Picture = &render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
		}
		if upper := lines.Drawn(
			strings.ToUpper(c.Pair.Grapheme),
			own,
		); c.Drawn != nil && upper != nil && f.ShowUpper &&
			len(c.Pair.Grapheme) == 1 {
			f.Writing = append(f.Writing, *upper)
		}
		if c.Drawn != nil {
			f.Writing = append(f.Writing, *c.Drawn)
		}
		out = append(out, f)
	}
	return out, nil
}
