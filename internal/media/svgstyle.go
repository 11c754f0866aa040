package media

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"regexp"
	"strings"

	"golang.org/x/text/encoding/charmap"
)

// svgDecoder reads the encodings that drawing programs write.
func svgDecoder(data []byte) *xml.Decoder {
	d := xml.NewDecoder(bytes.NewReader(data))
	d.Strict = true
	d.Entity = map[string]string{}
	d.CharsetReader = func(label string, in io.Reader) (io.Reader, error) {
		switch strings.ToLower(label) {
		case "iso-8859-1", "us-ascii", "windows-1252", "latin1":
			return charmap.Windows1252.NewDecoder().Reader(in), nil
		}
		return nil, errors.New("unknown encoding " + label)
	}
	return d
}

// Bounds of the entities that a document type may declare; drawing programs name their namespaces by them.
const (
	maxEntities     = 60
	maxEntityLength = 300
)

var entity = regexp.MustCompile(`<!ENTITY\s+([\w.-]+)\s+(?:"([^"&<]*)"|'([^'&<]*)')\s*>`)

// readEntities takes the plain entities of a document type. One that names another is left out, so none grows.
func readEntities(d *xml.Decoder, t xml.Directive) {
	for _, m := range entity.FindAllSubmatch(t, maxEntities) {
		if value := string(m[2]) + string(m[3]); len(value) <= maxEntityLength {
			d.Entity[string(m[1])] = value
		}
	}
}

// svgSheet are the rules of an SVG's own style sheet by their selector: .cls-1, #sky, path.
type svgSheet map[string]string

// Bounds of a style sheet.
const (
	maxSheet = 200_000 // bytes
	maxRules = 2_000
)

var (
	cssComment = regexp.MustCompile(`(?s)/\*.*?\*/`)
	cssRule    = regexp.MustCompile(`([^{}]+)\{([^{}]*)\}`)
	cssPlain   = regexp.MustCompile(`^(?:[A-Za-z]+|\.[\w-]+|#[\w-]+)$`)
)

// svgStyles reads the style elements of an SVG. Selectors other than a class, an id or an element are left out.
func svgStyles(data []byte) (svgSheet, error) {
	d := svgDecoder(data)
	out := svgSheet{}
	in, size, rules := false, 0, 0
	for {
		token, err := d.RawToken()
		if err != nil { // said by who reads the drawing
			return out, nil //nolint:nilerr // the same text is read again
		}
		switch t := token.(type) {
		case xml.Directive:
			readEntities(d, t)
		case xml.StartElement:
			in = t.Name.Local == "style"
		case xml.EndElement:
			in = false
		case xml.CharData:
			if !in {
				continue
			}
			if size += len(t); size > maxSheet {
				return nil, refuse("The style sheet inside the SVG is longer than %d kB.", maxSheet/1000)
			}
			for _, m := range cssRule.FindAllSubmatch(cssComment.ReplaceAll(t, nil), -1) {
				for selector := range strings.SplitSeq(string(m[1]), ",") {
					selector = strings.TrimSpace(selector)
					if rules++; cssPlain.MatchString(selector) && rules <= maxRules {
						out[selector] += ";" + string(m[2])
					}
				}
			}
		}
	}
}

// of are the declarations for an element, the weakest first.
func (s svgSheet) of(element, classes, id string) string {
	out := s[element]
	for class := range strings.FieldsSeq(classes) {
		out += ";" + s["."+class]
	}
	if id != "" {
		out += ";" + s["#"+id]
	}
	return out
}
