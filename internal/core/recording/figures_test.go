package recording_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/recording"
)

// bit is a stretch of a made-up mouth: a voice and a breath of so much, through resonances at three frequencies.
type bit struct {
	seconds, voice, breath float64
	at                     [3]float64 // Hz
}

// mouth says bits after 300 ms of the room, and keeps still as long.
type mouth struct {
	f0, noise, level float64
	hertz            int
	bits             []bit
}

func (m mouth) clip() recording.Clip {
	rng := rand.New(rand.NewPCG(3, 9))
	rate := float64(m.hertz)
	c := recording.Clip{Hertz: m.hertz}
	rest := func() {
		for range int(0.3 * rate) {
			c.Samples = append(c.Samples, m.noise*rng.NormFloat64())
		}
	}
	rest()
	var state [3][2]float64
	phase, last := 0.0, 0.0
	for i, b := range m.bits {
		n := int(b.seconds * rate)
		for k := range n {
			edge := 1.0
			if i == 0 {
				edge = min(1, float64(k)/(0.008*rate))
			}
			if i == len(m.bits)-1 {
				edge = min(edge, float64(n-k)/(0.02*rate))
			}
			phase += m.f0 / rate
			pulse := b.breath * rng.NormFloat64()
			if phase >= 1 {
				phase--
				pulse += b.voice * 60 * rate / 44_100
			}
			v := 0.0
			for f, hz := range b.at { // three resonances beside each other
				w := 2 * math.Pi * min(hz, 0.46*rate) / rate
				r := math.Exp(-math.Pi * (60 + hz/20) / rate)
				y := (1-r)*pulse + 2*r*math.Cos(w)*state[f][0] - r*r*state[f][1]
				state[f][0], state[f][1] = y, state[f][0]
				v += y / float64(f+1)
			}
			v, last = v-0.6*last, v
			c.Samples = append(c.Samples, m.level*edge*v+m.noise*rng.NormFloat64())
		}
	}
	rest()
	return c
}

