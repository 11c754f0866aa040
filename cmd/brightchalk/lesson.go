package main

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
)

// lessonFlags are what a lesson is asked with.
type lessonFlags struct {
	*coreFlags
	purpose, target, knows, order, upto, exceptions, library string
	minutes                                                  int
	seed                                                     uint64
}

func lessonCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "lesson", Short: "Assemble a lesson for any purpose, with or without a library",
		Args: takes(0, 0, "say: brightchalk lesson --purpose PURPOSE --target PAIRS --knows PAIRS"),
	}
	f := lessonFlags{coreFlags: addCoreFlags(c)}
	flags := c.Flags()
	var names []string
	for _, p := range lesson.Purposes() {
		names = append(names, string(p.Purpose))
	}
	flags.StringVar(&f.purpose, "purpose", "introduce", strings.Join(names, ", "))
	flags.StringVar(&f.target, "target", "", "the PAIRS that it is about; none: by need")
	flags.StringVar(&f.knows, "knows", "", "the PAIRS that the class knows")
	flags.StringVar(&f.order, "order", "", "an order of teaching as CSV, instead of --knows")
	flags.StringVar(&f.upto, "upto", "", "the last PAIR of the order that the class knows")
	flags.StringVar(&f.exceptions, "exceptions", "", "the exception words that it knows")
	flags.StringVar(&f.library, "library", "", "a library as a ZIP file; without one the cards are bare")
	flags.IntVar(&f.minutes, "minutes", 0, "4 to 60; 0: the usual for the purpose")
	addSeed(c, &f.seed)
	_ = c.RegisterFlagCompletionFunc("purpose", cobra.FixedCompletions(names, cobra.ShellCompDirectiveNoFileComp))
	c.RunE = func(*cobra.Command, []string) error {
		in, err := f.input(std)
		if err != nil {
			return err
		}
		made, err := assembly.Assemble(in)
		if err != nil {
			return err
		}
		view := newLessonView(made)
		if view.Document, err = lesson.Documents.Write(made); err != nil {
			return err
		}
		if f.json {
			return newPrinter(std, true).row(view)
		}
		return rows(std, false, view.Steps, func(s stepView) []string {
			var items []string
			for _, it := range s.Items {
				items = append(items, it.Value)
			}
			return []string{prose.Clock(s.Seconds), s.Name, strings.Join(items, " · "), strings.Join(s.Adult, " ")}
		})
	}
	return c
}

// input gathers what the lesson depends on.
func (f lessonFlags) input(std stdio) (assembly.Input, error) {
	accent, err := f.parse()
	if err != nil {
		return assembly.Input{}, err
	}
	purpose := lesson.Purpose(f.purpose)
	kind, ok := lesson.FindPurpose(purpose)
	if !ok {
		return assembly.Input{}, usage("unknown purpose %q; see brightchalk lesson --help", f.purpose)
	}
	if f.knows != "" && f.order != "" {
		return assembly.Input{}, usage("say what the class knows once: --knows PAIRS, or --order FILE --upto PAIR")
	}
	in := assembly.Input{
		Purpose: purpose, Conventions: convention.Conventions{Accent: accent}, Routine: lesson.DefaultRoutine(purpose),
		Minutes: f.minutes, Seed: f.seed, Now: time.Unix(0, 0).UTC(),
	}
	if f.minutes == 0 {
		in.Minutes = kind.Minutes
	}
	library := map[spelling.Pair]card.Card{}
	var sources knowledge.Sources
	if f.library != "" {
		if sources, err = f.fromLibrary(std, &in, library); err != nil {
			return in, err
		}
		accent = in.Conventions.Accent
	}
	known, next, met, err := f.known(accent)
	if err != nil {
		return in, err
	}
	targets, err := pairList(accent, f.target)
	if err != nil {
		return in, err
	}
	if len(targets) == 0 && purpose == lesson.Introduce && next != nil {
		targets = []spelling.Pair{*next}
	}
	if purpose == lesson.Introduce {
		known = slices.DeleteFunc(known, func(p spelling.Pair) bool { return slices.Contains(targets, p) })
	}
	if f.library == "" || len(known) > 0 {
		sources = knowledge.Sources{Conventions: in.Conventions, Refused: sources.Refused}
		f.declare(&sources, in, known, targets, library)
	}
	in.Class = knowledge.Of(sources)
	for w := range wordSet(f.exceptions + " " + strings.Join(met, " ")) {
		in.Class.Exceptions[w] = true
	}
	for _, p := range targets {
		in.Targets = append(in.Targets, parseCard(p, library))
	}
	return in, nil
}

