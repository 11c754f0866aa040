package main

import (
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
)

// queryFlags are the flags of the word games: what is taught, and the target among it.
type queryFlags struct {
	coreFlags
	taught, target *string
	count          *int
	seed           *uint64
}

func newQueryFlags(name string) queryFlags {
	f := newCoreFlags(name)
	return queryFlags{
		f,
		f.String("taught", "", ""),
		f.String("target", "", ""),
		f.Int("count", 8, ""),
		f.Uint64("seed", 1, ""),
	}
}

func (f queryFlags) query(args []string) (words.Query, words.Options, error) {
	accent, err := f.read(args)
	o := words.Options{Accent: accent}
	if err != nil {
		return words.Query{}, o, err
	}
	if *f.taught == "" {
		return words.Query{}, o, usageError{errors.New("say what is taught: --taught PAIRS")}
	}
	set, err := spelling.ParsePairs(accent, *f.taught)
	if err != nil || *f.target == "" {
		return words.Query{Taught: set}, o, err
	}
	p, err := spelling.ParsePair(accent, *f.target)
	if err == nil && !set[p] {
		err = fmt.Errorf("the target %s is not among the taught pairs", p)
	}
	return words.Query{Taught: set, Target: &p}, o, err
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

func play(std stdio, args []string) error {
	if len(args) == 0 {
		return usageError{errors.New("say which game: chain, slips, compounds or rings")}
	}
	f := newQueryFlags("play " + args[0])
	start := f.String("start", "", "")
	q, o, err := f.query(args[1:])
	if err != nil {
		return err
	}
	rng := rand.New(rand.NewPCG(*f.seed, 31))
	switch args[0] {
	case "chain":
		links, err := words.Chain(q, strings.ToLower(*start), *f.count, o, rng)
		if err != nil {
			return err
		}
		return rows(std, *f.json, links, func(l words.Link) []string { return []string{l.Word, l.Says} })
	case "slips":
		slips, err := words.SlipHunt(q, *f.count, o, rng)
		if err != nil {
			return err
		}
		return rows(std, *f.json, slips, func(s words.Slip) []string { return []string{s.Shown, s.Word, s.Why} })
	case "compounds":
		q.Limit = *f.count
		return rows(
			std,
			*f.json,
			words.Compounds(q, o),
			func(c words.Compound) []string { return []string{c.Word, c.First + " + " + c.Second} },
		)
	case "rings":
		list, err := words.RingList(q, *f.count, o, rng)
		if err != nil {
			return err
		}
		return rows(std, *f.json, list, func(r words.Ring) []string { return []string{r.Word, string(r.Place)} })
	}
	return usageError{fmt.Errorf("%q is no game: choose chain, slips, compounds or rings", args[0])}
}

func firstOrLast(std stdio, args []string) error {
	f := newCoreFlags("first-or-last")
	sound, seed := f.String("sound", "", ""), f.Uint64("seed", 1, "")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	if *sound == "" {
		return usageError{errors.New("say which sound: --sound m")}
	}
	p, err := oneSound(accent, *sound)
	if err != nil {
		return err
	}
	quarters, err := words.FirstOrLast(p, nil, words.Options{Accent: accent}, rand.New(rand.NewPCG(*seed, 43)))
	if err != nil {
		return err
	}
	return rows(std, *f.json, quarters, func(q words.Quarter) []string { return []string{q.Picture, string(q.Answer)} })
}

func contrast(std stdio, args []string) error {
	f := newQueryFlags("contrast")
	pairs := f.String("pairs", "", "")
	q, o, err := f.query(args)
	if err != nil {
		return err
	}
	left, right, ok := strings.Cut(*pairs, ",")
	if !ok {
		return usageError{errors.New("name two pairs: --pairs th=θ,th=ð")}
	}
	a, err := spelling.ParsePair(o.Accent, left)
	if err != nil {
		return err
	}
	b, err := spelling.ParsePair(o.Accent, right)
	if err != nil {
		return err
	}
	q.Limit = *f.count
	set, err := words.Contrast(a, b, q, o)
	if err != nil {
		return err
	}
	return rows(std, *f.json, []words.ContrastSet{set}, func(s words.ContrastSet) []string {
		return []string{a.String() + ": " + names(s.Left), b.String() + ": " + names(s.Right)}
	})
}

func names(list []words.Choice) string {
	var out []string
	for _, c := range list {
		out = append(out, c.Word)
	}
	return strings.Join(out, " ")
}

func sentences(std stdio, args []string) error {
	f := newQueryFlags("sentences")
	exceptions := f.String("exceptions", "", "")
	q, o, err := f.query(args)
	if err != nil {
		return err
	}
	made := texts.Suggest(
		texts.SuggestQuery{Taught: q.Taught, Target: q.Target, Exceptions: wordSet(*exceptions), Count: *f.count},
		o,
		rand.New(rand.NewPCG(*f.seed, 47)),
	)
	if len(made) == 0 {
		fmt.Fprintln(
			std.err,
			"no sentence can be made; it needs a noun, a verb and a small word such as a or the that can be read",
		)
	}
	return rows(std, *f.json, made, func(s texts.Suggestion) []string { return []string{s.Text, texts.ReadFirst} })
}

func chop(std stdio, args []string) error {
	f := newCoreFlags("chop")
	if _, err := f.read(args); err != nil {
		return err
	}
	if f.NArg() == 0 {
		return usageError{errors.New("give the sentence")}
	}
	pieces, err := texts.Chop(strings.Join(f.Args(), " "))
	if err != nil {
		return err
	}
	p := newPrinter(std, *f.json)
	if err := p.row(struct {
		Pieces []string `json:"pieces"`
	}{pieces}, strings.Join(pieces, " | ")); err != nil {
		return err
	}
	return p.close()
}

func spellings(std stdio, args []string) error {
	f := newCoreFlags("spellings")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	var list []lexicon.RowUse
	for _, r := range lexicon.Table(accent, spelling.Units{}) {
		if f.NArg() == 0 || r.Grapheme == f.Arg(0) || r.Sound == soundText(accent, f.Arg(0)) {
			list = append(list, r)
		}
	}
	if len(list) == 0 {
		return fmt.Errorf("no row has %q, as letters or as a sound of %s", f.Arg(0), accent)
	}
	return rows(std, *f.json, list, func(r lexicon.RowUse) []string {
		return []string{
			r.String(),
			fmt.Sprintf("%d words", r.Types),
			fmt.Sprintf("%.0f %%", r.Weighted*100),
			fmt.Sprintf("start %.0f middle %.0f end %.0f", r.Start*100, r.Middle*100, r.End*100),
			strings.Join(r.Examples, " "),
		}
	})
}

func soundText(accent phoneme.Accent, text string) string {
	ps, err := phoneme.Parse(accent, text)
	if err != nil {
		return ""
	}
	return phoneme.Join(ps)
}

func wordSet(text string) map[string]bool {
	out := map[string]bool{}
	for w := range strings.FieldsFuncSeq(text, func(r rune) bool { return r == ',' || r == ' ' }) {
		out[strings.ToLower(w)] = true
	}
	return out
}
