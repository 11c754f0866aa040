package attack

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"sync/atomic"
	"time"
)

// load measures fifty users, then how many walls and answers of "not changed" a server gives. The figures are of this
// machine with the clients, the servers and the database on it.
func load(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	lead, err := member(ctx, s.base, 0)
	if err != nil {
		return err
	}
	if err := a.grow(ctx, lead, 120); err != nil {
		return err
	}
	t, err := contendedThings(ctx, lead)
	if err != nil {
		return err
	}
	for _, pause := range []time.Duration{2 * time.Second, time.Second / 2} {
		all, failed := a.users(ctx, lead, t, 50, a.Seconds+2*pause, pause)
		a.Say("   50 users, a call each %s: %d calls, %d failed, median %d ms, 99th percentile %d ms",
			pause, len(all.all), failed, all.at(0.5).Milliseconds(), all.at(0.99).Milliseconds())
	}
	walls, size, tag := a.walls(ctx, lead, "", "")
	packed, _, _ := a.walls(ctx, lead, "", "gzip")
	same, _, _ := a.walls(ctx, lead, tag, "")
	bare := a.bare(ctx, size)
	a.Say(
		"   the wall of 120 cards (%d kB) a second: %.0f, packed %.0f, not changed %.0f; a bare handler sends the same "+
			"bytes %.0f times",
		size>>10,
		walls,
		packed,
		same,
		bare,
	)
	return nil
}

// grow adds cards until the library has so many.
func (a *Arena) grow(ctx context.Context, p person, n int) error {
	have, err := cards(ctx, p)
	if err != nil {
		return err
	}
	graphemes := "ai ay ee ea oa ow igh ie oo ue ew ar or er ir ur air ear are ph wh kn wr gn mb dge tch eigh " +
		"ey ou oi oy aw au al oe a e i o " +
		"u y c g s t ci ti si ch sh th ng nk ck ff ll ss zz bb dd gg mm nn pp rr tt qu x z v w j k l r h b f d m n p"
	sounds := "eɪ iː aɪ əʊ uː ɔː ɑː ɜː ə ɪ ɛ ʌ s z k ʃ ʒ dʒ f t ʊ ɒ eə ɪə tʃ æ d v juː"
	for g := range strings.FieldsSeq(graphemes) {
		for sound := range strings.FieldsSeq(sounds) {
			if len(have) >= n {
				return nil
			}
			status, _, err := p.call(
				ctx,
				http.MethodPost,
				"/api/cards",
				map[string]any{"pair": g + "=" + sound, "step": len(have) + 1},
			)
			if err != nil {
				return err
			}
			if status == http.StatusOK {
				have = append(have, have[0])
			}
		}
	}
	return fmt.Errorf("only %d cards could be made", len(have))
}

// users each read and write as people do, with a pause between.
func (a *Arena) users(ctx context.Context, p person, t things, n int, long, pause time.Duration) (*times, int64) {
	working, stop := context.WithTimeout(ctx, long)
	defer stop()
	all := &times{}
	var failed atomic.Int64
	calls := []struct {
		method, path string
		body         any
	}{
		{http.MethodGet, "/api/cards", nil},
		{http.MethodGet, "/api/cards/" + t.byName["card"], nil},
		{http.MethodGet, "/api/lessons/" + t.byPath["lessons"], nil},
		{http.MethodGet, "/api/classes", nil},
		{http.MethodGet, "/api/words?class=" + t.byName["class"] + "&card=" + t.byName["card"], nil},
		{http.MethodGet, "/api/days", nil},
		{http.MethodGet, "/api/takes/" + t.byPath["takes"] + "/sound", nil},
		{http.MethodPost, "/api/lessons", map[string]any{
			"purpose": "introduce", "card_ids": []string{t.byName["card"]}, "class_id": t.byName["class"], "minutes": 20,
		}},
	}
	together(n, func(i int) {
		time.Sleep(pause * time.Duration(i) / time.Duration(n))
		for k := i; working.Err() == nil; k++ {
			c := calls[k%len(calls)]
			began := time.Now()
			status, _, err := p.call(ctx, c.method, c.path, c.body)
			all.add(time.Since(began))
			if err != nil || status >= 400 {
				failed.Add(1)
			}
			time.Sleep(pause)
		}
	})
	return all, failed.Load()
}

