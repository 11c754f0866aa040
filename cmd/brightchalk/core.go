package main

import (
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"brightchalk/internal/media"
	"bufio"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"strings"
	"text/tabwriter"
)

func parse(f *flag.FlagSet, args []string) error {
	if err := f.Parse(args); err != nil {
		return usageError{err}
	}
	return nil
}

type coreFlags struct {
	*flag.FlagSet
	accent *string
	json   *bool
}

func newCoreFlags(name string) coreFlags {
	f := newFlags(name)
	return coreFlags{f, f.String("accent", "", ""), f.Bool("json", false, "")}
}

func (f coreFlags) read(args []string) (phoneme.Accent, error) {
	// Flags may stand behind the words too.
	var flags, rest []string
	for i := 0; i < len(args); i++ {
		if args[i] == "--" {
			rest = append(rest, args[i+1:]...)
			break
		}
		if !strings.HasPrefix(args[i], "-") || args[i] == "-" {
			rest = append(rest, args[i])
			continue
		}
		flags = append(flags, args[i])
		name := strings.TrimLeft(args[i], "-")
		if known := f.Lookup(name); known != nil && i+1 < len(args) {
			if b, ok := known.Value.(interface{ IsBoolFlag() bool }); !ok || !b.IsBoolFlag() {
				i++
				flags = append(flags, args[i])
			}
		}
	}
	if err := parse(f.FlagSet, append(append(flags, "--"), rest...)); err != nil {
		return "", err
	}
	return phoneme.ParseAccent(*f.accent)
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

func sounds(std stdio, args []string) error {
	f := newCoreFlags("sounds")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	p := newPrinter(std, *f.json)
	for _, s := range phoneme.Inventory(accent) {
		voice := map[bool]string{true: "voiced", false: "unvoiced"}[s.Voiced]
		hold := map[bool]string{true: "stretch", false: "short"}[s.Stretchable]
		if err := p.row(s, string(s.Phoneme), s.KeyWord, voice, string(s.Manner), s.Place, hold); err != nil {
			return err
		}
	}
	return p.close()
}

func segment(std stdio, args []string) error {
	f := newCoreFlags("segment")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	list := f.Args()
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
	p := newPrinter(std, *f.json)
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
		if err := p.row(s, w, strings.Join(parts, " "), fmt.Sprintf("%d sounds", s.Sounds), string(s.Source)); err != nil {
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

func findWords(std stdio, args []string) error {
	f := newCoreFlags("words")
	taught, order, upto := f.String("taught", "", ""), f.String("order", "", ""), f.String("upto", "", "")
	soundCount, syllables, known, apart := f.Int(
		"sounds",
		0,
		"",
	), f.Int(
		"syllables",
		0,
		"",
	), f.Int(
		"familiarity",
		0,
		"",
	), f.Bool(
		"no-homophones",
		false,
		"",
	)
	target, position, frame := f.String("target", "", ""), f.String("position", "", ""), f.String("frame", "", "")
	pictures, limit := f.Bool("pictures", false, ""), f.Int("limit", 0, "")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	if *taught == "" && *order == "" {
		return usageError{errors.New("say what is taught: --taught PAIRS, or --order FILE --upto PAIR")}
	}
	q := words.Query{
		Frame:        strings.ToUpper(*frame),
		WithPicture:  *pictures,
		Limit:        *limit,
		MinSounds:    *soundCount,
		MaxSounds:    *soundCount,
		Syllables:    *syllables,
		Familiarity:  *known,
		NoHomophones: *apart,
	}
	if q.Taught, err = taughtSet(accent, *taught, *order, *upto); err != nil {
		return err
	}
	if strings.Trim(q.Frame, "CV") != "" {
		return fmt.Errorf("the frame %q is not made of C and V", *frame)
	}
	if q.Position, err = words.ParsePosition(*position); err != nil {
		return err
	}
	if *target != "" {
		p, err := spelling.ParsePair(accent, *target)
		if err != nil {
			return err
		}
		if !q.Taught[p] {
			return fmt.Errorf("the target %s is not among the taught pairs", p)
		}
		q.Target = &p
	}
	p := newPrinter(std, *f.json)
	found := words.Find(q, words.Options{Accent: accent})
	for _, c := range found {
		if err := p.row(c, c.Word, c.Frame, c.Because); err != nil {
			return err
		}
	}
	if len(found) == 0 {
		fmt.Fprintln(std.err, "no word fits; fewer limits (frame, position, pictures) or more taught pairs would help")
	}
	return p.close()
}

func checkText(std stdio, args []string) error {
	f := newCoreFlags("check-text")
	taught, exceptions := f.String("taught", "", ""), f.String("exceptions", "", "")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	if f.NArg() != 1 {
		return usageError{errors.New("name one file, or - for standard input")}
	}
	set, err := spelling.ParsePairs(accent, *taught)
	if err != nil {
		return err
	}
	text, err := readInput(std, f.Arg(0))
	if err != nil {
		return err
	}
	r := texts.Check(string(text), set, wordSet(*exceptions), texts.Options{Accent: accent})
	p := newPrinter(std, *f.json)
	if *f.json {
		return p.row(r)
	}
	for _, t := range r.Tokens {
		if err := p.row(nil, t.Text, string(t.Status), strings.Join(t.Untaught, " ")); err != nil {
			return err
		}
	}
	if err := p.row(nil, fmt.Sprintf("%.0f %% decodable", r.Decodable*100), strings.Join(r.Remarks, " ")); err != nil {
		return err
	}
	return p.close()
}

func sortGame(std stdio, args []string) error {
	f := newCoreFlags("sort")
	list, per := f.String("sounds", "", ""), f.Int("per", 4, "")
	position, seed := f.String("position", "initial", ""), f.Uint64("seed", 1, "")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	if *list == "" {
		return usageError{errors.New("say which sounds: --sounds m,s")}
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
	baskets, err := words.Sort(targets, *per, at, words.Options{Accent: accent}, rand.New(rand.NewPCG(*seed, 17)))
	if err != nil {
		return err
	}
	p := newPrinter(std, *f.json)
	for _, b := range baskets {
		if err := p.row(b, string(b.Sound), strings.Join(b.Pictures, " ")); err != nil {
			return err
		}
	}
	return p.close()
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
		return "", fmt.Errorf("%q is %d sounds, %s: a game for the ear asks for one of them", text, len(ps), spoken(ps))
	}
	return ps[0], nil
}

func spoken(ps []phoneme.Phoneme) string {
	out := make([]string, len(ps))
	for i, p := range ps {
		out[i] = "/" + string(p) + "/"
	}
	return strings.Join(out, " and ")
}

func judgeRecordings(std stdio, args []string) error {
	f := newCoreFlags("recording")
	sound := f.String("sound", "", "")
	accent, err := f.read(args)
	if err != nil {
		return err
	}
	if *sound == "" || f.NArg() == 0 {
		return usageError{errors.New("say which sound and which files: --sound m FILE.wav")}
	}
	target, err := recordingTarget(accent, *sound)
	if err != nil {
		return err
	}
	p := newPrinter(std, *f.json)
	var firstWrong error
	for _, name := range f.Args() {
		data, err := readInput(std, name)
		var clip recording.Clip
		if err == nil {
			clip, err = media.DecodeSound(data)
		}
		if err != nil {
			if firstWrong == nil {
				firstWrong = fmt.Errorf("%s: %w", name, err)
			}
			continue
		}
		r := recording.Judge(clip, target)
		out := struct {
			File string `json:"file"`
			recording.Report
		}{name, r}
		if err := p.row(out, name, string(r.Verdict), r.Advice); err != nil {
			return err
		}
	}
	if err := p.close(); err != nil {
		return err
	}
	return firstWrong
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

const maxInput = 32 << 20

func readInput(std stdio, name string) ([]byte, error) {
	if name == "-" {
		return readLimited(std.in)
	}
	info, err := os.Stat(name)
	switch {
	case err != nil:
		return nil, fmt.Errorf("%s cannot be opened", name)
	case info.IsDir():
		return nil, fmt.Errorf("%s is a folder", name)
	case info.Size() > maxInput:
		return nil, fmt.Errorf("%s is larger than %d MB", name, maxInput>>20)
	}
	return os.ReadFile(name)
}

func readLimited(r io.Reader) ([]byte, error) {
	data, err := io.ReadAll(io.LimitReader(r, maxInput+1))
	if err == nil && len(data) > maxInput {
		err = fmt.Errorf("the input is larger than %d MB", maxInput>>20)
	}
	return data, err
}
