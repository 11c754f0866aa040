package main

import (
	"brightchalk/internal/app"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"encoding/csv"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"strings"
	"time"
)

// readOrder reads a CSV with the columns step, grapheme, sound, exception_words. The error names the line.
func readOrder(accent phoneme.Accent, name string) ([]order.Step, error) {
	file, err := os.Open(name)
	if err != nil {
		return nil, fmt.Errorf("%s cannot be opened", name)
	}
	defer func() { _ = file.Close() }()
	rows, err := csv.NewReader(file).ReadAll()
	if err != nil || len(rows) < 2 {
		return nil, fmt.Errorf(
			"%s is no order of teaching: it needs the columns step,grapheme,sound,exception_words and a row for each step",
			name,
		)
	}
	column := func(name string) int { return slices.Index(rows[0], name) }
	step, g, s := column("step"), column("grapheme"), column("sound")
	if step < 0 || g < 0 || s < 0 {
		return nil, fmt.Errorf("%s lacks a column: step, grapheme and sound are needed", name)
	}
	var out []order.Step
	for i, r := range rows[1:] {
		text := r[g]
		if r[s] != "" {
			text += "=" + r[s]
		}
		p, err := spelling.ParsePair(accent, text)
		if err != nil {
			return nil, fmt.Errorf("%s line %d: %w", name, i+2, err)
		}
		n, err := strconv.Atoi(strings.TrimSpace(r[step]))
		if err != nil {
			return nil, fmt.Errorf("%s line %d: the step %q is no number", name, i+2, r[step])
		}
		out = append(out, order.Step{Number: n, Pair: p})
	}
	return out, nil
}

func checkOrder(std stdio, args []string) error {
	if len(args) == 0 || args[0] != "check" {
		return usageError{errors.New("say: brightchalk order check FILE.csv")}
	}
	f := newCoreFlags("order check")
	accent, err := f.read(args[1:])
	if err != nil {
		return err
	}
	if f.NArg() != 1 {
		return usageError{errors.New("name one file")}
	}
	steps, err := readOrder(accent, f.Arg(0))
	if err != nil {
		return err
	}
	r := order.Check(steps, words.Options{Accent: accent})
	p := newPrinter(std, *f.json)
	if *f.json {
		return p.row(r)
	}
	for _, x := range r.Findings {
		if err := p.row(nil, x.Code, x.Pair, x.Message); err != nil {
			return err
		}
	}
	for _, u := range r.Unlocked {
		if err := p.row(
			nil,
			fmt.Sprintf("step %d", u.Step),
			u.Pair,
			fmt.Sprintf("%d words: %s", u.Words, strings.Join(u.Best, " ")),
		); err != nil {
			return err
		}
	}
	return p.close()
}

func makeUp(std stdio, args []string) error {
	f := newCoreFlags("nonsense")
	taught, target, frame := f.String("taught", "", ""), f.String("target", "", ""), f.String("frame", "CVC", "")
	count, seed := f.Int("count", 12, ""), f.Uint64("seed", 1, "")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	if *taught == "" {
		return usageError{errors.New("say what is taught: --taught PAIRS")}
	}
	q := words.MadeUpQuery{Frame: *frame, Count: max(0, min(*count, 5000))}
	if q.Taught, err = spelling.ParsePairs(accent, *taught); err != nil {
		return err
	}
	if *target != "" {
		p, err := spelling.ParsePair(accent, *target)
		if err != nil {
			return err
		}
		q.Target = &p
	}
	made, err := words.MakeUp(q, words.Options{Accent: accent}, rand.New(rand.NewPCG(*seed, 29)))
	if err != nil {
		return err
	}
	p := newPrinter(std, *f.json)
	for _, m := range made {
		if err := p.row(m, m.Word, m.Frame); err != nil {
			return err
		}
	}
	if len(made) < q.Count {
		fmt.Fprintf(std.err, "only %d made-up words fit; more taught pairs or another frame would give more\n", len(made))
	}
	return p.close()
}

func introduce(std stdio, args []string) error {
	f := newCoreFlags("introduce")
	bundle, sound := f.String("bundle", "", ""), f.String("sound", "", "")
	minutes, seed := f.Int("minutes", 20, ""), f.Uint64("seed", 1, "")
	if _, err := f.read(args); err != nil {
		return err
	}
	if *bundle == "" || *sound == "" {
		return usageError{errors.New("say: brightchalk introduce --bundle FILE.zip --sound PAIR")}
	}
	data, err := readInput(std, *bundle)
	if err != nil {
		return err
	}
	b, err := app.ReadBundle(data)
	if err != nil {
		return fmt.Errorf("%s: %w", *bundle, err)
	}
	pair, err := spelling.ParsePair(b.Conventions.Accent, *sound)
	if err != nil {
		return err
	}
	in, err := b.Input(pair)
	if err != nil {
		return err
	}
	in.Minutes, in.Seed = *minutes, *seed
	in.Now = time.Unix(0, 0).UTC() // the bundle has no today: the same call gives the same answer
	for _, s := range in.Log {
		if s.Last.After(in.Now) {
			in.Now = s.Last.AddDate(0, 0, 1)
		}
	}
	made, err := lesson.Assemble(in)
	if err != nil {
		return err
	}
	p := newPrinter(std, *f.json)
	if *f.json {
		return p.row(made)
	}
	for _, s := range made.Steps {
		if err := p.row(
			nil,
			fmt.Sprintf("%d:%02d", s.Seconds/60, s.Seconds%60),
			s.Name,
			strings.Join(s.Adult, " "),
		); err != nil {
			return err
		}
	}
	return p.close()
}
