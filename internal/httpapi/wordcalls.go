package httpapi

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/app"
	"brightchalk/internal/core/words"
)

// FindIn is the finder's sentence as a query.
type FindIn struct {
	ClassID  string `query:"class" format:"uuid" required:"true"`
	CardID   string `query:"card" doc:"target, may be empty"`
	Position string `query:"position" enum:"any,initial,medial,final" default:"any"`
	Frame    string `query:"frame" maxLength:"8"`
	Pictures bool   `query:"pictures"`
	Seed     uint32 `query:"seed"`
}

func (f FindIn) query() app.FindQuery {
	return app.FindQuery{ClassID: f.ClassID, CardID: f.CardID, Frame: f.Frame, Position: words.Position(f.Position), WithPicture: f.Pictures}
}

func (s *server) wordCalls(api huma.API) {
	call(s, api, http.MethodGet, "/words", "find-words", func(ctx context.Context, by app.Actor, in *FindIn) (app.Found, error) {
		return s.app.FindWords(ctx, by, in.query())
	})
	call(s, api, http.MethodGet, "/made-up", "make-words", func(ctx context.Context, by app.Actor, in *FindIn) (app.Found, error) {
		return s.app.MakeWords(ctx, by, in.query(), uint64(in.Seed))
	})
	call(s, api, http.MethodGet, "/sort", "sort-game", func(ctx context.Context, by app.Actor, in *struct {
		Cards    string `query:"cards" maxLength:"400" doc:"card ids parted by commas"`
		Per      int    `query:"per" default:"4"`
		Position string `query:"position" enum:"initial,medial,final" default:"initial"`
		Seed     uint32 `query:"seed"`
	}) ([]words.Basket, error) {
		return s.app.SortGame(ctx, by, strings.Split(in.Cards, ","), in.Per, words.Position(in.Position), uint64(in.Seed))
	})
	call(s, api, http.MethodPost, "/check-text", "check-text", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			ClassID string `json:"class_id" format:"uuid"`
			Text    string `json:"text" maxLength:"60000"`
		}]
	}) (app.CheckedText, error) {
		return s.app.CheckText(ctx, by, in.Body.ClassID, in.Body.Text)
	})
}