// said are how a rough mouth says each kind of sound.
var said = []struct {
	sound string
	bits  []bit
}{
	{"m", []bit{{0.45, 0.3, 0, [3]float64{240, 1000, 2200}}}},
	{"n", []bit{{0.35, 0.3, 0, [3]float64{260, 1500, 2500}}}},
	{"l", []bit{{0.4, 0.3, 0, [3]float64{360, 1300, 2700}}}},
	{"r", []bit{{0.3, 0.3, 0, [3]float64{330, 1100, 1500}}}},
	{"w", []bit{{0.2, 0.3, 0, [3]float64{300, 700, 2200}}}},
	{"v", []bit{{0.4, 0.2, 0.05, [3]float64{250, 1200, 3500}}}},
	{"z", []bit{{0.4, 0.15, 0.3, [3]float64{250, 5200, 6800}}}},
	{"ð", []bit{{0.3, 0.2, 0.1, [3]float64{280, 1400, 4000}}}},
	{"s", []bit{{0.5, 0, 0.6, [3]float64{4800, 5600, 7000}}}},
	{"f", []bit{{0.4, 0, 0.4, [3]float64{1800, 3600, 6500}}}},
	{"ʃ", []bit{{0.5, 0, 0.6, [3]float64{2400, 3000, 4200}}}},
	{"θ", []bit{{0.3, 0, 0.4, [3]float64{1600, 4200, 7200}}}},
	{"h", []bit{{0.25, 0, 0.4, [3]float64{700, 1400, 2600}}}},
	{"p", []bit{{0.01, 0, 1.2, [3]float64{700, 1300, 2500}}, {0.05, 0, 0.2, [3]float64{700, 1300, 2500}}}},
	{"t", []bit{{0.01, 0, 1.4, [3]float64{3400, 4600, 6200}}, {0.07, 0, 0.3, [3]float64{2600, 4600, 6200}}}},
	{"k", []bit{{0.015, 0, 1.4, [3]float64{1500, 2400, 4000}}, {0.06, 0, 0.3, [3]float64{1500, 2400, 4000}}}},
	{"tʃ", []bit{{0.01, 0, 1.4, [3]float64{2600, 3400, 4800}}, {0.14, 0, 0.5, [3]float64{2600, 3400, 4800}}}},
	{"ks", []bit{{0.015, 0, 1.2, [3]float64{1500, 2400, 4000}}, {0.3, 0, 0.5, [3]float64{4800, 5600, 7000}}}},
	{"b", []bit{{0.08, 0.1, 0, [3]float64{220, 700, 2000}}, {0.03, 0.3, 0.4, [3]float64{400, 1000, 2200}}}},
	{"d", []bit{{0.07, 0.1, 0, [3]float64{220, 900, 2300}}, {0.03, 0.3, 0.5, [3]float64{380, 1700, 3800}}}},
	{"ɡ", []bit{{0.06, 0.1, 0, [3]float64{220, 900, 2300}}, {0.03, 0.3, 0.5, [3]float64{350, 1900, 2600}}}},
	{"dʒ", []bit{{0.06, 0.1, 0, [3]float64{220, 900, 2300}}, {0.1, 0.2, 0.5, [3]float64{300, 2700, 3600}}}},
	{"kw", []bit{{0.02, 0, 1.2, [3]float64{900, 1500, 2500}}, {0.12, 0.3, 0.05, [3]float64{320, 700, 2200}}}},
	{"iː", []bit{{0.4, 0.3, 0, [3]float64{290, 2350, 3000}}}},
	{"ɪ", []bit{{0.3, 0.3, 0, [3]float64{400, 2050, 2700}}}},
	{"e", []bit{{0.3, 0.3, 0, [3]float64{560, 1900, 2600}}}},
	{"æ", []bit{{0.35, 0.3, 0, [3]float64{720, 1720, 2500}}}},
	{"ʌ", []bit{{0.3, 0.3, 0, [3]float64{680, 1250, 2500}}}},
	{"ɒ", []bit{{0.3, 0.3, 0, [3]float64{610, 930, 2500}}}},
	{"ɔː", []bit{{0.4, 0.3, 0, [3]float64{480, 830, 2400}}}},
	{"uː", []bit{{0.4, 0.3, 0, [3]float64{320, 1000, 2300}}}},
	{"ɜː", []bit{{0.4, 0.3, 0, [3]float64{500, 1450, 2500}}}},
	{"eɪ", []bit{{0.2, 0.3, 0, [3]float64{520, 1900, 2600}}, {0.2, 0.3, 0, [3]float64{380, 2200, 2800}}}},
	{"aɪ", []bit{{0.2, 0.3, 0, [3]float64{740, 1350, 2500}}, {0.2, 0.3, 0, [3]float64{400, 2050, 2700}}}},
	{"əʊ", []bit{{0.2, 0.3, 0, [3]float64{500, 1400, 2500}}, {0.2, 0.3, 0, [3]float64{400, 1000, 2400}}}},
	{"ɔɪ", []bit{{0.2, 0.3, 0, [3]float64{540, 880, 2400}}, {0.2, 0.3, 0, [3]float64{400, 2000, 2700}}}},
}

// The slip that matters most in a class: "muh" for m. After every consonant of a rough mouth a vowel of an eighth of a
// second is heard, whatever the voice and the rate.
func TestAnAddedVowelIsHeardAfterEveryConsonant(t *testing.T) {
	added := func(take recording.Clip, text string) bool {
		return slices.Contains(codes(recording.Judge(take, sound(text))), "added-vowel")
	}
	for i, s := range said {
		if c := sound(s.sound).Class; c == recording.Vowel || c == recording.Glide {
			continue
		}
		for k, f0 := range []float64{118, 172, 210} {
			m := mouth{
				f0: f0, noise: 0.0003, level: 0.5, hertz: []int{16_000, 22_050, 44_100}[(i+k)%3], bits: slices.Clone(s.bits),
			}
			if !slices.Contains([]string{"b", "d", "ɡ", "dʒ"}, s.sound) { // this mouth lets them go into a short vowel
				assert.False(t, added(m.clip(), s.sound), "%s, %v Hz", s.sound, f0)
			}
			m.bits = append(m.bits, uh(0.125, 0.3))
			assert.True(t, added(m.clip(), s.sound), "%s and uh, %v Hz", s.sound, f0)
		}
	}
}

// figures writes a report's numbers on a few lines, to five digits.
func figures(v any) string {
	var out strings.Builder
	var write func(name string, v reflect.Value)
	write = func(name string, v reflect.Value) {
		switch v.Kind() {
		case reflect.Struct:
			for i := range v.NumField() {
				write(v.Type().Field(i).Name, v.Field(i))
			}
		case reflect.Slice:
			for i := range v.Len() {
				write("\n ", v.Index(i))
			}
		case reflect.Float64:
			if v.Float() != 0 {
				fmt.Fprintf(&out, " %s=%.5g", name, v.Float())
			}
		case reflect.String:
			if v.Len() > 0 && name != "Advice" && name != "Message" {
				fmt.Fprintf(&out, " %s", v)
			}
		default:
			if !v.IsZero() {
				fmt.Fprintf(&out, " %s=%v", name, v)
			}
		}
	}
	write("", reflect.ValueOf(v))
	return out.String()
}

