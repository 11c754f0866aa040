package drawing

import "math"

func tan(degrees float64) float64 { return math.Tan(degrees * math.Pi / 180) }

// Point is a place on a page, in millimetres; y grows upwards.
type Point struct{ X, Y float64 }

// Path is a chain of lines and curves. Unlike the paths of some libraries it keeps every point that it is given: a
// stroke that goes up and comes back down on itself has its turning point.
type Path struct{ segments []segment }

// segment ends at its last point: one point for a move or a line, three for a cubic curve, none for a close.
type segment struct {
	op     byte // 'M', 'L', 'C' or 'Z'
	points [3]Point
}

func (s segment) count() int { return map[byte]int{'M': 1, 'L': 1, 'C': 3}[s.op] }

func (s segment) end() Point {
	if s.op == 'C' {
		return s.points[2]
	}
	return s.points[0]
}

// MoveTo starts a new part of the path.
func (p *Path) MoveTo(x, y float64) {
	p.segments = append(p.segments, segment{op: 'M', points: [3]Point{{x, y}}})
}

// LineTo adds a straight line.
func (p *Path) LineTo(x, y float64) {
	p.segments = append(p.segments, segment{op: 'L', points: [3]Point{{x, y}}})
}

// CubeTo adds a cubic Bézier curve with the control points 1 and 2.
func (p *Path) CubeTo(x1, y1, x2, y2, x, y float64) {
	p.segments = append(p.segments, segment{op: 'C', points: [3]Point{{x1, y1}, {x2, y2}, {x, y}}})
}

// QuadTo adds a quadratic Bézier curve.
func (p *Path) QuadTo(cx, cy, x, y float64) {
	at := p.at()
	p.CubeTo(at.X+2*(cx-at.X)/3, at.Y+2*(cy-at.Y)/3, x+2*(cx-x)/3, y+2*(cy-y)/3, x, y)
}

// Close draws a line back to the start of the part.
func (p *Path) Close() { p.segments = append(p.segments, segment{op: 'Z'}) }

// Append adds all of another path.
func (p *Path) Append(q Path) { p.segments = append(p.segments, q.segments...) }

// Empty tells whether the path draws nothing.
func (p Path) Empty() bool { return len(p.segments) < 2 }

// at is where the pen is.
func (p Path) at() Point {
	for i := len(p.segments) - 1; i >= 0; i-- {
		s := p.segments[i]
		if s.op != 'Z' {
			return s.end()
		}
		for k := i - 1; k >= 0; k-- { // back to the start of the part
			if p.segments[k].op == 'M' {
				return p.segments[k].points[0]
			}
		}
	}
	return Point{}
}

// Transform returns the path with each point moved by the matrix.
func (p Path) Transform(m Matrix) Path {
	out := Path{make([]segment, len(p.segments))}
	for i, s := range p.segments {
		for k := range s.count() {
			s.points[k] = m.Apply(s.points[k])
		}
		out.segments[i] = s
	}
	return out
}

// Points are places along the path, at most step apart, the corners among them. Each part has a list of its own.
func (p Path) Points(step float64) [][]Point {
	var out [][]Point
	var start, at Point
	add := func(q Point) {
		if len(out) == 0 {
			out = append(out, []Point{at})
		}
		out[len(out)-1] = append(out[len(out)-1], q)
		at = q
	}
	line := func(to Point) {
		from, n := at, max(1, int(math.Ceil(math.Hypot(to.X-at.X, to.Y-at.Y)/step)))
		for i := 1; i <= n; i++ {
			t := float64(i) / float64(n)
			add(Point{from.X + (to.X-from.X)*t, from.Y + (to.Y-from.Y)*t})
		}
	}
	for _, s := range p.segments {
		switch s.op {
		case 'M':
			at = s.points[0]
			start = at
			out = append(out, []Point{at})
		case 'L':
			line(s.points[0])
		case 'Z':
			line(start)
		case 'C':
			a, b, c, d := at, s.points[0], s.points[1], s.points[2]
			around := math.Hypot(b.X-a.X, b.Y-a.Y) + math.Hypot(c.X-b.X, c.Y-b.Y) + math.Hypot(d.X-c.X, d.Y-c.Y)
			for i, n := 1, max(8, int(math.Ceil(around/step))); i <= n; i++ {
				t := float64(i) / float64(n)
				u := 1 - t
				k0, k1, k2, k3 := u*u*u, 3*u*u*t, 3*u*t*t, t*t*t
				add(Point{k0*a.X + k1*b.X + k2*c.X + k3*d.X, k0*a.Y + k1*b.Y + k2*c.Y + k3*d.Y})
			}
		}
	}
	return out
}

