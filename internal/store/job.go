package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
)

// JobState is how far a job is.
type JobState string

// States of a job.
const (
	JobWaiting JobState = "waiting"
	JobRunning JobState = "running"
	JobDone    JobState = "done"
	JobFailed  JobState = "failed"
	JobStopped JobState = "stopped"
)

// Job is work that takes longer than a screen waits. Run counts who began it; File is whether one waits to be fetched.
type Job struct {
	JobID, Kind, Title string
	Asked              json.RawMessage
	State              JobState
	Run, Done, OfAll   int
	Note               int64
	Said               string
	Result             json.RawMessage
	MadeAt             time.Time
	EndedAt            *time.Time
	MemberID           string
	File               bool
}

// JobProgress is how far a job is; Note is what its kind counts beside.
type JobProgress struct {
	Done, OfAll int
	Note        int64
}

// JobFile is what a job made.
type JobFile struct {
	Name, MediaType string
	Bytes           []byte
}

// LostJob is a job that nobody runs.
type LostJob struct{ JobID, TeamID string }

var (
	jobAdd     = value[string]("job_add")
	jobGet     = query[Job]("job_get")
	jobList    = query[Job]("job_list")
	jobOpen    = value[int]("job_open_count")
	jobClaim   = value[int]("job_claim")
	jobBeat    = change("job_beat")
	jobKeep    = change("job_keep")
	jobRelease = change("job_release")
	jobEnd     = change("job_end")
	jobStop    = change("job_stop")
	jobDrop    = change("job_drop")
	jobReplace = change("job_replace")
	jobFilePut = change("job_file_put")
	jobFileGet = query[JobFile]("job_file_get")
	jobLost    = query[LostJob]("job_lost")
	jobForget  = change("job_forget")
)

// AddJob keeps what a member asks for and returns its id; what the same came to before goes.
func (l Library) AddJob(ctx context.Context, j Job) (string, error) {
	_, _, err := jobReplace.count(ctx, l.db, l.with(args{"member_id": j.MemberID, "title": j.Title}))
	if err != nil {
		return "", err
	}
	return jobAdd.get(ctx, l.db, l.with(args{
		"member_id": j.MemberID, "kind": j.Kind, "title": j.Title, "asked": j.Asked, "now": j.MadeAt,
	}))
}

// Within is for what is kept in the same transaction by another package.
func (l Library) Within(f func(tx pgx.Tx) error) error {
	tx, ok := l.db.(pgx.Tx)
	if !ok {
		return errors.New("no transaction")
	}
	return f(tx)
}

// Job reads one.
func (l Library) Job(ctx context.Context, id string) (Job, error) {
	return jobGet.one(ctx, l.db, l.with(args{"job_id": id}))
}

// MemberJobs lists what a member asked for since a time, the newest first.
func (l Library) MemberJobs(ctx context.Context, memberID string, since time.Time) ([]Job, error) {
	return jobList.many(ctx, l.db, l.with(args{"member_id": memberID, "since": since}))
}

// OpenJobs is how many a member waits for.
func (l Library) OpenJobs(ctx context.Context, memberID string) (int, error) {
	return jobOpen.get(ctx, l.db, l.with(args{"member_id": memberID}))
}

// ClaimJob begins a job that waits, or one whose run has been silent for so long by the database's clock, and returns
// the number of the run; ErrNotFound where there is none such.
func (l Library) ClaimJob(ctx context.Context, id string, silence time.Duration) (run int, err error) {
	return jobClaim.get(ctx, l.db, l.with(args{"job_id": id, "silence": silence.Seconds()}))
}

// HeartbeatJob says that a run goes on and how far it is; ErrNotFound where it was stopped or taken over.
func (l Library) HeartbeatJob(ctx context.Context, id string, run int, far JobProgress) error {
	return jobBeat.run(
		ctx,
		l.db,
		l.with(args{"job_id": id, "run": run, "done": far.Done, "of_all": far.OfAll, "note": far.Note}),
	)
}

// KeepJob keeps what a run has found so far; ErrNotFound where it was stopped or taken over.
func (l Library) KeepJob(ctx context.Context, id string, run int, result []byte) error {
	return jobKeep.run(ctx, l.db, l.with(args{"job_id": id, "run": run, "result": result}))
}

// ReleaseJob lets another run begin at once.
func (l Library) ReleaseJob(ctx context.Context, id string, run int) error {
	return jobRelease.run(ctx, l.db, l.with(args{"job_id": id, "run": run}))
}

// EndJob ends a run; ErrNotFound, and nothing kept, where it was stopped or taken over meanwhile.
func (l Library) EndJob(ctx context.Context, j Job, f *JobFile, now time.Time) error {
	err := jobEnd.run(ctx, l.db, l.with(args{
		"job_id": j.JobID, "run": j.Run, "state": string(j.State), "said": j.Said, "result": j.Result, "now": now,
	}))
	if err != nil || f == nil {
		return err
	}
	return jobFilePut.run(ctx, l.db, l.with(args{
		"job_id": j.JobID, "name": f.Name, "media_type": f.MediaType, "bytes": f.Bytes,
	}))
}

// StopJob stops a member's job; ErrNotFound where it has ended.
func (l Library) StopJob(ctx context.Context, memberID, id string, now time.Time) error {
	return jobStop.run(ctx, l.db, l.with(args{"member_id": memberID, "job_id": id, "now": now}))
}

// DropJob forgets a member's job and its file.
func (l Library) DropJob(ctx context.Context, memberID, id string) error {
	n, _, err := jobDrop.count(ctx, l.db, l.with(args{"member_id": memberID, "job_id": id}))
	if err == nil && n == 0 {
		err = fmt.Errorf("job_drop: %w", ErrNotFound)
	}
	return err
}

// JobFile is what a member's job made.
func (l Library) JobFile(ctx context.Context, memberID, id string) (JobFile, error) {
	return jobFileGet.one(ctx, l.db, l.with(args{"member_id": memberID, "job_id": id}))
}

// LostJobs lists jobs of all teams of which nothing was heard for so long, by the database's clock.
func LostJobs(ctx context.Context, db DB, silence time.Duration) ([]LostJob, error) {
	return jobLost.many(ctx, db, args{"silence": silence.Seconds()})
}

// ForgetJobs drops the jobs of all teams that ended before a time, with their files.
func ForgetJobs(ctx context.Context, db DB, before time.Time) (int64, error) {
	n, _, err := jobForget.count(ctx, db, args{"before": before})
	return n, err
}
