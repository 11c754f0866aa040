package main

import (
	"bufio"
	"encoding/csv"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

// orderRow is a step of an order with the exception words that come with it.
type orderRow struct {
	order.Step
	Exceptions []string
}

// readOrder is readRows without the exception words.
func readOrder(accent phoneme.Accent, name string) ([]order.Step, error) {
	rows, err := readRows(accent, name)
	var out []order.Step
	for _, r := range rows {
		out = append(out, r.Step)
	}
	return out, err
}

// readRows reads a CSV with the columns step, grapheme, sound, exception_words. The error names the line.
func readRows(accent phoneme.Accent, name string) ([]orderRow, error) {
	file, err := os.Open(name)
	if err != nil {
		return nil, fmt.Errorf("%s cannot be opened", name)
	}
	defer func() { _ = file.Close() }()
	return orderRows(accent, name, file)
}

// withoutMark skips the byte-order mark that spreadsheets and our own tables begin with.
func withoutMark(file io.Reader) io.Reader {
	in := bufio.NewReader(file)
	if mark, err := in.Peek(3); err == nil && string(mark) == "\ufeff" {
		_, _ = in.Discard(len(mark))
	}
	return in
}

func orderRows(accent phoneme.Accent, name string, file io.Reader) ([]orderRow, error) {
	rows, err := csv.NewReader(withoutMark(file)).ReadAll()
	if err != nil || len(rows) < 2 {
		return nil, fmt.Errorf(
			"%s is no order of teaching: it needs the columns step,grapheme,sound,exception_words and a row for each step",
			name,
		)
	}
	column := func(name string) int { return slices.Index(rows[0], name) }
	step, g, s, words := column("step"), column("grapheme"), column("sound"), column("exception_words")
	if step < 0 || g < 0 || s < 0 {
		return nil, fmt.Errorf("%s lacks a column: step, grapheme and sound are needed", name)
	}
	var out []orderRow
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
		row := orderRow{Step: order.Step{Number: n, Pair: p}}
		if words >= 0 {
			row.Exceptions = strings.FieldsFunc(r[words], func(r rune) bool { return strings.ContainsRune(" ,;", r) })
		}
		out = append(out, row)
	}
	return out, nil
}

func orderCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "order", Short: "An order of teaching", Args: takes(0, 0, "say: brightchalk order check FILE.csv"),
		RunE: func(*cobra.Command, []string) error { return usage("say: brightchalk order check FILE.csv") },
	}
	check := &cobra.Command{
		Use: "check FILE.csv", Short: "What an order unlocks, what clashes in it and what is missing",
		Args: takes(1, 1, "name one file"),
	}
	f := addCoreFlags(check)
	check.RunE = func(_ *cobra.Command, args []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		steps, err := readOrder(accent, args[0])
		if err != nil {
			return err
		}
		r := order.Check(steps, words.Options{Accent: accent})
		p := newPrinter(std, f.json)
		if f.json {
			return p.row(r)
		}
		for _, x := range r.Findings {
			if err := p.row(nil, x.Code, x.Pair, x.Message); err != nil {
				return err
			}
		}
		for _, u := range r.Unlocked {
			best := fmt.Sprintf("%d words: %s", u.Words, strings.Join(u.Best, " "))
			if err := p.row(nil, fmt.Sprintf("step %d", u.Step), u.Pair, best); err != nil {
				return err
			}
		}
		return p.close()
	}
	c.AddCommand(check, improveCommand(std))
	return c
}

// improved is the answer of order improve.
type improved struct {
	Order  []string      `json:"order"`
	Before order.Outcome `json:"before"`
	After  order.Outcome `json:"after"`
	Moves  []order.Move  `json:"moves"`
}

func improveCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "improve FILE.csv", Short: "A better order of the same pairs, with the reason of each move",
		Args: takes(1, 1, "name one file"),
	}
	keep := c.Flags().String("keep", "", "PAIRS that stay at their places")
	seconds := c.Flags().Float64("seconds", 10, "how long it looks, 0.1 to 600")
	var seed uint64
	addSeed(c, &seed)
	f := addCoreFlags(c)
	c.RunE = func(_ *cobra.Command, args []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if !(*seconds >= 0.1 && *seconds <= 600) {
			return usage("it looks for 0.1 to 600 seconds, not for %g", *seconds)
		}
		steps, err := readOrder(accent, args[0])
		if err != nil {
			return err
		}
		kept, err := spelling.ParsePairs(accent, *keep)
		if *keep == "" {
			kept, err = spelling.Set{}, nil
		}
		if err != nil {
			return err
		}
		for p := range kept {
			if !slices.ContainsFunc(steps, func(s order.Step) bool { return s.Pair == p }) {
				return fmt.Errorf("%s is not in %s", p, args[0])
			}
		}
		begin := time.Now()
		got, err := order.Improve(order.Ask{
			Steps: steps, Keep: kept, Weights: order.UsualWeights(), Seed: seed,
			Left: func() float64 { return 1 - time.Since(begin).Seconds() / *seconds },
		}, words.Options{Accent: accent})
		if err != nil {
			return err
		}
		return tellImproved(std, f.json, got)
	}
	return c
}

