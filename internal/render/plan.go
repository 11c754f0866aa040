package render

import (
	"fmt"
	"strings"
	"time"

	"github.com/tdewolff/canvas"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/prose"
)

// PlanHead is what stands above a plan.
type PlanHead struct {
	Team, Class string
	Made        time.Time
}

// plan draws a lesson as a plan to teach from: minutes at the left, what the adult says and does, and
// what the class does with what lies ready.
func (d *document) plan(h Handout) error {
	in, head, paper := h.Lesson, h.Head, d.paper
	width := paper.Width - 2*margin
	cols := [3]float64{20, width*0.56 - 20, width * 0.44}
	d.newPage()
	y := paper.Height - margin
	big := d.face(textStyle{child: true, bold: true, size: 40})
	m := big.Metrics()
	y -= m.CapHeight + 2
	d.line(margin, y, margin+width, y, 0.5, ink)
	d.line(margin, y+m.XHeight, margin+width, y+m.XHeight, 0.2, faint, 1.5, 1.2)
	d.ctx.DrawText(margin, y, canvas.NewTextLine(big, in.Title(), canvas.Left))
	title := in.Routine
	if face := in.Target(); face.Keyword != "" && len(in.Targets) == 1 {
		title = "as in " + face.Keyword + " · " + in.Routine
	}
	d.ctx.DrawText(
		margin+big.TextWidth(in.Title())+6,
		y+2,
		canvas.NewTextLine(d.face(textStyle{size: 16}), title, canvas.Left),
	)
	d.ctx.DrawText(
		margin+width,
		y+2,
		canvas.NewTextLine(
			d.face(textStyle{size: 11, ink: grey}),
			fmt.Sprintf("%s · %d minutes · %s", head.Class, in.Minutes, in.Day(head.Made)),
			canvas.Right,
		),
	)
	y -= m.Descent + 3
	for _, n := range in.Notes {
		t, h := d.box(textStyle{size: 9, ink: grey}, "• "+n.Text, width, canvas.Left)
		d.ctx.DrawText(margin, y, t)
		y -= h
	}
	y -= 2
	at := 0
	for _, s := range in.Steps {
		left := strings.Join(s.Adult, "\n")
		right := []string{}
		if len(s.Class) > 0 {
			right = append(right, "Class: "+strings.Join(s.Class, " "))
		}
		if picks := choicesText(s, in); picks != "" {
			right = append(right, picks)
		}
		if len(s.Table) > 0 {
			right = append(right, "Ready: "+strings.Join(s.Table, ", ")+".")
		}
		for _, c := range s.Cautions {
			right = append(right, "Care: "+c)
		}
		a, ha := d.box(textStyle{size: 10}, left, cols[1]-4, canvas.Left)
		b, hb := d.box(textStyle{size: 9}, strings.Join(right, "\n"), cols[2]-2, canvas.Left)
		h := max(ha+6, hb+1, 10)
		if y-h < margin+6 {
			d.newPage()
			y = paper.Height - margin
		}
		d.line(margin, y+1.2, margin+width, y+1.2, 0.2, faint)
		d.ctx.DrawText(
			margin,
			y-3.6,
			canvas.NewTextLine(d.face(textStyle{bold: true, size: 11}), prose.Clock(at), canvas.Left),
		)
		d.ctx.DrawText(
			margin,
			y-8,
			canvas.NewTextLine(d.face(textStyle{size: 8, ink: grey}), prose.Clock(s.Seconds)+" min", canvas.Left),
		)
		d.ctx.DrawText(
			margin+cols[0],
			y-3.6,
			canvas.NewTextLine(d.face(textStyle{bold: true, size: 11}), s.Name, canvas.Left),
		)
		d.ctx.DrawText(margin+cols[0], y-5.6, a)
		d.ctx.DrawText(margin+cols[0]+cols[1], y, b)
		y -= h + 2.2
		at += s.Seconds
	}
	d.line(margin, y+1.2, margin+width, y+1.2, 0.5, ink)
	d.ctx.DrawText(
		margin,
		y-3.6,
		canvas.NewTextLine(d.face(textStyle{bold: true, size: 11}), prose.Clock(at)+"  end", canvas.Left),
	)
	for _, n := range in.Dropped {
		t, h := d.box(textStyle{size: 8, ink: grey}, "Left out – "+n.Name+": "+n.Text, width-40, canvas.Left)
		if y-h < margin {
			d.newPage()
			y = paper.Height - margin
		}
		d.ctx.DrawText(margin+40, y, t)
		y -= h
	}
	return nil
}

func choicesText(s lesson.Step, in lesson.Lesson) string {
	var list, yes, no []string
	for _, c := range s.Items {
		switch {
		case c.Kind == lesson.CardItem && len(s.Deck) > 0 && c.Position == "picture":
			list = append(list, in.Cards[c.Value].Pair.Grapheme+"*")
		case c.Kind == lesson.CardItem:
			list = append(list, in.Cards[c.Value].Pair.Grapheme)
		case c.Basket == lesson.HasNot:
			no = append(no, c.Value)
		case c.Basket != "":
			yes = append(yes, c.Value)
		case c.Kind == lesson.MaterialItem || c.Kind == lesson.QuestionItem:
		case c.Kind == lesson.SentenceItem || c.Kind == lesson.PageItem:
			list = append(list, "“"+c.Value+"”")
		default:
			list = append(list, c.Value)
		}
	}
	if len(list) == 0 { // a drill of a lesson that was kept before shows were items
		for _, show := range s.Deck {
			mark := map[string]string{"picture": "*"}[show.Side]
			list = append(list, in.Cards[show.CardID].Pair.Grapheme+mark)
		}
	}
	switch {
	case len(yes) > 0 && s.Kind == lesson.Contrast:
		return "Left: " + strings.Join(yes, ", ") + ". Right: " + strings.Join(no, ", ") + "."
	case len(yes) > 0:
		out := "Has the sound: " + strings.Join(yes, ", ") + "."
		if len(no) > 0 {
			out += " Has it not: " + strings.Join(no, ", ") + "."
		}
		return out
	case len(s.Deck) > 0:
		text := "Order: " + strings.Join(list, " ")
		if strings.Contains(text, "*") {
			text += "  (* picture side)"
		}
		return text
	}
	return strings.Join(list, " · ")
}
