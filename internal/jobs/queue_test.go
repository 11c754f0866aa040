package jobs_test

import (
	"context"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/jobs"
	"brightchalk/internal/people"
	"brightchalk/internal/printing"
	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

// One server takes a job in, another one does it; the first one to stop leaves it to the other.
func TestServersShareJobs(t *testing.T) {
	pool := testdb.New(t)
	ctx := t.Context()
	open := func(listening bool) (*app.App, *jobs.Queue) {
		q, err := jobs.NewQueue(pool, slog.New(slog.DiscardHandler), listening)
		require.NoError(t, err)
		return app.New(pool, app.Options{Queue: q, Hashing: testdb.Hashing}), q
	}
	a, takesIn := open(true)
	_, err := demo.Load(ctx, a)
	require.NoError(t, err)
	lead, err := a.Accounts.SignIn(
		ctx,
		people.SignInAttempt{Email: demo.SignIns[0].Email, Password: demo.SignIns[0].Password},
	)
	require.NoError(t, err)
	ask := func(k jobs.Kind) string {
		j, err := a.Jobs.Begin(ctx, lead, jobs.Ask{Kind: k, Size: printing.PackOrder, Voiceless: true})
		require.NoError(t, err)
		return j.JobID
	}
	state := func(id string) store.JobState {
		list, err := a.Jobs.List(ctx, lead)
		require.NoError(t, err)
		for _, j := range list {
			if j.JobID == id {
				return j.State
			}
		}
		return "gone"
	}
	becomes := func(id string, want store.JobState) {
		t.Helper()
		require.Eventually(t, func() bool { return state(id) == want }, time.Minute, 20*time.Millisecond, state(id))
	}
	pack := ask(jobs.Pack)
	time.Sleep(100 * time.Millisecond)
	assert.Equal(t, store.JobWaiting, state(pack), "no server has time")

	works, doing := open(false) // asks, as behind a pooler
	require.NoError(t, doing.Start(ctx, works.Jobs, works.Mails))
	becomes(pack, store.JobDone)

	pictures := ask(jobs.Pictures)
	becomes(pictures, store.JobRunning)
	stopping, cancel := context.WithTimeout(ctx, 30*time.Second)
	defer cancel()
	require.NoError(t, doing.Stop(stopping))
	assert.Equal(t, store.JobWaiting, state(pictures), "who stops says so")
	require.NoError(t, takesIn.Start(ctx, a.Jobs, a.Mails))
	defer func() { _ = takesIn.Stop(context.WithoutCancel(ctx)) }()
	becomes(pictures, store.JobDone)

	// A job of which the queue knows nothing is found: as after a word that was lost.
	lost := ask(jobs.Bundle)
	becomes(lost, store.JobDone)
	owner := testdb.Owner(t, pool)
	_, err = owner.Exec(ctx, "DELETE FROM river_job WHERE kind = 'job'")
	require.NoError(t, err)
	_, err = owner.Exec(
		ctx,
		`UPDATE job SET state = 'running', run = 1, ended_at = NULL, beat_at = now() - interval '1 minute'
		WHERE job_id = $1`,
		lost,
	)
	require.NoError(t, err)
	_, err = owner.Exec(ctx, "DELETE FROM job_file WHERE job_id = $1", lost)
	require.NoError(t, err)
	becomes(lost, store.JobDone)
}
