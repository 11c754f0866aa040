package render

import (
	"image/color"

	"brightchalk/internal/core/mouth"
	"brightchalk/internal/drawing"
)

// mouth draws a view of a still into a width; x, y is its upper left corner. It returns its height.
func (d *document) mouth(s mouth.Still, v mouth.View, x, y, width float64) float64 {
	w := mouth.Window(v)
	k := width / w[2]
	onPage := drawing.Identity.Translate(x-w[0]*k, y+w[1]*k).Scale(k, -k)
	shapes, marks := s.Side, s.SideMarks
	if v == mouth.Front {
		shapes, marks = s.Front, s.FrontMarks
	}
	fills := map[string]color.RGBA{
		"none": {}, "paper": white, "dark": ink, "grain": {0xe4, 0xd8, 0xd2, 0xff},
	}
	for _, part := range shapes {
		var p drawing.Path
		for i, at := range part.Points {
			if i == 0 {
				p.MoveTo(at.X, at.Y)
				continue
			}
			p.LineTo(at.X, at.Y)
		}
		if part.Closed {
			p.Close()
		}
		d.page.Draw(p.Transform(onPage), drawing.Style{Fill: fills[part.Fill], Stroke: ink, Width: max(0.15, part.Width*k)})
	}
	for _, m := range marks {
		p, err := drawing.ParsePath(m.D)
		if err != nil {
			continue
		}
		dashes := []float64(nil)
		if m.Dash != "" {
			dashes = []float64{1, 1}
		}
		tone := map[string]color.RGBA{"air": {0x1c, 0x6a, 0x96, 0xff}, "ink": ink, "paper": white}[m.Ink]
		d.path(p.Transform(onPage), max(0.2, m.Width*k), tone, dashes...)
	}
	return w[3] * k
}
