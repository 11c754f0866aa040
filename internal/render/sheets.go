package render

import (
	"fmt"
	"io"
	"strings"

	"github.com/tdewolff/canvas"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/strokes"
)

func (h Handout) about() string {
	return fmt.Sprintf("%s · %s", h.Head.Class, h.Head.Made.Format("2 January 2006"))
}

// practice fills a page with rows of the letter at the team's height: first full, then dots that thin out, then
// starts only, then empty lines.
func (d *document) practice(h Handout) error {
	if h.face().Writing == nil {
		return nothing("this letter has no strokes yet.")
	}
	forms := []strokes.Written{*h.face().Writing}
	if h.face().Capital != nil {
		forms = append(forms, *h.face().Capital)
	}
	d.practiceOf(forms, h.HeightMM, "Write "+h.face().Writing.Text, h.about())
	return nil
}

func (d *document) practiceOf(forms []strokes.Written, height float64, title, right string) {
	y := d.heading(title, right)
	for _, s := range forms[0].Strokes {
		y = d.para(textStyle{child: true, size: 13}, margin, y+4, d.paper.Width-2*margin, s.Words)
		y -= 5
	}
	looks := []look{
		{ink: ink, width: height * 0.1, starts: true, arrows: true},
		{ink: ink, width: height * 0.09, dots: height * 0.16, starts: true},
		{ink: ink, width: height * 0.09, dots: height * 0.3, starts: true},
		{ink: grey, width: height * 0.08, dots: height * 0.5, starts: true},
		{starts: true, nothing: true},
		{nothing: true},
	}
	lines := forms[0].Lines
	above, below := lines[0].Y*height, -lines[3].Y*height
	for row := 0; ; row++ {
		f := forms[0]
		if len(forms) > 1 && row%4 == 3 { // every fourth row is the capital
			f = forms[1]
		}
		base := y - above
		if base-below < margin+6 {
			break
		}
		l := looks[min(row, len(looks)-1)]
		if len(forms) > 1 && row%4 == 3 {
			l = looks[min(row/4*2, len(looks)-1)]
		}
		x1 := d.paper.Width - margin
		d.ruled(lines, margin, x1, base, height)
		wide := (f.Right - f.Left) * height
		step := max(wide+height*0.9, height*1.6)
		for x := margin + height*0.4; x+wide < x1; x += step {
			d.written(f, x, base, height, l)
			if l.arrows { // the model stands once, the next ones are dotted
				l = looks[1]
			}
		}
		y = base - below - height*0.7
	}
	d.note(fmt.Sprintf("Base to middle line %.1f mm. Print at 100 %%, not “fit to page”.", height))
}

// Practice writes a practice sheet of any letters, without a lesson.
func Practice(w io.Writer, form strokes.Written, height float64, paper Paper) error {
	d := newDocument(w, paper, "Practice sheet "+form.Text)
	d.practiceOf([]strokes.Written{form}, height, "Write "+form.Text, "")
	return d.close()
}

