package people

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Accounts signs members in, adds them, changes their accounts and removes them.
type Accounts struct {
	Env       tx.Env
	hashing   *argon2id.Params
	limits    SignInLimits
	hashSlots chan struct{}
	decoyHash func() (string, error)
}

// SignInLimits bound the guesses at passwords. Only failures count, so that a whole school behind one address signs in
// as it likes. The failures of an account from addresses that it has signed in from stand apart from those of
// strangers, so that nobody is locked out of a known place by guesses from elsewhere.
type SignInLimits struct {
	Account int           // failures of an account within the window; 0 is 10
	Address int           // failures from an address of the network, whatever the account; 0 is 100
	Window  time.Duration // 0 is 10 minutes
}

func (l SignInLimits) orDefault() SignInLimits {
	if l.Account == 0 {
		l.Account = 10
	}
	if l.Address == 0 {
		l.Address = 100
	}
	if l.Window == 0 {
		l.Window = 10 * time.Minute
	}
	return l
}

// TooMany says that there were too many failed sign-ins, or wrong codes.
type TooMany struct {
	Wait  time.Duration
	Codes bool
}

// Error says for how long.
func (t TooMany) Error() string { return fmt.Sprintf("too many failures; wait %s", t.Wait) }

// DefaultHashing is the second recommended option of RFC 9106 (memory 64 MiB, 3 passes) with one lane: a machine of
// two cores keeps the other for everybody else.
var DefaultHashing = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// EventsKept is how long events of accounts are kept.
const EventsKept = 90 * 24 * time.Hour

// NewAccounts returns the accounts. hashing is the cost of a password's hash; limits are those of failed sign-ins.
func NewAccounts(d tx.Env, hashing *argon2id.Params, limits SignInLimits) Accounts {
	atOnce := max(1, runtime.GOMAXPROCS(0)/2) // each takes a core, and 64 MiB
	p := Accounts{Env: d, hashing: hashing, limits: limits.orDefault(), hashSlots: make(chan struct{}, atOnce)}
	p.decoyHash = sync.OnceValues(func() (string, error) { return argon2id.CreateHash("no member has this", p.hashing) })
	return p
}

// hashTimeout is how long a sign-in waits for its turn: a whole school comes at a quarter to nine.
const hashTimeout = 40 * time.Second

// withHashSlot waits for one of the few places where passwords are hashed.
func (p Accounts) withHashSlot(ctx context.Context, f func() error) error {
	bound, cancel := context.WithTimeout(ctx, hashTimeout)
	defer cancel()
	select {
	case p.hashSlots <- struct{}{}:
	case <-bound.Done():
		if ctx.Err() != nil {
			return ctx.Err()
		}
		return fmt.Errorf("%w: many sign in at once", store.ErrBusy)
	}
	defer func() { <-p.hashSlots }()
	return f()
}

// hash returns an argon2id hash in PHC form.
func (p Accounts) hash(ctx context.Context, password string) (hash string, err error) {
	err = p.withHashSlot(ctx, func() error {
		hash, err = argon2id.CreateHash(password, p.hashing)
		return err
	})
	return hash, err
}

// SignInAttempt is a try to sign in.
// Code is that of the second step, where the member wants one.
type SignInAttempt struct{ Email, Password, Address, Code string }

// SignIn checks an address and a password. The error is the same for an unknown address as for a wrong password, and
// takes as long; it is a TooMany after too many failures.
func (p Accounts) SignIn(ctx context.Context, a SignInAttempt) (tx.Actor, error) {
	m, err := store.MemberByEmail(ctx, p.Env.AllTeams(), strings.TrimSpace(a.Email))
	unknown := errors.Is(err, store.ErrNotFound)
	if err != nil && !unknown {
		return tx.Actor{}, err
	}
	if err := p.compare(ctx, m, a, func() error { return p.second(ctx, m.AccountID, a.Code) }); err != nil {
		return tx.Actor{}, err
	}
	if m.PausedAt != nil {
		return tx.Actor{}, errPaused
	}
	return tx.ActorOf(m), nil
}

// compare takes a password for a member, or for nobody, and notes how it went. It looks for former failures in its
// turn, so that of many guesses at once no more are compared than of as many one after the other. then is asked after
// the password, and may be nil; what it finds wrong counts as a failure too.
func (p Accounts) compare(ctx context.Context, m store.Member, a SignInAttempt, then func() error) error {
	return p.withHashSlot(ctx, func() error {
		now := p.Env.Now()
		failed, err := store.FailuresSince(ctx, p.Env.AllTeams(), a.Email, a.Address, now.Add(-p.limits.Window))
		if err != nil {
			return err
		}
		if failed.Account >= p.limits.Account || failed.Address >= p.limits.Address {
			return TooMany{Wait: max(time.Second, failed.First.Add(p.limits.Window).Sub(now))}
		}
		hash, err := p.decoyHash()
		known := m.PasswordHash != "" // else nobody, or somebody who signs in by the provider only
		if known {
			hash = m.PasswordHash
		}
		if err != nil {
			return err
		}
		matches, err := argon2id.ComparePasswordAndHash(a.Password, hash)
		if err != nil {
			return err
		}
		e := store.Event{
			Kind: store.SignedIn, TeamID: m.TeamID, MemberID: m.MemberID, Email: a.Email, Address: a.Address, At: now,
		}
		if !matches || !known {
			e.Kind = store.SignInFailed
			if err := store.AddEvent(ctx, p.Env.AllTeams(), e); err != nil {
				return err
			}
			return fault.In("password", "The address and the password do not fit together.")
		}
		if then != nil {
			if err := then(); errors.Is(err, fault.Invalid) {
				e.Kind = store.SignInFailed
				if noted := store.AddEvent(ctx, p.Env.AllTeams(), e); noted != nil {
					return noted
				}
				return err
			} else if err != nil {
				return err
			}
		}
		if err := store.ForgetEvents(ctx, p.Env.AllTeams(), now.Add(-EventsKept)); err != nil {
			return err
		}
		return store.AddEvent(ctx, p.Env.AllTeams(), e)
	})
}

// SignOut notes it, and lets the member's event streams look at their sessions.
func (p Accounts) SignOut(ctx context.Context, by tx.Actor, address string) error {
	e := store.Event{
		Kind: store.SignedOut, TeamID: by.TeamID, MemberID: by.MemberID, Address: address, At: p.Env.Now(),
	}
	if err := store.AddEvent(ctx, p.Env.AllTeams(), e); err != nil {
		return err
	}
	return store.TellSignOut(ctx, p.Env.AllTeams(), by.TeamID, by.MemberID)
}

// Who returns the member of a session that was begun in an epoch, and the revision of the team's library;
// store.ErrNotFound where the account is gone or the session has ended.
func (p Accounts) Who(ctx context.Context, memberID string, epoch int) (tx.Actor, int64, error) {
	m, err := store.MemberSeen(ctx, p.Env.AllTeams(), memberID)
	if err == nil && (m.Epoch != epoch || m.PausedAt != nil) {
		err = fmt.Errorf("session of a former epoch: %w", store.ErrNotFound)
	}
	return tx.ActorSeen(m), m.Revision, err
}
