package strokes

import (
	"math"
	"strings"

	"brightchalk/internal/core/prose"
)

// isNear is how far from a line still counts as on it.
const isNear = 0.07

// place names a height by the team's lines, such as "on the base line" or "just under the top line".
func (l Lines) place(y float64) string {
	lines := []struct {
		y    float64
		name string
	}{{2, l.Top.Name}, {1, l.Middle.Name}, {0, l.Base.Name}, {-1, l.Drop.Name}}
	for _, r := range lines {
		if math.Abs(y-r.y) < isNear {
			return "on the " + r.name
		}
	}
	for _, r := range lines {
		switch d := r.y - y; {
		case d > 0 && d <= 0.45:
			return "just under the " + r.name
		case d < 0 && d >= -0.35:
			return "just over the " + r.name
		}
	}
	if y > 1 {
		return "half way to the " + l.Top.Name
	}
	return "half way up to the " + l.Middle.Name
}

// reach names where a move ends: "to the base line", or nothing where it ends between the lines.
func (l Lines) reach(y float64) string {
	if p, ok := strings.CutPrefix(l.place(y), "on "); ok {
		return " to " + p
	}
	if p := l.place(y); strings.HasPrefix(p, "just") {
		return " to " + p
	}
	return ""
}

// Words is what is said while a letter is written, one text for each stroke, by rule from its shape and the
// names of the lines. A team rewrites them as it likes.
func (l Lines) Words(x Letter) []string {
	out := make([]string, len(x.Strokes))
	for i, s := range x.Strokes {
		out[i] = l.strokeWords(s, i > 0)
	}
	return out
}

func (l Lines) strokeWords(s Stroke, lifted bool) string {
	if len(s.Segments) == 0 {
		where := l.place(s.Start.Y)
		if s.Start.Y > 1 {
			where = "above"
		}
		if !lifted {
			return "A dot " + where + "."
		}
		return "Lift. A dot " + where + "."
	}
	parts := []string{"Start " + l.place(s.Start.Y) + "."}
	if lifted {
		parts[0] = "Lift. " + parts[0]
	}
	at := s.Start
	for i := 0; i < len(s.Segments); {
		g := s.Segments[i]
		j := i + 1
		for j < len(s.Segments) && s.Segments[j].Move == On {
			j++
		}
		end := s.Segments[j-1].To
		parts = append(parts, l.move(g.Move, at, end, s, i, j))
		at, i = end, j
	}
	return strings.Join(parts, " ")
}

func (l Lines) move(m Move, from, to Point, s Stroke, i, j int) string {
	dx, dy := to.X-from.X, to.Y-from.Y
	side := "right"
	if dx < 0 {
		side = "left"
	}
	switch m {
	case Round:
		low := lowest(s, i, j)
		switch {
		case closes(s, j):
			return "Round to the left, down" + l.reach(low) + " and up again, closed."
		case to.Y-low > 0.35:
			return "Round to the left, down" + l.reach(low) + " and up again."
		case math.Abs(low) < isNear || math.Abs(low+1) < isNear:
			return "Round to the left, down" + l.reach(low) + ", and stop open."
		}
		return "Round to the left."
	case Turn:
		return "Round to the right" + l.reach(to.Y) + "."
	case Back:
		return "And back the other way" + l.reach(lowest(s, i, j)) + "."
	case Close:
		return "And up again to the start."
	case Hump:
		return "Over the hump to the right."
	case Bend:
		return "Round the bend on the " + l.Base.Name + " to the right."
	case Hook:
		if i == 0 {
			return "Hook over to the left."
		}
		return "Hook to the left" + l.reach(lowest(s, i, j)) + "."
	case Slant:
		return "Slant down" + l.reach(to.Y) + "."
	case "lead":
		return "Lead in, up" + l.reach(to.Y) + "."
	case "flick":
		return "Flick."
	}
	again := ""
	if i > 0 && math.Abs(dx) < 0.01 && s.Segments[i-1].Move == Line && math.Abs(from.X-before(s, i-1).X) < 0.01 {
		again = "Back "
	}
	switch {
	case math.Abs(dx) < 0.1*math.Abs(dy) && dy < 0 && j < len(s.Segments) && math.Abs(to.Y-math.Round(to.Y)) > isNear:
		return upper(again+"straight down") + "." // the next move says where it goes on
	case math.Abs(dx) < 0.1*math.Abs(dy) && dy < 0:
		return upper(again+"straight down") + l.reach(to.Y) + "."
	case math.Abs(dx) < 0.1*math.Abs(dy):
		return upper(again+"straight up") + l.reach(to.Y) + "."
	case math.Abs(dy) < 0.01:
		return "Across to the " + side + "."
	case dy < 0:
		return "Slant down to the " + side + l.reach(to.Y) + "."
	}
	return "Slant up to the " + side + l.reach(to.Y) + "."
}

func lowest(s Stroke, i, j int) float64 {
	part := Stroke{Start: before(s, i), Segments: s.Segments[i:j]}
	low := math.Inf(1)
	for _, p := range part.Points() {
		low = min(low, p.Y)
	}
	return low
}

// closes tells whether the stroke has come back, before segment j, to where it was before.
func closes(s Stroke, j int) bool {
	points := Stroke{Start: s.Start, Segments: s.Segments[:j]}.Points()
	end := points[len(points)-1]
	for _, p := range points[:max(0, len(points)-2*samples)] {
		if math.Hypot(p.X-end.X, p.Y-end.Y) < 0.06 ||
			math.Hypot(p.X-end.X, p.Y-end.Y) < 0.45 && j < len(s.Segments) && s.Start == points[0] && p == points[0] {
			return true
		}
	}
	return false
}

func upper(s string) string {
	s = strings.ToLower(s)
	return prose.Capital(s)
}
