package mouth

import "math"

const across = 17 // points of a curve from corner to corner

// bow is a curve from corner to corner through a height in the middle; round makes it full at the corners.
func bow(c, height, round float64) []Point {
	out := make([]Point, across)
	h := c * (.45 + .55*round)
	for i := range out {
		t := float64(i) / (across - 1)
		u := 1 - t
		x := -c*u*u*u - 3*h*u*u*t + 3*h*u*t*t + c*t*t*t
		out[i] = Point{x, height * 4 / 3 * 3 * (u*u*t + u*t*t)}
	}
	return out
}

func at(edge []Point, x float64) float64 {
	best, y := math.Inf(1), 0.0
	for _, p := range edge {
		if d := math.Abs(p.X - x); d < best {
			best, y = d, p.Y
		}
	}
	return y
}

// band is what lies between two heights inside the mouth, from -w to w.
func band(w float64, top, bottom func(x float64) float64) []Point {
	const n = 13
	out := make([]Point, 0, 2*n)
	for i := range n {
		x := -w + 2*w*float64(i)/(n-1)
		out = append(out, Point{x, top(x)})
	}
	for i := range n {
		x := w - 2*w*float64(i)/(n-1)
		out = append(out, Point{x, max(top(x), bottom(x))})
	}
	return out
}

// frontView looks the speaker in the face: lips, teeth, what shows of the tongue.
func frontView(r Row) []Shape {
	round := r.LipRounding
	corner := .575 - .375*round
	if round > .2 {
		corner = .50 - .35*(round-.2)
	}
	h := .62 * r.LipOpening
	inner := .88 * corner
	if round > .3 {
		inner = .74 * corner
	}
	thick, under := .09, .12
	switch r.Lips {
	case "rounded":
		thick, under = thick+.03*round, under+.03*round
	case "pushed-forward":
		thick, under = thick+.06*round, under+.06*round
	}
	up, down := bow(inner, -.35*h, round), bow(inner, .65*h, round)
	hang := min(.12, .4*h)
	if round >= .5 && r.Lips != "pushed-forward" {
		hang /= 3
	}
	edge := -.35*h + hang // of the upper teeth
	switch r.Lips {
	case "closed":
		for i := range up {
			up[i].Y = .012 * math.Sin(float64(i)/(across-1)*2*math.Pi)
			down[i].Y = up[i].Y
		}
	case "lower-lip-to-teeth":
		down = bow(inner, edge, round)
	}
	outer := append(bow(corner+.03, -.35*h-thick, round), reversed(bow(corner+.03, .65*h+under, round))...)
	if r.Lips == "closed" {
		outer = append(bow(corner+.03, -thick, round), reversed(bow(corner+.03, under, round))...)
	}
	lowerAt := edge + .42*r.Jaw
	if r.Teeth == "nearly-shut" {
		lowerAt = edge + .02
	}
	over := func(x float64) float64 { return at(up, x) }
	below := func(x float64) float64 { return at(down, x) }
	within := func(y float64) func(float64) float64 {
		return func(x float64) float64 { return min(max(y, over(x)), below(x)) }
	}
	wide := .8 * inner
	mound := max(edge+.02, lowerAt-.03-.16*r.BodyY*min(1, h/.25))
	tipWide, tipTop := 0.0, below(0)
	switch r.Tip {
	case "ridge":
		tipWide = .30
	case "behind-ridge":
		tipWide = .22
	case "curled":
		tipWide = .18
	}
	if r.Sides == "one-side-open" {
		tipWide /= 2
	}
	if tipWide > 0 {
		tipTop = min(below(0), edge+.01)
		mound = lowerAt
	}
	tipWide = min(tipWide, wide)
	dome := func(x float64) float64 { return within(mound + .10*(x/wide)*(x/wide))(x) }
	oval := make([]Point, 16)
	for i := range oval {
		a := 2 * math.Pi * float64(i) / 16
		oval[i] = Point{0, edge}
		if r.Tip == "between-teeth" {
			oval[i] = Point{.24 * math.Cos(a), edge + .035 + .065*math.Sin(a)}
		}
	}
	return []Shape{
		shape("lips", outer, true),
		shape("opening", append(append([]Point{}, up...), reversed(down)...), true),
		shape("mound", band(wide, dome, below), true),
		shape("block", band(tipWide, within(tipTop), below), true),
		shape("lower-teeth", band(wide, within(lowerAt), below), true),
		shape("upper-teeth", band(wide, over, within(edge)), true),
		shape("tongue-tip", oval, true),
	}
}

func reversed(p []Point) []Point {
	out := make([]Point, len(p))
	for i := range p {
		out[len(p)-1-i] = p[i]
	}
	return out
}
