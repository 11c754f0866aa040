package render_test

import (
	"bytes"
	"flag"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/strokes"
	"brightchalk/internal/render"
)

const lookDPI = 30

// lookPages are the pages whose look is kept: a sheet of the sample lesson and which page of it.
var lookPages = []struct {
	name, sheet string
	page        int
}{
	{"plan", "plan", 0},
	{"practice", "practice", 0},
	{"capitals", "capitals", 0},
	{"sorting-mat", "sorting", 0},
	{"sorting-pictures", "sorting", 1},
	{"quarters", "quarters", 0},
	{"frames", "frames", 0},
	{"sort-words", "sort-words", 0},
	{"pieces", "pieces", 0},
	{"compounds", "compounds", 0},
	{"words", "words", 0},
	{"ring", "ring", 0},
	{"page", "page", 0},
	{"page-talk", "page", 1},
	{"marks", "marks", 0},
	{"labels", "labels", 0},
	{"box", "box", 0},
	{"home", "home", 0},
	{"home-tasks", "home", 1},
	{"eight", "eight", 0},
}

// Twenty pages look as they did when somebody last looked at them. A page that changed on purpose is renewed with
// go test ./internal/render -run Look -update; what differs lies in testdata/look-changed, old and new side by side.
func TestPagesLookAsTheyWereApproved(t *testing.T) {
	renew := flag.Lookup("update") != nil && flag.Lookup("update").Value.String() == "true"
	changed := filepath.Join("testdata", "look-changed")
	require.NoError(t, os.RemoveAll(changed))
	h := sampleHandout(t)
	made := map[string][]grayPage{}
	for _, k := range lookPages {
		if made[k.sheet] == nil {
			made[k.sheet] = rasterised(t, printed(t, h, k.sheet, render.A4), lookDPI)
		}
		now := made[k.sheet][k.page].image()
		file := filepath.Join("testdata", "look", k.name+".png")
		if renew {
			require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
			writePNG(t, file, now)
			continue
		}
		data, err := os.ReadFile(file)
		require.NoError(t, err, "make it with -update, and look at it")
		before, err := png.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		if !assert.LessOrEqual(t, difference(before, now), 12.0, "%s looks otherwise", k.name) {
			require.NoError(t, os.MkdirAll(changed, 0o755))
			writePNG(t, filepath.Join(changed, k.name+".png"), beside(before, now))
		}
	}
}

// The comparison itself: the same page passes, a letter without its ascender does not.
func TestALostAscenderIsADifference(t *testing.T) {
	w, err := strokes.CommonLines().Write("d", nil, nil)
	require.NoError(t, err)
	page := func(w strokes.Written) image.Image {
		f := face("d", "duck")
		f.Writing = []strokes.Written{w}
		var out bytes.Buffer
		require.NoError(t, render.Cards(&out, []render.Face{f}, render.Single, render.Large, render.A4))
		return rasterised(t, out.Bytes(), lookDPI)[0].image()
	}
	whole := page(w)
	assert.Zero(t, difference(whole, page(w)))
	a, err := strokes.CommonLines().Write("a", nil, nil)
	require.NoError(t, err)
	assert.Greater(t, difference(whole, page(a)), 12.0)
}

func (p grayPage) image() image.Image {
	out := image.NewGray(image.Rect(0, 0, len(p[0]), len(p)))
	for y, row := range p {
		for x, v := range row {
			out.SetGray(x, y, color.Gray{Y: 255 - v})
		}
	}
	return out
}

// difference is the largest difference in the mean grey of any square of 6 by 6 pixels, 0 to 255; 255 where the sizes
// differ. Single pixels at edges may differ between versions of poppler.
func difference(a, b image.Image) float64 {
	if a.Bounds() != b.Bounds() {
		return 255
	}
	const side = 6
	worst := 0.0
	for y := 0; y < a.Bounds().Dy(); y += side {
		for x := 0; x < a.Bounds().Dx(); x += side {
			sum, n := 0.0, 0.0
			for dy := range side {
				for dx := range side {
					if p := image.Pt(x+dx, y+dy); p.In(a.Bounds()) {
						sum += grayAt(a, p) - grayAt(b, p)
						n++
					}
				}
			}
			worst = max(worst, sum/n, -sum/n)
		}
	}
	return worst
}

func grayAt(i image.Image, p image.Point) float64 {
	return float64(color.GrayModel.Convert(i.At(p.X, p.Y)).(color.Gray).Y)
}

func beside(a, b image.Image) image.Image {
	out := image.NewGray(image.Rect(0, 0, a.Bounds().Dx()+b.Bounds().Dx()+4, max(a.Bounds().Dy(), b.Bounds().Dy())))
	for i, p := range []image.Image{a, b} {
		for y := range p.Bounds().Dy() {
			for x := range p.Bounds().Dx() {
				out.Set(x+i*(a.Bounds().Dx()+4), y, p.At(x, y))
			}
		}
	}
	return out
}

func writePNG(t *testing.T, file string, i image.Image) {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, i))
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
}
