package main

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"

	"brightchalk/internal/media"
)

// Names of the sounds in the phone set of festival's American diphones and of flite.
var radio = map[string]string{
	"m":  "m",
	"n":  "n",
	"ŋ":  "ng",
	"l":  "l",
	"r":  "r",
	"w":  "w",
	"j":  "y",
	"v":  "v",
	"z":  "z",
	"ð":  "dh",
	"ʒ":  "zh",
	"f":  "f",
	"s":  "s",
	"ʃ":  "sh",
	"θ":  "th",
	"h":  "hh",
	"p":  "p",
	"t":  "t",
	"k":  "k",
	"tʃ": "ch",
	"b":  "b",
	"d":  "d",
	"ɡ":  "g",
	"dʒ": "jh",
	"iː": "iy",
	"ɪ":  "ih",
	"e":  "eh",
	"æ":  "ae",
	"ʌ":  "ah",
	"ɑː": "aa",
	"ɔː": "ao",
	"ʊ":  "uh",
	"uː": "uw",
	"ɜː": "er",
	"eɪ": "ey",
	"aɪ": "ay",
	"ɔɪ": "oy",
	"aʊ": "aw",
	"əʊ": "ow",
}

func isShort(s string) bool { return strings.Contains(" p t k tʃ b d ɡ dʒ h ", " "+s+" ") }

func readWAV(path string) ([]float64, int, error) {
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, 0, err
	}
	c, err := media.DecodeSound(data)
	return c.Samples, c.Hertz, err
}

func cut(in []float64, hertz int, from, to float64) []float64 {
	a, b := max(0, int(from*float64(hertz))), min(len(in), int(to*float64(hertz)))
	if a >= b {
		return nil
	}
	return append([]float64{}, in[a:b]...)
}

// festivalVoice is a diphone voice of a recorded speaker, with the names of the sounds that it has. Those of other
// languages lend the sounds that English has too; their r is another.
type festivalVoice struct {
	name, source, pause string
	phones              map[string]string
	vowels              []string // to be added
}

var (
	finnish = same(
		"m n l v s h j p t k d",
		map[string]string{"b": "b", "ɡ": "g", "iː": "i:", "e": "e", "ɑː": "a:", "uː": "u:"},
	)
	italian = same("m n l v z s f p t k b d w j", map[string]string{
		"ɡ": "g", "ʃ": "S", "tʃ": "tS", "dʒ": "dZ", "iː": "i1", "e": "E1", "ɔː": "O1", "uː": "u1",
	})
	festivalVoices = []festivalVoice{
		{"kal_diphone", "festival-kal", "pau", radio, []string{"ax", "ah", "eh"}},
		{"ked_diphone", "festival-ked", "pau", radio, []string{"ax", "ax", "ah"}},
		{"suo_fi_lj_diphone", "festival-fi-lj", "#", finnish, []string{"7", "e", "a"}},
		{"hy_fi_mv_diphone", "festival-fi-mv", "#", finnish, []string{"7", "e", "a"}},
		{"pc_diphone", "festival-it-pc", "#", italian, []string{"a", "E", "e"}},
		{"lp_diphone", "festival-it-lp", "#", italian, []string{"a", "E", "e"}},
	}
)

func same(names string, others map[string]string) map[string]string {
	for _, n := range strings.Fields(names) {
		others[n] = n
	}
	return others
}

