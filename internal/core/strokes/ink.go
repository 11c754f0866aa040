package strokes

import "strings"

// Ink is a word in the team's strokes: the path of each, in x-heights with y downwards from the base line, and from
// where to where each letter reaches.
type Ink struct {
	Paths  []string     `json:"paths" doc:"SVG path data"`
	Spans  [][2]float64 `json:"spans" doc:"left and right edge of each letter, in x-heights"`
	Top    float64      `json:"top" doc:"how high it reaches over the base line"`
	Bottom float64      `json:"bottom" doc:"how low: below 0 where something hangs"`
}

// Ink writes a word; false where one of its letters has no strokes, so that none is mixed with another hand.
func (l Lines) Ink(word string, own map[string]Letter) (Ink, bool) {
	if strings.Contains(word, "-") {
		return Ink{}, false
	}
	x, err := l.Group(word, own)
	if err != nil || len(x.Strokes) == 0 {
		return Ink{}, false
	}
	low, high := l.On(x).Bounds()
	out := Ink{Paths: []string{}, Spans: [][2]float64{}, Top: high.Y, Bottom: low.Y}
	for _, s := range l.On(x).Strokes {
		out.Paths = append(out.Paths, s.Path())
	}
	// Letters stand side by side as Group sets them: each as wide as alone, with its gap.
	right := 0.0
	for _, r := range word {
		one, err := l.Group(string(r), own)
		if err != nil {
			return Ink{}, false
		}
		from, to := one.Bounds()
		out.Spans = append(out.Spans, [2]float64{right, right + to.X - from.X})
		right += to.X - from.X + gap
	}
	return out, true
}
