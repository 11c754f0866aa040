package drawing

import (
	"embed"
	"image/color"
	"strings"
	"sync"
	"unicode"

	"golang.org/x/image/font"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
)

// The fonts are cut by tools/fonts/make.py; their licence is the SIL Open Font License 1.1.
//
//go:embed fonts/*.ttf
var fontFiles embed.FS

// loadedFont is one embedded font with what is needed to measure and to outline it.
type loadedFont struct {
	name     string // its file and its name in a PDF
	data     []byte
	face     *sfnt.Font
	unit     float64          // units to the em
	advances map[rune]float64 // in ems, of the signs that it holds
	indices  map[rune]sfnt.GlyphIndex
}

// loadedFonts are the hand and the text font in regular and bold, by their names.
var loadedFonts = sync.OnceValue(func() map[string]*loadedFont {
	out := map[string]*loadedFont{}
	for _, name := range []string{"hand-regular", "hand-bold", "text-regular", "text-bold"} {
		data, err := fontFiles.ReadFile("fonts/" + name + ".ttf")
		if err != nil {
			panic(err) // the files are part of the program
		}
		face, err := sfnt.Parse(data)
		if err != nil {
			panic(err)
		}
		f := &loadedFont{
			name: name, data: data, face: face, unit: float64(face.UnitsPerEm()),
			advances: map[rune]float64{}, indices: map[rune]sfnt.GlyphIndex{},
		}
		var buffer sfnt.Buffer
		ppem := fixed.I(int(face.UnitsPerEm()))
		for r := rune(' '); r < 0x2800; r++ {
			i, err := face.GlyphIndex(&buffer, r)
			if err != nil || i == 0 {
				continue
			}
			a, err := face.GlyphAdvance(&buffer, i, ppem, font.HintingNone)
			if err != nil {
				continue
			}
			f.indices[r], f.advances[r] = i, float64(a)/64/f.unit
		}
		out[name] = f
	}
	return out
})

// missingAdvance is the width of the box that stands for a sign that no font holds, in ems.
const missingAdvance = 0.6

// Face is a font at a size. The zero value is the adults' font in regular; Ink without alpha is the usual ink.
type Face struct {
	Child bool // the handwriting-friendly font
	Bold  bool
	Size  float64 // points
	Ink   color.RGBA
}

const pointMM = 25.4 / 72

// fonts are the fonts of a face in the order in which they are tried: a sign that the adults' font lacks, such as a
// phonetic one, is taken from the hand font.
func (f Face) fonts() [2]*loadedFont {
	all, weight := loadedFonts(), "-regular"
	if f.Bold {
		weight = "-bold"
	}
	if f.Child {
		return [2]*loadedFont{all["hand"+weight], all["hand"+weight]}
	}
	return [2]*loadedFont{all["text"+weight], all["hand"+weight]}
}

// run is a stretch of text in one font.
type run struct {
	font *loadedFont
	text string
}

// runs parts a text by the fonts that hold its signs. Signs that no font holds stay, as boxes, in the first font.
func (f Face) runs(text string) []run {
	var out []run
	fonts := f.fonts()
	for _, r := range text {
		chosen := fonts[0]
		if _, ok := chosen.advances[r]; !ok {
			if _, ok := fonts[1].advances[r]; ok {
				chosen = fonts[1]
			}
		}
		if n := len(out); n > 0 && out[n-1].font == chosen {
			out[n-1].text += string(r)
			continue
		}
		out = append(out, run{chosen, string(r)})
	}
	return out
}

func (r run) width(size float64) float64 {
	sum := 0.0
	for _, sign := range r.text {
		if a, ok := r.font.advances[sign]; ok {
			sum += a
		} else if !unicode.Is(unicode.Mn, sign) {
			sum += missingAdvance
		}
	}
	return sum * size * pointMM
}

// Width of a line of text in millimetres.
func (f Face) Width(text string) float64 {
	sum := 0.0
	for _, r := range f.runs(text) {
		sum += r.width(f.Size)
	}
	return sum
}

// Missing are the signs of a text that no font holds, each once.
func (f Face) Missing(text string) []rune {
	var out []rune
	fonts := f.fonts()
	for _, r := range text {
		if _, ok := fonts[0].advances[r]; ok || r == '\n' || unicode.IsSpace(r) || unicode.Is(unicode.Cf, r) {
			continue
		}
		if _, ok := fonts[1].advances[r]; !ok && !strings.ContainsRune(string(out), r) {
			out = append(out, r)
		}
	}
	return out
}

// Metrics of a face in millimetres, each counted from the base line.
type Metrics struct{ XHeight, CapHeight, Ascent, Descent, Leading float64 }

// Metrics are those of the two designs as their OS/2 tables give them; Leading is from line to line, by eye.
func (f Face) Metrics() Metrics {
	em := f.Size * pointMM
	if f.Child {
		return Metrics{0.508 * em, 0.725 * em, 0.95 * em, 0.30 * em, 1.5 * em}
	}
	return Metrics{0.496 * em, 0.668 * em, 0.80 * em, 0.25 * em, 1.3 * em}
}

// Wrap cuts a text into lines of a width; its own line ends stay, and so do several spaces inside a line. A word that
// is wider than a line is cut.
func (f Face) Wrap(text string, width float64) []string {
	var out []string
	for part := range strings.SplitSeq(text, "\n") {
		line, space := "", ""
		for word := range strings.SplitSeq(strings.TrimSpace(part), " ") {
			if word == "" {
				space += " "
				continue
			}
			if line == "" {
				space = ""
			}
			if next := line + space + word; f.Width(next) <= width {
				line, space = next, " "
				continue
			}
			if line != "" {
				out = append(out, line)
			}
			for f.Width(word) > width {
				n := f.fitting(word, width)
				out, word = append(out, word[:n]), word[n:]
			}
			line, space = word, " "
		}
		out = append(out, line)
	}
	return out
}

// fitting is how many bytes of a word fit into a width, at least one sign.
func (f Face) fitting(word string, width float64) int {
	n := 0
	for i, r := range word {
		end := i + len(string(r))
		if i > 0 && f.Width(word[:end]) > width {
			break
		}
		n = end
	}
	return n
}
