package render

import (
	"slices"
	"strings"

	"github.com/tdewolff/canvas"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
)

// home is the sheet for a family, in plain words.
func (d *document) home(h Handout) error {
	y := d.heading("Our new sound", h.about())
	width := d.paper.Width - 2*margin
	face := h.face()
	const side = 52.0
	if h.Picture != nil {
		d.picture(*h.Picture, d.paper.Width-margin-side, y-side, side)
	}
	left := width - side - 8
	if face.Writing != nil {
		hgt := min(13.5, (left-10)/max(2, face.Writing.Right-face.Writing.Left+0.6))
		base := y - 4 - face.Writing.Lines[0].Y*hgt
		d.ruled(face.Writing.Lines, margin, margin+left, base, hgt)
		d.written(*face.Writing, margin+8, base, hgt, look{ink: ink, width: hgt * 0.1, starts: true, arrows: true})
		if face.Keyword != "" {
			d.textRight(textStyle{size: 14}, margin+left, base+2, "as in "+face.Keyword)
		}
	}
	y -= side + 8
	room := width - 38
	part := func(title, text string, child bool, most float64) {
		if text == "" {
			return
		}
		d.text(textStyle{bold: true, size: 12}, margin, y-4, title)
		y = d.fitted(textStyle{child: child, size: 13}, margin+38, y, room, most, canvas.Left, text) - 5
	}
	under := y
	if h.Mouth != nil && len(h.Mouth.Stills) > 1 { // the first still that sounds, beside what is said of it
		const side, front = 32.0, 20.0
		first := h.Mouth.Stills[1]
		room -= side + front + 4
		tall := d.mouth(first, mouth.Side, margin+width-side-front-2, y, side)
		d.mouth(first, mouth.Front, margin+width-front, y, front)
		under = y - tall - 3
	}
	part("Say it", join(face.MouthCue, "Say the sound, not the name of the letter."), false, 24)
	part("Watch for", script.Slip(face.Pair, face.Slip), false, 18)
	room, y = width-38, min(y, under)
	part("The rhyme", face.Rhyme, true, 30)
	part("The action", face.Action, false, 18)
	if face.Writing != nil {
		said := []string{}
		for _, s := range face.Writing.Strokes {
			if s.Brief != "" {
				said = append(said, prose.Capital(strings.TrimRight(s.Brief, "."))+".")
			}
		}
		part("Write it", strings.Join(said, " ")+" Saying the words helps the hand.", false, 26)
	}
	how, words := "", distinct(h.choices(lesson.Read, "word"))
	if len(words) > 0 {
		how = "Let your child say each sound and join them. If a word does not come, read it together. " +
			"Five minutes are enough."
	}
	part("Read", strings.Join(words, "    "), true, 22)
	part("How", how, false, 16)
	if hunt := h.hunt(); len(hunt) >= 5 {
		part("Hunt", "At home, outdoors or in a book: who finds "+strings.Join(hunt, ", ")+"? Say each one slowly: where is "+
			"the sound?", false, 16)
	}
	part("Ask", "Which sound is new, and how does your mouth make it? Which letters write it? "+
		"Can you say another word that has it?", false, 16)
	y = d.toShow(y, width)
	d.homeLine(h.HomeLine, y, width)
	d.note(
		"The mouth is drawn for teaching, not for therapy. Questions about hearing or speech? Talk to the class " +
			"teacher. Small things and trays: check allergies, " +
			"nothing in mouths, noses or ears.",
	)
	return nil
}

// mostHunted is how many things a hunt at home asks for.
const mostHunted = 6

// hunt are things that have the sound, whatever their spelling: those of the ear game and its runners-up.
func (h Handout) hunt() []string {
	var out []string
	add := func(o lesson.Option) {
		if o.Basket != lesson.HasNot && o.Role != lesson.FoilRole && len(out) < mostHunted && !slices.Contains(out, o.Value) {
			out = append(out, o.Value)
		}
	}
	pictures := h.choices(lesson.Ear, lesson.PictureItem)
	for _, c := range pictures {
		add(c.Option)
	}
	for _, c := range pictures {
		for _, o := range c.Next {
			if c.Basket == lesson.Has {
				add(o)
			}
		}
	}
	return out
}

// toShow is room to draw something that is taken to school. Nobody keeps it.
func (d *document) toShow(y, width float64) float64 {
	foot := margin + 25
	if y-foot < 16 {
		return y
	}
	d.text(textStyle{bold: true, size: 12}, margin, y-4, "To show")
	d.text(textStyle{size: 13}, margin+38, y-4, "Draw one thing from the hunt and bring it to school.")
	d.frame(margin+38, foot, width-38, y-9-foot, 2, ink)
	return foot - 2
}

