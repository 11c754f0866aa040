package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"brightchalk/internal/media"
)

// coreFlags are the flags of every call of the core.
type coreFlags struct {
	accent string
	json   bool
}

func addCoreFlags(c *cobra.Command) *coreFlags {
	var f coreFlags
	names := make([]string, len(phoneme.Accents))
	for i, a := range phoneme.Accents {
		names[i] = string(a)
	}
	c.Flags().StringVar(&f.accent, "accent", names[0], "the accent: "+strings.Join(names, ", "))
	c.Flags().BoolVar(&f.json, "json", false, "one JSON object a line")
	_ = c.RegisterFlagCompletionFunc("accent", cobra.FixedCompletions(names, cobra.ShellCompDirectiveNoFileComp))
	return &f
}

func (f *coreFlags) parse() (phoneme.Accent, error) { return phoneme.ParseAccent(f.accent) }

// queryFlags are the flags of the word games: what is taught, and the target among it.
type queryFlags struct {
	*coreFlags
	taught, target string
	count          int
	seed           uint64
}

func addQueryFlags(c *cobra.Command) *queryFlags {
	f := queryFlags{coreFlags: addCoreFlags(c)}
	c.Flags().StringVar(&f.taught, "taught", "", "the taught PAIRS")
	c.Flags().StringVar(&f.target, "target", "", "the PAIR that it is about")
	c.Flags().IntVar(&f.count, "count", 8, "how many")
	addSeed(c, &f.seed)
	return &f
}

func addSeed(c *cobra.Command, seed *uint64) {
	c.Flags().Uint64Var(seed, "seed", 1, "of chance; the same seed gives the same answer")
}

func (f *queryFlags) query() (words.Query, words.Options, error) {
	accent, err := f.parse()
	o := words.Options{Accent: accent}
	if err != nil {
		return words.Query{}, o, err
	}
	if f.taught == "" {
		return words.Query{}, o, usage("say what is taught: --taught PAIRS")
	}
	set, err := spelling.ParsePairs(accent, f.taught)
	if err != nil {
		return words.Query{}, o, err
	}
	target, err := targetIn(accent, set, f.target)
	return words.Query{Taught: set, Target: target}, o, err
}

// targetIn reads the target, which must be taught; nil where none is asked for.
func targetIn(accent phoneme.Accent, taught spelling.Set, text string) (*spelling.Pair, error) {
	if text == "" {
		return nil, nil
	}
	p, err := spelling.ParsePair(accent, text)
	if err != nil {
		return nil, err
	}
	if !taught[p] {
		return nil, fmt.Errorf("the target %s is not among the taught pairs", p)
	}
	return &p, nil
}

// printer writes one JSON object a line, or rows of a table for people.
type printer struct {
	json *json.Encoder
	rows *tabwriter.Writer
}

func newPrinter(std stdio, asJSON bool) *printer {
	if asJSON {
		e := json.NewEncoder(std.out)
		e.SetEscapeHTML(false)
		return &printer{json: e}
	}
	return &printer{rows: tabwriter.NewWriter(std.out, 0, 4, 2, ' ', 0)}
}

func (p *printer) row(v any, cells ...string) error {
	if p.json != nil {
		return p.json.Encode(v)
	}
	_, err := fmt.Fprintln(p.rows, strings.Join(cells, "\t"))
	return err
}

func (p *printer) close() error {
	if p.rows != nil {
		return p.rows.Flush()
	}
	return nil
}

// rows prints a list of values, one a line, with the cells of each for people.
func rows[T any](std stdio, asJSON bool, list []T, cells func(T) []string) error {
	p := newPrinter(std, asJSON)
	for _, v := range list {
		if err := p.row(v, cells(v)...); err != nil {
			return err
		}
	}
	return p.close()
}

const maxInput = 32 << 20

func readInput(std stdio, name string) ([]byte, error) {
	if name == "-" {
		return readLimited(std.in)
	}
	if _, err := inputSize(name); err != nil {
		return nil, err
	}
	return os.ReadFile(name)
}

func inputSize(name string) (int64, error) {
	info, err := os.Stat(name)
	switch {
	case err != nil:
		return 0, fmt.Errorf("%s cannot be opened", name)
	case info.IsDir():
		return 0, fmt.Errorf("%s is a folder", name)
	case info.Size() > maxInput:
		return 0, fmt.Errorf("%s is larger than %d MB", name, maxInput>>20)
	}
	return info.Size(), nil
}

// readSound decodes a sound file from where it lies.
func readSound(std stdio, name string) (recording.Clip, error) {
	if name == "-" {
		data, err := readLimited(std.in)
		if err != nil {
			return recording.Clip{}, err
		}
		return media.DecodeSound(data)
	}
	size, err := inputSize(name)
	if err != nil {
		return recording.Clip{}, err
	}
	file, err := os.Open(name)
	if err != nil {
		return recording.Clip{}, fmt.Errorf("%s cannot be opened", name)
	}
	defer file.Close()
	return media.DecodeFile(file, size)
}

func readLimited(r io.Reader) ([]byte, error) {
	data, err := io.ReadAll(io.LimitReader(r, maxInput+1))
	if err == nil && len(data) > maxInput {
		err = fmt.Errorf("the input is larger than %d MB", maxInput>>20)
	}
	return data, err
}

func wordSet(text string) map[string]bool {
	out := map[string]bool{}
	for w := range strings.FieldsFuncSeq(text, func(r rune) bool { return r == ',' || r == ' ' }) {
		out[strings.ToLower(w)] = true
	}
	return out
}
