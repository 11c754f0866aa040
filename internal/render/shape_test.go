package render_test

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
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

const shapeDPI = 150.0

const mmPerPixel = 25.4 / shapeDPI

// grayPage is a rasterised page: darkness by row from the top, 0 white to 255 black.
type grayPage [][]byte

// rasterised draws a PDF with poppler's pdftoppm.
func rasterised(t testing.TB, pdf []byte, dpi float64) []grayPage {
	t.Helper()
	dir := t.TempDir()
	file := filepath.Join(dir, "x.pdf")
	require.NoError(t, os.WriteFile(file, pdf, 0o600))
	require.NoError(t, exec.Command("pdftoppm", "-gray", "-r", fmt.Sprint(dpi), file, filepath.Join(dir, "p")).Run())
	files, err := filepath.Glob(filepath.Join(dir, "p*.pgm"))
	require.NoError(t, err)
	slices.Sort(files)
	var out []grayPage
	for _, f := range files {
		data, err := os.ReadFile(f)
		require.NoError(t, err)
		var w, h, top int
		_, err = fmt.Sscanf(string(data[:min(len(data), 40)]), "P5\n%d %d\n%d", &w, &h, &top)
		require.NoError(t, err)
		pixels := data[len(data)-w*h:]
		for i := range pixels {
			pixels[i] = 255 - pixels[i]
		}
		out = append(out, slices.Collect(slices.Chunk(pixels, w)))
	}
	return out
}

// crop is the part of a page between two corners in millimetres, from the upper left.
func (p grayPage) crop(x0, y0, x1, y1 float64) grayPage {
	var out grayPage
	px := func(mm float64) int { return int(mm / mmPerPixel) }
	for y := max(0, px(y0)); y < min(len(p), px(y1)); y++ {
		out = append(out, p[y][max(0, px(x0)):min(len(p[y]), px(x1))])
	}
	return out
}

const darkness = 110

// bounds of what is dark, in pixels.
func (p grayPage) bounds() (x0, y0, x1, y1 int) {
	x0, y0, x1, y1 = math.MaxInt, math.MaxInt, -1, -1
	for y, row := range p {
		for x, v := range row {
			if v > darkness {
				x0, x1, y0, y1 = min(x0, x), max(x1, x), min(y0, y), max(y1, y)
			}
		}
	}
	return x0, y0, x1, y1
}

// firstBlock is where the first ink from the top ends, in pixels: under it is a gap of 4 mm.
func (p grayPage) firstBlock() int {
	last := -1
	for y, row := range p {
		switch {
		case slices.Max(row) > darkness:
			last = y
		case last >= 0 && float64(y-last)*mmPerPixel > 4:
			return last + 1
		}
	}
	return last + 1
}

// middleLine are points along the strokes of a letter as the screen draws them, in x-heights, y upwards.
func middleLine(x strokes.Letter) (points []strokes.Point, dots []bool) {
	for _, s := range x.Strokes {
		chain := s.Points()
		for i, at := range chain {
			if i == 0 {
				points, dots = append(points, at), append(dots, len(chain) == 1)
				continue
			}
			from := chain[i-1]
			n := max(1, int(math.Hypot(at.X-from.X, at.Y-from.Y)/0.02))
			for k := 1; k <= n; k++ {
				f := float64(k) / float64(n)
				points = append(points, strokes.Point{X: from.X + (at.X-from.X)*f, Y: from.Y + (at.Y-from.Y)*f})
				dots = append(dots, false)
			}
		}
	}
	return points, dots
}

