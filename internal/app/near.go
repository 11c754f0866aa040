package app

import (
	"context"
	"errors"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/internal/store"
)

// place is up to where the log of changes went when a request began; none after it has changed something itself.
type place struct {
	at    string
	moved atomic.Bool
}

func (p *place) of() string {
	if p == nil || p.moved.Load() {
		return ""
	}
	return p.at
}

// near is a database that follows the one that leads. It answers where it has all that the asker could have seen: each
// request begins with a look at its session, where the changes are made, and what was done until then is asked of the
// follower before it is believed.
type near struct {
	pool *pgxpool.Pool
	away atomic.Int64 // until when it is left alone, in Unix nanoseconds
}

// How long a request waits for the follower, and for how long one is left alone that failed.
const (
	nearTurns = 5
	nearTurn  = 2 * time.Millisecond
	nearWait  = 300 * time.Millisecond
	nearPause = 2 * time.Second
)

var errBehind = errors.New("the follower is behind")

// fromNear is read at the follower; false where it cannot say, and the one that leads is to be asked.
func fromNear[S, T any](
	ctx context.Context,
	d desk[S],
	by Actor,
	o pgx.TxOptions,
	f func(S) (T, error),
) (T, bool, error) {
	var out, none T
	if d.near == nil || by.place.of() == "" || time.Now().UnixNano() < d.near.away.Load() {
		return none, false, nil
	}
	bound, cancel := context.WithTimeout(ctx, patienceOf(ctx))
	defer cancel()
	err := d.near.caughtUp(bound, by.place.of())
	if err == nil {
		err = store.In(bound, d.near.pool, by.TeamID, o, func(tx pgx.Tx) error {
			var err error
			out, err = f(d.open(store.For(tx, by.TeamID)))
			return err
		})
	}
	known := store.Known(err)
	switch {
	case errors.Is(err, errBehind), errors.Is(known, store.ErrBusy):
		return none, false, nil
	case errors.Is(known, store.ErrBroken), errors.Is(err, context.DeadlineExceeded):
		if ctx.Err() == nil {
			d.near.away.Store(time.Now().Add(nearPause).UnixNano())
			return none, false, nil
		}
	}
	if err != nil {
		return none, true, known
	}
	return out, true, nil
}

// caughtUp waits a little until the follower shows what was done up to a place in the log of changes.
func (n *near) caughtUp(ctx context.Context, at string) error {
	ctx, cancel := context.WithTimeout(ctx, nearWait)
	defer cancel()
	for turn := range nearTurns {
		if turn > 0 {
			time.Sleep(nearTurn)
		}
		there, err := store.Follows(ctx, n.pool, at)
		if err != nil || there {
			return err
		}
	}
	return errBehind
}
