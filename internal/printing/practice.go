package printing

import (
	"context"
	"io"
	"slices"
	"strings"
	"unicode"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/library"
	"brightchalk/internal/planning"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// PracticeAsk is what a practice sheet is made of: letters, groups and words, and what is done with them.
type PracticeAsk struct {
	Text  string // parted by spaces or commas
	Do    []string
	Ring  string // a grapheme to ring in the words
	Paper render.Paper
}

// maxPractised is how many letters or words one practice sheet takes.
const maxPractised = 24

// Practice writes practice sheets of any letters and words on the team's lines. Letters that the team teaches as one
// grapheme are underlined as a group, anything else is written as a word.
func (p Print) Practice(ctx context.Context, by tx.Actor, ask PracticeAsk, w io.Writer) error {
	list := strings.FieldsFunc(ask.Text, func(r rune) bool { return r == ',' || unicode.IsSpace(r) })
	if len(list) == 0 || len(list) > maxPractised {
		return fault.In("text", "Write one to %d letters or words, with a space between them.", maxPractised)
	}
	ask.Ring = strings.TrimSpace(ask.Ring)
	if len([]rune(ask.Ring)) > library.MaxLetters {
		return fault.In("ring", "A spelling to ring has up to %d letters.", library.MaxLetters)
	}
	made, err := tx.Read(ctx, p.Env, by, func(s store.Library) (render.PracticeSheet, error) {
		return practised(ctx, s, list, &ask)
	})
	if err != nil {
		return err
	}
	return render.Practice(w, made, ask.Paper)
}

func practised(ctx context.Context, s store.Library, list []string, ask *PracticeAsk) (render.PracticeSheet, error) {
	out := render.PracticeSheet{Ring: ask.Ring}
	for _, what := range ask.Do {
		switch what {
		case "trace":
			out.Trace = true
		case "copy":
			out.Copy = true
		case "":
		default:
			return out, fault.In("do", "Choose trace, copy or both.")
		}
	}
	out.Trace = out.Trace || !out.Copy && out.Ring == ""
	team, err := s.Team(ctx)
	if err != nil {
		return out, err
	}
	ask.Paper = ask.Paper.Or(team.Conventions.Paper)
	own, err := library.ReadWriting(ctx, s)
	if err != nil {
		return out, err
	}
	out.HeightMM = own.Lines.HeightMM
	rows, err := s.Cards(ctx, false)
	if err != nil {
		return out, err
	}
	groups := map[string]bool{}
	for _, r := range rows {
		groups[r.Grapheme] = true
	}
	speech := team.Conventions.Speech()
	for _, text := range list {
		form, err := own.Write(text, nil)
		if err != nil {
			return out, err
		}
		form.Group = form.Group && groups[text]
		out.Forms = append(out.Forms, form)
		if seg, err := speech.Segment(text); err == nil &&
			slices.ContainsFunc(seg.Segments, func(g spelling.Segment) bool {
				return g.Grapheme == out.Ring
			}) {
			out.Rings++
		}
	}
	return out, nil
}

// Mat writes one page with all that a class knows, as it is agreed today.
func (p Print) Mat(ctx context.Context, by tx.Actor, classID string, paper render.Paper, w io.Writer) error {
	m, err := tx.Read(ctx, p.Env, by, func(s store.Library) (render.Mat, error) {
		team, err := s.Team(ctx)
		if err != nil {
			return render.Mat{}, err
		}
		paper = paper.Or(team.Conventions.Paper)
		class, err := planning.ReadClass(ctx, s, classID, p.Env.Now())
		if err != nil {
			return render.Mat{}, err
		}
		m := render.Mat{Class: class.Name}
		known := CardsAsk{}
		for _, c := range class.Cards {
			if c.Readable {
				known.IDs = append(known.IDs, c.CardID)
			}
		}
		if m.Faces, err = faces(ctx, s, known); err != nil {
			return m, err
		}
		var letters []string
		for _, f := range m.Faces {
			if len([]rune(f.Pair.Grapheme)) == 1 && !slices.Contains(letters, f.Pair.Grapheme) {
				letters = append(letters, f.Pair.Grapheme)
			}
		}
		m.Alike = render.Alike(letters)
		for _, word := range class.Words {
			if word.Known {
				m.Words = append(m.Words, word.Word)
			}
		}
		return m, nil
	})
	if err != nil {
		return err
	}
	return render.PrintMat(w, m, paper)
}
