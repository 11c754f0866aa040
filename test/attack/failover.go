package attack

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"path/filepath"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/test/cluster"
	"brightchalk/test/loopback"
)

// many starts three servers and two databases, and has the rest of the section look at the database that leads.
func (a *Arena) many(ctx context.Context) (*cluster.Cluster, string, func(), error) {
	web := fmt.Sprintf("127.0.0.1:%d", loopback.FreePort())
	binary, err := filepath.Abs(a.binary)
	if err != nil {
		return nil, "", nil, err
	}
	log := &lockedLog{}
	c, err := cluster.Start(ctx, filepath.Join(a.dir, fmt.Sprintf("many%d", time.Now().UnixNano())), web, binary, log)
	if err != nil {
		return nil, "", nil, fmt.Errorf("%w: %s", err, log.last())
	}
	own := a.db
	pool, err := pgxpool.New(ctx, c.Owner())
	if err != nil {
		c.Stop()
		return nil, "", nil, err
	}
	a.db = &database{pool: pool}
	return c, "http://" + web, func() {
		pool.Close()
		a.db = own
		c.Stop()
	}, nil
}

// failover cuts the power of the database that leads, again and again, while people write and listen.
func failover(ctx context.Context, a *Arena) error {
	c, base, end, err := a.many(ctx)
	if errors.Is(err, cluster.ErrMissing) {
		a.Say("   left out: %v", err)
		return nil
	}
	if err != nil {
		return err
	}
	defer end()
	if err := a.follows(ctx, c); err != nil {
		return err
	}
	if err := a.cutPooler(ctx, c, base); err != nil {
		return err
	}
	listener, err := member(ctx, base, 1)
	if err != nil {
		return err
	}
	open, closeAll := context.WithCancel(ctx)
	defer closeAll()
	var heard atomic.Int64
	first, err := stream(open, listener, func(string) { heard.Add(1) })
	if err != nil {
		return err
	}
	<-first
	var back times
	acked := 0
	rounds := max(1, a.Crashes/4)
	for i := range rounds {
		w, err := a.crew(ctx, base, 6)
		if err != nil {
			return err
		}
		time.Sleep(time.Duration(500+a.Rand.IntN(1000)) * time.Millisecond)
		leader := c.Leader(ctx)
		if leader == nil {
			return fmt.Errorf("nobody leads before kill %d", i+1)
		}
		c.KillDatabase(leader)
		began := time.Now()
		if err := a.firstWrite(ctx, base); err != nil {
			return err
		}
		back.add(time.Since(began))
		time.Sleep(500 * time.Millisecond) // some changes more, on the new one
		w.stop()
		lead, err := member(ctx, base, 0)
		if err != nil {
			return err
		}
		acked += w.acked
		if err := w.check(ctx, a, lead, fmt.Sprintf("power cut %d of the database that leads", i+1)); err != nil {
			return err
		}
		before := heard.Load()
		if err := a.firstWrite(ctx, base); err != nil {
			return err
		}
		time.Sleep(1500 * time.Millisecond)
		if heard.Load() == before {
			a.Find("a stream that was open before power cut %d hears nothing any more", i+1)
		}
		if err := c.StartDatabase(leader); err != nil {
			return err
		}
		for until := time.Now().Add(time.Minute); !c.InStep(ctx); time.Sleep(200 * time.Millisecond) {
			if time.Now().After(until) {
				a.Find("the database that fell is not in step within a minute after power cut %d", i+1)
				break
			}
		}
	}
	a.Say(
		"   %d power cuts of the database that leads, %d acknowledged changes; first write: median %.1f s, at most %.1f s",
		rounds,
		acked,
		back.at(0.5).Seconds(),
		back.at(1).Seconds(),
	)
	if back.at(1) > 15*time.Second {
		a.Find("writes took %.1f s to come back; 15 are promised", back.at(1).Seconds())
	}
	return a.rollingMany(ctx, c, base)
}

// rollingMany restarts the servers one after the other behind HAProxy.
func (a *Arena) rollingMany(ctx context.Context, c *cluster.Cluster, base string) error {
	end, err := a.requests(ctx, base)
	if err != nil {
		return err
	}
	for i := range c.Servers {
		time.Sleep(500 * time.Millisecond)
		c.StopServer(i)
		if err := c.StartServer(ctx, i); err != nil {
			end()
			return err
		}
		time.Sleep(time.Second)
	}
	done, failed := end()
	a.Say(
		"   %d servers restarted one after the other under %d requests, %d failed",
		len(c.Servers),
		done,
		failed,
	)
	return nil
}

