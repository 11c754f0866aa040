// Package tx runs use cases in transactions: who asks (Actor), what the role allows (Right), on which database, for
// how long. A use case calls Read or Write with a function that takes the team's store:
//
//	card, err := tx.Read(ctx, env, by, func(s store.Library) (store.Card, error) { return s.Card(ctx, id) })
package tx

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/internal/media"
	"brightchalk/internal/store"
)

// Env is what every use case needs from outside.
type Env struct {
	Pool    *pgxpool.Pool
	Replica *Replica // nil for none
	Now     func() time.Time
	Seed    func() uint64
	Budget  *media.Budget // memory for decoding files
	// LongWork holds one element while work that takes a whole core for seconds goes on; its capacity is one.
	LongWork chan struct{}
}

// NewEnv returns an environment on a primary and, unless nil, a read replica.
func NewEnv(primary, replica *pgxpool.Pool, now func() time.Time, seed func() uint64) Env {
	return Env{
		Pool: primary, Replica: NewReplica(replica), Now: now, Seed: seed,
		Budget: media.NewBudget(media.DecodeBytes), LongWork: make(chan struct{}, 1),
	}
}

// ErrBusyCore says that other long work goes on.
var ErrBusyCore = errors.New("other long work goes on")

// StartLongWork takes the place for long work and returns what gives it back; ErrBusyCore if it is taken.
func (e Env) StartLongWork() (end func(), err error) {
	select {
	case e.LongWork <- struct{}{}:
		return func() { <-e.LongWork }, nil
	default:
		return nil, ErrBusyCore
	}
}

// WaitForLongWork waits for that place.
func (e Env) WaitForLongWork(ctx context.Context) (end func(), err error) {
	select {
	case e.LongWork <- struct{}{}:
		return func() { <-e.LongWork }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// AllTeams gives access to rows before a team is known, such as at sign-in.
func (e Env) AllTeams() store.AllTeams { return store.AllTeams{Pool: e.Pool} }

// NowIf returns the present time, or nil if set is false: the value of a column such as archived_at.
func (e Env) NowIf(set bool) *time.Time {
	if !set {
		return nil
	}
	now := e.Now()
	return &now
}

// Decode runs fn when cost bytes of memory are free for it. The error is store.ErrBusy after the usual timeout.
func (e Env) Decode(ctx context.Context, cost int64, fn func() error) error {
	bound, cancel := context.WithTimeout(ctx, Timeout)
	defer cancel()
	err := e.Budget.Do(bound, cost, fn)
	if errors.Is(err, context.DeadlineExceeded) && ctx.Err() == nil {
		return fmt.Errorf("%w: many files at once", store.ErrBusy)
	}
	return err
}

// Timeout is how long a use case waits for the database, a free connection included.
const Timeout = 15 * time.Second

type timeoutKey struct{}

// WithTimeout lets the transactions under ctx take longer than Timeout. It is for background jobs, which hold up no
// screen.
func WithTimeout(ctx context.Context, d time.Duration) context.Context {
	return context.WithValue(ctx, timeoutKey{}, d)
}

func timeoutFrom(ctx context.Context) time.Duration {
	if d, ok := ctx.Value(timeoutKey{}).(time.Duration); ok {
		return d
	}
	return Timeout
}

// Read runs fn on one snapshot of the team's library (repeatable read). fn may run twice, if a replica fails halfway,
// so it must change nothing outside.
func Read[T any](ctx context.Context, env Env, by Actor, fn func(store.Library) (T, error)) (T, error) {
	snapshot := pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}
	if out, answered, err := readReplica(ctx, env, by, snapshot, fn); answered {
		return out, err
	}
	return run(ctx, env, by, snapshot, false, fn)
}

// Write runs fn in one transaction that holds the lock of the team's library from its start, so that one change comes
// after the other. Compute what takes long before. The error unwraps to ErrForbidden if the actor lacks the right.
func Write[T any](
	ctx context.Context,
	env Env,
	by Actor,
	right Right,
	fn func(store.Library) (T, error),
) (T, error) {
	if err := by.Need(right); err != nil {
		var zero T
		return zero, err
	}
	return run(ctx, env, by, pgx.TxOptions{}, true, fn)
}

// WriteSelf is Write for what people do to their own account: it takes no right.
func WriteSelf[T any](ctx context.Context, env Env, by Actor, fn func(store.Library) (T, error)) (T, error) {
	return run(ctx, env, by, pgx.TxOptions{}, true, fn)
}

// Exec is Write for a change without a result.
func Exec(ctx context.Context, env Env, by Actor, right Right, fn func(store.Library) error) error {
	_, err := Write(ctx, env, by, right, func(s store.Library) (struct{}, error) { return struct{}{}, fn(s) })
	return err
}

// WriteUnlocked is Write without the team's lock. Use it for rows that are not library content, such as jobs and read
// markers.
func WriteUnlocked[T any](
	ctx context.Context,
	env Env,
	by Actor,
	right Right,
	fn func(store.Library) (T, error),
) (T, error) {
	if err := by.Need(right); err != nil {
		var zero T
		return zero, err
	}
	return run(ctx, env, by, pgx.TxOptions{}, false, fn)
}

func run[T any](
	ctx context.Context,
	env Env,
	by Actor,
	options pgx.TxOptions,
	locked bool,
	fn func(store.Library) (T, error),
) (out T, err error) {
	if options.AccessMode != pgx.ReadOnly && by.position != nil {
		by.position.written.Store(true)
	}
	bound, cancel := context.WithTimeout(ctx, timeoutFrom(ctx))
	defer cancel()
	err = store.In(bound, env.Pool, by.TeamID, options, func(tx pgx.Tx) error {
		l := store.For(tx, by.TeamID)
		if locked {
			if err := l.Lock(bound); err != nil {
				return err
			}
		}
		out, err = fn(l)
		return err
	})
	if err == nil {
		return out, nil
	}
	var zero T
	if bound.Err() != nil && ctx.Err() == nil {
		return zero, fmt.Errorf("%w: %w", store.ErrBusy, err)
	}
	return zero, store.Classify(err)
}
