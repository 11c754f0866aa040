package media_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/media"
)

// wav writes a sine of 0.5 in the given packing; format 3 is float.
func wav(hertz, channels, bits, format int) []byte {
	var data bytes.Buffer
	for i := range hertz / 4 {
		v := 0.5 * math.Sin(2*math.Pi*440*float64(i)/float64(hertz))
		for range channels {
			switch {
			case format == 3:
				_ = binary.Write(&data, binary.LittleEndian, float32(v))
			case bits == 8:
				data.WriteByte(byte(128 + v*127))
			case bits == 16:
				_ = binary.Write(&data, binary.LittleEndian, int16(v*32767))
			case bits == 24:
				n := int32(v * 8388607)
				data.Write([]byte{byte(n), byte(n >> 8), byte(n >> 16)})
			case bits == 32:
				_ = binary.Write(&data, binary.LittleEndian, int32(v*2147483647))
			}
		}
	}
	var b bytes.Buffer
	put := func(v any) { _ = binary.Write(&b, binary.LittleEndian, v) }
	b.WriteString("RIFF")
	put(uint32(36 + data.Len()))
	b.WriteString("WAVEfmt ")
	put(uint32(16))
	put([]uint16{uint16(format), uint16(channels)})
	put([]uint32{uint32(hertz), uint32(hertz * channels * bits / 8)})
	put([]uint16{uint16(channels * bits / 8), uint16(bits)})
	b.WriteString("data")
	put(uint32(data.Len()))
	b.Write(data.Bytes())
	return b.Bytes()
}

func TestWAVOfEveryKind(t *testing.T) {
	for _, r := range []struct{ hertz, channels, bits, format int }{{8000, 1, 8, 1}, {44100, 1, 16, 1}, {
		48000, 2,
		16, 1,
	}, {44100, 2, 24, 1}, {96000, 1, 32, 1}, {22050, 1, 32, 3}} {
		clip, err := media.DecodeSound(wav(r.hertz, r.channels, r.bits, r.format))
		require.NoError(t, err, "%+v", r)
		assert.Equal(t, r.hertz, clip.Hertz)
		require.Len(t, clip.Samples, r.hertz/4, "%+v", r)
		peak := 0.0
		for _, v := range clip.Samples {
			peak = max(peak, math.Abs(v))
		}
		assert.InDelta(t, 0.5, peak, 0.01, "%+v", r)
	}
}

func TestRefusedSounds(t *testing.T) {
	good := wav(44100, 1, 16, 1)
	many := wav(8000, 24, 16, 1)
	rows := map[string][]byte{
		"The file is empty":        {},
		"no WAV, FLAC, MP3 or Ogg": []byte("just some text, named take.wav"),
		"24 channels":              many,
		"holds no sound":           good[:44],
		"samples a second":         wav(4000, 1, 16, 1),
		"longer than 60": append(
			wav(8000, 1, 8, 1)[:40],
			append([]byte{0xff, 0xff, 0xff, 0x00}, make([]byte, 8000*61)...)...),
	}
	for says, data := range rows {
		_, err := media.DecodeSound(data)
		require.ErrorIs(t, err, media.ErrRefused, says)
		assert.ErrorContains(t, err, says)
	}
	_, err := media.DecodeSound(good[:30])
	require.ErrorIs(t, err, media.ErrRefused)
}

func encoded(t *testing.T, w, h int, asPNG bool) []byte {
	t.Helper()
	img := image.NewGray(image.Rect(0, 0, w, h))
	img.Set(w/2, h/2, color.White)
	var b bytes.Buffer
	if asPNG {
		require.NoError(t, png.Encode(&b, img))
	} else {
		require.NoError(t, jpeg.Encode(&b, img, nil))
	}
	return b.Bytes()
}

func TestPictures(t *testing.T) {
	p, err := media.CleanPicture(encoded(t, 300, 200, true))
	require.NoError(t, err)
	assert.Equal(t, "image/png", p.MediaType)
	p, err = media.CleanPicture(encoded(t, 4000, 2000, false))
	require.NoError(t, err)
	size, _, err := image.DecodeConfig(bytes.NewReader(p.Bytes))
	require.NoError(t, err)
	assert.Equal(t, 1600, size.Width)
	assert.Contains(t, p.Remarks[0], "Made smaller")
}

