package httpapi

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/alexedwards/scs/v2"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

// Names of the session's cookie. With the prefix, browsers take it only from HTTPS, for the whole host and for no other
// (RFC 6265bis, section 4.1.3.2); plain HTTP on loopback has to do without.
const (
	cookieName      = "bright_chalk"
	secureCookie    = "__Host-" + cookieName
	sessionLifetime = 12 * time.Hour
	sessionIdle     = 4 * time.Hour
	sessionNoted    = 10 * time.Minute // how often use is noted: each note is a write
)

func sessionsOn(pool *pgxpool.Pool, o Options) *scs.SessionManager {
	m := scs.New()
	m.Store = pgxstore.NewWithCleanupInterval(pool, 10*time.Minute)
	m.Codec = plainSession{}
	m.Lifetime = sessionLifetime
	m.Cookie.Name = secureCookie
	m.Cookie.SameSite = http.SameSiteLaxMode
	m.Cookie.HttpOnly = true
	m.Cookie.Secure = true
	if o.PlainCookies {
		m.Cookie.Name, m.Cookie.Secure = cookieName, false
	}
	return m
}

// plainSession keeps a session as JSON: reading it with every call costs a tenth of what the usual packing costs.
type plainSession struct{}

type sessionData struct {
	Until  time.Time `json:"until"`
	Member string    `json:"member"`
	Epoch  int       `json:"epoch"`
	Seen   int64     `json:"seen"`             // Unix time
	Pass   string    `json:"pass,omitempty"`   // of a phone that is the desk of one lesson
	Lesson string    `json:"lesson,omitempty"` // that one
	Began  int64     `json:"began,omitempty"`  // Unix time
	// Address of the network where it began, and what the browser called itself: for the member's own list.
	Address string `json:"address,omitempty"`
	Agent   string `json:"agent,omitempty"`
}

// Encode is for scs.
func (plainSession) Encode(until time.Time, values map[string]any) ([]byte, error) {
	d := sessionData{Until: until}
	d.Member, _ = values["member"].(string)
	d.Epoch, _ = values["epoch"].(int)
	d.Seen, _ = values["seen"].(int64)
	d.Pass, _ = values["pass"].(string)
	d.Lesson, _ = values["lesson"].(string)
	d.Began, _ = values["began"].(int64)
	d.Address, _ = values["address"].(string)
	d.Agent, _ = values["agent"].(string)
	return json.Marshal(d)
}

// Decode is for scs. What it cannot read, as a former version wrote it, is a session of nobody.
func (plainSession) Decode(data []byte) (time.Time, map[string]any, error) {
	var d sessionData
	if err := json.Unmarshal(data, &d); err != nil || d.Member == "" {
		return time.Now().Add(sessionLifetime), map[string]any{}, nil //nolint:nilerr // see above
	}
	values := map[string]any{"member": d.Member, "epoch": d.Epoch, "seen": d.Seen}
	if d.Began > 0 {
		values["began"], values["address"], values["agent"] = d.Began, d.Address, d.Agent
	}
	if d.Pass != "" {
		values["pass"], values["lesson"] = d.Pass, d.Lesson
	}
	return d.Until, values, nil
}

type contextKey int

const (
	actorKey contextKey = iota
	visitKey
	revisionKey
)

func actorFrom(ctx context.Context) tx.Actor {
	a, _ := ctx.Value(actorKey).(tx.Actor)
	return a
}

// visit is what calls about sessions need of their request.
type visit struct {
	w       http.ResponseWriter
	address string
	agent   string // what the browser calls itself
	way     string // what it keeps of a sign-in by the provider that it began
}

func visitFrom(ctx context.Context) visit {
	v, _ := ctx.Value(visitKey).(visit)
	return v
}

// visited reads the session of a request. Nothing is written by itself: a call that changes the session says so with
// keep or end, before it answers, so that it can still fail.
func (s *server) visited(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ctx, err := s.sessions.Load(r.Context(), s.token(r))
		if err != nil {
			s.plainError(w, r, store.Classify(err))
			return
		}
		w.Header().Add("Vary", "Cookie")
		v := visit{w: w, address: s.clientAddress(r), agent: userAgent(r)}
		if c, err := r.Cookie(s.wayCookieName()); err == nil {
			v.way = c.Value
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(ctx, visitKey, v)))
	})
}

func userAgent(r *http.Request) string {
	agent := strings.ToValidUTF8(r.UserAgent(), "")
	return agent[:min(len(agent), maxAgent)]
}

func (s *server) token(r *http.Request) string {
	if c, err := r.Cookie(s.sessions.Cookie.Name); err == nil {
		return c.Value
	}
	return ""
}

// begin makes a new session of the member, in the place of the one before.
func (s *server) begin(ctx context.Context, who tx.Actor) error {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return store.Classify(err)
	}
	s.sessions.Put(ctx, "member", who.MemberID)
	s.sessions.Put(ctx, "epoch", who.Epoch)
	s.began(ctx)
	s.sessions.Remove(ctx, "pass")
	s.sessions.Remove(ctx, "lesson")
	return s.commit(ctx)
}

