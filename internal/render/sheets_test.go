package render_test

import (
	"bytes"
	"fmt"
	"image/png"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/render"
)

func sampleHandout(t *testing.T) render.Handout {
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
		Purpose: lesson.Introduce,
		Minutes: 20,
		Targets: []string{"b"},
		Accent:  phoneme.SouthernBritish,
		Known:   []string{"the"},
		Cards: map[string]lesson.CardFace{"b": {
			ID: "b", Pair: spelling.Pair{Grapheme: "b", Sound: "b"}, Keyword: "barrel", Writing: &b, Capital: &capital,
			Rhyme: "Bump, bump.", MouthCue: "Close both lips.", Slip: "No uh.",
		}},
		Rings: []lesson.RingWord{
			{Word: "crab", Letters: []int{3}},
			{Word: "dog"},
			{Word: "bat", Letters: []int{0}},
			{Word: "pen"},
			{Word: "bib", Letters: []int{0, 2}},
			{Word: "sun"},
		},
		WordBits: map[string][]spelling.Bit{
			"bat": {
				{Letters: []int{0}, Grapheme: "b", Sound: "b", Target: true},
				{Letters: []int{1}, Grapheme: "a", Sound: "æ"},
				{Letters: []int{2}, Grapheme: "t", Sound: "t"},
			},
			"bake": {
				{Letters: []int{0}, Grapheme: "b", Sound: "b", Target: true},
				{Letters: []int{1, 3}, Grapheme: "a-e", Sound: "eɪ"},
				{Letters: []int{2}, Grapheme: "k", Sound: "k"},
			},
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
		Options:  handout.Options{Speech: lexicon.Speech{Accent: phoneme.SouthernBritish}},
		Capitals: map[string]strokes.Written{"b": capital},
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
func levels(t *testing.T, data []byte) []float64 { return levelLines(t, data, 300) }

// levelLines are the level lines of the first page that are longer than so many points, from the top, in millimetres.
func levelLines(t *testing.T, data []byte, least float64) []float64 {
	t.Helper()
	var out []float64
	svg := run(t, data, "pdftocairo", "-svg", "-f", "1", "-l", "1")
	line := regexp.MustCompile(`d="M ([-\d.]+) ([-\d.]+) L ([-\d.]+) ([-\d.]+) ?"([^>]*)`)
	matrix := regexp.MustCompile(
		`transform="matrix\(([-\d.]+), ?([-\d.]+), ?([-\d.]+), ?([-\d.]+), ?([-\d.]+), ?([-\d.]+)\)"`,
	)
	for _, m := range line.FindAllStringSubmatch(svg, -1) {
		var n [4]float64
		for i := range n {
			n[i], _ = strconv.ParseFloat(m[i+1], 64)
		}
		scale, move, wide := 1.0, 0.0, 1.0
		if k := matrix.FindStringSubmatch(m[5]); k != nil {
			wide, _ = strconv.ParseFloat(k[1], 64)
			scale, _ = strconv.ParseFloat(k[4], 64)
			move, _ = strconv.ParseFloat(k[6], 64)
		}
		if math.Abs(n[1]-n[3]) < 0.01 && math.Abs(n[2]-n[0])*wide > least {
			out = append(out, (n[1]*scale+move)/pointsPerMm)
		}
	}
	slices.Sort(out)
	return out
}

func TestPracticeLinesAreAtTrueSize(t *testing.T) {
	for _, height := range []float64{5, 8, 12.5} {
		h := sampleHandout(t)
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
	h := sampleHandout(t)
	says := map[string]string{ // what an adult or a child must find on the sheet
		"plan":       "as in barrel",
		"practice":   "The grey blocks show the gap",
		"capitals":   "Capitals: B",
		"words":      "bake",
		"sorting":    "no: sun",
		"quarters":   "first in basket, butter; last in web, crab",
		"frames":     "Tick each sound that you have",
		"eight":      "My book of",
		"ring":       "3 words have it, 3 do not",
		"marks":      "a leaping one for a split spelling",
		"labels":     "Labels for b",
		"box":        "What is in our box?",
		"pieces":     "For the adult: A big bat is in bed.",
		"page":       "second time",
		"compounds":  "butter + cup = buttercup",
		"boxes":      "One word, letter, picture or sentence to a box",
		"bank":       "Take a word, say its sounds",
		"home":       "Draw three things that begin with b as in barrel",
		"sort-words": "b, barrel: crab, bat, bib; not b: ",
	}
	none := map[string]bool{"hunt": true} // nothing for this lesson
	for _, s := range render.Sheets() {
		if none[s.Name] {
			continue
		}
		for _, paper := range []render.Paper{render.A4, render.Letter} {
			data := printed(t, h, s.Name, paper)
			require.NotEmpty(t, says[s.Name], "say what must be found on %s", s.Name)
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
		if s.Name != "plan" && s.Name != "home" && s.Name != "boxes" {
			require.ErrorIs(t, render.Print(&out, empty, s.Name, render.A4), render.ErrNothing, s.Name)
		}
	}
	require.ErrorIs(t, render.Print(&out, empty, "poster", render.A4), render.ErrNothing)
	require.NoError(t, render.Print(&out, empty, "all", render.A4))
}

func TestTheLineForFamilies(t *testing.T) {
	h := sampleHandout(t)
	h.HomeLine = "Dziękujemy za wspólne czytanie."
	ext := run(t, printed(t, h, "home", render.A4), "pdftotext")
	h.HomeLine = "مرحبا بكم"
	arabic := run(t, printed(t, h, "home", render.A4), "pdftotext")
	assert.Contains(t, arabic, "write the line by hand")
	assert.Contains(t, arabic, "Arabic letters")
	assert.Contains(t, ext, "Dziękujemy za wspólne czytanie.")
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
	ruled := levelLines(t, out.Bytes(), 200) // 90 mm less 6 at either side
	require.Len(t, ruled, 4, "four lines")
	assert.InDelta(
		t,
		0.5,
		(ruled[1]-ruled[0])/(ruled[2]-ruled[1]),
		0.02,
		"the team's proportions: half an x-height over the middle line",
	)
}

// grey is the first page in grey, by poppler's pdftoppm at 2 pixels to a millimetre: rows from the top.
func grey(t *testing.T, data []byte) [][]byte {
	t.Helper()
	file := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err := exec.Command("pdftoppm", "-gray", "-r", "50.8", "-f", "1", "-l", "1", file).Output()
	require.NoError(t, err)
	var w, h, most int
	n, err := fmt.Sscanf(string(out[:20]), "P5\n%d %d\n%d", &w, &h, &most)
	require.NoError(t, err)
	require.Equal(t, 3, n)
	return slices.Collect(slices.Chunk(out[len(out)-w*h:], w))
}

func TestSheetsUseTheirHeight(t *testing.T) {
	h := sampleHandout(t)
	for i := range h.Lesson.Steps {
		s := &h.Lesson.Steps[i]
		switch s.Kind {
		case lesson.Read:
			for _, w := range []string{"bag", "bin", "bus", "crab"} {
				s.Items = append(s.Items, lesson.Item{Kind: lesson.WordItem, Option: lesson.Option{Value: w}})
			}
		case lesson.Sentence:
			s.Items[0].Value = strings.Repeat("A big bat is in bed. ", 8)
		}
	}
	h.Lesson.Rings = append(h.Lesson.Rings, h.Lesson.Rings...)
	for _, s := range render.Sheets() {
		if slices.Contains([]string{"plan", "frames", "bank", "hunt"}, s.Name) { // as long as the lesson; one frame to a word
			continue
		}
		rows := grey(t, printed(t, h, s.Name, render.A4))
		inked := func(row []byte) bool { return slices.Min(row) < 160 }
		assert.Less(t, slices.IndexFunc(rows, inked), len(rows)/8, s.Name)
		lowest := 0
		for y, row := range rows[:len(rows)*95/100] { // without the line at the foot
			if inked(row) {
				lowest = y
			}
		}
		assert.Greater(t, float64(lowest)/float64(len(rows)), 0.68, s.Name)
	}
}

func TestNoRowOfPracticeIsEmpty(t *testing.T) {
	data := printed(t, sampleHandout(t), "practice", render.A4)
	page, ys := grey(t, data), levels(t, data)[1:]
	require.GreaterOrEqual(t, len(ys), 5*4)
	for row := range len(ys) / 4 {
		dark := false
		for y := int(2*ys[row*4]) - 2; y < int(2*ys[row*4+2])-1; y++ {
			if y != int(2*ys[row*4+1]) && y != int(2*ys[row*4+1])-1 && y != int(2*ys[row*4+1])+1 {
				dark = dark || slices.Min(page[y]) < 90
			}
		}
		assert.True(t, dark, "row %d has at least where to start", row+1)
	}
}

func TestPracticeOfSeveralLettersAndWords(t *testing.T) {
	lines := strokes.CommonLines()
	p := render.PracticeSheet{HeightMM: 8, Trace: true, Copy: true, Ring: "a", Rings: 2}
	for _, text := range []string{"c", "a", "cat", "rain"} {
		w, err := lines.Write(text, nil, nil)
		require.NoError(t, err)
		p.Forms = append(p.Forms, w)
	}
	var out bytes.Buffer
	require.NoError(t, render.Practice(&out, p, render.A4))
	text := run(t, out.Bytes(), "pdftotext")
	for _, want := range []string{
		"Write c, a, cat, rain", "Read it, cover it, write it", "Find a and ring it",
		"2 of 4 hold it",
	} {
		assert.Contains(t, text, want)
	}
	for len(p.Forms) < 24 {
		p.Forms = append(p.Forms, p.Forms[3])
	}
	out.Reset()
	require.NoError(t, render.Practice(&out, p, render.A4))
	assert.Regexp(t, `Pages:\s+(9|1\d)`, string(info(t, out.Bytes())), "24 words have all their rows")
}

func TestAMatHoldsAllOnOnePage(t *testing.T) {
	for _, n := range []int{1, 7, 31, 120} {
		m := render.Mat{
			Class: "Heron class",
			Words: []string{"the", "said"},
			Alike: render.Alike([]string{"c", "l", "a", "ai", "t"}),
		}
		for i := range n {
			m.Faces = append(m.Faces, face("ai", fmt.Sprintf("word%d", i)))
		}
		var out bytes.Buffer
		require.NoError(t, render.PrintMat(&out, m, render.A4))
		assert.Regexp(t, `Pages:\s+1\b`, string(info(t, out.Bytes())))
		text := run(t, out.Bytes(), "pdftotext")
		assert.Equal(t, n, len(regexp.MustCompile(`word\d`).FindAllString(text, -1)), "every card")
		assert.Contains(t, text, "said")
		assert.Regexp(t, `c\s*a\s`, text, "c and a go round the same way")
	}
	require.ErrorIs(t, render.PrintMat(&bytes.Buffer{}, render.Mat{}, render.A4), render.ErrNothing)
}

func TestWhatIsOfferedCanBePrintedAndLookedAt(t *testing.T) {
	h := sampleHandout(t)
	h.Lesson.Rings = nil
	names := []string{}
	for _, s := range render.Offered(h, render.A4) {
		names = append(names, s.Name)
		printed(t, h, s.Name, render.A4)
		var out bytes.Buffer
		require.NoError(t, render.Preview(&out, h, s.Name, render.A4, 200))
		picture, err := png.Decode(&out)
		require.NoError(t, err)
		assert.Equal(t, 200, picture.Bounds().Dx())
	}
	assert.Contains(t, names, "home")
	assert.NotContains(t, names, "ring")
	assert.NotContains(t, names, "sort-words", "there are no words without the sound to sort against")
	require.ErrorIs(t, render.Preview(&bytes.Buffer{}, h, "ring", render.A4, 200), render.ErrNothing)
	require.ErrorIs(t, render.Preview(&bytes.Buffer{}, h, "poster", render.A4, 200), render.ErrNothing)
}

func TestSheetsAsTextSayWhatTheySay(t *testing.T) {
	h := sampleHandout(t)
	h.HomeLine = "<b>Merci</b>"
	var out bytes.Buffer
	require.NoError(t, render.HTML(&out, h))
	page := out.String()
	for _, want := range []string{
		"<h1>", "as in barrel", "bake</span>: b, a-e, k", "sun", "Has b, barrel: ball, bell, bed. Has it not: sun.",
		"&lt;b&gt;Merci",
	} {
		assert.Contains(t, page, want)
	}
}

// What can hurt is said on the sheets that go out of the adult's sight.
func TestSheetsSayWhatToWatchFor(t *testing.T) {
	h := sampleHandout(t)
	for sheet, says := range map[string][]string{
		"home":   {"allergies", "mouths, noses or ears", "not for therapy"},
		"labels": {"allergies", "count small things"},
	} {
		text := strings.Join(strings.Fields(run(t, printed(t, h, sheet, render.A4), "pdftotext")), " ")
		for _, want := range says {
			assert.Contains(t, text, want, sheet)
		}
	}
}
