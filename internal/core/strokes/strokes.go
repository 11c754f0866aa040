// Package strokes holds letters as the hand writes them: strokes in order, each a chain of lines and curves in
// units of the x-height (base line 0, middle line 1, top line 2, drop line -1), what is said with each, and
// checks of their geometry.
package strokes

import (
	_ "embed"
	"fmt"
	"math"
	"strconv"
	"strings"

	"brightchalk/internal/core/document"
)

// Point in units of the x-height; y grows upwards.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Move names what a segment is in the words said with it.
type Move string

const (
	Line  Move = "line"
	Round Move = "round" // to the left, as in c
	Turn  Move = "turn"  // to the right, as in b
	Hump  Move = "hump"
	Bend  Move = "bend" // a cup at the bottom
	Hook  Move = "hook"
	Back  Move = "back"  // round the other way
	Close Move = "close" // back to the start
	Slant Move = "slant"
	On    Move = "" // goes on with the move before
)

// Segment is a cubic curve from where the one before ended; of a line the control points lie on it.
type Segment struct {
	Move Move  `json:"move"`
	C1   Point `json:"c1"`
	C2   Point `json:"c2"`
	To   Point `json:"to"`
}

// Stroke is what is written without lifting. A dot has no segments.
type Stroke struct {
	Start    Point     `json:"start"`
	Segments []Segment `json:"segments"`
}

// Family of letters that share their strokes.
type Family string

// Letter is one sign, small, capital, digit or full stop.
type Letter struct {
	Sign    string   `json:"sign" maxLength:"4"`
	Family  Family   `json:"family"`
	Strokes []Stroke `json:"strokes" maxItems:"8"`
}

//go:embed letters.txt
var table string

var letters, order = func() (map[string]Letter, []string) {
	found, signs, err := parse(table)
	if err != nil {
		panic(err) // the table is part of the program; its test reads it
	}
	return found, signs
}()

// Signs are all signs that have strokes, in the order of the table.
func Signs() []string { return append([]string(nil), order...) }

// Of returns the printed form of a sign.
func Of(sign string) (Letter, bool) {
	l, ok := letters[sign]
	return l, ok
}

func parse(text string) (map[string]Letter, []string, error) {
	out, pieces, signs := map[string]Letter{}, map[string]string{}, []string{}
	for line := range strings.Lines(text) {
		line = strings.TrimSpace(line)
		head, body, ok := strings.Cut(line, " : ")
		switch name, piece, isPiece := strings.Cut(line, " = "); {
		case line == "" || strings.HasPrefix(line, "#"):
		case isPiece:
			pieces[strings.TrimPrefix(name, "piece ")] = piece
		case ok:
			sign, family, _ := strings.Cut(head, " ")
			l := Letter{Sign: sign, Family: Family(family)}
			for part := range strings.SplitSeq(body, " | ") {
				s, err := parseStroke(part, pieces)
				if err != nil {
					return nil, nil, fmt.Errorf("letter %s: %w", sign, err)
				}
				l.Strokes = append(l.Strokes, s)
			}
			out[sign] = l
			signs = append(signs, sign)
		default:
			return nil, nil, fmt.Errorf("letters: %q is not understood", line)
		}
	}
	return out, signs, nil
}

type pen struct {
	stroke  Stroke
	at      Point
	started bool
	right   float64 // how far a shared piece is moved
	pieces  map[string]string
}

func parseStroke(text string, pieces map[string]string) (Stroke, error) {
	p := &pen{pieces: pieces}
	err := p.run(text)
	return p.stroke, err
}

func (p *pen) run(text string) error {
	for command := range strings.SplitSeq(text, ";") {
		f := strings.Fields(command)
		name, move, _ := strings.Cut(f[0], ":")
		if name == "use" {
			right, err := strconv.ParseFloat(f[2], 64)
			if err != nil {
				return err
			}
			p.right = right
			if err := p.run(p.pieces[f[1]]); err != nil {
				return err
			}
			p.right = 0
			continue
		}
		n := make([]float64, len(f)-1)
		for i := range n {
			v, err := strconv.ParseFloat(f[i+1], 64)
			if err != nil {
				return err
			}
			n[i] = v
		}
		if len(n) != map[string]int{"at": 2, "dot": 2, "to": 2, "curve": 6, "arc": 6}[name] {
			return fmt.Errorf("%q has %d numbers", command, len(n))
		}
		p.draw(name, Move(move), n)
	}
	return nil
}

