package drawing

import (
	"bytes"
	goimage "image"
	"image/color"
	"image/draw"
	"image/png"
	"io"
	"math"

	"github.com/srwiley/rasterx"
	"github.com/srwiley/scanx"
	xdraw "golang.org/x/image/draw"
	"golang.org/x/image/math/f64"
	"golang.org/x/image/math/fixed"
)

// PNG writes the page on white, so many pixels to a millimetre.
func (p *Page) PNG(w io.Writer, perMM float64) error { return png.Encode(w, p.raster(perMM)) }

func (p *Page) raster(perMM float64) *goimage.RGBA {
	width, height := int(math.Round(p.Width*perMM)), int(math.Round(p.Height*perMM))
	out := goimage.NewRGBA(goimage.Rect(0, 0, width, height))
	draw.Draw(out, out.Bounds(), goimage.White, goimage.Point{}, draw.Src)
	m := Matrix{perMM, 0, 0, -perMM, 0, p.Height * perMM}
	for _, it := range p.items {
		target := out
		if it.clip != nil {
			target = goimage.NewRGBA(out.Bounds())
		}
		switch {
		case it.shape != nil:
			rasterShape(target, *it.shape, m)
		case it.text != nil:
			rasterShape(target, it.text.outline(), m)
		case it.image != nil:
			rasterImage(target, *it.image, m)
		}
		if it.clip != nil {
			mask := goimage.NewRGBA(out.Bounds())
			rasterShape(mask, shape{*it.clip, Style{Fill: color.RGBA{A: 255}}}, m)
			draw.DrawMask(out, out.Bounds(), target, goimage.Point{}, mask, goimage.Point{}, draw.Over)
		}
	}
	return out
}

func rasterShape(out *goimage.RGBA, s shape, m Matrix) {
	b := out.Bounds()
	spanner := scanx.NewImgSpanner(out)
	scanner := scanx.NewScanner(spanner, b.Dx(), b.Dy())
	path := rasterPath(s.path.Transform(m))
	if s.style.Fill.A > 0 {
		filler := rasterx.NewFiller(b.Dx(), b.Dy(), scanner)
		filler.SetWinding(!s.style.EvenOdd)
		filler.SetColor(straight(s.style.Fill))
		path.AddTo(filler)
		filler.Stop(true)
		filler.Draw()
		filler.Clear()
	}
	if s.style.Stroke.A > 0 && s.style.Width > 0 {
		k := m.scale()
		dasher := rasterx.NewDasher(b.Dx(), b.Dy(), scanner)
		dashes := make([]float64, len(s.style.Dashes))
		for i, d := range s.style.Dashes {
			dashes[i] = max(0.1, d*k)
		}
		wide := fixed.Int26_6(max(0.5, s.style.Width*k) * 64)
		if s.style.Sharp {
			dasher.SetStroke(wide, 4<<6, rasterx.ButtCap, rasterx.ButtCap, rasterx.FlatGap, rasterx.Miter, dashes, 0)
		} else {
			dasher.SetStroke(wide, 4<<6, rasterx.RoundCap, rasterx.RoundCap, rasterx.RoundGap, rasterx.Round, dashes, 0)
		}
		dasher.SetWinding(true)
		dasher.SetColor(straight(s.style.Stroke))
		path.AddTo(dasher)
		dasher.Stop(false)
		dasher.Draw()
		dasher.Clear()
	}
}

func straight(c color.RGBA) color.NRGBA { return color.NRGBA(c) }

func rasterPath(p Path) rasterx.Path {
	var out rasterx.Path
	at := func(q Point) fixed.Point26_6 {
		const bound = 1 << 24
		return fixed.Point26_6{
			X: fixed.Int26_6(max(-bound, min(bound, q.X*64))), Y: fixed.Int26_6(max(-bound, min(bound, q.Y*64))),
		}
	}
	open := false
	for _, s := range p.segments {
		switch s.op {
		case 'M':
			if open {
				out.Stop(false)
			}
			out.Start(at(s.points[0]))
			open = true
		case 'L':
			out.Line(at(s.points[0]))
		case 'C':
			out.CubeBezier(at(s.points[0]), at(s.points[1]), at(s.points[2]))
		case 'Z':
			out.Stop(true)
			open = false
		}
	}
	return out
}

func rasterImage(out *goimage.RGBA, i image, m Matrix) {
	decoded, _, err := goimage.Decode(bytes.NewReader(i.bytes))
	if err != nil {
		return
	}
	size := decoded.Bounds().Size()
	k := m.Mul(i.matrix).Translate(i.x, i.y+i.h).Scale(i.w/float64(size.X), -i.h/float64(size.Y))
	xdraw.CatmullRom.Transform(
		out,
		f64.Aff3{k[0], k[2], k[4], k[1], k[3], k[5]},
		decoded,
		decoded.Bounds(),
		xdraw.Over,
		nil,
	)
}
