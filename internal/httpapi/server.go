// Package httpapi serves the application: typed JSON through huma, sounds, pictures, pages and event
// streams through chi.
package httpapi

import (
	"context"
	"encoding/json"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httplog/v3"
	"github.com/go-chi/httprate"

	"brightchalk/internal/app"
	"brightchalk/internal/people"
	"brightchalk/internal/provider"
	"brightchalk/internal/store"
)

// Options of the server.
type Options struct {
	Log          *slog.Logger
	Hub          *store.Hub
	Pages        fs.FS // the built front end
	PlainCookies bool  // cookies without Secure: only for plain HTTP on loopback
	BehindProxy  bool  // the last X-Forwarded-For entry is the client's address
	Demo         []people.DemoSignIn
	Provider     *provider.Provider // of sign-ins beside passwords; nil is none
	Leaving      func() bool        // the server is about to stop; nil is never
	// Observe is told of each request: its operation, its status, and how long it took. It may be nil.
	Observe func(operation string, status int, took time.Duration)
}

// maxAddress bounds what is kept of an address that a header says.
const maxAddress = 64

// clientAddress is the address of the network that failed sign-ins are counted for.
func (o Options) clientAddress(r *http.Request) string {
	if hops := strings.Split(r.Header.Get("X-Forwarded-For"), ","); o.BehindProxy {
		if last := strings.TrimSpace(hops[len(hops)-1]); last != "" && utf8.ValidString(last) {
			return last[:min(len(last), maxAddress)]
		}
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

type server struct {
	app      *app.App
	sessions *scs.SessionManager
	cache    *answerCache
	Options
}

// New builds the handler. The caller sets the timeouts of the http.Server; event streams lift their own.
func New(a *app.App, o Options) http.Handler {
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	if o.Leaving == nil {
		o.Leaving = func() bool { return false }
	}
	s := &server{app: a, sessions: sessionsOn(a.Pool, o), cache: &answerCache{}, Options: o}

	r := chi.NewRouter()
	r.Use(
		s.observe,
		middleware.RequestID,
		withoutQuery,
		httplog.RequestLogger(o.Log, logging()),
		withQuery,
		requestIDs,
		s.securityHeaders,
		http.NewCrossOriginProtection().Handler,
	)
	r.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("ok\n")) })
	r.Get("/readyz", s.ready)
	r.With(httprate.LimitBy(reportsAMinute, time.Minute, s.addressKey)).Post(reportPath, s.report)
	r.Route("/api", func(r chi.Router) {
		r.Use(readable, middleware.Compress(5, "application/json", "image/svg+xml"), s.visited)
		c := apiConfig()
		members := r.With(s.identify)
		everybody, calls := humachi.New(r, c), humachi.New(members, c)
		everybody.UseMiddleware(named)
		calls.UseMiddleware(named)
		s.register(everybody, calls)
		s.docs(r, c)
		r.NotFound(notHere)
	})
	r.NotFound(s.page)
	return r
}

// readable refuses an address that is no text: bytes that are not UTF-8, and NUL, which no call can mean and which what
// is behind it (patterns, the database) may stumble over. JSON bodies hold text only, by their reader.
func readable(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		query, err := url.QueryUnescape(r.URL.RawQuery)
		if text := r.URL.Path + query; err != nil || !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
			writeProblem(w, newProblem(
				http.StatusUnprocessableEntity, codeSigns, "The address holds signs that are no text. Type them anew.",
			))
			return
		}
		next.ServeHTTP(w, r)
	})
}

type queryKey struct{}

// withoutQuery keeps the query of a request from the logger, whose message holds the whole address: a query may hold a
// secret, or what somebody looks for. withQuery gives it back to those behind the logger.
func withoutQuery(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		bare := r.WithContext(context.WithValue(r.Context(), queryKey{}, r.URL.RawQuery))
		address := *r.URL
		address.RawQuery = ""
		bare.URL = &address
		next.ServeHTTP(w, bare)
	})
}

func withQuery(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		query, _ := r.Context().Value(queryKey{}).(string)
		whole := r.WithContext(r.Context())
		address := *r.URL
		address.RawQuery = query
		whole.URL = &address
		next.ServeHTTP(w, whole)
	})
}

// logging leaves out what may name people: headers and bodies; the query is taken away before it.
func logging() *httplog.Options {
	return &httplog.Options{
		Level:              slog.LevelInfo,
		RecoverPanics:      true,
		LogRequestHeaders:  []string{},
		LogResponseHeaders: []string{},
		Schema: &httplog.Schema{
			RequestMethod: "method", RequestPath: "path", ResponseStatus: "status", ResponseBytes: "bytes",
			ResponseDuration: "ms", ErrorMessage: "error", ErrorStackTrace: "stack",
		},
	}
}

const (
	reportPath     = "/csp-reports"
	reportsAMinute = 60 // from one address of the network
	maxReport      = 8 << 10
)

func (s *server) addressKey(r *http.Request) (string, error) { return s.clientAddress(r), nil }

// report writes what a browser refused to load to the log: where, and what kind of thing, without the query.
func (s *server) report(w http.ResponseWriter, r *http.Request) {
	var in struct {
		Report struct {
			Document  string `json:"document-uri"`
			Directive string `json:"effective-directive"`
			Blocked   string `json:"blocked-uri"`
		} `json:"csp-report"`
	}
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, maxReport)).Decode(&in); err != nil {
		notHere(w, r)
		return
	}
	bare := func(address string) string {
		address, _, _ = strings.Cut(address, "?")
		return address[:min(len(address), 200)]
	}
	s.Log.Warn("content security policy", "page", bare(in.Report.Document),
		"directive", bare(in.Report.Directive), "blocked", bare(in.Report.Blocked))
	w.WriteHeader(http.StatusNoContent)
}

// requestIDs sends the id of a request back, so that somebody can name it, and writes it to the log. (An option of the
// logger for further attributes keeps every body in memory.)
func requestIDs(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id := middleware.GetReqID(r.Context())
		w.Header().Set(middleware.RequestIDHeader, id)
		httplog.SetAttrs(r.Context(), slog.String("id", id))
		next.ServeHTTP(w, r)
	})
}

func (s *server) securityHeaders(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Permissions-Policy", "microphone=(self), camera=(), geolocation=()")
		h.Set("Content-Security-Policy", plainPolicy)
		if strings.HasPrefix(r.URL.Path, "/api/") { // unless a call says otherwise of its own answer
			h.Set("Cache-Control", never)
		}
		if s.Leaving() {
			h.Set("Connection", "close")
		}
		next.ServeHTTP(w, r)
	})
}

var plainPolicy = policy()

// policy is the content security policy; with what a page may have besides: "style-src 'nonce-x'", "img-src data:".
func policy(besides ...string) string {
	allowed := []string{
		"default-src 'none'", "script-src 'self'", "style-src 'self'", "img-src 'self' blob:", "media-src 'self' blob:",
		"font-src 'self'", "connect-src 'self'", "worker-src 'self'", "manifest-src 'self'", "base-uri 'none'",
		"form-action 'self'", "frame-ancestors 'none'", "report-uri " + reportPath,
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
	if s.Leaving() {
		http.Error(w, "this server stops", http.StatusServiceUnavailable)
		return
	}
	if err := s.app.Pool.Ping(ctx); err != nil {
		s.Log.Warn("not ready", "error", err)
		http.Error(w, "the database does not answer", http.StatusServiceUnavailable)
		return
	}
	_, _ = w.Write([]byte("ready\n"))
}
