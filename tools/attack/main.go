// Command attack runs the attacks on a server and a database of its own and prints what they found and measured.
//
//	go run ./tools/attack [-binary bin/brightchalk] [-seed N] [-short] [-soak 1h] [SECTION ...]
//
// It ends with 1 where anything was found.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"os"
	"os/signal"

	"brightchalk/test/attack"
)

func main() { os.Exit(run()) }

func run() int {
	binary := flag.String("binary", "bin/brightchalk", "a built brightchalk")
	seed := flag.Uint64("seed", 1, "of chance")
	short := flag.Bool("short", false, "as in every run of the tests")
	size := attack.Full
	flag.DurationVar(&size.Soak, "soak", size.Soak, "how long the section soak lasts")
	flag.IntVar(&size.Kills, "kills", size.Kills, "of the server")
	flag.IntVar(&size.Crashes, "crashes", size.Crashes, "of the database")
	flag.Usage = func() {
		fmt.Fprintln(flag.CommandLine.Output(), "attack [flags] [SECTION ...]")
		flag.PrintDefaults()
		for _, s := range attack.Sections {
			fmt.Fprintf(flag.CommandLine.Output(), "  %-8s %s\n", s.Name, s.About)
		}
	}
	flag.Parse()
	if *short {
		size = attack.Short
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	found, err := attack.Run(ctx, os.Stdout, *binary, size, *seed, flag.Args()...)
	if err != nil {
		log.Println(err)
	}
	fmt.Printf("%d found\n", len(found))
	if err != nil || len(found) > 0 {
		return 1
	}
	return 0
}