// uh is the vowel that is added, with so much voice.
func uh(seconds, voice float64) bit { return bit{seconds, voice, 0, [3]float64{520, 1450, 2500}} }

// Rooms by their figures.
func TestWhatIsHeardOfARoom(t *testing.T) {
	var out strings.Builder
	say := func(name string, c checked) {
		fmt.Fprintf(&out, "== %s\n%s\n", name, figures(recording.Room(c.clip())))
	}
	for _, noise := range []float64{0.0002, 0.0015, 0.004, 0.012} {
		for _, echo := range []float64{0, 0.35, 0.7} {
			say(fmt.Sprintf("noise %v, echo %v", noise, echo), checked{noise: noise, echo: echo, hertz: 16_000})
		}
	}
	for _, gain := range []float64{0.01, 0.05, 0.2, 2, 3.6, 8} {
		say(fmt.Sprint("gain ", gain), checked{noise: 0.0004, hertz: 22_050, change: func(s []float64, _ int) {
			for i := range s {
				s[i] = max(-1, min(1, s[i]*gain))
			}
		}})
	}
	for _, hz := range []float64{50, 60} {
		say(fmt.Sprint("mains of ", hz), checked{noise: 0.0004, hertz: 16_000, change: func(s []float64, hertz int) {
			for i := range s {
				s[i] += 0.003 * math.Sin(2*math.Pi*hz*float64(i)/float64(hertz))
			}
		}})
	}
	for _, passes := range []int{2, 6} {
		say(fmt.Sprint("dull ", passes), checked{noise: 0.0003, hertz: 44_100, change: func(s []float64, _ int) {
			for range passes {
				for i := 1; i < len(s); i++ {
					s[i] = 0.4*s[i] + 0.6*s[i-1]
				}
			}
		}})
	}
	for _, rate := range []int{8000, 11_025} {
		say(fmt.Sprint("rate ", rate), checked{noise: 0.0004, hertz: rate})
	}
	say("a gain that falls", checked{noise: 0.001, hertz: 16_000, change: func(s []float64, hertz int) {
		for i := range s {
			if t := float64(i)/float64(hertz) - 2; t > 0 {
				s[i] *= 1 - 0.85*math.Exp(-max(0, t-0.4)/0.6)
			}
		}
	}})
	say("noise that comes and goes", checked{noise: 0.002, hertz: 16_000, change: func(s []float64, hertz int) {
		for i := range hertz * 19 / 10 {
			s[i] *= 1 + 0.9*math.Sin(2*math.Pi*float64(i)/float64(hertz))
		}
	}})
	say("no word", checked{noise: 0.001, hertz: 16_000, change: func(s []float64, hertz int) {
		copy(s[2*hertz:], s[:2*hertz])
	}})
	say("too early", checked{noise: 0.0004, hertz: 16_000, change: func(s []float64, hertz int) {
		copy(s[hertz/2:], s[19*hertz/10:5*hertz/2])
	}})
	goldie.New(t).Assert(t, "rooms", []byte(out.String()))
}

// What resampling and loudness give of a chirp, sample by sample.
func TestWhatIsResampled(t *testing.T) {
	var out strings.Builder
	for _, rates := range [][2]int{{44_100, 16_000}, {16_000, 4000}, {8000, 16_000}, {16_000, 11_000}, {44_099, 16_000}} {
		in := make([]float64, rates[0]/10)
		for i := range in {
			x := float64(i) / float64(rates[0])
			in[i] = math.Sin(2 * math.Pi * (200 + 9000*x) * x)
		}
		got := recording.Resample(in, rates[0], rates[1])
		fmt.Fprintf(&out, "%v to %d:", rates, len(got))
		for i := 0; i < len(got); i += 37 {
			fmt.Fprintf(&out, " %.6f", got[i])
		}
		for _, n := range []int{len(in) / 3, len(in)} {
			lufs, gated := recording.Loudness(slices.Repeat(in[:n], 9), rates[0])
			fmt.Fprintf(&out, " %.5g %v", lufs, gated)
		}
		fmt.Fprintln(&out)
	}
	goldie.New(t).Assert(t, "resampled", []byte(out.String()))
}
