package render

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/drawing"
)

const trueSize = "Base to middle line %.1f mm. Print at 100 %%, not “fit to page”."

// practice fills rows with the letters of all targets at the team's height, each with its capital.
func (d *document) practice(h Handout) error {
	var forms []strokes.Written
	var names []string
	for _, t := range h.content.Targets {
		if t.Writing == nil || slices.Contains(names, t.Writing.Text) {
			continue
		}
		forms = append(forms, *t.Writing)
		names = append(names, t.Writing.Text)
		if t.Capital != nil {
			forms = append(forms, *t.Capital)
		}
	}
	if len(forms) == 0 {
		return nothing("this letter has no strokes yet.")
	}
	d.practiceBlock(forms, h.HeightMM, "Write "+strings.Join(names, ", "), h.about())
	return nil
}

// practiceBlock gives each form its rows: the model with its numbers, dots that thin out row by row, and starts
// alone. The pages are filled to the foot. The words of the strokes stand over the rows of a letter if there is room
// for them.
func (d *document) practiceBlock(forms []strokes.Written, height float64, title, about string) {
	y := d.heading(title, about, true)
	lines := forms[0].Lines
	above, below := lines[0].Y*height, -lines[3].Y*height
	pitch := above + below + height*0.7
	words := len(forms) <= 2
	if words {
		for _, s := range forms[0].Strokes[:min(len(forms[0].Strokes), 4)] {
			y = d.para(textStyle{Child: true, Size: 13}, margin, y, d.paper.Width-2*margin, s.Words) - 1
		}
		y -= 2
	}
	for i, rows := range splitRows(forms, int((y-foot+height*0.7)/pitch)) {
		for row := range rows {
			if y-above-below < foot-1 {
				d.practiceNote(height)
				d.newPage()
				y = d.paper.Height - margin
			}
			base := y - above
			d.ruled(lines, margin, d.paper.Width-margin, base, height)
			d.practiceRow(forms[i], base, height, fading(row, rows, height), row == 0)
			y -= pitch
		}
	}
	d.practiceNote(height)
}

func (d *document) practiceNote(height float64) {
	d.note("The grey blocks show the gap: as wide as a letter. " + fmt.Sprintf(trueSize, height))
}

// splitRows shares rows out: equal parts, or two thirds to a letter and one to its capital; each form has one at least,
// and of several two.
func splitRows(forms []strokes.Written, rows int) []int {
	out := make([]int, len(forms))
	least := 1
	if len(forms) > 2 {
		least = 2
	}
	for i := range out {
		out[i] = max(least, rows*(i+1)/len(forms)-rows*i/len(forms))
	}
	if len(forms) == 2 && forms[0].Text != forms[1].Text && strings.EqualFold(forms[0].Text, forms[1].Text) {
		out[0] = max(1, (rows*2+2)/3)
		out[1] = max(1, rows-out[0])
	}
	return out
}

// fading is how the letters of a row look: the first row is led by the model, the last has starts alone.
func fading(row, rows int, height float64) look {
	switch {
	case row == 0:
		return look{ink: ink, width: height * 0.1, starts: true, arrows: true}
	case row == rows-1 && rows > 2:
		return look{starts: true, startsOnly: true}
	}
	part := float64(row) / float64(max(2, rows-1))
	return look{ink: ink, width: height * 0.09, dots: height * (0.16 + 0.4*part), starts: true}
}

// letterGap is between two letters on a practice row, in x-heights: about the width of a letter.
const letterGap = 0.9

func (d *document) practiceRow(f strokes.Written, base, height float64, l look, gaps bool) {
	wide := (f.Right - f.Left) * height
	step := max(wide+height*letterGap, height*1.6)
	for x := margin + height*0.4; x+wide < d.paper.Width-margin; x += step {
		if gap := step - wide - 0.3*height; gaps && x+step+wide < d.paper.Width-margin {
			d.fill(drawing.Rectangle(x+wide+0.15*height, base, gap, height), pale)
		}
		d.drawWritten(f, x, base, height, l)
		if l.arrows { // the model stands once, the next ones are dotted
			l = look{ink: ink, width: height * 0.09, dots: height * 0.16, starts: true}
		}
	}
}

