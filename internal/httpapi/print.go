package httpapi

import (
	"bytes"
	"fmt"
	"net/http"
	"strings"

	"brightchalk/internal/app"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
)

func (s *server) planPDF(w http.ResponseWriter, r *http.Request) {
	by := actorOf(r.Context())
	in, err := s.app.Introduction(r.Context(), by, pathID(r))
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	team, err := s.app.Team(r.Context(), by)
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	var out bytes.Buffer
	err = render.Plan(&out, in.Lesson, render.PlanHead{Team: team.Name, Class: in.ClassName, Made: in.CreatedAt}, paperOf(r, team))
	s.pdf(w, r, "introduction-"+in.Lesson.Pair.Grapheme+".pdf", out.Bytes(), err)
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
	cards, err := s.app.Wall(r.Context(), by, false)
	if err != nil {
		s.plainError(w, r, err)
		return
	}
	var faces []render.Face
	for _, c := range cards {
		if !wanted[c.CardID] && !wanted["all"] {
			continue
		}
		f := render.Face{Pair: c.Pair, Keyword: c.Keyword, Rhyme: c.Rhyme, Action: c.Action, Step: c.Step, ShowUpper: team.Conventions.Capitals}
		if m, err := s.app.Picture(r.Context(), by, c.Picture); err == nil {
			f.Picture = &render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
		}
		faces = append(faces, f)
	}
	if len(faces) == 0 {
		s.plainError(w, r, app.InputError{Field: "cards", Message: "Choose at least one card to print."})
		return
	}
	layout := render.Duplex
	if r.URL.Query().Get("layout") == string(render.Fold) {
		layout = render.Fold
	}
	var out bytes.Buffer
	err = render.Cards(&out, faces, layout, paperOf(r, team))
	s.pdf(w, r, "sound-cards.pdf", out.Bytes(), err)
}

func (s *server) pdf(w http.ResponseWriter, r *http.Request, name string, data []byte, err error) {
	if err != nil {
		s.plainError(w, r, fmt.Errorf("make %s: %w", name, err))
		return
	}
	w.Header().Set("Content-Type", "application/pdf")
	w.Header().Set("Content-Disposition", `inline; filename="`+name+`"`)
	w.Header().Set("Cache-Control", "no-store")
	_, _ = w.Write(data)
}
