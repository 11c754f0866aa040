package main

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
)

// The script of bench and reference: what a phonetician would take of one take. It prints name, voiced frames,
// median pitch, loudest intensity, best harmonicity, and the medians of F1 and F2 around the loudest moment.
const praatScript = `s = Create Strings as file list: "takes", "%[1]s/*.wav"
n = Get number of strings
for i to n
	selectObject: s
	name$ = Get string: i
	w = Read from file: "%[1]s/" + name$
	p = To Pitch (ac): 0.005, 75, 15, "no", 0.03, 0.45, 0.01, 0.35, 0.14, 500
	v = Count voiced frames
	m = Get quantile: 0, 0, 0.5, "Hertz"
	selectObject: w
	it = To Intensity: 100, 0.005, "yes"
	mx = Get maximum: 0, 0, "Parabolic"
	tm = Get time of maximum: 0, 0, "Parabolic"
	selectObject: w
	h = To Harmonicity (cc): 0.01, 75, 0.1, 1.0
	hm = Get maximum: 0, 0, "Parabolic"
	selectObject: w
	f = To Formant (burg): 0.005, 5, 5500, 0.025, 50
	f1 = Get quantile: 1, tm - 0.08, tm + 0.08, "hertz", 0.5
	f2 = Get quantile: 2, tm - 0.08, tm + 0.08, "hertz", 0.5
	a$ = name$ + tab$ + string$(v) + tab$ + fixed$(m, 1) + tab$ + fixed$(mx, 1)
	appendInfoLine: a$, tab$, fixed$(hm, 1), tab$, fixed$(f1, 0), tab$, fixed$(f2, 0)
	removeObject: w, p, it, h, f
endfor
`

// reference writes what Praat measures in the demo's takes; a test of the core compares with it.
func reference(takes, out string) error {
	dir, err := filepath.Abs(takes)
	if err != nil {
		return err
	}
	script := filepath.Join(os.TempDir(), "bright-chalk-reference.praat")
	if err := os.WriteFile(script, fmt.Appendf(nil, praatScript, dir), 0o600); err != nil {
		return err
	}
	found, err := exec.Command("praat", "--run", script).Output()
	if err != nil {
		return fmt.Errorf("run praat: %w", err)
	}
	version, err := exec.Command("praat", "--version").Output()
	if err != nil {
		return err
	}
	head := "# " + strings.TrimSpace(
		string(version),
	) + ", by go run ./tools/takes -reference\n# take, voiced frames, f0 Hz, intensity dB, harmonicity dB, F1 Hz, F2 Hz\n"
	return os.WriteFile(out, append([]byte(head), found...), 0o644)
}
