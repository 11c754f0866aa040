package render

import (
	"fmt"
	"image/color"
	"math"

	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/drawing"
)

// bridgedWord writes a word with its bridges, its left end at x on the base line y. Bridges are shapes, not colours:
// the target's is thicker, an odd part's is wavy, a split spelling's leaps.
func (d *document) bridgedWord(s textStyle, x, y float64, word string, bits []spelling.Bit) {
	d.text(s, x, y, word)
	letters := []rune(word)
	at := func(i int) float64 { return x + s.Width(string(letters[:i])) }
	m := s.Metrics()
	for _, b := range bits {
		if len(b.Letters) == 0 || b.Letters[len(b.Letters)-1] >= len(letters) {
			continue
		}
		from, to := b.Letters[0], b.Letters[len(b.Letters)-1]
		gap := 0.03 * m.XHeight
		x0, x1 := at(from)+gap, at(to+1)-gap
		top := y - m.XHeight*0.48
		depth, width := m.XHeight*0.24, max(0.3, m.XHeight*0.03)
		if to-from+1 > len(b.Letters) {
			depth *= 2.2
		}
		if b.Target {
			width *= 2.4
		}
		var p drawing.Path
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
	ink        color.RGBA
	width      float64
	dots       float64 // millimetres between dots; 0 is a full line
	starts     bool    // a dot where each stroke starts
	arrows     bool    // where each stroke goes, with its number
	startsOnly bool    // only the starts
}

// drawWritten draws a letter or a group whose left edge is x and whose base line is y.
func (d *document) drawWritten(w strokes.Written, x, y, h float64, l look) {
	onPage := drawing.Identity.Translate(x-w.Left*h, y).Scale(h, -h)
	for _, s := range w.Strokes {
		p, err := drawing.ParsePath(s.Path)
		if err != nil {
			panic(fmt.Sprintf("stroke of %q: %v", w.Text, err)) // strokes write their own paths
		}
		p = p.Transform(onPage)
		switch {
		case l.startsOnly:
		case s.Length == 0:
			d.disc(x+(s.Start.X-w.Left)*h, y+s.Start.Y*h, l.width*0.75, l.ink)
		case l.dots > 0:
			d.dotted(p, l)
		default:
			d.path(p, l.width, l.ink)
		}
	}
	if l.arrows && len(w.Strokes) > 1 {
		d.numbered(w, x, y, h)
	}
	for _, s := range w.Strokes {
		cx, cy := x+(s.Start.X-w.Left)*h, y+s.Start.Y*h
		if l.starts {
			d.disc(cx, cy, 0.09*h, ink)
		}
		if l.arrows && s.Length > 0 {
			a := s.Heading * math.Pi / 180
			tip := func(along, across float64) (float64, float64) {
				return cx + h*(along*math.Cos(a)-across*math.Sin(a)), cy + h*(along*math.Sin(a)+across*math.Cos(a))
			}
			var p drawing.Path
			p.MoveTo(tip(0.15, -0.08))
			p.LineTo(tip(0.36, 0))
			p.LineTo(tip(0.15, 0.08))
			p.Close()
			d.page.Draw(p, drawing.Style{Fill: white, Stroke: ink, Width: 0.15})
		}
	}
	if w.Group && !l.startsOnly {
		d.line(x, y+w.Under*h, x+(w.Right-w.Left)*h, y+w.Under*h, 0.5, ink)
	}
}

// numbered writes its number beside the start of each stroke, where no other number stands.
func (d *document) numbered(w strokes.Written, x, y, h float64) {
	type box struct{ x0, y0, x1, y1 float64 }
	var taken []box
	n := textStyle{Bold: true, Size: max(smallest, h*0.9)}
	high := n.Metrics().CapHeight
	for i, s := range w.Strokes {
		text := fmt.Sprint(i + 1)
		wide, gap := n.Width(text), 0.12*h
		cx, cy := x+(s.Start.X-w.Left)*h, y+s.Start.Y*h
		var place box
		for _, at := range []drawing.Point{ // left above, right above, left under, right under, further above
			{X: cx - gap - wide, Y: cy + 0.5*gap},
			{X: cx + gap, Y: cy + 0.5*gap},
			{X: cx - gap - wide, Y: cy - gap - high},
			{X: cx + gap, Y: cy - gap - high},
			{X: cx - gap - wide, Y: cy + gap + high*1.3},
		} {
			place = box{at.X, at.Y, at.X + wide, at.Y + high}
			free := true
			for _, b := range taken {
				free = free && (place.x0 > b.x1+0.4 || b.x0 > place.x1+0.4 || place.y0 > b.y1+0.4 || b.y0 > place.y1+0.4)
			}
			if free {
				break
			}
		}
		taken = append(taken, place)
		d.text(n, place.x0, place.y0, text)
	}
}

// dotted draws dots along a path, at both ends too.
func (d *document) dotted(p drawing.Path, l look) {
	for _, part := range p.Points(0.1) {
		since := math.Inf(1)
		for i, at := range part {
			if i > 0 {
				since += math.Hypot(at.X-part[i-1].X, at.Y-part[i-1].Y)
			}
			if since >= l.dots || i == len(part)-1 && since > l.dots/2 {
				d.disc(at.X, at.Y, l.width/2, l.ink)
				since = 0
			}
		}
	}
}

// smile draws a face to colour around x, y.
func (d *document) smile(x, y, r float64) {
	d.path(drawing.Circle(x, y, r), 0.5, ink)
	d.disc(x-r*0.35, y+r*0.25, r*0.09, ink)
	d.disc(x+r*0.35, y+r*0.25, r*0.09, ink)
	var p drawing.Path
	p.MoveTo(x-r*0.45, y-r*0.3)
	p.QuadTo(x, y-r*0.75, x+r*0.45, y-r*0.3)
	d.path(p, 0.5, ink)
}

// tick draws a box to tick with what it stands for beside it, and returns where the text ends.
func (d *document) tick(s textStyle, x, y float64, text string) float64 {
	side := s.Metrics().CapHeight * 1.3
	d.frame(x, y-side*0.15, side, side, 0.6, ink)
	d.text(s, x+side+2, y, text)
	return x + side + 2 + s.Width(text)
}
