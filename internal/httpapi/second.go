package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/people"
	"brightchalk/internal/tx"
)

type firstCode struct {
	Code string `json:"code" maxLength:"20"`
}

type spareCodes struct {
	Spare []string `json:"spare" doc:"good once each; shown now and never again"`
}

type ownPassword struct {
	Password string `json:"password" maxLength:"200" doc:"one's own; not asked for another account"`
}

func (s *server) secondCalls(members huma.API) {
	a := s.app.Accounts
	call(s, members, route{
		id: "second-step", method: http.MethodGet, path: "/session/second", tag: "session",
		summary: "Whether a code is asked for at the own sign-in",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (people.SecondView, error) {
		return a.Second(ctx, by)
	})
	call(s, members, route{
		id: "begin-second-step", method: http.MethodPost, path: "/session/second", tag: "session",
		summary: "Make a secret from which an app makes codes (RFC 6238)",
		about:   "Nothing is asked for before a first right code was given.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (people.SecondSecret, error) {
		return a.BeginSecond(ctx, by)
	})
	call(s, members, route{
		id: "confirm-second-step", method: http.MethodPut, path: "/session/second", tag: "session",
		summary: "Ask for a code at each sign-in from now on", example: firstCode{"123456"},
	}, func(ctx context.Context, by tx.Actor, in *body[firstCode]) (spareCodes, error) {
		spare, err := a.ConfirmSecond(ctx, by, visitFrom(ctx).address, in.Body.Code)
		return spareCodes{spare}, err
	})
	call(s, members, route{
		id: "drop-second-step", method: http.MethodPut, path: "/members/{id}/second/off", tag: "people",
		summary: "Ask for no code any more: for oneself with the password, for others a lead may",
		example: ownPassword{"lantern on the towpath"},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[ownPassword]
	},
	) (done, error) {
		return ok(a.DropSecond(ctx, by, in.ID, in.Body.Password, visitFrom(ctx).address))
	})
}
