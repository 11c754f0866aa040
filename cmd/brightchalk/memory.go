package main

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"os"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
)

// remembered is a line of the answer of memory.
type remembered struct {
	Pair           string  `json:"pair"`
	Retrievability float64 `json:"retrievability"`
	StabilityDays  float64 `json:"stability_days"`
	Due            string  `json:"due"`
	Because        string  `json:"because"`
}

func memoryCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "memory", Short: "How well a class still has each pair, by its log",
		Args: takes(0, 0, "it takes no arguments; the log goes with --log"),
		Long: "How well a class still has each pair, by its log: what would be lost soonest stands first.\n" +
			"The log has the columns date,pair,sureness; sureness is 0 not yet, 1 shaky, 2 sure, 3 secure.",
	}
	log := c.Flags().String("log", "", "the log of the class, a CSV")
	on := c.Flags().String("on", "", "the DATE that is asked for, 2026-11-26; today where it is left out")
	f := addCoreFlags(c)
	c.RunE = func(*cobra.Command, []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if *log == "" {
			return usage("name the log of the class: --log FILE.csv")
		}
		at := time.Now()
		if *on != "" {
			if at, err = time.Parse(time.DateOnly, *on); err != nil {
				return usage("%q is no date; write it as 2026-11-26", *on)
			}
		}
		file, err := os.Open(*log)
		if err != nil {
			return fmt.Errorf("%s cannot be opened", *log)
		}
		defer func() { _ = file.Close() }()
		seen, err := readLog(accent, *log, file, at)
		if err != nil {
			return err
		}
		for _, s := range seen {
			if err := tellMemory(std.out, f.json, s, at); err != nil {
				return err
			}
		}
		return nil
	}
	return c
}

func tellMemory(w io.Writer, asJSON bool, s review.Seen, at time.Time) error {
	r := remembered{
		s.CardID, math.Round(s.Retrievability(at)*1e4) / 1e4, math.Round(s.StabilityDays()*100) / 100,
		s.Due().Format(time.DateOnly), s.Because(at),
	}
	if asJSON {
		return json.NewEncoder(w).Encode(r)
	}
	_, err := fmt.Fprintf(w, "%s\t%.0f %%\t%s\tdue %s\t%s\n",
		r.Pair, 100*r.Retrievability, review.FadingCards(r.Retrievability), r.Due, r.Because)
	return err
}

type logLine struct {
	at   time.Time
	pair spelling.Pair
	sure review.Sureness
}

// readLog reads what a class met until a day, and what is left of it, the most faded first. The error names the line.
func readLog(accent phoneme.Accent, name string, file io.Reader, until time.Time) ([]review.Seen, error) {
	rows, err := csv.NewReader(withoutMark(file)).ReadAll()
	if err != nil || len(rows) == 0 {
		return nil, fmt.Errorf("%s is no log: it needs the columns date,pair,sureness and a row for each meeting", name)
	}
	column := func(name string) int { return slices.Index(rows[0], name) }
	date, pair, sure := column("date"), column("pair"), column("sureness")
	if date < 0 || pair < 0 || sure < 0 {
		return nil, fmt.Errorf("%s lacks a column: date, pair and sureness are needed", name)
	}
	var lines []logLine
	for i, r := range rows[1:] {
		bad := func(err any) error { return fmt.Errorf("%s line %d: %v", name, i+2, err) }
		day, _, _ := strings.Cut(r[date], "T")
		at, err := time.Parse(time.DateOnly, day)
		if err != nil {
			return nil, bad(fmt.Sprintf("%q is no date; write it as 2026-11-26", r[date]))
		}
		p, err := spelling.ParsePair(accent, r[pair])
		if err != nil {
			return nil, bad(err)
		}
		n, err := strconv.Atoi(strings.TrimSpace(r[sure]))
		if err != nil || n < int(review.NotYet) || n > int(review.Secure) {
			return nil, bad(fmt.Sprintf("the sureness %q is none of 0, 1, 2, 3", r[sure]))
		}
		if !at.After(until) {
			lines = append(lines, logLine{at, p, review.Sureness(n)})
		}
	}
	slices.SortStableFunc(lines, func(a, b logLine) int { return a.at.Compare(b.at) })
	seen := map[spelling.Pair]review.Seen{}
	for _, l := range lines {
		s := seen[l.pair]
		s.CardID = l.pair.String()
		seen[l.pair] = review.Update(s, l.at, l.sure)
	}
	out := []review.Seen{}
	for _, s := range seen {
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b review.Seen) int {
		if x, y := a.Retrievability(until), b.Retrievability(until); x != y {
			return map[bool]int{true: -1, false: 1}[x < y]
		}
		return strings.Compare(a.CardID, b.CardID)
	})
	return out, nil
}
