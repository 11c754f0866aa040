package httpapi

import (
	"crypto/rand"
	"encoding/hex"
	"io"
	"io/fs"
	"net/http"
	"path"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
)

// pageRoots are the first parts of the addresses of the pages, as in web/src/app/router.tsx.
var pageRoots = []string{
	"",
	"index.html",
	"today",
	"audit", "bring", "stock",
	"cards",
	"lessons",
	"introductions",
	"classes",
	"teach",
	"join",
	"welcome", "come-in",
	"plan",
	"order",
	"meeting",
	"words",
	"texts",
	"letters",
	"booth",
	"team",
}

// page serves the front end; the addresses of pages get the one page.
func (s *server) page(w http.ResponseWriter, r *http.Request) {
	name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
	if s.Pages == nil || r.Method != http.MethodGet && r.Method != http.MethodHead {
		notHere(w, r)
		return
	}
	if path.Ext(name) == ".webmanifest" {
		w.Header().Set("Content-Type", "application/manifest+json")
	}
	if info, err := fs.Stat(s.Pages, name); name != "" && name != "index.html" && err == nil && !info.IsDir() {
		if strings.HasPrefix(name, "assets/") {
			w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		} else {
			w.Header().Set("Cache-Control", "no-cache") // the worker and the manifest change with the program
		}
		http.ServeFileFS(w, r, s.Pages, name)
		return
	}
	first, _, _ := strings.Cut(name, "/")
	status := http.StatusOK
	if path.Ext(name) != "" && name != "index.html" || !slices.Contains(pageRoots, first) {
		// Somebody who followed an old address gets the page that says so, with a way back; programs get a problem.
		if path.Ext(name) != "" || !strings.Contains(r.Header.Get("Accept"), "text/html") {
			notHere(w, r)
			return
		}
		status = http.StatusNotFound
	}
	html, err := fs.ReadFile(s.Pages, "index.html")
	if err != nil {
		writeProblem(w, newProblem(http.StatusNotFound, codeNotFound, "The pages are not built: run ./chalk build."))
		return
	}
	b := make([]byte, 16)
	_, _ = rand.Read(b)
	nonce := hex.EncodeToString(b)
	w.Header().Set("Content-Security-Policy", policy("style-src 'nonce-"+nonce+"'"))
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", never)
	w.WriteHeader(status)
	_, _ = io.WriteString(w, strings.ReplaceAll(string(html), "NONCE-OF-THIS-ANSWER", nonce))
}

// docs serves the description of the calls, for programs and, by shipped files, for people.
func (s *server) docs(r chi.Router, c huma.Config) {
	r.Get("/openapi.json", func(w http.ResponseWriter, r *http.Request) {
		data, err := c.MarshalJSON()
		if err != nil {
			s.plainError(w, r, err)
			return
		}
		w.Header().Set("Content-Type", "application/json")
		_, _ = w.Write(data)
	})
	r.Get("/docs", func(w http.ResponseWriter, r *http.Request) {
		if s.Pages == nil {
			notHere(w, r)
			return
		}
		w.Header().Set("Content-Security-Policy", policy("img-src data:"))
		http.ServeFileFS(w, r, s.Pages, "docs.html")
	})
}