// bomb is a PNG header that claims far more points than the file holds.
func bomb(t *testing.T) []byte {
	data := encoded(t, 64, 64, true)
	binary.BigEndian.PutUint32(data[16:], 60_000)
	binary.BigEndian.PutUint32(data[20:], 60_000)
	return data
}

func TestRefusedPictures(t *testing.T) {
	for says, data := range map[string][]byte{
		"empty": {}, "no picture": []byte("hello"), "only 1 by 1": encoded(t,
			1, 1, true), "damaged": []byte("\x89PNG nonsense"), "more than 6 MB": make([]byte, 7<<20),
		"not well formed": []byte("<svg><g></svg>"),
	} {
		_, err := media.CleanPicture(data)
		require.ErrorIs(t, err, media.ErrRefused, says)
		assert.ErrorContains(t, err, says)
	}
	_, err := media.CleanPicture(bomb(t))
	require.ErrorIs(t, err, media.ErrRefused)
}

func TestSVGIsCleaned(t *testing.T) {
	dirty := `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY x "y">]><svg xmlns="http://www.w3.org/2000/svg"
 xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 10 10" onload="alert(1)">
<script>alert(1)</script><foreignObject><body onclick="x()"/></foreignObject>
<image href="https://outside.example/x.png"/><style>@import url(https://outside.example)</style>
<rect width="5" height="5" style="fill:#f00;background:url(https://outside.example/a)" onclick="x()"/>
<use xlink:href="https://outside.example/#a"/><use href="#a"/>
<path d="M0 0L5 5" fill="url(https://outside.example)"/>
<a href="javascript:alert(1)"><rect width="1"/></a><title>A &amp; b</title></svg>`
	p, err := media.CleanPicture([]byte(dirty))
	require.NoError(t, err)
	out := string(p.Bytes)
	for _, bad := range []string{
		"script", "onload", "onclick", "outside.example", "foreignObject", "javascript",
		"style", "image", "ENTITY",
	} {
		assert.NotContains(t, out, bad)
	}
	assert.Contains(t, out, `<rect width="5" height="5" fill="#f00">`)
	assert.Contains(t, out, `href="#a"`)
	assert.Contains(t, out, "A &amp; b")
	assert.Contains(t, strings.Join(p.Remarks, " "), "script")
	again, err := media.CleanPicture(p.Bytes)
	require.NoError(t, err)
	assert.Empty(t, again.Remarks, "a clean picture stays as it is")
	assert.Equal(t, out, string(again.Bytes))
}

