package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/library"
	"brightchalk/internal/planning"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

type remarkText struct {
	Body string `json:"body" maxLength:"4000" doc:"@ and initials name a member"`
}

type settled struct {
	Settled bool `json:"settled" doc:"false opens it again"`
}

type lookedAt struct {
	Version int `json:"version" minimum:"1" doc:"of the card that lay before the member"`
}

type looked struct {
	Until time.Time `json:"until" doc:"as today said"`
}

type seenUpTo struct {
	UpTo int64 `json:"up_to" minimum:"0" doc:"the newest notice that was shown"`
}

func (s *server) reviewCalls(api huma.API) {
	a := s.app.Reviews
	call(s, api, route{
		id: "review", method: http.MethodGet, path: "/cards/{id}/review", tag: "reviews",
		summary: "A card beside what is agreed of it, with what is said of it",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (library.ReviewView, error) {
		return a.Review(ctx, by, in.ID)
	})
	call(s, api, route{
		id: "put-forward", method: http.MethodPost, path: "/cards/{id}/review", tag: "reviews",
		summary: "Put a card forward, and ask members to read it",
		about:   "What is agreed stays in force until the new one is. One that is forward already gets more readers.",
		example: library.ReviewRequest{Note: "Is the new rhyme short enough?", Readers: []string{exampleCard}},
	}, func(ctx context.Context, by tx.Actor, in *changed[library.ReviewRequest]) (library.ReviewView, error) {
		return a.Ask(ctx, by, in.ID, in.Body)
	})
	call(s, api, route{
		id: "say-of-card", method: http.MethodPut, path: "/cards/{id}/review", tag: "reviews",
		summary: "Say yes to a card, or send it back",
		about: "A yes agrees it where enough said so for the version that stands: a lead, or two who write, as the team " +
			"decided. A word on another version than the one that stands is refused with 409.",
		example: library.Verdict{Version: 3, Yes: true, Note: "Lovely."},
	}, func(ctx context.Context, by tx.Actor, in *changed[library.Verdict]) (library.ReviewView, error) {
		return a.Say(ctx, by, in.ID, in.Body)
	})
	call(s, api, route{
		id: "say-beside-card", method: http.MethodPost, path: "/cards/{id}/remarks", tag: "reviews",
		summary: "Say something beside a card, or propose a wording",
		example: library.Saying{Field: "rhyme", Body: "@OW shorter?"},
	}, func(ctx context.Context, by tx.Actor, in *changed[library.Saying]) (created, error) {
		id, err := a.Remark(ctx, by, in.ID, in.Body)
		return created{id}, err
	})
	call(s, api, route{
		id: "edit-remark", method: http.MethodPut, path: "/remarks/{id}", tag: "reviews",
		summary: "Change what the member said", example: remarkText{"Shorter, please."},
	}, func(ctx context.Context, by tx.Actor, in *changed[remarkText]) (done, error) {
		return ok(a.EditRemark(ctx, by, in.ID, in.Body.Body))
	})
	call(s, api, route{
		id: "drop-remark", method: http.MethodDelete, path: "/remarks/{id}", tag: "reviews",
		summary: "Take away what the member said", about: "Not where somebody answered.",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) {
		return ok(a.DropRemark(ctx, by, in.ID))
	})
	call(s, api, route{
		id: "settle-remark", method: http.MethodPut, path: "/remarks/{id}/settled", tag: "reviews",
		summary: "Settle what a remark began, or open it again", example: settled{true},
	}, func(ctx context.Context, by tx.Actor, in *changed[settled]) (done, error) {
		return ok(a.Settle(ctx, by, in.ID, in.Body.Settled))
	})
	call(s, api, route{
		id: "take-over", method: http.MethodPut, path: "/remarks/{id}/taken", tag: "reviews",
		summary: "Put the wording that a remark proposes on the card",
		about:   "The remark is settled. A field that was changed since the version is left as it is, with 409.",
		example: lookedAt{3},
	}, func(ctx context.Context, by tx.Actor, in *changed[lookedAt]) (library.CardView, error) {
		return a.TakeOver(ctx, by, in.ID, in.Body.Version)
	})
	call(s, api, route{
		id: "notices", method: http.MethodGet, path: "/notices", tag: "reviews",
		summary: "What the member should know, the newest first", about: "At most 100.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.Notice, error) { return a.Notices(ctx, by) })
	call(s, api, route{
		id: "see-notices", method: http.MethodPut, path: "/notices/seen", tag: "reviews",
		summary: "Mark notices as seen", example: seenUpTo{41},
	}, func(ctx context.Context, by tx.Actor, in *body[seenUpTo]) (done, error) {
		return ok(a.See(ctx, by, in.Body.UpTo))
	})
	call(s, api, route{
		id: "today", method: http.MethodGet, path: "/today", tag: "today",
		summary: "What a member comes to in the morning",
		about: "For each class what comes next, what fades and what was left; cards that wait, notices, what others " +
			"changed, and what the team owes before it is needed.",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (planning.TodayView, error) {
		return s.app.Today.Today(ctx, by)
	})
	call(s, api, route{
		id: "look-at-changes", method: http.MethodPut, path: "/today/looked", tag: "today",
		summary: "Say that the member has looked at the changes up to a time",
		example: looked{time.Date(2026, 11, 26, 8, 0, 0, 0, time.UTC)},
	}, func(ctx context.Context, by tx.Actor, in *body[looked]) (done, error) {
		return ok(s.app.Today.Look(ctx, by, in.Body.Until))
	})
}
