package app

import (
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/store"
	"context"
	"fmt"
)

// LetterView is a letter or a group on the team's lines; a single letter comes with its points, to be changed.
type LetterView struct {
	strokes.Written
	Letter   *strokes.Letter   `json:"letter,omitempty"`
	Own      bool              `json:"own"` // the team's own form
	Findings []strokes.Finding `json:"findings"`
	ByRule   []string          `json:"by_rule"` // words for each stroke as the shape gives them
}

// mostLetters of a group or a word on the letter desk.
const mostLetters = 24

// Letters writes a text on the team's lines. words are those of a card, one for each stroke.
func (a *App) Letters(ctx context.Context, by Actor, text string, words []string) (LetterView, error) {
	lines, own, err := a.writing(ctx, by)
	if err != nil {
		return LetterView{}, err
	}
	if n := len([]rune(text)); n == 0 || n > mostLetters {
		return LetterView{}, wrong("text", "Write one to %d letters.", mostLetters)
	}
	w, err := lines.Write(text, own, words)
	if err != nil {
		return LetterView{}, wrong("text", "%s: draw it on the letter desk first, or leave it out.", capital(err.Error()))
	}
	v := LetterView{Written: w, Findings: []strokes.Finding{}}
	group, _ := lines.Group(text, own)
	v.ByRule = lines.Words(group)
	if len([]rune(text)) == 1 {
		x, isOwn := own[text]
		if !isOwn {
			x, _ = strokes.Of(text)
		}
		v.Letter, v.Own, v.Findings = &x, isOwn, lines.Geometry(lines.Form(x))
	}
	return v, nil
}

// ShowLetter checks a letter as it is being drawn, without storing it.
func (a *App) ShowLetter(ctx context.Context, by Actor, x strokes.Letter) (LetterView, error) {
	lines, _, err := a.writing(ctx, by)
	if err != nil {
		return LetterView{}, err
	}
	if err := drawn(x); err != nil {
		return LetterView{}, err
	}
	return LetterView{
		Written:  lines.Show(x),
		Letter:   &x,
		Own:      true,
		Findings: lines.Geometry(lines.Form(x)),
		ByRule:   lines.Words(lines.Form(x)),
	}, nil
}

const (
	mostStrokes  = 8
	mostSegments = 24
)

func drawn(x strokes.Letter) error {
	if len([]rune(x.Sign)) != 1 || len(x.Strokes) == 0 || len(x.Strokes) > mostStrokes {
		return wrong("letter", "A letter has one sign and one to %d strokes.", mostStrokes)
	}
	for _, s := range x.Strokes {
		if len(s.Segments) > mostSegments {
			return wrong("letter", "A stroke has up to %d parts.", mostSegments)
		}
	}
	return nil
}

// SaveLetter makes a drawn letter the team's own. Geometry that a writer would stumble over is refused.
func (a *App) SaveLetter(ctx context.Context, by Actor, x strokes.Letter) error {
	if err := by.need(MayEdit); err != nil {
		return err
	}
	if err := drawn(x); err != nil {
		return err
	}
	lines, _, err := a.writing(ctx, by)
	if err != nil {
		return err
	}
	if found := lines.Geometry(x); len(found) > 0 {
		where := ""
		if found[0].Stroke >= 0 {
			where = fmt.Sprintf("stroke %d: ", found[0].Stroke+1)
		}
		return wrong("letter", "Not kept yet: %s%s", where, found[0].Text)
	}
	return store.PutLetter(ctx, a.Pool, by.TeamID, by.MemberID, x, a.Now())
}

// ResetLetter goes back to the form that ships.
func (a *App) ResetLetter(ctx context.Context, by Actor, sign string) error {
	if err := by.need(MayEdit); err != nil {
		return err
	}
	return store.DropLetter(ctx, a.Pool, by.TeamID, sign)
}

// writing is how the team writes: its lines and its own letters.
func (a *App) writing(ctx context.Context, by Actor) (strokes.Lines, map[string]strokes.Letter, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return strokes.Lines{}, nil, err
	}
	own, err := store.OwnLetters(ctx, a.Pool, by.TeamID)
	return conv.Lines.OrCommon(), own, err
}
