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

func class(sound string) string {
	s, _ := phoneme.Lookup(phoneme.SouthernBritish, phoneme.Phoneme(sound))
	switch {
	case s.VowelKind != phoneme.NoVowel:
		return "vowels"
	case !s.Stretchable && s.Voiced:
		return "short voiced"
	case !s.Stretchable:
		return "short voiceless"
	case s.Voiced:
		return "stretchable voiced"
	}
	return "voiceless friction"
}

type tally struct{ good, all int }

func (t tally) String() string {
	if t.all == 0 {
		return "-"
	}
	return fmt.Sprintf("%d/%d (%.0f %%)", t.good, t.all, 100*float64(t.good)/float64(t.all))
}

func judge(dir string, all bool) error {
	data, err := os.ReadFile(filepath.Join(dir, "labels.tsv"))
	if err != nil {
		return err
	}
	table := map[string]*tally{}
	count := func(row string, good bool) {
		if table[row] == nil {
			table[row] = &tally{}
		}
		table[row].all++
		if good {
			table[row].good++
		}
	}
	for line := range strings.Lines(string(data)) {
		f := strings.Split(strings.TrimSpace(line), "\t")
		if f[0] == "file" || f[10] == "doubtful" || all == heldBack(f[3]) {
			continue
		}
		number := func(i int) float64 { v, _ := strconv.ParseFloat(f[i], 64); return v }
		wav, err := os.ReadFile(filepath.Join(dir, f[0]))
		if err != nil {
			return err
		}
		clip, err := media.DecodeSound(wav)
		if err != nil {
			return err
		}
		target, _ := recording.TargetOf(phoneme.SouthernBritish, f[1])
		r := recording.Judge(clip, target)
		var codes []string
		for _, x := range r.Findings {
			codes = append(codes, x.Code)
		}
		for _, x := range r.Findings {
			if x.Code == "added-vowel" && (f[2] == "pure" || f[2] == "added") {
				count(
					fmt.Sprintf("said to be %.1f sure of an added vowel, and it is there", math.Floor(x.Sure*10)/10),
					f[2] == "added",
				)
			}
		}
		has := func(code string) bool { return slices.Contains(codes, code) }
		c := class(f[1])
		good := true
		switch f[2] {
		case "pure":
			good = r.Verdict == recording.Pure
			count("room "+f[8]+": pure passes", good)
			count("pure passes: "+c, good)
			count("no false added vowel", !has("added-vowel"))
			count("no false voicing", !has("voicing"))
			count("no false not-this-sound", !has("not-this-sound"))
			if snr := number(7); snr <= 40 {
				count("signal-to-noise within 3 dB, up to 40 dB", math.Abs(r.SNRDecibels-snr) <= 3)
				if all && math.Abs(r.SNRDecibels-snr) > 3 {
					fmt.Println("SNR", f[0], f[1], f[3], snr, math.Round(r.SNRDecibels))
				}
			}
			if ref := number(9); ref > 0 && r.F0Hertz > 0 {
				count("f0 within 5 % of Praat", math.Abs(r.F0Hertz-ref) <= 0.05*ref)
				if all && math.Abs(r.F0Hertz-ref) > 0.05*ref {
					fmt.Println("F0", f[0], f[1], f[3], ref, math.Round(r.F0Hertz))
				}
			}
			if strings.HasPrefix(f[3], "formants") {
				count("trim within 15 ms at the start (own synthesiser)", math.Abs(float64(r.Trim.StartMs)-number(4)) <= 15)
			}
		case "added":
			good = has("added-vowel")
			row := "added vowel of 120 ms and more: " + c
			if number(6) < 100 {
				row = "added vowel of 60 ms: " + c
			}
			count(row, good)
			if number(6) >= 100 {
				count("room "+f[8]+": added vowel of 120 ms and more", good)
			}
		case "several":
			good = has("several-takes")
			count("several takes", good)
		case "narrow":
			good = has("narrow-band")
			count("telephone band", good)
		default:
			good = has(f[2])
			count(f[2], good)
		}
		if all && !good {
			fmt.Println(
				f[0],
				f[1],
				f[2],
				f[3]+"/"+f[8],
				"vowel",
				f[6],
				"->",
				r.Verdict,
				codes,
				"snr",
				math.Round(r.SNRDecibels),
				"voiced",
				math.Round(r.VoicedFraction*100),
				"added",
				r.AddedVowelMs,
				"turn",
				math.Round(r.Measures.TurnScore*10)/10,
				"bark",
				math.Round(r.Measures.VowelBark*10)/10,
				math.Round(r.Measures.F1Hertz),
				math.Round(r.Measures.F2Hertz),
				math.Round(r.F0Hertz),
				"cliff",
				math.Round(r.Measures.CliffDB),
				math.Round(r.Measures.NoiseCliffDB),
				"hum",
				math.Round(r.Measures.MainsHumDB),
			)
		}
		// The same take held against another sound.
		if f[2] == "pure" {
			for wrong, kind := range otherTargets(f[1]) {
				t, _ := recording.TargetOf(phoneme.SouthernBritish, wrong)
				o := recording.Judge(clip, t)
				found := slices.ContainsFunc(
					o.Findings,
					func(x recording.Finding) bool { return x.Code == "voicing" || x.Code == "not-this-sound" },
				)
				count(kind, found)
				if all && !found {
					fmt.Println(
						f[0],
						f[1],
						"as",
						wrong,
						f[3],
						kind,
						"voiced",
						math.Round(o.VoicedFraction*100),
						"bark",
						math.Round(o.Measures.VowelBark*10)/10,
					)
				}
			}
		}
	}
	for _, row := range slices.Sorted(func(yield func(string) bool) {
		for k := range table {
			if !yield(k) {
				return
			}
		}
	}) {
		fmt.Printf("%-60s %s\n", row, table[row])
	}
	return nil
}

// otherTargets are sounds that a take of a sound must not pass for: its partner in voicing, a far vowel.
func otherTargets(sound string) map[string]string {
	switch sound {
	case "s":
		return map[string]string{"z": "wrong voicing of friction"}
	case "z":
		return map[string]string{"s": "wrong voicing of friction"}
	case "f":
		return map[string]string{"v": "wrong voicing of friction"}
	case "v":
		return map[string]string{"f": "wrong voicing of friction"}
	case "ʃ":
		return map[string]string{"ʒ": "wrong voicing of friction"}
	case "θ":
		return map[string]string{"ð": "wrong voicing of friction"}
	case "ð":
		return map[string]string{"θ": "wrong voicing of friction"}
	case "iː":
		return map[string]string{"ɑː": "far vowel", "ɔː": "far vowel", "æ": "far vowel"}
	case "ɪ":
		return map[string]string{"ɑː": "far vowel", "ɔː": "far vowel"}
	case "e":
		return map[string]string{"uː": "far vowel", "ɔː": "far vowel"}
	case "æ":
		return map[string]string{"iː": "far vowel", "uː": "far vowel"}
	case "ɑː", "ɒ":
		return map[string]string{"iː": "far vowel", "ɪ": "far vowel"}
	case "ɔː":
		return map[string]string{"iː": "far vowel", "e": "far vowel", "æ": "far vowel"}
	case "uː":
		return map[string]string{"æ": "far vowel", "ɑː": "far vowel"}
	}
	return nil
}
