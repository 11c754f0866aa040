package attack

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/demo"
	"brightchalk/internal/library"
	"brightchalk/test/loopback"
)

// database is a PostgreSQL cluster that is stopped and crashed.
type database struct {
	bin, dir string
	port     int
	name     string              // of the database
	as       *syscall.Credential // nil: the user who attacks; initdb refuses root
	pool     *pgxpool.Pool       // to look at what stands
}

func newDatabase(dir string, settings ...string) (*database, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin")
	if len(found) == 0 {
		return nil, errors.New("there is no PostgreSQL in /usr/lib/postgresql")
	}
	c := &database{bin: found[len(found)-1], dir: dir, port: loopback.FreePort(), name: "postgres"}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	if os.Getuid() == 0 {
		u, err := user.Lookup("postgres")
		if err != nil {
			return nil, err
		}
		uid, _ := strconv.Atoi(u.Uid)
		gid, _ := strconv.Atoi(u.Gid)
		c.as = &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}
		if err := os.Chown(dir, uid, gid); err != nil {
			return nil, err
		}
		for up := filepath.Dir(dir); up != "/" && up != os.TempDir(); up = filepath.Dir(up) {
			_ = os.Chmod(up, 0o711)
		}
	}
	if err := c.call("initdb", "-D", dir, "-U", "chalk", "-E", "UTF8", "--locale=C.UTF-8", "-A", "trust"); err != nil {
		return nil, err
	}
	conf, err := os.OpenFile(filepath.Join(dir, "postgresql.conf"), os.O_APPEND|os.O_WRONLY, 0)
	if err != nil {
		return nil, err
	}
	lines := append([]string{
		fmt.Sprintf("port = %d", c.port), "listen_addresses = '127.0.0.1'", "unix_socket_directories = ''",
	}, settings...)
	_, err = conf.WriteString(strings.Join(lines, "\n") + "\n")
	if err := errors.Join(err, conf.Close()); err != nil {
		return nil, err
	}
	return c, c.start()
}

func (c *database) call(name string, args ...string) error {
	cmd := exec.Command(filepath.Join(c.bin, name), args...) //nolint:noctx // the cluster outlives a section
	cmd.Dir = "/"
	cmd.Env = []string{"PATH=" + c.bin + ":/usr/bin:/bin", "LC_ALL=C.UTF-8", "HOME=/"}
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.as}
	var said bytes.Buffer
	if name != "pg_ctl" || args[0] != "start" { // the server would keep the pipe open
		cmd.Stderr = &said
	}
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%s: %w: %s", name, err, said.String())
	}
	return nil
}

func (c *database) start() error {
	return c.call("pg_ctl", "start", "-D", c.dir, "-l", filepath.Join(c.dir, "log"), "-w", "-t", "60")
}

func (c *database) crash() error {
	return c.call("pg_ctl", "stop", "-D", c.dir, "-m", "immediate", "-w")
}

func (c *database) stop() {
	if c.pool != nil {
		c.pool.Close()
	}
	_ = c.call("pg_ctl", "stop", "-D", c.dir, "-m", "fast", "-w")
}

func (c *database) url() string {
	return fmt.Sprintf("postgres://chalk@127.0.0.1:%d/%s?sslmode=disable", c.port, c.name)
}

// env are the addresses of the database: the servers' role does not own the tables.
func (c *database) env() []string {
	role := strings.Replace(c.url(), "chalk@", "bright_chalk@", 1)
	return []string{"DATABASE_URL=" + role, "BRIGHT_CHALK_OWNER_URL=" + c.url()}
}

// fresh makes an empty database in the cluster, for all that follows.
func (c *database) fresh(ctx context.Context, name string) error {
	conn, err := pgx.Connect(ctx, c.url())
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close(ctx) }()
	if _, err := conn.Exec(ctx, "CREATE DATABASE "+pgx.Identifier{name}.Sanitize()+" TEMPLATE template0"); err != nil {
		return err
	}
	c.name = name
	if c.pool != nil {
		c.pool.Close()
		c.pool = nil
	}
	return nil
}

// ask is one value of the database.
func ask[T any](ctx context.Context, c *database, sql string, args ...any) (out T, err error) {
	if c.pool == nil {
		if c.pool, err = pgxpool.New(ctx, c.url()); err != nil {
			return out, err
		}
	}
	return out, c.pool.QueryRow(ctx, sql, args...).Scan(&out)
}

// server is one process of the application.
type server struct {
	base, debug string
	cmd         *exec.Cmd
	log         *os.File
}

