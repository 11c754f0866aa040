package media

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/draw"
	_ "image/jpeg" // decoder
	"image/png"
	"strings"
)

const (
	maxPixels  = 40_000_000
	maxDecoded = 128 << 20 // bytes
	maxSide    = 12_000
	storedSide = 1600
)

// Picture is a cleaned picture. Remarks say what was changed, in sentences.
type Picture struct {
	MediaType string
	Bytes     []byte
	Remarks   []string
}

// CleanPicture checks a PNG, JPEG or SVG. Pixels are decoded and written anew, which drops all else that a
// file may carry; an SVG keeps only known drawing elements. The error is a Refusal.
func CleanPicture(data []byte) (Picture, error) {
	switch {
	case len(data) == 0:
		return Picture{}, refuse("The file is empty.")
	case len(data) > MaxPictureBytes:
		return Picture{}, refuse("The picture has more than %d MB.", MaxPictureBytes>>20)
	case bytes.HasPrefix(data, []byte("\x89PNG")), bytes.HasPrefix(data, []byte("\xff\xd8")):
		return cleanPixels(data)
	case bytes.Contains(data[:min(len(data), 1024)], []byte("<svg")):
		return CleanSVG(data)
	}
	return Picture{}, refuse("This is no picture that can be shown. PNG, JPEG and SVG are taken.")
}

func cleanPixels(data []byte) (Picture, error) {
	size, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refuse("The picture is damaged.")
	}
	if size.Width > maxSide || size.Height > maxSide || size.Width*size.Height > maxPixels {
		return Picture{}, refuse(
			"The picture is %d by %d points; up to %d million points in all are taken.",
			size.Width,
			size.Height,
			maxPixels/1_000_000,
		)
	}
	if size.Width < 16 || size.Height < 16 {
		return Picture{}, refuse("The picture is only %d by %d points: nothing could be seen.", size.Width, size.Height)
	}
	if size.Width*size.Height*int(bytesOfPixel(format, data)) > maxDecoded {
		return Picture{}, refuse(
			"The picture of %d by %d points is kept in a way that takes too much memory to read (16 bit, interlaced or "+
				"progressive). Save it smaller, or as a plain PNG or JPEG of 8 bit.",
			size.Width,
			size.Height,
		)
	}
	src, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refuse("The %s picture is damaged.", strings.ToUpper(format))
	}
	p := Picture{MediaType: "image/png"}
	if long := max(size.Width, size.Height); long > storedSide {
		w, h := max(1, size.Width*storedSide/long), max(1, size.Height*storedSide/long)
		src = shrunk(src, w, h)
		p.Remarks = append(p.Remarks, fmt.Sprintf("Made smaller: %d by %d points.", w, h))
	}
	var b bytes.Buffer
	if err := png.Encode(&b, src); err != nil {
		return Picture{}, refuse("The picture cannot be written anew.")
	}
	p.Bytes = b.Bytes()
	return p, nil
}

// bytesOfPixel is how many bytes a decoder takes for a point at its most: as they are read, and once more where the
// file has its points in several passes.
func bytesOfPixel(format string, data []byte) int64 {
	if format == "jpeg" {
		if progressive(data) {
			return 3 + 3*4 // coefficients stay until the last pass
		}
		return 3
	}
	depth, passes := int64(4), int64(1)
	if len(data) > 28 && data[24] == 16 { // IHDR: depth, kind of colour, compression, filter, interlace
		depth = 8
	}
	if len(data) > 28 && data[28] != 0 {
		passes = 2
	}
	return depth * passes
}

// progressive tells whether a JPEG file has a frame of that kind, marker SOF2 of ITU-T T.81.
func progressive(data []byte) bool {
	for at := 2; at+4 <= len(data) && data[at] == 0xFF; {
		switch marker := data[at+1]; {
		case marker == 0xC2:
			return true
		case marker == 0xDA, marker == 0xD9:
			return false
		case marker == 0xFF:
			at++
		default:
			at += 2 + int(binary.BigEndian.Uint16(data[at+2:]))
		}
	}
	return true // not found: the dearer one
}

// shrunk is a picture made smaller, each point the mean of those that it covers, row by row: a filter of the drawing
// package keeps all rows as floating-point numbers, which takes more than the picture.
func shrunk(src image.Image, w, h int) *image.NRGBA {
	from := src.Bounds()
	out := image.NewNRGBA(image.Rect(0, 0, w, h))
	row := image.NewRGBA(image.Rect(0, 0, from.Dx(), 1))
	sums, weights := make([]float64, 4*w), make([]float64, w)
	xs, ys := float64(w)/float64(from.Dx()), float64(h)/float64(from.Dy())
	y := 0
	flush := func() {
		for x := range w {
			at, n := 4*x, max(weights[x], 1e-9)
			alpha := sums[at+3] / n
			for c := range 3 {
				out.Pix[y*out.Stride+at+c] = uint8(min(255, sums[at+c]/n*255/max(alpha, 1e-9)+0.5))
			}
			out.Pix[y*out.Stride+at+3] = uint8(min(255, alpha+0.5))
		}
		clear(sums)
		clear(weights)
		y++
	}
	for sy := range from.Dy() {
		draw.Draw(row, row.Bounds(), src, image.Pt(from.Min.X, from.Min.Y+sy), draw.Src)
		top, bottom := float64(sy)*ys, float64(sy+1)*ys
		for top < bottom-1e-9 && y < h {
			end := min(bottom, float64(y+1))
			gather(row.Pix, sums, weights, xs, end-top)
			if top = end; end >= float64(y+1)-1e-9 {
				flush()
			}
		}
	}
	if y < h {
		flush()
	}
	return out
}

// gather adds a row of points to the sums of the smaller row, by how much of each it covers.
func gather(pix []byte, sums, weights []float64, xs, height float64) {
	for sx := range len(pix) / 4 {
		left, right := float64(sx)*xs, float64(sx+1)*xs
		for x := int(left); x < len(weights) && left < right-1e-9; x++ {
			part := (min(right, float64(x+1)) - left) * height
			for c := range 4 {
				sums[4*x+c] += float64(pix[4*sx+c]) * part
			}
			weights[x] += part
			left = float64(x + 1)
		}
	}
}
