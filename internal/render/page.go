// Package render draws the printed pages: cards at true size, the plan of a lesson, and the sheets that children use.
// What stands on a sheet of a lesson is decided by the package handout. Lengths are millimetres, font sizes points.
package render

import (
	"bytes"
	"embed"
	"image"
	"image/color"
	_ "image/gif"  // decoder
	_ "image/jpeg" // decoder
	_ "image/png"  // decoder
	"io"
	"slices"
	"strings"
	"unicode"

	"brightchalk/internal/core/prose"
	"brightchalk/internal/drawing"
)

// Fonts of the @fontsource packages for pages that leave the house as HTML, SIL Open Font License.
//
//go:embed fonts/*.woff2
var fontFiles embed.FS

// Paper is a page size in millimetres.
type Paper struct{ Width, Height float64 }

// Sheet sizes: ISO 216 A4 and ANSI A (Letter).
var (
	A4     = Paper{210, 297}
	Letter = Paper{215.9, 279.4}
)

// PaperOf reads "A4" or "Letter"; the empty name is no paper, anything else is A4.
func PaperOf(name string) Paper {
	switch name {
	case "":
		return Paper{}
	case "Letter":
		return Letter
	}
	return A4
}

// Or is the paper, or the named one where there is none.
func (p Paper) Or(name string) Paper {
	if p.Width > 0 {
		return p
	}
	if name == "" {
		return A4
	}
	return PaperOf(name)
}

var (
	ink   = color.RGBA{0x1e, 0x2b, 0x30, 0xff}
	grey  = color.RGBA{0x5a, 0x66, 0x6b, 0xff}
	faint = color.RGBA{0xb9, 0xc2, 0xc4, 0xff}
	pale  = color.RGBA{0xe6, 0xea, 0xe6, 0xff}
	coral = color.RGBA{0xb8, 0x4a, 0x3a, 0xff}
	white = color.RGBA{0xff, 0xff, 0xff, 0xff}
)

// smallest is the smallest size of text on any page, in points.
const smallest = 8.0

// Margins of a page: children's things stay inside margin, notes for adults inside edge.
const (
	margin = 15.0
	edge   = 8.0
	// foot is where the content of a sheet ends: under it is room for three lines of notes.
	foot = margin + 6
)

type textStyle = drawing.Face

// document collects the pages of a print.
type document struct {
	paper    Paper
	out      drawing.Document
	page     *drawing.Page
	bookmark string // of the next page
}

func newDocument(paper Paper, title string) *document {
	return &document{paper: paper, out: drawing.Document{Title: title, Lang: "en-GB"}}
}

func (d *document) newPage() {
	d.nameMissingSigns()
	d.page = drawing.NewPage(d.paper.Width, d.paper.Height)
	d.page.Bookmark, d.bookmark = d.bookmark, ""
	d.out.Pages = append(d.out.Pages, d.page)
}

// write writes the PDF.
func (d *document) write(w io.Writer) error {
	d.nameMissingSigns()
	return d.out.PDF(w)
}

// nameMissingSigns says at the foot of the page which signs no font holds, so that nothing vanishes unseen.
func (d *document) nameMissingSigns() {
	if d.page == nil {
		return
	}
	missing := d.page.Missing()
	if len(missing) == 0 {
		return
	}
	text := "Not in the fonts for printing, shown as boxes: " + signs(missing) + "."
	s := textStyle{Size: smallest, Ink: coral}
	d.text(s, edge, 5, d.shortened(s, text, d.paper.Width-2*edge))
	d.page = nil
}

