package strokes

import (
	"slices"
	"strings"
)

// WrittenStroke is a stroke as a page draws it: SVG path data in x-heights with y downwards.
type WrittenStroke struct {
	Path    string  `json:"path"`
	Start   Point   `json:"start"`
	Heading float64 `json:"heading"` // degrees, 0 to the right, 90 up
	Length  float64 `json:"length"`  // x-heights
	Words   string  `json:"words" doc:"for the adult: from which line to which"`
	Brief   string  `json:"brief" doc:"said while the pen moves"`
}

// WrittenLine is a writing line at its height over the base line, in x-heights.
type WrittenLine struct {
	RuledLine
	Y float64 `json:"y"`
}

// Written is a letter or a group on the team's lines.
type Written struct {
	Text    string          `json:"text"`
	Strokes []WrittenStroke `json:"strokes"`
	Lines   []WrittenLine   `json:"lines"` // from the top down
	Left    float64         `json:"left"`
	Right   float64         `json:"right"`
	Group   bool            `json:"group"`     // underlined as one
	Under   float64         `json:"underline"` // its height: under the letters, clear of what hangs
}

// Write sets text on the team's lines; own holds the team's own forms of signs. A sign without strokes is
// named in the error. words are what the team says with each stroke; where their number is not that of the strokes, all
// of them stand with the first. Without any the words by rule stand.
func (l Lines) Write(text string, own map[string]Letter, words []string) (Written, error) {
	x, err := l.Group(text, own)
	if err != nil {
		return Written{}, err
	}
	return l.written(text, x, words), nil
}

// Show is Write for one letter as it is being drawn.
func (l Lines) Show(x Letter) Written { return l.written(x.Sign, l.Form(x), nil) }

func (l Lines) written(text string, x Letter, words []string) Written {
	words, brief := l.said(x, words)
	x = l.On(x)
	low, high := x.Bounds()
	under := -0.35
	if low.Y < under {
		under = low.Y - 0.16
	}
	out := Written{
		Text:    text,
		Strokes: []WrittenStroke{},
		Left:    low.X,
		Right:   high.X,
		Group:   len([]rune(text)) > 1 && !strings.Contains(text, "-"),
		Under:   under,
		Lines:   []WrittenLine{{l.Top, l.Capital}, {l.Middle, 1}, {l.Base, 0}, {l.Drop, -l.Hang}},
	}
	for i, s := range x.Strokes {
		out.Strokes = append(out.Strokes, WrittenStroke{s.Path(), s.Start, s.Heading(), s.Length(), words[i], brief[i]})
	}
	return out
}

// said is what the adult reads and what is said with each stroke: the team's words, or else those by rule.
func (l Lines) said(x Letter, team []string) (words, brief []string) {
	team = slices.DeleteFunc(slices.Clone(team), func(w string) bool { return strings.TrimSpace(w) == "" })
	switch {
	case len(team) == 0:
		return l.Words(x), l.Brief(x)
	case len(team) == len(x.Strokes):
		return team, team
	}
	out := make([]string, len(x.Strokes))
	if len(out) > 0 {
		out[0] = strings.Join(team, " ")
	}
	return out, out
}

// Drawn is Write without words, to be shown as it stands; nil for a split spelling and where a sign has no
// strokes: a page then keeps its font.
func (l Lines) Drawn(text string, own map[string]Letter) *Written {
	w, err := l.Write(text, own, nil)
	if err != nil || strings.Contains(text, "-") {
		return nil
	}
	for i := range w.Strokes {
		w.Strokes[i].Words, w.Strokes[i].Brief = "", ""
	}
	return &w
}
