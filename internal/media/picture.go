package media

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	_ "image/jpeg" // decoder
	"image/png"
	"io"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/image/draw"
)

const (
	maxPixels   = 40_000_000
	maxSide     = 12_000
	storedSide  = 1600
	maxSVGParts = 20_000
)

// Picture is a cleaned picture. Remarks say what was changed, in sentences.
type Picture struct {
	MediaType string
	Bytes     []byte
	Remarks   []string
}

// CleanPicture checks a PNG, JPEG or SVG. Pixels are decoded and written anew, which drops all else that a
// file may carry; an SVG keeps only known drawing elements. The error is a Refusal.
func CleanPicture(data []byte) (Picture, error) {
	switch {
	case len(data) == 0:
		return Picture{}, refuse("The file is empty.")
	case len(data) > MaxPictureBytes:
		return Picture{}, refuse("The picture has more than %d MB.", MaxPictureBytes>>20)
	case bytes.HasPrefix(data, []byte("\x89PNG")), bytes.HasPrefix(data, []byte("\xff\xd8")):
		return cleanPixels(data)
	case bytes.Contains(data[:min(len(data), 1024)], []byte("<svg")):
		return CleanSVG(data)
	}
	return Picture{}, refuse("This is no picture that can be shown. PNG, JPEG and SVG are taken.")
}

func cleanPixels(data []byte) (Picture, error) {
	size, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refuse("The picture is damaged.")
	}
	if size.Width > maxSide || size.Height > maxSide || size.Width*size.Height > maxPixels {
		return Picture{}, refuse(
			"The picture is %d by %d points; up to %d million points in all are taken.",
			size.Width,
			size.Height,
			maxPixels/1_000_000,
		)
	}
	if size.Width < 16 || size.Height < 16 {
		return Picture{}, refuse("The picture is only %d by %d points: nothing could be seen.", size.Width, size.Height)
	}
	src, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refuse("The %s picture is damaged.", strings.ToUpper(format))
	}
	p := Picture{MediaType: "image/png"}
	if long := max(size.Width, size.Height); long > storedSide {
		w, h := max(1, size.Width*storedSide/long), max(1, size.Height*storedSide/long)
		small := image.NewNRGBA(image.Rect(0, 0, w, h))
		draw.CatmullRom.Scale(small, small.Bounds(), src, src.Bounds(), draw.Src, nil)
		src = small
		p.Remarks = append(p.Remarks, fmt.Sprintf("Made smaller: %d by %d points.", w, h))
	}
	var b bytes.Buffer
	if err := png.Encode(&b, src); err != nil {
		return Picture{}, refuse("The picture cannot be written anew.")
	}
	p.Bytes = b.Bytes()
	return p, nil
}

var svgElements = setOf(
	"svg g path rect circle ellipse line polyline polygon defs linearGradient radialGradient stop clipPath mask " +
		"title desc use symbol",
)

var svgAttributes = setOf(
	`viewBox width height x y x1 y1 x2 y2 cx cy r rx ry d points transform fill stroke stroke-width stroke-linecap
		stroke-linejoin stroke-dasharray stroke-miterlimit opacity fill-opacity stroke-opacity fill-rule
		clip-rule clip-path mask id class offset stop-color stop-opacity
		gradientUnits gradientTransform preserveAspectRatio href clipPathUnits maskUnits fx fy role aria-label`,
)

func setOf(words string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(words) {
		m[w] = true
	}
	return m
}

var (
	inlineStyle = regexp.MustCompile(`^\s*([a-z-]+)\s*:\s*([^:;]+)\s*$`)
	outside     = regexp.MustCompile(`(?i)url\(\s*['"]?\s*[^#'"\s]|javascript:|@import|expression\(|data:`)
)

// CleanSVG keeps the drawing elements and attributes that are known to be harmless, turns inline styles
// into attributes, and says what it took away.
func CleanSVG(data []byte) (Picture, error) {
	d := xml.NewDecoder(bytes.NewReader(data))
	d.Strict = true
	d.Entity = map[string]string{}
	var out strings.Builder
	removed := map[string]bool{}
	var open []string
	skip, parts := 0, 0
	for {
		token, err := d.RawToken()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return Picture{}, refuse("The SVG cannot be read: it is not well formed.")
		}
		switch t := token.(type) {
		case xml.StartElement:
			if parts++; parts > maxSVGParts {
				return Picture{}, refuse("The SVG has more than %d parts.", maxSVGParts)
			}
			name := t.Name.Local
			if skip > 0 || !svgElements[name] || len(open) == 0 && name != "svg" {
				if skip == 0 {
					removed[name] = true
				}
				skip++
				continue
			}
			open = append(open, name)
			writeElement(&out, t, len(open) == 1, removed)
		case xml.EndElement:
			if skip > 0 {
				skip--
				continue
			}
			if len(open) == 0 || open[len(open)-1] != t.Name.Local {
				return Picture{}, refuse("The SVG cannot be read: it is not well formed.")
			}
			open = open[:len(open)-1]
			out.WriteString("</" + t.Name.Local + ">")
		case xml.CharData:
			if skip == 0 && len(open) > 0 && (open[len(open)-1] == "title" || open[len(open)-1] == "desc") {
				_ = xml.EscapeText(&out, t)
			}
		}
	}
	if out.Len() == 0 || len(open) != 0 || skip != 0 {
		return Picture{}, refuse("The SVG cannot be read: it is not well formed.")
	}
	p := Picture{MediaType: "image/svg+xml", Bytes: []byte(out.String())}
	if len(removed) > 0 {
		names := make([]string, 0, len(removed))
		for n := range removed {
			names = append(names, n)
		}
		slices.Sort(names)
		p.Remarks = append(p.Remarks, "Taken away for safety: "+strings.Join(names[:min(len(names), 12)], ", ")+".")
	}
	return p, nil
}

func writeElement(out *strings.Builder, t xml.StartElement, root bool, removed map[string]bool) {
	out.WriteString("<" + t.Name.Local)
	if root {
		out.WriteString(` xmlns="http://www.w3.org/2000/svg"`)
	}
	write := func(name, value string) {
		if !svgAttributes[name] || outside.MatchString(value) || name == "href" && !strings.HasPrefix(value, "#") {
			removed[name] = true
			return
		}
		out.WriteString(" " + name + `="`)
		_ = xml.EscapeText(out, []byte(value))
		out.WriteString(`"`)
	}
	for _, a := range t.Attr {
		switch name := a.Name.Local; {
		case a.Name.Space == "xmlns" || name == "xmlns" || a.Name.Space == "xml" || a.Name.Space == "sodipodi" ||
			a.Name.Space == "inkscape" || strings.HasPrefix(name, "data-"):
		case name == "version" || name == "baseProfile":
		case name == "style":
			for part := range strings.SplitSeq(a.Value, ";") {
				if m := inlineStyle.FindStringSubmatch(part); m != nil && svgAttributes[m[1]] {
					write(m[1], strings.TrimSpace(m[2]))
				}
			}
		default:
			write(name, a.Value)
		}
	}
	out.WriteString(">")
}
