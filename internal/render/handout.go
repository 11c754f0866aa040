package render

import (
	"errors"
	"fmt"
	"io"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/mouth"
)

// Handout is what the sheets of a lesson are made from.
type Handout struct {
	Lesson   lesson.Lesson
	Head     PlanHead
	Picture  *Image
	Pictures map[string]Image // of words
	Faces    map[string]Image // of the cards that the lesson is about
	Mouth    *mouth.Drawing   // how the new sound is made; nil where it is not drawn
	HeightMM float64          // base to middle line
	HomeLine string           // the school's line in another language
}

// face is the new card as it stood when the lesson was assembled.
func (h Handout) face() lesson.CardFace { return h.Lesson.Target() }

// Use is what a sheet is for.
type Use string

// Uses of sheets, in the order in which they are offered.
const (
	ForAdult Use = "teach" // to teach from
	ForTable Use = "table" // children write, cut and sort at the table
	ForRead  Use = "read"  // children read
	ForRoom  Use = "room"  // hung up, folded, stuck on
	ForHome  Use = "home"
)

// Sheet is a kind of printed page of a lesson.
type Sheet struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Use   Use    `json:"use" enum:"teach,table,read,room,home" doc:"what it is for"`
	draw  func(d *document, h Handout) error
}

// ErrNothing says that a lesson has nothing for a sheet.
const ErrNothing fault.Code = "nothing-to-print"

func nothing(text string) error { return fault.New(ErrNothing, "nothing to print: %s", text) }

var sheets = []Sheet{
	{"plan", "The plan to teach from", ForAdult, (*document).plan},
	{"practice", "Practice sheet, dotted letters", ForTable, (*document).practice},
	{"sorting", "Pictures to sort", ForTable, (*document).sorting},
	{"quarters", "First or last, in four quarters", ForTable, (*document).quarters},
	{"frames", "Sound frames", ForTable, (*document).frames},
	{"sort-words", "Words to cut and sort", ForTable, (*document).wordSort},
	{"pieces", "Chopped sentence to cut", ForTable, (*document).pieces},
	{"words", "Flash words", ForRead, (*document).flashWords},
	{"ring", "Find and ring", ForRead, (*document).ring},
	{"page", "A page to read together", ForRead, (*document).readTogether},
	{"marks", "The page with its bridges", ForRead, (*document).marked},
	{"labels", "Labels for trays", ForRoom, (*document).labels},
	{"box", "A box to fold", ForRoom, (*document).foldBox},
	{"home", "Home sheet", ForHome, (*document).home},
	{"eight", "Fold-into-eight picture book", ForHome, (*document).eight},
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

// Offered are the sheets for which a lesson has something.
func Offered(h Handout, paper Paper) []Sheet {
	out := []Sheet{}
	for _, s := range sheets {
		d := newDocument(nil, paper, "")
		if s.draw(d, h) == nil {
			out = append(out, s)
		}
		_ = d.close() // nothing is written
	}
	return out
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
