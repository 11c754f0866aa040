package drawing

import (
	"bytes"
	"fmt"
	goimage "image"
	"image/color"
	"image/png"
	"io"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"
	_ "golang.org/x/image/webp" // decoder
)

// pointsPerMM turns millimetres into the unit of a PDF.
const pointsPerMM = 72 / 25.4

// PDF writes the document, with its title and language, the fonts cut to the signs that are used, and an outline of the
// pages that have a bookmark. The same document gives the same bytes.
func (d Document) PDF(w io.Writer) error {
	f := fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm"})
	f.SetAutoPageBreak(false, 0)
	f.SetTitle(d.Title, true)
	f.SetLang(d.Lang)
	f.SetCreator("Bright Chalk", true)
	f.SetProducer("Bright Chalk", true)
	f.SetCatalogSort(true)
	made := d.Made.UTC()
	if made.IsZero() { // fpdf would take the clock, and the same page would give another file each second
		made = time.Unix(0, 0).UTC()
	}
	f.SetCreationDate(made)
	f.SetModificationDate(made)
	out := pdfWriter{f: f, fonts: map[string]bool{}, images: map[string]string{}}
	tags := make([][]mark, len(d.Pages))
	for i, p := range d.Pages {
		f.AddPageFormat("P", fpdf.SizeType{Wd: p.Width, Ht: p.Height})
		out.height = p.Height
		if p.Bookmark != "" {
			f.Bookmark(p.Bookmark, 0, 0)
		}
		out.marked(p.items, &tags[i])
	}
	var plain bytes.Buffer
	if err := f.Output(&plain); err != nil {
		return fmt.Errorf("write PDF: %w", err)
	}
	tagged, err := tag(plain.Bytes(), tags)
	if err != nil {
		return err
	}
	_, err = w.Write(tagged)
	return err
}

// marked writes the items of a page between the marks of its text structure: each line of text that belongs to no part
// is a paragraph, shapes that belong to none are decoration.
func (o *pdfWriter) marked(items []item, tags *[]mark) {
	for i := 0; i < len(items); {
		j := i + 1
		for j < len(items) && together(items[i], items[j]) {
			j++
		}
		p := items[i].part
		if p == nil && items[i].text != nil {
			p = &part{role: "P"}
		}
		if p == nil {
			o.f.RawWriteStr("/Artifact BMC")
		} else {
			o.f.RawWriteStr(fmt.Sprintf("/%s <</MCID %d>> BDC", p.role, len(*tags)))
			*tags = append(*tags, mark{p})
		}
		for _, it := range items[i:j] {
			o.item(it)
		}
		o.f.RawWriteStr("EMC")
		i = j
	}
}

type pdfWriter struct {
	f      *fpdf.Fpdf
	height float64 // of the page
	fonts  map[string]bool
	images map[string]string // names by their bytes
}

// together tells whether two items stand between the same marks: of one part, or both decoration.
func together(a, b item) bool {
	return a.part == b.part && (a.part != nil || a.text == nil && b.text == nil)
}

func (o *pdfWriter) item(it item) {
	if it.clip != nil {
		o.f.RawWriteStr("q " + pdfPath(*it.clip) + " W n")
		defer o.f.RawWriteStr("Q")
	}
	switch {
	case it.shape != nil:
		o.shape(*it.shape)
	case it.text != nil:
		o.text(*it.text)
	case it.image != nil:
		o.image(*it.image)
	}
}

func number(v float64) string {
	s := fmt.Sprintf("%.3f", v)
	s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	if s == "-0" {
		return "0"
	}
	return s
}

func pdfPath(p Path) string {
	var b strings.Builder
	for _, s := range p.segments {
		for i := range s.count() {
			b.WriteString(number(s.points[i].X*pointsPerMM) + " " + number(s.points[i].Y*pointsPerMM) + " ")
		}
		b.WriteString(map[byte]string{'M': "m ", 'L': "l ", 'C': "c ", 'Z': "h "}[s.op])
	}
	return b.String()
}

