// Package drawing holds pages of shapes, lines of text and pictures, and writes them as PDF, SVG or PNG. Lengths are
// millimetres, y grows upwards from the lower edge, font sizes are points.
package drawing

import (
	"image/color"
	"time"
)

// Style is how a path is drawn. A colour without alpha draws nothing. Corners and ends are round.
type Style struct {
	Fill, Stroke color.RGBA // straight alpha, not premultiplied
	Width        float64    // of the line, in millimetres
	Dashes       []float64  // lengths of dash and gap, in millimetres
	EvenOdd      bool       // the rule for holes; the other is non-zero
	Sharp        bool       // flat ends and mitred corners
}

// item is one thing on a page: a shape, a line of text or a picture of pixels.
type item struct {
	shape *shape
	text  *text
	image *image
	clip  *Path // what is drawn lies inside; nil: all of it
	part  *part // of the text structure that it belongs to; nil: decoration, or a paragraph of its own
}

// part is a piece of the structure that a screen reader follows.
type part struct{ role, alt string }

type shape struct {
	path  Path
	style Style
}

type text struct {
	face   Face
	text   string
	x, y   float64 // left end of the base line, before the matrix
	matrix Matrix
}

type image struct {
	bytes     []byte
	mediaType string
	x, y      float64
	w, h      float64
	matrix    Matrix
}

// Page is one page.
type Page struct {
	Width, Height float64
	Bookmark      string // what the outline of the PDF calls it; empty: it is not in the outline
	items         []item
	matrix        Matrix
	missing       map[rune]bool
	part          *part
}

// NewPage is an empty page.
func NewPage(width, height float64) *Page {
	return &Page{Width: width, Height: height, matrix: Identity, missing: map[rune]bool{}}
}

// Document is a list of pages with a title.
type Document struct {
	Title string
	Lang  string // a language tag such as en-GB
	Made  time.Time
	Pages []*Page
}

// Within draws with the coordinates mapped by m.
func (p *Page) Within(m Matrix, draw func()) {
	before := p.matrix
	p.matrix = before.Mul(m)
	draw()
	p.matrix = before
}

// As draws something that is one part of the page to a screen reader: a heading (H1), a paragraph (P). What is drawn
// outside of a part is a paragraph for each line of text, and decoration for all else.
func (p *Page) As(role string, draw func()) {
	before := p.part
	p.part = &part{role: role}
	draw()
	p.part = before
}

// Figure draws a picture with the words that a screen reader says for it.
func (p *Page) Figure(alt string, draw func()) {
	before := p.part
	p.part = &part{role: "Figure", alt: alt}
	draw()
	p.part = before
}

func (p *Page) add(it item) {
	it.part = p.part
	p.items = append(p.items, it)
}

// Draw draws a path.
func (p *Page) Draw(path Path, s Style) {
	if path.Empty() || s.Fill.A == 0 && (s.Stroke.A == 0 || s.Width == 0) {
		return
	}
	k := p.matrix.scale()
	s.Width *= k
	dashes := make([]float64, len(s.Dashes))
	for i, d := range s.Dashes {
		dashes[i] = d * k
	}
	s.Dashes = dashes
	p.add(item{shape: &shape{path.Transform(p.matrix), s}})
}

// Text writes one line with its left end at x on the base line y.
func (p *Page) Text(f Face, x, y float64, line string) {
	if line == "" {
		return
	}
	for _, r := range f.Missing(line) {
		p.missing[r] = true
	}
	p.add(item{text: &text{f, line, x, y, p.matrix}})
}

// Missing are the signs of the page that no font holds, in no order.
func (p *Page) Missing() []rune {
	var out []rune
	for r := range p.missing {
		out = append(out, r)
	}
	return out
}

// Image draws a PNG, JPEG or GIF into a box whose lower left corner is x, y.
func (p *Page) Image(data []byte, mediaType string, x, y, w, h float64) {
	p.add(item{image: &image{data, mediaType, x, y, w, h, p.matrix}})
}

// Picture fits a drawing into a square of the given side whose lower left corner is x, y.
func (p *Page) Picture(d Picture, x, y, side float64) {
	k := side / max(d.Width, d.Height)
	m := p.matrix.Translate(x+(side-d.Width*k)/2, y+(side+d.Height*k)/2).Scale(k, -k)
	for _, s := range d.shapes {
		style := s.style
		style.Width *= m.scale()
		dashes := make([]float64, len(style.Dashes))
		for i, v := range style.Dashes {
			dashes[i] = v * m.scale()
		}
		style.Dashes = dashes
		it := item{shape: &shape{s.path.Transform(m), style}}
		if s.clip != nil {
			clip := s.clip.Transform(m)
			it.clip = &clip
		}
		p.add(it)
	}
}

// Lines are the lines of text of the page, in the order in which they were written.
func (p *Page) Lines() []string {
	var out []string
	for _, it := range p.items {
		if it.text != nil {
			out = append(out, it.text.text)
		}
	}
	return out
}
