// Package media decodes and checks the sounds and pictures that come in, and writes the sounds that go out.
package media

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"

	"github.com/go-audio/wav"

	"brightchalk/internal/core/recording"
)

// Limits on what comes in.
const (
	MaxSoundBytes   = 24 << 20
	MaxSoundSeconds = 60
	MaxPictureBytes = 6 << 20
	maxChannels     = 2
)

// ErrRefused is wrapped by every refusal; its text is meant for the person who sent the file.
var ErrRefused = errors.New("refused")

// Refusal says what is wrong with a file in a sentence.
type Refusal struct{ Reason string }

func (r Refusal) Error() string { return r.Reason }
func (Refusal) Unwrap() error   { return ErrRefused }

func refuse(format string, args ...any) error { return Refusal{fmt.Sprintf(format, args...)} }

// DecodeWAV reads a WAV file of 8 to 32 bit or 32-bit float, 8 to 96 kHz, one or two channels, as mono. A
// stereo file is averaged. The error is a Refusal.
func DecodeWAV(data []byte) (clip recording.Clip, err error) {
	defer func() {
		if p := recover(); p != nil { // the decoder trusts chunk sizes
			clip, err = recording.Clip{}, refuse("The file is damaged: its parts do not fit together.")
		}
	}()
	switch {
	case len(data) == 0:
		return clip, refuse("The file is empty.")
	case len(data) > MaxSoundBytes:
		return clip, refuse("The file has %d MB; up to %d MB are taken.", len(data)>>20, MaxSoundBytes>>20)
	case len(data) < 12 || string(data[:4]) != "RIFF" || string(data[8:12]) != "WAVE":
		return clip, refuse("This is not a WAV file. Record in the browser, or save the take as WAV.")
	}
	d := wav.NewDecoder(bytes.NewReader(data))
	if err := d.FwdToPCM(); err != nil || d.PCMChunk == nil {
		return clip, refuse("The WAV file holds no sound.")
	}
	channels, bits, hertz := int(d.NumChans), int(d.BitDepth), int(d.SampleRate)
	switch {
	case channels < 1 || channels > maxChannels:
		return clip, refuse("The file has %d channels; one or two are taken.", channels)
	case hertz < 8000 || hertz > 96_000:
		return clip, refuse("The file has %d samples a second; 8,000 to 96,000 are taken.", hertz)
	}
	format := int(d.WavAudioFormat)
	if format == 0xFFFE { // extensible: the bits say enough for what people send
		format = 1
	}
	if format != 1 && format != 3 || format == 3 && bits != 32 || format == 1 && bits != 8 && bits != 16 && bits != 24 && bits != 32 {
		return clip, refuse("The WAV file is packed in a way that is not known here (format %d, %d bit). Save it as 16-bit PCM.", format, bits)
	}
	limit := int64(hertz*channels*bits/8) * MaxSoundSeconds
	raw, err := io.ReadAll(io.LimitReader(d.PCMChunk, limit+1))
	if err != nil && len(raw) == 0 {
		return clip, refuse("The WAV file breaks off before any sound.")
	}
	if int64(len(raw)) > limit {
		return clip, refuse("The take is longer than %d seconds. One sound is enough.", MaxSoundSeconds)
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

const (
	fadeSeconds = 0.005
	targetPeak  = 0.7
)

// TrimmedWAV is the part of a take from startMs to endMs with short fades, 16-bit mono at the clip's rate,
// raised or lowered to one peak level so that all takes sound alike.
func TrimmedWAV(c recording.Clip, startMs, endMs int) []byte {
	from := max(0, min(startMs*c.Hertz/1000, len(c.Samples)))
	to := max(from, min(endMs*c.Hertz/1000, len(c.Samples)))
	part := c.Samples[from:to]
	peak := 0.0
	for _, v := range part {
		if !math.IsNaN(v) {
			peak = max(peak, math.Abs(v))
		}
	}
	gain := 1.0
	if peak > 0 {
		gain = min(16, targetPeak/peak)
	}
	fade := max(1, int(fadeSeconds*float64(c.Hertz)))
	out := make([]int16, len(part))
	for i, v := range part {
		f := min(1, float64(i+1)/float64(fade), float64(len(part)-i)/float64(fade))
		if math.IsNaN(v) {
			v = 0
		}
		out[i] = int16(max(-1, min(1, v*gain*f)) * 32767)
	}
	return EncodeWAV(out, c.Hertz)
}

// EncodeWAV writes 16-bit mono PCM.
func EncodeWAV(samples []int16, hertz int) []byte {
	var b bytes.Buffer
	b.WriteString("RIFF")
	put := func(v any) { _ = binary.Write(&b, binary.LittleEndian, v) }
	put(uint32(36 + 2*len(samples)))
	b.WriteString("WAVEfmt ")
	put(uint32(16))
	put([2]uint16{1, 1})
	put([2]uint32{uint32(hertz), uint32(hertz * 2)})
	put([2]uint16{2, 16})
	b.WriteString("data")
	put(uint32(2 * len(samples)))
	put(samples)
	return b.Bytes()
}
