package strokes

import (
	"math"
	"strings"
)

// briefWords is how many words are said while one stroke is written: the pen does not wait (common practice, no
// published source).
const briefWords = 8

// Brief is what is said while the pen moves, one text for each stroke, by rule from its shape: the moves alone, without
// the lines. Words is the long form for the adult.
func (l Lines) Brief(x Letter) []string {
	out := make([]string, len(x.Strokes))
	for i, s := range x.Strokes {
		out[i] = brief(s)
	}
	return out
}

func brief(s Stroke) string {
	if len(s.Segments) == 0 {
		return "dot"
	}
	var said []string
	at := s.Start
	for i := 0; i < len(s.Segments); {
		j := i + 1
		for j < len(s.Segments) && s.Segments[j].Move == On {
			j++
		}
		to := s.Segments[j-1].To
		word := briefMove(s.Segments[i].Move, to.X-at.X, to.Y-at.Y)
		last := ""
		if len(said) > 0 {
			last = said[len(said)-1]
		}
		if last != word && !strings.HasSuffix(last, " "+word) { // under and up, up
			said = append(said, word)
		}
		at, i = to, j
	}
	text := strings.Join(said, ", ")
	if words := strings.Fields(text); len(words) > briefWords {
		text = strings.TrimRight(strings.Join(words[:briefWords], " "), ",")
	}
	return text
}

func briefMove(m Move, dx, dy float64) string {
	switch m {
	case Round, Turn:
		return "round"
	case Back:
		return "and back"
	case Close:
		return "up to close"
	case Hump:
		return "over"
	case Bend:
		return "under and up"
	case Hook:
		return "hook"
	case "lead":
		return "lead in"
	case "flick":
		return "flick"
	}
	slant := m == Slant || math.Abs(dx) > 0.1*math.Abs(dy) && math.Abs(dy) > 0.01
	switch {
	case math.Abs(dy) <= 0.01:
		return "across"
	case slant && dy < 0 && dx < 0:
		return "slide in"
	case slant && dy < 0:
		return "slide out"
	case slant:
		return "slide up"
	case dy < 0:
		return "down"
	}
	return "up"
}