func tellImproved(std stdio, asJSON bool, got order.Improvement) error {
	p := newPrinter(std, asJSON)
	if asJSON {
		out := improved{[]string{}, got.Before, got.After, got.Moves}
		for _, s := range got.Order {
			out.Order = append(out.Order, s.Pair.String())
		}
		return p.row(out)
	}
	for _, s := range got.Order {
		if err := p.row(nil, fmt.Sprintf("step %d", s.Number), s.Pair.String(), ""); err != nil {
			return err
		}
	}
	for _, m := range got.Moves {
		if err := p.row(nil, m.Pair, fmt.Sprintf("%d → %d", m.From, m.To), m.Because); err != nil {
			return err
		}
	}
	sum := fmt.Sprintf(
		"%d, was %d; clashes %d, was %d",
		got.After.Sum(),
		got.Before.Sum(),
		got.After.Clashes,
		got.Before.Clashes,
	)
	if err := p.row(nil, "readable words, summed over the steps", sum, ""); err != nil {
		return err
	}
	return p.close()
}

// maxMadeUp bounds how many words are made up at once.
const maxMadeUp = 5000

func nonsenseCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "nonsense", Short: "Made-up words that can be read with what is taught",
		Args: takes(0, 0, "it takes no arguments; say what is taught: --taught PAIRS"),
	}
	f := addCoreFlags(c)
	taught := c.Flags().String("taught", "", "the taught PAIRS")
	target := c.Flags().String("target", "", "the PAIR that must be in the word")
	frame := c.Flags().String("frame", "CVC", "CVC, CCVC, ...")
	count := c.Flags().Int("count", 12, "how many")
	var seed uint64
	addSeed(c, &seed)
	c.RunE = func(*cobra.Command, []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if *taught == "" {
			return usage("say what is taught: --taught PAIRS")
		}
		q := words.MadeUpQuery{Frame: *frame, Count: max(0, min(*count, maxMadeUp))}
		if q.Taught, err = spelling.ParsePairs(accent, *taught); err != nil {
			return err
		}
		if q.Target, err = targetIn(accent, q.Taught, *target); err != nil {
			return err
		}
		made, err := words.MakeUp(q, words.Options{Accent: accent}, rand.New(rand.NewPCG(seed, 29)))
		if err != nil {
			return err
		}
		err = rows(std, f.json, made, func(m words.MadeUp) []string { return []string{m.Word, m.Frame} })
		if len(made) < q.Count {
			fmt.Fprintf(
				std.err, "only %d made-up words fit; more taught pairs or another frame would give more\n", len(made),
			)
		}
		return err
	}
	return c
}

func introduceCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "introduce", Short: "Assemble the introduction of a pair from a bundle",
		Args: takes(0, 0, "say: brightchalk introduce --bundle FILE.zip --sound PAIR"),
	}
	f := addCoreFlags(c)
	bundle := c.Flags().String("bundle", "", "a library as a ZIP file")
	sound := c.Flags().String("sound", "", "the new PAIR")
	minutes := c.Flags().Int("minutes", 20, "10 to 40")
	var seed uint64
	addSeed(c, &seed)
	c.RunE = func(*cobra.Command, []string) error {
		if *bundle == "" || *sound == "" {
			return usage("say: brightchalk introduce --bundle FILE.zip --sound PAIR")
		}
		in, err := bundleInput(std, *bundle, *sound)
		if err != nil {
			return err
		}
		in.Minutes, in.Seed = *minutes, seed
		made, err := assembly.Assemble(in)
		if err != nil {
			return err
		}
		if f.json {
			return newPrinter(std, true).row(makeIntroduction(made))
		}
		return rows(std, false, made.Steps, func(s lesson.Step) []string {
			return []string{prose.Clock(s.Seconds), s.Name, strings.Join(s.Adult, " ")}
		})
	}
	return c
}

func bundleInput(std stdio, name, sound string) (assembly.Input, error) {
	data, err := readInput(std, name)
	if err != nil {
		return assembly.Input{}, err
	}
	b, err := bundle.Read(data)
	if err != nil {
		return assembly.Input{}, fmt.Errorf("%s: %w", name, err)
	}
	pair, err := spelling.ParsePair(b.Conventions.Accent, sound)
	if err != nil {
		return assembly.Input{}, err
	}
	in, err := b.Input(pair)
	in.Now = time.Unix(0, 0).UTC() // the bundle has no today: the same call gives the same answer
	for _, k := range in.Class.Met {
		if k.Seen.Last.After(in.Now) {
			in.Now = k.Seen.Last.AddDate(0, 0, 1)
		}
	}
	return in, err
}

// introduction is a lesson as the call introduce has always printed it, with all that lessons have now beside it.
type introduction struct {
	CardID  string        `json:"card_id"`
	Version int           `json:"card_version"`
	Agreed  bool          `json:"agreed"`
	Pair    spelling.Pair `json:"pair"`
	Keyword string        `json:"keyword"`
	lesson.Lesson
	Steps   []introductionStep `json:"steps"`
	Dropped []string           `json:"dropped"`
	Notes   []string           `json:"notes"`
}

type introductionStep struct {
	lesson.Step
	Choices []introductionChoice `json:"choices"`
}

type introductionChoice struct {
	lesson.Item
	Because string `json:"because"`
}

func makeIntroduction(l lesson.Lesson) introduction {
	f := l.Target()
	out := introduction{
		CardID: f.ID, Version: f.Version, Agreed: f.Agreed, Pair: f.Pair, Keyword: f.Keyword, Lesson: l,
		Steps: []introductionStep{}, Dropped: []string{}, Notes: []string{},
	}
	for _, s := range l.Steps {
		k := introductionStep{s, []introductionChoice{}}
		for _, it := range s.Items {
			k.Choices = append(k.Choices, introductionChoice{it, it.Because.Text})
		}
		out.Steps = append(out.Steps, k)
	}
	for _, d := range l.Dropped {
		out.Dropped = append(out.Dropped, d.Name+": "+d.Text)
	}
	for _, n := range l.Notes {
		out.Notes = append(out.Notes, n.Text)
	}
	return out
}
