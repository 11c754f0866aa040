package app

import (
	"context"
	"fmt"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/strokes"
)

type letterStore interface {
	letterReader
	PutLetter(ctx context.Context, by string, form strokes.Letter, now time.Time) error
	DropLetter(ctx context.Context, sign string) error
}

// Letters is the letter desk: how the team writes.
type Letters struct{ desk desk[letterStore] }

// LetterView is a letter or a group on the team's lines; a single letter comes with its points, to be changed.
type LetterView struct {
	strokes.Written
	Letter   *strokes.Letter   `json:"letter,omitempty"`
	Own      bool              `json:"own" doc:"the team's own form"`
	Findings []strokes.Finding `json:"findings" nullable:"false"`
	ByRule   []string          `json:"by_rule" nullable:"false" doc:"words for each stroke as the shape gives them"`
}

// MostLetters of a group or a word on the letter desk.
const MostLetters = 24

// writing is how the team writes: its lines and its own letters.
type writing struct {
	lines strokes.Lines
	own   map[string]strokes.Letter
}

func writingOf(ctx context.Context, s letterReader) (writing, error) {
	conv, err := conventionsOf(ctx, s)
	if err != nil {
		return writing{}, err
	}
	letters, err := s.OwnLetters(ctx)
	return writing{conv.Lines.OrCommon(), letters}, err
}

// write sets a text that somebody typed on the lines.
func (w writing) write(text string, words []string) (strokes.Written, error) {
	if n := len([]rune(text)); n == 0 || n > MostLetters {
		return strokes.Written{}, wrong("text", "Write one to %d letters.", MostLetters)
	}
	form, err := w.lines.Write(text, w.own, words)
	return form, fault.At("text", err)
}

// Write writes a text on the team's lines. words are those of a card, one for each stroke.
func (l Letters) Write(ctx context.Context, by Actor, text string, words []string) (LetterView, error) {
	return read(ctx, l.desk, by, func(s letterStore) (LetterView, error) {
		w, err := writingOf(ctx, s)
		if err != nil {
			return LetterView{}, err
		}
		form, err := w.write(text, words)
		if err != nil {
			return LetterView{}, err
		}
		v := LetterView{Written: form, Findings: []strokes.Finding{}}
		group, _ := w.lines.Group(text, w.own)
		v.ByRule = append([]string{}, w.lines.Words(group)...)
		if len([]rune(text)) == 1 {
			x, isOwn := w.own[text]
			if !isOwn {
				x, _ = strokes.Of(text)
			}
			v.Letter, v.Own = &x, isOwn
			v.Findings = append(v.Findings, w.lines.Geometry(w.lines.Form(x))...)
		}
		return v, nil
	})
}

// Show checks a letter as it is being drawn, without storing it.
func (l Letters) Show(ctx context.Context, by Actor, x strokes.Letter) (LetterView, error) {
	return read(ctx, l.desk, by, func(s letterStore) (LetterView, error) {
		if err := drawn(x); err != nil {
			return LetterView{}, err
		}
		w, err := writingOf(ctx, s)
		form := w.lines.Form(x)
		return LetterView{
			Written: w.lines.Show(x), Letter: &x, Own: true,
			Findings: append([]strokes.Finding{}, w.lines.Geometry(form)...),
			ByRule:   append([]string{}, w.lines.Words(form)...),
		}, err
	})
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

// Save makes a drawn letter the team's own. Geometry that a writer would stumble over is refused.
func (l Letters) Save(ctx context.Context, by Actor, x strokes.Letter) error {
	return change(ctx, l.desk, by, MayEdit, func(s letterStore) error {
		return putLetter(ctx, s, by, x, l.desk.now())
	})
}

func putLetter(ctx context.Context, s letterStore, by Actor, x strokes.Letter, now time.Time) error {
	if err := drawn(x); err != nil {
		return err
	}
	w, err := writingOf(ctx, s)
	if err != nil {
		return err
	}
	if found := w.lines.Geometry(x); len(found) > 0 {
		where := ""
		if found[0].Stroke >= 0 {
			where = fmt.Sprintf("stroke %d: ", found[0].Stroke+1)
		}
		return wrong("letter", "Not kept yet: %s%s", where, found[0].Text)
	}
	return s.PutLetter(ctx, by.MemberID, x, now)
}

// Reset goes back to the form that ships.
func (l Letters) Reset(ctx context.Context, by Actor, sign string) error {
	return change(ctx, l.desk, by, MayEdit, func(s letterStore) error { return s.DropLetter(ctx, sign) })
}
