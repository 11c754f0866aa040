package media_test

import (
	"bytes"
	"encoding/base64"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"image/png"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/drawing"
	"brightchalk/internal/media"
	"brightchalk/test/browser"
)

// Files in the habits of drawing programs, written by hand for this test: cleaned, each is well formed, Chromium shows
// it, and a printed page shows the same.
func TestUploadedDrawingsAreShownAndPrinted(t *testing.T) {
	files, err := filepath.Glob("testdata/svg/*.svg")
	require.NoError(t, err)
	require.Len(t, files, 40)
	var names, sources []string
	var printed [][4]float64
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		p, err := media.CleanSVG(data)
		require.NoError(t, err, file)
		assertWellFormed(t, file, p.Bytes)
		d, err := drawing.ParseSVG(p.Bytes)
		require.NoError(t, err, file)
		page := drawing.NewPage(10, 10)
		page.Picture(d, 0, 0, 10)
		var out bytes.Buffer
		require.NoError(t, page.PNG(&out, 6))
		picture, err := png.Decode(&out)
		require.NoError(t, err)
		printed = append(printed, mean(picture))
		names = append(names, filepath.Base(file))
		sources = append(sources, "data:image/svg+xml;base64,"+base64.StdEncoding.EncodeToString(p.Bytes))
	}
	if browser.Find() == "" {
		t.Skip("Chromium is not installed")
	}
	b, err := browser.Start(browser.Options{})
	require.NoError(t, err)
	defer b.Close()
	tab, err := b.Open()
	require.NoError(t, err)
	defer tab.Close()
	require.NoError(t, tab.Go("about:blank"))
	shown, err := browser.Eval[[][4]float64](tab, fmt.Sprintf(`Promise.all(%s.map(async (src) => {
		const img = new Image()
		img.src = src
		try { await img.decode() } catch { return [-1, -1, -1, -1] }
		const c = document.createElement('canvas')
		c.width = c.height = 60
		const g = c.getContext('2d')
		g.fillStyle = 'white'
		g.fillRect(0, 0, 60, 60)
		const k = 60 / Math.max(img.naturalWidth, img.naturalHeight)
		const w = img.naturalWidth * k, h = img.naturalHeight * k
		g.drawImage(img, (60 - w) / 2, (60 - h) / 2, w, h)
		const p = g.getImageData(0, 0, 60, 60).data
		let r = 0, gr = 0, bl = 0, ink = 0
		for (let i = 0; i < p.length; i += 4) {
			r += p[i]; gr += p[i + 1]; bl += p[i + 2]
			if (p[i] + p[i + 1] + p[i + 2] < 740) ink++
		}
		return [r / 3600, gr / 3600, bl / 3600, ink / 3600]
	}))`, array(sources)))
	require.NoError(t, err)
	for i, name := range names {
		require.GreaterOrEqual(t, shown[i][0], 0.0, "%s: Chromium shows nothing", name)
		assert.Greater(t, shown[i][3], 0.02, "%s: Chromium shows an empty picture", name)
		for k, channel := range []string{"red", "green", "blue"} {
			// A gradient is printed in the mean of its colours, so the mean over the picture may differ a little.
			assert.InDelta(t, shown[i][k], printed[i][k], 16, "%s: %s on paper and on the screen", name, channel)
		}
		assert.InDelta(t, shown[i][3], printed[i][3], 0.06, "%s: how much is covered", name)
	}
}

func array(list []string) string {
	quoted := make([]string, len(list))
	for i, s := range list {
		quoted[i] = "'" + s + "'"
	}
	return "[" + strings.Join(quoted, ",") + "]"
}

func mean(p image.Image) [4]float64 {
	var out [4]float64
	b := p.Bounds()
	n := float64(b.Dx() * b.Dy())
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			r, g, bl, _ := p.At(x, y).RGBA()
			for i, v := range []uint32{r, g, bl} {
				out[i] += float64(v>>8) / n
			}
			if r>>8+g>>8+bl>>8 < 740 {
				out[3] += 1 / n
			}
		}
	}
	return out
}

// assertWellFormed holds a file against the two rules of XML that browsers enforce and encoding/xml does not say: one
// attribute stands once, and a prefix is declared.
func assertWellFormed(t *testing.T, name string, data []byte) {
	t.Helper()
	d := xml.NewDecoder(bytes.NewReader(data))
	for {
		token, err := d.RawToken()
		if errors.Is(err, io.EOF) {
			return
		}
		require.NoError(t, err, name)
		start, ok := token.(xml.StartElement)
		if !ok {
			continue
		}
		seen := map[string]bool{}
		for _, a := range start.Attr {
			assert.Empty(t, a.Name.Space, "%s: prefix of %s", name, a.Name.Local)
			assert.False(t, seen[a.Name.Local], "%s: %s twice", name, a.Name.Local)
			seen[a.Name.Local] = true
		}
	}
}

func TestDuplicateAttributesAreRefused(t *testing.T) {
	_, err := media.CleanSVG(
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9" fill="red" fill="blue"/></svg>`),
	)
	require.ErrorContains(t, err, "has the attribute fill twice")
}

// An entity that names another is not taken, so a small file does not grow into a large one.
func TestEntitiesDoNotGrow(t *testing.T) {
	_, err := media.CleanSVG(
		[]byte(
			`<!DOCTYPE svg [<!ENTITY a "x"><!ENTITY b "&a;&a;">]>` +
				`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9" id="&b;"/></svg>`,
		),
	)
	require.Error(t, err)
}
