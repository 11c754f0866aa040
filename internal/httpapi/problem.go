package httpapi

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5/middleware"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/library"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

const unexpected = "Something went wrong here. Nothing was lost; please try again."

// Codes of problems that are no fault of the input. Those of faults come from the core.
const (
	codeUnexpected   fault.Code = "unexpected"
	codeSignIn       fault.Code = "sign-in"
	codeForbidden    fault.Code = "forbidden"
	codeNotFound     fault.Code = "not-found"
	codeChanged      fault.Code = "changed"
	codeConflict     fault.Code = "conflict"
	codeTooLarge     fault.Code = "too-large"
	codeTooMany      fault.Code = "too-many"
	codeUnreadable   fault.Code = "unreadable"
	codeGivenUp      fault.Code = "given-up"
	codeBusy         fault.Code = "busy"
	codeSigns        fault.Code = "signs"
	statusGivenUp               = 499
	problemMediaType            = "application/problem+json"
)

// problem is what every failed call answers, after RFC 9457 with members of our own.
type problem struct {
	Title    string            `json:"title" doc:"of the status"`
	Status   int               `json:"status"`
	Code     fault.Code        `json:"code" doc:"what is wrong, for programs"`
	Detail   string            `json:"detail" doc:"what is wrong, in a sentence for people"`
	Field    string            `json:"field,omitempty" doc:"of the input, by its name in JSON"`
	Args     []string          `json:"args,omitempty" doc:"what the sentence names, in its order"`
	ID       string            `json:"id,omitempty" doc:"stands in the log"`
	Conflict *library.Conflict `json:"conflict,omitempty" doc:"what somebody else wrote in the meantime"`
}

// Error returns the sentence.
func (p *problem) Error() string { return p.Detail }

// GetStatus returns the HTTP status.
func (p *problem) GetStatus() int { return p.Status }

// ContentType returns that of RFC 9457.
func (p *problem) ContentType(string) string { return problemMediaType }

// passing is a problem that passes by itself.
type passing struct {
	*problem
	after time.Duration
}

const busyFor = 2 * time.Second

// GetHeaders says when to come again.
func (p passing) GetHeaders() http.Header {
	return http.Header{"Retry-After": {strconv.Itoa(int(math.Ceil(p.after.Seconds())))}}
}

// Unwrap is the problem itself.
func (p passing) Unwrap() error { return p.problem }

func newProblem(status int, code fault.Code, detail string) *problem {
	return &problem{Title: http.StatusText(status), Status: status, Code: code, Detail: detail}
}

func init() {
	huma.DefaultArrayNullable = false
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		return refused(status, message, 0, errs)
	}
	huma.NewErrorWithContext = func(c huma.Context, status int, message string, errs ...error) huma.StatusError {
		return refused(status, message, c.Operation().MaxBodyBytes, errs)
	}
}

// refused is what huma found wrong with a call before it reached ours.
func refused(status int, message string, limit int64, errs []error) *problem {
	switch {
	case status >= http.StatusInternalServerError:
		return newProblem(status, codeUnexpected, unexpected)
	case status == http.StatusRequestEntityTooLarge && limit > 0:
		text := fmt.Sprintf("The file is larger than %d MB. Nothing was stored.", limit>>20)
		return newProblem(status, codeTooLarge, text)
	case status == http.StatusRequestTimeout || status == http.StatusBadRequest && len(errs) == 0:
		return newProblem(status, codeUnreadable, "The file broke off on its way. Nothing was stored; send it again.")
	}
	p := newProblem(status, fault.Invalid, message)
	for _, e := range errs {
		var d *huma.ErrorDetail
		if errors.As(e, &d) {
			p.Detail, p.Field = "“"+d.Location+"”: "+d.Message, d.Location
			break
		}
	}
	return p
}

