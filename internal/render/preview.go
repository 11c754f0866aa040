package render

import (
	"image/png"
	"io"

	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers/rasterizer"
)

// Preview writes the first page of a sheet as a picture so many pixels wide.
func Preview(w io.Writer, h Handout, name string, paper Paper, width int) error {
	d := newDocument(nil, paper, "")
	defer d.close() //nolint:errcheck // nothing is written
	for _, s := range sheets {
		if s.Name != name {
			continue
		}
		if err := s.draw(d, h); err != nil {
			return err
		}
		d.flush()
		picture := rasterizer.Draw(d.first, canvas.DPMM(float64(width)/d.first.W), canvas.DefaultColorSpace)
		return png.Encode(w, picture)
	}
	return nothing("there is no sheet of this name.")
}
