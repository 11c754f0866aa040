// Package attack attacks a running Bright Chalk: it starts servers and a database cluster of its own, kills them, sends
// what nobody should send, and checks afterwards that what was promised is there and nothing else happened. Each
// section is a fault that was once found, or could be. The same seed attacks in the same way, as far as a machine with
// several processes does anything in the same way.
package attack

import (
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// Size is how hard a section is pressed.
type Size struct {
	Kills, Crashes int           // of the server, of the database
	Together       int           // who do the same thing at once
	Moves, Streams int           // changes while event streams are open
	Rounds         int           // of mutated input for each call
	Uploads        int           // of each bomb at once
	Seconds        time.Duration // of load
	Soak           time.Duration
}

// Full is what the targets are measured with, but for the hour of soak, which is asked for by its length.
var Full = Size{
	Kills: 100, Crashes: 20, Together: 20, Moves: 5000, Streams: 20, Rounds: 40, Uploads: 8, Seconds: 10 * time.Second,
	Soak: 2 * time.Minute,
}

// Short is for every run of the tests.
var Short = Size{
	Kills: 3, Crashes: 1, Together: 10, Moves: 200, Streams: 10, Rounds: 3, Uploads: 2, Seconds: time.Second,
	Soak: 2 * time.Second,
}

// Section is one kind of attack.
type Section struct {
	Name, About string
	Run         func(ctx context.Context, a *Arena) error
}

// Sections lists all, in the order in which they run.
var Sections = []Section{
	{"kill", "kill -9 of the server under mixed changes, with a journal of what was acknowledged", kills},
	{"crash", "crashes of the database under mixed changes", crashes},
	{"jobs", "kill -9 of a server under work that takes long", lostJobs},
	{"rights", "every call as nobody, as each role and as another team's lead", rights},
	{"bodies", "malformed, huge, deep and mutated input of every call", bodies},
	{"bombs", "uploads that grow, with the memory measured", bombs},
	{"scripts", "scripts in every text, looked for in every page, print and pack", scripts},
	{"signin", "guesses, and many sign-ins at once beside the work of others", signIns},
	{"crowd", "many clients on each thing that can be contended for", crowd},
	{"streams", "moves while event streams are open, and changes on another server's streams", streams},
	{"lines", "connections that are cut in the middle", lines},
	{"disk", "no room on the database's disk", fullDisk},
	{"rolling", "servers restarted one after the other behind a balancer", rolling},
	{"failover", "power cuts of the database that leads, and restarts, with three servers and two databases", failover},
	{"load", "fifty users, the wall, and answers of not changed", load},
	{"soak", "an even load for long, with the growth of memory, goroutines and connections", soak},
}

// Arena is where sections run. What a section finds goes to Find, what it measured to Say.
type Arena struct {
	Size
	Rand *rand.Rand
	out  io.Writer

	dir      string
	binary   string
	db       *database
	mu       sync.Mutex
	findings []string
}

// Run runs the named sections, all where there are none, and returns what they found. binary is a built brightchalk.
func Run(ctx context.Context, out io.Writer, binary string, s Size, seed uint64, names ...string) ([]string, error) {
	dir, err := os.MkdirTemp("", "bright-chalk-attack-")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	a := &Arena{Size: s, Rand: rand.New(rand.NewPCG(seed, 1)), out: out, dir: dir, binary: binary}
	for _, n := range names {
		if !slices.ContainsFunc(Sections, func(s Section) bool { return s.Name == n }) {
			return nil, fmt.Errorf("there is no section %q", n)
		}
	}
	if a.db, err = newDatabase(filepath.Join(dir, "db")); err != nil {
		return nil, err
	}
	defer a.db.stop()
	for _, s := range Sections {
		if len(names) > 0 && !slices.Contains(names, s.Name) {
			continue
		}
		began := time.Now()
		before := len(a.findings)
		a.Say("== %s: %s", s.Name, s.About)
		if err := a.db.fresh(ctx, s.Name); err != nil {
			return a.findings, err
		}
		if err := s.Run(ctx, a); err != nil {
			return a.findings, fmt.Errorf("%s: %w", s.Name, err)
		}
		a.Say("   %d found, %s", len(a.findings)-before, time.Since(began).Round(time.Second))
	}
	return a.findings, nil
}

// Say writes a line of figures.
func (a *Arena) Say(format string, args ...any) {
	a.mu.Lock()
	defer a.mu.Unlock()
	_, _ = fmt.Fprintf(a.out, format+"\n", args...)
}

// maxFound is how many faults are listed; a broken rule is found many times.
const maxFound = 60

// Find notes a fault.
func (a *Arena) Find(format string, args ...any) {
	text := fmt.Sprintf(format, args...)
	if len(text) > 400 {
		text = text[:400] + " …"
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	if len(a.findings) < maxFound {
		a.findings = append(a.findings, text)
		_, _ = fmt.Fprintln(a.out, "   FOUND: "+strings.ReplaceAll(text, "\n", " "))
	}
}

// together runs f at once n times.
func together(n int, f func(i int)) {
	var wait sync.WaitGroup
	for i := range n {
		wait.Go(func() { f(i) })
	}
	wait.Wait()
}

// times are durations that were measured.
type times struct {
	mu  sync.Mutex
	all []time.Duration
}

func (t *times) add(d time.Duration) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.all = append(t.all, d)
}

// at is a quantile, 0.99 for the 99th percentile.
func (t *times) at(q float64) time.Duration {
	t.mu.Lock()
	defer t.mu.Unlock()
	if len(t.all) == 0 {
		return 0
	}
	slices.Sort(t.all)
	return t.all[min(len(t.all)-1, int(q*float64(len(t.all))))]
}