// walls asks for the wall as fast as it comes, with an ETag or a packing where they are given.
func (a *Arena) walls(ctx context.Context, p person, tag, packing string) (each float64, size int, etag string) {
	working, stop := context.WithTimeout(ctx, a.Seconds)
	defer stop()
	var n atomic.Int64
	var mu sync.Mutex
	client := *p.http
	client.Transport = &http.Transport{MaxIdleConnsPerHost: 8, DisableCompression: true}
	began := time.Now()
	together(4, func(int) {
		for working.Err() == nil {
			r, err := http.NewRequestWithContext(ctx, http.MethodGet, p.base+"/api/cards", nil)
			if err != nil {
				return
			}
			if tag != "" {
				r.Header.Set("If-None-Match", tag)
			}
			if packing != "" {
				r.Header.Set("Accept-Encoding", packing)
			}
			answer, err := client.Do(r)
			if err != nil {
				return
			}
			got, _ := io.Copy(io.Discard, answer.Body)
			_ = answer.Body.Close()
			want := http.StatusOK
			if tag != "" {
				want = http.StatusNotModified
			}
			if answer.StatusCode != want {
				a.Find("the wall answers %d", answer.StatusCode)
				return
			}
			n.Add(1)
			mu.Lock()
			size, etag = int(got), answer.Header.Get("ETag")
			mu.Unlock()
		}
	})
	return float64(n.Load()) / time.Since(began).Seconds(), size, etag
}

// bare is how often a handler that does nothing sends so many bytes.
func (a *Arena) bare(ctx context.Context, size int) float64 {
	data := make([]byte, size)
	plain := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write(data) }))
	defer plain.Close()
	working, stop := context.WithTimeout(ctx, a.Seconds)
	defer stop()
	p := stranger(plain.URL)
	var n atomic.Int64
	began := time.Now()
	together(4, func(int) {
		for working.Err() == nil {
			if _, _, err := p.do(ctx, http.MethodGet, "/", "", nil); err == nil {
				n.Add(1)
			}
		}
	})
	return float64(n.Load()) / time.Since(began).Seconds()
}

// soak keeps an even load and prints what grows.
func soak(ctx context.Context, a *Arena) error {
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
	a.users(ctx, lead, t, 10, min(a.Soak, 10*time.Second), time.Second/2) // warm
	before := a.locked(ctx, s)
	parts := 4
	for i := range parts {
		all, failed := a.users(ctx, lead, t, 20, a.Soak/time.Duration(parts), time.Second/2)
		a.Say(
			"   %3d %%: %s; %d calls, %d failed, 99th percentile %d ms",
			100*(i+1)/parts,
			a.locked(ctx, s),
			len(all.all),
			failed,
			all.at(0.99).Milliseconds(),
		)
	}
	time.Sleep(2 * time.Second)
	after := a.locked(ctx, s)
	a.Say("   before %s; after %s", before, after)
	if after.goroutines > before.goroutines+20 || after.connections > before.connections+12 {
		a.Find("something grows: before %s, after %s", before, after)
	}
	a.quiet(s, "soak")
	return nil
}

type holding struct{ memory, goroutines, connections int }

// String says what is held.
func (h holding) String() string {
	return fmt.Sprintf("%d MB, %d goroutines, %d connections of the database", h.memory, h.goroutines, h.connections)
}

func (a *Arena) locked(ctx context.Context, s *server) holding {
	h := holding{memory: s.memory()}
	var vars struct{ Goroutines int }
	if _, data, err := stranger("http://"+s.debug).do(ctx, http.MethodGet, "/debug/vars", "", nil); err == nil {
		_ = json.Unmarshal(data, &vars)
	}
	h.goroutines = vars.Goroutines
	h.connections, _ = ask[int](ctx, a.db, "SELECT count(*) FROM pg_stat_activity WHERE backend_type = 'client backend'")
	return h
}