// began notes when and where a session began.
func (s *server) began(ctx context.Context) {
	now, v := s.app.Now().Unix(), visitFrom(ctx)
	s.sessions.Put(ctx, "seen", now)
	s.sessions.Put(ctx, "began", now)
	s.sessions.Put(ctx, "address", v.address)
	s.sessions.Put(ctx, "agent", v.agent)
}

// maxAgent is how much is kept of what a browser calls itself.
const maxAgent = 160

// deskPass is what the session of a phone carries that joined a lesson by a code.
type deskPass struct{ pass, lesson string }

func (s *server) phonePass(ctx context.Context) deskPass {
	return deskPass{s.sessions.GetString(ctx, "pass"), s.sessions.GetString(ctx, "lesson")}
}

// beginDesk makes a session that is good for the desk of one lesson.
func (s *server) beginDesk(ctx context.Context, who tx.Actor, p store.Pass) error {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return store.Classify(err)
	}
	s.sessions.Put(ctx, "member", who.MemberID)
	s.sessions.Put(ctx, "epoch", who.Epoch)
	s.began(ctx)
	s.sessions.Put(ctx, "pass", p.PassID)
	s.sessions.Put(ctx, "lesson", p.LessonID)
	s.sessions.SetDeadline(ctx, s.app.Now().Add(teaching.PassLifetime))
	return s.commit(ctx)
}

func (s *server) commit(ctx context.Context) error {
	token, until, err := s.sessions.Commit(ctx)
	if err != nil {
		return fmt.Errorf("%w: keep the session: %w", store.ErrBusy, err)
	}
	s.sessions.WriteSessionCookie(ctx, visitFrom(ctx).w, token, until)
	return nil
}

// end drops the session.
func (s *server) end(ctx context.Context) error {
	if err := s.sessions.Destroy(ctx); err != nil {
		return fmt.Errorf("%w: end the session: %w", store.ErrBusy, err)
	}
	s.sessions.WriteSessionCookie(ctx, visitFrom(ctx).w, "", time.Time{})
	return nil
}

// unused is how long ago the use of the session was noted.
func (s *server) unused(ctx context.Context) time.Duration {
	return s.app.Now().Sub(time.Unix(s.sessions.GetInt64(ctx, "seen"), 0))
}

// member is who the session is of; store.ErrNotFound where there is none, or it has ended.
func (s *server) member(ctx context.Context) (tx.Actor, int64, error) {
	id := s.sessions.GetString(ctx, "member")
	if id == "" {
		return tx.Actor{}, 0, store.ErrNotFound
	}
	if s.unused(ctx) > sessionIdle {
		return tx.Actor{}, 0, fmt.Errorf("idle session: %w", store.ErrNotFound)
	}
	if p := s.phonePass(ctx); p.pass != "" {
		stands, err := s.app.Running.Stands(ctx, p.pass, p.lesson)
		if err != nil || !stands {
			return tx.Actor{}, 0, cmp.Or(store.Classify(err), fmt.Errorf("a phone that was let go: %w", store.ErrNotFound))
		}
	}
	return s.app.Accounts.Who(ctx, id, s.sessions.GetInt(ctx, "epoch"))
}

// identify lets in who is signed in.
func (s *server) identify(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ctx := r.Context()
		who, revision, err := s.member(ctx)
		if errors.Is(err, store.ErrNotFound) {
			if s.sessions.GetString(ctx, "member") != "" {
				_ = s.end(ctx)
			}
			writeProblem(w, newProblem(http.StatusUnauthorized, codeSignIn, "Please sign in."))
			return
		}
		if err != nil {
			s.plainError(w, r, err)
			return
		}
		if !s.confine(w, r) {
			return
		}
		if s.unused(ctx) > sessionNoted {
			s.sessions.Put(ctx, "seen", s.app.Now().Unix())
			if _, _, err := s.sessions.Commit(ctx); err != nil { // the next call notes it
				s.Log.Warn("the use of a session was not noted", "error", err)
			}
		}
		ctx = context.WithValue(context.WithValue(ctx, actorKey, who), revisionKey, revision)
		next.ServeHTTP(w, r.WithContext(ctx))
	})
}

// still tells whether the session with a token is one of the member.
func (s *server) still(ctx context.Context, token string, by tx.Actor) bool {
	fresh, err := s.sessions.Load(context.WithoutCancel(withoutSession{ctx}), token)
	if err != nil {
		return true // the database is away: the next look decides
	}
	who, _, err := s.member(fresh)
	return err == nil && who.MemberID == by.MemberID || err != nil && !errors.Is(err, store.ErrNotFound)
}

// withoutSession hides the session that a request began with, so that it is read anew.
type withoutSession struct{ context.Context }

// Value answers nothing.
func (withoutSession) Value(any) any { return nil }