// homeLine is the school's line in a family's language: printed where the shipped font holds its letters, else
// a line to write on, which says so.
func (d *document) homeLine(text string, y, width float64) {
	s := textStyle{size: 13}
	y = max(y-4, margin+24)
	d.frame(margin, y-18, width, 18, 2, grey)
	switch {
	case strings.TrimSpace(text) == "":
		d.text(textStyle{size: 8, ink: grey}, margin+3, y-4, "In your language:")
	case d.holds(s, text):
		d.fitted(s, margin+3, y-3, width-6, 14, canvas.Left, text)
	default:
		d.text(
			textStyle{size: 8, ink: grey},
			margin+3,
			y-4,
			"In your language (the shipped fonts do not hold these letters: write the line by hand):",
		)
	}
}

func join(parts ...string) string {
	var out []string
	for _, p := range parts {
		if p = strings.TrimSpace(p); p != "" {
			out = append(out, p)
		}
	}
	return strings.Join(out, " ")
}

// eight is a page that folds into a book of eight small pages: one cut in the middle, no staples. Turned by half,
// the upper row stands on its head.
func (d *document) eight(h Handout) error {
	var list []string
	seen := map[string]bool{}
	for _, c := range h.choices(lesson.Ear, "picture") {
		if _, ok := h.Pictures[c.Value]; ok && c.Basket != lesson.HasNot && !seen[c.Value] {
			seen[c.Value] = true
			list = append(list, c.Value)
		}
	}
	if len(list) < 3 {
		return nothing("fewer than three pictures have this sound.")
	}
	paper := d.paper
	d.flush()
	d.paper = Paper{paper.Height, paper.Width}
	d.newPage()
	w, ht := d.paper.Width/4, d.paper.Height/2
	// Around the sheet: the front, six pages, the back. The lower row from the left holds 6, 7, back, front.
	place := []struct {
		col  int
		over bool
	}{{3, false}, {3, true}, {2, true}, {1, true}, {0, true}, {0, false}, {1, false}, {2, false}}
	for page, at := range place {
		d.ctx.Push()
		x, y := float64(at.col)*w, 0.0
		if at.over {
			y = ht
		}
		d.panel(h, list, page, x, y, w, ht, at.over)
		d.ctx.Pop()
	}
	for i := 1; i < 4; i++ {
		d.line(float64(i)*w, 0, float64(i)*w, d.paper.Height, 0.2, faint, 1, 2)
	}
	d.line(0, ht, w, ht, 0.2, faint, 1, 2)
	d.line(3*w, ht, 4*w, ht, 0.2, faint, 1, 2)
	d.line(w, ht, 3*w, ht, 0.5, ink, 3, 2)
	d.textCentre(textStyle{size: 8, ink: grey}, 2*w, ht+1.5, "cut here, after folding in half")
	d.flush()
	d.paper = paper
	return nil
}

// panel draws one small page. Text of the upper row is turned with the view; pictures are drawn into a turned
// picture of their own.
func (d *document) panel(h Handout, list []string, page int, x, y, w, ht float64, over bool) {
	if over {
		d.ctx.SetView(canvas.Identity.Translate(x+w, y+ht).Rotate(180))
	} else {
		d.ctx.SetView(canvas.Identity.Translate(x, y))
	}
	title := ""
	switch {
	case page == 0:
		d.textCentre(textStyle{child: true, bold: true, size: 14}, w/2, ht-16, "My book of")
		d.textCentre(textStyle{child: true, size: 90}, w/2, ht/2-10, h.face().Pair.Grapheme)
		d.textCentre(textStyle{size: 10, ink: grey}, w/2, 12, "as in "+h.face().Keyword)
		return
	case page == 7:
		d.fitted(
			textStyle{child: true, size: 13},
			6,
			ht-14,
			w-12,
			ht-30,
			canvas.Center,
			"I can say it:\n"+join(h.face().RhymeShort, h.face().Rhyme),
		)
		return
	case page <= len(list):
		title = list[page-1]
	default:
		d.textCentre(textStyle{child: true, size: 12}, w/2, ht-14, "My own picture")
		d.frame(8, 22, w-16, w-16, 2, grey)
		return
	}
	side := w - 20
	img := h.Pictures[title]
	if over { // a picture does not follow the view
		d.turnedPicture(img, x+10, y+ht-30-side, side)
	} else {
		d.picture(img, x+10, y+30, side)
	}
	d.textCentre(textStyle{child: true, size: 20}, w/2, 14, title)
}
