// Package jobs does work that takes longer than a screen waits: somebody asks, a server that has time does it, the
// screens tell how far it is:
//
//	view, err := app.Jobs.Begin(ctx, actor, jobs.JobAsk{Kind: jobs.BundleJob})
//
// What is to be done, how far it is and what came of it is a row of ours; a task of River's queue in the same database
// is only the word that something waits, so it may come twice, or late. docs/decisions/033 says why.
package jobs

import (
	"context"
	"fmt"
	"log/slog"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"

	"brightchalk/internal/people"
)

// Queues: what somebody waits for, and what goes on by itself.
const (
	requestedQueue = "asked"
	periodicQueue  = "rounds"
)

// How often it is looked for jobs whose server is gone, for what is to be forgotten, and for mails of the day.
const (
	findLostInterval = 15 * time.Second
	forgetInterval   = 5 * time.Minute
	mailInterval     = 10 * time.Minute
)

// perServer is how many jobs a server does at once: each takes a core.
const perServer = 2

// taskTimeout is how long the queue leaves a task to its server. The application's own limit is shorter.
const taskTimeout = 15 * time.Minute

type jobArgs struct {
	TeamID string `json:"team_id"`
	JobID  string `json:"job_id"`
}

func (jobArgs) Kind() string { return "job" }

type lostArgs struct{}

func (lostArgs) Kind() string { return "lost" }

type forgetArgs struct{}

func (forgetArgs) Kind() string { return "forget" }

type mailArgs struct{}

func (mailArgs) Kind() string { return "mail" }

// Queue takes jobs in and, once it runs, does them.
type Queue struct {
	client *river.Client[pgx.Tx]
	jobs   Jobs         // set by Start
	mails  people.Mails // set by Start
	log    *slog.Logger
}

// NewQueue opens the queue. Listening says that the pool may wait for notifications, which a pooler between does not
// let through; without it is asked every second.
func NewQueue(pool *pgxpool.Pool, log *slog.Logger, listening bool) (*Queue, error) {
	q := &Queue{log: log}
	workers := river.NewWorkers()
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[jobArgs]) error {
		return q.jobs.Run(ctx, j.Args.TeamID, j.Args.JobID)
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, _ *river.Job[lostArgs]) error {
		return q.findLost(ctx)
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, _ *river.Job[forgetArgs]) error {
		_, err := q.jobs.Forget(ctx)
		return err
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, _ *river.Job[mailArgs]) error {
		sent, err := q.mails.Daily(ctx)
		if sent > 0 {
			log.Info("mail", "sent", sent)
		}
		return err
	}))
	every := func(d time.Duration, args river.JobArgs) *river.PeriodicJob {
		return river.NewPeriodicJob(river.PeriodicInterval(d), func() (river.JobArgs, *river.InsertOpts) {
			// One at a time, however many servers think that they lead; what failed comes again with the next round.
			return args, &river.InsertOpts{
				Queue:       periodicQueue,
				MaxAttempts: 1,
				UniqueOpts:  river.UniqueOpts{ByPeriod: d},
			}
		}, &river.PeriodicJobOpts{RunOnStart: true})
	}
	var err error
	q.client, err = river.NewClient(riverpgxv5.New(pool), &river.Config{
		Logger:  slog.New(warningHandler{log.Handler()}),
		Workers: workers,
		Queues:  map[string]river.QueueConfig{requestedQueue: {MaxWorkers: perServer}, periodicQueue: {MaxWorkers: 2}},
		PeriodicJobs: []*river.PeriodicJob{
			every(findLostInterval, lostArgs{}),
			every(forgetInterval, forgetArgs{}),
			every(mailInterval, mailArgs{}),
		},
		PollOnly:             !listening,
		JobTimeout:           taskTimeout,
		RescueStuckJobsAfter: 2 * taskTimeout,
		MaxAttempts:          5,
		// What is done is kept by the application.
		CompletedJobRetentionPeriod: 10 * time.Minute,
		CancelledJobRetentionPeriod: 10 * time.Minute,
		DiscardedJobRetentionPeriod: 24 * time.Hour,
	})
	if err != nil {
		return nil, fmt.Errorf("open the queue: %w", err)
	}
	return q, nil
}

// add queues a job with the transaction, or not at all.
func (q *Queue) add(ctx context.Context, tx pgx.Tx, teamID, jobID string) error {
	_, err := q.client.InsertTx(ctx, tx, jobArgs{teamID, jobID}, &river.InsertOpts{Queue: requestedQueue})
	return err
}

// Start does jobs, and what comes round by itself, until Stop.
func (q *Queue) Start(ctx context.Context, j Jobs, m people.Mails) error {
	q.jobs, q.mails = j, m
	return q.client.Start(ctx)
}

// Stop takes no more jobs in and ends those under way: another server goes on with them.
func (q *Queue) Stop(ctx context.Context) error { return q.client.StopAndCancel(ctx) }

// findLostInterval queues jobs again whose server is gone.
func (q *Queue) findLost(ctx context.Context) error {
	lost, err := q.jobs.Lost(ctx)
	if err != nil || len(lost) == 0 {
		return err
	}
	again := make([]river.InsertManyParams, len(lost))
	for i, l := range lost {
		again[i] = river.InsertManyParams{
			Args: jobArgs{l.TeamID, l.JobID},
			// Not a second time while the first word waits.
			InsertOpts: &river.InsertOpts{
				Queue:      requestedQueue,
				UniqueOpts: river.UniqueOpts{ByArgs: true, ByPeriod: findLostInterval},
			},
		}
	}
	q.log.Info("jobs without a server are queued again", "jobs", len(lost))
	_, err = q.client.InsertMany(ctx, again)
	return err
}

// warningHandler leaves out what the queue says of its own routine.
type warningHandler struct{ slog.Handler }

// Enabled is of slog.Handler.
func (q warningHandler) Enabled(ctx context.Context, l slog.Level) bool {
	return l >= slog.LevelWarn && q.Handler.Enabled(ctx, l)
}
