package render_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/render"
)

const pointsPerMm = 72 / 25.4

func run(t *testing.T, data []byte, tool string, args ...string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err := exec.Command(tool, append(args, file, "-")...).Output()
	require.NoError(t, err)
	return string(out)
}

// boxes finds a word's boxes on a page, in millimetres: left, top, right, bottom.
func boxes(t *testing.T, data []byte, word string) [][4]float64 {
	t.Helper()
	var out [][4]float64
	box := regexp.MustCompile(
		`xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">` + regexp.QuoteMeta(word) + `<`,
	)
	for _, m := range box.FindAllStringSubmatch(run(t, data, "pdftotext", "-bbox"), -1) {
		var b [4]float64
		for i := range b {
			v, err := strconv.ParseFloat(m[i+1], 64)
			require.NoError(t, err)
			b[i] = v / pointsPerMm
		}
		out = append(out, b)
	}
	return out
}

func face(g, keyword string) render.Face {
	return render.Face{
		Pair:    spelling.Pair{Grapheme: g, Sound: "x"},
		Keyword: keyword,
		Rhyme:   "Rhyme " + keyword,
		Action:  "Act.",
	}
}

func cards(t *testing.T, faces []render.Face, layout render.Layout, paper render.Paper) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, render.Cards(&out, faces, layout, render.Large, paper))
	return out.Bytes()
}

// The letter of the first card of a page stands in the middle of a card of 90 by 120 mm that is centred with
// its three fellows on the sheet.
func TestCardsAreAtTrueSize(t *testing.T) {
	for name, paper := range map[string]render.Paper{"A4": render.A4, "Letter": render.Letter} {
		data := cards(
			t,
			[]render.Face{face("m", "market"), face("s", "soup"), face("t", "tiller"), face("a", "axle")},
			render.Duplex,
			paper,
		)
		m, s := boxes(t, data, "m")[0], boxes(t, data, "s")[0]
		tt := boxes(t, data, "t")[0]
		middle := func(b [4]float64) float64 { return (b[0] + b[2]) / 2 }
		assert.InDelta(t, paper.Width/2-render.Large.Width/2, middle(m), 0.5, name)
		assert.InDelta(t, render.Large.Width, middle(s)-middle(m), 0.5, "%s: one card further right", name)
		assert.InDelta(t, render.Large.Height, tt[1]-m[1], 0.5, "%s: one card further down", name)
	}
}

// The picture side is printed mirrored, so that it lies behind its letter when the sheet is turned on its long edge.
func TestBackIsMirrored(t *testing.T) {
	data := cards(t, []render.Face{face("m", "market"), face("s", "soup")}, render.Duplex, render.A4)
	front := boxes(t, data, "m")[0]
	back := boxes(t, data, "market")
	require.NotEmpty(t, back)
	last := back[len(back)-1] // the rhyme on the picture side
	assert.Less(t, front[0], render.A4.Width/2)
	assert.Greater(t, last[0], render.A4.Width/2)
}

func TestPagesAndFonts(t *testing.T) {
	many := make([]render.Face, 9)
	for i := range many {
		many[i] = face("igh", "light")
	}
	pages := func(data []byte) int {
		m := regexp.MustCompile(`Pages:\s+(\d+)`).FindStringSubmatch(string(info(t, data)))
		n, _ := strconv.Atoi(m[1])
		return n
	}
	assert.Equal(t, 6, pages(cards(t, many, render.Duplex, render.A4)), "9 cards: 3 sheets, both sides")
	assert.Equal(t, 5, pages(cards(t, many, render.Fold, render.A4)), "9 cards: two to a page")
	fonts := fonts(t, cards(t, many, render.Fold, render.A4))
	assert.Contains(t, fonts, "hand-regular")
	for line := range strings.Lines(fonts) {
		if f := strings.Fields(line); len(f) > 5 && strings.Contains(line, "TrueType") {
			assert.Contains(t, line, "yes", "embedded: %s", line)
		}
	}
}

