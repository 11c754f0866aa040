package drawing

import (
	"encoding/base64"
	"fmt"
	"image/color"
	"io"
	"strings"

	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
)

// outline is a line of text as a shape, placed on its page. PNG and SVG take it so that they need no font.
func (t text) outline() shape {
	var out Path
	x, em := t.x, t.face.Size*pointMM
	var buffer sfnt.Buffer
	for _, r := range t.face.runs(t.text) {
		for _, sign := range r.text {
			index, ok := r.font.indices[sign]
			if !ok { // a box
				out.Append(Rectangle(x+0.06*em, t.y, 0.48*em, 0.7*em).Transform(t.matrix))
				out.Append(Rectangle(x+0.1*em, t.y+0.04*em, 0.4*em, 0.62*em).Transform(t.matrix))
				x += missingAdvance * em
				continue
			}
			k := em / r.font.unit / 64
			m := t.matrix.Translate(x, t.y).Scale(k, -k)
			if glyph, err := r.font.face.LoadGlyph(&buffer, index, fixed.I(int(r.font.unit)), nil); err == nil {
				out.Append(glyphPath(glyph).Transform(m))
			}
			x += r.font.advances[sign] * em
		}
	}
	return shape{out, Style{Fill: t.face.ink()}}
}

func glyphPath(glyph sfnt.Segments) Path {
	var p Path
	at := func(a fixed.Point26_6) (x, y float64) { return float64(a.X), float64(a.Y) }
	for i, s := range glyph {
		x0, y0 := at(s.Args[0])
		switch s.Op {
		case sfnt.SegmentOpMoveTo:
			if i > 0 {
				p.Close()
			}
			p.MoveTo(x0, y0)
		case sfnt.SegmentOpLineTo:
			p.LineTo(x0, y0)
		case sfnt.SegmentOpQuadTo:
			x1, y1 := at(s.Args[1])
			p.QuadTo(x0, y0, x1, y1)
		case sfnt.SegmentOpCubeTo:
			x1, y1 := at(s.Args[1])
			x2, y2 := at(s.Args[2])
			p.CubeTo(x0, y0, x1, y1, x2, y2)
		}
	}
	if len(glyph) > 0 {
		p.Close()
	}
	return p
}

// SVG writes the page with text as outlines, so that it looks the same wherever it is opened. The size is in
// millimetres.
func (p *Page) SVG(w io.Writer) error {
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s">`,
		number(p.Width), number(p.Height), number(p.Width), number(p.Height))
	down := Matrix{1, 0, 0, -1, 0, p.Height}
	clips := 0
	for _, it := range p.items {
		s := it.shape
		if it.text != nil {
			outlined := it.text.outline()
			s = &outlined
		}
		if it.image != nil {
			i := *it.image
			m := down.Mul(i.matrix).Translate(i.x, i.y+i.h).Scale(1, -1)
			fmt.Fprintf(
				&b,
				`<image width="%s" height="%s" preserveAspectRatio="none" transform="matrix(%s %s %s %s %s %s)" `+
					`href="data:%s;base64,%s"/>`,
				number(i.w),
				number(i.h),
				number(m[0]),
				number(m[1]),
				number(m[2]),
				number(m[3]),
				number(m[4]),
				number(m[5]),
				i.mediaType,
				base64.StdEncoding.EncodeToString(i.bytes),
			)
			continue
		}
		clip := ""
		if it.clip != nil {
			clips++
			fmt.Fprintf(&b, `<clipPath id="c%d"><path d="%s"/></clipPath>`, clips, svgPath(it.clip.Transform(down)))
			clip = fmt.Sprintf(` clip-path="url(#c%d)"`, clips)
		}
		fmt.Fprintf(&b, `<path d="%s"%s%s/>`, svgPath(s.path.Transform(down)), svgStyle(s.style), clip)
	}
	b.WriteString("</svg>\n")
	_, err := io.WriteString(w, b.String())
	return err
}

func svgPath(p Path) string {
	var b strings.Builder
	for _, s := range p.segments {
		b.WriteByte(s.op)
		for i := range s.count() {
			b.WriteString(number(s.points[i].X) + " " + number(s.points[i].Y) + " ")
		}
	}
	return strings.TrimSpace(b.String())
}

func svgStyle(s Style) string {
	hex := func(c color.RGBA) string { return fmt.Sprintf("#%02x%02x%02x", c.R, c.G, c.B) }
	out := ` fill="none"`
	if s.Fill.A > 0 {
		out = ` fill="` + hex(s.Fill) + `"`
		if s.Fill.A < 255 {
			out += ` fill-opacity="` + number(float64(s.Fill.A)/255) + `"`
		}
	}
	if s.EvenOdd {
		out += ` fill-rule="evenodd"`
	}
	if s.Stroke.A == 0 || s.Width == 0 {
		return out
	}
	out += ` stroke="` + hex(s.Stroke) + `" stroke-width="` + number(s.Width) + `"`
	if s.Stroke.A < 255 {
		out += ` stroke-opacity="` + number(float64(s.Stroke.A)/255) + `"`
	}
	if !s.Sharp {
		out += ` stroke-linecap="round" stroke-linejoin="round"`
	}
	if len(s.Dashes) > 0 {
		parts := make([]string, len(s.Dashes))
		for i, d := range s.Dashes {
			parts[i] = number(d)
		}
		out += ` stroke-dasharray="` + strings.Join(parts, " ") + `"`
	}
	return out
}
