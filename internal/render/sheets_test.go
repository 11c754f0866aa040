package render_test

import (
	"bytes"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/render"
)

func handout(t *testing.T) render.Handout {
	t.Helper()
	lines := strokes.CommonLines()
	b, err := lines.Write("b", nil, nil)
	require.NoError(t, err)
	capital, err := lines.Write("B", nil, nil)
	require.NoError(t, err)
	choice := func(slot, kind, value string, basket lesson.Basket) lesson.Item {
		return lesson.Item{Slot: slot, Kind: lesson.ItemKind(kind), Option: lesson.Option{Value: value, Basket: basket}}
	}
	in := lesson.Lesson{
		Minutes: 20,
		Targets: []string{"b"},
		Cards: map[string]lesson.CardFace{"b": {
			Pair: spelling.Pair{Grapheme: "b", Sound: "b"}, Keyword: "barrel", Writing: &b, Capital: &capital,
			Rhyme: "Bump, bump.", MouthCue: "Close both lips.", Slip: "No uh.",
		}},
		Rings: []lesson.RingWord{{Word: "crab", Letters: []int{3}}, {Word: "dog"}},
		WordBits: map[string][]spelling.Bit{
			"bat": {
				{Letters: []int{0}, Sound: "b", Target: true},
				{Letters: []int{1}, Sound: "æ"},
				{Letters: []int{2}, Sound: "t"},
			},
			"bake": {{Letters: []int{0}, Sound: "b"}, {Letters: []int{1, 3}, Sound: "eɪ"}, {Letters: []int{2}, Sound: "k"}},
		},
		Steps: []lesson.Step{
			{Kind: lesson.Ear, Name: "Ear", Items: []lesson.Item{
				choice(
					"ear-yes.1",
					"picture",
					"ball",
					lesson.Has,
				),
				choice("ear-yes.2", "picture", "bell", lesson.Has),
				choice("ear-yes.3", "picture", "bed", lesson.Has),
				choice("ear-no.1", "picture", "sun", lesson.HasNot),
				choice(
					"ear-quarter.1",
					"picture",
					"web",
					lesson.Last,
				),
				choice("ear-quarter.2", "picture", "basket", lesson.First),
				choice("ear-quarter.3", "picture", "crab", lesson.Last),
				choice("ear-quarter.4", "picture", "butter", lesson.First),
			}},
			{
				Kind:  lesson.Read,
				Name:  "Read",
				Items: []lesson.Item{choice("read.1", "word", "bat", ""), choice("read.2", "word", "bake", "")},
			},
			{Kind: lesson.Spell, Name: "Spell", Items: []lesson.Item{choice("spell.1", "word", "bat", "")}},
			{
				Kind:   lesson.Sentence,
				Name:   "Sentence",
				Pieces: []string{"is", "in bed.", "A", "big bat"},
				Items:  []lesson.Item{choice("sentence.1", "sentence", "A big bat is in bed.", "")},
			},
		},
	}
	h := render.Handout{
		Lesson:   in,
		HeightMM: 8,
		Pictures: map[string]render.Image{},
		Head: render.PlanHead{
			Team:  "T",
			Class: "Heron class",
			Made:  time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC),
		},
	}
	for _, s := range in.Steps {
		for _, c := range s.Items {
			if svg, ok := lexicon.Picture(c.Value); ok {
				h.Pictures[c.Value] = render.Image{MediaType: "image/svg+xml", Bytes: []byte(svg)}
			}
		}
	}
	return h
}

func printed(t *testing.T, h render.Handout, sheet string, paper render.Paper) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, render.Print(&out, h, sheet, paper), sheet)
	return out.Bytes()
}

// levels are the heights of the long level lines of a page in millimetres from the top, read from the PDF by
// poppler's pdftocairo.
func levels(t *testing.T, data []byte) []float64 {
	t.Helper()
	var out []float64
	svg := run(t, data, "pdftocairo", "-svg", "-f", "1", "-l", "1")
	line := regexp.MustCompile(`d="M ([\d.]+) ([\d.]+) L ([\d.]+) ([\d.]+) "[^>]*` +
		`transform="matrix\(([-\d.]+),([-\d.]+),([-\d.]+),([-\d.]+),([-\d.]+),([-\d.]+)\)"`)
	for _, m := range line.FindAllStringSubmatch(svg, -1) {
		n := make([]float64, len(m)-1)
		for i := range n {
			n[i], _ = strconv.ParseFloat(m[i+1], 64)
		}
		if math.Abs(n[1]-n[3])*n[7] < 0.01 && math.Abs(n[2]-n[0])*n[4] > 300 {
			out = append(out, (n[1]*n[7]+n[9])/pointsPerMm)
		}
	}
	slices.Sort(out)
	return out
}

func TestPracticeLinesAreAtTrueSize(t *testing.T) {
	for _, height := range []float64{5, 8, 12.5} {
		h := handout(t)
		h.HeightMM = height
		ys := levels(t, printed(t, h, "practice", render.A4))
		require.Greater(t, len(ys), 8)
		ys = ys[1:] // the heading's own line
		assert.InDelta(t, height, ys[1]-ys[0], 0.05, "top to middle line")
		assert.InDelta(t, height, ys[2]-ys[1], 0.05, "middle to base line")
		assert.InDelta(t, height, ys[3]-ys[2], 0.05, "base to drop line")
	}
}

