package media

import (
	"encoding/xml"
	"errors"
	"io"
	"maps"
	"regexp"
	"slices"
	"strings"
)

const (
	maxSVGParts = 20_000 // that it holds, and that it draws
	maxSVGDepth = 64
)

var svgElements = parseSet(
	"svg g path rect circle ellipse line polyline polygon defs linearGradient radialGradient stop clipPath mask " +
		"title desc use symbol",
)

// svgGroups are elements that only hold others: what is in them is kept as a group.
var svgGroups = map[string]string{"a": "g", "switch": "g"}

var svgAttributes = parseSet(
	`viewBox width height x y x1 y1 x2 y2 cx cy r rx ry d points transform fill stroke stroke-width stroke-linecap
		stroke-linejoin stroke-dasharray stroke-dashoffset stroke-miterlimit opacity display visibility
		fill-opacity stroke-opacity fill-rule
		clip-rule clip-path mask id class offset stop-color stop-opacity
		gradientUnits gradientTransform spreadMethod preserveAspectRatio href clipPathUnits maskUnits fx fy role aria-label`,
)

func parseSet(words string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(words) {
		m[w] = true
	}
	return m
}

var (
	inlineStyle = regexp.MustCompile(`^\s*([a-z-]+)\s*:\s*([^:;]+)\s*$`)
	inside      = regexp.MustCompile(`(?i)url\(\s*['"]?\s*#([^)'"\s]+)`)
	outside     = regexp.MustCompile(`(?i)url\(\s*['"]?\s*[^#'"\s]|javascript:|@import|expression\(|data:`)
)

// CleanSVG keeps the drawing elements and attributes that are known to be harmless, turns inline styles
// into attributes, and says what it took away.
func CleanSVG(data []byte) (Picture, error) {
	sheet, err := svgStyles(data)
	if err != nil {
		return Picture{}, err
	}
	d := svgDecoder(data)
	c := svgCleaner{sheet: sheet, removed: map[string]bool{}}
	for {
		token, err := d.RawToken()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return Picture{}, errNotWellFormed
		}
		switch t := token.(type) {
		case xml.Directive:
			readEntities(d, t)
		case xml.StartElement:
			err = c.start(t)
		case xml.EndElement:
			err = c.end(t.Name.Local)
		case xml.CharData:
			if c.skip == 0 && len(c.open) > 0 && (c.inside() == "title" || c.inside() == "desc") {
				_ = xml.EscapeText(&c.out, t)
			}
		}
		if err != nil {
			return Picture{}, err
		}
	}
	if c.out.Len() == 0 || len(c.open) != 0 || c.skip != 0 {
		return Picture{}, errNotWellFormed
	}
	if err := c.drawn.refusal(); err != nil {
		return Picture{}, err
	}
	return Picture{"image/svg+xml", []byte(c.out.String()), takenAway(c.removed)}, nil
}

var errNotWellFormed = refuse("The SVG cannot be read: it is not well formed.")

// svgCleaner writes what is kept of an SVG while it is read.
type svgCleaner struct {
	out     strings.Builder
	sheet   svgSheet
	removed map[string]bool
	open    []string // elements that are kept
	skip    int      // depth inside an element that is left out
	parts   int
	drawn   svgTree
}

func (c *svgCleaner) inside() string { return c.open[len(c.open)-1] }

func grouped(name string) string {
	if group, ok := svgGroups[name]; ok {
		return group
	}
	return name
}

func (c *svgCleaner) start(t xml.StartElement) error {
	if c.parts++; c.parts > maxSVGParts {
		return refuse("The SVG has more than %d parts.", maxSVGParts)
	}
	t.Name.Local = grouped(t.Name.Local)
	name := t.Name.Local
	if c.skip > 0 || !svgElements[name] || len(c.open) == 0 && name != "svg" {
		if c.skip == 0 && name != "style" && name != "metadata" && t.Name.Space == "" {
			c.removed[name] = true
		}
		c.skip++
		return nil
	}
	if c.open = append(c.open, name); len(c.open) > maxSVGDepth {
		return refuse("The SVG has parts inside parts, more than %d deep.", maxSVGDepth)
	}
	id, refs, err := c.write(t)
	if err != nil {
		return err
	}
	c.drawn.begin(id, refs)
	return nil
}

func (c *svgCleaner) end(name string) error {
	if c.skip > 0 {
		c.skip--
		return nil
	}
	name = grouped(name)
	if len(c.open) == 0 || c.inside() != name {
		return errNotWellFormed
	}
	c.open = c.open[:len(c.open)-1]
	c.drawn.end()
	c.out.WriteString("</" + name + ">")
	return nil
}

func takenAway(removed map[string]bool) []string {
	if len(removed) == 0 {
		return nil
	}
	names := slices.Sorted(maps.Keys(removed))
	return []string{"Taken away for safety: " + strings.Join(names[:min(len(names), 12)], ", ") + "."}
}

