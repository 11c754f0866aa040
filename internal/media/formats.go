package media

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"errors"
	"io"

	mp3 "github.com/hajimehoshi/go-mp3"
	"github.com/jfreymuth/oggvorbis"
	"github.com/mewkiz/flac"

	"brightchalk/internal/core/recording"
)

// DecodeSound reads WAV, FLAC, MP3 or Ogg Vorbis, told apart by their first bytes, as mono; see DecodeFile.
func DecodeSound(data []byte) (recording.Clip, error) {
	return DecodeFile(bytes.NewReader(data), int64(len(data)))
}

// DecodeFile reads WAV, FLAC, MP3 or Ogg Vorbis, told apart by their first bytes, 8 to 96 kHz, one or two channels, as
// mono. Of two channels the mean is taken; a dead one is left out, and where they stand against each other one of them
// is turned. A file of PCM is never held whole. The error is a Refusal.
func DecodeFile(file io.ReaderAt, size int64) (clip recording.Clip, err error) {
	defer func() {
		if p := recover(); p != nil { // decoders trust what files say of themselves
			clip, err = recording.Clip{}, refuse("The file is damaged: its parts do not fit together.")
		}
	}()
	open, err := opener(file, size)
	if err != nil {
		return clip, err
	}
	return mono(open)
}

// source is a sound file that is being read: interleaved samples, block by block, until io.EOF.
type source struct {
	channels, hertz int
	frames          int // 0 where the file does not say
	next            func() ([]float64, error)
	lead, tail      int // frames at either end that are none of the sound
}

func opener(file io.ReaderAt, size int64) (func() (*source, error), error) {
	head := make([]byte, min(size, 128))
	if _, err := file.ReadAt(head, 0); err != nil && !errors.Is(err, io.EOF) {
		return nil, refuse("The file cannot be read.")
	}
	reader := func() *bufio.Reader { return bufio.NewReader(io.NewSectionReader(file, 0, size)) }
	switch {
	case size == 0:
		return nil, refuse("The file is empty.")
	case size > MaxSoundBytes:
		return nil, refuse("The file has %d MB; up to %d MB are taken.", size>>20, MaxSoundBytes>>20)
	case bytes.HasPrefix(head, []byte("RIFF")) && len(head) >= 12 && string(head[8:12]) == "WAVE":
		return func() (*source, error) { return openWAV(file, size) }, nil
	case bytes.HasPrefix(head, []byte("fLaC")):
		return func() (*source, error) { return openFLAC(reader()) }, nil
	case bytes.HasPrefix(head, []byte("OggS")):
		if bytes.Contains(head, []byte("OpusHead")) {
			return nil, refuse("This is Ogg Opus, which is not read here. Save the take as WAV or FLAC.")
		}
		if soundsInOgg(file, size) > 1 {
			return nil, errJoined
		}
		return func() (*source, error) { return openVorbis(reader()) }, nil
	case bytes.HasPrefix(head, []byte("ID3")), len(head) > 1 && head[0] == 0xFF && head[1]&0xE0 == 0xE0:
		return func() (*source, error) { return openMP3(file, size) }, nil
	}
	return nil, refuse("This is no WAV, FLAC, MP3 or Ogg Vorbis file. Record in the browser, or save the take as WAV.")
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
	case hertz < 8000 || hertz > maxHertz:
		return refuse("The file has %d samples a second; 8,000 to 96,000 are taken.", hertz)
	}
	return nil
}

var (
	errLong    = refuse("The take is longer than %d seconds. One sound is enough.", MaxSoundSeconds)
	errNoSound = refuse("The file holds no sound.")
	errJoined  = refuse("The file was joined from several sounds of different kinds. Save it anew as one, as WAV.")
)

func openFLAC(r io.Reader) (*source, error) {
	s, err := flac.New(r)
	if err != nil {
		return nil, refuse("The FLAC file is damaged at its start.")
	}
	channels, hertz := int(s.Info.NChannels), int(s.Info.SampleRate)
	if err := bounds(channels, hertz); err != nil {
		return nil, err
	}
	scale := 1 / float64(int64(1)<<(s.Info.BitsPerSample-1))
	var block []float64
	said := int(min(s.Info.NSamples, uint64(hertz)*MaxSoundSeconds))
	return &source{channels: channels, hertz: hertz, frames: said, next: func() ([]float64, error) {
		f, err := s.ParseNext()
		switch {
		case errors.Is(err, io.EOF):
			return nil, err
		case err != nil:
			return nil, refuse("The FLAC file breaks off or is damaged.")
		case f.SampleRate != 0 && int(f.SampleRate) != hertz:
			return nil, errJoined
		}
		block = block[:0]
		for i := range f.Subframes[0].NSamples {
			for _, sub := range f.Subframes[:channels] {
				block = append(block, float64(sub.Samples[i])*scale)
			}
		}
		return block, nil
	}}, nil
}

