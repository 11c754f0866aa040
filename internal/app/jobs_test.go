package app_test

import (
	"context"
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/app"
	"brightchalk/internal/core/year"
	"brightchalk/internal/jobs"
	"brightchalk/internal/printing"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
	"brightchalk/test/testdb"
)

func (s school) begin(t *testing.T, by tx.Actor, a jobs.Ask) string {
	t.Helper()
	j, err := s.Jobs.Begin(context.Background(), by, a)
	require.NoError(t, err)
	assert.Equal(t, store.JobWaiting, j.State)
	return j.JobID
}

// later is another server, so much later.
func (s school) later(d time.Duration) *app.App {
	return app.New(s.Pool, app.Options{Now: func() time.Time { return s.Now().Add(d) }, Hashing: testdb.Hashing})
}

func (s school) job(t *testing.T, by tx.Actor, id string) jobs.View {
	t.Helper()
	list, err := s.Jobs.List(context.Background(), by)
	require.NoError(t, err)
	for _, j := range list {
		if j.JobID == id {
			return j
		}
	}
	t.Fatalf("no job %s", id)
	return jobs.View{}
}

// What a job makes is its asker's alone, and may be fetched until it is dropped, an hour is over, or a take goes.
func TestAJobMakesAFile(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	for _, c := range []struct {
		ask          jobs.Ask
		title, begin string
	}{
		{jobs.Ask{Kind: jobs.Pack, Size: printing.PackOrder}, "Carry pack, the whole order", "<!doctype html>"},
		{jobs.Ask{Kind: jobs.Bundle, Voiceless: true}, "The library without recordings", "PK\x03\x04"},
		{jobs.Ask{Kind: jobs.Cards, Layout: render.Duplex}, "All sound cards, both sides", "%PDF-"},
	} {
		id := s.begin(t, s.assistant, c.ask)
		require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, id))
		j := s.job(t, s.assistant, id)
		assert.Equal(t, store.JobDone, j.State)
		assert.Equal(t, c.title, j.Title)
		assert.True(t, j.File)
		f, err := s.Jobs.File(ctx, s.assistant, id)
		require.NoError(t, err)
		assert.True(t, strings.HasPrefix(strings.ToLower(string(f.Bytes[:20])), strings.ToLower(c.begin)), f.Name)
		_, err = s.Jobs.File(ctx, s.lead, id)
		require.ErrorIs(t, err, store.ErrNotFound, "another one's")
		require.ErrorIs(t, s.Jobs.Stop(ctx, s.lead, id), store.ErrNotFound)
	}
	list, err := s.Jobs.List(ctx, s.assistant)
	require.NoError(t, err)
	require.NoError(t, s.Jobs.Stop(ctx, s.assistant, list[0].JobID), "what has ended is forgotten")
	_, err = s.Jobs.File(ctx, s.assistant, list[0].JobID)
	require.ErrorIs(t, err, store.ErrNotFound)

	takes, err := s.Takes.Of(ctx, s.lead, s.cards["s"])
	require.NoError(t, err)
	require.NoError(t, s.Takes.Withdraw(ctx, s.lead, takes[0].TakeID))
	assert.False(t, s.job(t, s.assistant, list[1].JobID).File, "a file may hold the voice that was withdrawn")

	n, err := s.Jobs.Forget(ctx)
	require.NoError(t, err)
	assert.Zero(t, n, "not within the hour")
	n, err = s.later(time.Hour + time.Second).Jobs.Forget(ctx)
	require.NoError(t, err)
	assert.EqualValues(t, 2, n)
}

// All sheets of a day come as one file; what is planned and not made yet stands on the cover, and a day without a
// lesson says what to do.
func TestTheSheetsOfADay(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	made, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	require.NotNil(t, made.Lesson.Planned)
	day, class := made.Lesson.Planned.Date, s.class
	id := s.begin(t, s.assistant, jobs.Ask{Kind: jobs.Sheets, Date: year.Date(day)})
	require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, id))
	j := s.job(t, s.assistant, id)
	require.Equal(t, store.JobDone, j.State, j.Said)
	assert.Contains(t, j.Title, "Sheets of all classes for")
	f, err := s.Jobs.File(ctx, s.assistant, id)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(f.Bytes), "%PDF-"))
	require.NoError(t, s.Jobs.Stop(ctx, s.assistant, id))

	empty := s.begin(
		t,
		s.assistant,
		jobs.Ask{Kind: jobs.Sheets, Class: class, Date: "2031-01-01", Week: true},
	)
	require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, empty))
	j = s.job(t, s.assistant, empty)
	assert.Equal(t, store.JobFailed, j.State)
	assert.Contains(t, j.Said, "No lesson is made for these days yet")

	_, err = s.Jobs.Begin(ctx, s.lead, jobs.Ask{Kind: jobs.Sheets, Date: "next Monday"})
	require.ErrorContains(t, err, "a date such as")
}