// declare makes the class know pairs, the first of them longest, and the targets too where they are not new.
func (f lessonFlags) declare(
	s *knowledge.Sources,
	in assembly.Input,
	known, targets []spelling.Pair,
	library map[spelling.Pair]card.Card,
) {
	if in.Purpose != lesson.Introduce {
		for _, t := range targets {
			if !slices.Contains(known, t) {
				known = append(known, t)
			}
		}
	}
	for i, p := range known {
		c := parseCard(p, library)
		c.Step = i + 1
		s.Cards = append(s.Cards, c)
		s.Declared = append(s.Declared, knowledge.Declaration{
			CardIDs: []string{c.ID}, On: in.Now.AddDate(0, 0, i-len(known)),
		})
	}
}

// parseCard is the card of the library, or a bare one by rule.
func parseCard(p spelling.Pair, library map[spelling.Pair]card.Card) card.Card {
	if c, ok := library[p]; ok {
		return c
	}
	return card.Card{ID: p.String(), Pair: p}
}

func pairList(accent phoneme.Accent, text string) ([]spelling.Pair, error) {
	var out []spelling.Pair
	for part := range strings.SplitSeq(text, ",") {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		p, err := spelling.ParsePair(accent, part)
		if err != nil {
			return nil, err
		}
		if slices.Contains(out, p) {
			return nil, fmt.Errorf("%s is named twice", p)
		}
		out = append(out, p)
	}
	return out, nil
}

// known are the pairs that the class knows, the next of the order, and the exception words that came with them.
func (f lessonFlags) known(accent phoneme.Accent) (
	known []spelling.Pair,
	next *spelling.Pair,
	exceptions []string,
	err error,
) {
	if f.order == "" {
		known, err = pairList(accent, f.knows)
		return known, nil, nil, err
	}
	steps, err := readRows(accent, f.order)
	if err != nil {
		return nil, nil, nil, err
	}
	last := steps[len(steps)-1].Pair
	if f.upto != "" {
		if last, err = spelling.ParsePair(accent, f.upto); err != nil {
			return nil, nil, nil, err
		}
	}
	for i, s := range steps {
		known, exceptions = append(known, s.Pair), append(exceptions, s.Exceptions...)
		if s.Pair == last {
			if i+1 < len(steps) {
				next = &steps[i+1].Pair
			}
			return known, next, exceptions, nil
		}
	}
	return nil, nil, nil, fmt.Errorf("%s does not teach %s", f.order, last)
}

// fromLibrary takes conventions, routine, texts and cards from a bundle.
func (f lessonFlags) fromLibrary(
	std stdio,
	in *assembly.Input,
	library map[spelling.Pair]card.Card,
) (knowledge.Sources, error) {
	data, err := readInput(std, f.library)
	if err != nil {
		return knowledge.Sources{}, err
	}
	b, err := bundle.Read(data)
	if err != nil {
		return knowledge.Sources{}, fmt.Errorf("%s: %w", f.library, err)
	}
	made, sources := b.Lesson(in.Purpose)
	made.Minutes, made.Seed, made.Now = in.Minutes, in.Seed, in.Now
	*in = made
	for _, c := range b.Cards {
		library[c.Pair] = c
	}
	return sources, nil
}