func (d *document) flashWords(h Handout) error {
	list := append(h.choices(lesson.Read, "word"), h.choices(lesson.Blend, "word")...)
	seen := map[string]bool{}
	const cols, rows = 2, 5
	w, ht := (d.paper.Width-2*margin)/cols, (d.paper.Height-2*margin)/rows
	n := 0
	for _, c := range list {
		if seen[c.Value] {
			continue
		}
		seen[c.Value] = true
		if n%(cols*rows) == 0 {
			d.newPage()
			d.note("Cut along the dashed lines. Print at 100 %.")
		}
		x, y := margin+float64(n%cols)*w, d.paper.Height-margin-float64(n%(cols*rows)/cols+1)*ht
		d.cut(x, y, w, ht)
		d.bridgedWord(
			d.fit(textStyle{child: true}, c.Value, w-12, 68),
			x+w/2,
			y+ht*0.42,
			c.Value,
			h.Lesson.WordBits[c.Value],
			true,
		)
		n++
	}
	if n == 0 {
		return nothing("this lesson has no words to read.")
	}
	return nil
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
	y := d.heading("Has it /"+h.face().Pair.Sound+"/?", h.about())
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
	y := d.heading("First or last: where is /"+h.face().Pair.Sound+"/?", h.about())
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
	list := append(h.choices(lesson.Spell, "word"), h.choices(lesson.Blend, "word")...)
	if len(list) == 0 {
		return nothing("this lesson has no words to spell.")
	}
	y := d.heading("Sound frames", h.about())
	const side = 24.0
	seen := map[string]bool{}
	var said []string
	for _, c := range list {
		bits := h.Lesson.WordBits[c.Value]
		n := len(bits)
		if n < 2 || n > 6 || seen[c.Value] || y-side < margin+10 {
			continue
		}
		seen[c.Value] = true
		said = append(said, c.Value)
		for i, b := range bits {
			x := margin + 16 + float64(i)*side
			d.path(canvas.Rectangle(side, side).Translate(x, y-side), 0.5, ink)
			if phoneme.IsVowel(phoneme.Phoneme(b.Sound)) {
				d.line(x+2, y-side+2, x+side-2, y-side+2, 0.5, ink)
				d.textCentre(textStyle{size: 8, ink: grey}, x+side/2, y-4, "vowel")
			}
		}
		d.text(textStyle{bold: true, size: 14, ink: grey}, margin, y-side/2-2, fmt.Sprintf("%d", len(said)))
		d.line(margin+22+float64(n)*side, y-side+3, d.paper.Width-margin, y-side+3, 0.4, ink)
		y -= side + 8
	}
	d.note(
		"For the adult: " + strings.Join(
			said,
			", ",
		) + ". One sound in each box; the box with the double foot holds the vowel.",
	)
	return nil
}

func (d *document) ring(h Handout) error {
	if len(h.Lesson.Rings) == 0 {
		return nothing("too few readable words hold this sound.")
	}
	y := d.heading("Find "+h.face().Pair.Grapheme+" and ring it", h.about())
	const cols = 3
	w := (d.paper.Width - 2*margin) / cols
	rows := (len(h.Lesson.Rings) + cols - 1) / cols
	pitch := min(30, (y-margin-10)/float64(rows))
	count := 0
	for i, r := range h.Lesson.Rings {
		if len(r.Letters) > 0 {
			count++
		}
		d.textCentre(
			d.fit(textStyle{child: true}, r.Word, w-8, 38),
			margin+(float64(i%cols)+0.5)*w,
			y-float64(i/cols+1)*pitch+6,
			r.Word,
		)
	}
	d.note(fmt.Sprintf("For the adult: %d words hold it, %d do not.", count, len(h.Lesson.Rings)-count))
	return nil
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
	for range 3 {
		d.line(margin, y-18, d.paper.Width-margin, y-18, 0.4, ink)
		y -= 24
	}
	y -= 14
	s := textStyle{child: true, size: 34}
	x := margin
	for _, p := range pieces {
		s := d.fit(s, p, width-10, 34)
		w := d.face(s).TextWidth(p) + 12
		if x+w > d.paper.Width-margin {
			x, y = margin, y-26
		}
		d.cut(x, y-20, w, 20)
		d.text(s, x+6, y-14, p)
		x += w + 4
	}
	d.note("Cut the pieces, lay them in order on the lines: the capital first, the full stop last. Read it, then glue.")
	return nil
}

func (d *document) readTogether(h Handout) error {
	text := ""
	for _, k := range []lesson.Kind{lesson.Page, lesson.Sentence} {
		for _, s := range h.Lesson.Steps {
			if s.Kind == k && len(s.Items) > 0 && text == "" {
				text = s.Items[0].Value
			}
		}
	}
	if text == "" {
		return nothing("this lesson has neither a page nor a sentence.")
	}
	y := d.heading("Read together", h.about())
	width := d.paper.Width - 2*margin
	y = d.fitted(textStyle{child: true, size: 30}, margin, y, width, y-margin-95, canvas.Left, text)
	y = max(margin+85, y-8)
	for i, q := range []string{"Which words have " + h.face().Pair.Grapheme + "? Put a finger on " +
		"each.", "Who or what is it about? Show it in the text.", "What could happen next?"} {
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
