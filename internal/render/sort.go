package render

import (
	"fmt"
	"strings"

	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/drawing"
)

// key says for the adult what belongs where.
func key(game handout.Sorting) string {
	parts := make([]string, len(game.Sides))
	for i, s := range game.Sides {
		parts[i] = s.Label + ": " + strings.Join(game.Of(i), ", ")
	}
	return "For the adult: " + strings.Join(parts, "; ") + "."
}

// sorting is a mat with a place for each side, and the pictures to cut on pages of their own.
func (d *document) sorting(h Handout) error {
	games := h.content.Pictures()
	if len(games) == 0 {
		return nothing("this lesson has no pictures to sort.")
	}
	for _, game := range games {
		y := d.heading(game.Title, h.about(), true)
		cols := len(game.Sides)
		rows := 1
		if cols == 4 {
			cols, rows = 2, 2
		}
		const gap = 6.0
		w := (d.paper.Width - 2*margin - gap*float64(cols-1)) / float64(cols)
		ht := (y - foot - gap*float64(rows-1)) / float64(rows)
		for i, side := range game.Sides {
			x, top := margin+float64(i%cols)*(w+gap), y-float64(i/cols)*(ht+gap)
			d.frame(x, top-ht, w, ht, 4, ink)
			s := fit(textStyle{Child: true, Bold: true}, side.Head, w-8, 44)
			d.textCentre(s, x+w/2, top-16, side.Head)
			if side.Card != "" { // the picture that the class knows the sound by
				d.drawCard(h, side.Card, side.Keyword, x+w/2-15, top-54, 30)
			}
		}
		d.note("Say each picture, then lay it on its side. The pictures stand on the next page. " + key(game))
		d.cutPictures(h, game)
	}
	return nil
}

func (d *document) cutPictures(h Handout, game handout.Sorting) {
	cols := 3
	if len(game.Items) <= 6 {
		cols = 2
	}
	side := (d.paper.Width - 2*margin) / float64(cols)
	rows := int((d.paper.Height - margin - foot) / side)
	for i, it := range game.Items {
		k := i % (cols * rows)
		if k == 0 {
			d.newPage()
			d.credit()
			d.note("Cut along the dashed lines. " + key(game))
		}
		x, y := margin+float64(k%cols)*side, d.paper.Height-margin-float64(k/cols+1)*side
		d.drawCut(x, y, side, side)
		d.drawWord(h, it.Word, x+8, y+8, side-16)
	}
}

func (d *document) quarters(h Handout) error {
	q, ok := h.content.Quarters()
	if !ok {
		return nothing("this lesson has no first-or-last game.")
	}
	y := d.heading("First or last: where is "+q.Target.Named()+"?", h.about(), true)
	w, ht := (d.paper.Width-2*margin)/2, (y-foot)/2
	var first, last []string
	for i, it := range q.Items {
		x, yy := margin+float64(i%2)*w, y-float64(i/2+1)*ht
		d.path(drawing.Rectangle(x, yy, w, ht), 0.6, ink)
		side := min(w-20, ht-40)
		d.drawWord(h, it.Word, x+(w-side)/2, yy+34, side)
		for k, label := range []string{"first", "last"} {
			cx := x + w/2 + float64(k*2-1)*18
			d.path(drawing.Circle(cx, yy+18, 7), 0.6, ink)
			d.textCentre(textStyle{Size: 11}, cx, yy+5, label)
		}
		if it.Side == 0 {
			first = append(first, it.Word)
		} else {
			last = append(last, it.Word)
		}
	}
	d.note("Say the picture. Colour the ring at the end where the sound is heard. For the adult: first in " +
		strings.Join(first, ", ") + "; last in " + strings.Join(last, ", ") + ".")
	d.credit()
	return nil
}

// frames are boxes, one for each sound, with a place to tick under each; the vowel's box has a double foot, so that it
// shows in grey too.
func (d *document) frames(h Handout) error {
	list := h.content.SpellWords()
	if len(list) == 0 {
		return nothing("this lesson has no words to spell.")
	}
	maxSounds := 0
	for _, w := range list {
		_, bits := h.content.Bits(w)
		maxSounds = max(maxSounds, len(bits))
	}
	const tick = 5.0
	width := d.paper.Width - 2*margin
	var y, pitch, side float64
	perPage := 6
	if len(list) == 7 || len(list) == 8 {
		perPage = 8
	}
	for k, word := range list {
		if k%perPage == 0 {
			y = d.heading("Sound frames", h.about(), true)
			d.note("For the adult: " + strings.Join(list, ", ") +
				". One sound in each box; the box with the double foot holds the vowel. Tick each sound that you have.")
			rows := min(perPage, len(list)-k)
			pitch = min(52, (y-foot)/float64(rows))
			side = min(pitch-tick-8, (width-60)/float64(maxSounds))
		}
		_, bits := h.content.Bits(word)
		d.text(textStyle{Bold: true, Size: 14, Ink: grey}, margin, y-side/2-2, fmt.Sprint(k+1))
		for i, b := range bits {
			x := margin + 10 + float64(i)*side
			d.path(drawing.Rectangle(x, y-side, side, side), 0.5, ink)
			if phoneme.IsVowel(phoneme.Phoneme(b.Sound)) {
				d.line(x+2, y-side+2, x+side-2, y-side+2, 0.5, ink)
				d.textCentre(textStyle{Size: smallest, Ink: grey}, x+side/2, y-4, "vowel")
			}
			d.frame(x+side/2-tick/2, y-side-tick-2, tick, tick, 0.5, grey)
		}
		d.line(margin+16+float64(len(bits))*side, y-side+3, d.paper.Width-margin, y-side+3, 0.4, ink)
		y -= pitch
	}
	return nil
}

