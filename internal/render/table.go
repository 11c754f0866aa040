package render

import (
	"fmt"
	"slices"
	"strings"

	"github.com/tdewolff/canvas"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
)

// side is a heap of a sorting game: its heading, and the words that belong under it.
type side struct {
	head  string
	words []string
}

// heaps are the two sides of a game with words: those of a contrast, or with the new spelling and without it.
func (h Handout) heaps() []side {
	for _, s := range h.Lesson.Steps {
		if s.Kind != lesson.Contrast || len(h.Lesson.Faces()) < 2 {
			continue
		}
		out := []side{{head: h.Lesson.Faces()[0].Pair.Grapheme}, {head: h.Lesson.Faces()[1].Pair.Grapheme}}
		for _, c := range s.Items {
			if c.Kind == lesson.WordItem && (c.Basket == lesson.Has || c.Basket == lesson.HasNot) {
				i := slices.Index([]lesson.Basket{lesson.Has, lesson.HasNot}, c.Basket)
				out[i].words = append(out[i].words, c.Value)
			}
		}
		if len(out[0].words) >= 3 && len(out[1].words) >= 3 {
			return out
		}
	}
	out := []side{{head: h.face().Pair.Grapheme}, {head: "not " + h.face().Pair.Grapheme}}
	for _, r := range h.Lesson.Rings {
		i := 1
		if len(r.Letters) > 0 {
			i = 0
		}
		out[i].words = append(out[i].words, r.Word)
	}
	return out
}

// mostHeap is how many words of a side are cut: both sides have as many.
const mostHeap = 6

// wordSort is a game to cut: two headings and as many words to each.
func (d *document) wordSort(h Handout) error {
	heaps := h.heaps()
	n := min(mostHeap, len(heaps[0].words), len(heaps[1].words))
	if n < 3 {
		return nothing("too few words for a sorting game.")
	}
	y := d.heading("Read and sort", h.about())
	w := (d.paper.Width - 2*margin) / 2
	ht := min(56, (y-margin-6)/float64(n+1))
	for i, heap := range heaps {
		x := margin + float64(i)*w
		d.path(canvas.Rectangle(w, ht).Translate(x, y-ht), 0.9, ink)
		d.textCentre(d.fit(textStyle{child: true, bold: true}, heap.head, w-12, min(60, ht*1.5)), x+w/2, y-ht*0.68, heap.head)
	}
	// The words are mixed over the two columns, so that a heading never stands over its own.
	for k := range 2 * n {
		word := heaps[(k+k/2)%2].words[k/2]
		x, yy := margin+float64(k%2)*w, y-float64(k/2+2)*ht
		d.cut(x, yy, w, ht)
		d.textCentre(d.fit(textStyle{child: true}, word, w-12, min(52, ht*1.3)), x+w/2, yy+ht*0.34, word)
	}
	said := make([]string, 0, len(heaps))
	for _, heap := range heaps {
		said = append(said, heap.head+": "+strings.Join(heap.words[:n], ", "))
	}
	d.note("Cut, mix, read each word and lay it under its heading. For the adult: " + strings.Join(said, "; ") + ".")
	return nil
}

// labels are for the trays and shelves of the room: large and small ones of each target.
func (d *document) labels(h Handout) error {
	faces := h.Lesson.Faces()
	if len(faces) == 0 {
		return nothing("this lesson has no sound of its own.")
	}
	for i, f := range faces {
		var picture *Image
		if i == 0 {
			picture = h.Picture
		} else if img, ok := h.Faces[f.ID]; ok {
			picture = &img
		}
		y := d.heading("Labels for "+f.Pair.Grapheme, h.about())
		width := d.paper.Width - 2*margin
		large := (y - margin - 6) * 0.38
		d.label(f, picture, margin, y-large, width, large)
		rows := 3
		small := (y - margin - 6 - large) / float64(rows)
		for k := range 2 * rows {
			d.label(f, picture, margin+float64(k%2)*width/2, y-large-float64(k/2+1)*small, width/2, small)
		}
		d.note(
			"For trays, boxes and shelves. Write on it what lies in the tray; check allergies first, and count small things.",
		)
	}
	return nil
}

