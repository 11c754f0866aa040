package httpapi

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/curriculum"
	"brightchalk/internal/people"
	"brightchalk/internal/planning"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

type newClass struct {
	Name string `json:"name" maxLength:"60" doc:"of the class, never of a child"`
	Kind string `json:"kind" enum:"class,group"`
}

type invited struct {
	Name     string  `json:"name" maxLength:"80"`
	Email    string  `json:"email" maxLength:"200"`
	Role     tx.Role `json:"role" enum:"lead,teacher,assistant"`
	Password string  `json:"password" maxLength:"200" doc:"12 signs or more"`
}

type newPassword struct {
	Password string `json:"password" maxLength:"200" doc:"12 signs or more"`
}

type flow struct {
	FlowsBack bool `json:"flows_back"`
}

type newRole struct {
	Role tx.Role `json:"role" enum:"lead,teacher,assistant"`
}

func (s *server) planningCalls(api huma.API) {
	a := s.app.Classes
	call(s, api, route{
		id: "vocabulary", method: http.MethodGet, path: "/vocabulary", tag: "planning",
		summary: "What the screens choose from: accents, kinds of steps, materials",
	}, func(context.Context, tx.Actor, *nothing) (curriculum.Vocabulary, error) {
		return curriculum.TheVocabulary(), nil
	})
	call(s, api, route{
		id: "classes", method: http.MethodGet, path: "/classes", tag: "planning", summary: "Classes and groups",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.Class, error) { return a.Classes(ctx, by) })
	call(s, api, route{
		id: "new-class", method: http.MethodPost, path: "/classes", tag: "planning", summary: "Add a class or a group",
		example: newClass{"Heron class", "class"},
	}, func(ctx context.Context, by tx.Actor, in *body[newClass]) (created, error) {
		id, err := a.NewClass(ctx, by, in.Body.Name, in.Body.Kind)
		return created{id}, err
	})
	call(s, api, route{
		id: "class", method: http.MethodGet, path: "/classes/{id}", tag: "planning",
		summary: "A class with what it has been taught",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (planning.ClassView, error) {
		return a.Class(ctx, by, in.ID)
	})
	call(s, api, route{
		id: "declare", method: http.MethodPost, path: "/classes/{id}/known", tag: "planning",
		summary: "Say what a class knows that nobody logged, or take that back",
		example: planning.Declaration{Known: true, UpTo: 22},
	}, func(ctx context.Context, by tx.Actor, in *changed[planning.Declaration]) (done, error) {
		return ok(a.Declare(ctx, by, in.ID, in.Body))
	})
	call(s, api, route{
		id: "shakiest", method: http.MethodGet, path: "/shaky", tag: "planning",
		summary: "The sounds of which one or several classes are unsure, those needed most first",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Classes []string `query:"classes" maxItems:"30" format:"uuid" required:"true" doc:"class ids"`
	},
	) ([]planning.Shaky, error) {
		return a.Shakiest(ctx, by, in.Classes)
	})
	call(s, api, route{
		id: "new-group", method: http.MethodPost, path: "/groups", tag: "planning",
		summary: "Make a group that catches up on sounds of one or several classes",
		about:   "By sounds, never by names. It begins with what all its classes know.",
		example: planning.GroupAsk{Name: "Tuesday group", From: []string{exampleCard}, Cards: []string{exampleCard}},
	}, func(ctx context.Context, by tx.Actor, in *body[planning.GroupAsk]) (created, error) {
		id, err := a.NewGroup(ctx, by, in.Body)
		return created{id}, err
	})
	call(s, api, route{
		id: "set-flow", method: http.MethodPut, path: "/groups/{id}/flow", tag: "planning",
		summary: "Whether the log of a group counts for its classes too", example: flow{true},
	}, func(ctx context.Context, by tx.Actor, in *changed[flow]) (done, error) {
		return ok(a.SetFlow(ctx, by, in.ID, in.Body.FlowsBack))
	})
	call(s, api, route{
		id: "meeting", method: http.MethodGet, path: "/meeting", tag: "planning",
		summary: "What a team should talk about: what fades, what is shaky where, what drifts apart, what must be ready",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (planning.MeetingSheet, error) {
		return s.app.Meetings.Meeting(ctx, by)
	})
	call(s, api, route{
		id: "memory", method: http.MethodGet, path: "/memory", tag: "planning",
		summary: "How the classes of the team forget: as usual, or as was fitted to their logs",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (planning.MemoryView, error) {
		return s.app.Meetings.Memory(ctx, by)
	})
	call(s, api, route{
		id: "fit-memory", method: http.MethodPost, path: "/memory/fit", tag: "planning",
		summary: "Fit the memory to the team's logs",
		about:   "It is used where it foretells meetings that were held out better than the usual one. Only a lead may.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (planning.MemoryView, error) {
		return s.app.Meetings.FitMemory(ctx, by)
	})
	call(s, api, route{
		id: "forget-fit", method: http.MethodDelete, path: "/memory/fit", tag: "planning",
		summary: "Go back to the usual memory", about: "Only a lead may.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (done, error) {
		return ok(s.app.Meetings.ForgetFit(ctx, by))
	})
	call(s, api, route{
		id: "routines", method: http.MethodGet, path: "/routines", tag: "planning",
		summary: "The routines for all purposes, and the variants of classes",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]curriculum.RoutineView, error) {
		return s.app.Settings.Routines(ctx, by)
	})
	call(s, api, route{
		id: "set-routine", method: http.MethodPut, path: "/routines", tag: "planning",
		summary: "Replace a routine, or go back to the one before: not set and without steps",
		example: curriculum.RoutineView{
			Purpose: lesson.Introduce,
			Set:     true,
			Routine: lesson.DefaultRoutine(lesson.Introduce),
		},
	}, func(ctx context.Context, by tx.Actor, in *body[curriculum.RoutineView]) (done, error) {
		return ok(s.app.Settings.SetRoutine(ctx, by, in.Body))
	})
	call(s, api, route{
		id: "accent-changes", method: http.MethodGet, path: "/accents/{accent}/changes", tag: "planning",
		summary: "The cards that another accent would change",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Accent phoneme.Accent `path:"accent" maxLength:"40"`
	},
	) ([]curriculum.AccentChange, error) {
		return s.app.Settings.AccentChanges(ctx, by, in.Accent)
	})
	call(s, api, route{
		id: "set-conventions", method: http.MethodPut, path: "/conventions", tag: "planning",
		summary: "Replace the team's conventions",
		example: convention.Conventions{Accent: phoneme.SouthernBritish, Paper: "A4"},
	}, func(ctx context.Context, by tx.Actor, in *body[convention.Conventions]) (done, error) {
		return ok(s.app.Settings.SetConventions(ctx, by, in.Body))
	})
}