// assertShape holds what was printed against the strokes of a letter: no ink further than 3 % of the x-height outside
// the edge of the stroke, and no point of its middle line without ink. Where the letter stands on the page is taken
// from the box around its ink.
func assertShape(t *testing.T, name string, p grayPage, x strokes.Letter, h, width float64) {
	t.Helper()
	points, dots := middleLine(x)
	low, high := x.Bounds()
	x0, y0, x1, y1 := p.bounds()
	if !assert.GreaterOrEqual(t, x1, x0, "%s: nothing is printed", name) {
		return
	}
	// Where the box of the printed letter and the box of the strokes have their middles.
	cx, cy := float64(x0+x1+1)/2*mmPerPixel, float64(y0+y1+1)/2*mmPerPixel
	at := func(q strokes.Point) (float64, float64) {
		return cx + (q.X-(low.X+high.X)/2)*h, cy - (q.Y-(low.Y+high.Y)/2)*h
	}
	const slack = 0.75 * mmPerPixel // a pixel is dark or not
	tall, wide := float64(y1-y0+1)*mmPerPixel, float64(x1-x0+1)*mmPerPixel
	assert.InDelta(t, (high.Y-low.Y)*h+width, tall, 0.03*h+2*slack+width/2, "%s: height of the printed letter", name)
	assert.InDelta(t, (high.X-low.X)*h+width, wide, 0.03*h+2*slack+width/2, "%s: width of the printed letter", name)
	reach := width/2 + 0.03*h + slack
	worst := 0.0
	for y, row := range p {
		for px, v := range row {
			if v <= darkness {
				continue
			}
			mx, my := (float64(px)+0.5)*mmPerPixel, (float64(y)+0.5)*mmPerPixel
			near := math.Inf(1)
			for i, q := range points {
				qx, qy := at(q)
				d := math.Hypot(mx-qx, my-qy)
				if dots[i] {
					d -= width / 4 // a dot is drawn larger than the line is wide
				}
				near = min(near, d)
			}
			worst = max(worst, near)
		}
	}
	assert.LessOrEqual(t, worst, reach, "%s: ink outside the stroke, in millimetres", name)
	for _, q := range points {
		qx, qy := at(q)
		py, px := int(qy/mmPerPixel), int(qx/mmPerPixel)
		inked := false
		for dy := -1; dy <= 1; dy++ {
			for dx := -1; dx <= 1; dx++ {
				yy, xx := py+dy, px+dx
				inked = inked || yy >= 0 && yy < len(p) && xx >= 0 && xx < len(p[yy]) && p[yy][xx] > darkness
			}
		}
		if !assert.True(t, inked, "%s: no ink at %.2f, %.2f of its middle line", name, q.X, q.Y) {
			return
		}
	}
}

// bareLines are the team's lines without any that is drawn, so that all ink is the letter's.
func bareLines(style strokes.Style) strokes.Lines {
	l := strokes.CommonLines()
	l.Style = style
	for _, line := range []*strokes.RuledLine{&l.Top, &l.Middle, &l.Base, &l.Drop} {
		line.Shown = false
	}
	return l
}

// Every small letter, capital and digit, in print and with a lead-in stroke, and a letter in a team's own form, as a
// card prints it and as the copying sheet prints it.
func TestPrintedLettersHaveTheShapeOfTheScreen(t *testing.T) {
	own := map[string]strokes.Letter{}
	d, ok := strokes.Of("d")
	require.True(t, ok)
	own["d"] = d.Map(func(p strokes.Point) strokes.Point { return strokes.Point{X: p.X*1.15 + 0.1*p.Y, Y: p.Y} })
	for name, c := range map[string]struct {
		style strokes.Style
		own   map[string]strokes.Letter
		signs []string
	}{
		"print":   {strokes.Style("print"), nil, signs()},
		"lead-in": {strokes.Style("lead-in"), nil, signs()},
		"own":     {strokes.Style("print"), own, []string{"d"}},
	} {
		t.Run(name, func(t *testing.T) {
			if testing.Short() && name == "lead-in" {
				t.Skip("runs with ./chalk nightly")
			}
			t.Parallel()
			lines := bareLines(c.style)
			var faces []render.Face
			var forms []strokes.Written
			var letters []strokes.Letter
			for _, sign := range c.signs {
				w, err := lines.Write(sign, c.own, nil)
				require.NoError(t, err)
				x, err := lines.Group(sign, c.own)
				require.NoError(t, err)
				letters, forms = append(letters, lines.On(x)), append(forms, w)
				f := face(sign, "")
				f.Writing = []strokes.Written{w}
				faces = append(faces, f)
			}
			assertCardShapes(t, faces, letters, forms)
			assertCopyShapes(t, letters, forms)
		})
	}
}

func signs() []string {
	return slices.DeleteFunc(strokes.Signs(), func(s string) bool { return strings.Trim(s, ".,!?'-") == "" })
}

func assertCardShapes(t *testing.T, faces []render.Face, letters []strokes.Letter, forms []strokes.Written) {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, render.Cards(&out, faces, render.Single, render.Large, render.A4))
	pages := rasterised(t, out.Bytes(), shapeDPI)
	left, top := (render.A4.Width-2*render.Large.Width)/2, (render.A4.Height-2*render.Large.Height)/2
	for i, x := range letters {
		page := pages[i/4*2] // two by two, and each page of letters has its page of pictures behind it
		cx, cy := left+float64(i%4%2)*render.Large.Width, top+float64(i%4/2)*render.Large.Height
		// Inside the frame, above the caption.
		p := page.crop(cx+2, cy+2, cx+render.Large.Width-2, cy+render.Large.Height-11)
		w := forms[i]
		h := min((render.Large.Height-34)/(w.Lines[0].Y-w.Lines[3].Y), (render.Large.Width-24)/(w.Right-w.Left))
		assertShape(t, "card "+w.Text, p, x, h, 0.13*h)
	}
}

