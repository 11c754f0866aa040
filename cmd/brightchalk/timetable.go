package main

import (
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"brightchalk/internal/calendar"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
)

// planned is a line of the answer of timetable.
type planned struct {
	Date      string   `json:"date"`
	Purpose   string   `json:"purpose"`
	Pairs     []string `json:"pairs"`
	MovedFrom string   `json:"moved_from,omitempty"`
}

// yearAhead is how far a calendar is read, in days.
const yearAhead = 3 * 366

func timetableCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "timetable", Short: "An order laid out over the days of a year", Args: takes(0, 0, "it takes no arguments"),
		Long: "An order laid out over the days of a year, Monday to Friday: a line for each day with a lesson.\n" +
			"What comes later than it would if no day were lost says from which day it moved.",
	}
	flags := c.Flags()
	orderFile := flags.String("order", "", "a CSV with the columns step,grapheme,sound,exception_words")
	daysFile := flags.String("days", "", "days off, as a calendar writes them: FILE.ics")
	start := flags.String("start", "", "the first DATE, 2026-09-07")
	lost := flags.String("lost", "", "DATES on which nothing could be taught, parted by commas")
	rule := flags.String("rule", string(year.ShiftAll), "what a lost day does: shift, drop-revision, double-up")
	ask := year.Ask{}
	flags.IntVar(&ask.PerWeek, "per-week", 4, "new sounds a week")
	f := addCoreFlags(c)
	c.RunE = func(*cobra.Command, []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if *orderFile == "" || *start == "" {
			return usage("say what is taught and from when: --order FILE.csv --start 2026-09-07")
		}
		steps, err := readOrder(accent, *orderFile)
		if err != nil {
			return err
		}
		for _, s := range steps {
			ask.Pairs = append(ask.Pairs, s.Pair)
		}
		ask.Rule = year.Rule(*rule)
		if ask.Start, err = year.ParseDate(*start); err != nil {
			return usage("--start: %v", err)
		}
		if ask.Lost, err = parseDates(*lost); err != nil {
			return usage("--lost: %v", err)
		}
		if ask.Off, err = daysOff(*daysFile, ask.Start); err != nil {
			return err
		}
		days, err := year.Plan(ask)
		if err != nil {
			return err
		}
		return tellTimetable(std, f.json, days)
	}
	return c
}

// parseDates are lost days, each by the rule of all.
func parseDates(text string) (map[year.Date]year.Rule, error) {
	out := map[year.Date]year.Rule{}
	for d := range strings.SplitSeq(text, ",") {
		if d = strings.TrimSpace(d); d == "" {
			continue
		}
		date, err := year.ParseDate(d)
		if err != nil {
			return nil, err
		}
		out[date] = ""
	}
	return out, nil
}

func daysOff(name string, start year.Date) (map[year.Date]bool, error) {
	if name == "" {
		return map[year.Date]bool{}, nil
	}
	file, err := os.Open(name)
	if err != nil {
		return nil, fmt.Errorf("%s cannot be opened", name)
	}
	defer func() { _ = file.Close() }()
	off, err := calendar.DaysOff(file, start, start.Add(yearAhead))
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	return off.Set(), nil
}

func tellTimetable(std stdio, asJSON bool, days []year.Day) error {
	p := newPrinter(std, asJSON)
	for _, d := range days {
		line := planned{string(d.Date), string(d.Purpose), pairNames(d.Pairs), string(d.MovedFrom)}
		moved := ""
		if d.MovedFrom != "" {
			moved = "moved from " + line.MovedFrom
		}
		if err := p.row(line, line.Date, line.Purpose, strings.Join(line.Pairs, " "), moved); err != nil {
			return err
		}
	}
	return p.close()
}

func pairNames(pairs []spelling.Pair) []string {
	out := []string{}
	for _, p := range pairs {
		out = append(out, p.String())
	}
	return out
}
