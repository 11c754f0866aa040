// Package httpapi serves the application: typed JSON through huma, sounds, pictures, pages and event
// streams through chi.
package httpapi

import (
	"context"
	"errors"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httplog/v3"
	"github.com/go-chi/httprate"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/internal/app"
	"brightchalk/internal/store"
)

// Options of the server.
type Options struct {
	Log            *slog.Logger
	Hub            *store.Hub
	Pages          fs.FS // the built front end
	PlainCookies   bool  // cookies without Secure: only for plain HTTP on loopback
	SignInsAMinute int   // for one address of the network; 0 is 10
	BehindProxy    bool  // the last X-Forwarded-For entry is the client's address
	Demo           []app.DemoSignIn
}

// clientAddress is the address that sign-ins are counted for.
func (o Options) clientAddress(r *http.Request) (string, error) {
	if hops := strings.Split(r.Header.Get("X-Forwarded-For"), ","); o.BehindProxy && hops[len(hops)-1] != "" {
		return strings.TrimSpace(hops[len(hops)-1]), nil
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	return host, err
}

const cookieName = "bright_chalk"

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
	s := &server{app: a, sessions: sessionsOn(a.Pool, o), Options: o}
	s.sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) { s.plainError(w, r, err) }

	r := chi.NewRouter()
	r.Use(
		middleware.RequestID, requestIDs, httplog.RequestLogger(o.Log, logging()), securityHeaders,
		http.NewCrossOriginProtection().Handler,
	)
	r.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("ok\n")) })
	r.Get("/readyz", s.ready)
	r.Route("/api", func(r chi.Router) {
		r.Use(middleware.Compress(5, "application/json", "image/svg+xml"), s.sessions.LoadAndSave)
		c := apiConfig()
		limited := r.With(s.limitSignIns)
		members := r.With(s.identify)
		s.register(humachi.New(limited, c), humachi.New(members, c))
		s.docs(r, c)
		r.NotFound(notHere)
	})
	r.NotFound(s.page)
	return r
}

func sessionsOn(pool *pgxpool.Pool, o Options) *scs.SessionManager {
	m := scs.New()
	m.Store = pgxstore.NewWithCleanupInterval(pool, 10*time.Minute)
	m.Lifetime = 12 * time.Hour
	m.IdleTimeout = 4 * time.Hour
	m.Cookie.Name = cookieName
	m.Cookie.SameSite = http.SameSiteLaxMode
	m.Cookie.HttpOnly = true
	m.Cookie.Secure = !o.PlainCookies
	return m
}

// logging leaves out what may name people: the query, headers and bodies.
func logging() *httplog.Options {
	return &httplog.Options{
		Level:              slog.LevelInfo,
		RecoverPanics:      true,
		LogRequestHeaders:  []string{},
		LogResponseHeaders: []string{},
		LogExtraAttrs: func(r *http.Request, _ string, _ int) []slog.Attr {
			return []slog.Attr{slog.String("id", middleware.GetReqID(r.Context()))}
		},
		Schema: &httplog.Schema{
			RequestMethod: "method", RequestPath: "path", ResponseStatus: "status", ResponseBytes: "bytes",
			ResponseDuration: "ms", ErrorMessage: "error", ErrorStackTrace: "stack",
		},
	}
}

// requestIDs sends the id of a request back, so that somebody can name it.
func requestIDs(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set(middleware.RequestIDHeader, middleware.GetReqID(r.Context()))
		next.ServeHTTP(w, r)
	})
}

// limitSignIns counts the attempts to sign in from an address of the network.
func (s *server) limitSignIns(next http.Handler) http.Handler {
	many := func(w http.ResponseWriter, _ *http.Request) {
		writeProblem(w, newProblem(
			http.StatusTooManyRequests, codeTooMany, "Too many attempts to sign in. Wait a minute, then try again.",
		))
	}
	limited := httprate.LimitBy(
		s.SignInsAMinute, time.Minute, s.clientAddress, httprate.WithLimitHandler(many),
	)(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPost {
			limited.ServeHTTP(w, r)
			return
		}
		next.ServeHTTP(w, r)
	})
}

type contextKey int

const actorKey contextKey = iota

func actorOf(ctx context.Context) app.Actor {
	a, _ := ctx.Value(actorKey).(app.Actor)
	return a
}

func (s *server) identify(next http.Handler) http.Handler {
	unknown := newProblem(http.StatusUnauthorized, codeSignIn, "Please sign in.")
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id := s.sessions.GetString(r.Context(), "member")
		if id == "" {
			writeProblem(w, unknown)
			return
		}
		who, err := s.app.People.Who(r.Context(), id)
		if errors.Is(err, store.ErrNotFound) {
			_ = s.sessions.Destroy(r.Context())
			writeProblem(w, unknown)
			return
		}
		if err != nil {
			s.plainError(w, r, err)
			return
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), actorKey, who)))
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
		h.Set("Content-Security-Policy", policy())
		next.ServeHTTP(w, r)
	})
}

// policy is the content security policy; with what a page may have besides: "style-src 'nonce-x'", "img-src data:".
func policy(besides ...string) string {
	allowed := []string{
		"default-src 'none'", "script-src 'self'", "style-src 'self'", "img-src 'self' blob:", "media-src 'self' blob:",
		"font-src 'self'", "connect-src 'self'", "worker-src 'self'", "manifest-src 'self'", "base-uri 'none'",
		"form-action 'self'", "frame-ancestors 'none'",
	}
	for _, b := range besides {
		kind, what, _ := strings.Cut(b, " ")
		for i, a := range allowed {
			if strings.HasPrefix(a, kind+" ") {
				allowed[i] = a + " " + what
			}
		}
	}
	return strings.Join(allowed, "; ")
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

// The capabilities; a description is made without a house.
func (s *server) house() *app.App {
	if s.app == nil {
		return &app.App{}
	}
	return s.app
}

func (s *server) cards() app.Cards       { return s.house().Cards }
func (s *server) takes() app.Takes       { return s.house().Takes }
func (s *server) words() app.Words       { return s.house().Words }
func (s *server) lessons() app.Lessons   { return s.house().Lessons }
func (s *server) letters() app.Letters   { return s.house().Letters }
func (s *server) planning() app.Planning { return s.house().Planning }
func (s *server) people() app.People     { return s.house().People }
func (s *server) prints() app.Print      { return s.house().Print }
