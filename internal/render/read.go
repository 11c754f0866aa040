package render

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
)

// flashWords are the words to read and the exception words, to cut.
func (d *document) flashWords(h Handout) error {
	list := h.content.ReadWords()
	odd := slices.DeleteFunc(h.content.ExceptionWords(), func(w string) bool { return slices.Contains(list, w) })
	all := slices.Concat(list, odd)
	if len(all) == 0 {
		return nothing("this lesson has no words to read.")
	}
	const cols = 2
	rows := max(3, (len(all)+1)/cols) // few words are printed larger
	if rows > 6 {
		rows = 5
	}
	w, ht := (d.paper.Width-2*margin)/cols, (d.paper.Height-margin-foot)/float64(rows)
	s := fitAll(textStyle{Child: true}, all, w-14, min(110, ht*1.3))
	for i, word := range all {
		k := i % (cols * rows)
		if k == 0 {
			d.newPage()
			d.note("Cut along the dashed lines. A wavy bridge marks the odd part of a word.")
		}
		x, y := margin+float64(k%cols)*w, d.paper.Height-margin-float64(k/cols+1)*ht
		d.drawCut(x, y, w, ht)
		_, bits := h.content.Bits(word)
		d.bridgedWord(s, x+(w-s.Width(word))/2, y+ht*0.45, word, bits)
		if slices.Contains(odd, word) {
			d.text(textStyle{Size: smallest, Ink: grey}, x+3, y+ht-5, "word to know")
		}
	}
	return nil
}

// ring is a page for each target: words in which it is found and ringed.
func (d *document) ring(h Handout) error {
	list := h.content.Rings()
	if len(list) == 0 {
		return nothing("too few readable words hold this sound.")
	}
	for _, r := range list {
		words := make([]string, len(r.Words))
		for i, w := range r.Words {
			words[i] = w.Word
		}
		d.ringed("Find "+r.Target.Named()+" and ring it", h.about(), words)
		d.note(fmt.Sprintf("For the adult: %s it, %s.", holdIt(r.Holding), without(len(r.Words)-r.Holding)))
	}
	return nil
}

func holdIt(n int) string { return fmt.Sprintf("%d %s", n, prose.Plural(n, "word has", "words have")) }

func without(n int) string { return fmt.Sprintf("%d %s not", n, prose.Plural(n, "does", "do")) }

// ringed lays words out over the page, all in one size.
func (d *document) ringed(title, about string, words []string) {
	y := d.heading(title, about, true)
	cols := 3
	if len(words) <= 12 {
		cols = 2
	}
	w := (d.paper.Width - 2*margin) / float64(cols)
	rows := (len(words) + cols - 1) / cols
	pitch := min(80, (y-foot)/float64(rows))
	s := fitAll(textStyle{Child: true}, words, w-8, min(64, pitch*1.5))
	for i, word := range words {
		d.textCentre(s, margin+(float64(i%cols)+0.5)*w, y-float64(i/cols+1)*pitch+pitch*0.4, word)
	}
}

// maxReadingSize is how high small letters grow on a page for children, in points of the hand font: 20 mm.
const maxReadingSize = 20 / (0.508 * 25.4 / 72)

// sentences parts a text so that each sentence begins a line.
func sentences(text string) string {
	var b strings.Builder
	letters := []rune(strings.TrimSpace(text))
	for i, r := range letters {
		b.WriteRune(r)
		if strings.ContainsRune(".!?", r) && i+2 < len(letters) && letters[i+1] == ' ' && letters[i+2] != '”' {
			b.WriteRune('\n')
		}
	}
	return strings.ReplaceAll(b.String(), "\n ", "\n")
}

// grown is the text as large as a box lets it be, up to 20 mm of x-height; leading is from line to line, in sizes.
func grown(text string, width, height, leading float64) (textStyle, []string) {
	s := textStyle{Child: true, Size: maxReadingSize}
	for ; s.Size > smallest; s.Size-- {
		lines := s.Wrap(text, width)
		whole := true
		for word := range strings.FieldsSeq(text) {
			whole = whole && s.Width(word) <= width
		}
		if whole && float64(len(lines))*s.Size*leading <= height {
			return s, lines
		}
	}
	return s, s.Wrap(text, width)
}