// Line is a straight line.
func Line(x0, y0, x1, y1 float64) Path {
	var p Path
	p.MoveTo(x0, y0)
	p.LineTo(x1, y1)
	return p
}

// Rectangle has its lower left corner at x, y.
func Rectangle(x, y, w, h float64) Path {
	var p Path
	p.MoveTo(x, y)
	p.LineTo(x+w, y)
	p.LineTo(x+w, y+h)
	p.LineTo(x, y+h)
	p.Close()
	return p
}

// circleArm is the length of the control arms of a quarter of a circle of radius 1.
const circleArm = 0.5522847498

// RoundedRectangle has its lower left corner at x, y and corners of the radii rx and ry.
func RoundedRectangle(x, y, w, h, rx, ry float64) Path {
	rx, ry = min(rx, w/2), min(ry, h/2)
	if rx <= 0 || ry <= 0 {
		return Rectangle(x, y, w, h)
	}
	kx, ky := rx*circleArm, ry*circleArm
	var p Path
	p.MoveTo(x+rx, y)
	p.LineTo(x+w-rx, y)
	p.CubeTo(x+w-rx+kx, y, x+w, y+ry-ky, x+w, y+ry)
	p.LineTo(x+w, y+h-ry)
	p.CubeTo(x+w, y+h-ry+ky, x+w-rx+kx, y+h, x+w-rx, y+h)
	p.LineTo(x+rx, y+h)
	p.CubeTo(x+rx-kx, y+h, x, y+h-ry+ky, x, y+h-ry)
	p.LineTo(x, y+ry)
	p.CubeTo(x, y+ry-ky, x+rx-kx, y, x+rx, y)
	p.Close()
	return p
}

// Ellipse has its middle at x, y.
func Ellipse(x, y, rx, ry float64) Path { return RoundedRectangle(x-rx, y-ry, 2*rx, 2*ry, rx, ry) }

// Circle has its middle at x, y.
func Circle(x, y, r float64) Path { return Ellipse(x, y, r, r) }

// Matrix maps x, y to a·x+c·y+e, b·x+d·y+f; its fields are in the order a, b, c, d, e, f.
type Matrix [6]float64

// Identity leaves all as it is.
var Identity = Matrix{1, 0, 0, 1, 0, 0}

// Apply maps a point.
func (m Matrix) Apply(p Point) Point {
	return Point{m[0]*p.X + m[2]*p.Y + m[4], m[1]*p.X + m[3]*p.Y + m[5]}
}

// Mul applies n first, then m.
func (m Matrix) Mul(n Matrix) Matrix {
	return Matrix{
		m[0]*n[0] + m[2]*n[1], m[1]*n[0] + m[3]*n[1],
		m[0]*n[2] + m[2]*n[3], m[1]*n[2] + m[3]*n[3],
		m[0]*n[4] + m[2]*n[5] + m[4], m[1]*n[4] + m[3]*n[5] + m[5],
	}
}

// Translate moves before all that m does.
func (m Matrix) Translate(x, y float64) Matrix { return m.Mul(Matrix{1, 0, 0, 1, x, y}) }

// Scale scales before all that m does.
func (m Matrix) Scale(x, y float64) Matrix { return m.Mul(Matrix{x, 0, 0, y, 0, 0}) }

// Rotate turns to the left by degrees, before all that m does.
func (m Matrix) Rotate(degrees float64) Matrix {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	return m.Mul(Matrix{cos, sin, -sin, cos, 0, 0})
}

// scale is how much longer a length gets, on average over its directions.
func (m Matrix) scale() float64 { return math.Sqrt(math.Abs(m[0]*m[3] - m[1]*m[2])) }
