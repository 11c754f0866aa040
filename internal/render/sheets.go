package render

import (
	"fmt"
	"slices"
	"strings"

	"github.com/tdewolff/canvas"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
)

func (h Handout) about() string {
	return fmt.Sprintf("%s · %s", h.Head.Class, h.Lesson.Day(h.Head.Made))
}

// named is the target as people read it: ai as in rain.
func (h Handout) named() string {
	f := h.face()
	if f.Keyword == "" {
		return f.Pair.Grapheme
	}
	return f.Pair.Grapheme + " as in " + f.Keyword
}

func (d *document) flashWords(h Handout) error {
	list := distinct(append(h.choices(lesson.Read, "word"), h.choices(lesson.Blend, "word")...))
	if len(list) == 0 {
		return nothing("this lesson has no words to read.")
	}
	const cols = 2
	rows := min(5, max(3, (len(list)+1)/cols)) // few words are printed larger
	w, ht := (d.paper.Width-2*margin)/cols, (d.paper.Height-2*margin)/float64(rows)
	for i, word := range list {
		if i%(cols*rows) == 0 {
			d.newPage()
			d.note("Cut along the dashed lines. Print at 100 %.")
		}
		x, y := margin+float64(i%cols)*w, d.paper.Height-margin-float64(i%(cols*rows)/cols+1)*ht
		d.cut(x, y, w, ht)
		s := d.fit(textStyle{child: true}, word, w-12, min(110, ht*1.3))
		d.bridgedWord(s, x+w/2, y+ht*0.42, word, h.Lesson.WordBits[word], true)
	}
	return nil
}

// distinct are the values of items, each once.
func distinct(items []lesson.Item) []string {
	var out []string
	for _, c := range items {
		if !slices.Contains(out, c.Value) {
			out = append(out, c.Value)
		}
	}
	return out
}

func (d *document) pictureOf(h Handout, word string, x, y, side float64) {
	if img, ok := h.Pictures[word]; ok {
		d.picture(img, x, y, side)
		return
	}
	d.frame(x, y, side, side, 2, faint)
}

// anchorSide is the side of the card's picture on a sorting sheet, in millimetres.
const anchorSide = 32.0

func (d *document) sorting(h Handout) error {
	var list []lesson.Item
	for _, c := range h.choices(lesson.Ear, "picture") {
		if !c.Basket.Quarter() {
			list = append(list, c)
		}
	}
	if len(list) == 0 {
		return nothing("this lesson has no pictures to sort.")
	}
	y := d.heading("Which have "+h.named()+"?", h.about())
	half := (d.paper.Width - 2*margin - 8) / 2
	for i, label := range []string{"yes", "no"} {
		x := margin + float64(i)*(half+8)
		d.frame(x, margin+8, half, y-margin-8, 4, ink)
		d.textCentre(textStyle{child: true, bold: true, size: 26}, x+half/2, y-14, label)
	}
	d.textCentre(textStyle{child: true, size: 60}, margin+half/2, y-40, h.face().Pair.Grapheme)
	if h.Picture != nil { // the anchor: the picture that the class knows the sound by
		d.picture(*h.Picture, margin+half/2-anchorSide/2, y-48-anchorSide, anchorSide)
	}
	d.note("Say each picture, then lay it on its side. The pictures stand on the next page.")
	d.newPage()
	const cols = 3
	side := (d.paper.Width - 2*margin) / cols
	for i, c := range list {
		x, y := margin+float64(i%cols)*side, d.paper.Height-margin-float64(i/cols+1)*side
		if y < margin {
			break
		}
		d.cut(x, y, side, side)
		d.pictureOf(h, c.Value, x+8, y+8, side-16)
	}
	var names []string
	for _, c := range list {
		names = append(names, c.Value+" ("+sides[c.Basket]+")")
	}
	d.note("For the adult: " + strings.Join(names, ", "))
	d.credit()
	return nil
}

// sides names the baskets of the sorting game for the adult.
var sides = map[lesson.Basket]string{lesson.Has: "yes", lesson.HasNot: "no"}

func (d *document) quarters(h Handout) error {
	var list []lesson.Item
	for _, c := range h.choices(lesson.Ear, "picture") {
		if c.Basket.Quarter() {
			list = append(list, c)
		}
	}
	if len(list) < 4 {
		return nothing("this lesson has no first-or-last game.")
	}
	y := d.heading("First or last: where is "+h.named()+"?", h.about())
	w, ht := (d.paper.Width-2*margin)/2, (y-margin-6)/2
	for i, c := range list[:4] {
		x, yy := margin+float64(i%2)*w, y-float64(i/2+1)*ht
		d.path(canvas.Rectangle(w, ht).Translate(x, yy), 0.6, ink)
		side := min(w, ht) - 34
		d.pictureOf(h, c.Value, x+(w-side)/2, yy+28, side)
		for k, label := range []string{"first", "last"} {
			cx := x + w/2 + float64(k*2-1)*16
			d.path(canvas.Circle(6).Translate(cx, yy+15), 0.6, ink)
			d.textCentre(textStyle{size: 9, ink: grey}, cx, yy+4, label)
		}
	}
	d.note("Say the picture. Colour the ring at the end where the sound is heard: left for first, right for last.")
	d.credit()
	return nil
}

