package main

import (
	"context"
	"encoding/json"
	"errors"
	"expvar"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	_ "net/http/pprof"
	"os"
	"os/signal"
	"runtime"
	"runtime/debug"
	"strings"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/KimMachineGun/automemlimit/memlimit"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/spf13/cobra"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/jobs"
	"brightchalk/internal/mail"
	"brightchalk/internal/metrics"
	"brightchalk/internal/people"
	"brightchalk/internal/provider"
	"brightchalk/internal/store"
	"brightchalk/internal/webui"
)

// on the inner address alone, see inspect

func env(name, fallback string) string {
	if v := os.Getenv(name); v != "" {
		return v
	}
	return fallback
}

func logger(std stdio) *slog.Logger {
	level := slog.LevelInfo
	if env("BRIGHT_CHALK_LOG_LEVEL", "info") == "warn" {
		level = slog.LevelWarn
	}
	options := &slog.HandlerOptions{Level: level}
	if env("BRIGHT_CHALK_LOG", "json") == "text" {
		return slog.New(slog.NewTextHandler(std.err, options))
	}
	return slog.New(slog.NewJSONHandler(std.err, options))
}

// How a server stops: it says that it is not ready and answers on, each connection for the last time, so that a
// balancer goes elsewhere; then running requests may take their time.
const (
	drain = time.Second
	grace = 20 * time.Second
)

func serveCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "serve", Short: "Bring the database to the newest shape, then serve",
		Args: takes(0, 0, "it takes no arguments; say --addr HOST:PORT"),
	}
	addr := c.Flags().String("addr", env("BRIGHT_CHALK_ADDR", "127.0.0.1:8484"), "where to listen, HOST:PORT")
	withDemo := c.Flags().Bool("demo", false, "with the made-up team; only on this machine")
	c.RunE = func(*cobra.Command, []string) error { return serve(std, *addr, *withDemo) }
	return c
}

func serve(std stdio, addr string, withDemo bool) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	log := logger(std)
	bound(log)
	listener, err := net.Listen("tcp", addr)
	if err != nil {
		if errors.Is(err, syscall.EADDRINUSE) {
			return fmt.Errorf("the address %s is in use; stop what runs there or choose another with --addr", addr)
		}
		return err
	}
	defer func() { _ = listener.Close() }()
	host, _, _ := net.SplitHostPort(listener.Addr().String())
	loopback := net.ParseIP(host).IsLoopback()
	if withDemo && !loopback {
		return fmt.Errorf("the demo only listens on this machine, not on %s", addr)
	}
	pool, err := open(ctx)
	if err != nil {
		return err
	}
	defer pool.Close()
	post, err := parsePost()
	if err != nil {
		return err
	}
	vouching, err := openProvider()
	if err != nil {
		return err
	}
	listens, hangUp, err := direct(ctx, pool)
	if err != nil {
		return err
	}
	defer hangUp()
	follower, leave, err := standby(ctx)
	if err != nil {
		return err
	}
	defer leave()
	queue, err := jobs.NewQueue(listens, log, true)
	if err != nil {
		return err
	}
	a := app.New(pool, app.Options{Stage: webui.Stage, Post: post, Queue: queue, Replica: follower})
	hub := store.NewHub()
	options := httpapi.Options{
		Log:          log,
		Hub:          hub,
		Provider:     vouching,
		Pages:        webui.Pages(),
		PlainCookies: loopback && env("BRIGHT_CHALK_SECURE_COOKIES", "") == "",
		BehindProxy:  env("BRIGHT_CHALK_BEHIND_PROXY", "") != "",
	}
	counted, err := count(ctx, pool, hub, log)
	if err != nil {
		return err
	}
	options.Observe = counted
	if withDemo {
		signIns, err := demo.Load(ctx, a)
		if err != nil {
			return fmt.Errorf("load the demo team: %w", err)
		}
		if err := demo.Live(ctx, a); err != nil {
			return fmt.Errorf("let time pass in the demo team: %w", err)
		}
		options.Demo = signIns
	}
	if err := inspect(log); err != nil {
		return err
	}
	listening, deaf := context.WithCancel(context.Background()) // until the last stream has ended
	defer deaf()
	go hub.Run(listening, listens, log)
	go func() { // the first finder should not wait
		lexicon.For(phoneme.SouthernBritish, convention.Conventions{}.Units)
		debug.FreeOSMemory()
	}()
	if err := queue.Start(listening, a.Jobs, a.Mails); err != nil {
		return fmt.Errorf("start the queue: %w", err)
	}
	defer func() {
		ending, cancel := context.WithTimeout(context.Background(), grace)
		defer cancel()
		_ = queue.Stop(ending)
	}()
	var leaving atomic.Bool
	options.Leaving = leaving.Load
	server := &http.Server{
		Handler:           httpapi.New(a, options),
		ReadHeaderTimeout: 10 * time.Second,
		ReadTimeout:       time.Minute,
		WriteTimeout:      time.Minute,
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    64 << 10,
		ErrorLog:          slog.NewLogLogger(log.Handler(), slog.LevelWarn),
	}
	server.RegisterOnShutdown(hub.Close)
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	log.Info("serving", "address", "http://"+listener.Addr().String())
	if withDemo {
		announce(std, listener.Addr().String(), options.Demo)
	}
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	log.Info("stopping; running requests may end")
	leaving.Store(true)
	select {
	case <-time.After(drain):
	case <-failed:
	}
	shutdown, cancel := context.WithTimeout(context.Background(), grace)
	defer cancel()
	return server.Shutdown(shutdown)
}