// cutPooler drops every line between the servers and the database while people write.
func (a *Arena) cutPooler(ctx context.Context, c *cluster.Cluster, base string) error {
	var back times
	acked := 0
	for i := range 3 {
		w, err := a.crew(ctx, base, 6)
		if err != nil {
			return err
		}
		time.Sleep(time.Duration(300+a.Rand.IntN(500)) * time.Millisecond)
		if err := c.CutPooler(); err != nil {
			return err
		}
		began := time.Now()
		if err := a.firstWrite(ctx, base); err != nil {
			return err
		}
		back.add(time.Since(began))
		w.stop()
		lead, err := member(ctx, base, 0)
		if err != nil {
			return err
		}
		acked += w.acked
		if err := w.check(ctx, a, lead, fmt.Sprintf("cut %d of the pooler", i+1)); err != nil {
			return err
		}
	}
	a.Say(
		"   the pooler cut 3 times, %d acknowledged changes; first write: at most %d ms",
		acked,
		back.at(1).Milliseconds(),
	)
	return nil
}

// lockedLog keeps the end of what servers say.
type lockedLog struct {
	mu   sync.Mutex
	data []byte
}

func (l *lockedLog) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.data = append(l.data, p...)
	if len(l.data) > 8<<10 {
		l.data = l.data[len(l.data)-4<<10:]
	}
	return len(p), nil
}

func (l *lockedLog) last() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return string(l.data)
}

// ownWrites changes something on one server and looks at once on the next: whoever changed something sees it, whichever
// database answers. It tells how much the one that follows answered.
func (a *Arena) ownWrites(ctx context.Context, c *cluster.Cluster) error {
	var people []person
	for _, port := range c.Servers {
		p, err := member(ctx, fmt.Sprintf("http://127.0.0.1:%d", port), 0)
		if err != nil {
			return err
		}
		people = append(people, p)
	}
	for i := range 60 {
		name := fmt.Sprintf("Seen %d-%d", i, time.Now().UnixNano())
		status, data, err := people[i%len(people)].call(ctx, http.MethodPost, "/api/classes",
			map[string]string{"name": name, "kind": "group"})
		if err != nil || status != http.StatusOK {
			return fmt.Errorf("a class: %d %s %w", status, data, err)
		}
		list, err := get[[]struct{ Name string }](ctx, people[(i+1)%len(people)], "/api/classes")
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(list, func(k struct{ Name string }) bool { return k.Name == name }) {
			a.Find("a change on one server is not seen on another one right after it was acknowledged")
		}
	}
	return nil
}

// follows looks at a follower that shows nothing new for a while: nobody waits for it, and everybody sees what is.
func (a *Arena) follows(ctx context.Context, c *cluster.Cluster) error {
	standby, err := pgxpool.New(ctx, c.Follower())
	if err != nil {
		return err
	}
	defer standby.Close()
	reads := func() (n int64, err error) {
		return n, standby.QueryRow(ctx, "SELECT xact_commit FROM pg_stat_database WHERE datname = 'chalk'").Scan(&n)
	}
	before, err := reads()
	if err != nil {
		return err
	}
	lead, err := member(ctx, "http://"+c.Web, 0)
	if err != nil {
		return err
	}
	const looks = 200
	for range looks {
		if _, err := get[[]struct{ Name string }](ctx, lead, "/api/classes"); err != nil {
			return err
		}
	}
	after := before
	for until := time.Now().Add(20 * time.Second); after-before < looks && time.Now().Before(until); {
		time.Sleep(500 * time.Millisecond) // its figures come late
		if after, err = reads(); err != nil {
			return err
		}
	}
	if after-before < looks { // it is asked whether it has caught up, and then: two for each
		a.Find("of %d looks the follower answered few: it counts %d transactions", looks, after-before)
	}
	if err := a.ownWrites(ctx, c); err != nil {
		return err
	}
	if _, err := standby.Exec(ctx, "SELECT pg_wal_replay_pause()"); err != nil {
		return err
	}
	began := time.Now()
	err = a.ownWrites(ctx, c)
	behind := time.Since(began)
	if _, err := standby.Exec(ctx, "SELECT pg_wal_replay_resume()"); err != nil {
		return err
	}
	a.Say(
		"   of %d looks %d transactions were the follower's; 60 changes seen at once on the next server, also (%d ms each) "+
			"while the follower shows nothing new",
		looks,
		after-before,
		behind.Milliseconds()/60,
	)
	return err
}
