package render

import (
	"errors"
	"fmt"
	"io"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
)

// Handout is what the sheets of a lesson are made from.
type Handout struct {
	Lesson   lesson.Lesson
	Head     PlanHead
	Picture  *Image
	Pictures map[string]Image // of words
	HeightMM float64          // base to middle line
	HomeLine string           // the school's line in another language
}

// face is the new card as it stood when the lesson was assembled.
func (h Handout) face() lesson.CardFace { return h.Lesson.Target() }

// Sheet is a kind of printed page of a lesson.
type Sheet struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	draw  func(d *document, h Handout) error
}

// ErrNothing says that a lesson has nothing for a sheet.
const ErrNothing fault.Code = "nothing-to-print"

func nothing(text string) error { return fault.New(ErrNothing, "nothing to print: %s", text) }

var sheets = []Sheet{
	{"plan", "The plan to teach from", (*document).plan},
	{"practice", "Practice sheet, dotted letters", (*document).practice},
	{"words", "Flash words", (*document).flashWords},
	{"sorting", "Pictures to sort", (*document).sorting},
	{"quarters", "First or last, in four quarters", (*document).quarters},
	{"frames", "Sound frames", (*document).frames},
	{"eight", "Fold-into-eight picture book", (*document).eight},
	{"ring", "Find and ring", (*document).ring},
	{"pieces", "Chopped sentence to cut", (*document).pieces},
	{"page", "A page to read together", (*document).readTogether},
	{"home", "Home sheet", (*document).home},
}

// Sheets lists what can be printed of a lesson.
func Sheets() []Sheet { return sheets }

// Print writes one sheet by its name, or with "all" every one for which the lesson has something. The
// error wraps ErrNothing where there is nothing for it.
func Print(w io.Writer, h Handout, name string, paper Paper) error {
	d := newDocument(w, paper, fmt.Sprintf("Lesson on %s for %s", h.Lesson.Title(), h.Head.Class))
	for _, s := range sheets {
		if s.Name != name && name != "all" {
			continue
		}
		if err := s.draw(d, h); err != nil && (name != "all" || !errors.Is(err, ErrNothing)) {
			return err
		}
	}
	if d.pages == 0 && d.c == nil {
		return nothing("there is no sheet of this name.")
	}
	return d.close()
}

const margin = 15.0

// heading writes the title of a sheet on its own writing line and returns the height under it.
func (d *document) heading(title, right string) float64 {
	d.newPage()
	y := d.paper.Height - margin
	f := d.face(textStyle{child: true, bold: true, size: 22})
	m := f.Metrics()
	y -= m.CapHeight
	d.line(margin, y, d.paper.Width-margin, y, 0.4, ink)
	d.text(textStyle{child: true, bold: true, size: 22}, margin, y, title)
	d.textRight(textStyle{size: 10, ink: grey}, d.paper.Width-margin, y+1.2, right)
	return y - 8
}

// choices are the values chosen in the steps of a kind, of one kind of choice.
func (h Handout) choices(step lesson.Kind, kind lesson.ItemKind) []lesson.Item {
	var out []lesson.Item
	for _, s := range h.Lesson.Steps {
		for _, c := range s.Items {
			if s.Kind == step && c.Kind == kind {
				out = append(out, c)
			}
		}
	}
	return out
}
