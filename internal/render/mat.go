package render

import (
	"fmt"
	"io"
	"strings"

	"brightchalk/internal/core/strokes"
)

// Mat is all that a class knows, for one page.
type Mat struct {
	Class string
	Faces []Face     // in the order of teaching
	Alike [][]string // single letters that share their strokes
	Words []string   // exception words
}

// Alike groups single letters by what they share in writing, each group in the order given.
func Alike(letters []string) [][]string {
	at := map[strokes.Family]int{}
	var out [][]string
	for _, sign := range letters {
		x, ok := strokes.Of(sign)
		if !ok || len([]rune(sign)) != 1 {
			continue
		}
		i, seen := at[x.Family]
		if !seen {
			i = len(out)
			at[x.Family], out = i, append(out, nil)
		}
		out[i] = append(out[i], sign)
	}
	return out
}

// PrintMat writes the mat: the known cards as small pictures with their letters, the letters by how they are written,
// the exception words. One page, whatever the number.
func PrintMat(w io.Writer, m Mat, paper Paper) error {
	if len(m.Faces) == 0 {
		return nothing("this class knows no card yet.")
	}
	d := newDocument(paper, "What "+m.Class+" knows")
	y := d.heading("We know", m.Class, false)
	width := d.paper.Width - 2*margin
	words := strings.Join(m.Words, "    ")
	var rows []string
	for _, g := range m.Alike {
		rows = append(rows, strings.Join(g, " "))
	}
	alike := strings.Join(rows, "    |    ")
	lower := 0.0
	for _, text := range []string{alike, words} {
		if text != "" {
			lower += newBlock(textStyle{Child: true, Size: 18}, text, width).height() + 11
		}
	}
	lower = min(lower, (y-foot)*0.4)
	d.tiles(m.Faces, y, y-foot-lower, width)
	at := foot + lower
	parts := []struct{ title, text string }{{"Letters that begin alike in writing", alike}, {"Exception words", words}}
	for _, part := range parts {
		if part.text == "" {
			continue
		}
		d.text(textStyle{Bold: true, Size: 10, Ink: grey}, margin, at-4, part.title)
		share := lower - 11
		if alike != "" && words != "" {
			share = lower/2 - 11
			if len(part.text) > 90 {
				share = lower*0.65 - 11
			}
		}
		at = d.fitted(textStyle{Child: true, Size: 18}, margin, at-6, width, share, alignLeft, part.text) - 3
	}
	d.note(fmt.Sprintf("%d cards, as the class knows them and as they are agreed today.", len(m.Faces)))
	return d.write(w)
}

// tiles lays faces out as large as they fit into a height.
func (d *document) tiles(faces []Face, y, height, width float64) {
	const tall = 1.28 // of a tile, to its width
	cols := 1
	for {
		rows := (len(faces) + cols - 1) / cols
		if w := min(width/float64(cols), 46); float64(rows)*w*tall <= height {
			break
		}
		cols++
	}
	if cols < 4 {
		cols = 4
	}
	w := width / float64(cols)
	rows := (len(faces) + cols - 1) / cols
	ht := min(w*1.6, height/float64(rows))
	for i, f := range faces {
		x, top := margin+float64(i%cols)*w, y-float64(i/cols)*ht
		d.frame(x+0.6, top-ht+0.6, w-1.2, ht-1.2, 1.5, faint)
		text := strings.ReplaceAll(f.Pair.Grapheme, "-", "–")
		s := fit(textStyle{Child: true, Bold: true}, text, w-3, ht*0.9)
		d.textCentre(s, x+w/2, top-ht*0.32, text)
		if side := min(w-4, ht*0.54); f.Picture != nil {
			d.picture(*f.Picture, x+(w-side)/2, top-ht+2, side)
		} else {
			d.textCentre(fit(textStyle{}, f.Keyword, w-3, 12), x+w/2, top-ht*0.7, f.Keyword)
		}
	}
}
