package drawing

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"image/color"
	"io"
	"maps"
	"strings"
	"sync"
)

// Picture is a drawing in its own units, y downwards from the upper left corner.
type Picture struct {
	Width, Height float64
	shapes        []pictureShape
}

type pictureShape struct {
	path  Path
	style Style
	clip  *Path
}

// Bounds of what is read of a picture. An upload is bounded before, by media.CleanSVG.
const (
	maxShapes = 20_000
	maxDepth  = 64
)

var errPicture = errors.New("this SVG cannot be drawn")

// ParseSVG reads the shapes of an SVG as media.CleanSVG leaves it. A gradient becomes the mean of its colours, a mask
// is taken as a clip of its shapes; text, filters and pictures inside are left out.
func ParseSVG(data []byte) (Picture, error) {
	root, err := parseTree(data)
	if err != nil {
		return Picture{}, err
	}
	r := svgReader{ids: map[string]*node{}}
	r.index(root)
	out := Picture{}
	box := floats(root.attr["viewBox"])
	if len(box) != 4 || box[2] <= 0 || box[3] <= 0 {
		w, h := length(root.attr["width"], 0), length(root.attr["height"], 0)
		if w <= 0 || h <= 0 {
			return out, fmt.Errorf("%w: it has no size", errPicture)
		}
		box = []float64{0, 0, w, h}
	}
	out.Width, out.Height = box[2], box[3]
	first := drawState{
		fill:          color.RGBA{A: 255},
		opacity:       1,
		fillOpacity:   1,
		strokeOpacity: 1,
		width:         1,
		matrix:        Identity.Translate(-box[0], -box[1]),
	}
	if err := r.children(root, r.inherit(root, first), 0); err != nil {
		return out, err
	}
	out.shapes = r.shapes
	if len(out.shapes) == 0 {
		return out, fmt.Errorf("%w: it draws nothing", errPicture)
	}
	return out, nil
}

// node is an element with its attributes; inline styles have become attributes.
type node struct {
	name     string
	attr     map[string]string
	children []*node
}

func parseTree(data []byte) (*node, error) {
	d := xml.NewDecoder(bytes.NewReader(data))
	var open []*node
	var root *node
	count := 0
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("%w: %w", errPicture, err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if count++; count > maxShapes || len(open) > maxDepth {
				return nil, fmt.Errorf("%w: it has too many parts", errPicture)
			}
			n := &node{t.Name.Local, map[string]string{}, nil}
			for _, a := range t.Attr {
				n.attr[a.Name.Local] = strings.TrimSpace(a.Value)
			}
			for part := range strings.SplitSeq(n.attr["style"], ";") {
				if name, value, ok := strings.Cut(part, ":"); ok {
					n.attr[strings.TrimSpace(name)] = strings.TrimSpace(value)
				}
			}
			if len(open) > 0 {
				top := open[len(open)-1]
				top.children = append(top.children, n)
			} else {
				root = n
			}
			open = append(open, n)
		case xml.EndElement:
			open = open[:len(open)-1]
		}
	}
	if root == nil || root.name != "svg" {
		return nil, errPicture
	}
	return root, nil
}

// drawState is what an element takes from those around it.
type drawState struct {
	fill, stroke               color.RGBA // alpha 0: none
	opacity                    float64
	fillOpacity, strokeOpacity float64
	width                      float64
	dashes                     []float64
	evenOdd                    bool
	sharp                      bool
	matrix                     Matrix
	clip                       *Path
	usesDeep                   int
}

type svgReader struct {
	ids    map[string]*node
	shapes []pictureShape
}

func (r *svgReader) index(n *node) {
	if id := n.attr["id"]; id != "" {
		if _, twice := r.ids[id]; !twice {
			r.ids[id] = n
		}
	}
	for _, c := range n.children {
		r.index(c)
	}
}