// readTogether is the page with its picture and a face to colour for each reading, and a second page to talk about it.
func (d *document) readTogether(h Handout) error {
	p, ok := h.content.Page()
	if !ok {
		return nothing("this lesson has neither a page nor a sentence.")
	}
	title := p.Title
	if title == "" {
		title = "Read together"
	}
	y := d.heading(title, h.about(), true)
	width := d.paper.Width - 2*margin
	const strip, leading = 30.0, 0.5
	text := sentences(p.Text)
	bottom := foot + strip
	if _, ok := h.wordPicture(p.Picture); ok && p.Picture != "" {
		side := min(62, (y-bottom)*0.3)
		d.drawWord(h, p.Picture, margin+(width-side)/2, y-side, side)
		y -= side + 4
	}
	s, lines := grown(text, width, y-bottom, leading)
	pitch := min(s.Size*leading*1.35, (y-bottom)/float64(len(lines)))
	for i, line := range lines {
		d.text(s, margin, y-float64(i)*pitch-pitch*0.68, line)
	}
	for i, label := range []string{"first time", "second time", "third time"} {
		x := margin + width*(float64(i)+0.5)/3
		d.smile(x, foot+18, 10)
		d.textCentre(textStyle{Size: 11}, x, foot+2, label)
	}
	d.note("Read it three times. Colour one face after each reading.")
	d.credit()
	d.talk(h, p)
	return nil
}

// talk is the page of questions about a text, with lines for the answers.
func (d *document) talk(h Handout, p handout.Page) {
	y := d.heading("Talk about it", h.about(), true)
	width := d.paper.Width - 2*margin
	var questions, key []string
	for _, held := range p.Holders {
		if len(held.Words) == 0 {
			continue
		}
		questions = append(questions, fmt.Sprintf("Find words with %s. How many? There %s %d.", held.Target.Named(),
			prose.Plural(len(held.Words), "is", "are"), len(held.Words)))
		key = append(key, held.Target.Label+": "+strings.Join(held.Words, ", "))
	}
	if len(questions) > 4 { // of a revision
		questions = questions[:4]
	}
	asked := p.Questions
	if len(asked) == 0 {
		asked = []string{"Who or what is it about? Show it in the text.", "What could happen next?"}
	}
	questions = append(questions, asked...)
	each := (y - foot) / float64(len(questions))
	for i, q := range questions {
		top := y - float64(i)*each
		at := d.para(textStyle{Child: true, Size: 16}, margin, top, width, fmt.Sprintf("%d. %s", i+1, q))
		for line := at - 12; line > top-each+6; line -= 14 {
			d.line(margin, line, margin+width, line, 0.3, faint)
		}
	}
	note := "Answer aloud first; then write or draw."
	if len(key) > 0 {
		note += " For the adult: " + strings.Join(key, "; ") + "."
	}
	d.note(note)
}

// drawMarked is the page with its bridges.
func (d *document) drawMarked(h Handout) error {
	p, ok := h.content.Page()
	if !ok {
		return nothing("this lesson has neither a page nor a sentence.")
	}
	title := "Read with bridges"
	if p.Title != "" {
		title = p.Title + ", with bridges"
	}
	y := d.heading(title, h.about(), true)
	width := d.paper.Width - 2*margin
	const leading = 0.62
	s, lines := grown(sentences(p.Text), width, y-foot, leading)
	pitch := min(s.Size*leading*1.4, (y-foot)/float64(len(lines)))
	for i, line := range lines {
		d.bridgedLine(h, s, margin, y-float64(i)*pitch-pitch*0.55, line)
	}
	d.note("An arc under each grapheme, a leaping one for a split spelling, a wavy one under the odd part of a word.")
	return nil
}