// festival renders with diphone voices; durations are as asked for.
func festival() ([]piece, error) {
	dir, err := os.MkdirTemp("", "festival")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	type job struct {
		piece
		file        string
		from, until float64
	}
	var jobs []job
	var script strings.Builder
	for _, voice := range festivalVoices {
		fmt.Fprintf(&script, "(voice_%s)\n", voice.name)
		for n, sound := range allSounds {
			name, ok := voice.phones[sound]
			if !ok {
				continue
			}
			hold := 0.45
			if isShort(sound) {
				hold = 0.12
			} else if isVowel(sound) {
				hold = 0.3
			}
			for k, v := range []float64{0, 0.06, 0.12, 0.2, 0.3} {
				if v > 0 && isVowel(sound) {
					continue
				}
				j := job{
					piece{nil, 0, sound, v, voice.source},
					filepath.Join(dir, fmt.Sprintf("%d.wav", len(jobs))),
					0.25,
					0.25 + hold + v,
				}
				vowel := ""
				if v > 0 {
					vowel = fmt.Sprintf("(%s %.2f (0 108))", voice.vowels[(n+k)%len(voice.vowels)], v)
				}
				fmt.Fprintf(
					&script,
					"(set! u (utt.synth (Utterance Segments ((%[1]s .25 (0 115)) (%[2]s %.2[3]f (0 115)) %[4]s (%[1]s "+
						".3)))))\n(utt.save.wave u %[5]q 'riff)\n",
					voice.pause,
					name,
					hold,
					vowel,
					j.file,
				)
				jobs = append(jobs, j)
			}
		}
	}
	file := filepath.Join(dir, "all.scm")
	if err := os.WriteFile(file, []byte(script.String()), 0o600); err != nil {
		return nil, err
	}
	if out, err := exec.Command("festival", "-b", file).CombinedOutput(); err != nil {
		return nil, fmt.Errorf("festival: %w: %s", err, out)
	}
	var made []piece
	for _, j := range jobs {
		if j.samples, j.hertz, err = readWAV(j.file); err != nil {
			return nil, err
		}
		// The whole sound, as far as the engine goes beyond what was asked for.
		j.samples = cut(j.samples, j.hertz, 0.15, j.until+0.12)
		made = append(made, j.piece)
	}
	return made, nil
}

// flite renders with three voices of recorded speakers; the ends of the phones are as it prints them. Its lone
// stops and glides carry pieces of vowels and are left out.
func flite() ([]piece, error) {
	dir, err := os.MkdirTemp("", "flite")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	file := filepath.Join(dir, "o.wav")
	var made []piece
	for _, voice := range []string{"slt", "rms", "awb"} {
		for _, sound := range allSounds {
			name, ok := radio[sound]
			if !ok || strings.Contains(" ʒ j w r p t k b d ɡ tʃ dʒ h ", " "+sound+" ") {
				continue
			}
			for _, vowel := range []bool{false, true} {
				if vowel && isVowel(sound) {
					continue
				}
				phones := "pau " + name + " pau"
				if vowel {
					phones = "pau " + name + " ax pau"
				}
				out, err := exec.Command("flite", "-voice", voice, "--setf", "duration_stretch=2.2", "-psdur", "-p", phones,
					"-o", file).
					Output()
				if err != nil {
					return nil, fmt.Errorf("flite: %w", err)
				}
				var ends []float64
				for _, f := range strings.Fields(string(out)) {
					_, at, _ := strings.Cut(f, ":")
					end, _ := strconv.ParseFloat(at, 64)
					ends = append(ends, end)
				}
				p := piece{sound: sound, engine: "flite-" + voice}
				var whole []float64
				if whole, p.hertz, err = readWAV(file); err != nil {
					return nil, err
				}
				last := ends[len(ends)-2]
				if vowel {
					p.vowel = ends[2] - ends[1]
				}
				p.samples = cut(whole, p.hertz, ends[0]-0.03, last+0.05)
				made = append(made, p)
			}
		}
	}
	return made, nil
}

// Names of the sounds in espeak-ng's phoneme mnemonics.
var mnemonic = map[string]string{
	"m":  "m",
	"n":  "n",
	"ŋ":  "N",
	"l":  "l",
	"r":  "r",
	"w":  "w",
	"j":  "j",
	"v":  "v",
	"z":  "z",
	"ð":  "D",
	"ʒ":  "Z",
	"f":  "f",
	"s":  "s",
	"ʃ":  "S",
	"θ":  "T",
	"h":  "h",
	"p":  "p",
	"t":  "t",
	"k":  "k",
	"iː": "i:",
	"ɪ":  "I",
	"e":  "E",
	"æ":  "a",
	"ʌ":  "V",
	"ɑː": "A:",
	"ɒ":  "0",
	"ɔː": "O:",
	"ʊ":  "U",
	"uː": "u:",
	"ɜː": "3:",
	"eɪ": "eI",
	"aɪ": "aI",
	"ɔɪ": "OI",
	"aʊ": "aU",
	"əʊ": "oU",
}

