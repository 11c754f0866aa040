package httpapi

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/sound"
	"brightchalk/internal/tx"
)

func (s *server) hearingCalls(api huma.API) {
	a := s.app.Takes
	call(s, api, route{
		id: "listening", method: http.MethodGet, path: "/listening", tag: "takes",
		summary: "Takes to listen to without a verdict beside them, in an order of one's own",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (sound.Listening, error) {
		return a.Listening(ctx, by)
	})
	call(s, api, route{
		id: "hear-take", method: http.MethodPut, path: "/takes/{id}/hearing", tag: "takes",
		summary: "Say what is heard in a take", about: "Nothing is learned from it, and no verdict changes.",
		example: sound.HearingResult{Why: []string{"added-vowel"}},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[sound.HearingResult]
	},
	) (done, error) {
		return ok(a.Hear(ctx, by, in.ID, in.Body))
	})
	call(s, api, route{
		id: "unhear-take", method: http.MethodDelete, path: "/takes/{id}/hearing", tag: "takes",
		summary: "Take back what one said of a take",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Unhear(ctx, by, in.ID)) })
	call(s, api, route{
		id: "agreement", method: http.MethodGet, path: "/agreement", tag: "takes",
		summary: "How far listeners agree with each other and with the check",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (sound.Agreements, error) {
		return a.Agreements(ctx, by)
	})
	download(s, api, route{
		id: "export-hearings", method: http.MethodGet, path: "/hearings.csv", tag: "takes",
		summary: "All that was heard, as a table", about: "Only a lead may.",
	}, []string{"text/csv"}, func(ctx context.Context, by tx.Actor, _ *nothing) (file, error) {
		var out bytes.Buffer
		err := a.ExportHearings(ctx, by, &out)
		return saved("text/csv; charset=utf-8", "hearings.csv", out, err)
	})
}
