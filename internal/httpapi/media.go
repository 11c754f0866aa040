package httpapi

import (
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
	"bytes"
	"crypto/rand"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"
)

func fieldsOf(text string) []string {
	f := strings.Fields(text)
	return f[:min(len(f), 60)]
}

func (s *server) signIn(w http.ResponseWriter, r *http.Request) {
	var in struct{ Email, Password string }
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 4096)).Decode(&in); err != nil {
		writeProblem(w, http.StatusBadRequest, "The sign-in could not be read.", "")
		return
	}
	who, err := s.app.SignIn(r.Context(), in.Email, in.Password)
	if err == nil {
		err = s.sessions.RenewToken(r.Context())
	}
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	s.sessions.Put(r.Context(), "member", who.MemberID)
	writeJSON(w, http.StatusOK, map[string]any{"done": true})
}

func (s *server) demo(w http.ResponseWriter, _ *http.Request) {
	list := s.Demo
	if list == nil {
		list = []DemoSignIn{}
	}
	writeJSON(w, http.StatusOK, list)
}

func (s *server) mediaCalls(r chi.Router) {
	r.Post("/cards/{id}/takes", s.upload(media.MaxSoundBytes, func(r *http.Request, data []byte) (any, error) {
		return s.app.AddTake(
			r.Context(),
			actorOf(r.Context()),
			chi.URLParam(r, "id"),
			r.URL.Query().Get("speaker"),
			r.URL.Query().Get("consent") == "yes",
			data,
		)
	}))
	r.Post("/pictures", s.upload(media.MaxPictureBytes, func(r *http.Request, data []byte) (any, error) {
		sum, remarks, err := s.app.StorePicture(r.Context(), actorOf(r.Context()), data)
		if remarks == nil {
			remarks = []string{}
		}
		return map[string]any{"picture": sum, "remarks": remarks}, err
	}))
	r.Get("/pictures/{sum}", s.picture)
	r.Get("/takes/{id}/original", func(w http.ResponseWriter, r *http.Request) {
		data, mediaType, err := s.app.Sound(r.Context(), actorOf(r.Context()), pathID(r))
		s.sound(w, r, data, mediaType, err)
	})
	r.Get("/takes/{id}/sound", func(w http.ResponseWriter, r *http.Request) {
		master, err := s.app.MasterOf(r.Context(), actorOf(r.Context()), pathID(r))
		s.master(w, r, master, err)
	})
	r.Get("/cards/{id}/sound", func(w http.ResponseWriter, r *http.Request) {
		master, err := s.app.CardMaster(r.Context(), actorOf(r.Context()), pathID(r))
		s.master(w, r, master, err)
	})
	r.Get("/word-pictures/{word}", func(w http.ResponseWriter, r *http.Request) {
		m, err := s.app.WordPicture(r.Context(), actorOf(r.Context()), strings.TrimSuffix(chi.URLParam(r, "word"), ".svg"))
		if err != nil {
			s.plainError(w, r, err)
			return
		}
		w.Header().Set("Content-Type", m.MediaType)
		w.Header().Set("Cache-Control", "private, max-age=300")
		_, _ = w.Write(m.Bytes)
	})
	r.Get("/introductions/{id}/print/{sheet}", s.sheetPDF)
	r.Get("/practice.pdf", s.practicePDF)
	r.Get("/cards.pdf", s.cardsPDF)
	r.Get("/bundle.zip", func(w http.ResponseWriter, r *http.Request) {
		var out bytes.Buffer
		if err := s.app.Export(r.Context(), actorOf(r.Context()), r.URL.Query().Get("class"), &out); err != nil {
			s.plainError(w, r, err)
			return
		}
		w.Header().Set("Content-Type", "application/zip")
		w.Header().Set("Content-Disposition", `attachment; filename="bright-chalk-library.zip"`)
		_, _ = w.Write(out.Bytes())
	})
	r.Get("/pack.html", func(w http.ResponseWriter, r *http.Request) {
		var out bytes.Buffer
		if err := s.app.Pack(
			r.Context(),
			actorOf(r.Context()),
			r.URL.Query().Get("class"),
			r.URL.Query().Get("size"),
			&out,
		); err != nil {
			s.plainError(w, r, err)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Content-Disposition", `attachment; filename="carry-pack.html"`)
		w.Header().Set("Cache-Control", "no-store")
		_, _ = w.Write(out.Bytes())
	})
	r.Get("/events", s.events)
}

// pathID is the id in the path, or one that no row has where it is none.
func pathID(r *http.Request) string {
	id, err := uuid.Parse(chi.URLParam(r, "id"))
	if err != nil {
		return uuid.Nil.String()
	}
	return id.String()
}

func (s *server) upload(limit int64, f func(r *http.Request, data []byte) (any, error)) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		data, err := io.ReadAll(http.MaxBytesReader(w, r.Body, limit))
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			writeProblem(
				w,
				http.StatusRequestEntityTooLarge,
				fmt.Sprintf("The file is larger than %d MB. Nothing was stored.", limit>>20),
				"",
			)
			return
		}
		if err != nil {
			writeProblem(w, http.StatusBadRequest, "The file broke off on its way. Nothing was stored; send it again.", "")
			return
		}
		out, err := f(r, data)
		if err != nil {
			s.plainError(w, r, err)
			return
		}
		writeJSON(w, http.StatusOK, out)
	}
}

