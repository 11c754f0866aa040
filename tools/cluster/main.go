// Command cluster runs Bright Chalk as many servers on this machine, until Ctrl-C: see test/cluster.
//
//	go run ./tools/cluster [-addr 127.0.0.1:8484] [-binary bin/brightchalk]
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"

	"brightchalk/demo"
	"brightchalk/test/cluster"
)

func main() {
	log.SetFlags(0)
	addr := flag.String("addr", "127.0.0.1:8484", "where a browser goes, HOST:PORT")
	binary := flag.String("binary", "bin/brightchalk", "a built brightchalk")
	flag.Parse()
	if err := run(*addr, *binary); err != nil {
		log.Fatal(err)
	}
}

func run(addr, binary string) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	dir, err := os.MkdirTemp("", "bright-chalk-cluster-")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	c, err := cluster.Start(ctx, filepath.Join(dir, "c"), addr, binary, os.Stderr)
	if err != nil {
		return err
	}
	defer c.Stop()
	fmt.Printf("\n  Bright Chalk is at http://%s\n\n", addr)
	fmt.Printf("  three servers: %v\n", c.Servers)
	for _, d := range c.Databases {
		fmt.Printf("  database %s: port %d, http://127.0.0.1:%d/cluster says who leads\n", d.Name, d.Port, d.Rest)
	}
	fmt.Printf("  the one that leads: port %d, the other one: %d, pooled: %d\n", c.Primary, c.Standby, c.Pooler)
	fmt.Printf("  configurations and logs: %s\n\n  Sign in to the demo team:\n", c.Dir)
	for _, d := range demo.SignIns {
		fmt.Printf("    %-10s %-28s %s\n", d.Role, d.Email, d.Password)
	}
	fmt.Println("\n  Ctrl-C stops it.")
	<-ctx.Done()
	return nil
}
