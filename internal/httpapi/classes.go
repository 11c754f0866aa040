package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/planning"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

type className struct {
	Name string `json:"name" maxLength:"80"`
}

type teachers struct {
	Members []string `json:"members" maxItems:"40" doc:"member ids"`
}

type newSchoolYear struct {
	Moves []planning.MoveUp `json:"moves" maxItems:"60" doc:"what becomes of each class; those that are not named stay"`
}

func (s *server) classCalls(api huma.API) {
	a := s.app.Classes
	call(s, api, route{
		id: "teachers", method: http.MethodGet, path: "/teachers", tag: "planning", summary: "Who teaches which class",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.Teaches, error) {
		return a.Teachers(ctx, by)
	})
	call(s, api, route{
		id: "set-teachers", method: http.MethodPut, path: "/classes/{id}/teachers", tag: "planning",
		summary: "Say who teaches a class", example: teachers{[]string{exampleCard}},
	}, func(ctx context.Context, by tx.Actor, in *changed[teachers]) (done, error) {
		return ok(a.SetTeachers(ctx, by, in.ID, in.Body.Members))
	})
	call(s, api, route{
		id: "rename-class", method: http.MethodPut, path: "/classes/{id}/name", tag: "planning",
		summary: "Give a class another name", example: className{"Kingfisher class"},
	}, func(ctx context.Context, by tx.Actor, in *changed[className]) (done, error) {
		return ok(a.RenameClass(ctx, by, in.ID, in.Body.Name))
	})
	call(s, api, route{
		id: "archive-class", method: http.MethodPut, path: "/classes/{id}/archived", tag: "planning",
		summary: "Put a class aside, or bring it back", about: "All that was logged stays.", example: archiveBody{true},
	}, func(ctx context.Context, by tx.Actor, in *changed[archiveBody]) (done, error) {
		return ok(a.ArchiveClass(ctx, by, in.ID, in.Body.Archived))
	})
	call(s, api, route{
		id: "past-classes", method: http.MethodGet, path: "/past-classes", tag: "planning",
		summary: "Classes that were put aside, the newest first",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.PastClass, error) {
		return a.PastClasses(ctx, by)
	})
	call(s, api, route{
		id: "move-up", method: http.MethodPost, path: "/past-classes", tag: "planning",
		summary: "Begin a new school year: classes move up",
		about:   "Each is put aside and becomes another one, with what it knows or without, or leaves. All or nothing.",
		example: newSchoolYear{[]planning.MoveUp{{ClassID: exampleCard, Name: "Heron class", Knows: true}}},
	}, func(ctx context.Context, by tx.Actor, in *body[newSchoolYear]) (done, error) {
		return ok(a.MoveUp(ctx, by, in.Body.Moves))
	})
}
