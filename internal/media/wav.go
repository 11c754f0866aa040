package media

import (
	"encoding/binary"
	"errors"
	"io"
	"math"
)

// wavFormat is the fmt part of a WAV file.
type wavFormat struct {
	Format, Channels     uint16
	Hertz, BytesASecond  uint32
	BlockBytes, BitDepth uint16
}

// wavParts finds the format of a RIFF file and where its samples are. Sizes in the file are not trusted: a part ends
// with the file at the latest, and a size of 0, as a recorder leaves that was cut off, means all that follows. The
// library that was here before allocates by those sizes.
func wavParts(file io.ReaderAt, size int64) (f wavFormat, from, to int64, ok bool) {
	var head [8]byte
	for at := int64(12); at+8 <= size; {
		if _, err := file.ReadAt(head[:], at); err != nil && !errors.Is(err, io.EOF) {
			return f, 0, 0, false
		}
		name, length := string(head[:4]), int64(binary.LittleEndian.Uint32(head[4:]))
		body := at + 8
		switch {
		case name == "data" && length == 0:
			return f, body, size, ok
		case name == "data":
			return f, body, min(body+length, size), ok
		case name == "fmt " && body+16 <= size:
			var raw [26]byte
			n, _ := file.ReadAt(raw[:], body)
			_, _ = binary.Decode(raw[:], binary.LittleEndian, &f)
			if f.Format == 0xFFFE && n >= 26 { // extensible: the real format starts its long name
				f.Format = binary.LittleEndian.Uint16(raw[24:])
			}
			ok = true
		}
		at += 8 + length + length%2
	}
	return f, 0, 0, false
}

// openWAV reads a WAV file of 8 to 32 bit or 32- or 64-bit float.
func openWAV(file io.ReaderAt, size int64) (*source, error) {
	f, from, to, ok := wavParts(file, size)
	if !ok {
		return nil, errNoSound
	}
	channels, bits, hertz, float := int(f.Channels), int(f.BitDepth), int(f.Hertz), f.Format == 3
	if err := bounds(channels, hertz); err != nil {
		return nil, err
	}
	if f.Format != 1 && !float || float && bits != 32 && bits != 64 ||
		!float && bits != 8 && bits != 16 && bits != 24 && bits != 32 {
		return nil, refuse(
			"The WAV file is packed in a way that is not known here (format %d, %d bit). Save it as 16-bit PCM.",
			f.Format,
			bits,
		)
	}
	width := bits / 8
	frame := int64(width * channels)
	n := (to - from) / frame
	if n > int64(hertz)*MaxSoundSeconds {
		return nil, errLong
	}
	const atOnce = 4096 // frames
	raw, block := make([]byte, atOnce*frame), make([]float64, atOnce*channels)
	at, end := from, from+n*frame
	return &source{channels: channels, hertz: hertz, frames: int(n), next: func() ([]float64, error) {
		if at >= end {
			return nil, io.EOF
		}
		part := raw[:min(int64(len(raw)), end-at)]
		if got, err := file.ReadAt(part, at); got < len(part) && err != nil {
			return nil, refuse("The WAV file breaks off.")
		}
		at += int64(len(part))
		out := block[:len(part)/width]
		for i := range out {
			out[i] = sample(part[i*width:], bits, float)
		}
		return out, nil
	}}, nil
}

func sample(b []byte, bits int, float bool) float64 {
	switch {
	case float && bits == 64:
		return math.Float64frombits(binary.LittleEndian.Uint64(b))
	case float:
		return float64(math.Float32frombits(binary.LittleEndian.Uint32(b)))
	case bits == 8:
		return (float64(b[0]) - 128) / 128
	case bits == 16:
		return float64(int16(binary.LittleEndian.Uint16(b))) / (1 << 15)
	case bits == 24:
		return float64(int32(b[0])<<8|int32(b[1])<<16|int32(b[2])<<24) / (1 << 31)
	}
	return float64(int32(binary.LittleEndian.Uint32(b))) / (1 << 31)
}
