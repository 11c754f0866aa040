package planning

import (
	"cmp"
	"context"
	"slices"

	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/year"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// BookPage is a page of a book, and from when on a class can read it.
type BookPage struct {
	TextID string    `json:"text_id" format:"uuid"`
	Page   int       `json:"page" doc:"0 where none is told"`
	Body   string    `json:"body"`
	Now    bool      `json:"now" doc:"the class can read it today"`
	From   year.Date `json:"from" doc:"Monday of the week from which on, by the plan; empty where it can now, or not within the plan"`
	Lacks  []string  `json:"lacks" doc:"pairs that it needs and the class does not have today"`
}

// Book is a reading book of the school, page by page. From is that of its last page to be readable.
type Book struct {
	Title string     `json:"title"`
	Pages []BookPage `json:"pages"`
	Ready int        `json:"ready" doc:"pages that the class can read today"`
	From  year.Date  `json:"from" doc:"Monday of the week from which on all of it can be read, by the plan; empty as in a page"`
}

// Books lists the school's reading books with the week from which on a class can read each page, as planned.
func (y Years) Books(ctx context.Context, by tx.Actor, classID string) ([]Book, error) {
	var bank []store.BankText
	k, err := tx.Read(ctx, y.Env, by, func(s store.Library) (schedule, error) {
		all, err := s.Bank(ctx)
		if err != nil {
			return schedule{}, err
		}
		for _, t := range all {
			if t.Book != "" {
				bank = append(bank, t)
			}
		}
		return y.schedule(ctx, s, classID)
	})
	if err != nil {
		return nil, err
	}
	f, err := k.forecast(WhatIf{}, bank)
	if err != nil {
		return nil, err
	}
	from := map[string]year.Date{}
	for _, w := range f.Weeks {
		for _, id := range w.Texts {
			from[id] = w.Monday
		}
	}
	out := []Book{}
	for _, t := range bank {
		i := slices.IndexFunc(out, func(b Book) bool { return b.Title == t.Book })
		if i < 0 {
			i = len(out)
			out = append(out, Book{Title: t.Book, Pages: []BookPage{}})
		}
		out[i].add(k, t, from[t.TextID])
	}
	slices.SortStableFunc(out, func(a, b Book) int { return cmp.Compare(a.when(), b.when()) })
	return out, nil
}

func (b *Book) add(k schedule, t store.BankText, from year.Date) {
	p := BookPage{TextID: t.TextID, Page: t.Page, Body: t.Body, From: from, Lacks: []string{}}
	r := texts.Check(t.Body, k.known.Pairs, k.known.Exceptions, k.conv.Speech())
	p.Now = r.Decodable >= 1
	for _, token := range r.Tokens {
		for _, pair := range token.Untaught {
			if !slices.Contains(p.Lacks, pair) {
				p.Lacks = append(p.Lacks, pair)
			}
		}
	}
	if p.Now {
		b.Ready++
	}
	b.Pages = append(b.Pages, p)
	b.From = ""
	for _, x := range b.Pages {
		if !x.Now && x.From == "" {
			b.From = ""
			return
		}
		b.From = max(b.From, x.From)
	}
}

// when orders books: those that can be read today, then by their weeks, then those outside the plan.
func (b Book) when() string {
	switch {
	case b.Ready == len(b.Pages):
		return ""
	case b.From == "":
		return "9"
	}
	return string(b.From)
}
