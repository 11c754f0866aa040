package jobs

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/jackc/pgx/v5"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/year"
	"brightchalk/internal/curriculum"
	"brightchalk/internal/exchange"
	"brightchalk/internal/planning"
	"brightchalk/internal/printing"
	"brightchalk/internal/render"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Jobs are work that takes longer than a screen waits: somebody asks, a server does it, the screens tell how far it is.
type Jobs struct {
	Env   tx.Env
	queue *Queue
	kinds map[Kind]jobKind
}

// Kind is what is to be made.
type Kind string

// Kinds of jobs.
const (
	Pack     Kind = "pack"     // a carry pack
	Bundle   Kind = "bundle"   // the library in one file
	Pictures Kind = "pictures" // the cards as pictures
	Cards    Kind = "cards"    // all cards to print
	Renew    Kind = "renew"    // all takes judged again
	Search   Kind = "search"   // a better order
	Sheets   Kind = "sheets"   // all that is printed for a day or a week
)

// Ask is what a job is to make; what a kind does not know is left out.
type Ask struct {
	Kind      Kind               `json:"kind" enum:"pack,bundle,pictures,cards,renew,search,sheets"`
	Class     string             `json:"class,omitempty" maxLength:"36" doc:"of a pack, a bundle or sheets; may be left out"`
	Date      year.Date          `json:"date,omitempty" maxLength:"10" doc:"of sheets: the day, or a day of the week"`
	Week      bool               `json:"week,omitempty" doc:"of sheets: the whole week of the day"`
	Size      printing.PackSize  `json:"size,omitempty" maxLength:"10" doc:"of a pack: order, or week for this week's cards of a class"`
	Voiceless bool               `json:"voiceless,omitempty" doc:"of a bundle: without recordings and the carry pack"`
	Layout    render.Layout      `json:"layout,omitempty" maxLength:"20" doc:"of cards: single, duplex, fold or frieze"`
	Small     bool               `json:"small,omitempty" doc:"of cards: 60 by 80 mm instead of 90 by 120"`
	Paper     render.Paper       `json:"paper,omitempty" maxLength:"10" doc:"of cards and sheets: A4 or Letter; the team's where it is left out"`
	Search    *curriculum.Search `json:"search,omitempty" doc:"of a search"`
}

func (a Ask) days() printing.DaysAsk {
	return printing.DaysAsk{Class: a.Class, Date: a.Date, Week: a.Week, Paper: a.Paper}
}

// View is a job as who asked for it sees it.
type View struct {
	JobID   string                 `json:"job_id" format:"uuid"`
	Kind    Kind                   `json:"kind" enum:"pack,bundle,pictures,cards,renew,search,sheets"`
	Title   string                 `json:"title"`
	State   store.JobState         `json:"state" enum:"waiting,running,done,failed,stopped"`
	Done    int                    `json:"done" minimum:"0"`
	OfAll   int                    `json:"of_all" minimum:"0" doc:"0 where it is not known"`
	Note    int64                  `json:"note" doc:"of a search: readable words of the best order so far, summed over all steps"`
	Said    string                 `json:"said" doc:"why it failed"`
	File    bool                   `json:"file" doc:"a file waits to be fetched"`
	Renewed *sound.Rejudged        `json:"renewed,omitempty" doc:"what came of judging all takes again"`
	Found   *curriculum.FoundOrder `json:"found,omitempty" doc:"what came of a search"`
	MadeAt  time.Time              `json:"made_at"`
	EndedAt *time.Time             `json:"ended_at,omitempty"`
}

// jobKind does one kind of jobs. run may be begun again after it broke off: kept is what it had kept until then.
type jobKind struct {
	right tx.Right // "" for all
	title func(ctx context.Context, s store.Library, a Ask) (string, error)
	run   func(ctx context.Context, by tx.Actor, a Ask, w io.Writer, j store.Job) (result any, err error)
	file  store.JobFile // how what was written is called
}

// How long a job may be silent before another server takes it over, how often it may begin, and what is kept.
const (
	heartbeatInterval = time.Second
	heartbeatTimeout  = 15 * time.Second
	maxRuns           = 5
	maxJobs           = 3
	jobTimeout        = 10 * time.Minute
	jobsListedFor     = 24 * time.Hour
	fileLifetime      = time.Hour
)