func pdfColour(c color.RGBA) string {
	return number(float64(c.R)/255) + " " + number(float64(c.G)/255) + " " + number(float64(c.B)/255)
}

func (o *pdfWriter) shape(s shape) {
	st := s.style
	alpha := max(st.Fill.A, st.Stroke.A)
	if alpha < 255 { // an even alpha: our drawings have none that differs between area and line
		o.f.SetAlpha(float64(alpha)/255, "Normal")
		defer o.f.SetAlpha(1, "Normal")
	}
	var b strings.Builder
	b.WriteString("q ")
	fill, stroke := st.Fill.A > 0, st.Stroke.A > 0 && st.Width > 0
	if fill {
		b.WriteString(pdfColour(st.Fill) + " rg ")
	}
	if stroke {
		b.WriteString(pdfColour(st.Stroke) + " RG " + number(st.Width*pointsPerMM) + " w ")
		if !st.Sharp {
			b.WriteString("1 J 1 j ")
		}
		if len(st.Dashes) > 0 {
			b.WriteString("[")
			for _, d := range st.Dashes {
				b.WriteString(number(d*pointsPerMM) + " ")
			}
			b.WriteString("] 0 d ")
		}
	}
	b.WriteString(pdfPath(s.path))
	op := map[[2]bool]string{{true, false}: "f", {false, true}: "S", {true, true}: "B"}[[2]bool{fill, stroke}]
	if fill && st.EvenOdd {
		op += "*"
	}
	o.f.RawWriteStr(b.String() + op + " Q")
}

// inPage is the matrix in points, as a PDF wants it.
func inPage(m Matrix) string {
	parts := make([]string, 6)
	for i, v := range m {
		if i > 3 {
			v *= pointsPerMM
		}
		parts[i] = fmt.Sprintf("%.5f", v)
	}
	return strings.Join(parts, " ") + " cm"
}

func (o *pdfWriter) text(t text) {
	ink := t.face.ink()
	x := t.x
	for _, r := range t.face.runs(t.text) {
		if !o.fonts[r.font.name] {
			o.f.AddUTF8FontFromBytes(r.font.name, "", bytes.Clone(r.font.data))
			o.fonts[r.font.name] = true
		}
		o.f.SetFont(r.font.name, "", t.face.Size)
		o.f.SetTextColor(int(ink.R), int(ink.G), int(ink.B))
		plain := strings.Map(func(c rune) rune {
			if c > 0xffff { // fpdf writes the signs of the basic plane only
				return '\ufffd'
			}
			return c
		}, r.text)
		if t.matrix == Identity {
			o.f.Text(x, o.height-t.y, plain)
		} else {
			o.f.RawWriteStr("q " + inPage(t.matrix))
			o.f.Text(x, o.height-t.y, plain)
			o.f.RawWriteStr("Q")
		}
		x += r.width(t.face.Size)
	}
}

func (f Face) ink() color.RGBA {
	if f.Ink.A == 0 {
		return color.RGBA{0x1e, 0x2b, 0x30, 0xff}
	}
	return f.Ink
}

func (o *pdfWriter) image(i image) {
	key := string(i.bytes)
	name, known := o.images[key]
	if !known {
		decoded, _, err := goimage.Decode(bytes.NewReader(i.bytes))
		if err != nil {
			return
		}
		var b bytes.Buffer
		if err := png.Encode(&b, decoded); err != nil {
			return
		}
		name = fmt.Sprintf("image%d", len(o.images))
		o.f.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "PNG"}, &b)
		o.images[key] = name
	}
	o.f.RawWriteStr("q " + inPage(i.matrix))
	o.f.ImageOptions(name, i.x, o.height-i.y-i.h, i.w, i.h, false, fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
	o.f.RawWriteStr("Q")
}
