package attack

import (
	"bufio"
	"context"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"brightchalk/demo"
	"brightchalk/internal/library"
	"brightchalk/internal/sound"
	"brightchalk/internal/teaching"
)

// signIns guesses from one address and from many, then lets many sign in at once while others work.
func signIns(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	guess := func(email, password, from string) int {
		p := stranger(s.base)
		p.from = from
		status, _, err := p.call(
			ctx,
			http.MethodPost,
			"/api/session",
			map[string]string{"email": email, "password": password},
		)
		if err != nil {
			return 0
		}
		return status
	}
	if err := a.people(ctx); err != nil {
		return err
	}
	count := func(n int, f func(i int) int) map[int]int {
		out := map[int]int{}
		for i := range n {
			out[f(i)]++
		}
		return out
	}
	many := count(30, func(i int) int {
		return guess("p0@weirside.example", fmt.Sprint("guess ", i), fmt.Sprintf("10.1.0.%d", i))
	})
	one := count(30, func(i int) int { return guess("p1@weirside.example", fmt.Sprint("guess ", i), "10.2.0.1") })
	school := count(
		40,
		func(i int) int { return guess(fmt.Sprintf("p%d@weirside.example", 2+i%6), otherPassword, "10.3.0.1") },
	)
	a.Say("   30 guesses from 30 addresses: %v; from one: %v; 40 of a school from one address: %v", many, one, school)
	if many[422] > 12 || one[422] > 12 {
		a.Find("guesses are not counted: %v from many addresses, %v from one", many, one)
	}
	if school[200] != 40 {
		a.Find("a school that signs in from one address is kept out: %v", school)
	}
	other := guess("p7@weirside.example", otherPassword, "10.2.0.1")
	if other != http.StatusOK {
		a.Find("guesses at one account keep another out: %d", other)
	}
	return a.hashing(ctx, s)
}