func (d *document) label(f lesson.CardFace, picture *Image, x, y, w, ht float64) {
	d.cut(x, y, w, ht)
	left := x + 4
	if picture != nil {
		side := min(ht-10, w*0.34)
		d.picture(*picture, left+1, y+(ht-side)/2, side)
		left += side + 5
	}
	room := x + w - left - 4
	s := d.fit(textStyle{child: true}, f.Pair.Grapheme, room, ht*1.5)
	d.text(s, left, y+ht*0.42, f.Pair.Grapheme)
	if f.Keyword != "" {
		d.text(d.fit(textStyle{}, "as in "+f.Keyword, room, min(20, ht*0.4)), left, y+ht*0.24, "as in "+f.Keyword)
	}
	d.line(left, y+ht*0.1, x+w-5, y+ht*0.1, 0.25, grey)
}

// foldBox is one box to fold for a sound: a cube that opens, to keep what begins with it or holds it.
func (d *document) foldBox(h Handout) error {
	f := h.face()
	if f.Pair.Grapheme == "" {
		return nothing("this lesson has no sound of its own.")
	}
	d.newPage()
	side := min((d.paper.Width-20)/3, (d.paper.Height-34)/4)
	flap := 9.0
	x0, top := (d.paper.Width-3*side)/2, d.paper.Height-12.0
	at := func(col, row int) (x, y float64) { return x0 + float64(col)*side, top - float64(row+1)*side }
	// A cross: the lid on top, the front, the floor, the back under it; the two sides beside the front.
	cells := []struct{ col, row int }{{1, 0}, {1, 1}, {1, 2}, {1, 3}, {0, 1}, {2, 1}}
	tab := func(x1, y1, x2, y2, out float64) {
		p := &canvas.Path{}
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
	for i, c := range cells {
		x, y := at(c.col, c.row)
		d.path(canvas.Rectangle(side, side).Translate(x, y), 0.35, ink)
		d.boxFace(h, i, x, y, side)
	}
	d.note(
		"Cut around the outside, fold every line, glue the flaps. The lid stays open. Small things: count them, nothing " +
			"in mouths, noses or ears.",
	)
	return nil
}

// boxFace draws one of the six: lid, front, floor, back, left, right.
func (d *document) boxFace(h Handout, i int, x, y, side float64) {
	f := h.face()
	centre := x + side/2
	write := func(text string, bold bool) {
		d.textCentre(d.fit(textStyle{child: true, bold: bold}, text, side-10, side*1.6), centre, y+side*0.36, text)
	}
	switch i {
	case 0, 1:
		write(f.Pair.Grapheme, i == 1)
	case 2:
		d.textCentre(textStyle{size: 11, ink: grey}, centre, y+side/2, "What is in our box?")
	case 3:
		if h.Picture != nil {
			d.picture(*h.Picture, x+6, y+6, side-12)
			return
		}
		write(f.Keyword, false)
	case 4:
		d.fitted(
			textStyle{child: true, size: 15},
			x+5,
			y+side-8,
			side-10,
			side-14,
			canvas.Center,
			join(f.RhymeShort, f.Rhyme),
		)
	case 5:
		words := distinct(h.choices(lesson.Read, "word"))
		for k, w := range words[:min(4, len(words))] {
			d.textCentre(d.fit(textStyle{child: true}, w, side-10, 26), centre, y+side-14-float64(k)*side*0.22, w)
		}
	}
}

// pageText is the page of the lesson, or its sentence; empty where it has neither.
func (h Handout) pageText() string {
	for _, k := range []lesson.Kind{lesson.Page, lesson.Sentence} {
		for _, s := range h.Lesson.Steps {
			if s.Kind == k && len(s.Items) > 0 {
				return s.Items[0].Value
			}
		}
	}
	return ""
}

// bitsOf are the bridges of a word as it stands in a text: with its capital, its stop.
func (h Handout) bitsOf(token string) (word string, bits []spelling.Bit) {
	word = strings.Trim(token, ".,!?;:“”‘’\"'")
	if bits, ok := h.Lesson.WordBits[word]; ok {
		return word, bits
	}
	return word, h.Lesson.WordBits[strings.ToLower(word)]
}

// holders counts the words of a text that hold the target's spelling.
func (h Handout) holders(text string) int {
	n := 0
	for _, token := range strings.Fields(text) {
		if _, bits := h.bitsOf(token); slices.ContainsFunc(bits, func(b spelling.Bit) bool { return b.Target }) {
			n++
		}
	}
	return n
}

func (d *document) readTogether(h Handout) error {
	text := h.pageText()
	if text == "" {
		return nothing("this lesson has neither a page nor a sentence.")
	}
	y := d.heading("Read together", h.about())
	width := d.paper.Width - 2*margin
	d.fitted(textStyle{child: true, size: 46}, margin, y, width, y-margin-95, canvas.Left, text)
	y = margin + 85
	ring := "Find the words with " + h.face().Pair.Grapheme + " and ring them."
	if n := h.holders(text); n > 0 {
		ring = fmt.Sprintf("Ring the words with %s. There are %d.", h.face().Pair.Grapheme, n)
		if n == 1 {
			ring = "Ring the word with " + h.face().Pair.Grapheme + ". There is one."
		}
	}
	for i, q := range []string{ring, "Who or what is it about? Show it in the text.", "What could happen next?"} {
		y = d.para(textStyle{child: true, size: 15}, margin, y, width, fmt.Sprintf("%d. %s", i+1, q)) - 4
	}
	y -= 16
	for i, label := range []string{"I read it", "I read it with help", "not yet"} {
		x := margin + width*(float64(i)+0.5)/3
		d.tickFace(x, y, 11, i)
		d.textCentre(textStyle{size: 11}, x, y-26, label)
	}
	d.note("Tick a face together after reading.")
	return nil
}

// marked is the page with its bridges.
func (d *document) marked(h Handout) error {
	text := h.pageText()
	if text == "" {
		return nothing("this lesson has neither a page nor a sentence.")
	}
	y := d.heading("Read with bridges", h.about())
	width := d.paper.Width - 2*margin
	s := textStyle{child: true, size: 46}
	lines := d.wrapped(s, text, width)
	for s.size > 12 && float64(len(lines))*d.markedPitch(s) > y-margin-8 {
		s.size--
		lines = d.wrapped(s, text, width)
	}
	for _, line := range lines {
		y -= d.markedPitch(s)
		x := margin
		for token := range strings.FieldsSeq(line) {
			wide := d.face(s).TextWidth(token)
			word, bits := h.bitsOf(token)
			before, after, _ := strings.Cut(token, word)
			x0 := x + d.face(s).TextWidth(before)
			d.text(s, x, y+d.markedPitch(s)*0.45, before)
			d.bridgedWord(s, x0+d.face(s).TextWidth(word)/2, y+d.markedPitch(s)*0.45, word, bits, true)
			d.text(s, x0+d.face(s).TextWidth(word), y+d.markedPitch(s)*0.45, after)
			x += wide + d.face(s).TextWidth(" ")
		}
	}
	d.note("An arc under each grapheme, a leaping one for a split spelling, a wavy one under the odd part of a word.")
	return nil
}

// markedPitch is the height of a line that has bridges, in millimetres.
func (d *document) markedPitch(s textStyle) float64 { return s.size * 0.62 }

// wrapped cuts a text into lines of a width; its own line ends stay.
func (d *document) wrapped(s textStyle, text string, width float64) []string {
	var out []string
	f := d.face(s)
	for part := range strings.SplitSeq(text, "\n") {
		line := ""
		for w := range strings.FieldsSeq(part) {
			if next := strings.TrimSpace(line + " " + w); line == "" || f.TextWidth(next) <= width {
				line = next
				continue
			}
			out, line = append(out, line), w
		}
		out = append(out, line)
	}
	return out
}