func assertCopyShapes(t *testing.T, letters []strokes.Letter, forms []strokes.Written) {
	t.Helper()
	const h = 14.0
	for i, x := range letters {
		if i%4 != 0 && !strings.Contains("dagquybp", forms[i].Text) {
			continue
		}
		var out bytes.Buffer
		p := render.PracticeSheet{Forms: forms[i : i+1], HeightMM: h, Copy: true}
		require.NoError(t, render.Practice(&out, p, render.A4))
		page := rasterised(t, out.Bytes(), shapeDPI)[0].crop(0, 31.5, 100, 280)
		assertShape(t, "copy "+forms[i].Text, page, x, h, 0.1*h)
	}
}

// The dots of a practice row follow the stroke and leave no part of it out: the ascender of a d is dotted too.
func TestDotsFollowTheStroke(t *testing.T) {
	const h = 14.0
	lines := bareLines("print")
	for _, sign := range []string{"d", "a", "g", "q", "u", "y", "b", "k"} {
		w, err := lines.Write(sign, nil, nil)
		require.NoError(t, err)
		w.Strokes = slices.Clone(w.Strokes)
		for i := range w.Strokes {
			w.Strokes[i].Words = "" // so that the letter is the first ink under the heading
		}
		var out bytes.Buffer
		require.NoError(t, render.Practice(&out, render.PracticeSheet{
			Forms: []strokes.Written{w}, HeightMM: h, Trace: true,
		}, render.A4))
		x, err := lines.Group(sign, nil)
		require.NoError(t, err)
		x = lines.On(x)
		low, _ := x.Bounds()
		// The second letter of the first row is the first dotted one. Its base line is found from the model beside it.
		page := rasterised(t, out.Bytes(), shapeDPI)[0]
		step := max((w.Right-w.Left)*h+h*0.9, h*1.6)
		start := 15 + h*0.4
		model := page.crop(start-0.1*h, 33, start+(w.Right-w.Left)*h+0.1*h, 280)
		base := 33 + float64(model.firstBlock())*mmPerPixel - 0.05*h + low.Y*h
		points, _ := middleLine(x)
		for _, q := range points {
			mx, my := start+step+(q.X-low.X)*h, base-q.Y*h
			near := math.Inf(1)
			for dy := -0.3 * h; dy <= 0.3*h; dy += mmPerPixel {
				for dx := -0.3 * h; dx <= 0.3*h; dx += mmPerPixel {
					yy, xx := int((my+dy)/mmPerPixel), int((mx+dx)/mmPerPixel)
					if yy >= 0 && yy < len(page) && page[yy][xx] > darkness {
						near = min(near, math.Hypot(dx, dy))
					}
				}
			}
			if !assert.LessOrEqual(t, near, 0.17*h, "%s: no dot near %.2f, %.2f", sign, q.X, q.Y) {
				break
			}
		}
	}
}

// bare is a lesson with one card by rule, for what a page shows whatever the lesson is.
func bare(t *testing.T, pair string) (lesson.Lesson, lexicon.Speech) {
	t.Helper()
	speech := lexicon.Speech{Accent: phoneme.SouthernBritish}
	p, err := spelling.ParsePair(speech.Accent, pair)
	require.NoError(t, err)
	return lesson.Lesson{
		Purpose: lesson.Introduce, Minutes: 20, Targets: []string{"x"}, Accent: speech.Accent,
		Cards: map[string]lesson.CardFace{"x": {ID: "x", Pair: p}}, WordBits: map[string][]spelling.Bit{},
	}, speech
}

// A child's word shows one glyph for each letter: fi, fl and ff are not drawn as one sign. The text that can be copied
// out is the same with and without a ligature, so poppler's SVG is asked for the glyphs that are drawn.
func TestWordsHaveAGlyphForEachLetter(t *testing.T) {
	l, speech := bare(t, "f")
	for _, w := range []string{"fix", "flute", "toffee", "muffin"} {
		l.Steps = []lesson.Step{
			{Kind: lesson.Read, Items: []lesson.Item{{Kind: lesson.WordItem, Option: lesson.Option{Value: w}}}},
		}
		h := render.Handout{
			Lesson:  l,
			Options: handout.Options{Speech: speech},
			Head:    render.PlanHead{Class: "Heron class", Made: time.Unix(0, 0)},
		}
		svg := run(t, printed(t, h, "words", render.A4), "pdftocairo", "-svg")
		note := len(
			[]rune(strings.ReplaceAll("Cut along the dashed lines. A wavy bridge marks the odd part of a word.", " ", "")),
		)
		spaces := strings.Count("Cut along the dashed lines. A wavy bridge marks the odd part of a word.", " ")
		assert.Contains(t, []int{note + len(w), note + spaces + len(w)}, strings.Count(svg, "<use "), w)
	}
}
