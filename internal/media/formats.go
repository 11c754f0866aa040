package media

import (
	"bytes"
	"encoding/binary"
	"errors"
	"io"

	mp3 "github.com/hajimehoshi/go-mp3"
	"github.com/jfreymuth/oggvorbis"
	"github.com/mewkiz/flac"

	"brightchalk/internal/core/recording"
)

// DecodeSound reads WAV, FLAC, MP3 or Ogg Vorbis, told apart by their first bytes, as mono. The error is a
// Refusal.
func DecodeSound(data []byte) (clip recording.Clip, err error) {
	defer func() {
		if p := recover(); p != nil { // decoders trust what files say of themselves
			clip, err = recording.Clip{}, refuse("The file is damaged: its parts do not fit together.")
		}
	}()
	switch {
	case len(data) == 0:
		return clip, refuse("The file is empty.")
	case len(data) > MaxSoundBytes:
		return clip, refuse("The file has %d MB; up to %d MB are taken.", len(data)>>20, MaxSoundBytes>>20)
	case bytes.HasPrefix(data, []byte("RIFF")) && len(data) >= 12 && string(data[8:12]) == "WAVE":
		return decodeWAV(data)
	case bytes.HasPrefix(data, []byte("fLaC")):
		return decodeFLAC(data)
	case bytes.HasPrefix(data, []byte("OggS")):
		if bytes.Contains(data[:min(len(data), 128)], []byte("OpusHead")) {
			return clip, refuse("This is Ogg Opus, which is not read here. Save the take as WAV or FLAC.")
		}
		return decodeVorbis(data)
	case bytes.HasPrefix(data, []byte("ID3")), len(data) > 1 && data[0] == 0xFF && data[1]&0xE0 == 0xE0:
		return decodeMP3(data)
	}
	return clip, refuse("This is no WAV, FLAC, MP3 or Ogg Vorbis file. Record in the browser, or save the take as WAV.")
}

// TypeOf is the media type of a file that DecodeSound reads, by its first bytes.
func TypeOf(data []byte) string {
	switch {
	case bytes.HasPrefix(data, []byte("fLaC")):
		return "audio/flac"
	case bytes.HasPrefix(data, []byte("OggS")):
		return "audio/ogg"
	case bytes.HasPrefix(data, []byte("RIFF")):
		return "audio/wav"
	}
	return "audio/mpeg"
}

func bounds(channels, hertz int) error {
	switch {
	case channels < 1 || channels > maxChannels:
		return refuse("The file has %d channels; one or two are taken.", channels)
	case hertz < 8000 || hertz > mostHertz:
		return refuse("The file has %d samples a second; 8,000 to 96,000 are taken.", hertz)
	}
	return nil
}

var errLong = refuse("The take is longer than %d seconds. One sound is enough.", MaxSoundSeconds)

func decodeFLAC(data []byte) (recording.Clip, error) {
	s, err := flac.New(bytes.NewReader(data))
	if err != nil {
		return recording.Clip{}, refuse("The FLAC file is damaged at its start.")
	}
	channels, hertz := int(s.Info.NChannels), int(s.Info.SampleRate)
	if err := bounds(channels, hertz); err != nil {
		return recording.Clip{}, err
	}
	clip := recording.Clip{Hertz: hertz}
	scale := 1 / float64(int64(1)<<(s.Info.BitsPerSample-1)) / float64(channels)
	for {
		f, err := s.ParseNext()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return recording.Clip{}, refuse("The FLAC file breaks off or is damaged.")
		}
		for i := range f.Subframes[0].NSamples {
			v := 0.0
			for _, sub := range f.Subframes {
				v += float64(sub.Samples[i]) * scale
			}
			clip.Samples = append(clip.Samples, v)
		}
		if len(clip.Samples) > hertz*MaxSoundSeconds {
			return recording.Clip{}, errLong
		}
	}
	return notEmpty(clip)
}

func notEmpty(c recording.Clip) (recording.Clip, error) {
	if len(c.Samples) == 0 {
		return c, refuse("The file holds no sound.")
	}
	return c, nil
}