// New returns the background jobs with the use cases that do their work. A nil queue leaves jobs waiting until Run
// is called.
func New(
	d tx.Env, q *Queue, p printing.Print, x exchange.Exports, k sound.Takes, o curriculum.Orders, y planning.Years,
) Jobs {
	zip := func(name string) store.JobFile { return store.JobFile{Name: name, MediaType: "application/zip"} }
	fixed := func(title string) func(context.Context, store.Library, Ask) (string, error) {
		return func(context.Context, store.Library, Ask) (string, error) { return title, nil }
	}
	return Jobs{d, q, map[Kind]jobKind{
		Pack: {
			title: func(ctx context.Context, s store.Library, a Ask) (string, error) {
				return printing.PackTitle(ctx, s, a.Class, a.Size)
			},
			run: func(ctx context.Context, by tx.Actor, a Ask, w io.Writer, _ store.Job) (any, error) {
				return nil, p.Pack(ctx, by, a.Class, a.Size, w)
			},
			file: store.JobFile{Name: "carry-pack.html", MediaType: "text/html; charset=utf-8"},
		},
		Bundle: {
			title: func(_ context.Context, _ store.Library, a Ask) (string, error) {
				if a.Voiceless {
					return "The library without recordings", nil
				}
				return "The whole library", nil
			},
			run: func(ctx context.Context, by tx.Actor, a Ask, w io.Writer, _ store.Job) (any, error) {
				return nil, x.Bundle(ctx, by, exchange.BundleAsk{Class: a.Class, Voiceless: a.Voiceless}, w)
			},
			file: zip("bright-chalk-library.zip"),
		},
		Pictures: {
			title: fixed("The cards as pictures"),
			run: func(ctx context.Context, by tx.Actor, _ Ask, w io.Writer, _ store.Job) (any, error) {
				return nil, p.CardPictures(ctx, by, printing.CardsAsk{All: true}, w)
			},
			file: zip("cards.zip"),
		},
		Cards: {
			title: func(_ context.Context, _ store.Library, a Ask) (string, error) {
				return printing.CardsTitle(a.Layout)
			},
			run: func(ctx context.Context, by tx.Actor, a Ask, w io.Writer, _ store.Job) (any, error) {
				return nil, p.Cards(ctx, by, printing.CardsAsk{All: true, Layout: a.Layout, Small: a.Small, Paper: a.Paper}, w)
			},
			file: store.JobFile{Name: "sound-cards.pdf", MediaType: "application/pdf"},
		},
		Sheets: {
			title: func(ctx context.Context, s store.Library, a Ask) (string, error) {
				return a.days().Title(ctx, s)
			},
			run: func(ctx context.Context, by tx.Actor, a Ask, w io.Writer, _ store.Job) (any, error) {
				return nil, p.Days(ctx, by, y, a.days(), w)
			},
			file: store.JobFile{Name: "sheets.pdf", MediaType: "application/pdf"},
		},
		Renew: {
			right: tx.MayAgree,
			title: fixed("All takes judged again"),
			run: func(ctx context.Context, by tx.Actor, _ Ask, _ io.Writer, j store.Job) (any, error) {
				return k.RejudgeAll(ctx, by, j)
			},
		},
		Search: {
			right: tx.MayEdit,
			title: func(_ context.Context, _ store.Library, a Ask) (string, error) {
				if a.Search == nil {
					return "", fault.In("search", "Say what matters in a better order.")
				}
				return "A better order", nil
			},
			run: func(ctx context.Context, by tx.Actor, a Ask, _ io.Writer, _ store.Job) (any, error) {
				return o.Improve(ctx, by, *a.Search)
			},
		},
	}}
}

