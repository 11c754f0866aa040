package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

type me struct {
	tx.Actor
	Rights      []tx.Right             `json:"rights" enum:"edit,agree,record,choose,teach,talk"`
	Team        string                 `json:"team"`
	Teams       []store.Seat           `json:"teams" doc:"in which the person works, this one too"`
	Conventions convention.Conventions `json:"conventions"`
	Desk        string                 `json:"desk,omitempty" doc:"id of the lesson whose desk this phone is, and of nothing else"`
}

type credentials struct {
	Email    string `json:"email" maxLength:"200"`
	Password string `json:"password" maxLength:"200"`
	Code     string `json:"code,omitempty" required:"false" maxLength:"20" doc:"of the second step, where the member wants one"`
}

type passwords struct {
	Current string `json:"current" maxLength:"200"`
	Next    string `json:"next" maxLength:"200" doc:"12 signs or more"`
}

type seat struct {
	MemberID string `json:"member_id" format:"uuid" doc:"the person in the other team"`
}

func (s *server) sessionCalls(everybody, members huma.API) {
	signIn := route{
		id: "sign-in", method: http.MethodPost, path: "/session", tag: "session", summary: "Sign in",
		about: "Sets the cookie of the session. After too many failures of an account, or from an address of the network, " +
			"it answers 429 for a while. Where the member wants a second step it answers 422 with the code second-step " +
			"until the code of the app comes along.",
		example: credentials{Email: "lead@lockhouse.example", Password: "lantern on the towpath"}, open: true,
	}
	o := signIn.operation()
	o.Errors = append(o.Errors, http.StatusTooManyRequests)
	huma.Register(everybody, o, func(ctx context.Context, in *body[credentials]) (*body[done], error) {
		attempt := people.SignInAttempt{
			Email: in.Body.Email, Password: in.Body.Password, Address: visitFrom(ctx).address, Code: in.Body.Code,
		}
		who, err := s.app.Accounts.SignIn(ctx, attempt)
		if err == nil {
			err = s.begin(ctx, who)
		}
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &body[done]{done{true}}, nil
	})
	signIn.describe(everybody)
	demo := route{
		id: "demo-sign-ins", method: http.MethodGet, path: "/demo", tag: "session",
		summary: "Sign-ins of the demo team, none in a real one", open: true,
	}
	huma.Register(everybody, demo.operation(), func(context.Context, *nothing) (*body[[]people.DemoSignIn], error) {
		return &body[[]people.DemoSignIn]{append([]people.DemoSignIn{}, s.Demo...)}, nil
	})
	call(s, members, route{
		id: "me", method: http.MethodGet, path: "/session", tag: "session",
		summary: "Who is signed in, with the team and its conventions",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (me, error) {
		t, err := s.app.Settings.Team(ctx, by)
		if err != nil {
			return me{}, err
		}
		if lesson := s.phonePass(ctx).lesson; lesson != "" { // a phone need not know where else somebody works
			return me{by, by.Rights(), t.Name, []store.Seat{}, t.Conventions, lesson}, nil
		}
		teams, err := s.app.Accounts.Seats(ctx, by)
		return me{by, by.Rights(), t.Name, teams, t.Conventions, ""}, err
	})
	call(s, members, route{
		id: "switch-team", method: http.MethodPut, path: "/session/team", tag: "session",
		summary: "Go on in another one of the own teams",
		about:   "The session becomes one of that team. The next sign-in leads there too.",
		example: seat{"00000000-0000-0000-0000-000000000000"},
	}, func(ctx context.Context, by tx.Actor, in *body[seat]) (done, error) {
		who, err := s.app.Accounts.Switch(ctx, by, in.Body.MemberID, visitFrom(ctx).address)
		if err != nil {
			return done{}, err
		}
		return ok(s.begin(ctx, who))
	})
	call(s, members, route{
		id: "sign-out", method: http.MethodDelete, path: "/session", tag: "session", summary: "Sign out",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (done, error) {
		if err := s.end(ctx); err != nil {
			return done{}, err
		}
		return ok(s.app.Accounts.SignOut(ctx, by, visitFrom(ctx).address))
	})
	call(s, members, route{
		id: "change-password", method: http.MethodPut, path: "/session/password", tag: "session",
		summary: "Change the own password", about: "The other sessions of the account end.",
		example: passwords{"lantern on the towpath", "heron under the bridge"},
	}, func(ctx context.Context, by tx.Actor, in *body[passwords]) (done, error) {
		who, err := s.app.Accounts.ChangePassword(ctx, by, visitFrom(ctx).address, in.Body.Current, in.Body.Next)
		if err != nil {
			return done{}, err
		}
		return ok(s.begin(ctx, who))
	})
}