// soundsInOgg counts the streams that begin in a file, by its pages (RFC 3533, from memory).
func soundsInOgg(file io.ReaderAt, size int64) (n int) {
	head := make([]byte, 27+255)
	for at := int64(0); at+27 <= size; {
		got, _ := file.ReadAt(head, at)
		if got < 27 || string(head[:4]) != "OggS" || got < 27+int(head[26]) {
			return n
		}
		if head[5]&2 != 0 {
			n++
		}
		at += 27 + int64(head[26])
		for _, length := range head[27 : 27+int(head[26])] {
			at += int64(length)
		}
	}
	return n
}

func openVorbis(in io.Reader) (*source, error) {
	r, err := oggvorbis.NewReader(in)
	if err != nil {
		return nil, refuse("The Ogg file is damaged, or holds no Vorbis sound.")
	}
	channels, hertz := r.Channels(), r.SampleRate()
	if err := bounds(channels, hertz); err != nil {
		return nil, err
	}
	buffer, block := make([]float32, 4096*channels), make([]float64, 4096*channels)
	return &source{channels: channels, hertz: hertz, next: func() ([]float64, error) {
		n, err := r.Read(buffer)
		for i, v := range buffer[:n] {
			block[i] = float64(v)
		}
		if err != nil && !errors.Is(err, io.EOF) {
			return nil, refuse("The Ogg file breaks off or is damaged.")
		}
		if n > 0 {
			return block[:n], nil
		}
		return nil, err
	}}, nil
}

// openMP3 reads 16 bit in two channels, whatever the file has.
func openMP3(file io.ReaderAt, size int64) (*source, error) {
	at := int64(0)
	head := make([]byte, 10)
	if n, _ := file.ReadAt(head, 0); n >= 3 && string(head[:3]) == "ID3" {
		// Skipped here: the decoder allocates what the tag says of its size.
		if n < len(head) {
			return nil, refuse("The MP3 file breaks off in its tag.")
		}
		at = min(size, 10+int64(head[6]&127)<<21+int64(head[7]&127)<<14+int64(head[8]&127)<<7+int64(head[9]&127))
	}
	if ratesInMP3(file, at, size) > 1 {
		return nil, errJoined
	}
	section := io.NewSectionReader(file, at, size-at)
	d, err := mp3.NewDecoder(bufio.NewReader(section))
	if err != nil {
		return nil, refuse("The MP3 file is damaged at its start.")
	}
	hertz := d.SampleRate()
	if err := bounds(1, hertz); err != nil {
		return nil, err
	}
	raw, block := make([]byte, 4*4096), make([]float64, 2*4096)
	started := false
	s := &source{channels: 2, hertz: hertz, next: func() ([]float64, error) {
		n, err := io.ReadFull(d, raw)
		n -= n % 4
		if n == 0 {
			if err != nil && !errors.Is(err, io.EOF) && !errors.Is(err, io.ErrUnexpectedEOF) && !started {
				return nil, refuse("The MP3 file breaks off or is damaged.")
			}
			return nil, io.EOF
		}
		started = true
		for i := range block[:n/2] {
			block[i] = float64(int16(binary.LittleEndian.Uint16(raw[2*i:]))) / (1 << 15)
		}
		return block[:n/2], nil
	}}
	tag := make([]byte, 4096)
	n, _ := section.ReadAt(tag, 0)
	s.lead, s.tail = encoderPadding(tag[:n])
	return s, nil
}

// ratesInMP3 counts the sample rates of the frames from a place on, as far as one follows the other (ISO 11172-3 and
// 13818-3, the header from memory).
func ratesInMP3(file io.ReaderAt, at, size int64) int {
	var (
		rates    = [4][3]int64{{11_025, 12_000, 8000}, {}, {22_050, 24_000, 16_000}, {44_100, 48_000, 32_000}}
		bitrates = [2][16]int64{
			{0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160, 0},
			{0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 0},
		}
		head [4]byte
	)
	seen := map[int64]bool{}
	for at+4 <= size {
		if _, err := file.ReadAt(head[:], at); err != nil {
			break
		}
		version, layer := head[1]>>3&3, head[1]>>1&3
		rate := int64(0)
		if i := head[2] >> 2 & 3; i < 3 {
			rate = rates[version][i]
		}
		perByte, first := int64(72_000), 0
		if version == 3 {
			perByte, first = 144_000, 1
		}
		bitrate := bitrates[first][head[2]>>4]
		if head[0] != 0xFF || head[1]&0xE0 != 0xE0 || layer != 1 || rate == 0 || bitrate == 0 {
			break
		}
		seen[rate] = true
		at += perByte*bitrate/rate + int64(head[2]>>1&1)
	}
	return len(seen)
}

// encoderPadding is how many samples at either end an MP3 encoder added, by the tag in the first frame (LAME
// tag, revision 1; from memory), with the frame that holds the tag and the delay of the decoder; 0, 0 where
// there is no tag.
func encoderPadding(head []byte) (lead, tail int) {
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

var endings = map[string]string{
	"audio/flac": ".flac", "audio/ogg": ".ogg", "audio/wav": ".wav", "audio/mpeg": ".mp3", "image/svg+xml": ".svg",
	"image/png": ".png",
}

// Ending is how the name of a file of a media type that is kept ends.
func Ending(mediaType string) string { return endings[mediaType] }
