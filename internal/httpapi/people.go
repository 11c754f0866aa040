package httpapi

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

type linkSecret struct {
	Secret string `json:"secret" maxLength:"100" doc:"what stands behind # in the link"`
}

type entering struct {
	Secret   string `json:"secret" maxLength:"100" doc:"what stands behind # in the link"`
	Name     string `json:"name" maxLength:"100" doc:"of somebody new"`
	Password string `json:"password" maxLength:"200" doc:"12 signs or more; of somebody who has an account, the password of that"`
	Code     string `json:"code,omitempty" maxLength:"20" doc:"of the second step, where the account has one" required:"false"`
}

type paused struct {
	Paused bool `json:"paused" doc:"false lets the member in again"`
}

// ownSession is a session of the member, without its token.
type ownSession struct {
	ID      string    `json:"id" doc:"names it, and opens nothing"`
	Here    bool      `json:"here" doc:"the one that asks"`
	Team    string    `json:"team"`
	Began   time.Time `json:"began"`
	Seen    time.Time `json:"seen" doc:"within ten minutes"`
	Address string    `json:"address" doc:"of the network, where it began"`
	Agent   string    `json:"agent" doc:"what the browser called itself"`
	Desk    bool      `json:"desk" doc:"a phone that is the desk of a lesson"`
}

// BySession names a session.
type BySession struct {
	ID string `path:"id" maxLength:"64" pattern:"^[0-9a-f]+$"`
}

func sessionID(token string) string { return fmt.Sprintf("%x", sha256.Sum256([]byte(token))) }

// ownSessions turns what is kept into what the member sees, those that were used last first.
func (s *server) ownSessions(kept []store.KeptSession, here string) ([]ownSession, error) {
	out := []ownSession{}
	for _, k := range kept {
		var d sessionData
		if err := json.Unmarshal(k.Data, &d); err != nil {
			return nil, fmt.Errorf("read a session: %w", err)
		}
		seen := time.Unix(d.Seen, 0)
		if d.Epoch != k.Epoch || s.app.Now().Sub(seen) > sessionIdle {
			continue // it has ended, and is swept out later
		}
		began := seen
		if d.Began > 0 {
			began = time.Unix(d.Began, 0)
		}
		out = append(out, ownSession{k.ID, k.ID == here, k.Team, began, seen, d.Address, d.Agent, d.Pass != ""})
	}
	slices.SortFunc(out, func(a, b ownSession) int { return b.Seen.Compare(a.Seen) })
	return out, nil
}