func (s *server) picture(w http.ResponseWriter, r *http.Request) {
	m, err := s.app.Picture(r.Context(), actorOf(r.Context()), chi.URLParam(r, "sum"))
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	w.Header().Set("Content-Type", m.MediaType)
	w.Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; sandbox")
	w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	_, _ = w.Write(m.Bytes)
}

// master sends a take with its fixes: FLAC, or WAV for those who ask for it.
func (s *server) master(w http.ResponseWriter, r *http.Request, master recording.Clip, err error) {
	if err != nil || r.URL.Query().Get("as") == "wav" {
		s.sound(w, r, media.EncodeWAV(master), "audio/wav", err)
		return
	}
	data, err := media.EncodeFLAC(master)
	s.sound(w, r, data, "audio/flac", err)
}

func (s *server) sound(w http.ResponseWriter, r *http.Request, data []byte, mediaType string, err error) {
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	w.Header().Set("Content-Type", mediaType)
	w.Header().Set("Cache-Control", "private, no-cache")
	_, _ = w.Write(data)
}

// events streams the team's changes. It lifts the write timeout of the server for itself.
func (s *server) events(w http.ResponseWriter, r *http.Request) {
	stream := http.NewResponseController(w)
	_ = stream.SetWriteDeadline(time.Time{})
	changes, end := s.Hub.Subscribe(actorOf(r.Context()).TeamID)
	defer end()
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("X-Accel-Buffering", "no")
	_, _ = io.WriteString(w, "retry: 2000\n\n")
	if stream.Flush() != nil {
		return
	}
	beat := time.NewTicker(20 * time.Second)
	defer beat.Stop()
	for {
		var err error
		select {
		case <-r.Context().Done():
			return
		case c, open := <-changes:
			if !open { // the server stops; the browser comes back to the next one
				return
			}
			data, _ := json.Marshal(map[string]string{"kind": c.Kind, "id": c.ID})
			_, err = fmt.Fprintf(w, "event: change\ndata: %s\n\n", data)
		case <-beat.C:
			_, err = io.WriteString(w, ": still here\n\n")
		}
		if err != nil || stream.Flush() != nil {
			return
		}
	}
}

// page serves the front end; unknown addresses without a file ending get the one page.
func (s *server) page(w http.ResponseWriter, r *http.Request) {
	name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
	if s.Pages == nil || r.Method != http.MethodGet && r.Method != http.MethodHead {
		writeProblem(w, http.StatusNotFound, "There is nothing at this address.", "")
		return
	}
	if info, err := fs.Stat(s.Pages, name); name != "" && name != "index.html" && err == nil && !info.IsDir() {
		if strings.HasPrefix(name, "assets/") {
			w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		http.ServeFileFS(w, r, s.Pages, name)
		return
	}
	if path.Ext(name) != "" && name != "index.html" {
		writeProblem(w, http.StatusNotFound, "There is nothing at this address.", "")
		return
	}
	html, err := fs.ReadFile(s.Pages, "index.html")
	if err != nil {
		writeProblem(w, http.StatusNotFound, "The pages are not built: run ./chalk build.", "")
		return
	}
	b := make([]byte, 16)
	_, _ = rand.Read(b)
	nonce := hex.EncodeToString(b)
	w.Header().Set("Content-Security-Policy", policy(nonce))
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	_, _ = io.WriteString(w, strings.ReplaceAll(string(html), "NONCE-OF-THIS-ANSWER", nonce))
}
