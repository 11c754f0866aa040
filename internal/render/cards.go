package render

import (
	"io"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/drawing"
)

// Layout of printed cards.
type Layout string

// Layouts.
const (
	Single Layout = "single" // letter sides, then picture sides, each printed on one side
	Duplex Layout = "duplex" // letter sides on one page, picture sides mirrored on its back
	Fold   Layout = "fold"   // both sides beside each other, folded and glued
	Band   Layout = "frieze" // for the wall
)

// Size of a card in millimetres.
type Size struct{ Width, Height float64 }

// The two sizes: for the whole class, and for the hand.
var (
	Large = Size{90, 120}
	Small = Size{60, 80}
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
	Draft     bool              // not agreed yet, and the print says so
	Writing   []strokes.Written // the capital, if shown, and the letter on the team's lines; empty: the font
}

// Cards writes the cards at true Size: as many on a page as fit, fewer to fold.
func Cards(w io.Writer, faces []Face, layout Layout, size Size, paper Paper) error {
	d := newDocument(paper, "Sound cards")
	width := size.Width
	if layout == Fold {
		width *= 2
	}
	cols, rows := int((paper.Width-10)/width), int((paper.Height-20)/size.Height)
	left, top := (paper.Width-float64(cols)*width)/2, (paper.Height+float64(rows)*size.Height)/2
	place := func(i int) (x, y float64) {
		return left + float64(i%cols)*width, top - size.Height*float64(i/cols+1)
	}
	side := func(group []Face, mirrored bool, draw func(Face, float64, float64, Size)) {
		for i, f := range group {
			if mirrored { // so that the sides meet
				i = i/cols*cols + cols - 1 - i%cols
			}
			x, y := place(i)
			d.frame(x, y, width, size.Height, 0, grey)
			draw(f, x, y, size)
		}
	}
	for group := range slices.Chunk(faces, cols*rows) {
		d.newPage()
		if layout == Fold {
			side(group, false, func(f Face, x, y float64, s Size) {
				d.letterSide(f, x, y, s)
				d.pictureSide(f, x+s.Width, y, s)
				d.line(x+s.Width, y, x+s.Width, y+s.Height, 0.3, grey, 2, 2)
			})
			d.note("Cut along the full lines, fold along the dashed line, glue. Print at 100 %, not “fit to page”.")
			continue
		}
		side(group, false, d.letterSide)
		d.note(
			map[Layout]string{Single: "Print on one side, at 100 %.", Duplex: "Print on both sides, turned on the long " +
				"edge, at 100 %."}[layout],
		)
		d.newPage()
		side(group, layout == Duplex, d.pictureSide)
	}
	return d.write(w)
}

// Frieze writes the cards as a band for the wall: letter over picture, three to a sheet on its side.
func Frieze(w io.Writer, faces []Face, paper Paper) error {
	paper = Paper{paper.Height, paper.Width}
	d := newDocument(paper, "Wall frieze")
	const cols = 3
	width, height := (paper.Width-12)/cols, paper.Height-24
	for group := range slices.Chunk(faces, cols) {
		d.newPage()
		for i, f := range group {
			x := 6 + float64(i)*width
			d.frame(x, 14, width, height, 0, grey)
			half := Size{width, height / 2}
			d.letterSide(f, x, 14+height/2, half)
			d.pictureSide(f, x, 14, half)
		}
		d.note("Cut along the lines and hang side by side, in the order of teaching.")
	}
	return d.write(w)
}

// credit names whose the pictures of words are, along the right edge.
func (d *document) credit() {
	s := textStyle{Size: smallest, Ink: grey}
	lines := s.Wrap(lexicon.PictureCredit, d.paper.Height-2*margin)
	d.page.Within(drawing.Identity.Translate(d.paper.Width-5.5, margin).Rotate(90), func() {
		for i, line := range lines {
			d.text(s, 0, float64(len(lines)-1-i)*3.4, line)
		}
	})
}

func (d *document) letterSide(f Face, x, y float64, box Size) {
	text := strings.ReplaceAll(f.Pair.Grapheme, "-", " – ")
	if f.ShowUpper && len(f.Pair.Grapheme) == 1 {
		text = strings.ToUpper(text) + " " + text
	}
	k := box.Width / Large.Width
	d.textCentre(textStyle{Size: max(smallest, 9*k), Ink: grey}, x+box.Width/2, y+6*k, caption(f))
	if len(f.Writing) > 0 {
		d.strokeSide(f.Writing, x, y, box)
		return
	}
	face := fit(textStyle{Child: true}, text, box.Width-18*k, 170*min(k, box.Height/Large.Height*1.2))
	m := face.Metrics()
	base := y + box.Height/2 - m.XHeight/2
	x0, x1 := x+6*k, x+box.Width-6*k
	d.line(x0, base, x1, base, 0.5, ink)
	d.line(x0, base+m.XHeight, x1, base+m.XHeight, 0.25, faint, 1.5, 1.2)
	d.line(x0, base+m.CapHeight, x1, base+m.CapHeight, 0.25, faint)
	d.line(x0, base-m.Descent, x1, base-m.Descent, 0.25, faint)
	d.textCentre(face, x+box.Width/2, base, text)
	if kind := f.Pair.Kind(); kind != "letter" && kind != "split digraph" {
		width := face.Width(text)
		under := base - m.Descent*0.55
		d.line(x+box.Width/2-width/2, under, x+box.Width/2+width/2, under, 1.2*k, coral)
	}
}

// strokeSide writes the letter as the team does, as large as the card lets it.
func (d *document) strokeSide(forms []strokes.Written, x, y float64, box Size) {
	k := box.Width / Large.Width
	lines := forms[0].Lines
	high := lines[0].Y - lines[3].Y
	const apart = 0.7 // x-heights between the capital and the letter
	wide := -apart
	for _, w := range forms {
		wide += w.Right - w.Left + apart
	}
	h := min((box.Height-34*k)/high, (box.Width-24*k)/wide)
	base := y + 14*k + (box.Height-20*k-high*h)/2 - lines[3].Y*h
	d.ruled(lines, x+6*k, x+box.Width-6*k, base, h)
	at := x + (box.Width-wide*h)/2
	for _, w := range forms {
		d.drawWritten(w, at, base, h, look{ink: ink, width: 0.13 * h})
		at += (w.Right - w.Left + apart) * h
	}
}

func caption(f Face) string {
	text := "sound card " + f.Pair.Grapheme
	if f.Keyword != "" {
		text += " as in " + f.Keyword
	}
	if f.Draft {
		text += " (draft)"
	}
	return text
}

// pictureSide gives three fifths of the height to the picture, the rest to the rhyme and the action.
func (d *document) pictureSide(f Face, x, y float64, box Size) {
	k := box.Width / Large.Width
	side := min(box.Width-18*k, box.Height*0.6)
	left, under := x+(box.Width-side)/2, y+box.Height-8*k-side
	if f.Picture != nil {
		d.picture(*f.Picture, left, under, side)
	} else {
		d.placeholder("Needs a picture", left, under, side)
	}
	room := under - y
	at := under - 2.5*k
	if f.Rhyme != "" {
		at = d.fitted(
			textStyle{Child: true, Size: 15 * min(1, k*1.15)},
			x+6*k,
			at,
			box.Width-12*k,
			room*0.55,
			alignCentre,
			f.Rhyme,
		)
	}
	if f.Action != "" {
		d.fitted(
			textStyle{Size: max(smallest, 8*k), Ink: grey},
			x+6*k,
			at-1.5*k,
			box.Width-12*k,
			at-y-3*k,
			alignCentre,
			f.Action,
		)
	}
}