// capitals are rows of a capital beside its small letter.
func (d *document) capitals(h Handout) error {
	type couple struct{ upper, small strokes.Written }
	var list []couple
	var names []string
	add := func(f lesson.CardFace) {
		small := f.Drawn
		if small == nil {
			small = f.Writing
		}
		upper, ok := h.Capitals[f.ID]
		if small == nil || !ok || slices.Contains(names, upper.Text) {
			return
		}
		list, names = append(list, couple{upper, *small}), append(names, upper.Text)
	}
	for _, f := range h.content.CapitalCards() {
		add(f)
	}
	if len(list) == 0 {
		return nothing("this lesson has no single letter.")
	}
	y := d.heading("Capitals: "+strings.Join(names, " "), h.about(), true)
	hgt, lines := h.HeightMM, list[0].small.Lines
	above, below := lines[0].Y*hgt, -lines[3].Y*hgt
	pitch := above + below + hgt*0.7
	rows := max(2, int((y-foot+hgt*0.7)/pitch)/len(list))
	for _, c := range list {
		for row := range rows {
			if y-above-below < foot-1 {
				d.practiceNote(hgt)
				d.newPage()
				y = d.paper.Height - margin
			}
			base, x := y-above, margin+hgt*0.4
			d.ruled(lines, margin, d.paper.Width-margin, base, hgt)
			l := fading(row, rows, hgt)
			for i := 0; ; i++ {
				f := c.upper
				if i%2 == 1 {
					f = c.small
				}
				wide := (f.Right - f.Left) * hgt
				if x+wide > d.paper.Width-margin {
					break
				}
				if i == 2 && l.arrows {
					l = look{ink: ink, width: hgt * 0.09, dots: hgt * 0.16, starts: true}
				}
				d.drawWritten(f, x, base, hgt, l)
				x += wide + hgt*letterGap
			}
			y -= pitch
		}
	}
	d.practiceNote(hgt)
	return nil
}

// PracticeSheet is what a practice sheet is made of.
type PracticeSheet struct {
	Forms    []strokes.Written // letters, groups or words
	HeightMM float64           // base to middle line
	Trace    bool              // rows to write over and to go on with
	Copy     bool              // each once, with lines to write it on
	Ring     string            // a grapheme to ring in the words; empty: none
	Rings    int               // how many of the words hold it
}

// Practice writes practice sheets of any letters and words, without a lesson: to trace, to copy, to ring.
func Practice(w io.Writer, p PracticeSheet, paper Paper) error {
	names := make([]string, len(p.Forms))
	for i, f := range p.Forms {
		names[i] = f.Text
	}
	title := strings.Join(names, ", ")
	d := newDocument(paper, "Practice sheet "+title)
	if p.Trace {
		d.bookmark = "Write"
		d.practiceBlock(p.Forms, p.HeightMM, "Write "+title, "")
	}
	if p.Copy {
		d.bookmark = "Read, cover, write"
		d.copies(p)
	}
	if p.Ring != "" {
		d.bookmark = "Find and ring"
		d.ringed("Find "+p.Ring+" and ring it", "", names)
		d.note(fmt.Sprintf("For the adult: %d of %d hold it.", p.Rings, len(names)))
	}
	return d.write(w)
}

// copies has a model at the left of each row, and rows to write it again.
func (d *document) copies(p PracticeSheet) {
	y := d.heading("Read it, cover it, write it", "", true)
	h, lines := p.HeightMM, p.Forms[0].Lines
	above, below := lines[0].Y*h, -lines[3].Y*h
	pitch := above + below + h*0.7
	room := int((y - foot) / pitch)
	each := max(2, min(4, room/max(1, len(p.Forms)))) // rows to a word
	for _, f := range p.Forms {
		for row := range each {
			if y-pitch+h*0.7 < foot-1 {
				d.note(fmt.Sprintf(trueSize, h))
				d.newPage()
				y = d.paper.Height - margin
			}
			base := y - above
			d.ruled(lines, margin, d.paper.Width-margin, base, h)
			if row == 0 {
				d.drawWritten(f, margin+h*0.4, base, h, look{ink: ink, width: h * 0.1})
			}
			y -= pitch
		}
	}
	d.note(fmt.Sprintf(trueSize, h))
}

// writingRow is a row of the team's lines to write on; it returns the height under it.
func (d *document) writingRow(t handout.Target, x0, x1, y, height float64) float64 {
	lines := strokesLines(t)
	above, below := lines[0].Y*height, -lines[3].Y*height
	d.ruled(lines, x0, x1, y-above, height)
	return y - above - below
}

// strokesLines are the team's lines as the lesson keeps them with a letter, or the common ones.
func strokesLines(t handout.Target) []strokes.WrittenLine {
	if t.Writing != nil {
		return t.Writing.Lines
	}
	w, err := strokes.CommonLines().Write("a", nil, nil)
	if err != nil {
		panic(err) // a stands in the table of letters
	}
	return w.Lines
}