// write writes what is kept of an element and returns its name and what it refers to. Each attribute is written once:
// an inline style wins over the rules of a style sheet, these over an attribute, and href over xlink:href.
func (c *svgCleaner) write(t xml.StartElement) (id string, refs []string, err error) {
	values, order := map[string]string{}, []string{}
	set := func(name, value string) {
		if _, there := values[name]; !there {
			order = append(order, name)
		}
		values[name] = value
	}
	styles := func(text string) {
		for part := range strings.SplitSeq(text, ";") {
			if m := inlineStyle.FindStringSubmatch(part); m != nil && svgAttributes[m[1]] {
				set(m[1], strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(m[2]), "!important")))
			}
		}
	}
	seen, inline, linked := map[xml.Name]bool{}, "", ""
	for _, a := range t.Attr {
		if seen[a.Name] {
			return "", nil, refuse("The SVG cannot be read: %s has the attribute %s twice.", t.Name.Local, a.Name.Local)
		}
		seen[a.Name] = true
		switch name := a.Name.Local; {
		case a.Name.Space == "xlink" && name == "href":
			linked = a.Value
		case a.Name.Space != "" || name == "xmlns" || strings.HasPrefix(name, "data-"): // of drawing programs
		case name == "version" || name == "baseProfile" || strings.HasPrefix(name, "enable-background"):
		case name == "style":
			inline = a.Value
		default:
			set(name, a.Value)
		}
	}
	if _, there := values["href"]; !there && linked != "" {
		set("href", linked)
	}
	styles(c.sheet.of(t.Name.Local, values["class"], values["id"]))
	styles(inline)
	out := &c.out
	out.WriteString("<" + t.Name.Local)
	if len(c.open) == 1 {
		out.WriteString(` xmlns="http://www.w3.org/2000/svg"`)
	}
	for _, name := range order {
		value := values[name]
		if !svgAttributes[name] || outside.MatchString(value) || name == "href" && !strings.HasPrefix(value, "#") {
			c.removed[name] = true
			continue
		}
		if name == "id" {
			id = value
		}
		if name == "href" {
			refs = append(refs, value[1:])
		}
		for _, m := range inside.FindAllStringSubmatch(value, -1) {
			refs = append(refs, m[1])
		}
		out.WriteString(" " + name + `="`)
		_ = xml.EscapeText(out, []byte(value))
		out.WriteString(`"`)
	}
	out.WriteString(">")
	return id, refs, nil
}

// svgTree is what an SVG draws: each part with those inside it and those that it refers to.
type svgTree struct {
	parts []svgPart
	open  []int
	named map[string]int
}

type svgPart struct {
	inside []int
	refs   []string
}

func (t *svgTree) begin(id string, refs []string) {
	at := len(t.parts)
	t.parts = append(t.parts, svgPart{refs: refs})
	if n := len(t.open); n > 0 {
		t.parts[t.open[n-1]].inside = append(t.parts[t.open[n-1]].inside, at)
	}
	if t.open = append(t.open, at); t.named == nil {
		t.named = map[string]int{}
	}
	if _, twice := t.named[id]; id != "" && !twice {
		t.named[id] = at
	}
}

func (t *svgTree) end() { t.open = t.open[:len(t.open)-1] }

// refusal says why no browser could show it, nil where one can.
func (t *svgTree) refusal() error {
	n, ends := t.cost()
	switch {
	case !ends:
		return refuse("The SVG draws a part of itself inside itself, without an end.")
	case n > maxSVGParts:
		return refuse(
			"The SVG repeats its parts so often that it would draw more than %d; no browser could show it.", maxSVGParts,
		)
	}
	return nil
}

// cost is how many parts a browser draws when each reference draws again what it refers to; false where that never
// ends. It stops counting above the bound.
func (t *svgTree) cost() (n int, ends bool) {
	known, busy := make([]int, len(t.parts)), make([]bool, len(t.parts))
	var of func(at int) bool
	of = func(at int) bool {
		if busy[at] {
			return false
		}
		if known[at] > 0 {
			return true
		}
		busy[at] = true
		sum := 1
		next := slices.Clone(t.parts[at].inside)
		for _, r := range t.parts[at].refs {
			if to, ok := t.named[r]; ok {
				next = append(next, to)
			}
		}
		for _, to := range next {
			if !of(to) {
				return false
			}
			sum = min(sum+known[to], maxSVGParts+1)
		}
		busy[at], known[at] = false, sum
		return true
	}
	for at, part := range t.parts {
		if !of(at) {
			return n, false
		}
		n++
		for _, r := range part.refs { // drawn anew for each, wherever it stands
			if to, ok := t.named[r]; ok {
				n = min(n+known[to], maxSVGParts+1)
			}
		}
	}
	return n, true
}
