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
	call(s, api, route{
		id: "edit-lesson", method: http.MethodPost, path: "/lessons/{id}/edits", tag: "lessons",
		summary: "Change a lesson at a revision: swap, remove, lock, move, voice, clue, text, send, renew, undo",
		example: teaching.Edit{Revision: 1, Do: teaching.SwapItem, Slot: "read.2"},
	}, func(ctx context.Context, by tx.Actor, in *changed[teaching.Edit]) (teaching.LessonView, error) {
		return a.Edit(ctx, by, in.ID, in.Body)
	})
	s.logCalls(api)
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
