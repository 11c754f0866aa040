package attack

import (
	"context"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/httputil"
	"net/url"
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"brightchalk/test/loopback"
)

// cutter is a proxy that breaks connections after a number of bytes by chance.
type cutter struct {
	net.Listener
	to   string
	rand func() int64
	cuts atomic.Int64
}

func newCutter(to string, rand func() int64) (*cutter, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0") //nolint:noctx // at once
	if err != nil {
		return nil, err
	}
	c := &cutter{Listener: l, to: to, rand: rand}
	go func() {
		for {
			in, err := l.Accept()
			if err != nil {
				return
			}
			go c.pass(in)
		}
	}()
	return c, nil
}

func (c *cutter) pass(in net.Conn) {
	defer func() { _ = in.Close() }()
	out, err := net.Dial("tcp", c.to) //nolint:noctx // on this machine
	if err != nil {
		return
	}
	defer func() { _ = out.Close() }()
	var wait sync.WaitGroup
	half := func(to, from net.Conn, bytes int64) {
		n, _ := io.CopyN(to, from, bytes)
		if n == bytes {
			c.cuts.Add(1)
		}
		_ = in.Close()
		_ = out.Close()
	}
	up, down := c.rand(), c.rand()*4
	wait.Go(func() { half(out, in, up) })
	wait.Go(func() { half(in, out, down) })
	wait.Wait()
}

// lines lets writers work through a proxy that cuts: what was acknowledged stands, and nothing is half there.
func lines(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	at, err := url.Parse(s.base)
	if err != nil {
		return err
	}
	var mu sync.Mutex
	chance := rand.New(rand.NewPCG(a.Rand.Uint64(), 2))
	proxy, err := newCutter(at.Host, func() int64 {
		mu.Lock()
		defer mu.Unlock()
		return 500 + chance.Int64N(30_000)
	})
	if err != nil {
		return err
	}
	defer func() { _ = proxy.Close() }()
	direct, err := member(ctx, s.base, 0)
	if err != nil {
		return err
	}
	wall, err := cards(ctx, direct)
	if err != nil {
		return err
	}
	classes, err := get[[]struct {
		ClassID string `json:"class_id"`
	}](ctx, direct, "/api/classes")
	if err != nil {
		return err
	}
	j := &journal{rhymes: map[string][]string{}, classes: map[string]bool{}, lessons: map[string]int{}}
	working, stop := context.WithTimeout(ctx, 3*a.Seconds)
	defer stop()
	var wait sync.WaitGroup
	cut := direct
	cut.base = "http://" + proxy.Addr().String()
	jarred := *direct.http
	u, _ := url.Parse(cut.base)
	jarred.Jar.SetCookies(u, direct.http.Jar.Cookies(at))
	cut.http = &jarred
	per := len(wall) / 6
	for i := range 6 {
		wait.Go(func() { j.write(working, cut, i, wall[i*per:(i+1)*per], classes[0].ClassID) })
	}
	wait.Wait()
	time.Sleep(500 * time.Millisecond)
	if err := j.check(ctx, a, direct, "lines"); err != nil {
		return err
	}
	a.quiet(s, "lines")
	a.Say("   %d connections cut, %d changes acknowledged, all there", proxy.cuts.Load(), j.acked)
	return nil
}

