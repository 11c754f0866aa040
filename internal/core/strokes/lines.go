package strokes

import (
	"fmt"
	"math"
	"strings"

	"brightchalk/internal/core/fault"
)

// RuledLine is one of a team's writing lines.
type RuledLine struct {
	Name   string `json:"name" maxLength:"24"`
	Colour string `json:"colour" enum:"slate,sky,coral,marigold,mint,violet,grey"`
	Shown  bool   `json:"shown"`
}

// Lines are a team's writing lines, from the top down.
type Lines struct {
	Top    RuledLine `json:"top"`
	Middle RuledLine `json:"middle"`
	Base   RuledLine `json:"base"`
	Drop   RuledLine `json:"drop"`
	// HeightMM is the distance from the base to the middle line on paper.
	HeightMM float64 `json:"height_mm" minimum:"3" maximum:"40"`
	// Capital is how many x-heights a capital is high; Hang how many a hanging letter drops.
	Capital float64 `json:"capital" minimum:"1.3" maximum:"2.5"`
	Hang    float64 `json:"hang" minimum:"0.4" maximum:"1.5"`
	Style   Style   `json:"style" enum:"print,lead-in"`
	Joined  bool    `json:"joined"` // letter groups are joined, where the style has lead-ins
}

// Style of small letters.
type Style string

const (
	Print  Style = "print"   // starts at the top
	LeadIn Style = "lead-in" // starts with a stroke from the base line and ends with a flick
)

// CommonLines is what a new team starts with.
func CommonLines() Lines {
	return Lines{
		Top:      RuledLine{"top line", "grey", true},
		Middle:   RuledLine{"middle line", "sky", true},
		Base:     RuledLine{"base line", "slate", true},
		Drop:     RuledLine{"drop line", "grey", true},
		HeightMM: 8,
		Capital:  2,
		Hang:     1,
		Style:    Print,
	}
}

// OrCommon fills what a team has not set.
func (l Lines) OrCommon() Lines {
	if l.HeightMM == 0 {
		return CommonLines()
	}
	return l
}

// Check says what is wrong with the lines; the key names the field.
func (l Lines) Check() (field, text string) {
	names := map[string]bool{}
	for _, r := range []RuledLine{l.Top, l.Middle, l.Base, l.Drop} {
		name := strings.ToLower(strings.TrimSpace(r.Name))
		if name == "" {
			return "lines", "Every line needs a name: children hear it with each stroke."
		}
		if names[name] {
			return "lines", fmt.Sprintf("Two lines are called %q.", r.Name)
		}
		names[name] = true
	}
	switch {
	case !l.Base.Shown:
		return "lines", "The base line is always shown: letters sit on it."
	case l.HeightMM < 3 || l.HeightMM > 40:
		return "lines", "The height from base to middle line is 3 to 40 mm."
	case l.Capital < 1.3 || l.Capital > 2.5 || l.Hang < 0.4 || l.Hang > 1.5:
		return "lines", "A capital is 1.3 to 2.5 times as high as a small letter; a hanging letter drops 0.4 to 1.5 of it."
	}
	return "", ""
}

// On fits a letter to the lines: what stands over the middle line and what hangs under the base line is
// stretched to the team's proportions.
func (l Lines) On(x Letter) Letter {
	return x.Map(func(p Point) Point {
		switch {
		case p.Y > 1:
			p.Y = 1 + (p.Y-1)*(l.Capital-1)
		case p.Y < 0:
			p.Y *= l.Hang
		}
		return p
	})
}

// Form is a sign in the team's style, in the table's proportions; On fits it to the lines.
func (l Lines) Form(x Letter) Letter {
	if l.Style == LeadIn && len(x.Sign) == 1 && x.Sign[0] >= 'a' && x.Sign[0] <= 'z' {
		return withLeadIn(x)
	}
	return x
}

// withLeadIn adds a stroke from the base line to the start of the first stroke, and a flick where the last
// straight stroke comes down on the base line.
func withLeadIn(x Letter) Letter {
	out := x.Map(func(p Point) Point { return p })
	s := &out.Strokes[0]
	at := s.Start
	entry := Point{at.X - 0.45, 0}
	lead := Segment{"lead", Point{at.X - 0.3, 0.05}, Point{at.X - 0.1, at.Y - 0.45}, at}
	switch {
	case x.Family == "round" && x.Sign != "s" && at.Y > 0.6: // up outside the ring and along its top to the start
		entry = Point{-0.4, 0}
		over := &pen{}
		over.begin(entry)
		over.add(Segment{"lead", Point{-0.22, 0.02}, Point{-0.1, 0.6}, Point{0.146, 0.854}})
		over.arc(Point{0.5, 0.5}, 0.5, 0.5, 0.75*math.Pi, 0.25*math.Pi)
		over.stroke.Segments[1].Move = On
		s.Segments = append(over.stroke.Segments, s.Segments...)
	case x.Sign == "s":
		entry = Point{-0.35, 0}
		lead = Segment{"lead", Point{0, 0.05}, Point{0.4, 0.75}, at}
	case at.Y > 1.2:
		entry = Point{at.X - 0.55, 0}
		lead.C1, lead.C2 = Point{at.X - 0.25, 0.1}, Point{at.X - 0.06, at.Y - 0.9}
	case at.Y < 0.6:
		lead.C2 = Point{at.X - 0.12, at.Y}
	}
	s.Start = entry
	if s.Segments[0].Move != "lead" {
		s.Segments = append([]Segment{lead}, s.Segments...)
	}
	if n := len(s.Segments); flicks(*s) {
		last := &s.Segments[n-1]
		from := before(*s, n-1)
		foot := last.To
		*last = straight(from, Point{foot.X, 0.22})
		s.Segments = append(
			s.Segments,
			Segment{"flick", Point{foot.X, 0.04}, Point{foot.X + 0.12, -0.02}, Point{foot.X + 0.3, 0.16}},
		)
	}
	return out
}

