// Package app has a type for each capability of the house: cards, takes and voices, words, lessons, letters, planning,
// people, print, running lessons, years, orders,
// meetings, reviews, a member's morning, audits, what is brought in. A method reads, calls the core and writes, in one
// transaction; it checks what it was given and what the member may do inside it.
package app

import (
	"math/rand/v2"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/internal/curriculum"
	"brightchalk/internal/exchange"
	"brightchalk/internal/jobs"
	"brightchalk/internal/library"
	"brightchalk/internal/people"
	"brightchalk/internal/planning"
	"brightchalk/internal/printing"
	"brightchalk/internal/sound"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

// App is all capabilities.
type App struct {
	Pool     *pgxpool.Pool
	Now      func() time.Time
	Cards    library.Cards
	Takes    sound.Takes
	Words    teaching.Words
	Lessons  teaching.Lessons
	Letters  library.Letters
	Classes  planning.Classes
	Settings curriculum.Settings
	Accounts people.Accounts
	Print    printing.Print
	Exports  exchange.Exports
	Running  teaching.Running
	Years    planning.Years
	Orders   curriculum.Orders
	Meetings planning.Meetings
	Reviews  library.Reviews
	Today    planning.Today
	Audits   library.Audits
	Imports  exchange.Imports
	OwnWords library.OwnWords
	Mails    people.Mails
	Jobs     jobs.Jobs
}

// Options of New; the zero value is for a running server.
type Options struct {
	Now  func() time.Time
	Seed func() uint64
	// Hashing is how dear a password's hash is; nil is dear enough for a server. Tests make it cheap.
	Hashing *argon2id.Params
	Limits  people.SignInLimits // the zero value is for a school
	Post    people.Post
	// Queue brings jobs to servers; nil leaves them lying until somebody runs them.
	Queue *jobs.Queue
	// Standby is a database that follows; what is only read may be read there. Nil for none.
	Replica *pgxpool.Pool
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
		o.Hashing = people.DefaultHashing
	}
	if o.Stage == nil {
		o.Stage = func() (script, style []byte) { return nil, nil }
	}
	env := tx.NewEnv(pool, o.Replica, o.Now, o.Seed)
	a := &App{
		Pool:     pool,
		Now:      o.Now,
		Cards:    library.Cards{Env: env},
		Takes:    sound.Takes{Env: env},
		Words:    teaching.Words{Env: env},
		Lessons:  teaching.Lessons{Env: env},
		Letters:  library.Letters{Env: env},
		Classes:  planning.Classes{Env: env},
		Settings: curriculum.Settings{Env: env},
		Accounts: people.NewAccounts(env, o.Hashing, o.Limits),
		Print:    printing.Print{Env: env, Stage: o.Stage},
		Running:  teaching.Running{Env: env},
		Orders:   curriculum.Orders{Env: env},
		Meetings: planning.Meetings{Env: env},
		Audits:   library.Audits{Env: env},
		Imports:  exchange.Imports{Env: env},
		Mails:    people.Mails{Env: env, Post: o.Post},
		OwnWords: library.OwnWords{Env: env},
		Today:    planning.Today{Env: env},
		Reviews:  library.Reviews{Env: env},
		Years:    planning.Years{Env: env},
	}
	a.Exports = exchange.Exports{Env: env, Print: a.Print}
	a.Jobs = jobs.New(env, o.Queue, a.Print, a.Exports, a.Takes, a.Orders, a.Years)
	return a
}
