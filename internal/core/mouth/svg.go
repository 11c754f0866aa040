package mouth

import (
	"fmt"
	"math"
	"strings"
)

// View is one of the two.
type View string

// Views of a mouth.
const (
	Side  View = "side"
	Front View = "front"
)

// windows are what the views show: left, top, width, height.
var windows = map[View][4]float64{Side: {-.68, -.75, 2.36, 2.0}, Front: {-.75, -.62, 1.5, 1.5}}

// Window is what a view shows: left, top, width, height.
func Window(v View) [4]float64 { return windows[v] }

// pen is how a part is drawn: the width of its line and its fill, in classes of ink on paper.
type pen struct {
	width float64
	fill  string
}

var pens = map[string]pen{
	"palate": {
		.022,
		"none",
	},
	"nose":        {.012, "none"},
	"face":        {.022, "none"},
	"wall":        {.022, "none"},
	"velum":       {.04, "none"},
	"upper-tooth": {.012, "paper"},
	"lower-tooth": {.012, "paper"},
	"tongue":      {.026, "grain"},
	"upper-lip":   {.022, "none"},
	"lower-lip":   {.022, "none"},
	"lips":        {.022, "paper"},
	"opening":     {.018, "dark"},
	"mound":       {.012, "grain"},
	"block":       {.012, "grain"},
	"lower-teeth": {.012, "paper"},
	"upper-teeth": {.012, "paper"},
	"tongue-tip":  {.018, "grain"},
}

// SVG is a still as a picture: ink on paper, in shapes that can be told apart without colour.
func (s Still) SVG(v View) string {
	w := windows[v]
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="%g %g %g %g" role="img">`, w[0], w[1], w[2], w[3])
	fmt.Fprintf(&b, `<title>%s; %s</title>`, s.Seen, s.Felt)
	b.WriteString(`<defs><pattern id="grain" width=".05" height=".05" patternUnits="userSpaceOnUse">` +
		`<rect width=".05" height=".05" fill="#f3d9d0"/><circle cx=".012" cy=".02" r=".007" fill="#b5472f"/>` +
		`</pattern></defs>`)
	fmt.Fprintf(&b, `<rect x="%g" y="%g" width="%g" height="%g" fill="#fffefb"/>`, w[0], w[1], w[2], w[3])
	shapes, marks := s.Side, s.SideMarks
	if v == Front {
		shapes, marks = s.Front, s.FrontMarks
	}
	fills := map[string]string{"none": "none", "paper": "#fffefb", "dark": "#1e2b30", "grain": "url(#grain)"}
	for _, x := range shapes {
		fmt.Fprintf(&b, `<path d="%s" fill="%s" stroke="#1e2b30" stroke-width="%g" stroke-linecap="round" `+
			`stroke-linejoin="round"/>`, path(x.Points, x.Closed), fills[x.Fill], x.Width)
	}
	inks := map[string]string{"air": "#1c6a96", "ink": "#1e2b30", "paper": "#fffefb"}
	for _, l := range marks {
		fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="%s" stroke-width="%g" stroke-dasharray="%s" `+
			`stroke-linecap="round" stroke-linejoin="round"/>`, l.D, inks[l.Ink], l.Width, l.Dash)
	}
	b.WriteString(`</svg>`)
	return b.String()
}

func path(points []Point, closed bool) string {
	var b strings.Builder
	for i, p := range points {
		fmt.Fprintf(&b, "%c%.3f %.3f", "ML"[min(i, 1)], p.X, p.Y)
	}
	if closed {
		b.WriteByte('Z')
	}
	return b.String()
}

// Line is a stroke of a mark.
type Line struct {
	D     string  `json:"d" doc:"its path, as SVG writes it"`
	Width float64 `json:"width"`
	Dash  string  `json:"dash,omitempty"`
	Ink   string  `json:"ink" enum:"air,ink,paper"`
}

// lines draw a mark seen from the side.
func (m mark) lines() []Line {
	width, long := .014, .18
	if m.strong {
		width, long = .022, .30
	}
	air := func(width float64, dash string, points ...Point) Line {
		return Line{path(points, false), width, dash, "air"}
	}
	out := func() []Line { // an arrow out of the mouth
		e := Point{-.30 - long, .05}
		return []Line{
			air(width, "", Point{-.30, .05}, e),
			air(width, "", Point{e.X + .05, e.Y - .035}, e, Point{e.X + .05, e.Y + .035}),
		}
	}
	switch m.kind {
	case "voice":
		var waves []Line
		for i := range 3 {
			var wave []Point
			for k := range 13 {
				x := -.11 + .22*float64(k)/12
				wave = append(wave, Point{m.at.X + x, m.at.Y - .08 + .08*float64(i) + .022*math.Sin(float64(k)/12*4*math.Pi)})
			}
			waves = append(waves, air(.02, "", wave...))
		}
		return waves
	case "silence":
		bar := func(x float64) Line {
			return Line{path([]Point{{m.at.X + x, m.at.Y - .08}, {m.at.X + x, m.at.Y + .08}}, false), .03, "", "ink"}
		}
		return []Line{bar(-.04), bar(.04)}
	case "stopped":
		return []Line{
			air(.02, ".05 .05", m.along...),
			air(.035, "", Point{m.at.X - .02, m.at.Y - .11}, Point{m.at.X - .02, m.at.Y + .11}),
		}
	case "burst":
		var rays []Line
		for _, a := range []float64{150, 180, 210} {
			x, y := math.Cos(a*math.Pi/180), -math.Sin(a*math.Pi/180)
			rays = append(rays, air(.02, "", Point{m.at.X + .05*x, m.at.Y + .05*y}, Point{m.at.X + .13*x, m.at.Y + .13*y}))
		}
		return append(rays, out()...)
	case "friction":
		last := m.along[len(m.along)-1]
		return []Line{air(.028, ".001 .045", append(append([]Point{}, m.along...), add(last, -.30, 0))...)}
	case "free":
		return out()
	case "sides":
		round := smooth(add(m.at, .25, .16), add(m.at, 0, .12), Point{-.05, .04}, Point{-.40, .05})
		return []Line{air(.02, ".05 .04", round...)}
	case "nose":
		return []Line{air(.02, ".05 .05", append(smooth(m.along...), m.to)...)}
	case "touch":
		return []Line{{path([]Point{m.at, m.to}, false), .022, "", "ink"}}
	case "open-side":
		return []Line{{path([]Point{m.at, m.to}, false), .03, ".03 .04", "paper"}}
	}
	return nil
}

// inFront draws a mark seen from the front: voice under the mouth, a nostril sign over it.
func (m mark) inFront() []Line {
	switch m.kind {
	case "voice", "silence":
		m.at = Point{0, .72}
		return m.lines()
	case "nose":
		return []Line{{"M-.10 -.46q.04 -.05 .08 0M.02 -.46q.04 -.05 .08 0M-.06 -.40v.10M.06 -.40v.10", .02, "", "air"}}
	}
	return nil
}

// SVG is a sound as one picture: its stills side by side, in the order of its phases.
func (d Drawing) SVG(v View) string {
	w := windows[v]
	stills := d.Stills[1 : len(d.Stills)-1]
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g">`, w[2]*float64(len(stills)), w[3])
	for i, s := range stills {
		inner := strings.Replace(
			s.SVG(v),
			"<svg ",
			fmt.Sprintf(`<svg x="%g" width="%g" height="%g" `, w[2]*float64(i), w[2], w[3]),
			1,
		)
		b.WriteString(inner)
	}
	b.WriteString(`</svg>`)
	return b.String()
}