// frames are boxes, one for each sound; the vowel's box has a double foot, so that it shows in grey too.
func (d *document) frames(h Handout) error {
	var list []string
	for _, w := range distinct(append(h.choices(lesson.Spell, "word"), h.choices(lesson.Blend, "word")...)) {
		if n := len(h.Lesson.WordBits[w]); n >= 2 && n <= 6 {
			list = append(list, w)
		}
	}
	if len(list) == 0 {
		return nothing("this lesson has no words to spell.")
	}
	y := d.heading("Sound frames", h.about())
	list = list[:min(len(list), 8)]
	most := 0
	for _, w := range list {
		most = max(most, len(h.Lesson.WordBits[w]))
	}
	pitch := min(44, (y-margin-8)/float64(len(list)))
	side := min(pitch-8, (d.paper.Width-2*margin-66)/float64(most))
	for k, word := range list {
		bits := h.Lesson.WordBits[word]
		for i, b := range bits {
			x := margin + 16 + float64(i)*side
			d.path(canvas.Rectangle(side, side).Translate(x, y-side), 0.5, ink)
			if phoneme.IsVowel(phoneme.Phoneme(b.Sound)) {
				d.line(x+2, y-side+2, x+side-2, y-side+2, 0.5, ink)
				d.textCentre(textStyle{size: 8, ink: grey}, x+side/2, y-4, "vowel")
			}
		}
		d.text(textStyle{bold: true, size: 14, ink: grey}, margin, y-side/2-2, fmt.Sprintf("%d", k+1))
		d.line(margin+22+float64(len(bits))*side, y-side+3, d.paper.Width-margin, y-side+3, 0.4, ink)
		y -= pitch
	}
	d.note("For the adult: " + strings.Join(list, ", ") +
		". One sound in each box; the box with the double foot holds the vowel.")
	return nil
}

func (d *document) ring(h Handout) error {
	if len(h.Lesson.Rings) == 0 {
		return nothing("too few readable words hold this sound.")
	}
	y := d.heading("Find "+h.face().Pair.Grapheme+" and ring it", h.about())
	words, count := make([]string, len(h.Lesson.Rings)), 0
	for i, r := range h.Lesson.Rings {
		words[i] = r.Word
		if len(r.Letters) > 0 {
			count++
		}
	}
	d.threeAcross(y, words)
	d.note(fmt.Sprintf("For the adult: %d words hold it, %d do not.", count, len(h.Lesson.Rings)-count))
	return nil
}

// threeAcross lays words out over what is left of the page.
func (d *document) threeAcross(y float64, words []string) {
	const cols = 3
	w := (d.paper.Width - 2*margin) / cols
	rows := (len(words) + cols - 1) / cols
	pitch := min(60, (y-margin-10)/float64(rows))
	for i, word := range words {
		s := d.fit(textStyle{child: true}, word, w-8, min(60, pitch*1.3))
		d.textCentre(s, margin+(float64(i%cols)+0.5)*w, y-float64(i/cols+1)*pitch+pitch*0.3, word)
	}
}

func (d *document) pieces(h Handout) error {
	var pieces []string
	for _, s := range h.Lesson.Steps {
		if s.Kind == lesson.Sentence {
			pieces = s.Pieces
		}
	}
	if len(pieces) == 0 {
		return nothing("this lesson has no sentence that can be cut.")
	}
	y := d.heading("Put the sentence in order", h.about())
	width := d.paper.Width - 2*margin
	// The pieces stand at the foot, so that they come off with two cuts; the lines to lay them on have the rest.
	s := textStyle{child: true, size: 34}
	const high, gap = 26.0, 4.0
	rows, x := [][]string{nil}, 0.0
	for _, p := range pieces {
		w := d.face(d.fit(s, p, width-10, 34)).TextWidth(p) + 12
		if x > 0 && x+w > width {
			rows, x = append(rows, nil), 0
		}
		rows[len(rows)-1] = append(rows[len(rows)-1], p)
		x += w + gap
	}
	foot := margin + 6 + float64(len(rows))*(high+gap)
	pitch := (y - foot - 8) / 4
	for i := range 4 {
		d.line(margin, y-float64(i+1)*pitch, d.paper.Width-margin, y-float64(i+1)*pitch, 0.4, ink)
	}
	for i, row := range rows {
		x, top := margin, foot-float64(i)*(high+gap)
		for _, p := range row {
			s := d.fit(s, p, width-10, 34)
			w := d.face(s).TextWidth(p) + 12
			d.cut(x, top-high, w, high)
			d.text(s, x+6, top-high*0.68, p)
			x += w + gap
		}
	}
	d.note("Cut the pieces, lay them in order on the lines: the capital first, the full stop last. Read it, then glue.")
	return nil
}
