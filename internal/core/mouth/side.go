package mouth

import (
	"cmp"
	"math"
	"slices"
	"strings"
)

// Point is a place in a view: x to the back or to the right, y down.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Shape is a part of a view. Each part has as many points in every still, so that it moves point by point.
type Shape struct {
	Part   string    `json:"part"`
	Points []Point   `json:"-"`
	XY     []float64 `json:"xy" doc:"its points, x and y by turns"`
	Closed bool      `json:"closed"`
	Width  float64   `json:"width" doc:"of its line"`
	Fill   string    `json:"fill" enum:"none,paper,dark,grain"`
}

func shape(part string, points []Point, closed bool) Shape {
	xy := make([]float64, 0, 2*len(points))
	for _, p := range points {
		xy = append(xy, math.Round(p.X*1000)/1000, math.Round(p.Y*1000)/1000)
	}
	return Shape{part, points, xy, closed, pens[part].width, pens[part].fill}
}

// mark is a sign of air or voice.
type mark struct {
	kind   string
	at, to Point // to is where the air goes
	strong bool  // air of a sound without voice
	along  []Point
}

func add(p Point, x, y float64) Point { return Point{p.X + x, p.Y + y} }

const perSegment = 8

// smooth is a Catmull-Rom curve through points, with its ends doubled.
func smooth(through ...Point) []Point {
	p := append([]Point{through[0]}, through...)
	p = append(p, through[len(through)-1])
	var out []Point
	for i := 1; i+2 < len(p); i++ {
		for k := range perSegment {
			out = append(out, between(p[i-1], p[i], p[i+1], p[i+2], float64(k)/perSegment))
		}
	}
	return append(out, through[len(through)-1])
}

func between(a, b, c, d Point, t float64) Point {
	f := func(a, b, c, d float64) float64 {
		return 0.5 * (2*b + (c-a)*t + (2*a-5*b+4*c-d)*t*t + (3*b-a-3*c+d)*t*t*t)
	}
	return Point{f(a.X, b.X, c.X, d.X), f(a.Y, b.Y, c.Y, d.Y)}
}

// line is a straight line with as many points as asked.
func line(n int, through ...Point) []Point {
	var out []Point
	for i := range n {
		at := float64(i) / float64(n-1) * float64(len(through)-1)
		k := min(int(at), len(through)-2)
		t := at - float64(k)
		a, b := through[k], through[k+1]
		out = append(out, Point{a.X + (b.X-a.X)*t, a.Y + (b.Y-a.Y)*t})
	}
	return out
}

var palate = []Point{{.06, -.12}, {.16, -.22}, {.30, -.36}, {.62, -.46}, {.98, -.42}}

const wall = 1.50

func velum(r Row) []Point {
	if r.Velum == "up" {
		return []Point{{.98, -.42}, {1.22, -.40}, {1.50, -.34}}
	}
	return []Point{{.98, -.42}, {1.20, -.28}, {1.30, .02}}
}

// roof is the lower edge of palate and velum over a place.
func roof(r Row, x float64) float64 {
	edge := append(smooth(palate...), smooth(velum(r)...)...)
	i := slices.IndexFunc(edge, func(p Point) bool { return p.X >= x })
	switch {
	case i == 0:
		return edge[0].Y
	case i < 0:
		return math.Inf(-1)
	}
	a, b := edge[i-1], edge[i]
	if b.X == a.X {
		return b.Y
	}
	return a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X)
}

// goals of a raised tip.
var goals = map[string]Point{
	"behind-upper-teeth": {.09, -.08}, "ridge": {.17, -.20}, "behind-ridge": {.29, -.33}, "curled": {.40, -.24},
}

func raised(r Row) bool { _, up := goals[r.Tip]; return up }