func before(s Stroke, i int) Point {
	if i == 0 {
		return s.Start
	}
	return s.Segments[i-1].To
}

// flicks tells whether a stroke ends straight down on the base line.
func flicks(s Stroke) bool {
	n := len(s.Segments)
	if n == 0 {
		return false
	}
	last, from := s.Segments[n-1], before(s, n-1)
	return last.Move == Line && math.Abs(last.To.Y) < 0.01 && math.Abs(last.To.X-from.X) < 0.01 && from.Y > 0.4
}

// gap between two letters of a group, in x-heights.
const gap = 0.32

// leap is the room that a split spelling leaves for the letter between.
const leap = 0.9

// Group sets letters side by side, or joined where the team joins and the letter before ends in a flick. It
// returns one letter whose strokes are written in order; a sign that has no strokes is named in the error.
func (l Lines) Group(text string, own map[string]Letter) (Letter, error) {
	out := Letter{Sign: text}
	right, open := 0.0, -1 // open is the stroke that the next letter may go on from
	for _, r := range text {
		if r == '-' { // a-e: another letter stands between
			right, open = right+leap, -1
			continue
		}
		x, ok := own[string(r)]
		if !ok {
			if x, ok = Of(string(r)); !ok {
				return out, fault.New(fault.Invalid, "there are no strokes for %q", string(r))
			}
		}
		if x = l.Form(x); len(x.Strokes) == 0 {
			return out, fault.New(fault.Invalid, "there are no strokes for %q", string(r))
		}
		low, high := x.Bounds()
		move := right - low.X
		x = x.Map(func(p Point) Point { p.X += move; return p })
		first := len(out.Strokes)
		if open >= 0 && len(x.Strokes[0].Segments) > 0 && x.Strokes[0].Segments[0].Move == "lead" {
			before := &out.Strokes[open]
			join := x.Strokes[0].Segments
			join[0].C1 = Point{before.End().X + 0.14, before.End().Y + 0.1}
			before.Segments = append(before.Segments, join...)
			x.Strokes = x.Strokes[1:]
			first = open
		}
		out.Strokes = append(out.Strokes, x.Strokes...)
		open = -1
		if body := out.Strokes[first]; l.Joined && l.Style == LeadIn && leavesLow(body) {
			open = first
		}
		if out.Family == "" {
			out.Family = x.Family
		}
		right += high.X - low.X + gap
	}
	return out, nil
}

// leavesLow tells whether a stroke ends low on its right side, from where a hand goes on to the next letter.
func leavesLow(s Stroke) bool {
	points := s.Points()
	high := math.Inf(-1)
	for _, p := range points {
		high = max(high, p.X)
	}
	end := s.End()
	return len(points) > 1 && end.Y >= -0.01 && end.Y < 0.35 && high-end.X < 0.2
}

// Path is a stroke as SVG path data in x-heights, y downwards; a dot is a point with a round cap.
func (s Stroke) Path() string {
	var b strings.Builder
	fmt.Fprintf(&b, "M%s", coordinates(s.Start))
	for _, g := range s.Segments {
		fmt.Fprintf(&b, "C%s %s %s", coordinates(g.C1), coordinates(g.C2), coordinates(g.To))
	}
	if len(s.Segments) == 0 {
		b.WriteString("l0.001 0")
	}
	return b.String()
}

func coordinates(p Point) string { return fmt.Sprintf("%.3f %.3f", p.X, -p.Y+0) }

// Length of a stroke in x-heights.
func (s Stroke) Length() float64 {
	sum := 0.0
	points := s.Points()
	for i := 1; i < len(points); i++ {
		sum += math.Hypot(points[i].X-points[i-1].X, points[i].Y-points[i-1].Y)
	}
	return sum
}

// Heading is the direction of the first part of a stroke in degrees, 0 to the right, 90 up.
func (s Stroke) Heading() float64 {
	points := s.Points()
	if len(points) < 2 {
		return 0
	}
	i := min(len(points)-1, samples/3)
	return math.Atan2(points[i].Y-points[0].Y, points[i].X-points[0].X) * 180 / math.Pi
}
