package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/strokes"
	"brightchalk/internal/library"
	"brightchalk/internal/tx"
)

func (s *server) letterCalls(api huma.API) {
	a := s.app.Letters
	example, _ := strokes.Of("l")
	call(s, api, route{
		id: "letters", method: http.MethodGet, path: "/letters", tag: "letters",
		summary: "Write a letter or a group on the team's lines",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Text  string   `query:"text" maxLength:"40"`
		Words []string `query:"words,explode" maxItems:"12" doc:"the card's words, one for each stroke"`
	},
	) (library.LetterView, error) {
		return a.Write(ctx, by, in.Text, in.Words)
	})
	call(s, api, route{
		id: "show-letter", method: http.MethodPost, path: "/letters/show", tag: "letters",
		summary: "Check a letter as it is being drawn", about: "Nothing is stored.", example: example,
	}, func(ctx context.Context, by tx.Actor, in *body[strokes.Letter]) (library.LetterView, error) {
		return a.Show(ctx, by, in.Body)
	})
	call(s, api, route{
		id: "save-letter", method: http.MethodPut, path: "/letters", tag: "letters",
		summary: "Make a drawn letter the team's own", example: example,
	}, func(ctx context.Context, by tx.Actor, in *body[strokes.Letter]) (done, error) {
		return ok(a.Save(ctx, by, in.Body))
	})
	call(s, api, route{
		id: "reset-letter", method: http.MethodDelete, path: "/letters", tag: "letters",
		summary: "Go back to the form that ships",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Sign string `query:"sign" maxLength:"4"`
	},
	) (done, error) {
		return ok(a.Reset(ctx, by, in.Sign))
	})
}
