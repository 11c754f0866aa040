package render

import (
	_ "embed"
	"html/template"
	"io"
	"strings"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
)

//go:embed sheet.html
var sheetPage string

var htmlView = template.Must(template.New("sheet").Funcs(template.FuncMap{
	"clock": prose.Clock,
	"join":  func(list []string) string { return strings.Join(list, ", ") },
	"lines": func(text string) []string { return strings.Split(text, "\n") },
}).Parse(sheetPage))

// HTML writes what the sheets of a lesson say as one page with headings, lists and a table, for a screen reader, a
// braille line or large type. PDF of the library that draws the sheets cannot carry such marks.
func HTML(w io.Writer, h Handout) error {
	face := h.face()
	var yes, no []string
	for _, c := range h.choices(lesson.Ear, lesson.PictureItem) {
		switch c.Basket {
		case lesson.Has:
			yes = append(yes, c.Value)
		case lesson.HasNot:
			no = append(no, c.Value)
		}
	}
	var brief []string
	if face.Writing != nil {
		for _, s := range face.Writing.Strokes {
			brief = append(brief, s.Words)
		}
	}
	type bridged struct {
		Word  string
		Parts []string
	}
	var read []bridged
	for _, word := range distinct(h.choices(lesson.Read, lesson.WordItem)) {
		letters := []rune(word)
		b := bridged{Word: word}
		for _, bit := range h.Lesson.WordBits[word] {
			part := ""
			for k, i := range bit.Letters {
				if k > 0 && i > bit.Letters[k-1]+1 {
					part += "-"
				}
				if i < len(letters) {
					part += string(letters[i])
				}
			}
			b.Parts = append(b.Parts, part)
		}
		read = append(read, b)
	}
	return htmlView.Execute(w, map[string]any{
		"H": h, "L": h.Lesson, "Face": face, "Slip": script.Slip(face.Pair, face.Slip), "Yes": yes, "No": no,
		"Strokes": brief, "Read": read, "Page": h.pageText(), "Holders": h.holders(h.pageText()), "Hunt": h.hunt(),
		"Date": h.Lesson.Day(h.Head.Made),
	})
}
