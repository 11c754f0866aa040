package httpapi

import (
	"context"
	"crypto/subtle"
	"encoding/base64"
	"encoding/json"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/people"
	"brightchalk/internal/provider"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// What a way to the provider is for.
const (
	waySignIn  = "sign-in"
	wayJoin    = "join"
	wayConnect = "connect"
)

type wayAsk struct {
	Purpose string `json:"purpose" enum:"sign-in,join,connect" doc:"come in; use an invitation; connect the account of the session"`
	Secret  string `json:"secret,omitempty" required:"false" maxLength:"100" doc:"of the invitation, for join"`
	Name    string `json:"name,omitempty" required:"false" maxLength:"100" doc:"of somebody new, for join"`
}

type wayStart struct {
	Address string `json:"address" format:"uri" doc:"of the provider: the browser goes there"`
}

type wayBack struct {
	Code  string `json:"code" maxLength:"4000" doc:"what the provider gave the browser"`
	State string `json:"state" maxLength:"200"`
}

type wayEnd struct {
	Purpose string `json:"purpose" enum:"sign-in,join,connect"`
}

type signInWays struct {
	Provider string `json:"provider" doc:"name of the provider of sign-ins, empty for none"`
}

// wayCookie is what the browser keeps between the way out and the way back. Nobody else can set or read it, so that
// nobody can finish a way in it that another one began.
type wayCookie struct {
	wayAsk
	provider.Way
}

const wayLifetime = 15 * time.Minute

func (o Options) wayCookieName() string {
	if o.PlainCookies {
		return cookieName + "_way"
	}
	return secureCookie + "_way"
}

// noteWay keeps a way in the browser, or takes it away.
func (s *server) noteWay(ctx context.Context, way *wayCookie) error {
	c := http.Cookie{
		Name:     s.wayCookieName(),
		Path:     "/",
		HttpOnly: true,
		Secure:   !s.PlainCookies,
		SameSite: http.SameSiteLaxMode,
		MaxAge:   -1,
	}
	if way != nil {
		data, err := json.Marshal(way)
		if err != nil {
			return err
		}
		c.Value, c.MaxAge = base64.RawURLEncoding.EncodeToString(data), int(wayLifetime.Seconds())
	}
	http.SetCookie(visitFrom(ctx).w, &c)
	return nil
}

// readSignInState is the way that the browser began, and comes back from with a state.
func readSignInState(ctx context.Context, state string) (wayCookie, error) {
	var way wayCookie
	data, err := base64.RawURLEncoding.DecodeString(visitFrom(ctx).way)
	if err == nil {
		err = json.Unmarshal(data, &way)
	}
	if err != nil || way.State == "" || subtle.ConstantTimeCompare([]byte(way.State), []byte(state)) != 1 {
		return way, newProblem(http.StatusConflict, "other-way",
			"This browser did not begin that sign-in, or too long ago. Begin again.")
	}
	return way, nil
}

func (s *server) providerCalls(everybody, members huma.API) {
	ways := route{
		id: "sign-in-ways", method: http.MethodGet, path: "/session/ways", tag: "session",
		summary: "How one can sign in beside a password", open: true,
	}
	huma.Register(everybody, ways.operation(), func(context.Context, *nothing) (*body[signInWays], error) {
		out := signInWays{}
		if s.Provider != nil {
			out.Provider = s.Provider.Name()
		}
		return &body[signInWays]{out}, nil
	})
	begin := route{
		id: "begin-by-provider", method: http.MethodPost, path: "/session/provider", tag: "session",
		summary: "Begin a sign-in by the provider (OpenID Connect)", open: true,
		about:   "Sets a cookie by which the same browser finishes it within a quarter of an hour.",
		example: wayAsk{Purpose: waySignIn},
	}
	huma.Register(everybody, begin.operation(), func(ctx context.Context, in *body[wayAsk]) (*body[wayStart], error) {
		out, err := s.beginWay(ctx, in.Body)
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &body[wayStart]{out}, nil
	})
	begin.describe(everybody)
	finish := route{
		id: "finish-by-provider", method: http.MethodPut, path: "/session/provider", tag: "session",
		summary: "Finish a sign-in by the provider", open: true,
		about:   "Sets the cookie of the session. The code and the state are what the provider sent the browser back with.",
		example: wayBack{Code: "SplxlOBeZQQYbYS6WxSbIA", State: "af0ifjsldkj"},
	}
	huma.Register(everybody, finish.operation(), func(ctx context.Context, in *body[wayBack]) (*body[wayEnd], error) {
		out, err := s.finishWay(ctx, in.Body)
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &body[wayEnd]{out}, nil
	})
	finish.describe(everybody)
	call(s, members, route{
		id: "own-provider", method: http.MethodGet, path: "/session/provider", tag: "session",
		summary: "Whether the own account is connected with the provider",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (people.ConnectedView, error) {
		if s.Provider == nil {
			return people.ConnectedView{Password: true}, nil
		}
		return s.app.Accounts.Connected(ctx, by, s.Provider.Issuer())
	})
	call(s, members, route{
		id: "leave-provider", method: http.MethodDelete, path: "/session/provider", tag: "session",
		summary: "Sign in by the provider no more", about: "Whoever has no password keeps it.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (done, error) {
		if s.Provider == nil {
			return done{}, errNoProvider
		}
		return ok(s.app.Accounts.Disconnect(ctx, by, s.Provider.Issuer(), s.Provider.Name(), visitFrom(ctx).address))
	})
}

var errNoProvider = newProblem(http.StatusNotFound, codeNotFound, "No provider of sign-ins is set up here.")

// providerProblem says what a provider's failure means for whoever signs in.
func providerProblem(err error) error {
	switch {
	case errors.Is(err, provider.ErrAway):
		return newProblem(http.StatusServiceUnavailable, "provider-away",
			"The sign-in of your school does not answer. Try again, or use your password.")
	case errors.Is(err, provider.ErrRefused):
		return newProblem(http.StatusForbidden, "provider-refused",
			"The sign-in of your school did not say who you are. Begin again.")
	}
	return err
}

func (s *server) beginWay(ctx context.Context, ask wayAsk) (wayStart, error) {
	if s.Provider == nil {
		return wayStart{}, errNoProvider
	}
	way := wayCookie{ask, provider.NewWay()}
	address, err := s.Provider.Begin(ctx, way.Way)
	if err != nil {
		s.Log.Warn("sign-in by the provider", "error", err)
		return wayStart{}, providerProblem(err)
	}
	return wayStart{address}, s.noteWay(ctx, &way)
}

func (s *server) finishWay(ctx context.Context, back wayBack) (wayEnd, error) {
	if s.Provider == nil {
		return wayEnd{}, errNoProvider
	}
	way, err := readSignInState(ctx, back.State)
	if err != nil {
		return wayEnd{}, err
	}
	if err := s.noteWay(ctx, nil); err != nil { // one try
		return wayEnd{}, err
	}
	person, err := s.Provider.Finish(ctx, way.Way, back.Code)
	if err != nil {
		s.Log.Warn("sign-in by the provider", "error", err)
		return wayEnd{}, providerProblem(err)
	}
	v := people.ProviderIdentity{
		Identity: store.Identity{Issuer: person.Issuer, Subject: person.Subject},
		Email:    person.Email, Name: s.Provider.Name(),
	}
	address, a := visitFrom(ctx).address, s.app.Accounts
	if way.Purpose == wayConnect {
		by, _, err := s.member(ctx)
		if err != nil {
			return wayEnd{}, newProblem(http.StatusUnauthorized, codeSignIn, "Please sign in.")
		}
		if s.phonePass(ctx).pass != "" { // a phone that somebody lent must not become a way into the account
			return wayEnd{}, newProblem(http.StatusForbidden, codeForbidden, deskAlone)
		}
		return wayEnd{way.Purpose}, a.Connect(ctx, by, v, address)
	}
	var who tx.Actor
	if way.Purpose == wayJoin {
		who, err = a.JoinByProvider(ctx, way.Secret, way.Name, address, v)
	} else {
		who, err = a.ByProvider(ctx, v, address)
	}
	if err != nil {
		return wayEnd{}, err
	}
	return wayEnd{way.Purpose}, s.begin(ctx, who)
}