// Begin takes a job in.
func (j Jobs) Begin(ctx context.Context, by tx.Actor, a Ask) (View, error) {
	k, ok := j.kinds[a.Kind]
	if !ok {
		return View{}, fault.In("kind", "There is no such work.")
	}
	if k.right != "" {
		if err := by.Need(k.right); err != nil {
			return View{}, err
		}
	}
	asked, err := json.Marshal(a)
	if err != nil {
		return View{}, err
	}
	return tx.WriteUnlocked(ctx, j.Env, by, tx.MayTalk, func(s store.Library) (View, error) {
		title, err := k.title(ctx, s, a)
		if err != nil {
			return View{}, err
		}
		open, err := s.OpenJobs(ctx, by.MemberID)
		if err != nil {
			return View{}, err
		}
		if open >= maxJobs {
			return View{}, fault.New(
				ErrBusy,
				"%d things are being made for you. Wait for one, or stop it.",
				open,
			)
		}
		id, err := s.AddJob(ctx, store.Job{
			MemberID: by.MemberID, Kind: string(a.Kind), Title: title, Asked: asked, MadeAt: j.Env.Now(),
		})
		if err != nil {
			return View{}, err
		}
		if j.queue != nil {
			if err := s.Within(func(tx pgx.Tx) error { return j.queue.add(ctx, tx, by.TeamID, id) }); err != nil {
				return View{}, fmt.Errorf("queue a job: %w", err)
			}
		}
		made, err := s.Job(ctx, id)
		if err != nil {
			return View{}, err
		}
		return jobView(made)
	})
}

// ErrBusy is the code of one job too many.
const ErrBusy fault.Code = "jobs"

// List is what the actor asked for in the last day, the newest first.
func (j Jobs) List(ctx context.Context, by tx.Actor) ([]View, error) {
	return tx.Read(ctx, j.Env, by, func(s store.Library) ([]View, error) {
		rows, err := s.MemberJobs(ctx, by.MemberID, j.Env.Now().Add(-jobsListedFor))
		out := make([]View, len(rows))
		for i, r := range rows {
			if out[i], err = jobView(r); err != nil {
				return nil, err
			}
		}
		return out, err
	})
}

// Stop stops the actor's job where it goes on, and forgets it, with its file, where it has ended.
func (j Jobs) Stop(ctx context.Context, by tx.Actor, id string) error {
	_, err := tx.WriteUnlocked(ctx, j.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		err := s.StopJob(ctx, by.MemberID, id, j.Env.Now())
		if errors.Is(err, store.ErrNotFound) {
			err = s.DropJob(ctx, by.MemberID, id)
		}
		return struct{}{}, err
	})
	return err
}

// File is what the actor's job made.
func (j Jobs) File(ctx context.Context, by tx.Actor, id string) (store.JobFile, error) {
	return tx.Read(
		ctx,
		j.Env,
		by,
		func(s store.Library) (store.JobFile, error) { return s.JobFile(ctx, by.MemberID, id) },
	)
}

// Lost lists jobs of all teams of which nothing was heard for long: their server is gone, or never began.
func (j Jobs) Lost(ctx context.Context) ([]store.LostJob, error) {
	return store.LostJobs(ctx, j.Env.AllTeams(), heartbeatTimeout)
}

// Forget drops jobs of all teams that ended long ago. A file may hold voices, so it does not lie about.
func (j Jobs) Forget(ctx context.Context) (int64, error) {
	return store.ForgetJobs(ctx, j.Env.AllTeams(), j.Env.Now().Add(-fileLifetime))
}

// Run does a job to its end unless it has ended, or another server does it: any number may run it, and one ends it. An
// error means that it waits again, to be run later.
func (j Jobs) Run(ctx context.Context, teamID, id string) error {
	server := tx.Actor{TeamID: teamID, Role: tx.Assistant}
	var job store.Job
	_, err := tx.WriteUnlocked(ctx, j.Env, server, tx.MayTalk, func(s store.Library) (struct{}, error) {
		_, err := s.ClaimJob(ctx, id, heartbeatTimeout)
		if err == nil {
			job, err = s.Job(ctx, id)
		}
		return struct{}{}, err
	})
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return j.run(ctx, server, job)
}

