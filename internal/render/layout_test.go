package render_test

import (
	"bytes"
	"compress/zlib"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/render"
	"brightchalk/test/trial"
)

// handoutOf is a lesson with all that the application prints with it.
func handoutOf(l lesson.Lesson, accent phoneme.Accent) render.Handout {
	h := render.Handout{
		Lesson: l, Options: handout.Options{Speech: lexicon.Speech{Accent: accent}}, HeightMM: 8,
		Mouths: map[string]mouth.Drawing{}, Capitals: map[string]strokes.Written{},
		Head: render.PlanHead{Team: "Lockhouse", Class: "Heron class", Made: time.Date(2026, 12, 1, 0, 0, 0, 0, time.UTC)},
	}
	for id, c := range l.Cards {
		if upper := strokes.CommonLines().
			Drawn(strings.ToUpper(c.Pair.Grapheme), nil); c.Pair.Letters() == 1 &&
			upper != nil {
			h.Capitals[id] = *upper
		}
	}
	if len(l.Targets) == 1 {
		if d, err := mouth.Draw(accent, l.Target().Pair.Sound); err == nil {
			h.Mouths[l.Targets[0]] = d
		}
	}
	return h
}

// word is a word of a page with its box in millimetres from the upper left.
type word struct {
	text           string
	x0, y0, x1, y1 float64
}

var (
	pageTag = regexp.MustCompile(`<page width="([\d.]+)" height="([\d.]+)">`)
	wordTag = regexp.MustCompile(`<word xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">(.*?)</word>`)
)

// splitWords are the words of each page as poppler's pdftotext finds them, with the sizes of the pages.
func wordsOf(t *testing.T, pdf []byte) (pages [][]word, sizes [][2]float64) {
	t.Helper()
	for line := range strings.Lines(run(t, pdf, "pdftotext", "-bbox-layout")) {
		if m := pageTag.FindStringSubmatch(line); m != nil {
			pages = append(pages, nil)
			sizes = append(sizes, [2]float64{millimetres(m[1]), millimetres(m[2])})
		}
		for _, m := range wordTag.FindAllStringSubmatch(line, -1) {
			w := word{m[5], millimetres(m[1]), millimetres(m[2]), millimetres(m[3]), millimetres(m[4])}
			pages[len(pages)-1] = append(pages[len(pages)-1], w)
		}
	}
	return pages, sizes
}

func millimetres(text string) float64 {
	v, _ := strconv.ParseFloat(text, 64)
	return v / pointsPerMm
}

// core is the part of a box that letters fill: the fonts' own boxes hold room for accents and tails too.
func (w word) core() word {
	tall := w.y1 - w.y0
	if len([]rune(w.text)) > 2 && tall > 3*(w.x1-w.x0) { // it stands upright, along an edge
		return w
	}
	return word{w.text, w.x0 + 0.1, w.y0 + 0.36*tall, w.x1 - 0.1, w.y1 - 0.3*tall}
}

func overlap(a, b word) bool {
	return a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1
}

// assertLayout says of every page: no text lies over another, none leaves the paper's printable part, and none is
// smaller than 8 points.
func assertLayout(t *testing.T, name string, pdf []byte) {
	t.Helper()
	const printable = 4.0 // millimetres at each edge that no printer reaches
	pages, sizes := wordsOf(t, pdf)
	require.NotEmpty(t, pages, name)
	for n, words := range pages {
		for i, a := range words {
			inside := a.x0 >= printable && a.x1 <= sizes[n][0]-printable && a.core().y0 >= printable &&
				a.core().y1 <= sizes[n][1]-printable
			assert.True(
				t,
				inside,
				"%s, page %d: %q leaves the margins: %.1f %.1f %.1f %.1f",
				name,
				n+1,
				a.text,
				a.x0,
				a.y0,
				a.x1,
				a.y1,
			)
			for _, b := range words[i+1:] {
				assert.False(t, overlap(a.core(), b.core()), "%s, page %d: %q lies over %q", name, n+1, a.text, b.text)
			}
		}
	}
	for _, size := range textSizes(t, pdf) {
		assert.GreaterOrEqual(t, size, 8.0, "%s: points", name)
	}
}

