package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

type textToCheck struct {
	ClassID string `json:"class_id" format:"uuid"`
	Text    string `json:"text" maxLength:"60000"`
}

type sentence struct {
	Text string `json:"text" maxLength:"400"`
}

type bankText struct {
	Kind string `json:"kind" enum:"sentence,page"`
	Body string `json:"body" maxLength:"8000"`
	Book string `json:"book,omitempty" required:"false" maxLength:"80" doc:"title of the book that a page is of"`
	Page int    `json:"page,omitempty" required:"false" minimum:"0" maximum:"999"`
}

func (s *server) textCalls(api huma.API) {
	a := s.app.Words
	call(s, api, route{
		id: "check-text", method: http.MethodPost, path: "/check-text", tag: "texts",
		summary: "Which words of a text a class can read",
		example: textToCheck{"6f1d2a34-5b6c-4d7e-8f90-a1b2c3d4e5f6", "The ship is in the lock."},
	}, func(ctx context.Context, by tx.Actor, in *body[textToCheck]) (teaching.CheckedText, error) {
		return a.Check(ctx, by, in.Body.ClassID, in.Body.Text)
	})
	call(s, api, route{
		id: "make-sentences", method: http.MethodGet, path: "/sentences", tag: "texts",
		summary: "Sentences made by rule that a class can read", about: "To be read by an adult before use.",
	}, func(ctx context.Context, by tx.Actor, in *FindIn) ([]teaching.MadeSentence, error) {
		return a.Sentences(ctx, by, in.query())
	})
	call(s, api, route{
		id: "chop", method: http.MethodPost, path: "/chop", tag: "texts",
		summary: "Cut a sentence into pieces to be put in order", example: sentence{"The ship is in the lock."},
	}, func(_ context.Context, _ tx.Actor, in *body[sentence]) ([]string, error) {
		return a.Chop(in.Body.Text)
	})
	call(s, api, route{
		id: "bank", method: http.MethodGet, path: "/bank", tag: "texts", summary: "The team's sentences and pages",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ClassID string `query:"class" doc:"may be empty"`
	},
	) ([]teaching.BankView, error) {
		return a.Bank(ctx, by, in.ClassID)
	})
	call(s, api, route{
		id:      "add-to-bank",
		method:  http.MethodPost,
		path:    "/bank",
		tag:     "texts",
		summary: "Keep a sentence or a page for the whole team",
		example: bankText{Kind: "sentence", Body: "The ship is in the lock."},
	}, func(ctx context.Context, by tx.Actor, in *body[bankText]) (created, error) {
		id, err := a.AddToBank(
			ctx,
			by,
			lesson.Text{Kind: in.Body.Kind, Body: in.Body.Body, Book: in.Body.Book, Page: in.Body.Page},
		)
		return created{id}, err
	})
	call(s, api, route{
		id: "archive-bank-text", method: http.MethodPut, path: "/bank/{id}/archived", tag: "texts",
		summary: "Take a text out of use, or bring it back", example: archiveBody{true},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[archiveBody]
	},
	) (done, error) {
		return ok(a.DropFromBank(ctx, by, in.ID, in.Body.Archived))
	})
}