func (d *document) bridgedLine(h Handout, s textStyle, x, y float64, line string) {
	d.page.As("P", func() { d.bridgedTokens(h, s, x, y, line) })
}

func (d *document) bridgedTokens(h Handout, s textStyle, x, y float64, line string) {
	for token := range strings.FieldsSeq(line) {
		word, bits := h.content.Bits(token)
		before, after, _ := strings.Cut(token, word)
		if word == "" {
			before, after = token, ""
		}
		d.text(s, x, y, before)
		x += s.Width(before)
		if word != "" {
			d.bridgedWord(s, x, y, word, bits)
		}
		x += s.Width(word)
		d.text(s, x, y, after)
		x += s.Width(after + " ")
	}
}

// letterHunt is a text in which the letters are ringed; the note counts them.
func (d *document) letterHunt(h Handout) error {
	hunt, ok := h.content.LetterHunt()
	if !ok {
		return nothing("no text of this lesson holds its letters.")
	}
	names := make([]string, 0, len(hunt.Counts))
	counts := make([]string, 0, len(hunt.Counts))
	for _, c := range hunt.Counts {
		names = append(names, c.Target.Named())
		counts = append(counts, fmt.Sprintf("%s %d %s", c.Target.Label, c.N, prose.Plural(c.N, "time", "times")))
	}
	what := "Hunt for " + strings.Join(names, ", ")
	if len(names) > 3 {
		what = "Hunt for " + strings.Join(h.content.Graphemes(), ", ")
	}
	y := d.heading(what, h.about(), true)
	width := d.paper.Width - 2*margin
	const leading = 0.62
	s, _ := grown(hunt.Text, width, y-foot, leading)
	s.Size = min(s.Size, 60)
	lines := s.Wrap(hunt.Text, width)
	pitch := min(s.Size*leading*1.6, (y-foot)/float64(len(lines)))
	for i, line := range lines {
		d.text(s, margin, y-float64(i)*pitch-pitch*0.6, line)
	}
	d.note(
		"Ring it and say the sound each time; nobody needs to read the rest. For the adult: " + strings.Join(counts, "; ") +
			", counted by sound.",
	)
	return nil
}

// wordBank are the words of the lesson in boxes, to look at while writing.
func (d *document) wordBank(h Handout) error {
	groups := h.content.Bank()
	if len(groups) == 0 {
		return nothing("this lesson has no words to read.")
	}
	y := d.heading("Word bank", h.about(), true)
	width := d.paper.Width - 2*margin
	const cols = 4
	var all []string
	rows := 0
	for _, g := range groups {
		all = append(all, g.Words...)
		rows += (len(g.Words) + cols - 1) / cols
	}
	gap, head := 4.0, 9.0
	row := max(9, min(44, (y-foot-float64(len(groups))*(head+gap))/float64(rows)))
	s := fitAll(textStyle{Child: true}, all, width/cols-6, min(60, row*1.6))
	for _, g := range groups {
		lines := (len(g.Words) + cols - 1) / cols
		high := head + float64(lines)*row
		if y-high < foot {
			y = d.heading("Word bank", h.about(), true)
		}
		d.frame(margin, y-high, width, high, 3, ink)
		d.text(textStyle{Bold: true, Size: 11, Ink: grey}, margin+4, y-6, g.Head)
		for i, w := range g.Words {
			x, base := margin+4+float64(i%cols)*width/cols, y-head-float64(i/cols)*row-row*0.62
			_, bits := h.content.Bits(w)
			d.bankWord(s, x, base, w, bits, row)
		}
		y -= high + gap
	}
	d.note("Take a word, say its sounds, cover it, write it.")
	return nil
}

func (d *document) bankWord(s textStyle, x, y float64, word string, bits []spelling.Bit, row float64) {
	if row < 13 {
		d.text(s, x, y, word)
		return
	}
	d.bridgedWord(s, x, y, word, bits)
}
