package httpapi

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"brightchalk/internal/store"
)

// beat is how often an idle stream says that it is still there.
const beat = 20 * time.Second

func (s *server) eventCalls(api huma.API) {
	o := route{
		id: "events", method: http.MethodGet, path: "/events", tag: "events", summary: "The team's changes as they happen",
		about: "A stream of server-sent events. Each event is named change; its data is a JSON object with kind, the " +
			"table that changed, and id. After resync everything is to be fetched anew.",
	}.operation()
	o.Responses = map[string]*huma.Response{"200": {
		Description: "The stream",
		Content:     map[string]*huma.MediaType{"text/event-stream": {Schema: &huma.Schema{Type: "string"}}},
	}}
	huma.Register(api, o, func(_ context.Context, _ *nothing) (*huma.StreamResponse, error) {
		return &huma.StreamResponse{Body: func(c huma.Context) {
			r, w := humachi.Unwrap(c)
			s.events(w, r)
		}}, nil
	})
}

// events streams the team's changes.
func (s *server) events(w http.ResponseWriter, r *http.Request) {
	s.stream(w, r, func() error { return nil }, func(c store.Change) error {
		if c.Kind == "lesson_run" { // it has a stream of its own
			return nil
		}
		return tell(w, c)
	})
}

// stream sends what first and then each change of the team make of it, for as long as the session stands: it looks when
// its member or a phone's pass changes, and with every beat. It lifts the write timeout of the server for itself.
func (s *server) stream(w http.ResponseWriter, r *http.Request, first func() error, news func(store.Change) error) {
	by, token := actorFrom(r.Context()), s.sessions.Token(r.Context())
	out := http.NewResponseController(w)
	_ = out.SetWriteDeadline(time.Time{})
	changes, end := s.Hub.Subscribe(by.TeamID)
	defer end()
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", never)
	w.Header().Set("X-Accel-Buffering", "no")
	_, _ = io.WriteString(w, "retry: 2000\n\n")
	still := time.NewTicker(beat)
	defer still.Stop()
	for err := first(); err == nil && out.Flush() == nil; {
		select {
		case <-r.Context().Done():
			return
		case c, open := <-changes:
			if !open { // the server stops; the browser comes back to the next one
				return
			}
			looks := c.Kind == "desk_pass" || c.Kind == "member" && c.ID == by.MemberID
			if looks && !s.still(r.Context(), token, by) {
				return
			}
			err = news(c)
		case <-still.C:
			if !s.still(r.Context(), token, by) {
				return
			}
			_, err = io.WriteString(w, ": still here\n\n")
		}
	}
}

func tell(w io.Writer, c store.Change) error {
	data, err := json.Marshal(map[string]string{"kind": c.Kind, "id": c.ID})
	if err == nil {
		_, err = fmt.Fprintf(w, "event: change\ndata: %s\n\n", data)
	}
	return err
}
