package main

import (
	"fmt"
	"math/rand/v2"
	"strings"

	"github.com/spf13/cobra"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
)

var gameNames = []string{"chain", "slips", "compounds", "rings"}

func playCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "play GAME", Short: "A game of words: chain, slips, compounds or rings", ValidArgs: gameNames,
		Args: takes(1, 1, "say which game: chain, slips, compounds or rings"),
	}
	f := addQueryFlags(c)
	start := c.Flags().String("start", "", "the first word of a chain")
	c.RunE = func(_ *cobra.Command, args []string) error {
		q, o, err := f.query()
		if err != nil {
			return err
		}
		rng := rand.New(rand.NewPCG(f.seed, 31))
		switch args[0] {
		case "chain":
			links, err := words.Chain(q, strings.ToLower(*start), f.count, o, rng)
			if err != nil {
				return err
			}
			return rows(std, f.json, links, func(l words.Link) []string { return []string{l.Word, l.Says} })
		case "slips":
			slips, err := words.SlipHunt(q, f.count, o, rng)
			if err != nil {
				return err
			}
			return rows(std, f.json, slips, func(s words.Slip) []string { return []string{s.Shown, s.Word, s.Why} })
		case "compounds":
			q.Limit = f.count
			return rows(std, f.json, words.Compounds(q, o), func(c words.Compound) []string {
				return []string{c.Word, c.First + " + " + c.Second}
			})
		case "rings":
			list, err := words.RingList(q, f.count, o, rng)
			if err != nil {
				return err
			}
			return rows(std, f.json, list, func(r words.Ring) []string { return []string{r.Word, string(r.Place)} })
		}
		return usage("%q is no game: choose chain, slips, compounds or rings", args[0])
	}
	return c
}

func firstOrLastCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "first-or-last", Short: "Pictures in four quarters: is the sound first or last",
		Args: takes(0, 0, "it takes no arguments; say which sound: --sound m"),
	}
	f := addCoreFlags(c)
	sound := c.Flags().String("sound", "", "the sound, or a grapheme with it")
	var seed uint64
	addSeed(c, &seed)
	c.RunE = func(*cobra.Command, []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if *sound == "" {
			return usage("say which sound: --sound m")
		}
		p, err := oneSound(accent, *sound)
		if err != nil {
			return err
		}
		quarters, err := words.FirstOrLast(p, nil, words.Options{Accent: accent}, rand.New(rand.NewPCG(seed, 43)))
		if err != nil {
			return err
		}
		return rows(std, f.json, quarters, func(q words.Quarter) []string {
			return []string{q.Picture, string(q.Answer)}
		})
	}
	return c
}

func contrastCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "contrast", Short: "The words of two pairs set against one another",
		Args: takes(0, 0, "it takes no arguments; name two pairs: --pairs th=θ,th=ð"),
	}
	f := addQueryFlags(c)
	pairs := c.Flags().String("pairs", "", "two PAIRS")
	c.RunE = func(*cobra.Command, []string) error {
		q, o, err := f.query()
		if err != nil {
			return err
		}
		left, right, ok := strings.Cut(*pairs, ",")
		if !ok {
			return usage("name two pairs: --pairs th=θ,th=ð")
		}
		a, err := spelling.ParsePair(o.Accent, left)
		if err != nil {
			return err
		}
		b, err := spelling.ParsePair(o.Accent, right)
		if err != nil {
			return err
		}
		q.Limit = f.count
		set, err := words.Contrast(a, b, q, o)
		if err != nil {
			return err
		}
		return rows(std, f.json, []words.ContrastSet{set}, func(s words.ContrastSet) []string {
			return []string{a.String() + ": " + names(s.Left), b.String() + ": " + names(s.Right)}
		})
	}
	return c
}

func names(list []words.Choice) string {
	var out []string
	for _, c := range list {
		out = append(out, c.Word)
	}
	return strings.Join(out, " ")
}

func sentencesCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "sentences", Short: "Sentences made by rule, to be read by an adult before use",
		Args: takes(0, 0, "it takes no arguments; say what is taught: --taught PAIRS"),
	}
	f := addQueryFlags(c)
	exceptions := c.Flags().String("exceptions", "", "taught exception words, parted by commas")
	c.RunE = func(*cobra.Command, []string) error {
		q, o, err := f.query()
		if err != nil {
			return err
		}
		ask := texts.SuggestQuery{
			Taught: q.Taught, Targets: targetList(q.Target), Exceptions: wordSet(*exceptions), Count: f.count,
		}
		made := texts.Suggest(ask, o, rand.New(rand.NewPCG(f.seed, 47)))
		if len(made) == 0 {
			fmt.Fprintln(
				std.err,
				"no sentence can be made; it needs a noun, a verb and a small word such as a or the that can be read",
			)
		}
		return rows(std, f.json, made, func(s texts.Suggestion) []string { return []string{s.Text, texts.ReadFirst} })
	}
	return c
}

func chopCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "chop SENTENCE", Short: "Cut a sentence into pieces to be put in order",
		Args: takes(1, anyNumber, "give the sentence"),
	}
	f := addCoreFlags(c)
	c.RunE = func(_ *cobra.Command, args []string) error {
		pieces, err := texts.Chop(strings.Join(args, " "))
		if err != nil {
			return err
		}
		type cut struct {
			Pieces []string `json:"pieces"`
		}
		return rows(std, f.json, []cut{{pieces}}, func(c cut) []string { return []string{strings.Join(c.Pieces, " | ")} })
	}
	return c
}

func spellingsCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "spellings [GRAPHEME or SOUND]", Short: "The grapheme-sound table, and how common each row is",
		Args: takes(0, 1, "name one grapheme or one sound"),
	}
	f := addCoreFlags(c)
	c.RunE = func(_ *cobra.Command, args []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		of := strings.Join(args, "")
		var list []lexicon.RowUse
		for _, r := range lexicon.Table(accent, spelling.Units{}) {
			if of == "" || r.Grapheme == of || r.Sound == soundText(accent, of) {
				list = append(list, r)
			}
		}
		if len(list) == 0 {
			return fmt.Errorf("no row has %q, as letters or as a sound of %s", of, accent)
		}
		return rows(std, f.json, list, func(r lexicon.RowUse) []string {
			return []string{
				r.String(),
				fmt.Sprintf("%d words", r.Types),
				fmt.Sprintf("%.0f %%", r.Weighted*100),
				fmt.Sprintf("start %.0f middle %.0f end %.0f", r.Start*100, r.Middle*100, r.End*100),
				strings.Join(r.Examples, " "),
			}
		})
	}
	return c
}

func soundText(accent phoneme.Accent, text string) string {
	ps, err := phoneme.Parse(accent, text)
	if err != nil {
		return ""
	}
	return phoneme.Join(ps)
}

// targetList is the target as a list; empty where there is none.
func targetList(p *spelling.Pair) []spelling.Pair {
	if p == nil {
		return nil
	}
	return []spelling.Pair{*p}
}