// Several documents are made at once, each with its own fonts: the words of each stand on its own pages.
func TestSeveralAtOnce(t *testing.T) {
	words := []string{"light", "ship", "queen", "brush", "jazz", "vixen"}
	out := make([]bytes.Buffer, 24)
	var all sync.WaitGroup
	for i := range out {
		all.Go(func() {
			w := words[i%len(words)]
			assert.NoError(t, render.Cards(&out[i], []render.Face{face("igh", w)}, render.Fold, render.Large, render.A4))
		})
	}
	all.Wait()
	for i := range out {
		for k, w := range words {
			there := len(boxes(t, out[i].Bytes(), w)) > 0
			assert.Equal(t, k == i%len(words), there, "%s in the document of %s", w, words[i%len(words)])
		}
	}
}

func info(t *testing.T, data []byte) []byte { return tool(t, data, "pdfinfo") }

func fonts(t *testing.T, data []byte) string { return string(tool(t, data, "pdffonts")) }

func tool(t *testing.T, data []byte, name string) []byte {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err := exec.Command(name, file).Output()
	require.NoError(t, err)
	return out
}

// A picture that cannot be drawn, a rhyme without end, a long grapheme: said or shrunk, never a torn page.
func TestOddCards(t *testing.T) {
	broken := face("eigh", "eight")
	broken.Picture = &render.Image{MediaType: "image/svg+xml", Bytes: []byte("<svg")}
	broken.Rhyme = strings.Repeat("on and on and ", 30)
	noPixels := face("a-e", "")
	noPixels.Picture = &render.Image{MediaType: "image/png", Bytes: []byte("nothing")}
	data := cards(t, []render.Face{broken, noPixels, face("m", "")}, render.Fold, render.A4)
	text := run(t, data, "pdftotext")
	assert.Contains(t, text, "cannot be printed")
	assert.Contains(t, text, "Needs a picture")
	for _, b := range boxes(t, data, "eigh") {
		assert.Less(t, b[2]-b[0], render.Large.Width, "the grapheme stays on its card")
	}
}

func TestPlanBreaksIntoPages(t *testing.T) {
	in := lesson.Lesson{
		Targets: []string{"sh"},
		Minutes: 20,
		Notes:   []lesson.Reason{{Text: "A note."}},
		Dropped: []lesson.Dropped{{Name: "Sentence", Reason: lesson.Reason{Text: "none fits"}}},
		Cards: map[string]lesson.CardFace{
			"sh": {Pair: spelling.Pair{Grapheme: "sh", Sound: "ʃ"}, Keyword: "shed"},
		},
	}
	for i := range 30 {
		in.Steps = append(
			in.Steps,
			lesson.Step{
				Kind:    lesson.Read,
				Name:    "Step" + strconv.Itoa(i),
				Seconds: 40,
				Adult:   []string{strings.Repeat("Say this. ", 20)},
				Class:   []string{"Says it."},
				Items: []lesson.Item{
					{Kind: lesson.WordItem, Option: lesson.Option{Value: "ship"}},
					{Kind: lesson.WordItem, Option: lesson.Option{Value: "fish"}},
				},
			},
		)
	}
	var out bytes.Buffer
	require.NoError(
		t,
		render.Print(
			&out,
			render.Handout{
				Lesson: in,
				Head:   render.PlanHead{Team: "T", Class: "Heron class", Made: time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC)},
			},
			"plan",
			render.A4,
		),
	)
	text := run(t, out.Bytes(), "pdftotext", "-layout")
	for i := range 30 {
		assert.Contains(t, text, "Step"+strconv.Itoa(i))
	}
	assert.Contains(t, text, "ship · fish")
	assert.Contains(t, text, "Left out")
	assert.Regexp(t, `20:00\s+end`, text)
	for _, b := range boxes(t, out.Bytes(), "Step29") {
		assert.Less(t, b[3], 297.0-10, "nothing hangs over the foot of the page")
	}
	assert.Contains(t, string(info(t, out.Bytes())), "Lesson on sh for Heron class")
}