// What a browser would have to draw is bounded, not what the file holds: both files below have about 1 kB.
func TestSVGRepeatsWithBounds(t *testing.T) {
	nested := func(ref, last string) string {
		var b strings.Builder
		b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><defs><g id="a0"><path d="M0 0h1"/></g>`)
		for i := 1; i < 12; i++ {
			fmt.Fprintf(&b, `<g id="a%d">%s</g>`, i, strings.Repeat(fmt.Sprintf(ref, i-1), 8))
		}
		return b.String() + `</defs>` + last + `</svg>`
	}
	for name, text := range map[string]string{
		"use in use":     nested(`<use href="#a%d"/>`, `<use href="#a11"/>`),
		"mask in mask":   nested(`<rect mask="url(#a%d)"/>`, ""),
		"without an end": `<svg><g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g></svg>`,
		"of itself":      `<svg><g id="a"><use href="#a"/></g></svg>`,
		"deep":           "<svg>" + strings.Repeat("<g>", 5000) + strings.Repeat("</g>", 5000) + "</svg>",
	} {
		_, err := media.CleanPicture([]byte(text))
		require.ErrorIs(t, err, media.ErrRefused, name)
	}
	few := `<svg><defs><path id="leaf" d="M0 0h1"/></defs>` + strings.Repeat(`<use href="#leaf"/>`, 300) + `</svg>`
	_, err := media.CleanPicture([]byte(few))
	require.NoError(t, err)
}

// A picture is made smaller by the mean of what each point covers: black and white stripes of one point become grey,
// a see-through half stays see-through, and edges keep their place.
func TestPicturesAreMadeSmallerByMeans(t *testing.T) {
	big := image.NewNRGBA(image.Rect(0, 0, 3200, 1600))
	for y := range 1600 {
		for x := range 3200 {
			c := color.NRGBA{0, 0, 0, 255}
			if x%2 == 0 {
				c = color.NRGBA{255, 255, 255, 255}
			}
			if y >= 800 {
				c = color.NRGBA{200, 10, 10, 0}
			}
			big.SetNRGBA(x, y, c)
		}
	}
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, big))
	p, err := media.CleanPicture(b.Bytes())
	require.NoError(t, err)
	small, err := png.Decode(bytes.NewReader(p.Bytes))
	require.NoError(t, err)
	require.Equal(t, image.Pt(1600, 800), small.Bounds().Size())
	for _, at := range []image.Point{{0, 0}, {800, 399}, {1599, 200}} {
		r, _, _, a := small.At(at.X, at.Y).RGBA()
		require.InDelta(t, 127, r>>8, 2, at)
		require.EqualValues(t, 255, a>>8)
	}
	_, _, _, a := small.At(800, 400).RGBA()
	require.Zero(t, a)
}

// Sixteen bit, many points: 300 kB that would take 320 MB are refused before they are read.
func TestCostOfPicturesIsKnownBeforeTheyAreRead(t *testing.T) {
	deep := image.NewGray16(image.Rect(0, 0, 64, 64))
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, deep))
	data := b.Bytes()
	binary.BigEndian.PutUint32(data[16:], 6000)
	binary.BigEndian.PutUint32(data[20:], 6000)
	binary.BigEndian.PutUint32(data[29:], crc32.ChecksumIEEE(data[12:29]))
	require.Greater(t, media.PictureCost(data), int64(270<<20))
	_, err := media.CleanPicture(data)
	require.ErrorIs(t, err, media.ErrRefused)
	require.ErrorContains(t, err, "memory")
}

// A picture that is taken is one that can be shown, it holds no script, and cleaning it again changes nothing.
func FuzzCleanPicture(f *testing.F) {
	var small bytes.Buffer
	_ = png.Encode(&small, image.NewNRGBA(image.Rect(0, 0, 16, 16)))
	f.Add(small.Bytes())
	var photo bytes.Buffer
	_ = jpeg.Encode(&photo, image.NewGray(image.Rect(0, 0, 16, 16)), nil)
	f.Add(photo.Bytes())
	f.Add(
		[]byte(
			`<svg viewBox="0 0 4 4"><title>a &amp; b</title><use href="#a"/>
			<g id="a" style="fill:red;x:y"><path d="M0 0"/></g></svg>`,
		),
	)
	f.Add([]byte(`<svg onload="x"><script>x</script><a href="javascript:x"/><image href="http://x"/></svg>`))
	bad := regexp.MustCompile(`(?i)<script|\son[a-z]+\s*=|javascript:|<image|<foreignObject|href="[^#]`)
	f.Fuzz(func(t *testing.T, data []byte) {
		if media.PictureCost(data) > 64<<20 {
			return
		}
		p, err := media.CleanPicture(data)
		if err != nil {
			return
		}
		if p.MediaType == "image/png" {
			if _, err := png.Decode(bytes.NewReader(p.Bytes)); err != nil {
				t.Fatal(err)
			}
			return
		}
		if bad.Match(p.Bytes) {
			t.Fatalf("%s", p.Bytes)
		}
		again, err := media.CleanSVG(p.Bytes)
		if err != nil || !bytes.Equal(again.Bytes, p.Bytes) {
			t.Fatalf("%v\n%s\n%s", err, p.Bytes, again.Bytes)
		}
	})
}
