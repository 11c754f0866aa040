package main

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
)

// sample is a take with the moments at which it may turn, and the frame at which it does, 0 for never.
type sample struct {
	turns  []recording.Turn
	at     int
	source string
	sound  string
}

// fit finds the weights of recording's turns on the sources for tuning by logistic regression. Of a pure take the
// moment that scores best stands against those at which a vowel begins, found anew in each round.
func fit(dir string) error {
	data, err := os.ReadFile(filepath.Join(dir, "labels.tsv"))
	if err != nil {
		return err
	}
	samples := map[recording.Class][]sample{}
	for line := range strings.Lines(string(data)) {
		f := strings.Split(strings.TrimSpace(line), "\t")
		if f[0] == "file" || f[10] == "doubtful" || heldBack(f[3]) || f[2] != "pure" && f[2] != "added" {
			continue
		}
		target, err := recording.TargetOf(phoneme.SouthernBritish, f[1])
		if err != nil {
			return err
		}
		if target.Class != recording.Hum && target.Class != recording.Buzz {
			continue
		}
		wav, err := os.ReadFile(filepath.Join(dir, f[0]))
		if err != nil {
			return err
		}
		clip, err := media.DecodeSound(wav)
		if err != nil {
			return err
		}
		s := sample{turns: recording.Turns(clip, target), source: f[3], sound: f[1]}
		if f[2] == "added" {
			end, _ := strconv.ParseFloat(f[5], 64)
			vowel, _ := strconv.ParseFloat(f[6], 64)
			s.at = int((end - vowel) / 5)
		}
		if len(s.turns) > 0 {
			samples[target.Class] = append(samples[target.Class], s)
		}
	}
	for _, class := range []recording.Class{recording.Hum, recording.Buzz} {
		w := regress(samples[class])
		fmt.Printf("%s: {", class)
		for i, v := range w {
			fmt.Print(map[bool]string{true: ", ", false: ""}[i > 0], math.Round(v*100)/100)
		}
		fmt.Println("}")
		rates(samples[class], w)
		misses(samples[class], w)
	}
	return nil
}

func score(t recording.Turn, w []float64) (sum float64) {
	for i, v := range t.Features {
		sum += w[i] * v
	}
	return sum
}

// best is the moment that scores highest, among those near a frame where it is not 0. Engines end later than they are
// asked to, so that the label of a turn may be late.
func best(s sample, near int, w []float64) (recording.Turn, bool) {
	var out recording.Turn
	top := math.Inf(-1)
	for _, t := range s.turns {
		if near > 0 && (t.At < near-32 || t.At > near+12) {
			continue
		}
		if v := score(t, w); v > top {
			out, top = t, v
		}
	}
	return out, !math.IsInf(top, -1)
}

func regress(all []sample) []float64 {
	n := len(recording.Turn{}.Features)
	w := make([]float64, n)
	w[0], w[3], w[n-1] = 1, 1, -2
	var hard []recording.Turn // negatives of all rounds
	for round := range 8 {
		var xs []recording.Turn
		var ys, weights []float64
		positives := 0
		for _, s := range all {
			if s.at == 0 {
				continue
			}
			if t, ok := best(s, s.at, w); ok {
				xs, ys, weights = append(xs, t), append(ys, 1), append(weights, 1)
				positives++
			}
		}
		for i, s := range all {
			if s.at != 0 {
				continue
			}
			if round == 0 {
				for k := range 4 {
					hard = append(hard, s.turns[(i*7+k*len(s.turns)/4)%len(s.turns)])
				}
			}
			if t, ok := best(s, 0, w); ok {
				hard = append(hard, t)
			}
		}
		for _, t := range hard {
			xs, ys, weights = append(xs, t), append(ys, 0), append(weights, float64(positives)/float64(len(hard)))
		}
		w = logistic(xs, ys, weights, w)
	}
	return w
}

// logistic is regression by plain descent with a little shrinking.
func logistic(xs []recording.Turn, ys, weights, from []float64) []float64 {
	w := slices.Clone(from)
	total := 0.0
	for _, v := range weights {
		total += v
	}
	const steps, rate, shrink = 4000, 0.5, 2e-4
	for range steps {
		grad := make([]float64, len(w))
		for i, t := range xs {
			d := (1/(1+math.Exp(-score(t, w))) - ys[i]) * weights[i] / total
			for k, v := range t.Features {
				grad[k] += d * v
			}
		}
		for k := range w {
			w[k] -= rate * (grad[k] + shrink*w[k])
		}
	}
	return w
}

// rates prints what a threshold would cost, so that one can be chosen.
func rates(all []sample, w []float64) {
	for at := -2.0; at <= 2.01; at += 0.5 {
		pure, long := tally{}, tally{}
		for _, s := range all {
			t, ok := best(s, 0, w)
			says := ok && score(t, w) > at
			switch {
			case s.at == 0:
				pure.all++
				if !says {
					pure.good++
				}
			default:
				long.all++
				if says {
					long.good++
				}
			}
		}
		fmt.Printf("  over %4.1f: pure %s, vowels of any length %s\n", at, pure, long)
	}
}

// misses prints of which sources and sounds the wrong ones are, at even odds.
func misses(all []sample, w []float64) {
	wrong := map[string]int{}
	for _, s := range all {
		t, ok := best(s, 0, w)
		if says := ok && score(t, w) > 0; says != (s.at != 0) {
			wrong[fmt.Sprintf("%s %s %v", s.sound, s.source, map[bool]string{true: "missed", false: "false"}[s.at != 0])]++
		}
	}
	fmt.Println("  wrong:", wrong)
}