// tongue is its upper edge from the root to the tip, and back under it.
func tongue(r Row, l Point) []Point {
	b := Point{X: .42 + .70*r.BodyX}
	floor, top := .12+.34*r.Jaw, roof(r, b.X)
	switch {
	case touches(r.BodyContact):
		b.Y = top
	case r.BodyContact == "narrow-gap":
		b.Y = top + .06
	default:
		b.Y = floor + r.BodyY*(top-floor)
	}
	flat := .13
	if touches(r.BodyContact) {
		flat = .075
	}
	level := func(x float64) Point {
		if touches(r.BodyContact) {
			return Point{x, roof(r, x)}
		}
		return Point{x, b.Y + .035}
	}
	pharynx := Point{X: max(b.X+.12, min(1.42, 1.14+.30*r.BodyX*(1-.55*r.BodyY))), Y: (b.Y + .75) / 2}
	t := tip(r, l)
	front := level(b.X - flat)
	blade := Point{(t.X + front.X) / 2, (t.Y+front.Y)/2 - .03}
	f := add(l, .10, .24)
	back := .10
	if raised(r) {
		blade.Y += .06
		back = .17
	}
	under := Point{(t.X+f.X)/2 + back, (t.Y + f.Y) / 2}
	if r.Tip == "curled" { // it turns back before its end
		blade, under = Point{.46, -.12}, Point{.31, -.16}
	}
	edge := smooth(Point{1.26, .78}, pharynx, level(b.X+flat), b, front, blade, t, under, f)
	return keptOff(r, edge, b, t)
}

func touches(contact string) bool { return strings.HasPrefix(contact, "touch") }

// keptOff keeps the tongue off palate and wall, but where it touches.
func keptOff(r Row, edge []Point, b, t Point) []Point {
	for i, p := range edge {
		gap := .02
		if touches(r.BodyContact) && math.Abs(p.X-b.X) < .14 ||
			r.TipContact == "touch" && math.Hypot(p.X-t.X, p.Y-t.Y) < .08 {
			gap = 0
		}
		if p.X > palate[0].X {
			p.Y = max(p.Y, roof(r, p.X)+gap)
		}
		p.X = min(p.X, wall-.02)
		edge[i] = p
	}
	return edge
}

func tip(r Row, l Point) Point {
	switch r.Tip {
	case "down-behind-lower-teeth":
		return add(l, .05, .06)
	case "low":
		return add(l, .17, .10)
	case "between-teeth":
		return Point{-.05, l.Y / 2}
	}
	under := map[string]float64{"touch": 0, "narrow-gap": .04}
	gap, ok := under[r.TipContact]
	if !ok {
		gap = .10
	}
	p := add(goals[r.Tip], 0, gap)
	if r.TipContact == "touch" { // on the palate itself
		p.Y = roof(r, p.X)
	}
	return p
}

// push is how far the lips stand out.
func push(r Row) float64 {
	switch r.Lips {
	case "rounded":
		return .16 * r.LipRounding
	case "pushed-forward":
		return .26 * r.LipRounding
	case "spread":
		return -.02
	}
	return 0
}

// lower is the edge of the lower front teeth.
func lower(r Row) Point { return Point{.04 + .10*r.Jaw, .03 + .42*r.Jaw} }

// sideView is the view from the left: the face looks to the left.
func sideView(r Row) []Shape {
	l := lower(r)
	p, g := push(r), .42*r.LipOpening
	up, down := Point{-.13 - p, .03 - .35*g}, Point{-.11 - p, .03 + .65*g}
	switch r.Lips {
	case "closed":
		up, down = Point{-.13, .03}, Point{-.13, .03}
	case "lower-lip-to-teeth":
		up, down = Point{-.13, -.10}, Point{0, .015}
	}
	chin := add(l, -.05, .42)
	return []Shape{
		shape("palate", smooth(palate...), false),
		shape("nose", line(6, Point{.98, -.52}, Point{-.05, -.50}), false),
		shape(
			"face",
			smooth(Point{-.14, -.72}, Point{-.22, -.63}, Point{-.33, -.54}, Point{-.27, -.47}, Point{-.12, -.44}),
			false,
		),
		shape("wall", line(6, Point{wall, -.60}, Point{wall, .95}), false),
		shape("velum", smooth(velum(r)...), false),
		shape("upper-tooth", line(9, Point{0, 0}, Point{-.035, -.20}, Point{.06, -.20}, Point{.06, -.12}, Point{0, 0}), true),
		shape("lower-tooth", line(9, l, add(l, -.035, .22), add(l, .06, .22), add(l, .06, .12), l), true),
		shape("tongue", tongue(r, l), true),
		shape("upper-lip", smooth(Point{-.12, -.44}, add(up, -.05, -.10), add(up, -.045, -.02), up, add(up, .05, -.03),
			Point{-.035, -.18}), false),
		shape("lower-lip", smooth(add(l, -.035, .20), add(down, .05, .05), down, add(down, -.05, .03), add(down, -.03, .13),
			add(chin, -.06, -.12), chin, add(chin, .22, .04)), false),
	}
}