// signs names signs by their scripts, or by their numbers where they belong to none.
func signs(list []rune) string {
	var out []string
	for _, r := range list {
		name := ""
		for script, table := range unicode.Scripts {
			if script != "Common" && script != "Inherited" && unicode.Is(table, r) {
				name = strings.ReplaceAll(script, "_", " ") + " letters"
			}
		}
		if name == "" {
			name = "the sign " + unicodeName(r)
		}
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	slices.Sort(out)
	return strings.Join(out, ", ")
}

func unicodeName(r rune) string {
	const hex = "0123456789ABCDEF"
	out := ""
	for r > 0 || len(out) < 4 {
		out, r = string(hex[r&15])+out, r>>4
	}
	return "U+" + out
}

func (d *document) text(s textStyle, x, y float64, text string) { d.page.Text(s, x, y, text) }

func (d *document) textRight(s textStyle, x, y float64, text string) {
	d.page.Text(s, x-s.Width(text), y, text)
}

func (d *document) textCentre(s textStyle, x, y float64, text string) {
	d.page.Text(s, x-s.Width(text)/2, y, text)
}

// align is where the lines of a paragraph stand.
type align int

const (
	alignLeft align = iota
	alignCentre
)

// block is a text that was cut into lines.
type block struct {
	face  textStyle
	lines []string
}

func newBlock(s textStyle, text string, width float64) block { return block{s, s.Wrap(text, width)} }

// height of all its lines.
func (b block) height() float64 {
	m := b.face.Metrics()
	return m.Ascent + float64(len(b.lines)-1)*m.Leading + m.Descent
}

// draw hangs the block at y and returns the height under it.
func (d *document) draw(b block, x, y, width float64, a align) float64 {
	d.page.As("P", func() { d.drawLines(b, x, y, width, a) })
	return y - b.height()
}

func (d *document) drawLines(b block, x, y, width float64, a align) {
	m := b.face.Metrics()
	for i, line := range b.lines {
		base, at := y-m.Ascent-float64(i)*m.Leading, x
		if a == alignCentre {
			at = x + (width-b.face.Width(line))/2
		}
		if i < len(b.lines)-1 && line != "" {
			line += " " // so that the words of two lines do not run together where the text is copied or read out
		}
		d.text(b.face, at, base, line)
	}
}

// para hangs a text at y and returns the height under it.
func (d *document) para(s textStyle, x, y, width float64, text string) float64 {
	return d.draw(newBlock(s, text, width), x, y, width, alignLeft)
}

// fittedBlock is the text at the largest size up to the style's at which it is no higher than height.
func fittedBlock(s textStyle, text string, width, height float64) block {
	b := newBlock(s, text, width)
	for b.height() > height && s.Size > smallest {
		s.Size = max(smallest, s.Size-1)
		b = newBlock(s, text, width)
	}
	for b.height() > height && len(b.lines) > 1 { // at the smallest size it is cut, and says so
		b.lines = b.lines[:len(b.lines)-1]
		last := []rune(b.lines[len(b.lines)-1])
		b.lines[len(b.lines)-1] = strings.TrimRight(string(last[:max(0, len(last)-2)]), " ,;:") + " …"
	}
	return b
}

// fitted is para with a size that shrinks until the text is no higher than height.
func (d *document) fitted(s textStyle, x, y, width, height float64, a align, text string) float64 {
	return d.draw(fittedBlock(s, text, width, height), x, y, width, a)
}

// fit is the largest size up to maxSize at which a line is no wider than width.
func fit(s textStyle, text string, width, maxSize float64) textStyle {
	s.Size = maxSize
	if w := s.Width(text); w > width {
		s.Size = max(smallest, maxSize*width/w)
	}
	return s
}

// fitAll is the size at which each of the texts fits.
func fitAll(s textStyle, texts []string, width, maxSize float64) textStyle {
	s.Size = maxSize
	for _, t := range texts {
		s.Size = min(s.Size, fit(s, t, width, maxSize).Size)
	}
	return s
}

// shortened cuts a line that is wider than width, with an ellipsis.
func (d *document) shortened(s textStyle, text string, width float64) string {
	if s.Width(text) <= width {
		return text
	}
	letters := []rune(text)
	for len(letters) > 0 && s.Width(string(letters)+"…") > width {
		letters = letters[:len(letters)-1]
	}
	return strings.TrimRight(string(letters), " ") + "…"
}

// heading writes the title of a sheet on its own writing line, and under the line a place for the child's name and what
// the sheet belongs to. It returns the height under all of it.
func (d *document) heading(title, about string, name bool) float64 {
	d.newPage()
	width := d.paper.Width - 2*margin
	title = prose.Capital(title)
	s := fit(textStyle{Child: true, Bold: true}, title, width, 22)
	lines := []string{title}
	if s.Size < 13 {
		s.Size = 13
		if lines = s.Wrap(title, width); len(lines) > 2 {
			lines = []string{lines[0], d.shortened(s, strings.Join(lines[1:], " "), width)}
		}
	}
	y := d.paper.Height - margin - s.Metrics().CapHeight
	d.page.As("H1", func() {
		for i, line := range lines {
			if i > 0 {
				y -= s.Metrics().Leading
			}
			d.text(s, margin, y, line)
		}
	})
	y -= s.Metrics().Descent * 0.75
	d.line(margin, y, d.paper.Width-margin, y, 0.4, ink)
	small := textStyle{Size: 10, Ink: grey}
	room := width
	if name {
		d.text(small, margin, y-6.5, "Name")
		d.line(margin+12, y-7, margin+84, y-7, 0.3, grey)
		room -= 90
	}
	if about != "" {
		d.textRight(small, d.paper.Width-margin, y-6.5, d.shortened(small, about, room))
	}
	if name || about != "" {
		y -= 8
	}
	return y - 4
}

// note writes what an adult should know at the foot of the page.
func (d *document) note(text string) {
	if text == "" {
		return
	}
	width := d.paper.Width - 2*margin
	b := newBlock(textStyle{Size: smallest, Ink: grey}, text, width)
	const maxLines = 3
	if len(b.lines) > maxLines {
		b.lines = append(b.lines[:maxLines-1], d.shortened(b.face, strings.Join(b.lines[maxLines-1:], " "), width))
	}
	d.draw(b, margin, edge+b.height(), width, alignCentre)
}

func (d *document) path(p drawing.Path, width float64, c color.RGBA, dashes ...float64) {
	d.page.Draw(p, drawing.Style{Stroke: c, Width: width, Dashes: dashes})
}

func (d *document) line(x0, y0, x1, y1, width float64, c color.RGBA, dashes ...float64) {
	d.page.Draw(drawing.Line(x0, y0, x1, y1), drawing.Style{Stroke: c, Width: width, Dashes: dashes, Sharp: true})
}

func (d *document) fill(p drawing.Path, c color.RGBA) { d.page.Draw(p, drawing.Style{Fill: c}) }

func (d *document) disc(x, y, r float64, c color.RGBA) { d.fill(drawing.Circle(x, y, r), c) }

func (d *document) frame(x, y, w, h, round float64, c color.RGBA) {
	d.path(drawing.RoundedRectangle(x, y, w, h, round, round), 0.35, c)
}

// drawCut is a dashed box to cut along.
func (d *document) drawCut(x, y, w, h float64) {
	d.path(drawing.Rectangle(x, y, w, h), 0.25, grey, 2, 2)
}

// Image is a picture to be drawn.
type Image struct {
	MediaType string
	Bytes     []byte
}

// picture fits a picture into a square of the given side whose lower left corner is x, y. A picture that
// cannot be drawn leaves a frame that says so, never a torn page.
func (d *document) picture(img Image, x, y, side float64) {
	if img.MediaType == "image/svg+xml" {
		if p, err := drawing.CachedSVG(img.Bytes); err == nil {
			d.page.Picture(p, x, y, side)
			return
		}
	} else if size, err := textSize(img.Bytes); err == nil && min(size.Width, size.Height) > 0 {
		k := side / float64(max(size.Width, size.Height))
		w, h := float64(size.Width)*k, float64(size.Height)*k
		d.page.Image(img.Bytes, img.MediaType, x+(side-w)/2, y+(side-h)/2, w, h)
		return
	}
	d.placeholder("This picture cannot be printed.", x, y, side)
}

// placeholder is a frame that says what is not there.
func (d *document) placeholder(text string, x, y, side float64) {
	d.frame(x, y, side, side, 2, faint)
	b := fittedBlock(textStyle{Size: 11, Ink: grey}, text, side-4, side-4)
	d.draw(b, x+2, y+side/2+b.height()/2, side-4, alignCentre)
}

// Fonts are the fonts of a page in Latin letters as WOFF2: the handwriting-friendly one, and the adults' in regular and
// bold.
func Fonts() (child, adult, bold []byte) {
	read := func(name string) []byte {
		data, _ := fontFiles.ReadFile("fonts/" + name + "-normal.woff2") // embedded, so it is there
		return data
	}
	return read("andika-latin-400"), read("atkinson-hyperlegible-latin-400"), read("atkinson-hyperlegible-latin-700")
}

func textSize(picture []byte) (image.Config, error) {
	size, _, err := image.DecodeConfig(bytes.NewReader(picture))
	return size, err
}
