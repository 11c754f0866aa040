package store

import (
	"context"
	"time"

	"brightchalk/internal/core/strokes"
)

type letterRow struct{ Form []byte }

var (
	letterList = query[letterRow]("letter_list")
	letterPut  = change("letter_put")
	letterDrop = change("letter_drop")
)

// OwnLetters are the team's own forms of letters, by sign.
func (l Library) OwnLetters(ctx context.Context) (map[string]strokes.Letter, error) {
	rows, err := letterList.many(ctx, l.db, l.with(nil))
	if err != nil {
		return nil, err
	}
	out := map[string]strokes.Letter{}
	for _, r := range rows {
		form, err := strokes.LetterDocuments.Read(r.Form)
		if err != nil {
			return nil, err
		}
		out[form.Sign] = form
	}
	return out, nil
}

// PutLetter stores the team's own form of a sign.
func (l Library) PutLetter(ctx context.Context, by string, form strokes.Letter, now time.Time) error {
	document, err := strokes.LetterDocuments.Write(form)
	if err != nil {
		return err
	}
	return letterPut.run(ctx, l.db, l.with(args{
		"sign": form.Sign, "form": document, "by": nullable(by), "now": now,
	}))
}

// DropLetter goes back to the form that ships.
func (l Library) DropLetter(ctx context.Context, sign string) error {
	return letterDrop.run(ctx, l.db, l.with(args{"sign": sign}))
}
