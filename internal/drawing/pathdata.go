package drawing

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// ParsePath reads SVG path data, https://www.w3.org/TR/SVG11/paths.html. The coordinates stay as they are; y grows
// downwards in SVG, so the caller turns the path over.
func ParsePath(data string) (Path, error) {
	r := pathReader{text: data}
	for {
		r.space()
		if r.done() {
			return r.path, nil
		}
		if c := r.text[r.i]; strings.IndexByte("MmLlHhVvCcSsQqTtAaZz", c) >= 0 {
			r.i++
			r.command = c
		} else if r.command == 0 || r.command == 'Z' || r.command == 'z' {
			return r.path, fmt.Errorf("path data: unexpected %q at %d", c, r.i)
		}
		if err := r.step(); err != nil {
			return r.path, err
		}
	}
}

type pathReader struct {
	text     string
	i        int
	command  byte
	path     Path
	at       Point
	start    Point
	control  Point // of the last curve, for S and T
	previous byte  // 'C' or 'Q' after a curve
}

func (r *pathReader) done() bool { return r.i >= len(r.text) }

func (r *pathReader) space() {
	for !r.done() && strings.IndexByte(" \t\r\n,", r.text[r.i]) >= 0 {
		r.i++
	}
}

// numbers reads n numbers.
func (r *pathReader) numbers(n int) ([7]float64, error) {
	var out [7]float64
	for k := range n {
		r.space()
		if n == 7 && (k == 3 || k == 4) && !r.done() && (r.text[r.i] == '0' || r.text[r.i] == '1') {
			out[k] = float64(r.text[r.i] - '0') // flags may stand without a space
			r.i++
			continue
		}
		v, width, err := leadingNumber(r.text[r.i:])
		if err != nil {
			return out, fmt.Errorf("path data: a number is missing at %d", r.i)
		}
		out[k] = v
		r.i += width
	}
	return out, nil
}

// leadingNumber reads the number that a text begins with, and returns how long it is.
func leadingNumber(text string) (v float64, width int, err error) {
	i, dot, exponent := 0, false, false
	for ; i < len(text); i++ {
		switch c := text[i]; {
		case c >= '0' && c <= '9':
		case c == '.' && !dot && !exponent:
			dot = true
		case (c == '+' || c == '-') && (i == 0 || text[i-1] == 'e' || text[i-1] == 'E'):
		case (c == 'e' || c == 'E') && i > 0 && !exponent && i+1 < len(text) &&
			strings.IndexByte("+-0123456789", text[i+1]) >= 0:
			exponent = true
		default:
			goto end
		}
	}
end:
	v, err = strconv.ParseFloat(text[:i], 64)
	if err == nil && (math.IsInf(v, 0) || math.IsNaN(v)) {
		err = strconv.ErrRange
	}
	return v, i, err
}

// step draws one command with its numbers. A command that goes on draws lines after a move.
func (r *pathReader) step() error {
	upper := r.command &^ 0x20
	n, err := r.numbers(map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2, 'A': 7}[upper])
	if err != nil {
		return err
	}
	base := Point{}
	if r.command != upper {
		base = r.at
	}
	pt := func(i int) Point { return Point{n[i] + base.X, n[i+1] + base.Y} }
	reflected := func(after byte) Point {
		if r.previous == after {
			return Point{2*r.at.X - r.control.X, 2*r.at.Y - r.control.Y}
		}
		return r.at
	}
	previous := byte(0)
	if upper != 'M' && len(r.path.segments) == 0 {
		return fmt.Errorf("path data begins with %q", r.command)
	}
	switch upper {
	case 'M':
		r.at = pt(0)
		r.start = r.at
		r.path.MoveTo(r.at.X, r.at.Y)
		r.command-- // what goes on after a move are lines: M to L, m to l
	case 'L', 'H', 'V':
		to := r.at
		switch upper {
		case 'L':
			to = pt(0)
		case 'H':
			to.X = n[0] + base.X
		default:
			to.Y = n[0] + base.Y
		}
		r.path.LineTo(to.X, to.Y)
		r.at = to
	case 'C', 'S':
		c1, k := pt(0), 2
		if upper == 'S' {
			c1, k = reflected('C'), 0
		}
		c2, to := pt(k), pt(k+2)
		r.path.CubeTo(c1.X, c1.Y, c2.X, c2.Y, to.X, to.Y)
		r.at, r.control, previous = to, c2, 'C'
	case 'Q', 'T':
		c, k := pt(0), 2
		if upper == 'T' {
			c, k = reflected('Q'), 0
		}
		to := pt(k)
		r.path.QuadTo(c.X, c.Y, to.X, to.Y)
		r.at, r.control, previous = to, c, 'Q'
	case 'A':
		to := pt(5)
		arc(&r.path, r.at, to, n[0], n[1], n[2], n[3] != 0, n[4] != 0)
		r.at = to
	case 'Z':
		r.path.Close()
		r.at = r.start
	}
	r.previous = previous
	return nil
}

// arc adds an elliptical arc as cubic curves, by the formulas of SVG 1.1, appendix F.6.
func arc(p *Path, from, to Point, rx, ry, degrees float64, large, sweep bool) {
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || from == to {
		p.LineTo(to.X, to.Y)
		return
	}
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	dx, dy := (from.X-to.X)/2, (from.Y-to.Y)/2
	x1, y1 := cos*dx+sin*dy, -sin*dx+cos*dy
	if grow := x1*x1/(rx*rx) + y1*y1/(ry*ry); grow > 1 {
		rx, ry = rx*math.Sqrt(grow), ry*math.Sqrt(grow)
	}
	square := (rx*rx*ry*ry - rx*rx*y1*y1 - ry*ry*x1*x1) / (rx*rx*y1*y1 + ry*ry*x1*x1)
	k := math.Sqrt(max(0, square))
	if large == sweep {
		k = -k
	}
	cx1, cy1 := k*rx*y1/ry, -k*ry*x1/rx
	m := Matrix{cos, sin, -sin, cos, (from.X + to.X) / 2, (from.Y + to.Y) / 2}.Translate(cx1, cy1).Scale(rx, ry)
	a0, a1 := math.Atan2((y1-cy1)/ry, (x1-cx1)/rx), math.Atan2((-y1-cy1)/ry, (-x1-cx1)/rx)
	switch {
	case sweep && a1 < a0:
		a1 += 2 * math.Pi
	case !sweep && a1 > a0:
		a1 -= 2 * math.Pi
	}
	parts := max(1, math.Ceil(math.Abs(a1-a0)/(math.Pi/2)-1e-9))
	d := (a1 - a0) / parts
	arm := 4.0 / 3 * math.Tan(d/4)
	for i := range int(parts) {
		s0, c0 := math.Sincos(a0 + float64(i)*d)
		s1, c1 := math.Sincos(a0 + float64(i+1)*d)
		q1, q2 := m.Apply(Point{c0 - arm*s0, s0 + arm*c0}), m.Apply(Point{c1 + arm*s1, s1 - arm*c1})
		end := m.Apply(Point{c1, s1})
		p.CubeTo(q1.X, q1.Y, q2.X, q2.Y, end.X, end.Y)
	}
}