var (
	streamTag = regexp.MustCompile(`(?s)stream\r?\n(.*?)\r?\nendstream`)
	fontSize  = regexp.MustCompile(`/F[0-9a-f]+ ([\d.]+) Tf`)
)

// textSizes are the sizes that the pages of a PDF set text in, in points.
func textSizes(t *testing.T, pdf []byte) []float64 {
	t.Helper()
	var out []float64
	for _, m := range streamTag.FindAllSubmatch(pdf, -1) {
		r, err := zlib.NewReader(bytes.NewReader(m[1]))
		if err != nil {
			continue
		}
		content, err := io.ReadAll(r)
		if err != nil && !errors.Is(err, io.ErrUnexpectedEOF) {
			continue
		}
		for _, s := range fontSize.FindAllSubmatch(content, -1) {
			v, _ := strconv.ParseFloat(string(s[1]), 64)
			out = append(out, v)
		}
	}
	require.NotEmpty(t, out, "no text was found in the PDF")
	return out
}

// sampleLessons are lessons of all purposes with one to twelve targets, early and late, in four accents.
func sampleLessons(t *testing.T) map[string]assembly.Input {
	t.Helper()
	out := map[string]assembly.Input{}
	for i, l := range trial.Lessons(t) {
		out[fmt.Sprintf("%02d %s", i, l.Name)] = l.In
	}
	many := strings.Fields("t a m s i n p o d h c e")
	for i, n := range []int{8, 14, 20, 24, 28} {
		for _, p := range []lesson.Purpose{lesson.Introduce, lesson.Again, lesson.Revise, lesson.Compare, lesson.CatchUp} {
			targets := map[lesson.Purpose][]string{
				lesson.Introduce: trial.Order[n : n+1+i%2], lesson.Again: trial.Order[n-1-i%4 : n],
				lesson.Revise: many[:min(12, 6+2*i)], lesson.Compare: trial.Order[n-2 : n], lesson.CatchUp: trial.Order[n-1 : n],
			}[p]
			in := trial.Taught(t, n, p, targets...)
			in.Seed = uint64(10*i + 1)
			out[fmt.Sprintf("%s after %d", p, n)] = in
		}
	}
	return out
}

// Over lessons of all purposes, all sheets: no two texts overlap, none leaves the margins, nothing is tiny.
func TestNoTextOverlapsOrLeavesThePage(t *testing.T) {
	inputs := sampleLessons(t)
	assert.GreaterOrEqual(t, len(inputs), 60)
	var all sync.WaitGroup
	turn := make(chan struct{}, 2)
	printedAny := sync.Map{}
	for i, name := range slices.Sorted(maps.Keys(inputs)) {
		if testing.Short() && i%6 != 0 {
			continue
		}
		in := inputs[name]
		all.Go(func() {
			turn <- struct{}{}
			defer func() { <-turn }()
			l, err := assembly.Assemble(in)
			if err != nil {
				return // an input that is refused is tested where it is refused
			}
			pdf, lines, err := render.Meant(handoutOf(l, in.Conventions.Accent), render.All, render.A4)
			if !assert.NoError(t, err, name) {
				return
			}
			assertLayout(t, name, pdf)
			assert.Equal(
				t,
				signsOf(strings.Join(lines, "")),
				signsOf(run(t, pdf, "pdftotext")),
				"%s: every sign that was meant",
				name,
			)
			printedAny.Store(name, true)
		})
	}
	all.Wait()
	n := 0
	printedAny.Range(func(any, any) bool { n++; return true })
	if testing.Short() {
		assert.GreaterOrEqual(t, n, 10, "lessons that were printed")
		return
	}
	assert.GreaterOrEqual(t, n, 60, "lessons that were printed")
}

