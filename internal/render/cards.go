package render

import (
	"bytes"
	"image"
	"io"
	"strings"

	"github.com/tdewolff/canvas"

	"brightchalk/internal/core/spelling"
)

// Layout of printed cards.
type Layout string

const (
	Duplex Layout = "duplex" // letter sides on one page, picture sides mirrored on its back
	Fold   Layout = "fold"   // both sides beside each other, folded and glued
)

// Face is a card to be printed.
type Face struct {
	Pair      spelling.Pair
	Keyword   string
	Rhyme     string
	Action    string
	Picture   *Image
	Step      int
	ShowUpper bool
}

// Size of a card in millimetres.
const (
	CardWidth  = 90.0
	CardHeight = 120.0
)

// Cards writes the cards at true size, four to a page in duplex, two to a page to fold.
func Cards(w io.Writer, faces []Face, layout Layout, paper Paper) error {
	making.Lock()
	defer making.Unlock()
	d, err := newDocument(w, paper, "Sound cards")
	if err != nil {
		return err
	}
	left, top := (paper.Width-2*CardWidth)/2, (paper.Height+2*CardHeight)/2
	place := func(i int) (x, y float64) {
		return left + float64(i%2)*CardWidth, top - CardHeight*float64(i/2+1)
	}
	if layout == Fold {
		for at := 0; at < len(faces); at += 2 {
			d.newPage()
			for i, f := range faces[at:min(at+2, len(faces))] {
				x, y := place(i * 2)
				d.letterSide(f, x, y)
				d.pictureSide(f, x+CardWidth, y)
				d.frame(x, y, 2*CardWidth, CardHeight, 0, grey)
				d.line(x+CardWidth, y, x+CardWidth, y+CardHeight, 0.3, grey, 2, 2)
			}
			d.note("Cut along the full lines, fold along the dashed line, glue. Print at 100 %, not “fit to page”.")
		}
		return d.close()
	}
	for at := 0; at < len(faces); at += 4 {
		group := faces[at:min(at+4, len(faces))]
		d.newPage()
		for i, f := range group {
			x, y := place(i)
			d.frame(x, y, CardWidth, CardHeight, 0, grey)
			d.letterSide(f, x, y)
		}
		d.note("Print on both sides, turned on the long edge, at 100 %.")
		d.newPage()
		for i, f := range group {
			x, y := place(i ^ 1) // mirrored, so that the sides meet
			d.frame(x, y, CardWidth, CardHeight, 0, grey)
			d.pictureSide(f, x, y)
		}
		d.note("")
	}
	return d.close()
}

func (d *document) note(text string) {
	if text == "" {
		return
	}
	t, _ := d.box(textStyle{size: 8, ink: grey}, text, d.paper.Width-20, canvas.Center)
	d.ctx.DrawText(10, 9, t)
}

func (d *document) letterSide(f Face, x, y float64) {
	text := strings.ReplaceAll(f.Pair.Grapheme, "-", " – ")
	if f.ShowUpper && len(f.Pair.Grapheme) == 1 {
		text = strings.ToUpper(text) + " " + text
	}
	size := 170.0
	for d.face(textStyle{child: true, size: size}).TextWidth(text) > CardWidth-18 {
		size -= 5
	}
	face := d.face(textStyle{child: true, size: size})
	m := face.Metrics()
	base := y + CardHeight/2 - m.XHeight/2
	x0, x1 := x+6, x+CardWidth-6
	d.line(x0, base, x1, base, 0.5, ink)
	d.line(x0, base+m.XHeight, x1, base+m.XHeight, 0.25, faint, 1.5, 1.2)
	d.line(x0, base+m.CapHeight, x1, base+m.CapHeight, 0.25, faint)
	d.line(x0, base-m.Descent, x1, base-m.Descent, 0.25, faint)
	d.ctx.DrawText(x+CardWidth/2, base, canvas.NewTextLine(face, text, canvas.Center))
	if k := f.Pair.Kind(); k != "letter" && k != "split digraph" {
		width := face.TextWidth(text)
		under := base - m.Descent*0.55
		d.line(x+CardWidth/2-width/2, under, x+CardWidth/2+width/2, under, 1.2, coral)
	}
	d.ctx.DrawText(x+CardWidth/2, y+6, canvas.NewTextLine(d.face(textStyle{size: 9, ink: grey}), "sound card "+f.Pair.Grapheme+hint(f), canvas.Center))
}

func hint(f Face) string {
	if f.Keyword == "" {
		return ""
	}
	return " as in " + f.Keyword
}

func (d *document) pictureSide(f Face, x, y float64) {
	if f.Picture != nil {
		d.picture(*f.Picture, x+9, y+40, 72)
	} else {
		d.frame(x+9, y+40, 72, 72, 3, faint)
		t, h := d.box(textStyle{size: 11, ink: grey}, "Needs a picture", 60, canvas.Center)
		d.ctx.DrawText(x+15, y+76+h/2, t)
	}
	if f.Rhyme != "" {
		size := 15.0
		t, h := d.box(textStyle{child: true, size: size}, f.Rhyme, CardWidth-12, canvas.Center)
		for h > 22 && size > 8 {
			size--
			t, h = d.box(textStyle{child: true, size: size}, f.Rhyme, CardWidth-12, canvas.Center)
		}
		d.ctx.DrawText(x+6, y+37, t)
	}
	if f.Action != "" {
		t, _ := d.box(textStyle{size: 8, ink: grey}, f.Action, CardWidth-12, canvas.Center)
		d.ctx.DrawText(x+6, y+14, t)
	}
}

func decode(data []byte) (image.Image, error) {
	img, _, err := image.Decode(bytes.NewReader(data))
	return img, err
}
