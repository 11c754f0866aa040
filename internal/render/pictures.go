package render

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"io"
	"runtime"
	"strings"
	"sync/atomic"

	"golang.org/x/sync/errgroup"

	"brightchalk/internal/drawing"
)

// pixelsPerMm is the resolution of a card as a PNG: a large card is 720 by 960 pixels.
const pixelsPerMm = 8

// Pictures writes a ZIP with both sides of each card as PNG and as SVG, for slides and boards. The names begin with the
// place in the order.
func Pictures(ctx context.Context, w io.Writer, faces []Face, tell func(done int)) error {
	type made struct {
		name string
		data []byte
	}
	files := make([][]made, len(faces))
	var done atomic.Int64
	group, inner := errgroup.WithContext(ctx)
	group.SetLimit(runtime.NumCPU())
	for i, f := range faces {
		group.Go(func() error {
			if err := inner.Err(); err != nil {
				return err
			}
			for side, draw := range map[string]func(*document, Face, float64, float64, Size){
				"letter": (*document).letterSide, "picture": (*document).pictureSide,
			} {
				name := fmt.Sprintf("%03d-%s-%s", f.Step, fileName(f.Pair.Grapheme, f.Pair.Sound), side)
				raster, vector, err := picture(f, draw)
				if err != nil {
					return fmt.Errorf("draw %s: %w", name, err)
				}
				files[i] = append(files[i], made{"png/" + name + ".png", raster}, made{"svg/" + name + ".svg", vector})
			}
			tell(int(done.Add(1)))
			return nil
		})
	}
	if err := group.Wait(); err != nil {
		return err
	}
	z := zip.NewWriter(w)
	for _, list := range files {
		for _, m := range list {
			f, err := z.Create(m.name)
			if err != nil {
				return err
			}
			if _, err := f.Write(m.data); err != nil {
				return err
			}
		}
	}
	return z.Close()
}

// fileName is a pair as the name of a file: letters, and the sound where a system takes it.
func fileName(grapheme, sound string) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(`/\:*?"<>|`, r) {
			return -1
		}
		return r
	}, grapheme+"-"+sound)
}

func picture(f Face, draw func(*document, Face, float64, float64, Size)) (raster, vector []byte, err error) {
	d := newDocument(Paper(Large), "")
	d.newPage()
	d.fill(drawing.Rectangle(0, 0, Large.Width, Large.Height), white)
	draw(d, f, 0, 0, Large)
	var p, v bytes.Buffer
	if err := d.page.PNG(&p, pixelsPerMm); err != nil {
		return nil, nil, err
	}
	if err := d.page.SVG(&v); err != nil {
		return nil, nil, err
	}
	return p.Bytes(), v.Bytes(), nil
}
