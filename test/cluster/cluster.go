// Package cluster runs Bright Chalk as an authority or a hosting firm would, on one machine: three servers behind
// HAProxy, two PostgreSQL databases in step under Patroni with etcd, pgbouncer between. It is for looking at, for
// measuring, and for killing.
package cluster

import (
	"bytes"
	"context"
	"crypto/rand"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"text/template"
	"time"

	"github.com/jackc/pgx/v5"

	"brightchalk/test/loopback"
)

//go:embed config/*
var configs embed.FS

// Database is one of the two.
type Database struct {
	Name       string
	Port, Rest int
	Etcd       int
	Dir, Bin   string
	Owner      string // password
	Follower   string // password
	process    *exec.Cmd
}

// Server is one process of the application.
type Server struct {
	Port    int
	process *exec.Cmd
}

// Cluster is all of it. Web is where a browser goes, HOST:PORT.
type Cluster struct {
	Dir, Web                           string
	Primary, Standby, Pooler, etcdPort int
	Databases                          []*Database
	Servers                            []int
	servers                            []*Server
	binary, role, owner                string
	as                                 *syscall.Credential // for what refuses root
	others                             []*exec.Cmd
	pooler                             *exec.Cmd
	log                                io.Writer
}

// Size of a cluster.
const (
	databases = 2
	servers   = 3
	timeout   = 90 * time.Second
)

// ErrMissing says which program is not there.
var ErrMissing = errors.New("a program is missing")

// Start starts everything in a folder that is not there yet and waits until pages are served at web, HOST:PORT; it
// makes the demo's team. Nothing is left running where it fails.
func Start(ctx context.Context, dir, web, binary string, log io.Writer) (*Cluster, error) {
	c := &Cluster{Dir: dir, Web: web, binary: binary, role: rand.Text(), owner: rand.Text(), log: log}
	if err := c.begin(ctx); err != nil {
		c.Stop()
		return nil, err
	}
	return c, nil
}

func (c *Cluster) begin(ctx context.Context) error {
	for _, p := range []string{"haproxy", "pgbouncer", "patroni", "etcd"} {
		if _, err := exec.LookPath(p); err != nil {
			return fmt.Errorf("%w: %s, of Debian's package of that name", ErrMissing, p)
		}
	}
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin")
	if len(found) == 0 {
		return fmt.Errorf("%w: PostgreSQL", ErrMissing)
	}
	if err := c.folder(); err != nil {
		return err
	}
	peer := loopback.FreePort()
	for _, port := range []*int{&c.etcdPort, &c.Primary, &c.Standby, &c.Pooler} {
		*port = loopback.FreePort()
	}
	address := "http://127.0.0.1:" + strconv.Itoa(c.etcdPort)
	near := "http://127.0.0.1:" + strconv.Itoa(peer)
	err := c.run("etcd", "etcd", "--data-dir", filepath.Join(c.Dir, "etcd"), "--listen-client-urls", address,
		"--advertise-client-urls", address, "--listen-peer-urls", near, "--initial-advertise-peer-urls", near,
		"--initial-cluster", "default="+near, "--unsafe-no-fsync")
	if err != nil {
		return err
	}
	follower := rand.Text()
	for i := range databases {
		d := &Database{
			Name: fmt.Sprintf("db%d", i+1), Port: loopback.FreePort(), Rest: loopback.FreePort(), Etcd: c.etcdPort,
			Bin:   found[len(found)-1],
			Owner: c.owner, Follower: follower,
		}
		d.Dir = filepath.Join(c.Dir, d.Name)
		if err := c.own(d.Dir); err != nil {
			return err
		}
		if err := c.write("patroni.yml", filepath.Join(d.Dir, "patroni.yml"), d); err != nil {
			return err
		}
		c.Databases = append(c.Databases, d)
		if err := c.StartDatabase(d); err != nil {
			return err
		}
		if i == 0 { // the first leads
			if err := c.until(ctx, "a database that leads", func() bool { return c.Leader(ctx) == d }); err != nil {
				return err
			}
		}
	}
	for range servers {
		c.Servers = append(c.Servers, loopback.FreePort())
	}
	if err := c.write("haproxy.cfg", filepath.Join(c.Dir, "haproxy.cfg"), c); err != nil {
		return err
	}
	if err := c.run("haproxy", "haproxy", "-db", "-f", filepath.Join(c.Dir, "haproxy.cfg")); err != nil {
		return err
	}
	if err := c.until(ctx, "two databases in step", func() bool { return c.InStep(ctx) }); err != nil {
		return err
	}
	if err := c.prepare(ctx); err != nil {
		return err
	}
	for range c.Servers {
		if err := c.AddServer(ctx); err != nil {
			return err
		}
	}
	return c.until(ctx, "pages", func() bool { return answers(ctx, "http://"+c.Web+"/readyz") })
}