// parsePost is where mail goes: BRIGHT_CHALK_MAIL, from BRIGHT_CHALK_MAIL_FROM, with links to BRIGHT_CHALK_ADDRESS.
func parsePost() (people.Post, error) {
	sender, err := mail.Open(env("BRIGHT_CHALK_MAIL", ""), env("BRIGHT_CHALK_MAIL_FROM", ""))
	if err != nil {
		return people.Post{}, fmt.Errorf("BRIGHT_CHALK_MAIL: %w", err)
	}
	return people.Post{Sender: sender, Address: env("BRIGHT_CHALK_ADDRESS", "")}, nil
}

// openProvider is where people may sign in beside their passwords: the issuer BRIGHT_CHALK_SIGN_IN, which knows this
// application as BRIGHT_CHALK_SIGN_IN_CLIENT with BRIGHT_CHALK_SIGN_IN_SECRET, under BRIGHT_CHALK_ADDRESS.
func openProvider() (*provider.Provider, error) {
	p, err := provider.Open(provider.Settings{
		Name: env("BRIGHT_CHALK_SIGN_IN_NAME", ""), Issuer: env("BRIGHT_CHALK_SIGN_IN", ""),
		Client: env("BRIGHT_CHALK_SIGN_IN_CLIENT", ""), Secret: env("BRIGHT_CHALK_SIGN_IN_SECRET", ""),
		Address: strings.TrimSuffix(env("BRIGHT_CHALK_ADDRESS", ""), "/"),
	})
	if err != nil {
		return nil, fmt.Errorf("BRIGHT_CHALK_SIGN_IN: %w", err)
	}
	return p, nil
}

// count opens the counters for Prometheus on a private address of their own, BRIGHT_CHALK_METRICS_ADDR, and returns who
// is to be told of requests; nil where no address is given.
func count(
	ctx context.Context, pool *pgxpool.Pool, hub *store.Hub, log *slog.Logger,
) (func(string, int, time.Duration), error) {
	addr := env("BRIGHT_CHALK_METRICS_ADDR", "")
	if addr == "" {
		return nil, nil
	}
	host, _, _ := net.SplitHostPort(addr)
	if ip := net.ParseIP(host); !ip.IsLoopback() && !ip.IsPrivate() {
		return nil, fmt.Errorf(
			"BRIGHT_CHALK_METRICS_ADDR is %s; it may only be a private address, such as 127.0.0.1:9484",
			addr,
		)
	}
	listener, err := net.Listen("tcp", addr)
	if err != nil {
		return nil, err
	}
	m := metrics.New(version(), pool, hub.Open)
	if v, err := store.SchemaVersion(ctx, pool); err == nil {
		m.Schema(v)
	}
	mux := http.NewServeMux()
	mux.Handle("GET /metrics", m.Handler())
	server := &http.Server{
		Handler: mux, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 10 * time.Second, WriteTimeout: 30 * time.Second,
	}
	go func() { log.Warn("metrics are closed", "error", server.Serve(listener)) }()
	return m.Observe, nil
}

