package httpapi

import (
	"brightchalk/internal/app"
	"brightchalk/internal/store"
	"context"
	"encoding/json"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

const unexpected = "Something went wrong here. Nothing was lost; please try again."

// problem is what every failed call answers.
type problem struct {
	Status   int           `json:"status"`
	Detail   string        `json:"detail"`
	Field    string        `json:"field,omitempty"`
	ID       string        `json:"id,omitempty"` // stands in the log
	Conflict *app.Conflict `json:"conflict,omitempty"`
}

func (p *problem) Error() string  { return p.Detail }
func (p *problem) GetStatus() int { return p.Status }

func init() {
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		p := &problem{Status: status, Detail: message}
		for _, e := range errs {
			var d *huma.ErrorDetail
			if errors.As(e, &d) {
				p.Detail, p.Field = "“"+d.Location+"”: "+d.Message, d.Location
				break
			}
		}
		if status >= 500 {
			p.Detail = unexpected
		}
		return p
	}
}

// fail picks the status of an error. What is not known becomes a 500 with a fixed sentence and an id, and
// only the log has the rest.
func (s *server) fail(ctx context.Context, err error) error {
	var input app.InputError
	var conflict app.Conflict
	switch {
	case err == nil:
		return nil
	case errors.As(err, &conflict):
		return &problem{Status: http.StatusConflict, Detail: conflict.Error() + ".", Conflict: &conflict}
	case errors.As(err, &input):
		return &problem{Status: http.StatusUnprocessableEntity, Detail: input.Message, Field: input.Field}
	case errors.Is(err, app.ErrForbidden):
		return &problem{Status: http.StatusForbidden, Detail: "Your role does not allow this. Ask the lead of your team."}
	case errors.Is(err, store.ErrNotFound):
		return &problem{Status: http.StatusNotFound, Detail: "This is not here, or no longer."}
	case errors.Is(err, store.ErrChanged):
		return &problem{
			Status: http.StatusConflict,
			Detail: "Somebody changed this in the meantime. Look again, then repeat your step.",
		}
	case errors.Is(err, context.Canceled):
		return &problem{Status: 499, Detail: "The call was given up."}
	}
	s.Log.Error("unexpected", "id", requestOf(ctx), "error", err)
	return &problem{Status: http.StatusInternalServerError, Detail: unexpected, ID: requestOf(ctx)}
}

func (s *server) plainError(w http.ResponseWriter, r *http.Request, err error) {
	var p *problem
	if !errors.As(s.fail(r.Context(), err), &p) {
		p = &problem{Status: http.StatusInternalServerError, Detail: unexpected}
	}
	writeJSON(w, p.Status, p)
}

func writeProblem(w http.ResponseWriter, status int, detail, id string) {
	writeJSON(w, status, &problem{Status: status, Detail: detail, ID: id})
}

func writeJSON(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(v)
}
