package render

import (
	"fmt"
	"io"
	"strings"

	"brightchalk/internal/core/strokes"
)

// practice fills a page with rows of the letter at the team's height, and of its capital.
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

// practiceOf gives each form an equal share of the rows, the capital half of the letter's: the model with its numbers
// and dots, dots that thin out row by row, and starts alone. No row is empty, and each form goes through the same ones.
func (d *document) practiceOf(forms []strokes.Written, height float64, title, right string) {
	y := d.heading(title, right)
	if len(forms[0].Text) == 1 || len(forms) == 1 {
		for _, s := range forms[0].Strokes[:min(len(forms[0].Strokes), 4)] {
			y = d.para(textStyle{child: true, size: 13}, margin, y+4, d.paper.Width-2*margin, s.Words) - 5
		}
	}
	lines := forms[0].Lines
	above, below := lines[0].Y*height, -lines[3].Y*height
	pitch := above + below + height*0.7
	for i, rows := range rowsOf(forms, int((y-margin-6+height*0.7)/pitch)) {
		for row := range rows {
			if y-above-below < margin+5 {
				d.newPage()
				y = d.paper.Height - margin
			}
			base := y - above
			d.ruled(lines, margin, d.paper.Width-margin, base, height)
			d.practiceRow(forms[i], base, height, fading(row, rows, height))
			y -= pitch
		}
	}
	d.note(fmt.Sprintf("Base to middle line %.1f mm. Print at 100 %%, not “fit to page”.", height))
}

// rowsOf shares rows out: equal parts, or two thirds to a letter and one to its capital; each form has one at least.
func rowsOf(forms []strokes.Written, rows int) []int {
	out := make([]int, len(forms))
	for i := range out {
		out[i] = max(1, rows*(i+1)/len(forms)-rows*i/len(forms))
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
		return look{starts: true, nothing: true}
	}
	part := float64(row) / float64(max(2, rows-1))
	return look{ink: ink, width: height * 0.09, dots: height * (0.16 + 0.4*part), starts: true}
}

func (d *document) practiceRow(f strokes.Written, base, height float64, l look) {
	wide := (f.Right - f.Left) * height
	step := max(wide+height*0.9, height*1.6)
	for x := margin + height*0.4; x+wide < d.paper.Width-margin; x += step {
		d.written(f, x, base, height, l)
		if l.arrows { // the model stands once, the next ones are dotted
			l = look{ink: ink, width: height * 0.09, dots: height * 0.16, starts: true}
		}
	}
}

// Practised is what a practice sheet is made of.
type Practised struct {
	Forms    []strokes.Written // letters, groups or words
	HeightMM float64           // base to middle line
	Trace    bool              // rows to write over and to go on with
	Copy     bool              // each once, with lines to write it on
	Ring     string            // a grapheme to ring in the words; empty: none
	Rings    int               // how many of the words hold it
}

// Practice writes practice sheets of any letters and words, without a lesson: to trace, to copy, to ring.
func Practice(w io.Writer, p Practised, paper Paper) error {
	names := make([]string, len(p.Forms))
	for i, f := range p.Forms {
		names[i] = f.Text
	}
	title := strings.Join(names, ", ")
	d := newDocument(w, paper, "Practice sheet "+title)
	if p.Trace {
		d.practiceOf(p.Forms, p.HeightMM, d.shortened("Write "+title), "")
	}
	if p.Copy {
		d.copies(p)
	}
	if p.Ring != "" {
		d.ringed(p, names)
	}
	return d.close()
}

// shortened is a title that fits beside what stands at its right.
func (d *document) shortened(title string) string {
	s := textStyle{child: true, bold: true, size: 22}
	letters := []rune(title)
	for d.face(s).TextWidth(string(letters)) > d.paper.Width-2*margin {
		letters = append(letters[:len(letters)-2], '…')
	}
	return string(letters)
}

// copies has a model at the left of each row, and a row of its own to write it again.
func (d *document) copies(p Practised) {
	y := d.heading("Read it, cover it, write it", "")
	h, lines := p.HeightMM, p.Forms[0].Lines
	above, below := lines[0].Y*h, -lines[3].Y*h
	pitch := above + below + h*0.7
	room := int((y - margin - 6) / pitch)
	each := max(2, min(4, room/max(1, len(p.Forms)))) // rows to a word
	for _, f := range p.Forms {
		for row := range each {
			if y-pitch+h*0.7 < margin+5 {
				d.newPage()
				y = d.paper.Height - margin
			}
			base := y - above
			d.ruled(lines, margin, d.paper.Width-margin, base, h)
			if row == 0 {
				d.written(f, margin+h*0.4, base, h, look{ink: ink, width: h * 0.1})
			}
			y -= pitch
		}
	}
	d.note(fmt.Sprintf("Base to middle line %.1f mm. Print at 100 %%, not “fit to page”.", h))
}

// ringed lays the words out to be ringed, over the height of the page.
func (d *document) ringed(p Practised, names []string) {
	y := d.heading("Find "+p.Ring+" and ring it", "")
	d.threeAcross(y, names)
	d.note(fmt.Sprintf("For the adult: %d of %d hold it.", p.Rings, len(names)))
}