// inherit is the state inside an element.
func (r *svgReader) inherit(n *node, s drawState) drawState {
	if v, ok := n.attr["fill"]; ok {
		s.fill = r.paint(v, s.fill)
	}
	if v, ok := n.attr["stroke"]; ok {
		s.stroke = r.paint(v, s.stroke)
	}
	s.opacity *= share(n.attr["opacity"], 1)
	s.fillOpacity = share(n.attr["fill-opacity"], s.fillOpacity)
	s.strokeOpacity = share(n.attr["stroke-opacity"], s.strokeOpacity)
	s.width = length(n.attr["stroke-width"], s.width)
	if v, ok := n.attr["stroke-dasharray"]; ok {
		s.dashes = floats(v)
	}
	if v, ok := n.attr["fill-rule"]; ok {
		s.evenOdd = v == "evenodd"
	}
	if v, ok := n.attr["stroke-linecap"]; ok {
		s.sharp = v != "round"
	} else if n.name == "svg" {
		s.sharp = true
	}
	if v := n.attr["transform"]; v != "" {
		s.matrix = s.matrix.Mul(parseTransform(v))
	}
	for _, name := range []string{"clip-path", "mask"} {
		if to := r.ids[reference(n.attr[name])]; to != nil {
			var inside Path
			r.outline(to, s.matrix, &inside, 0)
			if !inside.Empty() {
				s.clip = &inside
			}
		}
	}
	return s
}

// outline gathers the paths of a clip.
func (r *svgReader) outline(n *node, m Matrix, into *Path, depth int) {
	if depth > maxDepth {
		return
	}
	if v := n.attr["transform"]; v != "" {
		m = m.Mul(parseTransform(v))
	}
	if p, ok := shapePath(n); ok {
		into.Append(p.Transform(m))
	}
	if n.name == "use" {
		if to := r.ids[strings.TrimPrefix(n.attr["href"], "#")]; to != nil {
			r.outline(to, m.Translate(length(n.attr["x"], 0), length(n.attr["y"], 0)), into, depth+1)
		}
	}
	for _, c := range n.children {
		r.outline(c, m, into, depth+1)
	}
}

func (r *svgReader) children(n *node, s drawState, depth int) error {
	if depth > maxDepth {
		return fmt.Errorf("%w: its parts lie too deep in one another", errPicture)
	}
	for _, c := range n.children {
		if err := r.element(c, s, depth+1); err != nil {
			return err
		}
	}
	return nil
}

func (r *svgReader) element(n *node, s drawState, depth int) error {
	if n.attr["display"] == "none" || n.attr["visibility"] == "hidden" {
		return nil
	}
	switch n.name {
	case "g", "svg", "a", "switch":
		return r.children(n, r.inherit(n, s), depth)
	case "use":
		s = r.inherit(n, s)
		to := r.ids[strings.TrimPrefix(n.attr["href"], "#")]
		if s.usesDeep++; to == nil || s.usesDeep > 8 {
			return nil
		}
		s.matrix = s.matrix.Translate(length(n.attr["x"], 0), length(n.attr["y"], 0))
		if to.name == "symbol" {
			return r.children(to, r.inherit(to, s), depth)
		}
		return r.element(to, s, depth+1)
	}
	p, ok := shapePath(n)
	if !ok {
		return nil
	}
	s = r.inherit(n, s)
	if len(r.shapes) >= maxShapes {
		return fmt.Errorf("%w: it draws too many parts", errPicture)
	}
	k := s.matrix.scale()
	dashes := make([]float64, len(s.dashes))
	for i, d := range s.dashes {
		dashes[i] = d * k
	}
	style := Style{
		Fill: faded(s.fill, s.opacity*s.fillOpacity), Stroke: faded(s.stroke, s.opacity*s.strokeOpacity),
		Width: s.width * k, Dashes: dashes, EvenOdd: s.evenOdd, Sharp: s.sharp,
	}
	if n.name == "line" {
		style.Fill = color.RGBA{}
	}
	if style.Fill.A > 0 || style.Stroke.A > 0 && style.Width > 0 {
		r.shapes = append(r.shapes, pictureShape{p.Transform(s.matrix), style, s.clip})
	}
	return nil
}

