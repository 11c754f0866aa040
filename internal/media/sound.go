// Package media decodes and checks the sounds and pictures that come in, and writes the sounds that go out.
package media

import (
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
	maxHertz        = 96_000
)

// ErrRefused is the code of every refusal of a file; its sentence is meant for the person who sent it.
const ErrRefused fault.Code = "file-refused"

func refuse(format string, args ...any) error { return fault.New(ErrRefused, format, args...) }

// What a master is: 16-bit mono at one rate and one loudness.
const (
	MasterHertz = 44_100
	masterLUFS  = -23.0 // the target of EBU R 128
	masterPeak  = 0.89  // -1 dBFS
	fadeMs      = 5
	rumbleHertz = 70.0
	maxGain     = 30.0
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
		gain = min(maxGain, math.Pow(10, (masterLUFS-lufs)/20), masterPeak/max(peak, 1e-6))
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
