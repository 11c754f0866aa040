// Command brightchalk serves the application and exposes its core to scripts.
package main

import (
	"errors"
	"fmt"
	"io"
	"os"
)

const usage = `Bright Chalk

Serving (needs DATABASE_URL):
  brightchalk serve [--addr HOST:PORT] [--demo]     migrate, then serve
  brightchalk team create --name N --email E --lead NAME [--accent A]   the first lead's password is read from standard input
  brightchalk openapi                                the description of the JSON calls

The core for scripts (no database):
  brightchalk sounds     [--accent A] [--json]
  brightchalk segment    [--accent A] [--json] WORD...        or words on standard input
  brightchalk words      --taught PAIRS | --order FILE --upto PAIR [--target PAIR] [--position P] [--frame CVC] [--pictures] [--sounds N] [--syllables N] [--familiarity 0-5] [--no-homophones] [--limit N] [--json]
  brightchalk check-text --taught PAIRS [--exceptions WORDS] [--json] FILE
  brightchalk sort       --sounds m,s [--per 4] [--position initial] [--seed S] [--json]
  brightchalk nonsense   --taught PAIRS [--target PAIR] [--frame CVC] [--count N] [--seed S] [--json]
  brightchalk play       chain|slips|compounds|rings --taught PAIRS [--target PAIR] [--start WORD] [--count N] [--seed S] [--json]
  brightchalk first-or-last --sound m [--seed S] [--json]
  brightchalk contrast   --taught PAIRS --pairs th=θ,th=ð [--count N] [--json]
  brightchalk sentences  --taught PAIRS [--target PAIR] [--exceptions WORDS] [--count N] [--seed S] [--json]
  brightchalk chop       [--json] SENTENCE                    pieces to be put in order
  brightchalk spellings  [--accent A] [--json] [GRAPHEME or SOUND]
  brightchalk order check FILE.csv [--json]
  brightchalk introduce  --bundle FILE.zip --sound PAIR [--minutes 20] [--seed S] [--json]
  brightchalk recording  --sound m [--accent A] [--json] FILE.wav...

PAIRS are parted by commas: ow=aʊ, th=θ, a-e=eɪ, qu=kw; a bare grapheme means its most common sound.
Accents: southern-british (default), northern-english (cup as put),
northern-english-strut (a team that keeps the two apart), general-american.
`

// Exit statuses of the command-line contract.
const (
	exitWrong = 1
	exitUsage = 2
)

type usageError struct{ error }

type stdio struct {
	in       io.Reader
	out, err io.Writer
}

var commands = map[string]func(std stdio, args []string) error{
	"serve":         serve,
	"team":          team,
	"openapi":       openapi,
	"free-port":     freePort,
	"sounds":        sounds,
	"segment":       segment,
	"words":         findWords,
	"check-text":    checkText,
	"sort":          sortGame,
	"recording":     judgeRecordings,
	"nonsense":      makeUp,
	"order":         checkOrder,
	"introduce":     introduce,
	"play":          play,
	"first-or-last": firstOrLast,
	"contrast":      contrast,
	"sentences":     sentences,
	"chop":          chop,
	"spellings":     spellings,
}

func main() { os.Exit(run(stdio{os.Stdin, os.Stdout, os.Stderr}, os.Args[1:])) }

func run(std stdio, args []string) int {
	if len(args) == 0 || args[0] == "help" || args[0] == "--help" || args[0] == "-h" {
		fmt.Fprint(std.out, usage)
		if len(args) == 0 {
			return exitUsage
		}
		return 0
	}
	command, ok := commands[args[0]]
	if !ok {
		fmt.Fprintf(std.err, "brightchalk: %q is no command; see brightchalk help\n", args[0])
		return exitUsage
	}
	err := command(std, args[1:])
	var wrongUse usageError
	switch {
	case err == nil:
		return 0
	case errors.As(err, &wrongUse):
		fmt.Fprintf(std.err, "brightchalk %s: %s\n", args[0], err)
		return exitUsage
	}
	fmt.Fprintf(std.err, "brightchalk %s: %s\n", args[0], err)
	return exitWrong
}
