package tx

import (
	"context"
	"errors"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/internal/store"
)

// position is the replication position (LSN) of the primary when a request began.
type position struct {
	lsn     string
	written atomic.Bool // the request has changed something itself: its reads go to the primary from then on
}

// required returns the LSN that a replica must have replayed, or "" if only the primary may answer.
func (p *position) required() string {
	if p == nil || p.written.Load() {
		return ""
	}
	return p.lsn
}

// Replica is a read replica. It answers a read if it has replayed everything that the request could have seen: the
// look at the session, on the primary, also returns the position of the primary's log.
type Replica struct {
	pool *pgxpool.Pool
	// replayed reports whether the replica has replayed an LSN. Tests replace it.
	replayed  func(ctx context.Context, lsn string) (bool, error)
	skipUntil atomic.Int64 // Unix nanoseconds; after a failure the replica gets no reads until then
}

// NewReplica returns a replica that is read through pool, or nil if pool is nil.
func NewReplica(pool *pgxpool.Pool) *Replica {
	if pool == nil {
		return nil
	}
	return &Replica{pool: pool, replayed: func(ctx context.Context, lsn string) (bool, error) {
		return store.ReplicaReplayed(ctx, pool, lsn)
	}}
}

// How long a request waits for the replica to catch up, and how long a replica that failed gets no reads.
const (
	replicaTries   = 5
	replicaBackoff = 2 * time.Millisecond
	replicaTimeout = 300 * time.Millisecond
	replicaPause   = 2 * time.Second
)

var errReplicaBehind = errors.New("the replica is behind")

// readReplica runs a read on the replica. The second result is false if the replica cannot answer and the primary
// must be asked.
func readReplica[T any](
	ctx context.Context,
	env Env,
	by Actor,
	options pgx.TxOptions,
	fn func(store.Library) (T, error),
) (T, bool, error) {
	var out, zero T
	r := env.Replica
	if r == nil || by.position.required() == "" || time.Now().UnixNano() < r.skipUntil.Load() {
		return zero, false, nil
	}
	bound, cancel := context.WithTimeout(ctx, timeoutFrom(ctx))
	defer cancel()
	err := r.waitFor(bound, by.position.required())
	if err == nil {
		err = store.In(bound, r.pool, by.TeamID, options, func(tx pgx.Tx) error {
			var err error
			out, err = fn(store.For(tx, by.TeamID))
			return err
		})
	}
	known := store.Classify(err)
	switch {
	case errors.Is(err, errReplicaBehind), errors.Is(known, store.ErrBusy):
		return zero, false, nil
	case errors.Is(known, store.ErrBroken), errors.Is(err, context.DeadlineExceeded):
		if ctx.Err() == nil {
			r.skipUntil.Store(time.Now().Add(replicaPause).UnixNano())
			return zero, false, nil
		}
	}
	if err != nil {
		return zero, true, known
	}
	return out, true, nil
}

// waitFor waits until the replica has replayed an LSN, and returns errReplicaBehind if it has not within the timeout.
func (r *Replica) waitFor(ctx context.Context, lsn string) error {
	ctx, cancel := context.WithTimeout(ctx, replicaTimeout)
	defer cancel()
	for try := range replicaTries {
		if try > 0 {
			time.Sleep(replicaBackoff)
		}
		there, err := r.replayed(ctx, lsn)
		if err != nil || there {
			return err
		}
	}
	return errReplicaBehind
}
