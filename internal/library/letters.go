package library

import (
	"context"
	"fmt"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Letters is the letter Env: how the team writes.
type Letters struct{ Env tx.Env }

// LetterView is a letter or a group on the team's lines; a single letter comes with its points, to be changed.
type LetterView struct {
	strokes.Written
	Letter   *strokes.Letter   `json:"letter,omitempty"`
	Own      bool              `json:"own" doc:"the team's own form"`
	Findings []strokes.Finding `json:"findings"`
	ByRule   []string          `json:"by_rule" doc:"words for each stroke as the shape gives them"`
}

// MaxLetters is the longest group or word, in letters, that is written with strokes.
const MaxLetters = 24

// Writing is how the team writes: its lines and its own letters.
type Writing struct {
	Lines strokes.Lines
	own   map[string]strokes.Letter
}

// ReadWriting returns how the team writes.
func ReadWriting(ctx context.Context, s store.Library) (Writing, error) {
	conv, err := gather.Conventions(ctx, s)
	if err != nil {
		return Writing{}, err
	}
	letters, err := s.OwnLetters(ctx)
	return Writing{conv.Lines.OrCommon(), letters}, err
}

// Write returns the strokes of a text. before, if not nil, replaces one of the team's letters.
func (w Writing) Write(text string, words []string) (strokes.Written, error) {
	if n := len([]rune(text)); n == 0 || n > MaxLetters {
		return strokes.Written{}, fault.In("text", "Write one to %d letters.", MaxLetters)
	}
	form, err := w.Lines.Write(text, w.own, words)
	return form, fault.At("text", err)
}

// Write writes a text on the team's lines. words are those of a card, one for each stroke.
func (l Letters) Write(ctx context.Context, by tx.Actor, text string, words []string) (LetterView, error) {
	return tx.Read(ctx, l.Env, by, func(s store.Library) (LetterView, error) {
		w, err := ReadWriting(ctx, s)
		if err != nil {
			return LetterView{}, err
		}
		form, err := w.Write(text, words)
		if err != nil {
			return LetterView{}, err
		}
		v := LetterView{Written: form, Findings: []strokes.Finding{}}
		group, _ := w.Lines.Group(text, w.own)
		v.ByRule = append([]string{}, w.Lines.Words(group)...)
		if len([]rune(text)) == 1 {
			x, isOwn := w.own[text]
			if !isOwn {
				x, _ = strokes.Of(text)
			}
			v.Letter, v.Own = &x, isOwn
			v.Findings = append(v.Findings, w.Lines.Geometry(w.Lines.Form(x))...)
		}
		return v, nil
	})
}

// Show checks a letter as it is being drawn, without storing it.
func (l Letters) Show(ctx context.Context, by tx.Actor, x strokes.Letter) (LetterView, error) {
	return tx.Read(ctx, l.Env, by, func(s store.Library) (LetterView, error) {
		if err := drawn(x); err != nil {
			return LetterView{}, err
		}
		w, err := ReadWriting(ctx, s)
		form := w.Lines.Form(x)
		return LetterView{
			Written: w.Lines.Show(x), Letter: &x, Own: true,
			Findings: append([]strokes.Finding{}, w.Lines.Geometry(form)...),
			ByRule:   append([]string{}, w.Lines.Words(form)...),
		}, err
	})
}

const (
	maxStrokes  = 8
	maxSegments = 24
)

func drawn(x strokes.Letter) error {
	if len([]rune(x.Sign)) != 1 || len(x.Strokes) == 0 || len(x.Strokes) > maxStrokes {
		return fault.In("letter", "A letter has one sign and one to %d strokes.", maxStrokes)
	}
	for _, s := range x.Strokes {
		if len(s.Segments) > maxSegments {
			return fault.In("letter", "A stroke has up to %d parts.", maxSegments)
		}
	}
	return nil
}

// Save makes a drawn letter the team's own. Geometry that a writer would stumble over is refused.
func (l Letters) Save(ctx context.Context, by tx.Actor, x strokes.Letter) error {
	return tx.Exec(ctx, l.Env, by, tx.MayEdit, func(s store.Library) error {
		return PutLetter(ctx, s, by, x, l.Env.Now())
	})
}

// PutLetter stores a letter of the team's own.
func PutLetter(ctx context.Context, s store.Library, by tx.Actor, x strokes.Letter, now time.Time) error {
	if err := drawn(x); err != nil {
		return err
	}
	w, err := ReadWriting(ctx, s)
	if err != nil {
		return err
	}
	if found := w.Lines.Geometry(x); len(found) > 0 {
		where := ""
		if found[0].Stroke >= 0 {
			where = fmt.Sprintf("stroke %d: ", found[0].Stroke+1)
		}
		return fault.In("letter", "Not kept yet: %s%s", where, found[0].Text)
	}
	return s.PutLetter(ctx, by.MemberID, x, now)
}

// Reset goes back to the form that ships.
func (l Letters) Reset(ctx context.Context, by tx.Actor, sign string) error {
	return tx.Exec(ctx, l.Env, by, tx.MayEdit, func(s store.Library) error { return s.DropLetter(ctx, sign) })
}