func (s *server) peopleCalls(api huma.API) {
	a := s.app.Accounts
	call(s, api, route{
		id: "members", method: http.MethodGet, path: "/members", tag: "people", summary: "Members of the team",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]people.Person, error) { return a.Members(ctx, by) })
	call(s, api, route{
		id: "invite", method: http.MethodPost, path: "/members", tag: "people", summary: "Add a member",
		example: invited{"Bea Sluice", "bea@lockhouse.example", tx.Assistant, "rope around the bollard"},
	}, func(ctx context.Context, by tx.Actor, in *body[invited]) (done, error) {
		return ok(a.Invite(ctx, by, in.Body.Email, in.Body.Name, in.Body.Role, in.Body.Password))
	})
	call(s, api, route{
		id: "reset-password", method: http.MethodPut, path: "/members/{id}/password", tag: "people",
		summary: "Give a member a new password", about: "The member's sessions end. Only a lead may.",
		example: newPassword{"rope around the bollard"},
	}, func(ctx context.Context, by tx.Actor, in *changed[newPassword]) (done, error) {
		return ok(a.ResetPassword(ctx, by, in.ID, in.Body.Password))
	})
	call(s, api, route{
		id: "set-role", method: http.MethodPut, path: "/members/{id}/role", tag: "people",
		summary: "Change what a member may do", about: "It counts from the next call on. Only a lead may.",
		example: newRole{tx.Teacher},
	}, func(ctx context.Context, by tx.Actor, in *changed[newRole]) (done, error) {
		return ok(a.SetRole(ctx, by, in.ID, in.Body.Role))
	})
	call(s, api, route{
		id: "remove-member", method: http.MethodDelete, path: "/members/{id}", tag: "people",
		summary: "Remove a member",
		about:   "The sessions end at once; what the member wrote stays, under the name. Only a lead may.",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Remove(ctx, by, in.ID)) })
	call(s, api, route{
		id: "account-events", method: http.MethodGet, path: "/account-events", tag: "people",
		summary: "What happened to the team's accounts, the newest first", about: "Kept for 90 days. Only a lead may see it.",
	}, func(ctx context.Context, by tx.Actor, in *eventAsk) ([]store.EventRow, error) {
		return a.Events(ctx, by, people.EventAsk{Kind: in.Kind, Who: in.Who})
	})
	download(s, api, route{
		id: "export-account-events", method: http.MethodGet, path: "/account-events.csv", tag: "people",
		summary: "All that is kept of what happened to the team's accounts, as a table",
	}, []string{"text/csv"}, func(ctx context.Context, by tx.Actor, in *eventAsk) (file, error) {
		var out bytes.Buffer
		err := a.EventsCSV(ctx, by, people.EventAsk{Kind: in.Kind, Who: in.Who}, &out)
		return saved("text/csv; charset=utf-8", "account-events.csv", out, err)
	})
}

// eventAsk is which events of accounts are looked for.
type eventAsk struct {
	Kind store.EventKind `query:"kind" enum:",signed-in,sign-in-failed,signed-out,added,password-changed,password-reset,role-changed,removed,desk-joined,desk-refused,invited,link-ended,paused,resumed,sessions-ended,second-on,second-off" doc:"empty: any"`
	Who  string          `query:"who" doc:"a part of the name of the account or of who did it" maxLength:"80"`
}
