package drawing_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"image/png"
	"io"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/drawing"
)

// A stroke that goes up and comes back down on itself keeps its turning point: without it a d has no ascender.
func TestAPathKeepsItsTurningPoint(t *testing.T) {
	for _, data := range []string{"M0 0L0 2L0 -1", "M0 0V2V-1", "m0 0v2v-3", "M0,0 0,2 0,-1"} {
		p, err := drawing.ParsePath(data)
		require.NoError(t, err, data)
		top := math.Inf(-1)
		for _, at := range p.Points(0.5)[0] {
			top = max(top, at.Y)
		}
		assert.InDelta(t, 2, top, 1e-9, data)
	}
}

// Arcs lie on their ellipse, in both directions and with flags that stand without spaces.
func TestArcsLieOnTheirCircle(t *testing.T) {
	for _, data := range []string{
		"M12 2a10 10 0 1 0 .001 0z", "M12 2a10 10 0 100.001 0", "M2 12A10 10 0 0 1 22 12", "M2 12A10 10 0 0022 12",
	} {
		p, err := drawing.ParsePath(data)
		require.NoError(t, err, data)
		for _, at := range p.Points(0.3)[0] {
			if r := math.Hypot(at.X-12, at.Y-12); !strings.HasSuffix(data, "z") || r > 9 {
				assert.InDelta(t, 10, r, 0.01, data)
			}
		}
	}
}

func TestPathDataThatIsWrong(t *testing.T) {
	for _, data := range []string{"L1 1", "M1", "M0 0 L", "M0 0 X3", "M0 0 Zz 4", "M1e999 0", "M0 0C1 1 2 2"} {
		_, err := drawing.ParsePath(data)
		require.Error(t, err, data)
	}
	p, err := drawing.ParsePath("  ")
	require.NoError(t, err)
	assert.True(t, p.Empty())
}

// Every sign that a sheet may hold is in the fonts: the sounds of the accents, letters of Europe, marks, arrows.
func TestTheFontsHoldEverySignOfASheet(t *testing.T) {
	text := "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 .,;:!?()/%+=–—…“”‘’·•→✓"
	text += "éïñçßøąęłžőșğ Дякую cảm ơn"
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			text += " /" + string(s.Phoneme) + "/"
		}
	}
	for _, f := range []drawing.Face{
		{Size: 12}, {Size: 12, Bold: true}, {Size: 12, Child: true}, {Size: 12, Child: true, Bold: true},
	} {
		assert.Empty(t, string(f.Missing(text)), "bold %v, child %v", f.Bold, f.Child)
	}
	assert.Equal(t, "م🙂", string(drawing.Face{Size: 12}.Missing("a م 🙂 م")))
}

// No line is wider than asked, and no sign is lost.
func TestWrapKeepsTheWidthAndEverySign(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	words := strings.Fields("a fish swims in the canal antidisestablishmentarianism ship-shape /tʃ/ ok")
	for range 200 {
		var text []string
		for range 1 + rng.IntN(20) {
			text = append(text, words[rng.IntN(len(words))])
		}
		f := drawing.Face{Size: 8 + 30*rng.Float64(), Child: rng.IntN(2) == 0}
		width := 25 + 150*rng.Float64()
		lines := f.Wrap(strings.Join(text, " "), width)
		for _, line := range lines {
			assert.LessOrEqual(t, f.Width(line), width+1e-9, line)
		}
		assert.Equal(t, strings.Join(text, ""), strings.ReplaceAll(strings.Join(lines, ""), " ", ""))
	}
	assert.Equal(t, []string{"one    two", "three"}, drawing.Face{Size: 10}.Wrap("one    two\nthree", 100))
}

func sample() *drawing.Page {
	p := drawing.NewPage(60, 40)
	p.Bookmark = "One"
	p.Text(drawing.Face{Child: true, Size: 30}, 5, 20, "duck")
	p.Draw(drawing.Rectangle(5, 5, 50, 8), drawing.Style{Stroke: drawing.Face{}.Ink, Width: 0})
	p.Within(drawing.Identity.Translate(60, 40).Rotate(180), func() { p.Text(drawing.Face{Size: 10}, 5, 5, "over /θ/") })
	return p
}

// An SVG of a page carries its text as outlines, so that it needs no font and cannot run over its edge.
func TestSVGNeedsNoFont(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, sample().SVG(&out))
	assert.NotContains(t, out.String(), "<text")
	assert.NotContains(t, out.String(), "font")
	d := xml.NewDecoder(&out)
	for {
		if _, err := d.Token(); errors.Is(err, io.EOF) {
			break
		} else {
			require.NoError(t, err)
		}
	}
}

// The same document gives the same bytes, whatever was written before it.
func TestThePDFIsTheSameEachTime(t *testing.T) {
	made := make([]bytes.Buffer, 2)
	for i := range made {
		require.NoError(t, drawing.Document{Title: "Ø θ", Lang: "en-GB", Pages: []*drawing.Page{sample()}}.PDF(&made[i]))
	}
	assert.True(t, bytes.Equal(made[0].Bytes(), made[1].Bytes()))
}

// A turned view turns: what stands in the lower left corner of the view stands, on its head, in the upper right corner
// of the page.
func TestATurnedTextStandsInTheOtherCorner(t *testing.T) {
	p := drawing.NewPage(60, 40)
	p.Within(drawing.Identity.Translate(60, 40).Rotate(180), func() { p.Text(drawing.Face{Size: 10}, 5, 5, "over") })
	var out bytes.Buffer
	require.NoError(t, p.PNG(&out, 4))
	picture, err := png.Decode(&out)
	require.NoError(t, err)
	sumX, sumY, n := 0, 0, 0
	for y := range picture.Bounds().Dy() {
		for x := range picture.Bounds().Dx() {
			if r, _, _, _ := picture.At(x, y).RGBA(); r < 0x8000 {
				sumX, sumY, n = sumX+x, sumY+y, n+1
			}
		}
	}
	require.Positive(t, n)
	assert.Greater(t, sumX/n, 4*45)
	assert.Less(t, sumY/n, 4*10)
}

func FuzzParsePath(f *testing.F) {
	f.Add("M12 2a10 10 0 100.001 0z")
	f.Add("m1-1.5.5e-3h4v-2tq")
	f.Fuzz(func(_ *testing.T, data string) {
		if p, err := drawing.ParsePath(data); err == nil && len(data) < 200 {
			_ = p.Transform(drawing.Identity.Scale(2, 2))
		}
	})
}

func FuzzParseSVG(f *testing.F) {
	f.Add(`<svg viewBox="0 0 9 9"><g id="a"><use href="#a"/></g><path d="M0 0L9 9" style="fill:url(#b)"/></svg>`)
	f.Add(`<svg width="5" height="5"><symbol id="s"><rect width="3" height="2" rx="9"/></symbol><use href="#s"/></svg>`)
	f.Fuzz(func(_ *testing.T, data string) { _, _ = drawing.ParseSVG([]byte(data)) })
}
