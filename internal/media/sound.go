// Package media decodes and checks the sounds and pictures that come in, and writes the sounds that go out.
package media

import (
	"encoding/binary"
	"math"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/recording"
)

// Limits on what comes in.
const (
	MaxSoundBytes   = 24 << 20
	MaxSoundSeconds = 60
	MaxPictureBytes = 6 << 20
	maxChannels     = 2
	mostHertz       = 96_000
)

// ErrRefused is the code of every refusal of a file; its sentence is meant for the person who sent it.
const ErrRefused fault.Code = "file-refused"

func refuse(format string, args ...any) error { return fault.New(ErrRefused, format, args...) }

// wavFormat is the fmt part of a WAV file.
type wavFormat struct {
	Format, Channels     uint16
	Hertz, BytesASecond  uint32
	BlockBytes, BitDepth uint16
}

// wavParts finds the format and the samples of a RIFF file. Sizes in the file are not trusted: a part ends with
// the file at the latest, and a size of 0, as a recorder leaves that was cut off, means all that follows. The
// library that was here before allocates by those sizes.
func wavParts(data []byte) (f wavFormat, samples []byte, ok bool) {
	for at := 12; at+8 <= len(data); {
		name, size := string(data[at:at+4]), int(binary.LittleEndian.Uint32(data[at+4:]))
		body := data[at+8:]
		switch {
		case name == "data" && size == 0:
			return f, body, ok
		case name == "data":
			return f, body[:min(size, len(body))], ok
		case name == "fmt " && len(body) >= 16:
			_, _ = binary.Decode(body, binary.LittleEndian, &f)
			if f.Format == 0xFFFE && len(body) >= 26 { // extensible: the real format starts its long name
				f.Format = binary.LittleEndian.Uint16(body[24:])
			}
			ok = true
		}
		at += 8 + size + size%2
	}
	return f, nil, false
}

// decodeWAV reads a WAV file of 8 to 32 bit or 32- or 64-bit float, 8 to 96 kHz, one or two channels, as mono. A
// stereo file is averaged. The error is a Refusal.
func decodeWAV(data []byte) (clip recording.Clip, err error) {
	f, raw, ok := wavParts(data)
	if !ok {
		return clip, refuse("The WAV file holds no sound.")
	}
	channels, bits, hertz, format := int(f.Channels), int(f.BitDepth), int(f.Hertz), f.Format
	if err := bounds(channels, hertz); err != nil {
		return clip, err
	}
	if format != 1 && format != 3 || format == 3 && bits != 32 && bits != 64 ||
		format == 1 && bits != 8 && bits != 16 && bits != 24 && bits != 32 {
		return clip, refuse(
			"The WAV file is packed in a way that is not known here (format %d, %d bit). Save it as 16-bit PCM.",
			format,
			bits,
		)
	}
	if len(raw) > hertz*channels*bits/8*MaxSoundSeconds {
		return clip, errLong
	}
	width := bits / 8
	n := len(raw) / (width * channels)
	if n == 0 {
		return clip, refuse("The WAV file holds no sound.")
	}
	clip = recording.Clip{Hertz: hertz, Samples: make([]float64, n)}
	for i := range n {
		for c := range channels {
			clip.Samples[i] += sample(raw[(i*channels+c)*width:], bits, format == 3) / float64(channels)
		}
	}
	return clip, nil
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

// What a master is: 16-bit mono at one rate and one loudness.
const (
	MasterHertz = 44_100
	masterLUFS  = -23.0 // the target of EBU R 128
	masterPeak  = 0.89  // -1 dBFS
	fadeMs      = 5
	rumbleHertz = 70.0
	mostGain    = 30.0
)

// Part cuts a clip from startMs to endMs; bounds outside it are moved in.
func Part(c recording.Clip, startMs, endMs int) recording.Clip {
	from := max(0, min(startMs*c.Hertz/1000, len(c.Samples)))
	to := max(from, min(endMs*c.Hertz/1000, len(c.Samples)))
	return recording.Clip{Samples: c.Samples[from:to], Hertz: c.Hertz}
}

// Master is the part of a take from startMs to endMs with short fades, as mono at 44.1 kHz; its samples are
// steps of 16 bit. Unless plain, the constant part and rumble below 70 Hz are taken out first and the loudness
// is made the same for all takes, as far as the peak stays 1 dB under full scale. The clip is kept as it is.
func Master(c recording.Clip, startMs, endMs int, plain bool) recording.Clip {
	whole := make([]float64, len(c.Samples))
	for i, v := range c.Samples {
		if !math.IsNaN(v) && !math.IsInf(v, 0) {
			whole[i] = max(-1, min(1, v))
		}
	}
	if !plain {
		whole = highPass(highPass(whole, c.Hertz), c.Hertz)
	}
	part := Part(recording.Clip{Samples: whole, Hertz: c.Hertz}, startMs, endMs)
	out := recording.Resample(part.Samples, part.Hertz, MasterHertz)
	gain := 1.0
	if !plain {
		lufs, _ := recording.Loudness(out, MasterHertz)
		peak := 0.0
		for _, v := range out {
			peak = max(peak, math.Abs(v))
		}
		gain = min(mostGain, math.Pow(10, (masterLUFS-lufs)/20), masterPeak/max(peak, 1e-6))
	}
	const fade = MasterHertz * fadeMs / 1000
	master := recording.Clip{Hertz: MasterHertz, Samples: make([]float64, len(out))}
	for i, v := range out {
		f := min(1, float64(i+1)/float64(fade), float64(len(out)-i)/float64(fade))
		master.Samples[i] = float64(sixteen(v*gain*f)) / 32767
	}
	return master
}

// highPass is a second-order Butterworth filter at rumbleHertz.
func highPass(in []float64, hertz int) []float64 {
	w := math.Tan(math.Pi * rumbleHertz / float64(hertz))
	n := 1 / (1 + math.Sqrt2*w + w*w)
	a1, a2 := 2*(w*w-1)*n, (1-math.Sqrt2*w+w*w)*n
	out := make([]float64, len(in))
	var x1, x2, y1, y2 float64
	for i, x := range in {
		y := n*(x-2*x1+x2) - a1*y1 - a2*y2
		x2, x1, y2, y1 = x1, x, y1, y
		out[i] = y
	}
	return out
}