func (p *pen) begin(at Point) {
	if !p.started {
		p.stroke.Start, p.started = at, true
	}
	p.at = at
}

func (p *pen) add(s Segment) {
	p.stroke.Segments = append(p.stroke.Segments, s)
	p.at = s.To
}

func (p *pen) draw(name string, move Move, n []float64) {
	pt := func(i int) Point { return Point{n[i] + p.right, n[i+1]} }
	switch name {
	case "at", "dot":
		p.begin(pt(0))
	case "to":
		p.add(straight(p.at, pt(0)))
	case "curve":
		p.add(Segment{move, pt(0), pt(2), pt(4)})
	case "arc":
		p.arc(pt(0), n[2], n[3], n[4]*math.Pi/180, n[5]*math.Pi/180)
	}
}

func straight(from, to Point) Segment {
	return Segment{
		Line,
		Point{from.X + (to.X-from.X)/3, from.Y + (to.Y-from.Y)/3},
		Point{from.X + 2*(to.X-from.X)/3, from.Y + 2*(to.Y-from.Y)/3},
		to,
	}
}

// arc adds cubic curves of at most a quarter; towards growing angles it goes round to the left.
func (p *pen) arc(c Point, rx, ry, from, to float64) {
	on := func(a float64) Point { return Point{c.X + rx*math.Cos(a), c.Y + ry*math.Sin(a)} }
	p.begin(on(from))
	parts := math.Ceil(math.Abs(to-from)/(math.Pi/2) - 1e-9)
	d := (to - from) / parts
	k := 4.0 / 3 * math.Tan(d/4)
	move := Round
	if d < 0 {
		move = Turn
	}
	for i := range int(parts) {
		a := from + float64(i)*d
		b := a + d
		p.add(
			Segment{
				move,
				Point{on(a).X - k*rx*math.Sin(a), on(a).Y + k*ry*math.Cos(a)},
				Point{on(b).X + k*rx*math.Sin(b), on(b).Y - k*ry*math.Cos(b)},
				on(b),
			},
		)
		move = On
	}
}

const samples = 16 // of a segment, for measuring

// Points are the stroke as a chain of points, close enough to measure; a dot is one point.
func (s Stroke) Points() []Point {
	out := []Point{s.Start}
	at := s.Start
	for _, g := range s.Segments {
		for i := 1; i <= samples; i++ {
			t := float64(i) / samples
			u := 1 - t
			a, b, c, d := u*u*u, 3*u*u*t, 3*u*t*t, t*t*t
			out = append(out, Point{a*at.X + b*g.C1.X + c*g.C2.X + d*g.To.X, a*at.Y + b*g.C1.Y + c*g.C2.Y + d*g.To.Y})
		}
		at = g.To
	}
	return out
}

// End is where the pen leaves the paper.
func (s Stroke) End() Point {
	if n := len(s.Segments); n > 0 {
		return s.Segments[n-1].To
	}
	return s.Start
}

// Bounds of a letter: the corners of the least box around its strokes.
func (l Letter) Bounds() (low, high Point) {
	low, high = Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, s := range l.Strokes {
		for _, p := range s.Points() {
			low = Point{min(low.X, p.X), min(low.Y, p.Y)}
			high = Point{max(high.X, p.X), max(high.Y, p.Y)}
		}
	}
	return low, high
}

// Map changes every point.
func (l Letter) Map(f func(Point) Point) Letter {
	out := l
	out.Strokes = make([]Stroke, len(l.Strokes))
	for i, s := range l.Strokes {
		out.Strokes[i].Start = f(s.Start)
		for _, g := range s.Segments {
			out.Strokes[i].Segments = append(out.Strokes[i].Segments, Segment{g.Move, f(g.C1), f(g.C2), f(g.To)})
		}
	}
	return out
}

// LetterDocuments reads and writes the stored forms of letters.
var LetterDocuments = document.Kind[Letter]{Name: "letter"}
