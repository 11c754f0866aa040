package render

import (
	"bytes"
	"errors"
	"fmt"
	"io"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/strokes"
)

// Handout is what the sheets of a lesson are made from.
type Handout struct {
	Lesson   lesson.Lesson
	Options  handout.Options // how the team speaks, which words it refused
	Head     PlanHead
	Pictures map[string]Image           // of words; our own pictures need not be among them
	Faces    map[string]Image           // pictures of cards, by card id
	Mouths   map[string]mouth.Drawing   // how the sound of a single target is made, by card id
	Capitals map[string]strokes.Written // of cards of one letter, by card id
	HeightMM float64                    // base to middle line
	HomeLine string                     // the school's line in another language
	content  handout.Handout
}

// ready works out what the sheets say, once for all of them.
func (h Handout) ready() Handout {
	h.content = handout.New(h.Lesson, h.Options)
	if h.HeightMM == 0 {
		h.HeightMM = strokes.CommonLines().HeightMM
	}
	return h
}

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

// Uses are all uses in their order, with their names.
var Uses = []struct {
	Use  Use
	Name string
}{
	{ForAdult, "To teach from"},
	{ForTable, "For the table"},
	{ForRead, "To read"},
	{ForRoom, "For the room"},
	{ForHome, "To take home"},
}

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
	{"capitals", "Capitals on the lines", ForTable, (*document).capitals},
	{"sorting", "Pictures to sort", ForTable, (*document).sorting},
	{"quarters", "First or last, in four quarters", ForTable, (*document).quarters},
	{"frames", "Sound frames", ForTable, (*document).frames},
	{"sort-words", "Words to cut and sort", ForTable, (*document).wordSort},
	{"pieces", "Chopped sentence to cut", ForTable, (*document).pieces},
	{"compounds", "Picture and picture make a word", ForTable, (*document).compounds},
	{"boxes", "Eight empty boxes", ForTable, (*document).boxes},
	{"words", "Flash words", ForRead, (*document).flashWords},
	{"ring", "Find and ring", ForRead, (*document).ring},
	{"hunt", "Letter hunt in a text", ForRead, (*document).letterHunt},
	{"page", "A page to read together", ForRead, (*document).readTogether},
	{"marks", "The page with its bridges", ForRead, (*document).drawMarked},
	{"bank", "Word bank", ForRead, (*document).wordBank},
	{"labels", "Labels for trays", ForRoom, (*document).labels},
	{"box", "A box to fold", ForRoom, (*document).foldBox},
	{"home", "Home sheet", ForHome, (*document).home},
	{"eight", "Fold-into-eight picture book", ForHome, (*document).eight},
}

// Sheets lists what can be printed of a lesson.
func Sheets() []Sheet { return sheets }

// All asks for every sheet for which a lesson has something.
const All = "all"

// Print writes one sheet by its name, or with All every one for which the lesson has something. The error wraps
// ErrNothing where there is nothing for it.
func Print(w io.Writer, h Handout, name string, paper Paper) error {
	h = h.ready()
	d := newDocument(paper, fmt.Sprintf("Lesson on %s for %s", h.Lesson.Title(), h.Head.Class))
	d.out.Made = h.Head.Made
	known := false
	for _, s := range sheets {
		if s.Name != name && name != All {
			continue
		}
		known = true
		d.bookmark = s.Title
		if err := s.draw(d, h); err != nil && (name != All || !errors.Is(err, ErrNothing)) {
			return err
		}
	}
	if !known {
		return nothing("there is no sheet of this name.")
	}
	return d.write(w)
}

// Offered are the sheets for which a lesson has something.
func Offered(h Handout, paper Paper) []Sheet {
	h = h.ready()
	out := []Sheet{}
	for _, s := range sheets {
		if s.draw(newDocument(paper, ""), h) == nil {
			out = append(out, s)
		}
	}
	return out
}

// Preview writes the first page of a sheet as a PNG so many pixels wide.
func Preview(w io.Writer, h Handout, name string, paper Paper, width int) error {
	for _, s := range sheets {
		if s.Name != name {
			continue
		}
		d := newDocument(paper, "")
		if err := s.draw(d, h.ready()); err != nil {
			return err
		}
		d.nameMissingSigns()
		page := d.out.Pages[0]
		return page.PNG(w, float64(width)/page.Width)
	}
	return nothing("there is no sheet of this name.")
}

func (h Handout) about() string {
	return fmt.Sprintf("%s · %s", h.Head.Class, h.Lesson.Day(h.Head.Made))
}

// wordPicture is the team's picture of a word, or ours.
func (h Handout) wordPicture(word string) (Image, bool) {
	if img, ok := h.Pictures[word]; ok {
		return img, true
	}
	if svg, ok := lexicon.Picture(word); ok {
		return Image{"image/svg+xml", []byte(svg)}, true
	}
	return Image{}, false
}

// drawWord draws the picture of a word, or a frame with the word in it.
func (d *document) drawWord(h Handout, word string, x, y, side float64) {
	if img, ok := h.wordPicture(word); ok {
		d.page.Figure(word, func() { d.picture(img, x, y, side) })
		return
	}
	d.placeholder(word, x, y, side)
}

// drawCard draws the picture of a target's card, or of its keyword; false where there is neither.
func (d *document) drawCard(h Handout, card, keyword string, x, y, side float64) bool {
	img, ok := h.Faces[card]
	if !ok {
		img, ok = h.wordPicture(keyword)
	}
	if ok && len(bytes.TrimSpace(img.Bytes)) > 0 {
		d.page.Figure(keyword, func() { d.picture(img, x, y, side) })
	}
	return ok
}
