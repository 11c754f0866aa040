package attack

import (
	"bytes"
	"context"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"net/http"
	"strings"
	"sync"
	"time"
)

const square = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"><rect width="4" height="4"/></svg>`

// tone is a WAV file of 16 bit with a low voice that swells, so that one attempt is heard.
func tone(hertz int, seconds float64) []byte {
	n := int(float64(hertz) * seconds)
	var b bytes.Buffer
	b.WriteString("RIFF")
	_ = binary.Write(&b, binary.LittleEndian, uint32(36+2*n))
	b.WriteString("WAVEfmt ")
	_ = binary.Write(&b, binary.LittleEndian, struct {
		Size             uint32
		Format, Channels uint16
		Hertz, Bytes     uint32
		Block, Bits      uint16
	}{16, 1, 1, uint32(hertz), uint32(2 * hertz), 2, 16})
	b.WriteString("data")
	_ = binary.Write(&b, binary.LittleEndian, uint32(2*n))
	for i := range n {
		at := float64(i) / float64(hertz)
		v := 0.3 * math.Sin(2*math.Pi*140*at) * (0.7 + 0.3*math.Sin(at))
		_ = binary.Write(&b, binary.LittleEndian, int16(v*32767))
	}
	return b.Bytes()
}

// bomb is a small file that grows.
type bomb struct {
	name, path string
	make       func() []byte
}

func encodePNG(m image.Image) []byte {
	var b bytes.Buffer
	_ = png.Encode(&b, m)
	return b.Bytes()
}

// claims says in a PNG's head that it has so many points.
func claims(data []byte, w, h uint32) []byte {
	out := bytes.Clone(data)
	binary.BigEndian.PutUint32(out[16:], w)
	binary.BigEndian.PutUint32(out[20:], h)
	binary.BigEndian.PutUint32(out[29:], crc32.ChecksumIEEE(out[12:29]))
	return out
}

func repeating(ref string, levels, times int) []byte {
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg"><g id="a0"><path d="M0 0h1"/></g>`)
	for i := 1; i < levels; i++ {
		fmt.Fprintf(&b, `<g id="a%d">%s</g>`, i, strings.Repeat(fmt.Sprintf(ref, i-1), times))
	}
	return []byte(b.String() + "</svg>")
}

var listBombs = []bomb{
	{
		"40 megapixels of 16 bit",
		"/api/pictures",
		func() []byte { return encodePNG(image.NewNRGBA64(image.Rect(0, 0, 6400, 6200))) },
	},
	{
		"24 megapixels of 8 bit",
		"/api/pictures",
		func() []byte { return encodePNG(image.NewNRGBA(image.Rect(0, 0, 6000, 4000))) },
	},
	{
		"24 megapixels of grey",
		"/api/pictures",
		func() []byte { return encodePNG(image.NewGray(image.Rect(0, 0, 6000, 4000))) },
	},
	{"two colours, very wide", "/api/pictures", func() []byte {
		return encodePNG(image.NewPaletted(image.Rect(0, 0, 12_000, 3300), color.Palette{color.Black, color.White}))
	}},
	{"a head that lies", "/api/pictures", func() []byte {
		return claims(encodePNG(image.NewNRGBA(image.Rect(0, 0, 64, 64))), 12_000, 3000)
	}},
	{"24 megapixels of JPEG", "/api/pictures", func() []byte {
		var b bytes.Buffer
		_ = jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, 6000, 4000)), nil)
		return b.Bytes()
	}},
	{"use in use", "/api/pictures", func() []byte { return repeating(`<use href="#a%d"/>`, 12, 8) }},
	{"mask in mask", "/api/pictures", func() []byte { return repeating(`<rect mask="url(#a%d)"/>`, 12, 8) }},
	{"6 MB of SVG", "/api/pictures", func() []byte {
		return []byte("<svg>" + strings.Repeat(`<path d="M0 0h1"/>`, 330_000) + "</svg>")
	}},
	{"a minute at 96 kHz", "/api/cards/{card}/takes", func() []byte { return tone(96_000, 59.9) }},
	{
		"22 MB of one sample",
		"/api/cards/{card}/takes",
		func() []byte { return append(tone(8000, 0.1), make([]byte, 22<<20)...) },
	},
	{"24 MB of nothing", "/api/cards/{card}/takes", func() []byte { return make([]byte, 24<<20) }},
	{"30 MB of nothing", "/api/cards/{card}/takes", func() []byte { return make([]byte, 30<<20) }},
}

// maxMemory is the target for a server under bombs, in MB.
const maxMemory = 400

// bombs sends each several times at once, then all mixed, and watches the memory of the process.
func bombs(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	lead, err := member(ctx, s.base, 0)
	if err != nil {
		return err
	}
	wall, err := cards(ctx, lead)
	if err != nil {
		return err
	}
	idle := s.memory()
	for _, b := range listBombs {
		data := b.make()
		statuses, peak := a.burst(ctx, s, lead, func(int) (string, []byte) { return b.path, data }, wall[0].CardID)
		a.Say("   %-24s %6d kB × %d: %v, peak %d MB", b.name, len(data)>>10, a.Uploads, statuses, peak)
		if peak > maxMemory {
			a.Find("%s: the process grows to %d MB", b.name, peak)
		}
		for status := range statuses {
			if status >= 500 && status != http.StatusServiceUnavailable {
				a.Find("%s: %d", b.name, status)
			}
		}
	}
	made := make([][]byte, len(listBombs))
	for i, b := range listBombs {
		made[i] = b.make()
	}
	_, peak := a.burst(ctx, s, lead, func(i int) (string, []byte) {
		return listBombs[i%len(listBombs)].path, made[i%len(listBombs)]
	}, wall[0].CardID)
	if peak > maxMemory {
		a.Find("all mixed: the process grows to %d MB", peak)
	}
	time.Sleep(time.Second)
	a.Say("   all mixed: peak %d MB; idle before %d MB, after %d MB", peak, idle, s.memory())
	if !ready(ctx, s.base) {
		a.Find("the server is gone after the bombs")
	}
	a.quiet(s, "bombs")
	return nil
}

func (a *Arena) burst(
	ctx context.Context,
	s *server,
	p person,
	what func(i int) (path string, data []byte),
	card string,
) (statuses map[int]int, peak int) {
	watching, stop := context.WithCancel(ctx)
	var watched sync.WaitGroup
	watched.Go(func() {
		for watching.Err() == nil {
			peak = max(peak, s.memory())
			time.Sleep(5 * time.Millisecond)
		}
	})
	statuses = map[int]int{}
	var mu sync.Mutex
	together(a.Uploads, func(i int) {
		path, data := what(i)
		path = strings.ReplaceAll(path, "{card}", card) + "?speaker=Ida&consent=yes"
		status, _, err := p.do(ctx, http.MethodPost, path, "application/octet-stream", data)
		if err != nil {
			status = 0
		}
		mu.Lock()
		defer mu.Unlock()
		statuses[status]++
	})
	stop()
	watched.Wait()
	return statuses, peak
}