func (s *server) linkCalls(everybody, members huma.API) {
	a := s.app.Accounts
	look := route{
		id: "open-link", method: http.MethodPost, path: "/welcome/look", tag: "people",
		summary: "Whom a link lets in", example: linkSecret{"7QX4"}, open: true,
	}
	huma.Register(
		everybody,
		look.operation(),
		func(ctx context.Context, in *body[linkSecret]) (*body[people.LinkView], error) {
			k, err := a.Opened(ctx, in.Body.Secret)
			if err != nil {
				return nil, s.fail(ctx, err)
			}
			return &body[people.LinkView]{k}, nil
		},
	)
	look.describe(everybody)
	enter := route{
		id:      "enter-by-link",
		method:  http.MethodPost,
		path:    "/welcome",
		tag:     "people",
		summary: "Use a link: join the team, or choose a new password",
		about: "Sets the cookie of a session, but for a member who wants a code at each sign-in. A link is good once, " +
			"and for seven days.",
		example: entering{Secret: "7QX4", Name: "Bea Sluice", Password: "rope around the bollard"},
		open:    true,
	}
	huma.Register(everybody, enter.operation(), func(ctx context.Context, in *body[entering]) (*body[done], error) {
		who, err := a.Enter(ctx, people.Entering{
			Secret: in.Body.Secret, Name: in.Body.Name, Password: in.Body.Password, Code: in.Body.Code,
			Address: visitFrom(ctx).address,
		})
		if err == nil && who.In { // else the sign-in asks for the code
			err = s.begin(ctx, who.Actor)
		}
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &body[done]{done{true}}, nil
	})
	enter.describe(everybody)
	call(s, members, route{
		id: "links", method: http.MethodGet, path: "/links", tag: "people",
		summary: "Links that still let somebody in, without their secrets", about: "Only a lead may see them.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.Link, error) { return a.Links(ctx, by) })
	call(s, members, route{
		id: "invite-by-link", method: http.MethodPost, path: "/links", tag: "people",
		summary: "Make a link by which somebody joins the team", about: "Shown once. Only a lead may.",
		example: people.Invitation{Name: "Bea Sluice", Email: "bea@lockhouse.example", Role: tx.Assistant},
	}, func(ctx context.Context, by tx.Actor, in *body[people.Invitation]) (people.NewLink, error) {
		return a.Ask(ctx, by, in.Body)
	})
	call(s, members, route{
		id: "end-link", method: http.MethodDelete, path: "/links/{id}", tag: "people", summary: "Take a link back",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.EndLink(ctx, by, in.ID)) })
	call(s, members, route{
		id: "reset-by-link", method: http.MethodPost, path: "/members/{id}/link", tag: "people",
		summary: "Make a link by which a member chooses a new password", about: "Shown once. Only a lead may.",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (people.NewLink, error) {
		return a.ResetLink(ctx, by, in.ID)
	})
	call(s, members, route{
		id: "pause-member", method: http.MethodPut, path: "/members/{id}/paused", tag: "people",
		summary: "Keep a member from signing in for a while, or let the member in again",
		about:   "The sessions end at once. Only a lead may.", example: paused{true},
	}, func(ctx context.Context, by tx.Actor, in *changed[paused]) (done, error) {
		return ok(a.Pause(ctx, by, in.ID, in.Body.Paused))
	})
	call(s, members, route{
		id: "former-members", method: http.MethodGet, path: "/former-members", tag: "people",
		summary: "Who left the team under a name", about: "Only a lead may see it.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.FormerMember, error) {
		return a.Former(ctx, by)
	})
	call(s, members, route{
		id: "erase-member", method: http.MethodDelete, path: "/former-members/{id}", tag: "people",
		summary: "Take the name of somebody who left from all that stays",
		about:   "What was written stays. Takes keep their speaker: a voice is withdrawn by itself. Only a lead may.",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Erase(ctx, by, in.ID)) })
	download(s, members, route{
		id: "member-data", method: http.MethodGet, path: "/members/{id}/data", tag: "people",
		summary: "All that is kept of a member, as a file of JSON", about: "Of oneself; of others only for a lead.",
	}, []string{"application/octet-stream"}, func(ctx context.Context, by tx.Actor, in *ByID) (file, error) {
		data, err := a.Data(ctx, by, in.ID)
		return file{
			ContentType:  "application/octet-stream",
			Disposition:  `attachment; filename="what-is-kept.json"`,
			CacheControl: never,
			Body:         data,
		}, err
	})
	s.ownSessionCalls(members)
}

func (s *server) ownSessionCalls(members huma.API) {
	a := s.app.Accounts
	s.secondCalls(members)
	call(s, members, route{
		id: "own-mail", method: http.MethodGet, path: "/session/mail", tag: "session",
		summary: "Whether the member gets a mail a day when something waits",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (people.MailView, error) {
		return s.app.Mails.Wish(ctx, by)
	})
	call(s, members, route{
		id: "set-own-mail", method: http.MethodPut, path: "/session/mail", tag: "session",
		summary: "Say whether one wants a mail a day", about: "An address that was refused is tried again.",
		example: mailWish{true},
	}, func(ctx context.Context, by tx.Actor, in *body[mailWish]) (done, error) {
		return ok(s.app.Mails.SetWish(ctx, by, in.Body.Wanted))
	})
	call(s, members, route{
		id: "own-sessions", method: http.MethodGet, path: "/session/all", tag: "session",
		summary: "Where the member is signed in, the last used first",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]ownSession, error) {
		kept, err := a.Sessions(ctx, by)
		if err != nil {
			return nil, err
		}
		return s.ownSessions(kept, sessionID(s.sessions.Token(ctx)))
	})
	call(s, members, route{
		id: "end-session", method: http.MethodDelete, path: "/session/all/{id}", tag: "session",
		summary: "Sign out somewhere else",
	}, func(ctx context.Context, by tx.Actor, in *BySession) (done, error) {
		return ok(a.EndSession(ctx, by, in.ID))
	})
	call(s, members, route{
		id: "end-other-sessions", method: http.MethodDelete, path: "/session/all", tag: "session",
		summary: "Sign out everywhere else",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (done, error) {
		who, err := a.EndSessions(ctx, by, visitFrom(ctx).address)
		if err != nil {
			return done{}, err
		}
		return ok(s.begin(ctx, who))
	})
}

type mailWish struct {
	Wanted bool `json:"wanted"`
}
