package httpapi

import (
	"context"
	"log/slog"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httplog/v3"
)

// Operations of requests that are no calls.
const (
	pageOperation   = "page"
	healthOperation = "health"
)

type operationKey struct{}

// operationID is where a call notes its name for those before it.
type operationID struct{ name string }

func withOperation(ctx context.Context, o *operationID) context.Context {
	return context.WithValue(ctx, operationKey{}, o)
}

// observe tells Options.Observe of each request: the name of its operation, its status and its time. A stream counts
// when it ends.
func (s *server) observe(next http.Handler) http.Handler {
	if s.Observe == nil {
		return next
	}
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		noted := &operationID{pageOperation}
		if r.URL.Path == "/healthz" || r.URL.Path == "/readyz" {
			noted.name = healthOperation
		}
		began := time.Now()
		answer := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		defer func() {
			status := answer.Status()
			if status == 0 {
				status = http.StatusOK
			}
			s.Observe(noted.name, status, time.Since(began))
		}()
		next.ServeHTTP(answer, r.WithContext(withOperation(r.Context(), noted)))
	})
}

// named notes the operation of a call, for the log and for who counts. Of who asks the log has the ids alone.
func named(c huma.Context, next func(huma.Context)) {
	ctx := c.Context()
	if noted, ok := ctx.Value(operationKey{}).(*operationID); ok {
		noted.name = c.Operation().OperationID
	}
	attributes := []slog.Attr{slog.String("operation", c.Operation().OperationID)}
	if by := actorFrom(ctx); by.MemberID != "" {
		attributes = append(attributes, slog.String("member", by.MemberID), slog.String("team", by.TeamID))
	}
	httplog.SetAttrs(ctx, attributes...)
	next(c)
}
