package httpapi

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/jobs"
	"brightchalk/internal/printing"
	"brightchalk/internal/tx"
)

func (s *server) jobCalls(api huma.API) {
	j := s.app.Jobs
	call(s, api, route{
		id: "begin-job", method: http.MethodPost, path: "/jobs", tag: "jobs",
		summary: "Ask for something that takes longer than a screen waits",
		about: "A carry pack, the library in one file, all cards to print or as pictures, all takes judged again (only a " +
			"lead may). A server that has time makes it; the list of jobs tells how far it is, the event stream that it " +
			"has moved on.",
		example: jobs.Ask{Kind: jobs.Pack, Size: printing.PackOrder},
	}, func(ctx context.Context, by tx.Actor, in *body[jobs.Ask]) (jobs.View, error) {
		return j.Begin(ctx, by, in.Body)
	})
	call(s, api, route{
		id: "list-jobs", method: http.MethodGet, path: "/jobs", tag: "jobs",
		summary: "What you asked for in the last day, the newest first",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]jobs.View, error) { return j.List(ctx, by) })
	call(s, api, route{
		id: "stop-job", method: http.MethodDelete, path: "/jobs/{id}", tag: "jobs",
		summary: "Stop a job of yours, or forget it with its file where it has ended",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(j.Stop(ctx, by, in.ID)) })
	download(s, api, route{
		id: "job-file", method: http.MethodGet, path: "/jobs/{id}/file", tag: "jobs",
		summary: "What a job of yours made",
		about:   "It waits for an hour. A file that may hold voices goes as soon as a take of the team goes.",
	}, []string{"text/html", "application/zip", "application/pdf"},
		func(ctx context.Context, by tx.Actor, in *ByID) (file, error) {
			f, err := j.File(ctx, by, in.ID)
			out := *bytes.NewBuffer(f.Bytes)
			if f.MediaType == "application/pdf" { // to look at first
				return printed(f.Name, out, err)
			}
			return saved(f.MediaType, f.Name, out, err)
		})
}