// shapePath is the path of a basic shape in its own units.
func shapePath(n *node) (Path, bool) {
	v := func(name string) float64 { return length(n.attr[name], 0) }
	switch n.name {
	case "path":
		p, _ := ParsePath(n.attr["d"]) // as far as it can be read, as SVG asks
		return p, !p.Empty()
	case "rect":
		rx, ry := length(n.attr["rx"], -1), length(n.attr["ry"], -1)
		if rx < 0 {
			rx = max(0, ry)
		}
		if ry < 0 {
			ry = rx
		}
		return RoundedRectangle(v("x"), v("y"), v("width"), v("height"), rx, ry), v("width") > 0 && v("height") > 0
	case "circle":
		return Circle(v("cx"), v("cy"), v("r")), v("r") > 0
	case "ellipse":
		return Ellipse(v("cx"), v("cy"), v("rx"), v("ry")), v("rx") > 0 && v("ry") > 0
	case "line":
		return Line(v("x1"), v("y1"), v("x2"), v("y2")), true
	case "polyline", "polygon":
		at := floats(n.attr["points"])
		var p Path
		for i := 0; i+1 < len(at); i += 2 {
			if i == 0 {
				p.MoveTo(at[0], at[1])
			} else {
				p.LineTo(at[i], at[i+1])
			}
		}
		if n.name == "polygon" {
			p.Close()
		}
		return p, !p.Empty()
	}
	return Path{}, false
}

// reference is the id in url(#id).
func reference(v string) string {
	if inside, ok := strings.CutPrefix(strings.ReplaceAll(v, " ", ""), "url("); ok {
		inside, _, _ = strings.Cut(inside, ")")
		return strings.TrimPrefix(strings.Trim(inside, `"'`), "#")
	}
	return ""
}

func (r *svgReader) paint(v string, inherited color.RGBA) color.RGBA {
	switch {
	case v == "none" || v == "transparent":
		return color.RGBA{}
	case v == "inherit" || v == "":
		return inherited
	case v == "currentColor":
		return color.RGBA{0x1e, 0x2b, 0x30, 0xff}
	case strings.HasPrefix(v, "url("):
		if g := r.ids[reference(v)]; g != nil {
			return r.mean(g, 0)
		}
		return color.RGBA{0x80, 0x80, 0x80, 0xff}
	}
	if c, ok := parseColour(v); ok {
		return c
	}
	return inherited
}

// mean is the mean of the colours of a gradient's stops.
func (r *svgReader) mean(g *node, depth int) color.RGBA {
	var sum [4]float64
	n := 0.0
	for _, c := range g.children {
		if c.name != "stop" {
			continue
		}
		stop, ok := parseColour(c.attr["stop-color"])
		if !ok {
			stop = color.RGBA{A: 255}
		}
		alpha := share(c.attr["stop-opacity"], 1)
		for i, v := range []uint8{stop.R, stop.G, stop.B} {
			sum[i] += float64(v)
		}
		sum[3] += 255 * alpha
		n++
	}
	if n == 0 {
		if to := r.ids[strings.TrimPrefix(g.attr["href"], "#")]; to != nil && depth < 8 {
			return r.mean(to, depth+1)
		}
		return color.RGBA{}
	}
	return color.RGBA{uint8(sum[0] / n), uint8(sum[1] / n), uint8(sum[2] / n), uint8(sum[3] / n)}
}

// pictures are drawings that were read before: a sheet draws the same few many times.
var pictures = struct {
	sync.Mutex
	read map[string]Picture
}{read: map[string]Picture{}}

const maxCached = 256

// CachedSVG is ParseSVG with a memory of the last pictures.
func CachedSVG(data []byte) (Picture, error) {
	pictures.Lock()
	p, ok := pictures.read[string(data)]
	pictures.Unlock()
	if ok {
		return p, nil
	}
	p, err := ParseSVG(data)
	if err != nil {
		return p, err
	}
	pictures.Lock()
	defer pictures.Unlock()
	if len(pictures.read) >= maxCached {
		for key := range maps.Keys(pictures.read) {
			delete(pictures.read, key)
			break
		}
	}
	pictures.read[string(data)] = p
	return p, nil
}
