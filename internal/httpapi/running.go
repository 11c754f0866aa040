package httpapi

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"

	"brightchalk/internal/core/running"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

type marked struct {
	Marks []running.Mark `json:"marks" maxItems:"600" doc:"what was set since, or all of it"`
}

type typedCode struct {
	Code string `json:"code" maxLength:"40" doc:"as the laptop shows it; spaces do not matter"`
}

type joined struct {
	LessonID string `json:"lesson_id" format:"uuid"`
}

type phones struct {
	Joined int `json:"joined" doc:"phones that are a desk of the lesson"`
}

func (s *server) runCalls(everybody, members huma.API) {
	a := s.app.Running
	call(s, members, route{
		id: "run", method: http.MethodGet, path: "/lessons/{id}/run", tag: "running",
		summary: "Where a running lesson stands",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (teaching.RunView, error) {
		return a.Run(ctx, by, in.ID)
	})
	call(s, members, route{
		id: "join-run", method: http.MethodPut, path: "/lessons/{id}/run", tag: "running",
		summary: "Join what a face of a running lesson set to what is kept",
		about: "Of each mark the last setting wins, by n and then by the name of the face; the answer is what holds. " +
			"Sent twice, or late, it does no harm.",
		example: marked{[]running.Mark{{Name: "at", Value: "3", N: 12, By: "board-7f3a"}}},
	}, func(ctx context.Context, by tx.Actor, in *changed[marked]) (teaching.RunView, error) {
		return a.Join(ctx, by, in.ID, in.Body.Marks)
	})
	call(s, members, route{
		id: "own-word", method: http.MethodGet, path: "/lessons/{id}/own-word", tag: "running",
		summary: "A word that a child brought, cut for the board, and whether the class can read it",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Word string `query:"word" maxLength:"40" required:"true"`
	},
	) (teaching.OwnWord, error) {
		return a.OwnWord(ctx, by, in.ID, in.Word)
	})
	s.deskCalls(everybody, members)
	s.runStream(members)
}

func (s *server) deskCalls(everybody, members huma.API) {
	a := s.app.Running
	call(s, members, route{
		id: "invite-desk", method: http.MethodPost, path: "/lessons/{id}/desks", tag: "running",
		summary: "A code with which one phone becomes the desk of a lesson",
		about:   "Good once and for ten minutes. The phone may then do what the desk of this lesson does, and nothing else.",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (teaching.DeskCode, error) {
		return a.Invite(ctx, by, in.ID)
	})
	call(s, members, route{
		id: "desks", method: http.MethodGet, path: "/lessons/{id}/desks", tag: "running",
		summary: "How many phones are a desk of a lesson",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (phones, error) {
		n, err := a.Phones(ctx, by, in.ID)
		return phones{n}, err
	})
	call(s, members, route{
		id: "dismiss-desks", method: http.MethodDelete, path: "/lessons/{id}/desks", tag: "running",
		summary: "Let go of all phones of a lesson, and of codes not yet used",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Dismiss(ctx, by, in.ID)) })
	take := route{
		id:      "join-desk",
		method:  http.MethodPost,
		path:    "/desk",
		tag:     "running",
		summary: "Join a lesson as its desk, by a code",
		about: "Sets the cookie of a session that is good for the desk of this one lesson. Who is signed in keeps the own " +
			"session. After too many wrong codes it answers 429 for a while.",
		example: typedCode{"K7PM 4XRD"}, open: true,
	}
	o := take.operation()
	o.Errors = append(o.Errors, http.StatusTooManyRequests)
	huma.Register(everybody, o, func(ctx context.Context, in *body[typedCode]) (*body[joined], error) {
		pass, who, err := a.JoinByCode(ctx, in.Body.Code, visitFrom(ctx).address)
		if err == nil {
			if own, _, known := s.member(ctx); known != nil || own.TeamID != pass.TeamID || s.phonePass(ctx).pass != "" {
				err = s.beginDesk(ctx, who, pass)
			}
		}
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &body[joined]{joined{pass.LessonID}}, nil
	})
	take.describe(everybody)
}

func (s *server) runStream(api huma.API) {
	o := route{
		id: "run-events", method: http.MethodGet, path: "/lessons/{id}/run/events", tag: "running",
		summary: "A running lesson as its faces change it",
		about: "A stream of server-sent events. Each event is named run; its data is what the call run answers. The first " +
			"comes at once.",
	}.operation()
	o.Responses = map[string]*huma.Response{"200": {
		Description: "The stream",
		Content:     map[string]*huma.MediaType{"text/event-stream": {Schema: &huma.Schema{Type: "string"}}},
	}}
	huma.Register(api, o, func(ctx context.Context, in *ByID) (*huma.StreamResponse, error) {
		if _, err := s.app.Running.Run(ctx, actorFrom(ctx), in.ID); err != nil {
			return nil, s.fail(ctx, err)
		}
		return &huma.StreamResponse{Body: func(c huma.Context) {
			r, w := humachi.Unwrap(c)
			s.runEvents(w, r, in.ID)
		}}, nil
	})
}

// runEvents streams a running lesson.
func (s *server) runEvents(w http.ResponseWriter, r *http.Request, lessonID string) {
	send := func() error {
		v, err := s.app.Running.Run(r.Context(), actorFrom(r.Context()), lessonID)
		if err != nil {
			return nil //nolint:nilerr // the database is away: the next change brings it
		}
		data, err := json.Marshal(v)
		if err == nil {
			_, err = fmt.Fprintf(w, "event: run\ndata: %s\n\n", data)
		}
		return err
	}
	s.stream(w, r, send, func(c store.Change) error {
		if c.Kind == "lesson_run" && c.ID == lessonID || c.Kind == "resync" {
			return send()
		}
		return nil
	})
}

// deskMay are the calls of a phone that joined a lesson by a code, by the patterns of their routes: it reads the
// lesson, moves it and logs it, and sees nothing else of the library.
var deskMay = map[string]bool{
	"GET /api/session": true, "DELETE /api/session": true, "GET /api/vocabulary": true, "GET /api/lessons/{id}": true,
	"GET /api/lessons/{id}/run": true, "PUT /api/lessons/{id}/run": true, "GET /api/lessons/{id}/run/events": true,
	"GET /api/lessons/{id}/own-word": true, "PUT /api/lessons/{id}/log": true,
}

const deskAlone = "This phone is the desk of one lesson, and of nothing else."

// confine tells whether a session may make a call, and answers where it may not.
func (s *server) confine(w http.ResponseWriter, r *http.Request) bool {
	p, route := s.phonePass(r.Context()), chi.RouteContext(r.Context())
	id := route.URLParam("id")
	if p.pass == "" || deskMay[r.Method+" "+route.RoutePattern()] && (id == "" || id == p.lesson) {
		return true
	}
	writeProblem(w, newProblem(http.StatusForbidden, codeForbidden, deskAlone))
	return false
}
