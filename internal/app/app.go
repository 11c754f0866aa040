// Package app has a type for each capability of the house: cards, takes and voices, words, lessons, letters, planning,
// people, print, running lessons, years, orders,
// meetings, reviews, a member's morning, audits, what is brought in. A method reads, calls the core and writes, in one
// transaction; it checks what it was given and what the member may do inside it.
package app

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
)

// App is all capabilities.
type App struct {
	Pool     *pgxpool.Pool
	Now      func() time.Time
	Cards    Cards
	Takes    Takes
	Words    Words
	Lessons  Lessons
	Letters  Letters
	Planning Planning
	People   People
	Print    Print
	Running  Running
	Years    Years
	Orders   Orders
	Meetings Meetings
	Reviews  Reviews
	Desk     Desk
	Audits   Audits
	Parcels  Parcels
	Stock    Stock
	Mails    Mails
	Jobs     Jobs
}

// Options of New; the zero value is for a running server.
type Options struct {
	Now  func() time.Time
	Seed func() uint64
	// Hashing is how dear a password's hash is; nil is dear enough for a server. Tests make it cheap.
	Hashing *argon2id.Params
	Limits  SignInLimits // the zero value is for a school
	Post    Post
	// Queue brings jobs to servers; nil leaves them lying until somebody runs them.
	Queue Queue
	// Standby is a database that follows; what is only read may be read there. Nil for none.
	Standby *pgxpool.Pool
	// Stage is the script and the style of the stage in a carry pack; nil, or empty, leaves lessons as tables.
	Stage func() (script, style []byte)
}

// New opens the house on a database.
func New(pool *pgxpool.Pool, o Options) *App {
	if o.Now == nil {
		o.Now = time.Now
	}
	if o.Seed == nil {
		o.Seed = func() uint64 { return uint64(rand.Uint32()) } // fits a number of JSON
	}
	if o.Hashing == nil {
		o.Hashing = dear
	}
	if o.Stage == nil {
		o.Stage = func() (script, style []byte) { return nil, nil }
	}
	g := ground{
		pool,
		store.AllTeams{Pool: pool},
		nil,
		o.Now,
		o.Seed,
		media.NewBudget(media.DecodeBytes),
		make(chan struct{}, 1),
	}
	if o.Standby != nil {
		g.near = &near{pool: o.Standby}
	}
	a := &App{
		Pool:     pool,
		Now:      o.Now,
		Cards:    Cards{desk[cardStore]{g, func(l store.Library) cardStore { return l }}},
		Takes:    Takes{desk[takeStore]{g, func(l store.Library) takeStore { return l }}},
		Words:    Words{desk[wordStore]{g, func(l store.Library) wordStore { return l }}},
		Lessons:  Lessons{desk[lessonStore]{g, func(l store.Library) lessonStore { return l }}},
		Letters:  Letters{desk[letterStore]{g, func(l store.Library) letterStore { return l }}},
		Planning: Planning{desk[planStore]{g, func(l store.Library) planStore { return l }}},
		People:   newPeople(desk[peopleStore]{g, func(l store.Library) peopleStore { return l }}, o.Hashing, o.Limits),
		Print:    Print{desk[printStore]{g, func(l store.Library) printStore { return l }}, o.Stage},
		Running:  Running{desk[runStore]{g, func(l store.Library) runStore { return l }}},
		Orders:   Orders{desk[orderStore]{g, func(l store.Library) orderStore { return l }}},
		Meetings: Meetings{desk[meetingStore]{g, func(l store.Library) meetingStore { return l }}},
		Audits:   Audits{desk[auditStore]{g, func(l store.Library) auditStore { return l }}},
		Parcels:  Parcels{desk[parcelStore]{g, func(l store.Library) parcelStore { return l }}},
		Mails:    Mails{desk[mailStore]{g, func(l store.Library) mailStore { return l }}, o.Post},
		Stock:    Stock{desk[stockStore]{g, func(l store.Library) stockStore { return l }}},
		Desk:     Desk{desk[todayStore]{g, func(l store.Library) todayStore { return l }}},
		Reviews:  Reviews{desk[reviewStore]{g, func(l store.Library) reviewStore { return l }}},
		Years:    Years{desk[yearStore]{g, func(l store.Library) yearStore { return l }}},
	}
	a.Jobs = newJobs(
		desk[jobStore]{g, func(l store.Library) jobStore { return l }},
		o.Queue,
		a.Print,
		a.Takes,
		a.Orders,
		a.Years,
	)
	return a
}

// ground is what every capability stands on.
type ground struct {
	pool  *pgxpool.Pool
	all   store.AllTeams // before a team is known
	near  *near          // nil for none
	now   func() time.Time
	seed  func() uint64
	heavy *media.Budget // what decodes files takes its memory from it
	// searching holds a place for each search for a better order that may go on: it takes a core.
	searching chan struct{}
}