// inspect opens the counters and profiles of the process to this machine, where BRIGHT_CHALK_DEBUG_ADDR says so.
func inspect(log *slog.Logger) error {
	addr := env("BRIGHT_CHALK_DEBUG_ADDR", "")
	if addr == "" {
		return nil
	}
	host, _, _ := net.SplitHostPort(addr)
	if !net.ParseIP(host).IsLoopback() {
		return fmt.Errorf("BRIGHT_CHALK_DEBUG_ADDR is %s; it may only be on this machine, such as 127.0.0.1:6060", addr)
	}
	listener, err := net.Listen("tcp", addr)
	if err != nil {
		return err
	}
	expvar.Publish("goroutines", expvar.Func(func() any { return runtime.NumGoroutine() }))
	server := &http.Server{Handler: http.DefaultServeMux, ReadHeaderTimeout: 10 * time.Second}
	go func() { log.Warn("counters are closed", "error", server.Serve(listener)) }()
	return nil
}

// memoryShare is how much of the machine's or the container's memory the process may grow to before it collects harder.
const memoryShare = 0.5

// bound sets the limit of the process's memory by the machine, where GOMEMLIMIT does not.
func bound(log *slog.Logger) {
	_, err := memlimit.Set(
		memlimit.WithRatio(memoryShare),
		memlimit.WithProvider(memlimit.ApplyFallback(memlimit.FromCgroup, memlimit.FromSystem)),
	)
	if err != nil {
		log.Warn("the memory of this machine is not known, so there is no bound", "error", err)
	}
}

func announce(std stdio, address string, list []people.DemoSignIn) {
	fmt.Fprintf(std.out, "\n  Bright Chalk is at http://%s\n\n  Sign in to the demo team:\n", address)
	for _, d := range list {
		fmt.Fprintf(std.out, "    %-10s %-28s %s\n", d.Role, d.Email, d.Password)
	}
	fmt.Fprintln(std.out, "\n  Ctrl-C stops it.")
}

func openapiCommand(std stdio) *cobra.Command {
	return &cobra.Command{
		Use: "openapi [fields|conventions]", Short: "The description of the HTTP calls, of a card's fields, of conventions",
		Args: takes(0, 1, "it takes one argument"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) > 0 {
				lists := map[string]any{"fields": card.Fields, "conventions": convention.Settings}
				list, ok := lists[args[0]]
				if !ok {
					return usage("%q is not described; leave it out, or write fields or conventions", args[0])
				}
				out := json.NewEncoder(std.out)
				out.SetIndent("", "  ")
				return out.Encode(list)
			}
			doc, err := httpapi.OpenAPI()
			if err != nil {
				return err
			}
			_, err = std.out.Write(append(doc, '\n'))
			return err
		},
	}
}

// freePortCommand is for the start script: PostgreSQL cannot choose a port itself.
func freePortCommand(std stdio) *cobra.Command {
	return &cobra.Command{
		Use: "free-port", Hidden: true, Args: takes(0, 0, "it takes no arguments"),
		RunE: func(*cobra.Command, []string) error {
			l, err := net.Listen("tcp", "127.0.0.1:0")
			if err != nil {
				return err
			}
			defer func() { _ = l.Close() }()
			address, _ := l.Addr().(*net.TCPAddr)
			_, err = fmt.Fprintln(std.out, address.Port)
			return err
		},
	}
}
