package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

type swapped struct {
	Revision int    `json:"revision" doc:"that the change began from"`
	Slot     string `json:"slot" maxLength:"40"`
}

type locked struct {
	Revision int    `json:"revision" doc:"that the change began from"`
	Slot     string `json:"slot" maxLength:"40"`
	Locked   bool   `json:"locked"`
}

type moved struct {
	Revision int    `json:"revision" doc:"that the change began from"`
	Slot     string `json:"slot" maxLength:"40"`
	To       int    `json:"to" minimum:"0" doc:"place in the step, from 0"`
}

type takenBack struct {
	Revision int `json:"revision" doc:"that the change left behind"`
}

type retexted struct {
	Revision int      `json:"revision" doc:"that the change began from"`
	Step     string   `json:"step" maxLength:"40" doc:"id of a step of the lesson"`
	Adult    []string `json:"adult" maxItems:"30" doc:"both empty: by rule again"`
	Class    []string `json:"class" maxItems:"30"`
}

type renewed struct {
	Revision int `json:"revision" doc:"that the change began from"`
	Minutes  int `json:"minutes" doc:"4 to 60"`
}

type sent struct {
	Revision int `json:"revision" doc:"that the change began from"`
	teaching.SendRequest
}

type spoken struct {
	Revision int          `json:"revision" doc:"that the change began from"`
	Slot     string       `json:"slot"`
	Voice    lesson.Voice `json:"voice" enum:",adult,both,class,silently" doc:"empty: the class, as usual"`
}

type clued struct {
	Revision int    `json:"revision" doc:"that the change began from"`
	Word     string `json:"word" maxLength:"40"`
	Clue     string `json:"clue" maxLength:"400" doc:"empty: the plain one again"`
}

type corrected struct {
	Sure *int   `json:"sure,omitempty" required:"false" minimum:"0" maximum:"3" doc:"left out: the meeting goes out of the log"`
	On   string `json:"on,omitempty" required:"false" maxLength:"10" doc:"another day, 2026-11-26"`
}

// LessonQuery asks for a part of the list of lessons.
type LessonQuery struct {
	ClassID string    `query:"class" doc:"lessons of one class only"`
	Before  time.Time `query:"before" doc:"made before this time; for the next part of the list"`
}

const anID = "6f1d2a34-5b6c-4d7e-8f90-a1b2c3d4e5f6" // of examples

// changed is a body of a change of a lesson.
type changed[T any] struct {
	ByID
	body[T]
}

func (s *server) lessonCalls(api huma.API) {
	a := s.app.Lessons
	call(s, api, route{
		id: "lessons", method: http.MethodGet, path: "/lessons", tag: "lessons",
		summary: "The newest lessons, thirty at a time",
	}, func(ctx context.Context, by tx.Actor, in *LessonQuery) ([]store.LessonRow, error) {
		return a.Lessons(ctx, by, in.ClassID, in.Before)
	})
	call(s, api, route{
		id: "days", method: http.MethodGet, path: "/days", tag: "lessons",
		summary: "Where each class stands: what comes next, what is due, what was last taught",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]teaching.ClassDay, error) {
		return a.Days(ctx, by)
	})
	call(s, api, route{
		id: "assemble", method: http.MethodPost, path: "/lessons", tag: "lessons",
		summary: "Assemble a lesson for a class",
		example: teaching.LessonAsk{ClassID: anID, Purpose: lesson.Introduce, CardIDs: []string{anID}, Minutes: 20},
	}, func(ctx context.Context, by tx.Actor, in *body[teaching.LessonAsk]) (teaching.LessonView, error) {
		return a.Assemble(ctx, by, in.Body)
	})
	call(s, api, route{
		id: "lesson", method: http.MethodGet, path: "/lessons/{id}", tag: "lessons", summary: "One lesson",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (teaching.LessonView, error) {
		return a.Lesson(ctx, by, in.ID)
	})
	s.lessonChanges(api)
	s.logCalls(api)
}

