package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/library"
	"brightchalk/internal/tx"
)

type replacing struct {
	What string   `json:"what" maxLength:"120"`
	With string   `json:"with" maxLength:"120"`
	Keys []string `json:"keys" maxItems:"2000" doc:"of the places"`
}

type replaced struct {
	Places int `json:"places" doc:"that changed"`
}

func (s *server) stockCalls(api huma.API) {
	a := s.app.OwnWords
	call(s, api, route{
		id: "own-words", method: http.MethodGet, path: "/stock/words", tag: "stock",
		summary: "Words and names of the team's own, cut as the team says them",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]library.OwnWordView, error) {
		return a.Words(ctx, by)
	})
	call(s, api, route{
		id: "try-own-word", method: http.MethodPost, path: "/stock/words/try", tag: "stock",
		summary: "Cut a word with the sounds that are given, or by rule where none are",
		example: convention.OwnWord{Word: "Wharfside", Name: true},
	}, func(ctx context.Context, by tx.Actor, in *body[convention.OwnWord]) (library.TriedWord, error) {
		return a.Try(ctx, by, in.Body)
	})
	call(s, api, route{
		id: "put-own-word", method: http.MethodPut, path: "/stock/words", tag: "stock",
		summary: "Keep a word of the team's own, in the place of one that is written so",
		example: convention.OwnWord{Word: "Wharfside", Sounds: "wɔːfsaɪd", Name: true, Note: "the street of the school"},
	}, func(ctx context.Context, by tx.Actor, in *body[convention.OwnWord]) (done, error) {
		return ok(a.PutWord(ctx, by, in.Body))
	})
	call(s, api, route{
		id: "drop-own-word", method: http.MethodDelete, path: "/stock/words/{word}", tag: "stock",
		summary: "Let go of a word of the team's own",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Word string `path:"word" maxLength:"24"`
	},
	) (done, error) {
		return ok(a.DropWord(ctx, by, in.Word))
	})
	call(s, api, route{
		id: "uses", method: http.MethodGet, path: "/stock/uses", tag: "stock",
		summary: "Where a word or a wording stands whole in the library, and what would stand there with another one",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		What string `query:"what" required:"true" maxLength:"120"`
		With string `query:"with" maxLength:"120"`
	},
	) ([]library.Use, error) {
		return a.Uses(ctx, by, in.What, in.With)
	})
	call(s, api, route{
		id: "replace", method: http.MethodPost, path: "/stock/replace", tag: "stock",
		summary: "Put another wording in chosen places of the library",
		about:   "Cards change as drafts beside what is agreed. A place where the wording stands no more is passed over.",
		example: replacing{What: "Pip", With: "Moss", Keys: []string{"0b1e7a3c-6a53-4d0c-9f54-2f7d0a5f4a10 rhyme"}},
	}, func(ctx context.Context, by tx.Actor, in *body[replacing]) (replaced, error) {
		n, err := a.Replace(ctx, by, in.Body.What, in.Body.With, in.Body.Keys)
		return replaced{n}, err
	})
}
