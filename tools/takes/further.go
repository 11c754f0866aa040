package main

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
)

// shifted are other speakers made from every fifth piece of some engines: pitch and the length of the mouth moved by
// Praat, up and down. They belong to the source that they were made from.
func shifted(from []piece) ([]piece, error) {
	dir, err := os.MkdirTemp("", "bright-chalk-shift")
	if err != nil {
		return nil, fmt.Errorf("make a folder: %w", err)
	}
	defer os.RemoveAll(dir)
	var chosen []piece
	for i, p := range from {
		if i%5 == 0 && !strings.HasPrefix(p.engine, "formants") && len(p.samples) > p.hertz/20 {
			chosen = append(chosen, p)
		}
	}
	name := func(i int) string { return filepath.Join(dir, fmt.Sprintf("%04d.wav", i)) }
	for i, p := range chosen {
		if err := os.WriteFile(
			name(i),
			media.EncodeWAV(recording.Clip{Samples: p.samples, Hertz: p.hertz}),
			0o600,
		); err != nil {
			return nil, fmt.Errorf("write a piece: %w", err)
		}
	}
	script := filepath.Join(dir, "shift.praat")
	const lines = `list = Create Strings as file list: "takes", "%[1]s/*.wav"
n = Get number of strings
for i to n
    selectObject: list
    file$ = Get string: i
    s = Read from file: "%[1]s/" + file$
    ratio = 1.18
    if i mod 2 = 0
        ratio = 0.86
    endif
    t = nocheck Change gender: 60, 600, ratio, 0, 1, 1
    nocheck Save as WAV file: "%[1]s/" + file$
    nocheck Remove
    selectObject: s
    Remove
endfor
`
	if err := os.WriteFile(script, fmt.Appendf(nil, lines, dir), 0o600); err != nil {
		return nil, fmt.Errorf("write the script: %w", err)
	}
	if out, err := exec.Command("praat", "--run", script).CombinedOutput(); err != nil {
		return nil, fmt.Errorf("run praat: %w: %s", err, out)
	}
	var made []piece
	for i, p := range chosen {
		samples, hertz, err := readWAV(name(i))
		if err != nil {
			return nil, err
		}
		p.samples, p.hertz, p.engine = samples, hertz, p.engine+shift
		made = append(made, p)
	}
	return made, nil
}

const shift = "+shift"

// further are the conditions that were added later; they come from a chance of their own, so that the takes before them
// stay as they were: pauses as short as people leave who are quick with the key, and MP3 at 64 kbit/s.
func further(p piece, i int) ([]take, error) {
	rng := rand.New(rand.NewPCG(uint64(i), 11))
	if rng.IntN(3) > 0 {
		return nil, nil
	}
	first := takesOf(p, rng)[0]
	if rng.IntN(2) == 0 {
		h := float64(first.hertz)
		lead, tail := 0.06+0.09*rng.Float64(), 0.06+0.09*rng.Float64()
		from := max(0, int((first.startMs/1000-lead)*h))
		to := min(len(first.samples), int((first.endMs/1000+tail)*h))
		first.samples = first.samples[from:to]
		first.startMs -= float64(from) / h * 1000
		first.endMs -= float64(from) / h * 1000
		first.room = "short pauses"
		return []take{first}, nil
	}
	packed, err := throughMP3(first.samples, first.hertz)
	if err != nil {
		return nil, err
	}
	first.samples, first.hertz, first.room = packed.Samples, packed.Hertz, "mp3"
	return []take{first}, nil
}

// throughMP3 packs at 64 kbit/s with lame and unpacks as the application does.
func throughMP3(samples []float64, hertz int) (recording.Clip, error) {
	if hertz != 48_000 { // a rate that MP3 knows
		samples, hertz = recording.Resample(samples, hertz, 44_100), 44_100
	}
	c := exec.Command("lame", "--quiet", "-m", "m", "-b", "64", "-", "-")
	c.Stdin = strings.NewReader(string(media.EncodeWAV(recording.Clip{Samples: samples, Hertz: hertz})))
	data, err := c.Output()
	if err != nil {
		return recording.Clip{}, fmt.Errorf("lame: %w", err)
	}
	return media.DecodeSound(data)
}
