package render

import (
	"strings"

	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
)

// home are two pages for a family, in plain words: how each sound is said and written, and what to read, write, find
// and draw.
func (d *document) home(h Handout) error {
	y := d.heading(h.content.Heading(), h.about(), true)
	targets := h.content.Targets
	switch {
	case len(targets) == 0:
	case len(targets) == 1:
		y = d.homeSound(h, targets[0], y)
	case len(targets) <= 4:
		each := (y - foot) / float64(len(targets))
		for i, t := range targets {
			d.homeBlock(h, t, y-float64(i)*each, each-4)
		}
		y = foot
	default:
		d.homeTiles(h, targets, y)
		y = foot
	}
	d.note(
		"The mouth is drawn for teaching, not for therapy. Questions about hearing or speech? Talk to the class teacher. " +
			"Small things and trays: check allergies, nothing in mouths, noses or ears.",
	)
	drawn := y > foot+50 // there is room to draw on the first page
	if drawn {
		d.homeDrawing(h, y-2, foot)
	}
	y = d.heading("At home", h.about(), true)
	d.note("Five minutes are enough. Stop while it is fun.")
	y = d.homeTasks(h, y)
	if !drawn {
		d.homeDrawing(h, y, foot+homeLineHeight+2)
	}
	d.homeLine(h.HomeLine, min(y, foot+homeLineHeight), d.paper.Width-2*margin)
	return nil
}

// homeDrawing says what to draw, with a frame for it down to bottom.
func (d *document) homeDrawing(h Handout, y, bottom float64) {
	text := h.content.Drawing()
	if text == "" {
		return
	}
	width := d.paper.Width - 2*margin
	y = d.part("Draw", text, false, margin, y, width, 14)
	if y-bottom > 12 {
		d.frame(margin, bottom, width, y-bottom, 2, ink)
	}
}

const labelled = 30.0 // width of the labels at the left

// part is a labelled paragraph no higher than maxHeight; it returns the height under it.
func (d *document) part(title, text string, child bool, x, y, width, maxHeight float64) float64 {
	if strings.TrimSpace(text) == "" || maxHeight < 6 {
		return y
	}
	d.text(textStyle{Bold: true, Size: 12}, x, y-4, title)
	return d.fitted(textStyle{Child: child, Size: 13}, x+labelled, y, width-labelled, maxHeight, alignLeft, text) - 2.5
}

// homeSound is the half page of one sound.
func (d *document) homeSound(h Handout, t handout.Target, y float64) float64 {
	width := d.paper.Width - 2*margin
	const side = 50.0
	left := width
	if d.drawCard(h, t.ID, t.Keyword, d.paper.Width-margin-side, y-side, side) {
		left -= side + 8
	}
	if t.Writing != nil {
		hgt := min(13.5, (left-10)/max(2, t.Writing.Right-t.Writing.Left+0.6))
		base := y - 4 - t.Writing.Lines[0].Y*hgt
		d.ruled(t.Writing.Lines, margin, margin+left, base, hgt)
		d.drawWritten(*t.Writing, margin+8, base, hgt, look{ink: ink, width: hgt * 0.1, starts: true, arrows: true})
	} else {
		d.text(textStyle{Child: true, Size: 70}, margin, y-30, t.Pair.Grapheme)
	}
	if t.Keyword != "" {
		as := "as in " + t.Keyword
		d.textRight(fit(textStyle{}, as, left/2, 14), margin+left, y-side+1, as)
	}
	y -= side + 4
	room, under := width, y
	if m, ok := h.Mouths[t.ID]; ok && len(m.Stills) > 1 { // the first still that sounds, beside what is said of it
		const across, front = 32.0, 20.0
		room -= across + front + 6
		tall := d.mouth(m.Stills[1], mouth.Side, margin+width-across-front-2, y, across)
		d.mouth(m.Stills[1], mouth.Front, margin+width-front, y, front)
		under = y - tall - 3
	}
	y = d.part("Say it", join(t.MouthCue, "Say the sound, not the name of the letter."), false, margin, y, room, 24)
	y = d.part("Watch for", script.Slip(t.Pair, t.Slip), false, margin, y, room, 18)
	y = min(y, under)
	y = d.part("The rhyme", t.Rhyme, true, margin, y, width, 30)
	y = d.part("The action", t.Action, false, margin, y, width, 18)
	return d.part("Write it", d.strokeWords(t), false, margin, y, width, 26)
}

func (*document) strokeWords(t handout.Target) string {
	if t.Writing == nil {
		return ""
	}
	var said []string
	for _, s := range t.Writing.Strokes {
		if s.Brief != "" {
			said = append(said, prose.Capital(strings.TrimRight(s.Brief, "."))+".")
		}
	}
	if len(said) == 0 {
		return ""
	}
	return strings.Join(said, " ") + " Saying the words helps the hand."
}