// serve starts a server at a port, 0 for a free one, and waits until it is ready.
func (a *Arena) serve(ctx context.Context, db *database, port int) (*server, error) {
	if port == 0 {
		port = loopback.FreePort()
	}
	s := &server{base: fmt.Sprintf("http://127.0.0.1:%d", port), debug: fmt.Sprintf("127.0.0.1:%d", loopback.FreePort())}
	var err error
	if s.log, err = os.CreateTemp(a.dir, "server-*.log"); err != nil {
		return nil, err
	}
	s.cmd = exec.Command(
		a.binary,
		"serve",
		"--demo",
		"--addr",
		strings.TrimPrefix(s.base, "http://"),
	) //nolint:noctx,gosec // killed
	s.cmd.Env = append(os.Environ(), append(db.env(), "BRIGHT_CHALK_LOG_LEVEL=warn",
		"BRIGHT_CHALK_BEHIND_PROXY=1", "BRIGHT_CHALK_DEBUG_ADDR="+s.debug)...)
	s.cmd.Stderr = s.log
	if err := s.cmd.Start(); err != nil {
		return nil, err
	}
	for until := time.Now().Add(90 * time.Second); time.Now().Before(until); time.Sleep(10 * time.Millisecond) {
		if ready(ctx, s.base) {
			return s, nil
		}
	}
	said, _ := os.ReadFile(s.log.Name())
	s.kill()
	return nil, fmt.Errorf("the server did not become ready: %s", said)
}

func ready(ctx context.Context, base string) bool {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, base+"/readyz", nil)
	if err != nil {
		return false
	}
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		return false
	}
	defer func() { _ = answer.Body.Close() }()
	return answer.StatusCode == http.StatusOK
}

func (s *server) kill() {
	_ = s.cmd.Process.Kill()
	_, _ = s.cmd.Process.Wait()
	_ = s.log.Close()
}

func (s *server) stop() {
	_ = s.cmd.Process.Signal(syscall.SIGTERM)
	_, _ = s.cmd.Process.Wait()
	_ = s.log.Close()
}

func (s *server) said() string {
	data, _ := os.ReadFile(s.log.Name())
	return string(data)
}

// memory is what the process holds, in MB, from /proc.
func (s *server) memory() int {
	data, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	_, rest, _ := strings.Cut(string(data), "VmRSS:")
	kb, _ := strconv.Atoi(strings.Fields(rest + " 0")[0])
	return kb / 1024
}

// person is a client with a session.
type person struct {
	http *http.Client
	base string
	from string // the address of the network that a proxy would say
}

func stranger(base string) person {
	jar, _ := cookiejar.New(nil)
	// Its own connections, and none given up for idleness between calls.
	t := &http.Transport{MaxIdleConnsPerHost: 4, DisableCompression: true}
	return person{&http.Client{Jar: jar, Transport: t, Timeout: 90 * time.Second}, base, "10.9.8.7"}
}

// do sends a call and reads the whole answer; an error means that no answer came.
func (p person) do(ctx context.Context, method, path, media string, body []byte) (int, []byte, error) {
	r, err := http.NewRequestWithContext(ctx, method, p.base+path, bytes.NewReader(body))
	if err != nil {
		return 0, nil, err
	}
	if media != "" {
		r.Header.Set("Content-Type", media)
	}
	r.Header.Set("X-Forwarded-For", p.from)
	answer, err := p.http.Do(r)
	if err != nil {
		return 0, nil, err
	}
	defer func() { _ = answer.Body.Close() }()
	data, err := io.ReadAll(answer.Body)
	return answer.StatusCode, data, err
}

// call sends JSON.
func (p person) call(ctx context.Context, method, path string, body any) (int, []byte, error) {
	data, err := json.Marshal(body)
	if err != nil {
		return 0, nil, err
	}
	if body == nil {
		data = nil
	}
	return p.do(ctx, method, path, "application/json", data)
}

// get reads JSON.
func get[T any](ctx context.Context, p person, path string) (out T, err error) {
	status, data, err := p.do(ctx, http.MethodGet, path, "", nil)
	if err == nil && status != http.StatusOK {
		err = fmt.Errorf("GET %s: %d %s", path, status, data)
	}
	if err == nil {
		err = json.Unmarshal(data, &out)
	}
	return out, err
}

func signedIn(ctx context.Context, base, email, password string) (person, error) {
	p := stranger(base)
	status, data, err := p.call(
		ctx,
		http.MethodPost,
		"/api/session",
		map[string]string{"email": email, "password": password},
	)
	if err == nil && status != http.StatusOK {
		err = fmt.Errorf("sign in: %d %s", status, data)
	}
	return p, err
}

// member signs a member of the demo team in: 0 lead, 1 teacher, 2 assistant.
func member(ctx context.Context, base string, role int) (person, error) {
	return signedIn(ctx, base, demo.SignIns[role].Email, demo.SignIns[role].Password)
}

func cards(ctx context.Context, p person) ([]library.WallCard, error) {
	return get[[]library.WallCard](ctx, p, "/api/cards")
}

// quiet fails where a server's log holds what it should not: a crash, or anything unexpected.
func (a *Arena) quiet(s *server, why string) {
	lines := strings.Split(s.said(), "\n")
	bad := slices.DeleteFunc(lines, func(l string) bool {
		return !strings.Contains(l, "panic") && !strings.Contains(l, `"unexpected"`) && !strings.Contains(l, "DATA RACE")
	})
	for i, l := range bad {
		if i < 3 {
			a.Find("%s: the log says %s", why, l)
		}
	}
}