// lessonView is a lesson as the contract prints it.
type lessonView struct {
	Purpose lesson.Purpose   `json:"purpose"`
	Targets []string         `json:"targets"`
	Minutes int              `json:"minutes"`
	Seconds int              `json:"seconds"`
	Steps   []stepView       `json:"steps"`
	Dropped []lesson.Dropped `json:"dropped"`
	Notes   []lesson.Reason  `json:"notes"`
	// Document is the lesson as the application keeps it, for brightchalk print.
	Document json.RawMessage `json:"document"`
}

type stepView struct {
	Kind    lesson.Kind `json:"kind"`
	Name    string      `json:"name"`
	Seconds int         `json:"seconds"`
	Adult   []string    `json:"adult"`
	Class   []string    `json:"class"`
	Items   []itemView  `json:"items"`
}

type itemView struct {
	Kind     lesson.ItemKind `json:"kind"`
	Value    string          `json:"value"`
	Role     lesson.Role     `json:"role"`
	Position string          `json:"position"`
	Because  lesson.Reason   `json:"because"`
	Basket   lesson.Basket   `json:"basket,omitempty"`
	Detail   string          `json:"detail,omitempty"`
	Clue     string          `json:"clue,omitempty"`
}

func newLessonView(l lesson.Lesson) lessonView {
	v := lessonView{
		Purpose: l.Purpose, Targets: []string{}, Minutes: l.Minutes, Seconds: l.Seconds, Steps: []stepView{},
		Dropped: l.Dropped, Notes: l.Notes,
	}
	for _, p := range l.Pairs() {
		v.Targets = append(v.Targets, p.String())
	}
	for _, s := range l.Steps {
		k := stepView{s.Kind, s.Name, s.Seconds, s.Adult, s.Class, []itemView{}}
		for _, it := range s.Items {
			value := it.Value
			if it.Kind == lesson.CardItem {
				value = l.Cards[it.Value].Pair.String()
			}
			k.Items = append(k.Items, itemView{
				it.Kind, value, it.Role, it.Position, it.Because, it.Basket, it.Detail, it.Clue,
			})
		}
		v.Steps = append(v.Steps, k)
	}
	return v
}

func mouthCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "mouth", Short: "How the mouth makes a sound, as SVG", Args: takes(0, 0, "it takes no arguments"),
		Long: "How the mouth makes a sound, drawn from its features: its stills side by side.\n" + mouth.Caution,
	}
	sound := c.Flags().String("sound", "", "the sound: m, eɪ, tʃ, or several: juː")
	view := c.Flags().String("view", string(mouth.Side), "side or front")
	f := addCoreFlags(c)
	c.RunE = func(*cobra.Command, []string) error {
		if *sound == "" {
			return usage("name the sound: --sound m")
		}
		if *view != string(mouth.Side) && *view != string(mouth.Front) {
			return usage("unknown view %q: choose side or front", *view)
		}
		a, err := f.parse()
		if err != nil {
			return err
		}
		d, err := mouth.Draw(a, *sound)
		if err != nil {
			return err
		}
		if f.json {
			return json.NewEncoder(std.out).Encode(d)
		}
		_, err = fmt.Fprintln(std.out, d.SVG(mouth.View(*view)))
		return err
	}
	return c
}

func stepsCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "steps", Short: "The registry of the kinds of steps", Args: takes(0, 0, "it takes no arguments"),
	}
	asJSON := c.Flags().Bool("json", false, "one JSON object a line")
	c.RunE = func(*cobra.Command, []string) error {
		return rows(std, *asJSON, kinds.Registry.All(), func(r step.Record) []string {
			return []string{
				string(r.Kind),
				r.Name,
				fmt.Sprintf("%d–%d–%d s", r.MinSeconds, r.UsualSeconds, r.MaxSeconds),
				r.About,
			}
		})
	}
	return c
}