// homeBlock is one of two to four sounds.
func (d *document) homeBlock(h Handout, t handout.Target, y, height float64) {
	width := d.paper.Width - 2*margin
	d.frame(margin, y-height, width, height, 3, faint)
	side := min(36, height-14)
	x, right := margin+4, margin+width-4
	if d.drawCard(h, t.ID, t.Keyword, right-side, y-4-side, side) {
		right -= side + 4
	}
	if t.Keyword != "" {
		as := t.Named()
		d.text(fit(textStyle{Child: true, Bold: true}, as, right-x-60, 14), x+58, y-8, as)
	}
	if t.Writing != nil {
		lines := t.Writing.Lines
		wide := t.Writing.Right - t.Writing.Left
		hgt := min(9, (side-2)/(lines[0].Y-lines[3].Y), 46/max(1, wide))
		base := y - 5 - lines[0].Y*hgt
		d.ruled(lines, x, x+52, base, hgt)
		d.drawWritten(*t.Writing, x+4, base, hgt, look{ink: ink, width: hgt * 0.1, starts: true, arrows: true})
	} else {
		d.text(fit(textStyle{Child: true}, t.Pair.Grapheme, 50, 44), x, y-24, t.Pair.Grapheme)
	}
	at := y - 12
	if rhyme := first(t.RhymeShort, t.Rhyme); rhyme != "" {
		at = d.fitted(textStyle{Child: true, Size: 12}, x+58, at, right-x-58, max(6, side-12), alignLeft, rhyme)
	}
	at = min(at, y-side-6)
	bottom := y - height + 2
	at = d.part("Say it", join(t.MouthCue, "Say the sound, not the name of the letter."), false, x, at, width-8, at-bottom)
	at = d.part("The action", t.Action, false, x, at, width-8, at-bottom)
	d.part("Write it", d.strokeWords(t), false, x, at, width-8, at-bottom)
}

// homeTiles are the sounds of a revision, each with its letter and picture.
func (d *document) homeTiles(h Handout, targets []handout.Target, y float64) {
	width := d.paper.Width - 2*margin
	const cols = 3
	rows := (len(targets) + cols - 1) / cols
	w, ht := width/cols, min(62, (y-foot)/float64(rows))
	for i, t := range targets {
		x, top := margin+float64(i%cols)*w, y-float64(i/cols)*ht
		d.frame(x+1, top-ht+1, w-2, ht-2, 2, faint)
		side := min(w*0.48, ht-18)
		d.drawCard(h, t.ID, t.Keyword, x+w-side-4, top-side-4, side)
		d.text(fit(textStyle{Child: true}, t.Pair.Grapheme, w-side-12, 46), x+5, top-side*0.62, t.Pair.Grapheme)
		if t.Keyword != "" {
			as := "as in " + t.Keyword
			d.text(fit(textStyle{}, as, w-10, 12), x+5, top-ht+6, as)
		}
	}
}

// homeTasks are what a child does at home: read, know, write, find, tick. It returns the height under them.
func (d *document) homeTasks(h Handout, y float64) float64 {
	width := d.paper.Width - 2*margin
	words := h.content.ReadWords()
	words = words[:min(10, len(words))]
	y = d.part("Read", strings.Join(words, "    "), true, margin, y, width, 16)
	y = d.part("Know", strings.Join(h.content.ExceptionWords(), "    "), true, margin, y, width, 10)
	if len(words) > 0 {
		y = d.part("How", "Let your child say each sound and join them. If a word does not come, read it together. Ask what "+
			"it means.", false, margin, y, width, 14)
	}
	y = d.homeWriting(h, y, width)
	var hunt []string
	for _, g := range h.content.Hunt() {
		hunt = append(hunt, g.Head+": "+strings.Join(g.Words, ", "))
	}
	if len(hunt) > 0 && len(hunt) <= 4 {
		y = d.part("Hunt", "At home, outdoors or in a book. Who finds … "+strings.Join(hunt, "; ")+
			"? Say each one slowly: where is the sound?", false, margin, y, width, 24)
	}
	for _, q := range h.content.Questions() {
		text := newBlock(textStyle{Size: 13}, q.Text, width-labelled)
		d.text(textStyle{Bold: true, Size: 12}, margin, y-4, "Tick")
		y = d.draw(text, margin+labelled, y, 0, alignLeft) - 1
		x := margin + labelled
		for _, c := range q.Choices {
			x = d.tick(textStyle{Child: true, Size: 14}, x, y-6, c) + 12
		}
		y -= 11
	}
	return y
}

// homeWriting are lines to write the words and a sentence on.
func (d *document) homeWriting(h Handout, y, width float64) float64 {
	words, list := h.content.HomeWords(), h.content.Sentences()
	if len(words)+len(list) == 0 {
		return y
	}
	var t handout.Target
	if len(h.content.Targets) > 0 {
		t = h.content.Targets[0]
	}
	hgt := min(h.HeightMM, 8)
	if len(words) > 0 {
		y = d.part("Write", "Say it, cover it, write it:  "+strings.Join(words, "    "), true, margin, y, width, 14)
		rows := 1
		if len(h.content.Targets) < 2 { // on the page of one sound there is room for large writing
			rows = 2
		}
		for range rows {
			y = d.writingRow(t, margin, margin+width, y, hgt) - 3
		}
	}
	if len(list) > 0 {
		y = d.part("A sentence", list[0]+" Ask what it means, then write it.", true, margin, y, width, 14)
		y = d.writingRow(t, margin, margin+width, y, hgt) - 4
	}
	return y
}

const homeLineHeight = 18.0

// homeLine is the school's line in a family's language: printed where the fonts hold its letters, else a line to write
// on, which says so.
func (d *document) homeLine(text string, y, width float64) {
	s := textStyle{Size: 13}
	const high = homeLineHeight
	d.frame(margin, y-high, width, high, 2, grey)
	label := textStyle{Size: smallest, Ink: grey}
	switch {
	case strings.TrimSpace(text) == "":
		d.text(label, margin+3, y-5, "In your language:")
	case len(s.Missing(text)) == 0:
		d.fitted(s, margin+3, y-2, width-6, high-4, alignLeft, text)
	default:
		d.text(label, margin+3, y-5, "In your language (the fonts for printing lack "+signs(s.Missing(text))+
			": write the line by hand):")
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