func decodeVorbis(data []byte) (recording.Clip, error) {
	r, err := oggvorbis.NewReader(bytes.NewReader(data))
	if err != nil {
		return recording.Clip{}, refuse("The Ogg file is damaged, or holds no Vorbis sound.")
	}
	channels, hertz := r.Channels(), r.SampleRate()
	if err := bounds(channels, hertz); err != nil {
		return recording.Clip{}, err
	}
	clip := recording.Clip{Hertz: hertz}
	buffer := make([]float32, 4096*channels)
	for {
		n, err := r.Read(buffer)
		for i := 0; i+channels <= n; i += channels {
			v := 0.0
			for c := range channels {
				v += float64(buffer[i+c]) / float64(channels)
			}
			clip.Samples = append(clip.Samples, v)
		}
		switch {
		case len(clip.Samples) > hertz*MaxSoundSeconds:
			return recording.Clip{}, errLong
		case errors.Is(err, io.EOF):
			return notEmpty(clip)
		case err != nil:
			return recording.Clip{}, refuse("The Ogg file breaks off or is damaged.")
		}
	}
}

func decodeMP3(data []byte) (recording.Clip, error) {
	if bytes.HasPrefix(data, []byte("ID3")) { // skipped here: the decoder allocates what the tag says of its size
		if len(data) < 10 {
			return recording.Clip{}, refuse("The MP3 file breaks off in its tag.")
		}
		size := 10 + int(data[6]&127)<<21 + int(data[7]&127)<<14 + int(data[8]&127)<<7 + int(data[9]&127)
		data = data[min(size, len(data)):]
	}
	d, err := mp3.NewDecoder(bytes.NewReader(data))
	if err != nil {
		return recording.Clip{}, refuse("The MP3 file is damaged at its start.")
	}
	hertz := d.SampleRate()
	if err := bounds(1, hertz); err != nil {
		return recording.Clip{}, err
	}
	limit := int64(hertz) * 4 * (MaxSoundSeconds + 1)
	raw, err := io.ReadAll(io.LimitReader(d, limit)) // 16 bit, two channels, whatever the file has
	if err != nil && len(raw) == 0 {
		return recording.Clip{}, refuse("The MP3 file breaks off or is damaged.")
	}
	clip := recording.Clip{Hertz: hertz, Samples: make([]float64, len(raw)/4)}
	for i := range clip.Samples {
		left, right := int16(binary.LittleEndian.Uint16(raw[4*i:])), int16(binary.LittleEndian.Uint16(raw[4*i+2:]))
		clip.Samples[i] = (float64(left) + float64(right)) / (1 << 16)
	}
	if lead, tail := encoderPadding(data); lead > 0 && lead+tail < len(clip.Samples) {
		clip.Samples = clip.Samples[lead : len(clip.Samples)-tail]
	}
	if len(clip.Samples) > hertz*MaxSoundSeconds {
		return recording.Clip{}, errLong
	}
	return notEmpty(clip)
}

// encoderPadding is how many samples at either end an MP3 encoder added, by the tag in the first frame (LAME
// tag, revision 1; from memory), with the frame that holds the tag and the delay of the decoder; 0, 0 where
// there is no tag.
func encoderPadding(data []byte) (lead, tail int) {
	head := data[:min(len(data), 4096)]
	at := max(bytes.Index(head, []byte("Xing")), bytes.Index(head, []byte("Info")))
	if at < 0 || at+8 > len(head) {
		return 0, 0
	}
	flags := binary.BigEndian.Uint32(head[at+4:])
	tag := at + 8
	for bit, size := range []int{4, 4, 100, 4} {
		if flags&(1<<bit) != 0 {
			tag += size
		}
	}
	if tag+24 > len(head) {
		return 0, 0
	}
	delay := int(head[tag+21])<<4 | int(head[tag+22])>>4
	padding := int(head[tag+22]&15)<<8 | int(head[tag+23])
	const tagFrame, decoder = 1152, 529
	return tagFrame + delay + decoder, max(0, padding-decoder)
}