// fail picks the status of an error. What is not known becomes a 500 with a fixed sentence and an id, and
// only the log has the rest.
func (s *server) fail(ctx context.Context, err error) error {
	var input *fault.Fault
	var conflict library.Conflict
	var many people.TooMany
	var said *problem
	switch {
	case err == nil:
		return nil
	case errors.As(err, &said):
		return err
	case errors.As(err, &conflict):
		p := newProblem(http.StatusConflict, codeConflict, conflict.Error()+".")
		p.Conflict = &conflict
		return p
	case errors.As(err, &input):
		status := http.StatusUnprocessableEntity
		if input.Code == library.ErrCardMoved {
			status = http.StatusConflict
		}
		p := newProblem(status, input.Code, input.Sentence())
		p.Field = input.Field
		for _, a := range input.Args {
			p.Args = append(p.Args, fmt.Sprint(a))
		}
		return p
	case errors.Is(err, tx.ErrForbidden):
		return newProblem(
			http.StatusForbidden, codeForbidden, "Your role does not allow this. Ask the lead of your team.",
		)
	case errors.Is(err, store.ErrNotFound):
		return newProblem(http.StatusNotFound, codeNotFound, "This is not here, or no longer.")
	case errors.Is(err, store.ErrChanged):
		return newProblem(
			http.StatusConflict, codeChanged,
			"Somebody changed this in the meantime. Look again, then repeat your step.",
		)
	case errors.Is(err, store.ErrSign):
		return newProblem(
			http.StatusUnprocessableEntity,
			codeSigns,
			"The text holds a sign that cannot be kept. Type it anew, or take it out.",
		)
	case errors.Is(err, store.ErrBusy):
		s.Log.Warn("busy", "id", middleware.GetReqID(ctx), "error", err)
		return &passing{newProblem(
			http.StatusServiceUnavailable, codeBusy, "The database is busy. Nothing was stored; try again in a moment.",
		), busyFor}
	case errors.Is(err, tx.ErrBusyCore):
		return &passing{
			newProblem(
				http.StatusServiceUnavailable,
				codeBusy,
				"Something else takes the time of this server just now. Try again in half a minute.",
			),
			searchWait,
		}
	case errors.Is(err, store.ErrBroken):
		s.Log.Warn("no database", "id", middleware.GetReqID(ctx), "error", err)
		return &passing{newProblem(
			http.StatusServiceUnavailable, codeBusy,
			"The database does not answer. Try again in a moment; look first whether your last change is there.",
		), busyFor}
	case errors.As(err, &many):
		text := "Too many failed attempts to sign in. Wait %d minutes, then try again, or ask the lead of your team " +
			"for a new password."
		if many.Codes {
			text = "Too many wrong codes. Wait %d minutes, then let the laptop show a new one."
		}
		wait := int(math.Ceil(many.Wait.Minutes()))
		return &passing{newProblem(http.StatusTooManyRequests, codeTooMany, fmt.Sprintf(text, wait)), many.Wait}
	case errors.Is(err, context.Canceled):
		return newProblem(statusGivenUp, codeGivenUp, "The call was given up.")
	}
	id := middleware.GetReqID(ctx)
	s.Log.Error("unexpected", "id", id, "error", err)
	p := newProblem(http.StatusInternalServerError, codeUnexpected, unexpected)
	p.ID = id
	return p
}

func (s *server) plainError(w http.ResponseWriter, r *http.Request, err error) {
	var p *problem
	err = s.fail(r.Context(), err)
	if !errors.As(err, &p) {
		p = newProblem(http.StatusInternalServerError, codeUnexpected, unexpected)
	}
	var later *passing
	if errors.As(err, &later) {
		maps.Copy(w.Header(), later.GetHeaders())
	}
	writeProblem(w, p)
}

func writeProblem(w http.ResponseWriter, p *problem) {
	w.Header().Set("Content-Type", problemMediaType)
	w.Header().Set("Cache-Control", never)
	w.WriteHeader(p.Status)
	_ = json.NewEncoder(w).Encode(p)
}

func notHere(w http.ResponseWriter, _ *http.Request) {
	writeProblem(w, newProblem(http.StatusNotFound, codeNotFound, "There is nothing at this address."))
}

// searchWait is when to ask again where what takes a core is under way for somebody else.
const searchWait = 10 * time.Second
