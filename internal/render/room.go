package render

import (
	"slices"

	"brightchalk/internal/core/handout"
	"brightchalk/internal/drawing"
)

// labels are for the trays and shelves of the room: large and small ones of each target.
func (d *document) labels(h Handout) error {
	if len(h.content.Targets) == 0 {
		return nothing("this lesson has no sound of its own.")
	}
	for _, t := range h.content.Targets {
		y := d.heading("Labels for "+t.Label, h.about(), false)
		width := d.paper.Width - 2*margin
		large := (y - foot) * 0.38
		d.label(h, t, margin, y-large, width, large)
		const rows = 3
		small := (y - foot - large) / rows
		for k := range 2 * rows {
			d.label(h, t, margin+float64(k%2)*width/2, y-large-float64(k/2+1)*small, width/2, small)
		}
		d.note(
			"For trays, boxes and shelves. Write on it what lies in the tray; check allergies first, and count small things.",
		)
	}
	return nil
}

func (d *document) label(h Handout, t handout.Target, x, y, w, ht float64) {
	d.drawCut(x, y, w, ht)
	at := x + 5
	side := min(ht-10, w*0.34)
	if d.drawCard(h, t.ID, t.Keyword, at, y+(ht-side)/2, side) {
		at += side + 5
	}
	room := x + w - at - 5
	s := fit(textStyle{Child: true}, t.Pair.Grapheme, room, ht*1.2)
	d.text(s, at, y+ht*0.52, t.Pair.Grapheme)
	if t.Keyword != "" {
		d.text(fit(textStyle{}, "as in "+t.Keyword, room, min(20, ht*0.4)), at, y+ht*0.2, "as in "+t.Keyword)
	}
	d.line(at, y+ht*0.09, x+w-5, y+ht*0.09, 0.25, grey)
}

// foldBox is a box to fold for each target: a cube that opens, to keep what begins with it or holds it.
func (d *document) foldBox(h Handout) error {
	if len(h.content.Targets) == 0 {
		return nothing("this lesson has no sound of its own.")
	}
	for _, t := range h.content.Targets {
		d.oneBox(h, t)
	}
	return nil
}

func (d *document) oneBox(h Handout, t handout.Target) {
	d.newPage()
	side := min((d.paper.Width-20)/3, (d.paper.Height-38)/4)
	const flap = 9.0
	x0, top := (d.paper.Width-3*side)/2, d.paper.Height-12.0
	at := func(col, row int) (x, y float64) { return x0 + float64(col)*side, top - float64(row+1)*side }
	tab := func(x1, y1, x2, y2, out float64) {
		var p drawing.Path
		p.MoveTo(x1, y1)
		if y1 == y2 {
			p.LineTo(x1+5*(x2-x1)/side, y1+out)
			p.LineTo(x2-5*(x2-x1)/side, y2+out)
		} else {
			p.LineTo(x1+out, y1+5*(y2-y1)/side)
			p.LineTo(x2+out, y2-5*(y2-y1)/side)
		}
		p.LineTo(x2, y2)
		d.path(p, 0.35, grey)
	}
	for _, col := range []int{0, 2} { // of the sides, up and down
		x, y := at(col, 1)
		tab(x, y+side, x+side, y+side, flap)
		tab(x, y, x+side, y, -flap)
	}
	bx, by := at(1, 3)
	tab(bx, by, bx, by+side, -flap)
	tab(bx+side, by, bx+side, by+side, flap)
	// A cross: the lid on top, the front, the floor, the back under it; the two sides beside the front.
	for i, c := range []struct{ col, row int }{{1, 0}, {1, 1}, {1, 2}, {1, 3}, {0, 1}, {2, 1}} {
		x, y := at(c.col, c.row)
		d.path(drawing.Rectangle(x, y, side, side), 0.35, ink)
		d.boxFace(h, t, i, x, y, side)
	}
	d.note(
		"Cut around the outside, fold every line, glue the flaps. The lid stays open. Small things: count them, nothing " +
			"in mouths, noses or ears.",
	)
}

