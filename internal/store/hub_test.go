package store_test

import (
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

// A reader that drains its channel while the hub makes room in it once locked the hub up for good.
func TestTheHubNeverWaitsForAReader(t *testing.T) {
	hub := store.NewHub()
	for range 20 {
		changes, _ := hub.Subscribe("team")
		go func() {
			for range changes { //nolint:revive // it only reads, as fast as it can
			}
		}()
	}
	slow, _ := hub.Subscribe("team")
	done := make(chan struct{})
	go func() {
		for range 200_000 {
			hub.Send(store.Change{Team: "team", Kind: "card"})
		}
		close(done)
	}()
	select {
	case <-done:
	case <-time.After(20 * time.Second):
		t.Fatal("the hub waits for a reader")
	}
	kinds := map[string]bool{}
	for len(slow) > 0 {
		kinds[(<-slow).Kind] = true
	}
	require.True(t, kinds["resync"], "who fell behind is told to fetch everything")
	hub.Close()
}

func TestTheDatabaseIsBusy(t *testing.T) {
	l := open(t)
	err := l.db.Begin(ctx, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "SET LOCAL statement_timeout = '20ms'"); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, "SELECT pg_sleep(5)")
		return err
	})
	require.ErrorIs(t, store.Classify(err), store.ErrBusy)
	_, err = l.pool.Exec(ctx, "SELECT $1::text", "a\x00b")
	require.ErrorIs(t, store.Classify(err), store.ErrSign)
	require.NoError(t, store.Classify(nil))
}

func TestTwoServersMigrateAtOnce(t *testing.T) {
	pool := testdb.Empty(t)
	failed := make(chan error, 4)
	for range cap(failed) {
		go func() { failed <- store.Migrate(ctx, pool) }()
	}
	for range cap(failed) {
		require.NoError(t, <-failed)
	}
}
