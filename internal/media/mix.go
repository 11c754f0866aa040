package media

import (
	"errors"
	"io"
	"math"

	"brightchalk/internal/core/recording"
)

// mono reads a sound as one channel. A file of two is read twice: first to see what its channels are to each other.
func mono(open func() (*source, error)) (recording.Clip, error) {
	s, err := open()
	if err != nil {
		return recording.Clip{}, err
	}
	left, right := 1.0, 0.0
	if s.channels == 2 {
		var sums correlation
		if err := s.each(sums.add); err != nil {
			return recording.Clip{}, err
		}
		left, right = sums.weights()
		if s, err = open(); err != nil {
			return recording.Clip{}, err
		}
	}
	clip := recording.Clip{Hertz: s.hertz, Samples: make([]float64, 0, s.frames)}
	err = s.each(func(block []float64) {
		if s.channels == 1 {
			clip.Samples = append(clip.Samples, block...)
			return
		}
		for i := 0; i+1 < len(block); i += 2 {
			clip.Samples = append(clip.Samples, left*block[i]+right*block[i+1])
		}
	})
	if err != nil {
		return recording.Clip{}, err
	}
	if s.lead > 0 && s.lead+s.tail < len(clip.Samples) {
		clip.Samples = clip.Samples[s.lead : len(clip.Samples)-s.tail]
	}
	if len(clip.Samples) == 0 {
		return clip, errNoSound
	}
	return clip, nil
}

// each hands every block on; the error is a Refusal, also of a sound that is too long.
func (s *source) each(f func(block []float64)) error {
	most := (s.hertz*MaxSoundSeconds + s.lead + s.tail) * s.channels
	for n := 0; ; {
		block, err := s.next()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		if n += len(block); n > most {
			return errLong
		}
		f(block)
	}
}

// correlation sums up two channels.
type correlation struct{ left, right, both float64 }

func (c *correlation) add(block []float64) {
	for i := 0; i+1 < len(block); i += 2 {
		l, r := block[i], block[i+1]
		if math.IsNaN(l) || math.IsNaN(r) || math.IsInf(l, 0) || math.IsInf(r, 0) {
			continue
		}
		c.left += l * l
		c.right += r * r
		c.both += l * r
	}
}

// What two channels are to each other; common practice, no published source.
const (
	deadChannel = 0.003 // of the other's power: 25 dB
	opposite    = -0.5  // correlation of channels of which one is wired the wrong way round
)

// weights are the shares of the channels in the one that is made of them.
func (c *correlation) weights() (left, right float64) {
	switch {
	case c.right < deadChannel*c.left:
		return 1, 0
	case c.left < deadChannel*c.right:
		return 0, 1
	case c.both < opposite*math.Sqrt(c.left*c.right):
		return 0.5, -0.5
	}
	return 0.5, 0.5
}
