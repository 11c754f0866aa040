// Command takes makes a labelled set of takes with several engines and measures the judgement on it:
//
//	go run ./tools/takes -out /tmp/takes           # makes the set (Debian: espeak-ng, festival, flite, praat, lame)
//	go run ./tools/takes -out /tmp/takes -judge    # judges it and prints a table for the half that was not tuned on
//
// The set is not committed; the same seed makes it again. It is parted by source: whole engines and whole speakers are
// held back for the figures, the others are for tuning.
package main

import (
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
)

// label is what is known of a take.
type label struct {
	file, sound, kind, engine      string
	room                           string // what was done to it; empty is a quiet room
	startMs, endMs, vowelMs, snrDB float64
}

// piece is a sound as an engine gave it, without silence, with the part that is an added vowel.
type piece struct {
	samples []float64
	hertz   int
	sound   string // IPA of the target
	vowel   float64
	engine  string
}

func main() {
	log.SetFlags(0)
	out := flag.String("out", "/tmp/takes", "folder of the set")
	judgeIt := flag.Bool("judge", false, "judge the set instead of making it")
	all := flag.Bool("tune", false, "judge the other half, the one for tuning, and show each wrong verdict")
	fitIt := flag.Bool("fit", false, "fit the weights of a turn on the sources for tuning and print them")
	praat := flag.Bool("reference", false, "write what Praat measures in the demo's takes")
	flag.Parse()
	if *praat {
		if err := reference("demo/takes", "internal/core/recording/testdata/praat.tsv"); err != nil {
			log.Fatal(err)
		}
		return
	}
	var err error
	switch {
	case *fitIt:
		err = fit(*out)
	case *judgeIt:
		err = judge(*out, *all)
	default:
		err = makeSet(*out)
	}
	if err != nil {
		log.Fatal(err)
	}
}

func makeSet(dir string) error {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	var pieces []piece
	pieces = append(pieces, synthetic()...)
	for _, engine := range []func() ([]piece, error){festival, flite, espeak} {
		made, err := engine()
		if err != nil {
			return err
		}
		pieces = append(pieces, made...)
	}
	others, err := shifted(pieces)
	if err != nil {
		return err
	}
	pieces = append(pieces, others...)
	var labels strings.Builder
	labels.WriteString("file\tsound\tkind\tengine\tstart_ms\tend_ms\tvowel_ms\tsnr_db\troom\n")
	n := 0
	put := func(l label, samples []float64, hertz int) error {
		n++
		l.file = fmt.Sprintf("%04d-%s.wav", n, l.kind)
		fmt.Fprintf(
			&labels,
			"%s\t%s\t%s\t%s\t%.0f\t%.0f\t%.0f\t%.1f\t%s\n",
			l.file,
			l.sound,
			l.kind,
			l.engine,
			l.startMs,
			l.endMs,
			l.vowelMs,
			l.snrDB,
			l.room,
		)
		return os.WriteFile(
			filepath.Join(dir, l.file),
			media.EncodeWAV(recording.Clip{Samples: samples, Hertz: hertz}),
			0o644,
		)
	}
	for i, p := range pieces {
		rng := rand.New(rand.NewPCG(uint64(i), 7))
		more, err := further(p, i)
		if err != nil {
			return err
		}
		for _, take := range append(takesOf(p, rng), more...) {
			if err := put(take.label, take.samples, take.hertz); err != nil {
				return err
			}
		}
	}
	if err := verify(dir, &labels); err != nil {
		return err
	}
	log.Printf("%d takes of %d pieces in %s", n, len(pieces), dir)
	return os.WriteFile(filepath.Join(dir, "labels.tsv"), []byte(labels.String()), 0o644)
}

// kept are the sources that nothing was tuned on: whole engines and whole speakers.
var kept = map[string]bool{
	"formants-8": true, "formants-9": true, "formants-10": true, "formants-11": true, "festival-ked": true,
	"festival-fi-mv": true, "festival-it-lp": true, "flite-awb": true, "espeak-f1": true, "espeak-m1": true,
	"espeak-klatt2": true, "espeak-f5": true,
}

// heldBack tells whether a source is kept for the figures.
func heldBack(source string) bool { return kept[strings.TrimSuffix(source, shift)] }