// people adds members to the other team, to be guessed at.
func (a *Arena) people(ctx context.Context) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.stop()
	lead, err := a.otherTeam(ctx, s.base)
	if err != nil {
		return err
	}
	for i := range 8 {
		_, _, err := lead.call(ctx, http.MethodPost, "/api/members", map[string]string{
			"name": fmt.Sprint("Person ", i), "email": fmt.Sprintf("p%d@weirside.example", i), "role": "teacher",
			"password": otherPassword,
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// hashing measures the work of others while many sign in.
func (a *Arena) hashing(ctx context.Context, s *server) error {
	lead, err := member(ctx, s.base, 0)
	if err != nil {
		return err
	}
	var alone, beside times
	work := func(ctx context.Context, into *times) {
		for ctx.Err() == nil {
			began := time.Now()
			if status, _, err := lead.do(ctx, http.MethodGet, "/api/classes", "", nil); err == nil && status == http.StatusOK {
				into.add(time.Since(began))
			}
			time.Sleep(5 * time.Millisecond)
		}
	}
	quiet, stop := context.WithTimeout(ctx, a.Seconds)
	work(quiet, &alone)
	stop()
	working, stop := context.WithCancel(ctx)
	var wait sync.WaitGroup
	for range 3 {
		wait.Go(func() { work(working, &beside) })
	}
	var failed atomic.Int32
	began := time.Now()
	together(a.Together, func(i int) {
		if _, err := signedIn(ctx, s.base, demo.SignIns[i%3].Email, demo.SignIns[i%3].Password); err != nil {
			failed.Add(1)
		}
	})
	took := time.Since(began)
	stop()
	wait.Wait()
	a.Say("   %d sign-ins at once in %d ms, %d failed; other calls: 99th percentile %d ms, alone %d ms",
		a.Together, took.Milliseconds(), failed.Load(), beside.at(0.99).Milliseconds(), alone.at(0.99).Milliseconds())
	if failed.Load() > 0 {
		a.Find("%d of %d sign-ins at once failed", failed.Load(), a.Together)
	}
	return nil
}

// crowd lets many do the same thing at once, and checks what holds afterwards.
func crowd(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	lead, err := member(ctx, s.base, 0)
	if err != nil {
		return err
	}
	t, err := contendedThings(ctx, lead)
	if err != nil {
		return err
	}
	wall, err := cards(ctx, lead)
	if err != nil {
		return err
	}
	card := t.byName["card"]
	for _, thing := range []struct {
		name string
		do   func(i int) (int, []byte, error)
	}{
		{"moves", func(i int) (int, []byte, error) {
			return lead.call(ctx, http.MethodPut, "/api/cards/"+wall[(i*7)%len(wall)].CardID+"/step",
				map[string]int{"step": 1 + (i*13)%len(wall)})
		}},
		{"edits of one card", func(i int) (int, []byte, error) {
			v, err := get[library.CardView](ctx, lead, "/api/cards/"+card)
			if err != nil {
				return 0, nil, err
			}
			v.Content.Notes = fmt.Sprint("Note ", i)
			body := map[string]any{"base_version": v.Version, "content": v.Content}
			return lead.call(ctx, http.MethodPut, "/api/cards/"+card, body)
		}},
		{"takes of one card", func(int) (int, []byte, error) {
			return lead.do(ctx, http.MethodPost, "/api/cards/"+card+"/takes?speaker=Ida&consent=yes", "application/octet-stream",
				tone(44_100, 0.7))
		}},
		{"choices on one card", func(i int) (int, []byte, error) {
			takes, err := get[[]sound.TakeView](ctx, lead, "/api/cards/"+card+"/takes")
			if err != nil || len(takes) == 0 {
				return 0, nil, fmt.Errorf("no takes: %w", err)
			}
			return lead.call(ctx, http.MethodPut, "/api/takes/"+takes[i%len(takes)].TakeID+"/chosen", nil)
		}},
		{"logs of one lesson", func(int) (int, []byte, error) {
			return lead.call(ctx, http.MethodPut, "/api/lessons/"+t.byPath["lessons"]+"/log",
				teaching.Taught{Sure: []teaching.Sure{{CardID: card, Sure: 2}}})
		}},
		{"the same class", func(int) (int, []byte, error) {
			return lead.call(ctx, http.MethodPost, "/api/classes", map[string]string{"name": "Weir class", "kind": "class"})
		}},
		{"the same member", func(int) (int, []byte, error) {
			return lead.call(ctx, http.MethodPost, "/api/members", map[string]string{
				"name": "Ned Cutwater", "email": "ned@lockhouse.example", "role": "teacher", "password": "a long enough one",
			})
		}},
		{"the same new card", func(int) (int, []byte, error) {
			return lead.call(ctx, http.MethodPost, "/api/cards", map[string]any{"pair": "eigh=eɪ", "step": 4})
		}},
	} {
		statuses := map[int]int{}
		var mu sync.Mutex
		together(a.Together, func(i int) {
			status, answer, err := thing.do(i)
			mu.Lock()
			defer mu.Unlock()
			statuses[status]++
			if err != nil || status >= 500 {
				a.Find("%s: %d %s %v", thing.name, status, answer, err)
			}
		})
		a.Say("   %-20s × %d: %v", thing.name, a.Together, statuses)
		if err := a.whole(ctx, a.db, thing.name); err != nil {
			return err
		}
	}
	a.quiet(s, "crowd")
	return nil
}

// stream reads events until ctx ends; each event's id goes to heard.
func stream(ctx context.Context, p person, heard func(id string)) (opened <-chan struct{}, err error) {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, p.base+"/api/events", nil)
	if err != nil {
		return nil, err
	}
	client := *p.http
	client.Timeout = 0
	answer, err := client.Do(r)
	if err != nil {
		return nil, err
	}
	first := make(chan struct{})
	go func() {
		defer func() { _ = answer.Body.Close() }()
		lines := bufio.NewScanner(answer.Body)
		for n := 0; lines.Scan(); n++ {
			if n == 0 {
				close(first)
			}
			if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				heard(data)
			}
		}
	}()
	return first, nil
}

// streams moves cards while streams are open on two servers, looks that each still hears, and how soon.
func streams(ctx context.Context, a *Arena) error {
	one, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer one.kill()
	two, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer two.kill()
	lead, err := member(ctx, one.base, 0)
	if err != nil {
		return err
	}
	open, closeAll := context.WithCancel(ctx)
	defer closeAll()
	heard := make([]atomic.Int64, a.Streams)
	var last atomic.Value // of the last event on the second server: when
	last.Store(time.Time{})
	for i := range a.Streams {
		p, err := member(ctx, []string{one.base, two.base}[i%2], i%3)
		if err != nil {
			return err
		}
		first, err := stream(open, p, func(string) {
			heard[i].Add(1)
			if i == 1 {
				last.Store(time.Now())
			}
		})
		if err != nil {
			return err
		}
		<-first
	}
	wall, err := cards(ctx, lead)
	if err != nil {
		return err
	}
	move := func(i int) error {
		status, data, err := lead.call(ctx, http.MethodPut, "/api/cards/"+wall[i%len(wall)].CardID+"/step",
			map[string]int{"step": 1 + (i*11)%len(wall)})
		if err == nil && status != http.StatusOK {
			err = fmt.Errorf("move %d: %d %s", i, status, data)
		}
		return err
	}
	began := time.Now()
	var failed atomic.Int32
	together(4, func(k int) {
		for i := k; i < a.Moves; i += 4 {
			if err := move(i); err != nil {
				failed.Add(1)
				a.Find("%v", err)
			}
		}
	})
	took := time.Since(began)
	time.Sleep(time.Second)
	before := make([]int64, a.Streams)
	for i := range heard {
		before[i] = heard[i].Load()
	}
	var soon times
	for i := range 30 {
		at := time.Now()
		if err := move(i*3 + 1); err != nil {
			return err
		}
		time.Sleep(150 * time.Millisecond)
		if when, _ := last.Load().(time.Time); when.After(at) {
			soon.add(when.Sub(at))
		}
	}
	dead := 0
	for i := range heard {
		if heard[i].Load() == before[i] {
			dead++
		}
	}
	if dead > 0 {
		a.Find("%d of %d streams hear nothing any more", dead, a.Streams)
	}
	a.Say(
		"   %d moves with %d streams in %s (%d failed), %d streams dead; a change shows on the other server after a median "+
			"of %d ms, 99th percentile %d ms (%d seen)",
		a.Moves,
		a.Streams,
		took.Round(time.Millisecond),
		failed.Load(),
		dead,
		soon.at(0.5).Milliseconds(),
		soon.at(0.99).Milliseconds(),
		len(soon.all),
	)
	return a.whole(ctx, a.db, "streams")
}