// fullDisk gives a database a disk of its own that is too small, fills it, and makes room again.
func fullDisk(ctx context.Context, a *Arena) error {
	disk := filepath.Join(a.dir, "disk")
	if err := os.MkdirAll(disk, 0o755); err != nil {
		return err
	}
	const room = "size=200m"
	if err := syscall.Mount("tmpfs", disk, "tmpfs", 0, room); err != nil {
		a.Say("   not run: a small disk cannot be mounted here (%v)", err)
		return nil
	}
	defer func() { _ = syscall.Unmount(disk, 0) }()
	db, err := newDatabase(
		filepath.Join(disk, "db"),
		"max_wal_size = 48MB",
		"min_wal_size = 32MB",
		"wal_segment_size = 16MB",
	)
	if err != nil {
		db, err = newDatabase(filepath.Join(disk, "db2"), "max_wal_size = 48MB", "min_wal_size = 32MB")
	}
	if err != nil {
		return err
	}
	defer db.stop()
	s, err := a.serve(ctx, db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	lead, err := member(ctx, s.base, 0)
	if err != nil {
		return err
	}
	wall, err := cards(ctx, lead)
	if err != nil {
		return err
	}
	ballast := filepath.Join(disk, "ballast")
	if err := fill(ballast); err != nil {
		return err
	}
	statuses := map[int]int{}
	acked := 0
	for i := range 60 {
		data := tone(44_100, 20+float64(i)/10)
		path := "/api/cards/" + wall[i%len(wall)].CardID + "/takes?speaker=Ida&consent=yes"
		status, answer, err := lead.do(ctx, http.MethodPost, path, "application/octet-stream", data)
		if err != nil {
			return err
		}
		statuses[status]++
		if status == http.StatusOK {
			acked++
		}
		if status == http.StatusInternalServerError {
			a.Find("with a full disk a take answers %d %s", status, answer)
			break
		}
		if statuses[http.StatusServiceUnavailable] > 3 {
			break
		}
	}
	status, answer, err := lead.do(ctx, http.MethodGet, "/api/classes", "", nil)
	if err != nil || status == http.StatusInternalServerError {
		a.Find("with a full disk, reading answers %d %s %v", status, answer, err)
	}
	if err := os.Remove(ballast); err != nil {
		return err
	}
	if err := db.start(); err != nil {
		a.Say("   the database had not stopped") // it ends where it cannot write its log
	}
	if err := a.firstWrite(ctx, s.base); err != nil {
		a.Find("after room was made: %v", err)
		return nil
	}
	n, err := ask[int](ctx, db, "SELECT count(*) FROM take WHERE speaker = 'Ida'")
	if err != nil {
		return err
	}
	if n < acked {
		a.Find("%d takes were acknowledged, %d are there", acked, n)
	}
	a.Say(
		"   takes on a full disk: %v; after room was made changes are taken again, %d of %d takes are there",
		statuses,
		n,
		acked,
	)
	return a.whole(ctx, db, "disk")
}

// fill writes a file until there is no room.
func fill(path string) error {
	f, err := os.Create(path)
	if err != nil {
		return err
	}
	block := make([]byte, 1<<20)
	for {
		if _, err := f.Write(block); errors.Is(err, syscall.ENOSPC) {
			return f.Close()
		} else if err != nil {
			return errors.Join(err, f.Close())
		}
	}
}

// requests reads and writes without a pause until it is ended, and tells then how many there were and how many failed;
// each that fails is found.
func (a *Arena) requests(ctx context.Context, base string) (func() (done, failed int64), error) {
	lead, err := member(ctx, base, 0)
	if err != nil {
		return nil, err
	}
	working, stop := context.WithCancel(ctx)
	var wait sync.WaitGroup
	var done, failed atomic.Int64
	for i := range 6 {
		wait.Go(func() {
			for n := 0; working.Err() == nil; n++ {
				method, path, body := http.MethodGet, "/api/cards", any(nil)
				if n%3 == 0 {
					method, path = http.MethodPost, "/api/classes"
					body = map[string]string{"name": fmt.Sprintf("Rolling %d-%d-%d", i, n, time.Now().UnixNano()), "kind": "group"}
				}
				status, answer, err := lead.call(ctx, method, path, body)
				done.Add(1)
				if err != nil || status != http.StatusOK {
					failed.Add(1)
					a.Find("%s %s while a server restarts: %d %.80s %v", method, path, status, answer, err)
				}
			}
		})
	}
	return func() (int64, int64) {
		stop()
		wait.Wait()
		return done.Load(), failed.Load()
	}, nil
}

// rolling restarts two servers one after the other behind a balancer that asks whether they are ready, while people
// read and write through it.
func rolling(ctx context.Context, a *Arena) error {
	ports := []int{loopback.FreePort(), loopback.FreePort()}
	servers := make([]*server, 2)
	var err error
	for i, port := range ports {
		if servers[i], err = a.serve(ctx, a.db, port); err != nil {
			return err
		}
		defer func() { servers[i].kill() }()
	}
	front, err := newBalancer(ctx, servers[0].base, servers[1].base)
	if err != nil {
		return err
	}
	defer func() { _ = front.Close() }()
	base := "http://" + front.Addr().String()
	end, err := a.requests(ctx, base)
	if err != nil {
		return err
	}
	rounds := max(1, a.Crashes/5)
	for range rounds {
		for i := range servers {
			time.Sleep(500 * time.Millisecond)
			servers[i].stop()
			if servers[i], err = a.serve(ctx, a.db, ports[i]); err != nil {
				end()
				return err
			}
			time.Sleep(300 * time.Millisecond)
		}
	}
	done, failed := end()
	a.Say("   %d restarts under %d requests, %d failed", 2*rounds, done, failed)
	return nil
}

// newBalancer passes requests to those servers that say that they are ready.
func newBalancer(ctx context.Context, bases ...string) (net.Listener, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0") //nolint:noctx // at once
	if err != nil {
		return nil, err
	}
	healthy := make([]atomic.Bool, len(bases))
	proxies := make([]*httputil.ReverseProxy, len(bases))
	for i, b := range bases {
		u, err := url.Parse(b)
		if err != nil {
			return nil, err
		}
		healthy[i].Store(true)
		proxies[i] = httputil.NewSingleHostReverseProxy(u)
		go func() {
			for ctx.Err() == nil {
				healthy[i].Store(ready(ctx, b))
				time.Sleep(100 * time.Millisecond)
			}
		}()
	}
	var turn atomic.Int64
	server := &http.Server{
		ReadHeaderTimeout: time.Minute,
		Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			first := int(turn.Add(1))
			for k := range bases {
				if i := (first + k) % len(bases); healthy[i].Load() {
					proxies[i].ServeHTTP(w, r)
					return
				}
			}
			http.Error(w, "no server is ready", http.StatusBadGateway)
		}),
	}
	go func() { _ = server.Serve(l) }()
	return l, nil
}
