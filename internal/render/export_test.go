package render

import "bytes"

// Meant draws a sheet, or with All every one, and returns the PDF with the lines of text that it was drawn from.
func Meant(h Handout, name string, paper Paper) (pdf []byte, lines []string, err error) {
	d := newDocument(paper, "Test")
	h = h.ready()
	for _, s := range sheets {
		if s.Name != name && name != All {
			continue
		}
		if err := s.draw(d, h); err != nil && name != All {
			return nil, nil, err
		}
	}
	var out bytes.Buffer
	if err := d.write(&out); err != nil {
		return nil, nil, err
	}
	for _, p := range d.out.Pages {
		lines = append(lines, p.Lines()...)
	}
	return out.Bytes(), lines, nil
}