func TestWhatCannotBeAJob(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	for _, a := range []jobs.Ask{
		{Kind: "paint"},
		{Kind: jobs.Pack},
		{Kind: jobs.Pack, Size: printing.PackWeek},
		{Kind: jobs.Cards, Layout: "poster"},
	} {
		_, err := s.Jobs.Begin(ctx, s.lead, a)
		require.Error(t, err, a)
	}
	_, err := s.Jobs.Begin(
		ctx,
		s.lead,
		jobs.Ask{Kind: jobs.Pack, Size: printing.PackWeek, Class: s.lead.TeamID},
	)
	require.ErrorIs(t, err, store.ErrNotFound)
	for range 3 {
		s.begin(t, s.teacher, jobs.Ask{Kind: jobs.Pictures})
	}
	_, err = s.Jobs.Begin(ctx, s.teacher, jobs.Ask{Kind: jobs.Pictures})
	require.ErrorIs(t, err, jobs.ErrBusy)
	s.begin(t, s.lead, jobs.Ask{Kind: jobs.Pictures})
}

// A server dies in the middle: another one goes on after a silence and no sooner, and what was found before is not
// found twice. What the first one says when it wakes is not heard.
func TestAJobOfADeadServer(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	db := store.AllTeams{Pool: s.Pool}
	_, err := db.Exec(ctx, `UPDATE take SET verdict = 'retake' WHERE chosen`)
	require.NoError(t, err)
	id := s.begin(t, s.lead, jobs.Ask{Kind: jobs.Renew})
	dying, die := context.WithCancel(ctx)
	go func() {
		for dying.Err() == nil { // dies once some takes are judged
			var some bool
			err := db.QueryRow(ctx, "SELECT coalesce((result->>'judged')::int >= 5, false) FROM job").Scan(&some)
			if err == nil && some {
				die()
			}
		}
	}()
	require.Error(t, s.Jobs.Run(dying, s.lead.TeamID, id))
	// A server that is killed does not say so: as if the run still went on.
	_, err = db.Exec(ctx, "UPDATE job SET state = 'running'")
	require.NoError(t, err)
	var judged int
	require.NoError(t, db.QueryRow(ctx, "SELECT (result->>'judged')::int FROM job").Scan(&judged))
	assert.Less(t, judged, 47)

	require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, id))
	assert.Equal(t, store.JobRunning, s.job(t, s.lead, id).State, "it may go on there")
	lost, err := s.Jobs.Lost(ctx)
	require.NoError(t, err)
	assert.Empty(t, lost)
	// By the database's clock, not by those of servers, which may differ.
	other := s.later(-time.Hour)
	_, err = db.Exec(ctx, "UPDATE job SET beat_at = beat_at - interval '16 seconds'")
	require.NoError(t, err)
	lost, err = other.Jobs.Lost(ctx)
	require.NoError(t, err)
	assert.Equal(t, []store.LostJob{{JobID: id, TeamID: s.lead.TeamID}}, lost)
	require.NoError(t, other.Jobs.Run(ctx, s.lead.TeamID, id))
	j := s.job(t, s.lead, id)
	require.Equal(t, store.JobDone, j.State)
	assert.Equal(t, 47, j.Renewed.Judged)
	seen := map[string]bool{}
	for _, c := range j.Renewed.Changed {
		assert.False(t, seen[c.TakeID], "found twice")
		seen[c.TakeID] = true
	}
	assert.Len(t, seen, 47, "each chosen take was called one to make again")

	late := store.In(ctx, s.Pool, s.lead.TeamID, pgx.TxOptions{}, func(tx pgx.Tx) error {
		return store.For(tx, s.lead.TeamID).
			EndJob(ctx, store.Job{JobID: id, Run: 1, State: store.JobFailed}, nil, s.Now())
	})
	require.ErrorIs(t, late, store.ErrNotFound)
	require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, id), "a word too many does nothing")
	assert.Equal(t, store.JobDone, s.job(t, s.lead, id).State)
}

// Whoever asked may stop it, and it does end; what a run makes afterwards is not kept. Who has left gets nothing.
func TestAJobIsStopped(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.begin(t, s.teacher, jobs.Ask{Kind: jobs.Pictures})
	ran := make(chan error)
	began := time.Now()
	go func() { ran <- s.Jobs.Run(ctx, s.lead.TeamID, id) }()
	require.Eventually(t, func() bool { return s.job(t, s.teacher, id).Done > 0 }, 30*time.Second, 50*time.Millisecond)
	j := s.job(t, s.teacher, id)
	assert.Equal(t, store.JobRunning, j.State)
	assert.Equal(t, 79, j.OfAll)
	require.NoError(t, s.Jobs.Stop(ctx, s.teacher, id))
	require.NoError(t, errors.Join(<-ran))
	t.Log("stopped after", time.Since(began))
	j = s.job(t, s.teacher, id)
	assert.Equal(t, store.JobStopped, j.State)
	assert.False(t, j.File)

	id = s.begin(t, s.teacher, jobs.Ask{Kind: jobs.Pack, Size: printing.PackOrder})
	require.NoError(t, s.Accounts.Pause(ctx, s.lead, s.teacher.MemberID, true))
	require.NoError(t, s.Jobs.Run(ctx, s.lead.TeamID, id))
	j = s.job(t, s.teacher, id)
	assert.Equal(t, store.JobFailed, j.State)
	assert.Equal(t, "Who asked for it has left the team.", j.Said)
}
