package render

import (
	_ "embed"
	"html/template"
	"io"
	"strings"

	"brightchalk/internal/core/handout"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
)

//go:embed sheet.html
var sheetPage string

var htmlView = template.Must(template.New("sheet").Funcs(template.FuncMap{
	"clock": prose.Clock,
	"join":  func(list []string) string { return strings.Join(list, ", ") },
	"lines": func(text string) []string { return strings.Split(text, "\n") },
	"slip":  func(t handout.Target) string { return script.Slip(t.Pair, t.Slip) },
}).Parse(sheetPage))

// HTML writes what the sheets of a lesson say as one page with headings, lists and tables, for a screen reader, a
// braille line or large type.
func HTML(w io.Writer, h Handout) error {
	h = h.ready()
	type bridged struct {
		Word  string
		Parts []string
	}
	var read []bridged
	for _, word := range h.content.ReadWords() {
		letters := []rune(word)
		b := bridged{Word: word}
		_, bits := h.content.Bits(word)
		for _, bit := range bits {
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
	var shown []string
	for _, s := range h.Lesson.Steps {
		shown = append(shown, h.content.Shown(s))
	}
	page, _ := h.content.Page()
	return htmlView.Execute(w, map[string]any{
		"H": h, "L": h.Lesson, "Says": h.content, "Read": read, "Page": page, "Shown": shown,
		"Date": h.Lesson.Day(h.Head.Made),
	})
}
