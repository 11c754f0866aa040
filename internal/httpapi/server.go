// Package httpapi serves the application: typed JSON through huma, sounds, pictures, pages and event
// streams through chi.
package httpapi

import (
	"brightchalk/internal/app"
	"brightchalk/internal/store"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"path"
	"reflect"
	"strings"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"
)

// Options of the server.
type Options struct {
	Log            *slog.Logger
	Hub            *store.Hub
	Pages          fs.FS // the built front end
	PlainCookies   bool  // cookies without Secure: only for plain HTTP on loopback
	SignInsAMinute int   // for one address of the network; 0 is 10
	BehindProxy    bool  // the last X-Forwarded-For entry is the client's address
	Demo           []DemoSignIn
}

// clientAddress is the address that sign-ins are counted for.
func (o Options) clientAddress(r *http.Request) (string, error) {
	if hops := strings.Split(r.Header.Get("X-Forwarded-For"), ","); o.BehindProxy && hops[len(hops)-1] != "" {
		return strings.TrimSpace(hops[len(hops)-1]), nil
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	return host, err
}

// DemoSignIn is shown on the sign-in page of a demo.
type DemoSignIn struct {
	Email    string `json:"email"`
	Password string `json:"password"`
	Role     string `json:"role"`
}

type server struct {
	app      *app.App
	sessions *scs.SessionManager
	Options
}

// New builds the handler. The caller sets the timeouts of the http.Server; event streams lift their own.
func New(a *app.App, o Options) http.Handler {
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	if o.SignInsAMinute == 0 {
		o.SignInsAMinute = 10
	}
	s := &server{app: a, sessions: scs.New(), Options: o}
	s.sessions.Store = pgxstore.NewWithCleanupInterval(a.Pool, 10*time.Minute)
	s.sessions.Lifetime = 12 * time.Hour
	s.sessions.IdleTimeout = 4 * time.Hour
	s.sessions.Cookie.Name = "bright_chalk"
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.Secure = !o.PlainCookies
	s.sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) { s.plainError(w, r, err) }

	r := chi.NewRouter()
	r.Use(s.requestID, s.logRequests, s.recoverPanics, securityHeaders, http.NewCrossOriginProtection().Handler)
	r.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("ok\n")) })
	r.Get("/readyz", s.ready)
	r.Route("/api", func(r chi.Router) {
		r.Use(middleware.Compress(5, "application/json", "image/svg+xml"), s.sessions.LoadAndSave)
		r.With(httprate.LimitBy(o.SignInsAMinute, time.Minute, o.clientAddress)).Post("/session", s.signIn)
		r.Get("/demo", s.demo)
		r.Group(func(r chi.Router) {
			r.Use(s.identify)
			s.jsonCalls(humachi.New(r, apiConfig()))
			s.mediaCalls(r)
		})
		r.NotFound(func(w http.ResponseWriter, r *http.Request) {
			writeProblem(w, http.StatusNotFound, "There is nothing at this address.", "")
		})
	})
	r.NotFound(s.page)
	return r
}

func apiConfig() huma.Config {
	c := huma.DefaultConfig("Bright Chalk", "1")
	c.DocsPath, c.SchemasPath, c.OpenAPIPath = "", "", ""
	c.CreateHooks = nil // no $schema links in the answers
	c.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	c.Servers = []*huma.Server{{URL: "/api"}}
	return c
}

// schemaName puts the package before the type, so that card.Finding and recording.Finding stay apart.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if pkg := path.Base(
		t.PkgPath(),
	); t.Name() != "" && strings.HasPrefix(t.PkgPath(), "brightchalk/") && pkg != "app" && pkg != "httpapi" &&
		!strings.Contains(t.Name(), "[") {
		return strings.ToUpper(pkg[:1]) + pkg[1:] + name
	}
	return name
}

// OpenAPI is the description of the JSON calls, for the typed client.
func OpenAPI() ([]byte, error) {
	api := humachi.New(chi.NewRouter(), apiConfig())
	(&server{}).jsonCalls(api)
	return api.OpenAPI().MarshalJSON()
}

type contextKey int

const (
	actorKey contextKey = iota
	requestKey
)

func actorOf(ctx context.Context) app.Actor {
	a, _ := ctx.Value(actorKey).(app.Actor)
	return a
}

func requestOf(ctx context.Context) string {
	id, _ := ctx.Value(requestKey).(string)
	return id
}

func (s *server) identify(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id := s.sessions.GetString(r.Context(), "member")
		if id == "" {
			writeProblem(w, http.StatusUnauthorized, "Please sign in.", "")
			return
		}
		who, err := s.app.Who(r.Context(), id)
		if errors.Is(err, store.ErrNotFound) {
			_ = s.sessions.Destroy(r.Context())
			writeProblem(w, http.StatusUnauthorized, "Please sign in.", "")
			return
		}
		if err != nil {
			s.plainError(w, r, err)
			return
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), actorKey, who)))
	})
}

func (s *server) requestID(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		b := make([]byte, 6)
		_, _ = rand.Read(b)
		id := hex.EncodeToString(b)
		w.Header().Set("X-Request-Id", id)
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), requestKey, id)))
	})
}

func (s *server) logRequests(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		begin := time.Now()
		next.ServeHTTP(ww, r)
		s.Log.Info(
			"request",
			"id",
			requestOf(r.Context()),
			"method",
			r.Method,
			"path",
			r.URL.Path,
			"status",
			ww.Status(),
			"bytes",
			ww.BytesWritten(),
			"ms",
			time.Since(begin).Milliseconds(),
		)
	})
}

func (s *server) recoverPanics(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if p := recover(); p != nil {
				if p == http.ErrAbortHandler {
					panic(p)
				}
				s.Log.Error("panic", "id", requestOf(r.Context()), "value", p)
				writeProblem(w, http.StatusInternalServerError, unexpected, requestOf(r.Context()))
			}
		}()
		next.ServeHTTP(w, r)
	})
}

func securityHeaders(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Permissions-Policy", "microphone=(self), camera=(), geolocation=()")
		h.Set("Content-Security-Policy", policy(""))
		next.ServeHTTP(w, r)
	})
}

func policy(nonce string) string {
	style := "style-src 'self'"
	if nonce != "" {
		style += " 'nonce-" + nonce + "'"
	}
	return "default-src 'none'; script-src 'self'; " + style + "; img-src 'self' blob:; media-src 'self' blob:; " +
		"font-src 'self'; connect-src 'self'; worker-src 'self'; manifest-src 'self'; base-uri 'none'; form-action " +
		"'self'; frame-ancestors 'none'"
}

func (s *server) ready(w http.ResponseWriter, r *http.Request) {
	ctx, cancel := context.WithTimeout(r.Context(), 2*time.Second)
	defer cancel()
	if err := s.app.Pool.Ping(ctx); err != nil {
		s.Log.Warn("not ready", "error", err)
		http.Error(w, "the database does not answer", http.StatusServiceUnavailable)
		return
	}
	_, _ = w.Write([]byte("ready\n"))
}
