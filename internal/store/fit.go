package store

import (
	"context"
	"errors"
	"time"

	"brightchalk/internal/core/review"
)

type fitRow struct {
	Document []byte
	MadeAt   time.Time
}

var (
	fitGet  = query[fitRow]("fit_get")
	fitPut  = change("fit_put")
	fitDrop = change("fit_drop")
)

// Fit is the memory that was fitted to the team's logs, and when; nil where none was.
func (l Library) Fit(ctx context.Context) (*review.Fit, time.Time, error) {
	row, err := fitGet.one(ctx, l.db, l.with(nil))
	if errors.Is(err, ErrNotFound) {
		return nil, time.Time{}, nil
	}
	if err != nil {
		return nil, time.Time{}, err
	}
	f, err := review.FitDocuments.Read(row.Document)
	return &f, row.MadeAt, err
}

// PutFit keeps a fitted memory.
func (l Library) PutFit(ctx context.Context, f review.Fit, now time.Time) error {
	data, err := review.FitDocuments.Write(f)
	if err != nil {
		return err
	}
	return fitPut.run(ctx, l.db, l.with(args{"document": data, "now": now}))
}

// DropFit goes back to the usual memory.
func (l Library) DropFit(ctx context.Context) error {
	_, _, err := fitDrop.count(ctx, l.db, l.with(nil))
	return err
}
