// Package pack writes the carry pack: one HTML file with cards, pictures, sounds, strokes and lessons that
// works from a USB stick without a network.
package pack

import (
	"crypto/sha256"
	_ "embed"
	"encoding/base64"
	"html/template"
	"io"
	"strings"
	"time"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/strokes"
)

// Card is what the pack shows of one card.
type Card struct {
	ID, Grapheme, Sound, Keyword, PictureAlt string
	Rhyme, Short, Action, Cue, Slip          string
	Picture, Take                            template.URL // as data
	Mouth                                    *mouth.Drawing
	Writing, Capital                         *strokes.Written
	Words, Sentences                         []string
	Step                                     int
}

// Lesson is one lesson of the pack.
type Lesson struct {
	Lesson lesson.Lesson
	Class  string
	Made   time.Time
}

// Pack is all that goes into the file.
type Pack struct {
	Team, Class string
	Made        time.Time
	Cards       []Card
	Lessons     []Lesson
	Pictures    map[string]template.URL // of words in introductions
	Child       []byte                  // WOFF2 of the letters and words
	Adult, Bold []byte                  // WOFF2 of the rest
}

//go:embed pack.html
var page string

//go:embed pack.css
var style string

//go:embed pack.js
var script string

// Data makes a data address of bytes.
func Data(mediaType string, data []byte) template.URL {
	return template.URL(
		"data:" + mediaType + ";base64," + base64.StdEncoding.EncodeToString(data),
	) //nolint:gosec // cleaned before
}

var view = template.Must(template.New("pack").Funcs(template.FuncMap{
	"date":    func(t time.Time) string { return t.Format("2 January 2006") },
	"clock":   prose.Clock,
	"join":    strings.Join,
	"number":  func(i int) int { return i + 1 },
	"up":      func(y float64) float64 { return -y },
	"width":   func(w *strokes.Written) float64 { return w.Right - w.Left + 1.2 },
	"left":    func(w *strokes.Written) float64 { return w.Left - 0.6 },
	"height":  func(w *strokes.Written) float64 { return w.Lines[0].Y - w.Lines[3].Y + 0.6 },
	"top":     func(w *strokes.Written) float64 { return -w.Lines[0].Y - 0.3 },
	"picture": func(p Pack, word string) template.URL { return p.Pictures[word] },
	"mouth": func(d *mouth.Drawing, v mouth.View) template.HTML {
		return template.HTML(d.SVG(v)) //nolint:gosec // drawn by us from a table
	},
	"caution": func() string { return mouth.Caution },
	"credit":  func() string { return lexicon.PictureCredit },
}).Parse(page))

func face(family, weight string, font []byte) string {
	return "\n@font-face{font-family:" + family + ";font-weight:" + weight + ";src:url(" +
		string(Data("font/woff2", font)) + ") format('woff2')}"
}

// Write writes the pack. Its policy lets nothing in from outside: script and style are named by their sums.
func Write(w io.Writer, p Pack) error {
	css := style + face("Child", "400", p.Child) + face("Adult", "400", p.Adult) + face("Adult", "700", p.Bold)
	sum := sha256.Sum256([]byte(script))
	return view.Execute(w, map[string]any{
		"Pack":   p,
		"Style":  template.CSS(css),
		"Script": template.JS(script), //nolint:gosec // our own files
		"Policy": "default-src 'none'; img-src data:; media-src data:; font-src data:; style-src 'unsafe-inline'; " +
			"script-src 'sha256-" + base64.StdEncoding.EncodeToString(
			sum[:],
		) + "'; base-uri 'none'; form-action 'none'",
	})
}
