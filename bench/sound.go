package main

import (
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"brightchalk/demo"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
)

const copies = 6 // of each of the demo's takes

// praatScript takes pitch, harmonicity, intensity and formants of all WAV files of a folder.
const praatScript = `s = Create Strings as file list: "takes", "%[1]s/*.wav"
n = Get number of strings
for i to n
	selectObject: s
	name$ = Get string: i
	w = Read from file: "%[1]s/" + name$
	p = To Pitch (ac): 0.005, 75, 15, "no", 0.03, 0.45, 0.01, 0.35, 0.14, 500
	selectObject: w
	h = To Harmonicity (cc): 0.01, 75, 0.1, 1.0
	selectObject: w
	it = To Intensity: 100, 0.005, "yes"
	selectObject: w
	f = To Formant (burg): 0.005, 5, 5500, 0.025, 50
	removeObject: w, p, h, it, f
endfor
`

// sound measures the judgement of takes against real time, against Praat on the same files, and its memory.
func sound() error {
	dir, err := os.MkdirTemp("", "bright-chalk-bench")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	names, err := fs.Glob(demo.Takes(), "takes/*.wav")
	if err != nil {
		return err
	}
	seconds := 0.0
	var files []string
	for i := range copies {
		for _, n := range names {
			data, err := fs.ReadFile(demo.Takes(), n)
			if err != nil {
				return err
			}
			clip, err := media.DecodeSound(data)
			if err != nil {
				return err
			}
			seconds += clip.Duration().Seconds()
			file := filepath.Join(dir, fmt.Sprintf("%d-%s", i, filepath.Base(n)))
			if err := os.WriteFile(file, data, 0o600); err != nil {
				return err
			}
			files = append(files, file)
		}
	}
	begin := time.Now()
	out, err := exec.Command("./bin/brightchalk", append([]string{"recording", "--sound", "m", "--json"}, files...)...).
		Output()
	if len(out) == 0 {
		return fmt.Errorf("judge: %w", err)
	}
	ours := time.Since(begin)
	fmt.Printf(
		"recording: %d takes, %.0f s of sound, judged by the command in %v: %.0f times real time (wanted: 150)\n",
		len(files),
		seconds,
		ours.Round(time.Millisecond),
		seconds/ours.Seconds(),
	)
	if praat, err := exec.LookPath("praat"); err != nil {
		fmt.Println("recording: praat is not installed; not compared")
	} else {
		script := filepath.Join(dir, "all.praat")
		if err := os.WriteFile(script, fmt.Appendf(nil, praatScript, dir), 0o600); err != nil {
			return err
		}
		begin = time.Now()
		if err := exec.Command(praat, "--run", script).Run(); err != nil {
			return fmt.Errorf("praat: %w", err)
		}
		theirs := time.Since(begin)
		fmt.Printf(
			"recording: one Praat script on the same files: %v, ours is %.1f times as fast (wanted: 5)\n",
			theirs.Round(time.Millisecond),
			theirs.Seconds()/ours.Seconds(),
		)
	}
	return minute(dir)
}

// minute compares what the command takes from the system for a take of 60 s and for one of a second.
func minute(dir string) error {
	most := func(seconds int) (int64, error) {
		c := recording.Clip{Hertz: 44_100, Samples: make([]float64, seconds*44_100)}
		for i := range c.Samples {
			c.Samples[i] = 0.1 * float64((i*7919)%2000-1000) / 1000
		}
		file := filepath.Join(dir, fmt.Sprintf("long-%d.wav", seconds))
		if err := os.WriteFile(file, media.EncodeWAV(c), 0o600); err != nil {
			return 0, err
		}
		judge := exec.Command("./bin/brightchalk", "recording", "--sound", "s", "--json", file)
		if err := judge.Start(); err != nil {
			return 0, err
		}
		over := make(chan struct{})
		go func() { _ = judge.Wait(); close(over) }() // its status is the verdict
		peak := int64(0)
		for {
			// What wait reports would count this process's own memory too, from before the exec.
			status, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", judge.Process.Pid))
			if _, after, ok := strings.Cut(string(status), "VmHWM:"); ok {
				var kb int64
				if _, err := fmt.Sscan(after, &kb); err == nil {
					peak = max(peak, kb)
				}
			}
			select {
			case <-over:
				return peak, nil
			case <-time.After(2 * time.Millisecond):
			}
		}
	}
	short, err := most(1)
	if err != nil {
		return err
	}
	long, err := most(60)
	if err != nil {
		return err
	}
	fmt.Printf("recording: a take of 60 s needs %d MB more than one of a second (wanted: under 60)\n", (long-short)/1024)
	return nil
}
