package media

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"

	"github.com/mewkiz/flac"
	"github.com/mewkiz/flac/frame"
	"github.com/mewkiz/flac/meta"

	"brightchalk/internal/core/recording"
)

const flacBlock = 4096

// EncodeFLAC is the small copy of a master for pages and packs: the same 16-bit mono samples without loss.
func EncodeFLAC(master recording.Clip) ([]byte, error) {
	n := len(master.Samples)
	if n == 0 {
		return nil, fmt.Errorf("encode FLAC: no samples")
	}
	info := &meta.StreamInfo{
		BlockSizeMin:  flacBlock,
		BlockSizeMax:  flacBlock,
		SampleRate:    uint32(master.Hertz),
		NChannels:     1,
		BitsPerSample: 16,
		NSamples:      uint64(n),
	}
	var out bytes.Buffer
	e, err := flac.NewEncoder(&out, info)
	if err != nil {
		return nil, fmt.Errorf("encode FLAC: %w", err)
	}
	for at := 0; at < n; at += flacBlock {
		block := master.Samples[at:min(at+flacBlock, n)]
		samples := make([]int32, len(block))
		for i, v := range block {
			samples[i] = int32(sixteen(v))
		}
		f := &frame.Frame{
			Header: frame.Header{
				HasFixedBlockSize: true,
				BlockSize:         uint16(len(samples)),
				SampleRate:        info.SampleRate,
				Channels:          frame.ChannelsMono,
				BitsPerSample:     16,
				Num:               uint64(at / flacBlock),
			},
			Subframes: []*frame.Subframe{
				{SubHeader: frame.SubHeader{Pred: frame.PredVerbatim}, Samples: samples, NSamples: len(samples)},
			},
		}
		if err := e.WriteFrame(f); err != nil {
			return nil, fmt.Errorf("encode FLAC: %w", err)
		}
	}
	if err := e.Close(); err != nil {
		return nil, fmt.Errorf("encode FLAC: %w", err)
	}
	return out.Bytes(), nil
}

// EncodeWAV writes 16-bit mono PCM.
func EncodeWAV(c recording.Clip) []byte {
	var b bytes.Buffer
	put := func(v any) { _ = binary.Write(&b, binary.LittleEndian, v) }
	size := 2 * len(c.Samples)
	b.WriteString("RIFF")
	put(uint32(36 + size))
	b.WriteString("WAVEfmt ")
	put(uint32(16))
	put([2]uint16{1, 1})
	put([2]uint32{uint32(c.Hertz), uint32(c.Hertz * 2)})
	put([2]uint16{2, 16})
	b.WriteString("data")
	put(uint32(size))
	samples := make([]int16, len(c.Samples))
	for i, v := range c.Samples {
		samples[i] = sixteen(v)
	}
	put(samples)
	return b.Bytes()
}

func sixteen(v float64) int16 { return int16(math.Round(max(-1, min(1, v)) * 32767)) }
