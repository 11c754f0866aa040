package render

import (
	"fmt"
	"strings"
	"time"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/prose"
)

// PlanHead is what stands above a plan.
type PlanHead struct {
	Team, Class string
	Made        time.Time
}

// plan draws a lesson as a plan to teach from: minutes at the left, what the adult says and does, and
// what the class does with what lies ready. Remarks stand at the end.
func (d *document) plan(h Handout) error {
	in := h.Lesson
	width := d.paper.Width - 2*margin
	y := d.planHead(h)
	cols := [3]float64{20, width*0.56 - 20, width * 0.44}
	at := 0
	for _, s := range in.Steps {
		adult := newBlock(textStyle{Size: 10}, strings.Join(s.Adult, "\n"), cols[1]-4)
		beside := newBlock(textStyle{Size: 9}, strings.Join(h.content.Beside(s), "\n"), cols[2]-2)
		name := newBlock(textStyle{Bold: true, Size: 11}, s.Name, cols[1]-4)
		for first := true; first || len(adult.lines)+len(beside.lines) > 0; first = false {
			room := y - margin - 4
			head := 0.0
			if first {
				head = name.height()
			}
			if need := max(
				head+adult.height(),
				beside.height(),
				11,
			); need > room &&
				(room < 40 || first && need < d.paper.Height-2*margin-10) {
				d.newPage()
				y = d.paper.Height - margin
				room = y - margin - 4
			}
			d.line(margin, y, margin+width, y, 0.2, faint)
			top := y - 1.2
			if first {
				d.text(textStyle{Bold: true, Size: 11}, margin, top-4, prose.Clock(at))
				d.text(textStyle{Size: smallest, Ink: grey}, margin, top-8.4, prose.Clock(s.Seconds)+" min")
				d.page.As("H2", func() { d.drawLines(name, margin+cols[0], top, cols[1], alignLeft) })
			}
			var a, b block
			a, adult = split(adult, room-head)
			b, beside = split(beside, room)
			left := d.draw(a, margin+cols[0], top-head, cols[1], alignLeft)
			right := d.draw(b, margin+cols[0]+cols[1], top, cols[2], alignLeft)
			y = min(left, right, top-9) - 2
		}
		at += s.Seconds
	}
	d.line(margin, y, margin+width, y, 0.5, ink)
	d.text(textStyle{Bold: true, Size: 11}, margin, y-5, prose.Clock(at)+"  end")
	d.remarks(in, y-8)
	return nil
}

// split parts a block where a height ends; at least one line is taken.
func split(b block, height float64) (fits, rest block) {
	n := len(b.lines)
	for n > 1 && (block{b.face, b.lines[:n]}).height() > height {
		n--
	}
	return block{b.face, b.lines[:n]}, block{b.face, b.lines[n:]}
}

func (d *document) planHead(h Handout) float64 {
	in, width := h.Lesson, d.paper.Width-2*margin
	d.newPage()
	title := in.Title()
	if title == "" {
		title = prose.Capital(h.content.Heading())
	}
	big := fit(textStyle{Child: true, Bold: true}, title, width, 40)
	m := big.Metrics()
	y := d.paper.Height - margin - m.CapHeight
	d.line(margin, y, margin+width, y, 0.5, ink)
	d.line(margin, y+m.XHeight, margin+width, y+m.XHeight, 0.2, faint, 1.5, 1.2)
	d.page.As("H1", func() { d.text(big, margin, y, title) })
	y -= m.Descent + 1
	what := in.Routine
	if len(h.content.Targets) == 1 && h.content.Targets[0].Keyword != "" {
		what = "as in " + h.content.Targets[0].Keyword + " · " + in.Routine
	}
	y = d.para(textStyle{Size: 13}, margin, y, width, strings.TrimSuffix(what, " · "))
	about := fmt.Sprintf("%s · %d minutes · %s", h.Head.Class, in.Minutes, in.Day(h.Head.Made))
	return d.para(textStyle{Size: 10, Ink: grey}, margin, y, width, about) - 2
}

// remarks are what was left out and what the cards lack.
func (d *document) remarks(in lesson.Lesson, y float64) {
	var lines []string
	for _, n := range in.Dropped {
		lines = append(lines, "Left out – "+n.Name+": "+n.Text)
	}
	for _, n := range in.Notes {
		lines = append(lines, n.Text)
	}
	for _, text := range lines {
		b := newBlock(textStyle{Size: 9, Ink: grey}, "• "+text, d.paper.Width-2*margin)
		if y-b.height() < margin {
			d.newPage()
			y = d.paper.Height - margin
		}
		y = d.draw(b, margin, y, 0, alignLeft)
	}
}
