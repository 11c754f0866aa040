package render

import (
	"fmt"
	"io"
	"strings"

	"brightchalk/internal/drawing"
)

// Days is all that is printed for a day or a week.
type Days struct {
	Team    string
	Title   string // the day, or the week
	Paper   Paper
	Lessons []DayLesson
	Missing []string // what is planned and not made yet
}

// DayLesson is a lesson with the day that it was made for.
type DayLesson struct {
	Day     string // "Monday 7 December"
	Handout Handout
}

// entry is a line of the cover: a sheet with its first page.
type entry struct {
	use   Use
	text  string
	page  int // from 1, without the cover
	pages int
}

// PrintDays writes the sheets that the lessons need as one PDF, sorted by use, then by day and class, behind a cover
// that lists them with their pages.
func PrintDays(w io.Writer, days Days) error {
	d := newDocument(days.Paper, days.Title+", "+days.Team)
	ready := make([]Handout, len(days.Lessons))
	for i, l := range days.Lessons {
		ready[i] = l.Handout.ready()
		d.out.Made = l.Handout.Head.Made
	}
	var entries []entry
	for _, use := range Uses {
		for i, l := range days.Lessons {
			for _, s := range sheets {
				if s.Use != use.Use || !ready[i].content.Needs(s.Name) {
					continue
				}
				before := len(d.out.Pages)
				name := fmt.Sprintf("%s, %s, %s: %s", s.Title, l.Day, ready[i].Head.Class, ready[i].Lesson.Title())
				d.bookmark = name
				if err := s.draw(d, ready[i]); err == nil {
					entries = append(entries, entry{use.Use, name, before + 1, len(d.out.Pages) - before})
				}
			}
		}
	}
	d.nameMissingSigns()
	body := d.out.Pages
	d.out.Pages, d.page, d.bookmark = nil, nil, "What is in this print"
	d.cover(days, entries, 0)
	covers := len(d.out.Pages)
	d.nameMissingSigns()
	d.out.Pages, d.page, d.bookmark = nil, nil, "What is in this print"
	d.cover(days, entries, covers) // again, with the pages as they come behind it
	d.nameMissingSigns()
	d.out.Pages = append(append([]*drawing.Page{}, d.out.Pages...), body...)
	return d.out.PDF(w)
}

// cover lists the sheets by use. Each page number is moved by the pages of the cover.
func (d *document) cover(days Days, entries []entry, covers int) {
	title := "Sheets for " + days.Title
	y := d.heading(title, days.Team, false)
	width := d.paper.Width - 2*margin
	row := textStyle{Size: 10}
	space := func(need float64) {
		if y-need < foot {
			y = d.heading(title, days.Team, false)
		}
	}
	for _, use := range Uses {
		first := true
		for _, e := range entries {
			if e.use != use.Use {
				continue
			}
			space(16)
			if first {
				y -= 3
				d.text(textStyle{Bold: true, Size: 13}, margin, y-4, use.Name)
				y -= 8
				first = false
			}
			pages := fmt.Sprintf("page %d", e.page+covers)
			if e.pages > 1 {
				pages = fmt.Sprintf("pages %d to %d", e.page+covers, e.page+e.pages-1+covers)
			}
			d.frame(margin, y-4.2, 3.2, 3.2, 0.4, grey)
			d.text(row, margin+6, y-4, d.shortened(row, e.text, width-45))
			d.textRight(row, margin+width, y-4, pages)
			y -= 5.6
		}
	}
	if len(days.Missing) > 0 {
		space(24)
		y -= 4
		d.text(textStyle{Bold: true, Size: 13}, margin, y-4, "Planned, but no lesson is made yet")
		y -= 8
		for _, m := range days.Missing {
			space(8)
			d.text(row, margin+6, y-4, d.shortened(row, strings.TrimSpace(m), width-8))
			y -= 5.6
		}
	}
	d.note("Tick what is printed. Print at 100 %, not “fit to page”.")
}
