// Package app has one function for each use: it reads, calls the core, and writes, in one transaction.
package app

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/unfit"
	"brightchalk/internal/store"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// App holds what every use needs.
type App struct {
	Pool *pgxpool.Pool
	Now  func() time.Time
	Seed func() uint64
}

// Role of a member.
type Role string

const (
	Lead      Role = "lead"
	Teacher   Role = "teacher"
	Assistant Role = "assistant"
)

// Actor is the signed-in member who asks.
type Actor struct {
	MemberID string `json:"member_id"`
	TeamID   string `json:"-"`
	Name     string `json:"name"`
	Initials string `json:"initials"`
	Role     Role   `json:"role" enum:"lead,teacher,assistant"`
}

// May is something that a role allows.
type May string

const (
	MayEdit   May = "edit cards"
	MayAgree  May = "agree cards and set the team's conventions"
	MayRecord May = "record takes"
	MayChoose May = "choose and withdraw takes"
	MayTeach  May = "assemble, teach and log"
)

var rights = map[Role][]May{
	Lead:      {MayEdit, MayAgree, MayRecord, MayChoose, MayTeach},
	Teacher:   {MayEdit, MayRecord, MayChoose, MayTeach},
	Assistant: {MayRecord, MayTeach},
}

// Errors that the outside tells apart. ErrInput wraps a sentence for the person.
var (
	ErrForbidden = errors.New("not allowed")
	ErrInput     = errors.New("input")
)

// InputError says what is wrong with one field.
type InputError struct{ Field, Message string }

func (e InputError) Error() string { return e.Message }
func (InputError) Unwrap() error   { return ErrInput }

func wrong(field, format string, args ...any) error {
	return InputError{field, fmt.Sprintf(format, args...)}
}

func (a Actor) need(m May) error {
	for _, r := range rights[a.Role] {
		if r == m {
			return nil
		}
	}
	return fmt.Errorf("%w: as %s you may not %s", ErrForbidden, a.Role, m)
}

// Rights lists what the actor may do, for the screens.
func (a Actor) Rights() []string {
	out := []string{}
	for _, r := range rights[a.Role] {
		out = append(out, string(r))
	}
	return out
}

func (a *App) tx(ctx context.Context, f func(tx pgx.Tx) error) error {
	return pgx.BeginFunc(ctx, a.Pool, f)
}

func (a *App) conventions(ctx context.Context, db store.DB, teamID string) (card.Conventions, error) {
	t, err := store.GetTeam(ctx, db, teamID)
	return t.Conventions, err
}

// Team returns the actor's team.
func (a *App) Team(ctx context.Context, by Actor) (store.Team, error) {
	return store.GetTeam(ctx, a.Pool, by.TeamID)
}

// Routine returns the team's routine, the usual one where it has set none.
func (a *App) Routine(ctx context.Context, by Actor) (lesson.Routine, error) {
	r, err := store.GetRoutine(ctx, a.Pool, by.TeamID)
	if errors.Is(err, store.ErrNotFound) {
		return lesson.DefaultRoutine(), nil
	}
	return r, err
}

// SetRoutine replaces the team's routine; only a lead may.
func (a *App) SetRoutine(ctx context.Context, by Actor, r lesson.Routine) error {
	if err := by.need(MayAgree); err != nil {
		return err
	}
	if err := r.Check(); err != nil {
		return wrong("steps", "%s.", capital(err.Error()))
	}
	return store.PutRoutine(ctx, a.Pool, by.TeamID, r)
}

// SetConventions replaces the team's conventions; only a lead may.
func (a *App) SetConventions(ctx context.Context, by Actor, c card.Conventions) error {
	if err := by.need(MayAgree); err != nil {
		return err
	}
	if c.Paper == "" {
		c.Paper = "A4"
	}
	for i := range c.Departures {
		d := &c.Departures[i]
		d.Word, d.Note = strings.ToLower(strings.TrimSpace(d.Word)), strings.TrimSpace(d.Note)
		if _, known := lexicon.Find(d.Word); !known {
			return wrong("departures", "“%s” is not in the word list, so its sounds in another accent are not known.", d.Word)
		}
		if _, err := phoneme.ParseAccent(string(d.Accent)); err != nil || d.Accent == "" {
			return wrong("departures", "Choose the accent in which the team says “%s”.", d.Word)
		}
		if d.Note == "" {
			return wrong("departures", "Say in a few words why “%s” departs from the team's accent.", d.Word)
		}
	}
	for i, w := range c.Allowed {
		w = strings.ToLower(strings.TrimSpace(w))
		if _, refused := unfit.Of(w); !refused || strings.ContainsAny(w, " -") {
			return wrong("allowed", "“%s” is not among the words that are kept from children; there is nothing to allow.", w)
		}
		c.Allowed[i] = w
	}
	for _, m := range c.Materials {
		if !slices.ContainsFunc(lesson.Materials(), func(k lesson.Material) bool { return k.Name == m }) {
			return wrong("materials", "“%s” is not among the materials, whose cautions are known.", m)
		}
	}
	c.Lines = c.Lines.OrCommon()
	if field, text := c.Lines.Check(); field != "" {
		return wrong(field, "%s", text)
	}
	return store.SetConventions(ctx, a.Pool, by.TeamID, c)
}

func capital(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	return string(append([]rune{toUpper(r[0])}, r[1:]...))
}

func toUpper(r rune) rune {
	if r >= 'a' && r <= 'z' {
		return r - 32
	}
	return r
}
