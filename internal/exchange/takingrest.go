package exchange

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/gather"
	"brightchalk/internal/library"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
)

func (t *importer) letters(ctx context.Context, choice BundleChoice) error {
	for _, sign := range choice.Letters {
		form, ok := t.from.Library.Letters[sign]
		if !ok {
			continue
		}
		if form.Sign != sign {
			t.leave("the letter "+sign, errors.New("it is drawn for another sign"))
			continue
		}
		err := library.PutLetter(ctx, t.Library, t.by, form, t.now)
		if left := t.refused("the letter "+sign, err); left || err != nil {
			if left {
				continue
			}
			return err
		}
		t.out.Letters++
		if err := t.origin(ctx, store.OfLetter, sign, sign); err != nil {
			return err
		}
	}
	return nil
}

// refused tells whether an error is a refusal that a person can read, and notes it.
func (t *importer) refused(what string, err error) bool {
	var f *fault.Fault
	if !errors.As(err, &f) {
		return false
	}
	t.leave(what, err)
	return true
}

func (t *importer) pictures(ctx context.Context, choice BundleChoice) error {
	for _, p := range t.from.Library.Pictures {
		if !slices.Contains(choice.Pictures, p.Name) {
			continue
		}
		_, data, err := t.from.Named(p)
		if err != nil {
			continue // it was not in the bundle, or no picture; the findings tell
		}
		clean, err := media.CleanPicture(data)
		if err != nil {
			return err
		}
		raw, err := t.PutMedium(ctx, store.Medium{MediaType: clean.MediaType, Bytes: clean.Bytes})
		if err != nil {
			return err
		}
		sum := fmt.Sprintf("%x", raw)
		err = teaching.PutPicture(
			ctx,
			t.Library,
			t.by,
			store.NamedPicture{Name: p.Name, Others: p.Others, Picture: sum},
			t.now,
		)
		if t.refused("the picture of "+p.Name, err) {
			continue
		}
		if err != nil {
			return err
		}
		t.out.Pictures++
		if err := t.origin(ctx, store.OfMedium, sum, p.SHA256); err != nil {
			return err
		}
	}
	return nil
}

func (t *importer) texts(ctx context.Context, choice BundleChoice) error {
	if !choice.Texts {
		return nil
	}
	have, err := t.Bank(ctx)
	if err != nil {
		return err
	}
	for _, x := range t.from.Library.Bank {
		if slices.ContainsFunc(have, func(h store.BankText) bool { return h.Body == x.Body }) {
			continue
		}
		id, err := teaching.AddText(ctx, t.Library, t.by, x, t.now.Add(time.Duration(t.out.Texts)*time.Millisecond))
		if t.refused("“"+x.Body+"”", err) {
			continue
		}
		if err != nil {
			return err
		}
		have = append(have, store.BankText{Body: x.Body})
		t.out.Texts++
		if err := t.origin(ctx, store.OfText, id, x.Body); err != nil {
			return err
		}
	}
	return nil
}

// readOwnLibrary is the library that a bundle is held against.
func readOwnLibrary(ctx context.Context, s store.Library) (bundle.Mine, error) {
	m := bundle.Mine{Routines: map[lesson.Purpose]lesson.Routine{}, Takes: map[string]string{}}
	var err error
	if m.Conventions, err = gather.Conventions(ctx, s); err != nil {
		return m, err
	}
	rows, err := s.Cards(ctx, false)
	if err != nil {
		return m, err
	}
	for _, r := range rows {
		_, c := gather.CardInAccent(m.Conventions, r)
		m.Cards = append(m.Cards, c)
	}
	takes, err := s.ChosenTakes(ctx)
	if err != nil {
		return m, err
	}
	for _, t := range takes {
		m.Takes[t.CardID] = fmt.Sprintf("%x", t.SHA256)
	}
	routines, err := s.Routines(ctx)
	if err != nil {
		return m, err
	}
	for _, r := range routines {
		if r.ClassID == "" {
			m.Routines[r.Purpose] = r.Routine
		}
	}
	bank, err := s.Bank(ctx)
	if err != nil {
		return m, err
	}
	m.Bank = gather.LessonTexts(bank)
	if m.Letters, err = s.OwnLetters(ctx); err != nil {
		return m, err
	}
	named, err := s.NamedPictures(ctx)
	for _, n := range named {
		m.Pictures = append(m.Pictures, bundle.Picture{Name: n.Name, Others: n.Others, SHA256: n.Picture})
	}
	return m, err
}