// folder makes the folder, for the user of what refuses root.
func (c *Cluster) folder() error {
	if os.Getuid() == 0 {
		u, err := user.Lookup("postgres")
		if err != nil {
			return err
		}
		uid, _ := strconv.Atoi(u.Uid)
		gid, _ := strconv.Atoi(u.Gid)
		c.as = &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}
	}
	for up := filepath.Dir(c.Dir); c.as != nil && up != "/" && up != os.TempDir(); up = filepath.Dir(up) {
		_ = os.Chmod(up, 0o711) //nolint:gosec // another user passes through
	}
	return c.own(c.Dir)
}

func (c *Cluster) own(dir string) error {
	if err := os.MkdirAll(dir, 0o700); err != nil || c.as == nil {
		return err
	}
	return os.Chown(dir, int(c.as.Uid), int(c.as.Gid))
}

// write fills a configuration that only its reader may read: it holds passwords.
func (c *Cluster) write(name, file string, with any) error {
	t, err := template.ParseFS(configs, "config/"+name)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := t.Execute(&out, with); err != nil {
		return err
	}
	return c.keep(file, out.Bytes())
}

func (c *Cluster) keep(file string, data []byte) error {
	if err := os.WriteFile(file, data, 0o600); err != nil || c.as == nil {
		return err
	}
	return os.Chown(file, int(c.as.Uid), int(c.as.Gid))
}

// prepare makes the database, its tables and the servers' role, and puts the pooler before it.
func (c *Cluster) prepare(ctx context.Context) error {
	conn, err := pgx.Connect(ctx, c.url("chalk", c.owner, c.Primary, "postgres"))
	if err != nil {
		return fmt.Errorf("make the database: %w", err)
	}
	_, err = conn.Exec(ctx, "CREATE DATABASE chalk")
	if err := errors.Join(err, conn.Close(ctx)); err != nil {
		return err
	}
	cmd := exec.CommandContext(ctx, c.binary, "prepare") //nolint:gosec // ours
	cmd.Env = append(
		os.Environ(),
		"DATABASE_URL="+c.url("bright_chalk", c.role, c.Primary, "chalk"),
		"BRIGHT_CHALK_OWNER_URL="+c.Owner(),
	)
	if said, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("prepare: %w: %s", err, said)
	}
	users := fmt.Sprintf("\"bright_chalk\" %q\n", c.role)
	if err := c.keep(filepath.Join(c.Dir, "userlist.txt"), []byte(users)); err != nil {
		return err
	}
	if err := c.write("pgbouncer.ini", filepath.Join(c.Dir, "pgbouncer.ini"), c); err != nil {
		return err
	}
	return c.startPooler()
}

func (c *Cluster) startPooler() (err error) {
	c.pooler, err = c.start("pgbouncer", "pgbouncer", filepath.Join(c.Dir, "pgbouncer.ini"))
	return err
}

// CutPooler ends the pooler with all lines that it holds, and starts it again.
func (c *Cluster) CutPooler() error {
	_ = c.pooler.Process.Kill()
	_ = c.pooler.Wait()
	return c.startPooler()
}

func (c *Cluster) url(who, password string, port int, database string) string {
	return fmt.Sprintf("postgres://%s:%s@127.0.0.1:%d/%s?sslmode=disable", who, password, port, database)
}

// Owner is the address of the database that leads, as its owner.
func (c *Cluster) Owner() string { return c.url("chalk", c.owner, c.Primary, "chalk") }

// Follower is the address of the database that follows, as its owner.
func (c *Cluster) Follower() string { return c.url("chalk", c.owner, c.Standby, "chalk") }

// AddServer starts the next server.
func (c *Cluster) AddServer(ctx context.Context) error {
	i := len(c.servers)
	c.servers = append(c.servers, &Server{Port: c.Servers[i]})
	return c.StartServer(ctx, i)
}

// StartServer starts a server that does not run, and waits until it is ready.
func (c *Cluster) StartServer(ctx context.Context, i int) error {
	s := c.servers[i]
	at := fmt.Sprintf("127.0.0.1:%d", s.Port)
	s.process = exec.Command(c.binary, "serve", "--demo", "--addr", at) //nolint:noctx,gosec // ours, and stopped by Stop
	s.process.Env = append(os.Environ(),
		// Nothing of a session outlives a transaction: no statement is prepared under a name.
		"DATABASE_URL="+c.url("bright_chalk", c.role, c.Pooler, "chalk")+"&default_query_exec_mode=cache_describe",
		"BRIGHT_CHALK_DIRECT_URL="+c.url("bright_chalk", c.role, c.Primary, "chalk"),
		"BRIGHT_CHALK_STANDBY_URL="+c.url("bright_chalk", c.role, c.Standby, "chalk"),
		"BRIGHT_CHALK_OWNER_URL=", "BRIGHT_CHALK_BEHIND_PROXY=1", "BRIGHT_CHALK_LOG_LEVEL=warn")
	s.process.Stdout, s.process.Stderr = nil, c.log
	if err := s.process.Start(); err != nil {
		return err
	}
	return c.until(ctx, "server "+at, func() bool { return answers(ctx, "http://"+at+"/readyz") })
}

// StopServer ends a server as its service would.
func (c *Cluster) StopServer(i int) {
	_ = c.servers[i].process.Process.Signal(syscall.SIGTERM)
	_ = c.servers[i].process.Wait()
}

