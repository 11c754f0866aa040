package attack

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"time"

	"brightchalk/internal/jobs"
	"brightchalk/internal/printing"
	"brightchalk/internal/store"
	"brightchalk/test/loopback"
)

// lostJobs kills the server that may be doing what somebody waits for, at any moment: the other one, or the same one
// when it is back, does it to its end, and once.
func lostJobs(ctx context.Context, a *Arena) error {
	port := loopback.FreePort()
	one, err := a.serve(ctx, a.db, port)
	if err != nil {
		return err
	}
	defer func() { one.kill() }()
	two, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer two.kill()
	lead, err := member(ctx, two.base, 0)
	if err != nil {
		return err
	}
	asks := []jobs.Ask{
		{Kind: jobs.Pictures}, {Kind: jobs.Pack, Size: printing.PackOrder}, {Kind: jobs.Renew},
	}
	var took times
	takenOver := 0
	rounds := max(1, a.Crashes/2)
	for i := range rounds {
		began := time.Now()
		for _, ask := range asks {
			if status, data, err := lead.call(ctx, http.MethodPost, "/api/jobs", ask); err != nil || status != http.StatusOK {
				return fmt.Errorf("a job: %d %s %w", status, data, err)
			}
		}
		time.Sleep(time.Duration(a.Rand.IntN(4000)) * time.Millisecond)
		one.kill()
		if one, err = a.serve(ctx, a.db, port); err != nil {
			return err
		}
		list, err := ended(ctx, lead, len(asks))
		if err != nil {
			return err
		}
		took.add(time.Since(began))
		for _, j := range list {
			if j.State != store.JobDone || j.Kind != jobs.Renew && !j.File {
				a.Find("kill %d: %s is %s: %s", i+1, j.Title, j.State, j.Said)
			}
		}
		again, err := ask[int](ctx, a.db, "SELECT count(*) FROM job WHERE run > 1")
		if err != nil {
			return err
		}
		takenOver += again
		judged, err := ask[int](ctx, a.db, `SELECT count(*) FROM job WHERE kind = 'renew' AND (result->>'judged')::int <>
			(SELECT count(*) FROM take t WHERE t.team_id = job.team_id)`)
		if err != nil {
			return err
		}
		if judged > 0 {
			a.Find("kill %d: takes were judged twice or never", i+1)
		}
	}
	a.Say(
		"   %d kills under %d jobs, %d of them taken over, all done; three jobs and a kill: median %.0f s, at most %.0f s",
		rounds,
		rounds*len(asks),
		takenOver,
		took.at(0.5).Seconds(),
		took.at(1).Seconds(),
	)
	return nil
}

// ended are the newest jobs when none goes on.
func ended(ctx context.Context, p person, n int) ([]jobs.View, error) {
	for until := time.Now().Add(2 * time.Minute); time.Now().Before(until); time.Sleep(200 * time.Millisecond) {
		_, data, err := p.do(ctx, http.MethodGet, "/api/jobs", "", nil)
		if err != nil {
			return nil, err
		}
		var list []jobs.View
		if err := json.Unmarshal(data, &list); err != nil {
			return nil, fmt.Errorf("jobs: %s", data)
		}
		open := false
		for _, j := range list {
			open = open || j.State == store.JobWaiting || j.State == store.JobRunning
		}
		if !open && len(list) >= n {
			return list[:n], nil
		}
	}
	return nil, errors.New("jobs go on for two minutes")
}
