package render

import (
	"image/color"
	"math"

	"github.com/tdewolff/canvas"

	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

func (d *document) text(s textStyle, x, y float64, text string) {
	d.ctx.DrawText(x, y, canvas.NewTextLine(d.face(s), text, canvas.Left))
}

func (d *document) textRight(s textStyle, x, y float64, text string) {
	d.ctx.DrawText(x, y, canvas.NewTextLine(d.face(s), text, canvas.Right))
}

func (d *document) textCentre(s textStyle, x, y float64, text string) {
	d.ctx.DrawText(x, y, canvas.NewTextLine(d.face(s), text, canvas.Center))
}

// para hangs a text at y and returns the height under it.
func (d *document) para(s textStyle, x, y, width float64, text string) float64 {
	t, h := d.box(s, text, width, canvas.Left)
	d.ctx.DrawText(x, y, t)
	return y - h
}

// fitted is para with a size that shrinks until the text is no higher than height.
func (d *document) fitted(s textStyle, x, y, width, height float64, align canvas.TextAlign, text string) float64 {
	t, h := d.box(s, text, width, align)
	for h > height && s.size > 7 {
		s.size--
		t, h = d.box(s, text, width, align)
	}
	d.ctx.DrawText(x, y, t)
	return y - h
}

// fit is the largest size up to most at which a line is no wider than width.
func (d *document) fit(s textStyle, text string, width, most float64) textStyle {
	s.size = most
	for s.size > 6 && d.face(s).TextWidth(text) > width {
		s.size -= 2
	}
	return s
}

// holds tells whether the shipped font has every letter of a text.
func (d *document) holds(s textStyle, text string) bool {
	f := d.face(s)
	for _, r := range text {
		if r > ' ' && f.Font.GlyphIndex(r) == 0 {
			return false
		}
	}
	return true
}

func (d *document) path(p *canvas.Path, width float64, c color.RGBA, dashes ...float64) {
	d.ctx.Push()
	defer d.ctx.Pop()
	d.ctx.SetFillColor(canvas.Transparent)
	d.ctx.SetStrokeColor(c)
	d.ctx.SetStrokeWidth(width)
	d.ctx.SetStrokeCapper(canvas.RoundCap)
	d.ctx.SetStrokeJoiner(canvas.RoundJoin)
	d.ctx.SetDashes(0, inWidths(dashes, width)...)
	d.ctx.DrawPath(0, 0, p)
}

func (d *document) disc(x, y, r float64, c color.RGBA) {
	d.ctx.Push()
	defer d.ctx.Pop()
	d.ctx.SetFillColor(c)
	d.ctx.SetStrokeColor(canvas.Transparent)
	d.ctx.DrawPath(x, y, canvas.Circle(r))
}

// bridgedWord writes a word with its bridges centred at x; the base line is y. Bridges are shapes, not
// colours: the target's is thicker, an odd part's is wavy, a split spelling's leaps.
func (d *document) bridgedWord(s textStyle, x, y float64, word string, bits []spelling.Bit, bridges bool) {
	f := d.face(s)
	letters := []rune(word)
	left := x - f.TextWidth(word)/2
	d.text(s, left, y, word)
	if !bridges {
		return
	}
	at := func(i int) float64 { return left + f.TextWidth(string(letters[:i])) }
	m := f.Metrics()
	for _, b := range bits {
		if len(b.Letters) == 0 || b.Letters[len(b.Letters)-1] >= len(letters) {
			continue
		}
		from, to := b.Letters[0], b.Letters[len(b.Letters)-1]
		x0, x1 := at(from)+0.03*s.size*0.35, at(to+1)-0.03*s.size*0.35
		top := y - m.Descent*0.9
		depth, width := m.XHeight*0.28, 0.35
		if to-from+1 > len(b.Letters) {
			depth *= 2.2
		}
		if b.Target {
			width = 0.9
		}
		p := &canvas.Path{}
		p.MoveTo(x0, top)
		if b.Odd {
			step := (x1 - x0) / 4
			for i := range 4 {
				dy := depth * 0.8
				if i%2 == 1 {
					dy = -dy
				}
				p.QuadTo(x0+step*(float64(i)+0.5), top-dy, x0+step*float64(i+1), top)
			}
		} else {
			p.CubeTo(x0+(x1-x0)*0.2, top-depth*1.3, x1-(x1-x0)*0.2, top-depth*1.3, x1, top)
		}
		d.path(p, width, ink)
	}
}

var lineInks = map[string]color.RGBA{
	"slate":    ink,
	"grey":     faint,
	"sky":      {0x5a, 0x9c, 0xc4, 0xff},
	"coral":    {0xd0, 0x78, 0x66, 0xff},
	"marigold": {0xc9, 0x9a, 0x30, 0xff},
	"mint":     {0x5f, 0xaa, 0x80, 0xff},
	"violet":   {0x97, 0x82, 0xc4, 0xff},
}

// ruled draws the team's writing lines from x0 to x1 around a base line at y; h is the x-height in millimetres.
func (d *document) ruled(lines []strokes.WrittenLine, x0, x1, y, h float64) {
	for i, l := range lines {
		if !l.Shown {
			continue
		}
		width, dashes := 0.25, []float64(nil)
		switch i {
		case 1:
			dashes = []float64{1.6, 1.2}
		case 2:
			width = 0.45
		case 3:
			dashes = []float64{0.3, 1.2}
		}
		d.line(x0, y+l.Y*h, x1, y+l.Y*h, width, lineInks[l.Colour], dashes...)
	}
}

// look is how a letter is drawn.
type look struct {
	ink     color.RGBA
	width   float64
	dots    float64 // millimetres between dots; 0 is a full line
	starts  bool    // a dot where each stroke starts, with its number
	arrows  bool
	nothing bool // only the starts
}

// written draws a letter or a group whose left edge is x and whose base line is y.
func (d *document) written(w strokes.Written, x, y, h float64, l look) {
	for _, s := range w.Strokes {
		p, err := canvas.ParseSVGPath(s.Path)
		if err != nil {
			continue
		}
		p = p.Transform(canvas.Identity.Translate(x-w.Left*h, y).Scale(h, -h))
		switch {
		case l.nothing:
		case s.Length == 0:
			d.disc(x+(s.Start.X-w.Left)*h, y+s.Start.Y*h, l.width*0.75, l.ink)
		case l.dots > 0:
			d.path(p, l.width, l.ink, 0.01, l.dots)
		default:
			d.path(p, l.width, l.ink)
		}
	}
	for i, s := range w.Strokes {
		cx, cy := x+(s.Start.X-w.Left)*h, y+s.Start.Y*h
		if l.starts {
			d.disc(cx, cy, 0.09*h, ink)
			if l.arrows {
				d.textCentre(
					textStyle{bold: true, size: h * 0.14 * 72 / 25.4, ink: color.RGBA{255, 255, 255, 255}},
					cx,
					cy-0.05*h,
					string(rune('1'+i)),
				)
			}
		}
		if l.arrows && s.Length > 0 {
			a := s.Heading * math.Pi / 180
			tip := func(along, across float64) (float64, float64) {
				return cx + h*(along*math.Cos(a)-across*math.Sin(a)), cy + h*(along*math.Sin(a)+across*math.Cos(a))
			}
			p := &canvas.Path{}
			p.MoveTo(tip(0.15, -0.08))
			p.LineTo(tip(0.36, 0))
			p.LineTo(tip(0.15, 0.08))
			p.Close()
			d.ctx.Push()
			d.ctx.SetFillColor(ink)
			d.ctx.SetStrokeColor(canvas.Transparent)
			d.ctx.DrawPath(0, 0, p)
			d.ctx.Pop()
		}
	}
	if w.Group && !l.nothing {
		d.line(x, y+w.Under*h, x+(w.Right-w.Left)*h, y+w.Under*h, 0.5, ink)
	}
}

// cut is a dashed box to cut along.
func (d *document) cut(x, y, w, h float64) {
	p := canvas.Rectangle(w, h).Translate(x, y)
	d.path(p, 0.25, grey, 2, 2)
}

// face draws one of three faces to tick: 0 glad, 1 even, 2 not yet.
func (d *document) tickFace(x, y, r float64, mood int) {
	d.path(canvas.Circle(r).Translate(x, y), 0.5, ink)
	d.disc(x-r*0.35, y+r*0.25, r*0.09, ink)
	d.disc(x+r*0.35, y+r*0.25, r*0.09, ink)
	p := &canvas.Path{}
	bend := []float64{-0.45, 0, 0.35}[mood] * r
	p.MoveTo(x-r*0.45, y-r*0.3)
	p.QuadTo(x, y-r*0.3+bend, x+r*0.45, y-r*0.3)
	d.path(p, 0.5, ink)
	d.frame(x-3, y-r-8, 6, 6, 0.5, ink)
}
