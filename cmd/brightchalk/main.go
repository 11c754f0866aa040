// Command brightchalk serves the application and exposes its core to scripts.
package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"runtime"
	"runtime/debug"

	"github.com/spf13/cobra"
)

// Exit statuses of the command-line contract.
const (
	exitWrong = 1
	exitUsage = 2
)

// usageError is a call that was not made as the help says.
type usageError struct{ error }

func usage(format string, args ...any) error { return usageError{fmt.Errorf(format, args...)} }

type stdio struct {
	in       io.Reader
	out, err io.Writer
}

const about = `Bright Chalk keeps a phonics team's library and assembles its introductions.

"serve" and "team" need DATABASE_URL, the address of a PostgreSQL database. All other calls are the core for scripts:
they need no database and no server, and print a table, or with --json one object a line.

PAIRS are parted by commas: ow=aʊ, th=θ, a-e=eɪ, qu=kw; a bare grapheme means its most common sound.
Exit status: 0 done, 1 the input is wrong, 2 the call is not understood.`

func main() { os.Exit(run(stdio{os.Stdin, os.Stdout, os.Stderr}, os.Args[1:])) }

func run(std stdio, args []string) int {
	root := rootCommand(std)
	root.SetArgs(args)
	called, err := root.ExecuteC()
	if err == nil {
		return 0
	}
	fmt.Fprintf(std.err, "%s: %s\n", called.CommandPath(), err)
	var wrongUse usageError
	if errors.As(err, &wrongUse) {
		return exitUsage
	}
	return exitWrong
}

func rootCommand(std stdio) *cobra.Command {
	root := &cobra.Command{
		Use: "brightchalk", Short: "A phonics team's library and its introductions", Long: about,
		SilenceErrors: true, SilenceUsage: true, Version: version(),
		Args: func(_ *cobra.Command, args []string) error {
			if len(args) > 0 {
				return usage("%q is no command; see brightchalk help", args[0])
			}
			return usage("say which command; see brightchalk help")
		},
		RunE: func(*cobra.Command, []string) error { return nil },
	}
	root.SetIn(std.in)
	root.SetOut(std.out)
	root.SetErr(std.err)
	root.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return usageError{err} })
	root.SetVersionTemplate("{{.Version}}\n")
	root.AddGroup(&cobra.Group{ID: "serve", Title: "Serving:"}, &cobra.Group{ID: "core", Title: "The core for scripts:"})
	for _, c := range []*cobra.Command{
		serveCommand(std), teamCommand(std), doctorCommand(std), prepareCommand(std), backupCommand(std), restoreCommand(std),
		openapiCommand(std), versionCommand(std),
	} {
		c.GroupID = "serve"
		root.AddCommand(c)
	}
	for _, make := range []func(stdio) *cobra.Command{
		soundsCommand, segmentCommand, wordsCommand, checkTextCommand, sortCommand, nonsenseCommand, playCommand,
		firstOrLastCommand, contrastCommand, sentencesCommand, chopCommand, spellingsCommand, orderCommand,
		introduceCommand, lessonCommand, printCommand, stepsCommand, mouthCommand, memoryCommand, timetableCommand,
		recordingCommand, bundleCommand,
	} {
		c := make(std)
		c.GroupID = "core"
		root.AddCommand(c)
	}
	root.AddCommand(freePortCommand(std))
	return root
}

// takes bounds the arguments of a call; says tells what is missing.
func takes(least, most int, says string) cobra.PositionalArgs {
	return func(_ *cobra.Command, args []string) error {
		if len(args) < least || most >= 0 && len(args) > most {
			return usage("%s", says)
		}
		return nil
	}
}

const anyNumber = -1

// state of the sources, set by the linker in ./chalk build.
var state string

// version tells from which state of the sources the program was built, and by which Go.
func version() string {
	info, ok := debug.ReadBuildInfo()
	if state == "" && ok {
		state = info.Main.Version
	}
	return state + " " + runtime.Version()
}

func versionCommand(std stdio) *cobra.Command {
	return &cobra.Command{
		Use: "version", Short: "From which state of the sources this program was built",
		Args: takes(0, 0, "it takes no arguments"),
		RunE: func(*cobra.Command, []string) error {
			_, err := fmt.Fprintln(std.out, version())
			return err
		},
	}
}
