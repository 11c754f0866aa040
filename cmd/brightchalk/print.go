package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"strings"
	"time"
	"unicode"

	"github.com/spf13/cobra"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/render"
)

// printFlags are what is printed, and where to.
type printFlags struct {
	*coreFlags
	sheet, text, lesson, paper, line, out string
	list                                  bool
	size                                  float64
}

func printCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "print", Short: "Print a practice sheet, or any sheet of a lesson, as PDF",
		Args: takes(0, 0, "say: brightchalk print --lesson FILE.json --sheet NAME -o FILE.pdf"),
	}
	f := printFlags{coreFlags: addCoreFlags(c)}
	flags := c.Flags()
	flags.StringVar(&f.sheet, "sheet", "", "the sheet; all: every sheet for which the lesson has something")
	flags.StringVar(&f.text, "text", "", "letters and words of a practice sheet, with spaces between them")
	flags.StringVar(&f.lesson, "lesson", "", "a lesson as brightchalk lesson --json prints it; - reads standard input")
	flags.StringVar(&f.paper, "paper", "A4", "A4 or Letter")
	flags.StringVar(&f.line, "line", "", "the school's line in a family's language, for the home sheet")
	flags.Float64Var(&f.size, "size", 8, "height of the small letters in millimetres, 3 to 30")
	flags.StringVarP(&f.out, "output", "o", "", "the PDF file; - writes to standard output")
	flags.BoolVar(&f.list, "list", false, "name the sheets")
	c.RunE = func(*cobra.Command, []string) error { return f.run(std) }
	return c
}

func (f printFlags) run(std stdio) error {
	if f.list {
		return rows(
			std,
			f.json,
			render.Sheets(),
			func(s render.Sheet) []string { return []string{s.Name, string(s.Use), s.Title} },
		)
	}
	if f.paper != "A4" && f.paper != "Letter" {
		return usage("unknown paper %q: choose A4 or Letter", f.paper)
	}
	if f.out == "" {
		return usage("name the file to write: -o FILE.pdf")
	}
	if (f.text == "") == (f.lesson == "") {
		return usage("say what to print: --sheet practice --text WORDS, or --sheet NAME --lesson FILE.json")
	}
	if f.size < 3 || f.size > 30 {
		return fmt.Errorf("small letters are 3 to 30 mm high, not %g", f.size)
	}
	var out bytes.Buffer
	var err error
	if f.text != "" {
		err = f.practice(&out)
	} else {
		err = f.ofLesson(std, &out)
	}
	if err != nil {
		return err
	}
	if f.out == "-" {
		_, err = std.out.Write(out.Bytes())
		return err
	}
	return os.WriteFile(f.out, out.Bytes(), 0o644) //nolint:gosec // a page to be printed is no secret
}

// maxPractised is how many letters or words one practice sheet takes.
const maxPractised = 24

func (f printFlags) practice(out *bytes.Buffer) error {
	if f.sheet != "" && f.sheet != "practice" {
		return usage("--text goes with --sheet practice; for %q name a lesson", f.sheet)
	}
	list := strings.FieldsFunc(f.text, func(r rune) bool { return r == ',' || unicode.IsSpace(r) })
	if len(list) == 0 || len(list) > maxPractised {
		return fmt.Errorf("a practice sheet takes 1 to %d letters or words, not %d", maxPractised, len(list))
	}
	accent, err := f.parse()
	if err != nil {
		return err
	}
	p := render.PracticeSheet{HeightMM: f.size, Trace: true}
	for _, text := range list {
		w, err := strokes.CommonLines().Write(text, nil, nil)
		if err != nil {
			return err
		}
		_, err = spelling.ParsePair(accent, text)
		w.Group = w.Group && err == nil // a word is not underlined
		p.Forms = append(p.Forms, w)
	}
	return render.Practice(out, p, render.PaperOf(f.paper))
}

func (f printFlags) ofLesson(std stdio, out *bytes.Buffer) error {
	if f.sheet == "" {
		return usage("say which sheet: --sheet NAME, or all; brightchalk print --list names them")
	}
	data, err := readInput(std, f.lesson)
	if err != nil {
		return err
	}
	l, err := readLesson(data)
	if err != nil {
		return fmt.Errorf("%s: %w", f.lesson, err)
	}
	accent, err := f.parse()
	if err != nil {
		return err
	}
	if l.Accent != "" {
		accent = l.Accent
	}
	h := render.Handout{
		Lesson:   l,
		Options:  handout.Options{Speech: lexicon.Speech{Accent: accent}},
		HeightMM: l.LineHeightMM,
		HomeLine: f.line,
		Mouths:   map[string]mouth.Drawing{},
		Capitals: map[string]strokes.Written{},
		Head:     render.PlanHead{Class: "our class", Made: time.Now()},
	}
	for id, c := range l.Cards {
		if upper := strokes.CommonLines().
			Drawn(strings.ToUpper(c.Pair.Grapheme), nil); c.Pair.Letters() == 1 &&
			upper != nil {
			h.Capitals[id] = *upper
		}
	}
	if d, err := mouth.Draw(accent, l.Target().Pair.Sound); err == nil && len(l.Targets) == 1 {
		h.Mouths[l.Targets[0]] = d
	}
	return render.Print(out, h, f.sheet, render.PaperOf(f.paper))
}

// readLesson reads what brightchalk lesson --json prints. Steps that were changed by hand in the file count: their
// names, seconds, lines and items are those of the file.
func readLesson(data []byte) (lesson.Lesson, error) {
	var view lessonView
	if err := json.Unmarshal(data, &view); err != nil {
		return lesson.Lesson{}, errors.New("this is no lesson: it is not one JSON object")
	}
	if len(view.Document) == 0 {
		return lesson.Lesson{}, errors.New("this lesson has no document; print it anew with brightchalk lesson --json")
	}
	l, err := lesson.Documents.Read(view.Document)
	if err != nil {
		return l, err
	}
	if len(view.Steps) != len(l.Steps) {
		return l, fmt.Errorf("it has %d steps, its document has %d: steps can be changed by hand, not added or removed",
			len(view.Steps), len(l.Steps))
	}
	for i, s := range view.Steps {
		to := &l.Steps[i]
		to.Name, to.Seconds, to.Adult, to.Class = s.Name, s.Seconds, s.Adult, s.Class
		to.Items = to.Items[:min(len(to.Items), len(s.Items))]
		for k, it := range s.Items {
			if k >= len(to.Items) {
				to.Items = append(to.Items, lesson.Item{Kind: it.Kind})
			}
			if it.Kind != lesson.CardItem {
				to.Items[k].Kind, to.Items[k].Value = it.Kind, it.Value
			}
			to.Items[k].Role, to.Items[k].Position, to.Items[k].Basket = it.Role, it.Position, it.Basket
			to.Items[k].Detail = it.Detail
		}
		assembly.Bits(&l, convention.Conventions{Accent: l.Accent}.Speech(), to.Items...)
	}
	return l, nil
}