// desk is a capability's way to the store; S is what it asks of it.
type desk[S any] struct {
	ground
	open func(store.Library) S
}

// read runs f on one unchanging view of the member's library. f may run twice, where a database that follows fails in
// the middle: it changes nothing outside.
func read[S, T any](ctx context.Context, d desk[S], by Actor, f func(S) (T, error)) (T, error) {
	view := pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}
	if out, answered, err := fromNear(ctx, d, by, view, f); answered {
		return out, err
	}
	return in(ctx, d, by, manner{view, false}, f)
}

// write runs f in one transaction if the member may; all of it is kept, or nothing. It holds the team's library from
// its start, so f sees all that was changed before and nobody changes anything meanwhile: what takes long is worked out
// before.
func write[S, T any](ctx context.Context, d desk[S], by Actor, right Right, f func(S) (T, error)) (T, error) {
	if err := by.need(right); err != nil {
		var none T
		return none, err
	}
	return in(ctx, d, by, anyChange, f)
}

// beside is write for what is no part of the library and has a row of its own to hold: it waits for no other change.
func beside[S, T any](ctx context.Context, d desk[S], by Actor, right Right, f func(S) (T, error)) (T, error) {
	if err := by.need(right); err != nil {
		var none T
		return none, err
	}
	return in(ctx, d, by, manner{}, f)
}

// manner is how a transaction is held.
type manner struct {
	pgx.TxOptions
	holds bool // the team's library
}

var anyChange = manner{holds: true}

// patience is how long a capability waits for the database, a free connection included.
const patience = 15 * time.Second

func in[S, T any](
	ctx context.Context,
	d desk[S],
	by Actor,
	o manner,
	f func(S) (T, error),
) (out T, err error) {
	if o.AccessMode != pgx.ReadOnly && by.place != nil {
		by.place.moved.Store(true)
	}
	bound, cancel := context.WithTimeout(ctx, patienceOf(ctx))
	defer cancel()
	err = store.In(bound, d.pool, by.TeamID, o.TxOptions, func(tx pgx.Tx) error {
		l := store.For(tx, by.TeamID)
		if o.holds {
			if err := l.Hold(bound); err != nil {
				return err
			}
		}
		out, err = f(d.open(l))
		return err
	})
	if err != nil {
		var none T
		if bound.Err() != nil && ctx.Err() == nil {
			return none, fmt.Errorf("%w: %w", store.ErrBusy, err)
		}
		return none, store.Known(err)
	}
	return out, nil
}

// change is write for what gives nothing back.
func change[S any](ctx context.Context, d desk[S], by Actor, right Right, f func(S) error) error {
	_, err := write(ctx, d, by, right, func(s S) (struct{}, error) { return struct{}{}, f(s) })
	return err
}

// Role of a member.
type Role string

// Roles.
const (
	Lead      Role = "lead"
	Teacher   Role = "teacher"
	Assistant Role = "assistant"
)

// Right is something that a role allows.
type Right string

// Rights.
const (
	MayEdit   Right = "edit"   // cards, letters, the bank, pictures
	MayAgree  Right = "agree"  // cards, conventions, the order, people
	MayRecord Right = "record" // takes
	MayChoose Right = "choose" // and withdraw takes
	MayTeach  Right = "teach"  // assemble, teach and log
	MayTalk   Right = "talk"   // beside cards
)

var rights = map[Role][]Right{
	Lead:      {MayEdit, MayAgree, MayRecord, MayChoose, MayTeach, MayTalk},
	Teacher:   {MayEdit, MayRecord, MayChoose, MayTeach, MayTalk},
	Assistant: {MayRecord, MayTeach, MayTalk},
}

// Actor is the signed-in member who asks, in one of the person's teams. A session of another epoch has ended.
type Actor struct {
	MemberID  string `json:"member_id" format:"uuid"`
	TeamID    string `json:"-"`
	AccountID string `json:"-"`
	Name      string `json:"name"`
	Initials  string `json:"initials"`
	Role      Role   `json:"role" enum:"lead,teacher,assistant"`
	Epoch     int    `json:"-"`
	place     *place
}

// ErrForbidden says that the member's role does not allow it.
var ErrForbidden = errors.New("not allowed")

func (a Actor) need(r Right) error {
	if slices.Contains(rights[a.Role], r) {
		return nil
	}
	return fmt.Errorf("%w: as %s you lack the right %q", ErrForbidden, a.Role, r)
}

// Rights lists what the actor may do, for the screens.
func (a Actor) Rights() []Right { return slices.Clone(rights[a.Role]) }

func wrong(field, format string, args ...any) error { return fault.In(field, format, args...) }

// at is the time where put aside, nil where brought back.
func (g ground) at(aside bool) *time.Time {
	if !aside {
		return nil
	}
	now := g.now()
	return &now
}