// maxSorted is how many words of a side are cut: all sides have as many.
const maxSorted = 6

// wordSort is a game to cut: a heading for each side and as many words to each.
func (d *document) wordSort(h Handout) error {
	game, ok := h.content.WordSort(maxSorted)
	if !ok {
		return nothing("too few words for a sorting game.")
	}
	y := d.heading(game.Title, h.about(), true)
	cols := len(game.Sides)
	rows := (len(game.Items) + cols - 1) / cols
	w := (d.paper.Width - 2*margin) / float64(cols)
	ht := min(56, (y-foot)/float64(rows+1))
	heads, words := make([]string, cols), make([]string, len(game.Items))
	for i, s := range game.Sides {
		heads[i] = s.Head
	}
	for i, it := range game.Items {
		words[i] = it.Word
	}
	head := fitAll(textStyle{Child: true, Bold: true}, heads, w-8, min(60, ht*1.4))
	for i, s := range game.Sides {
		x := margin + float64(i)*w
		d.path(drawing.Rectangle(x, y-ht, w, ht), 0.9, ink)
		d.textCentre(head, x+w/2, y-ht*0.6, s.Head)
	}
	s := fitAll(textStyle{Child: true}, words, w-8, min(52, ht*1.3))
	for k, word := range words {
		x, yy := margin+float64(k%cols)*w, y-float64(k/cols+2)*ht
		d.drawCut(x, yy, w, ht)
		d.textCentre(s, x+w/2, yy+ht*0.4, word)
	}
	d.note("Cut, read each word and lay it under its heading. " + key(game))
	return nil
}

// pieces is a page for each sentence that can be cut.
func (d *document) pieces(h Handout) error {
	list := h.content.Chopped()
	if len(list) == 0 {
		return nothing("this lesson has no sentence that can be cut.")
	}
	for _, c := range list {
		y := d.heading("Put the sentence in order", h.about(), true)
		width := d.paper.Width - 2*margin
		// The pieces stand at the foot, so that they come off with two cuts; the lines to lay them on have the rest.
		s := fitAll(textStyle{Child: true}, c.Pieces, width-12, 46)
		const gap = 5.0
		high := s.Metrics().Leading + 8
		rows, x := [][]string{nil}, 0.0
		for _, p := range c.Pieces {
			w := s.Width(p) + 12
			if x > 0 && x+w > width {
				rows, x = append(rows, nil), 0
			}
			rows[len(rows)-1] = append(rows[len(rows)-1], p)
			x += w + gap
		}
		top := foot + float64(len(rows))*(high+gap)
		lines := max(2, min(4, int((y-top-8)/high)))
		pitch := (y - top - 8) / float64(lines)
		for i := range lines {
			d.line(margin, y-float64(i+1)*pitch, d.paper.Width-margin, y-float64(i+1)*pitch, 0.4, ink)
		}
		for i, row := range rows {
			x, at := margin, top-float64(i)*(high+gap)
			for _, p := range row {
				w := s.Width(p) + 12
				d.drawCut(x, at-high, w, high)
				d.text(s, x+6, at-high*0.62, p)
				x += w + gap
			}
		}
		d.note("Cut the pieces, lay them in order on the lines: the capital first, the full stop last. Read it, then glue. " +
			"For the adult: " + c.Sentence)
	}
	return nil
}

// compounds are two pictures that together make a word, with a line to write it.
func (d *document) compounds(h Handout) error {
	list := h.content.Compounds()
	if len(list) == 0 {
		return nothing("no word of this lesson is made of two that can be drawn.")
	}
	y := d.heading("Two pictures make a word", h.about(), true)
	pitch := min(62, (y-foot)/float64(len(list)))
	side := min(pitch-8, 46)
	var answers []string
	plus := textStyle{Child: true, Bold: true, Size: 30}
	for _, c := range list {
		d.drawWord(h, c.First, margin, y-side, side)
		d.textCentre(plus, margin+side+8, y-side/2-4, "+")
		d.drawWord(h, c.Second, margin+side+16, y-side, side)
		d.textCentre(plus, margin+2*side+24, y-side/2-4, "=")
		d.line(margin+2*side+32, y-side+6, d.paper.Width-margin, y-side+6, 0.4, ink)
		answers = append(answers, c.First+" + "+c.Second+" = "+c.Word)
		y -= pitch
	}
	d.note(
		"Say both pictures, then say them as one word. Write it, or draw it. For the adult: " + strings.Join(
			answers,
			"; ",
		) + ".",
	)
	d.credit()
	return nil
}

// boxes is a page of eight empty boxes, to draw or to write in.
func (d *document) boxes(h Handout) error {
	title := "Draw or write"
	if len(h.content.Targets) > 0 {
		title += ": " + strings.Join(h.content.Graphemes(), ", ")
	}
	y := d.heading(title, h.about(), true)
	const gap = 5.0
	w, ht := (d.paper.Width-2*margin-gap)/2, (y-foot-3*gap)/4
	for i := range 8 {
		x, top := margin+float64(i%2)*(w+gap), y-float64(i/2)*(ht+gap)
		d.frame(x, top-ht, w, ht, 2, ink)
		d.text(textStyle{Size: 10, Ink: grey}, x+3, top-6, fmt.Sprint(i+1))
	}
	d.note("One word, letter, picture or sentence to a box.")
	return nil
}