// For every pair of the four accents the text that can be copied out of a sheet is the text that was meant, sign for
// sign: no phonetic sign vanishes.
func TestEverySignOfEverySheetCanBeCopied(t *testing.T) {
	for i, accent := range phoneme.Accents {
		t.Run(string(accent), func(t *testing.T) {
			if testing.Short() && i > 0 {
				t.Skip("runs with ./chalk nightly")
			}
			t.Parallel()
			cards := map[string]lesson.CardFace{}
			var targets []string
			for _, row := range spelling.Table(accent) {
				p := spelling.Pair{Grapheme: row.Grapheme, Sound: row.Sound}
				id := p.String()
				if _, twice := cards[id]; twice {
					continue
				}
				targets = append(targets, id)
				cue, slip := card.SuggestCue(accent, p)
				cards[id] = lesson.CardFace{ID: id, Pair: p, MouthCue: cue, Slip: slip}
			}
			require.Greater(t, len(targets), 100)
			for chunk := 0; chunk < len(targets); chunk += 12 {
				part := targets[chunk:min(chunk+12, len(targets))]
				l := lesson.Lesson{Purpose: lesson.Revise, Accent: accent, Targets: part, Cards: cards}
				for _, id := range part {
					f := cards[id]
					l.Steps = append(l.Steps, lesson.Step{
						Kind: lesson.Listen, Name: f.Pair.String(), Adult: []string{
							"Play the recording of /" + f.Pair.Sound + "/.", f.MouthCue, f.Slip,
							"Blend: " + strings.Join(strings.Split(f.Pair.Sound, ""), " – ") + ".",
						},
					})
				}
				h := handoutOf(l, accent)
				for _, sheet := range []string{"plan", "home"} {
					pdf, lines, err := render.Meant(h, sheet, render.A4)
					require.NoError(t, err)
					got := unspaced(run(t, pdf, "pdftotext", "-raw"))
					assert.Equal(t, unspaced(strings.Join(lines, "\n")), got, "%s of %s", sheet, strings.Join(part, " "))
					assert.NotContains(t, strings.Join(lines, " "), "Not in the fonts", "every sign of the accent is in the fonts")
				}
			}
		})
	}
}

// signsOf counts the signs of a text, without white space: what stands on its head or along an edge is read in another
// order.
func signsOf(text string) map[rune]int {
	out := map[rune]int{}
	for _, r := range unspaced(text) {
		out[r]++
	}
	return out
}

// unspaced is a text without white space and page breaks: how far words stand apart is for the eye.
func unspaced(text string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsSpace(r) || r == '\f' {
			return -1
		}
		return r
	}, text)
}

// What is too long, too many, missing, or in letters that no font has: the page stays whole and names what it cannot
// draw.
func TestAwkwardInputKeepsThePageWhole(t *testing.T) {
	base := sampleHandout(t)
	for name, change := range map[string]func(h *render.Handout){
		"a word of thirty letters": func(h *render.Handout) {
			for i := range h.Lesson.Steps {
				for k := range h.Lesson.Steps[i].Items {
					if it := &h.Lesson.Steps[i].Items[k]; it.Kind == lesson.WordItem {
						it.Value = strings.Repeat("abcde", 6)
					}
				}
			}
		},
		"a routine name of eighty": func(h *render.Handout) {
			h.Lesson.Routine = strings.Repeat("Our long way ", 6) + "ok"
			h.Lesson.Steps[0].Name = strings.Repeat("Listening ", 8)
			h.Head.Class = strings.Repeat("Heron and Otter ", 5)
		},
		"twelve targets": func(h *render.Handout) {
			h.Lesson.Targets = nil
			for i, g := range strings.Fields("igh eigh ough tch dge air ear ure oo ch sh th") {
				id := strconv.Itoa(i)
				h.Lesson.Targets = append(h.Lesson.Targets, id)
				h.Lesson.Cards[id] = lesson.CardFace{ID: id, Pair: spelling.Pair{Grapheme: g, Sound: "m"}, Keyword: "lighthouse"}
			}
		},
		"a card without picture and strokes": func(h *render.Handout) {
			h.Lesson.Cards["b"] = lesson.CardFace{ID: "b", Pair: spelling.Pair{Grapheme: "b", Sound: "b"}, Keyword: "zzqx"}
		},
	} {
		h := base
		h.Lesson.Steps = append([]lesson.Step{}, base.Lesson.Steps...)
		for i := range h.Lesson.Steps {
			h.Lesson.Steps[i].Items = append([]lesson.Item{}, base.Lesson.Steps[i].Items...)
		}
		h.Lesson.Cards = map[string]lesson.CardFace{"b": base.Lesson.Cards["b"]}
		change(&h)
		assertLayout(t, name, printed(t, h, render.All, render.A4))
	}
	h := base
	h.Head.Class = "صف البلشون"
	assert.Contains(
		t,
		run(t, printed(t, h, "plan", render.A4), "pdftotext"),
		"Not in the fonts for printing, shown as boxes: Arabic letters",
	)
	h.Head.Class = "Heron 🦆"
	text := run(t, printed(t, h, "plan", render.A4), "pdftotext")
	assert.Contains(t, text, "the sign U+1F986")
	assert.Contains(t, text, "Heron")
}