// espeak renders with four voices of a formant synthesiser. Hums are cut from the middle of a long one;
// friction is made longer by laying copies over one another. The added vowel is laid on with a cross-fade, so
// that its length is known.
func espeak() ([]piece, error) {
	var made []piece
	for _, voice := range []string{
		"en-gb+f2", "en-gb+m3", "en-gb+f4", "en-gb+m7", "en-gb+f1", "en-gb+m1", "en-gb+klatt2", "en-gb+f5",
	} {
		source := "espeak-" + strings.TrimPrefix(voice, "en-gb+")
		speak := func(phonemes string) ([]float64, int, error) {
			wav, err := exec.Command("espeak-ng", "-v", voice, "-s", "100", "--stdout", "[["+phonemes+"]]").Output()
			if err != nil {
				return nil, 0, fmt.Errorf("espeak-ng: %w", err)
			}
			c, err := media.DecodeSound(fixSizes(wav))
			return active(c.Samples, 0.02), c.Hertz, err
		}
		uh, hertz, err := speak("@@@")
		if err != nil {
			return nil, err
		}
		uh = middle(uh, hertz, 0.2)
		for _, sound := range allSounds {
			name, ok := mnemonic[sound]
			if !ok {
				continue
			}
			var base []float64
			switch {
			case isVowel(sound):
				base, _, err = speak(name)
			case voiceLevel[sound] > 0:
				base, _, err = speak("@" + strings.Repeat(name+":", 6) + "@")
				base = middle(base, hertz, 0.4)
			case isShort(sound) && sound != "h":
				base, _, err = speak(name)
				base = base[:min(len(base), hertz*45/1000)]
			default:
				base, _, err = speak(name)
				base = lengthen(middle(base, hertz, 0.09), hertz, map[bool]float64{true: 0.2, false: 0.5}[sound == "h"])
			}
			if err != nil {
				return nil, err
			}
			soft := func(in []float64) []float64 {
				out := append([]float64{}, in...)
				rise, fall := 0.03, 0.05
				if isShort(sound) && sound != "h" {
					rise, fall = 0.001, 0.02
				}
				for i := range out {
					out[i] *= min(1, float64(i+1)/(rise*float64(hertz)), float64(len(out)-i)/(fall*float64(hertz)))
				}
				return out
			}
			made = append(made, piece{soft(base), hertz, sound, 0, source})
			if isVowel(sound) {
				continue
			}
			for _, v := range []float64{0.06, 0.12, 0.2} {
				n := int(v * float64(hertz))
				out := append([]float64{}, base...)
				over := min(hertz*25/1000, len(out)/2)
				for i := range n {
					g := min(1, float64(i)/float64(over), float64(n-i)/(0.02*float64(hertz)))
					at := len(base) - over + i
					if at < len(out) {
						out[at] = out[at]*(1-float64(i)/float64(over)) + uh[i%len(uh)]*g
					} else {
						out = append(out, uh[i%len(uh)]*g)
					}
				}
				made = append(made, piece{out, hertz, sound, v, source})
			}
		}
	}
	return made, nil
}

// fixSizes mends the header of a WAV that was written to a pipe.
func fixSizes(wav []byte) []byte {
	if at := bytes.Index(wav, []byte("data")); at > 0 && len(wav) > at+8 {
		n := uint32(len(wav) - at - 8)
		copy(wav[at+4:], []byte{byte(n), byte(n >> 8), byte(n >> 16), byte(n >> 24)})
	}
	return wav
}

func active(in []float64, share float64) []float64 {
	peak := 0.0
	for _, v := range in {
		peak = max(peak, v, -v)
	}
	from, to := 0, len(in)
	for from < to && max(in[from], -in[from]) < share*peak {
		from++
	}
	for to > from && max(in[to-1], -in[to-1]) < share*peak {
		to--
	}
	return in[from:to]
}

func middle(in []float64, hertz int, seconds float64) []float64 {
	n := min(len(in), int(seconds*float64(hertz)))
	at := (len(in) - n) / 2
	return append([]float64{}, in[at:at+n]...)
}

func lengthen(in []float64, hertz int, seconds float64) []float64 {
	n, half := int(seconds*float64(hertz)), len(in)/2
	out := make([]float64, n+2*len(in))
	for start := 0; start < n+half; start += half {
		for i, v := range in {
			out[start+i] += v * float64(min(i, len(in)-i)) / float64(half)
		}
	}
	return out[half : half+n]
}