func TestEverySheetOfALesson(t *testing.T) {
	h := handout(t)
	h.Picture = &render.Image{MediaType: "image/svg+xml", Bytes: h.Pictures["ball"].Bytes}
	says := map[string]string{
		"plan":     "as in barrel",
		"practice": "Write b",
		"words":    "bake",
		"sorting":  "sun (no)",
		"quarters": "First or last",
		"frames":   "One sound in each box",
		"eight":    "My book of",
		"ring":     "1 words hold it, 1 do not",
		"pieces":   "in bed.",
		"page":     "I read it with help",
		"home":     "Our new sound",
	}
	for _, s := range render.Sheets() {
		for _, paper := range []render.Paper{render.A4, render.Letter} {
			data := printed(t, h, s.Name, paper)
			assert.Contains(t, run(t, data, "pdftotext"), says[s.Name], s.Name)
			for _, line := range strings.Split(fonts(t, data), "\n")[2:] {
				if f := strings.Fields(line); len(f) > 5 {
					assert.Contains(t, line, "yes", "embedded in %s: %s", s.Name, line)
				}
			}
			assert.Contains(t, string(info(t, data)), "Lesson on b for Heron class")
		}
	}
	all := printed(t, h, "all", render.A4)
	text := run(t, all, "pdftotext")
	for name, want := range says {
		assert.Contains(t, text, want, name)
	}
	assert.Regexp(
		t,
		`Page size:\s+841.8\d+ x 595`,
		string(info(t, printed(t, h, "eight", render.A4))),
		"the little book lies on its side",
	)
}

func TestSheetsWithNothingSaySo(t *testing.T) {
	var out bytes.Buffer
	empty := render.Handout{Lesson: lesson.Lesson{}, HeightMM: 8}
	for _, s := range render.Sheets() {
		if s.Name != "plan" && s.Name != "home" {
			require.ErrorIs(t, render.Print(&out, empty, s.Name, render.A4), render.ErrNothing, s.Name)
		}
	}
	require.ErrorIs(t, render.Print(&out, empty, "poster", render.A4), render.ErrNothing)
	require.NoError(t, render.Print(&out, empty, "all", render.A4))
}

func TestTheLineForFamilies(t *testing.T) {
	h := handout(t)
	h.HomeLine = "Dziękujemy za wspólne czytanie."
	ext := run(t, printed(t, h, "home", render.A4), "pdftotext")
	h.HomeLine = "مرحبا بكم"
	arabic := run(t, printed(t, h, "home", render.A4), "pdftotext")
	assert.Contains(t, arabic, "write the line by hand")
	assert.True(t, strings.Contains(ext, "Dzi") || strings.Contains(ext, "write the line by hand"))
	h.HomeLine = "Merci de lire ensemble."
	assert.Contains(t, run(t, printed(t, h, "home", render.A4), "pdftotext"), "Merci de lire ensemble.")
	face := h.Lesson.Cards["b"]
	face.Rhyme = strings.Repeat("on and on and ", 28)
	h.Lesson.Cards["b"] = face
	long := boxes(t, printed(t, h, "home", render.A4), "Talk")
	require.Len(t, long, 1, "400 characters of rhyme tear no page")
}

func TestSmallCardsAndTheFrieze(t *testing.T) {
	faces := []render.Face{face("m", "market"), face("s", "soup"), face("t", "tiller"), face("a", "axle")}
	var out bytes.Buffer
	require.NoError(t, render.Cards(&out, faces, render.Single, render.Small, render.A4))
	m, s := boxes(t, out.Bytes(), "m")[0], boxes(t, out.Bytes(), "s")[0]
	assert.InDelta(t, render.Small.Width, (s[0]+s[2]-m[0]-m[2])/2, 0.5)
	out.Reset()
	require.NoError(t, render.Frieze(&out, faces, render.A4))
	assert.Regexp(t, `Pages:\s+2`, string(info(t, out.Bytes())))
	assert.Regexp(t, `Page size:\s+841.8\d+ x 595`, string(info(t, out.Bytes())))
}

// A card shows the letter as the team writes it, on its own lines; the words under it keep the page readable as text.
func TestCardsShowTheTeamsLetters(t *testing.T) {
	lines := strokes.CommonLines()
	lines.Capital = 1.5
	w, err := lines.Write("sh", nil, nil)
	require.NoError(t, err)
	f := face("sh", "shed")
	f.Writing = []strokes.Written{w}
	var out bytes.Buffer
	require.NoError(t, render.Cards(&out, []render.Face{f}, render.Single, render.Large, render.A4))
	assert.Contains(t, run(t, out.Bytes(), "pdftotext"), "sound card sh as in shed")
	var ruled []float64
	svg := run(t, out.Bytes(), "pdftocairo", "-svg", "-f", "1", "-l", "1")
	for _, m := range regexp.MustCompile(`d="M ([\d.]+) ([\d.]+) L ([\d.]+) ([\d.]+) "`).FindAllStringSubmatch(svg, -1) {
		y0, _ := strconv.ParseFloat(m[2], 64)
		y1, _ := strconv.ParseFloat(m[4], 64)
		x0, _ := strconv.ParseFloat(m[1], 64)
		x1, _ := strconv.ParseFloat(m[3], 64)
		if y0 == y1 && math.Abs(x1-x0) > 77 && math.Abs(x1-x0) < 79 { // 90 mm less 6 at either side
			ruled = append(ruled, y0)
		}
	}
	require.Len(t, ruled, 4, "four lines")
	assert.InDelta(
		t,
		0.5,
		(ruled[0]-ruled[1])/(ruled[1]-ruled[2]),
		0.02,
		"the team's proportions: half an x-height over the middle line",
	)
}