// The PDF says what it is: title, language, and an outline with a line for each sheet.
func TestThePDFSaysWhatItIs(t *testing.T) {
	data := printed(t, sampleHandout(t), render.All, render.A4)
	assert.Contains(t, string(info(t, data)), "Lesson on b for Heron class")
	assert.Contains(t, string(data), "/Lang (en-GB)")
	dir := t.TempDir()
	file := filepath.Join(dir, "x.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err := exec.Command("pdftohtml", "-xml", "-i", "-stdout", file).Output()
	require.NoError(t, err)
	outline := string(out[strings.Index(string(out), "<outline>"):])
	for _, title := range []string{"The plan to teach from", "Home sheet", "Word bank"} {
		assert.Contains(t, outline, title)
	}
}

// The PDF is tagged: a screen reader finds headings, paragraphs in their order, and pictures with their names; poppler
// has nothing to complain of.
func TestThePDFCanBeReadOut(t *testing.T) {
	file := filepath.Join(t.TempDir(), "x.pdf")
	data := printed(t, sampleHandout(t), render.All, render.A4)
	require.NoError(t, os.WriteFile(file, data, 0o600))
	assert.Regexp(t, `Tagged:\s+yes`, string(info(t, data)))
	read := exec.Command("pdfinfo", "-struct-text", file)
	var complaints bytes.Buffer
	read.Stderr = &complaints
	out, err := read.Output()
	require.NoError(t, err)
	assert.Empty(t, complaints.String())
	structure := string(out)
	assert.Regexp(t, `H1 \(block\)\s+"First or last: where is b as in barrel\?"`, structure)
	assert.Regexp(t, `H2 \(block\)\s+"Sentence"`, structure)
	assert.Contains(
		t,
		structure,
		`Let your child say each sound and join them. If a word does not come, read it together.`,
	)
	assert.Contains(t, structure, "Figure")
	plain, err := exec.Command("pdftotext", file, "-").CombinedOutput()
	require.NoError(t, err)
	assert.NotContains(t, string(plain), "Syntax Error")
}

// A print of a week is sorted by use and says on its cover on which page each sheet begins.
func TestAWeekIsSortedByUseBehindItsCover(t *testing.T) {
	one, two := sampleHandout(t), sampleHandout(t)
	two.Head.Class = "Otter class"
	var out bytes.Buffer
	require.NoError(t, render.PrintDays(&out, render.Days{
		Team: "Lockhouse", Title: "Week of Monday 7 December 2026", Paper: render.A4,
		Lessons: []render.DayLesson{{Day: "Monday 7 December", Handout: one}, {Day: "Tuesday 8 December", Handout: two}},
		Missing: []string{"Heron class, Wednesday 9 December: introduce ow"},
	}))
	cover := run(t, out.Bytes(), "pdftotext", "-layout", "-f", "1", "-l", "1")
	assert.NotContains(t, cover, "A box to fold", "what is made once is not printed each day")
	assert.Contains(t, run(t, out.Bytes(), "pdftotext", "-f", "1", "-l", "2"), "Wednesday 9 December: introduce ow")
	teach, home := strings.Index(cover, "To teach from"), strings.Index(cover, "To take home")
	require.Positive(t, teach)
	assert.Greater(t, home, teach)
	found := regexp.MustCompile(`Home sheet, Tuesday 8 December, Otter class: b\s+pages? (\d+)`).FindStringSubmatch(
		run(t, out.Bytes(), "pdftotext", "-layout", "-f", "1", "-l", "2"))
	require.Len(t, found, 2)
	there := run(t, out.Bytes(), "pdftotext", "-f", found[1], "-l", found[1])
	assert.Contains(t, there, "Our new sound")
	assert.Contains(t, there, "Otter class")
}
