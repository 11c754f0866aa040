package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/app"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/store"
)

type assembled struct {
	ClassID string `json:"class_id" format:"uuid"`
	CardID  string `json:"card_id" format:"uuid"`
	Minutes int    `json:"minutes" doc:"10 to 40"`
}

type swapped struct {
	Revision int    `json:"revision" doc:"that the change began from"`
	Slot     string `json:"slot" maxLength:"40"`
}

type locked struct {
	Revision int    `json:"revision" doc:"that the change began from"`
	Slot     string `json:"slot" maxLength:"40"`
	Locked   bool   `json:"locked"`
}

type renewed struct {
	Revision int `json:"revision" doc:"that the change began from"`
	Minutes  int `json:"minutes" doc:"10 to 40"`
}

type sent struct {
	Revision int         `json:"revision" doc:"that the change began from"`
	Step     lesson.Kind `json:"step" enum:"ear,blend,read,spell,sentence,page"`
	Values   []string    `json:"values" maxItems:"40"`
}

type logged struct {
	Reached string     `json:"reached" maxLength:"40" doc:"the last step that was held"`
	Sure    []app.Sure `json:"sure" maxItems:"60"`
}

const anID = "6f1d2a34-5b6c-4d7e-8f90-a1b2c3d4e5f6" // of examples

func (s *server) lessonCalls(api huma.API) {
	a := s.lessons()
	change := func(id, path, summary string, example any) route {
		return route{
			id: id, method: http.MethodPost, path: "/introductions/{id}/" + path, tag: "lessons", summary: summary,
			example: example,
		}
	}
	call(s, api, route{
		id: "introductions", method: http.MethodGet, path: "/introductions", tag: "lessons",
		summary: "The newest introductions, up to twelve",
	}, func(ctx context.Context, by app.Actor, _ *nothing) ([]store.RecentIntroduction, error) {
		return a.Recent(ctx, by)
	})
	call(s, api, route{
		id: "assemble", method: http.MethodPost, path: "/introductions", tag: "lessons",
		summary: "Assemble the introduction of a card for a class", example: assembled{anID, anID, 20},
	}, func(ctx context.Context, by app.Actor, in *body[assembled]) (app.IntroductionView, error) {
		return a.Assemble(ctx, by, in.Body.ClassID, in.Body.CardID, in.Body.Minutes)
	})
	call(s, api, route{
		id: "introduction", method: http.MethodGet, path: "/introductions/{id}", tag: "lessons",
		summary: "One introduction",
	}, func(ctx context.Context, by app.Actor, in *ByID) (app.IntroductionView, error) {
		return a.Introduction(ctx, by, in.ID)
	})
	call(s, api, change("swap", "swap", "Put the next best in a slot", swapped{1, "read.2"}),
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[swapped]
		},
		) (app.IntroductionView, error) {
			return a.Swap(ctx, by, in.ID, in.Body.Revision, in.Body.Slot)
		})
	call(s, api, change("lock", "lock", "Keep a choice on renewal, or let it go", locked{1, "read.2", true}),
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[locked]
		},
		) (app.IntroductionView, error) {
			return a.Lock(ctx, by, in.ID, in.Body.Revision, in.Body.Slot, in.Body.Locked)
		})
	call(s, api, change("renew", "renew", "Assemble it again from the cards and the log of now", renewed{1, 25}),
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[renewed]
		},
		) (app.IntroductionView, error) {
			return a.Renew(ctx, by, in.ID, in.Body.Revision, in.Body.Minutes)
		})
	call(s, api, change("send", "send", "Put words, pictures or a text in a step", sent{1, lesson.Read, []string{"ship"}}),
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[sent]
		},
		) (app.IntroductionView, error) {
			return a.Send(ctx, by, in.ID, in.Body.Revision, in.Body.Step, in.Body.Values)
		})
	call(
		s,
		api,
		change("log-taught", "log", "Note that it was taught", logged{"close", []app.Sure{{CardID: anID, Sure: 2}}}),
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[logged]
		},
		) (done, error) {
			return ok(a.Log(ctx, by, in.ID, in.Body.Reached, in.Body.Sure))
		},
	)
}