func (j Jobs) run(ctx context.Context, server tx.Actor, job store.Job) error {
	var a Ask
	k, ok := j.kinds[Kind(job.Kind)]
	if err := json.Unmarshal(job.Asked, &a); err != nil || !ok {
		return j.end(
			ctx,
			server,
			job,
			nil,
			nil,
			fault.New(fault.Invalid, "This server does not know this work any more."),
		)
	}
	if job.Run > maxRuns {
		return j.end(
			ctx,
			server,
			job,
			nil,
			nil,
			fault.New(fault.Invalid, "It broke off %d times. Try again later.", maxRuns),
		)
	}
	m, err := store.MemberSeen(ctx, j.Env.AllTeams(), job.MemberID)
	if errors.Is(err, store.ErrNotFound) || err == nil && m.PausedAt != nil {
		return j.end(ctx, server, job, nil, nil, fault.New(fault.Invalid, "Who asked for it has left the team."))
	}
	if err != nil {
		return j.releaseJob(ctx, server, job, err)
	}
	working, stop := context.WithTimeout(ctx, jobTimeout)
	defer stop()
	var far tx.Progress
	beating := make(chan struct{})
	go func() {
		defer close(beating)
		j.heartbeat(working, stop, server, job, &far)
	}()
	var out bytes.Buffer
	result, err := k.run(tx.WithTimeout(tx.WithProgress(working, &far), jobTimeout), tx.ActorSeen(m), a, &out, job)
	stop()
	<-beating
	var said *fault.Fault
	switch {
	case err == nil:
		file := k.file
		file.Bytes = out.Bytes()
		return j.end(ctx, server, job, result, &file, nil)
	case errors.As(err, &said), errors.Is(err, tx.ErrForbidden), errors.Is(err, store.ErrNotFound):
		return j.end(ctx, server, job, nil, nil, err)
	}
	return j.releaseJob(ctx, server, job, err)
}

// heartbeat tells once a second how far a run is. It stops the run where it was stopped, or where another server, which
// heard nothing of it, has taken it over.
func (j Jobs) heartbeat(ctx context.Context, stop func(), server tx.Actor, job store.Job, far *tx.Progress) {
	for tick := time.NewTicker(heartbeatInterval); ; {
		select {
		case <-ctx.Done():
			tick.Stop()
			return
		case <-tick.C:
		}
		_, err := tx.WriteUnlocked(ctx, j.Env, server, tx.MayTalk, func(s store.Library) (struct{}, error) {
			return struct{}{}, s.HeartbeatJob(ctx, job.JobID, job.Run, far.Snapshot())
		})
		if errors.Is(err, store.ErrNotFound) {
			stop()
		}
	}
}

// end keeps what came of a run, unless it was stopped or taken over.
func (j Jobs) end(
	ctx context.Context,
	server tx.Actor,
	job store.Job,
	result any,
	f *store.JobFile,
	failed error,
) error {
	job.State = store.JobDone
	var said *fault.Fault
	switch {
	case errors.As(failed, &said):
		job.State, job.Said = store.JobFailed, said.Sentence()
	case errors.Is(failed, tx.ErrForbidden):
		job.State, job.Said = store.JobFailed, "Your role does not allow it any more."
	case failed != nil:
		job.State, job.Said = store.JobFailed, "What it was for is not there any more."
	}
	if result != nil {
		var err error
		if job.Result, err = json.Marshal(result); err != nil {
			return err
		}
	}
	if f != nil && (f.Name == "" || failed != nil) {
		f = nil
	}
	_, err := tx.WriteUnlocked(ctx, j.Env, server, tx.MayTalk, func(s store.Library) (struct{}, error) {
		return struct{}{}, s.EndJob(ctx, job, f, j.Env.Now())
	})
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}

// releaseJob lets a run that broke off begin again, and returns why it did; nil where nobody waits for it any more.
// It is also for a server that stops, whose own context is over.
func (j Jobs) releaseJob(ctx context.Context, server tx.Actor, job store.Job, why error) error {
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), tx.Timeout)
	defer cancel()
	_, err := tx.WriteUnlocked(ctx, j.Env, server, tx.MayTalk, func(s store.Library) (struct{}, error) {
		return struct{}{}, s.ReleaseJob(ctx, job.JobID, job.Run)
	})
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return errors.Join(why, err)
}

func jobView(j store.Job) (View, error) {
	v := View{
		j.JobID, Kind(j.Kind), j.Title, j.State, j.Done, j.OfAll, j.Note, j.Said, j.File, nil, nil, j.MadeAt, j.EndedAt,
	}
	if len(j.Result) == 0 || j.State != store.JobDone {
		return v, nil
	}
	switch v.Kind {
	case Renew:
		v.Renewed = &sound.Rejudged{}
		return v, json.Unmarshal(j.Result, v.Renewed)
	case Search:
		v.Found = &curriculum.FoundOrder{}
		return v, json.Unmarshal(j.Result, v.Found)
	}
	return v, nil
}