// airPlace is where the air is held, squeezed or let go, seen from the side.
func airPlace(r Row) Point {
	l, t := lower(r), tip(r, lower(r))
	switch r.AirAt {
	case "lips":
		return Point{-.18 - push(r), .03}
	case "teeth":
		return Point{-.04, l.Y / 2}
	case "ridge", "behind-ridge":
		return Point{t.X, t.Y}
	case "soft-palate":
		return Point{.42 + .70*r.BodyX, roof(r, .42+.70*r.BodyX)}
	case "palate", "hard-palate":
		if raised(r) {
			return t
		}
		return Point{.42 + .70*r.BodyX, roof(r, .42+.70*r.BodyX) + .05}
	case "nose":
		return Point{-.15, -.58}
	case "throat":
		return Point{1.38, .62}
	}
	return Point{-.22 - push(r), (l.Y + .03) / 2}
}

// marks are the signs of air and voice of a still, seen from the side.
func marks(r Row) []mark {
	out := []mark{}
	voice := mark{kind: "silence", at: Point{1.38, 1.0}}
	if r.Voice {
		voice.kind = "voice"
	}
	if r.Phase != "rest" {
		out = append(out, voice)
	}
	at := airPlace(r)
	throat := []Point{{1.42, .80}, {1.40, .45}, {1.40, .20}}
	switch r.Air {
	case "stopped":
		out = append(out, mark{kind: "stopped", at: at, to: at, strong: !r.Voice, along: throat})
	case "burst", "friction", "free", "sides":
		along := []Point{at, {-.22 - push(r), .05}}
		if r.AirAt == "throat" {
			along = over(r)
		}
		out = append(out, mark{kind: r.Air, at: at, strong: !r.Voice, along: along})
	case "nose":
		path := []Point{{1.42, .60}, {1.42, .10}, {1.40, -.30}, {1.10, -.47}, {.40, -.49}, {-.10, -.53}}
		out = append(out, mark{kind: "nose", at: Point{-.15, -.56}, to: Point{-.42, -.50}, strong: !r.Voice, along: path})
	}
	switch r.Sides {
	case "up-touching":
		b := highest(tongue(r, lower(r)))
		out = append(out, mark{kind: "touch", at: b, to: add(b, 0, .05)})
	case "one-side-open":
		t := tip(r, lower(r))
		out = append(out, mark{kind: "open-side", at: t, to: Point{.42 + .70*r.BodyX, t.Y + .10}})
	}
	return out
}

// over is the way of the air from the throat over the tongue.
func over(r Row) []Point {
	edge := tongue(r, lower(r))
	out := []Point{{1.42, .62}, {1.44, .20}}
	for _, x := range []float64{1.15, .85, .55, .30} {
		top := math.Inf(1)
		for _, p := range edge {
			if math.Abs(p.X-x) < .05 {
				top = min(top, p.Y)
			}
		}
		if !math.IsInf(top, 1) {
			out = append(out, Point{x, (top + roof(r, x)) / 2})
		}
	}
	return append(smooth(out...), Point{-.05, .06}, Point{-.22 - push(r), .05})
}

func highest(edge []Point) Point {
	return slices.MinFunc(edge[perSegment:len(edge)-2*perSegment], func(a, b Point) int { return cmp.Compare(a.Y, b.Y) })
}