// boxFace draws one of the six: lid, front, floor, back, left, right.
func (d *document) boxFace(h Handout, t handout.Target, i int, x, y, side float64) {
	middle := x + side/2
	write := func(text string, bold bool) {
		d.textCentre(fit(textStyle{Child: true, Bold: bold}, text, side-10, side*1.6), middle, y+side*0.4, text)
	}
	switch i {
	case 0, 1:
		write(t.Pair.Grapheme, i == 1)
	case 2:
		d.textCentre(textStyle{Size: 11, Ink: grey}, middle, y+side/2, "What is in our box?")
	case 3:
		if !d.drawCard(h, t.ID, t.Keyword, x+6, y+6, side-12) && t.Keyword != "" {
			write(t.Keyword, false)
		}
	case 4:
		if rhyme := first(t.RhymeShort, t.Rhyme); rhyme != "" {
			d.fitted(textStyle{Child: true, Size: 15}, x+5, y+side-8, side-10, side-14, alignCentre, rhyme)
		}
	case 5:
		words := slices.DeleteFunc(h.content.ReadWords(), func(w string) bool { return h.content.Holds(w, t) == 0 })
		words = words[:min(4, len(words))]
		s := fitAll(textStyle{Child: true}, words, side-10, 26)
		for k, w := range words {
			d.textCentre(s, middle, y+side-14-float64(k)*side*0.22, w)
		}
	}
}

func first(texts ...string) string {
	for _, t := range texts {
		if t != "" {
			return t
		}
	}
	return ""
}

// eight is a page that folds into a book of eight small pages for each target that has things enough: one cut in the
// middle, no staples. Turned by half, the upper row stands on its head.
func (d *document) eight(h Handout) error {
	made := 0
	for _, t := range h.content.Targets {
		list := h.content.Things(t)
		if len(list) < 3 {
			continue
		}
		made++
		d.book(h, t, list)
	}
	if made == 0 {
		return nothing("fewer than three pictures have this sound.")
	}
	return nil
}

func (d *document) book(h Handout, t handout.Target, list []string) {
	paper := d.paper
	d.paper = Paper{paper.Height, paper.Width}
	defer func() { d.paper = paper }()
	d.newPage()
	w, ht := d.paper.Width/4, d.paper.Height/2
	// Around the sheet: the front, six pages, the back. The lower row from the left holds 6, 7, back, front.
	place := []struct {
		col  int
		over bool
	}{{3, false}, {3, true}, {2, true}, {1, true}, {0, true}, {0, false}, {1, false}, {2, false}}
	for page, at := range place {
		view := drawing.Identity.Translate(float64(at.col)*w, 0)
		if at.over {
			view = drawing.Identity.Translate(float64(at.col+1)*w, 2*ht).Rotate(180)
		}
		d.page.Within(view, func() { d.panel(h, t, list, page, w, ht) })
	}
	for i := 1; i < 4; i++ {
		d.line(float64(i)*w, 0, float64(i)*w, d.paper.Height, 0.2, faint, 1, 2)
	}
	d.line(0, ht, w, ht, 0.2, faint, 1, 2)
	d.line(3*w, ht, 4*w, ht, 0.2, faint, 1, 2)
	d.line(w, ht, 3*w, ht, 0.5, ink, 3, 2)
	d.textCentre(textStyle{Size: smallest, Ink: grey}, 2*w, ht+1.5, "cut here, after folding in half")
}

// panel draws one small page, with its lower left corner at 0, 0.
func (d *document) panel(h Handout, t handout.Target, list []string, page int, w, ht float64) {
	switch {
	case page == 0:
		d.textCentre(textStyle{Child: true, Bold: true, Size: 14}, w/2, ht-18, "My book of")
		d.textCentre(fit(textStyle{Child: true}, t.Pair.Grapheme, w-12, 90), w/2, ht/2-6, t.Pair.Grapheme)
		if t.Keyword != "" {
			as := "as in " + t.Keyword
			d.textCentre(fit(textStyle{Ink: grey}, as, w-12, 12), w/2, 14, as)
		}
	case page == 7:
		text := "I can say it."
		if rhyme := first(t.RhymeShort, t.Rhyme); rhyme != "" {
			text = "I can say it:\n" + rhyme
		}
		d.fitted(textStyle{Child: true, Size: 13}, 8, ht-14, w-16, ht-30, alignCentre, text)
	case page <= len(list):
		word := list[page-1]
		d.drawWord(h, word, 10, 30, w-20)
		d.textCentre(fit(textStyle{Child: true}, word, w-12, 20), w/2, 16, word)
	default:
		d.textCentre(textStyle{Child: true, Size: 12}, w/2, ht-14, "My own picture")
		d.frame(8, 22, w-16, w-16, 2, grey)
	}
}
