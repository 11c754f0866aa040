// Package pack writes the carry pack: one HTML file with cards, pictures, sounds, strokes and lessons that
// works from a USB stick without a network.
package pack

import (
	"crypto/sha256"
	_ "embed"
	"encoding/base64"
	"encoding/json"
	"html/template"
	"io"
	"strings"
	"time"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/step/kinds"
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
	ID     string
	Lesson lesson.Lesson
	Class  string
	Made   time.Time
}

// Stage is what lessons are held with from the file: the built script and style, and by card what no card of the pack
// brings. Without a script, lessons are tables.
type Stage struct {
	Script, Style    []byte
	Mouths           map[string]mouth.Drawing
	Contrasts        map[string]mouth.Drawing
	Pictures, Sounds map[string]template.URL
}

// Pack is all that goes into the file.
type Pack struct {
	Team, Class string
	Made        time.Time
	Cards       []Card
	Lessons     []Lesson
	Pictures    map[string]template.URL // of words in introductions
	Stage       Stage
	Child       []byte // WOFF2 of the letters and words
	Adult, Bold []byte // WOFF2 of the rest
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

// carried is what the stage reads: the lessons as the server gives them, and how each kind of step is shown.
func carried(p Pack) (string, error) {
	type view struct {
		LessonID  string         `json:"lesson_id"`
		ClassName string         `json:"class_name"`
		Sure      []int          `json:"sure"`
		Untouched map[string]int `json:"untouched"`
		Lesson    lesson.Lesson  `json:"lesson"`
	}
	views := []view{}
	for _, l := range p.Lessons {
		views = append(views, view{l.ID, l.Class, []int{}, map[string]int{}, l.Lesson})
	}
	data, err := json.Marshal(map[string]any{
		"kinds": kinds.Registry.All(), "lessons": views, "mouths": p.Stage.Mouths, "contrasts": p.Stage.Contrasts,
		"pictures": p.Stage.Pictures, "sounds": p.Stage.Sounds,
	})
	return string(data), err
}

// Write writes the pack. Its policy lets nothing in from outside: its one script is named by its sum.
func Write(w io.Writer, p Pack) error {
	fonts := face("Child", "400", p.Child) + face("Adult", "400", p.Adult) + face("Adult", "700", p.Bold)
	script := script
	var lessons string
	if len(p.Stage.Script) > 0 && len(p.Lessons) > 0 {
		script += ";\n" + strings.ReplaceAll(string(p.Stage.Script), "</script", `<\/script`)
		var err error
		if lessons, err = carried(p); err != nil {
			return err
		}
	}
	sum := sha256.Sum256([]byte(script))
	return view.Execute(w, map[string]any{
		"Pack":   p,
		"Fonts":  template.CSS(fonts),
		"Style":  template.CSS(style),
		"Look":   template.CSS(p.Stage.Style), //nolint:gosec // our own build
		"Staged": lessons != "",
		// JSON of Go has no "<" in it, so it cannot end the element that it stands in.
		"Carried": template.HTML(
			`<script type="application/json" id="carried">` + lessons + `</script>`,
		), //nolint:gosec // see above
		"Script": template.JS(
			script,
		), //nolint:gosec // our own files
		"Policy": "default-src 'none'; img-src data:; media-src data: blob:; font-src data:; style-src 'unsafe-inline'; " +
			"script-src 'sha256-" + base64.StdEncoding.EncodeToString(
			sum[:],
		) + "'; base-uri 'none'; form-action 'none'",
	})
}
