package httpapi

import (
	"brightchalk/internal/app"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"bytes"
	"errors"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"
)

// sheetPDF prints one sheet of an introduction; the last part of the path names it.
func (s *server) sheetPDF(w http.ResponseWriter, r *http.Request) {
	by := actorOf(r.Context())
	team, err := s.app.Team(r.Context(), by)
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	name := strings.TrimSuffix(chi.URLParam(r, "sheet"), ".pdf")
	var out bytes.Buffer
	err = s.app.PrintSheet(r.Context(), by, pathID(r), name, r.URL.Query().Get("line"), paperOf(r, team), &out)
	if errors.Is(err, render.ErrNothing) {
		err = app.InputError{
			Field:   "sheet",
			Message: "This introduction has " + strings.TrimPrefix(err.Error(), render.ErrNothing.Error()+": "),
		}
	}
	s.pdf(w, r, "introduction-"+name+".pdf", out.Bytes(), err)
}

func (s *server) practicePDF(w http.ResponseWriter, r *http.Request) {
	by := actorOf(r.Context())
	team, err := s.app.Team(r.Context(), by)
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	var out bytes.Buffer
	err = s.app.PrintPractice(r.Context(), by, r.URL.Query().Get("text"), paperOf(r, team), &out)
	s.pdf(w, r, "practice.pdf", out.Bytes(), err)
}

func paperOf(r *http.Request, team store.Team) render.Paper {
	if p := r.URL.Query().Get("paper"); p != "" {
		return render.PaperOf(p)
	}
	return render.PaperOf(team.Conventions.Paper)
}

func (s *server) cardsPDF(w http.ResponseWriter, r *http.Request) {
	by := actorOf(r.Context())
	team, err := s.app.Team(r.Context(), by)
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	wanted := map[string]bool{}
	for id := range strings.SplitSeq(r.URL.Query().Get("cards"), ",") {
		wanted[id] = true
	}
	faces, err := s.app.CardFaces(r.Context(), by, func(id string) bool { return wanted[id] || wanted["all"] })
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	if len(faces) == 0 {
		s.plainError(w, r, app.InputError{Field: "cards", Message: "Choose at least one card to print."})
		return
	}
	var out bytes.Buffer
	switch layout := render.Layout(r.URL.Query().Get("layout")); layout {
	case "frieze":
		err = render.Frieze(&out, faces, paperOf(r, team))
	case render.Single, render.Duplex, render.Fold:
		size := render.Large
		if r.URL.Query().Get("size") == "small" {
			size = render.Small
		}
		err = render.Cards(&out, faces, layout, size, paperOf(r, team))
	default:
		err = app.InputError{Field: "layout", Message: "Choose single, duplex, fold or frieze."}
	}
	s.pdf(w, r, "sound-cards.pdf", out.Bytes(), err)
}

func (s *server) pdf(w http.ResponseWriter, r *http.Request, name string, data []byte, err error) {
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	w.Header().Set("Content-Type", "application/pdf")
	w.Header().Set("Content-Disposition", `inline; filename="`+name+`"`)
	w.Header().Set("Cache-Control", "no-store")
	_, _ = w.Write(data)
}