// lessonChanges are the calls that change a lesson at a revision.
func (s *server) lessonChanges(api huma.API) {
	a := s.app.Lessons
	change := func(id, path, summary string, example any) route {
		return route{
			id: id, method: http.MethodPost, path: "/lessons/{id}/" + path, tag: "lessons", summary: summary, example: example,
		}
	}
	call(s, api, change("swap", "swap", "Put the next best in a slot", swapped{1, "read.2"}),
		func(ctx context.Context, by tx.Actor, in *changed[swapped]) (teaching.LessonView, error) {
			return a.Swap(ctx, by, in.ID, in.Body.Revision, in.Body.Slot)
		})
	call(s, api, change("lock", "lock", "Keep an item on renewal, or let it go", locked{1, "read.2", true}),
		func(ctx context.Context, by tx.Actor, in *changed[locked]) (teaching.LessonView, error) {
			return a.Lock(ctx, by, in.ID, in.Body.Revision, in.Body.Slot, in.Body.Locked)
		})
	call(s, api, change("remove-item", "remove", "Take an item out of its step", swapped{1, "read.2"}),
		func(ctx context.Context, by tx.Actor, in *changed[swapped]) (teaching.LessonView, error) {
			return a.Remove(ctx, by, in.ID, in.Body.Revision, in.Body.Slot)
		})
	call(s, api, change("take-back-change", "back", "Put it back as it was before its last change", takenBack{2}),
		func(ctx context.Context, by tx.Actor, in *changed[takenBack]) (teaching.LessonView, error) {
			return a.TakeBack(ctx, by, in.ID, in.Body.Revision)
		})
	call(s, api, change("move-item", "move", "Put an item to another place of its step", moved{1, "read.2", 0}),
		func(ctx context.Context, by tx.Actor, in *changed[moved]) (teaching.LessonView, error) {
			return a.Move(ctx, by, in.ID, in.Body.Revision, in.Body.Slot, in.Body.To)
		})
	call(s, api, change("retext", "text", "Write what is said in a step by hand, or by rule again",
		retexted{1, "read", []string{"Sound out, blend."}, []string{}}),
		func(ctx context.Context, by tx.Actor, in *changed[retexted]) (teaching.LessonView, error) {
			return a.Retext(ctx, by, in.ID, in.Body.Revision, in.Body.Step, in.Body.Adult, in.Body.Class)
		})
	call(s, api, change("speak", "speak", "Say who speaks an item", spoken{1, "read.2", lesson.Together}),
		func(ctx context.Context, by tx.Actor, in *changed[spoken]) (teaching.LessonView, error) {
			return a.Speak(ctx, by, in.ID, in.Body.Revision, in.Body.Slot, in.Body.Voice)
		})
	call(s, api, change("set-clue", "clue", "Say in the team's words what a word means, here and from now on",
		clued{1, "barge", "a flat boat for the canal"}),
		func(ctx context.Context, by tx.Actor, in *changed[clued]) (teaching.LessonView, error) {
			return a.SetClue(ctx, by, in.ID, in.Body.Revision, in.Body.Word, in.Body.Clue)
		})
	call(s, api, change("renew", "renew", "Assemble it again from the cards and the log of now", renewed{1, 25}),
		func(ctx context.Context, by tx.Actor, in *changed[renewed]) (teaching.LessonView, error) {
			return a.Renew(ctx, by, in.ID, in.Body.Revision, in.Body.Minutes)
		})
	call(s, api, change("send", "send", "Put words, pictures or a text in a step",
		sent{1, teaching.SendRequest{Step: "read", Values: []string{"ship"}}}),
		func(ctx context.Context, by tx.Actor, in *changed[sent]) (teaching.LessonView, error) {
			return a.Send(ctx, by, in.ID, in.Body.Revision, in.Body.SendRequest)
		})
}

// logCalls are the calls about what was taught.
func (s *server) logCalls(api huma.API) {
	a := s.app.Lessons
	call(s, api, route{
		id: "log-taught", method: http.MethodPut, path: "/lessons/{id}/log", tag: "lessons",
		summary: "Note that a lesson was taught; a second time corrects the first",
		example: teaching.Taught{Reached: "close", Sure: []teaching.Sure{{CardID: anID, Sure: 2}}},
	}, func(ctx context.Context, by tx.Actor, in *changed[teaching.Taught]) (done, error) {
		return ok(a.Log(ctx, by, in.ID, in.Body))
	})
	call(s, api, route{
		id: "unlog", method: http.MethodDelete, path: "/lessons/{id}/log", tag: "lessons",
		summary: "Take back that a lesson was taught",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Unlog(ctx, by, in.ID)) })
	call(s, api, route{
		id: "history", method: http.MethodGet, path: "/classes/{id}/log", tag: "lessons",
		summary: "What a class was taught, the newest first",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (teaching.History, error) {
		return a.History(ctx, by, in.ID)
	})
	call(s, api, route{
		id: "correct-log", method: http.MethodPost, path: "/classes/{id}/log/{log}", tag: "lessons",
		summary: "Correct one meeting of a class with a card", example: corrected{},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[corrected]
		LogID int64 `path:"log"`
	},
	) (done, error) {
		return ok(a.Correct(ctx, by, in.ID, in.LogID, in.Body.Sure, in.Body.On))
	})
}
