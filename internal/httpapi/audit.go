package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/library"
	"brightchalk/internal/tx"
)

type leftWhy struct {
	Why string `json:"why" maxLength:"300" doc:"for the team"`
}

// ByKey names a finding.
type ByKey struct {
	Key string `path:"key" maxLength:"64" pattern:"^[0-9a-f]+$"`
}

func (s *server) auditCalls(api huma.API) {
	a := s.app.Audits
	cachedCall(s, api, route{
		id: "audit", method: http.MethodGet, path: "/audit", tag: "audit",
		summary: "What contradicts itself over the whole library, the gravest kinds first",
	}, func(*nothing) string { return "" }, func(ctx context.Context, by tx.Actor, _ *nothing) (library.AuditView, error) {
		return a.Audit(ctx, by)
	})
	call(s, api, route{
		id: "mend-finding", method: http.MethodPost, path: "/audit/{key}/mend", tag: "audit",
		summary: "Do what a finding proposes",
	}, func(ctx context.Context, by tx.Actor, in *ByKey) (done, error) { return ok(a.Mend(ctx, by, in.Key)) })
	call(s, api, route{
		id: "leave-finding", method: http.MethodPut, path: "/audit/{key}/left", tag: "audit",
		summary: "Leave a finding as it is, with the reason", example: leftWhy{"Both classes know it so."},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByKey
		body[leftWhy]
	},
	) (done, error) {
		return ok(a.Leave(ctx, by, in.Key, in.Body.Why))
	})
	call(s, api, route{
		id: "take-up-finding", method: http.MethodDelete, path: "/audit/{key}/left", tag: "audit",
		summary: "Show a finding again that was left",
	}, func(ctx context.Context, by tx.Actor, in *ByKey) (done, error) { return ok(a.TakeUp(ctx, by, in.Key)) })
}