// KillServer ends a server as a power cut would.
func (c *Cluster) KillServer(i int) {
	_ = c.servers[i].process.Process.Kill()
	_ = c.servers[i].process.Wait()
}

// StartDatabase starts a database that does not run.
func (c *Cluster) StartDatabase(d *Database) error {
	var err error
	d.process, err = c.start(d.Name, "patroni", filepath.Join(d.Dir, "patroni.yml"))
	return err
}

// KillDatabase ends a database, and what watches over it, as a power cut would.
func (c *Cluster) KillDatabase(d *Database) {
	_ = d.process.Process.Kill()
	_ = d.process.Wait()
	data, err := os.ReadFile(filepath.Join(d.Dir, "data", "postmaster.pid"))
	if err != nil {
		return
	}
	first, _, _ := strings.Cut(string(data), "\n")
	if pid, err := strconv.Atoi(first); err == nil {
		_ = syscall.Kill(pid, syscall.SIGKILL)
	}
}

// Leader is the database that leads, nil for none.
func (c *Cluster) Leader(ctx context.Context) *Database {
	for _, d := range c.Databases {
		if answers(ctx, fmt.Sprintf("http://127.0.0.1:%d/primary", d.Rest)) {
			return d
		}
	}
	return nil
}

// InStep tells whether what one database acknowledges is in the other one too.
func (c *Cluster) InStep(ctx context.Context) bool {
	for _, d := range c.Databases {
		if answers(ctx, fmt.Sprintf("http://127.0.0.1:%d/sync", d.Rest)) {
			return true
		}
	}
	return false
}

// Lag is how many bytes of changes the follower has not got, -1 where there is none.
func (c *Cluster) Lag(ctx context.Context) int64 {
	for _, d := range c.Databases {
		data, status := asked(ctx, fmt.Sprintf("http://127.0.0.1:%d/cluster", d.Rest))
		if status != http.StatusOK {
			continue
		}
		var view struct {
			Members []struct {
				Role string          `json:"role"`
				Lag  json.RawMessage `json:"lag"`
			} `json:"members"`
		}
		if json.Unmarshal(data, &view) != nil {
			continue
		}
		for _, m := range view.Members {
			if n, err := strconv.ParseInt(string(m.Lag), 10, 64); err == nil && m.Role != "leader" {
				return n
			}
		}
	}
	return -1
}

// Stop ends everything.
func (c *Cluster) Stop() {
	for i := range c.servers {
		if p := c.servers[i].process; p != nil && p.Process != nil && p.ProcessState == nil {
			c.StopServer(i)
		}
	}
	for _, d := range c.Databases {
		if d.process != nil && d.process.ProcessState == nil {
			_ = d.process.Process.Signal(syscall.SIGTERM)
			_ = d.process.Wait()
		}
	}
	if c.pooler != nil && c.pooler.ProcessState == nil {
		_ = c.pooler.Process.Kill()
		_ = c.pooler.Wait()
	}
	for i := len(c.others) - 1; i >= 0; i-- {
		_ = c.others[i].Process.Kill()
		_ = c.others[i].Wait()
	}
}

func (c *Cluster) run(name, program string, args ...string) error {
	cmd, err := c.start(name, program, args...)
	if err == nil {
		c.others = append(c.others, cmd)
	}
	return err
}

// start runs a program with its log in the folder.
func (c *Cluster) start(name, program string, args ...string) (*exec.Cmd, error) {
	log, err := os.OpenFile(filepath.Join(c.Dir, name+".log"), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return nil, err
	}
	defer func() { _ = log.Close() }()
	cmd := exec.Command(program, args...) //nolint:noctx,gosec // of Debian's packages, and stopped by Stop
	cmd.Dir = "/"
	cmd.Env = []string{"PATH=/usr/sbin:/usr/bin:/sbin:/bin", "LC_ALL=C.UTF-8", "HOME=" + c.Dir}
	cmd.Stdout, cmd.Stderr = log, log
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.as, Setpgid: true} // Ctrl-C goes to us alone
	if err := cmd.Start(); err != nil {
		return nil, fmt.Errorf("start %s: %w", program, err)
	}
	return cmd, nil
}

func (c *Cluster) until(ctx context.Context, what string, f func() bool) error {
	for end := time.Now().Add(timeout); time.Now().Before(end); {
		if f() {
			return nil
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(100 * time.Millisecond):
		}
	}
	return fmt.Errorf("%s: not within %s; the logs are in %s", what, timeout, c.Dir)
}

func answers(ctx context.Context, url string) bool {
	_, status := asked(ctx, url)
	return status == http.StatusOK
}

func asked(ctx context.Context, url string) ([]byte, int) {
	ctx, cancel := context.WithTimeout(ctx, 2*time.Second)
	defer cancel()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, url, nil)
	if err != nil {
		return nil, 0
	}
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		return nil, 0
	}
	defer func() { _ = answer.Body.Close() }()
	data, _ := io.ReadAll(io.LimitReader(answer.Body, 1<<20))
	return data, answer.StatusCode
}
