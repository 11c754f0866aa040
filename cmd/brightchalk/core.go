package main

import (
	"bufio"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"

	"github.com/spf13/cobra"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
)

func soundsCommand(std stdio) *cobra.Command {
	c := &cobra.Command{Use: "sounds", Short: "The sounds of an accent", Args: takes(0, 0, "it takes no arguments")}
	f := addCoreFlags(c)
	c.RunE = func(*cobra.Command, []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		return rows(std, f.json, phoneme.Inventory(accent), func(s phoneme.Sound) []string {
			voice := map[bool]string{true: "voiced", false: "unvoiced"}[s.Voiced]
			hold := map[bool]string{true: "stretch", false: "short"}[s.Stretchable]
			return []string{string(s.Phoneme), s.KeyWord, voice, string(s.Manner), s.Place, hold}
		})
	}
	return c
}

func segmentCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "segment [WORD...]", Short: "Cut words into graphemes with their sounds",
		Long: "Cut words into graphemes with their sounds. Without words they are read from standard input.",
	}
	f := addCoreFlags(c)
	c.RunE = func(_ *cobra.Command, list []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if len(list) == 0 {
			in := bufio.NewScanner(std.in)
			in.Split(bufio.ScanWords)
			in.Buffer(nil, 1<<20)
			for in.Scan() {
				list = append(list, in.Text())
			}
			if in.Err() != nil {
				return errors.New("the words on standard input cannot be read: one is longer than a megabyte")
			}
		}
		return segment(newPrinter(std, f.json), accent, list)
	}
	return c
}

// segment cuts what are words, and then says what the first is that is none.
func segment(p *printer, accent phoneme.Accent, list []string) error {
	var firstWrong error
	for _, w := range list {
		s, err := lexicon.Segment(w, accent, spelling.Units{})
		if err != nil {
			if firstWrong == nil {
				firstWrong = err
			}
			continue
		}
		var parts []string
		for _, g := range s.Segments {
			parts = append(parts, g.Pair.String())
		}
		err = p.row(s, w, strings.Join(parts, " "), fmt.Sprintf("%d sounds", s.Sounds), string(s.Source))
		if err != nil {
			return err
		}
	}
	if err := p.close(); err != nil {
		return err
	}
	return firstWrong
}

// taughtSet reads --taught, or the order file up to a pair.
func taughtSet(accent phoneme.Accent, taught, order, upto string) (spelling.Set, error) {
	if order == "" {
		return spelling.ParsePairs(accent, taught)
	}
	steps, err := readOrder(accent, order)
	if err != nil {
		return nil, err
	}
	var last spelling.Pair
	if upto != "" {
		if last, err = spelling.ParsePair(accent, upto); err != nil {
			return nil, err
		}
	}
	set := spelling.Set{}
	for _, s := range steps {
		set[s.Pair] = true
		if s.Pair == last {
			return set, nil
		}
	}
	if upto != "" {
		return nil, fmt.Errorf("%s does not teach %s", order, last)
	}
	return set, nil
}

func wordsCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "words", Short: "Words that can be read with what is taught, the best first",
		Args: takes(0, 0, "it takes no arguments; say what is taught: --taught PAIRS"),
	}
	f := addCoreFlags(c)
	var taught, order, upto, target, position string
	var q words.Query
	flags := c.Flags()
	flags.StringVar(&taught, "taught", "", "the taught PAIRS")
	flags.StringVar(
		&order,
		"order",
		"",
		"a CSV with the columns step,grapheme,sound,exception_words, in place of --taught",
	)
	flags.StringVar(&upto, "upto", "", "the last PAIR of the order that is taught")
	flags.StringVar(&target, "target", "", "the PAIR that must be in the word")
	flags.StringVar(&position, "position", "", "of the target: initial, medial, final or any")
	flags.StringVar(&q.Frame, "frame", "", "CVC, CCVC, ...")
	flags.BoolVar(&q.WithPicture, "pictures", false, "only words with a picture")
	flags.IntVar(&q.MinSounds, "sounds", 0, "exactly so many sounds")
	flags.IntVar(&q.Syllables, "syllables", 0, "exactly so many syllables")
	flags.IntVar(&q.Familiarity, "familiarity", 0, "at least so well known, 0 to 5")
	flags.BoolVar(&q.NoHomophones, "no-homophones", false, "none that sounds like another word")
	flags.IntVar(&q.Limit, "limit", 0, "at most so many")
	c.RunE = func(*cobra.Command, []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if taught == "" && order == "" {
			return usage("say what is taught: --taught PAIRS, or --order FILE --upto PAIR")
		}
		if q.Taught, err = taughtSet(accent, taught, order, upto); err != nil {
			return err
		}
		if strings.Trim(strings.ToUpper(q.Frame), "CV") != "" {
			return fmt.Errorf("the frame %q is not made of C and V", q.Frame)
		}
		q.Frame, q.MaxSounds = strings.ToUpper(q.Frame), q.MinSounds
		if q.Position, err = words.ParsePosition(position); err != nil {
			return err
		}
		if q.Target, err = targetIn(accent, q.Taught, target); err != nil {
			return err
		}
		found := words.Find(q, words.Options{Accent: accent})
		if len(found) == 0 {
			fmt.Fprintln(std.err, "no word fits; fewer limits (frame, position, pictures) or more taught pairs would help")
		}
		return rows(std, f.json, found, func(c words.Choice) []string { return []string{c.Word, c.Frame, c.Because} })
	}
	return c
}

func checkTextCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "check-text FILE", Short: "Which words of a text can be read with what is taught",
		Long: "Which words of a text can be read with what is taught. FILE may be - for standard input.",
		Args: takes(1, 1, "name one file, or - for standard input"),
	}
	f := addCoreFlags(c)
	taught := c.Flags().String("taught", "", "the taught PAIRS")
	exceptions := c.Flags().String("exceptions", "", "taught exception words, parted by commas")
	c.RunE = func(_ *cobra.Command, args []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		set, err := spelling.ParsePairs(accent, *taught)
		if err != nil {
			return err
		}
		text, err := readInput(std, args[0])
		if err != nil {
			return err
		}
		r := texts.Check(string(text), set, wordSet(*exceptions), texts.Options{Accent: accent})
		p := newPrinter(std, f.json)
		if f.json {
			return p.row(r)
		}
		for _, t := range r.Tokens {
			if err := p.row(nil, t.Text, string(t.Status), strings.Join(t.Untaught, " ")); err != nil {
				return err
			}
		}
		share := fmt.Sprintf("%.0f %% decodable", r.Decodable*100)
		if err := p.row(nil, share, strings.Join(r.Remarks, " ")); err != nil {
			return err
		}
		return p.close()
	}
	return c
}

func sortCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "sort", Short: "Pictures to sort by sound",
		Args: takes(0, 0, "it takes no arguments; say which sounds: --sounds m,s"),
	}
	f := addCoreFlags(c)
	list := c.Flags().String("sounds", "", "sounds, or graphemes with one sound, parted by commas")
	per := c.Flags().Int("per", 4, "pictures for each sound")
	position := c.Flags().String("position", "initial", "of the sound: initial, medial, final or any")
	var seed uint64
	addSeed(c, &seed)
	c.RunE = func(*cobra.Command, []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if *list == "" {
			return usage("say which sounds: --sounds m,s")
		}
		var targets []phoneme.Phoneme
		for part := range strings.SplitSeq(*list, ",") {
			p, err := oneSound(accent, part)
			if err != nil {
				return err
			}
			targets = append(targets, p)
		}
		at, err := words.ParsePosition(*position)
		if err != nil {
			return err
		}
		rng := rand.New(rand.NewPCG(seed, 17))
		baskets, err := words.Sort(targets, *per, at, words.Options{Accent: accent}, rng)
		if err != nil {
			return err
		}
		return rows(std, f.json, baskets, func(b words.Basket) []string {
			return []string{string(b.Sound), strings.Join(b.Pictures, " ")}
		})
	}
	return c
}

// oneSound reads a sound, or a grapheme such as ng as its most common sound. It refuses a sequence: a game for ear
// asks for one.
func oneSound(accent phoneme.Accent, text string) (phoneme.Phoneme, error) {
	ps, err := phoneme.Parse(accent, text)
	if err != nil || len(ps) > 1 {
		if pair, pairErr := spelling.ParsePair(accent, text); pairErr == nil {
			ps, err = phoneme.Parse(accent, pair.Sound)
		}
	}
	if err != nil {
		return "", err
	}
	if len(ps) > 1 {
		return "", fmt.Errorf("%q is %d sounds, %s: a game for the ear asks for one of them", text, len(ps), teamSpeech(ps))
	}
	return ps[0], nil
}

func teamSpeech(ps []phoneme.Phoneme) string {
	out := make([]string, len(ps))
	for i, p := range ps {
		out[i] = "/" + string(p) + "/"
	}
	return strings.Join(out, " and ")
}

func recordingCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "recording FILE...", Short: "Judge recordings of a sound",
		Long: "Judge recordings of a sound: WAV, FLAC, MP3 or Ogg Vorbis.",
	}
	f := addCoreFlags(c)
	sound := c.Flags().String("sound", "", "the sound that is meant, or a grapheme with it")
	c.RunE = func(_ *cobra.Command, files []string) error {
		accent, err := f.parse()
		if err != nil {
			return err
		}
		if *sound == "" || len(files) == 0 {
			return usage("say which sound and which files: --sound m FILE.wav")
		}
		target, err := recordingTarget(accent, *sound)
		if err != nil {
			return err
		}
		p := newPrinter(std, f.json)
		var firstWrong error
		for _, name := range files {
			if err := judge(std, p, name, target); err != nil && firstWrong == nil {
				firstWrong = fmt.Errorf("%s: %w", name, err)
			}
		}
		if err := p.close(); err != nil {
			return err
		}
		return firstWrong
	}
	return c
}

func judge(std stdio, p *printer, name string, target recording.Target) error {
	clip, err := readSound(std, name)
	if err != nil {
		return err
	}
	r := recording.Judge(clip, target)
	out := struct {
		File string `json:"file"`
		recording.Report
	}{name, r}
	return p.row(out, name, string(r.Verdict), r.Advice)
}

// recordingTarget reads a sound, or a grapheme such as qu as its most common sound.
func recordingTarget(accent phoneme.Accent, text string) (recording.Target, error) {
	t, err := recording.TargetOf(accent, text)
	if err == nil && (len(t.Sounds) == 1 || t.Text == "kw" || t.Text == "ks") {
		return t, nil
	}
	if pair, pairErr := spelling.ParsePair(accent, text); pairErr == nil {
		return recording.TargetOf(accent, pair.Sound)
	}
	return t, err
}
