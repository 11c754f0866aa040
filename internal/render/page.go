// Package render makes the printed pages: cards at true size and the plan of an introduction, as PDF with
// the fonts embedded. Lengths are millimetres, font sizes points.
package render

import (
	"bytes"
	"embed"
	"fmt"
	"image/color"
	_ "image/png" // decoder
	"io"
	"sync"

	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers/pdf"
)

// Fonts of the @fontsource packages, SIL Open Font License.
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
	coral = color.RGBA{0xb8, 0x4a, 0x3a, 0xff}
)

type fonts struct{ child, adult *canvas.FontFamily }

// A set of fonts keeps state while it makes a subset: each document has one to itself, and hands it on.
var fontSets = sync.Pool{New: func() any {
	set, err := loadFonts()
	if err != nil {
		panic(err) // the files are part of the program
	}
	return set
}}

func loadFonts() (*fonts, error) {
	f := &fonts{canvas.NewFontFamily("Andika"), canvas.NewFontFamily("Atkinson Hyperlegible")}
	for family, name := range map[*canvas.FontFamily]string{f.child: "andika", f.adult: "atkinson-hyperlegible"} {
		for weight, style := range map[string]canvas.FontStyle{"400": canvas.FontRegular, "700": canvas.FontBold} {
			data, err := fontFiles.ReadFile(fmt.Sprintf("fonts/%s-latin-%s-normal.woff2", name, weight))
			if err != nil {
				return nil, err
			}
			if err := family.LoadFont(data, 0, style); err != nil {
				return nil, fmt.Errorf("load font %s: %w", name, err)
			}
		}
	}
	return f, nil
}

// document collects pages and writes the PDF at the end.
type document struct {
	paper Paper
	fonts *fonts
	w     io.Writer
	title string
	out   *pdf.PDF // made with the first page, whose size it needs
	pages int
	first *canvas.Canvas // kept where nothing is written
	c     *canvas.Canvas
	ctx   *canvas.Context
}

// newDocument starts a document with a title; without a writer its pages are only looked at. Its fonts go back when it
// is closed.
func newDocument(w io.Writer, paper Paper, title string) *document {
	return &document{paper: paper, fonts: fontSets.Get().(*fonts), w: w, title: title}
}

func (d *document) newPage() {
	d.flush()
	d.c = canvas.New(d.paper.Width, d.paper.Height)
	d.ctx = canvas.NewContext(d.c)
}

func (d *document) flush() {
	if d.c == nil {
		return
	}
	d.pages++
	if d.w == nil {
		if d.first == nil {
			d.first = d.c
		}
		d.c = nil
		return
	}
	if d.out == nil {
		d.out = pdf.New(d.w, d.paper.Width, d.paper.Height, nil)
		d.out.SetInfo(d.title, "", "", "Bright Chalk", "Bright Chalk")
		d.out.SetLang("en-GB")
	} else {
		d.out.NewPage(d.paper.Width, d.paper.Height)
	}
	d.c.RenderTo(d.out)
	d.c = nil
}

func (d *document) close() error {
	d.flush()
	defer fontSets.Put(d.fonts)
	if d.out == nil {
		return nil
	}
	return d.out.Close()
}

type textStyle struct {
	child bool
	bold  bool
	size  float64
	ink   color.RGBA
}

func (d *document) face(s textStyle) *canvas.FontFace {
	family, style := d.fonts.adult, canvas.FontRegular
	if s.child {
		family = d.fonts.child
	}
	if s.bold {
		style = canvas.FontBold
	}
	if s.ink == (color.RGBA{}) {
		s.ink = ink
	}
	return family.Face(s.size, s.ink, style, canvas.FontNormal)
}

// box lays text out in a width and returns it with its height; drawn at y it hangs down from there.
func (d *document) box(s textStyle, text string, width float64, align canvas.TextAlign) (*canvas.Text, float64) {
	t := canvas.NewTextBox(d.face(s), text, width, 0, align, canvas.Top, &canvas.TextOptions{LineStretch: 0.12})
	return t, -t.Bounds().Y0 + 0.4
}

func (d *document) line(x0, y0, x1, y1, width float64, c color.RGBA, dashes ...float64) {
	d.ctx.Push()
	defer d.ctx.Pop()
	d.ctx.SetFillColor(canvas.Transparent)
	d.ctx.SetStrokeColor(c)
	d.ctx.SetStrokeWidth(width)
	d.ctx.SetDashes(0, inWidths(dashes, width)...)
	p := &canvas.Path{}
	p.MoveTo(x0, y0)
	p.LineTo(x1, y1)
	d.ctx.DrawPath(0, 0, p)
}

// inWidths turns dashes in millimetres into the library's unit, the width of the line.
func inWidths(dashes []float64, width float64) []float64 {
	out := make([]float64, len(dashes))
	for i, v := range dashes {
		out[i] = v / width
	}
	return out
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
		if drawing, err := canvas.ParseSVG(bytes.NewReader(img.Bytes)); err == nil && drawing.W > 0 && drawing.H > 0 {
			scale := side / max(drawing.W, drawing.H)
			m := canvas.Identity.Translate(x+(side-drawing.W*scale)/2, y+(side-drawing.H*scale)/2).Scale(scale, scale)
			drawing.RenderViewTo(d.c, m)
			return
		}
	} else if decoded, err := decode(img.Bytes); err == nil {
		size := decoded.Bounds().Size()
		perMm := float64(max(size.X, size.Y)) / side
		d.ctx.DrawImage(x+(side-float64(size.X)/perMm)/2, y+(side-float64(size.Y)/perMm)/2, decoded, canvas.DPMM(perMm))
		return
	}
	d.frame(x, y, side, side, 2, faint)
	t, h := d.box(textStyle{size: 10, ink: grey}, "This picture cannot be printed.", side-6, canvas.Center)
	d.ctx.DrawText(x+3, y+side/2+h/2, t)
}

func (d *document) frame(x, y, w, h, round float64, c color.RGBA) {
	d.ctx.Push()
	defer d.ctx.Pop()
	d.ctx.SetFillColor(canvas.Transparent)
	d.ctx.SetStrokeColor(c)
	d.ctx.SetStrokeWidth(0.35)
	d.ctx.DrawPath(x, y, canvas.RoundedRectangle(w, h, round))
}

// turnedPicture is picture on its head; x, y is the lower left corner on the page.
func (d *document) turnedPicture(img Image, x, y, side float64) {
	drawing, err := canvas.ParseSVG(bytes.NewReader(img.Bytes))
	if img.MediaType != "image/svg+xml" || err != nil || drawing.W <= 0 || drawing.H <= 0 {
		return
	}
	scale := side / max(drawing.W, drawing.H)
	drawing.RenderViewTo(
		d.c,
		canvas.Identity.Translate(x+side-(side-drawing.W*scale)/2, y+side-(side-drawing.H*scale)/2).
			Rotate(180).
			Scale(scale, scale),
	)
}

// Fonts are the shipped fonts as WOFF2, cut to what a page in Latin letters needs: the handwriting-friendly one, and
// the adults' in regular and bold.
func Fonts() (child, adult, bold []byte) {
	read := func(name string) []byte {
		data, _ := fontFiles.ReadFile("fonts/" + name + "-normal.woff2") // embedded, so it is there
		return data
	}
	return read("andika-latin-400"), read("atkinson-hyperlegible-latin-400"), read("atkinson-hyperlegible-latin-700")
}
